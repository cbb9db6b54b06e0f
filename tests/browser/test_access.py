"""axe-core on every view, and the essentials within the window."""

from collections.abc import Iterator

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


BRIEFLY = {"resultTypes": ["violations"]}
"""What passes is not told node by node, which takes as long as looking."""


@pytest.mark.parametrize("view", VIEWS)
def test_axe_finds_nothing_serious(page: Page, address: str, view: str, expected_statuses: set[int]) -> None:
    expected_statuses.add(404)
    page.goto(address + view)
    found = Axe().run(page, options=BRIEFLY).response["violations"]
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


E1 = "/enclosures/1"
OPENED = [
    (E1, "#files summary"), (E1, "#failures summary"), (E1, "#room-slide summary"), (E1, "#rare summary"),
    (E1, "#twin summary"), (E1, "#checklist summary"), (f"{E1}?part=uvb:UV tube", "#rare summary"),
    ("/enclosures/4?part=controls:Thermostat", "#rare summary"), (f"{E1}?sheet=animal", "#after-dark summary"),
    (f"{E1}?sheet=animal", "#twin summary"), (f"{E1}?sheet=box", "#more-place summary"),
    (f"{E1}?sheet=box", "#more-months summary"), (f"{E1}?sheet=box", "#twin summary"),
]  # fmt: skip
"""Pages, and what is opened on them."""

REFUSED = [
    (E1, "#part-form input.form-control"),
    (E1, "#room input.form-control"),
    (f"{E1}?sheet=box", "#box-form input"),
]
"""Pages, and a field that is typed into what it does not take."""

MORE_VIEWS = [
    f"{E1}?condition=winter-day%2Bdead:Main lamp", f"{E1}?condition=room%3D30,day", "/enclosures/6?part=controls:Pulse",
    f"{E1}?part=sites:Ledge", f"{E1}?part=vents:Vent 1", f"{E1}/variants?materials=true", f"{E1}/variants?taken=x",
    "/library?search=nothing", "/library/species/rosy-boa/edit?copy=true", "/terms", "/nowhere", "/?refused=too-large",
    "/enclosures/4/plans?approach=ground&own=x&own_hours=z&budget=y",
]  # fmt: skip
STRICT = {
    **BRIEFLY,
    "runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
    "rules": {"target-size": {"enabled": True}},
}


def harm(page: Page, where: str) -> Iterator[str]:
    """What is serious for those who see, hear or reach otherwise, empty headers, and what overflows."""
    wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
    if wide > 1:
        yield f"{where}: {wide} px too wide"
    # What the bar of steps lies over for now is not too small: it can be scrolled to.
    page.evaluate("scrollTo(0, 0)")
    for violation in Axe().run(page, options=STRICT).response["violations"]:
        if violation["impact"] in ("serious", "critical") or violation["id"].startswith("empty"):
            yield from (f"{where}: {violation['id']} {node['html'][:100]}" for node in violation["nodes"])


@pytest.mark.parametrize(("width", "height"), [(640, 400), (390, 844)], ids=["200 %", "390"])
def test_every_state_can_be_used_small_zoomed_and_with_menus_open(
    page: Page, address: str, width: int, height: int, expected_statuses: set[int]
) -> None:
    expected_statuses.update({404, 422})
    page.set_viewport_size({"width": width, "height": height})
    found = list[str]()
    for view in MORE_VIEWS:
        page.goto(address + view)
        found += harm(page, view)
    for view, opened in OPENED:
        page.goto(address + view)
        page.locator(opened).first.click()
        found += harm(page, f"{view} {opened}")
    for view, field in REFUSED:
        page.goto(address + view)
        page.locator(field).first.fill("huge")
        page.keyboard.press("Tab")
        page.locator("[aria-invalid=true]").first.wait_for()
        found += harm(page, f"{view} {field} refused")
    assert found == []
