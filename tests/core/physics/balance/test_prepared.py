"""What an enclosure has in common with a changed one is worked out once, and nothing else is."""

import numpy as np
import pytest

from mitten.core.design import Design
from mitten.core.judge import read_condition, solve_condition
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.preparing import forget_prepared, prepare
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE

QUARRY = demo_designs()[0]


def with_ground(**changes: object) -> Design:
    return QUARRY.model_copy(update={"substrate": QUARRY.substrate.model_copy(update=changes)})


def with_box(**changes: object) -> Design:
    return QUARRY.model_copy(update={"enclosure": QUARRY.enclosure.model_copy(update=changes)})


def insulated() -> Design:
    panels = QUARRY.enclosure.panels
    back = panels.back.model_copy(update={"insulation_mm": 30.0})
    return with_box(panels=panels.model_copy(update={"back": back}))


CHANGES = {
    "sprayed": with_ground(misting_ml_day=200.0),
    "damp": with_ground(moisture="damp"),
    "deep": with_ground(depth_mm=90.0),
    "insulated": insulated(),
    "closed": with_box(vents=()),
    "taller": with_box(height_m=QUARRY.enclosure.height_m + 0.1),
    "bare": QUARRY.model_copy(update={"sites": ()}),
}


@pytest.mark.parametrize("name", CHANGES)
def test_a_changed_enclosure_is_as_if_it_had_been_prepared_alone(name: str) -> None:
    prepare(QUARRY, CATALOGUE)
    beside = prepare(CHANGES[name], CATALOGUE)
    forget_prepared()
    alone = prepare(CHANGES[name], CATALOGUE)
    assert beside.interior == alone.interior
    for key in ("long_loss", "conduction", "convecting_m2", "wetness"):
        np.testing.assert_array_equal(getattr(beside, key), getattr(alone, key))
    np.testing.assert_array_equal(beside.zone_shares.shares, alone.zone_shares.shares)
    assert beside.misting_kg_s == alone.misting_kg_s
    np.testing.assert_array_equal(beside.openings.inflow, alone.openings.inflow)


def test_only_what_a_change_touches_is_worked_out_again() -> None:
    def shared(one: Prepared, other: Prepared) -> tuple[bool, bool, bool]:
        return one.interior is other.interior, one.network is other.network, one.has_matrices_of(other)

    before = prepare(QUARRY, CATALOGUE)
    after = {name: shared(before, prepare(design, CATALOGUE)) for name, design in CHANGES.items()}
    assert after["sprayed"] == (True, True, True)
    assert after["closed"][:2] == after["insulated"][:2] == after["damp"][:2] == (True, True)
    assert not after["insulated"][2], "factors of other panels do not serve"
    assert after["deep"] == after["taller"] == after["bare"] == (False, False, False)


@pytest.mark.parametrize("name", ["sprayed", "insulated", "deep"])
def test_a_solution_begun_from_another_enclosure_is_the_same(name: str) -> None:
    design = CHANGES[name]
    condition = read_condition(design, "winter-day")
    begun = solve_condition(
        design,
        CATALOGUE,
        condition,
        solve_condition(QUARRY, CATALOGUE, read_condition(QUARRY, "winter-day")),
    )
    fresh = solve_condition(design, CATALOGUE, condition)
    np.testing.assert_allclose(begun.state.surface_c, fresh.state.surface_c, atol=0.03)
