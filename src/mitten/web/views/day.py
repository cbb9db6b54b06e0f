"""A day, or what comes of a failure, as a chart, a table and words."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

import numpy as np

from mitten.core.catalogue import targets_of
from mitten.core.design.units import TEMPERATURE, Units
from mitten.core.judge.shuttling import BANDS_K, AnimalDay, animal_day
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.running import clock_of
from mitten.core.physics.transient.regulation import DAY_MIN
from mitten.core.plan.front import Front

SHOWN_AT_FIRST = ("basking", "warm", "cool", "room")
EVERY_MIN = 2
HIDES_EVERY_MIN = 30
Axis = Literal["degrees", "watts", "percent"]
"""The chart has a point for so many minutes: more than it has pixels."""


@dataclass(frozen=True)
class Line:
    """One line of the charts: its key, what it is called, its values (T,) as shown, and which chart it is in."""

    key: str
    label: str
    values: Array
    shown: bool
    axis: Axis = "degrees"


@dataclass(frozen=True)
class FigureRow:
    """The highest and the lowest of a figure and when."""

    label: str
    highest: str
    highest_at: str
    lowest: str
    lowest_at: str


@dataclass(frozen=True)
class DayView:
    """What is said of a course beside its chart."""

    rows: Sequence[FigureRow]
    controls: Sequence[str]
    energy: str
    first: int
    last: int


def clock_words(minute: float) -> str:
    """A minute of the day as the time: ``19:05``."""
    whole = round(minute) % int(DAY_MIN)
    return f"{whole // 60:02d}:{whole % 60:02d}"


def lines_of(course: Course, units: Units) -> Iterator[Line]:
    """Every line, those of temperatures first."""
    design = course.design
    basking = design.basking_site
    for key, label, celsius in _temperatures(course):
        is_basking = basking is not None and label == basking.name
        shown = is_basking or key in SHOWN_AT_FIRST or (basking is None and key == "ground")
        yield Line(key, label, _in_units(celsius, units), shown)
    yield Line("watts", "All sources, W", course.power_w, True, "watts")
    yield Line("humidity", "Humidity, %", 100.0 * course.rh_mean, True, "percent")


def _temperatures(course: Course) -> Iterator[tuple[str, str, Array]]:
    design = course.design
    for number, site in enumerate(design.sites):
        yield f"site-{number}", site.name, course.site_c(site.name)
        if site.role.endswith("hide"):
            yield f"hide-{number}", f"Air in {site.name}", hide_air_c(course, site.name)
    yield "ground", "Ground, hottest", course.floor_max_c
    yield "warm", "Air, warm end", course.warm_c
    yield "cool", "Air, cool end", course.cool_c
    yield "top", "Air under the top", course.top_c
    yield "base", "Under the ground", course.base_max_c
    for number, control in enumerate(control for control in design.controls if control.is_thermostat):
        yield f"probe-{number}", f"Probe of {control.name}", course.probes_c[:, number]
    yield "room", "Room", course.trace.room_c
    if course.design.basking_site is not None and len(course.minutes) > DAY_MIN:
        yield "body", "Body, if it shuttles", animal_of(course).body_c


def _in_units(celsius: Array, units: Units) -> Array:
    factor = units.convert(TEMPERATURE, 1.0) - units.convert(TEMPERATURE, 0.0)
    return np.asarray(celsius * factor + units.convert(TEMPERATURE, 0.0))


def day_view(course: Course, units: Units) -> DayView:
    """The table and the words."""
    minutes = course.minutes
    rows = [_row(label, celsius, minutes, units) for _, label, celsius in _temperatures(course)]
    rows.append(_humidity_row(course))
    return DayView(rows, list(_controls(course, units)), _energy(course), int(minutes[0]), int(minutes[-1]))


def _row(label: str, celsius: Array, minutes: Array, units: Units) -> FigureRow:
    high, low = int(celsius.argmax()), int(celsius.argmin())
    return FigureRow(
        label,
        units.say_degrees(float(celsius[high])), clock_words(float(minutes[high])),
        units.say_degrees(float(celsius[low])), clock_words(float(minutes[low])),
    )  # fmt: skip


@lru_cache(12)
def hide_air_c(course: Course, name: str) -> Array:
    """The air (T,) in a hide, straight between moments that are worked out."""
    rows = np.unique([*range(0, len(course.minutes), HIDES_EVERY_MIN), len(course.minutes) - 1])
    found = [course.climate_at(int(row)).hide_air_c(name) or 0.0 for row in rows]
    return np.asarray(np.interp(course.minutes, course.minutes[rows], found))


def _humidity_row(course: Course) -> FigureRow:
    percent, minutes = 100.0 * course.rh_mean, course.minutes
    high, low = int(percent.argmax()), int(percent.argmin())
    return FigureRow(
        "Humidity", f"{percent[high]:.0f} %", clock_words(float(minutes[high])),
        f"{percent[low]:.0f} %", clock_words(float(minutes[low])),
    )  # fmt: skip


def _controls(course: Course, units: Units) -> Iterator[str]:
    """What each thermostat does: how often it switches, and how much of its power it gives."""
    hours = float(course.minutes[-1] - course.minutes[0]) / 60.0
    for number, control in enumerate(control for control in course.design.controls if control.is_thermostat):
        duty = course.trace.duties[:, number]
        on = f"on for {float(duty.mean()):.0%} of the time"
        switched = course.trace.switchings[control.name]
        if control.kind == "on-off":
            yield f"{control.name}: {on}, {_often(switched, hours)}."
        else:
            yield f"{control.name}: gives {float(duty.mean()):.0%} of its power on average."


def _often(switched: int, hours: float) -> str:
    """How often a thermostat switches: by the hour, or in all where that is next to nothing."""
    if switched < hours / 2:
        times = {0: "never switches", 1: "switches once"}
        return times.get(switched, f"switches {switched} times") + f" in {hours:.0f} h"
    a_hour = switched / hours
    return f"switches {a_hour:.1f} times an hour" if a_hour < 10 else f"switches {a_hour:.0f} times an hour"


def _energy(course: Course) -> str:
    return f"{float(course.trace.fed_j.sum()) / 3.6e6:.2f} kWh"


def chart_data(course: Course, units: Units) -> dict[str, Any]:
    """What the chart draws, as JSON."""
    rows = slice(None, None, EVERY_MIN)
    targets = targets_of(course.design.animal, course.catalogue.species[course.design.animal.species])
    lines = list(lines_of(course, units))
    return {
        "minutes": course.minutes[rows].tolist(),
        "unit": units.unit_of(TEMPERATURE),
        "lines": [
            {
                "key": line.key, "label": line.label, "shown": line.shown, "axis": line.axis,
                "values": np.round(line.values[rows], 2).tolist(),
            }
            for line in lines
        ],
        "stripes": [
            {"label": label, "low": units.convert(TEMPERATURE, span[0]), "high": units.convert(TEMPERATURE, span[1])}
            for label, span in (
                ("basking place wanted", targets.basking_surface_c), ("cool end wanted", targets.cool_air_c),
            )
        ],
        "dark": _dark(course),
    }  # fmt: skip


def _dark(course: Course) -> list[list[float]]:
    """Stretches of minutes in which the lamps' day is over."""
    clock = clock_of(course.design, course.design.day_hours_in(course.situation.summer))
    first, last = float(course.minutes[0]), float(course.minutes[-1])
    found, night = [], clock.day_from_min + clock.day_min - DAY_MIN
    while night < last:
        low, high = max(night, first), min(night + DAY_MIN - clock.day_min, last)
        if high > low:
            found.append([low, high])
        night += DAY_MIN
    return found


