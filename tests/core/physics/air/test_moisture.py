"""Moist air against published values, and water that is conserved."""

import numpy as np
import pytest

from mitten.core.physics.air.moisture import pressure_pa, relative_humidity, room_ratio, saturation_ratio
from tests.designs import Data, climate_of, tank_data

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
    assert carried == pytest.approx(state.moisture.evaporation_kg_s.sum(), rel=1e-3)
    assert carried > 0


def test_evaporation_takes_its_heat_and_the_energy_still_closes() -> None:
    dry, damp = climate_of(wet_tank("dry")), climate_of(wet_tank())
    assert damp.floor.hottest()[0] < dry.floor.hottest()[0] - 1
    assert damp.state.energy.as_vapour_w == pytest.approx(damp.state.moisture.latent_w.sum())
    assert abs(damp.state.energy.residual_w) < 1e-3 * damp.state.energy.in_w


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
