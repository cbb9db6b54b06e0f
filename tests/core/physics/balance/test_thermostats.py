"""Thermostats at rest: duties, the ends of their power, several at once, and the inverse."""

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

import pytest

from mitten.core.design import BadDesignError
from mitten.core.physics.balance.state import State
from mitten.core.physics.balance.steady import SteadyState
from mitten.core.physics.balance.thermostats import Loop, NotRegulatedError, Plant, regulate
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.probes import probe_c
from mitten.core.physics.situation import Situation, regulating_controls, running_sources
from mitten.core.physics.solving import setpoint_for, solve_climate
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, climate_of, ledge_data, mat_data, read


def thermostat(name: str = "T", kind: str = "dimming", day_c: float | None = 27.0, **probe: object) -> Data:
    at = {"x_m": 0.9, "y_m": 0.45, "z_m": 0.1, "reads": "air", "shaded": True, **probe}
    return {"name": name, "kind": kind, "day_c": day_c, "night_c": 22.0, "probe": at}


def with_control(design: Data, control: Data) -> Data:
    design["heaters"][0]["control"] = control["name"]
    return {**design, "controls": [control]}


def held(climate: Climate, name: str = "T") -> tuple[float, str]:
    return climate.controls[name].duty, climate.controls[name].status


@pytest.mark.parametrize("kind", ["on-off", "pulse", "dimming"])
def test_a_thermostat_brings_its_probe_to_the_setpoint(kind: str) -> None:
    design = with_control(box_data(), thermostat(kind=kind, day_c=24.0))
    climate = climate_of(design)
    known = read(design)
    assert probe_c(known, climate.state, known.controls[0], climate.catalogue) == pytest.approx(24.0, abs=0.05)
    assert climate.controls["T"].probe_c == pytest.approx(24.0, abs=0.05)
    assert 0 < climate.controls["T"].duty < 1
    assert climate.heaters["Lamp"].watts == pytest.approx(75 * climate.controls["T"].duty)
    assert abs(climate.energy.residual_w) < 1e-3 * climate.energy.in_w


def test_dimming_moves_the_spectrum_and_switching_does_not() -> None:
    dimmed, switched = (
        climate_of(with_control(box_data(), thermostat(kind=kind, day_c=24.0))).state.lamps[0] for kind in ("dimming", "pulse")
    )  # fmt: skip
    full = climate_of(box_data()).state.lamps[0]
    assert switched.spectrum == full.spectrum
    assert dimmed.spectrum.emitter_k < full.spectrum.emitter_k
    assert dimmed.bands.visible < full.bands.visible


def test_a_setpoint_beyond_full_power_cannot_be_reached_and_one_below_the_room_needs_none() -> None:
    duty, word = held(climate_of(with_control(box_data(), thermostat(day_c=60.0))))
    assert (duty, word) == (1.0, "cannot reach")
    duty, word = held(climate_of(with_control(box_data(), thermostat(day_c=15.0))))
    assert (duty, word) == (0.0, "room alone exceeds")


def test_a_setting_of_its_own_for_summer_is_held_in_summer_and_between_them_halfway() -> None:
    control = thermostat(day_c=26.0) | {"summer": {"day_c": 24.0}}
    design = read(with_control(box_data(), control))
    for summer, wanted_c in ((0.0, 26.0), (0.5, 25.0), (1.0, 24.0)):
        climate = solve_climate(design, CATALOGUE, Situation(21.0, True, summer=summer))
        assert climate.controls["T"].probe_c == pytest.approx(wanted_c, abs=0.05)
    assert solve_climate(design, CATALOGUE, Situation(18.0, False, summer=1.0)).controls == {}, (
        "its lamp is off at night"
    )


def test_a_cut_out_holds_a_thermostat_that_sticks_and_does_nothing_else() -> None:
    plain, safe = (read(with_control(box_data(), thermostat(day_c=24.0) | more)) for more in ({}, {"cut_out_c": 27.0}))
    now, stuck = Situation(21.0, True), Situation(21.0, True, stuck_on=True)
    assert solve_climate(safe, CATALOGUE, now).controls["T"].probe_c == pytest.approx(24.0, abs=0.05)
    assert solve_climate(plain, CATALOGUE, stuck).heaters["Lamp"].watts == 75.0
    held_back = solve_climate(safe, CATALOGUE, stuck)
    assert held_back.controls["T"].probe_c == pytest.approx(27.0, abs=0.05)
    assert held_back.heaters["Lamp"].watts < 75.0
    assert held_back.basking.surface_c < solve_climate(plain, CATALOGUE, stuck).basking.surface_c - 3.0


