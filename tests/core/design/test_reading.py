"""Design files: what is read, what is refused, and how it is said."""

import json
import math
from typing import Any

import jsonschema_rs
import pytest

from mitten.core.catalogue import read_checked_design
from mitten.core.design import BadDesignError, design_schema, read_design, write_design
from mitten.core.design.amounts import plain
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, ledge_data, read, tank_data


def faults_of(content: Data | str | bytes) -> list[str]:
    """The faults of a file, one line each."""
    text = json.dumps(content) if isinstance(content, dict) else content
    with pytest.raises(BadDesignError) as caught:
        read_checked_design(text, CATALOGUE)
    return [plain(str(fault)) for fault in caught.value.faults]


def changed(path: str, value: Any) -> Data:
    """The ledge design with the key at a dotted path set."""
    design = ledge_data()
    *parents, last = path.split(".")
    place: Any = design
    for key in parents:
        place = place[int(key)] if key.isdigit() else place.setdefault(key, {})
    place[last] = value
    return design


def test_the_smallest_useful_file_is_filled_with_defaults() -> None:
    design = read_design(
        '{"format": "mitten-design/1", "animal": {"species": "rosy-boa"}, "room": {"winter": {"day_c": 20, "night_c": 17},'
        ' "summer": {"day_c": 25, "night_c": 21}}, "enclosure": {"length_m": 0.9, "depth_m": 0.45, "height_m": 0.45},'
        ' "heaters": [{"name": "A", "kind": "halogen-flood", "watts": 50, "x_m": 0.7, "y_m": 0.2, "z_m": 0.4}]}'
    )
    assert design.enclosure.panels.left.material == "glass"
    assert design.substrate.material == "soil"
    assert design.heaters[0].fixture.kind == "dome"


@pytest.mark.parametrize("design", demo_designs())
def test_writing_and_reading_again_gives_the_same_design(design: Any) -> None:
    assert read_design(write_design(design)) == design


@pytest.mark.parametrize("design", demo_designs())
def test_what_is_written_fits_the_published_schema(design: Any) -> None:
    assert jsonschema_rs.is_valid(design_schema(), json.loads(write_design(design)))


def test_the_schema_refuses_an_unknown_key() -> None:
    assert not jsonschema_rs.is_valid(design_schema(), {**ledge_data(), "colour": "red"})


@pytest.mark.parametrize(
    ("path", "value", "expected"),
    [
        ("heaters.0.wats", 3, "heaters[0].wats: unknown key. Did you mean 'watts'?"),
        ("enclosure.hight_m", 3, "enclosure.hight_m: unknown key. Did you mean 'height_m'?"),
        ("heaters.0.watts", -5, "heaters[0].watts: must be at least 0; it is -5."),
        ("heaters.0.watts", float("nan"), "heaters[0].watts: must be a plain number, not NaN or infinity."),
        ("heaters.0.watts", "75", 'heaters[0].watts: must be a number, not "75".'),
        ("enclosure.height_m", 4, "enclosure.height_m: must be at most 2.5; it is 4."),
        ("heaters.0.x_m", 1.3, "heaters[0].x_m: 130 cm is outside the box, which is 120 cm long."),
        ("heaters.0.y_m", 0.65, "heaters[0].y_m: 65 cm is outside the box, which is 60 cm deep."),
        ("heaters.0.z_m", 0.7, "heaters[0].z_m: 70 cm is outside the box, which is 60 cm high inside."),
        ("heaters.0.z_m", 0.05, "heaters[0].z_m: 5 cm is in or on the ground; a lamp hangs above it."),
        ("heaters.0.z_m", 0.17, "heaters[0].z_m: the lamp is inside 'Ledge' or touches it; hang it higher."),
        ("sites.0.x_m", 1.15, "sites[0].x_m: 'Ledge' reaches past the left or right end of the box."),
        ("sites.0.y_m", 0.55, "sites[0].y_m: 'Ledge' reaches past the front or back of the box."),
        (
            "animal.species",
            "rosy-bao",
            "animal.species: the catalogue has no species 'rosy-bao'; did you mean 'rosy-boa'",
        ),
        ("animal.stage", "old", "animal.stage: must be 'hatchling', 'juvenile' or 'adult', not \"old\"."),
        ("animal.targets.night_c", [24, 18], "animal.targets.night_c: the low end 24 is above the high end 18."),
        (
            "enclosure.vents.0.holes",
            4,
            "enclosure.vents[0]: give either the free area, or the number of round holes and how wide each is.",
        ),
        ("format", "mitten-design/9", "format: this version reads 'mitten-design/1', not \"mitten-design/9\"."),
        ("heaters", "none", 'heaters: must be a list, [ … ], not "none".'),
        ("room", 21, "room: must be an object, { … }, not 21."),
    ],
)
def test_each_fault_is_one_plain_sentence_with_its_path(path: str, value: Any, expected: str) -> None:
    found = faults_of(changed(path, value))
    assert len(found) == 1
    assert found[0].startswith(expected)


HALF_A_VENT = "enclosure.vents[0]: give either the free area, or the number of round holes and how wide each is."


