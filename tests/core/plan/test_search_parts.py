"""The search's parts: layouts that fit, prices that add up, wishes, probes, controls and changes of the box."""

import json
from dataclasses import replace
from types import SimpleNamespace
from typing import cast

import numpy as np
import pytest

from mitten.core.catalogue import load_presets, read_checked_design
from mitten.core.design import Design
from mitten.core.judge import Condition, assess, read_condition
from mitten.core.judge.targets import TargetVerdict, Unit
from mitten.core.plan.search import Brief, Owned, Plan, placeholder_prices, purchase_price
from mitten.core.plan.search.nearest import shifts_k
from mitten.core.plan.search.screening.extras import NO_MAT, NOTHING, SAME, Ultraviolet
from mitten.core.plan.search.screening.layouts import FAR_UNDER_A_MESH_M, layouts_of
from mitten.core.plan.search.screening.probing import (
    LEAST_LIT_M,
    beside_the_basking_place,
    day_lights,
    in_the_middle,
    towards_the_middle,
)
from mitten.core.plan.search.screening.screen import candidates, screen
from mitten.core.plan.search.screening.spending import control_type, demands_of_helpers, spending_of
from mitten.core.plan.search.solving.build import build, with_setpoint
from mitten.core.plan.search.wants.boxes import changes_of_box
from mitten.core.plan.search.wants.brief import work_of
from mitten.core.plan.search.wants.furnish import furnish
from mitten.core.plan.search.wants.wishes import Wishes
from mitten.core.plan.usual import lies_at_m
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE

QUARRY, CANYON, ATTIC, TUB, TABLE, COAST = demo_designs()
DESIGNS = pytest.mark.parametrize("design", demo_designs(), ids=lambda design: design.name)


def with_box(design: Design, key: str) -> Design:
    data = design.model_dump(mode="json", exclude_none=True)
    data["enclosure"] = load_presets().boxes[key].enclosure.model_dump(mode="json", exclude_none=True)
    data |= {"sites": [], "heaters": [], "controls": [], "lights": [], "uvb": []}
    return read_checked_design(json.dumps(data), CATALOGUE)


@DESIGNS
def test_every_layout_fits_its_enclosure_and_its_fixture(design: Design) -> None:
    bare = next(furnish(design, CATALOGUE)).design
    for kind in CATALOGUE.sources:
        for layout in layouts_of(bare, CATALOGUE, kind):
            data = bare.model_dump(mode="json", exclude_none=True)
            data["heaters"] = [{**one, "name": f"h{i}"} for i, one in enumerate(layout.heaters)]
            placed = read_checked_design(json.dumps(data), CATALOGUE)
            assert len(placed.heaters) == layout.count <= 3
            for heater in placed.heaters:
                assert max(layout.watts_sold) <= (heater.fixture.max_watts or 1000.0)


def test_lamps_hang_over_a_mesh_and_below_it_only_where_that_is_far() -> None:
    near, far = (
        next(furnish(CANYON, CATALOGUE)).design,
        next(furnish(with_box(CANYON, "tall-glass-60"), CATALOGUE)).design,
    )
    assert all(
        heater["above_mesh"] for layout in layouts_of(near, CATALOGUE, "halogen-flood") for heater in layout.heaters
    )
    assert far.enclosure.height_m - lies_at_m(far) > FAR_UNDER_A_MESH_M
    hung = {heater["above_mesh"] for layout in layouts_of(far, CATALOGUE, "halogen-flood") for heater in layout.heaters}
    assert hung == {True, False}


def test_panels_need_a_ceiling_and_mats_a_floor_that_lets_heat_through() -> None:
    assert not list(layouts_of(next(furnish(CANYON, CATALOGUE)).design, CATALOGUE, "radiant-panel"))
    assert not list(layouts_of(next(furnish(TABLE, CATALOGUE)).design, CATALOGUE, "radiant-panel"))
    assert list(layouts_of(next(furnish(COAST, CATALOGUE)).design, CATALOGUE, "radiant-panel"))
    insulated = COAST.enclosure.model_copy(
        update={"underside": COAST.enclosure.underside.model_copy(update={"insulated": True})}
    )
    assert not list(layouts_of(COAST.model_copy(update={"enclosure": insulated}), CATALOGUE, "heat-mat"))


