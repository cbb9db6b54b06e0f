"""What a box goes through, and what fails in it, against what is told by hand."""

import pytest

from mitten.core.judge import read_condition
from mitten.core.judge.conditions import climate_like
from mitten.core.judge.days import (
    ALWAYS,
    NEVER,
    Failure,
    Through,
    failing,
    failures_of,
    of_condition,
    room_of_hours,
    room_over_a_day,
)
from mitten.core.physics.transient.regulation import Clock
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, climate_of, lamp, read

TWO: Data = {
    **box_data(),
    "heaters": [
        {**lamp(), "control": "Warm"}, {**lamp(name="Other", watts=50.0, x_m=0.4), "control": "Cool"},
    ],
    "controls": [
        {"name": name, "kind": "on-off", "day_c": 30.0, "probe": {"x_m": x_m, "y_m": 0.3, "z_m": 0.2}}
        for name, x_m in (("Warm", 0.9), ("Cool", 0.3))
    ],
}  # fmt: skip
"""Two lamps, each with a thermostat of its own."""


@pytest.fixture(scope="module")
def through() -> Through:
    design = read(TWO)
    return of_condition(design, CATALOGUE, read_condition(design, "room=20,day"))


def test_a_room_warms_for_two_hours_from_lights_on_and_cools_for_four_from_lights_off() -> None:
    """Lights from 08:00 for ten hours."""
    room_c = room_over_a_day(22.0, 16.0, Clock(480.0, 600.0))
    told = {480: 16.0, 540: 19.0, 600: 22.0, 900: 22.0, 1080: 22.0, 1200: 19.0, 1320: 16.0, 100: 16.0}
    assert {minute: room_c(minute) for minute in told} == pytest.approx(told)
    assert (room_over_a_day(22.0, 16.0, ALWAYS)(0.0), room_over_a_day(22.0, 16.0, NEVER)(700.0)) == (22.0, 16.0)


def test_a_day_or_a_night_that_is_shorter_than_the_room_takes_is_gone_through_all_the_same() -> None:
    short_day, short_night = (room_over_a_day(22.0, 16.0, Clock(0.0, hours * 60.0)) for hours in (1.0, 23.0))
    assert [short_day(minute) for minute in (0, 30, 60, 180)] == pytest.approx([16.0, 19.0, 22.0, 19.0])
    assert [short_night(minute) for minute in (1380, 1410, 60)] == pytest.approx([22.0, 19.0, 19.0])


def test_a_room_by_hours_goes_straight_between_them_and_over_midnight() -> None:
    room_c = room_of_hours((10.0, 16.0, 22.0, 13.0))
    assert [room_c(60.0 * hour) for hour in (0, 3, 6, 12, 15, 18, 21, 24, 30)] == pytest.approx(
        [10.0, 13.0, 16.0, 22.0, 17.5, 13.0, 11.5, 10.0, 16.0]
    )


def test_what_fails_by_name_fails_alone_and_without_one_all_of_it(through: Through) -> None:
    def stuck(failure: str, name: str = "") -> list[str]:
        return [one.stuck for one in failing(through, Failure(failure, name), 0.0).happening.thermostats]

    assert stuck("dead", "Lamp") == ["", ""]
    assert (stuck("stuck-on"), stuck("stuck-off")) == (["on", "on"], ["off", "off"])
    assert (stuck("stuck-on", "Cool"), stuck("stuck-off", "Warm")) == (["", "on"], ["off", ""])
    assert failing(through, Failure("dead", "Lamp"), 0.0).happening.dead == {"Lamp"}
    assert through.happening.has_power
    assert not failing(through, Failure("power-cut"), 0.0).happening.has_power


def test_a_probe_that_is_out_of_the_box_reads_the_room_and_only_its_own_control_is_misled(through: Through) -> None:
    usual = through.moving.box.sensors
    both = failing(through, Failure("probe-out"), 0.0).moving.box.sensors
    one = failing(through, Failure("probe-out", "Cool"), 0.0).moving.box.sensors
    fallen = failing(through, Failure("probe-fallen", "Warm"), 0.0).moving.box.sensors
    assert [sensor.room for sensor in usual] == [0.0, 0.0]
    assert [sensor.room for sensor in both] == [1.0, 1.0]
    assert [sensor.room for sensor in one] == [0.0, 1.0]
    assert [sensor is before for sensor, before in zip(fallen, usual, strict=True)] == [False, True]
    assert fallen[0].room == 0.0


def test_a_room_that_is_not_heated_empties_from_when_its_heating_fails(through: Through) -> None:
    """To 5 °C, with twenty hours as its time constant."""
    room_c = failing(through, Failure("room-heating"), 600.0).happening.room_c
    assert [room_c(minute) for minute in (0, 600, 600 + 1200, 600 + 12000)] == pytest.approx(
        [20.0, 20.0, 5.0 + 15.0 / 2.71828, 5.0], abs=0.01
    )


def test_a_heat_wave_is_six_kelvin_at_four_in_the_afternoon_and_over_at_ten(through: Through) -> None:
    room_c = failing(through, Failure("heat-wave"), 0.0).happening.room_c
    hours = (4, 9, 10, 13, 16, 19, 22, 24 + 16)
    assert [room_c(60.0 * hour) for hour in hours] == pytest.approx([20, 20, 20, 23, 26, 23, 20, 26])


def test_failures_are_those_that_a_design_can_have() -> None:
    bare, held = read(box_data()), read({**TWO, "enclosure": {**TWO["enclosure"], "fan_l_s": 2.0}})
    assert [one.text for one in failures_of(bare, "winter")] == ["dead:Lamp", "power-cut", "room-heating", "heat-wave"]
    assert [one.text for one in failures_of(bare, "summer")] == ["dead:Lamp", "power-cut", "heat-wave"]
    assert [one.text for one in failures_of(held, "summer")] == [
        "stuck-on", "stuck-off", "probe-fallen", "probe-out", "dead:Lamp", "dead:Other", "power-cut", "fan-stopped",
        "heat-wave",
    ]  # fmt: skip


def test_a_condition_without_a_climate_is_stood_for_by_one_of_the_same_time_of_day() -> None:
    design = read(box_data())
    climate = climate_of(box_data())
    other = climate_of(box_data(), room_c=25.0)
    night, day = read_condition(design, "summer-night"), read_condition(design, "usual-day")
    assert climate_like({night: climate, day: other}, "summer-night") is climate
    assert climate_like({night: climate, day: other}, "winter-day") is other
    assert climate_like({night: climate, day: other}, "winter-night") is climate
    assert climate_like({night: climate}, "winter-day") is climate
    with pytest.raises(KeyError):
        climate_like({}, "winter-day")
