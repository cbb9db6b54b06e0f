"""Every kind of change: what it is offered for, that it is made, and that what is said of it then holds everywhere."""

from collections.abc import Callable, Iterator
from typing import Any, get_args

import pytest

from mitten.core.catalogue import read_data, targets_of
from mitten.core.design import Design
from mitten.core.design.amounts import plain
from mitten.core.design.editing import data_of
from mitten.core.judge import assess, read_condition
from mitten.core.plan import ChangeKind, Fix, apply_change
from mitten.core.plan.changing import Change, candidates
from mitten.core.plan.changing.making import SHADED
from mitten.core.plan.fixes import Mending
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.random_designs import random_design
from tests.sweeping import sliced

QUARRY, CANYON, ATTIC, SAND = demo_designs()[:4]
WANTED = targets_of(QUARRY.animal, CATALOGUE.species[QUARRY.animal.species])
EVERY_TARGET = ("uvi", "humidity", "night_c", "cool_air_c", "basking_surface_c")
ELSEWHERE: set[ChangeKind] = {"place", "hide", "day-length"}
"""Kinds that are offered for findings and for the length of the day."""

Edit = Callable[[dict[str, Any]], object]


def edited(design: Design, edit: Edit) -> Design:
    data = data_of(design)
    edit(data)
    return read_data(data, CATALOGUE)


def offered(design: Design, target: str, condition: str = "winter-day") -> list[Change]:
    return [change for change, _ in candidates(design, CATALOGUE, read_condition(design, condition), target)]


def fixes(design: Design, target: str) -> list[Fix]:
    assessment = assess(design, CATALOGUE)
    verdict = next(one for one in assessment.wrong if one.key == target)
    return list(Mending(assessment).fixes_for(verdict))


def with_tube(lamp: str, **changes: Any) -> Edit:
    def edit(data: dict[str, Any]) -> None:
        data["uvb"][0] |= {"lamp": lamp, "uvi_at_30cm": CATALOGUE.uvb[lamp].uvi_at_30cm, **changes}

    return edit


def under_mesh(mesh: str, lamp: str) -> Design:
    def edit(data: dict[str, Any]) -> None:
        data["enclosure"]["lid_mesh"] = {"mesh": mesh}
        with_tube(lamp, above_mesh=True, z_m=QUARRY.enclosure.height_m + 0.02)(data)

    return edited(QUARRY, edit)


def offers() -> Iterator[Change]:
    """What is offered for all kinds of designs, one after the other; those that show the rare kinds come first."""
    yield from offered(under_mesh("mesh-fine", "uvb-tube"), "uvi")
    seeded = (random_design(seed) for seed in range(12))
    for design in (edited(QUARRY, without("uvb")), edited(QUARRY, without("heaters")), *demo_designs(), *seeded):
        for target in EVERY_TARGET:
            for condition in ("winter-day", "winter-night", "summer-day"):
                yield from offered(design, target, condition)


def test_every_kind_is_offered_for_some_design() -> None:
    missing = set(get_args(ChangeKind)) - ELSEWHERE
    for change in offers():
        assert change.kind not in ELSEWHERE
        missing.discard(change.kind)
        if not missing:
            break
    assert missing == set()


def without(*keys: str) -> Edit:
    def edit(data: dict[str, Any]) -> None:
        for key in (*keys, "controls") if "heaters" in keys else keys:
            data[key] = []

    return edit


@pytest.mark.slow
@pytest.mark.parametrize("seed", sliced([545, 526, 559, 600, 634], 5))
def test_what_is_mended_is_right_in_every_season(seed: int) -> None:
    assessment = assess(random_design(seed), CATALOGUE)
    mending = Mending(assessment)
    for verdict in assessment.wrong:
        for fix in mending.fixes_for(verdict):
            change = fix.change
            after = assess(
                apply_change(assessment.design, CATALOGUE, change.kind, change.name, change.value), CATALOGUE
            )
            left = after.missed if verdict.beyond else after.wrong
            assert verdict.key not in {one.key for one in left}, change.words
            assert len(after.stops) <= len(assessment.stops), change.words


