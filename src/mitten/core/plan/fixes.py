"""Up to three single changes that mend a target, each computed, none that spoils another target.

A target that is missed is mended when it can be borne; one that even a usual day does not meet, when it is met then.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from math import copysign
from types import MappingProxyType

import numpy as np

from mitten.core.design import Design, MittenError
from mitten.core.design.amounts import celsius
from mitten.core.judge import (
    Assessment,
    Climates,
    Condition,
    TargetVerdict,
    assess,
    read_condition,
    solve_condition,
)
from mitten.core.judge.assessment import on_day
from mitten.core.judge.targets import PERCENT, Span, judge_in, outside_by
from mitten.core.physics.air.moisture import relative_humidity
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.climate import Climate
from mitten.core.plan.changing import Change, ChangeKind, Way, apply_change, candidates, day_of
from mitten.core.plan.changing.change import BOUGHT, ONLY_LESS, ONLY_MORE
from mitten.core.plan.offering import new_dangers

MOST = 3
COARSE = 0.5

UNSURE, OF_THE_MOVE = 0.3, 0.15
"""What the coarse grid may be off: so much of the figure's unit, and such a share of what a change moves it by."""

HALF = 0.5
USUAL = "usual-"
DAY_LENGTH = "day_hours"
OTHER_SEASON = {
    "winter-day": "summer-day", "summer-day": "winter-day", "winter-night": "summer-night",
    "summer-night": "winter-night", "usual-day": "summer-day", "usual-night": "summer-night",
}  # fmt: skip

MORE_THAN_IN_PROPORTION = 1.6
"""A step so much larger than needed in proportion is tried still."""


@dataclass(frozen=True)
class Fix:
    """A change, and what the figure becomes in the condition in which it was wrong."""

    change: Change
    value: float


class OvertakenError(MittenError):
    """What was asked for is not wanted any more."""


