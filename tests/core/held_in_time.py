"""What the core says of time, of what a year takes and of whole searches, as plain data that can be kept and compared."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

from mitten.core.design import Design, MittenError
from mitten.core.design.editing import data_of
from mitten.core.judge import assess
from mitten.core.judge.days import failures_of, of_season, run
from mitten.core.plan.changing.added import NIGHT_SOURCE, add_night_source
from mitten.core.plan.cost import daily_use, kwh_a_year
from mitten.core.plan.failsafe import cut_out, survivable
from mitten.core.plan.search import (
    Brief,
    Plan,
    asked_of_the_box,
    explanation,
    find_plans,
    night_words,
    obstacles,
    source_words,
)
from mitten.core.plan.search.nearest import shifts_k
from mitten.demo import demo_designs
from mitten.reports import course_report
from tests.briefs import ordinary_briefs
from tests.catalogue import CATALOGUE
from tests.random_designs import random_design

SEEDS, HOURS = range(300, 304), 1.5
SEARCHED = ("Mourning gecko", "Western hognose snake")
"""Small homes, whose searches take the least: one of them damp, one dry."""


def courses(seed: int) -> Iterator[Any]:
    """A random box through two hours: from cold, from rest, and with something that fails."""
    design = random_design(seed)
    try:
        through = of_season(design, CATALOGUE, "winter" if seed % 2 else "summer")
        yield course_report(run(through, HOURS, from_room=True))
        for failure in failures_of(design, "winter")[seed % 3 :: 3]:
            yield failure.text, course_report(run(through, HOURS, failure))
    except MittenError as error:
        yield str(error)


def costs() -> Iterator[Any]:
    """What demo designs take a day and a year."""
    for design in demo_designs():
        assessment = assess(design, CATALOGUE)
        yield design.name, kwh_a_year(assessment), daily_use(assessment)


def night_sources() -> Iterator[Any]:
    """Night heat where a keeper would hang it."""
    for design in demo_designs():
        for watts in CATALOGUE.sources[NIGHT_SOURCE].watts_sold[:3]:
            data = data_of(design)
            add_night_source(data, CATALOGUE, watts)
            yield data["heaters"][-1], data["controls"][-1:]


def safe() -> Iterator[Any]:
    """What may stick on in the tub, and the cut-out that ends it."""
    tub = demo_designs()[3]
    yield survivable(tub, CATALOGUE, tub.controls[0].name)
    yield cut_out(tub, CATALOGUE, tub.controls[0].name)


def searches(name: str) -> Iterator[Any]:
    """A whole search: what was tried, what came of it, and in which words."""
    progress = find_plans(Brief(_home(name), CATALOGUE))
    yield progress.combinations, progress.looked_at, obstacles(progress, CATALOGUE)
    for plan in (*progress.plans, *progress.rejected):
        yield [*_told(plan), explanation(plan, progress) if plan.works else [plan.missed, shifts_k(plan)]]


def _home(name: str) -> Design:
    homes = [home for home in ordinary_briefs(1, 20261127) if home.room == "usual"]
    return next(home.design for home in homes if home.name.startswith(name))


def _told(plan: Plan) -> list[Any]:
    candidate, controls = (
        plan.candidate,
        [[one.name, one.day_c, one.night_c, one.cut_out_c] for one in plan.design.controls],
    )
    return [
        source_words(candidate, CATALOGUE), night_words(plan), asked_of_the_box(plan), controls, round(plan.score, 2),
        round(plan.chance, 2), plan.price, plan.parts, plan.holes, plan.design.substrate.misting_ml_day,
    ]  # fmt: skip


HELD_IN_TIME: dict[str, Callable[[], Iterator[Any]]] = {
    **{one.__name__: one for one in (costs, night_sources, safe)},
    **{f"courses-{seed}": partial(courses, seed) for seed in SEEDS},
    **{f"searches-{name.lower().replace(' ', '-')}": partial(searches, name) for name in SEARCHED},
}
"""By name, in small parts: what is wrong shows in few of them."""
