"""Every rule of the rule book: it fires on the mistake that it is for, and stays quiet without it."""

import json
import re
from collections.abc import Callable
from copy import deepcopy
from datetime import date
from functools import cache
from pathlib import Path
from typing import Any

import pytest

from mitten.core.catalogue import read_kept_design
from mitten.core.design.amounts import plain
from mitten.core.judge import assess
from mitten.core.judge.finding import Finding
from mitten.core.judge.rulebook import RULE_NAMES
from mitten.core.plan.usual import new_site
from tests.catalogue import CATALOGUE
from tests.designs import Data, data, lamp, ledge_data, mat_data, read, steady_room

TODAY = date(2026, 11, 25)
NUMBER = re.compile(r"\d+(?:\.\d+)?")
FINDINGS = Path(__file__).parents[2] / "findings.json"
ON_MAT = {"reads": "heater"}


@cache
def _findings(text: str) -> tuple[Finding, ...]:
    # As it is read from the shelf: what is refused in a new file may have been kept from before.
    return assess(read_kept_design(text, CATALOGUE), CATALOGUE, today=TODAY).findings


def findings_of(design: Data) -> dict[str, Finding]:
    """The findings of a design by rule; each design is computed once."""
    return {finding.rule: finding for finding in _findings(json.dumps(design))}


def lizard(**changes: Any) -> Data:
    """A collared lizard's box with nothing wrong that a rule below is for."""
    hides = [
        site("Cool hide", "cool-hide", x_m=0.2, z_m=0.1),
        site("Warm hide", "warm-hide", x_m=0.66, y_m=0.5, depth_m=0.18, z_m=0.1),
    ]
    base = ledge_data(watts=60.0, fixture={"kind": "guarded-socket", "max_watts": 150.0}, z_m=0.5)
    base["sites"] += hides
    base["substrate"] = {"material": "soil-sand", "depth_mm": 50.0}
    return {**base, **changes}


def site(name: str, role: str, **changes: Any) -> Data:
    """A slab of cork."""
    usual = {"material": "cork", "x_m": 0.3, "y_m": 0.3, "length_m": 0.24, "depth_m": 0.2, "thickness_mm": 15.0}
    return {"name": name, "role": role, **usual, **changes}


def heated(**changes: Any) -> Data:
    """The lizard's box with its lamp changed."""
    design = lizard()
    design["heaters"][0].update(changes)
    return design


def with_sites(*sites: Data) -> Data:
    """The lizard's box with more sites."""
    design = lizard()
    return {**design, "sites": [*design["sites"], *sites]}


def on_control(design: Data, kind: str = "dimming", **control: Any) -> Data:
    """A design with its first heater on a thermostat at 28 °C, its probe low, beside the beam."""
    probe = {"x_m": 0.7, "y_m": 0.08, "z_m": 0.08, "reads": "air", "shaded": True} | control.pop("probe", {})
    design = deepcopy(design)
    design["heaters"][0]["control"] = "T"
    return {
        **design,
        "controls": [{"name": "T", "kind": kind, "day_c": 24.0, "night_c": 18.0, **control, "probe": probe}],
    }


def tube(**changes: Any) -> Data:
    """The lizard's box with a UV tube that suits it."""
    lamp = {"name": "Tube", "watts": 14.0, "uvi_at_30cm": 7.5, "x_m": 0.84, "y_m": 0.46, "z_m": 0.585, "length_m": 0.45}
    return {**lizard(), "uvb": [{**lamp, **changes}]}


def mat(depth_mm: float = 25.0, probe: Data | None = None, **changes: Any) -> Data:
    """A mat under a tank on a probe on the mat."""
    return mat_data(depth_mm, ON_MAT if probe is None else probe, 33.0, **changes)


