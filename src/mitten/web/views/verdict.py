"""The margin: targets, findings and power, in the words of the page."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.design.units import TEMPERATURE, Units
from mitten.core.judge import DECIMALS, Assessment, Finding, TargetVerdict
from mitten.core.judge.targets import BODY, PERCENT
from mitten.core.physics.uncertainty import Interval
from mitten.core.plan import Fix, daily_use, to_be_covered, why_none
from mitten.core.plan.mains import connected_w
from mitten.draw import target_bar

SHAPES = {"meets": "●", "near": "▲", "misses": "◆", "unknown": "○"}


@dataclass(frozen=True)
class Fixes:
    """Fixes by the key of the target, or of the rule, that they mend, and whether they were looked for everywhere."""

    of: Mapping[str, Sequence[Fix]]
    is_whole: bool = True


IntervalsByCondition = Mapping[str, Mapping[str, Interval]]
"""Intervals by condition and path."""


@dataclass(frozen=True)
class TargetRow:
    """One row: name, worst condition, word and shape, bar and figure."""

    key: str
    label: str
    when: str
    status: str
    shape: str
    value: str
    unit: str
    sure: str
    wanted: str
    usual: str
    bar: Markup
    fixes: Sequence["OfferedFix"]
    why_none: str
    """Why nothing of the box mends it, where that is known."""

    has_none: bool
    """Whether changes were looked for, none mends it, and nobody knows why."""


@dataclass(frozen=True)
class OfferedFix:
    """A change that mends a target: what the form sends, what the keeper reads, and what the figure becomes."""

    kind: str
    name: str
    sends: float
    words: str
    value: str


@dataclass(frozen=True)
class FindingRow:
    """A danger, and changes that end it where any were looked for."""

    finding: Finding
    fixes: Sequence[OfferedFix]


@dataclass(frozen=True)
class Margin:
    """The verdict column."""

    headline: str
    tone: str
    animal: str
    count: str
    assumed: str
    """What was assumed of the room, said beside the targets."""

    explored: str
    """The one condition that is judged, where it is not the seasons."""

    rows: Sequence[TargetRow]
    findings: Sequence["FindingRow"]
    power: Sequence[tuple[str, str]]
    is_sure: bool
    wants_fixes: bool
    """Whether what would mend a missed target has still to be worked out."""

    @property
    def sure_words(self) -> str:
        """How sure the figures are, in words."""
        if self.is_sure:
            return "The whiskers are where nine in ten such enclosures would lie."
        return "How sure each figure is, is being worked out."


def margin(
    assessment: Assessment, units: Units, sure: IntervalsByCondition | None = None, fixes: Fixes | None = None
) -> Margin:
    """The margin of an assessment, with whiskers and fixes where they are known."""
    known = fixes.of if fixes is not None else {}
    is_looked_through = fixes is not None and fixes.is_whole
    return Margin(
        headline=units.say(assessment.headline),
        tone=tone(assessment),
        animal=f"{assessment.species.label}, {assessment.design.animal.stage}",
        count=_count_words(assessment),
        assumed=assessment.room_rh_words,
        explored="" if assessment.alone is None else units.say(assessment.alone.label),
        rows=[
            _row(
                verdict,
                units,
                (sure or {}).get(verdict.condition.name, {}).get(verdict.path),
                known.get(verdict.key, ()),
                units.say(why_none(assessment, verdict)) if verdict in assessment.wrong else "",
                is_looked_through and verdict in assessment.wrong,
            )
            for verdict in assessment.verdicts
        ],
        findings=list(_findings(assessment, units, known)),
        power=power_rows(assessment),
        is_sure=sure is not None,
        wants_fixes=sure is not None and assessment.alone is None and is_mendable(assessment) and not is_looked_through,
    )


def _findings(assessment: Assessment, units: Units, known: Mapping[str, Sequence[Fix]]) -> Iterator[FindingRow]:
    """Dangers with what would end them."""
    for finding in assessment.findings:
        yield FindingRow(finding, [_offer_of_hide(fix, units) for fix in known.get(finding.rule, ())])


def is_mendable(assessment: Assessment) -> bool:
    """Whether there is anything that changes are looked for."""
    return bool(assessment.wrong) or bool(to_be_covered(assessment))


def _count_words(assessment: Assessment) -> str:
    """How many targets are met, near and missed."""
    missed, near = len(assessment.missed), sum(verdict.status == "near" for verdict in assessment.verdicts)
    judged = sum(verdict.known for verdict in assessment.verdicts)
    said = [f"{judged - missed - near} met"]
    said += [f"{near} near"] if near else []
    said += [f"{missed} missed" if missed else "none missed"]
    return f"{judged} targets judged: {', '.join(said)}"


def tone(assessment: Assessment) -> str:
    """How the verdict is coloured: its words say the same."""
    if assessment.stops:
        return "stop"
    if assessment.missed or assessment.unsolved:
        return "misses"
    return "near" if assessment.usually_off else "meets"


def _row(
    verdict: TargetVerdict, units: Units, interval: Interval | None, fixes: Sequence[Fix], why: str, looked: bool
) -> TargetRow:
    scale = PERCENT if verdict.unit == "%" else 1.0
    drawn = interval and (interval[0] * scale, interval[1] * scale)
    return TargetRow(
        key=verdict.key,
        label=verdict.label,
        when=_when(verdict, units),
        status=verdict.status,
        shape=SHAPES[verdict.status],
        value=figure(verdict, units, verdict.value) if verdict.known else "?",
        unit=shown_unit(verdict, units),
        sure="" if drawn is None else "–".join(_whole(verdict, units, end) for end in drawn),
        wanted=_wanted_words(verdict, units),
        usual=_usual(verdict, units),
        bar=target_bar(verdict, units, drawn),
        fixes=[_offer_of(fix, verdict, units) for fix in fixes],
        why_none=why,
        has_none=looked and not fixes and not why,
    )


def _wanted_words(verdict: TargetVerdict, units: Units) -> str:
    """Both ranges; of the body, what it has to reach and what it must stay below."""
    low, high, least, most = (_whole(verdict, units, end) for end in (*verdict.wanted, *verdict.bearable))
    if verdict.key == BODY:
        return f"to reach {low}, best to {high}; danger {_whole(verdict, units, verdict.danger)}"
    return f"wants {low}–{high}, bears {least}–{most}"


def _usual(verdict: TargetVerdict, units: Units) -> str:
    """What a usual day brings, and that it is outside what is wanted where it is."""
    if verdict.usual is None or not verdict.known or verdict.condition.is_usual:
        return ""
    time = "night" if verdict.key == "night_c" else "day"
    words = f"usual {time} {figure(verdict, units, verdict.usual)}"
    return f"{words}, outside what is wanted" if verdict.usual_outside else words


def figure(verdict: TargetVerdict, units: Units, value: float) -> str:
    """A figure of a target as the keeper reads it, without its unit."""
    if verdict.unit == "°C":
        return units.degrees(value)
    return f"{value + 0.0:{DECIMALS[verdict.unit]}}"


def shown_unit(verdict: TargetVerdict, units: Units) -> str:
    """The unit that a target's figures are read in."""
    return units.unit_of(TEMPERATURE) if verdict.unit == "°C" else verdict.unit


