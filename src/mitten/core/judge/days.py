"""What a box goes through: a day of a season, a condition that stays, a room of one's own, and what fails in it."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from math import cos, exp, pi
from typing import Literal

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.design import BadDesignError, Control, Design, Fault
from mitten.core.design.amounts import capital
from mitten.core.judge.conditions import Condition, read_condition
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.sensors import out_of_the_box, sensor_of
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.running import Moving, make_ready
from mitten.core.physics.transient.box import Sensor
from mitten.core.physics.transient.drive import Happening
from mitten.core.physics.transient.regulation import DAY_MIN, Clock, Thermostat

SUMMER = "summer"
SEASONS = ("winter", "usual", SUMMER)
ROOM_WARMS_MIN, ROOM_COOLS_MIN = 120.0, 240.0
"""A room comes to its day in so many minutes, and to its night; starting points to verify."""

UNHEATED_C, ROOM_EMPTIES_MIN = 5.0, 20 * 60.0
"""What a room of a heated home falls to where its heating fails, and its time constant; starting points to verify."""

HEAT_WAVE_K, HOTTEST_MIN, HEAT_WAVE_MIN = 6.0, 16 * 60.0, 12 * 60.0
"""How much warmer the room gets on the afternoon of a heat wave, when, and how long it rises and falls; the same."""

MOST_HOURS = 24 * 14

ALWAYS, NEVER = Clock(0.0, DAY_MIN), Clock(0.0, 0.0)
RoomCurve = Callable[[float], float]

FAILURES: Mapping[str, str] = {
    "stuck-on": "thermostat stuck on",
    "stuck-off": "thermostat stuck off",
    "dead": "a source dead",
    "probe-fallen": "probe fallen to the ground",
    "probe-out": "probe out of the box",
    "power-cut": "power cut",
    "room-heating": "room heating failed",
    "fan-stopped": "fan stopped",
    "heat-wave": "heat-wave afternoon",
}
"""What may fail, by the word for it, and in words."""

STOPS_THE_FAN = ("fan-stopped", "power-cut")
PROBE_MOVES = ("probe-fallen", "probe-out")
OF_A_CONTROL = ("stuck-on", "stuck-off", *PROBE_MOVES)


@dataclass(frozen=True)
class Failure:
    """Something that fails: its word, and the control or source that it is of (all of them where empty)."""

    kind: str
    name: str = ""

    @property
    def label(self) -> str:
        """In words: ``Thermostat stuck on``."""
        words = f"'{self.name}' dead" if self.kind == "dead" else FAILURES[self.kind]
        return words if self.kind == "dead" else capital(words)

    @property
    def text(self) -> str:
        """As it is written: ``dead:Lamp``."""
        return f"{self.kind}:{self.name}" if self.name else self.kind


def read_failure(design: Design, text: str) -> Failure:
    """Read ``power-cut``, ``stuck-on:CONTROL`` or ``dead:NAME`` for a design.

    Raises:
        BadDesignError: it names no failure that this design can have.
    """
    kind, _, name = text.partition(":")
    if kind not in FAILURES:
        raise _refusal(f"'{text}' is no failure; use one of {', '.join(FAILURES)}.")
    if why := _why_not(design, kind, name):
        raise _refusal(why)
    return Failure(kind, name)


def _why_not(design: Design, kind: str, name: str) -> str:
    """Why a design cannot have a failure; nothing where it can."""
    if kind == "dead":
        known = name in {part.name for part in design.powered}
        return "" if known else f"no heater, light or UV lamp is called '{name}'; write dead:NAME."
    if kind in OF_A_CONTROL:
        return _why_no_thermostat(design, kind, name)
    if name:
        return f"'{kind}' is of the whole enclosure; leave out '{name}'."
    still = kind == "fan-stopped" and design.enclosure.fan_l_s <= 0
    return "'fan-stopped' needs a fan, and this design has none." if still else ""


def _why_no_thermostat(design: Design, kind: str, name: str) -> str:
    controls = {control.name for control in design.controls if control.is_thermostat}
    if not controls:
        return f"'{kind}' needs a thermostat, and this design has none."
    return "" if name in ("", *controls) else f"no thermostat is called '{name}'."


def failures_of(design: Design, season: str) -> tuple[Failure, ...]:
    """Every failure that a design can have in a season; no room is heated in summer."""
    has_control = any(control.is_thermostat for control in design.controls)
    found = [Failure(kind) for kind in ("stuck-on", "stuck-off", "probe-fallen", "probe-out") if has_control]
    found += [Failure("dead", part.name) for part in design.powered]
    found += [Failure("power-cut"), *([] if season == SUMMER else [Failure("room-heating")])]
    found += [Failure("fan-stopped")] if design.enclosure.fan_l_s > 0 else []
    return (*found, Failure("heat-wave"))


def _refusal(sentence: str) -> BadDesignError:
    return BadDesignError([Fault("--fault", sentence)])


def room_over_a_day(day_c: float, night_c: float, clock: Clock) -> RoomCurve:
    """The room through a day: it begins to warm as the lamps come on and to cool as they go off."""
    if clock.day_min <= 0 or clock.day_min >= DAY_MIN:
        return lambda _minute: day_c if clock.day_min > 0 else night_c

    def at(minute: float) -> float:
        since = (minute - clock.day_from_min) % DAY_MIN
        warms, cools = min(ROOM_WARMS_MIN, clock.day_min), min(ROOM_COOLS_MIN, DAY_MIN - clock.day_min)
        share = min(since / warms, 1.0) if since < clock.day_min else max(1.0 - (since - clock.day_min) / cools, 0.0)
        return night_c + (day_c - night_c) * share

    return at


def room_of_hours(hours_c: tuple[float, ...]) -> RoomCurve:
    """The room by temperatures at even hours of a day (any number of them), straight between."""
    known = np.array([*hours_c, hours_c[0]])
    places = np.linspace(0.0, DAY_MIN, len(known))
    return lambda minute: float(np.interp(minute % DAY_MIN, places, known))


@dataclass(frozen=True, eq=False)
class Through:
    """A design that is ready to go through something, and what that is without a failure; ``is_heated`` says whether
    the room has its heating on.
    """

    moving: Moving
    happening: Happening
    label: str
    is_heated: bool = True

    @property
    def loses_its_room(self) -> bool:
        """Whether a power cut takes the room's heating too."""
        return self.is_heated and not self.moving.design.room.heated_without_power