def tank(**changes: Any) -> Data:
    """A glass tank with a lamp above part of its lid."""
    enclosure = {
        "length_m": 0.9, "depth_m": 0.45, "height_m": 0.45,
        "lid_mesh": {"mesh": "mesh-standard", "x_m": 0.65, "y_m": 0.225, "length_m": 0.4, "depth_m": 0.4}, **changes,
    }  # fmt: skip
    dome = lamp(
        watts=60.0, x_m=0.65, y_m=0.225, z_m=0.47, above_mesh=True, fixture={"kind": "dome", "max_watts": 150.0}
    )
    return data(enclosure, [dome])


def beside_the_mesh() -> Data:
    design = tank()
    design["heaters"][0]["x_m"] = 0.2
    return design


def gecko(**changes: Any) -> Data:
    """A climbing gecko under a lamp."""
    return {**heated(**{"watts": 25.0, **changes}), "animal": {"species": "gargoyle-gecko"}}


def hatchling(*sites: Data) -> Data:
    return {**lizard(), "animal": {"species": "collared-lizard", "stage": "hatchling"}, "sites": list(sites)}


def damp(open_vents: bool) -> Data:
    """Wet moss in a shut box, or in one with vents."""
    design = lizard(substrate={"material": "coconut-fibre", "depth_mm": 40.0, "moisture": "wet"})
    design["enclosure"] = {**design["enclosure"], "vents": design["enclosure"]["vents"] if open_vents else []}
    return design


def room(winter_c: float, summer_c: float, **changes: Any) -> Data:
    """The lizard's box in a room of two seasons."""
    season = {"day_c": winter_c, "night_c": winter_c - 3.0}, {"day_c": summer_c, "night_c": summer_c - 3.0}
    return {**lizard(), "room": {"winter": season[0], "summer": season[1]}, **changes}


def airy(watts: float, vents_cm2: float) -> Data:
    """A cold room, and vents that let its air through."""
    design = room(12.0, 14.0)
    design["heaters"][0].update(watts=watts, z_m=0.42)
    design["enclosure"]["vents"] = [
        {"face": "left", "area_cm2": vents_cm2, "z_m": 0.1}, {"face": "right", "area_cm2": vents_cm2, "z_m": 0.52},
    ]  # fmt: skip
    return design


def small(length_m: float) -> Data:
    design = lizard()
    return {**design, "enclosure": {**design["enclosure"], "length_m": length_m}}


def approach(name: str) -> Data:
    return {**lizard(), "approach": name}


def stuck(watts: float) -> Data:
    return on_control(heated(watts=watts, fixture={"kind": "guarded-socket", "max_watts": 300.0}))


