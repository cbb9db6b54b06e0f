"""A spot that an animal lies on: its surface, what the lamps send there and meters read, what a body becomes."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from mitten.core.catalogue import load_catalogue
from mitten.core.design import Design
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.balance import patch_mean
from mitten.core.physics.balance.steady import SteadyState
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K
from mitten.core.physics.radiation.exchange import emissive_power_w_m2
from mitten.core.physics.radiation.lamps import level_w_m2
from mitten.core.physics.radiation.meters import reading_share
from mitten.core.physics.radiation.spectrum import Bands
from mitten.core.physics.radiation.ultraviolet import UvSource, uv_sources
from mitten.core.physics.reading.body import Body, Place, operative_c, radiant_c
from mitten.core.physics.reading.fields import SurfaceField, air_at
from mitten.core.physics.reading.hides import inside_air_c, is_hide
from mitten.core.physics.situation import Situation

LOW_AIR_M = 0.05
"""Height above ground or site at which its air is measured."""

NO_BANDS = Bands(0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True)
class SpotFlows:
    """Where the heat of the patch under a spot goes, in W/m2: what it takes up of the lamps' radiation, what it gives
    to the air, sends out as net longwave and evaporates; the rest is conducted down and sideways.
    """

    absorbed: float
    to_air: float
    as_longwave: float
    evaporated: float

    @property
    def conducted(self) -> float:
        """Down and sideways."""
        return self.absorbed - self.to_air - self.as_longwave - self.evaporated


@dataclass(frozen=True)
class Arriving:
    """Radiation of the lamps on a level face, W/m2, straight and thrown back, and what the meters read of it.

    ``shares`` are those of what comes straight.
    """

    short_w_m2: float
    long_w_m2: float
    silicon_w_m2: float
    thermopile_w_m2: float
    shares: Bands

    @property
    def total_w_m2(self) -> float:
        """Both computing bands."""
        return self.short_w_m2 + self.long_w_m2


@dataclass(frozen=True)
class SpotClimate:
    """The hottest spot of a surface, at ``at`` (x, y) in m. Radiation and UV index are at the height of the animal's
    back; ``hide_air_c`` is the air inside, of a hide.
    """

    surface_c: float
    at: tuple[float, float]
    air_c: float
    arriving: Arriving
    uvi: float
    place: Place
    operative_c: float
    hide_air_c: float | None
    flows: SpotFlows

    @property
    def irradiance_w_m2(self) -> float:
        """All that arrives from the lamps."""
        return self.arriving.total_w_m2


@dataclass(frozen=True, eq=False)
class SpotMaker:
    """Works out spots of one state."""

    design: Design
    situation: Situation
    state: SteadyState
    body: Body
    ultraviolet: float = 1.0

    def hottest(self, field: SurfaceField, site: int | None = None) -> SpotClimate:
        """The hottest spot of the top of the site with that index; of the ground without one."""
        surface_c, (x_m, y_m) = field.hottest()
        top_m = field.surface.origin[2]
        back = np.array([x_m, y_m, top_m + self.body.back_m])
        patch = self._patch(field, x_m, y_m)
        arriving = self._arriving(back, patch)
        air_c = float(air_at(self.state, x_m, top_m + LOW_AIR_M))
        around_c = radiant_c(max(self._longwave_w_m2(patch), 1.0))
        place = Place(surface_c, air_c, around_c, arriving.short_w_m2, arriving.long_w_m2)
        return SpotClimate(
            surface_c=surface_c,
            at=(x_m, y_m),
            air_c=air_c,
            arriving=arriving,
            uvi=self._uvi(back),
            place=place,
            operative_c=operative_c(self.body, place),
            hide_air_c=None if site is None else self.hide_air_c(site),
            flows=self._flows(patch),
        )

    def irradiance_w_m2(self, field: SurfaceField, x_m: float, y_m: float) -> float:
        """All that arrives from the lamps on the animal's back at a place of a level surface."""
        back = np.array([x_m, y_m, field.surface.origin[2] + self.body.back_m])
        return self._arriving(back, self._patch(field, x_m, y_m)).total_w_m2

    def _patch(self, field: SurfaceField, x_m: float, y_m: float) -> int:
        interior = self.state.prepared.interior
        index = interior.surfaces.index(field.surface)
        return interior.starts[index] + int(field.surface.patch_at(np.array([[x_m, y_m, 0.0]]))[0])

    @cached_property
    def _straight_on_patches(self) -> tuple[Array, Array]:
        """Irradiance (n,) of both bands that comes straight from the lamps."""
        short = np.zeros(self.state.prepared.interior.patches)
        long = np.zeros_like(short)
        for lamp, landed in zip(self.state.lamps, self.state.deposits, strict=True):
            mean = patch_mean(self.state.prepared, landed.irradiance_w_m2)
            short += lamp.bands.short * mean
            long += lamp.bands.ir_c * mean
        return short, long

    def _arriving(self, back: Array, patch: int) -> Arriving:
        prepared, absorbed = self.state.prepared, self.state.absorbed
        straight_short, straight_long = self._straight_on_patches
        short = max(float(absorbed.short_arriving_w_m2[patch] - straight_short[patch]), 0.0)
        long = max(float(absorbed.long_arriving_w_m2[patch] - straight_long[patch]), 0.0)
        # What the walls throw back is read by meters as if it came straight: its spectrum is nearly the lamp's.
        readings, bands, total = np.zeros(2), np.zeros(4), 0.0
        for lamp in self.state.lamps:
            falling = level_w_m2(lamp, prepared.interior, prepared.window, back)
            parts = np.array([lamp.bands.visible, lamp.bands.ir_a, lamp.bands.ir_b, lamp.bands.ir_c])
            readings += falling * np.array([reading_share(lamp.spectrum, m) for m in ("silicon", "thermopile")])
            bands += falling * parts
            total += falling
        straight_part = float(bands[:3].sum())
        factor = 1.0 + (short / straight_part if straight_part > 0 else 0.0)
        shares = Bands(*(float(part) for part in bands / total)) if total > 0 else NO_BANDS
        return Arriving(
            straight_part + short, float(bands[3]) + long, float(readings[0]) * factor, float(readings[1]) * factor,
            shares,
        )  # fmt: skip

    def _longwave_w_m2(self, patch: int) -> float:
        """Longwave that the surfaces, and the room through openings, send to a patch."""
        network, surroundings = self.state.prepared.network, self.state.surroundings
        optics = network.optics
        room = SIGMA_W_M2K4 * surroundings.room_k**4
        leaving = optics.long_own * emissive_power_w_m2(self.state.surface_c + ZERO_C_K) + optics.long_open * room
        return float(network.long_arriving[patch] @ leaving)

    @cached_property
    def _uv_sources(self) -> tuple[UvSource, ...]:
        return tuple(uv_sources(self.design, self.situation.day, load_catalogue(), self.situation.on_date))

    def _uvi(self, back: Array) -> float:
        prepared = self.state.prepared
        falling = sum(source.uvi(prepared.interior, prepared.window, back) for source in self._uv_sources)
        return falling * self.ultraviolet

    def hide_air_c(self, site: int) -> float | None:
        """Air inside the hide of that index; None for a site that is none."""
        if not is_hide(self.design.sites[site]):
            return None
        return inside_air_c(self.state, site, self.design.sites[site])

    def _flows(self, patch: int) -> SpotFlows:
        state, network = self.state, self.state.prepared.network
        own, absorbed = network.optics.long_own, network.optics.short_absorbed
        surface_c = float(state.surface_c[patch])
        air_c = float(state.prepared.zone_shares[patch] @ state.air_c.ravel())
        taken = absorbed[patch] * state.absorbed.short_arriving_w_m2[patch]
        taken += own[patch] * state.absorbed.long_arriving_w_m2[patch]
        sent = SIGMA_W_M2K4 * (surface_c + ZERO_C_K) ** 4
        area_m2 = max(float(network.areas_m2[patch]), 1e-9)
        return SpotFlows(
            absorbed=float(taken),
            to_air=float(state.film_w_m2k[patch]) * (surface_c - air_c),
            as_longwave=float(own[patch]) * (sent - self._longwave_w_m2(patch)),
            evaporated=float(state.moisture.latent_w[patch]) / area_m2,
        )


def somewhere_even(celsius: float) -> Place:
    """A place without beams where ground, air and all around have one temperature."""
    return Place(celsius, celsius, celsius, 0.0, 0.0)
