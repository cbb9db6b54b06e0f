"""The library under many hands, and what travels in files: own entries in a design's file, and the library itself."""

import json
import sqlite3
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path
from typing import Any

from starlette.testclient import TestClient

from mitten.core.catalogue import read_carrying, shipped_catalogue
from mitten.store import OwnLibrary, Shelf, open_database
from mitten.web.app import create_app
from tests.serving import TEST_HOSTS

SAVES = 20
KEY = "flood-of-mine"


def test_of_many_saves_at_one_moment_none_is_lost(client: TestClient, shelf: Shelf) -> None:
    def save(number: int) -> int:
        label = "Flood of mine" if number % 2 else f"Flood {number}"
        return client.post("/library/sources/halogen-flood?copy=true", data={"label": label}).status_code

    before = len(shelf.catalogue.sources)
    with ThreadPoolExecutor(SAVES) as hands:
        assert set(hands.map(save, range(SAVES))) == {200}
    assert len(shelf.catalogue.sources) == before + SAVES
    assert len(OwnLibrary(shelf.connection).entries()["sources"]) == SAVES


def with_own_flood(client: TestClient, watts: str = "75") -> str:
    """An enclosure's file with a lamp of the keeper's own."""
    client.post("/library/sources/halogen-flood?copy=true", data={"label": "Flood of mine", "beam": watts})
    client.post("/enclosures/1/add", data={"what": KEY})
    return client.get("/enclosures/1/file").text


def test_a_design_carries_the_own_entries_that_it_names_and_another_library_takes_them_in(
    client: TestClient, shelf: Shelf, tmp_path: Path
) -> None:
    file = with_own_flood(client)
    assert set(json.loads(file)["library"]) == {"sources"}
    assert "library" not in json.loads(client.get("/enclosures/2/file").text)
    design, arrived = read_carrying(file, shipped_catalogue())
    assert design.heaters[-1].kind == KEY
    assert arrived.catalogue.sources[KEY] == shelf.catalogue.sources[KEY]
    there = Shelf(open_database(tmp_path / "other.sqlite3"))
    with TestClient(create_app(there, hosts=TEST_HOSTS)) as other:
        answer = other.post("/designs", files={"design_file": ("a.mitten.json", file)}, follow_redirects=False)
        assert answer.status_code == 303
        assert there.open(1).design.heaters[-1].kind == KEY
        assert there.catalogue.sources[KEY].label == "Flood of mine"


def test_an_entry_that_is_here_with_other_figures_stays_and_the_one_that_came_is_added(
    client: TestClient, shelf: Shelf
) -> None:
    data = json.loads(with_own_flood(client))
    data["library"]["sources"][KEY]["label"] = "Flood of theirs"
    answer = client.post("/designs", files={"design_file": ("a.mitten.json", json.dumps(data))}, follow_redirects=False)
    assert answer.status_code == 303
    assert shelf.catalogue.sources[KEY].label == "Flood of mine"
    assert shelf.catalogue.sources[f"{KEY}-2"].label == "Flood of theirs"
    assert shelf.enclosures()[-1].design.heaters[-1].kind == f"{KEY}-2"


def test_what_a_file_carries_wrongly_is_said_by_its_path_and_nothing_is_stored(
    client: TestClient, shelf: Shelf
) -> None:
    data = json.loads(with_own_flood(client))
    before = len(shelf.enclosures()), dict(shelf.catalogue.sources)
    carried: list[Any] = [
        [], {"toys": {}}, {"sources": {"A B": {}}}, {"sources": {"x": {"label": "no lamp"}}}, {"sources": {"x": 1}},
        {"sources": 4},
    ]  # fmt: skip
    for wrong in carried:
        text = json.dumps({**data, "library": wrong})
        answer = client.post("/designs", files={"design_file": ("a.mitten.json", text)})
        assert answer.status_code == 422, wrong
        assert "library" in answer.text
    assert (len(shelf.enclosures()), dict(shelf.catalogue.sources)) == before


def test_the_library_is_saved_and_opened(client: TestClient, shelf: Shelf, tmp_path: Path) -> None:
    with_own_flood(client)
    client.post("/library/species/rosy-boa?copy=true", data={"label": "My boa"})
    file = client.get("/library-file").text
    there = Shelf(open_database(tmp_path / "other.sqlite3"))
    with TestClient(create_app(there, hosts=TEST_HOSTS)) as other:
        for _ in range(2):  # what is there already is not taken in again
            assert other.post("/library-file", files={"library_file": ("l.json", file)}).status_code == 200
            assert OwnLibrary(there.connection).entries() == OwnLibrary(shelf.connection).entries()
        for wrong in ("{}", "no", '{"format": "mitten-library/1", "sources": {"x": {}}}', "[]"):
            answer = other.post("/library-file", files={"library_file": ("l.json", wrong)})
            assert answer.status_code == 422
            assert "Nothing was stored" in answer.text
        assert OwnLibrary(there.connection).entries() == OwnLibrary(shelf.connection).entries()


def test_what_is_damaged_is_set_aside_and_named_and_the_rest_works(client: TestClient, shelf: Shelf) -> None:
    with shelf.connection.writing() as tables:
        for table, key, content in (("toys", "x", "{}"), ("sources", "bad-json", "{"), ("uvb", "no-lamp", "{}")):
            tables.own_entry.create(collection=table, name=key, made_at="", content=content)
    # As a disk does it: past every check of the database.
    with closing(sqlite3.connect(shelf.connection.database.database)) as raw:
        raw.execute("UPDATE enclosure SET current_id = CASE id WHEN 1 THEN NULL ELSE 1000000 END WHERE id <= 2")
        raw.commit()
    with TestClient(create_app(shelf, hosts=TEST_HOSTS)) as again:
        page = again.get("/")
        assert page.status_code == 200
        assert all(f"'{key}'" in page.text for key in ("x", "bad-json", "no-lamp"))
        assert page.text.count("cannot be read, and is kept") == 2
        assert len(shelf.enclosures()) == 4
        assert "bad-json" in again.get("/library").text
        for number in (1, 2):
            broken = again.get(f"/enclosures/{number}")
            assert broken.status_code == 500
            assert "missing from the data file" in broken.text
            again.post(f"/enclosures/{number}/undo")
            assert again.get(f"/enclosures/{number}").status_code == 200
        assert len(shelf.enclosures()) == 6
