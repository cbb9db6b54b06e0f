"""Moist air against published values, and water that is conserved."""

import numpy as np
import pytest

from mitten.core.physics.air.moisture import (
    SECONDS_A_WEEK,
    pressure_pa,
    relative_humidity,
    room_ratio,
    saturation_ratio,
)
from mitten.core.physics.reading.climate import Climate
from tests.designs import Data, climate_of, data, tank_data

SEA = pressure_pa(0.0)


@pytest.mark.parametrize(
    ("celsius", "ratio"), [(0.0, 0.003789), (10.0, 0.007661), (20.0, 0.014758), (30.0, 0.027329), (40.0, 0.049141)]
)
def test_saturated_air_holds_what_the_published_table_says(celsius: float, ratio: float) -> None:
    """ASHRAE Fundamentals, thermodynamic properties of moist air at 101.325 kPa."""
    assert saturation_ratio(np.array([celsius]), SEA)[0] == pytest.approx(ratio, rel=0.005)


def test_relative_humidity_undoes_the_humidity_ratio() -> None:
    ratio = room_ratio(22.0, 0.4, SEA)
    assert relative_humidity(np.array([ratio]), np.array([22.0]), SEA)[0] == pytest.approx(0.4, abs=0.003)


def test_thinner_air_holds_more_water_a_kilogram() -> None:
    assert pressure_pa(2000.0) < SEA
    assert saturation_ratio(np.array([25.0]), pressure_pa(2000.0)) > saturation_ratio(np.array([25.0]), SEA)


def wet_tank(moisture: str = "damp", **substrate: float) -> Data:
    design = tank_data()
    design["substrate"] = {"material": "coconut-fibre", "depth_mm": 50.0, "moisture": moisture, **substrate}
    return design


def test_the_water_that_evaporates_is_what_the_air_carries_away() -> None:
    state = climate_of(wet_tank()).state
    density = state.surroundings.air_density_kg_m3
    exchange, room = state.exchange, state.surroundings.humidity_ratio
    carried = density * float((exchange.leaving * state.moisture.ratio).sum() - exchange.entering.sum() * room)
    left = (
        state.moisture.evaporation_kg_s.sum() - state.moisture.condensation_kg_s.sum() - state.moisture.fog_kg_s.sum()
    )
    assert carried == pytest.approx(left, rel=1e-3)
    assert carried > 0


def test_evaporation_takes_its_heat_and_the_energy_still_closes() -> None:
    dry, damp = climate_of(wet_tank("dry")), climate_of(wet_tank())
    assert damp.floor.hottest()[0] < dry.floor.hottest()[0] - 1
    water = damp.state.moisture
    assert damp.energy.as_vapour_w == pytest.approx(water.latent_w.sum() - water.fog_w.sum(), rel=1e-3)
    assert abs(damp.energy.residual_w) < 1e-3 * damp.energy.in_w


def test_a_wetter_enclosure_is_more_humid_and_a_dry_one_keeps_the_rooms_water() -> None:
    means = [climate_of(wet_tank(moisture)).humidity for moisture in ("dry", "damp", "wet")]
    assert [h.mean for h in means] == sorted(h.mean for h in means)
    assert means[0].litres_a_week == 0.0
    dry = climate_of(wet_tank("dry")).state
    assert np.allclose(dry.moisture.ratio, dry.surroundings.humidity_ratio)
    assert climate_of(wet_tank("dry")).humidity.warm < 0.5


def test_misting_evaporates_what_was_sprayed() -> None:
    climate = climate_of(wet_tank("dry", misting_ml_day=100.0))
    assert climate.humidity.litres_a_week == pytest.approx(0.7, rel=0.01)
    assert climate.humidity.mean > climate_of(wet_tank("dry")).humidity.mean


def test_a_water_dish_evaporates_like_water_and_is_cooler_than_dry_ground() -> None:
    design = tank_data()
    design["sites"] = [
        {"name": "Dish", "role": "water", "material": "tile", "x_m": 0.2, "y_m": 0.2, "length_m": 0.15, "depth_m": 0.15, "thickness_mm": 30.0}
    ]  # fmt: skip
    climate = climate_of(design)
    assert 0.05 < climate.humidity.litres_a_week < 2.0
    assert climate.sites["Dish"].surface_c < climate.air.cool_c