def after_words(minutes: float) -> str:
    """A stretch of time in words."""
    if minutes < 90:
        return f"{minutes:.0f} min"
    hours, rest = divmod(round(minutes), 60)
    return f"{hours} h {rest:02d} min"


_AFTER = {
    "cold": "Switched on from cold", "power": "After another lamp or another height",
    "setpoint": "After another setpoint", "room": "After a change of the room or the vents",
}  # fmt: skip


def settling_words(kind: str, minutes: float | None) -> str:
    """When to measure after a change."""
    if minutes is None:
        return f"{_AFTER[kind]} it is not at rest within 36 hours: measure on the third day, at two times of day."
    if kind == "cold":
        return (
            f"{_AFTER[kind]}, everything that you measure is within 5 % of its change after {after_words(minutes)}: "
            "measure then, not before."
        )
    return f"{_AFTER[kind]}: {after_words(minutes)}." if minutes >= 1 else f"{_AFTER[kind]} nothing measured changes."


@lru_cache(4)
def animal_of(course: Course) -> AnimalDay:
    """The animal's day in a course, kept for the latest."""
    return animal_day(course, clock_of(course.design, course.design.day_hours_in(course.situation.summer)))


@dataclass(frozen=True)
class AnimalView:
    """The animal's day in words, and each band of its body's temperature: words, hours, share of a day."""

    words: Sequence[str]
    bands: Sequence[tuple[str, str, float]]


