"""Make the pictures of docs/screenshots from the demo data."""

from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Page, sync_playwright
from tests.serving import CHROMIUM_ARGUMENTS, chromium_path, demo_server

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
VIEWS = {
    "shelf": "/",
    "heat": "/enclosures/1",
    "heat-winter-night": "/enclosures/2?condition=winter-night",
    "heat-dangerous": "/enclosures/3?condition=summer-day",
    "heat-mat": "/enclosures/4?part=Mat",
    "heat-mercury": "/enclosures/5",
    "heat-control": "/enclosures/6?part=Pulse",
}


def main() -> None:
    """Take every picture at 1280 x 800."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    with TemporaryDirectory() as folder, demo_server(Path(folder)) as (address, _), sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium_path(), args=CHROMIUM_ARGUMENTS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for name, path in VIEWS.items():
            page.goto(address + path)
            _take(page, name)
        page.goto(f"{address}/enclosures/1")
        page.get_by_label("Power").select_option("150")
        page.locator(".fault").wait_for()
        _take(page, "heat-refused")
        _history(page, address)
        browser.close()


def _history(page: Page, address: str) -> None:
    """A few edits, so that there is a history to show."""
    page.goto(f"{address}/enclosures/1")
    for height in ("48", "42"):
        page.get_by_label("Above ground", exact=True).fill(height)
        with page.expect_response("**/heaters/**"):
            page.keyboard.press("Tab")
    page.get_by_role("link", name="History").click()
    _take(page, "history")


def _take(page: Page, name: str) -> None:
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(400)
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")
    page.screenshot(path=FOLDER / f"{name}.png")


main()
