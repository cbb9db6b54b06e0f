"""From a changed control on the Heat page to the new picture, and from a moving slider to its preview."""

from collections.abc import Iterator
from pathlib import Path
from statistics import median, quantiles
from tempfile import TemporaryDirectory

from playwright.sync_api import Page, sync_playwright
from tests.serving import CHROMIUM_ARGUMENTS, chromium_path, demo_server

CHANGES = 40
LIMIT_MS = 250.0

# Resolves with the milliseconds from the change to the frame in which the new picture is drawn.
CHANGE = """([selector, value, event]) => new Promise(done => {
  const drawing = document.getElementById('bench');
  const start = performance.now();
  const seen = new MutationObserver(() => {
    if (!document.querySelector('#drawing svg')) return;
    seen.disconnect();
    requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - start)));
  });
  seen.observe(drawing, {childList: true, subtree: true});
  const control = document.querySelector(selector);
  control.value = value;
  control.dispatchEvent(new Event(event, {bubbles: true}));
})"""


def run() -> Iterator[str]:
    """One line a design and kind of change."""
    yield f"Browser: from a changed control to the new picture, {CHANGES} changes (median under {LIMIT_MS:g} ms)"
    with TemporaryDirectory() as folder, demo_server(Path(folder)) as (address, _), sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium_path(), args=CHROMIUM_ARGUMENTS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for number, name, heights in ((1, "Quarry ledge", (40, 48)), (2, "Glass canyon", (42, 50))):
            page.goto(f"{address}/enclosures/{number}")
            stored = _times_ms(page, "#p-height_cm", heights, "change")
            moving = _times_ms(page, "#p-height_cm-slide", heights, "input")
            yield f"  {name:<16} stored, all conditions: {_summary(stored)}   preview: {_summary(moving)}"
        browser.close()


def _times_ms(page: Page, selector: str, heights: tuple[int, int], event: str) -> list[float]:
    """Each change asks for a height that was never solved before, so that nothing is answered from a cache."""
    low, high = heights
    values = [f"{low + (high - low) * step / CHANGES:.2f}" for step in range(1, CHANGES + 1)]
    return [float(page.evaluate(CHANGE, [selector, value, event])) for value in values]


def _summary(times: list[float]) -> str:
    return f"median {median(times):4.0f} ms, 95 % {quantiles(times, n=20)[-1]:4.0f} ms, most {max(times):4.0f} ms"
