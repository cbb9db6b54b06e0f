"""Findings, faults and conditions at the places where they begin, reckoned by hand."""

import json
from collections.abc import Mapping
from contextlib import nullcontext
from typing import Any

import pytest

from mitten.core.catalogue import read_checked_design, read_kept_design
from mitten.core.design import BadDesignError
from mitten.core.judge import assess, read_condition
from mitten.core.judge.cover import cover_by_temperature
from mitten.core.judge.targets import harms_somewhere
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, climate_of, data, lamp, ledge_data, mat_data, read

TUBE: Data = {"name": "UV", "watts": 14.0, "uvi_at_30cm": 5.0, "x_m": 0.9, "y_m": 0.3, "z_m": 0.57, "length_m": 0.4}


def rules_of(design: Data) -> set[str]:
    return {finding.rule for finding in assess(read(design), CATALOGUE).findings}


def seasons(**changes: float) -> Data:
    winter, summer = {"day_c": 20.0, "night_c": 16.0}, {"day_c": 26.0, "night_c": 20.0}
    return {"winter": winter | changes, "summer": summer}


@pytest.mark.parametrize(
    ("room_c", "summer"), [(10.0, 0.0), (20.0, 0.0), (21.5, 0.25), (23.0, 0.5), (26.0, 1.0), (33.0, 1.0)]
)
def test_a_room_of_ones_own_is_as_far_from_winter_as_its_warmth(room_c: float, summer: float) -> None:
    design = read({**box_data(), "room": seasons()})
    condition = read_condition(design, f"room={room_c},day")
    assert condition.summer == pytest.approx(summer)
    assert condition.situation.room_c == room_c


def test_where_winter_is_as_warm_as_summer_a_room_is_half_way() -> None:
    assert read_condition(read(box_data()), "room=25,night").summer == 0.5


@pytest.mark.parametrize(("x_m", "found"), [(0.2, True), (0.5, True), (0.54, False), (0.9, False)])
@pytest.mark.parametrize("mirrored", [False, True])
def test_a_tube_is_at_the_wrong_end_on_both_sides_alike(x_m: float, found: bool, mirrored: bool) -> None:
    def at(place_m: float) -> float:
        return 1.2 - place_m if mirrored else place_m

    design = {**box_data(x_m=at(0.95)), "uvb": [{**TUBE, "x_m": at(x_m)}]}
    findings = {finding.rule: finding for finding in assess(read(design), CATALOGUE).findings}
    assert ("uv-at-the-wrong-end" in findings) == found
    if found:
        assert f"{(x_m + 0.2) / 1.2:.0%} of the way" in findings["uv-at-the-wrong-end"].number


@pytest.mark.parametrize(
    ("place", "inside"),
    [
        ({"x_m": 0.94, "y_m": 0.5, "z_m": 0.17}, False),
        ({"x_m": 0.55, "y_m": 0.3, "z_m": 0.17}, False), ({"x_m": 0.94, "y_m": 0.3, "z_m": 0.3}, False),
        ({"x_m": 0.94, "y_m": 0.3, "z_m": 0.15}, False), ({"x_m": 0.60, "y_m": 0.3, "z_m": 0.17}, True),
    ],
)  # fmt: skip
def test_a_tube_within_a_slab_is_found_and_one_beside_it_is_not(place: Mapping[str, float], inside: bool) -> None:
    """The slab is 0.30 x 0.26 m around (0.94, 0.30), 25 mm thick, 16 to 18.5 cm up; the tube is 40 cm long."""
    design = read_kept_design(json.dumps({**ledge_data(), "uvb": [{**TUBE, **place}]}), CATALOGUE)
    findings = assess(design, CATALOGUE).findings
    assert any({"UV", "Ledge"} <= set(finding.parts) for finding in findings) == inside


@pytest.mark.parametrize(("approach", "heats", "departs"), [
    ("ground", "mat", False), ("ground", "lamp", True), ("lightless", "lamp", True), ("lightless", "mat", False),
    ("sunlit", "lamp", False), ("sunlit", "mat", True), ("one-lamp", "lamp", False), ("any", "mat", False),
])  # fmt: skip
def test_an_approach_is_departed_from_by_what_is_not_its_heat(approach: str, heats: str, departs: bool) -> None:
    design = mat_data() if heats == "mat" else box_data()
    design["approach"] = approach
    assert ("not-the-approach" in rules_of(design) or any("approach" in rule for rule in rules_of(design))) == departs


@pytest.mark.parametrize("approach", ["ground", "sunlit", "lightless", "one-lamp"])
def test_a_box_without_heat_departs_from_no_approach(approach: str) -> None:
    assert not any("approach" in rule for rule in rules_of({**box_data(), "heaters": [], "approach": approach}))


@pytest.mark.parametrize(
    ("change", "fits"),
    [
        ({"x_m": 0.14}, True), ({"x_m": 0.13}, False), ({"x_m": 0.46}, True), ({"x_m": 0.47}, False),
        ({"y_m": 0.14}, True), ({"y_m": 0.13}, False), ({"y_m": 0.26}, True), ({"y_m": 0.27}, False),
    ],
)  # fmt: skip
def test_a_mat_of_28_cm_fits_a_floor_of_60_by_40_to_the_centimetre(change: Data, fits: bool) -> None:
    design = mat_data(**change)
    with nullcontext() if fits else pytest.raises(BadDesignError, match="reaches past the edge"):
        read_checked_design(json.dumps(design), CATALOGUE)


def hide(role: str, x_m: float) -> Data:
    return {
        "name": role, "role": role, "material": "cork", "x_m": x_m, "y_m": 0.3, "length_m": 0.25, "depth_m": 0.25,
        "z_m": 0.12,
    }  # fmt: skip


