"""Conditions, verdicts and the safety rules: each rule fires, and stays quiet when it should."""

from typing import Any

import pytest

from mitten.core.catalogue import Catalogue
from mitten.core.design import BadDesignError, Design
from mitten.core.design.amounts import plain
from mitten.core.judge import Condition, assess, read_condition, seasonal, solve_condition
from mitten.core.judge.targets import outside_by
from mitten.core.physics.balance.steady import NotSettledError
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.situation import running_sources
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, data, lamp, ledge_data, read, steady_room, tank_data

SMALL_BOX: Data = {"length_m": 0.5, "depth_m": 0.4, "height_m": 0.4}


def rules_of(design: Data) -> dict[str, str]:
    """Severity of every rule that fires."""
    return {finding.rule: finding.severity for finding in assess(read(design), CATALOGUE).findings}


def with_heater(**changes: Any) -> Data:
    """A quick small box with one heater near its right end."""
    return data(dict(SMALL_BOX), [lamp(watts=10.0, x_m=0.42, y_m=0.2, z_m=0.35, **changes)])


@pytest.mark.parametrize(("value", "expected"), [(25.0, 0.0), (20.0, 0.0), (30.0, 0.0), (19.5, -0.5), (33.0, 3.0)])
def test_outside_is_negative_below_and_positive_above(value: float, expected: float) -> None:
    assert outside_by(value, (20.0, 30.0)) == expected


def test_the_four_seasons_take_the_rooms_temperatures() -> None:
    design = read(ledge_data())
    assert [(c.name, c.day) for c in seasonal(design)] == [
        ("winter-day", True), ("winter-night", False), ("summer-day", True), ("summer-night", False)
    ]  # fmt: skip


def test_an_explicit_room_and_a_dead_lamp_are_conditions_too() -> None:
    design = read(ledge_data())
    explicit = read_condition(design, "room=18.5,night")
    assert (explicit.room_c, explicit.day) == (18.5, False)
    dead = read_condition(design, "winter-day+dead:Lamp")
    assert not running_sources(design, dead.situation, {})
    assert solve_condition(design, CATALOGUE, dead).air.warm_c == pytest.approx(21.0, abs=0.01)


@pytest.mark.parametrize("text", ["spring-day", "room=99,day", "winter-day+dead:Nobody", "winter-day+asleep", ""])
def test_what_is_no_condition_is_refused(text: str) -> None:
    with pytest.raises(BadDesignError):
        read_condition(read(ledge_data()), text)


def test_heaters_run_when_their_time_says_so() -> None:
    heaters = [lamp(name=on, on=on, x_m=0.9 + 0.05 * i) for i, on in enumerate(("day", "night", "always"))]
    design = read({**box_data(), "heaters": heaters})
    by_day, by_night = (
        running_sources(design, read_condition(design, name).situation, {}) for name in ("winter-day", "winter-night")
    )
    assert list(by_day) == ["day", "always"]
    assert list(by_night) == ["night", "always"]


def test_of_the_demo_one_meets_one_fails_in_winter_nights_one_is_dangerous_in_summer() -> None:
    quarry, canyon, attic = (assess(design, CATALOGUE) for design in demo_designs()[:3])
    assert quarry.passes
    assert {verdict.status for verdict in quarry.verdicts} == {"meets"}
    assert not canyon.stops
    assert [(v.key, v.condition.name) for v in canyon.missed] == [("night_c", "winter-night")]
    assert plain(canyon.headline) == "Night air is 7.0 K too cold on a winter night."
    assert attic.stops[0].rule == "no-retreat-from-heat"
    assert attic.headline == "Dangerous. No place is cool enough on a summer day."


def test_a_verdict_stands_in_its_worst_condition() -> None:
    verdict = next(v for v in assess(demo_designs()[0], CATALOGUE).verdicts if v.key == "warm_air_c")
    beyond = {name: max(verdict.low - value, value - verdict.high) for name, value in verdict.by_condition.items()}
    assert verdict.condition.name == max(beyond, key=lambda name: beyond[name])
    assert verdict.value == verdict.by_condition[verdict.condition.name]
    assert set(verdict.by_condition) == {"winter-day", "usual-day", "summer-day"}
    assert verdict.usual == verdict.by_condition["usual-day"]


def worded(wants: list[float], bears: list[float]) -> str:
    """The word for cool air of 21 °C on every day, by two ranges."""
    design = ledge_data(watts=0.0)
    design["animal"]["targets"] = {"cool_air_c": wants, "bearable": {"cool_air_c": bears}}
    return next(verdict.status for verdict in assess(read(design), CATALOGUE).verdicts if verdict.key == "cool_air_c")