CASES: dict[str, tuple[Callable[[], Data], Callable[[], Data]]] = {
    "no-retreat-from-heat": (lambda: {**heated(watts=150.0), "room": steady_room(36.0)}, lizard),
    "burning-surface": (lambda: heated(watts=150.0), lizard),
    "material-too-hot": (lambda: resin_ledge(), lizard),
    "lamp-in-the-middle": (lambda: heated(x_m=0.6), lizard),
    "too-strong-when-stuck": (lambda: stuck(150.0), lambda: stuck(35.0)),
    "right-in-summer-only": (lambda: room(8.0, 27.0), lizard),
    "spot-right-air-cold": (lambda: airy(75.0, 400.0), lizard),
    "perch-too-near": (lambda: heated(z_m=0.29, watts=35.0), lizard),
    "body-too-hot": (lambda: on_a_branch(0.45), lambda: on_a_branch(0.18)),
    "patch-smaller-than-animal": (lambda: heated(kind="halogen-spot", watts=10.0, z_m=0.36, lamp={"beam_half_angle_deg": 5.0}), lambda: tube()),
    "water-under-the-lamp": (
        lambda: with_sites(site("Dish", "water", x_m=0.94, y_m=0.1, depth_m=0.12, material="tile")),
        lambda: with_sites(site("Dish", "water", x_m=0.2, y_m=0.08, depth_m=0.12, material="tile")),
    ),
    "plant-in-the-beam": (
        lambda: with_sites(site("Fern", "plant", x_m=0.94, y_m=0.1, depth_m=0.12)),
        lambda: with_sites(site("Fern", "plant", x_m=0.2, y_m=0.08, depth_m=0.12)),
    ),
    "fixture-rating": (lambda: heated(fixture={"kind": "guarded-socket", "max_watts": 40.0}), lizard),
    "fixture-rating-unknown": (lambda: heated(fixture={"kind": "guarded-socket"}), lizard),
    "socket-material": (
        lambda: heated(fixture={"kind": "guarded-socket", "max_watts": 150.0, "socket": "plastic"}), lizard,
    ),
    "unvented-dome": (
        lambda: heated(kind="ceramic-emitter", watts=60.0, fixture={"kind": "closed-dome", "max_watts": 150.0}),
        lambda: heated(kind="ceramic-emitter", watts=60.0, fixture={"kind": "wide-dome", "max_watts": 150.0}),
    ),
    "within-reach": (lambda: heated(z_m=0.35, fixture={"kind": "bare-socket", "max_watts": 150.0}), lizard),
    "climber-under-open-lamp": (lambda: gecko(fixture={"kind": "bare-socket", "max_watts": 60.0}), gecko),
    "hot-to-touch": (lambda: gecko(watts=60.0), lizard),
    "hot-mesh-over-climber": (lambda: climber_under_mesh(150.0), lambda: climber_under_mesh(15.0)),
    "light-at-night": (lambda: tube(on="always"), tube),
    "coloured-lamp": (lambda: heated(kind="coloured-lamp", watts=40.0), lizard),
    "hot-rock": (lambda: heated(kind="hot-rock", watts=10.0, site="Ledge", z_m=0.0, place="on-floor"), lizard),
    "needs-a-thermostat": (lambda: mat_data(50.0), mat),
    "mat-inside": (lambda: mat(place="on-floor"), mat),
    "tape-inside": (lambda: mat(kind="heat-tape", watts=15.0, place="on-floor"), lambda: mat(kind="heat-tape", watts=15.0)),
    "mat-over-half-the-floor": (lambda: mat(x_m=0.3, length_m=0.5, depth_m=0.36), mat),
    "mat-without-gap": (lambda: flat(), mat),
    "thick-substrate-over-mat": (lambda: mat_data(60.0, {"reads": "surface"}, 33.0), mat),
    "base-too-hot": (lambda: mat_data(50.0), mat),
    "mat-alone-in-a-cool-box": (lambda: {**mat(), "room": steady_room(14.0)}, lambda: {**mat(), "room": steady_room(27.0)}),
    "cannot-be-dimmed": (lambda: on_control(heated(kind="mercury-vapour", watts=70.0)), lambda: on_control(lizard())),
    "control-overload": (lambda: on_control(lizard(), max_watts=40.0), lambda: on_control(lizard(), max_watts=300.0)),
    "cannot-reach": (lambda: on_control(lizard(), day_c=45.0), lambda: on_control(lizard())),
    "lamp-on-an-on-off-thermostat": (lambda: on_control(lizard(), "on-off"), lambda: on_control(lizard())),
    "only-light-switched": (
        lambda: on_control(lizard(), "pulse", day_c=23.0), lambda: on_control(tube(), "pulse", day_c=23.0),
    ),
    "probe-in-the-beam": (
        lambda: on_control(lizard(), probe={"x_m": 0.94, "y_m": 0.3, "z_m": 0.3, "shaded": False}),
        lambda: on_control(lizard()),
    ),
    "probe-on-the-basking-place": (
        lambda: on_control(lizard(), day_c=38.0, probe={"x_m": 0.94, "y_m": 0.3, "z_m": 0.185, "reads": "surface"}),
        lambda: on_control(lizard()),
    ),
    "probe-at-the-cool-end": (
        lambda: on_control(lizard(), probe={"x_m": 0.15, "y_m": 0.08, "z_m": 0.08}), lambda: on_control(lizard()),
    ),
    "no-light-by-day": (lambda: heated(kind="ceramic-emitter", watts=60.0), lizard),
    "probe-in-water": (
        lambda: on_control(
            with_sites(site("Dish", "water", x_m=0.5, y_m=0.1, depth_m=0.12, material="tile")),
            probe={"x_m": 0.5, "y_m": 0.1, "z_m": 0.06, "reads": "surface"},
        ),
        lambda: on_control(lizard()),
    ),
    "uv-too-near": (lambda: tube(uvi_at_30cm=20.0), tube),
    "uv-too-far": (lambda: tube(uvi_at_30cm=1.0), tube),
    "uv-at-the-wrong-end": (lambda: tube(x_m=0.3), tube),
    "uv-through-mesh": (lambda: lit_through_mesh(), tube),
    "uv-lamp-old": (lambda: tube(installed="2024-01-01"), lambda: tube(installed="2026-09-01")),
    "no-room-under-the-lamp": (lambda: tortoise(z_m=0.2, dim=0.3), lambda: tortoise(z_m=0.45, dim=0.3)),
    "lamp-does-not-fit": (lambda: heated(z_m=0.57), lizard),
    "shelf-above-the-lamp": (lambda: tank(against=["top"]), tank),
    "lamp-beside-the-mesh": (beside_the_mesh, tank),
    "tube-does-not-fit": (lambda: tube(length_m=1.3), tube),
    "parts-overlap": (lambda: with_sites(site("Slab", "perch", x_m=0.9, z_m=0.16)), lizard),
    "box-too-small": (lambda: small(1.0 + 0.1), lizard),
    "box-too-big-and-bare": (
        lambda: hatchling(site("Cool hide", "cool-hide", z_m=0.1)),
        lambda: hatchling(site("A", "cool-hide", z_m=0.1), site("B", "warm-hide", x_m=0.8, z_m=0.1)),
    ),
    "no-cover-warm": (lambda: {**lizard(), "sites": lizard()["sites"][:2], "room": steady_room(16.0)}, lizard),
    "no-cover-cool": (lambda: {**lizard(), "sites": lizard()["sites"][:1]}, lizard),
    "hide-too-low": (lambda: tortoise_hide(0.07), lambda: tortoise_hide(0.13)),
    "out-of-reach": (
        lambda: with_sites(site("Shelf", "perch", x_m=0.3, y_m=0.1, depth_m=0.12, z_m=0.45)),
        lambda: with_sites(site("Shelf", "perch", x_m=0.3, y_m=0.1, depth_m=0.12, z_m=0.2)),
    ),
    "too-still-and-damp": (lambda: damp(False), lambda: damp(True)),
    "too-dry": (
        lambda: {**lizard(), "animal": {"species": "gargoyle-gecko"}},
        lambda: {**lizard(), "animal": {"species": "gargoyle-gecko"}, "sites": [site("Moss", "humid-hide", z_m=0.1)]},
    ),
    "no-water": (
        lizard, lambda: with_sites(site("Dish", "water", x_m=0.2, y_m=0.08, depth_m=0.12, material="tile")),
    ),
    "cool-rest": (lambda: resting(10, 10, "kenyan-sand-boa"), lambda: resting(12, 10, "collared-lizard")),
    "lamp-over-water": (
        lambda: over_water("bare-socket"), lambda: over_water("guarded-socket"),
    ),
    "misting-on-a-hot-lamp": (lambda: misted(lizard()), lambda: misted(tank())),
    "outlet-load": (lambda: with_lamps(500.0), lambda: with_lamps(60.0)),
    "emitter-under-plastic": (
        lambda: heated(kind="ceramic-emitter", watts=60.0, z_m=0.45), lambda: heated(kind="ceramic-emitter", watts=60.0, z_m=0.34),
    ),
    "one-control-two-ends": (lambda: at_two_ends(0.2), lambda: at_two_ends(0.8)),
    "no-day-setting": (
        lambda: on_control({**heated(on="day")}, day_c=None), lambda: on_control({**heated(on="day")}),
    ),
    "heat-at-the-wrong-time": (lambda: heated(on="night"), lambda: heated(on="day")),
    "probe-high": (
        lambda: on_control(lizard(), probe={"x_m": 0.7, "y_m": 0.08, "z_m": 0.55}), lambda: on_control(lizard()),
    ),
    "not-the-approach": (lambda: approach("lightless"), lambda: approach("sunlit")),
}  # fmt: skip


