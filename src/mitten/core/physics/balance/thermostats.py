"""Thermostats in steady state: the duty of each at which its probe reads the setpoint, and the inverse.

Full power that does not reach the setpoint is "cannot reach"; no power at all that exceeds it is "room alone exceeds".
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Literal

import numpy as np
from scipy.optimize import bisect

from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.state import State
from mitten.core.physics.balance.steady import PERTURBATION_ROUNDS, SETTLED_K, SteadyState, UnsolvedError

ControlStatus = Literal["regulates", "cannot reach", "room alone exceeds"]
Duties = dict[str, float]

REACHED_K = 0.03
MOST_ROUNDS = 25
PROBING = 0.1
"""Change of a duty by which its effect is found."""

LOOSELY_K, EFFECT_ROUNDS = 0.3, 1
"""So far is settled what duties to begin from do, and so long is followed what a change of them does: the steps that
come next correct both.
"""

LEAST_EFFECT_K = 1e-3
ROUNDING = 1e-9
SWEEPS = 8
HUNTS_K = 0.3
"""Where a trace of power decides whether a plume rises, a thermostat hunts: so near to its setpoint it is on it."""

LEAST_DUTY = 1e-5
"""Duties closer than this are the same."""

EFFECTS_AFRESH = 6
"""Effects are found afresh after so many rounds; between, every step corrects them."""


class NotRegulatedError(UnsolvedError):
    """No duties were found at which the probes read their setpoints."""


@dataclass(frozen=True)
class Regulated:
    """A thermostat in steady state: its duty, what its probe reads, and how that is called."""

    duty: float
    probe_c: float
    setpoint_c: float
    status: ControlStatus


@dataclass(frozen=True)
class Loop:
    """Something to be held at a temperature by the duty of one control."""

    control: str
    setpoint_c: float
    reading: Callable[[State], float]


@dataclass(frozen=True)
class Plant:
    """The enclosure as its controls see it: ``solve`` for duties until nothing moves by so many kelvin any more, and
    ``near`` one solution for others, followed for so many rounds.
    """

    solve: Callable[[Mapping[str, float], SteadyState | None, float], SteadyState]
    near: Callable[[SteadyState, Mapping[str, float], int], SteadyState]


def regulate(
    plant: Plant, loops: Sequence[Loop], guess: Mapping[str, float], start: SteadyState | None = None
) -> tuple[SteadyState, Duties, dict[str, Regulated]]:
    """Duties of all loops together, by Newton steps kept within 0 and 1.

    Raises:
        NotRegulatedError: they did not come to rest.
    """
    duties = {loop.control: guess.get(loop.control, 1.0) for loop in loops}
    state = plant.solve(duties, start, LOOSELY_K)
    readings, effects, solved = _readings(loops, state), np.empty(0), False
    for rounds in range(MOST_ROUNDS):
        deviations = np.array([loop.setpoint_c for loop in loops]) - readings
        if all(_at_rest(off_k, duties[loop.control]) for off_k, loop in zip(deviations, loops, strict=True)):
            if solved:
                return state, duties, _outcomes(loops, duties, readings)
            state, solved = plant.solve(duties, state, SETTLED_K), True
            readings = _readings(loops, state)
            continue
        if not effects.size or rounds % EFFECTS_AFRESH == 0:
            effects = _effects(plant, state, loops, duties, readings)
        before, duties = duties, _newton_step(duties, loops, deviations, effects)
        # The first step is a long one and need not be solved out; what is returned always is.
        solved = rounds > 0
        state = plant.solve(duties, state, SETTLED_K) if solved else plant.near(state, duties, PERTURBATION_ROUNDS)
        moved = _readings(loops, state)
        effects = _update_effects(effects, _moves(loops, before, duties), moved - readings)
        readings = moved
    return _by_halves(plant, loops, duties, state)


def _by_halves(
    plant: Plant, loops: Sequence[Loop], duties: Duties, state: SteadyState
) -> tuple[SteadyState, Duties, dict[str, Regulated]]:
    """One loop after the other by halving, where steps go astray: near the power at which a plume begins a little of it
    makes a great difference.
    """
    for _ in range(SWEEPS):
        for loop in loops:
            state, duties = _bisect_duty(plant, loop, duties, state)
        readings = _readings(loops, state)
        deviations = np.array([loop.setpoint_c for loop in loops]) - readings
        if all(_at_rest(off_k, duties[loop.control], HUNTS_K) for off_k, loop in zip(deviations, loops, strict=True)):
            return state, duties, _outcomes(loops, duties, readings, HUNTS_K)
    raise NotRegulatedError("The thermostats do not settle: two of them may be working against each other.")


def _bisect_duty(plant: Plant, loop: Loop, duties: Duties, state: SteadyState) -> tuple[SteadyState, Duties]:
    """The duty at which one loop rests, the others held."""
    tried, found = dict(duties), state

    def deviation_k(duty: float) -> float:
        nonlocal found
        tried[loop.control] = duty
        found = plant.solve(tried, found, SETTLED_K)
        left_k = loop.setpoint_c - loop.reading(found.state)
        return 0.0 if _at_rest(left_k, duty) else left_k

    # A plume that rises or does not is a step: halving is as quick there as what follows a slope, and surer.
    if deviation_k(0.0):
        bisect(deviation_k, 0.0, 1.0, xtol=LEAST_DUTY)
    return found, tried


def _readings(loops: Sequence[Loop], steady: SteadyState) -> Array:
    return np.array([loop.reading(steady.state) for loop in loops])


def _moves(loops: Sequence[Loop], before: Mapping[str, float], after: Mapping[str, float]) -> Array:
    return np.array([after[loop.control] - before[loop.control] for loop in loops])


def _update_effects(effects: Array, moves: Array, moved_k: Array) -> Array:
    """Effects corrected by what a step really did, in the direction of the step (Broyden 1965)."""
    length = float(moves @ moves)
    if length == 0.0:
        return effects
    return np.asarray(_floor_effects(effects + np.outer(moved_k - effects @ moves, moves) / length))


def _floor_effects(effects: Array) -> Array:
    """A probe that its own heaters hardly move asks for all of their power, or none."""
    rows = np.arange(len(effects))
    effects[rows, rows] = np.maximum(effects[rows, rows], LEAST_EFFECT_K)
    return effects


def _at_rest(deviation_k: float, duty: float, reached_k: float = REACHED_K) -> bool:
    """On its setpoint, or at the end of its power on the side where it still wants more."""
    return abs(deviation_k) < reached_k or (deviation_k > 0 and duty >= 1.0) or (deviation_k < 0 and duty <= 0.0)


def _outcomes(
    loops: Sequence[Loop], duties: Mapping[str, float], readings: Array, reached_k: float = REACHED_K
) -> dict[str, Regulated]:
    """Every thermostat as it has come to rest."""
    found = {}
    for loop, reading in zip(loops, readings, strict=True):
        deviation_k = loop.setpoint_c - float(reading)
        status: ControlStatus = "regulates"
        if abs(deviation_k) >= reached_k:
            status = "cannot reach" if deviation_k > 0 else "room alone exceeds"
        found[loop.control] = Regulated(duties[loop.control], float(reading), loop.setpoint_c, status)
    return found


def _effects(
    plant: Plant, state: SteadyState, loops: Sequence[Loop], duties: Mapping[str, float], readings: Array
) -> Array:
    """Kelvin at each probe (rows) for a duty of 1 of each control (columns)."""
    effects = np.zeros((len(loops), len(loops)))
    for column, loop in enumerate(loops):
        duty = duties[loop.control]
        moved = duty - PROBING if duty > 0.5 else duty + PROBING
        near = plant.near(state, {**duties, loop.control: moved}, EFFECT_ROUNDS)
        effects[:, column] = (_readings(loops, near) - readings) / (moved - duty)
    return _floor_effects(effects)


def _newton_step(duties: Mapping[str, float], loops: Sequence[Loop], deviations: Array, effects: Array) -> Duties:
    """One Newton step: of all ways to hold some controls at an end of their power and let the others regulate, the
    consistent one that moves least; without one, all are moved and cut off at the ends.
    """
    now = np.array([duties[loop.control] for loop in loops])
    ways = (_way(now, ends, deviations, effects) for ends in product((None, 0.0, 1.0), repeat=len(loops)))
    consistent = [wanted for wanted in ways if wanted is not None]
    if consistent:
        wanted = min(consistent, key=lambda way: float(np.abs(way - now).sum()))
    else:
        wanted = now + np.linalg.lstsq(effects, deviations, rcond=None)[0]
    return {loop.control: float(duty) for loop, duty in zip(loops, np.clip(wanted, 0.0, 1.0), strict=True)}


def _way(now: Array, ends: tuple[float | None, ...], deviations: Array, effects: Array) -> Array | None:
    """Duties with some controls at the given ends and the rest on their setpoints; None where that contradicts itself:
    a free one beyond its power, one that is off and too cold, or one at full power and too warm.
    """
    free = np.array([end is None for end in ends])
    move = np.array([0.0 if end is None else end - duty for end, duty in zip(ends, now, strict=True)])
    left = deviations - effects @ move
    move[free] += np.linalg.lstsq(effects[np.ix_(free, free)], left[free], rcond=None)[0] if free.any() else 0.0
    wanted, left = now + move, deviations - effects @ move
    if np.any((wanted < -ROUNDING) | (wanted > 1.0 + ROUNDING)):
        return None
    return None if any(_contradicts(end, deviation_k) for end, deviation_k in zip(ends, left, strict=True)) else wanted


def _contradicts(end: float | None, deviation_k: float) -> bool:
    """Whether a control held at an end of its power is off and too cold, or at full power and too warm."""
    return (end == 0.0 and deviation_k > REACHED_K) or (end == 1.0 and deviation_k < -REACHED_K)
