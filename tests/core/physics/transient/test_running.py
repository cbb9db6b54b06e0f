"""Whole boxes in time: they end where the steady model is, account for their heat, and live as a keeper knows them."""

from dataclasses import replace
from functools import cache
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mitten.core.design import Design
from mitten.core.design.editing import data_of
from mitten.core.judge.conditions import read_condition, solve_condition
from mitten.core.judge.days import STOPS_THE_FAN, Failure, Through, of_condition, of_season, run
from mitten.core.judge.exposed import Exposed
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.energy import energy_of
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.transient import channels, drive
from mitten.core.physics.transient.regulation import Clock
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import Data, board_data, box_data, lamp, ledge_data, mat_data, read, tank_data
from tests.random_designs import random_design
from tests.sweeping import sliced

SAME_K = 0.2
"""How near a state that has come to rest must be to the steady one."""

PROBE = {"x_m": 0.45, "y_m": 0.225, "z_m": 0.2}


@cache
def _through(text: str, condition: str) -> Through:
    design = read(eval(text))  # noqa: S307, a design written above
    return of_condition(design, CATALOGUE, read_condition(design, condition))


def course(design: Data, hours: float, condition: str = "room=20,day", **options: Any) -> Course:
    """So many hours of a design in a condition."""
    return run(_through(repr(design), condition), hours, **options)


def held(kind: str, reads: str = "air", **changes: Any) -> Data:
    """A board box whose halogen is held by a thermostat of a kind, its probe in the air."""
    probe = {**PROBE, "reads": reads, "shaded": True}
    control = {"name": "Thermostat", "kind": kind, "day_c": 27.0, "night_c": 24.0, "band_k": 1.0, "probe": probe}
    heater = lamp(watts=100.0, x_m=0.65, y_m=0.225, z_m=0.38, control="Thermostat", on="always")
    heater["fixture"] = {"kind": "guarded-socket", "max_watts": 150.0}
    return {**board_data(), "heaters": [heater], "controls": [{**control, **changes}]}


def share_after(values: Array, minutes: int) -> float:
    """How much of its whole change a figure has gone through after so many minutes."""
    return float((values[minutes] - values[0]) / (values[-1] - values[0]))


@pytest.mark.slow
@pytest.mark.parametrize("design", sliced(demo_designs(), 3), ids=lambda design: design.name)
@pytest.mark.parametrize("time", ["day", "night"])
def test_what_stays_as_it_is_ends_on_the_steady_answer(design: Design, time: str) -> None:
    through = of_condition(design, CATALOGUE, read_condition(design, f"winter-{time}"))
    gone, steady = run(through, 30, from_room=True), through.moving.day
    last = gone.state_at(len(gone.minutes) - 1)
    assert np.abs(last.surface_c - steady.state.surface_c).max() < SAME_K
    assert np.abs(last.air_c - steady.state.air_c).max() < SAME_K
    found = {
        gone.warm_c[-1]: steady.air.warm_c, gone.cool_c[-1]: steady.air.cool_c, gone.middle_c[-1]: steady.air.middle_c,
        gone.top_c[-1]: steady.air.top_c, gone.floor_max_c[-1]: steady.floor.hottest()[0],
        gone.floor_min_c[-1]: steady.floor.lowest_c(),
    }  # fmt: skip
    for site in design.sites:
        found[gone.site_c(site.name)[-1]] = steady.site_surfaces_c[site.name]
    for in_time, at_rest in found.items():
        assert in_time == pytest.approx(at_rest, abs=SAME_K)
    assert gone.base_max_c[-1] == pytest.approx(steady.base_c, abs=2 * SAME_K), "within a patch it is a little hotter"
    for number, control in enumerate(steady.controls.values()):
        assert gone.probes_c[-1, number] == pytest.approx(control.probe_c, abs=SAME_K)
        assert gone.trace.duties[-1, number] == pytest.approx(control.duty, abs=0.03)


