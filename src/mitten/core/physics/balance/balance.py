"""The heat balance of every patch and every air zone, for given sources and room.

Temperatures here are in kelvin: surfaces (n,), air (columns, layers). Radiation is kept in its fourth powers; films
and flows are coefficients, frozen at given temperatures.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from mitten.core.design import USUAL_ROOM_RH
from mitten.core.physics.air.convection import film_w_m2k
from mitten.core.physics.air.moisture import Flows, Moisture, WaterSlopes, dry_air, moisture_at, pressure_pa, room_ratio
from mitten.core.physics.air.ventilation import AirExchange, air_exchange
from mitten.core.physics.air.zones import mixing_flows, plume_flows, transport_matrix
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.load import Load
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K, value
from mitten.core.physics.linear import LuFactors, Single, factored, solved
from mitten.core.physics.radiation.exchange import emissive_power_w_m2, open_loss_w

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
class Coefficients:
    """Frozen for a round: films times areas (n,) and the air's transport (m, m), both in W/K, and the moisture."""

    film_w_k: Array
    transport_w_k: Array
    exchange: AirExchange
    moisture: Moisture


def coefficients_at(
    prepared: Prepared, surroundings: Surroundings, load: Load, surface_k: Array, air_k: Array,
    near: Coefficients | None = None,
) -> Coefficients:  # fmt: skip
    """Films and flows as the temperatures (n,) and (columns, layers) make them; ``near`` are a round before's."""
    zones, density = prepared.zones, surroundings.air_density_kg_m3
    mean_k = float(air_k.mean())
    difference = surface_k - prepared.zone_shares @ air_k.ravel()
    film = _films_w_m2k(prepared, surroundings, difference, mean_k) * prepared.convecting_m2
    heat = _convected_w(prepared, film, surface_k, air_k)
    plumes = plume_flows(zones, heat.reshape(air_k.shape), load.plume_w, mean_k, density)
    exchange = air_exchange(prepared.openings, zones, mean_k, surroundings.room_k)
    net = plumes[0] + exchange.net[0], plumes[1] + exchange.net[1]
    transport = transport_matrix(zones, net, mixing_flows(zones, air_k), exchange.leaving)
    before = None if near is None else near.moisture
    moisture = _moisture(prepared, surroundings, film, transport, exchange, surface_k, air_k, before)
    return Coefficients(film, transport * surroundings.air_w_k_per_m3_s, exchange, moisture)


def _films_w_m2k(prepared: Prepared, surroundings: Surroundings, difference_k: Array, air_k: float) -> Array:
    """Films (n,) of patches that are so much warmer than their air."""
    return film_w_m2k(
        difference_k, prepared.film_tilt, prepared.film_length_m, air_k, prepared.least_film_w_m2k,
        surroundings.thinness,
    )  # fmt: skip


def _moisture(
    prepared: Prepared, surroundings: Surroundings, film_w_k: Array, transport: Array, exchange: AirExchange,
    surface_k: Array, air_k: Array, near: Moisture | None = None,
) -> Moisture:  # fmt: skip
    """The moisture; in a dry enclosure the room's, without the work."""
    if not prepared.evaporates:
        return dry_air(surroundings.humidity_ratio, len(surface_k), (prepared.zones.columns, prepared.zones.layers))
    flows = Flows.of(transport, exchange.entering.ravel(), surroundings.humidity_ratio, surroundings.air_density_kg_m3)
    return moisture_at(prepared.evaporating, film_w_k, flows, surface_k, air_k, surroundings.pressure_pa, near)


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
        # In single precision throughout: only the steps are solved with it, the gaps are reckoned in double.
        matrix: Single = np.empty_like(prepared.long_loss, dtype=np.float32)
        np.multiply(prepared.long_loss, 4 * SIGMA_W_M2K4 * surface_k**3, out=matrix, casting="same_kind")
        matrix += prepared.conduction
        matrix[np.diag_indices(len(film))] += film
        to_surfaces, to_air = film[:, None] * shares, shares.T * film
        slopes = coefficients.moisture.slopes
        if slopes is not None:
            _couple_water(slopes, shares, matrix, air_matrix, to_surfaces, to_air)
        air = factored(air_matrix)
        # Turned round, so that the product has the matrix's own order.
        matrix -= (solved(air, to_air).T.astype(np.float32) @ to_surfaces.T.astype(np.float32)).T
        return cls(to_surfaces, to_air, factored(matrix), air)

    def solve(self, surface_gap: Array, air_gap: Array) -> tuple[Array, Array]:
        """Moves of surfaces (n,) and air (m,) that close the gaps."""
        surface = solved(self.surfaces, surface_gap + self.to_surfaces @ solved(self.air, air_gap))
        return surface, solved(self.air, air_gap + self.to_air @ surface)


def _couple_water(
    water: WaterSlopes, shares: Array, surfaces: Array | Single, air: Array, to_surfaces: Array, to_air: Array
) -> None:
    """Add to the matrices, in place, what the water does when temperatures move: the air's humidity follows them."""
    heat, active = value("vaporisation"), np.flatnonzero(water.uptake)
    given = water.uptake[active, None] * shares[active]
    by_surfaces = np.linalg.solve(water.zones, given.T * water.surface_k[active])
    surfaces[active, active] += heat * water.uptake[active] * water.surface_k[active]
    surfaces[np.ix_(active, active)] -= heat * (given @ by_surfaces)
    if not water.fog.any():
        return
    by_air = np.linalg.solve(water.zones, np.diag(water.fog * water.air_k))
    to_surfaces[active] += heat * (given @ by_air)
    air[np.diag_indices(len(air))] += heat * water.fog * water.air_k
    air -= heat * water.fog[:, None] * by_air
    to_air[:, active] += heat * water.fog[:, None] * by_surfaces


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
