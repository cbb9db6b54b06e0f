"""Exchange of radiation between the patches: shortwave by radiosity, longwave by grey exchange.

Matrices depend on geometry and materials alone. Arrays over patches are (n,), matrices (n, n).
"""

from collections.abc import Hashable
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import SIGMA_W_M2K4
from mitten.core.physics.linear import LuFactors, factor, solve_factored


@dataclass(frozen=True)
class SurfaceOptics:
    """What each patch does with radiation, all (n,) shares.

    Shortwave: ``absorbed + transmitted + reflected = 1``. Longwave: ``own`` is the emissivity of what is at the
    patch's temperature, ``open`` the share that sees the room; the rest is reflected.
    """

    short_absorbed: Array
    short_transmitted: Array
    long_own: Array
    long_open: Array

    @property
    def short_reflected(self) -> Array:
        """Shortwave share thrown back, diffusely."""
        return 1.0 - self.short_absorbed - self.short_transmitted

    @property
    def long_reflected(self) -> Array:
        """Longwave share thrown back, diffusely."""
        return 1.0 - self.long_own - self.long_open


@dataclass(frozen=True)
class RadiationNetwork:
    """The exchange matrices over exposed areas.

    ``short_factors``: LU factors of the step from total back to direct irradiance. ``long_arriving``: leaving (emitted
    or first reflected) radiation to arriving irradiance.
    """

    view: Array
    areas_m2: Array
    optics: SurfaceOptics
    short_factors: LuFactors
    long_arriving: Array

    @cached_property
    def known(self) -> dict[Hashable, Any]:
        """What was worked out with these matrices and is asked for again."""
        return {}

    @cached_property
    def room_taken_m2(self) -> Array:
        """Area (n,) by which each patch takes up the room's black radiation through the lid's openings."""
        return np.asarray(self.areas_m2 * self.optics.long_own * (self.long_arriving @ self.optics.long_open))

    @property
    def long_loss(self) -> Array:
        """Matrix (n, n) from sigma T^4 to the net longwave loss in W of each patch, without the room's part."""
        own = self.optics.long_own
        matrix = -(self.areas_m2 * own)[:, None] * self.long_arriving * own[None, :]
        matrix[np.diag_indices_from(matrix)] += self.areas_m2 * own
        return matrix


def build_network(view: Array, areas_m2: Array, optics: SurfaceOptics) -> RadiationNetwork:
    """Solve both radiosity problems once: J = e + r F J for every unit of e."""
    identity = np.eye(len(areas_m2))
    reflecting = identity - view * optics.long_reflected[None, :]
    long_arriving = solve_factored(factor(reflecting), view)
    return RadiationNetwork(view, areas_m2, optics, _short_factors(view, optics), long_arriving)


def with_optics(network: RadiationNetwork, optics: SurfaceOptics) -> RadiationNetwork:
    """The network with other shortwave shares; its longwave shares must be the same."""
    return replace(network, optics=optics, short_factors=_short_factors(network.view, optics))


def _short_factors(view: Array, optics: SurfaceOptics) -> LuFactors:
    return factor(np.eye(len(view)) - view * optics.short_reflected[None, :])


@dataclass(frozen=True)
class Absorbed:
    """What lamps leave in the patches, and what leaves the enclosure as radiation."""

    short_arriving_w_m2: Array
    long_arriving_w_m2: Array
    absorbed_w: Array
    lost_w: float


def short_arriving(network: RadiationNetwork, direct: Array) -> Array:
    """Shortwave (n,), W/m2, that arrives with all reflections where so much comes straight."""
    return solve_factored(network.short_factors, direct)


def long_arriving(network: RadiationNetwork, direct: Array) -> Array:
    """The same of longwave from outside the surfaces' own exchange."""
    return np.asarray(direct + network.long_arriving @ (network.optics.long_reflected * direct))


def absorbed_of(network: RadiationNetwork, short: Array, long: Array) -> Absorbed:
    """What is left in the patches of what arrives (n,), W/m2, in both bands."""
    optics, areas = network.optics, network.areas_m2
    absorbed = areas * (optics.short_absorbed * short + optics.long_own * long)
    lost = float(areas @ (optics.short_transmitted * short + optics.long_open * long))
    return Absorbed(short, long, absorbed, lost)


def absorb(network: RadiationNetwork, short_direct: Array, long_direct: Array) -> Absorbed:
    """Distribute the lamps' direct irradiance (n,), W/m2, of both bands with all reflections."""
    return absorbed_of(network, short_arriving(network, short_direct), long_arriving(network, long_direct))


def emissive_power_w_m2(kelvin: Array) -> Array:
    """sigma T^4 (n,)."""
    return np.asarray(SIGMA_W_M2K4 * np.square(np.square(kelvin)))


def opening_gain_w(network: RadiationNetwork, seen_k: float) -> Array:
    """Longwave (n,) in W that the patches gain through the lid's openings from what is over it, at ``seen_k``."""
    return np.asarray(network.room_taken_m2 * SIGMA_W_M2K4 * seen_k**4)


def open_loss_w(network: RadiationNetwork, kelvin: Array, seen_k: float) -> float:
    """Net longwave in W that leaves through the lid's openings, patches at ``kelvin`` (n,)."""
    optics = network.optics
    room = SIGMA_W_M2K4 * seen_k**4
    arriving = network.long_arriving @ (optics.long_own * emissive_power_w_m2(kelvin) + optics.long_open * room)
    return float(network.areas_m2 @ (optics.long_open * (arriving - room)))