@pytest.mark.slow
@pytest.mark.parametrize("seed", sliced(range(6), 3))
def test_that_holds_for_boxes_of_all_kinds_without_thermostats(seed: int) -> None:
    design = random_design(seed)
    heaters = tuple(heater.model_copy(update={"control": None}) for heater in design.heaters)
    design = design.model_copy(update={"controls": (), "heaters": heaters})
    through = of_condition(design, CATALOGUE, read_condition(design, "room=20,day"))
    gone, steady = run(through, 60, from_room=True), through.moving.day.state
    last = gone.state_at(len(gone.minutes) - 1)
    assert np.abs(last.surface_c - steady.surface_c).max() < SAME_K
    assert np.abs(last.air_c - steady.air_c).max() < SAME_K


DOME = {"kind": "dome", "max_watts": 150.0}
EMITTER = ledge_data(kind="ceramic-emitter", watts=100.0, fixture=DOME)


@pytest.mark.parametrize(("from_min", "lasts_min"), [(10.25, 50.5), (10.9, 0.6), (0.0, 0.3)])
def test_a_lamp_is_fed_to_the_second_that_its_timer_says(from_min: float, lasts_min: float) -> None:
    through = _through(repr(ledge_data()), "room=20,day")
    happening = replace(through.happening, clock=Clock(from_min, lasts_min))
    gone = through.moving.go(happening, through.moving.at_rest(through.moving.night), 90, 0.0)
    watts = sum(channel.full_w for channel in through.moving.box.channels)
    assert float(gone.trace.fed_j.sum()) == pytest.approx(watts * lasts_min * 60.0, rel=1e-6)


@pytest.mark.parametrize("hours", [1, 6])
@pytest.mark.parametrize(
    "design", [ledge_data(), tank_data(), mat_data(), EMITTER], ids=["ledge", "tank", "mat", "dome"]
)
def test_heat_stored_is_what_came_in_less_what_went_out(design: Data, hours: int) -> None:
    gone = course(_unregulated(design), hours, from_room=True)
    rows = range(len(gone.minutes))
    out_w = np.array([energy_of(gone.state_at(row)).out_w for row in rows])
    # In the first minutes it changes quickly: what went out is reckoned with the trapezoidal rule.
    out_j = float(np.trapezoid(out_w, gone.minutes[list(rows)] * 60.0))
    in_j = float(gone.trace.fed_j.sum())
    assert float(gone.stored_j[-1]) == pytest.approx(in_j - out_j, abs=0.005 * in_j)


@pytest.mark.parametrize(("x_m", "hide"), [(0.38, "Warm"), (0.2, "Cool")])
def test_a_probe_in_a_hide_reads_the_one_that_is_nearest_in_time_as_at_rest(x_m: float, hide: str) -> None:
    data = mat_data(20.0, {"reads": "hide", "x_m": x_m, "y_m": 0.2, "z_m": 0.05}, 60.0)
    shape = {"material": "resin", "y_m": 0.2, "length_m": 0.16, "depth_m": 0.2, "z_m": 0.1, "thickness_mm": 5.0}
    data["sites"] = [
        {**shape, "name": "Cool", "role": "cool-hide", "x_m": 0.12}, {**shape, "name": "Warm", "role": "warm-hide", "x_m": 0.44},
    ]  # fmt: skip
    design = read(data)
    climate = solve_condition(design, CATALOGUE, read_condition(design, "room=20,day"))
    inside_c = {name: climate.site(name).hide_air_c for name in ("Warm", "Cool")}
    assert (inside_c["Warm"] or 0.0) > (inside_c["Cool"] or 0.0) + 1.0
    assert climate.controls["Thermostat"].probe_c == pytest.approx(inside_c[hide])
    warming = course(data, 3.0, from_room=True)
    for row in (5, 60, 180):
        now_c = warming.climate_at(row).site(hide).hide_air_c
        assert warming.probes_c[row, 0] == pytest.approx(now_c, abs=0.2), "with a lag of some minutes"


@pytest.mark.slow
def test_a_dome_inside_holds_its_lamps_heat_back_for_some_minutes(monkeypatch: pytest.MonkeyPatch) -> None:
    lamp = ledge_data(fixture=DOME)
    with_dome = course(lamp, 3, from_room=True)
    monkeypatch.setattr(channels, "_has_shell", lambda *_: False)
    without = course({**lamp, "name": "Without"}, 3, from_room=True)
    behind_k = without.warm_c - with_dome.warm_c
    assert 0.05 < behind_k[1:10].max() < 0.3
    assert behind_k[30:] == pytest.approx(0.0, abs=0.03)
    assert not course(tank_data(), 1, from_room=True).box.in_domes, "over the lid it heats the room"


