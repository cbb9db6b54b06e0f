"""What comes of every failure in every season, in figures alone: one at a time, by whoever has time for it."""

from collections import OrderedDict
from collections.abc import Iterator
from dataclasses import dataclass
from threading import local

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.judge.days import SEASONS, Failure, Through, failures_of, of_season, read_failure
from mitten.core.judge.exposed import Harm
from mitten.core.judge.outcomes import Outcome, outcome_of
from mitten.core.physics.reading.traced import Course

KEPT_DAYS = 2


@dataclass(frozen=True)
class Outlook:
    """What comes of one failure in a season, without the course that it was read from."""

    season: str
    failure: Failure
    begins_min: float
    hottest_c: float
    hottest_where: str
    hottest_after_min: float
    coldest_c: float
    coldest_after_min: float
    body_c: float
    minutes_to_danger: tuple[tuple[str, float | None], ...]
    hours_to_cold: float | None
    has_a_cool_place: bool
    weight: tuple[float, float, float]
    """What comes first in a list of the worst."""

    harms: tuple[Harm, ...] = ()
    """What becomes dangerous or more than is tolerated, the soonest first of what was not so before."""

    standing: tuple[Harm, ...] = ()
    """What is dangerous before anything fails, by the hour of the day at which it begins."""

    @classmethod
    def of(cls, season: str, outcome: Outcome) -> "Outlook":
        """The figures of an outcome."""
        return cls(
            season, outcome.failure, outcome.begins_min, outcome.hottest.celsius, outcome.hottest.where,
            outcome.hottest.after_min, outcome.coldest.celsius, outcome.coldest.after_min,
            float(outcome.body_c.max()), tuple(outcome.minutes_to_danger.items()), outcome.hours_to_cold,
            outcome.has_a_cool_place, outcome.weight, outcome.harms, outcome.standing,
        )  # fmt: skip


def everything_that_fails(design: Design, first: str = SEASONS[0]) -> Iterator[tuple[str, Failure]]:
    """Every failure of every season, one season after the other."""
    for season in sorted(SEASONS, key=lambda one: (one != first, SEASONS.index(one))):
        for failure in failures_of(design, season):
            yield season, failure


def outlook(design: Design, catalogue: Catalogue, season: str, failure: str) -> Outlook:
    """Work out one failure; the day that it breaks into is kept for the next.

    Raises:
        BadDesignError: the design cannot have that failure.
        UnsolvedError: it finds no rest in that season.
    """
    through, day = _DAYS.of(design, catalogue, season)
    return Outlook.of(season, outcome_of(through, day, read_failure(design, failure)))


class _Days(local):
    """The latest repeating days of a thread that works."""

    def __init__(self) -> None:
        self._known: OrderedDict[tuple[Design, str], tuple[Catalogue, Through, Course]] = OrderedDict()

    def of(self, design: Design, catalogue: Catalogue, season: str) -> tuple[Through, Course]:
        """The day of a season, which repeats itself."""
        known = self._known.get((design, season))
        # Tasks of another process come with a copy of the catalogue each.
        if known is not None and (known[0] is catalogue or known[0] == catalogue):
            return known[1:]
        through = of_season(design, catalogue, season)
        course = through.moving.repeating_day(through.happening)
        self._known[design, season] = catalogue, through, course
        while len(self._known) > KEPT_DAYS:
            self._known.popitem(last=False)
        return through, course


_DAYS = _Days()
