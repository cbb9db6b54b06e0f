"""How likely all targets hold together in every season, from what the model is unsure of.

The parameters are those of the intervals, and each moves every condition alike: a lamp that gives more than it says
gives more in winter and in summer. Their effects are taken to first order and on the coarse grid, the figures
themselves are those of the full one, and the shares are counted over draws.
"""

from collections.abc import Mapping

import numpy as np

from mitten.core.design import Design
from mitten.core.judge import Assessment, Condition, solve_condition
from mitten.core.judge.targets import BODY, judge_in
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.solving import Effects, effects_of, tweak
from mitten.core.physics.tweaks import Tweaks
from mitten.core.physics.uncertainty import Parameter, parameters_of
from mitten.core.plan.search.screening.responses import COARSE

_Moves = Mapping[str, tuple[Mapping[str, float], Mapping[str, float]]]
"""By how much one standard deviation moves each figure, for draws below and above, by parameter."""

DRAWS = 4000
SEED = 20
LEFT_OUT = ("humidity",)
"""Decided by water and vents rather than by sources."""

WITHOUT_EFFECT = ("room_rh",)
"""What moves humidity alone."""


def chance_of_all(assessment: Assessment) -> float:
    """The share (0-1) of what may be in which no target of warmth and light is missed in any of the four seasons.

    Missed is what the verdict calls so: a figure beyond what the animal bears.
    """
    rng = np.random.default_rng(SEED)
    columns: dict[str, Array] = {}
    holds = np.ones(DRAWS, dtype=bool)
    known: dict[tuple[object, ...], _Moves] = {}
    for condition, climate in assessment.climates.items():
        # Where the thermostats do the same, a parameter does nearly the same in winter and in summer.
        alike = condition.day, *(control.status for control in climate.controls.values())
        if alike not in known:
            known[alike] = _moves(assessment, condition, climate)
        wanted = _values(assessment, condition, climate)
        moved = np.tile(np.array([value for value, _, _ in wanted.values()]), (DRAWS, 1))
        for parameter, (downwards, upwards) in known[alike].items():
            draw = columns.setdefault(parameter, rng.standard_normal(DRAWS))[:, None]
            down, up = (np.array([moves[key] for key in wanted]) for moves in (downwards, upwards))
            moved += np.where(draw > 0, draw * up, draw * down)
        for column, (_, low, high) in enumerate(wanted.values()):
            holds &= (moved[:, column] >= low) & (moved[:, column] <= high)
    return float(holds.mean())


def _moves(assessment: Assessment, condition: Condition, climate: Climate) -> _Moves:
    """By how much one standard deviation of each parameter moves each judged figure in a condition."""
    # Begun from the duties of the full climate, which are near.
    coarse = solve_condition(assessment.design, assessment.catalogue, condition, climate, COARSE)
    begun = coarse.to_tweak()
    nominal, effects = _values(assessment, condition, coarse), effects_of(begun)
    found = {}
    for parameter in parameters_of(coarse):
        if parameter.key in WITHOUT_EFFECT:
            continue
        found[parameter.key] = _both_ways(assessment, condition, begun, parameter, effects, nominal)
    return found


def _both_ways(
    assessment: Assessment, condition: Condition, begun: Climate, parameter: Parameter, effects: Effects,
    nominal: Mapping[str, tuple[float, float, float]],
) -> tuple[dict[str, float], dict[str, float]]:  # fmt: skip
    """What a standard deviation of a parameter below and above does, for a draw of one above."""

    def moved_by(tweaks: Tweaks, sigmas: float) -> dict[str, float]:
        after = _values(assessment, condition, tweak(begun, tweaks, effects))
        return {key: (after[key][0] - value) / sigmas for key, (value, _, _) in nominal.items()}

    above = moved_by(parameter.tweaks, 1.0)
    return (above if parameter.downwards is None else moved_by(parameter.downwards, -1.0)), above


def _values(assessment: Assessment, condition: Condition, climate: Climate) -> dict[str, tuple[float, float, float]]:
    """Value, least and most of each judged target in a condition; an animal that may leave is in danger alone."""
    design: Design = assessment.design
    found = {}
    for verdict in judge_in(design, condition, climate, assessment.targets):
        if verdict.key in LEFT_OUT or not verdict.known:
            continue
        least, most = verdict.bearable
        can_leave = verdict.key == BODY and climate.air.cool_c <= assessment.targets.bears("cool_air_c")[1]
        found[verdict.key] = (verdict.value, least, verdict.danger if can_leave else most)
    return found
