"""The year and what may fail, in the browser: planned and exported, made harmless, a cold front asked about."""

from pathlib import Path

import pytest
from icalendar import Calendar
from playwright.sync_api import Page, expect

from mitten.core.judge.days import read_failure
from mitten.core.plan.failsafe import Help
from mitten.store import Shelf
from mitten.web.routes import check
from tests.browser.test_access import PHONE, harm_at_both
from tests.browser.test_days import LONG_MS, one_season_alone, opened
from tests.sweeping import sweep


def test_the_year_is_planned_stopped_taken_up_again_exported_and_read_back(
    page: Page, address: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    one_season_alone(monkeypatch, "winter")
    opened(page, address, "check", PHONE, enclosure=2)
    page.locator("#to-year").click()
    page.get_by_label("Through the year").select_option("seasons")
    expect(page.get_by_label("Shortest day")).not_to_have_value("")
    page.locator("#cool-rest summary").click()
    page.get_by_label("Begins on").fill("1 december")
    page.keyboard.press("Tab")
    expect(page.get_by_label("Begins on")).to_have_value("1 December")
    page.locator("#stop-year").click()
    page.locator("#go-on-year").click(timeout=LONG_MS)
    page.locator("#save-calendar").wait_for(timeout=LONG_MS)
    expect(page.locator(".months tbody tr")).to_have_count(12)
    expect(page.locator(".changes")).to_contain_text("Cool rest for 8 weeks")
    with page.expect_download() as saved:
        page.locator("#save-calendar").click()
    kept = tmp_path / "year.ics"
    saved.value.save_as(kept)
    events = Calendar.from_ical(kept.read_bytes()).walk("VEVENT")
    assert sum("ool" in str(event["summary"]) for event in events) == 4
    assert list(harm_at_both(page, "year")) == []


def test_stuck_on_reaches_danger_until_the_wattage_is_lowered(
    page: Page, address: str, shelf: Shelf, monkeypatch: pytest.MonkeyPatch
) -> None:
    # What other failures come to, what a cut-out does, and what is done in a power cut, is asked of the core.
    monkeypatch.setattr(
        check, "everything_that_fails", lambda design, _: [("summer", read_failure(design, "stuck-on"))]
    )
    monkeypatch.setattr(check, "cut_out", lambda *_: None)
    monkeypatch.setattr(check, "in_a_cut", lambda _design, _catalogue, key: Help(key, 6.0, 11.0))
    opened(page, address, "check", enclosure=6, condition="summer-day")
    stuck = page.locator(".failures tr", has_text="Thermostat stuck on")
    expect(stuck).to_contain_text("until its body is in danger", timeout=LONG_MS)
    page.locator("#go-on-answers").click()
    page.locator("#answer-1").click(timeout=2 * LONG_MS)
    expect(stuck).to_contain_text("nothing dangerous or beyond what it tolerates in 12 hours", timeout=2 * LONG_MS)
    assert shelf.open(6).design.heater("Panel").watts == 80.0


@sweep
def test_a_cold_front_names_tonights_change(page: Page, address: str, expected_statuses: set[int]) -> None:
    expected_statuses.add(422)
    opened(page, address, "day", PHONE, enclosure=4)
    page.locator("#ask-front").click()
    expect(page.locator("#front .fault")).to_contain_text("Type tomorrow")
    page.locator("#room-curve").fill("8, 6, 12, 8")
    page.locator("#ask-front").click()
    expect(page.locator(".front strong")).to_contain_text("Heat the room", timeout=LONG_MS)
    expect(page.locator(".front")).to_contain_text("Undo it")
