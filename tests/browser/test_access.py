"""axe-core on every view, and the essentials within the window."""

from collections.abc import Callable, Iterator
from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, ViewportSize, expect

from tests.sweeping import sweep

VIEWS = [
    "/",
    "/enclosures/1",
    "/enclosures/1?sheet=animal",
    "/enclosures/1?sheet=box",
    "/enclosures/1/variants",
    "/library",
    "/library/species/rosy-boa",
    "/library/fixtures/dome/edit",
    "/library/species?one=rosy-boa&other=kenyan-sand-boa",
    "/rules",
    "/help",
    "/enclosures/1/history",
    "/start",
    "/enclosures/4/plans?approach=ground",
    "/enclosures/1/shopping",
    "/enclosures/6/build-sheet",
    "/enclosures/99",
]


BENCHES = ["/enclosures/3?condition=summer-day", "/enclosures/4?part=Thermostat", "/enclosures/6"]
"""The bench of other boxes."""

WIDTHS = (1280, 1920, 1024, 390)
DESK: ViewportSize = {"width": 1280, "height": 800}
PHONE: ViewportSize = {"width": 390, "height": 844}
ZOOMED: ViewportSize = {"width": 640, "height": 400}

BRIEFLY = {"resultTypes": ["violations"], "selectors": False, "preload": False}
"""What passes is not told node by node, which takes as long as looking; nor are the page's own styles fetched again."""


LOOKING, LOADED = Axe(), Axe("0")
"""With its script, which takes as long to read in as to look through a small page, and where a page has it already."""


def serious(page: Page, where: str, asked: dict[str, Any], within: str | None = None) -> Iterator[str]:
    """What axe calls serious or worse, and empty headers."""
    axe = LOADED if page.evaluate("'axe' in window") else LOOKING
    for violation in axe.run(page, context=within, options=asked).response["violations"]:
        if violation["impact"] in ("serious", "critical") or violation["id"].startswith("empty"):
            yield from (f"{where}: {violation['id']} {node['html'][:120]}" for node in violation["nodes"])


@pytest.mark.usefixtures("nothing_mends")
@pytest.mark.parametrize("views", [VIEWS[::2], VIEWS[1::2], pytest.param(BENCHES, marks=sweep)])
def test_axe_finds_nothing_serious_and_no_window_is_too_narrow(
    page: Page, address: str, views: list[str], expected_statuses: set[int]
) -> None:
    expected_statuses.add(404)
    found = list[str]()
    for view in views:
        page.goto(address + view)
        found += serious(page, view, BRIEFLY)
        for width in WIDTHS:
            page.set_viewport_size({"width": width, "height": 800})
            if page.evaluate("document.documentElement.scrollWidth > window.innerWidth"):
                found.append(f"{view}: too wide for {width}")
        page.set_viewport_size(DESK)
    assert found == []


def test_at_1280_by_800_the_essentials_need_no_scrolling(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/1")
    for essential in ("#drawing svg", "#part-form", "#headline", ".target:nth-of-type(4)"):
        box = page.locator(essential).first.bounding_box()
        assert box is not None
        assert box["y"] + box["height"] <= 800
        assert box["x"] + box["width"] <= 1280


def test_focus_is_visible(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/1")
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="To the content")).to_be_visible()


E1 = "/enclosures/1"
OPENED = {
    E1: ("#rare", "#twin", "#checklist", "#files", "#failures", "#room-slide"),
    f"{E1}?part=uvb:UV tube": ("#rare",),
    "/enclosures/4?part=controls:Thermostat": ("#rare",),
    f"{E1}?sheet=animal": ("#after-dark", "#twin"),
    f"{E1}?sheet=box": ("#more-place", "#more-months", "#twin"),
}
"""Pages, and what is opened on them one after the other."""

REFUSED = [
    (E1, "#part-form", "#part-form input.form-control"),
    (E1, "#room", "#room input.form-control"),
    (f"{E1}?sheet=box", "#box-form", "#box-form input"),
]
"""Pages, a form on them, and its field that is typed into what it does not take."""

