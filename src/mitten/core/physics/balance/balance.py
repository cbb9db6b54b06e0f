"""The heat balance of every patch and every air zone, for given sources and room.

Temperatures here are in kelvin: surfaces (n,), air (columns, layers). Radiation is kept in its fourth powers; films
and flows are coefficients, frozen at given temperatures.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from mitten.core.design import USUAL_ROOM_RH
from mitten.core.physics.air.ceiling import into_the_ceiling_w_m2, jet_rise_k
from mitten.core.physics.air.convection import film_w_m2k
from mitten.core.physics.air.moisture import Flows, Moisture, WaterSlopes, dry_air, moisture_at, pressure_pa, room_ratio
from mitten.core.physics.air.ventilation import AirExchange, air_exchange
from mitten.core.physics.air.zones import mixing_flows, plume_flows, transport_matrix
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.contact import ContactLoad, contact_load
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K, value
from mitten.core.physics.linear import LuFactors, factored, solved
from mitten.core.physics.radiation.exchange import Absorbed, absorb, emissive_power_w_m2, open_loss_w, room_gain_w
from mitten.core.physics.radiation.lamps import Deposit, Lamp, deposit, unit_deposit
from mitten.core.physics.radiation.sources import Sources
from mitten.core.physics.shape.geometry import SUBDIVISION

REFERENCE_AIR_K = 4.0
REFERENCE_ALONG_K = 1.5
REFERENCE_UP_K = 0.5
"""The moderately warm enclosure: warmer than the room, rising from column to column, less warm layer by layer."""


@dataclass(frozen=True)
class Surroundings:
    """The room: air and radiant temperature, relative humidity, and air density by altitude."""

    room_c: float
    altitude_m: float = 0.0
    rh: float = USUAL_ROOM_RH

    @property
    def room_k(self) -> float:
        """Room temperature in kelvin."""
        return self.room_c + ZERO_C_K

    @property
    def air_density_kg_m3(self) -> float:
        """Density of air at the altitude."""
        return float(value("air_density") * np.exp(-self.altitude_m / value("air_scale_height")))

    @property
    def thinness(self) -> float:
        """Density of the air over that at sea level."""
        return self.air_density_kg_m3 / value("air_density")

    @property
    def pressure_pa(self) -> float:
        """Air pressure at the altitude."""
        return pressure_pa(self.altitude_m)

    @cached_property
    def humidity_ratio(self) -> float:
        """Humidity ratio of the room's air."""
        return room_ratio(self.room_c, self.rh, self.pressure_pa)

    @property
    def air_w_k_per_m3_s(self) -> float:
        """Heat that a flow of air carries per kelvin."""
        return self.air_density_kg_m3 * value("air_heat_capacity")


@dataclass(frozen=True)
class Energy:
    """Power that comes in and goes out, by way. All in W."""

    in_w: float
    through_panels_w: float
    as_longwave_w: float
    as_shortwave_w: float
    with_air_w: float
    as_vapour_w: float
    past_the_lid_w: float

    @property
    def out_w(self) -> float:
        """Sum of the ways out."""
        as_radiation_w = self.as_longwave_w + self.as_shortwave_w
        return self.through_panels_w + as_radiation_w + self.with_air_w + self.as_vapour_w + self.past_the_lid_w

    @property
    def residual_w(self) -> float:
        """In less out."""
        return self.in_w - self.out_w


@dataclass(frozen=True, eq=False)
class Load:
    """What the temperatures do not change: power (n,) into the patches from the sources and through the lid from
    the room's surfaces, body heat (columns, layers) where the air takes it up, and the same where its plumes begin.
    """

    sources: Sources
    deposits: tuple[Deposit, ...]
    contacts: tuple[ContactLoad, ...]
    absorbed: Absorbed
    sources_w: Array
    room_w: Array
    body_w: Array
    plume_w: Array


@dataclass(frozen=True, eq=False)
class Coefficients:
    """Frozen for a round: films times areas (n,) and the air's transport (m, m), both in W/K, and the moisture."""

    film_w_k: Array
    transport_w_k: Array
    exchange: AirExchange
    moisture: Moisture


