"""Figures a keeper would believe, of every kind of source: bands from experience, not targets that were tuned to."""

from typing import Any

import numpy as np
import pytest

from mitten.core.design import Probe
from mitten.core.judge import assess
from mitten.core.physics.radiation.lamps import across_the_beam_w_m2
from mitten.core.physics.reading.body import Body, minutes_between
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.probes import beam_error_k
from mitten.core.physics.reading.touch import guard_rise_k, hot_parts
from tests.catalogue import CATALOGUE
from tests.designs import Data, board_data, box_data, climate_of, ledge_data, mat_data, panel_data, read


@pytest.mark.parametrize(("depth_mm", "surface_c", "base_c"), [(5.0, 36, 40), (25.0, 32, 48), (50.0, 29, 52)])
def test_deeper_fibre_over_a_mat_is_cooler_on_top_and_hotter_below(
    depth_mm: float, surface_c: float, base_c: float
) -> None:
    climate = climate_of(mat_data(depth_mm))
    assert climate.floor.hottest()[0] == pytest.approx(surface_c, abs=4)
    assert climate.base_c == pytest.approx(base_c, abs=4)


def test_a_probe_on_top_of_deep_fibre_leaves_the_base_far_too_hot_and_the_result_says_so() -> None:
    assessment = assess(read(mat_data(50.0, {"reads": "surface"})), CATALOGUE)
    worst = max(climate.base_c for climate in assessment.climates.values())
    assert worst > assessment.targets.danger_contact_c + 3
    assert "base-too-hot" in {finding.rule for finding in assessment.stops}


@pytest.mark.parametrize("depth_mm", [5.0, 50.0])
def test_a_probe_on_the_mat_keeps_everything_below_its_setpoint(depth_mm: float) -> None:
    climate = climate_of(mat_data(depth_mm, {"reads": "heater"}, 35.0))
    hottest = climate.heaters["Mat"].hottest
    assert climate.controls["Thermostat"].status == "regulates"
    assert hottest is not None
    assert max(hottest.celsius, climate.base_c, float(climate.state.surface_c.max())) < 35.5


def probe_errors(shaded: bool) -> list[tuple[float, float]]:
    """Beam and reading error at heights under a 75 W flood."""
    state = climate_of(box_data()).state
    lamp, interior = state.lamps[0], state.prepared.interior
    found = []
    for z_m in (0.06, 0.08, 0.1, 0.12):
        falling = across_the_beam_w_m2(lamp, interior, None, np.array([0.95, 0.3, z_m]))
        found.append((falling, beam_error_k(state, Probe(x_m=0.95, y_m=0.3, z_m=z_m, shaded=shaded))))
    return found


def test_a_dark_probe_in_a_beam_of_250_w_m2_reads_3_to_6_k_high_and_a_shaded_one_does_not() -> None:
    falling, errors = zip(*probe_errors(shaded=False), strict=True)
    assert 3 < np.interp(250.0, falling, errors) < 6
    assert max(error for _, error in probe_errors(shaded=True)) < 1