class Mending:
    """What would mend the targets of one design: every change is worked out once, however many it may mend. ``wanted``
    is asked between changes.
    """

    def __init__(self, assessment: Assessment, wanted: Callable[[], bool] = lambda: True) -> None:
        self.assessment, self.wanted = assessment, wanted
        self._nearly: dict[tuple[Change | None, str], Climate | None] = {}
        self._wholly: dict[Change, Assessment | None] = {}

    def fixes_for(self, verdict: TargetVerdict, most: int = MOST) -> tuple[Fix, ...]:
        """The least changes that mend a target in the condition in which it is wrong.

        One of each kind, the least effort first. Every one is judged in all conditions before it is offered: it leaves
        fewer targets wrong than before, none of the others missed, and makes no new danger.

        Raises:
            OvertakenError: it is not wanted any more.
        """
        if verdict.key == DAY_LENGTH:
            return self._of_the_day(verdict)
        found: dict[ChangeKind, Fix] = {}
        wrong = _Wrong(verdict, wrong_in(self.assessment, verdict))
        offered = candidates(self.assessment.design, self.assessment.catalogue, wrong.condition, verdict.key)
        for change, design in sorted(offered, key=lambda item: item[0].effort):
            is_one_more = change.kind not in found and len(found) == most
            if is_one_more or self._is_settled(found.get(change.kind), verdict) or wrong.is_out_of_reach(change):
                continue
            value = self._try(wrong, change, design)
            if value is not None and (change.kind not in found or self._is_right_after(change, verdict)):
                found[change.kind] = Fix(change, value)
        return tuple(found.values())

    def _try(self, wrong: "_Wrong", change: Change, design: Design) -> float | None:
        """The figure after a change that mends it; None where it does not."""
        if not self.wanted():
            raise OvertakenError("The design was changed in the meantime.")
        return self._mended_figure(wrong, change, design) if self._may_mend(wrong, change, design) else None

    def _is_settled(self, fix: Fix | None, verdict: TargetVerdict) -> bool:
        """Whether no other change of its kind is looked for: the least will do, or what is bought is right."""
        return fix is not None and (fix.change.kind not in BOUGHT or self._is_right_after(fix.change, verdict))

    def _is_right_after(self, change: Change, verdict: TargetVerdict) -> bool:
        """Whether a target is wholly as wanted after a change that was worked out."""
        after = self._wholly[change]
        return after is not None and verdict.key not in {one.key for one in after.wrong}

    def _of_the_day(self, verdict: TargetVerdict) -> tuple[Fix, ...]:
        """A day as long as the nearest that is wanted."""
        change = day_of(min(max(verdict.value, verdict.low), verdict.high), verdict.value)
        after = self._whole(
            change,
            apply_change(self.assessment.design, self.assessment.catalogue, change.kind, change.name, change.value),
        )
        return (Fix(change, change.value),) if after is not None and _is_better(self.assessment, after) else ()

    def _may_mend(self, wrong: "_Wrong", change: Change, design: Design) -> bool:
        """Whether the coarse grid thinks that a change mends a target, or nearly, and spoils no other by much: neither
        where it is wrong, nor in the other season.
        """
        moves = self._moves(wrong.condition.name, change, design)
        if wrong.verdict.key not in moves:
            return False
        wrong.learn(change, moves[wrong.verdict.key].by)
        if not wrong.is_nearly_mended_by(moves[wrong.verdict.key]) or self._spoils(wrong.condition.name, moves):
            return False
        other = OTHER_SEASON.get(wrong.condition.name)
        return other is None or not self._spoils(other, self._moves(other, change, design))

    def _spoils(self, condition: str, moves: Mapping[str, "_Move"]) -> bool:
        """Whether anything that was right is far off in a condition after moves of its figures: missed at an extreme,
        outside what is wanted on a usual day.
        """
        is_usual = condition.startswith(USUAL)
        right = (one for one in self.assessment.verdicts if not (one.is_usually_off if is_usual else one.beyond))
        return any(
            moves[one.key].takes_out(one.by_condition[condition], one.wanted if is_usual else one.bearable)
            for one in right
            if one.key in moves
        )

    def _moves(self, condition: str, change: Change, design: Design) -> Mapping[str, "_Move"]:
        """By how much a change moves every target's figure in a condition, by the coarse grid; none without answers."""
        now, then = self._near(None, self.assessment.design, condition), self._near(change, design, condition)
        if now is None or then is None:
            return {}
        before = {one.key: one.value for one in self._judge(condition, now)}
        return {one.key: _Move(one.value - before[one.key], one.can_leave) for one in self._judge(condition, then)}

    def _near(self, change: Change | None, design: Design, condition: str) -> Climate | None:
        """The coarse climate of a design, with a change made, in a condition; None if it has none."""
        if (change, condition) not in self._nearly:
            start = self._nearly.get((None, condition))
            try:
                found = solve_condition(
                    design, self.assessment.catalogue, read_condition(design, condition), start, COARSE
                )
                climate: Climate | None = on_day(found, self.assessment.today)
            except UnsolvedError:
                climate = None
            self._nearly[change, condition] = climate
        return self._nearly[change, condition]

    def _judge(self, condition: str, climate: Climate) -> tuple[TargetVerdict, ...]:
        at = read_condition(climate.design, condition)
        return judge_in(climate.design, at, climate, self.assessment.targets)

    def _mended_figure(self, wrong: "_Wrong", change: Change, design: Design) -> float | None:
        """The figure of a changed design where it was wrong; None if it still is, or anything else is spoiled."""
        if change not in self._wholly:
            climate = self._there(wrong, design)
            if climate is None or self._value_there(wrong, climate) is None:
                # Not worth the other seasons.
                return None
            self._whole(change, design, {wrong.condition: climate})
        after = self._wholly[change]
        if after is None or not _is_better(self.assessment, after) or not wrong.is_mended_in(after):
            return None
        climate = next((one for at, one in after.solved.items() if at.name == wrong.condition.name), None)
        return None if climate is None else self._value_there(wrong, climate)

    def _there(self, wrong: "_Wrong", design: Design) -> Climate | None:
        """The climate of a changed design where the target was wrong; None if it has none."""
        condition = read_condition(design, wrong.condition.name)
        begun = self.assessment.solved.get(wrong.condition)
        try:
            found = solve_condition(design, self.assessment.catalogue, condition, begun).to_keep()
            return on_day(found, self.assessment.today)
        except UnsolvedError:
            return None

    def _value_there(self, wrong: "_Wrong", climate: Climate) -> float | None:
        """The target's figure in a climate where it was wrong; None if it still is."""
        verdicts = self._judge(wrong.condition.name, climate)
        there = next(one for one in verdicts if one.key == wrong.verdict.key)
        still = there.outside if wrong.condition.is_usual else there.beyond
        return None if still else there.value

    def _whole(self, change: Change, design: Design, known: Climates = MappingProxyType({})) -> Assessment | None:
        """A changed design in all conditions, of which some are known."""
        if change not in self._wholly:
            near = self.assessment.climates
            try:
                self._wholly[change] = assess(design, self.assessment.catalogue, near, self.assessment.today, known)
            except UnsolvedError:
                self._wholly[change] = None
        return self._wholly[change]


