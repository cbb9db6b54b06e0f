"""Days and failures on the pages: what is computed is what is shown, and what cannot be gone through is said."""

import csv
import html
import io
from collections.abc import Iterator
from html import unescape

import numpy as np
import pytest
from starlette.testclient import TestClient

from mitten.core.design import Design
from mitten.core.design.units import METRIC
from mitten.core.judge import read_condition
from mitten.core.judge.days import Failure, of_condition, of_season, run
from mitten.core.judge.outlooks import everything_that_fails
from mitten.store import Shelf
from mitten.web.routes import check
from mitten.web.routes.days import read_room
from tests.catalogue import CATALOGUE
from tests.web.undertaken import whole

LEDGE, TUB, COAST = "/enclosures/1", "/enclosures/4", "/enclosures/6"


@pytest.mark.slow
def test_the_day_on_the_page_is_the_day_of_the_model(client: TestClient, shelf: Shelf) -> None:
    data = client.get(f"{TUB}/day.json?season=winter").json()
    through = of_season(shelf.open(4).design, CATALOGUE, "winter")
    day = through.moving.repeating_day(through.happening)
    lines = {line["label"]: line["values"] for line in data["lines"]}
    np.testing.assert_allclose(lines["Air, warm end"], day.warm_c[::2], atol=0.2)
    np.testing.assert_allclose(lines["Probe of Thermostat"], day.probes_c[::2, 0], atol=0.2)
    assert data["minutes"][0] == 480
    assert data["dark"] == [[1200.0, 1920.0]]
    assert max(lines["All sources, W"]) == 16.0
    np.testing.assert_allclose(lines["Humidity, %"], 100 * day.rh_mean[::2], atol=1.0)
    noon = day.climate_at(360).hide_air_c("Warm hide")
    assert lines["Air in Warm hide"][180] == pytest.approx(noon, abs=0.3)


@pytest.mark.slow
def test_the_day_is_told_in_a_table_and_in_the_keepers_units(client: TestClient) -> None:
    page = client.get(f"{TUB}/day?season=winter").text
    assert "Air, warm end" in page
    assert "Thermostat: on for" in page
    client.cookies.set("units", "us")
    in_us = client.get(f"{TUB}/day?season=winter").text
    assert "°F" in in_us
    assert "°C</td>" not in in_us


@pytest.mark.slow
def test_every_minute_is_there_as_csv(client: TestClient) -> None:
    rows = list(csv.DictReader(io.StringIO(client.get(f"{TUB}/day.csv?season=winter").text)))
    assert len(rows) == 1441
    assert float(rows[0]["room_c"]) == pytest.approx(18.0)
    assert {"Mat.watts", "Thermostat.duty", "Warm hide.air_c", "rh_mean"} <= set(rows[0])


@pytest.mark.slow
def test_the_box_is_drawn_at_a_minute(client: TestClient) -> None:
    noon, night = (client.get(f"{TUB}/day/moment?season=winter&minute={minute}") for minute in (1190, 1900))
    assert noon.headers["content-type"] == "image/svg+xml"
    assert "Warm hide" in noon.text
    assert noon.text != night.text


@pytest.mark.slow
def test_a_room_of_ones_own_is_gone_through(client: TestClient) -> None:
    data = client.get(f"{TUB}/day.json?season=winter&room=10,30").json()
    room = next(line for line in data["lines"] if line["key"] == "room")["values"]
    assert min(room) == pytest.approx(10.0, abs=0.1)
    assert max(room) == pytest.approx(30.0, abs=0.1)


@pytest.mark.slow
@pytest.mark.parametrize(("system", "typed", "low_c"), [("metric", "10, 30", 10.0), ("us", "50, 86 °F", 10.0)])
def test_the_chart_is_of_the_room_that_was_typed(client: TestClient, system: str, typed: str, low_c: float) -> None:
    client.cookies.set("units", system)
    page = client.get(f"{TUB}/day", params={"season": "winter", "room": typed}).text
    address = html.unescape(page.partition('data-course="')[2].partition('"')[0])
    lines = {line["key"]: line["values"] for line in client.get(address).json()["lines"]}
    lowest = min(lines["room"]) if system == "metric" else (min(lines["room"]) - 32) / 1.8
    assert lowest == pytest.approx(low_c, abs=0.1)
    row = page.partition(">Room</th>")[2].partition("</tr>")[0]
    assert f"{min(lines['room']):.1f}" in row


@pytest.mark.parametrize(
    ("query", "words"),
    [
        ("season=spring", "is no season"),
        ("season=winter&room=20", "Give 2 to 24 temperatures from midnight on; this is one."),
        ("season=winter&room=eight", "&#39;eight&#39; is not a number"),
        ("season=winter&room=" + "9," * 25, "these are 25."),
        ("season=winter&room=20,warm", "warm"),
        ("season=winter&room=20,900", "outside"),
        ("season=winter&failure=flood", "is no failure"),
        ("season=winter&failure=dead:Nobody", "is called &#39;Nobody&#39;"),
        ("season=winter&failure=fan-stopped", "needs a fan"),
    ],
)
def test_what_cannot_be_gone_through_is_said(client: TestClient, query: str, words: str) -> None:
    answer = client.get(f"{TUB}/day?{query}")
    assert answer.status_code == 422
    assert words in answer.text
    assert client.get(f"{TUB}/day.json?{query}").status_code == 422


