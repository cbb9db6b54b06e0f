"""The heat balance of every patch and every air zone, term by term.

Temperatures here are in kelvin: surfaces (n,), air (columns, layers). Radiation is kept in its fourth powers; films
and flows are coefficients, frozen at given temperatures.
"""

from dataclasses import dataclass

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.coefficients import Coefficients, convected_w
from mitten.core.physics.balance.load import Load
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.radiation.exchange import emissive_power_w_m2

Stored = Array | float
"""Power in W that goes into storage, of every patch or zone; 0 in a steady state."""


@dataclass(frozen=True, eq=False)
class SurfaceBalance:
    """The balance of the patches, each term (n,) in W: what they are given, and the ways by which they lose it."""

    sources_w: Array
    radiation_w: Array
    conduction_w: Array
    convection_w: Array
    evaporation_w: Array
    storage_w: Stored

    @property
    def residual_w(self) -> Array:
        """What is given less what is lost."""
        lost_w = self.radiation_w + self.conduction_w + self.convection_w + self.evaporation_w
        return np.asarray(self.sources_w - lost_w - self.storage_w)


@dataclass(frozen=True, eq=False)
class AirBalance:
    """The balance of the air zones, each term (m,) in W: what sources, surfaces and fog give them, and what the air
    that leaves carries away beyond what comes in with it.
    """

    sources_w: Array
    convection_w: Array
    condensation_w: Array
    advection_w: Array
    storage_w: Stored

    @property
    def residual_w(self) -> Array:
        """What is given less what is lost."""
        given_w = self.sources_w + self.convection_w + self.condensation_w
        return np.asarray(given_w - self.advection_w - self.storage_w)


def surface_balance(
    prepared: Prepared, surroundings: Surroundings, load: Load, coefficients: Coefficients,
    surface_k: Array, air_k: Array, storage_w: Stored = 0.0,
) -> SurfaceBalance:  # fmt: skip
    """The terms of every patch."""
    return SurfaceBalance(
        sources_w=load.sources_w,
        radiation_w=prepared.long_loss @ emissive_power_w_m2(surface_k) - load.through_openings_w,
        conduction_w=prepared.sparse_conduction @ surface_k - prepared.outward_w_k * prepared.outside_k(surroundings),
        convection_w=to_the_air_w(prepared, coefficients, surface_k, air_k),
        evaporation_w=coefficients.moisture.latent_w,
        storage_w=storage_w,
    )


def to_the_air_w(prepared: Prepared, coefficients: Coefficients, surface_k: Array, air_k: Array) -> Array:
    """Heat (n,) that each patch gives to the air in front of it."""
    return np.asarray(coefficients.film_w_k * (surface_k - prepared.zone_shares.at_patches(air_k.ravel())))


def air_balance(
    prepared: Prepared, surroundings: Surroundings, load: Load, coefficients: Coefficients,
    surface_k: Array, air_k: Array, storage_w: Stored = 0.0,
) -> AirBalance:  # fmt: skip
    """The terms of every zone."""
    entering_w_k = coefficients.exchange.entering.ravel() * surroundings.air_w_k_per_m3_s
    return AirBalance(
        sources_w=load.body_w.ravel(),
        convection_w=convected_w(prepared, coefficients.film_w_k, surface_k, air_k),
        condensation_w=coefficients.moisture.fog_w.ravel(),
        advection_w=coefficients.transport_w_k @ air_k.ravel() - entering_w_k * surroundings.room_k,
        storage_w=storage_w,
    )


def residual(
    prepared: Prepared, surroundings: Surroundings, load: Load, coefficients: Coefficients,
    surface_k: Array, air_k: Array,
) -> tuple[Array, Array]:  # fmt: skip
    """Gain less loss in W of every patch (n,) and zone (m,) in a steady state."""
    at = prepared, surroundings, load, coefficients, surface_k, air_k
    return surface_balance(*at).residual_w, air_balance(*at).residual_w
