"""The rail: every step of the work and its state."""

from dataclasses import dataclass

from mitten.core.design import Design
from mitten.core.judge import Assessment
from mitten.core.judge.finding import rules_of
from mitten.core.judge.rules import control
from mitten.web.at import At, SheetName

CONTROL_RULES = frozenset(entry.name for rule in rules_of(control) for entry in rule.entries)
ANIMAL_RULES = ("box-too-small", "box-too-big-and-bare")


@dataclass(frozen=True)
class Step:
    """One step: the sheet that it opens, if there is one yet, and its state in a word or two."""

    name: str
    sheet: SheetName | None
    here: bool
    state: str
    tone: str


def steps_of(design: Design, assessment: Assessment, at: At) -> list[Step]:
    """The steps in their order."""
    steps = [
        _step("Animal", "animal", at, _day_state(assessment)),
        _step("Box & room", "box", at, _count(sum(f.rule in ANIMAL_RULES for f in assessment.findings))),
        _step("Heat", "heat", at, _heat_state(design, assessment)),
    ]
    steps.append(_step("Control", "control", at, _count(sum(f.rule in CONTROL_RULES for f in assessment.findings))))
    steps.append(_step("Check", "check", at, ("what if", "")))
    return steps + [Step(name, None, False, "not yet", "") for name in ("Prove", "Keep")]


def _step(name: str, sheet: SheetName, at: At, state: tuple[str, str]) -> Step:
    here = at.sheet == sheet or (sheet == "check" and at.sheet in ("day", "year"))
    return Step(name, sheet, here, *state)


def _day_state(assessment: Assessment) -> tuple[str, str]:
    unset = [verdict for verdict in assessment.verdicts if verdict.key == "day_hours" and not verdict.known]
    return ("day not set", "attention") if unset else ("settled", "settled")


def _heat_state(design: Design, assessment: Assessment) -> tuple[str, str]:
    if not design.heaters:
        return "no heat yet", "attention"
    return _count(len(assessment.missed) + len(assessment.stops))


def _count(to_fix: int) -> tuple[str, str]:
    return (f"{to_fix} to fix", "attention") if to_fix else ("settled", "settled")
