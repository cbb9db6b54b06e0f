"""Days of the latest designs, and what comes of failures in them."""

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

from mitten.core.design import Control, Design
from mitten.core.judge import read_condition
from mitten.core.judge.days import (
    Through,
    of_season,
    read_failure,
    room_of_hours,
)
from mitten.core.judge.outcomes import Outcome, outcome_of
from mitten.core.judge.settling import settling_minutes
from mitten.core.physics.reading.traced import Course
from mitten.core.plan.aiming import Aim
from mitten.core.plan.comparing_probes import ProbeTrial, ProbeTrials
from mitten.web.assessments import Assessments
from mitten.web.kept import LatestCache

KEPT_DAYS, KEPT_OUTCOMES, KEPT_COURSES = 3, 12, 3
Room = tuple[float, ...]
"""A room of one's own by temperatures at even hours; empty where it is the season's."""


class Days:
    """Days of the latest designs with one catalogue. Only one is worked out at a time: they are long, edits are not."""

    def __init__(self, assessments: Assessments) -> None:
        self._assessments = assessments
        self._days: LatestCache[tuple[Design, str, Room], tuple[Through, Course]] = LatestCache(KEPT_DAYS)
        self._courses: LatestCache[tuple[Design, str, str], Outcome] = LatestCache(KEPT_COURSES)
        self._probes: LatestCache[tuple[Design, str], tuple[Aim | None, tuple[ProbeTrial, ...]]] = LatestCache(
            KEPT_OUTCOMES
        )
        self._lock = Lock()

    def probes(self, design: Design, control: Control) -> tuple[Aim | None, tuple[ProbeTrial, ...]]:
        """What a thermostat is for, and its probe at every place that has a name.

        Raises:
            UnsolvedError: the design finds no rest with the basking place at its target.
        """
        known = self._probes.get((design, control.name))
        if known is not None:
            return known
        with self._alone():
            trials = ProbeTrials(self._assessments.of(design), control)
            return self._probes.put((design, control.name), (trials.aim, tuple(trials.all())))

    @contextmanager
    def _alone(self) -> Iterator[None]:
        with self._lock:
            yield

    def of(self, design: Design, season: str, room: Room = ()) -> Course:
        """The day of a season that repeats itself, or of a room of one's own.

        Raises:
            BadDesignError: there is no such season.
            UnsolvedError: the design finds no rest in it.
        """
        with self._alone():
            return self._day(design, season, room)[1]

    def _day(self, design: Design, season: str, room: Room = ()) -> tuple[Through, Course]:
        known = self._days.get((design, season, room))
        if known is not None:
            return known
        climates = None
        if f"{season}-day" in {condition.name for condition in self._assessments.of(design).solved}:
            day, night = (
                self._assessments.climate(design, read_condition(design, f"{season}-{time}"))
                for time in ("day", "night")
            )
            climates = (day, night) if day.state.prepared is night.state.prepared else None
        through = of_season(
            design, self._assessments.catalogue, season, room_of_hours(room) if room else None, climates
        )
        course = through.moving.repeating_day(through.happening)
        return self._days.put((design, season, room), (through, course))

    def settling(self, design: Design, season: str, kind: str) -> float | None:
        """Minutes after a change until it may be measured by day; None where a day and a half are not enough.

        Raises:
            BadDesignError: there is no such season.
            UnsolvedError: the design finds no rest in it.
        """
        condition = read_condition(design, f"{season}-day")
        with self._alone():
            return settling_minutes(design, self._assessments.catalogue, condition, kind)

    def failing(self, design: Design, season: str, text: str) -> Outcome:
        """What comes of one failure, with its course.

        Raises:
            BadDesignError: there is no such failure.
            UnsolvedError: the design finds no rest.
        """
        failure = read_failure(design, text)
        key = design, season, failure.text
        known = self._courses.get(key)
        if known is not None:
            return known
        with self._alone():
            through, day = self._day(design, season)
            return self._courses.put(key, outcome_of(through, day, failure))