def _unregulated(design: Data) -> Data:
    """The design with its heaters on no thermostat."""
    heaters = [{key: value for key, value in heater.items() if key != "control"} for heater in design["heaters"]]
    return {**design, "controls": [], "heaters": heaters}


def test_halving_the_step_and_renewing_more_often_moves_no_figure(monkeypatch: pytest.MonkeyPatch) -> None:
    usual = course(ledge_data(), 8, from_room=True)
    for name, value in (("MOVED_SURFACE_K", 0.3), ("MOVED_AIR_K", 0.2), ("LONG_STEP_K", 0.5)):
        monkeypatch.setattr(drive, name, value)
    finer = course(ledge_data(), 8, from_room=True)
    assert finer.trace.renewals > usual.trace.renewals
    for one, other in (
        (usual.warm_c, finer.warm_c),
        (usual.site_c("Ledge"), finer.site_c("Ledge")),
        (usual.top_c, finer.top_c),
    ):
        assert np.abs(one - other)[5:].max() < 0.5
        assert np.abs(one - other)[30:].max() < 0.3


def test_a_mirrored_box_lives_the_mirrored_life() -> None:
    right, left = board_data(), board_data()
    left["heaters"][0]["x_m"] = 0.9 - right["heaters"][0]["x_m"]
    one, other = course(left, 2, from_room=True), course(right, 2, from_room=True)
    np.testing.assert_allclose(one.warm_c, other.warm_c, atol=0.05)
    np.testing.assert_allclose(one.air_at(0.1, 0.2), other.air_at(0.8, 0.2), atol=0.05)


def test_nothing_uncontrolled_leaves_what_start_room_and_rest_span() -> None:
    gone = course(ledge_data(), 24, from_room=True)
    steady = _through(repr(ledge_data()), "room=20,day").moving.day.state
    highest = np.maximum(steady.surface_c, 20.0)
    assert (gone.surface_c - highest).max() < 0.5
    assert gone.surface_c.min() > 20.0 - 0.3


@pytest.mark.slow
@settings(max_examples=4, deadline=None, derandomize=True)
@given(seed=st.integers(0, 10_000), room_c=st.floats(12.0, 28.0))
def test_nothing_in_any_box_leaves_what_start_room_and_rest_span(seed: int, room_c: float) -> None:
    """Whole random designs, everything on by the clock alone; wet ground may be colder than the room by what dries."""
    design = random_design(seed)
    heaters = tuple(heater.model_copy(update={"control": None}) for heater in design.heaters)
    design = design.model_copy(update={"controls": (), "heaters": heaters})
    through = of_condition(design, CATALOGUE, read_condition(design, f"room={room_c:.1f},day"))
    gone, steady = run(through, 6, from_room=True), through.moving.day.state
    start_c = round(room_c, 1)
    highest, lowest = np.maximum(steady.surface_c, start_c), np.minimum(steady.surface_c, start_c)
    assert (gone.surface_c - highest).max() < 0.7
    assert (lowest - gone.surface_c).max() < 0.7
    assert gone.air_c.max() < max(float(steady.air_c.max()), start_c) + 0.5


@pytest.mark.slow
def test_more_mass_never_warms_faster() -> None:
    design = read(ledge_data())
    ground = CATALOGUE.grounds[design.substrate.material]
    heavier = ground.model_copy(update={"heat_capacity_dry_mj_m3k": 2 * ground.heat_capacity_dry_mj_m3k})
    found = []
    for catalogue in (CATALOGUE, CATALOGUE.with_entry("grounds", design.substrate.material, heavier)):
        through = of_condition(design, catalogue, read_condition(design, "room=20,day"))
        found.append(run(through, 6, from_room=True))
    light, heavy = found
    assert (heavy.warm_c - light.warm_c).max() < 0.1
    assert heavy.warm_c[120] < light.warm_c[120] - 0.1
    assert heavy.floor_max_c[120] < light.floor_max_c[120] - 0.3