@dataclass(frozen=True)
class _Move:
    """By how much a change moves a figure, and whether an animal that finds it too warm can leave."""

    by: float
    can_leave: bool

    def takes_out(self, value: float, span: Span) -> bool:
        """Whether a figure is then outside a range, whatever the coarse grid is off."""
        outside = outside_by(value + self.by, span)
        return not self.can_leave and abs(outside) > UNSURE + OF_THE_MOVE * abs(self.by)


class _Wrong:
    """A target and the condition in which it is wrong, and what changes were found to do about it there."""

    def __init__(self, verdict: TargetVerdict, condition: Condition) -> None:
        self.verdict, self.condition = verdict, condition
        self.value = verdict.by_condition[condition.name]
        self.span = verdict.wanted if condition.is_usual else verdict.bearable
        self.off = outside_by(self.value, self.span)
        self._moves: dict[Way, float] = {}

    def learn(self, change: Change, moved: float) -> None:
        """Note what a step of a change moves the figure by."""
        self._moves[change.way] = moved / abs(change.step)

    def is_out_of_reach(self, change: Change) -> bool:
        """Whether a change moves the figure the wrong way, or another step of it moved it so, or by far too little."""
        if change.kind in (ONLY_LESS if self.off < 0 else ONLY_MORE):
            return True
        moved = self._moves.get(change.way)
        if moved is None:
            return False
        towards = -copysign(moved * abs(change.step), moved * self.off)
        return towards * MORE_THAN_IN_PROPORTION <= abs(self.off)

    def is_mended_in(self, after: Assessment) -> bool:
        """Whether the target is right in every condition: one that was missed in one is not left missed in another."""
        left = after.missed if self.verdict.beyond else after.wrong
        return self.verdict.key not in {one.key for one in left}

    def is_nearly_mended_by(self, move: _Move) -> bool:
        """Whether the figure, so moved, is where it is to be, as far as the coarse grid can tell."""
        if move.can_leave:
            return True
        is_towards = move.by * self.off < 0
        unsure = min(UNSURE, HALF * abs(self.off)) + OF_THE_MOVE * abs(move.by)
        return is_towards and abs(outside_by(self.value + move.by, self.span)) <= unsure


def fixes_for(assessment: Assessment, verdict: TargetVerdict, most: int = MOST) -> tuple[Fix, ...]:
    """What would mend one target: as ``Mending.fixes_for``."""
    return Mending(assessment).fixes_for(verdict, most)


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
    said = f"The room itself is at {condition.rh:.0%}, which is {alone:.0%} at the {celsius(inside_c, 0)} of the box"
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


def _is_better(before: Assessment, after: Assessment) -> bool:
    fewer = len(after.missed) < len(before.missed) or len(after.usually_off) < len(before.usually_off)
    return fewer and spoils_nothing(before, after)


def spoils_nothing(before: Assessment, after: Assessment) -> bool:
    """Whether no more targets are missed than before, and nothing is dangerous or warned of that was not."""
    return len(after.missed) <= len(before.missed) and not new_dangers(before, after)