def test_a_wet_box_without_heat_cools_a_little_below_the_room_and_never_saturates_past_full() -> None:
    design = wet_tank("wet")
    design["heaters"][0]["watts"] = 0.0
    climate = climate_of(design)
    assert 14.0 < climate.floor.temperature_c.min() < 21.0
    assert climate.humidity.mean <= 1.0


def tub(moisture: str = "wet", watts: float = 15.0, vents_cm2: float = 2.0, misting_ml_day: float = 0.0) -> Data:
    """A plastic tub 40 x 27 x 16 cm with a mat under half of it and a few holes."""
    plastic = {"material": "polypropylene", "thickness_mm": 2.0}
    box: Data = {
        "length_m": 0.40, "depth_m": 0.27, "height_m": 0.16, "underside": {"raised": True},
        "panels": {face: dict(plastic) for face in ("floor", "top", "left", "right", "front", "back")},
    }  # fmt: skip
    if vents_cm2:
        box["vents"] = [
            {"face": "left", "area_cm2": vents_cm2, "z_m": 0.05},
            {"face": "right", "area_cm2": vents_cm2, "z_m": 0.14},
        ]
    mat = {
        "name": "Mat", "kind": "heat-mat", "watts": watts, "x_m": 0.29, "y_m": 0.135, "length_m": 0.18, "depth_m": 0.2,
        "on": "always",
    }  # fmt: skip
    ground = {"material": "coconut-fibre", "depth_mm": 30.0, "moisture": moisture, "misting_ml_day": misting_ml_day}
    return data(box, [mat], substrate=ground)


def carried_litres(climate: Climate) -> float:
    return climate.humidity.litres_a_week - climate.humidity.condensed_litres_a_week


def test_a_wet_tub_evaporates_no_more_than_its_air_can_carry_and_the_rest_runs_down_its_walls() -> None:
    """At 0.02 l/s a week's air takes 0.3 l at the most from 21 to 33 °C; the hot mat is not hidden by evaporation."""
    climate = climate_of(tub())
    assert climate.ventilation_l_s < 0.06
    most = climate.ventilation_l_s / 1000 * 1.2 * SECONDS_A_WEEK * float(saturation_ratio(np.array([33.0]), SEA)[0])
    assert 0 < carried_litres(climate) < most
    assert climate.energy.as_vapour_w < 1.5
    assert climate.humidity.condensed_litres_a_week > carried_litres(climate)
    assert {"top", "front", "back"} <= set(climate.humidity.runs_down)
    assert climate.floor.hottest()[0] > 34.0


@pytest.mark.parametrize("moisture", ["dry", "damp", "wet"])
@pytest.mark.parametrize("watts", [0.0, 15.0])
def test_a_sealed_and_misted_tub_makes_no_cold(moisture: str, watts: float) -> None:
    """What cannot leave with the air does not evaporate for long: nothing is colder than the wet bulb, or its room."""
    climate = climate_of(tub(moisture, watts, vents_cm2=0.0, misting_ml_day=300.0))
    assert climate.state.surface_c.min() > 21.0 - 0.05
    assert climate.state.air_c.min() > 21.0 - 0.05
    assert carried_litres(climate) < 0.002
    assert abs(climate.state.moisture.residual_kg_s) <= 1e-3 * climate.state.moisture.turned_over_kg_s + 1e-12


def test_nothing_wet_is_colder_than_the_wet_bulb() -> None:
    for moisture in ("damp", "wet"):
        climate = climate_of(tub(moisture, watts=0.0, vents_cm2=40.0))
        assert climate.room_wet_bulb_c - 0.3 < climate.state.surface_c.min() < 21.0


def test_more_water_never_leaves_than_is_misted_on_dry_ground() -> None:
    litres = [climate_of(tub("dry", vents_cm2=vents, misting_ml_day=50.0)) for vents in (0.0, 2.0, 40.0)]
    assert [carried_litres(climate) for climate in litres] == sorted(carried_litres(climate) for climate in litres)
    assert carried_litres(litres[-1]) <= 0.35 + 1e-6


def test_condensing_water_gives_its_heat_where_it_condenses() -> None:
    """A wall that takes water is warmer than the same wall of a dry box with as warm air."""
    climate = climate_of(tub())
    water = climate.state.moisture
    wet_walls = water.condensation_kg_s > 0
    assert np.all(water.latent_w[wet_walls & (water.evaporation_kg_s == 0)] < 0)
    assert abs(climate.energy.residual_w) < 1e-3 * climate.energy.in_w