def resting(day_c: float, night_c: float, species: str) -> Data:
    """A cool rest of eight weeks."""
    cooling = {"starts": "11-15", "weeks": 8, "day_c": day_c, "night_c": night_c}
    return {**lizard(), "animal": {"species": species}, "schedule": {"day_hours": 12.0, "cooling": cooling}}


def over_water(fixture: str) -> Data:
    design = with_sites(site("Dish", "water", x_m=0.5, y_m=0.1, depth_m=0.12, material="tile"))
    open_lamp = lamp(name="Open", watts=40.0, x_m=0.5, y_m=0.1, fixture={"kind": fixture, "max_watts": 150.0})
    return {**design, "heaters": [*design["heaters"], open_lamp]}


def misted(design: Data) -> Data:
    return {**design, "substrate": {"material": "soil-sand", "depth_mm": 50.0, "misting_ml_day": 100.0}}


def with_lamps(watts: float, count: int = 3) -> Data:
    """More lamps in fixtures that bear them."""
    strong = {"kind": "guarded-socket", "max_watts": 1000.0}
    more = [lamp(name=f"More {n}", watts=watts, x_m=0.2 + 0.1 * n, fixture=strong) for n in range(count)]
    return {**lizard(), "heaters": [*lizard()["heaters"], *more]}