def animal_view(course: Course, units: Units) -> AnimalView:
    """What the animal's day is if it shuttles."""
    day = animal_of(course)
    bands = [
        (f"{units.degrees(low_c, 0)} to {units.say_degrees(low_c + BANDS_K, 0)}", f"{hours:.1f} h", hours / 24)
        for low_c, hours in day.hours_by_band()
    ]
    return AnimalView(list(_animal_words(day, units)), bands)


def _animal_words(day: AnimalDay, units: Units) -> Iterator[str]:
    low, high = (units.say_degrees(end) for end in day.preferred_c)
    if day.reached_min is None:
        yield f"Its body never comes to {low} at the basking place, however long it basks."
    else:
        yield f"After lights-on it basks {after_words(day.reached_min)} until its body is at {low}."
        tops = "it need not leave" if day.basks_min is None else f"then {after_words(day.basks_min)} more to {high}"
        yield f"At noon, {tops}; of its light hours it basks {day.basking_share:.0%}."
    if day.away_min is not None:
        yield f"From {high} it can stay in the cool for {after_words(day.away_min)} before it is down at {low}."
    if day.cooled_min is not None:
        yield f"After lights-out it has lost half of its warmth in {after_words(day.cooled_min)}."
    yield f"Within {low} to {high} it is for {day.within_share:.0%} of the light hours, if it goes to and fro for it."


COOL_IT = (
    " Until then a fan that moves the room's air, not into the box, and frozen bottles in cloth against its outside "
    "help a little; look at the thermometer every hour."
)


@dataclass(frozen=True)
class FrontView:
    """What a front does and asks for, in words: what happens, the one change, and when to undo it."""

    happens: str
    change: str
    undo: str
    harms: bool


def front_view(one: Front, units: Units) -> FrontView:
    """In words."""
    ends = f"the cool end falls to {units.say_degrees(one.coldest_c)}, the warm end rises to "
    happens = f"Tomorrow {ends}{units.say_degrees(one.warmest_c)}"
    if one.worst is None:
        return FrontView(f"{happens}: it tolerates all of it. Nothing has to be done tonight.", "", "", harms=False)
    worst, at = one.worst, f"{units.say_degrees(one.worst.celsius)} at {clock_words(one.worst.minute)}"
    end = "at least" if worst.celsius < worst.borne_c else "at most"
    beyond = f"{worst.what} comes to {at}; it tolerates {end} {units.say_degrees(worst.borne_c)}."
    left = (
        ""
        if one.left is None
        else (
            f" Even so {one.left.what[:1].lower()}{one.left.what[1:]} comes to {units.say_degrees(one.left.celsius)}: "
            f"have another place ready for the animal." + ("" if one.left.is_cold else COOL_IT)
        )
    )
    undo = (
        "Undo it the day after tomorrow."
        if one.undo_min is None
        else f"Undo it tomorrow from {clock_words(one.undo_min)} on."
        if one.undo_min < 2 * DAY_MIN
        else "Undo it once tomorrow is over."
    )
    return FrontView(f"{happens}. {beyond}", f"{units.say(one.change)}.{left}", undo, harms=True)