@pytest.mark.parametrize(
    "given", [{}, {"holes": 4}, {"hole_mm": 10.0}, {"area_cm2": 20.0, "holes": 4}, {"area_cm2": 20.0, "hole_mm": 10.0}]
)
def test_a_vent_has_its_area_said_in_one_way(given: dict[str, float]) -> None:
    assert faults_of(changed("enclosure.vents", [{"face": "back", "z_m": 0.3, **given}])) == [HALF_A_VENT]


@pytest.mark.parametrize(
    ("given", "area_m2"), [({"area_cm2": 20.0}, 20e-4), ({"holes": 4, "hole_mm": 10.0}, 4 * math.pi * 0.005**2)]
)
def test_either_way_gives_its_free_area(given: dict[str, float], area_m2: float) -> None:
    design = read_design(json.dumps(changed("enclosure.vents", [{"face": "back", "z_m": 0.3, **given}])))
    assert design.enclosure.vents[0].area_m2 == pytest.approx(area_m2)


@pytest.mark.parametrize(
    ("content", "expected"),
    [
        (b"", "the file is empty."),
        (b"  \n", "the file is empty."),
        (b"hello", "the file is not JSON: line 1, column 1"),
        (b"[1, 2]", "a design file holds one object, { … }."),
        (b"\xff\xfe\x00", "the file is not UTF-8 text"),
        (b"x" * 50_000_000, "the file is larger than 1 MB; a design is a few kilobytes."),
        (b'{"a": 1, "a": 2}', "a: the key is given twice"),
        (b"[" * 100_000, "the file is nested too deeply"),
    ],
)
def test_what_is_no_design_at_all_is_said_in_one_line(content: bytes, expected: str) -> None:
    found = faults_of(content)
    assert len(found) == 1
    assert found[0].startswith(expected)


def test_every_fault_of_a_file_is_found_at_once() -> None:
    design = changed("heaters.0.watts", -5)
    design["enclosure"]["height_m"] = 4
    del design["room"]["winter"]
    assert len(faults_of(design)) == 3


@pytest.mark.parametrize(
    ("path", "value", "sentence"),
    [
        ("room.months", [{"day_c": 20.0, "night_c": 18.0}] * 3, "months holds 12 entries"),
        ("room.latitude", 120.0, "must be at most 90"),
        ("room.tariff_per_kwh", -1.0, "must be at least 0"),
        ("schedule", {"day_start": "25:00"}, "schedule.day_start"),
        ("schedule", {"after_dark_h": {"Nobody": 2.0}}, "there is no source 'Nobody'"),
        ("approach", "moonlit", "must be 'sunlit'"),
    ],
)
def test_year_schedule_and_approach_are_read_strictly(path: str, value: object, sentence: str) -> None:
    design = box_data()
    place: Any = design
    *way, last = path.split(".")
    for step in way:
        place = place[step]
    place[last] = value
    assert sentence in " ".join(faults_of(design))


def test_a_lamp_above_the_mesh_needs_a_mesh_and_a_place_above_the_lid() -> None:
    assert "no mesh lid" in " ".join(faults_of(changed("heaters.0.above_mesh", True)))
    tank = tank_data()
    tank["heaters"][0]["z_m"] = 0.40
    assert "hangs higher than 45 cm" in faults_of(tank)[0]


def test_a_substrate_that_fills_the_box_is_refused() -> None:
    design = {**box_data(z_m=0.58), "substrate": {"depth_mm": 450}}
    assert plain(faults_of(design)[0]).startswith(
        "substrate.depth_mm: 450 mm of ground leaves the animal too little room in a box 600"
    )


def test_two_heaters_of_one_name_are_refused() -> None:
    design = box_data()
    design["heaters"].append(dict(design["heaters"][0]))
    assert faults_of(design) == ["heaters: 2 of them are called 'Lamp'; each needs a name of its own."]


def test_a_mesh_that_reaches_past_the_top_is_refused() -> None:
    tank = tank_data()
    tank["enclosure"]["lid_mesh"] = {"mesh": "mesh-fine", "x_m": 0.8, "y_m": 0.2, "length_m": 0.4, "depth_m": 0.2}
    assert "reaches past the left or right end" in faults_of(tank)[0]


def test_designs_are_values_equal_and_hashable() -> None:
    assert read(ledge_data()) == read(ledge_data())
    assert len({read(ledge_data()), read(ledge_data()), read(tank_data())}) == 2


@pytest.mark.parametrize(
    ("content", "sentence"),
    [
        (json.dumps({"format": "mitten-design/1", "heaters": [{}] * 170_000}), "heaters: holds far more entries"),
        (json.dumps({"format": "mitten-design/1", **{f"k{n}": 1 for n in range(60_000)}}), "holds far more entries"),
        ('{"format": "mitten-design/1", "tilt": ' + "9" * 5000 + "}", "out of range"),
        ('{"format": "mitten-design/1", "name": "a\\ud800b"}', "Invalid JSON"),
        ('{"\\ud800": 1, "\\ud800": 2}', "given twice"),
        (json.dumps({"format": "mitten-design/1", "name": "n" * 900_000}), "too long; at most 80 characters"),
    ],
)
def test_what_is_far_from_any_design_is_refused_soon_and_in_a_sentence(content: str, sentence: str) -> None:
    with pytest.raises(BadDesignError) as refused:
        read_design(content.encode())
    said = [str(fault) for fault in refused.value.faults]
    assert any(sentence in one for one in said)
    assert len(said) < 100
    assert "".join(said).encode()
