"""Plumes: where they begin, what they do to the ceiling, and that no figure jumps with a zone's border."""

import numpy as np
import pytest

from mitten.core.judge import assess
from mitten.core.physics.air import psychrometrics
from mitten.core.physics.air.ceiling import jet_rise_k
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.kernels.water import water_system
from mitten.core.physics.reading.climate import Climate
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, climate_of, data, lamp, ledge_data, panels, read, tank_data


def tall_box(z_m: float, x_m: float = 0.6) -> Data:
    """A plywood box 1.8 m high with 150 W in it."""
    vents = [{"face": "left", "area_cm2": 40.0, "z_m": 0.2}, {"face": "right", "area_cm2": 40.0, "z_m": 1.6}]
    box = {"length_m": 1.2, "depth_m": 0.6, "height_m": 1.8, "panels": panels("plywood", 12.0), "vents": vents}
    return data(box, [lamp(watts=150.0, z_m=z_m, x_m=x_m, fixture={"kind": "guarded-socket", "max_watts": 200.0})])


def test_air_above_a_low_lamp_is_warmer_than_beside_it_all_the_way_up() -> None:
    climate = climate_of(tall_box(0.3))
    for z_m in np.arange(0.45, 1.7, 0.1):
        over = climate.air_at(0.6, float(z_m))
        assert over > max(climate.air_at(0.15, float(z_m)), climate.air_at(1.05, float(z_m))), z_m


def test_a_lower_lamp_warms_low_air_more_and_a_higher_one_the_top() -> None:
    low, high = (climate_of(tall_box(z_m)) for z_m in (0.3, 1.5))
    assert low.air_at(0.6, 0.5) > high.air_at(0.6, 0.5)
    assert high.air.top_c > low.air.top_c


def over_a_ceramic(gap_m: float, watts: float = 150.0) -> Climate:
    fixture = {"kind": "wire-cage", "max_watts": 250.0}
    return climate_of(box_data(kind="ceramic-emitter", watts=watts, z_m=round(0.6 - gap_m, 3), fixture=fixture))


def test_a_ceiling_near_over_a_strong_emitter_is_hotter_than_its_material_bears() -> None:
    """150 W of ceramic 9 cm under foam PVC, made for 65 °C; 40 cm under it, it is well."""
    assert over_a_ceramic(0.09).ceiling_c > 65.0
    assert over_a_ceramic(0.40).ceiling_c < 55.0
    gaps = [over_a_ceramic(gap_m).ceiling_c for gap_m in (0.05, 0.09, 0.15, 0.25, 0.4)]
    assert gaps == sorted(gaps, reverse=True)
    assert over_a_ceramic(0.09, 60.0).ceiling_c < over_a_ceramic(0.09).ceiling_c


def test_the_rule_book_says_what_the_ceiling_bears() -> None:
    fixture = {"kind": "wire-cage", "max_watts": 250.0}
    near = box_data(kind="ceramic-emitter", watts=150.0, z_m=0.51, fixture=fixture)
    found = {finding.rule: finding for finding in assess(read(near), CATALOGUE).findings}
    assert found["material-too-hot"].severity == "stop"
    assert "The top" in found["material-too-hot"].title


def test_the_jet_falls_off_from_the_axis_and_with_the_height() -> None:
    """Alpert 1972: near the axis 16.9 Q^(2/3) / H^(5/3), Q in kW; less what the air under the ceiling has anyway."""
    away = np.array([0.0, 0.05, 0.1, 0.2, 0.5])
    near, far = (jet_rise_k(40.0, height_m, 0.08, away) for height_m in (0.1, 0.4))
    assert np.all(np.diff(near) <= 0)
    assert near[0] > 2 * far[0] > 0
    assert near[-1] == 0.0


def test_what_rises_is_all_accounted_for() -> None:
    for gap_m in (0.0, 0.02, 0.09, 0.3):
        energy = over_a_ceramic(gap_m).energy
        assert abs(energy.residual_w) < 1e-3 * energy.in_w


