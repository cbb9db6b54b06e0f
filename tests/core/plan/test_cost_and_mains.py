"""What a design takes from the mains, and what it is laid beside."""

import pytest

from mitten.core.judge import assess
from mitten.core.plan import daily_use, outlet_loads, over_materials, running_w
from mitten.core.plan.mains import connected_by_all_w, connected_w, heat_of, heat_of_all, most_connected_w
from mitten.core.plan.setpoints import settings_of
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import box_data, lamp, ledge_data, mat_data, read


def test_a_day_costs_its_watts_times_its_hours() -> None:
    design = box_data()
    design["schedule"] = {"day_hours": 10.0}
    design["room"]["tariff_per_kwh"] = 0.4
    winter, summer = daily_use(assess(read(design), CATALOGUE))
    assert winter.kwh == pytest.approx(0.75)
    assert winter.cost == pytest.approx(0.3)
    assert summer.kwh == pytest.approx(winter.kwh)


def test_where_days_follow_the_seasons_those_of_summer_take_more() -> None:
    design = box_data()
    design["schedule"] = {"day_hours": 10.0, "day_length": "seasons", "winter_hours": 8.0, "summer_hours": 14.0}
    assert [use.kwh for use in daily_use(assess(read(design), CATALOGUE))] == pytest.approx([0.6, 1.05])


def test_what_runs_on_after_dark_is_counted_once() -> None:
    design = box_data(on="day")
    design["schedule"] = {"day_hours": 10.0, "after_dark_h": {"Lamp": 2.0}}
    assert daily_use(assess(read(design), CATALOGUE))[0].kwh == pytest.approx(0.9)
    design["heaters"][0]["on"] = "always"
    assert daily_use(assess(read(design), CATALOGUE))[0].kwh == pytest.approx(1.8)


def test_a_thermostat_takes_no_more_than_it_gives() -> None:
    assessment = assess(read(mat_data(10.0, {"reads": "heater"}, 30.0)), CATALOGUE)
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
    found = over_materials(design, CATALOGUE)
    assert list(found) == ["over slate", "over hardwood", "over cast resin", "over topsoil"]
    assert found["over hardwood"].sites[0].material == "hardwood"
    bare = found["over topsoil"]
    assert bare.sites == ()
    top_m = design.sites[0].top_m(design.substrate.depth_m)
    assert bare.heaters[0].z_m - bare.substrate.depth_m == pytest.approx(design.heaters[0].z_m - top_m)
    assert list(over_materials(read(box_data()), CATALOGUE)) == ["over topsoil"]


def test_what_is_connected_is_all_that_runs_by_day_or_by_night() -> None:
    design = demo_designs()[0]
    by_day = [heater.watts for heater in design.heaters if heater.on != "night"]
    lights = sum(light.watts for light in design.lights)
    tubes = sum(lamp.watts for lamp in design.uvb if lamp.on in ("day", "always"))
    assert connected_w(design, "day") == pytest.approx(sum(by_day) + lights + tubes)
    assert connected_w(design, "night") == sum(heater.watts for heater in design.heaters if heater.on != "day")
    assert most_connected_w(design) == max(connected_w(design, "day"), connected_w(design, "night"))
    dimmed = read({**box_data(), "heaters": [lamp(dim=0.6), lamp(name="Night", watts=100.0, on="night")]})
    assert (connected_w(dimmed, "day"), connected_w(dimmed, "night")) == pytest.approx((45.0, 100.0))
    assert connected_by_all_w([design, design], "day") == 2 * connected_w(design, "day")


def test_heat_of_several_enclosures_is_added_up_season_by_season() -> None:
    assert heat_of_all([(1.0, 2.0, 3.0, 4.0), (10.0, 20.0, 30.0, 40.0)]) == (11.0, 22.0, 33.0, 44.0)
    assert heat_of_all([]) == (0.0, 0.0, 0.0, 0.0)
    found = assess(demo_designs()[0], CATALOGUE)
    assert heat_of(found)[0] == running_w(found.climate("winter-day"))


def test_the_day_settings_are_in_half_degrees_and_in_both_seasons() -> None:
    design = demo_designs()[5]
    found = assess(design, CATALOGUE)
    control = next(one for one in design.controls if one.is_thermostat)
    settings = settings_of(found, control)
    assert settings is not None
    assert settings.aim.target_c == sum(found.targets.wants(settings.aim.key)) / 2
    assert set(settings.found) == {"winter", "summer"}
    for season, celsius in settings.settings_c.items():
        exact = settings.found[season]
        assert exact is not None
        assert abs(celsius - exact.probe_c) <= 0.25
        assert celsius * 2 == int(celsius * 2)
