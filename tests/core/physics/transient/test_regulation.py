"""Clock, thermostats and the room's day, by hand."""

import pytest

from mitten.core.design.heater import OnWhen
from mitten.core.judge.days import ROOM_COOLS_MIN, ROOM_WARMS_MIN, room_over_a_day
from mitten.core.physics.transient.regulation import Clock, Thermostat

DAY = Clock(480.0, 600.0, ramp_min=20.0, after_dark_min=(("Panel", 90.0),))
"""From 8:00 to 18:00; a panel goes on until 19:30."""


@pytest.mark.parametrize(
    ("name", "on", "ramps", "minute", "share"),
    [
        ("Lamp", "day", False, 479.9, 0.0), ("Lamp", "day", False, 480.0, 1.0), ("Lamp", "day", False, 1079.9, 1.0),
        ("Lamp", "day", False, 1080.0, 0.0), ("Lamp", "day", False, 480.0 + 1440.0, 1.0),
        ("Lamp", "day", True, 485.0, 0.25), ("Lamp", "day", True, 500.0, 1.0), ("Lamp", "day", True, 1070.0, 0.5),
        ("Panel", "day", False, 1169.9, 1.0), ("Panel", "day", False, 1170.0, 0.0), ("Panel", "day", True, 1160.0, 0.5),
        ("Night", "night", False, 479.9, 1.0), ("Night", "night", True, 700.0, 0.0), ("Night", "night", True, 1080.0, 1.0),
        ("Mat", "always", True, 0.0, 1.0), ("Mat", "always", False, 700.0, 1.0),
    ],
)  # fmt: skip
def test_what_the_clock_lets_a_source_have(name: str, on: OnWhen, ramps: bool, minute: float, share: float) -> None:
    assert DAY.allows(name, on, ramps, minute) == pytest.approx(share)


def test_a_day_that_never_ends_or_never_begins_has_no_edges_and_no_ramps() -> None:
    for lasts_min, share in ((0.0, 0.0), (1440.0, 1.0)):
        clock = Clock(480.0, lasts_min, ramp_min=20.0)
        assert clock.edges_min == ()
        assert clock.allows("Lamp", "day", True, 481.0) == share
        assert clock.is_day(481.0) is bool(share)
    assert DAY.edges_min == (480.0, 1080.0, 1170.0)
    assert Clock(1200.0, 600.0).edges_min == (360.0, 1200.0), "past midnight"


def test_what_a_thermostat_holds_and_what_holds_it_when_it_sticks() -> None:
    usual = Thermostat("T", "proportional", 30.0, None, 1.0, cut_out_c=35.0)
    assert (usual.setpoint_c(True), usual.setpoint_c(False), usual.switches) == (30.0, None, False)
    stuck = usual.stuck_to("on")
    assert (stuck.setpoint_c(True), stuck.setpoint_c(False), stuck.switches) == (35.0, 35.0, True)
    assert usual.stuck_to("off").switches is False
    assert Thermostat("T", "on-off", 30.0, None, 1.0).switches


def test_the_room_warms_as_the_lamps_come_on_and_cools_as_they_go_off() -> None:
    room_c = room_over_a_day(24.0, 18.0, DAY)
    found = [room_c(480.0 + since) for since in (0.0, ROOM_WARMS_MIN / 2, ROOM_WARMS_MIN, 599.9)]
    assert found == pytest.approx([18.0, 21.0, 24.0, 24.0])
    found = [room_c(1080.0 + since) for since in (0.0, ROOM_COOLS_MIN / 4, ROOM_COOLS_MIN, ROOM_COOLS_MIN + 60.0)]
    assert found == pytest.approx([24.0, 22.5, 18.0, 18.0])
    assert room_over_a_day(24.0, 18.0, Clock(0.0, 0.0))(700.0) == 18.0
    assert room_over_a_day(24.0, 18.0, Clock(0.0, 1440.0))(700.0) == 24.0
