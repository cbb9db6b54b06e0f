"""Every remedy, done as it says, makes its finding go away; and sensible designs give no false alarm."""

import json
from collections.abc import Callable
from copy import deepcopy

import pytest

from mitten.core.judge.rulebook import RULE_NAMES
from tests.core.judge.test_rule_book import CASES, findings_of, lizard, site
from tests.designs import Data, mat_data, read, steady_room

Change = Callable[[Data], object]


def lamp_to(**changes: object) -> Change:
    """The first heater changed."""
    return lambda design: design["heaters"][0].update(changes)


def fixture_to(**changes: object) -> Change:
    return lambda design: design["heaters"][0]["fixture"].update(changes)


def control_to(**changes: object) -> Change:
    return lambda design: design["controls"][0].update(changes)


def probe_to(**changes: object) -> Change:
    return lambda design: design["controls"][0]["probe"].update(changes)


def tube_to(**changes: object) -> Change:
    return lambda design: design["uvb"][0].update(changes)


def last_site_to(**changes: object) -> Change:
    return lambda design: design["sites"][-1].update(changes)


def more_sites(*sites: Data) -> Change:
    return lambda design: design["sites"].extend(sites)


def top(**changes: object) -> Change:
    """Keys of the whole design."""
    return lambda design: design.update(changes)


def box(**changes: object) -> Change:
    return lambda design: design["enclosure"].update(changes)


def ground(**changes: object) -> Change:
    return lambda design: design["substrate"].update(changes)


def on_a_thermostat(probe: Data, kind: str = "on-off", day_c: float = 33.0) -> Change:
    """The first heater on a thermostat."""

    def change(design: Data) -> None:
        at = {"x_m": design["heaters"][0]["x_m"], "y_m": design["heaters"][0]["y_m"], "z_m": 0.0, **probe}
        design["heaters"][0]["control"] = "T"
        design["controls"] = [{"name": "T", "kind": kind, "day_c": day_c, "night_c": day_c, "probe": at}]

    return change


BASE = {"reads": "base"}
PLAIN_LIGHT = [{"name": "LED", "watts": 6.0, "x_m": 0.6, "y_m": 0.3, "z_m": 0.56}]
REMEDIES: dict[str, Change] = {
    "no-retreat-from-heat": top(room=steady_room(26.0)),
    "burning-surface": lamp_to(watts=60.0),
    "material-too-hot": lamp_to(watts=50.0),
    "lamp-in-the-middle": lamp_to(x_m=0.95),
    "too-strong-when-stuck": control_to(cut_out_c=26.0),
    "right-in-summer-only": lamp_to(watts=120.0),
    "spot-right-air-cold": box(vents=[]),
    "perch-too-near": lamp_to(z_m=0.5),
    "body-too-hot": last_site_to(z_m=0.18),
    "patch-smaller-than-animal": lamp_to(kind="halogen-flood", watts=60.0, z_m=0.5, lamp={}),
    "water-under-the-lamp": last_site_to(x_m=0.2, y_m=0.08),
    "plant-in-the-beam": last_site_to(x_m=0.2, y_m=0.08),
    "fixture-rating": fixture_to(max_watts=100.0),
    "fixture-rating-unknown": fixture_to(max_watts=100.0),
    "socket-material": fixture_to(socket="ceramic"),
    "unvented-dome": fixture_to(kind="wide-dome"),
    "within-reach": fixture_to(guard=True),
    "climber-under-open-lamp": fixture_to(guard=True),
    "hot-to-touch": lamp_to(watts=10.0),
    "hot-mesh-over-climber": lamp_to(watts=15.0),
    "light-at-night": tube_to(on="day"),
    "coloured-lamp": lamp_to(kind="halogen-flood", watts=50.0),
    "hot-rock": lamp_to(kind="halogen-flood", watts=50.0, z_m=0.5, site=None, place="air"),
    "needs-a-thermostat": on_a_thermostat(BASE),
    "mat-inside": lamp_to(place="under-floor"),
    "tape-inside": lamp_to(place="under-floor"),
    "mat-over-half-the-floor": lamp_to(length_m=0.25, x_m=0.15),
    "mat-without-gap": box(underside={"raised": True}),
    "thick-substrate-over-mat": ground(depth_mm=15.0),
    "base-too-hot": on_a_thermostat(BASE, day_c=38.0),
    "mat-alone-in-a-cool-box": top(room=steady_room(26.0)),
    "cannot-be-dimmed": lambda design: (design["heaters"][0].pop("control"), design.update(controls=[])),
    "control-overload": control_to(max_watts=300.0),
    "cannot-reach": control_to(day_c=24.0),
    "lamp-on-an-on-off-thermostat": control_to(kind="dimming"),
    "only-light-switched": top(lights=PLAIN_LIGHT),
    "probe-in-the-beam": probe_to(shaded=True),
    "probe-on-the-basking-place": probe_to(x_m=0.74, z_m=0.06),
    "probe-at-the-cool-end": probe_to(x_m=0.75),
    "no-light-by-day": top(lights=PLAIN_LIGHT),
    "probe-in-water": probe_to(x_m=0.7, z_m=0.1, reads="air"),
    "uv-too-near": tube_to(uvi_at_30cm=7.5),
    "uv-too-far": tube_to(uvi_at_30cm=7.5),
    "uv-at-the-wrong-end": tube_to(x_m=0.84),
    "uv-through-mesh": tube_to(above_mesh=False, z_m=0.42),
    "uv-lamp-old": tube_to(installed="2026-11-01"),
    "no-room-under-the-lamp": lamp_to(z_m=0.45),
    "lamp-does-not-fit": lamp_to(z_m=0.45),
    "shelf-above-the-lamp": box(against=[]),
    "lamp-beside-the-mesh": lamp_to(x_m=0.65),
    "tube-does-not-fit": tube_to(length_m=0.45),
    "parts-overlap": last_site_to(x_m=0.3),
    "box-too-small": box(length_m=1.2),
    "box-too-big-and-bare": more_sites(site("Another", "warm-hide", x_m=0.8, z_m=0.1)),
    "no-cover-warm": top(room=steady_room(22.0), sites=lizard()["sites"]),
    "no-cover-cool": more_sites(site("Cool hide", "cool-hide", x_m=0.2, z_m=0.1)),
    "hide-too-low": last_site_to(z_m=0.18),
    "out-of-reach": last_site_to(z_m=0.2),
    "too-still-and-damp": box(vents=lizard()["enclosure"]["vents"]),
    "too-dry": more_sites(site("Moss", "humid-hide", x_m=0.3, y_m=0.1, depth_m=0.14, z_m=0.3)),
    "not-the-approach": top(approach="sunlit"),
    "no-water": more_sites(site("Dish", "water", x_m=0.2, y_m=0.08, depth_m=0.12, material="tile")),
    "cool-rest": top(schedule={"day_hours": 12.0}),
    "lamp-over-water": lambda design: design["heaters"][-1]["fixture"].update(kind="guarded-socket"),
    "misting-on-a-hot-lamp": ground(misting_ml_day=0.0),
    "outlet-load": lambda design: [one.update(watts=60.0) for one in design["heaters"]],
    "emitter-under-plastic": lamp_to(z_m=0.34),
    "one-control-two-ends": lambda design: design["heaters"][-1].update(x_m=0.8),
    "no-day-setting": control_to(day_c=24.0),
    "heat-at-the-wrong-time": lamp_to(on="day"),
    "probe-high": probe_to(z_m=0.08),
}


