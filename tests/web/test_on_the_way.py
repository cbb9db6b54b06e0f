"""The coarse grid that is seen while something is dragged agrees with the full one."""

import pytest

from mitten.core.design import Design
from mitten.core.judge import read_condition, solve_condition
from mitten.demo import demo_designs
from mitten.web.assessments import FINENESS_ON_THE_WAY, OnTheWay
from tests.catalogue import CATALOGUE

SPOT_K, AIR_K = 1.5, 0.5
DESIGNS = demo_designs()


@pytest.mark.parametrize("design", DESIGNS, ids=[design.name for design in DESIGNS])
@pytest.mark.parametrize("condition", ["winter-day", "summer-day"])
def test_spots_agree_within_a_kelvin_and_a_half_and_air_within_half(design: Design, condition: str) -> None:
    at = read_condition(design, condition)
    full, coarse = (
        solve_condition(design, CATALOGUE, at),
        solve_condition(design, CATALOGUE, at, fineness=FINENESS_ON_THE_WAY),
    )
    for name, surface_c in full.site_surfaces_c.items():
        assert coarse.site_surfaces_c[name] == pytest.approx(surface_c, abs=SPOT_K)
    assert coarse.ground.surface_c == pytest.approx(full.ground.surface_c, abs=SPOT_K)
    for key in ("warm_c", "middle_c", "cool_c", "mean_c"):
        assert getattr(coarse.air, key) == pytest.approx(getattr(full.air, key), abs=AIR_K)


def test_one_that_is_begun_from_the_last_place_comes_to_the_same() -> None:
    design = DESIGNS[0]
    at, way = read_condition(design, "winter-day"), OnTheWay(CATALOGUE)
    site = design.sites[0]
    for step in range(4):
        moved = site.model_copy(update={"x_m": site.x_m - 0.02 * step})
        changed = design.model_copy(update={"sites": (moved, *design.sites[1:])})
        begun = way.solve(changed, at)
        fresh = solve_condition(changed, CATALOGUE, at, fineness=FINENESS_ON_THE_WAY)
        assert begun.site_surfaces_c["Ledge"] == pytest.approx(fresh.site_surfaces_c["Ledge"], abs=0.05)
