"""The conditions a design is judged in: four seasonal ones, failures, and an explicit room."""

import re
from collections.abc import Mapping
from dataclasses import dataclass

from mitten.core.catalogue import Catalogue
from mitten.core.design import (
    USUAL_ROOM_RH,
    USUAL_SUMMER_RH,
    USUAL_WINTER_RH,
    BadDesignError,
    Design,
    Fault,
    Room,
    RoomSeason,
)
from mitten.core.design.amounts import celsius
from mitten.core.physics.balance.steady import SETTLED_K
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.situation import Situation
from mitten.core.physics.solving import solve_climate

SEASONAL = ("winter-day", "winter-night", "summer-day", "summer-night")
"""The extremes that a room is expected to see: to be borne."""

USUAL = ("usual-day", "usual-night")
"""The room halfway between winter and summer: what is wanted should be met in it."""

NAMED = (*SEASONAL, *USUAL)
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
    summer: float = 0.0
    """How far the year has gone from winter (0) to summer (1): which setpoints are in force."""

    @property
    def label(self) -> str:
        """In words: ``Winter day``."""
        return self._room_name("") if self._is_explicit else self._base.replace("-", " ").capitalize() + self._failures

    @property
    def within(self) -> str:
        """The same within a sentence: ``winter day``; names of parts stay as they are."""
        return self.label[:1].lower() + self.label[1:]

    @property
    def when(self) -> str:
        """When that is: ``on a winter day``, ``in a room at 25 °C by night``."""
        if not self._is_explicit:
            return f"on a {self.within}"
        room = self._room_name(" by day" if self.day else " by night")
        return f"in a {room[:1].lower()}{room[1:]}"

    @property
    def _base(self) -> str:
        return self.name.partition("+")[0]

    @property
    def _is_explicit(self) -> bool:
        """Whether it is a room of that many degrees, and none that has a name."""
        return self._base not in NAMED

    def _room_name(self, time: str) -> str:
        return f"Room at {celsius(self.room_c)}{time}{self._failures}"

    @property
    def _failures(self) -> str:
        return "".join(f", '{name}' dead" for name in self.dead) + (", stuck on" if self.stuck_on else "")

    @property
    def situation(self) -> Situation:
        """What the model solves for."""
        return Situation(self.room_c, self.day, self.rh, frozenset(self.dead), self.stuck_on, summer=self.summer)

    @property
    def is_usual(self) -> bool:
        """Whether it is one of usual days and nights, not of an extreme."""
        return self.name in USUAL


def seasonal(design: Design) -> tuple[Condition, ...]:
    """The four seasonal conditions, coldest room to warmest."""
    return tuple(read_condition(design, name) for name in SEASONAL)


def usual(design: Design) -> tuple[Condition, ...]:
    """A usual day and a usual night."""
    return tuple(read_condition(design, name) for name in USUAL)


def read_condition(design: Design, text: str) -> Condition:
    """Read ``winter-day``, ``usual-night``, ``winter-day+dead:NAME`` or ``room=18.5,day`` for a design.

    Raises:
        BadDesignError: the text names no condition of this design.
    """
    base, plus, rest = text.partition("+")
    failures = _NEXT_FAILURE.split(rest) if plus else []
    dead = tuple(_dead_source(design, failure) for failure in failures if failure != STUCK_ON)
    room_c, day, rh, summer = _named_room(design, base) if base in NAMED else _explicit_room(design, base)
    return Condition(text, room_c, day, rh, dead, STUCK_ON in failures, summer)


SUMMER = {"winter": 0.0, "usual": 0.5, "summer": 1.0}


def _named_room(design: Design, base: str) -> tuple[float, bool, float, float]:
    """Temperature, whether it is day, humidity and how far on to summer, of ``winter-day`` and so on."""
    season, time = base.split("-")
    summer, (winter_c, summer_c) = SUMMER[season], _room_c(design.room, time == "day")
    room_c = round(winter_c + (summer_c - winter_c) * summer, 3)
    winter_rh, summer_rh = humidities(design.room)
    return room_c, time == "day", winter_rh + (summer_rh - winter_rh) * summer, summer


def _room_c(room: Room, day: bool) -> tuple[float, float]:
    """The room in winter and in summer, by day or by night."""
    return (room.winter.day_c, room.summer.day_c) if day else (room.winter.night_c, room.summer.night_c)


def humidities(room: Room) -> tuple[float, float]:
    """Relative humidity (0-1) of the room in winter and in summer: as a home usually has it where none is given."""

    def humidity_of(season: RoomSeason, usual_rh: float) -> float:
        return usual_rh if season.rh is None else season.rh

    return humidity_of(room.winter, USUAL_WINTER_RH), humidity_of(room.summer, USUAL_SUMMER_RH)


def _explicit_room(design: Design, base: str) -> tuple[float, bool, float, float]:
    """The same of ``room=18.5,day``: setpoints and humidity are those of the season whose room is as warm."""
    explicit = _ROOM.fullmatch(base)
    if explicit is None:
        raise _no_condition(f"'{base}' is no condition; use one of {', '.join(NAMED)}, or room=18.5,day.")
    room_c = float(explicit[1])
    if not ROOM_LIMITS_C[0] <= room_c <= ROOM_LIMITS_C[1]:
        raise _no_condition(f"a room of {celsius(room_c)} is outside {celsius(ROOM_LIMITS_C)}.")
    day = explicit[2] == "day"
    winter_c, summer_c = _room_c(design.room, day)
    summer = min(max((room_c - winter_c) / (summer_c - winter_c), 0.0), 1.0) if summer_c > winter_c else 0.5
    winter_rh, summer_rh = humidities(design.room)
    return room_c, day, winter_rh + (summer_rh - winter_rh) * summer, summer


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
    design: Design, catalogue: Catalogue, condition: Condition, start: Climate | None = None, fineness: float = 1.0,
    settled_k: float = SETTLED_K,
) -> Climate:  # fmt: skip
    """The climate of a design in a condition, its parts as the catalogue has them; ``fineness`` below 1 is quicker
    and a little less exact, as is a larger ``settled_k``.

    Raises:
        NotSettledError: no steady state was found.
        NotRegulatedError: the thermostats found no rest.
    """
    return solve_climate(design, catalogue, condition.situation, start, fineness, settled_k=settled_k)


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
