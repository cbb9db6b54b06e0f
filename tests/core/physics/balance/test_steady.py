"""Where a solution is begun: near another it takes fewer rounds, far from it nothing of that is used."""

import numpy as np
import pytest

from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.situation import Situation
from mitten.core.physics.solving import solve_climate
from tests.catalogue import CATALOGUE
from tests.designs import box_data, read

SETTLED_WITHIN_K = 0.02


def solved(watts: float, start: Climate | None = None, room_c: float = 21.0) -> Climate:
    return solve_climate(read(box_data(watts=watts)), CATALOGUE, Situation(room_c), start)


def rounds(climate: Climate) -> int:
    assert climate.settled is not None
    return climate.settled.rounds


def apart_k(one: Climate, other: Climate) -> float:
    return float(np.abs(one.state.surface_c - other.state.surface_c).max())


@pytest.mark.parametrize("watts", [74.0, 76.0, 78.0])
def test_near_another_it_takes_fewer_rounds_and_ends_at_the_same(watts: float) -> None:
    fresh, begun = solved(watts), solved(watts, solved(75.0))
    assert rounds(begun) < rounds(fresh)
    assert 0.0 < apart_k(begun, fresh) < SETTLED_WITHIN_K


@pytest.mark.parametrize("watts", [0.0, 15.0, 150.0])
def test_far_from_another_it_is_the_one_begun_from_nothing_to_the_last_digit(watts: float) -> None:
    assert apart_k(solved(watts, solved(75.0)), solved(watts)) == 0.0


def test_a_warmer_room_is_no_other_place() -> None:
    """A room 15 K warmer warms everything nearly alike: what was known is carried over, and near."""
    fresh, begun = solved(75.0, room_c=31.0), solved(75.0, solved(75.0, room_c=16.0), room_c=31.0)
    assert rounds(begun) < rounds(fresh)
    assert 0.0 < apart_k(begun, fresh) < SETTLED_WITHIN_K
