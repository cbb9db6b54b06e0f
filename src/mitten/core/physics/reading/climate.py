"""What the model says of a design in one situation: the temperatures and all other figures by name."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from mitten.core.catalogue import Catalogue, Species, Targets, targets_of
from mitten.core.design import Design, Face, Heater
from mitten.core.physics.air.ceiling import jet_rise_k
from mitten.core.physics.air.moisture import SECONDS_A_WEEK, relative_humidity, wet_bulb_c
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.energy import Energy, energy_of, face_heat_w
from mitten.core.physics.balance.load import jet_over
from mitten.core.physics.balance.state import State
from mitten.core.physics.balance.steady import SteadyState
from mitten.core.physics.balance.thermostats import Regulated
from mitten.core.physics.constants import value
from mitten.core.physics.reading.body import Body, body_of, minutes_between
from mitten.core.physics.reading.fields import (
    SurfaceField,
    air_at,
    ceiling_field,
    floor_field,
    ground_at_depth,
    interpolate,
    site_field,
    underside_c,
)
from mitten.core.physics.reading.lying import Lying, WarmPatch, patch_of
from mitten.core.physics.reading.points import surface_at, within_slab_c
from mitten.core.physics.reading.spot import LOW_AIR_M, SpotClimate, SpotMaker, somewhere_even
from mitten.core.physics.reading.touch import HotPart, hot_parts
from mitten.core.physics.situation import Situation
from mitten.core.physics.tweaks import NOMINAL, Tweaks

END_SHARE = 1 / 3
"""The warm end and the cool end are this share of the length each."""

LITRES = 1000.0
ALONG = 12
"""Places along the box whose means are its ends'."""

LEAST_FALL_K = 0.1
"""A body that is less above the cool side does not cool down there."""

ALIKE_K = 1.0
"""Ends whose air differs by less than half of this are hardly a warm and a cool one."""

UPWARDS_FROM = (0.9, 1.3)
"""Height over length between which a box turns from long to tall."""

DRY_L_WEEK = 1e-3
"""Less than a millilitre a week on a face is no water."""


@dataclass(frozen=True)
class AirClimate:
    """Air by name: low air at the warm end, in the middle and at the cool end, the top layer, and the mean.

    The warm end is the warmer of the two. In a box taller than long, air beside the basking site and all low air are
    compared instead.
    """

    warm_c: float
    middle_c: float
    cool_c: float
    top_c: float
    mean_c: float


@dataclass(frozen=True)
class AirHumidity:
    """Relative humidity (0-1) of the low air at both ends and of all air, and litres of water in a week: what
    evaporates and what condenses; what leaves with the air is their difference. ``runs_down`` says how much of it
    condenses on which face or site, most first.
    """

    warm: float
    cool: float
    mean: float
    litres_a_week: float
    condensed_litres_a_week: float
    runs_down: Mapping[str, float]


@dataclass(frozen=True)
class HeaterClimate:
    """A heater: its duty (0-1), the watts it takes, and its hottest outside, where that is known."""

    duty: float
    watts: float
    hottest: HotPart | None


