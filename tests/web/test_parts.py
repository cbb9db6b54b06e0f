"""Adding, changing and removing parts on the Heat page; whiskers and setpoints that come after the figures."""

from functools import reduce
from typing import Any

import pytest
from starlette.testclient import TestClient

from mitten.core.design import Light, UvbLamp
from mitten.core.design.amounts import plain
from mitten.store import Shelf
from tests.catalogue import CATALOGUE

BOX, TUB, TABLE, COAST = 1, 4, 5, 6


def add(client: TestClient, enclosure: int, what: str) -> Any:
    return client.post(f"/enclosures/{enclosure}/add", data={"what": what})


@pytest.mark.slow
@pytest.mark.parametrize("kind", sorted(CATALOGUE.sources))
def test_every_source_can_be_added_and_is_computed(client: TestClient, shelf: Shelf, kind: str) -> None:
    answer = add(client, BOX, kind)
    assert answer.status_code == 200
    heater = shelf.open(BOX).design.heaters[-1]
    assert heater.kind == kind
    assert f"{heater.name} added" in shelf.history(BOX)[0].summary
    assert f"<h2>{heater.name}</h2>" in answer.text


@pytest.mark.slow
@pytest.mark.parametrize("what", ["uvb-tube", "uvb-compact", "light"])
def test_ultraviolet_and_light_can_be_added_and_edited(client: TestClient, shelf: Shelf, what: str) -> None:
    add(client, 2, what)
    design = shelf.open(2).design
    lit: list[UvbLamp | Light] = [*design.uvb, *design.lights]
    part = lit[-1]
    path = f"/enclosures/2/part/{'lights' if what == 'light' else 'uvb'}:{part.name}"
    form = {"watts": "20", "x_m": "60", "y_m": "20", "z_m": "44"}
    assert client.post(path, data=form).status_code == 200
    design = shelf.open(2).design
    lit = [*design.uvb, *design.lights]
    assert lit[-1].watts == 20.0
    refused = client.post(path, data={**form, "x_m": "400"})
    assert refused.status_code == 422
    assert "Between 0 and 90 cm." in refused.text


def test_what_is_no_source_is_refused(client: TestClient, shelf: Shelf) -> None:
    answer = add(client, BOX, "campfire")
    assert answer.status_code == 422
    assert "The catalogue has no source &#39;campfire&#39;." in answer.text
    assert shelf.open(BOX).revision == 1


def test_a_lamp_that_becomes_a_mat_settles_where_mats_lie(client: TestClient, shelf: Shelf) -> None:
    form = {"kind": "heat-mat", "watts": "50", "x_m": "94", "z_m": "44", "above_mesh": "no", "on": "day"}
    client.post(f"/enclosures/{BOX}/part/heaters:Main%20lamp", data=form)
    mat = shelf.open(BOX).design.heater("Main lamp")
    assert (mat.kind, mat.place, mat.watts) == ("heat-mat", "under-floor", 45.0)
    assert mat.length_m is not None


def test_a_heater_gets_a_new_thermostat_and_loses_it(client: TestClient, shelf: Shelf) -> None:
    path = f"/enclosures/{TABLE}/part/heaters:Mercury%20lamp"
    answer = client.post(path, data={"control": "+dimming"})
    design = shelf.open(TABLE).design
    assert design.controls[0].probe is not None
    assert design.heaters[0].control == design.controls[0].name
    assert "cannot be dimmed or switched by a thermostat" in answer.text
    client.post(path, data={"control": ""})
    assert shelf.open(TABLE).design.controls == ()


CONTROL = {
    "kind": "on-off",
    "day_c": "30",
    "night_c": "",
    "probe.reads": "heater",
    "probe.x_m": "62",
    "probe.y_m": "22",
    "probe.z_m": "0",
    "probe.shaded": "yes",
}