def test_warm_air_of_a_cabinet_of_thin_board_is_near_its_end_in_an_hour() -> None:
    """Three heated cabinets of 12.7 mm board, 122 x 61 x 46 cm, had come to 83-87 % when they were read after one."""
    walls: Data = {
        face: {"material": "plywood", "thickness_mm": 12.7} for face in ("floor", "top", "left", "right", "back")
    }
    walls["front"] = {"material": "glass", "thickness_mm": 4.0}
    vents = [{"face": "back", "area_cm2": 60.0, "z_m": 0.38}]
    box = {"length_m": 1.22, "depth_m": 0.61, "height_m": 0.46, "panels": walls, "vents": vents, "door_gap_mm": 2.0}
    globe = lamp(kind="incandescent-globe", watts=100.0, x_m=0.9, y_m=0.3, z_m=0.38)
    globe["fixture"] = {"kind": "guarded-socket", "max_watts": 150.0}
    paper = {"material": "paper", "depth_mm": 2.0}
    gone = course({**board_data(), "enclosure": box, "heaters": [globe], "substrate": paper}, 24, from_room=True)
    assert 0.78 < share_after(gone.warm_c, 60) < 0.9


@pytest.mark.slow
def test_ground_over_a_mat_takes_longer_than_the_air_and_stone_under_a_lamp_an_hour_or_more() -> None:
    deep = _unregulated(mat_data())
    deep["substrate"] = {"material": "soil-sand", "depth_mm": 150.0}
    mat = course(deep, 48, from_room=True)
    assert share_after(mat.floor_max_c, 360) < 0.8
    assert share_after(mat.base_max_c, 360) > share_after(mat.floor_max_c, 360)
    stone = course(ledge_data(), 24, from_room=True).site_c("Ledge")
    assert 0.3 < share_after(stone, 60) < 0.95


def night_after(material: str, thickness_mm: float) -> float:
    """Kelvin by which a 20 cm slab in a lamp's beam is above the air over it an hour after lights-out."""
    design = ledge_data()
    design["sites"][0].update(material=material, thickness_mm=thickness_mm, length_m=0.2, depth_m=0.2)
    gone = course(design, 1, failure=Failure("power-cut"))
    return float(gone.site_c("Ledge")[-1] - gone.site_air_c("Ledge")[-1])


@pytest.mark.slow
def test_slate_keeps_warm_after_lights_out_and_cork_does_not() -> None:
    assert night_after("slate", 30.0) > 3.0
    assert night_after("cork", 10.0) < 2.0


@pytest.mark.slow
def test_glass_on_paper_is_cold_within_two_hours_and_wet_soil_and_stone_take_longer() -> None:
    bare = tank_data()
    bare["substrate"] = {"material": "paper", "depth_mm": 5.0}
    bare["sites"] = []
    glass = course(bare, 6, failure=Failure("power-cut"))
    assert glass.warm_c[120] < 21.0
    heavy = ledge_data()
    heavy["substrate"] = {"material": "soil", "depth_mm": 60.0, "moisture": "damp"}
    wood = course(heavy, 6, failure=Failure("power-cut"))
    assert wood.warm_c[120] > glass.warm_c[120] + 0.3
    falls = [(one[0] - one[20]) / (one[0] - 20.0) for one in (wood.top_c, wood.warm_c, wood.base_max_c)]
    assert falls[0] > 0.4, "its air falls fast"
    assert falls[1] > 5 * falls[2], "its ground does not"


@pytest.mark.slow
def test_on_off_swings_more_than_dimming_and_switches_several_times_an_hour() -> None:
    switched, dimmed = (course(held(kind), 8) for kind in ("on-off", "dimming"))
    swings = [float(np.ptp(one.floor_max_c[240:])) for one in (switched, dimmed)]
    assert swings[0] > 2 * swings[1]
    assert 2 < switched.trace.switchings["Thermostat"] / 8 < 60
    assert np.abs(dimmed.probes_c[-60:, 0] - 27.0).max() < 0.2
    assert 26.4 < switched.probes_c[240:, 0].mean() < 27.6


