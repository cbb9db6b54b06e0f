"""Cover by temperature: is there a hide where it is warm, and one where it is cool?"""

from collections.abc import Iterator
from dataclasses import dataclass
from math import nan

from mitten.core.catalogue import Targets
from mitten.core.design import Design, Site
from mitten.core.design.amounts import celsius
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.hides import is_hide

NO_COVER = {"warm": "no-cover-warm", "cool": "no-cover-cool"}
"""The rule by which a band without a hide is found."""

BESIDE_K = 1.0
"""A hide this far outside a band still serves it."""


@dataclass(frozen=True)
class Cover:
    """A band of temperature that the animal wants by day, and the hide that is in it, if there is one."""

    band: str
    low_c: float
    high_c: float
    hide: str | None
    nearest_hide: str | None
    nearest_c: float
    """The hide that comes nearest, and the temperature in it."""

    @property
    def nearest(self) -> str:
        """The hide that comes nearest and its temperature, in words."""
        if self.nearest_hide is None:
            return "there is no hide"
        return f"'{self.nearest_hide}' is at {celsius(self.nearest_c, 1)}"


def hide_temperatures(climate: Climate) -> dict[str, float]:
    """Air inside every hide; of one whose inside is not known, the air beside it."""
    design = climate.design
    return {site.name: _inside_c(climate, site) for site in design.sites if is_hide(site)}


def _inside_c(climate: Climate, site: Site) -> float:
    spot = climate.site(site.name)
    return spot.air_c if spot.hide_air_c is None else spot.hide_air_c


def cover_by_temperature(climate: Climate, targets: Targets) -> Iterator[Cover]:
    """Whether warm and cool are to be had under cover, in a climate by day."""
    inside = hide_temperatures(climate)
    warm = (min(targets.warm_air_c[0], targets.basking_operative_c[0]), targets.basking_operative_c[1])
    for band, (low_c, high_c) in (("warm", warm), ("cool", targets.cool_air_c)):
        within = [name for name, at_c in inside.items() if low_c - BESIDE_K <= at_c <= high_c + BESIDE_K]
        yield Cover(band, low_c, high_c, next(iter(within), None), *_nearest(inside, low_c, high_c))


def _nearest(inside: dict[str, float], low_c: float, high_c: float) -> tuple[str | None, float]:
    """The hide that comes nearest to a band, and its temperature."""
    if not inside:
        return None, nan
    name = min(inside, key=lambda one: max(low_c - inside[one], inside[one] - high_c))
    return name, inside[name]


def has_hide(design: Design) -> bool:
    """Whether there is any cover at all."""
    return any(is_hide(site) for site in design.sites)