def test_a_control_is_edited(client: TestClient, shelf: Shelf) -> None:
    answer = client.post(f"/enclosures/{TUB}/part/controls:Thermostat", data=CONTROL)
    assert answer.status_code == 200
    control = shelf.open(TUB).design.controls[0]
    assert (control.day_c, control.night_c) == (30.0, None)
    assert control.probe is not None
    assert (control.probe.reads, control.probe.shaded) == ("heater", True)
    assert "by night 28 °C to off" in plain(shelf.history(TUB)[0].summary)


@pytest.mark.parametrize(
    ("changes", "sentence"),
    [
        ({"day_c": "warm"}, "&#39;warm&#39; is not a number."),
        ({"day_c": "200"}, "Between -5 and 90 °C."),
        ({"day_c": ""}, "A thermostat needs a setpoint by day or by night"),
        ({"probe.x_m": "300"}, "Between 0 and 80 cm."),
        ({"kind": "magic"}, "Must be &#39;on-off&#39;"),
    ],
)
def test_a_refused_field_of_a_control_says_why_and_is_not_stored(
    client: TestClient, shelf: Shelf, changes: dict[str, str], sentence: str
) -> None:
    answer = client.post(f"/enclosures/{TUB}/part/controls:Thermostat", data={**CONTROL, **changes})
    assert answer.status_code == 422
    assert sentence in answer.text
    before, after = (shelf.design_at(TUB, number).controls[0] for number in (1, shelf.open(TUB).revision))
    if "A thermostat" in sentence:
        assert after == before, "what is wrong with the whole stores nothing"
    else:
        refused = next(iter(changes)).split(".")
        assert reduce(getattr, refused, after) == reduce(getattr, refused, before)
        assert after != before, "what stands beside it is stored"


@pytest.mark.slow
def test_a_control_becomes_a_timer(client: TestClient, shelf: Shelf) -> None:
    client.post(f"/enclosures/{TUB}/part/controls:Thermostat", data={**CONTROL, "kind": "timer"})
    control = shelf.open(TUB).design.controls[0]
    assert (control.kind, control.probe) == ("timer", None)
    client.post(f"/enclosures/{TUB}/part/controls:Thermostat", data={"kind": "pulse"})
    again = shelf.open(TUB).design.controls[0]
    assert again.is_thermostat
    assert again.day_c is not None


@pytest.mark.slow
def test_parts_are_removed_and_heaters_of_a_removed_control_run_free(client: TestClient, shelf: Shelf) -> None:
    client.post(f"/enclosures/{COAST}/do/remove/controls:Pulse")
    design = shelf.open(COAST).design
    assert design.controls == ()
    assert design.heaters[0].control is None
    client.post(f"/enclosures/{COAST}/do/remove/heaters:Panel")
    answer = client.post(f"/enclosures/{COAST}/do/remove/lights:Daylight%20row")
    assert shelf.open(COAST).design.heaters == ()
    assert "no heat yet" in answer.text


@pytest.mark.slow
def test_the_margin_comes_again_with_whiskers_and_keeps_them(client: TestClient) -> None:
    client.post("/enclosures/1/move/heaters:Main lamp", data={"x_m": "0.8765"})
    first = client.get("/enclosures/1").text
    assert 'hx-get="/enclosures/1/margin' in first
    assert "likely" not in first
    margin = client.get("/enclosures/1/margin").text
    assert margin.count("likely") >= 7
    assert 'class="whisker"' in margin
    again = client.get("/enclosures/1").text
    assert "likely" in again
    assert 'hx-get="/enclosures/1/margin' not in again


def test_the_setpoint_that_is_needed_is_said(client: TestClient) -> None:
    assert "set it to" in client.get(f"/enclosures/{COAST}/setpoint/Pulse").text
    assert "full power is too little" in client.get(f"/enclosures/{TUB}/setpoint/Thermostat").text
    assert "regulates nothing" in client.get(f"/enclosures/{BOX}/setpoint/Nobody").text