def load_of(prepared: Prepared, sources: Sources, surroundings: Surroundings) -> Load:
    """What the sources and the room give to the patches and the air of an enclosure."""
    interior, zones = prepared.interior, prepared.zones
    deposits = tuple(deposit(lamp, interior, prepared.window) for lamp in sources.lamps)
    contacts = tuple(contact_load(source, prepared) for source in sources.contacts)
    short = np.zeros(interior.patches)
    long = np.zeros(interior.patches)
    body_w = np.zeros((zones.columns, zones.layers))
    plume_w = np.zeros_like(body_w)
    jet_w = np.zeros(interior.patches)
    for lamp, landed in zip(sources.lamps, deposits, strict=True):
        mean = patch_mean(prepared, landed.irradiance_w_m2)
        short += lamp.bands.short * mean
        long += lamp.bands.ir_c * mean
        in_the_mesh = _mesh_heat(prepared, landed.mesh_w)
        body_w += in_the_mesh
        plume_w += in_the_mesh
        x_m, _, z_m = lamp.middle
        # Over two columns, so that what it warms does not depend on where their borders are.
        columns = lamp.body_into_air_w * zones.column_shares(x_m, max(lamp.reach_m, 2 * zones.sizes_m[0]))
        plume_w += np.outer(columns, zones.height_shares(z_m))
        kept = 1.0
        if lamp.hangs_inside and lamp.body_w > 0:
            above = over_the_lamp(prepared, lamp)
            long += patch_mean(prepared, above.longwave_w_m2)
            jet_w += patch_sum(prepared, above.jet_w_m2)
            # What does not land, because the lamp touches the top, warms the air as the rest does.
            landed_w = float(patch_sum(prepared, above.longwave_w_m2 + above.jet_w_m2).sum())
            kept = 1.0 + (lamp.rising_w - landed_w) / lamp.body_into_air_w
        body_w += kept * np.outer(columns, zones.rising_shares(z_m))
    absorbed = absorb(prepared.network, short, long)
    room_w = room_gain_w(prepared.network, surroundings.room_k)
    sources_w = absorbed.absorbed_w + sum((load.patch_w for load in contacts), jet_w)
    return Load(sources, deposits, contacts, absorbed, sources_w, room_w, body_w, plume_w)


def _mesh_heat(prepared: Prepared, mesh_w: Array) -> Array:
    """Heat (columns, layers) that the mesh's wires give to the air under them.

    Thin wires are closely coupled to the air that passes them and hardly to anything else, so the heat is put
    into the air, half below and half above, rather than into a plate that would also conduct.
    """
    zones, interior = prepared.zones, prepared.interior
    top = interior.span(interior.index_of("top"))
    heat = prepared.zone_shares[top].T @ mesh_w
    inside = value("mesh_heat_inside") * heat.reshape(zones.columns, zones.layers)
    return np.asarray(inside, dtype=np.float64)


def patch_mean(prepared: Prepared, at_points: Array) -> Array:
    """Mean (n,) over the radiating area of each patch of a density given at the sub-points."""
    interior = prepared.interior
    whole: Array = at_points.reshape(interior.patches, SUBDIVISION**2).mean(axis=1) * interior.areas_m2
    radiating = interior.radiating_m2
    return np.divide(whole, radiating, out=np.zeros_like(whole), where=radiating > 0)


def patch_sum(prepared: Prepared, at_points: Array) -> Array:
    """Sum (n,) over each patch, in W, of a density given at the sub-points."""
    interior = prepared.interior
    return np.asarray(at_points.reshape(interior.patches, SUBDIVISION**2).mean(axis=1) * interior.areas_m2)


@dataclass(frozen=True, eq=False)
class OverALamp:
    """What a lamp inside sends up, at the sub-points (n x SUBDIVISION^2,) in W/m2: longwave of its back, and the heat
    of its plume where that meets the solid part of the top.
    """

    longwave_w_m2: Array
    jet_w_m2: Array


def jet_over(prepared: Prepared, lamp: Lamp) -> Array:
    """Rise (n,) of a lamp's plume over the air around it where it meets the top; 0 elsewhere."""
    interior = prepared.interior
    top = interior.span(interior.index_of("top"))
    x_m, y_m, z_m = lamp.middle
    away_m = np.hypot(interior.centres[top, 0] - x_m, interior.centres[top, 1] - y_m)
    rise = np.zeros(interior.patches)
    rise[top] = jet_rise_k(lamp.body_into_air_w, interior.box.high[2] - z_m, lamp.beam.face_m, away_m)
    return rise


def over_the_lamp(prepared: Prepared, lamp: Lamp) -> OverALamp:
    """The longwave and the jet over a lamp that hangs inside; the jet takes no more than a share of its plume."""
    interior = prepared.interior
    longwave = unit_deposit(lamp.beam.upwards, interior, None).irradiance_w_m2 * lamp.rising_w
    top = interior.span(interior.index_of("top"))
    points = slice(top.start * SUBDIVISION**2, top.stop * SUBDIVISION**2)
    x_m, y_m, z_m = lamp.middle
    away_m = np.hypot(interior.points[points, 0] - x_m, interior.points[points, 1] - y_m)
    height_m = interior.box.high[2] - z_m
    jet = np.zeros(len(interior.points))
    solid = np.repeat(1.0 - prepared.mesh_share, SUBDIVISION**2)
    jet[points] = solid * into_the_ceiling_w_m2(lamp.body_into_air_w, height_m, lamp.beam.face_m, away_m)
    taken_w = float(patch_sum(prepared, jet).sum())
    most_w = value("jet_most") * lamp.body_into_air_w
    return OverALamp(longwave, jet * min(1.0, most_w / max(taken_w, 1e-12)))


