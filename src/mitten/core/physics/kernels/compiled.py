"""How a kernel is compiled."""

from collections.abc import Callable
from typing import Literal, TypeVar, cast

import numba

Kernel = TypeVar("Kernel", bound=Callable[..., object])

ARITHMETIC: Literal["numpy"] = "numpy"
"""What is divided by zero is infinite, as in arrays, and no error."""


def compiled(function: Kernel) -> Kernel:
    """Compiled at the first call, for the types of its arguments; other threads run meanwhile."""
    try:
        return cast(Kernel, numba.njit(cache=True, nogil=True, error_model=ARITHMETIC)(function))
    except RuntimeError:
        # No folder can be written to: every process compiles for itself.
        return cast(Kernel, numba.njit(nogil=True, error_model=ARITHMETIC)(function))
