"""The steady state: the temperatures at which every patch and every air zone gains what it loses.

Radiation is kept in its fourth powers; films and flows are frozen in each round and renewed for the next. A round
solves the linear system of the frozen coefficients; its factors are kept while the rounds still close in quickly.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.linalg import lu_factor, lu_solve

from mitten.core.design import MittenError
from mitten.core.physics.air import mixing_flows, plume_flows, transport_matrix
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K, value
from mitten.core.physics.convection import film_w_m2k
from mitten.core.physics.geometry import SUBDIVISION, Array
from mitten.core.physics.prepared import Prepared
from mitten.core.physics.radiation import Absorbed, absorb, emissive_power_w_m2, open_loss_w, room_gain_w
from mitten.core.physics.sources import Deposit, Lamp, deposit
from mitten.core.physics.ventilation import AirExchange, air_exchange

SETTLED_K = 0.01
"""A solution is settled when no temperature moves by more than this in a whole round."""

SETTLED_ENERGY = 1e-3
"""And when energy in and out agree within this share of the input."""

MOST_ROUNDS = 80
CLOSING_FAST = 0.4
"""While each round moves less than this share of the last, the factors are kept."""

FLOW_RELAXATION = 0.6
"""Share of the new air flows taken over in a round: plumes answer strongly to the air they warm."""

FIRST_GUESS_K = 2.0


class NotSettledError(MittenError):
    """The model found no steady state for this design."""


@dataclass(frozen=True)
class Surroundings:
    """The room: air and radiant temperature, and air density by altitude."""

    room_c: float
    altitude_m: float = 0.0

    @property
    def room_k(self) -> float:
        """Room temperature in kelvin."""
        return self.room_c + ZERO_C_K

    @property
    def air_density_kg_m3(self) -> float:
        """Density of air at the altitude."""
        return float(value("air_density") * np.exp(-self.altitude_m / value("air_scale_height")))


@dataclass(frozen=True)
class Energy:
    """Power that comes in and goes out, by way. All in W."""

    in_w: float
    through_panels_w: float
    as_longwave_w: float
    as_shortwave_w: float
    with_air_w: float
    past_the_lid_w: float

    @property
    def out_w(self) -> float:
        """Sum of the ways out."""
        return (
            self.through_panels_w
            + self.as_longwave_w
            + self.as_shortwave_w
            + self.with_air_w
            + self.past_the_lid_w
        )

    @property
    def residual_w(self) -> float:
        """In less out."""
        return self.in_w - self.out_w


@dataclass(frozen=True, eq=False)
class SteadyState:
    """Temperatures in °C and what they came from.

    ``surface_c`` (n,), ``air_c`` (columns, layers), ``film_w_m2k`` (n,); ``lamps`` and ``deposits`` in one order.
    ``rounds`` and ``last_move_k`` say how the solution settled.
    """

    prepared: Prepared
    surroundings: Surroundings
    surface_c: Array
    air_c: Array
    film_w_m2k: Array
    lamps: tuple[Lamp, ...]
    deposits: tuple[Deposit, ...]
    absorbed: Absorbed
    exchange: AirExchange
    energy: Energy
    rounds: int
    last_move_k: float


@dataclass(frozen=True, eq=False)
class _Load:
    """What the lamps give: power (n,) into the patches, body heat (columns, layers) into the air."""

    lamps: tuple[Lamp, ...]
    deposits: tuple[Deposit, ...]
    absorbed: Absorbed
    patch_w: Array
    body_w: Array


@dataclass(frozen=True, eq=False)
class _Coefficients:
    """Frozen for a round: films times areas (n,) and the air's transport (m, m), both in W/K."""

    film_w_k: Array
    transport_w_k: Array
    exchange: AirExchange
    net: tuple[Array, Array]


