"""One design under one room temperature with some of its heaters running: the temperatures by name.

This is the door of the thermal model: a design goes in, named figures and fields come out.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from mitten.core.catalogue import Catalogue, load_catalogue
from mitten.core.design import Design, Heater, Site
from mitten.core.physics.balance import Surroundings
from mitten.core.physics.constants import ZERO_C_K, value
from mitten.core.physics.fields import SurfaceField, air_at, floor_field, ground_at_depth, site_field
from mitten.core.physics.geometry import Array
from mitten.core.physics.prepared import prepare
from mitten.core.physics.sources import lamp_of
from mitten.core.physics.steady import SteadyState, solve_steady, without_factors

LOW_AIR_M = 0.05
"""Height above ground or site at which its air is measured."""

END_SHARE = 1 / 3
"""The warm end and the cool end are this share of the length each."""

NEAR_MIDDLE_M = 0.02


@dataclass(frozen=True)
class SiteClimate:
    """At a site: hottest spot of its top, air just above it, strongest irradiance on it."""

    surface_c: float
    air_c: float
    irradiance_w_m2: float


@dataclass(frozen=True)
class AirClimate:
    """Air by name: low air at the warm end, in the middle and at the cool end, the top layer, and the mean.

    In a box taller than long, the warm end is the air beside the basking site and the cool end all low air.
    """

    warm_c: float
    middle_c: float
    cool_c: float
    top_c: float
    mean_c: float


@dataclass(frozen=True, eq=False)
class Climate:
    """What the model says of a design in one condition."""

    design: Design
    state: SteadyState
    warm_is_right: bool

    def to_keep(self) -> "Climate":
        """The same climate without what only a next solution needs."""
        return replace(self, state=without_factors(self.state))

    @property
    def room_c(self) -> float:
        """The room's temperature."""
        return self.state.surroundings.room_c

    @cached_property
    def floor(self) -> SurfaceField:
        """The ground's surface."""
        return floor_field(self.state)

    @cached_property
    def site_fields(self) -> dict[str, SurfaceField]:
        """The top of every site, by name."""
        materials = load_catalogue().site_materials
        return {
            site.name: site_field(self.state, index, materials[site.material].conductivity_w_mk)
            for index, site in enumerate(self.design.sites)
        }

    @cached_property
    def sites(self) -> dict[str, SiteClimate]:
        """Figures of every site, by name."""
        return {site.name: self._site(site) for site in self.design.sites}

    def _site(self, site: Site) -> SiteClimate:
        field = self.site_fields[site.name]
        above_m = site.top_m(self.design.substrate.depth_m) + LOW_AIR_M
        return SiteClimate(
            surface_c=field.hottest()[0],
            air_c=float(air_at(self.state, site.x_m, above_m)),
            irradiance_w_m2=float(field.irradiance_w_m2.max()),
        )

    @cached_property
    def air(self) -> AirClimate:
        """Air temperatures by name."""
        middle = float(air_at(self.state, self.design.enclosure.length_m / 2, self.low_air_m))
        low = self.low_air_along(self.state.prepared.zones.centres_x_m)
        warm, cool = self._ends(low)
        if self.slopes_upwards:
            warm, cool = self._high_air_c(), float(low.mean())
        air_c = self.state.air_c
        return AirClimate(warm, middle, cool, float(air_c[:, -1].max()), float(air_c.mean()))

    @property
    def slopes_upwards(self) -> bool:
        """Whether the box is taller than long, so that the animal finds its warm side above its cool side."""
        return self.design.enclosure.height_m > self.design.enclosure.length_m

    def _high_air_c(self) -> float:
        """Air beside the basking site; without one, at two thirds of the height under the heaters' side."""
        site, box = self.design.basking_site, self.design.enclosure
        if site is not None:
            return self.sites[site.name].air_c
        x_m = box.length_m * (5 / 6 if self.warm_is_right else 1 / 6)
        return float(air_at(self.state, x_m, box.height_m * 2 / 3))

    @property
    def low_air_m(self) -> float:
        """Height above the floor panel at which low air is measured."""
        return self.design.substrate.depth_m + LOW_AIR_M

    def _ends(self, along_x: Array) -> tuple[float, float]:
        """Means of a quantity (columns,) over the warm end and the cool end."""
        count = max(1, round(len(along_x) * END_SHARE))
        left, right = float(along_x[:count].mean()), float(along_x[-count:].mean())
        return (right, left) if self.warm_is_right else (left, right)

    @cached_property
    def base_c(self) -> float:
        """Hottest place at the bottom of the substrate: what a burrowing animal meets."""
        return float(ground_at_depth(self.state, self.design.substrate.depth_m).max())

    @cached_property
    def mesh_c(self) -> float:
        """Hottest the lid mesh's wires get: the air under them, and what they stop of a lamp's beam.

        A wire of diameter d takes what falls on d and gives it off over pi d.
        """
        prepared, state = self.state.prepared, self.state
        top = prepared.interior.span(prepared.interior.index_of("top"))
        stopped = np.sum([landed.mesh_w for landed in state.deposits], axis=0) if state.deposits else 0.0
        open_share = prepared.window.open_share if prepared.window else 1.0
        wire_m2 = (1 - open_share) * np.pi * prepared.interior.areas_m2[top]
        rise = stopped / np.maximum(wire_m2 * value("wire_film"), 1e-9)
        return float((prepared.zone_shares[top] @ state.air_c.ravel() + rise).max())

    @property
    def air_changes_per_hour(self) -> float:
        """How often the room's air replaces the enclosure's in an hour."""
        size = np.subtract(self.state.prepared.interior.box.high, self.state.prepared.interior.box.low)
        return float(self.state.exchange.total_m3_s * 3600 / size.prod())

    def emitter_c(self, heater: str) -> float:
        """Temperature of a running heater's emitter.

        Raises:
            StopIteration: no heater of that name is running.
        """
        return next(lamp.emitter_k for lamp in self.state.lamps if lamp.name == heater) - ZERO_C_K

    def surface_at(self, x_m: float, y_m: float, z_m: float) -> float:
        """Surface temperature in °C at the place of a surface nearest to a point."""
        interior = self.state.prepared.interior
        offsets = interior.centres - np.array([x_m, y_m, z_m])
        for index, surface in enumerate(interior.surfaces):
            span = interior.span(index)
            half = np.zeros(3)
            half[list(surface.in_plane)] = np.array(surface.patch_sizes) / 2
            offsets[span] = np.maximum(np.abs(offsets[span]) - half, 0.0)
        reachable = np.where(interior.exposed_m2 > 0, np.linalg.norm(offsets, axis=1), np.inf)
        patch = int(reachable.argmin())
        surface = interior.surfaces[int(np.searchsorted(interior.starts, patch, side="right")) - 1]
        if surface.kind == "floor":
            return self.floor.spot_at(x_m, y_m)
        if surface.kind == "site-top" and surface.site is not None:
            return self.site_fields[self.design.sites[surface.site].name].spot_at(x_m, y_m)
        return float(self.state.surface_c[patch])

    def air_at(self, x_m: float, z_m: float) -> float:
        """Air temperature in °C at a point."""
        return float(air_at(self.state, x_m, z_m))

    def low_air_along(self, xs_m: Array) -> Array:
        """Air temperatures in °C (m,) at the height of the low air, at places along x."""
        return air_at(self.state, xs_m, self.low_air_m)

    def ground_at(self, x_m: float, y_m: float, z_m: float) -> float:
        """Temperature in °C within the ground, at a height ``z_m`` above the floor panel."""
        deep = ground_at_depth(self.state, max(self.design.substrate.depth_m - z_m, 0.0))
        return SurfaceField(self.floor.surface, deep, deep).irradiance_at(x_m, y_m)


def solve_climate(
    design: Design,
    room_c: float,
    running: Sequence[Heater],
    catalogue: Catalogue | None = None,
    start: SteadyState | None = None,
    fineness: float = 1.0,
) -> Climate:
    """Solve a design with some heaters running at full power of their dimming.

    Raises:
        NotSettledError: no steady state was found.
    """
    known = catalogue or load_catalogue()
    prepared = prepare(design, fineness)
    lamps = [lamp_of(heater, known.lamps[heater.kind], known) for heater in running]
    state = solve_steady(prepared, lamps, Surroundings(room_c, design.room.altitude_m), start)
    return Climate(design, state, warm_is_right(design))


def warm_is_right(design: Design) -> bool:
    """Whether the warm end is the right one: where the watts are, else where the basking site is."""
    middle = design.enclosure.length_m / 2
    watts = sum(heater.watts for heater in design.heaters)
    if watts > 0:
        centre = sum(heater.watts * heater.x_m for heater in design.heaters) / watts
        if abs(centre - middle) > NEAR_MIDDLE_M:
            return centre > middle
    site = design.basking_site
    return site is None or site.x_m >= middle