MORE_VIEWS = {
    f"{E1}?condition=winter-day%2Bdead:Main lamp": None,
    f"{E1}?condition=room%3D30,day": "#margin",
    "/enclosures/6?part=controls:Pulse": "#part-form",
    f"{E1}?part=sites:Ledge": "#part-form",
    f"{E1}?part=vents:Vent 1": "#part-form",
    f"{E1}/variants?materials=true": None,
    f"{E1}/variants?taken=x": None,
    "/library?search=nothing": None,
    "/library/species/rosy-boa/edit?copy=true": None,
    "/terms": None,
    "/nowhere": None,
    "/?refused=too-large": None,
    "/enclosures/4/plans?approach=ground&own=x&own_hours=z&budget=y": None,
}
"""More views, and the part of each that is on no other, if that is not all of it."""

STRICT = {
    **BRIEFLY,
    "runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
    "rules": {"target-size": {"enabled": True}},
}


SIZED = {**BRIEFLY, "runOnly": {"type": "rule", "values": ["target-size", "scrollable-region-focusable"]}}
"""What depends on how much place there is: all else is as it was in the narrower window."""


LAID_OUT = {
    **BRIEFLY,
    "runOnly": {"type": "rule", "values": ["target-size", "scrollable-region-focusable", "color-contrast"]},
}
"""What depends on where things stand as well."""


def harm(page: Page, where: str, asked: dict[str, Any] = STRICT, within: str | None = None) -> Iterator[str]:
    """What is serious for those who see, hear or reach otherwise, empty headers, and what overflows; axe looks within
    a part of the page, if one is named.
    """
    wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
    if wide > 1:
        yield f"{where}: {wide} px too wide"
    # What the bar of steps lies over for now is not too small: it can be scrolled to.
    page.evaluate("scrollTo(0, 0)")
    yield from serious(page, where, asked, within)


def harm_at_both(page: Page, where: str) -> Iterator[str]:
    """What is harmful on a phone's page, and what a desk's, with its columns, has besides."""
    page.set_viewport_size(PHONE)
    yield from harm(page, f"{where} on a phone")
    page.set_viewport_size(DESK)
    yield from harm(page, f"{where} on a desk", LAID_OUT)


State = tuple[str, str | None]
"""What a state is called, and the part of the page that is new in it, if that is not all of it."""


def seen(page: Page, address: str) -> Iterator[State]:
    for view, part in MORE_VIEWS.items():
        page.goto(address + view)
        yield view, part


def opened(page: Page, address: str) -> Iterator[State]:
    for view, parts in OPENED.items():
        page.goto(address + view)
        for part in parts:
            # Nothing else can be reached while a menu is open on a phone.
            page.keyboard.press("Escape")
            page.locator(f"{part} summary").first.click()
            yield f"{view} {part}", part


def refused(page: Page, address: str) -> Iterator[State]:
    for view, form, field in REFUSED:
        page.goto(address + view)
        page.locator(field).first.fill("huge")
        page.keyboard.press("Tab")
        page.locator("[aria-invalid=true]").first.wait_for()
        yield f"{view} {field} refused", form


@pytest.mark.usefixtures("nothing_mends")
@pytest.mark.parametrize("states", [seen, opened, refused])
def test_every_state_can_be_used_small_zoomed_and_with_menus_open(
    page: Page, address: str, states: Callable[[Page, str], Iterator[State]], expected_statuses: set[int]
) -> None:
    """On a phone, and in a window of 1280 x 800 that is zoomed to 200 %."""
    expected_statuses.update({404, 422})
    page.set_viewport_size(PHONE)
    found = list[str]()
    for where, within in states(page, address):
        found += harm(page, where, within=within)
        page.set_viewport_size(ZOOMED)
        found += harm(page, f"{where} at 200 %", SIZED, within)
        page.set_viewport_size(PHONE)
    assert found == []
