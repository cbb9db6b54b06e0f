"""The steady solve beside one dense LAPACK solve of the same order, geometry cached; and the cold solve."""

import tracemalloc
from collections.abc import Iterator

import numpy as np
from scipy.linalg import solve

from bench.timing import medians_s
from mitten.core.catalogue import shipped_catalogue
from mitten.core.design import Design
from mitten.core.judge import assess
from mitten.core.physics.balance.preparing import forget_prepared, prepare
from mitten.core.physics.balance.steady import solve_steady
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.radiation.lamps import unit_deposit
from mitten.core.physics.radiation.sources import sources_of
from mitten.core.physics.situation import Situation, running_sources
from mitten.core.physics.solving import solve_climate
from mitten.core.physics.uncertainty import intervals
from mitten.demo import demo_designs

ROUNDS = 25
COLD_ROUNDS = 5
MOST_RATIO = 6.0


def run() -> Iterator[str]:
    """One line a demo design."""
    yield f"Steady solve, geometry cached, beside scipy.linalg.solve of patches + zones (at most {MOST_RATIO:g} x)"
    for design in demo_designs():
        yield _line(design)
    yield f"  memory of one solve, geometry and all: {_memory_mb():.0f} MB at its peak (at most 150)"


def _memory_mb() -> float:
    """What Python and NumPy allocate at the most, from an empty cache to a solution."""
    design = max(demo_designs(), key=lambda demo: prepare(demo, shipped_catalogue()).unknowns)
    forget_prepared()
    unit_deposit.cache_clear()
    tracemalloc.start()
    solve_climate(design, shipped_catalogue(), Situation(21.0))
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return peak / 1e6


def _line(design: Design) -> str:
    catalogue = shipped_catalogue()
    prepared = prepare(design, shipped_catalogue())
    lamps = sources_of(design, running_sources(design, Situation(21.0, stuck_on=True), {}), True, catalogue)
    room = Surroundings(design.room.winter.day_c)
    order = prepared.unknowns
    random = np.random.default_rng(0)
    matrix, right = random.random((order, order)) + order * np.eye(order), random.random(order)
    mine_s, lapack_s = medians_s(
        (lambda: solve_steady(prepared, lamps, room), lambda: solve(matrix, right)), ROUNDS
    )  # fmt: skip

    def cold() -> None:
        forget_prepared()
        solve_steady(prepare(design, shipped_catalogue()), lamps, room)

    def with_intervals() -> None:
        for climate in assess(design, shipped_catalogue()).climates.values():
            intervals(climate)

    with_intervals()
    cold_s, seasons_s, sure_s = medians_s(
        (cold, lambda: assess(design, shipped_catalogue()), with_intervals), COLD_ROUNDS
    )
    return (
        f"  {design.name:<16} order {order:4d}  solve {mine_s * 1e3:5.1f} ms  LAPACK {lapack_s * 1e3:5.1f} ms  "
        f"ratio {mine_s / lapack_s:4.1f} x  cold {cold_s * 1e3:4.0f} ms  four seasons {seasons_s * 1e3:4.0f} ms, "
        f"with intervals {sure_s * 1e3:4.0f} ms"
    )