@dataclass(frozen=True, eq=False)
class Climate:
    """What the model says of a design in one situation, its parts as the catalogue has them.

    ``tweaks`` are what the model's parameters were moved by, ``fineness`` is that of the grid of ``state``; ``settled``
    says how it came to rest, where it did.
    """

    design: Design
    catalogue: Catalogue
    situation: Situation
    state: State
    controls: Mapping[str, Regulated]
    tweaks: Tweaks = NOMINAL
    fineness: float = 1.0
    settled: SteadyState | None = None

    def to_keep(self) -> "Climate":
        """The same climate without what only a next solution needs."""
        return self if self.settled is None else replace(self, settled=self.settled.without_factors())

    def to_show(self) -> "Climate":
        """The same climate for pictures, far smaller: nothing that asks for exchange between patches, such as
        what an animal feels, can be read from it.
        """
        return replace(self, state=replace(self.state, prepared=self.state.prepared.without_matrices()), settled=None)

    def to_tweak(self) -> "Climate":
        """The same climate with what solutions near it are found with."""
        return self if self.settled is None else replace(self, settled=self.settled.with_factors())

    @cached_property
    def energy(self) -> Energy:
        """Power that comes in and goes out."""
        return energy_of(self.state)

    @property
    def face_heat_w(self) -> Mapping[Face, float]:
        """What each outer face gives to its surroundings."""
        return face_heat_w(self.state)

    @property
    def species(self) -> Species:
        """The animal's species."""
        return self.catalogue.species[self.design.animal.species]

    @property
    def room_c(self) -> float:
        """The room's temperature."""
        return self.state.surroundings.room_c

    @property
    def warm_is_right(self) -> bool:
        """Whether the warm end is the right one: by the low air that is computed at both."""
        left_c, right_c = self._low_ends_c
        return right_c >= left_c

    @cached_property
    def _low_ends_c(self) -> tuple[float, float]:
        """Low air over the left and the right end, in °C."""
        left_c, right_c = self.means_of_ends(self.low_air_along(self.along_m))
        return float(left_c), float(right_c)

    @property
    def along_m(self) -> Array:
        """Places (m,) along the box at which figures of the low air are taken."""
        return np.asarray((np.arange(ALONG) + 0.5) / ALONG * self.design.enclosure.length_m)

    @staticmethod
    def means_of_ends(along_x: Array) -> tuple[Array, Array]:
        """Means of a quantity (ALONG, ...) over the left and the right end."""
        count = round(ALONG * END_SHARE)
        return along_x[:count].mean(axis=0), along_x[-count:].mean(axis=0)

    @cached_property
    def body(self) -> Body:
        """The animal's body."""
        return body_of(self.species, self.design.animal.stage)

    @cached_property
    def floor(self) -> SurfaceField:
        """The ground's surface."""
        return floor_field(self.state)

    @property
    def site_fields(self) -> dict[str, SurfaceField]:
        """The top of every site, by name."""
        return {site.name: self.site_field(site.name) for site in self.design.sites}

    def site_field(self, name: str) -> SurfaceField:
        """The top of one site; worked out when it is first asked for.

        Raises:
            KeyError: there is no such site.
        """
        if name not in self._known_fields:
            self._known_fields[name] = site_field(self.state, self._index_of(name))
        return self._known_fields[name]

    def _index_of(self, name: str) -> int:
        return {site.name: i for i, site in enumerate(self.design.sites)}[name]

    @cached_property
    def _spots(self) -> SpotMaker:
        return SpotMaker(self.design, self.situation, self.state, self.body, self.catalogue, self.tweaks)

    @property
    def sites(self) -> dict[str, SpotClimate]:
        """The hottest spot of every site's top, by name."""
        return {site.name: self.site(site.name) for site in self.design.sites}

    def site(self, name: str) -> SpotClimate:
        """The hottest spot of one site's top; worked out when it is first asked for.

        Raises:
            KeyError: there is no such site.
        """
        if name not in self._known_sites:
            self._known_sites[name] = self._spots.hottest(self.site_field(name), self._index_of(name))
        return self._known_sites[name]

    @cached_property
    def _known_fields(self) -> dict[str, SurfaceField]:
        return {}

    @cached_property
    def _known_sites(self) -> dict[str, SpotClimate]:
        return {}

    @cached_property
    def site_surfaces_c(self) -> dict[str, float]:
        """The hottest spot's temperature alone of every site's top, which is quick to work out."""
        return {name: field.hottest()[0] for name, field in self.site_fields.items()}

    def hide_air_c(self, name: str) -> float | None:
        """Air inside a hide; None for a site that is none."""
        return self._spots.hide_air_c(self._index_of(name))

    def irradiance_at(self, field: SurfaceField, x_m: float, y_m: float) -> float:
        """All that arrives from the lamps at a place of the ground or of a site's top, in W/m2."""
        return self._spots.irradiance_w_m2(field, x_m, y_m)

    @cached_property
    def ground(self) -> SpotClimate:
        """The ground's hottest spot, where an animal without a basking site lies."""
        return self._spots.hottest(self.floor)

    @property
    def basking(self) -> SpotClimate:
        """The basking site; without one, the ground's hottest spot."""
        site = self.design.basking_site
        return self.site(site.name) if site else self.ground

    @property
    def lying(self) -> Lying:
        """How the animal lies where it basks."""
        return self.basking.lying

    @cached_property
    def patch(self) -> WarmPatch:
        """The part of the basking surface within the wanted band, against the animal's outline."""
        return self.patch_within(self._targets.basking_surface_c)

    def patch_within(self, span_c: tuple[float, float]) -> WarmPatch:
        """The part of the basking surface within a range of temperature, against the animal's outline."""
        return patch_of(self.basking_field, self.basking.lying, span_c, self.body)

    @property
    def warm_up_minutes(self) -> float | None:
        """Minutes in which the animal comes from the cool side's temperature to the low end of its wanted body
        temperature at the basking place; None if it never does.
        """
        wanted_c, begun_c = self._targets.basking_operative_c[0], self.air.cool_c
        return 0.0 if begun_c >= wanted_c else minutes_between(self.body, self.basking.place, begun_c, wanted_c)

    @property
    def cool_down_minutes(self) -> float | None:
        """Minutes after lights-out in which it falls from there half of the way to the cool side's temperature; None
        where it has nowhere to fall to.
        """
        warm_c, cool_c = self.basking.operative_c, self.air.cool_c
        if warm_c - cool_c < LEAST_FALL_K:
            return None
        return minutes_between(self.body, somewhere_even(cool_c), warm_c, (warm_c + cool_c) / 2)

    @property
    def _targets(self) -> Targets:
        return targets_of(self.design.animal, self.species)

    @property
    def basking_field(self) -> SurfaceField:
        """The surface that the animal basks on."""
        site = self.design.basking_site
        return self.site_field(site.name) if site else self.floor

    @cached_property
    def heaters(self) -> dict[str, HeaterClimate]:
        """Every heater, by name."""
        return {heater.name: self._heater(heater) for heater in self.design.heaters}

    def heater_surface_c(self, name: str) -> float:
        """The hottest outside of a heater; the room's temperature where that is not known."""
        hottest = self.heaters[name].hottest
        return self.room_c if hottest is None else hottest.celsius

    def _heater(self, heater: Heater) -> HeaterClimate:
        watts = self.state.sources.watts_of(heater.name)
        full = heater.watts * heater.dim
        parts = hot_parts(self.design, self.state, heater, self.catalogue)
        return HeaterClimate(watts / full if full > 0 else 0.0, watts, parts[0] if parts else None)

    @cached_property
    def air(self) -> AirClimate:
        """Air temperatures by name."""
        middle = float(self.air_at(self.design.enclosure.length_m / 2, self.low_air_m))
        warm, cool = max(self._low_ends_c), min(self._low_ends_c)
        upwards = self.slopes_upwards
        if upwards > 0:
            ends = sorted((self._high_air_c(), float(self.low_air_along(self.along_m).mean())))
            warm += upwards * (ends[1] - warm)
            cool += upwards * (ends[0] - cool)
        return AirClimate(warm, middle, cool, self._under_the_top_c(), float(self.state.air_c.mean()))

    def _under_the_top_c(self) -> float:
        """Hottest air under the top: that of its zones, and what rises from the lamps that hang inside."""
        state, high_m = self.state, self.design.enclosure.height_m
        found = [float(state.air_c[:, -1].max())]
        for lamp in state.lamps:
            if lamp.hangs_inside and lamp.body_w > 0:
                beside_m = np.array([lamp.beam.face_m])
                x_m, _, z_m = lamp.middle
                jet_k = jet_rise_k(lamp.body_into_air_w, high_m - z_m, lamp.beam.face_m, beside_m)
                found.append(self.air_at(x_m, high_m) + float(jet_k[0]))
        return max(found)

    @property
    def slopes_upwards(self) -> float:
        """How much the slope of temperature runs up the box rather than along it: 0 in a long one, 1 in a tall one, and
        between for boxes that are about as tall as long, so that no figure jumps at a cube.
        """
        height_of_length = self.design.enclosure.height_m / self.design.enclosure.length_m
        long, tall = UPWARDS_FROM
        return float(np.clip((height_of_length - long) / (tall - long), 0.0, 1.0))

    def _high_air_c(self) -> float:
        """Air beside the basking site; without one, at two thirds of the height over the warm end."""
        site, box = self.design.basking_site, self.design.enclosure
        if site is not None:
            return self.air_at(site.x_m, site.top_m(self.design.substrate.depth_m) + LOW_AIR_M)
        return max(self.air_at(box.length_m * end, box.height_m * 2 / 3) for end in (1 / 6, 5 / 6))

    @property
    def low_air_m(self) -> float:
        """Height above the floor panel at which low air is measured."""
        return self.design.substrate.depth_m + LOW_AIR_M

    @cached_property
    def base_c(self) -> float:
        """Hottest place at the bottom of the substrate: what a burrowing animal meets."""
        return float(ground_at_depth(self.state, self.design.substrate.depth_m).max())

    @cached_property
    def shelf_c(self) -> float:
        """Hottest place of what the box stands on."""
        below_c = self.state.surroundings.of("floor").together_c
        return below_c + self.state.prepared.shelf_share * (float(underside_c(self.state).max()) - below_c)

    @cached_property
    def humidity(self) -> AirHumidity:
        """Relative humidity by name, and the water evaporated."""
        state = self.state
        pressure = state.surroundings.pressure_pa
        rh = relative_humidity(state.moisture.ratio, state.air_c, pressure)
        zones = state.prepared.zones
        low = interpolate(rh, zones.centres_x_m, zones.centres_z_m, self.along_m, self.low_air_m)
        left, right = (float(end) for end in self.means_of_ends(low))
        # Where both ends are as warm as one another, so is their humidity: it does not jump when they change places.
        left_c, right_c = self._low_ends_c
        to_right = float(np.clip(0.5 + (right_c - left_c) / ALIKE_K, 0.0, 1.0))
        warm, cool = left + to_right * (right - left), right + to_right * (left - right)
        water = state.moisture
        return AirHumidity(
            warm, cool, float(rh.mean()), water.litres_a_week, water.condensed_litres_a_week, self._runs_down()
        )

    def _runs_down(self) -> dict[str, float]:
        """Litres a week that condense on each surface, most first; none where it is next to nothing."""
        interior, water = self.state.prepared.interior, self.state.moisture.condensation_kg_s
        found: dict[str, float] = {}
        for index, surface in enumerate(interior.surfaces):
            litres = float(water[interior.span(index)].sum()) * SECONDS_A_WEEK
            name = surface.name.partition(":")[0]
            found[name] = found.get(name, 0.0) + litres
        return dict(sorted(((k, v) for k, v in found.items() if v > DRY_L_WEEK), key=lambda item: -item[1]))

    @property
    def room_wet_bulb_c(self) -> float:
        """What evaporation alone would cool a wet thing to in the room: nothing unheated is colder."""
        surroundings = self.state.surroundings
        return wet_bulb_c(surroundings.room_c, surroundings.rh, surroundings.pressure_pa)

    @cached_property
    def ceiling_c(self) -> float:
        """Hottest place of the top's inside: over a lamp its plume meets it and its back shines on it."""
        return ceiling_field(self.state).hottest()[0]

    @cached_property
    def mesh_c(self) -> float:
        """Hottest the lid mesh's wires get: the air under them with the plumes that reach them, and what they stop of a
        lamp's beam. A wire of diameter d takes what falls on d and gives it off over pi d.
        """
        prepared, state = self.state.prepared, self.state
        top = prepared.interior.top
        stopped = np.sum([received.mesh_w for received in state.deposits], axis=0) if state.deposits else 0.0
        open_share = prepared.window.open_share if prepared.window else 1.0
        wire_m2 = (1 - open_share) * np.pi * prepared.interior.areas_m2[top]
        rise = stopped / np.maximum(wire_m2 * value("wire_film"), 1e-9)
        plumes = sum((jet_over(prepared, lamp)[top] for lamp in state.lamps if lamp.hangs_inside), np.zeros(len(rise)))
        there = prepared.mesh_share > 0
        return float(
            (prepared.zone_shares.at_patches(state.air_c.ravel())[top] + rise + plumes)[there].max(initial=self.room_c)
        )

    @property
    def ventilation_l_s(self) -> float:
        """Room air that enters, in litres a second."""
        return self.state.exchange.total_m3_s * LITRES

    @property
    def air_changes_per_hour(self) -> float:
        """How often the room's air replaces the enclosure's in an hour."""
        size = np.subtract(self.state.prepared.interior.box.high, self.state.prepared.interior.box.low)
        return float(self.state.exchange.total_m3_s * 3600 / size.prod())

    def surface_at(self, x_m: float, y_m: float, z_m: float) -> float:
        """Surface temperature in °C at the place of a surface nearest to a point."""
        return surface_at(self.state, x_m, y_m, z_m)

    def air_at(self, x_m: float, z_m: float) -> float:
        """Air temperature in °C at a point."""
        return float(air_at(self.state, x_m, z_m))

    def low_air_along(self, xs_m: Array) -> Array:
        """Air temperatures in °C (m,) at the height of the low air, at places along x."""
        return air_at(self.state, xs_m, self.low_air_m)

    def inside_at(self, x_m: float, y_m: float, z_m: float) -> float:
        """Temperature in °C within a slab, or else within the ground, at a height ``z_m`` above the floor panel."""
        ground_m = self.design.substrate.depth_m
        for index, site in enumerate(self.design.sites):
            over = site.is_under(x_m, y_m)
            if over and site.underside_m(ground_m) < z_m < site.top_m(ground_m):
                up = (z_m - site.underside_m(ground_m)) / (site.thickness_mm / 1000)
                return within_slab_c(self.state, index, self.site_field(site.name), (x_m, y_m), up)
        deep = ground_at_depth(self.state, max(ground_m - z_m, 0.0))
        return SurfaceField(self.floor.surface, deep).at(x_m, y_m)
