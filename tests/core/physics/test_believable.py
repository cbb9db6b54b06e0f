"""Figures a keeper would believe: bands from experience, not targets that were tuned to."""

import numpy as np
import pytest

from tests.designs import Data, board_data, box_data, climate_of, ledge_data, tank_data
from tests.sweeping import sliced


def test_glass_tank_with_a_mesh_lid_under_100_w() -> None:
    climate = climate_of(tank_data())
    assert 34 <= climate.floor.hottest()[0] <= 43
    assert 21 <= climate.air.cool_c <= 24
    assert 2e-3 <= climate.state.exchange.total_m3_s <= 8e-3


def test_white_foam_pvc_box_under_75_w() -> None:
    climate = climate_of(box_data())
    cool_end = climate.floor.temperature_c[:, : climate.floor.temperature_c.shape[1] // 6]
    assert 37 <= climate.floor.hottest()[0] <= 46
    assert 24 <= climate.air.mean_c <= 28
    assert 22 <= cool_end.mean() <= 25


def test_the_same_box_under_60_w_at_28_cm() -> None:
    climate = climate_of(box_data(watts=60.0, z_m=0.32))
    assert 47 <= climate.floor.hottest()[0] <= 58


def test_melamine_box_with_a_ceramic_emitter_is_hot_under_the_ceiling() -> None:
    climate = climate_of(board_data())
    zones = climate.state.prepared.zones
    above = zones.column_of(np.array([0.68]))[0]
    assert 29 <= climate.air.mean_c <= 41
    assert climate.state.air_c[above, -1] > 42


@pytest.mark.parametrize("design", [tank_data(), box_data(), board_data(), ledge_data()])
def test_energy_in_and_out_agree_within_a_thousandth(design: Data) -> None:
    energy = climate_of(design).energy
    assert energy.in_w == sum(heater["watts"] for heater in design["heaters"])
    assert abs(energy.residual_w) < 1e-3 * energy.in_w


@pytest.mark.parametrize("design", [tank_data(), box_data(), board_data(), ledge_data()])
def test_without_watts_everything_has_the_rooms_temperature(design: Data) -> None:
    design["heaters"][0]["watts"] = 0.0
    climate = climate_of(design, 21.0)
    assert np.abs(climate.state.surface_c - 21.0).max() < 0.01
    assert np.abs(climate.state.air_c - 21.0).max() < 0.01
    assert abs(climate.base_c - 21.0) < 0.01


@pytest.mark.slow
@pytest.mark.parametrize("design", sliced([ledge_data(), tank_data(), box_data(), board_data()], 2))
def test_halving_the_patches_hardly_moves_the_figures(design: Data) -> None:
    coarse, fine = climate_of(design), climate_of(design, fineness=2.0)
    for one, other in (
        (coarse.floor, fine.floor),
        *zip(coarse.site_fields.values(), fine.site_fields.values(), strict=True),
    ):
        rise = other.hottest()[0] - 21.0
        assert abs(one.hottest()[0] - other.hottest()[0]) < max(1.0, 0.03 * rise)
    assert abs(coarse.air.mean_c - fine.air.mean_c) < 0.3
