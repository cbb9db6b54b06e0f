"""Single readings against what is reckoned by hand for the same place."""

from copy import deepcopy
from dataclasses import replace

import numpy as np
import pytest

from mitten.core.physics.air.ceiling import jet_rise_k
from mitten.core.physics.arrays import highest_at
from mitten.core.physics.balance.load import load_of
from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K
from mitten.core.physics.radiation.lamps import MeshWindow
from mitten.core.physics.radiation.sources import sources_of
from mitten.core.physics.radiation.spectrum import emitter_temperature_k
from mitten.core.physics.reading.fields import ground_at_depth, mat_c
from mitten.core.physics.reading.hides import inside_air_c
from mitten.core.physics.situation import Situation, running_sources
from mitten.core.physics.solving import tweak
from mitten.core.physics.tweaks import NOMINAL, Tweaks
from tests.catalogue import CATALOGUE
from tests.designs import Data, board_data, box_data, climate_of, lamp, ledge_data, mat_data, read, tank_data

TUBE: Data = {"name": "UV", "watts": 14.0, "uvi_at_30cm": 5.0, "x_m": 0.9, "y_m": 0.4, "z_m": 0.57, "length_m": 0.4}


def panel_data(watts: float = 80.0) -> Data:
    return box_data(kind="radiant-panel", watts=watts, length_m=0.5, depth_m=0.3, x_m=0.8, z_m=0.59, fixture={})


def test_a_panels_points_lie_evenly_over_its_face() -> None:
    design = read(panel_data())
    running = running_sources(design, Situation(21.0), {})
    points = np.array(sources_of(design, running, True, CATALOGUE).lamps[0].beam.points)
    columns, rows = round(0.5 / 0.08), round(0.3 / 0.08)
    assert len(points) == columns * rows
    assert points[:, 0].mean() == pytest.approx(0.8)
    assert points[:, 1].mean() == pytest.approx(0.3)
    assert np.ptp(points[:, 0]) == pytest.approx(0.5 * (1 - 1 / columns))
    assert np.ptp(points[:, 1]) == pytest.approx(0.3 * (1 - 1 / rows))
    assert np.all(points[:, 2] == pytest.approx(0.58)), "the face is two centimetres under the top"


def test_a_panel_is_as_hot_as_its_own_balance_makes_it() -> None:
    """``eta P = eps sigma A (T^4 - T0^4)`` around the air at its face."""
    climate = climate_of(panel_data())
    part = climate.heaters["Lamp"].hottest
    assert part is not None
    assert part.what == "panel"
    around_k = climate.air_at(0.8, 0.58) + ZERO_C_K
    share = CATALOGUE.sources["radiant-panel"].radiant_share
    expected_k = (share * 80.0 / (0.93 * SIGMA_W_M2K4 * 0.15) + around_k**4) ** 0.25
    assert part.celsius == pytest.approx(expected_k - ZERO_C_K, abs=0.5)


def test_a_ceramic_emitters_temperature_goes_with_what_it_gives() -> None:
    kind = CATALOGUE.sources["ceramic-emitter"]
    assert kind.radiating_area_m2 is not None
    for watts, dim in ((60.0, 1.0), (100.0, 1.0), (100.0, 0.5)):
        given = kind.radiant_share * watts * dim / (0.93 * SIGMA_W_M2K4 * kind.radiating_area_m2)
        found = emitter_temperature_k(kind, watts, dim)
        assert given < found**4 < given + 320.0**4
    assert emitter_temperature_k(kind, 100.0, 0.5) == pytest.approx(emitter_temperature_k(kind, 50.0, 1.0))


