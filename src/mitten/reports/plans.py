"""Plans as data that other programs read."""

from typing import Any

from mitten.core.plan.search import Plan, Progress, explanation, night_words, source_words


def plan_report(plan: Plan, progress: Progress) -> dict[str, Any]:
    """A plan: what it is, what it does, why, and its whole design."""
    return {
        "approach": plan.approach,
        "source": source_words(plan.candidate),
        "night": night_words(plan),
        "chance": round(plan.chance, 3),
        "works": plan.works,
        "kwh_year": round(plan.kwh_year, 1),
        "placeholder_price": round(plan.price, 2),
        "harmless_when_stuck": plan.harmless_when_stuck,
        "reasons": explanation(plan, progress),
        "design": plan.design.model_dump(mode="json", exclude_none=True),
    }
