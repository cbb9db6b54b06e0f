"""Whether the animal's needs are met, and what is dangerous: conditions, targets, safety rules, the assessment."""

from mitten.core.judge.assessment import Assessment, assess
from mitten.core.judge.conditions import SEASONAL, Condition, read_condition, running_heaters, seasonal, solve_condition
from mitten.core.judge.safety import Finding, Severity, fixture_rating_w
from mitten.core.judge.targets import TargetVerdict, Word

__all__ = [
    "SEASONAL",
    "Assessment",
    "Condition",
    "Finding",
    "Severity",
    "TargetVerdict",
    "Word",
    "assess",
    "fixture_rating_w",
    "read_condition",
    "running_heaters",
    "seasonal",
    "solve_condition",
]