def test_a_hides_air_follows_its_roof_as_its_ground_and_the_air_around_it_as_the_rest() -> None:
    data = mat_data()
    data["sites"] = [
        {"name": "Den", "role": "warm-hide", "material": "resin", "x_m": 0.42, "y_m": 0.2, "length_m": 0.2, "depth_m": 0.2,
         "z_m": 0.1, "thickness_mm": 5.0}
    ]  # fmt: skip
    climate = climate_of(data)
    state, den = climate.state, climate.design.sites[0]
    interior = state.prepared.interior
    roof = next(i for i, surface in interior.of_site(0) if surface.kind == "site-bottom")

    def with_warmer(span: slice | None) -> float:
        surface_c, warmer_k = state.surface_c.copy(), 0.0 if span else 1.0
        if span:
            surface_c[span] += 1.0
        moved = replace(state, surface_c=surface_c, air_c=state.air_c + warmer_k)
        return inside_air_c(moved, 0, den) - inside_air_c(state, 0, den)

    by_roof, by_ground, by_air = (with_warmer(span) for span in (interior.span(roof), interior.span(0), None))
    assert by_roof == pytest.approx(by_ground)
    assert by_roof > 0.05
    assert by_roof + by_ground + by_air == pytest.approx(1.0)


def test_meters_read_what_white_walls_throw_back_as_they_read_what_comes_straight() -> None:
    data = ledge_data()
    dark = deepcopy(data)
    for panel in dark["enclosure"]["panels"].values():
        panel["material"] = panel["material"].replace("white", "dark")
    white, black = (climate_of(one).basking.arriving for one in (data, dark))
    assert white.shares == pytest.approx(black.shares), "what comes straight is the same"
    brighter = white.short_w_m2 / black.short_w_m2
    assert brighter > 1.01
    assert white.silicon_w_m2 / black.silicon_w_m2 == pytest.approx(brighter, rel=1e-6)
    assert white.thermopile_w_m2 / black.thermopile_w_m2 == pytest.approx(brighter, rel=1e-6)


@pytest.mark.parametrize("factor", [0.8, 1.15])
def test_a_factor_on_ultraviolet_is_one_on_the_index(factor: float) -> None:
    climate = climate_of({**ledge_data(), "uvb": [TUBE]})
    moved = tweak(climate, Tweaks(ultraviolet=factor))
    assert moved.basking.uvi == pytest.approx(factor * climate.basking.uvi, rel=1e-6)
    assert moved.basking.uvi_most == pytest.approx(factor * climate.basking.uvi_most, rel=1e-6)


def test_moving_a_parameter_twice_is_moving_it_by_both() -> None:
    climate = climate_of(ledge_data())
    twice = tweak(tweak(climate, Tweaks(ground=1.2)), Tweaks(ground=1.1, room_k=0.5))
    once = tweak(climate, Tweaks(ground=1.32, room_k=0.5))
    assert twice.tweaks.ground == pytest.approx(1.32)
    np.testing.assert_allclose(twice.state.surface_c, once.state.surface_c, atol=0.05)
    assert twice.room_c == once.room_c == 21.5


def test_of_parameters_that_are_moved_twice_factors_are_multiplied_and_kelvins_added() -> None:
    one = Tweaks(outputs=(("Lamp", 1.2),), setpoints=(("Pulse", 0.5),), mesh=0.9, beam=1.1, room_k=0.5, room_rh=0.1)
    more = Tweaks(
        outputs=(("Lamp", 0.5), ("Mat", 1.1)),
        setpoints=(("Pulse", 0.25),),
        mesh=0.5,
        beam=0.8,
        room_k=-1.25,
        room_rh=0.05,
    )
    both = one.then(more)
    assert [both.output_of(name) for name in ("Lamp", "Mat", "Tape")] == pytest.approx([0.6, 1.1, 1.0])
    assert [both.setpoint_k(name) for name in ("Pulse", "Other")] == pytest.approx([0.75, 0.0])
    assert (both.mesh, both.beam, both.room_k, both.room_rh) == pytest.approx((0.45, 0.88, -0.75, 0.15))
    assert one.then(NOMINAL) == NOMINAL.then(one) == one


