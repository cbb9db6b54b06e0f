"""Fixes: each mends what it says by what it says, and nothing else is spoiled."""

from dataclasses import replace
from types import SimpleNamespace
from typing import Any, cast

import pytest

from mitten.core.design import BadDesignError, Design
from mitten.core.design.amounts import plain
from mitten.core.judge import Assessment, TargetVerdict, assess, read_condition
from mitten.core.judge.finding import Finding
from mitten.core.plan import apply_change, fixes_for
from mitten.core.plan.changing import candidates
from mitten.core.plan.fixes import _is_better
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import box_data, ledge_data, mat_data, read
from tests.random_designs import random_design

QUARRY, CANYON = demo_designs()[:2]


def missed(design: Design, key: str) -> tuple[Assessment, TargetVerdict]:
    assessment = assess(design, CATALOGUE)
    return assessment, next(verdict for verdict in assessment.missed if verdict.key == key)


def too_weak() -> Design:
    """The quarry with its lamp hung too high."""
    return apply_change(
        apply_change(QUARRY, CATALOGUE, "height", "Main lamp", 0.59),
        CATALOGUE,
        "watts",
        "Main lamp",
        42.0,
    )


@pytest.mark.parametrize(
    ("missed_after", "usually_off_after", "stops_after", "better"),
    [
        (1, 2, 1, True), (2, 1, 1, True), (2, 2, 1, False), (2, 2, 0, False),
        (1, 2, 2, False), (1, 1, 2, False), (3, 1, 1, False), (0, 0, 0, True),
    ],
)  # fmt: skip
def test_a_change_is_better_where_less_is_wrong_and_nothing_is_spoiled(
    missed_after: int, usually_off_after: int, stops_after: int, better: bool
) -> None:
    """Two targets missed, two usually off and one danger before."""

    def judged(*counts: int) -> Assessment:
        lists: dict[str, Any] = dict(
            zip(("missed", "usually_off"), ([None] * count for count in counts[:2]), strict=True)
        )
        stops = tuple(Finding(f"rule-{number}", "stop", "", "", "", "") for number in range(counts[2]))
        return cast("Assessment", SimpleNamespace(**lists, stops=stops, findings=stops))

    assert _is_better(judged(2, 2, 1), judged(missed_after, usually_off_after, stops_after)) is better


@pytest.mark.slow
def test_a_fix_does_what_it_says() -> None:
    assessment, verdict = missed(too_weak(), "basking_surface_c")
    fixes = fixes_for(assessment, verdict)
    assert 1 <= len(fixes) <= 3
    for fix in fixes:
        design = apply_change(assessment.design, CATALOGUE, fix.change.kind, fix.change.name, fix.change.value)
        after = next(v for v in assess(design, CATALOGUE).verdicts if v.key == verdict.key)
        assert after.by_condition[verdict.condition.name] == pytest.approx(fix.value, abs=0.1)
        assert verdict.bearable[0] - 0.05 <= fix.value <= verdict.bearable[1] + 0.05


def test_fixes_are_of_different_kinds_and_the_least_comes_first() -> None:
    fixes = fixes_for(*missed(too_weak(), "basking_surface_c"))
    kinds = [fix.change.kind for fix in fixes]
    assert len(set(kinds)) == len(kinds)
    assert [fix.change.effort for fix in fixes] == sorted(fix.change.effort for fix in fixes)
    assert fixes[0].change.words.startswith("Lower Main lamp")


def test_a_source_for_the_night_hangs_on_a_thermostat_and_is_one_that_is_sold() -> None:
    design = apply_change(CANYON, CATALOGUE, "night-source", "", 60.0)
    (added,) = (heater for heater in design.heaters if heater.on == "night")
    control = design.control_of(added)
    assert control is not None
    assert control.is_thermostat
    colder, warmer = (assess(one, CATALOGUE).climate("winter-night").air.cool_c for one in (CANYON, design))
    assert warmer > colder + 1
    with pytest.raises(ValueError, match="None is sold"):
        apply_change(CANYON, CATALOGUE, "night-source", "", 61.0)


def test_a_source_that_cannot_hold_what_it_would_be_set_to_is_not_offered() -> None:
    """In the open canyon no emitter holds the night that is wanted: a warmer room is what helps."""
    fixes = fixes_for(*missed(CANYON, "night_c"))
    assert [fix.change.kind for fix in fixes] == ["room"]
    assert plain(fixes[0].change.words) == "Warm the room 2 K on a winter night"


def test_what_heats_by_night_already_is_joined_by_no_other() -> None:
    design = apply_change(CANYON, CATALOGUE, "night-source", "", 60.0)
    for fix in fixes_for(*missed(design, "night_c")):
        assert fix.change.kind != "night-source"


