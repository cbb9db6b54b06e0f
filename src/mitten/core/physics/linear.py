"""Factoring a matrix once and solving with it often, from many threads."""

from typing import Any

import numpy as np
import numpy.typing as npt
from scipy.linalg.lapack import dgetrf, dgetri, dgetrs, sgetrf, sgetrs

from mitten.core.physics.arrays import Array, Single

LuFactors = tuple[Array | Single, npt.NDArray[np.int32]]
"""LU factors as SciPy gives them: the matrix of both, and the pivots."""


def factor(matrix: Array | Single) -> LuFactors:
    """LU factors of a square matrix, which is overwritten; one in Fortran's order is not copied first. One in single
    precision takes half as long, and is good enough for steps whose residuals are reckoned in double.

    LAPACK is called straight: the systems are small, and what SciPy's friendlier functions check costs as much again.

    Raises:
        np.linalg.LinAlgError: it is singular.
    """
    getrf = sgetrf if matrix.dtype == np.float32 else dgetrf
    lu, pivots, info = getrf(matrix, overwrite_a=True)
    if info > 0:
        raise np.linalg.LinAlgError("the matrix is singular")
    return lu, pivots


def solve_factored(factors: LuFactors, right: Array) -> Array:
    """Solution for a right-hand side (n,) or several (n, m)."""
    matrix, pivots = factors
    getrs = sgetrs if matrix.dtype == np.float32 else dgetrs
    # LAPACK counts pivots from 1: SciPy adds 1 to them in place and takes it off again afterwards, so that two threads
    # with the same factors would spoil each other's.
    return np.asarray(getrs(matrix, pivots.copy(), right.astype(matrix.dtype, copy=False))[0], dtype=np.float64)


def diagonal_of(matrix: Array | Single) -> Any:
    """The diagonal (n,) of a matrix (n, n), to be added to in place."""
    return np.einsum("ii->i", matrix)


def invert(matrix: Array) -> Array:
    """Inverse of a square matrix in double precision, several times as quick as NumPy's.

    Raises:
        np.linalg.LinAlgError: it is singular.
    """
    return inverse_of(factor(np.array(matrix, order="F")))


def inverse_of(factors: LuFactors) -> Array:
    """The inverse that goes with LU factors in double precision."""
    return np.asarray(dgetri(*factors)[0])