def test_every_rule_has_its_remedy() -> None:
    assert set(REMEDIES) == RULE_NAMES


@pytest.mark.parametrize("rule", sorted(RULE_NAMES))
def test_what_the_remedy_says_makes_the_finding_go_away(rule: str) -> None:
    design = deepcopy(CASES[rule][0]())
    before = json.dumps(design)
    REMEDIES[rule](design)
    assert json.dumps(design) != before
    assert rule not in findings_of(design)
    read(design)


def test_a_remedy_for_the_base_speaks_of_what_there_is() -> None:
    def remedy(probe: Data | None) -> str:
        return findings_of(mat_data(50.0, probe, 60.0))["base-too-hot"].remedy

    assert remedy(None).startswith("Put 'Mat' on a thermostat")
    assert remedy({"reads": "surface"}).startswith("Put the probe of 'Thermostat' on the mat")
    assert remedy({"reads": "base"}).startswith("Set 'Thermostat' below")


def test_a_dimmed_mat_is_not_said_to_give_its_full_power() -> None:
    design = mat_data(50.0)
    design["heaters"][0]["dim"] = 0.5
    assert "the 50% that it is dimmed to" in findings_of(design)["needs-a-thermostat"].reason


def test_a_hide_that_is_too_cold_is_moved_not_bought_again() -> None:
    design = {**lizard(), "room": steady_room(16.0)}
    found = findings_of(design)["no-cover-warm"]
    assert found.remedy.startswith("Move 'Warm hide' nearer to the heat")
    bare = {**design, "sites": design["sites"][:1]}
    assert findings_of(bare)["no-cover-warm"].remedy.startswith("Put a hide at the warm end")


def test_what_one_rule_finds_in_several_places_is_said_once() -> None:
    design = lizard()
    design["heaters"] = [
        {**design["heaters"][0], "name": name, "y_m": y_m, "fixture": {"kind": "guarded-socket", "socket": "plastic"}}
        for name, y_m in (("One", 0.15), ("Two", 0.45))
    ]
    found = findings_of(design)["socket-material"]
    assert "'One'" in found.title
    assert "Likewise: Plastic socket on 'Two'" in found.reason
