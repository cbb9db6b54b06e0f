"""What makes failures harmless: weaker sources, a cut-out, and what keeps the heat in a cut."""

from functools import cache
from types import SimpleNamespace
from typing import Any

import pytest

from mitten.core.design import FACES, Design
from mitten.core.judge.days import Failure, of_season
from mitten.core.judge.outcomes import outcome_of
from mitten.core.judge.outlooks import everything_that_fails, outlook
from mitten.core.plan import failsafe
from mitten.core.plan.failsafe import (
    Bottle,
    CutOut,
    Help,
    _where_a_bottle_lies,
    cut_out,
    done_about_cold,
    in_a_cut,
    survivable,
    without_cut_outs,
)
from mitten.core.plan.setpoints import cut_out_setting_c
from mitten.demo import demo_designs
from mitten.web.views.check import _of_wattage
from tests.catalogue import CATALOGUE
from tests.designs import lamp, ledge_data, mat_data, read
from tests.random_designs import random_design

TUB = demo_designs()[3]


BESIDE = {"reads": "heater"}
MAT = read(mat_data(probe=BESIDE))
"""A mat that burns when it sticks on."""


@pytest.mark.slow
def test_the_largest_wattage_that_may_stick_is_the_last_without_danger() -> None:
    found = survivable(MAT, CATALOGUE, "Thermostat")
    assert found is not None
    tried = dict(found.tried)
    assert (found.heater, found.now_w, found.largest_w) == ("Mat", 16.0, 11.0)
    assert tried[11.0] is None
    through = of_season(MAT, CATALOGUE, "summer")
    day = through.moving.repeating_day(through.happening)
    assert outcome_of(through, day, Failure("stuck-on", "Thermostat")).first_danger_min == tried[16.0]


@cache
def cut_out_of_the_mat() -> CutOut | None:
    return cut_out(MAT, CATALOGUE, "Thermostat")


@pytest.mark.slow
def test_a_cut_out_stays_out_of_the_way_and_ends_the_danger() -> None:
    found = cut_out_of_the_mat()
    assert found is not None
    assert found.set_c == cut_out_setting_c(MAT.controls[0]), "the one figure, wherever a cut-out is spoken of"
    assert found.without.minutes_to_danger[1][1] is not None
    assert all(after is None for _, after in found.with_it.minutes_to_danger)
    assert found.with_it.hottest_c < found.without.hottest_c - 5
    assert cut_out(MAT, CATALOGUE, "Nobody") is None
    assert survivable(MAT, CATALOGUE, "Nobody") is None


@pytest.mark.parametrize(("least_that_harms_w", "largest_w"), [(90.0, 75.0), (1000.0, 150.0), (1.0, None)])
def test_wattages_are_those_of_the_largest_source_that_a_control_holds(
    monkeypatch: pytest.MonkeyPatch, least_that_harms_w: float, largest_w: float | None
) -> None:
    def stuck(design: Design, *_: object) -> SimpleNamespace:
        watts = max(one.watts for one in design.heaters if one.control == "T")
        return SimpleNamespace(first_danger_min=30.0 if watts >= least_that_harms_w else None)

    monkeypatch.setattr(failsafe, "_stuck", stuck)
    data = ledge_data(watts=50.0, control="T", name="Weak")
    data["heaters"] += [lamp(name="Strong", watts=100.0, x_m=0.6, control="T"), lamp(name="Free", x_m=0.2)]
    data["controls"] = [{"name": "T", "kind": "pulse", "day_c": 30.0, "probe": {"x_m": 0.75, "y_m": 0.3, "z_m": 0.3}}]
    found = survivable(read(data), CATALOGUE, "T")
    assert found is not None
    assert (found.heater, found.now_w) == ("Strong", 100.0)
    sold = sorted(CATALOGUE.sources["halogen-flood"].watts_sold)
    assert found.largest_w == max((watts for watts in sold if watts < least_that_harms_w), default=None)
    assert found.largest_w == largest_w
    assert len(found.tried) <= 4, "they are halved"


@pytest.mark.parametrize(("changes", "set_c"), [
    ({"day_c": 32.0, "night_c": None, "band_k": 1.0}, 35.5), ({"day_c": 30.0, "night_c": 32.2, "band_k": 2.0}, 36.5),
    ({"day_c": 30.0, "summer": {"day_c": 34.0}, "band_k": 0.4}, 37.5),
])  # fmt: skip
def test_a_cut_out_is_three_kelvin_above_the_highest_setpoint_and_its_swing_everywhere(
    changes: dict[str, Any], set_c: float
) -> None:
    control = read(
        {**mat_data(probe=BESIDE), "controls": [{**mat_data(probe=BESIDE)["controls"][0], **changes}]}
    ).controls[0]
    assert cut_out_setting_c(control) == set_c


