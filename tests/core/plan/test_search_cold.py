"""Cold rooms and damp animals: boards that fit any mesh, warm walls, slabs on mats, water that does not drown the heat."""

import json
from types import SimpleNamespace
from typing import Any, cast

import numpy as np
import pytest

from mitten.core.catalogue import load_presets, read_checked_design
from mitten.core.design import Design
from mitten.core.judge import Assessment, assess
from mitten.core.plan.search import Brief, asked_of_the_box, find_plans
from mitten.core.plan.search.screening.extras import NOTHING, Night, helping_layouts
from mitten.core.plan.search.screening.layouts import Layout, layouts_of
from mitten.core.plan.search.screening.probing import day_lights, on_the_mat
from mitten.core.plan.search.screening.taste import LEAST_DUTY, NEEDLESS, idling
from mitten.core.plan.search.solving.build import AIR_CONTROL, NIGHT_CONTROL, _clear_of
from mitten.core.plan.search.solving.finish import idles, night_by_need
from mitten.core.plan.search.solving.water import MOST_MISTING_ML_M2_DAY, dry_if_too_damp, water
from mitten.core.plan.search.wants.boxes import changes_of_box
from mitten.core.plan.search.wants.furnish import furnish
from tests.catalogue import CATALOGUE
from tests.designs import Data


def home(species: str, preset: str, **sizes: float) -> Design:
    """An empty box of a construction and size for an animal, in a room of 16 °C on a winter day."""
    box: Data = load_presets().boxes[preset].enclosure.model_dump(mode="json", exclude_none=True) | sizes
    for vent in box["vents"]:
        vent["z_m"] = min(vent["z_m"], 0.8 * box["height_m"])
    design: Data = {
        "format": "mitten-design/1",
        "name": "Cold home",
        "animal": {"species": species},
        "room": {"winter": {"day_c": 16.0, "night_c": 13.0}, "summer": {"day_c": 23.0, "night_c": 20.0}},
        "enclosure": box,
        "substrate": {"material": "soil", "depth_mm": 30.0},
    }
    return read_checked_design(json.dumps(design), CATALOGUE)


def in_room(design: Design, winter_c: float, summer_c: float) -> Design:
    room = {
        "winter": {"day_c": winter_c, "night_c": winter_c - 3.0},
        "summer": {"day_c": summer_c, "night_c": summer_c - 3.0},
    }
    return read_checked_design(json.dumps({**design.model_dump(mode="json"), "room": room}), CATALOGUE)


DAY_GECKO = home("giant-day-gecko", "tall-glass-60", length_m=0.45, depth_m=0.45, height_m=0.9)
LOW = home("kenyan-sand-boa", "plywood-120", length_m=0.9, depth_m=0.45, height_m=0.3)


@pytest.mark.parametrize("length_m", [0.43, 0.45, 0.61, 0.92, 1.21, 1.5])
def test_a_board_fits_a_mesh_of_any_length(length_m: float) -> None:
    changed = changes_of_box(home("giant-day-gecko", "tall-glass-60", length_m=length_m, depth_m=0.45), CATALOGUE)
    assert set(changed) == {"cover", "cover and insulate"}
    for change in changed.values():
        mesh = change.design.enclosure.lid_mesh
        assert mesh is not None
        assert mesh.x_m is not None
        assert 0.2 < (mesh.length_m or 0.0) <= length_m / 2
        assert mesh.x_m + (mesh.length_m or 0.0) / 2 == pytest.approx(length_m, abs=1e-6), "open at the warm end"
        light = day_lights(change.design)[0]
        assert abs(light["x_m"] - mesh.x_m) <= (mesh.length_m or 0.0) / 2, "no light on the board"


def helping(design: Design) -> list[Layout]:
    return helping_layouts(next(furnish(design, CATALOGUE)).design, Brief(design, CATALOGUE))


def test_walls_are_warmed_for_what_lives_in_trees_and_in_low_boxes_alone() -> None:
    for design in (DAY_GECKO, LOW):
        (wall,) = (layout for layout in helping(design) if layout.is_on_a_wall)
        assert not wall.warms_from_below
        assert wall.heaters[0]["y_m"] == design.enclosure.depth_m
    assert not any(layout.is_on_a_wall for layout in helping(home("rosy-boa", "plywood-120")))
    against = DAY_GECKO.model_copy(update={"enclosure": DAY_GECKO.enclosure.model_copy(update={"against": ("back",)})})
    assert not any(layout.is_on_a_wall for layout in helping(against)), "the back stands against something"


