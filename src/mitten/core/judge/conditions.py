"""The conditions a design is judged in: four seasonal ones, failures, and an explicit room."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from mitten.core.design import USUAL_ROOM_RH, BadDesignError, Design, Fault
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.situation import Situation
from mitten.core.physics.solving import solve_climate

Season = Literal["winter", "summer"]
SEASONAL = ("winter-day", "winter-night", "summer-day", "summer-night")
_ROOM = re.compile(r"room=(-?\d+(?:\.\d+)?),(day|night)")
STUCK_ON = "stuck-on"
_NEXT_FAILURE = re.compile(rf"\+(?={STUCK_ON}(?:\+|$)|dead:)")
"""Where another failure begins; a name may hold a plus sign of its own."""

ROOM_LIMITS_C = (-10.0, 50.0)


@dataclass(frozen=True)
class Condition:
    """A room temperature by day or night, heaters that have failed, and whether every thermostat is stuck on."""

    name: str
    room_c: float
    day: bool
    rh: float = USUAL_ROOM_RH
    dead: tuple[str, ...] = ()
    stuck_on: bool = False

    @property
    def label(self) -> str:
        """In words: ``Winter day``."""
        base = self.name.partition("+")[0]
        words = base.replace("-", " ").capitalize() if base in SEASONAL else f"Room at {self.room_c:g} °C"
        return words + "".join(f", '{name}' dead" for name in self.dead) + (", stuck on" if self.stuck_on else "")

    @property
    def situation(self) -> Situation:
        """What the model solves for."""
        return Situation(self.room_c, self.day, self.rh, frozenset(self.dead), self.stuck_on)


def seasonal(design: Design) -> tuple[Condition, ...]:
    """The four seasonal conditions, coldest room to warmest."""
    return tuple(read_condition(design, name) for name in SEASONAL)


def read_condition(design: Design, text: str) -> Condition:
    """Read ``winter-day``, ``winter-day+dead:NAME`` or ``room=18.5,day`` for a design.

    Raises:
        BadDesignError: the text names no condition of this design.
    """
    base, plus, rest = text.partition("+")
    failures = _NEXT_FAILURE.split(rest) if plus else []
    dead = tuple(_dead_source(design, failure) for failure in failures if failure != STUCK_ON)
    room_c, day, rh = _seasonal_room(design, base) if base in SEASONAL else _explicit_room(base)
    return Condition(text, room_c, day, rh, dead, STUCK_ON in failures)


def _seasonal_room(design: Design, base: str) -> tuple[float, bool, float]:
    """Temperature, whether it is day, and humidity of ``winter-day`` and so on."""
    season, time = base.split("-")
    room = design.room.winter if season == "winter" else design.room.summer
    room_c = room.day_c if time == "day" else room.night_c
    return room_c, time == "day", USUAL_ROOM_RH if room.rh is None else room.rh


def _explicit_room(base: str) -> tuple[float, bool, float]:
    """The same of ``room=18.5,day``."""
    explicit = _ROOM.fullmatch(base)
    if explicit is None:
        raise _no_condition(f"'{base}' is no condition; use one of {', '.join(SEASONAL)}, or room=18.5,day.")
    room_c = float(explicit[1])
    if not ROOM_LIMITS_C[0] <= room_c <= ROOM_LIMITS_C[1]:
        raise _no_condition(f"a room of {room_c:g} °C is outside {ROOM_LIMITS_C[0]:g} to {ROOM_LIMITS_C[1]:g} °C.")
    return room_c, explicit[2] == "day", USUAL_ROOM_RH


def _dead_source(design: Design, failure: str) -> str:
    kind, _, name = failure.partition(":")
    if kind != "dead":
        raise _no_condition(f"'{failure}' is no failure; use stuck-on or dead:NAME.")
    if name not in {part.name for part in design.powered}:
        raise _no_condition(f"no heater, light or UV lamp is called '{name}'.")
    return name


def _no_condition(sentence: str) -> BadDesignError:
    return BadDesignError([Fault("--condition", sentence)])


def solve_condition(
    design: Design, condition: Condition, start: Climate | None = None, fineness: float = 1.0
) -> Climate:
    """The climate of a design in a condition; ``fineness`` below 1 is quicker and a little less exact.

    Raises:
        NotSettledError: no steady state was found.
        NotRegulatedError: the thermostats found no rest.
    """
    return solve_climate(design, condition.situation, start, fineness)


def climate_like(climates: Mapping[Condition, Climate], name: str) -> Climate:
    """The climate of the condition of that name; where that has none, of another of the same time of day, or of any.

    Raises:
        KeyError: there are no climates.
    """

    def away(condition: Condition) -> tuple[bool, bool]:
        return condition.name != name, condition.day != name.endswith("day")

    if not climates:
        raise KeyError(name)
    return climates[min(climates, key=away)]
