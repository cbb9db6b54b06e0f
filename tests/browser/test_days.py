"""Time in the browser: the day, its minutes, what comes of failures, and a room of one's own."""

import re

import pytest
from playwright.sync_api import Page, ViewportSize, expect

from mitten.core.plan import comparing_probes
from mitten.core.plan.probe_places import probe_places
from mitten.store import Shelf
from tests.browser.test_access import DESK, PHONE, harm_at_both

LONG_MS = 60_000
"""A busy machine takes its time over a day."""


def opened(
    page: Page, address: str, sheet: str, size: ViewportSize = DESK, enclosure: int = 4, condition: str = "winter-day"
) -> None:
    page.set_viewport_size(size)
    page.goto(f"{address}/enclosures/{enclosure}?sheet={sheet}&condition={condition}")


def one_season_alone(monkeypatch: pytest.MonkeyPatch, season: str) -> None:
    """Failures of the other seasons take as long again each."""
    monkeypatch.setattr("mitten.core.judge.outlooks.SEASONS", (season,))


def drawn(page: Page) -> None:
    page.locator("figure.course[data-drawn]").wait_for(timeout=LONG_MS)


@pytest.mark.usefixtures("nothing_mends")
def test_the_day_is_drawn_and_scrubbed_to_seven_in_the_evening(page: Page, address: str) -> None:
    opened(page, address, "day", PHONE)
    drawn(page)
    expect(page.locator("#moment svg")).to_be_visible(timeout=LONG_MS)
    page.locator("#minute").fill(str(8 * 60 + 30))
    page.wait_for_timeout(1500)
    before = page.locator("#moment").inner_html()
    page.locator("#minute").fill(str(19 * 60))
    expect(page.locator("#minute-words")).to_have_text("19:00")
    page.wait_for_function("before => document.querySelector('#moment').innerHTML !== before", arg=before)
    expect(page.locator(".course-table tbody tr").first).to_contain_text("Warm hide")
    assert list(harm_at_both(page, "day")) == []


def test_a_click_in_the_chart_draws_that_minute(page: Page, address: str) -> None:
    opened(page, address, "day")
    drawn(page)
    over = page.locator(".chart .u-over").first
    box = over.bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + box["width"] * 0.75, box["y"] + box["height"] / 2)
    expect(page.locator("#minute-words")).to_have_text(re.compile("0[12]:"))


def test_lines_look_each_its_own_and_come_and_go_without_a_trace(page: Page, address: str) -> None:
    opened(page, address, "day", enclosure=6)
    drawn(page)
    looks = page.locator("[data-line] i").evaluate_all("all => all.map(one => getComputedStyle(one).border)")
    names = page.locator("[data-line]").all_inner_texts()
    room_and_body = [name for name in names if name.startswith(("Room", "Body"))]
    assert len(looks) == len(names) == 12
    # These two have the same colour and frame, and dashes of their own in the chart.
    assert len(set(looks)) == len(looks) - len(room_and_body) + 1
    chart = page.locator(".chart canvas").first
    before = chart.screenshot()
    for _ in range(2):
        page.get_by_role("button", name="Dish").first.click()
        page.mouse.move(5, 5)
        page.wait_for_timeout(300)
    assert chart.screenshot() == before


def test_every_failure_has_its_row_and_its_hours(page: Page, address: str, monkeypatch: pytest.MonkeyPatch) -> None:
    one_season_alone(monkeypatch, "winter")
    opened(page, address, "heat")
    page.locator("#step-check").click()
    first = page.locator(".failures tbody tr").first
    expect(page.locator(".failures tbody tr")).to_have_count(8, timeout=LONG_MS)
    expect(page.locator(".standing")).to_contain_text("Dangerous before anything fails")
    expect(first).to_contain_text("colder than it tolerates at night")
    page.get_by_role("button", name="Power cut").click()
    drawn(page)
    expect(page.locator(".course-table")).to_contain_text("Under the ground")
    assert list(harm_at_both(page, "failures")) == []
    page.locator("#to-day").click()
    expect(page.get_by_role("heading", name="A winter day that repeats itself")).to_be_visible()
    drawn(page)
    page.go_back()
    page.locator(".failures tbody tr").first.wait_for(timeout=LONG_MS)


def test_another_room_is_gone_through_and_what_is_no_room_is_said(
    page: Page, address: str, expected_statuses: set[int]
) -> None:
    expected_statuses.add(422)
    opened(page, address, "day")
    drawn(page)
    page.locator("#room-curve").fill("18, warm")
    page.locator("#use-room").click()
    typed = page.locator("#room-curve")
    expect(page.locator("#front").get_by_role("alert").filter(has_text="warm")).to_be_visible(timeout=LONG_MS)
    expect(typed).to_have_value("18, warm")
    expect(typed).to_be_focused()
    expect(typed).to_have_attribute("aria-invalid", "true")
    expect(page.locator("#course .uplot").first).to_be_visible()
    typed.fill("12, 28")
    page.locator("#use-room").click()
    expect(page.locator("#front .fault")).to_have_count(0, timeout=LONG_MS)
    expect(typed).not_to_have_attribute("aria-invalid", "true")
    drawn(page)
    expect(page.locator(".course-table tr", has_text="Room")).to_contain_text("28.0 °C")


def test_a_season_is_chosen_and_kept_over_reload(page: Page, address: str) -> None:
    opened(page, address, "day")
    drawn(page)
    page.locator("#season-summer").click()
    expect(page.get_by_role("heading", name="A summer day that repeats itself")).to_be_visible()
    drawn(page)
    page.reload()
    expect(page.locator("#season-summer")).to_have_attribute("aria-current", "true")
    drawn(page)


def test_a_probe_place_is_picked_with_its_setpoint(
    page: Page, address: str, shelf: Shelf, monkeypatch: pytest.MonkeyPatch
) -> None:
    # Every place tried takes half a second, and they are tried twice. What is tried is kept for all tests by design:
    # this one has a name of its own.
    monkeypatch.setattr(comparing_probes, "probe_places", lambda *of: probe_places(*of)[:2])
    shelf.save(6, shelf.open(6).design.model_copy(update={"name": "Box with two places"}), "Renamed")
    opened(page, address, "heat", PHONE, enclosure=6)
    page.locator("#step-control").click()
    page.locator(".places tbody tr").first.wait_for(timeout=LONG_MS)
    assert list(harm_at_both(page, "control")) == []
    row = page.locator(".places tbody tr", has_text="in the air beside 'Flat stone'")
    row.get_by_role("button").click()
    expect(page.locator(".places tr", has_text="here now")).to_contain_text("beside 'Flat stone'", timeout=LONG_MS)
    expect(page.locator("#undo")).to_be_enabled()
    page.locator("#to-day").click()
    expect(page).to_have_title(re.compile("Day"))
