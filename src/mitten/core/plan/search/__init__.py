"""The search for plans: from animal, box and room to whole designs that work in every season, with reasons."""

from mitten.core.plan.search.crew import ALONE, Crew, end_at_once, make_ready, two_processes
from mitten.core.plan.search.nearest import Mend, Near, nearest
from mitten.core.plan.search.screening.prices import Price, placeholder_of, placeholder_prices, price_of
from mitten.core.plan.search.screening.screen import Candidate
from mitten.core.plan.search.screening.spending import purchase_price
from mitten.core.plan.search.search import Progress, find_plans, search
from mitten.core.plan.search.solving.plan import Plan
from mitten.core.plan.search.wants.brief import APPROACHES, ApproachName, Brief, Owned
from mitten.core.plan.search.words import (
    asked_of_the_box,
    chance_words,
    distinct,
    explanation,
    is_simplest,
    misses,
    night_words,
    obstacles,
    source_words,
    why_not,
)

__all__ = [
    "ALONE",
    "APPROACHES",
    "ApproachName",
    "Brief",
    "Candidate",
    "Crew",
    "Mend",
    "Near",
    "Owned",
    "Plan",
    "Price",
    "Progress",
    "asked_of_the_box",
    "chance_words",
    "distinct",
    "end_at_once",
    "explanation",
    "find_plans",
    "is_simplest",
    "make_ready",
    "misses",
    "nearest",
    "night_words",
    "obstacles",
    "placeholder_of",
    "placeholder_prices",
    "price_of",
    "purchase_price",
    "search",
    "source_words",
    "two_processes",
    "why_not",
]