def at_two_ends(x_m: float) -> Data:
    """A second lamp on the first one's thermostat."""
    design = on_control(lizard())
    return {**design, "heaters": [*design["heaters"], lamp(name="Second", watts=25.0, x_m=x_m, control="T")]}


def tortoise(**changes: Any) -> Data:
    """A grown Hermann's tortoise on soil under a globe in a wire cage."""
    globe = {"kind": "incandescent-globe", "watts": 40.0, "fixture": {"kind": "wire-cage", "max_watts": 100.0}}
    design = data(deepcopy(lizard()["enclosure"]), [lamp(**{**globe, **changes})])
    return {**design, "animal": {"species": "hermanns-tortoise"}, "substrate": {"material": "soil", "depth_mm": 50.0}}


def tortoise_hide(roof_m: float) -> Data:
    return {**tortoise(z_m=0.45), "sites": [site("Hide", "cool-hide", z_m=0.05 + roof_m)]}


def on_a_branch(z_m: float) -> Data:
    """A gecko's branch under a mercury-vapour lamp on the mesh of a box 60 cm high."""
    design = tank(height_m=0.6, lid_mesh={"mesh": "mesh-standard"})
    design["heaters"][0].update(kind="mercury-vapour", watts=80.0, z_m=0.62)
    branch = site("Branch", "perch", x_m=0.65, y_m=0.225, depth_m=0.06, material="hardwood", z_m=z_m)
    return {**design, "animal": {"species": "gargoyle-gecko"}, "sites": [branch], "room": steady_room(18.0)}


def climber_under_mesh(watts: float) -> Data:
    design = tank(lid_mesh={"mesh": "mesh-standard"})
    design["heaters"][0]["watts"] = watts
    return {**design, "animal": {"species": "gargoyle-gecko"}}


def resin_ledge() -> Data:
    design = heated(kind="halogen-spot", watts=120.0)
    design["sites"][0]["material"] = "resin"
    return design