@pytest.mark.parametrize("z_m", [0.35, 0.5])
def test_air_under_the_top_is_the_zones_with_the_lamps_jet(z_m: float) -> None:
    climate = climate_of(box_data(z_m=z_m))
    source = climate.state.lamps[0]
    beside = np.array([source.beam.face_m])
    jet_k = float(jet_rise_k(source.body_into_air_w, 0.6 - z_m, source.beam.face_m, beside)[0])
    assert jet_k > 0.3
    assert climate.air.top_c == pytest.approx(max(climate.air_at(0.95, 0.6) + jet_k, climate.state.air_c[:, -1].max()))


def test_in_a_mats_plane_another_mats_heat_is_that_of_the_ground_there() -> None:
    """With next to no heat of its own, the plane of a mat on the floor is a depth of the ground over the other."""
    data = mat_data()
    own = {**deepcopy(data["heaters"][0]), "name": "Own", "watts": 1e-6, "place": "on-floor"}
    climate = climate_of({**data, "heaters": [*data["heaters"], own]})
    source = next(one for one in climate.state.sources.contacts if one.name == "Own")
    plane = ground_at_depth(climate.state, 0.025)
    assert np.ptp(plane) > 3.0
    np.testing.assert_allclose(mat_c(climate.state, source), plane, atol=0.01)


def test_a_mesh_window_knows_its_area_and_lets_through_by_its_angle() -> None:
    window = MeshWindow(0.1, 0.5, 0.2, 0.35, 0.45, 0.62)
    assert window.area_m2 == pytest.approx(0.4 * 0.15)
    inside = np.array([[0.3, 0.3]])
    assert window.transmittance(np.array([1.0]), inside)[0] == pytest.approx(0.62)
    assert window.transmittance(np.array([0.8]), inside)[0] == pytest.approx(1 - 0.38 / 0.8)
    assert window.transmittance(np.array([0.3]), inside)[0] == 0.0
    for beside in ([0.05, 0.3], [0.55, 0.3], [0.3, 0.1], [0.3, 0.4]):
        assert window.transmittance(np.array([1.0]), np.array([beside]))[0] == 0.0


def test_what_a_mesh_stops_of_a_tilted_lamp_lies_where_it_points() -> None:
    middles = {}
    for tilt in (-25.0, 0.0, 25.0):
        data = tank_data()
        data["heaters"][0] |= {"tilt_deg": tilt, "x_m": 0.45, "z_m": 0.5}
        design = read(data)
        prepared = prepare(design, CATALOGUE)
        sources = sources_of(design, running_sources(design, Situation(21.0), {}), True, CATALOGUE)
        stopped_w = load_of(prepared, sources, Surroundings(21.0)).deposits[0].mesh_w
        xs_m = prepared.interior.centres[prepared.interior.top, 0]
        middles[tilt] = float((stopped_w * xs_m).sum() / stopped_w.sum())
    assert middles[0.0] == pytest.approx(0.45, abs=0.01)
    floor = {tilt: middles[tilt] - 0.45 for tilt in (-25.0, 25.0)}
    assert floor[25.0] == pytest.approx(-floor[-25.0], abs=0.01)
    lit = climate_of(tilted(25.0)).floor.hottest()[1][0] - climate_of(tilted(-25.0)).floor.hottest()[1][0]
    assert np.sign(floor[25.0]) == np.sign(lit)


def tilted(degrees: float) -> Data:
    data = tank_data()
    data["heaters"][0] |= {"tilt_deg": degrees, "x_m": 0.45, "z_m": 0.5}
    return data


def test_off_gives_nothing_and_half_gives_half_of_what_a_contact_source_does() -> None:
    full, half = (climate_of(mat_data(watts=watts)).state.contacts[0] for watts in (16.0, 8.0))
    np.testing.assert_allclose(full.patch_w, 2 * half.patch_w)
    assert full.lost_w == pytest.approx(2 * half.lost_w)
    assert climate_of({**board_data(), "heaters": []}).energy.in_w == 0.0


def test_a_lamp_that_hangs_lower_lights_less_of_the_ground_and_more_of_its_middle() -> None:
    low, high = (climate_of(box_data(z_m=z_m)).floor.temperature_c for z_m in (0.3, 0.55))
    assert low.max() > high.max() + 5.0
    assert (low > low.max() - 5.0).sum() < (high > high.max() - 5.0).sum()


