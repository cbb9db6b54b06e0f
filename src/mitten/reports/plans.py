"""Plans as data that other programs read."""

from typing import Any

from mitten.core.design.amounts import plain
from mitten.core.design.editing import data_of
from mitten.core.plan.search import Plan, Progress, explanation, night_words, source_words


def plan_report(plan: Plan, progress: Progress) -> dict[str, Any]:
    """A plan: what it is, what it does, why, and its whole design."""
    return {
        "approach": plan.approach,
        "source": plain(source_words(plan.candidate, plan.assessment.catalogue)),
        "night": plain(night_words(plan)),
        "chance": round(plan.chance, 3),
        "works": plan.works,
        "kwh_year": round(plan.kwh_year, 1),
        "placeholder_price": round(plan.price, 2),
        "harmless_when_stuck": plan.harmless_when_stuck,
        "reasons": [plain(one) for one in explanation(plan, progress)],
        "design": data_of(plan.design),
    }
