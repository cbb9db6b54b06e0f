"""Whether the animal's needs are met, and what is dangerous: conditions, targets, safety rules, the assessment."""

from mitten.core.judge.assessment import (
    DECIMALS,
    UNIT_WORDS,
    Assessment,
    Climates,
    assess,
    assess_in,
    figure_words,
    range_words,
    wants_words,
)
from mitten.core.judge.conditions import (
    NAMED,
    SEASONAL,
    Condition,
    climate_like,
    read_condition,
    seasonal,
    solve_condition,
    usual,
)
from mitten.core.judge.days import of_condition, of_season, read_failure, run
from mitten.core.judge.finding import Finding, Severity
from mitten.core.judge.rules.gear import fixture_rating_w
from mitten.core.judge.targets import Status, TargetVerdict, judge_in

__all__ = [
    "DECIMALS",
    "NAMED",
    "SEASONAL",
    "UNIT_WORDS",
    "Assessment",
    "Climates",
    "Condition",
    "Finding",
    "Severity",
    "Status",
    "TargetVerdict",
    "assess",
    "assess_in",
    "climate_like",
    "figure_words",
    "fixture_rating_w",
    "judge_in",
    "of_condition",
    "of_season",
    "range_words",
    "read_condition",
    "read_failure",
    "run",
    "seasonal",
    "solve_condition",
    "usual",
    "wants_words",
]
