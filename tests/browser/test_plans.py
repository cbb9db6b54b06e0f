"""From five questions to a plan on the bench and its build sheet, as a new user goes; and what cannot be."""

import re
from dataclasses import replace

import pytest
from playwright.sync_api import Page, expect

from mitten.core.plan.search import Brief
from mitten.core.plan.search.screening.screen import candidates, screen
from mitten.core.plan.search.solving.build import build
from mitten.core.plan.search.wants.furnish import furnish
from mitten.store import Shelf
from mitten.web.routes import plans
from tests.browser.test_access import harm_at_both
from tests.catalogue import CATALOGUE
from tests.outlooks import stuck_on
from tests.sweeping import sweep

A_SEARCH_MS = 60_000


def found(page: Page) -> None:
    """Wait until the search has begun and come to its end."""
    expect(page.locator("#found[hx-post]")).to_have_count(0)
    expect(page.locator("#stop")).to_have_count(0, timeout=A_SEARCH_MS)


def test_from_five_questions_to_the_bench_and_the_build_sheet(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(address)
    page.locator("#start").click()
    page.get_by_label("Animal").select_option("rosy-boa")
    page.get_by_label("Box").select_option("plywood-100")
    page.get_by_label("Summer day").fill("24")
    page.locator("#find").click()
    expect(page.locator(".plan").first).to_be_visible(timeout=A_SEARCH_MS)
    expect(page.locator(".plan .reasons li").first).to_contain_text("Closest call")
    source = page.locator(".plan .source").first.inner_text()
    page.get_by_role("button", name="Put it on the bench: plan 1").click()
    expect(page.locator("#headline")).to_be_visible()
    design = shelf.enclosures()[-1].design
    assert design.heaters
    assert f"{design.heaters[0].watts:g} W" in source
    expect(page.locator("#undo")).to_be_enabled()
    page.get_by_text("Save", exact=True).click()
    page.get_by_role("link", name="The build sheet, to print").click()
    expect(page.get_by_role("heading", name="Wiring")).to_be_visible()
    for part in design.powered:
        expect(page.locator(".build-sheet")).to_contain_text(part.name)


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_a_build_sheet_is_one_printed_page_with_everything_on_it(page: Page, address: str, paper: str) -> None:
    for number in (1, 4, 6):
        page.goto(f"{address}/enclosures/{number}/build-sheet")
        printed = page.pdf(format=paper)
        assert len(re.findall(rb"/Type\s*/Page\b(?!s)", printed)) == 1
    page.emulate_media(media="print")
    for heading in ("Parts", "Wiring", "Setpoints and timers", "Measure, and compare", "Mind"):
        expect(page.get_by_role("heading", name=heading)).to_be_visible()
    expect(page.locator(".topbar")).to_be_hidden()


def test_a_plan_with_every_kind_of_part_still_prints_on_one_page(page: Page, address: str, shelf: Shelf) -> None:
    bare = next(furnish(shelf.open(6).design, CATALOGUE))
    box = screen(Brief(shelf.open(6).design, CATALOGUE), bare)
    night = next(one for one in box.nights if one.all_day and one.label.startswith("60 W ceramic"))
    best = candidates(Brief(shelf.open(6).design, CATALOGUE), box, "halogen-flood")[-1]
    crowded = replace(best, night=night, mat=box.mats[-1], ultraviolet=box.ultraviolet[1], held=True)
    design = build(crowded, "Coast box, crowded", CATALOGUE)
    shelf.save(6, design, "Took a plan")
    assert len(design.controls) == 3
    page.goto(f"{address}/enclosures/6/build-sheet")
    for part in (*design.powered, *design.controls):
        expect(page.locator(".build-sheet")).to_contain_text(part.name)
    for paper in ("A4", "Letter"):
        assert len(re.findall(rb"/Type\s*/Page\b(?!s)", page.pdf(format=paper))) == 1


def test_start_with_nothing_changed_ends_in_plans_that_stand_side_by_side(
    page: Page, address: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    # Each plan's day in which everything sticks takes a second: the core goes through them.
    monkeypatch.setattr(plans, "outlook", lambda *_: stuck_on(44.0, 90.0))
    page.goto(f"{address}/start")
    page.locator("#find").click()
    # What is ticked while the search goes on stays ticked, wherever its plan moves to.
    ticked = page.locator(".plan .beside input").first
    ticked.check(timeout=A_SEARCH_MS)
    plan = ticked.get_attribute("id")
    found(page)
    expect(page.locator(f"[id='{plan}']")).to_be_checked()
    assert page.locator(".plan").count() >= 3
    expect(page.locator(".plan .best", has_text="simplest")).to_have_count(1)
    expect(page.locator(".plan-stuck").first).to_contain_text("After 1 h 30 min its body")
    assert list(harm_at_both(page, "plans")) == []
    for box in page.locator(".beside input").all()[:3]:
        box.check()
    columns = page.locator(".beside input:checked").count()
    page.locator("#beside").click()
    expect(page.locator(".column")).to_have_count(columns)
    expect(page.locator(".compare-rows .differing").first).to_be_visible()
    assert list(harm_at_both(page, "plans side by side")) == []
    page.get_by_role("button", name=re.compile("^Put it on the bench: ")).nth(1).click()
    expect(page.locator("#headline")).to_be_visible()
    expect(page.locator(".target.misses")).to_have_count(0)


def test_a_hard_home_ends_in_the_nearest_plans_and_one_click_mends_it_or_takes_one(
    page: Page, address: str, shelf: Shelf
) -> None:
    page.goto(f"{address}/enclosures/3/plans")
    found(page)
    said = page.locator(".obstacles")
    expect(said).to_contain_text("The room is 30 °C on a summer day and the animal bears at most 29 °C")
    expect(said).to_contain_text("the room itself has to be cooler then")
    expect(page.locator(".near-plan .misses li").first).to_contain_text("°C")
    before = shelf.open(3)
    page.locator(".mend", has_text="Keep the room").first.click()
    expect(page.locator("#headline")).to_be_visible()
    expect(page.locator(".target.misses")).to_have_count(0)
    expect(page.locator(".finding.stop")).to_have_count(0)
    mended = shelf.open(3)
    assert mended.revision == before.revision + 1
    assert mended.design.room.summer.day_c < before.design.room.summer.day_c
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".finding.stop").first).to_be_visible()
    page.goto(f"{address}/enclosures/3/plans")
    found(page)
    undone = shelf.open(3).revision
    page.get_by_role("button", name="Put it on the bench as it is: nearest plan 1").click()
    expect(page.locator("#headline")).to_be_visible()
    assert shelf.open(3).revision > undone


