"""Time: a day beside one steady solve of the same box, what fewer patterns cost, failures, and a minute's drawing."""

from collections.abc import Iterator
from functools import partial
from time import perf_counter

import numpy as np

from bench.timing import medians_s
from mitten.core.catalogue import shipped_catalogue, targets_of
from mitten.core.design import Design
from mitten.core.judge import read_condition, solve_condition
from mitten.core.judge.days import Through, of_season
from mitten.core.judge.outlooks import everything_that_fails, outlook
from mitten.core.physics.transient import basis
from mitten.core.plan.search import make_ready, two_processes
from mitten.core.plan.year import figures_of, months_of
from mitten.demo import demo_designs
from mitten.draw import heat_sheet

RICH_1_S = tuple(1.0 / s for s in (1, 3, 5, 10, 20, 45, 90, 200, 400, 900, 1800, 4000, 9000, 25000, 60000, 2e5))
DAY_MIN = 1440


def run() -> Iterator[str]:
    """A line for every box and figure."""
    catalogue = shipped_catalogue()
    for design in demo_designs():
        through = of_season(design, catalogue, "winter")
        works = (
            partial(_a_day, through),
            partial(solve_condition, design, catalogue, read_condition(design, "winter-day")),
        )
        day_ms, steady_ms = (1000 * seconds for seconds in medians_s(works, 3))
        unknowns = through.moving.box.prepared.unknowns
        yield (
            f"24 h of {design.name} ({unknowns} unknowns): {day_ms:.0f} ms, "
            f"{day_ms / steady_ms:.1f} of its steady solves ({steady_ms:.0f} ms)"
        )
        yield _patterns(design, through)
    make_ready()
    yield _failures(demo_designs()[5])
    yield _year(demo_designs()[5])
    yield _minute(demo_designs()[0])


def _a_day(through: Through) -> np.ndarray:
    moving = through.moving
    start = moving.at_rest(moving.night)
    return moving.go(through.happening, start, DAY_MIN, through.happening.clock.day_from_min).surface_c


def _patterns(design: Design, through: Through) -> str:
    """How far a day on the usual patterns is from one on more than twice as many."""
    few, usual = _a_day(through), basis.responses.__defaults__
    basis.responses.__defaults__ = (RICH_1_S, RICH_1_S)
    try:
        rich = of_season(design, shipped_catalogue(), "winter")
        apart = np.abs(_a_day(rich) - few)
    finally:
        basis.responses.__defaults__ = usual
    counts = through.moving.box.basis.count, rich.moving.box.basis.count
    return (
        f"  {counts[0]} patterns beside {counts[1]}: surfaces within {np.percentile(apart, 99):.3f} K in 99 of 100 "
        f"minutes and places, {apart.max():.2f} K at most"
    )


def _failures(design: Design) -> str:
    """Every failure of every season, by the crew that searches use."""
    begun, work = perf_counter(), list(everything_that_fails(design))
    with two_processes() as crew:
        futures = [
            crew.executor.submit(outlook, design, shipped_catalogue(), season, failure.text) for season, failure in work
        ]
        found = [future.result() for future in futures]
    return f"{len(found)} failures of all seasons of {design.name}: {perf_counter() - begun:.1f} s on two cores"


def _year(design: Design) -> str:
    """Twelve months, by the same crew."""
    begun = perf_counter()
    with two_processes() as crew:
        futures = [
            crew.executor.submit(figures_of, design, shipped_catalogue(), month)
            for month in months_of(design, shipped_catalogue())
        ]
        kwh = sum(future.result().kwh for future in futures)
    return f"twelve months of {design.name}: {perf_counter() - begun:.1f} s on two cores, {kwh:.0f} kWh"


def _minute(design: Design) -> str:
    through = of_season(design, shipped_catalogue(), "winter")
    course = through.moving.repeating_day(through.happening)
    targets = targets_of(design.animal, shipped_catalogue().species[design.animal.species])
    rows = iter(range(300, 1400))

    def draw() -> None:
        heat_sheet(course.climate_at(next(rows)), targets)

    return f"a minute of {design.name} drawn: {1000 * medians_s([draw], 9)[0]:.0f} ms"