def test_a_pair_under_a_board_is_not_tried_over_the_mesh() -> None:
    covered = changes_of_box(next(furnish(home("rosy-boa", "tank-120"), CATALOGUE)).design, CATALOGUE)[
        "cover and insulate"
    ].design
    mesh = covered.enclosure.lid_mesh
    assert mesh is not None
    for layout in helping_layouts(covered, Brief(covered, CATALOGUE)):
        for heater in layout.heaters:
            beside = abs(heater["x_m"] - (mesh.x_m or 0.0)) > (mesh.length_m or 0.0) / 2
            assert not (heater.get("above_mesh") and beside)


def test_in_a_low_box_the_slab_itself_lies_on_a_mat_with_the_probe_on_it() -> None:
    bare = next(furnish(LOW, CATALOGUE)).design
    slab = next(one for one in layouts_of(bare, CATALOGUE, "heat-mat") if one.heaters[0].get("place") == "hide-roof")
    assert bare.basking_site is not None
    assert slab.heaters[0]["site"] == bare.basking_site.name
    assert on_the_mat(slab.heaters[0])["reads"] == "heater"
    tall = next(furnish(home("kenyan-sand-boa", "plywood-120"), CATALOGUE)).design
    assert all(one.heaters[0].get("place") != "hide-roof" for one in layouts_of(tall, CATALOGUE, "heat-mat"))


@pytest.mark.slow
def test_a_low_wooden_box_in_a_cold_room_gets_a_plan() -> None:
    progress = find_plans(Brief(LOW, CATALOGUE))
    assert progress.plans
    assert all(assess(plan.design, CATALOGUE).passes for plan in progress.plans[:1])
    said = {finding.rule for plan in progress.plans for finding in plan.assessment.findings}
    assert "cannot-reach" not in said, "no setting is left that full power does not reach"


def test_nobody_sprays_more_than_a_box_holds() -> None:
    # Whatever is sprayed in a cage, the air takes it away.
    dry = next(furnish(home("giant-day-gecko", "mesh-cage-60"), CATALOGUE)).design
    wet, box = water(dry, CATALOGUE), dry.enclosure
    inside_m2 = box.length_m * box.depth_m + 2 * (box.length_m + box.depth_m) * box.height_m
    assert 0 < wet.substrate.misting_ml_day <= MOST_MISTING_ML_M2_DAY * inside_m2
    assert (
        water(home("collared-lizard", "plywood-120"), CATALOGUE).substrate.misting_ml_day < wet.substrate.misting_ml_day
    )


def test_what_hardly_ever_works_is_worth_much_less() -> None:
    needless, idle, busy = idling(np.array([LEAST_DUTY / 2, 2 * LEAST_DUTY, 0.5]))
    assert busy == 0.0
    assert needless > idle + NEEDLESS / 2 > idle > 0.0


def on_the_coldest(**duties: tuple[float, float]) -> Assessment:
    """An assessment of which only the duties by day and by night are known."""

    def climate(name: str) -> Any:
        night = name == "winter-night"
        assert night or name == "winter-day"
        return SimpleNamespace(controls={key: SimpleNamespace(duty=pair[night]) for key, pair in duties.items()})

    return cast(Assessment, SimpleNamespace(climate=climate))


def test_a_source_that_rests_when_it_is_coldest_is_none_that_anybody_needs() -> None:
    assert idles(on_the_coldest(Thermostat=(0.03, 0.0), Night=(0.0, 0.6)))
    assert not idles(on_the_coldest(Thermostat=(0.3, 0.0), Night=(0.0, 0.6)))


@pytest.mark.parametrize(("duty", "all_day", "watts"), [(0.45, False, 100.0), (0.27, False, 60.0), (0.47, True, 150.0),
                                                        (0.2, True, 60.0), (1.0, False, 150.0)])  # fmt: skip
