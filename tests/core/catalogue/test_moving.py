"""Where parts come to lie when they are moved, reckoned by hand: whole centimetres, inside, and in nothing else."""

from copy import deepcopy
from typing import Any

import pytest

from mitten.core.catalogue.moving import ground_of, keep_all_inside, mats_follow, put_part
from mitten.core.design.editing import data_of
from tests.catalogue import CATALOGUE
from tests.designs import Data, ledge_data, read

MAT: Data = {
    "name": "Mat", "kind": "heat-mat", "watts": 7.0, "x_m": 0.94, "y_m": 0.3, "length_m": 0.2, "depth_m": 0.2,
    "place": "hide-roof", "site": "Ledge",
}  # fmt: skip
HIDE: Data = {
    "name": "Hide", "role": "cool-hide", "material": "cork", "x_m": 0.3, "y_m": 0.3, "length_m": 0.2, "depth_m": 0.2,
}  # fmt: skip
GROUND_M = 0.04


def box(**changes: Any) -> Data:
    """1.2 x 0.6 x 0.6 m, 4 cm of ground, a lamp over a ledge of 0.30 x 0.26 m, 25 mm thick, its underside 16 cm up."""
    return deepcopy(data_of(read({**ledge_data(), **changes})))


def put(data: Data, collection: str, number: int, **to: float) -> Data:
    part: Data = data[collection][number]
    put_part(data, CATALOGUE, collection, part, to)  # type: ignore[arg-type]
    return part


def test_the_ground_is_as_deep_as_its_layers_together() -> None:
    data = box()
    assert ground_of(data) == pytest.approx(GROUND_M)
    data["substrate"]["layers"] = [{"material": "soil", "depth_mm": 30.0}, {"material": "soil", "depth_mm": 15.0}]
    assert ground_of(data) == pytest.approx(GROUND_M + 0.045)


@pytest.mark.parametrize(
    ("to", "comes_to"),
    [
        ({"x_m": 0.7349}, {"x_m": 0.73}), ({"x_m": 0.735001}, {"x_m": 0.74}), ({"x_m": 9.0}, {"x_m": 1.2}),
        ({"x_m": -1.0}, {"x_m": 0.0}), ({"y_m": 0.1234}, {"y_m": 0.12}), ({"x_m": 0.4, "z_m": 0.333}, {"z_m": 0.33}),
        ({"x_m": 0.4, "z_m": 0.0}, {"z_m": 0.07}), ({"x_m": 0.4, "z_m": 9.0}, {"z_m": 0.6}),
        ({"z_m": 0.1}, {"z_m": 0.215}),
    ],
)  # fmt: skip
def test_a_lamp_comes_to_whole_centimetres_clear_of_ground_ledge_and_lid(
    to: dict[str, float], comes_to: dict[str, float]
) -> None:
    lamp = put(box(), "heaters", 0, **to)
    assert {axis: lamp[axis] for axis in comes_to} == pytest.approx(comes_to)


def test_a_lamp_that_hung_under_a_ledge_may_stay_there() -> None:
    data = box()
    data["heaters"][0] |= {"z_m": 0.1}
    assert put(data, "heaters", 0, z_m=0.12)["z_m"] == 0.12


def test_a_lamp_over_the_mesh_hangs_between_a_centimetre_and_its_limit_over_it() -> None:
    data = box()
    data["enclosure"]["lid_mesh"] = {"mesh": "mesh-standard"}
    data["heaters"][0] |= {"above_mesh": True, "z_m": 0.7}
    assert put(data, "heaters", 0, z_m=0.3)["z_m"] == 0.61
    assert 0.61 < put(data, "heaters", 0, z_m=5.0)["z_m"] < 1.7


@pytest.mark.parametrize(
    ("to", "x_m", "y_m"), [((0.0, 0.0), 0.15, 0.13), ((9.0, 9.0), 1.05, 0.47), ((0.5, 0.25), 0.5, 0.25)]
)
def test_a_ledge_keeps_half_of_itself_on_either_side(to: tuple[float, float], x_m: float, y_m: float) -> None:
    ledge = put(box(), "sites", 0, x_m=to[0], y_m=to[1])
    assert (ledge["x_m"], ledge["y_m"]) == pytest.approx((x_m, y_m))


@pytest.mark.parametrize(
    ("z_m", "comes_to"), [(0.2, 0.2), (9.0, 0.554), (0.044, None), (0.02, None), (0.03, 0.03), (0.0, None)]
)
def test_a_ledge_lies_on_the_ground_or_over_it_and_leaves_room_under_the_top(
    z_m: float, comes_to: float | None
) -> None:
    ledge = put(box(), "sites", 0, z_m=z_m)
    assert ledge.get("z_m") == (None if comes_to is None else pytest.approx(comes_to))


