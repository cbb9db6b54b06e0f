"""Correlations against worked values, and use outside their ranges against what a state says of it."""

from collections.abc import Callable

import numpy as np
import pytest

from mitten.core.physics.air.ceiling import jet_rise_k
from mitten.core.physics.air.convection import (
    cross_flow_w_m2k,
    film_w_m2k,
    horizontal_cylinder_w_m2k,
    plate_of,
    rayleigh,
)
from mitten.core.physics.air.moisture import SEA_LEVEL_PA, mass_film, room_ratio, saturation_ratio
from mitten.core.physics.air.ventilation import lid_exchange_m3_s, stack_flow_m3_s
from mitten.core.physics.air.zones import plume_flow_m3_s
from mitten.core.physics.correlations import (
    CEILING_JET,
    CORRELATIONS,
    CROSS_FLOW,
    CYLINDER,
    MOIST_AIR,
    STABLE_PLATE,
    UNSTABLE_PLATE,
    VERTICAL_PLATE,
    Correlation,
)
from mitten.core.physics.reading.validity import beyond_validity
from mitten.core.physics.situation import Situation
from mitten.core.physics.solving import solve_climate
from tests.catalogue import CATALOGUE
from tests.designs import board_data, box_data, climate_of, read, tank_data

LEAST = np.array([0.1])


def film(difference_k: float, tilt: float, length_m: float, thinness: float = 1.0) -> float:
    one = np.array([difference_k]), np.array([tilt]), np.array([length_m])
    return float(film_w_m2k(*one, 300.0, LEAST, thinness)[0])


def test_the_rayleigh_number_of_5_kelvin_along_30_cm() -> None:
    assert rayleigh(np.array(5.0), np.array(0.3), 300.0) == pytest.approx(1.258e7, rel=1e-3)
    assert rayleigh(np.array(5.0), np.array(0.6), 300.0) == pytest.approx(8 * 1.258e7, rel=1e-3)
    assert rayleigh(np.array(5.0), np.array(0.3), 300.0, 0.8) == pytest.approx(0.64 * 1.258e7, rel=1e-3)
    assert rayleigh(np.array(5.0), np.array(0.3), 330.0) == pytest.approx(1.258e7 * 300 / 330, rel=1e-3)


@pytest.mark.parametrize(
    ("difference_k", "tilt", "length_m", "expected"),
    [
        (5.0, 0.0, 0.3, 2.900), (-5.0, 0.0, 0.3, 2.900), (20.0, 1.0, 0.1, 5.208), (20.0, -1.0, 0.1, 2.604),
        (-20.0, -1.0, 0.1, 5.208), (-20.0, 1.0, 0.1, 2.604), (20.0, 1.0, 0.3, 4.818),
    ],
)  # fmt: skip
def test_films_on_plates_are_the_worked_values(
    difference_k: float, tilt: float, length_m: float, expected: float
) -> None:
    assert film(difference_k, tilt, length_m) == pytest.approx(expected, rel=1e-3)


def test_a_level_film_is_turbulent_beyond_five_million_and_thinner_air_moves_less_heat() -> None:
    laminar = 0.54 * rayleigh(np.array(20.0), np.array(0.3), 300.0) ** 0.25 * 0.0261 / 0.3
    assert film(20.0, 1.0, 0.3) > 1.05 * float(laminar)
    assert film(20.0, 1.0, 0.3, 0.8) == pytest.approx(4.818 * 0.8 ** (2 / 3), rel=1e-3)


def test_films_on_a_body_are_the_worked_values() -> None:
    assert horizontal_cylinder_w_m2k(10.0, 0.03, 300.0) == pytest.approx(4.762, rel=1e-3)
    assert horizontal_cylinder_w_m2k(0.0, 0.03, 300.0) == 0.7, "never quite still"
    assert cross_flow_w_m2k(0.5, 0.03) == pytest.approx(13.589, rel=1e-3)
    assert cross_flow_w_m2k(0.5, 0.03, 0.8) < 13.0


def test_a_plume_of_20_watts_moves_2_7_litres_a_second_at_40_cm() -> None:
    flow = plume_flow_m3_s(np.array(20.0), np.array(0.4), 295.0, 1.199)
    assert 1000 * float(flow) == pytest.approx(2.724, rel=1e-3)
    assert plume_flow_m3_s(np.array(20.0), np.array(-0.1), 295.0, 1.199) == 0.0


def test_two_vents_of_40_square_centimetres_breathe_0_62_litres_a_second() -> None:
    assert 1000 * stack_flow_m3_s(40e-4, 40e-4, 0.4, 5.0, 293.0) == pytest.approx(0.6209, rel=1e-3)
    assert stack_flow_m3_s(40e-4, 1.0, 0.4, 5.0, 293.0) == pytest.approx(0.6209e-3 * np.sqrt(2), rel=1e-3)


def test_a_mesh_lid_of_60_square_decimetres_breathes_7_litres_a_second() -> None:
    assert 1000 * lid_exchange_m3_s(0.6, 0.62, 5.0 / 293.0) == pytest.approx(7.366, rel=1e-3)
    assert lid_exchange_m3_s(0.6, 0.62, 20.0 / 293.0) == pytest.approx(2 * 7.366e-3, rel=1e-3)
    assert lid_exchange_m3_s(0.3, 0.62) == pytest.approx(lid_exchange_m3_s(0.6, 0.62) / 2**1.25)
    assert lid_exchange_m3_s(0.6, 0.31) == pytest.approx(lid_exchange_m3_s(0.6, 0.62) / 2)