def coefficients_at(
    prepared: Prepared, surroundings: Surroundings, load: Load, surface_k: Array, air_k: Array
) -> Coefficients:
    """Films and flows as the temperatures (n,) and (columns, layers) make them."""
    zones, density = prepared.zones, surroundings.air_density_kg_m3
    mean_k = float(air_k.mean())
    difference = surface_k - prepared.zone_shares @ air_k.ravel()
    film = _films_w_m2k(prepared, surroundings, difference, mean_k) * prepared.convecting_m2
    heat = _convected_w(prepared, film, surface_k, air_k)
    plumes = plume_flows(zones, heat.reshape(air_k.shape), load.plume_w, mean_k, density)
    exchange = air_exchange(prepared.openings, zones, mean_k, surroundings.room_k)
    net = plumes[0] + exchange.net[0], plumes[1] + exchange.net[1]
    transport = transport_matrix(zones, net, mixing_flows(zones, air_k), exchange.leaving)
    moisture = _moisture(prepared, surroundings, film, transport, exchange, surface_k, air_k)
    return Coefficients(film, transport * surroundings.air_w_k_per_m3_s, exchange, moisture)


def _films_w_m2k(prepared: Prepared, surroundings: Surroundings, difference_k: Array, air_k: float) -> Array:
    """Films (n,) of patches that are so much warmer than their air."""
    return film_w_m2k(
        difference_k, prepared.film_tilt, prepared.film_length_m, air_k, prepared.least_film_w_m2k,
        surroundings.thinness,
    )  # fmt: skip


def _moisture(
    prepared: Prepared, surroundings: Surroundings, film_w_k: Array, transport: Array, exchange: AirExchange,
    surface_k: Array, air_k: Array,
) -> Moisture:  # fmt: skip
    """The moisture; in a dry enclosure the room's, without the work."""
    if not prepared.evaporates:
        return dry_air(surroundings.humidity_ratio, len(surface_k), (prepared.zones.columns, prepared.zones.layers))
    flows = Flows.of(transport, exchange.entering.ravel(), surroundings.humidity_ratio, surroundings.air_density_kg_m3)
    return moisture_at(prepared.evaporating, film_w_k, flows, surface_k, air_k, surroundings.pressure_pa)


def reference_coefficients(prepared: Prepared, surroundings: Surroundings) -> Coefficients:
    """Films and flows of a moderately warm enclosure, to begin from when nothing is known yet."""
    zones = prepared.zones
    air_k = (
        surroundings.room_k
        + REFERENCE_AIR_K
        + REFERENCE_ALONG_K * np.arange(zones.columns)[:, None]
        - REFERENCE_UP_K * np.arange(zones.layers)[None, :]
    )
    lively = np.where(prepared.film_tilt < 0, -REFERENCE_AIR_K, REFERENCE_AIR_K)
    film = _films_w_m2k(prepared, surroundings, lively, surroundings.room_k)
    exchange = air_exchange(prepared.openings, zones, surroundings.room_k + REFERENCE_AIR_K, surroundings.room_k)
    transport = transport_matrix(zones, exchange.net, mixing_flows(zones, air_k), exchange.leaving)
    film_w_k = film * prepared.convecting_m2
    surface_k = np.full(prepared.interior.patches, surroundings.room_k)
    moisture = _moisture(prepared, surroundings, film_w_k, transport, exchange, surface_k, air_k)
    return Coefficients(film_w_k, transport * surroundings.air_w_k_per_m3_s, exchange, moisture)


def _convected_w(prepared: Prepared, film_w_k: Array, surface_k: Array, air_k: Array) -> Array:
    """Heat (m,) that each zone takes from its parts of the patches."""
    shares = prepared.zone_shares
    return np.asarray(shares.T @ (film_w_k * surface_k) - (film_w_k @ shares) * air_k.ravel())


