"""The rule book: every rule looks at a design and its climates and says what is dangerous, why, and what to do."""

from dataclasses import replace

from mitten.core.judge.finding import SEVERITIES, Case, Finding, rules_of
from mitten.core.judge.rules import contact, control, fit, gear, heat, home, light

RULES = tuple(rule for room in (gear, heat, contact, control, light, fit, home) for rule in rules_of(room))


def find_dangers(case: Case) -> tuple[Finding, ...]:
    """Every finding, the gravest first; what one rule finds in several places is one finding that names them all."""
    by_rule: dict[str, list[Finding]] = {}
    for rule in RULES:
        for finding in sorted(rule.find(case), key=_gravity):
            by_rule.setdefault(finding.rule, []).append(finding)
    return tuple(sorted(map(_together, by_rule.values()), key=_gravity))


def _gravity(finding: Finding) -> int:
    return SEVERITIES.index(finding.severity)


def _together(found: list[Finding]) -> Finding:
    """The gravest of what one rule found, with the others beside it."""
    first, *others = found
    likewise = [f"{one.title} ({one.number})" for one in others if one.title != first.title]
    parts = tuple(dict.fromkeys(name for one in found for name in one.parts))
    if not likewise:
        return replace(first, parts=parts)
    return replace(first, reason=f"{first.reason} Likewise: {'; '.join(likewise)}.", parts=parts)