def test_what_is_pushed_into_another_comes_to_lie_beside_it() -> None:
    """The hide is 0.20 m long, the other one 0.30 m: their middles are a quarter of a metre apart."""
    data = box(sites=[{**HIDE, "name": "Other", "length_m": 0.3, "x_m": 0.8}, HIDE], heaters=[])
    hide = put(data, "sites", 1, x_m=0.7)
    assert (hide["x_m"], hide["y_m"]) == pytest.approx((0.55, 0.3))
    again = put(data, "sites", 1, x_m=0.95)
    assert (again["x_m"], again["y_m"]) == pytest.approx((1.05, 0.3))
    clear = put(data, "sites", 1, x_m=0.3)
    assert clear["x_m"] == 0.3


def test_a_mat_goes_with_its_slab_by_as_much() -> None:
    data = box(heaters=[{**MAT, "x_m": 0.92}, {**MAT, "name": "Free", "site": None, "place": "on-floor", "x_m": 0.3}])
    put(data, "sites", 0, x_m=0.8, y_m=0.25)
    mat, free = data["heaters"]
    assert (mat["x_m"], mat["y_m"]) == pytest.approx((0.78, 0.25))
    assert (free["x_m"], free["y_m"]) == pytest.approx((0.3, 0.3))


def test_a_heated_rock_is_where_its_slab_is() -> None:
    data = box(heaters=[{"name": "R", "kind": "hot-rock", "watts": 10.0, "x_m": 0.1, "y_m": 0.1, "site": "Ledge"}])
    before = read(data).sites[0]
    data["sites"][0]["x_m"] = 0.7
    mats_follow(data, CATALOGUE, data["sites"][0], before)
    assert (data["heaters"][0]["x_m"], data["heaters"][0]["y_m"]) == pytest.approx((0.7, 0.3))


@pytest.mark.parametrize(("reads", "lowest"), [("air", GROUND_M), ("base", 0.0)])
def test_a_probe_stays_in_the_box_and_one_in_the_air_over_the_ground(reads: str, lowest: float) -> None:
    probe = {"x_m": 0.5, "y_m": 0.3, "z_m": 0.2, "reads": reads}
    data = box() | {"controls": [{"name": "T", "kind": "on-off", "day_c": 30.0, "probe": probe}]}
    moved = put(data, "controls", 0, x_m=5.0, y_m=-1.0, z_m=-1.0)["probe"]
    assert (moved["x_m"], moved["y_m"], moved["z_m"]) == pytest.approx((1.2, 0.0, lowest))


def test_a_vent_goes_up_and_down_its_wall_alone() -> None:
    data = box()
    assert put(data | {"vents": data["enclosure"]["vents"]}, "vents", 0, x_m=0.7, z_m=0.314)["z_m"] == 0.31
    assert "x_m" not in data["enclosure"]["vents"][0]
    assert put(data | {"vents": data["enclosure"]["vents"]}, "vents", 0, z_m=3.0)["z_m"] == 0.6


def test_a_mat_on_a_wall_stays_on_it_and_is_cut_to_it() -> None:
    mat = {**MAT, "place": "wall", "site": None, "x_m": 0.6, "y_m": 0.59, "z_m": 0.3, "length_m": 0.4, "depth_m": 0.3}
    data = box(heaters=[mat])
    moved = put(data, "heaters", 0, x_m=1.15, z_m=0.05)
    assert (moved["x_m"], moved["z_m"]) == pytest.approx((1.0, 0.15))
    data["enclosure"]["height_m"] = 0.25
    assert keep_all_inside(data, CATALOGUE)[0:1] in (["Ledge"], ["Mat"])
    assert data["heaters"][0]["depth_m"] == 0.25
    assert data["heaters"][0]["z_m"] == pytest.approx(0.125)


def test_in_a_smaller_box_everything_is_brought_inside_and_named() -> None:
    data = box(sites=[*ledge_data()["sites"], {**HIDE, "x_m": 0.2}])
    data["enclosure"] |= {"length_m": 0.8, "height_m": 0.3}
    assert keep_all_inside(data, CATALOGUE) == ["Ledge", "Lamp"]
    ledge, lamp = data["sites"][0], data["heaters"][0]
    assert (ledge["x_m"], ledge["z_m"]) == pytest.approx((0.65, 0.16))
    assert (lamp["x_m"], lamp["z_m"]) == pytest.approx((0.8, 0.3))
    assert all(vent["z_m"] <= 0.3 for vent in data["enclosure"]["vents"])


def test_a_ledge_that_a_low_lid_would_press_comes_down_with_room_for_a_lamp() -> None:
    data = box()
    data["enclosure"]["height_m"] = 0.19
    keep_all_inside(data, CATALOGUE)
    assert data["sites"][0].get("z_m") == pytest.approx(0.044, abs=0.001) or data["sites"][0].get("z_m") is None