@pytest.mark.parametrize(
    ("control", "words"),
    [
        (thermostat() | {"cut_out_c": 25.0}, "must be above every setpoint, 27"),
        (thermostat(day_c=25.0) | {"summer": {"day_c": 29.0}, "cut_out_c": 28.0}, "must be above every setpoint, 29"),
        (thermostat(day_c=None) | {"summer": {"day_c": 24.0}}, "a summer setpoint needs one of winter"),
        ({"name": "T", "kind": "dimmer", "cut_out_c": 40.0}, "leave out its summer setpoints and cut-out"),
    ],
)
def test_settings_that_make_no_sense_are_refused(control: Data, words: str) -> None:
    with pytest.raises(BadDesignError, match=words):
        read(with_control(box_data(), control))


def test_an_unshaded_probe_in_the_beam_shuts_the_heat_off_early() -> None:
    beam: dict[str, Any] = {"x_m": 0.95, "y_m": 0.3, "z_m": 0.1}
    shaded = climate_of(with_control(box_data(), thermostat(day_c=26.0, **beam)))
    bare = climate_of(with_control(box_data(), thermostat(day_c=26.0, **{**beam, "shaded": False})))
    assert bare.controls["T"].duty < 0.8 * shaded.controls["T"].duty
    assert bare.air.mean_c < shaded.air.mean_c - 0.5


def test_stuck_on_is_full_power_and_a_dead_heater_gives_none() -> None:
    design = read(with_control(box_data(), thermostat(day_c=24.0)))
    stuck = solve_climate(design, CATALOGUE, Situation(21.0, stuck_on=True))
    assert stuck.heaters["Lamp"].watts == 75.0
    assert stuck.controls == {}
    dead = solve_climate(design, CATALOGUE, Situation(21.0, dead=frozenset({"Lamp"})))
    assert dead.heaters["Lamp"].watts == 0.0


def test_a_thermostat_without_a_night_setpoint_is_off_at_night() -> None:
    control = {**thermostat(), "night_c": None}
    data = with_control(box_data(on="always"), {k: v for k, v in control.items() if v is not None})
    design, night = read(data), Situation(15.0, day=False)
    assert regulating_controls(design, night) == ()
    assert running_sources(design, night, {}) == {}
    assert solve_climate(design, CATALOGUE, night).air.mean_c == pytest.approx(15.0, abs=0.01)


def test_a_timer_and_a_hand_dimmer_regulate_nothing() -> None:
    design = box_data(dim=0.5, control="Knob")
    design["controls"] = [{"name": "Knob", "kind": "dimmer"}]
    climate = climate_of(design)
    assert climate.controls == {}
    assert climate.heaters["Lamp"].watts == 37.5


def two_controls() -> Data:
    """A flood for the warm air, and a mat with its probe on itself."""
    design = with_control(box_data(), thermostat(day_c=25.0))
    mat = {
        "name": "Mat",
        "kind": "heat-mat",
        "watts": 20.0,
        "x_m": 0.3,
        "y_m": 0.3,
        "length_m": 0.3,
        "depth_m": 0.3,
        "control": "M",
    }
    design["heaters"].append(mat)
    design["controls"].append({**thermostat("M", "on-off", 30.0, reads="heater"), "night_c": 30.0})
    return design


def test_two_controls_each_hold_their_own_probe() -> None:
    climate = climate_of(two_controls())
    assert climate.controls["T"].probe_c == pytest.approx(25.0, abs=0.05)
    assert climate.controls["M"].probe_c == pytest.approx(30.0, abs=0.05)
    assert {control.status for control in climate.controls.values()} == {"regulates"}


def test_several_heaters_of_one_control_run_at_one_duty() -> None:
    design = with_control(box_data(), thermostat(day_c=25.0))
    design["heaters"].append({**design["heaters"][0], "name": "Second", "x_m": 0.8, "watts": 50.0})
    climate = climate_of(design)
    duty = climate.controls["T"].duty
    assert climate.heaters["Second"].watts == pytest.approx(50 * duty)
    assert climate.heaters["Lamp"].watts == pytest.approx(75 * duty)


