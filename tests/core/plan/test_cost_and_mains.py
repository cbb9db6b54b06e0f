"""What a design takes from the mains, and what it is laid beside."""

import pytest

from mitten.core.judge import assess
from mitten.core.plan import daily_use, outlet_loads, over_materials, running_w
from tests.designs import box_data, ledge_data, mat_data, read


def test_a_day_costs_its_watts_times_its_hours() -> None:
    design = box_data()
    design["schedule"] = {"day_hours": 10.0}
    design["room"]["tariff_per_kwh"] = 0.4
    winter, summer = daily_use(assess(read(design)))
    assert winter.kwh == pytest.approx(0.75)
    assert winter.cost == pytest.approx(0.3)
    assert summer.kwh == pytest.approx(winter.kwh)


def test_what_runs_on_after_dark_is_counted_once() -> None:
    design = box_data(on="day")
    design["schedule"] = {"day_hours": 10.0, "after_dark_h": {"Lamp": 2.0}}
    assert daily_use(assess(read(design)))[0].kwh == pytest.approx(0.9)
    design["heaters"][0]["on"] = "always"
    assert daily_use(assess(read(design)))[0].kwh == pytest.approx(1.8)


def test_a_thermostat_takes_no_more_than_it_gives() -> None:
    assessment = assess(read(mat_data(10.0, {"reads": "heater"}, 30.0)))
    climate = assessment.climate("winter-day")
    assert running_w(climate) == pytest.approx(16.0 * climate.controls["Thermostat"].duty)
    assert daily_use(assessment)[0].cost is None


def test_outlets_add_up_and_say_when_it_is_too_much_for_hours() -> None:
    one, two = outlet_loads([("A", 900.0), ("B", 100.0), ("A", 700.0)], volts=120.0, rated_a=15.0)
    assert (one.outlet, one.watts) == ("A", 1600.0)
    assert one.amperes == pytest.approx(13.33, abs=0.01)
    assert one.continuous_limit_a == pytest.approx(12.0)
    assert one.too_much
    assert not two.too_much


def test_the_same_lamp_lies_over_slate_wood_resin_and_soil() -> None:
    design = read(ledge_data())
    found = over_materials(design)
    assert list(found) == ["over slate", "over hardwood", "over cast resin", "over topsoil"]
    assert found["over hardwood"].sites[0].material == "hardwood"
    bare = found["over topsoil"]
    assert bare.sites == ()
    top_m = design.sites[0].top_m(design.substrate.depth_m)
    assert bare.heaters[0].z_m - bare.substrate.depth_m == pytest.approx(design.heaters[0].z_m - top_m)
    assert list(over_materials(read(box_data()))) == ["over topsoil"]