def test_a_tube_over_a_dense_mesh_comes_inside_or_gets_another_mesh() -> None:
    inside, mesh = fixes(under_mesh("mesh-dense", "uvb-tube-strong"), "uvi")
    assert plain(inside.change.words) == "Hang UV tube inside, behind a guard, 11 cm below the lid"
    assert plain(mesh.change.words) == "Take a coarse mesh for the lid, 75% open"
    design = apply_change(under_mesh("mesh-dense", "uvb-tube-strong"), CATALOGUE, "mesh", "", mesh.change.value)
    assert design.enclosure.lid_mesh is not None
    assert design.enclosure.lid_mesh.mesh == "mesh-coarse"


def test_a_tube_that_hangs_beside_the_basking_place_is_moved_over_it() -> None:
    (fix,) = fixes(edited(QUARRY, with_tube("uvb-tube", x_m=0.3)), "uvi")
    assert plain(fix.change.words) == "Move UV tube over 'Ledge'"
    assert fix.value > WANTED.bears("uvi")[0]


def test_a_box_without_ultraviolet_gets_a_lamp_that_is_as_wanted() -> None:
    (fix,) = fixes(edited(QUARRY, without("uvb")), "uvi")
    low, high = WANTED.uvi
    assert fix.change.kind == "uv-new"
    assert low <= fix.value <= high
    design = apply_change(edited(QUARRY, without("uvb")), CATALOGUE, "uv-new", fix.change.name, fix.change.value)
    (lamp,) = design.uvb
    assert "uvi" not in {one.key for one in assess(design, CATALOGUE).wrong}
    assert not lamp.above_mesh


def test_a_lamp_high_in_a_tall_box_comes_down_far() -> None:
    def tall(data: dict[str, Any]) -> None:
        data["enclosure"]["height_m"] = 1.2
        data["uvb"][0]["z_m"] = 1.15

    found = {fix.change.kind: fix for fix in fixes(edited(QUARRY, tall), "uvi")}
    assert found["uv-height"].change.step == -0.45


def test_a_box_without_heat_gets_a_lamp_that_is_as_wanted() -> None:
    (fix,) = fixes(edited(QUARRY, without("heaters")), "basking_surface_c")
    assert fix.change.kind == "day-lamp"
    low, high = WANTED.basking_surface_c
    assert low <= fix.value <= high
    with pytest.raises(ValueError, match="None is sold"):
        apply_change(QUARRY, CATALOGUE, "day-lamp", "", 61.0)


def test_a_lamp_that_is_too_hot_in_summer_alone_gets_a_thermostat() -> None:
    (fix,) = fixes(ATTIC, "basking_surface_c")
    assert fix.change.kind == "thermostat"
    design = apply_change(ATTIC, CATALOGUE, "thermostat", fix.change.name, fix.change.value)
    (lamp,) = design.heaters
    control = design.control_of(lamp)
    assert control is not None
    assert control.is_thermostat
    assert control.day_c == fix.change.value
    with pytest.raises(ValueError, match="has a control"):
        apply_change(design, CATALOGUE, "thermostat", fix.change.name, fix.change.value)


def test_one_season_is_set_while_the_other_stays() -> None:
    name = SAND.controls[0].name
    before = SAND.controls[0]
    summer = apply_change(SAND, CATALOGUE, "setpoint", f"{name}:summer.day", 27.0).controls[0]
    assert (summer.day_c, summer.setpoint_c(True, 1.0)) == (before.day_c, 27.0)
    winter = apply_change(SAND, CATALOGUE, "setpoint", f"{name}:winter.day", 29.0).controls[0]
    assert (winter.day_c, winter.setpoint_c(True, 1.0)) == (29.0, before.setpoint_c(True, 1.0))


def test_thermostats_are_set_in_half_degrees() -> None:
    def odd(data: dict[str, Any]) -> None:
        data["controls"][0]["day_c"] = 30.23

    for change in offered(edited(SAND, odd), "cool_air_c"):
        if change.kind == "setpoint":
            assert change.value * 2 == int(change.value * 2)