def flat() -> Data:
    design = mat()
    return {**design, "enclosure": {**design["enclosure"], "underside": {"raised": False}}}


def lit_through_mesh() -> Data:
    design = tank(lid_mesh={"mesh": "mesh-standard"})
    lamp = {"name": "Tube", "watts": 14.0, "x_m": 0.6, "y_m": 0.3, "z_m": 0.47, "length_m": 0.45, "above_mesh": True}
    return {**design, "uvb": [lamp]}


def test_every_rule_of_the_book_has_its_two_designs() -> None:
    assert set(CASES) == RULE_NAMES


def said_of(rule: str) -> dict[str, str]:
    """What the rule says of its mistake, and which other findings the two designs have."""
    wrong, right = (findings_of(make()) for make in CASES[rule])
    found = wrong[rule]
    return {
        "severity": found.severity, "title": plain(found.title), "reason": plain(found.reason),
        "number": plain(found.number), "beside it": ", ".join(sorted(wrong.keys() - {rule})),
        "without it": ", ".join(sorted(right)),
    }  # fmt: skip


@pytest.mark.parametrize("rule", sorted(CASES))
def test_what_a_finding_says_stays(rule: str) -> None:
    """When it is meant to change: `python -m tools.golden`, and say in the commit why."""
    now, kept = said_of(rule), json.loads(FINDINGS.read_text(encoding="utf-8"))[rule]
    assert now.keys() == kept.keys()
    for part, words in now.items():
        assert NUMBER.sub("#", words) == NUMBER.sub("#", kept[part])
        for one, other in zip(NUMBER.findall(words), NUMBER.findall(kept[part]), strict=True):
            # Another machine may round the last digit the other way.
            assert abs(float(one) - float(other)) <= 1.1 * 10.0 ** -len(other.partition(".")[2])


@pytest.mark.parametrize("rule", sorted(CASES))
def test_the_rule_fires_with_number_reason_and_remedy(rule: str) -> None:
    fires, _ = CASES[rule]
    found = findings_of(fires())
    assert rule in found
    assert found.keys() <= RULE_NAMES, "each is in the book"
    assert found[rule].number
    assert found[rule].reason.endswith(".")
    assert found[rule].remedy.endswith(".")


@pytest.mark.parametrize("rule", sorted(CASES))
def test_the_rule_is_quiet_without_the_mistake(rule: str) -> None:
    _, quiet = CASES[rule]
    assert findings_of(quiet()).keys() <= RULE_NAMES - {rule}


def test_a_thermostat_known_to_stick_on_stops() -> None:
    design = stuck(150.0)
    assert findings_of(design)["too-strong-when-stuck"].severity == "warn"
    design["controls"][0]["fail"] = "on"
    found = findings_of(design)["too-strong-when-stuck"]
    assert found.severity == "stop"
    assert "limit" in found.number


def test_a_branch_near_the_lid_under_a_mercury_lamp_is_a_stop() -> None:
    """The surface alone may pass: the animal's back is nearer to the lamp, and burns."""
    assert findings_of(on_a_branch(0.45))["body-too-hot"].severity == "stop"


def test_clearance_is_judged_from_the_back_not_from_the_ground() -> None:
    """A globe 25 cm over the ground is clear of a lizard and hangs in the back of a tortoise that is 30 cm high."""
    tall = tortoise(z_m=0.33)
    tall["animal"]["species"] = "african-spurred-tortoise"
    assert findings_of(tall)["no-room-under-the-lamp"].severity == "stop"
    small = {**tall, "animal": {"species": "collared-lizard"}}
    assert "no-room-under-the-lamp" not in findings_of(small)


