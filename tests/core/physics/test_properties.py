"""What must hold for every design: sources without control, geometry fixed while one thing is changed."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mitten.core.physics.situation import Situation
from mitten.core.physics.solving import solve_climate
from tests.catalogue import CATALOGUE
from tests.designs import box_data, climate_of, lamp, ledge_data, mat_data, read, steady_room, tank_data

EXAMPLES = 25
SAME_K = 0.03
"""Two solutions that should be equal may differ by what settling leaves."""

KINDS = st.sampled_from(["halogen-flood", "halogen-spot", "incandescent-reflector", "ceramic-emitter"])
WATTS = st.floats(5.0, 150.0)
PLACES = st.floats(0.15, 1.05)
HEIGHTS = st.floats(0.3, 0.58)
ROOMS = st.floats(10.0, 30.0)


@settings(max_examples=EXAMPLES)
@given(kind=KINDS, watts=WATTS, more=st.floats(1.0, 100.0), x_m=PLACES, z_m=HEIGHTS)
def test_more_watts_never_lower_the_mean_air(kind: str, watts: float, more: float, x_m: float, z_m: float) -> None:
    place: dict[str, Any] = {"kind": kind, "x_m": x_m, "z_m": z_m}
    weak, strong = (climate_of(box_data(watts=power, **place)) for power in (watts, watts + more))
    assert strong.air.mean_c >= weak.air.mean_c - SAME_K
    assert strong.floor.hottest()[0] >= weak.floor.hottest()[0] - SAME_K


@settings(max_examples=EXAMPLES)
@given(watts=WATTS, x_m=PLACES, room_c=ROOMS, warmer=st.floats(0.5, 10.0))
def test_a_colder_room_is_never_warmer_inside(watts: float, x_m: float, room_c: float, warmer: float) -> None:
    design = box_data(watts=watts, x_m=x_m)
    cold, warm = climate_of(design, room_c), climate_of(design, room_c + warmer)
    assert np.all(warm.state.surface_c >= cold.state.surface_c - SAME_K)
    assert warm.air.mean_c >= cold.air.mean_c - SAME_K


@pytest.mark.slow
@settings(max_examples=EXAMPLES)
@given(watts=WATTS, x_m=PLACES, area_cm2=st.floats(5.0, 200.0), more=st.floats(5.0, 400.0))
def test_more_vent_never_moves_the_air_away_from_the_rooms(
    watts: float, x_m: float, area_cm2: float, more: float
) -> None:
    means = []
    for area in (area_cm2, area_cm2 + more):
        design = box_data(watts=watts, x_m=x_m)
        for vent in design["enclosure"]["vents"]:
            vent["area_cm2"] = area
        means.append(climate_of(design).air.mean_c)
    assert means[1] <= means[0] + SAME_K


@pytest.mark.slow
@settings(max_examples=EXAMPLES)
@given(kind=KINDS, watts=WATTS, x_m=PLACES, z_m=HEIGHTS, tilt_deg=st.floats(-30.0, 30.0))
def test_a_mirrored_design_gives_the_mirrored_answer(
    kind: str, watts: float, x_m: float, z_m: float, tilt_deg: float
) -> None:
    here = box_data(kind=kind, watts=watts, x_m=x_m, z_m=z_m, tilt_deg=tilt_deg)
    there = box_data(kind=kind, watts=watts, x_m=1.2 - x_m, z_m=z_m, tilt_deg=-tilt_deg)
    for vent in there["enclosure"]["vents"]:
        vent["face"] = {"left": "right", "right": "left"}[vent["face"]]
    one, other = climate_of(here), climate_of(there)
    assert np.abs(one.floor.temperature_c - other.floor.temperature_c[:, ::-1]).max() < SAME_K
    assert np.abs(one.state.air_c - other.state.air_c[::-1]).max() < SAME_K


@settings(max_examples=EXAMPLES)
@given(kind=KINDS, watts=st.floats(20.0, 150.0), x_m=PLACES)
def test_the_ground_is_hottest_under_the_lamp(kind: str, watts: float, x_m: float) -> None:
    climate = climate_of(box_data(kind=kind, watts=watts, x_m=x_m, z_m=0.4))
    assert abs(climate.floor.hottest()[1][0] - x_m) < 0.08


@pytest.mark.slow
@settings(max_examples=EXAMPLES)
@given(
    kind=KINDS,
    watts=WATTS,
    room_c=ROOMS,
    length_m=st.floats(0.3, 2.4),
    depth_m=st.floats(0.3, 1.2),
    height_m=st.floats(0.3, 1.2),
    place=st.tuples(st.floats(0.1, 0.9), st.floats(0.1, 0.9), st.floats(0.5, 0.95)),
    mesh=st.booleans(),
)
def test_every_box_settles_with_its_energy_accounted_for(
    kind: str,
    watts: float,
    room_c: float,
    length_m: float,
    depth_m: float,
    height_m: float,
    place: tuple[float, float, float],
    mesh: bool,
) -> None:
    design = tank_data()
    design["enclosure"] = {"length_m": length_m, "depth_m": depth_m, "height_m": height_m}
    if mesh:
        design["enclosure"]["lid_mesh"] = {"mesh": "mesh-fine"}
    height = {"z_m": height_m * place[2]}
    design["heaters"] = [lamp(kind=kind, watts=watts, x_m=length_m * place[0], y_m=depth_m * place[1], **height)]
    climate = climate_of(design, room_c)
    energy = climate.energy
    assert abs(energy.residual_w) < 1e-3 * energy.in_w + 1e-3
    assert climate.state.surface_c.min() > room_c - SAME_K
    assert climate.state.air_c.min() > room_c - SAME_K


def test_a_solution_begun_nearby_is_the_same_solution() -> None:
    first, second = read(ledge_data(watts=60.0)), read(ledge_data(watts=75.0))
    near = solve_climate(first, CATALOGUE, Situation(21.0))
    begun = solve_climate(second, CATALOGUE, Situation(21.0), start=near)
    fresh = solve_climate(second, CATALOGUE, Situation(21.0))
    assert np.abs(begun.state.surface_c - fresh.state.surface_c).max() < SAME_K


def test_white_walls_keep_more_of_a_lamps_light_than_clear_glass() -> None:
    white = box_data()
    clear = box_data()
    for panel in clear["enclosure"]["panels"].values():
        panel.update(material="glass", thickness_mm=4.0)
    boards, tank = climate_of(white), climate_of(clear)
    assert boards.energy.as_shortwave_w < tank.energy.as_shortwave_w
    assert boards.air.mean_c > tank.air.mean_c


def test_a_ceramic_emitter_warms_the_ceiling_air_more_than_a_flood_of_its_watts() -> None:
    ceramic, flood = (climate_of(box_data(kind=kind, z_m=0.45)) for kind in ("ceramic-emitter", "halogen-flood"))
    assert ceramic.air.top_c > flood.air.top_c
    assert flood.floor.hottest()[0] > ceramic.floor.hottest()[0]


def test_a_substrate_that_insulates_is_hotter_on_top_and_cooler_at_its_base() -> None:
    fibre, sand = box_data(), box_data()
    fibre["substrate"] = {"material": "coconut-fibre", "depth_mm": 40.0}
    sand["substrate"] = {"material": "dry-sand", "depth_mm": 40.0}
    loose, dense = climate_of(fibre), climate_of(sand)
    assert loose.floor.hottest()[0] > dense.floor.hottest()[0]
    assert loose.base_c < dense.base_c


def test_thin_air_carries_less_heat_away() -> None:
    """At 3000 m the air has seven tenths of its density: its films and flows are weaker and the spot is hotter."""
    low = climate_of(ledge_data())
    high = climate_of({**ledge_data(), "room": {**steady_room(21.0), "altitude_m": 3000.0}})
    assert high.basking.surface_c > low.basking.surface_c + 0.5
    ledge = slice(low.state.prepared.interior.starts[6], low.state.prepared.interior.starts[7])
    same_rise = low.state.film_w_m2k[ledge].mean() * 0.7 ** (2 / 3)
    assert high.state.film_w_m2k[ledge].mean() == pytest.approx(same_rise, rel=0.1)
    assert high.basking.operative_c > low.basking.operative_c


def test_the_hottest_ground_is_not_looked_for_under_a_slab() -> None:
    """What lies under a stone on a mat is no ground that anything meets."""
    design = mat_data(25.0)
    stone = {"name": "Stone", "role": "perch", "material": "cork", "x_m": 0.42, "y_m": 0.2, "thickness_mm": 40.0}
    design["sites"] = [{**stone, "length_m": 0.24, "depth_m": 0.24}]
    climate = climate_of(design)
    _, (x_m, y_m) = climate.floor.hottest()
    assert max(abs(x_m - 0.42), abs(y_m - 0.2)) > 0.11
    assert climate.floor.hottest()[0] < float(climate.floor.spots_c.max()) - 1
    assert climate.floor.lowest_c() <= climate.floor.hottest()[0]
