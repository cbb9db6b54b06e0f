"""How many ordinary homes get a plan, how sure and how soon, and whether the bench agrees once a plan is adopted.

    python -m bench.briefs [rounds] [seed]

Every species in every room, so many times. Prints each home that gets none, with the reason that the page gives.
"""

import sys
from collections.abc import Iterator
from dataclasses import dataclass
from statistics import median
from time import perf_counter

import numpy as np
from tests.briefs import ROOMS_C, ordinary_briefs
from tests.briefs import Brief as Home

from mitten.core.catalogue import read_checked_design, shipped_catalogue
from mitten.core.design import write_design
from mitten.core.design.amounts import plain
from mitten.core.judge import assess
from mitten.core.plan.search import Brief, Crew, Plan, distinct, make_ready, obstacles, search, two_processes

THREE = 3
LATEST = 95


@dataclass(frozen=True)
class Found:
    """What the search found for a home, and when."""

    home: Home
    plans: list[Plan]
    first_s: float | None
    whole_s: float
    why: str


def find(home: Home, crew: Crew) -> Found:
    """Search for a home's plans as the page does."""
    begun, first_s = perf_counter(), None
    for progress in search(Brief(home.design, shipped_catalogue()), crew=crew):
        if progress.plans and first_s is None:
            first_s = perf_counter() - begun
    whole_s = perf_counter() - begun
    plans = distinct(progress.plans, shipped_catalogue())
    return Found(home, plans, first_s, whole_s, "" if plans else " ".join(obstacles(progress, shipped_catalogue())))


def disagreement(plan: Plan) -> str:
    """What the bench says of an adopted plan that the plan does not say of itself; nothing where they agree."""
    kept = read_checked_design(write_design(plan.design), plan.assessment.catalogue)
    here, there = plan.assessment, assess(kept, plan.assessment.catalogue)
    if (here.headline, here.passes) != (there.headline, there.passes):
        return f"'{here.headline}' against '{there.headline}'"
    said = [(one.rule, one.number) for one in here.findings], [(one.rule, one.number) for one in there.findings]
    return "" if said[0] == said[1] else f"{said[0]} against {said[1]}"


def run(rounds: int = 1, seed: int = 1) -> Iterator[str]:
    """Lines as they come, and the shares at the end."""
    make_ready()
    found, apart = list[Found](), 0
    for home in ordinary_briefs(rounds, seed):
        with two_processes() as crew:
            one = find(home, crew)
        found.append(one)
        if not one.plans:
            yield f"  none: {home.name}: {one.why}"
        for words in filter(None, [disagreement(plan) for plan in one.plans[:1]]):
            apart += 1
            yield f"  disagrees: {home.name}: {words}"
    yield from _summary(found, apart)


def _summary(found: list[Found], apart: int) -> Iterator[str]:
    for room in ROOMS_C:
        yield _of_room(room, [one for one in found if one.home.room == room])
    yield _within("first plan", [one.first_s for one in found if one.first_s is not None])
    yield _within("complete", [one.whole_s for one in found])
    yield f"  adopted and assessed: {apart} disagree"


def _of_room(room: str, found: list[Found]) -> str:
    shares = [float(np.mean([len(one.plans) >= least for one in found])) for least in (1, THREE)]
    sure = median([max(plan.chance for plan in one.plans) for one in found if one.plans] or [0.0])
    return f"  {room:<6} {len(found):>4} homes: {shares[0]:.0%} any plan, {shares[1]:.0%} three; best sure {sure:.0%}"


def _within(what: str, times_s: list[float]) -> str:
    return f"  {what:<10} median {median(times_s):.1f} s, {LATEST} % within {np.percentile(times_s, LATEST):.1f} s"


if __name__ == "__main__":
    for line in run(*(int(text) for text in sys.argv[1:3])):
        print(plain(line), flush=True)