def test_every_kind_that_can_be_bought_has_a_placeholder_price() -> None:
    catalogue, prices = CATALOGUE, placeholder_prices()
    kinds = {control.kind for control in catalogue.controls.values()}
    assert set(catalogue.sources) | set(catalogue.uvb) | set(catalogue.fixtures) | kinds <= set(prices)


@pytest.mark.slow
@pytest.mark.parametrize("owned", [(), (Owned("ceramic-emitter", 100.0), Owned("uvb-tube", 14.0))])
def test_the_price_that_is_screened_is_that_of_the_design_that_is_built(owned: tuple[Owned, ...]) -> None:
    brief = Brief(COAST, CATALOGUE, owned=owned)
    box = screen(brief, next(furnish(COAST, CATALOGUE)))
    for kind in ("ceramic-emitter", "halogen-flood", "radiant-panel"):
        one = candidates(brief, box, kind)[0]
        others = demands_of_helpers(brief, one.furnished.design, [one.night], [one.mat], [one.ultraviolet])
        asked = spending_of(brief, one.layout, np.array([one.watts]), one.held, [one.night], 1, others)
        design = build(one, "Plan", CATALOGUE)
        assert float(asked.price[0, 0, 0, 0]) == pytest.approx(purchase_price(design, brief))
        kinds = [(heater.kind, heater.watts) for heater in design.heaters]
        missing = sum((Owned(*kind) not in owned) for kind in kinds) + len(design.uvb)
        assert int(asked.bought[0, 0, 0, 0]) == missing


def test_owning_one_of_two_lamps_buys_the_other() -> None:
    layout = next(
        one for one in layouts_of(next(furnish(COAST, CATALOGUE)).design, CATALOGUE, "halogen-flood") if one.count == 2
    )
    brief = Brief(COAST, CATALOGUE, owned=(Owned("halogen-flood", 50.0),), only_owned=True)
    others = demands_of_helpers(brief, COAST, [NOTHING], [NO_MAT], [Ultraviolet()])
    asked = spending_of(brief, layout, np.array([50.0, 75.0]), True, [NOTHING, SAME], 1, others)
    assert asked.bought[:, 0, 0, 0].tolist() == [1.0, 2.0]
    assert not asked.allowed(brief).any()
    assert asked.allowed(replace(brief, purchases=1))[:, 0, 0, 0].tolist() == [True, False]
    assert asked.price[0, 0, 0, 0] < asked.price[1, 0, 0, 0]


@pytest.mark.parametrize(
    ("kind", "load_w", "control"),
    [("heat-mat", 28.0, "on-off"), ("ceramic-emitter", 100.0, "pulse"), ("carbon-projector", 80.0, "dimming"),
     ("halogen-flood", 150.0, "dimming"), ("radiant-panel", 120.0, "dimming")],
)  # fmt: skip
def test_each_kind_gets_the_control_that_suits_it(kind: str, load_w: float, control: str) -> None:
    assert control_type(CATALOGUE.sources[kind], load_w, CATALOGUE).kind == control


def test_a_heavy_load_gets_a_control_that_bears_it() -> None:
    flood = CATALOGUE.sources["halogen-flood"]
    assert (
        control_type(flood, 450.0, CATALOGUE).usual_max_watts
        > control_type(flood, 100.0, CATALOGUE).usual_max_watts
        >= 100.0
    )


def test_a_probe_lies_beside_the_basking_place_towards_the_middle_and_not_on_it() -> None:
    probe, site = beside_the_basking_place(QUARRY), QUARRY.sites[0]
    assert probe["x_m"] < site.x_m - site.length_m / 2
    assert probe["shaded"]
    assert in_the_middle(QUARRY)["x_m"] == pytest.approx(QUARRY.enclosure.length_m / 2)
    assert towards_the_middle(QUARRY, 0.62, 0.5) == pytest.approx(0.6)
    assert towards_the_middle(QUARRY, 0.2, 0.1) == pytest.approx(0.3)


def test_a_plain_light_is_as_strong_as_the_box_is_long_and_left_out_of_a_tub() -> None:
    (light,) = day_lights(QUARRY)
    assert light["watts"] == 12.0
    low = with_box(TUB, "tub-80")
    assert low.enclosure.height_m - low.substrate.depth_m < LEAST_LIT_M
    assert day_lights(low) == []


