"""Journeys through the real interface, as a keeper would make them."""

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from mitten.store import Shelf
from tests.designs import box_data

MARK = "window.stillTheSamePage = true"
SAME = "window.stillTheSamePage === true"

A_BUSY_MACHINE_MS = 40_000
"""Fixes come last, and take their time where others compute too."""


def open_quarry(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/1")
    expect(page.locator("#headline")).to_have_text(
        "Every target that is judged is met, at the extremes of the seasons too."
    )


def test_raise_the_lamp_see_the_verdict_change_reload_and_undo_through_history(
    page: Page, address: str, shelf: Shelf
) -> None:
    open_quarry(page, address)
    page.evaluate(MARK)
    before = page.locator(".target .value").first.inner_text()
    height = page.get_by_label("Above ground", exact=True)
    height.fill("49")
    height.press("Tab")
    expect(page.locator("#headline")).to_contain_text("on a usual day basking surface is")
    expect(page.locator(".target").first).to_have_class(re.compile("near"))
    assert page.locator(".target .value").first.inner_text() != before
    expect(page.locator("#drawing .measure-label")).to_have_text("37 cm")
    assert page.evaluate(SAME)

    page.reload()
    expect(page.get_by_label("Above ground", exact=True)).to_have_value("49")
    expect(page.locator("#headline")).to_contain_text("on a usual day basking surface is")

    page.get_by_role("link", name="History").click()
    expect(page.get_by_text("Main lamp: above ground 44 to 49 cm")).to_be_visible()
    page.get_by_role("button", name="Go back to this").click()
    expect(page.locator("#headline")).to_contain_text("Every target that is judged is met")
    expect(page.get_by_label("Above ground", exact=True)).to_have_value("44")
    assert [revision.number for revision in shelf.history(1)] == [2, 1]


def test_a_150_w_lamp_in_a_100_w_fixture_is_refused_with_the_reason(
    page: Page, address: str, shelf: Shelf, expected_statuses: set[int]
) -> None:
    expected_statuses.add(422)
    open_quarry(page, address)
    power = page.get_by_label("Power")
    power.select_option("150")
    expect(page.get_by_text("150 W is more than the 100 W this fixture is rated for")).to_be_visible()
    expect(power).to_have_attribute("aria-invalid", "true")
    expect(power).to_have_value("150")
    expect(page.locator("#drawing")).to_contain_text("50 W halogen flood")
    assert shelf.open(1).revision == 1
    page.reload()
    expect(page.get_by_label("Power")).to_have_value("50")


def test_the_drawing_follows_a_slider_and_is_stored_on_release(page: Page, address: str, shelf: Shelf) -> None:
    open_quarry(page, address)
    slider = page.locator("#p-x_m-slide")
    lamp = page.locator("#drawing .lamp")
    before = lamp.get_attribute("d")
    # A pointer on its way: input events without the change that releasing sends.
    slider.evaluate("e => { e.value = 70; e.dispatchEvent(new Event('input', {bubbles: true})) }")
    expect(page.locator("#p-x_m")).to_have_value("70")
    expect(lamp).not_to_have_attribute("d", before or "")
    assert shelf.open(1).revision == 1
    slider.evaluate("e => e.dispatchEvent(new Event('change', {bubbles: true}))")
    expect(page.locator("#headline")).not_to_contain_text("Every target that is judged is met")
    assert shelf.open(1).design.heaters[0].x_m == 0.7


@pytest.mark.usefixtures("nothing_mends")
def test_conditions_change_in_place_and_keep_their_address(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/2")
    page.evaluate(MARK)
    expect(page.locator("#drawing")).not_to_contain_text("off")
    page.get_by_role("link", name="Winter night").click()
    expect(page.locator("#drawing")).to_contain_text("75 W halogen flood, off")
    expect(page.locator("#drawing")).to_contain_text("night air 17–26")
    expect(page).to_have_url(re.compile("condition=winter-night"))
    assert page.evaluate(SAME)
    page.get_by_label("Winter night").fill("19")
    page.keyboard.press("Enter")
    expect(page.locator("#headline")).not_to_contain_text("Night air")
    expect(page.get_by_role("link", name="Winter night")).to_have_attribute("aria-current", "true")


def test_undo_and_redo_by_keyboard(page: Page, address: str) -> None:
    open_quarry(page, address)
    page.get_by_label("Power").focus()
    page.keyboard.press("ArrowDown")
    expect(page.locator("#drawing")).to_contain_text("60 W halogen flood")
    expect(page.get_by_label("Power")).to_be_focused()
    page.get_by_role("button", name="Undo").focus()
    page.keyboard.press("Enter")
    expect(page.locator("#drawing")).to_contain_text("50 W halogen flood")
    page.get_by_role("button", name="Redo").press("Enter")
    expect(page.locator("#drawing")).to_contain_text("60 W halogen flood")


@pytest.mark.usefixtures("nothing_mends")
def test_the_lamp_moves_inside_and_above_the_mesh(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/2")
    page.get_by_label("Hangs", exact=True).select_option("no")
    expect(page.get_by_text("The animal can reach 'Dome lamp'").first).to_be_visible()
    expect(page.get_by_label("Above ground", exact=True)).to_have_value("30")
    page.get_by_label("Hangs", exact=True).select_option("yes")
    expect(page.get_by_text("The animal can reach 'Dome lamp'")).to_have_count(0)


def test_a_file_with_faults_lists_them_and_a_good_one_opens(
    page: Page, address: str, tmp_path: Path, expected_statuses: set[int]
) -> None:
    expected_statuses.add(422)
    bad = tmp_path / "bad.json"
    bad.write_text('{"format": "mitten-design/1", "animal": {"species": "rosy-boa"}}')
    page.goto(address)
    page.get_by_label("Open a design file").set_input_files(bad)
    page.get_by_role("button", name="Open", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("Nothing was stored")
    expect(page.get_by_role("alert").get_by_role("listitem")).to_have_count(2)
    good = tmp_path / "good.json"
    good.write_text(json.dumps(box_data()))
    page.get_by_label("Open a design file").set_input_files(good)
    page.get_by_role("button", name="Open", exact=True).click()
    expect(page).to_have_url(re.compile("/enclosures/7$"))


def test_the_dangerous_enclosure_says_so_and_why(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_role("link", name="Attic terrarium").click()
    expect(page.locator("#headline")).to_have_text("Dangerous. No place is cool enough on a summer day.")
    stop = page.locator(".finding.stop").first
    expect(stop).to_contain_text("air above 30 °C that the animal cannot leave kills it")
    expect(page.get_by_role("link", name="Summer day")).to_contain_text("missed")


def test_without_scripts_the_forms_still_work(
    browser: object, address: str, browser_context_args: dict[str, object]
) -> None:
    context = browser.new_context(**browser_context_args, java_script_enabled=False)  # type: ignore[attr-defined]
    page: Page = context.new_page()
    page.goto(f"{address}/enclosures/1")
    page.get_by_label("Power").select_option("75")
    page.locator("#apply").press("Enter")
    expect(page.locator("#drawing")).to_contain_text("75 W halogen flood")
    context.close()


@pytest.mark.usefixtures("nothing_mends")
def test_a_mat_under_deep_shavings_is_made_safe_by_moving_its_probe(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(f"{address}/enclosures/4")
    expect(page.locator("#headline")).to_contain_text("Dangerous. Under the ground it is")
    expect(page.locator("#drawing")).to_contain_text("base 5")
    page.get_by_role("link", name="Thermostat").click()
    expect(page.locator(".setpoint")).to_contain_text("full power is too little")
    page.get_by_label("Its probe is").select_option(label="on 'Mat' itself")
    expect(page.locator("#headline")).not_to_contain_text("Dangerous")
    expect(page.locator(".fact").filter(has_text="Probe reads")).to_contain_text("33.0 °C")
    probe = shelf.open(4).design.controls[0].probe
    assert probe is not None
    assert probe.reads == "heater"
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#headline")).to_contain_text("Dangerous")


@pytest.mark.usefixtures("nothing_mends")
def test_a_source_is_added_put_on_a_thermostat_and_removed(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(f"{address}/enclosures/2?condition=winter-night")
    expect(page.locator("#headline")).to_contain_text("Night air is 7.0 K too cold")
    page.get_by_label("Add a part").select_option("ceramic-emitter")
    page.locator("#add").click()
    expect(page.locator("#part-form h2")).to_have_text("Ceramic emitter")
    page.get_by_label("Runs").select_option("night")
    expect(page.locator("#frame")).to_have_attribute("data-revision", "3")
    expect(page.get_by_text("'Ceramic emitter' has no thermostat")).to_have_count(0)
    page.get_by_role("link", name="Pulse thermostat").click()
    page.get_by_label("By night", exact=True).fill("17")
    page.keyboard.press("Tab")
    expect(page.locator("#headline")).not_to_contain_text("Night air")
    expect(page.locator("#drawing")).to_contain_text("probe 17.0°")
    page.get_by_role("link", name="Ceramic emitter").click()
    page.get_by_role("button", name="Remove Ceramic emitter").click()
    expect(page.locator("#headline")).to_contain_text("Night air is 7.0 K too cold")
    assert shelf.open(2).design.controls == ()


def test_whiskers_come_after_the_figures_and_the_reason_is_said(page: Page, address: str) -> None:
    open_quarry(page, address)
    expect(page.locator(".target").first).to_contain_text("likely")
    expect(page.locator(".target-bar .whisker").first).to_be_attached()
    expect(page.locator(".place-facts")).to_contain_text("Silicon meter shows")
    expect(page.locator(".place-facts")).to_contain_text("Its surface takes up")


@pytest.mark.usefixtures("nothing_mends")
def test_the_plan_and_the_failures_are_drawn(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/6")
    page.evaluate(MARK)
    expect(page.locator("#drawing .patch")).to_be_attached()
    expect(page.locator("#drawing .animal")).to_be_attached()
    before = page.locator(".fact").filter(has_text="Gives now").inner_text()
    page.get_by_text("Failures", exact=True).click()
    page.get_by_role("link", name="Every thermostat stuck on").click()
    expect(page.locator("#failures summary")).to_have_text("Every thermostat stuck on")
    expect(page.locator(".fact").filter(has_text="Gives now")).to_contain_text("120.0 W")
    assert "120" not in before
    page.get_by_role("link", name="Winter night").click()
    expect(page.locator("#failures summary")).to_have_text("Failures")
    assert page.evaluate(SAME)


def test_a_lamp_is_dragged_on_the_section_and_stored_once_when_let_go(page: Page, address: str, shelf: Shelf) -> None:
    open_quarry(page, address)
    lamp = page.locator("#drawing .lamp").bounding_box()
    assert lamp is not None
    x, y = lamp["x"] + lamp["width"] / 2, lamp["y"] + lamp["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 30, y + 10, steps=4)
    expect(page.get_by_label("From left", exact=True)).not_to_have_value("94")
    assert shelf.open(1).revision == 1
    page.mouse.up()
    expect(page.locator("#undo")).to_be_enabled()
    heater = shelf.open(1).design.heaters[0]
    assert 0.80 < heater.x_m < 0.92
    assert heater.z_m < 0.5
    assert shelf.open(1).revision == 2


def test_brackets_step_the_wattage_and_a_click_chooses_the_part(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(f"{address}/enclosures/6?part=Pulse")
    page.locator("#drawing .area-heater").click()
    expect(page.locator("#part-form h2")).to_have_text("Panel")
    page.keyboard.press("[")
    expect(page.locator("#drawing")).to_contain_text("80 W radiant panel")
    page.keyboard.press("]")
    expect(page.locator("#drawing")).to_contain_text("120 W radiant panel")
    assert shelf.open(6).revision == 3


def test_a_missed_target_is_mended_with_one_click(page: Page, address: str, shelf: Shelf) -> None:
    open_quarry(page, address)
    height = page.get_by_label("Above ground", exact=True)
    height.fill("49")
    height.press("Tab")
    expect(page.locator("#headline")).to_contain_text("on a usual day basking surface is")
    fix = page.get_by_role("group", name="What would fix Basking surface").get_by_role("button").first
    expect(fix).to_contain_text("Lower Main lamp", timeout=A_BUSY_MACHINE_MS)
    fix.click()
    expect(page.locator("#headline")).not_to_contain_text("on a usual day")
    assert shelf.open(1).revision == 3
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#headline")).to_contain_text("on a usual day basking surface is")
