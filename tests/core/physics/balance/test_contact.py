"""Contact heat: closed forms of a buried source, an independent finite-element solution, and where the watts go."""

import numpy as np
import pytest

from mitten.core.physics.balance.conduction import shorter_way_w_m2k
from mitten.core.physics.balance.contact import buried_source, contact_load
from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.constants import value
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.fields import ground_at_depth
from mitten.core.physics.solids.ground import (
    BuriedSource,
    cut_from_top,
    resistance_m2k_w,
)
from tests.catalogue import CATALOGUE
from tests.designs import Data, climate_of, ledge_data, mat_data, read
from tests.strip import BELOW, FIBRE, GLASS, finite_elements, waves

SOURCE = BuriedSource((), (GLASS, FIBRE), BELOW)
LEVEL = np.zeros((1, 1))


def test_an_even_source_divides_by_the_two_resistances() -> None:
    up = resistance_m2k_w((GLASS, FIBRE))
    assert SOURCE.share_into_top(LEVEL)[0, 0] == pytest.approx((1 / BELOW) / (1 / BELOW + up))
    assert SOURCE.own_rise_k(LEVEL)[0, 0] == pytest.approx(1 / (BELOW + 1 / up))
    half_way = SOURCE.rise_above_k(LEVEL, GLASS.thickness_m)[0, 0]
    assert half_way == pytest.approx(SOURCE.own_rise_k(LEVEL)[0, 0] * resistance_m2k_w([FIBRE]) / up)


def test_a_source_between_layers_warms_the_underside_by_the_resistances_below() -> None:
    on_the_glass = BuriedSource((GLASS,), (FIBRE,), BELOW)
    under = on_the_glass.rise_below_k(LEVEL, GLASS.thickness_m)[0, 0]
    down = resistance_m2k_w([GLASS]) + 1 / BELOW
    assert under == pytest.approx(on_the_glass.own_rise_k(LEVEL)[0, 0] * (1 / BELOW) / down)


def test_a_bedded_slab_loses_downwards_what_is_left_of_the_ground_lets_through_more() -> None:
    deep_m = 0.01
    left = (
        1 / BELOW + resistance_m2k_w([FIBRE]) * (FIBRE.thickness_m - deep_m) / FIBRE.thickness_m + 1 / value("contact")
    )
    whole = 1 / BELOW + resistance_m2k_w([FIBRE])
    assert shorter_way_w_m2k((FIBRE,), deep_m, BELOW) == pytest.approx(1 / left - 1 / whole)
    assert shorter_way_w_m2k((FIBRE,), 0.0, BELOW) == 0.0, "its joint alone only keeps heat in"


def test_a_fine_wave_hardly_reaches_the_top() -> None:
    assert SOURCE.share_into_top(np.array([[300.0]]))[0, 0] < 1e-3


def test_layers_are_cut_from_the_top() -> None:
    glass, rest = cut_from_top((GLASS, FIBRE), 0.01)
    assert glass == GLASS
    assert rest.thickness_m == pytest.approx(0.02)
    assert cut_from_top((GLASS, FIBRE), 0.03) == (GLASS,)


def test_a_mat_under_layers_agrees_with_finite_elements_within_two_percent() -> None:
    length, mat, flux = 0.6, (0.28, 0.56), 204.0
    xs, surface, base = finite_elements(length, mat, flux)
    found, deep = waves(xs, length, mat, flux)
    assert np.abs(found - surface).max() < 0.02 * surface.max()
    assert np.abs(deep - base).max() < 0.02 * base.max()


def load_of(design: Data) -> tuple[float, float]:
    """Heat that enters the patches and heat that is lost, of the first heater's watts."""
    known = read(design)
    climate = climate_of(design)
    load = contact_load(climate.state.sources.contacts[0], prepare(known, CATALOGUE))
    return float(load.patch_w.sum()), load.lost_w


PLACES: dict[str, Data] = {
    "under-floor": mat_data(),
    "on-floor": mat_data(place="on-floor", cover_mm=5.0),
    "wall": mat_data(place="wall", x_m=0.6, z_m=0.2, length_m=0.2, depth_m=0.2),
    "hide-roof": {
        **ledge_data(), "heaters": [{"name": "M", "kind": "heat-mat", "watts": 7.0, "x_m": 0.94, "y_m": 0.3, "length_m": 0.2, "depth_m": 0.2, "place": "hide-roof", "site": "Ledge"}],
    },
    "rock": {**ledge_data(), "heaters": [{"name": "R", "kind": "hot-rock", "watts": 10.0, "x_m": 0.94, "y_m": 0.3, "site": "Ledge"}]},
    "tape": mat_data(kind="heat-tape", length_m=0.5, depth_m=0.1, x_m=0.3),
    "cable": mat_data(kind="heat-cable", place="on-floor"),
}  # fmt: skip


@pytest.mark.parametrize("place", sorted(PLACES))
def test_every_contact_source_accounts_for_its_watts(place: str) -> None:
    design = PLACES[place]
    entering, lost = load_of(design)
    watts = design["heaters"][0]["watts"]
    assert entering + lost == pytest.approx(watts)
    assert 0 < entering <= watts + 1e-9
    energy = climate_of(design).energy
    assert energy.in_w == pytest.approx(watts)
    assert abs(energy.residual_w) < 1e-3 * watts