def gaps(
    prepared: Prepared, surroundings: Surroundings, load: Load, coefficients: Coefficients,
    surface_k: Array, air_k: Array,
) -> tuple[Array, Array]:  # fmt: skip
    """Gain less loss in W of every patch (n,) and zone (m,)."""
    surface = (
        load.sources_w
        + load.room_w
        - coefficients.moisture.latent_w
        - prepared.long_loss @ emissive_power_w_m2(surface_k)
        - prepared.sparse_conduction @ (surface_k - surroundings.room_k)
        - coefficients.film_w_k * (surface_k - prepared.zone_shares @ air_k.ravel())
    )
    entering_w_k = coefficients.exchange.entering.ravel() * surroundings.air_w_k_per_m3_s
    air = (
        _convected_w(prepared, coefficients.film_w_k, surface_k, air_k)
        + load.body_w.ravel()
        + coefficients.moisture.fog_w.ravel()
        + entering_w_k * surroundings.room_k
        - coefficients.transport_w_k @ air_k.ravel()
    )
    return surface, air


@dataclass(frozen=True, eq=False)
class Factors:
    """LU factors of the frozen system with the air eliminated, and how air and surfaces answer to one another:
    ``to_surfaces`` (n, m) and ``to_air`` (m, n), both in W/K.
    """

    to_surfaces: Array
    to_air: Array
    surfaces: LuFactors
    air: LuFactors

    @classmethod
    def of(cls, prepared: Prepared, coefficients: Coefficients, surface_k: Array) -> "Factors":
        """Factor the system with coefficients frozen at these temperatures."""
        film, shares = coefficients.film_w_k, prepared.zone_shares
        air_matrix = coefficients.transport_w_k.copy()
        air_matrix[np.diag_indices(len(air_matrix))] += film @ shares
        matrix = prepared.long_loss * (4 * SIGMA_W_M2K4 * surface_k**3)
        matrix += prepared.conduction
        matrix[np.diag_indices(len(film))] += film
        to_surfaces, to_air = film[:, None] * shares, shares.T * film
        slopes = coefficients.moisture.slopes
        if slopes is not None:
            _couple_water(slopes, shares, matrix, air_matrix, to_surfaces, to_air)
        air = factored(air_matrix)
        matrix -= to_surfaces @ solved(air, to_air)
        return cls(to_surfaces, to_air, factored(matrix), air)

    def solve(self, surface_gap: Array, air_gap: Array) -> tuple[Array, Array]:
        """Moves of surfaces (n,) and air (m,) that close the gaps."""
        surface = solved(self.surfaces, surface_gap + self.to_surfaces @ solved(self.air, air_gap))
        return surface, solved(self.air, air_gap + self.to_air @ surface)


def _couple_water(
    water: WaterSlopes, shares: Array, surfaces: Array, air: Array, to_surfaces: Array, to_air: Array
) -> None:
    """Add to the matrices, in place, what the water does when temperatures move: the air's humidity follows them."""
    heat = value("vaporisation")
    given = water.uptake[:, None] * shares
    by_surfaces = np.linalg.solve(water.zones, given.T * water.surface_k)
    by_air = np.linalg.solve(water.zones, np.diag(water.fog * water.air_k))
    surfaces[np.diag_indices(len(surfaces))] += heat * water.uptake * water.surface_k
    surfaces -= heat * (given @ by_surfaces)
    to_surfaces += heat * (given @ by_air)
    air[np.diag_indices(len(air))] += heat * water.fog * water.air_k
    air -= heat * water.fog[:, None] * by_air
    to_air += heat * water.fog[:, None] * by_surfaces


def energy_of(
    prepared: Prepared, surroundings: Surroundings, load: Load, coefficients: Coefficients,
    surface_k: Array, air_k: Array,
) -> Energy:  # fmt: skip
    """Power in and out at these temperatures, each way reckoned on its own."""
    heat = surroundings.air_w_k_per_m3_s
    exchange = coefficients.exchange
    with_air = heat * float((exchange.leaving * air_k).sum() - exchange.entering.sum() * surroundings.room_k)
    return Energy(
        in_w=sum(source.power_w for source in load.sources.all),
        through_panels_w=float((prepared.conduction @ (surface_k - surroundings.room_k)).sum())
        + sum(contact.lost_w for contact in load.contacts),
        as_longwave_w=open_loss_w(prepared.network, surface_k, surroundings.room_k),
        as_shortwave_w=load.absorbed.lost_w,
        with_air_w=with_air,
        as_vapour_w=value("vaporisation") * coefficients.moisture.carried_kg_s,
        past_the_lid_w=sum(landed.missed_w for landed in load.deposits)
        + sum(float(landed.mesh_w.sum()) for landed in load.deposits) * (1 - value("mesh_heat_inside"))
        + sum(lamp.body_w - lamp.rising_w - lamp.body_into_air_w for lamp in load.sources.lamps),
    )
