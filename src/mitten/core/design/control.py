"""What regulates the heaters: thermostats with their probes, dimmers, timers."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from mitten.core.design.base import Name, Noun, PositionM

ControlKind = Literal["on-off", "pulse", "dimming", "dimmer", "timer"]
THERMOSTATS: frozenset[ControlKind] = frozenset({"on-off", "pulse", "dimming"})
"""Kinds that follow a probe; a hand dimmer and a timer follow nothing."""

Reads = Literal["air", "surface", "heater", "base", "hide"]
SetpointC = Annotated[float, Field(ge=-5.0, le=90.0)]


class Probe(Noun):
    """A thermostat's probe: where it is, what it reads there, and whether it is shaded from the beams.

    ``heater`` reads the hottest of the control's own heaters, ``base`` the bottom of the substrate, ``hide`` the air
    inside the hide nearest to it.
    """

    x_m: PositionM
    y_m: PositionM
    z_m: PositionM
    reads: Reads = "air"
    shaded: bool = False


class Control(Noun):
    """A control and its setpoints; without a setpoint for a time of day its heaters are off then."""

    name: Name
    kind: ControlKind
    day_c: SetpointC | None = None
    night_c: SetpointC | None = None
    band_k: Annotated[float, Field(gt=0.0, le=15.0)] = 1.0
    max_watts: Annotated[float, Field(gt=0.0, le=5000.0)] | None = None
    fail: Literal["off", "on", "unknown"] = "unknown"
    probe: Probe | None = None

    @property
    def is_thermostat(self) -> bool:
        """Whether it follows a probe."""
        return self.kind in THERMOSTATS

    def setpoint_c(self, day: bool) -> float | None:
        """The setpoint by day or night; None where it gives no heat."""
        return self.day_c if day else self.night_c

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.is_thermostat and self.probe is None:
            raise ValueError("a thermostat needs a probe.")
        if self.is_thermostat and self.day_c is None and self.night_c is None:
            raise ValueError("a thermostat needs day_c or night_c, the temperature it is set to.")
        if not self.is_thermostat and (self.probe or self.day_c is not None or self.night_c is not None):
            raise ValueError(f"a {self.kind} follows no probe: leave out probe, day_c and night_c.")
        return self
