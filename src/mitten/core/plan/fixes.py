"""Up to three single changes that mend a missed target, each computed, none that spoils another target."""

from collections.abc import Callable
from dataclasses import dataclass

from mitten.core.design import Design, MittenError
from mitten.core.judge import Assessment, TargetVerdict, assess, read_condition, solve_condition
from mitten.core.judge.targets import judge_in
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.plan.changes import Change, ChangeKind, candidates

MOST = 3


@dataclass(frozen=True)
class Fix:
    """A change, and what the missed figure becomes in its worst condition."""

    change: Change
    value: float


class OvertakenError(MittenError):
    """What was asked for is not wanted any more."""


def fixes_for(
    assessment: Assessment, verdict: TargetVerdict, most: int = MOST, wanted: Callable[[], bool] = lambda: True
) -> tuple[Fix, ...]:
    """The least changes that bring a target into its range in the condition in which it is missed.

    One of each kind, the least effort first. Every one is judged in all conditions before it is offered: it leaves
    fewer targets missed than before, and makes no new danger. ``wanted`` is asked on the way.

    Raises:
        OvertakenError: it is not wanted any more.
    """
    found: dict[ChangeKind, Fix] = {}
    for change, design in sorted(candidates(assessment.design, verdict.condition), key=lambda item: item[0].effort):
        if change.kind in found or len(found) == most:
            continue
        if not wanted():
            raise OvertakenError("The design was changed in the meantime.")
        value = _mended(assessment, verdict, design)
        if value is not None and _spoils_nothing(assessment, design):
            found[change.kind] = Fix(change, value)
    return tuple(found.values())


def _mended(assessment: Assessment, verdict: TargetVerdict, design: Design) -> float | None:
    """The missed figure of a changed design in the same condition; None if it is still not right."""
    condition = read_condition(design, verdict.condition.name)
    try:
        climate = solve_condition(design, condition, assessment.climates[verdict.condition])
    except UnsolvedError:
        return None
    after = next(a for a in judge_in(design, condition, climate, assessment.targets) if a.key == verdict.key)
    return after.value if after.word == "meets" else None


def _spoils_nothing(before: Assessment, design: Design) -> bool:
    try:
        after = assess(design, before)
    except UnsolvedError:
        return False
    return len(after.missed) < len(before.missed) and len(after.stops) <= len(before.stops)
