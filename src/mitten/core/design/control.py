"""What regulates the heaters: thermostats with their probes, dimmers, timers."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from mitten.core.design.amounts import celsius
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


class SummerSetpoints(Noun):
    """What a thermostat is set to in summer where that differs; what is left out is as in winter."""

    day_c: SetpointC | None = None
    night_c: SetpointC | None = None


class Control(Noun):
    """A control and its setpoints; without a setpoint for a time of day its heaters are off then.

    ``day_c`` and ``night_c`` are for the whole year, or for winter where ``summer`` differs. ``cut_out_c`` is the
    setting of a second thermostat in line, whose own probe is beside the first one's: it opens where the first sticks.
    """

    name: Name
    kind: ControlKind
    day_c: SetpointC | None = None
    night_c: SetpointC | None = None
    summer: SummerSetpoints | None = None
    cut_out_c: SetpointC | None = None
    band_k: Annotated[float, Field(gt=0.0, le=15.0)] = 1.0
    max_watts: Annotated[float, Field(gt=0.0, le=5000.0)] | None = None
    fail: Literal["off", "on", "unknown"] = "unknown"
    probe: Probe | None = None

    @property
    def is_thermostat(self) -> bool:
        """Whether it follows a probe."""
        return self.kind in THERMOSTATS

    def setpoint_c(self, day: bool, summer: float = 0.0) -> float | None:
        """The setpoint by day or night; None where it gives no heat.

        ``summer`` (0-1) is how far the year has gone from winter to summer: between them it is turned step by step.
        """
        in_winter = self.day_c if day else self.night_c
        own = None if self.summer is None else self.summer.day_c if day else self.summer.night_c
        if in_winter is None or own is None:
            return in_winter
        return in_winter + (own - in_winter) * summer

    @property
    def when_stuck(self) -> "Control | None":
        """What still regulates when it sticks at full power: its cut-out. None where it has none."""
        if self.cut_out_c is None:
            return None
        held = {"kind": "on-off", "day_c": self.cut_out_c, "night_c": self.cut_out_c, "summer": None}
        return self.model_copy(update=held)

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.is_thermostat:
            self._check_thermostat()
            self._check_summer()
            self._check_cut_out()
        else:
            self._check_follows_nothing()
        return self

    def _check_thermostat(self) -> None:
        if self.probe is None:
            raise ValueError("a thermostat needs a probe.")
        if self.day_c is None and self.night_c is None:
            raise ValueError("a thermostat needs a setpoint by day or by night.")

    def _check_follows_nothing(self) -> None:
        if self.probe or self.day_c is not None or self.night_c is not None:
            raise ValueError(f"a {self.kind} follows no probe: leave out its probe and setpoints.")
        if self.summer is not None or self.cut_out_c is not None:
            raise ValueError(f"a {self.kind} follows no probe: leave out its summer setpoints and cut-out.")

    def _check_summer(self) -> None:
        """A summer's setpoint stands in the place of another."""
        for time in ("day_c", "night_c") if self.summer is not None else ():
            if getattr(self.summer, time) is not None and getattr(self, time) is None:
                raise ValueError(f"a summer setpoint needs one of winter beside it ({time}).")

    def _check_cut_out(self) -> None:
        """A cut-out below a setpoint would be what regulates."""
        times = (True, False)
        set_to = [c for day in times for summer in (0.0, 1.0) if (c := self.setpoint_c(day, summer)) is not None]
        if self.cut_out_c is not None and set_to and self.cut_out_c <= max(set_to):
            raise ValueError(
                f"the cut-out, {celsius(self.cut_out_c)}, must be above every setpoint, {celsius(max(set_to))}."
            )