def test_within_what_is_wanted_meets_within_what_is_borne_is_near_and_beyond_misses() -> None:
    assert worded([20.0, 26.0], [18.0, 30.0]) == "meets"
    assert worded([22.0, 26.0], [18.0, 30.0]) == "near"
    assert worded([23.0, 26.0], [22.0, 30.0]) == "misses"
    assert worded([15.0, 19.0], [10.0, 23.0]) == "near"
    assert worded([15.0, 19.0], [10.0, 20.0]) == "misses"


def test_a_usual_day_is_judged_by_what_is_wanted_and_an_extreme_by_what_is_borne() -> None:
    design = ledge_data(watts=0.0)
    design["room"] = {"winter": {"day_c": 16.0, "night_c": 16.0}, "summer": {"day_c": 28.0, "night_c": 28.0}}
    design["animal"]["targets"] = {"cool_air_c": [20.0, 24.0], "bearable": {"cool_air_c": [15.0, 29.0]}}
    verdict = next(v for v in assess(read(design), CATALOGUE).verdicts if v.key == "cool_air_c")
    assert (verdict.status, verdict.is_usually_off) == ("near", False)
    assert verdict.usual == pytest.approx(22.0, abs=0.2)
    design["animal"]["targets"]["cool_air_c"] = [23.0, 24.0]
    off = next(v for v in assess(read(design), CATALOGUE).verdicts if v.key == "cool_air_c")
    assert (off.status, off.is_usually_off) == ("near", True)
    assert assess(read(design), CATALOGUE).headline.startswith(("Nearly right: on a usual day", "Basking", "Warm"))


def test_a_usual_day_is_halfway_and_a_home_is_drier_in_winter() -> None:
    design = read(ledge_data())
    winter, summer, usual = (read_condition(design, f"{name}-day") for name in ("winter", "summer", "usual"))
    assert usual.room_c == pytest.approx((winter.room_c + summer.room_c) / 2)
    assert winter.rh < usual.rh < summer.rh
    assert usual.is_usual
    assert "assumed: 40% in winter and 55% in summer" in assess(design, CATALOGUE).room_rh_words
    known = {
        **ledge_data(),
        "room": {name: {"day_c": 21.0, "night_c": 21.0, "rh": 0.5} for name in ("winter", "summer")},
    }
    assert assess(read(known), CATALOGUE).room_rh_words == ""


@pytest.mark.parametrize(
    ("rule", "severity", "firing", "quiet"),
    [
        ("fixture-rating", "stop", {"fixture": {"kind": "dome", "max_watts": 5}}, {"fixture": {"kind": "dome", "max_watts": 10}}),
        ("fixture-rating-unknown", "note", {"fixture": {"kind": "dome"}}, {"fixture": {"kind": "dome", "max_watts": 60}}),
        ("socket-material", "stop", {"fixture": {"kind": "dome", "socket": "plastic"}}, {"fixture": {"kind": "dome"}}),
        ("within-reach", "stop", {"fixture": {"kind": "bare-socket"}}, {"fixture": {"kind": "wire-cage"}}),
        ("within-reach", "stop", {"fixture": {"kind": "wire-cage", "guard": False}}, {"fixture": {"kind": "dome", "guard": True}}),
        ("light-at-night", "warn", {"on": "always"}, {"on": "day"}),
        ("light-at-night", "warn", {"on": "night"}, {"on": "night", "kind": "ceramic-emitter"}),
        ("coloured-lamp", "warn", {"kind": "coloured-lamp"}, {"kind": "halogen-flood"}),
    ],
)  # fmt: skip
def test_a_rule_about_gear_fires_and_stays_quiet(rule: str, severity: str, firing: Data, quiet: Data) -> None:
    assert rules_of(with_heater(**firing)).get(rule) == severity
    assert rule not in rules_of(with_heater(**quiet))


def test_an_animal_on_a_ledge_reaches_higher_than_from_the_ground() -> None:
    design = box_data(watts=10.0, z_m=0.58, fixture={"kind": "dome"})
    design["animal"] = {"species": "collared-lizard"}
    assert "within-reach" not in rules_of(design)
    high = dict(ledge_data()["sites"][0], z_m=0.40)
    design["sites"] = [high]
    assert "within-reach" not in rules_of(design), "it cannot get up there"
    assert rules_of(design)["out-of-reach"] == "warn"
    design["sites"] = [high, dict(high, name="Step", role="perch", x_m=0.62, z_m=0.18)]
    assert rules_of(design)["within-reach"] == "stop"


def test_a_climber_reaches_every_unguarded_lamp_inside() -> None:
    design = with_heater(fixture={"kind": "bare-socket"})
    design["animal"] = {"species": "gargoyle-gecko"}
    assert rules_of(design)["climber-under-open-lamp"] == "stop"