@sweep
def test_what_lives_in_trees_gets_a_branch_to_bask_on(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(f"{address}/start")
    page.get_by_label("Animal").select_option("gargoyle-gecko")
    page.get_by_label("Box").select_option("tall-glass-60")
    page.locator("#find").click()
    expect(page.locator(".plan").first).to_be_visible(timeout=A_SEARCH_MS)
    page.get_by_role("button", name="Put it on the bench: plan 1").click()
    expect(page.locator("#drawing")).to_contain_text("Basking branch")
    design = shelf.enclosures()[-1].design
    site = design.basking_site
    assert site is not None
    assert site.underside_m(design.substrate.depth_m) > design.substrate.depth_m + 0.2


def test_only_what_is_owned(page: Page, address: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(plans, "outlook", lambda *_: stuck_on(44.0, 90.0))
    page.goto(f"{address}/enclosures/6/plans?approach=lightless&gear=owned")
    found(page)
    expect(page.locator(".plan")).to_have_count(0)
    page.get_by_label("Gear that you own").fill("100 W emitter of clay")
    page.locator("#own").click()
    expect(page.locator("#own-fault")).to_contain_text("nothing that is called '100 W emitter of clay'")
    expect(page.get_by_label("Gear that you own")).to_have_value("100 W emitter of clay")
    page.get_by_label("Gear that you own").fill("100 w ceramic")
    page.locator("#own").click()
    expect(page.locator("#own-fault")).to_have_count(0)
    expect(page.locator("#owned li")).to_contain_text("100 W ceramic emitter")
    found(page)
    expect(page.locator(".plan .source")).to_have_text(re.compile("^100 W ceramic emitter"))
    expect(page.locator(".plan")).to_have_count(1)


def test_a_search_can_be_stopped(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/1/plans")
    page.locator("#stop").click()
    found(page)
    expect(page.locator(".search-state")).to_contain_text("worked out in full")