def test_between_semicolons_a_comma_is_a_decimal_one() -> None:
    assert read_room("18,5; 17; ", METRIC) == (18.5, 17.0)
    assert read_room("18.5, 17", METRIC) == (18.5, 17.0)
    assert read_room(" ; ", METRIC) == ()


@pytest.fixture
def summer_alone(monkeypatch: pytest.MonkeyPatch) -> None:
    """The first season alone: the others take as long again each."""
    everything = everything_that_fails

    def of_one_season(design: Design, first: str) -> Iterator[tuple[str, Failure]]:
        return (one for one in everything(design, first) if one[0] == first and one[1].kind in KINDS)

    monkeypatch.setattr(check, "everything_that_fails", of_one_season)


KINDS = ("stuck-on", "heat-wave", "power-cut", "room-heating")


@pytest.mark.slow
@pytest.mark.usefixtures("summer_alone")
def test_failures_are_listed_with_the_worst_first(client: TestClient) -> None:
    page = whole(client, f"{COAST}/failures", "?season=summer")
    labels = ["Thermostat stuck on", "Heat-wave afternoon", "Power cut"]
    places = [page.index(label) for label in labels]
    assert places == sorted(places)
    assert "until its body is in danger" in page
    assert "Room heating failed" not in page, "no room is heated in summer"
    assert client.get(f"{COAST}/failures?season=spring").status_code == 422
    assert client.post(f"{COAST}/failures/begin?season=spring").status_code == 422


@pytest.mark.slow
@pytest.mark.usefixtures("summer_alone")
def test_what_is_dangerous_already_is_not_softened(client: TestClient) -> None:
    page = whole(client, f"{TUB}/failures", "?season=summer")
    assert page.count("Dangerous before anything fails: in summer its skin is in danger") == 1, "once, and first"
    assert page.index("Dangerous before anything fails") < page.index("<table")
    assert "under the ground" in page


@pytest.mark.parametrize("sheet", ["control", "check", "day"])
def test_a_drawing_can_be_saved_from_every_sheet(client: TestClient, sheet: str) -> None:
    saved = client.get(f"{LEDGE}/drawing.svg?sheet={sheet}&condition=summer-day")
    assert saved.status_code == 200
    assert "Ledge" in saved.text
    assert client.get(f"{LEDGE}/sketch?sheet={sheet}").status_code == 200


@pytest.mark.parametrize("sheet", ["check", "day"])
def test_the_sheets_in_time_open_at_once_and_ask_for_their_insides(client: TestClient, sheet: str) -> None:
    page = client.get(f"{LEDGE}?sheet={sheet}&condition=summer-day").text
    assert "season=summer" in page
    assert 'hx-trigger="load"' in page
    assert 'aria-current="page">Check</a>' in page


@pytest.mark.slow
def test_probe_places_are_compared_and_one_is_taken(client: TestClient, shelf: Shelf) -> None:
    sheet = client.get(f"{COAST}?sheet=control").text
    assert 'aria-current="page">Control</a>' in sheet
    assert "at most 300 W" in sheet
    assert "a dimming thermostat suits it" in sheet, "as plans and new panels have it"
    places = client.get(f"{COAST}/control/Pulse").text
    assert "The rule book objects: The probe of 'Pulse' lies where the animal basks" in unescape(places)
    assert 1 <= places.count("Take it</button>") < 5
    before = shelf.open(6).design.controls[0]
    taken = {"probe.where": "middle", "day_c": "25.5", "summer.day_c": ""}
    assert client.post(f"{COAST}/part/controls:Pulse?sheet=control", data=taken).status_code == 200
    after = shelf.open(6).design.controls[0]
    assert after.day_c == 25.5
    assert after.summer is None or after.summer.day_c is None
    assert after.probe != before.probe
    assert after.night_c == before.night_c


def test_a_thermostat_that_is_not_there_or_no_power_is_enough_for_is_said(client: TestClient) -> None:
    assert client.get(f"{COAST}/control/Nobody").status_code == 404
    assert "see to the heat first" in client.get(f"{TUB}/control/Thermostat").text
    assert "No source of this enclosure is on a thermostat" in client.get(f"{LEDGE}?sheet=control").text


@pytest.mark.slow
def test_it_is_said_when_to_measure(client: TestClient, shelf: Shelf) -> None:
    said = client.get(f"{COAST}/warm-up?season=winter").text
    design = shelf.open(6).design
    course = run(of_condition(design, CATALOGUE, read_condition(design, "winter-day")), 36, from_room=True)
    minutes = course.warm_up_minutes
    assert minutes is not None
    assert 120 < minutes < 300, "a stone under a panel"
    assert f"{int(minutes // 60)} h" in said
    stone = course.site_c("Flat stone")
    assert abs(stone[int(minutes)] - stone[-1]) <= 0.05 * (stone[-1] - stone[0]) + 0.01
    assert client.get(f"{COAST}/warm-up?season=spring").status_code == 422
