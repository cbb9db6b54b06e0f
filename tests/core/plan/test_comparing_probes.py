"""The places for a probe side by side: each setpoint does what it says, and the advice follows from the figures."""

from functools import cache

import pytest

from mitten.core.design.amounts import plain
from mitten.core.design.units import METRIC
from mitten.core.judge import assess, read_condition, solve_condition
from mitten.core.plan.aiming import Aim
from mitten.core.plan.comparing_probes import ProbeTrial, ProbeTrials, reason_for, recommended
from mitten.core.plan.probe_places import probe_places
from mitten.web.views.setpoint import setpoint_offer
from tests.catalogue import CATALOGUE
from tests.designs import Data, lamp, ledge_data, read
from tests.held import changed


def held(watts: float = 120.0, kind: str = "dimming") -> Data:
    """The ledge's lamp on a thermostat, its probe in the air beside it."""
    design = ledge_data()
    fixture = {"kind": "guarded-socket", "max_watts": 150.0}
    design["heaters"][0].update(watts=watts, control="Thermostat", on="day", fixture=fixture)
    probe = {"x_m": 0.7, "y_m": 0.3, "z_m": 0.2, "shaded": True}
    room = {"winter": {"day_c": 18.0, "night_c": 16.0}, "summer": {"day_c": 27.0, "night_c": 22.0}}
    return {**design, "room": room, "controls": [{"name": "Thermostat", "kind": kind, "day_c": 27.0, "probe": probe}]}


@cache
def trials() -> tuple[ProbeTrials, tuple[ProbeTrial, ...]]:
    assessment = assess(read(held()), CATALOGUE)
    found = ProbeTrials(assessment, assessment.design.controls[0])
    return found, tuple(found.all())


def aim_of_trials() -> Aim:
    aim = trials()[0].aim
    assert aim is not None
    return aim


def by_key(key: str) -> ProbeTrial:
    return next(trial for trial in trials()[1] if trial.place.key == key)


@pytest.mark.slow
def test_every_place_with_a_name_is_tried() -> None:
    compared, found = trials()
    named = probe_places(compared.design, CATALOGUE, compared.control)
    assert [trial.place.key for trial in found] == [place.key for place in named]
    assert all(trial.moves for trial in found)
    assert changed("probe-trials", found) == []


@pytest.mark.parametrize("key", ["beside:Ledge", "on:Ledge", "cool-end"])
def test_the_setpoint_brings_the_basking_place_where_it_is_wanted(key: str) -> None:
    compared, _ = trials()
    trial = by_key(key)
    moved = compared.control.model_copy(update={"probe": trial.place.probe, "day_c": trial.setpoint_c})
    design = compared.design.model_copy(update={"controls": (moved,)})
    for name, expected_c in (("winter-day", trial.from_c), ("summer-day", trial.to_c)):
        climate = solve_condition(design, CATALOGUE, read_condition(design, name))
        assert climate.basking.surface_c == pytest.approx(expected_c, abs=0.1)
    # Half a degree of the setpoint is more on the ledge than in the air.
    assert trial.from_c == pytest.approx(aim_of_trials().target_c, abs=3.0)


def test_a_probe_on_the_place_holds_it_through_the_year_and_one_in_the_air_does_not() -> None:
    assert by_key("on:Ledge").drift_k < 0.5
    assert by_key("cool-end").drift_k > 3.0


def test_a_probe_that_falls_off_the_ledge_lets_it_burn_and_one_in_the_air_does_not() -> None:
    on_it, beside = by_key("on:Ledge"), by_key("beside:Ledge")
    assert on_it.fallen_harms
    assert on_it.fallen_c > 54.0
    assert beside.fallen_c < on_it.fallen_c - 5.0
    assert on_it.out_harms
    assert beside.out_harms


def test_what_is_recommended_is_what_the_rule_book_allows_with_what_differs_between_the_places() -> None:
    found = trials()[1]
    best = recommended(found)
    assert best is not None
    assert by_key("on:Ledge").against.startswith("The probe of 'Thermostat' lies where the animal basks")
    assert not best.against
    assert not best.fallen_harms
    said = plain(reason_for(best, found, aim_of_trials()))
    assert f"set it to {best.setpoint_c:.1f} °C" in said
    assert "0.0 K" not in said
    held_there = trials()[0]._holding(
        trials()[0].control.model_copy(update={"probe": best.place.probe, "day_c": best.setpoint_c})
    )
    assert not [one for one in assess(held_there, CATALOGUE).findings if one.rule.startswith("probe-")]


def test_a_source_that_makes_air_is_judged_by_air_and_one_under_a_hide_by_neither() -> None:
    """An emitter away from the basking place, which a lamp makes; one by night; and a mat under a hide."""
    design = held()
    emitter = lamp(name="Emitter", kind="ceramic-emitter", watts=60.0, x_m=0.5, z_m=0.4, control="Air")
    mat = {"name": "Mat", "kind": "heat-mat", "watts": 10.0, "x_m": 0.25, "y_m": 0.3, "length_m": 0.2, "depth_m": 0.2,
           "place": "under-floor", "control": "Mat"}  # fmt: skip
    probe = {"x_m": 0.5, "y_m": 0.3, "z_m": 0.1, "shaded": True}
    kinds = {"kind": "pulse", "probe": probe}
    for on, day_c, key in (("always", 24.0, "warm_air_c"), ("night", None, "night_c")):
        design = held()
        controls = [*design["controls"], {"name": "Air", **kinds, "day_c": day_c, "night_c": 20.0},
                    {"name": "Mat", **kinds, "day_c": 28.0}]  # fmt: skip
        heaters = [*design["heaters"], {**emitter, "on": on}, mat]
        assessment = assess(read({**design, "heaters": heaters, "controls": controls}), CATALOGUE)
        aims = [ProbeTrials(assessment, control).aim for control in assessment.design.controls]
        assert [aim and aim.key for aim in aims] == ["basking_surface_c", key, None]
        offer = setpoint_offer(assessment, "Air", METRIC)
        assert "air" in " ".join(offer.sentences)
        assert "Ledge" not in " ".join(offer.sentences)


def test_where_no_power_is_enough_nothing_is_recommended() -> None:
    assessment = assess(read(held(watts=30.0)), CATALOGUE)
    found = list(ProbeTrials(assessment, assessment.design.controls[0]).all())
    assert all(trial.setpoint_c is None for trial in found)
    assert recommended(found) is None


@pytest.mark.slow
def test_on_off_swings_and_switches_where_dimming_is_steady() -> None:
    assessment = assess(read(held(kind="on-off")), CATALOGUE)
    compared = ProbeTrials(assessment, assessment.design.controls[0])
    place = next(one for one in probe_places(compared.design, CATALOGUE, compared.control) if one.key == "beside:Ledge")
    switched = compared.at(place)
    assert switched.swing_k > 5 * by_key("beside:Ledge").swing_k
    assert 2.0 < switched.switchings < 60.0