@pytest.mark.slow
def test_a_mat_with_its_probe_on_it_switches_every_few_minutes_and_hardly_swings_the_surface() -> None:
    probe = {"x_m": 0.25, "y_m": 0.225, "z_m": 0.0, "reads": "heater"}
    design = mat_data(depth_mm=25.0, probe=probe, setpoint_c=32.0)
    design["substrate"]["material"] = "coconut-fibre" if "coconut-fibre" in CATALOGUE.grounds else "soil"
    design["controls"][0].update(kind="on-off", band_k=0.5)
    gone = course(design, 8)
    name = design["controls"][0]["name"]
    times = np.diff([minute for minute in gone.trace.closings[name] if minute > 240])
    assert 0.5 < float(np.median(times)) < 15.0
    assert float(np.ptp(gone.floor_max_c[240:])) < 2.0


def test_a_ceramic_stuck_on_in_a_board_box_is_past_45_degrees_within_two_hours() -> None:
    design = board_data()
    design["heaters"][0]["on"] = "always"
    design["heaters"][0]["control"] = "Thermostat"
    design["controls"] = held("on-off")["controls"]
    gone = course(design, 3, "winter-night", failure=Failure("stuck-on"))
    hottest = np.maximum(gone.floor_max_c, gone.top_c)
    assert hottest[:121].max() > 45.0


@pytest.mark.parametrize("kind", ["on-off", "dimming"])
def test_a_thermostat_that_is_set_to_nothing_by_night_gives_nothing_by_night(kind: str) -> None:
    gone = course(held(kind, night_c=None), 2, "room=14,night")
    assert gone.trace.duties[:, 0].max() == 0.0
    assert gone.trace.fed_w.max() == 0.0
    assert course(held(kind), 2, "room=14,night").trace.fed_w.max() > 50.0


def test_a_thermostat_that_sticks_with_a_cut_out_is_held_by_it() -> None:
    gone = course(held("on-off", cut_out_c=30.0), 6, failure=Failure("stuck-on"))
    assert gone.probes_c[-60:, 0].max() < 30.0 + 1.0
    assert gone.probes_c[-60:, 0].min() > 30.0 - 1.0
    loose = course(held("on-off"), 6, failure=Failure("stuck-on"))
    assert loose.probes_c[-1, 0] > 32.0


def test_a_probe_out_of_the_box_keeps_its_source_on_and_one_on_the_ground_reads_it() -> None:
    out = course(held("dimming"), 6, failure=Failure("probe-out"))
    assert out.trace.duties[-60:, 0].min() == 1.0
    fallen = course(held("dimming"), 6, failure=Failure("probe-fallen"))
    at = fallen.climate_at(len(fallen.minutes) - 1).surface_at(0.45, 0.225, 0.04)
    assert fallen.probes_c[-1, 0] == pytest.approx(at, abs=0.5)


def test_a_mercury_lamp_waits_before_it_lights_again() -> None:
    assert CATALOGUE.sources["mercury-vapour"].restrike_min == 5.0
    through = _through(repr(box_data(kind="mercury-vapour", watts=100.0)), "room=20,day")
    gone = drive.Drive(through.moving.box, through.happening, through.moving.at_rest(through.moving.day))
    gone.run(3)
    gone.happening = drive.Happening(through.happening.clock, through.happening.room_c, (), has_power=False)
    gone.run(1)
    gone.happening = through.happening
    trace = gone.run(8)
    lit = trace.fed_w[:, 0] > 0
    assert not lit[1:4].any()
    assert lit[-2:].all()


@pytest.mark.slow
def test_a_season_is_a_day_that_repeats_itself() -> None:
    design = read(ledge_data())
    through = of_season(design, CATALOGUE, "winter")
    day = through.moving.repeating_day(through.happening)
    assert len(day.minutes) == 1441
    assert np.abs(day.surface_c[-1] - day.surface_c[0]).max() < 0.1
    evening, morning = day.row_at(20 * 60.0 - 5), 0
    ledge = day.site_c("Ledge")
    assert ledge[evening] > ledge[morning] + 10.0
    assert day.power_w[day.row_at(12 * 60.0)] == 75.0
    assert day.power_w[-30] == 0.0
    assert float(day.trace.fed_j.sum()) / 3.6e6 == pytest.approx(0.075 * 12.0, rel=1e-6)


