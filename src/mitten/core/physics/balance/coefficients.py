"""Films, flows and moisture at given temperatures: what is frozen for a round of the solution.

Temperatures are in kelvin: surfaces (n,), air (columns, layers).
"""

from dataclasses import dataclass

import numpy as np

from mitten.core.physics.air.convection import film_w_m2k
from mitten.core.physics.air.moisture import Flows, MoistureBalance, dry_air, moisture_at
from mitten.core.physics.air.ventilation import AirExchange, air_exchange
from mitten.core.physics.air.zones import mixing_flows, plume_flows, transport_matrix
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.load import Load
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.surroundings import Surroundings

REFERENCE_AIR_K = 4.0
REFERENCE_ALONG_K = 1.5
REFERENCE_UP_K = 0.5
"""The moderately warm enclosure: warmer than the room, rising from column to column, less warm layer by layer."""


@dataclass(frozen=True, eq=False)
class Coefficients:
    """Frozen for a round: films times areas (n,) and the air's transport (m, m), both in W/K, and the moisture."""

    film_w_k: Array
    transport_w_k: Array
    exchange: AirExchange
    moisture: MoistureBalance


def coefficients_at(
    prepared: Prepared, surroundings: Surroundings, load: Load, surface_k: Array, air_k: Array,
    near: Coefficients | None = None,
) -> Coefficients:  # fmt: skip
    """Films and flows as the temperatures (n,) and (columns, layers) make them; ``near`` are a round before's."""
    zones, density = prepared.zones, surroundings.air_density_kg_m3
    mean_k = float(air_k.mean())
    difference = surface_k - prepared.zone_shares.at_patches(air_k.ravel())
    film = _films_w_m2k(prepared, surroundings, difference, mean_k) * prepared.convecting_m2
    heat = convected_w(prepared, film, surface_k, air_k)
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
    surface_k: Array, air_k: Array, near: MoistureBalance | None = None,
) -> MoistureBalance:  # fmt: skip
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
    assumed_k = np.where(prepared.film_tilt < 0, -REFERENCE_AIR_K, REFERENCE_AIR_K)
    film = _films_w_m2k(prepared, surroundings, assumed_k, surroundings.room_k)
    exchange = air_exchange(prepared.openings, zones, surroundings.room_k + REFERENCE_AIR_K, surroundings.room_k)
    transport = transport_matrix(zones, exchange.net, mixing_flows(zones, air_k), exchange.leaving)
    film_w_k = film * prepared.convecting_m2
    surface_k = np.full(prepared.interior.patches, surroundings.room_k)
    moisture = _moisture(prepared, surroundings, film_w_k, transport, exchange, surface_k, air_k)
    return Coefficients(film_w_k, transport * surroundings.air_w_k_per_m3_s, exchange, moisture)


def convected_w(prepared: Prepared, film_w_k: Array, surface_k: Array, air_k: Array) -> Array:
    """Heat (m,) that each zone takes from its parts of the patches."""
    shares = prepared.zone_shares
    return shares.in_zones(film_w_k * surface_k) - shares.in_zones(film_w_k) * air_k.ravel()
