"""Rules about control, ground heat and new sources: each fires, and stays quiet when it should."""

from types import SimpleNamespace
from typing import Any, cast

import pytest

from mitten.core.judge import assess, read_condition, solve_condition
from mitten.core.judge.finding import Case
from mitten.core.judge.rules.control import _has_the_only_light
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, lamp, ledge_data, mat_data, panel_data, read, steady_room

PROBE = {"x_m": 0.9, "y_m": 0.45, "z_m": 0.1, "reads": "air", "shaded": True}


def rules_of(design: Data) -> dict[str, str]:
    """Severity of every rule that fires."""
    return {finding.rule: finding.severity for finding in assess(read(design), CATALOGUE).findings}


def on(kind: str, design: Data, **more: Any) -> Data:
    """The design with its first heater on a control of that kind."""
    control: Data = {"name": "T", "kind": kind, **more}
    if kind in ("on-off", "pulse", "dimming"):
        control = {"day_c": 26.0, "night_c": 22.0, "probe": PROBE, **control}
    design["heaters"][0]["control"] = "T"
    return {**design, "controls": [control]}


def test_lightless_and_contact_sources_need_a_thermostat_and_stop_where_full_power_harms() -> None:
    assert rules_of(mat_data(50.0))["needs-a-thermostat"] == "stop"
    assert rules_of(mat_data(10.0, watts=4.0))["needs-a-thermostat"] == "warn"
    assert "needs-a-thermostat" not in rules_of(mat_data(25.0, {"reads": "heater"}, 33.0))
    assert "needs-a-thermostat" not in rules_of(box_data())
    assert rules_of(panel_data(40.0))["needs-a-thermostat"] == "warn"


def test_a_base_too_hot_stops_and_a_probe_on_the_mat_quiets_it() -> None:
    assert rules_of(mat_data(50.0))["base-too-hot"] == "stop"
    assert "base-too-hot" not in rules_of(mat_data(50.0, {"reads": "heater"}, 33.0))


@pytest.mark.parametrize(
    ("design", "fires"),
    [
        (on("dimming", ledge_data(kind="mercury-vapour", watts=70.0)), True),
        (on("dimmer", ledge_data(kind="mercury-vapour", watts=70.0)), True),
        (ledge_data(kind="mercury-vapour", watts=70.0, dim=0.5), True),
        (on("timer", ledge_data(kind="mercury-vapour", watts=70.0)), False),
        (on("dimming", ledge_data(watts=70.0)), False),
    ],
)
def test_a_mercury_lamp_is_not_dimmed_or_switched(design: Data, fires: bool) -> None:
    assert ("cannot-be-dimmed" in rules_of(design)) is fires


def test_a_control_beyond_its_load_stops() -> None:
    assert rules_of(on("dimming", box_data(), max_watts=60.0))["control-overload"] == "stop"
    assert "control-overload" not in rules_of(on("dimming", box_data(), max_watts=100.0))


def test_a_thermostat_that_cannot_reach_warns() -> None:
    assert rules_of(on("dimming", box_data(), day_c=50.0))["cannot-reach"] == "warn"
    assert "cannot-reach" not in rules_of(on("dimming", box_data(), day_c=24.0))


@pytest.mark.parametrize(("kind", "fires"), [("on-off", True), ("pulse", True), ("dimming", False)])
def test_a_lamp_that_is_switched_warns(kind: str, fires: bool) -> None:
    assert ("lamp-on-an-on-off-thermostat" in rules_of(on(kind, box_data()))) is fires


def test_hot_rocks_and_hot_panels_within_reach_warn() -> None:
    rock = ledge_data()
    rock["heaters"] = [{"name": "R", "kind": "hot-rock", "watts": 10.0, "x_m": 0.94, "y_m": 0.3, "site": "Ledge"}]
    assert rules_of(rock)["hot-rock"] == "warn"
    assert "hot-rock" not in rules_of(ledge_data())
    near, far = panel_data(120.0), panel_data(120.0)
    near["animal"] = {"species": "gargoyle-gecko"}
    far["animal"] = {"species": "hermanns-tortoise"}
    assert rules_of(near)["hot-to-touch"] == "warn"
    assert "hot-to-touch" not in rules_of(far)


