"""The Animal and the Box & room sheets: everything in a design can be set, and what is refused says why."""

from typing import Any

import pytest
from starlette.testclient import TestClient

from mitten.core.catalogue import load_presets
from mitten.store import Shelf
from mitten.web.new import new_design
from tests.catalogue import CATALOGUE

BOX = "/enclosures/1"


def send(client: TestClient, form: str, **fields: str) -> Any:
    keys = {key.replace("__", "."): value for key, value in fields.items()}
    return client.post(f"{BOX}/sheet/{form}?sheet=box", data=keys)


def test_species_and_stage_change_the_targets(client: TestClient, shelf: Shelf) -> None:
    answer = client.post(
        f"{BOX}/sheet/animal?sheet=animal", data={"animal.species": "rosy-boa", "animal.stage": "hatchling"}
    )
    assert answer.status_code == 200
    animal = shelf.open(1).design.animal
    assert (animal.species, animal.stage) == ("rosy-boa", "hatchling")
    assert "life stage adult to hatchling" in shelf.history(1)[0].summary
    assert "Lichanura trivirgata" in answer.text


@pytest.mark.slow
def test_own_targets_stand_in_place_of_the_species_and_can_be_given_up(client: TestClient, shelf: Shelf) -> None:
    client.post(f"{BOX}/sheet/targets", data={"night_c.low": "15", "night_c.high": "22", "danger_body_c": "41"})
    own = shelf.open(1).design.animal.targets
    assert (own.night_c, own.danger_body_c, own.humidity) == ((15.0, 22.0), 41.0, None)
    client.post(f"{BOX}/sheet/animal", data={"animal.species": "rosy-boa"})
    assert shelf.open(1).design.animal.targets.night_c is None, "figures for one animal are not carried to another"
    client.post(f"{BOX}/undo")
    client.post(f"{BOX}/sheet/targets", data={"night_c.low": "16", "night_c.high": "26"})
    assert shelf.open(1).design.animal.targets.night_c is None
    refused = client.post(f"{BOX}/sheet/targets?sheet=animal", data={"night_c.low": "30", "humidity.high": "140"})
    assert refused.status_code == 422
    for words in ("The low end is above the high end.", "Between 0 and 100%.", 'value="140"'):
        assert words in refused.text


@pytest.mark.slow
def test_what_is_borne_is_set_beside_what_is_wanted_and_always_holds_it(client: TestClient, shelf: Shelf) -> None:
    client.post(f"{BOX}/sheet/targets", data={"bearable.cool_air_c.low": "17", "bearable.cool_air_c.high": "30"})
    assert shelf.open(1).design.animal.targets.bearable.cool_air_c == (17.0, 30.0)
    narrow = {"bearable.cool_air_c.low": "22", "bearable.cool_air_c.high": "25"}
    client.post(f"{BOX}/sheet/targets", data=narrow)
    assert shelf.open(1).design.animal.targets.bearable.cool_air_c == (20.0, 28.0)
    refused = client.post(f"{BOX}/sheet/targets?sheet=animal", data={"bearable.cool_air_c.low": "hot"})
    assert refused.status_code == 422
    assert "is not a number" in refused.text
    page = client.get("/library/species/collared-lizard").text
    assert "Bears for days" in page


@pytest.mark.slow
def test_a_thermostat_has_setpoints_of_its_own_for_summer_and_a_cut_out_on_every_page(
    client: TestClient, shelf: Shelf
) -> None:
    coast = "/enclosures/6"
    (name,) = (control.name for control in shelf.open(6).design.controls)
    form = f"{coast}/part/controls:{name}"
    client.post(form, data={"summer.day_c": "24", "cut_out_c": "60"})
    control = shelf.open(6).design.controls[0]
    assert control.summer is not None
    assert (control.setpoint_c(True, 1.0), control.cut_out_c) == (24.0, 60.0)
    assert control.setpoint_c(True) == control.day_c
    refused = client.post(form, data={"cut_out_c": "5"})
    assert refused.status_code == 422
    assert "must be above every setpoint" in refused.text
    sheet = client.get(f"{coast}/build-sheet").text
    assert "by day (24 °C in summer)" in sheet
    assert ", with a cut-out in line at 60 °C. Its probe is" in sheet
    assert "Outlet (RCD/GFCI) → cut-out (a second thermostat, its own probe beside the first) →" in sheet
    assert "as a cut-out in line, rated for" in client.get(f"{coast}/shopping").text
    client.post(form, data={"summer.day_c": "", "cut_out_c": ""})
    assert (shelf.open(6).design.controls[0].summer, shelf.open(6).design.controls[0].cut_out_c) == (None, None)


@pytest.mark.slow
def test_day_approach_and_power_are_set(client: TestClient, shelf: Shelf) -> None:
    client.post(
        f"{BOX}/sheet/day", data={"schedule.day_start": "07:30", "schedule.day_hours": "11", "after:Main lamp": "1,5"}
    )
    schedule = shelf.open(1).design.schedule
    assert schedule is not None
    assert (schedule.day_start, schedule.day_hours, schedule.after_dark_h) == ("07:30", 11.0, {"Main lamp": 1.5})
    refused = client.post(f"{BOX}/sheet/day?sheet=animal", data={"schedule.day_start": "noon"})
    assert refused.status_code == 422
    client.post(f"{BOX}/sheet/animal", data={"approach": "lightless", "decide_by": "irradiance"})
    assert "not-the-approach" in client.get(BOX).text
    send(client, "place", room__tariff_per_kwh="0,25", room__currency="CHF", room__latitude="47", room__winter__rh="35")
    room = shelf.open(1).design.room
    assert (room.tariff_per_kwh, room.currency, room.latitude, room.winter.rh) == (0.25, "CHF", 47.0, 0.35)
    assert "CHF" in client.get(BOX).text