def test_a_lamp_in_the_middle_leaves_no_slope_unless_the_box_is_tall() -> None:
    middle = data(dict(SMALL_BOX), [lamp(watts=10.0, x_m=0.25, y_m=0.2, z_m=0.35)])
    assert rules_of(middle)["lamp-in-the-middle"] == "warn"
    assert "lamp-in-the-middle" not in rules_of(with_heater())
    tall = data({**SMALL_BOX, "height_m": 0.6}, [lamp(watts=10.0, x_m=0.25, y_m=0.2, z_m=0.5)])
    assert "lamp-in-the-middle" not in rules_of(tall)


def test_a_material_above_its_service_temperature_stops() -> None:
    near = ledge_data(watts=150.0, z_m=0.32)
    near["sites"][0].update(material="resin", z_m=0.2)
    assert rules_of(near)["material-too-hot"] == "stop"
    assert "material-too-hot" not in rules_of(ledge_data(watts=60.0))


def test_a_burning_surface_stops_and_a_right_one_does_not() -> None:
    assert rules_of(ledge_data(watts=150.0))["burning-surface"] == "stop"
    assert "burning-surface" not in rules_of(ledge_data(watts=60.0))


def test_air_that_cannot_be_left_stops_only_when_every_place_is_too_hot() -> None:
    hot = {**tank_data(), "room": steady_room(37.0)}
    assert rules_of(hot)["no-retreat-from-heat"] == "stop"
    assert "no-retreat-from-heat" not in rules_of(tank_data())


def test_the_gravest_finding_comes_first() -> None:
    design = with_heater(kind="coloured-lamp", on="always", fixture={"kind": "bare-socket", "socket": "plastic"})
    severities = [finding.severity for finding in assess(read(design), CATALOGUE).findings]
    assert severities == sorted(severities, key=["stop", "warn", "note"].index)


def without(monkeypatch: pytest.MonkeyPatch, *names: str) -> None:
    """Make conditions of those names have no answer."""

    def solve(design: Design, catalogue: Catalogue, condition: Condition, *rest: Any) -> Climate:
        if condition.name in names:
            raise NotSettledError("No steady state was found.")
        return solve_condition(design, catalogue, condition, *rest)

    monkeypatch.setattr("mitten.core.judge.assessment.solve_condition", solve)


@pytest.mark.parametrize("name", ["winter-day", "winter-night", "summer-day", "summer-night"])
def test_where_one_condition_has_no_answer_the_others_are_judged(monkeypatch: pytest.MonkeyPatch, name: str) -> None:
    without(monkeypatch, name)
    found = assess(read(ledge_data()), CATALOGUE)
    label = name.replace("-", " ").capitalize()
    assert [condition.name for condition in found.unsolved] == [name]
    assert len(found.climates) == 3
    assert len(found.verdicts) > 5
    assert not found.passes
    told = next(finding for finding in found.findings if finding.rule == "not-worked-out")
    assert told.title == f"{label} could not be worked out"
    assert label in found.headline or found.stops
    assert found.climate(name).situation.day == name.endswith("day")


@pytest.mark.parametrize(("time", "other"), [("day", "night"), ("night", "day")])
def test_where_no_day_or_no_night_has_an_answer_the_rest_is_judged(
    monkeypatch: pytest.MonkeyPatch, time: str, other: str
) -> None:
    without(monkeypatch, *(f"{season}-{time}" for season in ("winter", "summer", "usual")))
    found = assess(read(ledge_data()), CATALOGUE)
    assert {condition.name for condition in found.solved} == {f"{s}-{other}" for s in ("winter", "summer", "usual")}
    keys = {verdict.key for verdict in found.verdicts}
    assert ("night_c" in keys) == (other == "night")
    assert ("basking_surface_c" in keys) == (other == "day")
    assert "could not be worked out" in found.headline or found.stops
    assert not found.passes


def test_where_no_condition_has_an_answer_that_is_an_error(monkeypatch: pytest.MonkeyPatch) -> None:
    without(monkeypatch, "winter-day", "winter-night", "summer-day", "summer-night")
    with pytest.raises(NotSettledError):
        assess(read(ledge_data()), CATALOGUE)


def test_a_source_whose_name_has_a_plus_sign_can_be_dead() -> None:
    design = read(ledge_data(name="Heat + light"))
    for text in (
        "winter-day+dead:Heat + light",
        "winter-day+stuck-on+dead:Heat + light",
        "winter-day+dead:Heat + light+stuck-on",
    ):
        assert read_condition(design, text).dead == ("Heat + light",)