def test_nights_get_the_smallest_source_with_power_to_spare(duty: float, all_day: bool, watts: float) -> None:
    layout = next(one for one in layouts_of(DAY_GECKO, CATALOGUE, "ceramic-emitter") if 150.0 in one.watts_sold)
    night = Night("150 W", layout, 150.0, all_day, np.full(3, 6.0))
    name = AIR_CONTROL if all_day else NIGHT_CONTROL
    found = night_by_need(night, on_the_coldest(**{name: (0.0, duty), "Mat thermostat": (1.0, 0.1)}))
    assert found.watts == watts
    assert found.rises == pytest.approx(6.0 * watts / 150.0)
    assert f"{watts:g} W" in found.label
    assert night_by_need(NOTHING, on_the_coldest()) is NOTHING


@pytest.mark.parametrize(
    ("lamps_m", "depth_m", "hangs_m"),
    [((0.2,), 0.45, 0.1), ((0.1,), 0.45, 0.2), ((0.12, 0.27), 0.39, 0.2), ((0.15, 0.28), 0.39, 0.05),
     ((0.1, 0.2), 0.3, 0.15), ((0.35,), 0.6, 0.2)],
)  # fmt: skip
def test_a_uv_lamp_hangs_as_clear_of_heat_lamps_as_the_box_lets_it(
    lamps_m: tuple[float, ...], depth_m: float, hangs_m: float
) -> None:
    def hung(y_m: float) -> Data:
        return {"x_m": 0.5, "y_m": y_m, "z_m": 0.4, "above_mesh": False}

    tube = hung(0.2 if depth_m > 0.3 else 0.15) | {"length_m": 0.4}
    assert _clear_of([hung(y_m) for y_m in lamps_m], tube, depth_m)["y_m"] == pytest.approx(hangs_m)
    far_above = tube | {"z_m": 0.6}
    assert _clear_of([hung(y_m) for y_m in lamps_m], far_above, depth_m) == far_above


@pytest.mark.slow
def test_where_misting_is_not_enough_part_of_the_ground_is_kept_wet() -> None:
    """A small mesh-topped glass box in a cold house, whose air the heat dries."""
    tokay = home("tokay-gecko", "tall-glass-60", length_m=0.44, depth_m=0.39, height_m=0.77)
    young = tokay.model_copy(update={"animal": tokay.animal.model_copy(update={"stage": "juvenile"})})
    plan = find_plans(Brief(young, CATALOGUE)).plans[0]
    assert plan.design.substrate.moisture == "wet"
    asked = asked_of_the_box(plan)
    assert "keep part of the ground wet" in asked
    assert "keep part of the ground damp" not in asked
    assert "humidity" not in {one.key for one in plan.assessment.missed}


def test_what_is_too_damp_is_misted_less_and_what_is_not_stays() -> None:
    def misted(ml_day: float) -> Design:
        ground = LOW.substrate.model_copy(update={"misting_ml_day": ml_day})
        return LOW.model_copy(update={"substrate": ground})

    assert dry_if_too_damp(misted(0.0), CATALOGUE) == misted(0.0)
    less = dry_if_too_damp(misted(650.0), CATALOGUE)
    assert less.substrate.misting_ml_day < 650.0
    assert dry_if_too_damp(less, CATALOGUE) == less


def test_water_is_held_in_where_the_animal_wants_it_and_the_room_is_not_hot() -> None:
    closed = {"close", "cover"}
    assert closed & changes_of_box(in_room(DAY_GECKO, 25.0, 26.0), CATALOGUE).keys()
    assert not closed & changes_of_box(in_room(DAY_GECKO, 25.0, 33.0), CATALOGUE).keys()
    assert not closed & changes_of_box(in_room(LOW, 28.0, 28.0), CATALOGUE).keys()


@pytest.mark.slow
def test_a_tube_hangs_clear_of_two_lamps_across_and_no_night_is_set_above_its_day() -> None:
    box = home("sudan-plated-lizard", "plywood-120", length_m=1.32, depth_m=0.66, height_m=0.55)
    plans = find_plans(Brief(in_room(box, 20.0, 25.0), CATALOGUE)).plans
    with_both = [plan.design for plan in plans if plan.design.uvb and plan.candidate.layout.count > 1]
    assert with_both
    for design in with_both:
        (tube,) = design.uvb
        for lamp in design.heaters:
            assert abs(tube.y_m - lamp.y_m) >= 0.1 - 1e-9 or abs(tube.z_m - lamp.z_m) >= 0.15
    for plan in plans:
        for control in plan.design.controls:
            by_day, by_night = control.setpoint_c(True, 0.0), control.setpoint_c(False, 0.0)
            assert by_day is None or by_night is None or by_night <= by_day
