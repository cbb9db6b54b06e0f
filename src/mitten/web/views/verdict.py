"""The margin: targets, findings and power, in the words of the page."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.design import Design
from mitten.core.judge import DECIMALS, Assessment, Finding, TargetVerdict
from mitten.core.judge.targets import NOT_JUDGED, PERCENT
from mitten.core.physics.uncertainty import Interval
from mitten.core.plan import Fix
from mitten.draw import target_bar

SHAPES = {"meets": "●", "near": "▲", "misses": "◆", "unknown": "○"}
Fixes = Mapping[str, Sequence[Fix]]
"""Fixes by the key of the target that they mend."""

Sure = Mapping[str, Mapping[str, Interval]]
"""Intervals by condition and path."""


@dataclass(frozen=True)
class TargetRow:
    """One row: name, worst condition, word and shape, bar and figure."""

    label: str
    when: str
    word: str
    shape: str
    value: str
    unit: str
    sure: str
    wanted: str
    bar: Markup
    fixes: Sequence[Fix]


@dataclass(frozen=True)
class Margin:
    """The verdict column."""

    headline: str
    tone: str
    animal: str
    count: str
    rows: Sequence[TargetRow]
    findings: Sequence[Finding]
    power: str
    not_judged: str
    is_sure: bool

    @property
    def sure_words(self) -> str:
        """How sure the figures are, in words."""
        if self.is_sure:
            return "The whiskers are where nine in ten such enclosures would lie."
        return "How sure each figure is, is being worked out."


def margin(assessment: Assessment, sure: Sure | None = None, fixes: Fixes | None = None) -> Margin:
    """The margin of an assessment, with whiskers and fixes where they are known."""
    animal = f"{assessment.species.label}, {assessment.design.animal.stage}"
    missed = len(assessment.missed)
    judged = len(assessment.verdicts)
    return Margin(
        headline=assessment.headline,
        tone=tone(assessment),
        animal=animal,
        count=f"{judged} targets judged, {missed} missed" if missed else f"{judged} targets judged, none missed",
        rows=[
            _row(
                verdict,
                (sure or {}).get(verdict.condition.name, {}).get(verdict.path),
                (fixes or {}).get(verdict.key, ()),
            )
            for verdict in assessment.verdicts
        ],
        findings=assessment.findings,
        power=_power(assessment.design),
        not_judged=", ".join(NOT_JUDGED),
        is_sure=sure is not None,
    )


def tone(assessment: Assessment) -> str:
    """How the verdict is coloured: its words say the same."""
    if assessment.stops:
        return "stop"
    if assessment.missed:
        return "misses"
    return "near" if any(verdict.word == "near" for verdict in assessment.verdicts) else "meets"


def _row(verdict: TargetVerdict, interval: Interval | None, fixes: Sequence[Fix]) -> TargetRow:
    scale, decimals = PERCENT if verdict.unit == "%" else 1.0, 1 if verdict.unit == "UVI" else 0
    return TargetRow(
        label=verdict.label,
        when=_when(verdict),
        word=verdict.word,
        shape=SHAPES[verdict.word],
        value=f"{verdict.value + 0.0:{DECIMALS[verdict.unit]}}",
        unit=verdict.unit,
        sure="" if interval is None else f"{interval[0] * scale:.{decimals}f}–{interval[1] * scale:.{decimals}f}",
        wanted=f"wants {verdict.low:g}–{verdict.high:g}",
        bar=target_bar(verdict, interval and (interval[0] * scale, interval[1] * scale)),
        fixes=fixes,
    )


def _when(verdict: TargetVerdict) -> str:
    words = f"{verdict.condition.label.lower()}, {verdict.condition.room_c:g}°"
    return f"{words}; it can leave" if verdict.can_leave else words


def watts(design: Design, time: str) -> float:
    """Electrical power that runs by ``day`` or ``night``."""
    heat = sum(heater.watts * heater.dim for heater in design.heaters if heater.on in (time, "always"))
    ultraviolet = sum(lamp.watts for lamp in design.uvb if lamp.on in (time, "always"))
    return heat + ultraviolet + (sum(light.watts for light in design.lights) if time == "day" else 0.0)


def _power(design: Design) -> str:
    most = "At most " if any(control.is_thermostat for control in design.controls) else ""
    return f"{most}{watts(design, 'day'):g} W by day, {watts(design, 'night'):g} W by night"
