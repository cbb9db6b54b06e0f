"""A spot that an animal lies on: its surface, what the lamps send there and meters read, what a body becomes."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
import numpy.typing as npt

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.state import State
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K
from mitten.core.physics.radiation.exchange import emissive_power_w_m2
from mitten.core.physics.radiation.lamps import level_w_m2
from mitten.core.physics.radiation.meters import reading_share
from mitten.core.physics.radiation.spectrum import Bands
from mitten.core.physics.radiation.ultraviolet import UvSource, uv_sources
from mitten.core.physics.reading.body import Body, Exposure, operative_c, radiant_c
from mitten.core.physics.reading.fields import SurfaceField, air_at
from mitten.core.physics.reading.hides import inside_air_c, is_hide
from mitten.core.physics.reading.lying import Lying, belly_on, lie_on, warm_spots
from mitten.core.physics.situation import Situation
from mitten.core.physics.tweaks import NOMINAL, Tweaks

LOW_AIR_M = 0.05
"""Height above ground or site at which its air is measured."""

NO_BANDS = Bands(0.0, 0.0, 0.0, 0.0)
Indices = npt.NDArray[np.intp]


@dataclass(frozen=True)
class SpotFlows:
    """Where the heat of the surface under an animal's outline goes, in W/m2, where none lies there: what it takes up of
    the lamps' radiation, what it gives to the air, sends out as net longwave and evaporates; the rest is conducted down
    and sideways.
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
    """The hottest spot of a surface, at ``at`` (x, y) in m, and the animal that lies there.

    Radiation and UV index are the mean over its outline at the height of its back; ``uvi_most`` is the strongest on
    any part of it; ``hide_air_c`` is the air inside, of a hide.
    """

    surface_c: float
    at: tuple[float, float]
    lying: Lying
    air_c: float
    arriving: Arriving
    uvi: float
    uvi_most: float
    place: Exposure
    operative_c: float
    hide_air_c: float | None
    flows: SpotFlows

    @property
    def irradiance_w_m2(self) -> float:
        """All that arrives from the lamps."""
        return self.arriving.total_w_m2


LEAST_FREE_M2 = 1e-6
"""A patch with less than this in the open is covered: it sees nothing, and gives off nothing."""