def slope(climate: Climate) -> tuple[float, float]:
    """Share of the line through the middle that is warmer than half way, and its steepest step."""
    row = climate.floor.spots_c[len(climate.floor.ys_m) // 2]
    rise = row - row.min()
    return float((rise > rise.max() / 2).mean()), float(np.abs(np.diff(row)).max())


def test_a_panel_and_a_flood_warm_the_air_alike_but_not_the_ground() -> None:
    flood, panel = climate_of(box_data()), climate_of(panel_data())
    assert abs(flood.air.mean_c - panel.air.mean_c) < 2
    assert flood.floor.hottest()[0] > panel.floor.hottest()[0] + 8
    assert slope(panel)[0] > slope(flood)[0]
    assert slope(panel)[1] < slope(flood)[1]


def test_a_ceramic_emitter_warms_the_air_under_the_ceiling_most() -> None:
    ceramic = climate_of(box_data(kind="ceramic-emitter", z_m=0.5))
    assert ceramic.air.top_c > max(climate_of(box_data()).air.top_c, climate_of(panel_data()).air.top_c) + 2


def with_walls(material: str) -> Climate:
    design = box_data()
    for panel in design["enclosure"]["panels"].values():
        panel.update(material=material, thickness_mm=10.0)
    return climate_of(design)


def test_walls_go_the_physical_way() -> None:
    white, dark, glass = (with_walls(m) for m in ("foam-pvc-white", "foam-pvc-dark", "glass"))
    # White walls throw the light back to the ground, dark ones turn it into warm walls.
    assert white.floor.hottest()[0] > dark.floor.hottest()[0]
    assert white.energy.through_panels_w < dark.energy.through_panels_w
    # Clear glass lets most of it out and conducts better.
    assert glass.air.mean_c < min(white.air.mean_c, dark.air.mean_c)
    assert glass.energy.as_shortwave_w > white.energy.as_shortwave_w > dark.energy.as_shortwave_w


def test_a_60_g_lizard_warms_in_minutes_not_hours() -> None:
    spot = climate_of(ledge_data(watts=60.0, z_m=0.53)).sites["Ledge"]
    minutes = minutes_between(Body(60.0, 0.3, 0.025, "lizard"), spot.place, 24.0, 36.0)
    assert spot.surface_c == pytest.approx(40.0, abs=1)
    assert minutes is not None
    assert 8 < minutes < 30


def under_a_reflector(design: Data, **changes: Any) -> Climate:
    design["heaters"][0].update(kind="incandescent-reflector", watts=100.0, **changes)
    return climate_of(design)


def test_a_100_w_reflector_at_30_cm_sends_what_keepers_would_measure_with_a_true_meter() -> None:
    spot = under_a_reflector(ledge_data(), z_m=0.485).sites["Ledge"]
    assert 600 < spot.irradiance_w_m2 < 950
    assert 0.3 < spot.arriving.silicon_w_m2 / spot.irradiance_w_m2 < 0.5
    assert spot.arriving.silicon_w_m2 < spot.arriving.thermopile_w_m2 < spot.irradiance_w_m2


def test_surfaces_differ_under_the_same_irradiance_and_say_why() -> None:
    spots = {}
    for material in ("slate", "hardwood", "tile"):
        design = ledge_data()
        design["sites"][0]["material"] = material
        spots[material] = under_a_reflector(design, z_m=0.485).sites["Ledge"]
    fibre = box_data()
    fibre["substrate"] = {"material": "coconut-fibre", "depth_mm": 40.0}
    spots["turf"] = under_a_reflector(fibre, z_m=0.34).ground
    assert np.ptp([spot.irradiance_w_m2 for spot in spots.values()]) < 80
    assert spots["turf"].surface_c > spots["hardwood"].surface_c > spots["slate"].surface_c > spots["tile"].surface_c
    # Slate takes up more than wood, and is cooler because it conducts more of it away.
    assert spots["slate"].flows.absorbed > spots["hardwood"].flows.absorbed
    assert spots["slate"].flows.conducted > 2 * spots["hardwood"].flows.conducted


@pytest.mark.parametrize(
    ("kind", "watts", "low", "high"),
    [("radiant-panel", 80.0, 60, 105), ("ceramic-emitter", 100.0, 220, 380)],
)
def test_emitters_get_as_hot_as_their_own_balance_makes_them(kind: str, watts: float, low: float, high: float) -> None:
    design = panel_data(watts) if kind == "radiant-panel" else box_data(kind=kind, watts=watts)
    hottest = climate_of(design).heaters["Lamp"].hottest
    assert hottest is not None
    assert low < hottest.celsius < high


def test_a_guard_is_as_hot_as_a_sum_by_hand_before_the_face_and_over_it() -> None:
    """A ceramic of 100 W behind a guard: 7 cm before a face of 9 cm falls ``P s / (pi (r² + a²))`` of a beam that spreads
    evenly, of which a wire takes 0.8 d and gives it off over pi d; over it the plume of its body's heat.
    """
    climate = climate_of(board_data())
    (lamp,) = climate.state.lamps
    square_m2 = 0.07**2 + (lamp.beam.face_m / 2) ** 2
    ahead_k = (
        0.8
        * lamp.radiant_w
        / 0.9
        * lamp.beam.intensity_sr(np.array([[0.0, 0.0, -1.0]]))[0]
        / square_m2
        / (np.pi * 30.0)
    )
    power_kw = lamp.body_into_air_w / 0.7 / 1000
    origin_m = 0.07 - min(0.083 * power_kw**0.4 - 1.02 * lamp.beam.face_m, 0.0)
    plume_k = 16.9 * power_kw ** (2 / 3) / origin_m ** (5 / 3) - 5.38 * (power_kw / origin_m) ** (2 / 3) / origin_m
    above_k = 0.8 * 0.15 * lamp.body_w / (np.pi * square_m2) / (np.pi * 30.0) + plume_k
    assert guard_rise_k(lamp) == pytest.approx(max(ahead_k, above_k), rel=0.02)
    hottest = climate.heaters["Lamp"].hottest
    parts = {
        part.what: part.celsius
        for part in hot_parts(climate.design, climate.state, climate.design.heaters[0], CATALOGUE)
    }
    assert hottest is not None
    assert parts["guard"] > 55, "no animal holds on to it"


def test_guards_and_domes_get_hot() -> None:
    guarded = climate_of(box_data(watts=100.0)).heaters["Lamp"].hottest
    domed = climate_of(box_data(watts=100.0, fixture={"kind": "dome", "max_watts": 150})).heaters["Lamp"].hottest
    assert guarded is not None
    assert domed is not None
    assert (guarded.what, domed.what) == ("guard", "dome")
    assert 60 < guarded.celsius < 130
    assert 60 < domed.celsius < 130
