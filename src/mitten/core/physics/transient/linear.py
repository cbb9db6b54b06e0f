"""A linear system in time, ``C x' = gain(t) - A x``, and implicit steps of it.

Each step is Alexander's of second order with two stages of one matrix, L-stable: what is far quicker than a step comes
to rest in it, and what stores nothing may be among the unknowns (Alexander 1977, diagonally implicit Runge-Kutta).
"""

from dataclasses import dataclass, field

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.linear import LuFactors, factor, solve_factored

GAMMA = 1.0 - np.sqrt(0.5)
KEPT_STEPPERS = 5
USUAL_S = tuple(60.0 / 2**halvings for halvings in range(5))
"""A minute, and its halves."""


@dataclass(frozen=True, eq=False)
class Stepper:
    """One length of step, factored: the LU factors of ``capacity`` (K, K) with a stage's losses."""

    factors: LuFactors
    capacity: Array
    stage_s: float

    @classmethod
    def of(cls, capacity: Array, loss: Array, seconds: float) -> "Stepper":
        """Steps of that length."""
        stage_s = GAMMA * seconds
        return cls(factor(np.add(capacity, stage_s * loss, order="F")), capacity, stage_s)

    def step(self, start: Array, gain: Array) -> Array:
        """Where a step leads from a place (K,), with a gain (K,) that holds throughout."""
        given = self.stage_s * gain
        first = solve_factored(self.factors, self.capacity @ start + given)
        begun = start + (1.0 - GAMMA) / GAMMA * (first - start)
        return solve_factored(self.factors, self.capacity @ begun + given)


@dataclass(frozen=True, eq=False)
class LinearSystem:
    """``capacity`` and ``loss`` (K, K); steppers are kept by their length."""

    capacity: Array
    loss: Array
    steppers: dict[float, Stepper] = field(default_factory=dict)

    def step(self, seconds: float, start: Array, gain: Array) -> Array:
        """Where a step of any length leads from a place (K,); only those of usual lengths are kept."""
        is_usual = seconds in USUAL_S
        stepper = self.stepper(seconds) if is_usual else Stepper.of(self.capacity, self.loss, seconds)
        return stepper.step(start, gain)

    def stepper(self, seconds: float) -> Stepper:
        """Steps of that length."""
        known = self.steppers.get(seconds)
        if known is None:
            known = Stepper.of(self.capacity, self.loss, seconds)
            if len(self.steppers) >= KEPT_STEPPERS:
                self.steppers.clear()
            self.steppers[seconds] = known
        return known

    def at_rest(self, gain: Array) -> Array:
        """Where it comes to rest (K,)."""
        return np.asarray(np.linalg.solve(self.loss, gain))
