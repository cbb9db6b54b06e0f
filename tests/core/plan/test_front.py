"""A front: what is borne asks for nothing, the change that is named is enough, and the hour of undoing is after it."""

import pytest

from mitten.core.design.amounts import plain
from mitten.core.judge.days import of_season
from mitten.core.physics.transient.regulation import DAY_MIN
from mitten.core.plan.front import front, room_through
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.held import changed
from tests.random_designs import random_design

TUB, COAST = demo_designs()[3], demo_designs()[5]


@pytest.mark.slow
def test_a_day_like_any_other_asks_for_nothing() -> None:
    found = front(COAST, CATALOGUE, "winter", (17.0, 17.0, 19.0, 18.0))
    assert (found.worst, found.change, found.undo_min) == (None, "", None)
    assert found.coldest_c == pytest.approx(19.2, abs=0.6)


@pytest.mark.slow
def test_a_cold_day_names_one_change_that_is_enough_and_when_to_undo_it() -> None:
    found = front(TUB, CATALOGUE, "winter", (8.0, 6.0, 12.0, 8.0))
    assert changed("a-cold-front", found) == []
    assert found.worst is not None
    assert found.worst.celsius < found.worst.borne_c
    assert found.change
    assert found.left is None
    assert found.undo_min is not None
    assert found.worst.minute <= found.undo_min <= 2 * DAY_MIN + 60


@pytest.mark.slow
def test_a_hot_day_leaves_heat_off_or_cools_the_room() -> None:
    found = front(TUB, CATALOGUE, "summer", (26.0, 28.0, 36.0, 30.0))
    assert changed("a-hot-front", found) == []
    assert found.worst is not None
    assert found.worst.celsius > found.worst.borne_c
    assert "room below" in found.change or "off tomorrow" in found.change
    assert found.left is None


def test_the_room_is_tomorrows_from_midnight_to_midnight_alone() -> None:
    usual = of_season(COAST, CATALOGUE, "winter").happening.room_c
    room = room_through(usual, (5.0, 7.0))
    assert room(DAY_MIN - 1) == usual(DAY_MIN - 1)
    assert room(DAY_MIN) == pytest.approx(5.0)
    assert room(1.5 * DAY_MIN) == pytest.approx(7.0)
    assert room(2 * DAY_MIN) == usual(2 * DAY_MIN)


@pytest.mark.slow
def test_a_room_is_not_kept_cooler_because_something_is_too_cold() -> None:
    """This box is too cold of a usual night already, which no cooler day mends."""
    found = front(random_design(201), CATALOGUE, "winter", (30.0, 38.0, 31.0))
    assert changed("a-front-over-a-cold-box", found) == []
    assert found.worst is not None
    assert not found.worst.is_cold
    assert plain(found.change) == "Keep the room below 31 °C until then"
    assert found.left is not None
    assert found.left.is_cold
    assert found.left.celsius == pytest.approx(found.coldest_c)