def test_wishes_are_surest_in_the_middle_and_sink_with_distance() -> None:
    wishes = Wishes.of(COAST, CATALOGUE)
    high = wishes.targets.uvi[1]
    chances = wishes.uv_chance(np.array([high / 2, high + 1.0, high + 5.0]))
    assert chances[0] > chances[1] > chances[2]
    cold = wishes.night_chance(np.array([0.0, 3.0, 6.0]), held=True)
    assert cold[0] <= cold[1] <= cold[2]
    assert wishes.targets.night_c[0] < wishes.night_aim_c <= sum(wishes.targets.night_c) / 2


def test_a_source_over_the_basking_place_that_holds_a_cold_night_is_seen_to_burn_it() -> None:
    wishes = Wishes.of(COAST, CATALOGUE)
    hot = wishes.basking_at_night_c(np.array([60.0]), np.array([3.0]))
    mild = wishes.basking_at_night_c(np.array([10.0]), np.array([6.0]))
    assert hot[0] > wishes.targets.danger_contact_c > mild[0]


def test_lamps_that_do_the_same_work_are_alike() -> None:
    assert work_of("halogen-flood", CATALOGUE) == work_of("incandescent-reflector", CATALOGUE) == "filament"
    assert work_of("mercury-vapour", CATALOGUE) != work_of("ceramic-emitter", CATALOGUE)


def test_a_setpoint_is_put_where_it_belongs() -> None:
    changed = with_setpoint(COAST, CATALOGUE, "Pulse", {"night_c": 20.5})
    assert changed.controls[0].night_c == 20.5
    assert changed.controls[0].day_c == COAST.controls[0].day_c


def test_a_low_box_on_loose_ground_is_offered_ground_that_lets_a_mat_through() -> None:
    deep = with_box(TUB, "tub-80")
    deep = deep.model_copy(update={"substrate": deep.substrate.model_copy(update={"depth_mm": 100.0})})
    thin = changes_of_box(deep, CATALOGUE)["thin"]
    assert "1.5 cm" in thin.words
    assert thin.design.substrate.depth_mm < deep.substrate.depth_mm
    assert "thin" not in changes_of_box(thin.design, CATALOGUE)
    assert "thin" not in changes_of_box(QUARRY, CATALOGUE), "under a lamp the ground is as deep as it likes"


def test_a_cold_room_calls_for_what_holds_the_warmth_and_a_warm_one_for_what_lets_it_out() -> None:
    cold, warm = (in_a_room(CANYON, winter_c) for winter_c in (15.0, 27.0))
    assert set(changes_of_box(cold, CATALOGUE)) == {"cover", "cover and insulate"}
    assert set(changes_of_box(warm, CATALOGUE)) <= {"open"}
    assert set(changes_of_box(in_a_room(QUARRY, 12.0), CATALOGUE)) == {"insulate", "insulate and close"}
    covered = changes_of_box(cold, CATALOGUE)["cover"].design.enclosure.lid_mesh
    assert covered is not None
    assert covered.length_m == pytest.approx(CANYON.enclosure.length_m / 2)
    assert (covered.x_m or 0.0) > CANYON.enclosure.length_m / 2, "the lamp's end stays open"
    assert all(change.design != cold for change in changes_of_box(cold, CATALOGUE).values())


def in_a_room(design: Design, winter_c: float) -> Design:
    winter = design.room.winter.model_copy(update={"day_c": winter_c})
    return design.model_copy(update={"room": design.room.model_copy(update={"winter": winter})})


def test_the_room_is_asked_for_as_much_as_the_worst_of_each_time_is_beyond() -> None:
    """Too cold asks for more, too warm for less, in whole kelvin; humidity and usual days ask nothing of the room."""
    assessment = assess(ATTIC, CATALOGUE)
    night, day = (read_condition(ATTIC, name) for name in ("winter-night", "summer-day"))
    usual, one = next(iter(assessment.usual)), assessment.verdicts[0]

    def missing(condition: Condition, beyond: float, unit: Unit = "°C") -> TargetVerdict:
        return replace(one, condition=condition, beyond=beyond, unit=unit)

    missed = [
        missing(night, -0.4), missing(night, -2.1), missing(night, -1.0), missing(day, 1.2), missing(usual, -9.0),
        missing(day, 30.0, "%"),
    ]  # fmt: skip
    plan = cast("Plan", SimpleNamespace(assessment=SimpleNamespace(missed=missed)))
    assert shifts_k(plan) == {"winter-night": 3, "summer-day": -2}