assert lamp()["kind"] == "halogen-flood", "what the designs here are built on"


@pytest.mark.parametrize(("holes", "hole_mm", "area_cm2"), [(1, 10.0, 0.7854), (20, 25.0, 98.17), (4, 100.0, 314.16)])
def test_round_holes_are_as_open_as_their_circles(holes: int, hole_mm: float, area_cm2: float) -> None:
    data = box_data()
    data["enclosure"]["vents"] = [{"face": "left", "holes": holes, "hole_mm": hole_mm, "z_m": 0.3}]
    assert read(data).enclosure.vents[0].area_m2 * 1e4 == pytest.approx(area_cm2, rel=1e-3)


def test_high_air_in_a_tall_box_is_that_beside_the_perch_or_at_two_thirds_of_its_height() -> None:
    tall = {"length_m": 0.5, "depth_m": 0.5, "height_m": 0.9}
    data = box_data(x_m=0.3, z_m=0.85)
    data["enclosure"] |= tall | {"vents": [{"face": "left", "area_cm2": 40.0, "z_m": 0.1}]}
    climate = climate_of(data)
    assert climate.slopes_upwards == 1.0
    ends = [climate.air_at(0.5 * share, 0.6) for share in (1 / 6, 5 / 6)]
    assert climate.air.warm_c == pytest.approx(max(*ends, climate.low_air_along(np.array([0.25])).mean()), abs=0.3)
    perch = {"name": "P", "role": "basking", "material": "cork", "x_m": 0.25, "y_m": 0.25, "length_m": 0.3,
             "depth_m": 0.1, "z_m": 0.5}  # fmt: skip
    with_perch = climate_of({**data, "sites": [perch]})
    top_m = with_perch.design.sites[0].top_m(with_perch.design.substrate.depth_m)
    assert with_perch.air.warm_c == pytest.approx(with_perch.air_at(0.25, top_m + 0.05), abs=0.01)


@pytest.mark.parametrize("height_over_length", [0.8, 1.0, 1.1, 1.2, 1.4])
def test_a_box_turns_from_long_to_tall_between_nine_tenths_and_thirteen(height_over_length: float) -> None:
    data = box_data(x_m=0.3, z_m=0.4)
    data["enclosure"] |= {"length_m": 0.6, "depth_m": 0.6, "height_m": 0.6 * height_over_length, "vents": []}
    expected = min(max((height_over_length - 0.9) / 0.4, 0.0), 1.0)
    assert climate_of(data).slopes_upwards == pytest.approx(expected)


def test_inside_a_slab_it_is_between_its_two_faces_by_height() -> None:
    climate = climate_of(ledge_data())
    at = [climate.inside_at(0.94, 0.3, z_m) for z_m in (0.1625, 0.1725, 0.1825)]
    assert at[1] == pytest.approx((at[0] + at[2]) / 2, abs=0.02)
    top_c = climate.site_field("Ledge").at(0.94, 0.3)
    assert at[2] < top_c
    assert at[2] + (at[2] - at[0]) * 0.125 == pytest.approx(top_c, abs=0.05)


def test_rounding_does_not_choose_between_places_that_are_alike() -> None:
    level = np.array([[21.0, 21.0 + 1e-12], [21.0 - 1e-12, 20.0]])
    assert highest_at(level) == 0
    assert highest_at(-level) == 3
    assert highest_at(np.array([20.0, 20.1, 20.1 + 1e-6])) == 2


def test_a_body_that_is_as_warm_as_the_cool_side_does_not_cool_down_there() -> None:
    unheated = climate_of({**tank_data(), "heaters": [], "uvb": [], "lights": []})
    assert abs(unheated.basking.operative_c - unheated.air.cool_c) < 0.1
    assert unheated.cool_down_minutes is None
    assert climate_of(tank_data()).cool_down_minutes is not None
