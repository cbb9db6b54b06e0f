"""The conditions a design is judged in: four seasonal ones, failures, and an explicit room."""

import re
from dataclasses import dataclass
from typing import Literal

from mitten.core.design import BadDesignError, Design, Fault, Heater
from mitten.core.physics.climate import Climate, solve_climate
from mitten.core.physics.steady import SteadyState

Season = Literal["winter", "summer"]
SEASONAL = ("winter-day", "winter-night", "summer-day", "summer-night")
_ROOM = re.compile(r"room=(-?\d+(?:\.\d+)?),(day|night)")
ROOM_LIMITS_C = (-10.0, 50.0)


@dataclass(frozen=True)
class Condition:
    """A room temperature by day or night, and heaters that have failed."""

    name: str
    room_c: float
    day: bool
    dead: tuple[str, ...] = ()

    @property
    def label(self) -> str:
        """In words: ``Winter day``."""
        base = self.name.partition("+")[0]
        words = base.replace("-", " ").capitalize() if base in SEASONAL else f"Room at {self.room_c:g} °C"
        return words + "".join(f", '{name}' dead" for name in self.dead)


def seasonal(design: Design) -> tuple[Condition, ...]:
    """The four seasonal conditions, coldest room to warmest."""
    return tuple(read_condition(design, name) for name in SEASONAL)


def read_condition(design: Design, text: str) -> Condition:
    """Read ``winter-day``, ``winter-day+dead:NAME`` or ``room=18.5,day`` for a design.

    Raises:
        BadDesignError: the text names no condition of this design.
    """
    base, *failures = text.split("+")
    dead = tuple(_dead_heater(design, failure) for failure in failures)
    if base in SEASONAL:
        season, time = base.split("-")
        room = design.room.winter if season == "winter" else design.room.summer
        return Condition(text, room.day_c if time == "day" else room.night_c, time == "day", dead)
    explicit = _ROOM.fullmatch(base)
    if explicit is None:
        raise _no_condition(f"'{base}' is no condition; use one of {', '.join(SEASONAL)}, or room=18.5,day.")
    room_c = float(explicit[1])
    if not ROOM_LIMITS_C[0] <= room_c <= ROOM_LIMITS_C[1]:
        raise _no_condition(f"a room of {room_c:g} °C is outside {ROOM_LIMITS_C[0]:g} to {ROOM_LIMITS_C[1]:g} °C.")
    return Condition(text, room_c, explicit[2] == "day", dead)


def _dead_heater(design: Design, failure: str) -> str:
    if failure == "stuck-on":
        raise _no_condition("this version of Mitten does not compute thermostats yet, so none can be stuck on.")
    kind, _, name = failure.partition(":")
    if kind != "dead":
        raise _no_condition(f"'{failure}' is no failure; use dead:NAME.")
    if name not in {heater.name for heater in design.heaters}:
        raise _no_condition(f"no heater is called '{name}'.")
    return name


def _no_condition(sentence: str) -> BadDesignError:
    return BadDesignError([Fault("--condition", sentence)])


def running_heaters(design: Design, condition: Condition) -> tuple[Heater, ...]:
    """The heaters that run in a condition."""
    times = ("day", "always") if condition.day else ("night", "always")
    return tuple(heater for heater in design.heaters if heater.on in times and heater.name not in condition.dead)


def solve_condition(design: Design, condition: Condition, start: SteadyState | None = None) -> Climate:
    """The climate of a design in a condition.

    Raises:
        NotSettledError: no steady state was found.
    """
    return solve_climate(design, condition.room_c, running_heaters(design, condition), start=start)