def solve_steady(
    prepared: Prepared, lamps: Sequence[Lamp], surroundings: Surroundings, start: SteadyState | None = None
) -> SteadyState:
    """Solve for the steady state; ``start`` is a nearby solution of the same enclosure to begin from.

    Raises:
        NotSettledError: the temperatures did not settle within the rounds allowed.
    """
    load = _load(prepared, lamps)
    surface_k, air_k = _first_guess(prepared, surroundings, start)
    coefficients = _coefficients(prepared, surroundings, load, surface_k, air_k, None)
    factors = None
    last_move = np.inf
    for rounds in range(1, MOST_ROUNDS + 1):
        surface_gap, air_gap = _gaps(prepared, surroundings, load, coefficients, surface_k, air_k)
        if factors is None:
            factors = _Factors.of(prepared, coefficients, surface_k)
        surface_move, air_move = factors.solve(surface_gap, air_gap)
        surface_k, air_k = surface_k + surface_move, air_k + air_move.reshape(air_k.shape)
        move = float(max(np.abs(surface_move).max(), np.abs(air_move).max()))
        coefficients = _coefficients(prepared, surroundings, load, surface_k, air_k, coefficients)
        if move < SETTLED_K:
            energy = _energy(prepared, surroundings, load, coefficients, surface_k, air_k)
            if abs(energy.residual_w) <= SETTLED_ENERGY * energy.in_w + 1e-9:
                return SteadyState(
                    prepared, surroundings, surface_k - ZERO_C_K, air_k - ZERO_C_K,
                    coefficients.film_w_k / np.maximum(prepared.convecting_m2, 1e-12),
                    load.lamps, load.deposits, load.absorbed, coefficients.exchange, energy, rounds, move,
                )  # fmt: skip
        if move > CLOSING_FAST * last_move:
            factors = None
        last_move = move
    raise NotSettledError(
        f"No steady state was found: after {MOST_ROUNDS} rounds temperatures still move by {last_move:.2g} K."
    )


def _first_guess(
    prepared: Prepared, surroundings: Surroundings, start: SteadyState | None
) -> tuple[Array, Array]:
    if start is not None and start.prepared is prepared:
        return start.surface_c + ZERO_C_K, start.air_c + ZERO_C_K
    zones = prepared.zones
    air_k = np.full((zones.columns, zones.layers), surroundings.room_k)
    return np.full(prepared.interior.patches, surroundings.room_k + FIRST_GUESS_K), air_k


def _load(prepared: Prepared, lamps: Sequence[Lamp]) -> _Load:
    interior, zones = prepared.interior, prepared.zones
    deposits = tuple(deposit(lamp, interior, prepared.window) for lamp in lamps)
    short = np.zeros(interior.patches)
    long = np.zeros(interior.patches)
    patch_w = np.zeros(interior.patches)
    body_w = np.zeros((zones.columns, zones.layers))
    top = interior.span(interior.index_of("top"))
    for lamp, landed in zip(lamps, deposits, strict=True):
        mean = patch_mean(prepared, landed.irradiance_w_m2)
        short += lamp.bands.short * mean
        long += lamp.bands.ir_c * mean
        patch_w[top] += landed.mesh_w
        body_w[zones.column_of(np.array([lamp.position[0]]))[0], -1] += lamp.body_into_air_w
    absorbed = absorb(prepared.network, short, long)
    return _Load(tuple(lamps), deposits, absorbed, patch_w + absorbed.absorbed_w, body_w)


def patch_mean(prepared: Prepared, at_points: Array) -> Array:
    """Mean (n,) over the radiating area of each patch of a density given at the sub-points."""
    interior = prepared.interior
    whole = at_points.reshape(interior.patches, SUBDIVISION**2).mean(axis=1) * interior.areas_m2
    radiating = interior.radiating_m2
    return np.divide(whole, radiating, out=np.zeros_like(whole), where=radiating > 0)


def _coefficients(
    prepared: Prepared, surroundings: Surroundings, load: _Load, surface_k: Array, air_k: Array,
    last: _Coefficients | None,
) -> _Coefficients:  # fmt: skip
    zones, density = prepared.zones, surroundings.air_density_kg_m3
    mean_k = float(air_k.mean())
    difference = surface_k - air_k.ravel()[prepared.zone_of]
    film = film_w_m2k(difference, prepared.film_tilt, prepared.film_length_m, mean_k) * prepared.convecting_m2
    heat = np.bincount(prepared.zone_of, weights=film * difference, minlength=zones.count)
    plumes = plume_flows(zones, heat.reshape(air_k.shape), load.body_w, mean_k, density)
    exchange = air_exchange(prepared.openings, zones, mean_k, surroundings.room_k)
    net = plumes[0] + exchange.net[0], plumes[1] + exchange.net[1]
    mixing = mixing_flows(zones, air_k)
    transport = transport_matrix(zones, net, mixing, exchange.leaving) * density * value("air_heat_capacity")
    if last is not None:
        transport = last.transport_w_k + FLOW_RELAXATION * (transport - last.transport_w_k)
        exchange = _blend(last.exchange, exchange)
    return _Coefficients(film, transport, exchange, net)


