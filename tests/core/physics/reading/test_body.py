"""The animal, and what meters read: closed forms and limits."""

import numpy as np
import pytest

from mitten.core.design import Meter
from mitten.core.physics.constants import SIGMA_W_M2K4
from mitten.core.physics.radiation.meters import reading_share
from mitten.core.physics.radiation.spectrum import Spectrum
from mitten.core.physics.reading.body import (
    Body,
    Place,
    minutes_between,
    operative_c,
    patch_of,
    radiant_c,
    time_constant_s,
)
from mitten.core.physics.reading.fields import SurfaceField
from mitten.core.physics.shape.geometry import Surface
from tests.designs import Data, climate_of, ledge_data, mat_data

LIZARD = Body(60.0, 0.3, 0.025, "lizard")
EVEN = Place(30.0, 30.0, 30.0, 0.0, 0.0)


def test_a_body_in_an_even_place_comes_to_its_temperature() -> None:
    assert operative_c(LIZARD, EVEN) == pytest.approx(30.0, abs=0.01)


@pytest.mark.parametrize(
    "warmer",
    [Place(40.0, 30.0, 30.0, 0.0, 0.0), Place(30.0, 35.0, 30.0, 0.0, 0.0), Place(30.0, 30.0, 40.0, 0.0, 0.0),
     Place(30.0, 30.0, 30.0, 200.0, 0.0), Place(30.0, 30.0, 30.0, 0.0, 200.0)],
)  # fmt: skip
def test_ground_air_surroundings_and_beams_each_warm_it(warmer: Place) -> None:
    assert operative_c(LIZARD, warmer) > 30.5


def test_warming_follows_the_lumped_closed_form() -> None:
    """T = T_e + (T_0 - T_e) e^(-t/tau): after one time constant 63.2 % of the way."""
    start, end = 20.0, operative_c(LIZARD, EVEN)
    there = start + (1 - np.exp(-1)) * (end - start)
    minutes = minutes_between(LIZARD, EVEN, start, there)
    assert minutes == pytest.approx(time_constant_s(LIZARD, EVEN) / 60, rel=1e-3)


def test_what_lies_beyond_the_end_is_never_reached() -> None:
    assert minutes_between(LIZARD, EVEN, 20.0, 31.0) is None
    assert minutes_between(LIZARD, EVEN, 20.0, 19.0) is None
    assert minutes_between(LIZARD, EVEN, 20.0, 20.0) == pytest.approx(0.0)


def test_a_larger_animal_warms_more_slowly() -> None:
    assert time_constant_s(Body(600.0, 0.5, 0.05, "lizard"), EVEN) > 1.5 * time_constant_s(LIZARD, EVEN)


def test_skin_grows_with_the_two_thirds_power_of_mass() -> None:
    assert LIZARD.skin_m2 == pytest.approx(10 * 60 ** (2 / 3) * 1e-4)


def test_the_radiant_temperature_undoes_the_fourth_power() -> None:
    assert radiant_c(SIGMA_W_M2K4 * 303.15**4) == pytest.approx(30.0)


def even_field(celsius: float) -> SurfaceField:
    """A level surface of 40 by 30 cm of one temperature."""
    surface = Surface("S", "floor", 2, 1, (0.0, 0.0, 0.0), (0.4, 0.3), (8, 6))
    return SurfaceField(surface, np.full((18, 24), celsius))


def test_the_patch_is_the_area_within_the_band_and_covers_what_lies_on_it() -> None:
    whole = patch_of(even_field(42.0), (0.2, 0.15), (40.0, 46.0), LIZARD)
    assert whole.area_m2 == pytest.approx(0.12)
    assert whole.covers == 1.0
    none = patch_of(even_field(30.0), (0.2, 0.15), (40.0, 46.0), LIZARD)
    assert (none.area_m2, none.covers) == (0.0, 0.0)


def test_half_an_animal_over_the_edge_is_half_covered() -> None:
    tortoise = Body(900.0, 0.17, 0.09, "tortoise")
    assert patch_of(even_field(42.0), (0.0, 0.15), (40.0, 46.0), tortoise).covers == pytest.approx(0.5, abs=0.1)


def test_outlines_have_the_size_of_the_animal() -> None:
    assert LIZARD.half_axes_m == pytest.approx((0.075, 0.3 / 14))
    along, across = Body(300.0, 0.9, 0.03, "snake").half_axes_m
    assert along == across
    assert 0.05 < along < 0.2


@pytest.mark.parametrize("meter", ["silicon", "thermopile", "true"])
def test_every_meter_is_right_in_sunlight(meter: Meter) -> None:
    assert reading_share(Spectrum(5772.0, cut_m=2.5e-6), meter) == pytest.approx(1.0, rel=0.05)


def test_a_silicon_meter_shows_less_the_cooler_the_filament_and_is_blind_to_lightless_sources() -> None:
    shares = [reading_share(Spectrum(kelvin), "silicon") for kelvin in (2900.0, 2650.0, 1100.0, 600.0)]
    assert shares == sorted(shares, reverse=True)
    assert 0.4 < shares[0] < 0.55
    assert shares[2] < 0.02
    assert reading_share(Spectrum(350.0), "thermopile") < 0.02


def hide(**changes: object) -> Data:
    return {
        "name": "H",
        "role": "warm-hide",
        "material": "resin",
        "x_m": 0.42,
        "y_m": 0.2,
        "length_m": 0.2,
        "depth_m": 0.2,
        "z_m": 0.08,
        "thickness_mm": 5.0,
        **changes,
    }


def test_the_air_in_a_hide_lies_between_its_roof_its_ground_and_the_air_outside() -> None:
    climate = climate_of({**mat_data(25.0), "sites": [hide()]})
    inside = climate.sites["H"].hide_air_c
    assert inside is not None
    assert climate.air.warm_c < inside < climate.floor.hottest()[0]
    assert climate_of(ledge_data()).sites["Ledge"].hide_air_c is None
