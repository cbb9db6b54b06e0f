"""The correlations that the model borrows: equation, where each was found to hold, and who found it.

The ranges are data, so that use outside them reaches the result (``reading/validity.py``).
"""

from dataclasses import dataclass

import numpy as np

from mitten.core.physics.arrays import Array, Mask

_INCROPERA = "Incropera et al., Fundamentals of Heat and Mass Transfer"


@dataclass(frozen=True)
class Correlation:
    """An equation that was found by measuring: it holds while ``symbol`` is between ``low`` and ``high``."""

    name: str
    equation: str
    symbol: str
    low: float
    high: float
    source: str

    def is_beyond(self, value: Array) -> Mask:
        """Where a value of its symbol (...) lies outside the range in which it was found."""
        return np.asarray((value < self.low) | (value > self.high))


VERTICAL_PLATE = Correlation(
    "film on an upright plate", "Nu = (0.825 + 0.387 Ra^(1/6) / (1 + (0.492/Pr)^(9/16))^(8/27))²", "Ra", 0.0, 1e12,
    f"Churchill & Chu; {_INCROPERA}",
)  # fmt: skip
UNSTABLE_PLATE = Correlation(
    "film on a level plate, warm face up", "Nu = max(0.54 Ra^(1/4), 0.15 Ra^(1/3))", "Ra", 1e4, 1e11, _INCROPERA
)
STABLE_PLATE = Correlation(
    "film on a level plate, warm face down", "Nu = 0.27 Ra^(1/4)", "Ra", 1e5, 1e10, _INCROPERA
)  # fmt: skip
CYLINDER = Correlation(
    "film on a level cylinder", "Nu = (0.60 + 0.387 Ra^(1/6) / (1 + (0.559/Pr)^(9/16))^(8/27))²", "Ra", 0.0, 1e12,
    f"Churchill & Chu; {_INCROPERA}",
)  # fmt: skip
CROSS_FLOW = Correlation(
    "film on a cylinder across moving air",
    "Nu = 0.3 + 0.62 Re^(1/2) Pr^(1/3) / (1 + (0.4/Pr)^(2/3))^(1/4) (1 + (Re/282000)^(5/8))^(4/5)", "Re Pr", 0.2,
    np.inf, f"Churchill & Bernstein; {_INCROPERA}",
)  # fmt: skip
CEILING_JET = Correlation(
    "jet of a lamp's plume under the ceiling", "dT = 16.9 Q^(2/3) / H^(5/3); 5.38 (Q/r)^(2/3) / H beyond 0.18 H",
    "Q in kW", 500.0, 1e5, "Alpert 1972, found on fires",
)  # fmt: skip
MOIST_AIR = Correlation("moist air", "PsychroLib's, tabulated", "temperature in °C", -20.0, 90.0, "ASHRAE Fundamentals")

CORRELATIONS = (VERTICAL_PLATE, UNSTABLE_PLATE, STABLE_PLATE, CYLINDER, CROSS_FLOW, CEILING_JET, MOIST_AIR)
