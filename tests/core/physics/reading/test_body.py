"""The animal, and what meters read: closed forms, limits, and how published operative temperatures behave."""

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from mitten.core.design import Meter, Stage
from mitten.core.physics.constants import SIGMA_W_M2K4
from mitten.core.physics.radiation.meters import reading_share
from mitten.core.physics.radiation.spectrum import Spectrum
from mitten.core.physics.reading.body import (
    Body,
    Exposure,
    Exposures,
    body_of,
    follow,
    minutes_between,
    operative_c,
    radiant_c,
    time_constant_s,
)
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.fields import SurfaceField
from mitten.core.physics.reading.lying import Lying, lie_on, patch_of, under_cover_m2k_w
from mitten.core.physics.reading.spot import SpotClimate
from mitten.core.physics.shape.geometry import Surface
from mitten.core.physics.solids.ground import Layer
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, climate_of, lamp, ledge_data, mat_data

LIZARD = Body(60.0, 0.3, 0.025, "lizard")
EVEN = Exposure(30.0, 30.0, 30.0, 0.0, 0.0)


def test_a_body_in_an_even_place_comes_to_its_temperature() -> None:
    assert operative_c(LIZARD, EVEN) == pytest.approx(30.0, abs=0.01)


@pytest.mark.parametrize(
    "warmer",
    [Exposure(40.0, 30.0, 30.0, 0.0, 0.0), Exposure(30.0, 35.0, 30.0, 0.0, 0.0), Exposure(30.0, 30.0, 40.0, 0.0, 0.0),
     Exposure(30.0, 30.0, 30.0, 200.0, 0.0), Exposure(30.0, 30.0, 30.0, 0.0, 200.0)],
)  # fmt: skip
def test_ground_air_surroundings_and_beams_each_warm_it(warmer: Exposure) -> None:
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
    whole = patch_of(even_field(42.0), lie_on(even_field(42.0), LIZARD), (40.0, 46.0), LIZARD)
    assert whole.area_m2 == pytest.approx(0.12)
    assert whole.covers == 1.0
    none = patch_of(even_field(30.0), lie_on(even_field(30.0), LIZARD), (40.0, 46.0), LIZARD)
    assert (none.area_m2, none.covers) == (0.0, 0.0)


def test_half_an_animal_over_the_edge_is_half_covered() -> None:
    tortoise = Body(900.0, 0.17, 0.09, "tortoise")
    over_the_edge = Lying(0.0, 0.15, *tortoise.half_axes_m)
    assert patch_of(even_field(42.0), over_the_edge, (40.0, 46.0), tortoise).covers == pytest.approx(0.5, abs=0.1)


def test_an_animal_lies_along_the_longer_side_and_on_the_surface_as_far_as_it_fits() -> None:
    field = even_field(30.0)
    hot_corner = replace(field, temperature_c=field.temperature_c + np.linspace(0, 5, 24)[None, :])
    lying = lie_on(hot_corner, LIZARD)
    assert lying.x_m + lying.half_x_m <= 0.4 + 1e-9
    assert lying.half_x_m > lying.half_y_m
    middle = lie_on(field, LIZARD)
    assert (middle.x_m, middle.y_m) == pytest.approx((0.2, 0.15))


SPECIES = CATALOGUE.species


@pytest.mark.parametrize("key", sorted(SPECIES))
@pytest.mark.parametrize("stage", ["hatchling", "juvenile", "adult"])
def test_skin_silhouette_and_outline_agree_and_the_trunk_is_no_longer_than_the_animal(key: str, stage: Stage) -> None:
    body = body_of(SPECIES[key], stage)
    loose = 1.6 if body.group == "snake" else 1.0
    assert body.outline_m2 == pytest.approx(loose * 0.35 * body.skin_m2)
    along, across = body.half_axes_m
    assert along >= across
    assert 2 * along <= 1.45 * body.length_m
    # No solid has less skin than the sphere of its volume.
    assert body.skin_m2 > 4.84e-4 * body.mass_g ** (2 / 3)


def under_a_spot(watts: float = 75.0, height_m: float = 0.4, **changes: Any) -> Climate:
    """A tortoise, or what is named, on soil under a halogen spot."""
    design = box_data(kind="halogen-spot", watts=watts, z_m=height_m)
    return climate_of({**design, "animal": {"species": "hermanns-tortoise", **changes}})


def test_a_body_takes_no_more_than_falls_on_its_outline() -> None:
    climate = under_a_spot()
    spot, body = climate.ground, climate.body
    peak = climate.irradiance_at(climate.floor, *spot.at)
    assert spot.irradiance_w_m2 < 0.8 * peak, "a shell is wider than a narrow spot"
    lamp = climate.state.lamps[0]
    assert spot.irradiance_w_m2 * body.outline_m2 < lamp.radiant_w
    on_a_point = replace(spot.place, short_w_m2=peak)
    assert spot.operative_c < operative_c(body, on_a_point) - 5


def test_ultraviolet_is_the_mean_over_the_outline_too() -> None:
    design = ledge_data(kind="mercury-vapour", watts=100.0, lamp={"uvi_at_30cm": 5.0}, z_m=0.5)
    design["animal"] = {"species": "hermanns-tortoise"}
    spot = climate_of(design).sites["Ledge"]
    assert 0 < spot.uvi < 0.9 * spot.uvi_most


def on_a_ledge(material: str, fan_l_s: float = 0.0, stage: str = "adult") -> SpotClimate:
    """A collared lizard on a ledge of a material under a 75 W flood."""
    design = ledge_data()
    design["sites"][0]["material"] = material
    design["animal"]["stage"] = stage
    design["enclosure"]["fan_l_s"] = fan_l_s
    return climate_of(design).sites["Ledge"]


