"""What a probe on a heater reads when the heater gives nothing, or next to nothing."""

import pytest

from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.probes import probe_c
from tests.designs import Data, box_data, climate_of

AREA = {"length_m": 0.3, "depth_m": 0.15}
IDLE = {
    "under the floor": {"kind": "heat-mat", "place": "under-floor", "x_m": 0.6, "y_m": 0.25, **AREA},
    "on the floor": {"kind": "heat-mat", "place": "on-floor", "x_m": 0.6, "y_m": 0.25, **AREA},
    "on the wall": {"kind": "heat-mat", "place": "wall", "x_m": 0.6, "y_m": 0.499, "z_m": 0.2, **AREA},
    "an emitter": {"kind": "ceramic-emitter", "x_m": 0.6, "y_m": 0.25, "z_m": 0.35, "fixture": {"kind": "guarded-socket"}},
    "a panel": {"kind": "radiant-panel", "place": "ceiling", "x_m": 0.6, "y_m": 0.25, **AREA},
}  # fmt: skip


def beside_a_lamp(part: Data, setpoint_c: float, watts: float = 10.0) -> Data:
    """A warm box whose thermostat, its probe on the part itself, has nothing to do or next to nothing."""
    data = box_data(watts=100.0)
    data["heaters"].append({**part, "name": "Idle", "watts": watts, "on": "always", "control": "T"})
    data["enclosure"]["underside"] = {"raised": True}
    data["controls"] = [
        {"name": "T", "kind": "on-off", "day_c": setpoint_c, "probe": {"x_m": 0.6, "y_m": 0.25, "z_m": 0.0, "reads": "heater"}}
    ]  # fmt: skip
    return data


def reading(climate: Climate) -> float:
    return probe_c(climate.design, climate.state, climate.design.controls[0], climate.catalogue)


@pytest.mark.parametrize("part", IDLE.values(), ids=IDLE.keys())
def test_a_heater_that_gives_nothing_is_as_warm_as_what_it_lies_in(part: Data) -> None:
    off = climate_of(beside_a_lamp(part, 5.0))
    barely = climate_of(beside_a_lamp(part, 5.0, watts=0.02))
    assert off.controls["T"].status == "room alone exceeds"
    assert reading(off) > off.room_c + 1.0
    assert reading(off) == pytest.approx(reading(barely), abs=0.2)


@pytest.mark.parametrize("part", IDLE.values(), ids=IDLE.keys())
def test_a_setpoint_just_over_what_the_lamp_makes_is_held_with_a_trace_of_power(part: Data) -> None:
    alone_c = reading(climate_of(beside_a_lamp(part, 5.0)))
    held = climate_of(beside_a_lamp(part, alone_c + 1.0)).controls["T"]
    assert held.status == "regulates"
    assert held.duty < 0.6
    exceeded = climate_of(beside_a_lamp(part, alone_c - 1.0)).controls["T"]
    assert (exceeded.status, exceeded.duty) == ("room alone exceeds", 0.0)
