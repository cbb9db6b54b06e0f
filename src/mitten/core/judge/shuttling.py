"""The animal through a day: how it warms in the morning and cools after dark, and what its day is if it goes to and fro
between the warmth and the cool end to stay within its preferred temperatures.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from mitten.core.catalogue import targets_of
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.body import Body, body_of, time_constant_s
from mitten.core.physics.reading.spot import somewhere_even
from mitten.core.physics.reading.staying import stay
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.transient.regulation import Clock

Flags = NDArray[np.bool_]
STEP_S = 60.0
BANDS_K = 2.0
EDGE_K = 0.2
"""It leaves so much before the upper end, and comes back so much above the lower one."""


@dataclass(frozen=True)
class Place:
    """What a place does to a body through a course: the temperature (T,) that it comes to there, and its time constant
    there (T,).
    """

    operative_c: Array
    time_constant_s: Array

    def next_c(self, body_c: float, row: int) -> float:
        """The body's temperature a minute on."""
        return float(
            self.operative_c[row] + (body_c - self.operative_c[row]) * np.exp(-STEP_S / self.time_constant_s[row])
        )


@dataclass(frozen=True, eq=False)
class AnimalDay:
    """A day of an animal, from lights-on: its body (T,) in °C if it shuttles, and whether it basks (T,).

    ``reached_min`` is when it first comes to the low end of what it prefers, ``basks_min`` how long it basks then until
    the high end (None: it never comes there, and need not leave), ``away_min`` how long it can stay in the cool before
    it is back at the low end (None: all day), ``cooled_min`` when after lights-out it has fallen half of the way.
    """

    preferred_c: tuple[float, float]
    body_c: Array
    basks: Flags
    by_day: Flags
    reached_min: float | None
    basks_min: float | None
    away_min: float | None
    cooled_min: float | None

    @cached_property
    def basking_share(self) -> float:
        """The share of the light hours in which it basks."""
        return float(self.basks[self.by_day].mean()) if self.by_day.any() else 0.0

    @property
    def within_share(self) -> float:
        """The share of the light hours that it spends within what it prefers."""
        inside = (self.body_c >= self.preferred_c[0]) & (self.body_c <= self.preferred_c[1])
        return float(inside[self.by_day].mean()) if self.by_day.any() else 0.0

    def hours_by_band(self) -> Iterator[tuple[float, float]]:
        """The low end of each band of two kelvin, and the hours of the day that its body is in it."""
        bands = np.floor(self.body_c / BANDS_K) * BANDS_K
        for low_c in np.unique(bands):
            yield float(low_c), float((bands == low_c).sum()) / 60.0


def animal_day(course: Course, clock: Clock) -> AnimalDay:
    """Let the animal live through a repeating day: in the cool by night, and between both places by day.

    It goes to bask as the lamps come on, leaves near the high end of its preferred body temperatures, and comes back
    near the low one.
    """
    design = course.design
    species = course.catalogue.species[design.animal.species]
    body = body_of(species, design.animal.stage)
    preferred = targets_of(design.animal, species).basking_operative_c
    warm, cool = _places(course, body)
    by_day = np.array([clock.is_day(minute) for minute in course.minutes])
    body_c, basks = _shuttle(warm, cool, by_day, preferred)
    return AnimalDay(
        preferred, body_c, basks, by_day,
        _first(by_day & (body_c >= preferred[0])), _to_the_top(warm, preferred, by_day),
        _away(cool, preferred, by_day), _half_cooled(body_c, cool, by_day),
    )  # fmt: skip


def _places(course: Course, body: Body) -> tuple[Place, Place]:
    """The basking place, as its body's danger is followed, and somewhere in the cool end's air."""
    basking = stay(course)
    somewhere = somewhere_even(float(course.cool_c.mean()))
    cool_s = np.full(len(course.minutes), time_constant_s(body, somewhere))
    return Place(basking.operative_c, basking.constant_s), Place(course.cool_c, cool_s)


def _shuttle(warm: Place, cool: Place, by_day: Flags, preferred: tuple[float, float]) -> tuple[Array, Flags]:
    """Twice through the day, so that it begins as it ended."""
    count = len(by_day)
    body_c, basks = np.empty(count), np.zeros(count, dtype=bool)
    now_c, goes = float(cool.operative_c[0]), True
    for _ in range(2):
        for row in range(count):
            if not by_day[row]:
                goes = False
            elif row == 0 or not by_day[row - 1] or now_c <= preferred[0] + EDGE_K:
                goes = True
            elif now_c >= preferred[1] - EDGE_K:
                goes = False
            body_c[row], basks[row] = now_c, goes
            now_c = (warm if goes else cool).next_c(now_c, row)
    return body_c, basks


def _first(holds: Flags) -> float | None:
    rows = np.flatnonzero(holds)
    return float(rows[0]) if len(rows) else None


def _settled_row(by_day: Flags) -> int:
    """The middle of the light hours, when the box has come to its day."""
    rows = np.flatnonzero(by_day)
    return int(rows[len(rows) // 2]) if len(rows) else 0


def _to_the_top(warm: Place, preferred: tuple[float, float], by_day: Flags) -> float | None:
    """Minutes of basking from the low end to the high end at noon."""
    return _minutes(warm, preferred[0], preferred[1], _settled_row(by_day))


def _away(cool: Place, preferred: tuple[float, float], by_day: Flags) -> float | None:
    """Minutes in the cool from the high end to the low end at noon."""
    return _minutes(cool, preferred[1], preferred[0], _settled_row(by_day))


def _minutes(place: Place, from_c: float, to_c: float, row: int) -> float | None:
    ends_c = float(place.operative_c[row])
    if (ends_c - to_c) * (to_c - from_c) <= 0:
        return None
    return float(place.time_constant_s[row] * np.log((ends_c - from_c) / (ends_c - to_c)) / 60.0)


def _half_cooled(body_c: Array, cool: Place, by_day: Flags) -> float | None:
    """Minutes after lights-out in which it falls half of the way to the cool end."""
    out = next((row for row in range(1, len(by_day)) if by_day[row - 1] and not by_day[row]), None)
    if out is None:
        return None
    half_c = (body_c[out] + cool.operative_c[-1]) / 2
    after = np.flatnonzero(body_c[out:] <= half_c)
    return float(after[0]) if len(after) else None
