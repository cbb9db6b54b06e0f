"""The animal's day against what a lumped body does, and how long a box takes after changes."""

from functools import cache

import numpy as np
import pytest

from mitten.core.design import Design
from mitten.core.judge import read_condition
from mitten.core.judge.conditions import solve_condition
from mitten.core.judge.days import of_season
from mitten.core.judge.settling import _before, changes_to_settle, settling_minutes
from mitten.core.judge.shuttling import AnimalDay, Place, _away, _shuttle, _to_the_top, animal_day
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import box_data, mat_data, read

COUNT = 1440
BY_DAY = np.arange(COUNT) < 720


def place(celsius: float, constant_s: float) -> Place:
    return Place(np.full(COUNT, celsius), np.full(COUNT, constant_s))


WARM, COOL = place(44.0, 1800.0), place(24.0, 1200.0)
PREFERRED = (34.0, 38.0)


def test_minutes_at_a_place_are_those_of_a_lump() -> None:
    assert _to_the_top(WARM, PREFERRED, BY_DAY) == pytest.approx(30 * np.log(10 / 6), rel=1e-6)
    assert _away(COOL, PREFERRED, BY_DAY) == pytest.approx(20 * np.log(14 / 10), rel=1e-6)
    assert _to_the_top(place(37.0, 1800.0), PREFERRED, BY_DAY) is None, "it never comes there"
    assert _away(place(35.0, 1200.0), PREFERRED, BY_DAY) is None, "it need not come back"


def test_it_goes_to_and_fro_within_what_it_prefers() -> None:
    body_c, basks = _shuttle(WARM, COOL, BY_DAY, PREFERRED)
    assert not basks[~BY_DAY].any(), "it sleeps in the cool"
    first = int(np.flatnonzero(body_c >= PREFERRED[0])[0])
    assert first == pytest.approx(30 * np.log((44 - 24) / 10), abs=2)
    assert body_c[first:720].min() > PREFERRED[0] - 0.5
    assert body_c[first:720].max() < PREFERRED[1] + 0.5
    share = basks[first:720].mean()
    up, down = 30 * np.log(9.8 / 6.2), 20 * np.log(13.8 / 10.2)
    assert share == pytest.approx(up / (up + down), abs=0.06)
    assert body_c[-1] == pytest.approx(24.0, abs=0.1)


def test_a_body_that_is_warm_still_in_the_morning_begins_its_day_so() -> None:
    """A large one: in the twelve hours of the night it falls to within 24 + 10 / e of the cool end."""
    slow = place(24.0, 12 * 3600.0)
    body_c, _ = _shuttle(place(40.0, 12 * 3600.0), slow, BY_DAY, PREFERRED)
    fallen = 24 + (body_c[720] - 24) * np.exp(-719 / 720)
    assert body_c[-1] == pytest.approx(fallen, abs=0.01)
    assert body_c[0] == pytest.approx(body_c[-1], abs=1.0)
    assert body_c[0] > 26


@cache
def lived(design: Design) -> AnimalDay:
    through = of_season(design, CATALOGUE, "winter")
    return animal_day(through.moving.repeating_day(through.happening), through.happening.clock)


@pytest.mark.slow
def test_a_day_of_a_real_box_adds_up() -> None:
    day = lived(demo_designs()[2])
    assert sum(hours for _, hours in day.hours_by_band()) == pytest.approx(24.0, abs=0.05)
    assert day.reached_min is not None
    assert 10 < day.reached_min < 120
    assert 0.3 < day.basking_share < 0.95, "it goes to and fro"
    assert day.within_share > 0.8
    assert day.away_min is not None
    assert day.cooled_min is not None


@pytest.mark.slow
def test_deep_ground_over_a_mat_takes_longer_than_air_under_another_room() -> None:
    design = read(mat_data(depth_mm=80.0))
    condition = read_condition(design, "winter-day")
    cold, power = (settling_minutes(design, CATALOGUE, condition, kind) for kind in ("cold", "power"))
    assert cold is not None
    assert power is not None
    assert cold > 180
    assert 30 < power <= cold
    shallow = settling_minutes(read(mat_data(depth_mm=10.0)), CATALOGUE, condition, "cold")
    assert shallow is not None
    assert shallow < cold - 60


def test_a_change_begins_from_less_power_a_colder_room_or_lower_setpoints() -> None:
    design = read(mat_data(probe={"reads": "heater"}))
    condition = read_condition(design, "winter-day")
    usual = solve_condition(design, CATALOGUE, condition)
    power, setpoint, room = (_before(design, CATALOGUE, condition, kind) for kind in ("power", "setpoint", "room"))
    assert room.room_c == usual.room_c - 3.0
    assert [one.design.heaters[0].dim for one in (power, setpoint, room)] == pytest.approx([0.8, 1.0, 1.0])
    assert setpoint.controls["Thermostat"].probe_c == pytest.approx(usual.controls["Thermostat"].probe_c - 2.0, abs=0.1)


@pytest.mark.slow
def test_only_changes_that_a_design_can_have_are_gone_through() -> None:
    assert list(changes_to_settle(read(box_data()))) == ["cold", "power", "room"]
    held = read(mat_data(probe={"reads": "heater"}))
    assert "setpoint" in list(changes_to_settle(held))
    moved = settling_minutes(held, CATALOGUE, read_condition(held, "winter-day"), "setpoint")
    assert moved is not None
    assert 1 <= moved < 600
