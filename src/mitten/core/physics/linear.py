"""Factoring a matrix once and solving with it often, from many threads."""

import numpy as np
import numpy.typing as npt
from scipy.linalg import lu_factor, lu_solve

from mitten.core.physics.arrays import Array

LuFactors = tuple[Array, npt.NDArray[np.int32]]
"""LU factors as SciPy gives them: the matrix of both, and the pivots."""


def factored(matrix: Array) -> LuFactors:
    """LU factors of a square matrix, which is overwritten."""
    return lu_factor(matrix, overwrite_a=True, check_finite=False)


def solved(factors: LuFactors, right: Array) -> Array:
    """Solution for a right-hand side (n,) or several (n, m)."""
    matrix, pivots = factors
    # LAPACK counts pivots from 1: SciPy adds 1 to them in place and takes it off again afterwards, so that two threads
    # with the same factors would spoil each other's.
    return np.asarray(lu_solve((matrix, pivots.copy()), right, check_finite=False))