@pytest.mark.slow
def test_a_cut_out_acts_by_its_own_probe_where_the_first_one_has_fallen_out() -> None:
    found = cut_out_of_the_mat()
    assert found is not None
    through = of_season(MAT, CATALOGUE, "summer")
    day = through.moving.repeating_day(through.happening)
    without = outcome_of(through, day, Failure("probe-out", "Thermostat"))
    assert without.first_danger_min is not None
    assert all(after is None for _, after in found.probe_out.minutes_to_danger)
    assert found.probe_out.hottest_c < without.hottest.celsius - 5


@pytest.mark.slow
def test_what_may_stick_counts_on_no_cut_out_and_passes_no_rating() -> None:
    """A ceramic behind a cut-out in a socket for 150 W, which was said to be harmless up to 250 W."""
    emitter = lamp(kind="ceramic-emitter", watts=100.0, x_m=0.9, z_m=0.4, control="T")
    data = {**ledge_data(), "heaters": [emitter]}
    probe = {"x_m": 0.7, "y_m": 0.3, "z_m": 0.2, "shaded": True}
    data["controls"] = [
        {"name": "T", "kind": "pulse", "day_c": 28.0, "cut_out_c": 33.0, "max_watts": 300, "probe": probe}
    ]
    design = read(data)
    found = survivable(design, CATALOGUE, "T")
    bare = survivable(without_cut_outs(design), CATALOGUE, "T")
    assert found is not None
    assert bare is not None
    assert (found.largest_w, found.tried) == (bare.largest_w, bare.tried)
    assert found.relies_on_cut_out
    assert found.rating_w == 150.0
    assert max(watts for watts, _ in found.tried) <= 150.0
    said = _of_wattage(found, CATALOGUE).words
    assert "cut-out was taken to fail too" in said
    assert "150 W" in said


def test_a_blanket_leaves_the_floor_and_a_cover_shuts_what_is_open() -> None:
    data = mat_data()
    data["enclosure"] |= {"vents": [{"face": "left", "area_cm2": 20.0, "z_m": 0.1}], "fan_l_s": 1.0}
    usual = of_season(read(data), CATALOGUE, "winter")
    wrapped, covered = (done_about_cold(usual, key).moving for key in ("blanket", "cover"))
    assert done_about_cold(usual, "bottle") is usual
    assert {face for face, _ in wrapped.day.situation.wrapped} == set(FACES) - {"floor", "top"}
    assert wrapped.night.situation.wrapped == wrapped.day.situation.wrapped
    assert [film for _, film in wrapped.day.situation.wrapped] == pytest.approx([1 / (1 / 8.0 + 0.02 / 0.04)] * 4)
    assert wrapped.design == usual.moving.design
    assert (covered.design.enclosure.vents, covered.design.enclosure.fan_l_s) == ((), 0.0)
    assert covered.day.situation.wrapped == ()
    assert covered.catalogue.meshes["mesh-standard"].open_share == 0.03


@pytest.fixture(scope="module")
def helps() -> dict[str, Help]:
    return {key: in_a_cut(MAT, CATALOGUE, key) for key in ("", "blanket", "bottle", "everything")}


@pytest.mark.slow
def test_whatever_is_done_in_a_cut_keeps_the_box_warmer_and_all_of_it_most(helps: dict[str, Help]) -> None:
    hours = {key: 99.0 if one.hours is None else one.hours for key, one in helps.items()}
    assert hours[""] < hours["blanket"] <= hours["everything"]
    assert hours[""] < hours["bottle"] <= hours["everything"]
    assert helps[""].coldest_c < helps["everything"].coldest_c


@pytest.mark.parametrize("litres", [0.5, 1.5, 5.0])
def test_a_bottle_gives_what_it_holds(litres: float) -> None:
    """Energy of the lump: power at first times its time constant is its heat above the air."""
    bottle = Bottle(litres, 55.0)
    assert bottle.gives_w(22.0) * bottle.lag_min * 60 == pytest.approx(litres * 4180 * 33)
    assert bottle.gives_w(60.0) == 0.0


