"""Wiring of the pages: what is shown, what an edit stores, what is refused beside its field."""

import json
from pathlib import Path
from typing import Any

import pytest
from starlette.testclient import TestClient

from mitten.core.design import write_design
from mitten.core.design.amounts import plain
from mitten.demo import demo_designs
from mitten.store import Shelf, open_database
from mitten.web import create_app
from mitten.web.pages import TEMPLATES, templates
from tests.browser.test_access import MORE_VIEWS, VIEWS
from tests.designs import ledge_data
from tests.serving import TEST_HOSTS

LAMP = "/enclosures/1/part/heaters:Main%20lamp"
FORM = {"kind": "halogen-flood", "watts": "50", "x_m": "94", "z_m": "44", "above_mesh": "no", "on": "day"}
ROOM = {"room.winter.day_c": "21", "room.winter.night_c": "18", "room.summer.day_c": "23", "room.summer.night_c": "21"}


def upload(client: TestClient, content: bytes) -> Any:
    return client.post("/designs", files={"design_file": ("my.mitten.json", content)}, follow_redirects=False)


@pytest.mark.slow
def test_the_shelf_shows_every_enclosure_with_its_state(client: TestClient) -> None:
    page = client.get("/").text
    for number, design in enumerate(demo_designs(), 1):
        assert design.name in page
        assert f'hx-get="/enclosures/{number}/card"' in page
    assert "● meets" in client.get("/enclosures/1/card").text
    assert "Night air is 7.0 K too cold on a winter night." in client.get("/enclosures/2/card").text
    assert "■ dangerous" in client.get("/enclosures/4/card").text
    # What is known is shown at once from then on.
    assert "● meets" in client.get("/").text


