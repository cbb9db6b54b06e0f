"""Sweeps: the same question asked of many designs. A slice of each is always asked; ``make sweep`` asks the rest."""

from collections.abc import Iterable
from typing import Any

import pytest

sweep = pytest.mark.sweep


def sliced(values: Iterable[Any], every: int) -> list[Any]:
    """Parameters for a test, of which one in so many is always tried."""
    return [value if number % every == 0 else pytest.param(value, marks=sweep) for number, value in enumerate(values)]
