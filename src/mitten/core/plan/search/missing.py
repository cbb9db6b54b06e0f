"""Which missed targets are a plan's own fault: humidity is not, nor is what a warm room brings about by itself."""

from collections.abc import Iterator
from math import inf

from mitten.core.catalogue import Targets
from mitten.core.judge import Assessment, Condition, TargetVerdict
from mitten.core.judge.targets import NEAR
from mitten.core.physics.reading.climate import Climate
from mitten.core.plan.search.wishes import highest_c, is_too_warm

LEFT_OUT = ("humidity",)
"""Decided by water and vents rather than by sources."""

OPERATIVE = "basking_operative_c"
BY_THE_ROOM = ("warm_air_c", "cool_air_c", "night_c")


def own_misses(assessment: Assessment) -> list[TargetVerdict]:
    """Targets of warmth and light that are missed by what a plan does."""
    made = {verdict.key for verdict in room_made(assessment)}
    return [one for one in assessment.missed if one.key not in LEFT_OUT and one.key not in made]


def room_made(assessment: Assessment) -> Iterator[TargetVerdict]:
    """Targets missed because the room alone is as warm as the animal wants it at most, or a little warmer: sources are
    off or add a little, and none cools.
    """
    for verdict in assessment.missed:
        if verdict.outside > 0 and _as_good_as_may_be(assessment, verdict):
            yield verdict


def _as_good_as_may_be(assessment: Assessment, verdict: TargetVerdict) -> bool:
    """Whether a target's figure is as low as the room lets it be wherever it is too high, and never too low."""
    return all(
        _allowed(assessment.targets, verdict, condition, climate)
        for condition, climate in assessment.climates.items()
        if condition.name in verdict.by_condition
    )


def _allowed(targets: Targets, verdict: TargetVerdict, condition: Condition, climate: Climate) -> bool:
    value, near = verdict.by_condition[condition.name], NEAR[verdict.unit]
    if verdict.low - near <= value <= verdict.high + near:
        return True
    if verdict.key == OPERATIVE and climate.air.cool_c <= highest_c(targets.cool_air_c[1], condition.room_c) + near:
        return verdict.high < value <= targets.danger_body_c
    return verdict.high < value <= most_c(verdict.key, targets, condition.room_c)


def most_c(key: str, targets: Targets, room_c: float) -> float:
    """The most that a target's figure may be in a room, beyond its range where the room leaves no choice.

    An animal that gets too warm on its basking place goes to a cool side that is as cool as may be.
    """
    if key == OPERATIVE:
        return targets.danger_body_c if is_too_warm(targets.cool_air_c[1], room_c) else -inf
    if key in BY_THE_ROOM:
        high_c: float = getattr(targets, key)[1]
        return highest_c(high_c, room_c) + NEAR["°C"] if is_too_warm(high_c, room_c) else -inf
    return -inf