def on_a_thermostat(probe: dict[str, Any]) -> Design:
    def edit(data: dict[str, Any]) -> None:
        control = {"name": "Thermostat", "kind": "dimming", "day_c": 30.0, "probe": probe, "max_watts": 300.0}
        data["controls"] = [control]
        data["heaters"][0]["control"] = "Thermostat"

    return edited(QUARRY, edit)


def test_a_probe_in_the_beam_is_shaded_or_put_where_it_belongs() -> None:
    design = on_a_thermostat({"x_m": 0.5, "y_m": 0.3, "z_m": 0.2, "reads": "air", "shaded": False})
    probes = {plain(change.words): change.value for change in offered(design, "cool_air_c") if change.kind == "probe"}
    assert probes.pop("Shade the probe of Thermostat") == SHADED
    assert set(probes) == {
        "Put the probe of Thermostat in the air beside 'Ledge'",
        "Put the probe of Thermostat on 'Ledge', covered",
        "Put the probe of Thermostat in the air of the middle",
    }
    shaded = apply_change(design, CATALOGUE, "probe", "Thermostat", SHADED).controls[0].probe
    assert shaded is not None
    assert shaded.shaded
    assert (shaded.x_m, shaded.z_m) == (0.5, 0.2)
    there = apply_change(design, CATALOGUE, "probe", "Thermostat", 0.0)
    here = {plain(change.words) for change in offered(there, "cool_air_c") if change.kind == "probe"}
    assert here == set(probes) - {"Put the probe of Thermostat in the air beside 'Ledge'"}


def test_a_lamp_goes_away_from_the_cool_end_where_that_is_wrong() -> None:
    lamp = QUARRY.heaters[0]
    away = [change for change in offered(QUARRY, "cool_air_c") if change.kind == "along"]
    assert [round(change.value - lamp.x_m, 2) for change in away] == [0.05, 0.1, 0.2]
    assert not [change for change in offered(QUARRY, "basking_surface_c") if change.kind == "along"]


def test_a_mesh_over_the_whole_lid_is_closed_over_the_cool_end() -> None:
    covers = [change for change in offered(CANYON, "humidity") if change.kind == "cover"]
    assert [plain(change.words) for change in covers] == [
        "Lay a board over half of the mesh, at the cool end",
        "Lay a board over 70 % of the mesh, at the cool end",
    ]
    mesh = apply_change(CANYON, CATALOGUE, "cover", "", 0.5).enclosure.lid_mesh
    assert mesh is not None
    assert mesh.length_m == pytest.approx(0.45)
    with pytest.raises(ValueError, match="no mesh"):
        apply_change(QUARRY, CATALOGUE, "cover", "", 0.5)


def test_a_first_dish_is_put_in_and_one_that_is_there_is_moved() -> None:
    dry = edited(QUARRY, lambda data: data.update(sites=[s for s in data["sites"] if s["role"] != "water"]))
    dishes = [change for change in offered(dry, "humidity") if change.kind in ("dish", "new-dish")]
    assert {change.kind for change in dishes} == {"new-dish"}
    for change in dishes:
        wet = apply_change(dry, CATALOGUE, change.kind, change.name, change.value)
        assert [site.role for site in wet.sites].count("water") == 1
        assert "new-dish" not in {one.kind for one in offered(wet, "humidity")}


def test_a_setting_is_said_to_be_of_the_season_that_it_is_of() -> None:
    def split(data: dict[str, Any]) -> None:
        data["controls"][0]["summer"] = {"day_c": 28.0}

    def settings(design: Design, condition: str) -> set[str]:
        changes = [one for one in offered(design, "cool_air_c", condition) if one.kind == "setpoint"]
        return {" ".join(plain(one.words).split()[4:]) + one.name.rpartition(":")[2] for one in changes}

    assert settings(SAND, "winter-day") == {"°Cday", "°C in winterwinter.day"}
    assert settings(edited(SAND, split), "winter-day") == {"°C in winterwinter.day"}
    assert settings(edited(SAND, split), "summer-day") == {"°C in summersummer.day"}
    assert settings(edited(SAND, split), "usual-day") == set()