@pytest.mark.slow
def test_every_page_is_among_those_that_are_looked_at(client: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    """A new page is to be tried with axe, on a phone and zoomed."""
    environment, filled = templates().env, set[str]()
    get = environment.get_template

    def get_and_note(name: str, *rest: Any, **more: Any) -> Any:
        filled.add(name)
        return get(name, *rest, **more)

    monkeypatch.setattr(environment, "get_template", get_and_note)
    for view in (*VIEWS, *MORE_VIEWS):
        client.get(view)
    pages = {path.name for path in TEMPLATES.glob("*.html") if "{% extends" in path.read_text(encoding="utf-8")}
    assert pages - filled == {"plans_beside.html"}, "it is looked at where plans are found"


def test_an_empty_shelf_says_what_to_do_first(tmp_path: Path) -> None:
    database = open_database(tmp_path / "empty.sqlite3")
    with TestClient(create_app(Shelf(database), hosts=TEST_HOSTS)) as client:
        page = client.get("/").text
        assert '<a href="/start">Answer five questions</a>' in page
        assert "open a design file" in page
    database.close()


def test_the_heat_page_shows_drawing_margin_and_table(client: TestClient) -> None:
    page = client.get("/enclosures/1").text
    assert "<!doctype html>" in page
    assert 'class="heat-sheet"' in page
    assert "Every target that is judged is met" in page
    assert "Bottom of the ground, hottest" in page
    assert "20 K" not in page


def test_an_htmx_request_gets_the_bench_alone(client: TestClient) -> None:
    page = client.get("/enclosures/1?condition=summer-day", headers={"hx-request": "true"}).text
    assert "<!doctype" not in page
    assert 'aria-current="true"' in page


def test_an_unknown_condition_falls_back_to_the_main_one(client: TestClient) -> None:
    assert 'id="tab-winter-day" class="tab shown"' in client.get("/enclosures/1?condition=nonsense").text


def test_an_edit_is_stored_as_a_revision_with_words(client: TestClient, shelf: Shelf) -> None:
    answer = client.post(LAMP, data={**FORM, "watts": "75", "z_m": "48,5"})
    assert answer.status_code == 200
    heater = shelf.open(1).design.heater("Main lamp")
    assert (heater.watts, heater.z_m) == (75.0, 0.545)
    assert plain(shelf.history(1)[0].summary) == "Main lamp: power 50 W to 75 W; Main lamp: above ground 44 to 48.5 cm"


def test_an_edit_that_changes_nothing_makes_no_revision(client: TestClient, shelf: Shelf) -> None:
    client.post(LAMP, data=FORM)
    assert shelf.open(1).revision == 1


@pytest.mark.parametrize(
    ("field", "value", "sentence"),
    [
        ("watts", "150", "150 W is more than the 100 W this fixture is rated for"),
        ("watts", "-5", "Must be at least 0; it is -5."),
        ("watts", "nan", "&#39;nan&#39; is not a number."),
        ("watts", "lots", "&#39;lots&#39; is not a number."),
        ("x_m", "130", "Between 0 and 120 cm."),
        ("x_m", "", "Enter a number."),
        ("z_m", "80", "Between 3 and 54 cm."),
        ("z_m", "12", "The lamp is inside &#39;Ledge&#39; or touches it; hang it higher."),
        ("kind", "laser", "The catalogue has no heat source &#39;laser&#39;"),
        ("above_mesh", "yes", "The box has no mesh lid"),
        ("on", "sometimes", "Must be &#39;day&#39;, &#39;night&#39; or &#39;always&#39;"),
    ],
)
def test_a_refused_edit_says_why_keeps_what_was_typed_and_stores_nothing(
    client: TestClient, shelf: Shelf, field: str, value: str, sentence: str
) -> None:
    answer = client.post(LAMP, data={**FORM, field: value})
    assert answer.status_code == 422
    assert sentence in answer.text
    assert 'aria-invalid="true"' in answer.text
    if field in ("x_m", "z_m"):
        assert f'name="{field}" value="{value}"' in answer.text
    assert shelf.open(1).revision == 1


@pytest.mark.slow
def test_changing_sides_of_the_mesh_moves_the_lamp_to_where_it_fits(client: TestClient, shelf: Shelf) -> None:
    form = {"kind": "halogen-flood", "watts": "75", "x_m": "70", "z_m": "48", "above_mesh": "no", "on": "day"}
    client.post("/enclosures/2/part/heaters:Dome%20lamp", data=form)
    inside = shelf.open(2).design.heaters[0]
    assert (inside.above_mesh, inside.z_m) == (False, 0.35)
    client.post("/enclosures/2/part/heaters:Dome%20lamp", data={**form, "z_m": "30", "above_mesh": "yes"})
    assert (shelf.open(2).design.heaters[0].above_mesh, shelf.open(2).design.heaters[0].z_m) == (True, 0.47)


def test_the_room_is_edited_and_refused_like_the_lamp(client: TestClient, shelf: Shelf) -> None:
    assert client.post("/enclosures/1/sheet/room", data={**ROOM, "room.winter.night_c": "12,5"}).status_code == 200
    assert shelf.open(1).design.room.winter.night_c == 12.5
    assert plain(shelf.history(1)[0].summary) == "winter night 18 to 12.5 °C"
    refused = client.post("/enclosures/1/sheet/room", data={**ROOM, "room.summer.day_c": "99"})
    assert refused.status_code == 422
    assert "Between -10 and 50 °C." in refused.text


def test_a_preview_draws_without_storing(client: TestClient, shelf: Shelf) -> None:
    answer = client.post("/enclosures/1/preview/heaters:Main%20lamp", data={"x_m": "0.4"})
    assert answer.text.startswith("<svg")
    assert "40 cm from left" in answer.text
    assert shelf.open(1).revision == 1
    assert client.post("/enclosures/1/preview/heaters:Gone", data={"x_m": "0.4"}).status_code == 422


def test_undo_redo_and_history_lead_back(client: TestClient, shelf: Shelf) -> None:
    client.post(LAMP, data={**FORM, "watts": "75"})
    client.post("/enclosures/1/undo")
    assert shelf.open(1).design.heaters[0].watts == 50.0
    client.post("/enclosures/1/redo")
    assert shelf.open(1).design.heaters[0].watts == 75.0
    assert "Main lamp: power 50 W to 75 W" in client.get("/enclosures/1/history").text
    client.post("/enclosures/1/history/1")
    assert shelf.open(1).design.heaters[0].watts == 50.0


def test_a_saved_file_can_be_opened_again(client: TestClient, shelf: Shelf) -> None:
    saved = client.get("/enclosures/1/file")
    assert saved.headers["content-disposition"] == 'attachment; filename="quarry-ledge.mitten.json"'
    assert upload(client, saved.content).headers["location"] == "/enclosures/7"
    assert shelf.open(7).design == shelf.open(1).design


@pytest.mark.parametrize(
    ("content", "sentence"),
    [
        (b"", "the file is empty."),
        (b"nonsense", "the file is not JSON"),
        (json.dumps({**ledge_data(), "colour": 1}).encode(), "unknown key."),
        (json.dumps(ledge_data(x_m=2.0)).encode(), "200 cm is outside the box, which is 120 cm long."),
        (b"x" * 1_050_000, "the file is larger than 1 MB; a design is a few kilobytes."),
    ],
)
def test_a_file_with_faults_is_refused_with_each_of_them(
    client: TestClient, shelf: Shelf, content: bytes, sentence: str
) -> None:
    answer = upload(client, content)
    assert answer.status_code == 422
    assert sentence in answer.text
    assert "Nothing was stored" in answer.text
    assert len(shelf.enclosures()) == len(demo_designs())


def test_a_fifty_megabyte_upload_is_refused_beside_the_field(client: TestClient, shelf: Shelf) -> None:
    files = {"design_file": ("my.mitten.json", b"x" * 50_000_000)}
    page = client.post("/designs", files=files, follow_redirects=True).text
    assert "the file is larger than 1 MB; a design is a few kilobytes." in page
    assert 'aria-invalid="true"' in page
    assert len(shelf.enclosures()) == len(demo_designs())


def test_other_bodies_that_are_too_large_or_of_unknown_length_are_refused(client: TestClient) -> None:
    assert client.post("/enclosures/1/sheet/room", content=b"x" * 2_000_000).status_code == 413
    assert client.post("/enclosures/1/sheet/room", content=iter([b"x"])).status_code == 411


def test_pages_that_are_not_there_say_so(client: TestClient) -> None:
    assert "There is no enclosure 99 on the shelf." in client.get("/enclosures/99").text
    assert client.get("/enclosures/99").status_code == 404
    assert "There is no such page." in client.get("/nowhere").text


def test_a_name_with_markup_is_shown_as_text(client: TestClient) -> None:
    design = json.loads(write_design(demo_designs()[0]))
    design["name"] = "<script>alert(1)</script>"
    location = upload(client, json.dumps(design).encode()).headers["location"]
    assert "<script>alert" not in client.get(location).text