def test_a_smaller_box_keeps_its_parts_inside(client: TestClient, shelf: Shelf) -> None:
    answer = send(client, "box", enclosure__length_m="80", enclosure__height_m="45", enclosure__underside__raised="no")
    assert answer.status_code == 200
    design = shelf.open(1).design
    assert (design.enclosure.length_m, design.enclosure.underside.raised) == (0.8, False)
    assert design.heaters[0].x_m <= 0.8
    assert design.heaters[0].z_m <= 0.45
    assert design.sites[0].x_m + design.sites[0].length_m / 2 <= 0.8
    refused = send(client, "box", enclosure__length_m="9 m")
    assert "Between 15 and 400 cm." in refused.text
    assert 'value="9 m"' in refused.text


@pytest.mark.slow
def test_panels_walls_and_ground_are_set(client: TestClient, shelf: Shelf) -> None:
    send(client, "panels", enclosure__panels__back__material="plywood", enclosure__panels__back__insulation_mm="20")
    send(client, "against", against__back="yes", against__floor="yes")
    send(client, "ground", substrate__depth_mm="80", substrate__moisture="damp", substrate__misting_ml_day="40")
    client.post(f"{BOX}/layers")
    design = shelf.open(1).design
    back = design.enclosure.panels.back
    assert (back.material, back.insulation_mm) == ("plywood", 20.0)
    assert set(design.enclosure.against) == {"back", "floor"}
    assert (design.substrate.moisture, len(design.substrate.layers)) == ("damp", 1)
    client.post(f"{BOX}/sheet/ground", data={"substrate.layers[0].material": "gravel"})
    assert shelf.open(1).design.substrate.layers[0].material == "gravel"
    client.post(f"{BOX}/layers", data={"remove": "0"})
    assert shelf.open(1).design.substrate.layers == ()


@pytest.mark.parametrize("kind", ["mesh", "part-mesh", "open", "solid"])
def test_the_lid_becomes_every_kind(client: TestClient, shelf: Shelf, kind: str) -> None:
    assert send(client, "lid", lid=kind).status_code == 200
    box = shelf.open(1).design.enclosure
    assert box.open_top is (kind == "open")
    assert (box.lid_mesh is not None) is (kind in ("mesh", "part-mesh"))
    assert kind != "part-mesh" or (box.lid_mesh is not None and box.lid_mesh.length_m == 0.6)


@pytest.mark.slow
def test_a_lamp_above_the_mesh_comes_in_when_the_lid_is_closed(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/2/sheet/lid", data={"lid": "solid"})
    lamp = shelf.open(2).design.heaters[0]
    assert not lamp.above_mesh
    assert lamp.z_m < 0.45


@pytest.mark.slow
def test_months_are_set_and_given_up(client: TestClient, shelf: Shelf) -> None:
    send(client, "months", **{"room__months[0]__day_c": "15"})
    months = shelf.open(1).design.room.months
    assert (len(months), months[0].day_c) == (12, 15.0)
    send(client, "months", forget="yes")
    assert shelf.open(1).design.room.months == ()


@pytest.mark.parametrize("key", [*load_presets().boxes, *load_presets().boards])
def test_every_preset_fits_a_furnished_box(client: TestClient, shelf: Shelf, key: str) -> None:
    from mitten.web.edits import apply_preset

    for number in (1, 2, 4):
        design = apply_preset(shelf.open(number).design, CATALOGUE, key)
        assert design.sites == () or design.sites[0].x_m <= design.enclosure.length_m


def test_a_new_enclosure_is_made_for_any_species(client: TestClient, shelf: Shelf) -> None:
    answer = client.post("/enclosures", data={"species": "hermanns-tortoise"}, follow_redirects=False)
    assert answer.headers["location"] == "/enclosures/7?sheet=animal"
    assert shelf.open(7).design == new_design("hermanns-tortoise", CATALOGUE)
    page = client.get("/enclosures/7").text
    assert "no heat yet" in page
    assert "day not set" in page


@pytest.mark.slow
def test_units_are_remembered_and_what_is_shown_rounded_is_not_changed(client: TestClient, shelf: Shelf) -> None:
    answer = client.post(
        "/units",
        data={"system": "us"},
        headers={"referer": "http://testserver/enclosures/1?sheet=box"},
        follow_redirects=False,
    )
    assert answer.headers["location"] == "/enclosures/1?sheet=box"
    page = client.get(BOX + "?sheet=box").text
    assert 'value="47.2"' in page
    before = shelf.open(1).design
    client.post(f"{BOX}/sheet/box", data={"enclosure.length_m": "47.2", "enclosure.depth_m": "23.6"})
    assert shelf.open(1).design == before
    client.post(f"{BOX}/sheet/box", data={"enclosure.length_m": "4 ft"})
    assert shelf.open(1).design.enclosure.length_m == pytest.approx(1.2192)
    assert "in inside" in client.get(BOX + "?sheet=box").text


def test_a_saved_drawing_stands_alone(client: TestClient) -> None:
    for sheet in ("heat", "animal", "box"):
        saved = client.get(f"{BOX}/drawing.svg?sheet={sheet}")
        assert saved.headers["content-type"].startswith("image/svg+xml")
        assert saved.text.startswith('<svg xmlns="http://www.w3.org/2000/svg"')
        assert ".built-wall" in saved.text
