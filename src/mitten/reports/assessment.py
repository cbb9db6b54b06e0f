"""An assessment as the object that ``mitten assess --json`` prints."""

from typing import Any

from mitten.core.design.amounts import plain
from mitten.core.judge import Assessment
from mitten.core.physics.uncertainty import intervals
from mitten.reports.climate import climate_report


def assessment_report(assessment: Assessment) -> dict[str, Any]:
    """Verdicts, findings and the solved conditions."""
    return {
        "name": assessment.design.name,
        "headline": plain(assessment.headline),
        "passes": assessment.passes,
        "unsolved": {condition.name: plain(why) for condition, why in assessment.unsolved.items()},
        "targets": [
            {
                "target": verdict.key,
                "wanted": list(verdict.wanted),
                "bearable": list(verdict.bearable),
                "value": round(verdict.value, 2),
                "unit": verdict.unit,
                "condition": verdict.condition.name,
                "verdict": verdict.status,
                "outside": round(verdict.outside, 2),
                "beyond": round(verdict.beyond, 2),
                "usual": None if verdict.usual is None else round(verdict.usual, 2),
                "usual_outside": round(verdict.usual_outside, 2),
                "can_leave": verdict.can_leave,
                "by_condition": {name: round(value, 2) for name, value in verdict.by_condition.items()},
            }
            for verdict in assessment.verdicts
        ],
        "safety": [
            {
                "rule": finding.rule,
                "severity": finding.severity,
                "title": plain(finding.title),
                "reason": plain(finding.reason),
                "number": plain(finding.number),
                "remedy": plain(finding.remedy),
            }
            for finding in assessment.findings
        ],
        "conditions": [climate_report(c, climate, [], intervals(climate)) for c, climate in assessment.solved.items()],
    }
