"""axe-core on every view, and the essentials within the window."""

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

VIEWS = [
    "/",
    "/enclosures/1",
    "/enclosures/3?condition=summer-day",
    "/enclosures/4?part=Thermostat",
    "/enclosures/6",
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


@pytest.mark.parametrize("view", VIEWS)
def test_axe_finds_nothing_serious(page: Page, address: str, view: str, expected_statuses: set[int]) -> None:
    expected_statuses.add(404)
    page.goto(address + view)
    found = Axe().run(page).response["violations"]
    serious = [
        (v["id"], [node["html"][:120] for node in v["nodes"]]) for v in found if v["impact"] in ("serious", "critical")
    ]
    assert serious == []


def test_at_1280_by_800_the_essentials_need_no_scrolling(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/1")
    for essential in ("#drawing svg", "#part-form", "#headline", ".target:nth-of-type(4)"):
        box = page.locator(essential).first.bounding_box()
        assert box is not None
        assert box["y"] + box["height"] <= 800
        assert box["x"] + box["width"] <= 1280


@pytest.mark.parametrize("width", [390, 1024, 1280, 1920])
def test_no_view_scrolls_sideways(page: Page, address: str, width: int, expected_statuses: set[int]) -> None:
    expected_statuses.add(404)
    page.set_viewport_size({"width": width, "height": 800})
    for view in VIEWS:
        page.goto(address + view)
        assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"), view


def test_focus_is_visible(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/1")
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="To the content")).to_be_visible()