def test_new_hides_are_as_high_as_the_animal_needs() -> None:
    for species in ("hermanns-tortoise", "collared-lizard", "rosy-boa", "african-spurred-tortoise"):
        design = read({**tortoise(z_m=0.5), "animal": {"species": species}})
        roof = new_site(design, CATALOGUE, "cool-hide")
        back_m = CATALOGUE.species[species].back_m.at("adult")
        assert roof["z_m"] - 0.05 > back_m


def test_a_lamp_just_over_the_slate_is_a_stop_and_its_figures_stay_those_of_a_face() -> None:
    design = heated(kind="mercury-vapour", watts=100.0, lamp={"uvi_at_30cm": 6.0}, z_m=0.215)
    assert findings_of(design)["no-room-under-the-lamp"].severity == "stop"
    spot = assess(read(design), CATALOGUE).climate("winter-day").basking
    assert spot.irradiance_w_m2 < 9000, "a point gave 19,700"
    assert spot.uvi < 60, "and 102"


def test_bare_tape_inside_is_a_stop_and_covered_tape_a_warning() -> None:
    bare, covered = (
        findings_of(mat(kind="heat-tape", watts=15.0, place="on-floor", cover_mm=cover_mm))["tape-inside"]
        for cover_mm in (0.0, 5.0)
    )
    assert (bare.severity, covered.severity) == ("stop", "warn")


def test_a_low_slab_is_no_climb_and_a_panel_gets_no_guard_as_its_remedy() -> None:
    low = lizard()
    low["animal"] = {"species": "hermanns-tortoise"}
    low["sites"] = [site("Slab", "basking", x_m=0.9, thickness_mm=30.0)]
    assert "out-of-reach" not in findings_of(low)
    panel = {**gecko(kind="radiant-panel", watts=80.0, z_m=0.0, length_m=0.5, depth_m=0.3)}
    found = findings_of(panel).get("hot-to-touch")
    assert found is not None
    assert "guard" not in found.remedy


def test_two_panels_in_one_place_are_a_stop() -> None:
    panel = {
        "kind": "radiant-panel",
        "watts": 60.0,
        "length_m": 0.4,
        "depth_m": 0.3,
        "place": "ceiling",
        "y_m": 0.3,
        "z_m": 0.6,
    }
    beside = lizard(heaters=[{**panel, "name": "One", "x_m": 0.9}, {**panel, "name": "Other", "x_m": 0.35}])
    over = lizard(heaters=[{**panel, "name": "One", "x_m": 0.9}, {**panel, "name": "Other", "x_m": 0.8}])
    assert "parts-overlap" not in findings_of(beside)
    assert findings_of(over)["parts-overlap"].severity == "stop"
    assert findings_of(over)["parts-overlap"].parts == ("One", "Other")


def test_a_uv_tube_of_three_years_is_judged_by_what_it_gives_now() -> None:
    """At 30 % less each year a third is left: an index that met what is wanted does no more."""
    uvi = {}
    for installed in ("2026-11-01", "2023-11-25"):
        design = read(tube(installed=installed))
        verdicts = assess(design, CATALOGUE, today=TODAY).verdicts
        uvi[installed] = next(one for one in verdicts if one.key == "uvi")
    assert uvi["2023-11-25"].value == pytest.approx(uvi["2026-11-01"].value * 0.7**3, rel=0.05)
    assert uvi["2023-11-25"].status == "misses"


def test_a_panel_has_no_patch_and_plants_are_cover() -> None:
    panel = {
        "name": "Panel",
        "kind": "radiant-panel",
        "watts": 40.0,
        "length_m": 0.4,
        "depth_m": 0.3,
        "place": "ceiling",
        "x_m": 0.9,
        "y_m": 0.3,
        "z_m": 0.6,
    }
    assert "patch-smaller-than-animal" not in findings_of(lizard(heaters=[panel]))
    planted = {**gecko(), "sites": [site("Fern", "plant", x_m=0.3, y_m=0.1, depth_m=0.12)]}
    assert not {"no-cover-warm", "no-cover-cool"} & findings_of(planted).keys()
