"""The year on the pages: its form, its months, its calendar read back, answers of Check and the front."""

from dataclasses import replace
from datetime import date, timedelta
from time import sleep
from typing import Any

import pytest
from icalendar import Calendar
from starlette.testclient import TestClient

from mitten.core.design.amounts import plain
from mitten.core.design.units import METRIC, US, BadQuantityError
from mitten.core.plan.failsafe import CutOut, Help, Survivable
from mitten.core.plan.year import CalendarChange
from mitten.reports import year_calendar
from mitten.store import Shelf
from mitten.web.edits.fields import month_day_of, month_day_words
from mitten.web.routes import check
from mitten.web.views.check import failures_view
from tests.outlooks import stuck_on
from tests.web.undertaken import whole

CANYON, TUB, COAST = "/enclosures/2", "/enclosures/4", "/enclosures/6"
HX = {"hx-request": "true"}
COOLING = "schedule.cooling."


def events_of(calendar: bytes) -> list[Any]:
    """What a parser of RFC 5545 finds."""
    return list(Calendar.from_ical(calendar).walk("VEVENT"))


@pytest.mark.slow
def test_the_year_is_planned_and_its_calendar_is_read_back(client: TestClient, shelf: Shelf) -> None:
    form = {"schedule.day_length": "seasons", "schedule.winter_hours": "9", "schedule.summer_hours": "14",
            f"{COOLING}starts": "15 Nov"}  # fmt: skip
    assert client.post(f"{CANYON}/sheet/year?sheet=year", data=form, headers=HX).status_code == 200
    schedule = shelf.open(2).design.schedule
    assert schedule is not None
    assert (schedule.winter_hours, schedule.summer_hours) == (9.0, 14.0)
    assert schedule.cooling is not None
    assert (schedule.cooling.starts, schedule.cooling.weeks) == ("11-15", 8)
    assert client.get(f"{CANYON}/year.ics").status_code == 409
    page = whole(client, f"{CANYON}/year")
    assert page.count("<tr>") == 13
    assert "Set the timer: on at" in page
    assert "Night heat is needed from now on" in page
    assert '<li class="danger">Night air: January to February</li>' in page, "a cool rest is judged by what it rests at"
    assert "the day is one without it" in page
    assert "its twelve months, each worked out" in client.get(f"{CANYON}/shopping").text
    answer = client.get(f"{CANYON}/year.ics")
    assert answer.headers["content-type"].startswith("text/calendar")
    events = events_of(answer.content)
    assert len(events) == page.count("<dd>") + page.count("</p><p>", page.index("<dl>"), page.index("</dl>"))
    summaries = [str(event["summary"]) for event in events]
    assert any("Cool rest for 8 weeks" in words and "15 °C by day" in words for words in summaries)
    assert all(event["rrule"]["FREQ"] == ["YEARLY"] for event in events)
    assert len({str(event["uid"]) for event in events}) == len(events)


@pytest.mark.slow
def test_a_rest_without_a_beginning_is_none_and_what_is_typed_is_understood_or_refused(
    client: TestClient, shelf: Shelf
) -> None:
    path = f"{COAST}/sheet/year?sheet=year"
    client.post(path, data={f"{COOLING}starts": "11-15", f"{COOLING}weeks": "6"}, headers=HX)
    refused = client.post(path, data={f"{COOLING}starts": "someday"}, headers=HX)
    assert refused.status_code == 422
    assert "is no day of the year" in refused.text
    too_long = client.post(path, data={f"{COOLING}starts": "1 May", f"{COOLING}weeks": "40"}, headers=HX)
    assert too_long.status_code == 422
    kept = shelf.open(6).design.schedule
    assert kept is not None
    assert kept.cooling is not None
    assert kept.cooling.weeks == 6
    client.post(path, data={f"{COOLING}starts": "", f"{COOLING}weeks": "6"}, headers=HX)
    now = shelf.open(6).design.schedule
    assert now is not None
    assert now.cooling is None
    outdoors = client.post(path, data={"schedule.day_length": "latitude"}, headers=HX)
    assert outdoors.status_code == (200 if shelf.open(6).design.room.latitude is not None else 422)


@pytest.mark.parametrize(
    ("typed", "stored"),
    [("15 November", "11-15"), ("Nov 15", "11-15"), ("15. nov", "11-15"), ("11-15", "11-15"), ("2/28", "02-28"),
     (" 1 may ", "05-01")],
)  # fmt: skip
def test_a_day_of_the_year_is_understood(typed: str, stored: str) -> None:
    assert month_day_of(typed) == stored
    assert month_day_of(month_day_words(stored)) == stored


@pytest.mark.parametrize("typed", ["", "15", "13-40", "30 Feb", "15 nob", "ma 3", "1 2 3", "x" * 5000])
def test_what_is_no_day_of_the_year_is_said(typed: str) -> None:
    with pytest.raises(BadQuantityError, match="is no day of the year"):
        month_day_of(typed)


def test_an_event_comes_again_each_year_from_its_next_day_on() -> None:
    change = CalendarChange(date(2027, 3, 1), "setpoint", "Set 'A, b; c' to \u206327.5 °C\u2064", "Why; not.")
    for today, first in ((date(2026, 11, 28), date(2027, 3, 1)), (date(2027, 3, 1), date(2027, 3, 1)),
                         (date(2027, 3, 2), date(2028, 3, 1))):  # fmt: skip
        event = events_of(year_calendar("Box, one", [change], today))[0]
        assert event["dtstart"].dt == first
        assert event["dtend"].dt == first + timedelta(days=1)
    assert str(event["summary"]) == f"Box, one: {plain(change.words)}"
    assert str(event["description"]) == "Why; not."
    in_us = events_of(year_calendar("Box", [change], date(2027, 1, 1), US))[0]
    assert "81.5 °F" in str(in_us["summary"])