def of_season(
    design: Design, catalogue: Catalogue, season: str, room_c: RoomCurve | None = None,
    climates: tuple[Climate, Climate] | None = None,
) -> Through:  # fmt: skip
    """A day of a season; in a room of one's own where its curve is given.

    Raises:
        BadDesignError: there is no such season.
        UnsolvedError: the design finds no rest by day or by night.
    """
    if season not in SEASONS:
        raise BadDesignError([Fault("season", f"'{season}' is no season; use one of {', '.join(SEASONS)}.")])
    day, night = (read_condition(design, f"{season}-{time}") for time in ("day", "night"))
    moving = make_ready(design, catalogue, day.situation, night.situation, climates)
    curve = room_c or room_over_a_day(day.room_c, night.room_c, moving.clock)
    thermostats = moving.thermostats(day.summer)
    return Through(moving, Happening(moving.clock, curve, thermostats), f"A {season} day", season != SUMMER)


def of_condition(design: Design, catalogue: Catalogue, condition: Condition, climate: Climate | None = None) -> Through:
    """A condition that stays as it is.

    Raises:
        UnsolvedError: the design finds no rest in it.
    """
    known = None if climate is None else (climate, climate)
    moving = make_ready(design, catalogue, condition.situation, condition.situation, known)
    thermostats = moving.thermostats(condition.summer)
    if condition.stuck_on:
        thermostats = tuple(one.stuck_to("on") for one in thermostats)
    happening = Happening(
        ALWAYS if condition.day else NEVER, lambda _minute: condition.room_c, thermostats, frozenset(condition.dead)
    )
    return Through(moving, happening, condition.label, condition.summer < 1.0)


def failing(through: Through, failure: Failure, at_min: float) -> Through:
    """The same with something that fails at a minute and stays so."""
    happening, kind, name = through.happening, failure.kind, failure.name
    if kind == "dead":
        changed = replace(happening, dead=happening.dead | {name})
    elif kind in ("stuck-on", "stuck-off"):
        how: Literal["on", "off"] = "on" if kind == "stuck-on" else "off"
        changed = replace(
            happening,
            thermostats=tuple(one.stuck_to(how) if _is_of(one, name) else one for one in happening.thermostats),
        )
    elif kind == "power-cut":
        room_c = _emptying(happening.room_c, at_min) if through.loses_its_room else happening.room_c
        changed = replace(happening, has_power=False, room_c=room_c)
    elif kind == "room-heating":
        changed = replace(happening, room_c=_emptying(happening.room_c, at_min))
    elif kind == "heat-wave":
        changed = replace(happening, room_c=_heat_wave(happening.room_c))
    elif kind in PROBE_MOVES:
        changed = replace(happening, thermostats=_guarded(through.moving, happening.thermostats, failure))
    else:
        changed = happening
    return replace(through, moving=_with_sensors(through.moving, failure), happening=changed)


def _is_of(thermostat: Thermostat, name: str) -> bool:
    return name in ("", thermostat.name)


def _emptying(room_c: RoomCurve, at_min: float) -> RoomCurve:
    def at(minute: float) -> float:
        usual_c = room_c(minute)
        left = exp(-max(minute - at_min, 0.0) / ROOM_EMPTIES_MIN)
        return min(usual_c, UNHEATED_C + (usual_c - UNHEATED_C) * left)

    return at


def _heat_wave(room_c: RoomCurve) -> RoomCurve:
    def at(minute: float) -> float:
        away_min = (minute - HOTTEST_MIN + DAY_MIN / 2) % DAY_MIN - DAY_MIN / 2
        share = 0.5 * (1.0 + cos(2 * pi * away_min / HEAT_WAVE_MIN)) if abs(away_min) < HEAT_WAVE_MIN / 2 else 0.0
        return room_c(minute) + HEAT_WAVE_K * share

    return at