@dataclass(frozen=True, eq=False)
class SpotMaker:
    """Works out spots of one state."""

    design: Design
    situation: Situation
    state: State
    body: Body
    catalogue: Catalogue
    tweaks: Tweaks = NOMINAL

    def hottest(self, field: SurfaceField, site: int | None = None) -> SpotClimate:
        """The hottest spot of the top of the site with that index, and an animal on it; of the ground without one.

        Where several spots are nearly as hot, the animal lies on that which warms it most: what it becomes does not
        jump when another spot is the hottest by a hair.
        """
        lyings = list(dict.fromkeys(lie_on(field, self.body, at) for at in warm_spots(field)))
        found = [self._spot(field, lying, site) for lying in lyings]
        return max(found, key=lambda one: one.operative_c)

    def _spot(self, field: SurfaceField, lying: Lying, site: int | None) -> SpotClimate:
        surface_c, at = field.hottest()
        under = self.under(field, lying)
        backs = self._backs(field, lying)
        arriving = self._arriving(backs, under)
        longwave = self._longwave_w_m2(under)
        flows = self._flows(under, longwave)
        air_c = float(air_at(self.state, lying.x_m, field.surface.origin[2] + LOW_AIR_M))
        uvi = self._uvi(backs)
        belly = belly_on(field, lying, flows.conducted, self.tweaks.belly)
        surroundings = self.state.surroundings
        place = Exposure(
            surface_c=belly.surface_c,
            air_c=air_c,
            radiant_c=radiant_c(max(float(longwave.mean()), 1.0)),
            short_w_m2=arriving.short_w_m2 * self.tweaks.skin,
            long_w_m2=arriving.long_w_m2 * self.tweaks.skin,
            belly_w_m2k=belly.conductance_w_m2k,
            ground_c=float(self.state.surface_c[under].mean()),
            speed_m_s=self._speed_m_s,
            thinness=surroundings.thinness,
        )
        return SpotClimate(
            surface_c=surface_c,
            at=at,
            lying=lying,
            air_c=air_c,
            arriving=arriving,
            uvi=float(uvi.mean()),
            uvi_most=float(uvi.max()),
            place=place,
            operative_c=operative_c(self.body, place),
            hide_air_c=None if site is None else self.hide_air_c(site),
            flows=flows,
        )

    def irradiance_w_m2(self, field: SurfaceField, x_m: float, y_m: float) -> float:
        """All that arrives from the lamps at the height of the animal's back over a place of a level surface."""
        point = Lying(x_m, y_m, 0.0, 0.0)
        return self._arriving(self._backs(field, point), self.under(field, point)).total_w_m2

    def under(self, field: SurfaceField, lying: Lying) -> Indices:
        """Numbers (m,) of the patches under an outline; of those that a slab covers nothing is read off."""
        prepared = self.state.prepared
        interior = prepared.interior
        index = interior.surfaces.index(field.surface)
        points = np.column_stack([lying.points(), np.zeros(len(lying.points()))])
        under = np.asarray(interior.starts[index] + field.surface.patch_at(points))
        free = prepared.network.areas_m2[under] > LEAST_FREE_M2
        return under[free] if free.any() else under

    def arriving(self, field: SurfaceField, lying: Lying, under: Indices) -> Arriving:
        """What the lamps send to the back of an animal that lies on patches."""
        return self._arriving(self._backs(field, lying), under)

    def _backs(self, field: SurfaceField, lying: Lying) -> Array:
        """Points (m, 3) over an outline at the height of the back, none outside the box."""
        box = self.state.prepared.interior.box
        points = lying.points()
        back_m = np.full(len(points), field.surface.origin[2] + self.body.back_m)
        return np.asarray(np.clip(np.column_stack([points, back_m]), box.low, box.high), dtype=np.float64)

    @cached_property
    def _thrown_back(self) -> tuple[Array, Array]:
        """Irradiance (n,) of both bands that does not come straight from the lamps."""
        absorbed = self.state.absorbed
        short = absorbed.short_arriving_w_m2.copy()
        long = absorbed.long_arriving_w_m2.copy()
        for lamp, landing in zip(self.state.lamps, self.state.landings, strict=True):
            short -= lamp.radiant_w * lamp.bands.short * landing.straight
            long -= lamp.radiant_w * lamp.bands.ir_c * landing.straight
        return np.maximum(short, 0.0), np.maximum(long, 0.0)

    def _arriving(self, backs: Array, under: Indices) -> Arriving:
        prepared = self.state.prepared
        short, long = (float(band[under].mean()) for band in self._thrown_back)
        # What the walls throw back is read by meters as if it came straight: its spectrum is nearly the lamp's.
        readings, bands, total = np.zeros(2), np.zeros(4), 0.0
        for lamp in self.state.lamps:
            falling = level_w_m2(lamp, prepared.interior, prepared.window, backs)
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

    @cached_property
    def _leaving_w_m2(self) -> Array:
        """Longwave (n,) that the surfaces send out, and the room through openings."""
        optics = self.state.prepared.network.optics
        room = SIGMA_W_M2K4 * (self.state.surroundings.of("top").seen_c + ZERO_C_K) ** 4
        return optics.long_own * emissive_power_w_m2(self.state.surface_c + ZERO_C_K) + optics.long_open * room

    def _longwave_w_m2(self, under: Indices) -> Array:
        """Longwave (m,) that reaches patches."""
        some, places = np.unique(under, return_inverse=True)
        return np.asarray((self.state.prepared.network.long_arriving[some] @ self._leaving_w_m2)[places])

    @property
    def _speed_m_s(self) -> float:
        """How fast the exchanged air passes through the box, as if along it."""
        size = np.subtract(self.state.prepared.interior.box.high, self.state.prepared.interior.box.low)
        return float(self.state.exchange.total_m3_s / (size[1] * size[2]))

    @cached_property
    def _uv_sources(self) -> tuple[UvSource, ...]:
        return tuple(uv_sources(self.design, self.state.sources, self.catalogue, self.situation.on_date))

    def _uvi(self, backs: Array) -> Array:
        """UV index (m,) at points."""
        prepared = self.state.prepared
        falling = sum(
            (source.uvi(prepared.interior, prepared.window, backs) for source in self._uv_sources), np.zeros(len(backs))
        )
        return np.asarray(falling * self.tweaks.ultraviolet)

    def hide_air_c(self, site: int) -> float | None:
        """Air inside the hide of that index; None for a site that is none."""
        if not is_hide(self.design.sites[site]):
            return None
        return inside_air_c(self.state, site, self.design.sites[site])

    def _flows(self, under: Indices, longwave_w_m2: Array) -> SpotFlows:
        """Mean over the patches (m,) under an outline."""
        state, network = self.state, self.state.prepared.network
        own, absorbed = network.optics.long_own[under], network.optics.short_absorbed[under]
        surface_c = state.surface_c[under]
        air_c = state.prepared.zone_shares.at_patches(state.air_c.ravel())[under]
        taken = absorbed * state.absorbed.short_arriving_w_m2[under] + own * state.absorbed.long_arriving_w_m2[under]
        sent = emissive_power_w_m2(surface_c + ZERO_C_K)
        areas_m2 = np.maximum(network.areas_m2[under], LEAST_FREE_M2)
        return SpotFlows(
            absorbed=float(taken.mean()),
            to_air=float((state.film_w_m2k[under] * (surface_c - air_c)).mean()),
            as_longwave=float((own * (sent - longwave_w_m2)).mean()),
            evaporated=float((state.moisture.latent_w[under] / areas_m2).mean()),
        )


def somewhere_even(celsius: float) -> Exposure:
    """A place without beams where ground, air and all around have one temperature."""
    return Exposure(celsius, celsius, celsius, 0.0, 0.0)
