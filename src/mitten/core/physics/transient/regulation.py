"""Who feeds the sources: clock, thermostats and what has failed, minute by minute."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from mitten.core.design.heater import OnWhen

DAY_MIN = 1440.0
SwitchKind = Literal["on-off", "proportional"]

LEAST_SWITCH_S = 15.0
"""No thermostat switches again within this time."""


@dataclass(frozen=True)
class Clock:
    """When it is day: from a minute of the day, for so many minutes; lamps come up and go down in ``ramp_min``.

    ``after_dark_min`` are minutes that sources run on, by name.
    """

    day_from_min: float
    day_min: float
    ramp_min: float = 0.0
    after_dark_min: tuple[tuple[str, float], ...] = ()

    def is_day(self, minute: float) -> bool:
        """Whether the lamps' day has begun and not ended."""
        return (minute - self.day_from_min) % DAY_MIN < self.day_min

    def allows(self, name: str, on: OnWhen, ramps: bool, minute: float) -> float:
        """The share of its power (0-1) that the clock lets a source have."""
        if on == "always":
            return 1.0
        longer_min = dict(self.after_dark_min).get(name, 0.0)
        since_min = (minute - self.day_from_min) % DAY_MIN
        lasts_min = min(self.day_min + longer_min, DAY_MIN)
        runs = since_min < lasts_min
        if on == "night":
            return 0.0 if self.is_day(minute) else 1.0
        if not ramps or self.ramp_min <= 0 or lasts_min >= DAY_MIN:
            return float(runs)
        return max(min(since_min / self.ramp_min, (lasts_min - since_min) / self.ramp_min, 1.0), 0.0) if runs else 0.0

    @cached_property
    def edges_min(self) -> tuple[float, ...]:
        """Minutes of the day at which something begins or ends."""
        if self.day_min >= DAY_MIN or self.day_min <= 0:
            return ()
        ends = (self.day_from_min + self.day_min + more for _, more in (*self.after_dark_min, ("", 0.0)))
        return tuple(sorted({self.day_from_min % DAY_MIN, *(end % DAY_MIN for end in ends)}))


@dataclass(frozen=True)
class Thermostat:
    """A thermostat: how it switches, its setpoints by day and by night in °C (None: off), and its band in K.

    ``stuck`` says whether it gives full power whatever it reads, or none; with ``cut_out_c`` a second one in line opens
    where the first sticks. That one has a probe of its own beside the first's: where the first's has moved,
    ``guard_probe`` is the number of the sensor that the cut-out goes by.
    """

    name: str
    kind: SwitchKind
    day_c: float | None
    night_c: float | None
    band_k: float
    cut_out_c: float | None = None
    stuck: Literal["", "on", "off"] = ""
    guard_probe: int | None = None

    def setpoint_c(self, is_day: bool) -> float | None:
        """What it holds now."""
        if self.stuck == "on":
            return self.cut_out_c
        return self.day_c if is_day else self.night_c

    @property
    def switches(self) -> bool:
        """Whether it is on or off and nothing between; a cut-out is."""
        return self.kind == "on-off" or self.stuck == "on"

    def stuck_to(self, how: Literal["on", "off"]) -> "Thermostat":
        """The same, broken."""
        return replace(self, stuck=how)


@dataclass
class Contact:
    """What an on-off thermostat does now, and since when."""

    is_closed: bool = True
    since_s: float = -1e9


def contacts(thermostats: Sequence[Thermostat]) -> dict[str, Contact]:
    """All of them closed."""
    return {thermostat.name: Contact() for thermostat in thermostats}