def test_cover_is_warm_from_the_lower_of_what_air_and_body_want() -> None:
    design = {**ledge_data(), "sites": [*ledge_data()["sites"], hide("warm-hide", 0.6), hide("cool-hide", 0.2)]}
    climate = climate_of(design)
    targets = assess(climate.design, CATALOGUE).targets
    warm, cool = cover_by_temperature(climate, targets)
    assert warm.low_c == min(targets.warm_air_c[0], targets.basking_operative_c[0])
    assert warm.high_c == targets.basking_operative_c[1]
    assert (cool.low_c, cool.high_c) == targets.cool_air_c


@pytest.mark.parametrize(("watts", "harms"), [(20.0, False), (250.0, True)])
def test_a_drawing_is_hatched_where_something_harms(watts: float, harms: bool) -> None:
    design = data(box_data()["enclosure"], [lamp(watts=watts)])
    climate = climate_of(design)
    targets: Any = assess(climate.design, CATALOGUE).targets
    assert harms_somewhere(climate, targets) == harms


@pytest.mark.parametrize(
    ("x_m", "y_m", "beside"),
    [
        (0.5, 0.2, False),
        (0.64, 0.2, False),
        (0.67, 0.2, True),
        (0.5, 0.31, True),
        (0.5, 0.29, False),
        (0.33, 0.2, True),
    ],
)
def test_a_lamp_over_the_lid_stands_over_the_mesh_or_beside_it(x_m: float, y_m: float, beside: bool) -> None:
    """The mesh is 0.3 x 0.2 m around (0.5, 0.2)."""
    mesh = {"mesh": "mesh-standard", "x_m": 0.5, "y_m": 0.2, "length_m": 0.3, "depth_m": 0.2}
    design = box_data(x_m=x_m, y_m=y_m, z_m=0.65, above_mesh=True, fixture={"kind": "dome", "max_watts": 150.0})
    design["enclosure"]["lid_mesh"] = mesh
    assert ("lamp-beside-the-mesh" in rules_of(design)) == beside


@pytest.mark.parametrize(
    ("kind", "found"), [("ceramic-emitter", True), ("mercury-vapour", True), ("halogen-flood", False)]
)
def test_a_dome_without_vents_is_for_neither_ceramic_nor_mercury(kind: str, found: bool) -> None:
    dome = next(key for key, one in CATALOGUE.fixtures.items() if one.encloses and not one.vented)
    design = box_data(kind=kind, watts=100.0, z_m=0.65, above_mesh=True, fixture={"kind": dome, "max_watts": 160.0})
    design["enclosure"]["lid_mesh"] = {"mesh": "mesh-standard"}
    assert ("unvented-dome" in rules_of(design)) == found


@pytest.mark.parametrize(
    ("probe", "on_it"),
    [
        ({"x_m": 0.94, "y_m": 0.3, "z_m": 0.185}, True), ({"x_m": 0.94, "y_m": 0.42, "z_m": 0.185}, True),
        ({"x_m": 0.94, "y_m": 0.44, "z_m": 0.185}, False), ({"x_m": 1.10, "y_m": 0.3, "z_m": 0.185}, False),
        ({"x_m": 0.94, "y_m": 0.3, "z_m": 0.30}, False),
    ],
)  # fmt: skip
def test_a_probe_lies_on_the_basking_place_or_beside_it(probe: Data, on_it: bool) -> None:
    design = ledge_data(control="T")
    design["controls"] = [{"name": "T", "kind": "dimming", "day_c": 38.0, "probe": {**probe, "reads": "surface"}}]
    assert ("probe-on-the-basking-place" in rules_of(design)) == on_it


@pytest.mark.parametrize(("watts", "found"), [(0.0, False), (10.0, True)])
def test_what_gives_nothing_needs_no_thermostat(watts: float, found: bool) -> None:
    design = box_data(kind="ceramic-emitter", watts=watts, z_m=0.4)
    assert ("needs-a-thermostat" in rules_of(design)) == found


def test_where_nothing_lies_in_a_band_the_hide_that_comes_nearest_is_named() -> None:
    design = {**ledge_data(), "sites": [*ledge_data()["sites"], hide("warm-hide", 0.6), hide("cool-hide", 0.2)]}
    climate = climate_of(design, 5.0)
    targets = assess(climate.design, CATALOGUE).targets
    warm, cool = cover_by_temperature(climate, targets)
    at_c = {name: climate.hide_air_c(name) for name in ("warm-hide", "cool-hide")}
    assert at_c["warm-hide"] is not None
    assert at_c["cool-hide"] is not None
    warmest = max(at_c, key=lambda name: at_c[name] or 0.0)
    assert warm.nearest_hide == cool.nearest_hide == warmest
    assert warm.nearest_c == at_c[warmest]


@pytest.mark.parametrize(("kind", "refused"), [("halogen-flood", True), ("ceramic-emitter", False)])
def test_a_probe_lies_on_a_heater_that_has_a_surface_and_one_is_enough(kind: str, refused: bool) -> None:
    design = box_data(kind=kind, z_m=0.4, control="T", fixture={"kind": "bare-socket", "max_watts": 150.0})
    design["controls"] = [
        {"name": "T", "kind": "pulse", "day_c": 60.0, "probe": {"x_m": 0.9, "y_m": 0.3, "z_m": 0.4, "reads": "heater"}}
    ]
    with pytest.raises(BadDesignError, match="glass of a lamp") if refused else nullcontext():
        read(design)
    second = {**design["heaters"][0], "kind": "ceramic-emitter", "name": "Two", "x_m": 0.5}
    read({**design, "heaters": [*design["heaters"], second]})