def test_body_and_surface_are_two_figures() -> None:
    """Dark stone is hotter than pale and the animal on it too, but by less; loose stuff gets hot and passes little on."""
    dark, pale, cork = (on_a_ledge(material) for material in ("slate", "sandstone", "cork"))
    assert dark.surface_c - pale.surface_c > 2 * (dark.operative_c - pale.operative_c) > 0
    assert pale.operative_c > pale.surface_c + 1.5, "it lies in the beam, the stone is cooled from below"
    assert cork.operative_c < cork.surface_c - 3, "cork passes little of its warmth on"
    assert cork.place.belly_w_m2k < 0.3 * dark.place.belly_w_m2k


def test_what_an_animal_lies_on_is_shaded_by_it() -> None:
    """Under a beam the surface that is covered cools, loose ground by much more than stone; over a mat it warms."""
    for material, cooler_k in (("slate", 1.0), ("cork", 5.0)):
        spot = on_a_ledge(material)
        assert spot.place.beside_c - spot.place.surface_c > cooler_k
    on_a_mat = climate_of(mat_data(25.0)).ground
    assert on_a_mat.place.surface_c > on_a_mat.place.beside_c + 1


def test_moving_air_brings_a_body_nearer_to_its_temperature_a_small_one_more() -> None:
    """Porter & Gates 1969: convection binds small animals to the air and radiation drives large ones from it."""

    def excess_k(mass_g: float, speed_m_s: float) -> float:
        body = Body(mass_g, 0.18 * (mass_g / 20) ** (1 / 3), 0.018 * (mass_g / 20) ** (1 / 3), "lizard")
        return operative_c(body, Exposure(45.0, 25.0, 20.0, 800.0, 0.0, ground_c=45.0, speed_m_s=speed_m_s)) - 25.0

    assert excess_k(20, 0.0) > excess_k(20, 0.5) > excess_k(20, 3.0) > 0
    assert excess_k(20, 1.0) < excess_k(2000, 1.0)
    assert 8 < excess_k(20, 1.0) < 20, "full sun, a breeze, warm ground: ten to twenty kelvin above the air"


def test_a_fan_cools_the_animal_more_than_the_stone() -> None:
    still, moving = on_a_ledge("slate"), on_a_ledge("slate", fan_l_s=50.0)
    assert still.operative_c - moving.operative_c > still.surface_c - moving.surface_c


def test_the_covered_surface_answers_as_the_closed_form_of_a_disc_on_a_half_space() -> None:
    """8 a / (3 pi k), Carslaw & Jaeger; a metre of stone is as good as endless under 3 cm."""
    deep = replace(even_field(30.0), layers=(Layer(1.0, 2.0),), below_w_m2k=5.0, loss_w_m2k=0.0)
    found = under_cover_m2k_w(deep, Lying(0.2, 0.15, 0.03, 0.03))
    assert found == pytest.approx(8 * 0.03 / (3 * np.pi * 2.0), rel=0.02)


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


def test_a_body_beside_a_slab_on_damp_ground_is_no_furnace() -> None:
    """Ground that the slab covers sees nothing and gives off nothing: it is not read as if it were at absolute zero."""
    design = ledge_data(watts=60.0)
    design["animal"] = {"species": "rhinoceros-iguana"}
    design["substrate"] = {"material": "bark", "depth_mm": 30.0, "moisture": "damp"}
    design["sites"][0].pop("z_m")
    ground = climate_of(design).ground
    assert ground.place.surface_c < 80.0
    assert ground.place.radiant_c > 20.0
    assert ground.operative_c < 80.0
    assert abs(ground.flows.evaporated) < 500.0


def test_a_body_does_not_jump_where_another_spot_becomes_the_warmest() -> None:
    """A long slab under a bright lamp and a lightless one: as one is hung lower, the warmest spot changes sides."""
    data = ledge_data(x_m=0.55, watts=60.0, z_m=0.45)
    data["sites"][0] |= {"x_m": 0.8, "length_m": 0.7, "z_m": 0.05}
    found, spots = [], []
    for height_m in np.arange(0.36, 0.45, 0.005):
        ceramic = lamp(name="Dark", kind="ceramic-emitter", watts=100.0, x_m=1.05, z_m=round(float(height_m), 4))
        climate = climate_of({**data, "heaters": [data["heaters"][0], ceramic]})
        found.append(climate.basking.operative_c)
        spots.append(climate.basking.at[0])
    assert np.ptp(spots) > 0.2, "the warmest spot has changed sides"
    assert np.abs(np.diff(found)).max() < 0.8


def test_many_moments_at_once_are_as_each_by_itself() -> None:
    body = body_of(CATALOGUE.species["collared-lizard"], "adult")
    figures = np.random.default_rng(5).uniform([20, 15, 10, 0, 0, 15, 0], [50, 40, 45, 600, 200, 45, 0.5], (30, 7))
    surface, air, radiant, short, long, beside, speed = figures.T
    found, constant_s = follow(body, Exposures(surface, air, radiant, short, long, beside, speed, 20.0, 0.9))
    for row, one in enumerate(figures):
        surface_c, air_c, seen_c, short_w, long_w, beside_c, speed_m_s = (float(value) for value in one)
        place = Exposure(surface_c, air_c, seen_c, short_w, long_w, 20.0, beside_c, speed_m_s, 0.9)
        assert found[row] == pytest.approx(operative_c(body, place), abs=0.01)
        assert constant_s[row] == pytest.approx(time_constant_s(body, place), rel=1e-3)