def test_a_thermostat_is_set_anew() -> None:
    data = mat_data(10.0, {"reads": "heater"}, 30.0)
    data["animal"]["targets"] = {"basking_surface_c": [27.0, 29.0], "bearable": {"basking_surface_c": [26.5, 29.5]}}
    fixes = fixes_for(*missed(read(data), "basking_surface_c"))
    assert "setpoint" in {fix.change.kind for fix in fixes}


def test_no_fix_goes_beyond_the_fixtures_rating() -> None:
    data = ledge_data(watts=42.0, z_m=0.58, fixture={"kind": "guarded-socket", "max_watts": 60.0})
    fixes = fixes_for(*missed(read(data), "basking_surface_c"))
    assert all(fix.change.value <= 60.0 for fix in fixes if fix.change.kind == "watts")


def test_no_fix_makes_a_new_danger() -> None:
    """A lamp that would burn in summer is not offered for the winter."""
    data = ledge_data(watts=42.0, z_m=0.5)
    data["room"] = {"winter": {"day_c": 10.0, "night_c": 10.0}, "summer": {"day_c": 31.0, "night_c": 25.0}}
    assessment, verdict = missed(read(data), "basking_surface_c")
    for fix in fixes_for(assessment, verdict):
        after = assess(
            apply_change(assessment.design, CATALOGUE, fix.change.kind, fix.change.name, fix.change.value),
            CATALOGUE,
        )
        assert len(after.stops) <= len(assessment.stops)
        assert len(after.missed) < len(assessment.missed)


def test_a_change_that_does_not_fit_is_refused() -> None:
    with pytest.raises(BadDesignError):
        apply_change(QUARRY, CATALOGUE, "height", "Main lamp", 2.0)
    with pytest.raises(KeyError):
        apply_change(read(box_data()), CATALOGUE, "watts", "Nobody", 50.0)


@pytest.mark.parametrize(("hours", "end"), [(2.0, 0), (20.0, 1)])
def test_a_day_that_is_too_short_or_too_long_is_made_as_long_as_is_wanted(hours: float, end: int) -> None:
    data = QUARRY.model_dump(mode="json", exclude_none=True)
    data["schedule"] = {"day_start": "08:00", "day_hours": hours}
    assessment, verdict = missed(read(data), "day_hours")
    (fix,) = fixes_for(assessment, verdict)
    assert fix.value == verdict.wanted[end]
    design = apply_change(assessment.design, CATALOGUE, fix.change.kind, fix.change.name, fix.change.value)
    assert design.day_hours == fix.value
    assert assess(design, CATALOGUE).missed == ()


def test_no_change_is_offered_that_changes_nothing() -> None:
    # A keeper's own copy of every tube, and as strong.
    twice = replace(CATALOGUE, uvb={**CATALOGUE.uvb, **{f"own-{key}": kind for key, kind in CATALOGUE.uvb.items()}})
    for design in (*demo_designs(), *(random_design(seed) for seed in range(20))):
        for target in ("uvi", "humidity", "night_c", "basking_surface_c"):
            for change, changed in candidates(design, twice, read_condition(design, "winter-night"), target):
                assert change.step, change.words
                assert changed != design, change.words


def test_a_dish_under_the_lamp_is_not_put_there_again() -> None:
    data = mat_data()
    data["sites"] = [
        *data.get("sites", []),
        {"name": "Dish", "role": "water", "material": "tile", "x_m": 0.1, "y_m": 0.1, "length_m": 0.12, "depth_m": 0.1,
         "thickness_mm": 30.0},
    ]  # fmt: skip
    design = read(data)

    def puttings(design: Design) -> list[Design]:
        offered = candidates(design, CATALOGUE, read_condition(design, "winter-day"), "humidity")
        return [changed for change, changed in offered if change.kind == "dish" and "under the lamp" in change.words]

    (there,) = puttings(design)
    assert there.sites[-1].x_m != design.sites[-1].x_m
    assert puttings(there) == []


def test_a_weak_tube_is_mended_by_a_stronger_one_and_not_by_a_copy_of_itself() -> None:
    data = QUARRY.model_dump(mode="json", exclude_none=True)
    data["uvb"][0] = {**data["uvb"][0], "lamp": "uvb-tube-gentle"}
    data["uvb"][0].pop("uvi_at_30cm", None)
    gentle = CATALOGUE.uvb["uvb-tube-gentle"]
    own = replace(CATALOGUE, uvb={"own": gentle.model_copy(update={"label": "tube of my own"}), **CATALOGUE.uvb})
    assessment = assess(read(data), own)
    verdict = next(one for one in assessment.missed if one.key == "uvi")
    (lamp,) = (fix for fix in fixes_for(assessment, verdict) if fix.change.kind == "uv-lamp")
    assert "of my own" not in lamp.change.words
    assert lamp.value >= verdict.bearable[0]