def test_a_mat_on_the_floor_gives_more_upwards_than_one_under_it_and_insulation_helps_both() -> None:
    bare = load_of(PLACES["under-floor"])[0]
    assert load_of(mat_data(place="on-floor"))[0] > bare
    board = mat_data()
    board["enclosure"]["underside"] = {"raised": True, "insulated": True}
    assert load_of(board)[0] > bare


def test_a_wall_mat_warms_its_own_wall() -> None:
    climate = climate_of(PLACES["wall"])
    interior = climate.state.prepared.interior
    faces = {face: climate.state.surface_c[interior.span(interior.index_of(face))].max() for face in ("left", "right")}
    assert faces["right"] > faces["left"] + 5
    hottest = climate.heaters["Mat"].hottest
    assert hottest is not None
    assert hottest.celsius > faces["right"]


def test_a_hot_rock_is_hottest_in_its_middle() -> None:
    field = climate_of(PLACES["rock"]).site_fields["Ledge"]
    middle = field.temperature_c[field.temperature_c.shape[0] // 2, field.temperature_c.shape[1] // 2]
    assert middle > field.temperature_c[0, 0] + 1


def test_a_slab_bedded_to_the_floor_takes_more_of_the_mat_than_one_lying_on_top() -> None:
    slab = {
        "name": "S",
        "role": "basking",
        "material": "slate",
        "x_m": 0.42,
        "y_m": 0.2,
        "length_m": 0.2,
        "depth_m": 0.2,
    }
    lying = {**mat_data(50.0), "sites": [{**slab, "thickness_mm": 20.0}]}
    standing = {**mat_data(50.0), "sites": [{**slab, "z_m": 0.0, "thickness_mm": 70.0}]}
    one, other = climate_of(lying), climate_of(standing)
    assert other.sites["S"].surface_c > one.sites["S"].surface_c + 2
    for climate in (one, other):
        assert abs(climate.energy.residual_w) < 1e-3 * 16


def test_layers_conduct_in_series() -> None:
    one, two = mat_data(40.0), mat_data(20.0)
    two["substrate"]["layers"] = [{"material": "coconut-fibre", "depth_mm": 20.0}]
    assert climate_of(two).base_c == pytest.approx(climate_of(one).base_c, abs=0.05)
    two["substrate"]["layers"][0]["material"] = "gravel"
    assert climate_of(two).base_c < climate_of(one).base_c - 3


def test_without_heat_every_depth_has_the_rooms_temperature() -> None:
    climate = climate_of(mat_data(watts=0.0))
    for depth in (0.0, 0.01, 0.025, 0.029):
        assert np.abs(ground_at_depth(climate.state, depth) - 21.0).max() < 0.01


def test_the_shelf_is_warmest_under_a_flat_box_without_a_board() -> None:
    shelves = []
    for underside in ({}, {"insulated": True}, {"raised": True}, {"raised": True, "insulated": True}):
        design = mat_data()
        design["enclosure"]["underside"] = underside
        shelves.append(climate_of(design).shelf_c)
    assert shelves == sorted(shelves, reverse=True)
    assert shelves[-1] > 21.0


def covered(cover_mm: float, place: str = "under-floor") -> Climate:
    """A mat with a cover, and none on its thermostat."""
    changes: Data = {"x_m": 0.58, "z_m": 0.2, "length_m": 0.2, "depth_m": 0.2} if place == "wall" else {}
    return climate_of(mat_data(place=place, cover_mm=cover_mm, **changes))


def test_a_cover_belongs_to_its_own_heater() -> None:
    """One on a wall mat does not insulate the floor; one on a floor mat makes that mat hotter and nothing else much."""
    bare, on_the_wall = covered(0.0, "wall"), covered(20.0, "wall")
    assert np.abs(bare.state.surface_c - on_the_wall.state.surface_c).max() < 0.02
    open_mat, under_tile = covered(0.0, "on-floor"), covered(10.0, "on-floor")
    hotter_k = under_tile.heater_surface_c("Mat") - open_mat.heater_surface_c("Mat")
    assert 0.8 < hotter_k < 2.5
    assert under_tile.base_c < open_mat.base_c


def test_a_cover_is_a_resistance_in_series() -> None:
    """One-dimensional: 16 W on 0.0784 m2 through 10 mm of 0.2 W/mK, up and down by their resistances."""
    climate = covered(10.0, "on-floor")
    buried = buried_source(climate.state.sources.contacts[0], climate.state.prepared)
    level = np.zeros((1, 1))
    up, up_bare = (resistance_m2k_w(layers) for layers in (buried.over, buried.above))
    assert up - up_bare == pytest.approx(0.01 / 0.2)
    down = 1 / buried.below_w_m2k + resistance_m2k_w(buried.below)
    assert buried.own_rise_k(level)[0, 0] == pytest.approx(1 / (1 / up + 1 / down))
    assert buried.share_into_top(level)[0, 0] == pytest.approx(down / (up + down))
    assert buried.rise_above_k(level, 0.0)[0, 0] == pytest.approx(buried.own_rise_k(level)[0, 0] * up_bare / up)