def test_everything_at_the_rooms_temperature_is_exactly_that() -> None:
    moving = _through(repr(ledge_data()), "room=20,day").moving
    assert moving.box.basis.count < 160
    np.testing.assert_allclose(moving.box.surface_k(moving.at_room(20.0)), 293.15, atol=1e-6)


@pytest.mark.parametrize("kind", ["pulse", "dimming"])
def test_a_mat_far_too_strong_is_held_by_a_probe_on_it(kind: str) -> None:
    """It could go through the whole of its band in a step."""
    design = mat_data(probe={"x_m": 0.42, "y_m": 0.2, "z_m": 0.0, "reads": "heater"}, setpoint_c=30.0, watts=60.0)
    design["controls"][0].update(kind=kind)
    design["substrate"]["depth_mm"] = 5.0
    through = _through(repr(design), "room=20,day")
    gone = run(through, 12, from_room=True)
    steady = through.moving.day
    name = design["controls"][0]["name"]
    assert gone.probes_c[-60:, 0] == pytest.approx(steady.controls[name].probe_c, abs=SAME_K)
    assert gone.trace.duties[-60:, 0].mean() == pytest.approx(steady.controls[name].duty, abs=0.02)
    assert np.abs(gone.surface_c[-1] - steady.state.surface_c).max() < SAME_K


@pytest.mark.slow
@pytest.mark.parametrize("how", [{"watts": 0.0}, {"dim": 0.0}, "uvb"])
@pytest.mark.parametrize("demo", range(6))
def test_what_takes_nothing_goes_through_time_as_if_it_were_not_there(demo: int, how: dict[str, float] | str) -> None:
    data = data_of(demo_designs()[demo])
    if how == "uvb":
        if not data["uvb"]:
            return
        data["uvb"][0]["watts"] = 0.0
    else:
        data["heaters"][0] |= how
    design = read(data)
    key = "uvb" if how == "uvb" else "heaters"
    without = design.model_copy(update={key: getattr(design, key)[1:]})
    gone, absent = (run(of_season(one, CATALOGUE, "winter"), 2.0) for one in (design, without))
    np.testing.assert_allclose(gone.warm_c, absent.warm_c, atol=0.05)
    np.testing.assert_allclose(Exposed(gone).body_c, Exposed(absent).body_c, atol=0.1)


@pytest.mark.slow
def test_the_heat_that_leaves_and_what_is_stored_close_with_what_is_fed_in() -> None:
    gone = run(of_season(read(held("on-off")), CATALOGUE, "winter"), 6.0)
    in_j = float(gone.trace.fed_so_far_j[-1])
    assert in_j == pytest.approx(float(gone.trace.fed_j.sum()))
    assert np.abs(gone.unaccounted_j).max() < 0.01 * in_j


def test_a_power_cut_stops_the_fan_and_the_rooms_heating_unless_that_needs_no_power() -> None:
    data = box_data()
    data["enclosure"]["fan_l_s"] = 4.0
    data["room"] = {season: {"day_c": 21.0, "night_c": 19.0} for season in ("winter", "summer")}
    cut, still = Failure("power-cut"), Failure("fan-stopped")
    rooms = {}
    for name, season, without in (("winter", "winter", False), ("own", "winter", True), ("summer", "summer", False)):
        design = read({**data, "room": {**data["room"], "heated_without_power": without}})
        course = run(of_season(design, CATALOGUE, season), 12.0, cut)
        assert float(course.trace.entering_m3_s[0]) < 2e-3, "4 l/s before"
        rooms[name] = float(course.trace.room_c[-1])
    assert rooms["winter"] == pytest.approx(5.0 + (19.0 - 5.0) * np.exp(-12 / 20), abs=1.5)
    assert rooms["own"] == rooms["summer"] > rooms["winter"] + 4
    assert still.kind in STOPS_THE_FAN