def test_another_season_is_named_only_where_it_does_harm() -> None:
    mild, soon = replace(stuck_on(30.0, None), weight=(0.5, 0.0, 0.0)), stuck_on(44.0, 90.0)
    warmer = replace(mild, season="winter", weight=(1.0, 0.0, 0.0))
    assert failures_view([warmer, mild], "winter", METRIC).worse_elsewhere == ""
    assert failures_view([warmer, soon], "winter", METRIC).worse_elsewhere == (
        "Worse in summer: Thermostat stuck on, 1 h 30 min until its body is in danger."
    )
    assert failures_view([warmer, soon], "summer", METRIC).worse_elsewhere == ""


@pytest.mark.slow
def test_answers_are_worked_out_and_taken_with_a_click(
    client: TestClient, shelf: Shelf, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What the core finds is tested there; here it is given."""
    weaker = Survivable("Pulse", "Panel", "radiant-panel", 120.0, 80.0, ((80.0, None), (120.0, 180.0)), 150.0)
    found = CutOut("Pulse", 30.0, stuck_on(41.3, 180.0), stuck_on(37.4, None), stuck_on(37.0, None))
    monkeypatch.setattr(check, "survivable", lambda *_: weaker)
    monkeypatch.setattr(check, "cut_out", lambda *_: found)
    monkeypatch.setattr(check, "in_a_cut", lambda _design, _catalogue, key: Help(key, 7.5 if key else 6.0, 11.0))
    assert "Work it out" in client.get(f"{COAST}/answers").text
    page = whole(client, f"{COAST}/answers")
    assert "dangerous after 3 h 00 min. 80 W is the largest" in page
    assert (
        "nothing is in danger (hottest 37.4 °C instead of 41.3 °C). Should both fail, the danger comes after 3 h 00 min"
        in page
    )
    assert page.index("6 h 00 min") < page.index("7 h 30 min")
    assert "All three" in page
    assert "A bottle of 1.5 l of hot water at 55 °C in a cloth" in page
    summer = client.get(f"{COAST}/answers?season=summer").text
    assert summer.count("?sheet=check&condition=summer-day") == 4, "what is taken leaves the season that is looked at"
    assert "condition=winter-day" in client.get(f"{COAST}/answers?season=nonsense").text
    client.post(f"{COAST}/fix?sheet=check", data={"kind": "watts", "name": "Panel", "value": "80"}, headers=HX)
    assert shelf.open(6).design.heater("Panel").watts == 80.0
    assert 'name="cut_out_c" value="30"' in page
    client.post(f"{COAST}/part/controls:Pulse?sheet=check", data={"cut_out_c": "30.0"}, headers=HX)
    assert shelf.open(6).design.controls[0].cut_out_c == 30.0


@pytest.mark.slow
def test_a_bottle_of_ones_own_is_tried(client: TestClient) -> None:
    assert 'value="1.5"' in client.get(f"{TUB}/bottle").text
    for litres, water, said in (
        ("a lot", "50", "is not a number"), ("100", "50", "A bottle holds 0.2 l to 20 l."),
        ("2", "90", "hotter burns through a cloth"), ("", "50", "Enter a number."), ("2", "nan", "is not a number"),
    ):  # fmt: skip
        refused = client.post(f"{TUB}/bottle/begin", data={"litres": litres, "water": water})
        assert refused.status_code == 422
        assert said in refused.text
    client.post(f"{TUB}/bottle/begin", data={"litres": "4", "water": "50"})
    page = whole(client, f"{TUB}/bottle", "?litres_then=4&water_then=50")
    assert "A bottle of 4 l of hot water at 50 °C in a cloth" in page
    assert "until it is too cold" in page
    client.cookies.set("units", "us")
    assert "qt of water" in client.get(f"{TUB}/bottle").text


@pytest.mark.slow
def test_a_front_is_typed_and_answered(client: TestClient) -> None:
    refused = client.post(f"{TUB}/front/begin?season=winter", data={"room": ""})
    assert refused.status_code == 422
    assert "Type tomorrow" in refused.text
    assert client.post(f"{TUB}/front/begin?season=spring", data={"room": "5, 5"}).status_code == 422
    found = whole(client, f"{TUB}/front", "?season=winter&room=8%2C+6%2C+12%2C+8")
    assert "Keep the room at" in found
    assert "until tomorrow" in found
    assert "Undo it" in found


def test_how_soon_sticking_on_is_dangerous_is_gone_through_when_asked(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(check, "outlook", lambda *_: stuck_on(52.0, 47.0))
    assert "How soon?" in client.get(f"{COAST}/stuck").text
    client.post(f"{COAST}/stuck/begin")
    for _ in range(100):
        page = client.get(f"{COAST}/stuck").text
        if "Going through" not in page:
            break
        sleep(0.02)
    assert "After 47 min its body is in danger" in page


@pytest.mark.slow
def test_the_animals_day_and_the_wait_after_changes_are_said(client: TestClient) -> None:
    page = client.get(f"{CANYON}/day?season=winter").text
    assert "The animal through this day" in page
    assert "until its body is at" in page
    assert "Body, if it shuttles" in page
    waits = client.get(f"{CANYON}/warm-up?season=winter&after=changes").text
    assert "After another lamp or another height: " in waits
    assert "After another setpoint" not in waits, "it has no thermostat"
