"""Up to three single changes that mend a target, each computed, none that spoils another target.

A target that is missed is mended when it can be borne; one that even a usual day does not meet, when it is met then.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from mitten.core.design import Design, MittenError
from mitten.core.judge import Assessment, Condition, TargetVerdict, assess, read_condition, solve_condition
from mitten.core.judge.targets import PERCENT, judge_in
from mitten.core.physics.air.moisture import relative_humidity
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.plan.changes import Change, ChangeKind, candidates

MOST = 3


@dataclass(frozen=True)
class Fix:
    """A change, and what the figure becomes in the condition in which it was wrong."""

    change: Change
    value: float


class OvertakenError(MittenError):
    """What was asked for is not wanted any more."""


def fixes_for(
    assessment: Assessment, verdict: TargetVerdict, most: int = MOST, wanted: Callable[[], bool] = lambda: True
) -> tuple[Fix, ...]:
    """The least changes that mend a target in the condition in which it is wrong.

    One of each kind, the least effort first. Every one is judged in all conditions before it is offered: it leaves
    fewer targets wrong than before, none of the others missed, and makes no new danger. ``wanted`` is asked on the way.

    Raises:
        OvertakenError: it is not wanted any more.
    """
    found: dict[ChangeKind, Fix] = {}
    condition = wrong_in(assessment, verdict)
    for change, design in sorted(
        candidates(assessment.design, condition, verdict.key), key=lambda item: item[0].effort
    ):
        if change.kind in found or len(found) == most:
            continue
        if not wanted():
            raise OvertakenError("The design was changed in the meantime.")
        value = _mended(assessment, verdict, condition, design)
        if value is not None and _spoils_nothing(assessment, design):
            found[change.kind] = Fix(change, value)
    return tuple(found.values())


def why_none(assessment: Assessment, verdict: TargetVerdict) -> str:
    """Why nothing of the box mends a humidity: the room's own water, warmed to what the box has; else nothing."""
    if verdict.key != "humidity":
        return ""
    condition = wrong_in(assessment, verdict)
    climate = assessment.climate(condition.name)
    inside_c, surroundings = climate.air.mean_c, climate.state.surroundings
    warmed = relative_humidity(np.array(surroundings.humidity_ratio), np.array(inside_c), surroundings.pressure_pa)
    alone = float(warmed)
    least, most = assessment.targets.bears("humidity")
    said = f"The room itself is at {condition.rh:.0%}, which is {alone:.0%} at the {inside_c:.0f} °C of the box"
    if alone > most:
        return f"{said} {condition.when}: no vent can help. Dry the room's air."
    if verdict.value / PERCENT < least and alone < least:
        return f"{said} {condition.when}: only water in the box, or more humid air in the room, can help."
    return ""


def wrong_in(assessment: Assessment, verdict: TargetVerdict) -> Condition:
    """The condition in which a target is to be mended: where it is missed, else the usual day or night."""
    if verdict.beyond or not verdict.is_usually_off:
        return verdict.condition
    usual = (condition for condition in assessment.usual if condition.name in verdict.by_condition)
    return max(usual, key=lambda condition: abs(verdict.by_condition[condition.name] - sum(verdict.wanted) / 2))


def _mended(assessment: Assessment, verdict: TargetVerdict, wrong: Condition, design: Design) -> float | None:
    """The figure of a changed design in the condition in which it was wrong; None if it is still wrong."""
    condition = read_condition(design, wrong.name)
    try:
        climate = solve_condition(design, condition, assessment.climate(wrong.name))
    except UnsolvedError:
        return None
    after = next(a for a in judge_in(design, condition, climate, assessment.targets) if a.key == verdict.key)
    still = after.outside if condition.is_usual else after.beyond
    return None if still else after.value


def _spoils_nothing(before: Assessment, design: Design) -> bool:
    try:
        after = assess(design, before)
    except UnsolvedError:
        return False
    fewer = len(after.missed) < len(before.missed) or _off(after) < _off(before)
    return fewer and len(after.missed) <= len(before.missed) and len(after.stops) <= len(before.stops)


def _off(assessment: Assessment) -> int:
    return len(assessment.usually_off)
