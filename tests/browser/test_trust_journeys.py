"""Short ways through the bench, on a desk's page and on a phone's: seen whole, said back, mended, left and come back to."""

import re

import pytest
from playwright.sync_api import Page, expect

from mitten.store import Shelf
from tests.browser.test_access import harm
from tests.sweeping import sweep

DESK, PHONE = 1280, 390
SIZES = pytest.mark.parametrize("width", [pytest.param(DESK, marks=sweep), PHONE])
SLOWLY_MS = 40_000


def opened(page: Page, address: str, width: int, path: str) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(f"{address}{path}")
    expect(page.locator("#headline")).to_be_visible()


@SIZES
def test_a_failure_is_looked_at_whole_by_keyboard_kept_on_reload_and_left(page: Page, address: str, width: int) -> None:
    opened(page, address, width, "/enclosures/6")
    seasons = page.locator("#headline").inner_text()
    page.locator("#failures summary").focus()
    page.keyboard.press("Enter")
    page.locator("#failures a").first.focus()
    page.keyboard.press("Enter")
    banner = page.locator(".explored")
    expect(banner).to_contain_text("not at the four seasons")
    expect(page.locator(".target").first).to_contain_text("stuck on")
    page.reload()
    expect(banner).to_contain_text("not at the four seasons")
    page.locator("#to-seasons").click()
    expect(page.locator("#headline")).to_have_text(seasons)
    expect(banner).to_have_count(0)


@SIZES
def test_a_probe_is_placed_by_name_and_the_setpoint_that_is_offered_is_taken(
    page: Page, address: str, shelf: Shelf, width: int
) -> None:
    opened(page, address, width, "/enclosures/6?part=controls:Pulse")
    where = page.locator("#part-form select[name='probe.where']")
    where.select_option("on:Flat stone")
    expect(page.locator("#frame")).to_have_attribute("data-revision", "2")
    expect(page.locator(".setpoint")).to_contain_text(re.compile(r"in winter"), timeout=SLOWLY_MS)
    with page.expect_response(lambda answer: "/part/" in answer.url):
        page.locator("#set-it-so").click()
    control = shelf.open(6).design.controls[0]
    assert control.probe is not None
    assert control.probe.reads == "surface"
    expect(page.locator(".setpoint")).to_contain_text(f"{control.day_c:.1f} °C", timeout=SLOWLY_MS)


def test_a_missing_hide_is_put_in_with_one_click(page: Page, address: str, shelf: Shelf) -> None:
    opened(page, address, PHONE, "/enclosures/2")
    finding = page.locator("[data-rule=no-cover-warm]")
    button = finding.get_by_role("button")
    expect(button).to_contain_text("Put a warm hide at", timeout=SLOWLY_MS)
    assert list(harm(page, "what would mend it", within="#margin")) == []
    button.click()
    expect(finding).to_have_count(0)
    assert shelf.open(2).design.sites[-1].role == "warm-hide"


def test_a_term_leads_to_its_meaning_and_back_gives_the_whole_page(page: Page, address: str, shelf: Shelf) -> None:
    opened(page, address, PHONE, "/enclosures/1")
    page.locator(".target .name").first.click()
    expect(page.locator(":target dt")).to_contain_text("Basking surface")
    page.go_back()
    expect(page.locator("#bench")).to_have_count(1)
    page.locator("#undo").wait_for(state="attached")
    page.locator("#part-form select[name=watts]").select_option("75")
    expect(page.locator("#undo")).to_be_enabled()
    assert shelf.open(1).design.heaters[0].watts == 75


def test_an_address_that_leads_nowhere_is_a_page_with_a_way_on(
    page: Page, address: str, expected_statuses: set[int]
) -> None:
    expected_statuses.update({400, 404})
    for path, width in (("/enclosures/999", PHONE), ("/enclosures/1?sheet=cellar", DESK), ("/nowhere", DESK)):
        page.set_viewport_size({"width": width, "height": 800})
        page.goto(f"{address}{path}")
        expect(page.locator(".topbar")).to_be_visible()
        if page.locator("#bench").count() == 0:
            page.get_by_role("link", name="To the shelf").click()
            expect(page.get_by_role("heading", name="Your enclosures")).to_be_visible()


def test_the_drawing_is_a_table_too_with_places_and_slope(page: Page, address: str) -> None:
    opened(page, address, PHONE, "/enclosures/1")
    page.get_by_text("The drawing as a table").click()
    table = page.locator("#twin, details:has-text('The drawing as a table')").first
    for words in ("Main lamp, where", "Slope,", "Ledge, surface", "from the left"):
        expect(table).to_contain_text(words)