@pytest.mark.parametrize("seed", range(5000, 5040))
def test_a_bottle_lies_in_nothing_that_stands_in_the_box(seed: int) -> None:
    """Inside a roof or a slab its heat would come from nowhere, and no rest would be found."""
    design = random_design(seed)
    x_m, y_m, z_m = _where_a_bottle_lies(design)
    box, ground_m = design.enclosure, design.substrate.depth_m
    assert 0 < x_m < box.length_m
    assert ground_m < z_m < box.height_m
    for site in design.sites:
        over = abs(x_m - site.x_m) <= site.length_m / 2 and abs(y_m - site.y_m) <= site.depth_m / 2
        assert not over or not site.underside_m(ground_m) <= z_m < site.top_m(ground_m) + 0.02


@pytest.mark.slow
def test_a_bottle_lies_on_the_hide_that_stands_in_the_warmth() -> None:
    design = random_design(5005)
    assert _where_a_bottle_lies(design) == pytest.approx((0.44, 0.175, 0.18))
    nothing, bottle = (in_a_cut(design, CATALOGUE, key) for key in ("", "bottle"))
    assert bottle.hours is not None
    assert nothing.hours is not None
    assert bottle.hours > nothing.hours + 0.5


@pytest.mark.slow
def test_a_larger_bottle_cools_slower_and_keeps_the_box_warmer() -> None:
    assert Bottle(6.0).lag_min == pytest.approx(1.587 * Bottle(1.5).lag_min, rel=1e-3), "as the cube root of volume"
    small, large = (in_a_cut(MAT, CATALOGUE, "bottle", Bottle(litres)) for litres in (0.5, 6.0))
    assert small.coldest_c < large.coldest_c


@pytest.mark.slow
def test_failures_of_all_seasons_begin_with_the_one_that_is_shown() -> None:
    order = [season for season, _ in everything_that_fails(TUB, "summer")]
    assert order[0] == "summer"
    assert sorted(set(order), key=order.index) == ["summer", "winter", "usual"]
    one = outlook(TUB, CATALOGUE, "summer", "power-cut")
    assert (one.season, one.failure.kind) == ("summer", "power-cut")
    again = outlook(TUB, CATALOGUE, "summer", "power-cut")
    assert again == one


@pytest.mark.slow
def test_a_lamp_that_sticks_does_so_while_its_clock_lets_it_shine() -> None:
    """The box is hottest as the lamps go off; what sticks on then is off the minute after, and looks harmless."""
    lamp = ledge_data(watts=150.0)
    lamp["heaters"][0]["control"] = "T"
    lamp["controls"] = [
        {"name": "T", "kind": "dimming", "day_c": 30.0, "probe": {"x_m": 0.75, "y_m": 0.3, "z_m": 0.3}}
    ]  # fmt: skip
    found = outlook(read(lamp), CATALOGUE, "summer", "stuck-on")
    assert found.begins_min == pytest.approx((8 + 6) * 60, abs=61)
    after = dict(found.minutes_to_danger)["contact"]
    assert after is not None
    assert after < 60
    assert found.hottest_c > 60


@pytest.mark.slow
def test_what_sticks_on_by_night_does_so_as_the_lamps_go_off() -> None:
    emitter = ledge_data(kind="ceramic-emitter", watts=150.0, on="night", control="T")
    emitter["controls"] = [
        {"name": "T", "kind": "dimming", "night_c": 20.0, "probe": {"x_m": 0.6, "y_m": 0.3, "z_m": 0.3}}
    ]  # fmt: skip
    found = outlook(read(emitter), CATALOGUE, "summer", "stuck-on")
    assert found.begins_min == pytest.approx((8 + 12) * 60, abs=1)
    assert found.hottest_c > 45


@pytest.mark.slow
@pytest.mark.parametrize(
    ("day_c", "night_c", "season", "begins_h"),
    [(32.0, 20.0, "winter", (8, 14)), (27.0, 15.0, "summer", (8, 8)), (15.0, 32.0, "summer", (20, 20))],
)
def test_a_probe_outside_is_worst_when_the_room_that_it_reads_is_cool(
    day_c: float, night_c: float, season: str, begins_h: tuple[int, int]
) -> None:
    """Far above the room it never stops; a little above it while the room still warms; by night where that is warmer."""
    mat = mat_data(probe={"reads": "heater"})
    mat["heaters"].append({**lamp(watts=25.0), "x_m": 0.45, "y_m": 0.2, "z_m": 0.35})
    mat["room"] = {"winter": {"day_c": 20.0, "night_c": 17.0}, "summer": {"day_c": 29.0, "night_c": 20.0}}
    mat["controls"][0] |= {"kind": "dimming", "day_c": day_c, "night_c": night_c, "band_k": 0.5}
    found = outlook(read(mat), CATALOGUE, season, "probe-out")
    assert 60 * begins_h[0] - 1 <= found.begins_min <= 60 * begins_h[1] + 1