def test_the_page_shows_base_probe_humidity_and_the_reason(client: TestClient) -> None:
    tub = client.get(f"/enclosures/{TUB}?part=Thermostat").text
    for words in ("base 5", "probe 2", "cannot reach", "come up through it from below", "Humidity, warm · cool"):
        assert words in tub
    quarry = client.get("/enclosures/1").text
    for words in ("Silicon meter shows", "UV index", "Wanted patch covers", "takes up", "Shares of what arrives"):
        assert words in quarry


@pytest.mark.slow
def test_a_mat_moves_to_a_wall_and_under_a_slab(client: TestClient, shelf: Shelf) -> None:
    path, form = f"/enclosures/{TUB}/part/heaters:Mat", {"kind": "heat-mat", "watts": "16", "x_m": "62", "on": "always"}
    client.post(path, data={**form, "place": "wall"})
    mat = shelf.open(TUB).design.heater("Mat")
    assert (mat.place, mat.z_m) == ("wall", 0.15)
    client.post(path, data={**form, "place": "hide-roof"})
    mat = shelf.open(TUB).design.heater("Mat")
    assert (mat.place, mat.site) == ("hide-roof", "Warm hide")
    assert "warms nothing to Warm hide" in plain(shelf.history(TUB)[0].summary)


def test_a_heated_rock_is_where_the_site_is_that_it_warms(client: TestClient, shelf: Shelf) -> None:
    design = shelf.open(TUB).design
    path = f"/enclosures/{TUB}/part/heaters:{design.heaters[0].name}"
    for site in design.sites[:2]:
        form = {"kind": "hot-rock", "watts": "15", "site": site.name, "on": "always"}
        page = client.post(path, data=form).text
        rock = shelf.open(TUB).design.heaters[0]
        assert (rock.site, rock.x_m, rock.y_m) == (site.name, site.x_m, site.y_m)
    # It is moved by its site: a field of its own would change nothing.
    fields = page.split('id="part-form"')[1].split("</form>")[0]
    assert 'name="site"' in fields
    assert 'name="x_m"' not in fields


def test_a_fix_that_fits_no_more_is_refused_in_words(client: TestClient, shelf: Shelf) -> None:
    answer = client.post("/enclosures/1/fix", data={"kind": "watts", "name": "Gone", "value": "50"})
    assert answer.status_code == 422
    assert "That change does not fit any more" in answer.text
    assert shelf.open(1).revision == 1
    client.post("/enclosures/1/fix", data={"kind": "room", "name": "winter-day", "value": "22"})
    assert shelf.open(1).design.room.winter.day_c == 22.0


@pytest.mark.slow
def test_edits_of_two_forms_of_one_page_that_arrive_reversed_are_both_stored(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/1/sheet/name", data={"name": "Under the slate"}, headers={"mitten-edit": "page-a 2"})
    client.post("/enclosures/1/move/heaters:Main lamp", data={"y_m": "0.2"}, headers={"mitten-edit": "page-a 4"})
    client.post("/enclosures/1/move/heaters:Main lamp", data={"x_m": "0.8"}, headers={"mitten-edit": "page-a 3"})
    client.post("/enclosures/1/sheet/animal", data={"animal.stage": "juvenile"}, headers={"mitten-edit": "page-a 1"})
    stored = shelf.open(1).design
    lamp = stored.heater("Main lamp")
    assert (stored.name, stored.animal.stage, lamp.x_m, lamp.y_m) == ("Under the slate", "juvenile", 0.8, 0.2)


def test_an_edit_that_a_later_one_of_its_page_overtook_changes_nothing(client: TestClient, shelf: Shelf) -> None:
    path, form = f"/enclosures/{TUB}/part/heaters:Mat", {"kind": "heat-mat", "x_m": "62", "place": "under-floor"}
    for number, watts in (("2", "20"), ("1", "11")):
        client.post(path, data={**form, "watts": watts}, headers={"mitten-edit": f"page-a {number}"})
    assert shelf.open(TUB).design.heater("Mat").watts == 20.0
    client.post(path, data={**form, "watts": "7"}, headers={"mitten-edit": "page-b 1"})
    assert shelf.open(TUB).design.heater("Mat").watts == 7.0