@pytest.mark.parametrize(
    ("runs", "by_day", "by_night"),
    [
        (("day", "night"), True, True), (("day", "day"), True, False), (("night", "night"), False, True),
        (("always", "day"), True, True),
    ],
)  # fmt: skip
def test_a_thermostat_regulates_where_any_of_its_heaters_is_on(
    runs: tuple[str, str], by_day: bool, by_night: bool
) -> None:
    design = with_control(box_data(on=runs[0]), thermostat(day_c=25.0))
    design["heaters"].append({**design["heaters"][0], "name": "Second", "x_m": 0.8, "on": runs[1]})
    for day, regulates in ((True, by_day), (False, by_night)):
        found = regulating_controls(read(design), Situation(20.0, day))
        assert [control.name for control in found] == (["T"] if regulates else [])


@pytest.mark.parametrize("reads", ["air", "surface", "base", "hide", "heater"])
def test_every_place_of_a_probe_can_be_read_and_held(reads: str) -> None:
    design = mat_data(20.0, {"reads": reads, "z_m": 0.02 if reads != "air" else 0.05}, 26.0)
    design["sites"] = [
        {"name": "H", "role": "warm-hide", "material": "resin", "x_m": 0.42, "y_m": 0.2, "length_m": 0.2, "depth_m": 0.2, "z_m": 0.1, "thickness_mm": 5.0}
    ]  # fmt: skip
    control = climate_of(design).controls["Thermostat"]
    assert control.status in ("regulates", "cannot reach")
    if control.status == "regulates":
        assert control.probe_c == pytest.approx(26.0, abs=0.05)


def test_setpoint_for_is_the_inverse() -> None:
    design = with_control(ledge_data(), thermostat(day_c=24.0))
    climate = climate_of(design)
    found = setpoint_for(climate, "T", lambda now: now.sites["Ledge"].surface_c, 35.0)
    assert found is not None
    assert found.status == "regulates"
    design["controls"][0]["day_c"] = found.probe_c
    assert climate_of(design).sites["Ledge"].surface_c == pytest.approx(35.0, abs=0.3)


def test_setpoint_for_says_when_no_setpoint_does_it() -> None:
    climate = climate_of(with_control(ledge_data(), thermostat(day_c=24.0)))
    too_hot = setpoint_for(climate, "T", lambda now: now.sites["Ledge"].surface_c, 200.0)
    assert too_hot is not None
    assert too_hot.status == "cannot reach"
    assert setpoint_for(climate, "Nobody", lambda now: now.air.mean_c, 25.0) is None


def test_controls_that_find_no_rest_are_an_error_not_a_number() -> None:
    """A probe that jumps past its setpoint as the duty passes a half."""
    cold, hot = (SteadyState(climate_of(box_data(watts=watts)).state, 1, 0.0) for watts in (10.0, 75.0))

    def jumping(duties: Mapping[str, float]) -> SteadyState:
        return hot if duties["T"] > 0.5 else cold

    plant = Plant(lambda duties, *_: jumping(duties), lambda _, duties, __: jumping(duties))
    loop = Loop("T", 20.0, lambda state: 21.0 if state is hot.state else 19.0)
    with pytest.raises(NotRegulatedError, match="do not settle"):
        regulate(plant, [loop], {"T": 0.5})


def test_where_steps_go_astray_one_loop_after_the_other_is_brought_to_rest() -> None:
    """Two probes that jump past their setpoints where they come to them, each leaning on the other's heat: one sweep
    leaves the first of them off.
    """
    state, fed, kept = climate_of(box_data()).state, dict[int, Mapping[str, float]](), list[State]()

    def solved(duties: Mapping[str, float], *_: object) -> SteadyState:
        kept.append(replace(state))
        fed[id(kept[-1])] = dict(duties)
        return SteadyState(kept[-1], 1, 0.0)

    def jumping(own: str, other: str) -> Callable[[State], float]:
        def reading(now: State) -> float:
            over = fed[id(now)][own] - (0.5 - 0.5 * fed[id(now)][other])
            return 30.0 + 10.0 * over + (0.2 if over > 0 else -0.2)

        return reading

    plant = Plant(solved, lambda _, duties, __: solved(duties))
    loops = [Loop("A", 30.0, jumping("A", "B")), Loop("B", 30.0, jumping("B", "A"))]
    _, duties, held = regulate(plant, loops, {"A": 0.0, "B": 0.0})
    assert {one.status for one in held.values()} == {"regulates"}
    assert duties == {"A": pytest.approx(1 / 3, abs=0.02), "B": pytest.approx(1 / 3, abs=0.02)}