FIGURES = ("warm_c", "middle_c", "cool_c", "top_c", "mean_c")


def steps_k(climates: list[Climate]) -> Array:
    """How far each step of each figure lies from the usual step."""
    found = np.array([[getattr(climate.air, name) for name in FIGURES] for climate in climates])
    steps = np.diff(found, axis=0)
    return np.asarray(np.abs(steps - np.median(steps, axis=0)))


@pytest.mark.parametrize("edge", ["height_m", "length_m", "depth_m"])
def test_no_air_figure_jumps_when_a_box_grows_by_a_centimetre(edge: str) -> None:
    """From longer than tall to taller than long, and over every number of patches on the way."""
    climates = []
    for size in np.arange(0.40, 0.62, 0.01):
        box = {"length_m": 0.5, "depth_m": 0.4, "height_m": 0.5, "panels": panels("melamine", 16.0)}
        box |= {edge: round(float(size), 3), "vents": [{"face": "back", "area_cm2": 30.0, "z_m": 0.3}]}
        # Under the top at one place, whatever the height.
        lit = lamp(watts=60.0, x_m=0.3, y_m=0.2, z_m=0.3)
        climates.append(climate_of(data(box, [lit])))
    assert steps_k(climates).max() < 0.45


@pytest.mark.slow
def test_no_air_figure_jumps_when_a_lamp_moves_by_a_centimetre() -> None:
    climates = [climate_of(ledge_data(x_m=round(float(x_m), 3))) for x_m in np.arange(0.40, 0.80, 0.01)]
    assert steps_k(climates).max() < 0.35


def test_the_warm_end_is_the_warmer_one_whatever_hangs_where() -> None:
    """A dead, dimmed or idle lamp at the other end does not swap the ends; nor does its mirror image."""
    for other in ({"dim": 0.0}, {"watts": 0.0}, {"on": "night"}):
        design = tank_data()
        design["heaters"].append({**design["heaters"][0], "name": "Other", "x_m": 0.15, "watts": 150.0, **other})
        climate = climate_of(design)
        assert climate.warm_is_right
        assert climate.air.warm_c > climate.air.cool_c + 1
    mirrored = tank_data()
    for part in mirrored["heaters"]:
        part["x_m"] = round(mirrored["enclosure"]["length_m"] - part["x_m"], 4)
    turned = climate_of(mirrored)
    assert not turned.warm_is_right
    assert turned.air.warm_c > turned.air.cool_c + 1
    dead = tank_data()
    dead["heaters"].append({**dead["heaters"][0], "name": "Weak", "x_m": 0.15, "watts": 40.0})
    both = climate_of(dead)
    assert both.warm_is_right


def test_what_patches_do_to_their_zones_is_the_whole_product_without_its_zeros() -> None:
    shares = prepare(demo_designs()[0], CATALOGUE).zone_shares
    weights = np.random.default_rng(3).uniform(0, 2, len(shares.shares))
    zones, wet = shares.shares.shape[1], np.ones(len(weights))
    matrix, given, uptake = water_system(
        wet > 1, wet > 1, wet, weights, 2 * wet, 0 * wet, *shares.listed, np.zeros((zones, zones))
    )  # fmt: skip
    np.testing.assert_allclose(matrix, shares.shares.T @ np.diag(weights) @ shares.shares, atol=1e-12)
    np.testing.assert_allclose(given, shares.shares.T @ (2 * weights))
    np.testing.assert_allclose(uptake, weights)
    np.testing.assert_allclose(shares.in_zones(weights), shares.shares.T @ weights)
    assert shares.in_zones(np.ones(len(weights))).sum() == pytest.approx(len(weights)), "every patch is somewhere"


def test_moist_air_is_reckoned_without_a_compiler() -> None:
    """It would take two seconds of every process, wherever one is installed."""
    assert psychrometrics.psychrolib.has_numba is False