def _moved(moving: Moving, failure: Failure) -> list[int]:
    """Numbers of the thermostats whose probe a failure moves."""
    controls = [control for control in moving.design.controls if control.is_thermostat]
    return [number for number, control in enumerate(controls) if failure.name in ("", control.name)]


def _guarded(moving: Moving, thermostats: tuple[Thermostat, ...], failure: Failure) -> tuple[Thermostat, ...]:
    """The thermostats; the cut-outs of those whose probe moves go by probes of their own, which stay."""
    first, found = len(moving.box.sensors), list(thermostats)
    guarded = [number for number in _moved(moving, failure) if thermostats[number].cut_out_c is not None]
    for place, number in enumerate(guarded):
        found[number] = replace(thermostats[number], guard_probe=first + place)
    return tuple(found)


def _with_sensors(moving: Moving, failure: Failure) -> Moving:
    """The same box with probes where they have fallen to, and those of cut-outs behind them, where they were."""
    if failure.kind not in PROBE_MOVES:
        return moving
    controls = [control for control in moving.design.controls if control.is_thermostat]
    sensors, moved = list(moving.box.sensors), _moved(moving, failure)
    own = [sensors[number] for number in moved if controls[number].cut_out_c is not None]
    for number in moved:
        sensors[number] = _fallen(moving, controls[number], sensors[number], failure.kind)
    return replace(moving, box=moving.box.with_sensors([*sensors, *own]))


def _with_their_readings(start: np.ndarray, before: Moving, after: Moving) -> np.ndarray:
    """A place of a box as one of the same with more probes: those of cut-outs read what the first ones did."""
    old, more = before.box.place.probes, len(after.box.sensors) - len(before.box.sensors)
    if more == 0:
        return start
    sensors = before.box.sensors
    readings = [start[old.start + sensors.index(one)] for one in after.box.sensors[-more:]]
    return np.concatenate([start[: old.stop], readings, start[old.stop :]])


def _fallen(moving: Moving, control: Control, sensor: Sensor, kind: str) -> Sensor:
    """Out in the room, or on the ground under where it was."""
    if kind == "probe-out" or control.probe is None:
        return out_of_the_box(sensor)
    lying = control.probe.model_copy(update={"reads": "surface", "z_m": moving.design.substrate.depth_m})
    fallen = control.model_copy(update={"probe": lying})
    names = tuple(channel.name for channel in moving.channels)
    return sensor_of(moving.design, moving.running, fallen, moving.catalogue, names)


def without_fan(through: Through) -> Through:
    """The same box with its fan stopped, ready anew."""
    moving = through.moving
    enclosure = moving.design.enclosure.model_copy(update={"fan_l_s": 0.0})
    design = moving.design.model_copy(update={"enclosure": enclosure})
    still = make_ready(design, moving.catalogue, moving.day.situation, moving.night.situation)
    return replace(through, moving=still)


def minutes_of(hours: float) -> int:
    """Whole minutes of hours.

    Raises:
        BadDesignError: they are none, or more than can be gone through.
    """
    if not 0 < hours <= MOST_HOURS:
        raise BadDesignError([Fault("--hours", f"{hours:g} hours are not between 0 and {MOST_HOURS}.")])
    return max(round(hours * 60), 1)


def temperatures_kept(one: Moving, other: Moving, place: np.ndarray) -> np.ndarray:
    """A place of one box as a place of another of the same solids."""
    found = np.zeros(other.box.place.count)
    nodes = one.box.basis.patterns @ place[one.box.place.solids]
    found[other.box.place.solids] = other.box.basis.amplitudes(nodes)
    for of_one, of_other in (
        (one.box.place.air, other.box.place.air), (one.box.place.powers, other.box.place.powers),
        (one.box.place.probes, other.box.place.probes), (one.box.place.shells, other.box.place.shells),
    ):  # fmt: skip
        found[of_other] = place[of_one]
    return found


def run(through: Through, hours: float, failure: Failure | None = None, *, from_room: bool = False) -> Course:
    """So many hours from a state of rest, or from everything at the room's temperature, with what fails at its
    beginning.

    Raises:
        BadDesignError: those are no hours that can be gone through.
        UnsolvedError: the design finds no rest.
    """
    minutes, moving = minutes_of(hours), through.moving
    start = moving.at_room(through.happening.room_c(0.0)) if from_room else moving.at_rest(moving.day)
    return fail_from(through, start, minutes, 0.0, failure)


def fail_from(
    through: Through, start: np.ndarray, minutes: int, at_min: float, failure: Failure | None
) -> Course:  # fmt: skip
    """From a place (K,) at a minute on, with something that fails there."""
    if failure is None:
        return through.moving.go(through.happening, start, minutes, at_min)
    if failure.kind in STOPS_THE_FAN and through.moving.design.enclosure.fan_l_s > 0:
        still = without_fan(through)
        start, through = temperatures_kept(through.moving, still.moving, start), still
    changed = failing(through, failure, at_min)
    start = _with_their_readings(start, through.moving, changed.moving)
    return changed.moving.go(changed.happening, start, minutes, at_min)