def _whole(verdict: TargetVerdict, units: Units, value: float) -> str:
    """An end of a range, with no more decimals than it needs."""
    if verdict.unit == "°C":
        return units.degrees(value, 0)
    return f"{value:.1f}".removesuffix(".0") if verdict.unit in ("UVI", "h") else f"{value:.0f}"


def _offer_of(fix: Fix, verdict: TargetVerdict, units: Units) -> OfferedFix:
    change = fix.change
    return OfferedFix(
        change.kind,
        change.name,
        change.value,
        units.say(change.words),
        f"{figure(verdict, units, fix.value)} {shown_unit(verdict, units)}".rstrip(),
    )


def _offer_of_hide(fix: Fix, units: Units) -> OfferedFix:
    change = fix.change
    inside = f"{units.degrees(fix.value)} {units.unit_of(TEMPERATURE)}"
    return OfferedFix(change.kind, change.name, change.value, units.say(change.words), inside)


def _when(verdict: TargetVerdict, units: Units) -> str:
    if verdict.unit == "h":
        return "as the schedule is set" if verdict.known else "set it on the Animal sheet"
    words = f"{units.say(verdict.condition.within)}, {units.degrees(verdict.condition.room_c, 0)}°"
    return f"{words}; it must be able to leave" if verdict.can_leave else words


def power_rows(assessment: Assessment) -> list[tuple[str, str]]:
    """Watts at most, and what each season takes and costs a day."""
    design = assessment.design
    most = "At most" if any(control.is_thermostat for control in design.controls) else "Runs"
    rows = [(most, f"{connected_w(design, 'day'):g} W by day, {connected_w(design, 'night'):g} W by night")]
    for use in daily_use(assessment):
        cost = "" if use.cost is None else f" · {use.cost:.2f} {design.room.currency or ''}".rstrip()
        rows.append((f"A {use.season} day", f"{use.kwh:.2f} kWh{cost}"))
    return rows
