"""PsychroLib, in SI units and as plain Python.

Where Numba is installed, PsychroLib has it compile every one of its functions when they are first called: about two
seconds in each process, for the few values at a time that are asked for here. So it is not shown Numba.
"""

import sys
from collections.abc import Iterator
from contextlib import contextmanager

__all__ = ["psychrolib"]


@contextmanager
def _hidden(module: str) -> Iterator[None]:
    """As if a module were not installed."""
    missing = object()
    before = sys.modules.get(module, missing)
    sys.modules[module] = None  # type: ignore[assignment]
    try:
        yield
    finally:
        del sys.modules[module]
        if before is not missing:
            sys.modules[module] = before  # type: ignore[assignment]


with _hidden("numba"):
    import psychrolib

psychrolib.SetUnitSystem(psychrolib.SI)
