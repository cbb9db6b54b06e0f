"""What comes of a failure: how hot and how cold it gets, how soon that is dangerous, and whether there is a way out."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from mitten.core.catalogue import Targets, targets_of
from mitten.core.judge.days import Failure, Through, fail_from
from mitten.core.judge.reach import footings
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.body import body_of, time_constant_s
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.transient.regulation import DAY_MIN, Clock

GOES_ON_MIN = 12 * 60
"""So long nobody sees what has failed."""

SAMPLED_MIN = (0, 5, 10, 20, 40, 60, 90, 120, 180, 240, 360, 480, 720)
"""Minutes after it at which the animal's body is worked out."""

COLD = ("stuck-off", "dead", "power-cut", "room-heating")
"""Failures whose danger is the cold: worst at the end of the lamps' day, with the night to come."""


@dataclass(frozen=True)
class Extreme:
    """The highest or lowest that something gets to in °C, where, and after how many minutes."""

    celsius: float
    where: str
    after_min: float


@dataclass(frozen=True, eq=False)
class Outcome:
    """What comes of one failure that begins at a minute of the day."""

    failure: Failure
    begins_min: float
    course: Course

    @cached_property
    def targets(self) -> Targets:
        """What the animal wants, bears and is harmed by."""
        design = self.course.design
        return targets_of(design.animal, self.course.catalogue.species[design.animal.species])

    @cached_property
    def surfaces_c(self) -> dict[str, Array]:
        """The hottest spot (T,) of everything that the animal can stand on, by name."""
        design, species = self.course.design, self.course.catalogue.species[self.course.design.animal.species]
        found = {
            footing.name: self.course.site_c(footing.site.name) if footing.site else self.course.floor_max_c
            for footing in footings(design, species)
        }
        # What is under the ground is reached by digging, as the rule book has it.
        return {**(found or {"the ground": self.course.floor_max_c}), "under the ground": self.course.base_max_c}

    @property
    def hottest(self) -> Extreme:
        """The hottest surface that it can touch."""
        return self._extreme(self.surfaces_c, highest=True)

    @property
    def coldest(self) -> Extreme:
        """The coldest air of the warm end: it has nowhere warmer to be."""
        return self._extreme({"the warm end's air": self.course.warm_c}, highest=False)

    def _extreme(self, figures: dict[str, Array], *, highest: bool) -> Extreme:
        pick = np.argmax if highest else np.argmin
        rows = {name: int(pick(values)) for name, values in figures.items()}
        best = (max if highest else min)(rows, key=lambda name: figures[name][rows[name]])
        return Extreme(float(figures[best][rows[best]]), best, float(rows[best]))

    @cached_property
    def body_c(self) -> Array:
        """The body (T,) of an animal that stays on its basking place."""
        course, minutes = self.course, self.course.minutes - self.course.minutes[0]
        rows = [minute for minute in SAMPLED_MIN if minute < len(minutes)]
        places = [course.climate_at(row).basking for row in rows]
        operative = np.interp(minutes, rows, [place.operative_c for place in places])
        body = body_of(course.catalogue.species[course.design.animal.species], course.design.animal.stage)
        follows = 1.0 - np.exp(-60.0 / time_constant_s(body, places[0].place))
        found, now_c = np.empty(len(minutes)), float(operative[0])
        for row, ends_c in enumerate(operative):
            now_c += follows * (ends_c - now_c)
            found[row] = now_c
        return found

    @cached_property
    def minutes_to_danger(self) -> dict[str, float | None]:
        """Minutes until a danger is reached, by what is in danger; None where it never is."""
        contact = np.max(list(self.surfaces_c.values()), axis=0)
        return {
            "body": _first(self.body_c, self.targets.danger_body_c),
            "contact": _first(contact, self.targets.danger_contact_c),
            "air": _first(self.course.cool_c, self.targets.danger_air_c),
        }

    @property
    def first_danger_min(self) -> float | None:
        """Minutes until the first of them."""
        return min((minutes for minutes in self.minutes_to_danger.values() if minutes is not None), default=None)

    @property
    def hours_to_cold(self) -> float | None:
        """Hours until the warm end is colder than the animal bears at night; None where it never is."""
        below = np.flatnonzero(self.course.warm_c < self.targets.bears("night_c")[0])
        return None if len(below) == 0 else float(below[0]) / 60.0

    @property
    def has_a_cool_place(self) -> bool:
        """Whether somewhere stays as cool as is borne."""
        return float(self.course.cool_c.max()) <= self.targets.bears("cool_air_c")[1]

    @property
    def weight(self) -> tuple[float, float, float]:
        """What comes first in a list of the worst: soonest danger, then soonest cold, then the hottest."""
        never = 1e9
        soonest = never if self.first_danger_min is None else self.first_danger_min
        cold = never if self.hours_to_cold is None else self.hours_to_cold
        return soonest, cold, -self.hottest.celsius


def _first(values: Array, limit_c: float) -> float | None:
    above = np.flatnonzero(values >= limit_c)
    return None if len(above) == 0 else float(above[0])


def worst_minute(day: Course, failure: Failure, clock: Clock) -> float:
    """The minute of the day at which a failure is worst: the cold ones as the lamps go off, the others when it is
    hottest in the first half of the lamps' day. It is hottest of all as they go off; but what sticks on then is off by
    its clock the minute after.
    """
    if failure.kind == "heat-wave":
        return float(day.minutes[0])
    if failure.kind in COLD:
        return float(day.minutes[0] + (clock.day_min if clock.edges_min else 0.0))
    stays_on = day.minutes - day.minutes[0] <= (clock.day_min / 2 if clock.edges_min else DAY_MIN)
    return float(day.minutes[int(np.where(stays_on, day.warm_c, -np.inf).argmax())])


def outcome_of(through: Through, day: Course, failure: Failure) -> Outcome:
    """What comes of a failure in a season whose repeating ``day`` is known, at its worst hour."""
    begins_min = worst_minute(day, failure, through.happening.clock)
    start = day.trace.places[day.row_at(begins_min)]
    lasts = 2 * GOES_ON_MIN if failure.kind == "heat-wave" else GOES_ON_MIN
    return Outcome(failure, begins_min, fail_from(through, start, lasts, begins_min, failure))