def _blend(last: AirExchange, new: AirExchange) -> AirExchange:
    """Relax the exchange with the room just as the transport is, so that mass still closes."""
    return replace(
        new,
        entering=last.entering + FLOW_RELAXATION * (new.entering - last.entering),
        leaving=last.leaving + FLOW_RELAXATION * (new.leaving - last.leaving),
    )


def _gaps(
    prepared: Prepared, surroundings: Surroundings, load: _Load, coefficients: _Coefficients,
    surface_k: Array, air_k: Array,
) -> tuple[Array, Array]:  # fmt: skip
    """Gain less loss in W of every patch (n,) and zone (m,)."""
    convected = coefficients.film_w_k * (surface_k - air_k.ravel()[prepared.zone_of])
    surface = (
        load.patch_w
        + room_gain_w(prepared.network, surroundings.room_k)
        - prepared.long_loss @ emissive_power_w_m2(surface_k)
        - prepared.conduction @ (surface_k - surroundings.room_k)
        - convected
    )
    entering_w_k = coefficients.exchange.entering.ravel() * _air_w_k_per_m3_s(surroundings)
    air = (
        np.bincount(prepared.zone_of, weights=convected, minlength=prepared.zones.count)
        + load.body_w.ravel()
        + entering_w_k * surroundings.room_k
        - coefficients.transport_w_k @ air_k.ravel()
    )
    return surface, air


def _air_w_k_per_m3_s(surroundings: Surroundings) -> float:
    return surroundings.air_density_kg_m3 * value("air_heat_capacity")


@dataclass(frozen=True, eq=False)
class _Factors:
    """LU factors of the frozen system with the air eliminated."""

    prepared: Prepared
    film_w_k: Array
    surfaces: tuple[Array, Array]
    air: tuple[Array, Array]

    @classmethod
    def of(cls, prepared: Prepared, coefficients: _Coefficients, surface_k: Array) -> "_Factors":
        film, zone_of, zones = coefficients.film_w_k, prepared.zone_of, prepared.zones.count
        air_matrix = coefficients.transport_w_k.copy()
        air_matrix[np.diag_indices(zones)] += np.bincount(zone_of, weights=film, minlength=zones)
        air = lu_factor(air_matrix, check_finite=False)
        by_zone = np.zeros((zones, len(film)))
        by_zone[zone_of, np.arange(len(film))] = film
        answered = lu_solve(air, by_zone, check_finite=False)
        matrix = prepared.long_loss * (4 * SIGMA_W_M2K4 * surface_k**3)
        matrix += prepared.conduction
        matrix -= film[:, None] * answered[zone_of, :]
        matrix[np.diag_indices(len(film))] += film
        return cls(prepared, film, lu_factor(matrix, overwrite_a=True, check_finite=False), air)

    def solve(self, surface_gap: Array, air_gap: Array) -> tuple[Array, Array]:
        """Moves of surfaces (n,) and air (m,) that close the gaps."""
        zone_of = self.prepared.zone_of
        air_alone = lu_solve(self.air, air_gap, check_finite=False)
        surface = lu_solve(self.surfaces, surface_gap + self.film_w_k * air_alone[zone_of], check_finite=False)
        warmed = np.bincount(zone_of, weights=self.film_w_k * surface, minlength=len(air_gap))
        return surface, lu_solve(self.air, air_gap + warmed, check_finite=False)


def _energy(
    prepared: Prepared, surroundings: Surroundings, load: _Load, coefficients: _Coefficients,
    surface_k: Array, air_k: Array,
) -> Energy:  # fmt: skip
    heat = _air_w_k_per_m3_s(surroundings)
    exchange = coefficients.exchange
    with_air = heat * float((exchange.leaving * air_k).sum() - exchange.entering.sum() * surroundings.room_k)
    return Energy(
        in_w=sum(lamp.power_w for lamp in load.lamps),
        through_panels_w=float((prepared.conduction @ (surface_k - surroundings.room_k)).sum()),
        as_longwave_w=open_loss_w(prepared.network, surface_k, surroundings.room_k),
        as_shortwave_w=load.absorbed.lost_w,
        with_air_w=with_air,
        past_the_lid_w=sum(landed.missed_w for landed in load.deposits)
        + sum(lamp.body_w - lamp.body_into_air_w for lamp in load.lamps),
    )
