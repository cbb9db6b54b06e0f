"""What comes of a failure: how hot and how cold it gets, how soon that is dangerous, and whether there is a way out."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from mitten.core.catalogue import Catalogue, Targets
from mitten.core.design import Design
from mitten.core.judge.days import Failure, Through, fail_from
from mitten.core.judge.exposed import Exposed, Extreme, Harm, exposed_in
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.transient.regulation import DAY_MIN, Clock

GOES_ON_MIN = 12 * 60
"""So long nobody sees what has failed."""

NEARLY_ALL = 0.99
"""The share of its power from which a thermostat gives all it has."""

COLD = ("stuck-off", "dead", "power-cut", "room-heating")
"""Failures whose danger is the cold: worst at the end of the lamps' day, with the night to come."""


@dataclass(frozen=True, eq=False)
class Outcome:
    """What comes of one failure that begins at a minute of the day."""

    failure: Failure
    begins_min: float
    course: Course
    usual: Course | None = None
    """The repeating day that it breaks into, where that is known."""

    clock: Clock | None = None

    @cached_property
    def exposed(self) -> Exposed:
        """What the animal is exposed to in it."""
        return Exposed(self.course)

    @property
    def targets(self) -> Targets:
        """What the animal wants, bears and is harmed by."""
        return self.exposed.targets

    @property
    def hottest(self) -> Extreme:
        """The hottest surface that it can touch."""
        return self.exposed.highest(self.exposed.surfaces_c)

    @property
    def coldest(self) -> Extreme:
        """The coldest air of the warm end: it has nowhere warmer to be."""
        return self.exposed.lowest({"the warm end's air": self.course.warm_c})

    @property
    def body_c(self) -> Array:
        """The body (T,) of an animal that stays on its basking place."""
        return self.exposed.body_c

    @property
    def minutes_to_danger(self) -> dict[str, float | None]:
        """Minutes until a danger is reached, by what is in danger; None where it never is."""
        return self.exposed.minutes_to_danger

    @cached_property
    def harms(self) -> tuple[Harm, ...]:
        """What becomes dangerous or more than is tolerated, the soonest first of what was not so before."""
        found = self.exposed.harms_beyond(exposed_in(self.usual)) if self.usual is not None else []
        if self.clock is not None:
            found += darkness(self.course.design, self.course.catalogue, self.failure, self.begins_min, self.clock)
        return tuple(sorted(found, key=lambda one: (one.was_so, one.after_min)))

    @property
    def standing(self) -> tuple[Harm, ...]:
        """What is dangerous on the repeating day already, before anything fails."""
        if self.usual is None:
            return ()
        before = exposed_in(self.usual)
        return tuple(one for one in before.harms_beyond(before) if one.kind == "heat")

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
        """What comes first in a list of the worst: soonest danger, then soonest cold, then the hottest; what was so
        before anything failed stands elsewhere.
        """
        never = 1e9
        by_heat = [one.after_min for one in self.harms if one.kind == "heat" and not one.was_so]
        soonest = self.first_danger_min if self.usual is None else min(by_heat, default=None)
        cold = never if self.hours_to_cold is None else self.hours_to_cold
        return never if soonest is None else soonest, cold, -self.hottest.celsius


def _giving_uv(design: Design) -> set[str]:
    """Names of what gives ultraviolet."""
    return {lamp.name for lamp in design.uvb} | {one.name for one in design.heaters if one.lamp.uvi_at_30cm}


def _giving_light(design: Design, catalogue: Catalogue) -> set[str]:
    """Names of what shines by day."""
    shining = {one.name for one in design.heaters if catalogue.sources[one.kind].light and one.on != "night"}
    return _giving_uv(design) | shining | {one.name for one in design.lights}


def darkness(
    design: Design, catalogue: Catalogue, failure: Failure, begins_min: float, clock: Clock
) -> list[Harm]:  # fmt: skip
    """UV, or all light, that is gone once the lamps should be on: of what is dead, or without power."""
    uv, light = _giving_uv(design), _giving_light(design, catalogue)
    lost = {failure.name} if failure.kind == "dead" else light if failure.kind == "power-cut" else set()
    since_min = (begins_min - clock.day_from_min) % DAY_MIN
    wait_min = 0.0 if since_min < clock.day_min else DAY_MIN - since_min
    gone = [what for what, names in (("light", light), ("UV", uv)) if names and names <= lost]
    return [Harm("dark", what, wait_min, 0.0) for what in gone[:1]]


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
        course = fail_from(through, start, lasts, begins_min, failure)
        found.append(Outcome(failure, begins_min, course, day, clock))
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
