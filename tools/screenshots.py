"""Make the pictures of docs/screenshots from the demo data."""

from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Page, sync_playwright
from tests.serving import CHROMIUM_ARGUMENTS, chromium_path, demo_server

from mitten.store import Shelf

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
A_SEARCH_MS = 60_000
VIEWS = {
    "shelf": "/",
    "animal": "/enclosures/1?sheet=animal",
    "box": "/enclosures/1?sheet=box",
    "heat": "/enclosures/1",
    "heat-dangerous": "/enclosures/3?condition=summer-day",
    "heat-mat": "/enclosures/4?part=heaters:Mat",
    "library": "/library",
    "rules": "/rules",
    "start": "/start",
    "shopping": "/enclosures/1/shopping",
    "build-sheet": "/enclosures/6/build-sheet",
}


SLOWLY_MS = 120_000
"""A busy machine takes its time over the fixes of a large box."""


def main() -> None:
    """Take every picture at 1280 x 800."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    with (
        TemporaryDirectory(ignore_cleanup_errors=True) as folder,
        demo_server(Path(folder)) as (address, shelf),
        sync_playwright() as playwright,
    ):
        browser = playwright.chromium.launch(executable_path=chromium_path(), args=CHROMIUM_ARGUMENTS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for name, path in VIEWS.items():
            page.goto(address + path)
            _take(page, name)
        _in_time(page, address)
        _plans(page, address)
        _history(page, address)
        _variants(page, address, shelf)
        browser.close()


def _in_time(page: Page, address: str) -> None:
    """The sheets whose insides take longer."""
    page.goto(f"{address}/enclosures/1?sheet=day")
    page.locator("figure.course[data-drawn]").wait_for(timeout=A_SEARCH_MS)
    page.locator("#moment svg").wait_for(timeout=A_SEARCH_MS)
    _take(page, "day")
    page.goto(f"{address}/enclosures/6?sheet=check&condition=summer-day")
    page.locator("#failures:not(:has(progress))").wait_for(timeout=2 * A_SEARCH_MS)
    page.locator("#go-on-answers").click()
    page.locator(".helps tr:nth-child(5)").wait_for(timeout=2 * A_SEARCH_MS)
    _take(page, "check")
    page.goto(f"{address}/enclosures/2?sheet=year")
    page.get_by_label("Through the year").select_option("seasons")
    page.locator("#save-calendar").wait_for(timeout=2 * A_SEARCH_MS)
    _take(page, "year")
    page.goto(f"{address}/enclosures/6?sheet=control")
    page.locator(".places tbody tr").first.wait_for(timeout=A_SEARCH_MS)
    _take(page, "control")


def _plans(page: Page, address: str) -> None:
    """A search that has come to its end."""
    page.goto(f"{address}/enclosures/6/plans")
    page.locator("#found[hx-post]").wait_for(state="detached")
    page.locator("#stop").wait_for(state="detached", timeout=A_SEARCH_MS)
    _take(page, "plans")
    page.goto(f"{address}/enclosures/3/plans")
    page.locator(".near-plan").first.wait_for(timeout=A_SEARCH_MS)
    page.locator("#stop").wait_for(state="detached", timeout=A_SEARCH_MS)
    _take(page, "plans-nearest")


def _history(page: Page, address: str) -> None:
    """A few edits, so that there is a history to show."""
    page.goto(f"{address}/enclosures/1")
    for height in ("48", "42"):
        page.get_by_label("Above ground", exact=True).fill(height)
        with page.expect_response("**/part/**"):
            page.keyboard.press("Tab")
    page.get_by_role("link", name="History").click()
    _take(page, "history")


def _variants(page: Page, address: str, shelf: Shelf) -> None:
    """The state of the history above beside another power and another height."""
    shelf.keep_variant(1, "50 W, 42 cm")
    page.goto(f"{address}/enclosures/1")
    with page.expect_response("**/part/**"):
        page.get_by_label("Power").select_option("60")
    page.goto(f"{address}/enclosures/1/variants")
    _take(page, "variants")


def _take(page: Page, name: str) -> None:
    page.wait_for_load_state("networkidle", timeout=SLOWLY_MS)
    page.wait_for_function("() => !document.querySelector('.htmx-request, .working')")
    page.wait_for_timeout(400)
    page.wait_for_load_state("networkidle", timeout=SLOWLY_MS)
    page.evaluate("document.fonts.ready")
    page.screenshot(path=FOLDER / f"{name}.png")


main()