def test_water_at_25_degrees_gives_121_grams_an_hour_from_a_square_metre_to_air_half_full() -> None:
    film = float(mass_film(np.array(3.0)))
    assert film == pytest.approx(3.2975e-3, rel=1e-3)
    saturated = float(saturation_ratio(np.array(25.0), SEA_LEVEL_PA))
    lacking = saturated - room_ratio(25.0, 0.5, SEA_LEVEL_PA)
    assert saturated == pytest.approx(0.02017, rel=0.006), "the tables of moist air, which know of real gas"
    assert 3600 * film * lacking == pytest.approx(0.1211, rel=1e-3)


def test_the_jet_of_30_watts_30_cm_below_is_15_kelvin_on_its_axis() -> None:
    rise = jet_rise_k(30.0, 0.3, 0.0, np.array([0.0, 0.1, 0.3, 1.0]))
    on_the_axis = 16.9 * (0.03 / 0.7) ** (2 / 3) / 0.3 ** (5 / 3)
    at_the_height = 5.38 * (0.03 / 0.7 / 0.3) ** (2 / 3) / 0.3
    assert on_the_axis == pytest.approx(15.39, rel=1e-3)
    assert at_the_height == pytest.approx(4.90, rel=1e-2)
    beside = 5.38 * (0.03 / 0.7 / 0.1) ** (2 / 3) / 0.3
    np.testing.assert_allclose(rise, [on_the_axis - at_the_height, beside - at_the_height, 0.0, 0.0], rtol=3e-3)
    assert jet_rise_k(30.0, 0.3, 0.1, np.array([0.0]))[0] < rise[0], "a wide source is as if farther below"


def saturated_at_25() -> float:
    return float(saturation_ratio(np.array(25.0), SEA_LEVEL_PA))


WORKED: dict[Correlation, tuple[Callable[[], float], float]] = {
    VERTICAL_PLATE: (lambda: film(5.0, 0.0, 0.3), 2.900),
    UNSTABLE_PLATE: (lambda: film(20.0, 1.0, 0.1), 5.208),
    STABLE_PLATE: (lambda: film(-20.0, 1.0, 0.1), 2.604),
    CYLINDER: (lambda: horizontal_cylinder_w_m2k(10.0, 0.03, 300.0), 4.762),
    CROSS_FLOW: (lambda: cross_flow_w_m2k(0.5, 0.03), 13.589),
    CEILING_JET: (lambda: float(jet_rise_k(30.0, 0.3, 0.0, np.array([0.0]))[0]), 15.39 - 4.90),
    MOIST_AIR: (saturated_at_25, 0.02017),
}
"""Each correlation once, with what comes of it by hand."""


@pytest.mark.parametrize("correlation", CORRELATIONS, ids=lambda one: one.name)
def test_every_correlation_gives_its_worked_value(correlation: Correlation) -> None:
    compute, expected = WORKED[correlation]
    assert compute() == pytest.approx(expected, rel=6e-3)


def test_each_face_has_one_correlation() -> None:
    difference_k, tilt = np.array([5.0, -5.0, 5.0, -5.0, 5.0, 0.0]), np.array([0.0, 0.0, 1.0, 1.0, -1.0, 1.0])
    found = {known.name: faces.tolist() for known, faces in plate_of(difference_k, tilt)}
    assert found[VERTICAL_PLATE.name] == [True, True, False, False, False, False]
    assert found[UNSTABLE_PLATE.name] == [False, False, True, False, False, False]
    assert found[STABLE_PLATE.name] == [False, False, False, True, True, True]


def test_a_range_has_both_of_its_ends() -> None:
    np.testing.assert_array_equal(
        STABLE_PLATE.is_beyond(np.array([9.9e4, 1e5, 1e10, 1.1e10])), [True, False, False, True]
    )
    assert not CROSS_FLOW.is_beyond(np.array([1e9])).any()
    assert len({known.name for known in CORRELATIONS}) == len(CORRELATIONS)
    assert all(known.low < known.high for known in CORRELATIONS)


def test_a_lamp_inside_uses_the_jet_far_below_what_it_was_found_for() -> None:
    state = climate_of(box_data()).state
    jet = {one.correlation: one for one in beyond_validity(state)}[CEILING_JET]
    assert jet.share == 1.0
    assert jet.low == jet.high == pytest.approx(state.lamps[0].body_into_air_w / 1000)
    assert 0.005 < jet.high < 0.05
    above = {one.correlation for one in beyond_validity(climate_of(tank_data()).state)}
    assert CEILING_JET not in above


def test_what_hardly_moves_heat_is_not_worth_a_word_and_an_idle_box_says_nothing() -> None:
    assert beyond_validity(climate_of({**box_data(), "heaters": []}).state) == ()
    for design in (box_data(), tank_data(), board_data()):
        for one in beyond_validity(climate_of(design).state):
            assert 0.05 <= one.share <= 1.0
            assert one.low < one.correlation.low or one.high > one.correlation.high


def test_air_beyond_the_tables_of_moist_air_is_said() -> None:
    hot = box_data(watts=150.0)
    hot["heaters"].append({**hot["heaters"][0], "name": "Two", "x_m": 0.4})
    climate = solve_climate(read(hot), CATALOGUE, Situation(70.0))
    said = {one.correlation: one for one in beyond_validity(climate.state)}
    assert climate.state.air_c.max() > 90.0
    assert said[MOIST_AIR].high == pytest.approx(climate.state.air_c.max())
