"""The rule book: every rule looks at a design and its climates and says what is dangerous, why, and what to do."""

from mitten.core.judge.finding import SEVERITIES, Case, Finding, Rule
from mitten.core.judge.rules import contact, control, fit, gear, heat, home, light

RULES: tuple[Rule, ...] = (
    *gear.RULES, *heat.RULES, *contact.RULES, *control.RULES, *light.RULES, *fit.RULES, *home.RULES,
)  # fmt: skip


def find_dangers(case: Case) -> tuple[Finding, ...]:
    """Every finding of every rule, the gravest first."""
    found = [finding for rule in RULES for finding in rule(case)]
    return tuple(sorted(found, key=lambda finding: SEVERITIES.index(finding.severity)))
