"""The search for plans: combinations screened in a second, beside solving each in full; first plan and whole search."""

from collections.abc import Iterator
from statistics import median
from time import perf_counter

from mitten.core.catalogue import shipped_catalogue
from mitten.core.design import Design
from mitten.core.judge import assess
from mitten.core.plan.search import Brief, make_ready, search, two_processes
from mitten.core.plan.search.screening.screen import candidates, screen
from mitten.core.plan.search.wants.furnish import furnish
from mitten.demo import demo_designs

ROUNDS = 3
FIRST_S, WHOLE_S = 1.5, 6.0


def run() -> Iterator[str]:
    """One line a demo design."""
    make_ready()
    yield f"Search for plans in two processes (first within {FIRST_S:g} s, complete within {WHOLE_S:g} s)"
    for design in demo_designs():
        yield _screening(design)
        yield _whole(design)


def _screening(design: Design) -> str:
    """How many combinations a second, responses and all, and how many times as long each would take in full."""
    brief, took = Brief(design, shipped_catalogue()), []
    for _ in range(ROUNDS):
        begun = perf_counter()
        box = screen(brief, next(furnish(design, shipped_catalogue())))
        for kind in {response.layout.kind for response in box.responses}:
            candidates(brief, box, kind)
        took.append(perf_counter() - begun)
    full = []
    for _ in range(ROUNDS):
        begun = perf_counter()
        assess(design, shipped_catalogue())
        full.append(perf_counter() - begun)
    rate = box.combinations / median(took)
    slower = median(full) * rate
    return f"  {design.name:<18} {box.combinations:>7,} combinations, {rate:>9,.0f} a second; in full {slower:>7,.0f} x"


def _whole(design: Design) -> str:
    firsts, wholes = [], []
    for _ in range(ROUNDS):
        with two_processes() as crew:
            begun, first = perf_counter(), None
            for progress in search(Brief(design, shipped_catalogue()), crew=crew):
                if progress.plans and first is None:
                    first = perf_counter() - begun
            wholes.append(perf_counter() - begun)
        if first is not None:
            firsts.append(first)
    first_words = f"first plan {median(firsts):.1f} s" if firsts else "no plan"
    return f"  {'':<18} {first_words}, complete {median(wholes):.1f} s, {progress.looked_at} solved in full"
