"""The frozen system's LU factors, with which a round's step is solved.

Temperatures are in kelvin: surfaces (n,), air zones (m,).
"""

from dataclasses import dataclass

import numpy as np

from mitten.core.physics.air.moisture import WaterSlopes
from mitten.core.physics.air.zones import ZoneShares
from mitten.core.physics.arrays import Array, Single
from mitten.core.physics.balance.coefficients import Coefficients
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.constants import SIGMA_W_M2K4, value
from mitten.core.physics.linear import LuFactors, diagonal_of, factor, invert, solve_factored


@dataclass(frozen=True, eq=False)
class Slopes:
    """How the losses of surfaces and air answer to temperatures, all in W/K, the conduction through solids apart:
    ``surfaces`` (n, n) and ``air`` (m, m) to their own, ``to_surfaces`` (n, m) and ``to_air`` (m, n) what they gain of
    the other's.
    """

    surfaces: Single
    air: Array
    to_surfaces: Array
    to_air: Array

    @classmethod
    def of(cls, prepared: Prepared, coefficients: Coefficients, surface_k: Array) -> "Slopes":
        """With coefficients frozen at these temperatures."""
        film, shares = coefficients.film_w_k, prepared.zone_shares
        air_matrix = coefficients.transport_w_k.copy()
        diagonal_of(air_matrix)[...] += shares.in_zones(film)
        # In single precision throughout: only the steps are solved with it, residuals are reckoned in double.
        matrix: Single = prepared.long_loss.astype(np.float32)
        matrix *= (4 * SIGMA_W_M2K4 * surface_k**3).astype(np.float32)
        diagonal_of(matrix)[...] += film
        to_surfaces, to_air = film[:, None] * shares.shares, shares.shares.T * film
        slopes = coefficients.moisture.slopes
        if slopes is not None:
            _couple_water(slopes, shares, matrix, air_matrix, to_surfaces, to_air)
        return cls(matrix, air_matrix, to_surfaces, to_air)


@dataclass(frozen=True, eq=False)
class Factors:
    """LU factors of the frozen system with the air eliminated, how air and surfaces answer to one another,
    ``to_surfaces`` (n, m) and ``to_air`` (m, n), both in W/K, and how the ``air`` (m, m) answers in K/W.
    """

    to_surfaces: Array
    to_air: Array
    surfaces: LuFactors
    air: Array

    @classmethod
    def of(cls, prepared: Prepared, coefficients: Coefficients, surface_k: Array) -> "Factors":
        """Factor the system with coefficients frozen at these temperatures."""
        slopes = Slopes.of(prepared, coefficients, surface_k)
        slopes.surfaces[...] += prepared.conduction
        return cls.of_slopes(slopes)

    @classmethod
    def of_slopes(cls, slopes: Slopes) -> "Factors":
        """Factors of slopes with the conduction in them; they are overwritten."""
        # The zones are few and the patches many: with so many right-hand sides an inverse is several times as quick.
        air, matrix = invert(slopes.air), slopes.surfaces
        _take_product(matrix, slopes.to_surfaces, air @ slopes.to_air)
        return cls(slopes.to_surfaces, slopes.to_air, factor(matrix), air)

    def solve(self, surface_w: Array, air_w: Array) -> tuple[Array, Array]:
        """Moves in K of surfaces (n,) and air (m,) that close the residuals."""
        surface = solve_factored(self.surfaces, surface_w + self.to_surfaces @ (self.air @ air_w))
        return surface, self.air @ (air_w + self.to_air @ surface)


def _take_product(matrix: Single, left: Array, right: Array) -> None:
    """Take the product of ``left`` (n, m) and ``right`` (m, n) from a matrix (n, n) in Fortran's order, in place."""
    # Turned round, so that the product has the matrix's own order.
    matrix -= (right.T.astype(np.float32) @ left.T.astype(np.float32)).T


def _couple_water(
    water: WaterSlopes, shares: ZoneShares, surfaces: Single, air: Array, to_surfaces: Array, to_air: Array
) -> None:
    """Add to the matrices, in place, what the water does when temperatures move: the air's humidity follows them."""
    heat, given = value("vaporisation"), water.uptake[:, None] * shares.shares
    by_surfaces = water.answers @ (given.T * water.surface_k)
    diagonal_of(surfaces)[...] += heat * water.uptake * water.surface_k
    _take_product(surfaces, heat * given, by_surfaces)
    if not water.fog.any():
        return
    by_air = water.answers * (water.fog * water.air_k)
    to_surfaces += heat * (given @ by_air)
    diagonal_of(air)[...] += heat * water.fog * water.air_k
    air -= heat * water.fog[:, None] * by_air
    to_air += heat * water.fog[:, None] * by_surfaces
