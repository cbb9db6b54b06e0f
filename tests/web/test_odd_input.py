"""What people and addresses ask that no page of ours does: a sentence in the application's own look, nothing changed."""

from time import sleep
from urllib.parse import quote

import pytest
from starlette.testclient import TestClient

from mitten.core.design.units import BadQuantityError
from mitten.store import Shelf
from mitten.web.edits.fields import time_of
from mitten.web.pages import static_url

NASTY = "x/../../../1/do/remove/heaters:Main lamp"


@pytest.mark.parametrize(
    ("typed", "stored"),
    [
        ("8am", "08:00"), ("8", "08:00"), ("8:30 pm", "20:30"), ("20.15", "20:15"), ("12am", "00:00"), ("12 p.m.", "12:00"),
        ("0715", "07:15"), ("7h", "07:00"), ("7 h", "07:00"), ("07:05", "07:05"),
    ],
)  # fmt: skip
def test_times_are_understood_as_people_write_them(typed: str, stored: str) -> None:
    assert time_of(typed) == stored


@pytest.mark.parametrize("typed", ["", "25:00", "8:75", "noonish", "8 am or so", "24", "x" * 40_000])
def test_what_is_no_time_is_said(typed: str) -> None:
    with pytest.raises(BadQuantityError, match="time of day"):
        time_of(typed)


def test_a_time_is_stored_as_it_was_meant_and_one_refused_takes_nothing_down(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/1/sheet/day?sheet=animal", data={"schedule.day_start": "9am", "schedule.day_hours": "11"})
    schedule = shelf.open(1).design.schedule
    assert schedule is not None
    assert (schedule.day_start, schedule.day_hours) == ("09:00", 11.0)
    answer = client.post(
        "/enclosures/1/sheet/day?sheet=animal", data={"schedule.day_start": "soon", "schedule.day_hours": "12"}
    )
    assert answer.status_code == 422
    assert "is no time of day" in answer.text
    again = shelf.open(1).design.schedule
    assert again is not None
    assert (again.day_start, again.day_hours) == ("09:00", 12.0)


def test_a_name_with_slashes_acts_on_its_own_enclosure_alone(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/3/add", data={"what": "water"})
    added = shelf.open(3).design.sites[-1].name
    client.post(f"/enclosures/3/part/{quote('sites:' + added, safe='')}", data={"name": NASTY})
    assert shelf.open(3).design.sites[-1].name == NASTY
    page = client.get(f"/enclosures/3?part={quote('sites:' + NASTY)}").text
    assert f"/do/remove/{quote('sites:' + NASTY, safe='')}" in page
    assert client.post(f"/enclosures/3/do/remove/{quote('sites:' + NASTY, safe='')}").status_code == 200
    assert NASTY not in {site.name for site in shelf.open(3).design.sites}
    assert shelf.open(1).revision == 1


def test_signs_that_cannot_be_shown_never_reach_a_drawing(client: TestClient, shelf: Shelf) -> None:
    site = shelf.open(1).design.sites[0].name
    client.post(f"/enclosures/1/part/{quote('sites:' + site, safe='')}", data={"name": "Le\x07d\x00ge"})
    assert shelf.open(1).design.sites[0].name == "Ledge"
    assert "\x07" not in client.get("/enclosures/1/drawing.svg").text


@pytest.mark.parametrize(
    ("method", "address", "status"),
    [
        ("GET", "/enclosures/1?sheet=cellar", 400),
        ("GET", "/enclosures/none", 400),
        ("GET", "/enclosures/99999", 404),
        ("GET", "/nowhere", 404),
        ("GET", "/enclosures/1/undo", 405),
        ("POST", "/help", 405),
        ("POST", "/enclosures/1/fix", 400),
    ],
)
def test_faults_are_pages_with_a_way_on(client: TestClient, method: str, address: str, status: int) -> None:
    answer = client.request(method, address)
    assert answer.status_code == status
    assert answer.headers["content-type"].startswith("text/html")
    assert "To the shelf" in answer.text
    assert answer.headers["cache-control"] == "no-store"


def test_pages_and_parts_are_told_apart_and_never_kept(client: TestClient) -> None:
    part = client.get("/enclosures/1", headers={"hx-request": "true"})
    restored = client.get("/enclosures/1", headers={"hx-request": "true", "hx-history-restore-request": "true"})
    assert "<html" not in part.text
    assert "<html" in restored.text
    for answer in (part, restored):
        assert answer.headers["cache-control"] == "no-store"
        assert "hx-request" in answer.headers["vary"].lower()
    assert client.get("/static/mitten.css").headers["cache-control"] == "no-cache"
    assert "immutable" in client.get(static_url("mitten.css")).headers["cache-control"]
    assert static_url("mitten.css") in restored.text


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"origin": "http://[", "sec-fetch-site": ""}, 403),
        ({"origin": "null"}, 403),
        ({"content-length": "many"}, 400),
        ({"content-length": "9" * 5000}, 400),
        ({"mitten-revision": "9" * 5000, "mitten-edit": "page " + "9" * 5000}, 200),
        ({"mitten-revision": "٣", "mitten-edit": " "}, 200),
        ({"cookie": "units=" + "x" * 3000}, 200),
        ({"host": "elsewhere"}, 400),
    ],
)
def test_odd_headers_are_answered_and_change_nothing_unasked(
    client: TestClient, headers: dict[str, str], status: int
) -> None:
    encoded = {key: value.encode() for key, value in headers.items()}
    answer = client.post("/enclosures/1/add", data={"what": "light"}, headers=encoded)  # type: ignore[arg-type]
    assert answer.status_code == status


def test_a_search_that_breaks_off_says_so_and_stopping_none_begins_none(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: object) -> None:
        raise KeyError("no such thing")

    monkeypatch.setattr("mitten.web.searches.search", broken)
    client.post("/enclosures/1/plans/stop", follow_redirects=False)
    searches = client.app.state.services.searches  # type: ignore[attr-defined]
    assert searches.latest(1) is None
    client.get("/enclosures/1/plans")
    assert searches.latest(1) is None, "to look at a page begins nothing"
    client.post("/enclosures/1/plans/look")
    while searches.latest(1).running:
        sleep(0.02)
    assert "broke off" in plans_view_of(client)


def plans_view_of(client: TestClient) -> str:
    """The part that shows the latest search, as it stands."""
    return client.get("/enclosures/1/plans").text
