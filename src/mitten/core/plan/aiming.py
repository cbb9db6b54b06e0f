"""What a thermostat's heat is for: the basking place, the air by day, or the nights; it is set and judged by that."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np

from mitten.core.catalogue import Catalogue, Targets
from mitten.core.design import Control, Design, Heater
from mitten.core.physics.radiation.lamps import level_shares
from mitten.core.physics.reading.climate import Climate

MOSTLY = 0.5
"""A control that gives so much of what the lamps send to the basking place makes it."""

HARDLY_W_M2 = 20.0
"""Less than this from all lamps at full power, and the place is warmed from below."""


@dataclass(frozen=True)
class Aim:
    """What is brought to a target: its key among the targets, in words, its figure in °C, and when it is judged."""

    key: str
    words: str
    figure: Callable[[Climate], float]
    target_c: float
    time: Literal["day", "night"]

    @property
    def field(self) -> str:
        """The setting of a thermostat that it asks for."""
        return f"{self.time}_c"


def aim_of(day: Climate, control: Control, targets: Targets) -> Aim | None:
    """What a control's heat is for, of a climate by day; None where it neither makes the basking place nor warms the
    air: a mat under a hide is set by what lies over it.
    """
    design, catalogue = day.design, day.catalogue
    heaters = design.heaters_of(control)
    if any(heater.on != "night" for heater in heaters) and _makes_the_basking_place(day, heaters):
        site = design.basking_site
        words = f"'{site.name}'" if site else "the warmest ground"
        return _aim("basking_surface_c", words, lambda now: now.basking.surface_c, targets, "day")
    if not any(_warms_the_air(heater, catalogue) for heater in heaters):
        return None
    if control.day_c is not None and any(heater.on != "night" for heater in heaters):
        return _aim("warm_air_c", "the warm end's air", lambda now: now.air.warm_c, targets, "day")
    return _aim("night_c", "the night's air", lambda now: now.air.cool_c, targets, "night")


def _aim(
    key: str, words: str, figure: Callable[[Climate], float], targets: Targets, time: Literal["day", "night"]
) -> Aim:
    return Aim(key, words, figure, sum(targets.wants(key)) / 2, time)


def _warms_the_air(heater: Heater, catalogue: Catalogue) -> bool:
    return catalogue.sources[heater.kind].family not in ("contact", "rock")


def _makes_the_basking_place(day: Climate, heaters: tuple[Heater, ...]) -> bool:
    """By what the lamps send there at full power; where that is next to nothing, by what lies under it."""
    names = {heater.name for heater in heaters}
    sent = {heater.name: _sent_w_m2(day, heater) for heater in day.design.heaters if heater.on != "night"}
    if sum(sent.values()) >= HARDLY_W_M2:
        return sum(w_m2 for name, w_m2 in sent.items() if name in names) >= MOSTLY * sum(sent.values())
    return any(_lies_under(day.design, heater) for heater in heaters)


def _sent_w_m2(day: Climate, heater: Heater) -> float:
    """What a lamp or panel sends straight to the basking place at full power."""
    lamp = next((one for one in day.state.lamps if one.name == heater.name), None)
    if lamp is None:
        return 0.0
    full_w = day.catalogue.sources[heater.kind].radiant_share * heater.watts * heater.dim
    lying, prepared = day.basking.lying, day.state.prepared
    height_m = min(day.basking_field.surface.origin[2] + day.body.back_m, float(prepared.interior.box.high[2]))
    places = lying.points()
    points = np.column_stack([places, np.full(len(places), height_m)])
    return float(full_w * level_shares(lamp.beam, prepared.interior, prepared.window, points).mean())


def _lies_under(design: Design, heater: Heater) -> bool:
    """Whether what heats from below lies under the basking place; anywhere, where there is none."""
    site = design.basking_site
    if site is None:
        return True
    across_m = abs(heater.x_m - site.x_m) - ((heater.length_m or 0.0) + site.length_m) / 2
    inward_m = abs(heater.y_m - site.y_m) - ((heater.depth_m or 0.0) + site.depth_m) / 2
    return heater.site == site.name or max(across_m, inward_m) < 0.0
