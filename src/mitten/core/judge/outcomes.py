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

NEARLY_ALL = 0.99
"""The share of its power from which a thermostat gives all it has."""

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
    def how_bad(self) -> tuple[float, float, float]:
        """What is worst of the same failure at several hours: the soonest danger, the soonest cold, then the coldest or
        the hottest.
        """
        soonest, cold, hottest = self.weight
        return soonest, cold, self.coldest.celsius if self.failure.kind in COLD else hottest

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


def lamps_go_off_min(day: Course, clock: Clock) -> float:
    """The minute at which the lamps of a day go off; that at which it begins where they never do."""
    return float(day.minutes[0] + (clock.day_min if clock.edges_min else 0.0))


def beginnings_min(day: Course, failure: Failure, clock: Clock) -> tuple[float, ...]:
    """The minutes of the day at which a failure may be worst, the likeliest first.

    The cold ones: as the lamps go off, with the night to come; a room that is not heated, also so that what is gone
    through ends with the night. The others: when it is hottest in the first half of the lamps' day (it is hottest of
    all as they go off, but what sticks on then is off by its clock the minute after), as they come on where a probe
    that is out of its place reads a room that is still cool, and as they go off.
    """
    on_min, off_min, has_night = float(day.minutes[0]), lamps_go_off_min(day, clock), bool(clock.edges_min)
    if failure.kind == "heat-wave":
        return (on_min,)
    if failure.kind in COLD:
        ends_with_night = failure.kind == "room-heating" and has_night
        return off_min, *([on_min + DAY_MIN - GOES_ON_MIN] if ends_with_night else [])
    stays_on = day.minutes - on_min <= (clock.day_min / 2 if has_night else DAY_MIN)
    hottest_min = float(day.minutes[int(np.where(stays_on, day.warm_c, -np.inf).argmax())])
    others_min = {"stuck-on": (off_min,), "probe-fallen": (on_min, off_min), "probe-out": (on_min, off_min)}
    return hottest_min, *(others_min.get(failure.kind, ()) if has_night else ())


def outcome_of(through: Through, day: Course, failure: Failure) -> Outcome:
    """What comes of a failure in a season whose repeating ``day`` is known, at its worst hour."""
    clock, found = through.happening.clock, list[Outcome]()
    for begins_min in beginnings_min(day, failure, clock):
        start = day.trace.places[day.row_at(begins_min)]
        lasts = 2 * GOES_ON_MIN if failure.kind == "heat-wave" else GOES_ON_MIN
        found.append(Outcome(failure, begins_min, fail_from(through, start, lasts, begins_min, failure)))
        if not _may_be_worse_later(found[-1], clock):
            break
    return min(found, key=lambda one: one.how_bad)


def _may_be_worse_later(outcome: Outcome, clock: Clock) -> bool:
    """Whether a failure may do more at another hour: not where it is too cold already, or its thermostats give all they
    have by day, when the room is warmest, unless something of theirs is for the night.
    """
    if outcome.failure.kind in COLD:
        return outcome.hours_to_cold is None
    course, name = outcome.course, outcome.failure.name
    thermostats = [one.name for one in course.design.controls if one.is_thermostat]
    failed = [number for number, one in enumerate(thermostats) if name in ("", one)]
    held = [one.on for one in course.design.heaters if one.control in {thermostats[number] for number in failed}]
    by_day = np.array([clock.is_day(minute) for minute in course.minutes])
    gives_all = bool((course.trace.duties[by_day][:, failed] > NEARLY_ALL).all())
    return "night" in held or not gives_all
