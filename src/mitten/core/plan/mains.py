"""What hangs on each outlet of the room, and what it bears for hours."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from mitten.core.design import Control, Design
from mitten.core.judge import Assessment
from mitten.core.plan.cost import running_w

TimeOfDay = Literal["day", "night"]
HEATED_CONDITIONS = ("winter-day", "winter-night", "summer-day", "summer-night")
Heat = tuple[float, ...]
"""Watts that an enclosure gives the room, in the order of ``HEATED_CONDITIONS``."""

CONTINUOUS_SHARE = 0.8
"""A load that runs for three hours or more is kept to this share of what a circuit is rated for: a usual caution; the
local code and a licensed electrician decide."""


@dataclass(frozen=True)
class OutletLoad:
    """One outlet: its watts at most, the current that they draw, and whether that is too much for hours on end."""

    outlet: str
    watts: float
    amperes: float
    continuous_limit_a: float

    @property
    def too_much(self) -> bool:
        """Whether the current is above what the circuit should carry for hours."""
        return self.amperes > self.continuous_limit_a


def outlet_loads(loads: Iterable[tuple[str, float]], volts: float, rated_a: float) -> list[OutletLoad]:
    """Loads by outlet, from pairs of an outlet and watts, by the outlet's name."""
    watts: dict[str, float] = {}
    for outlet, load_w in loads:
        watts[outlet] = watts.get(outlet, 0.0) + load_w
    limit_a = CONTINUOUS_SHARE * rated_a
    return [OutletLoad(outlet, total, total / volts, limit_a) for outlet, total in sorted(watts.items())]


def connected_w(design: Design, time: TimeOfDay) -> float:
    """Electrical power of what runs by day or by night, every thermostat giving all of its own."""
    heat = sum(heater.watts * heater.dim for heater in design.heaters if heater.on in (time, "always"))
    ultraviolet = sum(lamp.watts for lamp in design.uvb if lamp.on in (time, "always"))
    return heat + ultraviolet + (sum(light.watts for light in design.lights) if time == "day" else 0.0)


def connected_by_all_w(designs: Iterable[Design], time: TimeOfDay) -> float:
    """The same of several enclosures together."""
    return sum(connected_w(design, time) for design in designs)


def most_connected_w(design: Design) -> float:
    """Electrical power of what runs at once, at most."""
    return max(connected_w(design, "day"), connected_w(design, "night"))


def load_of_control_w(design: Design, control: Control) -> float:
    """Printed watts of all that hangs on a control."""
    return sum(heater.watts for heater in design.heaters_of(control))


def heat_of(assessment: Assessment) -> Heat:
    """Watts that one enclosure gives the room in each season, by day and by night: all that it draws."""
    return tuple(running_w(assessment.climate(name)) for name in HEATED_CONDITIONS)


def heat_of_all(heats: Sequence[Heat]) -> Heat:
    """What several enclosures give together."""
    return tuple(sum(heat[place] for heat in heats) for place in range(len(HEATED_CONDITIONS)))
