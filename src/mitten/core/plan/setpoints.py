"""The settings that bring the basking place where it is wanted, in winter and in summer."""

from collections.abc import Mapping
from dataclasses import dataclass

from mitten.core.catalogue import Targets
from mitten.core.physics.balance.thermostats import Regulated
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.solving import setpoint_for

HALF_DEGREES = 2
"""Thermostats are set in steps of half a degree."""


@dataclass(frozen=True)
class DaySettings:
    """What the basking surface is brought to, and what the control's probe reads then in each season: None where the
    control regulates nothing.
    """

    target_c: float
    found: Mapping[str, Regulated | None]

    @property
    def settings_c(self) -> dict[str, float]:
        """By season what it can be set to; none for one in which no power brings the place there."""
        return {
            season: round(one.probe_c * HALF_DEGREES) / HALF_DEGREES
            for season, one in self.found.items()
            if one is not None and one.status == "regulates"
        }


def day_settings(winter: Climate, summer: Climate, control: str, targets: Targets) -> DaySettings:
    """The settings by day that bring the basking surface to the middle of what is wanted."""
    target_c = sum(targets.basking_surface_c) / 2
    found = {
        season: setpoint_for(climate, control, lambda now: now.basking.surface_c, target_c)
        for season, climate in (("winter", winter), ("summer", summer))
    }
    return DaySettings(target_c, found)