def verdicts(design: Data) -> dict[str, Any]:
    return {verdict.key: verdict for verdict in assess(read(design), CATALOGUE).verdicts}


def test_deciding_by_irradiance_judges_it_by_its_meter_and_leaves_the_surface_a_hazard() -> None:
    design = {**ledge_data(), "decide_by": "irradiance", "irradiance_meter": "true"}
    judged = verdicts(design)
    assert "basking_surface_c" not in judged
    assert judged["irradiance_w_m2"].unit == "W/m²"
    silicon = verdicts({**design, "irradiance_meter": "silicon"})["irradiance_w_m2"]
    assert silicon.value < 0.6 * judged["irradiance_w_m2"].value
    assert "silicon" in silicon.label
    assert rules_of({**design, **{"heaters": [{**design["heaters"][0], "watts": 150.0}]}})["burning-surface"] == "stop"


def test_a_body_that_gets_too_warm_may_leave_while_there_is_a_cool_side() -> None:
    cool, hot = ledge_data(watts=60.0, z_m=0.5), {**ledge_data(watts=60.0, z_m=0.5), "room": steady_room(33.0)}
    body = verdicts(cool)["basking_operative_c"]
    assert (body.status, body.can_leave) == ("near", True)
    assert body.value > body.high
    assert verdicts(hot)["basking_operative_c"].status == "misses"


def test_ultraviolet_of_a_mercury_lamp_without_a_reading_is_unknown() -> None:
    assert verdicts(ledge_data(kind="mercury-vapour", watts=100.0))["uvi"].status == "unknown"
    known = ledge_data(kind="mercury-vapour", watts=100.0, lamp={"uvi_at_30cm": 4.0})
    assert verdicts(known)["uvi"].status != "unknown"


def test_humidity_is_judged_in_per_cent() -> None:
    damp = {**ledge_data(), "substrate": {"material": "coconut-fibre", "depth_mm": 40.0, "moisture": "wet"}}
    assert verdicts(damp)["humidity"].value > verdicts(ledge_data())["humidity"].value
    assert verdicts(damp)["humidity"].unit == "%"


def test_stuck_on_changes_nothing_where_there_is_no_thermostat() -> None:
    design = read(box_data())
    usual, stuck = (
        solve_condition(design, CATALOGUE, read_condition(design, f"winter-day{end}")) for end in ("", "+stuck-on")
    )
    assert stuck.air.mean_c == pytest.approx(usual.air.mean_c, abs=0.02)


def test_every_thermostat_stuck_on_is_a_condition() -> None:
    design = read(on("dimming", box_data(on="always"), day_c=23.0))
    usual = solve_condition(design, CATALOGUE, read_condition(design, "summer-day"))
    stuck_on = read_condition(design, "summer-day+stuck-on")
    stuck = solve_condition(design, CATALOGUE, stuck_on)
    assert stuck_on.label == "Summer day, stuck on"
    assert stuck.air.mean_c > usual.air.mean_c + 1


@pytest.mark.parametrize(
    ("held", "lights", "only"),
    [
        (("Lamp", "Second"), (), True), (("Lamp",), (), False), (("Night", "Lamp", "Second"), (), True),
        (("Night",), (), False), (("Lamp", "Second"), ({"name": "Plain", "watts": 5, "x_m": 0.3, "y_m": 0.3, "z_m": 0.5},), False),
    ],
)  # fmt: skip
def test_the_only_light_is_all_that_shines_by_day(held: tuple[str, ...], lights: tuple[Data, ...], only: bool) -> None:
    probe = {"x_m": 0.9, "y_m": 0.3, "z_m": 0.2}
    heaters = [lamp(), lamp(name="Second", x_m=0.6), lamp(name="Night", kind="ceramic-emitter", on="night", x_m=0.3)]
    for heater in heaters:
        heater |= {"control": "T"} if heater["name"] in held else {}
    control = {"name": "T", "kind": "pulse", "day_c": 30.0, "night_c": 22.0, "probe": probe}
    design = read({**box_data(), "heaters": heaters, "lights": list(lights), "controls": [control]})
    case = cast("Case", SimpleNamespace(design=design, catalogue=CATALOGUE))
    assert _has_the_only_light(case, design.controls[0]) is only
