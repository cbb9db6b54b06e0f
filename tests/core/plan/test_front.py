"""A front: what is borne asks for nothing, the change that is named is enough, and the hour of undoing is after it."""

from types import SimpleNamespace

import numpy as np
import pytest

from mitten.core.catalogue import targets_of
from mitten.core.design.amounts import plain
from mitten.core.judge.days import of_season
from mitten.core.physics.transient.regulation import DAY_MIN, Clock
from mitten.core.plan import front as front_module
from mitten.core.plan.front import _beyond, _is_settled_day, _is_settled_night, front, room_through, worst_of
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.held import changed
from tests.random_designs import random_design
from tests.sweeping import sweep

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
    assert "or less until" in found.change or "off tomorrow" in found.change
    assert found.left is None


def test_a_front_holds_its_end_and_the_days_after_follow_from_there() -> None:
    usual = of_season(COAST, CATALOGUE, "winter").happening.room_c
    room = room_through(usual, (14.0, 12.0, 9.0, 5.0))
    assert room(DAY_MIN - 1) == usual(DAY_MIN - 1)
    assert [room(DAY_MIN + share * DAY_MIN) for share in (0.0, 0.25, 0.5, 0.75)] == pytest.approx(
        [14.0, 12.0, 9.0, 5.0]
    )
    assert room(2 * DAY_MIN - 1) == pytest.approx(5.0), "a day that falls ends where it falls"
    assert room(2 * DAY_MIN) == pytest.approx(5.0)
    assert room(2.5 * DAY_MIN) == pytest.approx(5.0 + usual(0.5 * DAY_MIN) - usual(0.0))


@pytest.mark.parametrize(
    ("day_hours", "days", "nights"),
    [(12.0, [(12, 20)], [(0, 8), (22, 24)]), (5.0, [(10.5, 13)], [(0, 8), (15, 24)])],
)
def test_what_counts_of_tomorrow_is_when_day_and_night_have_come_to_be(
    day_hours: float, days: list[tuple[float, float]], nights: list[tuple[float, float]]
) -> None:
    """Lights from 08:00: of a day its first four hours or its first half are left out, of a night its first two."""
    course = SimpleNamespace(minutes=np.arange(1200.0, 3 * DAY_MIN))
    through = SimpleNamespace(happening=SimpleNamespace(clock=Clock(480.0, day_hours * 60.0)))
    for flags, hours in ((_is_settled_day, days), (_is_settled_night, nights)):
        counted = (course.minutes[flags(course, through)] - DAY_MIN) / 60  # type: ignore[arg-type]
        told = np.concatenate([np.arange(first * 60, last * 60) / 60 for first, last in hours])
        np.testing.assert_allclose(counted, told)


@pytest.mark.parametrize(
    ("values", "span", "found"),
    [
        ([20.0, 36.0, 38.0, 30.0], (15.0, 35.0), ("hot", 38.0, 35.0, 2.0)),
        ([20.0, 12.0, 14.0, 30.0], (15.0, 35.0), ("cold", 12.0, 15.0, 1.0)),
        ([20.0, 12.0, 14.0, 30.0], (-np.inf, 35.0), None), ([20.0, 30.0, 40.0, 30.0], (-np.inf, 35.0), ("hot", 40.0, 35.0, 2.0)),
        ([50.0, 30.0, 20.0, 0.0], (15.0, 35.0), None), ([20.0, 12.0, 40.0, 30.0], (15.0, 35.0), ("hot", 40.0, 35.0, 2.0)),
        ([20.0, 9.0, 40.0, 30.0], (15.0, 35.0), ("cold", 9.0, 15.0, 1.0)), ([20.0, 9.0, 42.0, 30.0], (15.0, np.inf), ("cold", 9.0, 15.0, 1.0)),
    ],
)  # fmt: skip
def test_what_is_worst_is_the_furthest_beyond_what_is_tolerated_and_only_while_it_counts(
    values: list[float], span: tuple[float, float], found: tuple[str, float, float, float] | None
) -> None:
    """The first and the last minute do not count."""
    course = SimpleNamespace(minutes=np.arange(4.0))
    when = np.array([False, True, True, False])
    worst = _beyond("The air", np.array(values), when, span, course)  # type: ignore[arg-type]
    said = worst and ("cold" if worst.is_cold else "hot", worst.celsius, worst.borne_c, worst.minute)
    assert said == found


def test_a_cool_end_that_is_cold_by_day_is_left_for_the_warm_one_and_one_that_is_too_warm_leaves_nowhere(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    # The body stays well, so that the ends alone are told apart.
    monkeypatch.setattr(
        front_module, "exposed_in", lambda course: SimpleNamespace(body_c=np.full(len(course.minutes), 30.0))
    )
    targets = targets_of(TUB.animal, CATALOGUE.species[TUB.animal.species])
    minutes = np.arange(1200.0, 3 * DAY_MIN)
    through = SimpleNamespace(happening=SimpleNamespace(clock=Clock(480.0, 720.0)))
    night_c, warm_c = (np.full(len(minutes), sum(targets.bears(key)) / 2) for key in ("night_c", "warm_air_c"))
    is_day = (minutes % DAY_MIN >= 480) & (minutes % DAY_MIN < 1200)

    def worst(cool_by_day_c: float) -> str | None:
        course = SimpleNamespace(minutes=minutes, warm_c=warm_c, cool_c=np.where(is_day, cool_by_day_c, night_c))
        found = worst_of(course, through, targets)  # type: ignore[arg-type]
        return None if found is None else found.what

    assert worst(targets.bears("cool_air_c")[0] - 5) is None
    assert worst(targets.bears("cool_air_c")[1] + 1) == "The cool end"
    warm_c -= 20
    assert worst(sum(targets.bears("cool_air_c")) / 2) == "The warm end"


@sweep
def test_a_room_is_not_kept_cooler_because_something_is_too_cold() -> None:
    """This box is too cold of a usual night already, which no cooler day mends."""
    found = front(random_design(201), CATALOGUE, "winter", (30.0, 38.0, 31.0))
    assert changed("a-front-over-a-cold-box", found) == []
    assert found.worst is not None
    assert not found.worst.is_cold
    assert plain(found.change).startswith("Keep the room at 29.5 °C or less until tomorrow")
    assert found.left is not None
    assert found.left.is_cold
    assert found.left.celsius >= found.coldest_c - 0.01, "the animal is at the warm end by night"
