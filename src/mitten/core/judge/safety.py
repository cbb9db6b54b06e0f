"""The rule book: every rule looks at a design and its climates and says what is dangerous, why, and what to do."""

from mitten.core.judge.finding import SEVERITIES, Case, Finding, Rule
from mitten.core.judge.rules import control, gear, heat

RULES: tuple[Rule, ...] = (*gear.RULES, *heat.RULES, *control.RULES)


def find_dangers(case: Case) -> tuple[Finding, ...]:
    """Every finding of every rule, the gravest first."""
    found = [finding for rule in RULES for finding in rule(case)]
    return tuple(sorted(found, key=lambda finding: SEVERITIES.index(finding.severity)))
