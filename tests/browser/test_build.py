"""Building an enclosure from nothing, breaking it, mending it, comparing, and carrying it away and back."""

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from mitten.core.design import Design
from mitten.store import Shelf
from tests.designs import ledge_data

# Nothing is on its way but what would mend a target, which may take its time.
SETTLED = "() => !document.querySelector('.htmx-request:not(#margin div)') && !!document.querySelector('#margin .sure')"

POLLING_MS = 100
"""Looking at every frame has the browser draw every frame."""

BEHIND = "e => !!(document.activeElement.compareDocumentPosition(e) & Node.DOCUMENT_POSITION_PRECEDING)"


def latest(shelf: Shelf) -> Design:
    """The enclosure that was made last."""
    return shelf.enclosures()[-1].design


def settled(page: Page) -> None:
    """Wait until nothing is on its way any more but what would fix the missed targets, which takes longest."""
    page.wait_for_function(SETTLED, polling=POLLING_MS)


def verdict_of(page: Page) -> str:
    """All that the margin says, once nothing is being worked out any more."""
    settled(page)
    expect(page.get_by_text("Working out what would fix it")).to_have_count(0, timeout=20_000)
    return page.locator("#margin").inner_text()


class Hands:
    """Someone without a mouse: Tab to what is meant, then type."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def to(self, target: Locator, most: int = 240) -> None:
        """Press Tab, or Shift and Tab where it lies behind, until the target has the focus."""
        key = "Shift+Tab" if target.evaluate(BEHIND) else "Tab"
        for _ in range(most):
            if target.evaluate("e => e === document.activeElement"):
                return
            self.page.keyboard.press(key)
        raise AssertionError(f"{key} never came to {target}")

    def choose(self, select: Locator, words: str) -> None:
        """Type the beginning of an option, as keyboards choose."""
        self.to(select)
        self.page.keyboard.type(words)
        expect(select.locator("option:checked")).to_have_text(re.compile(re.escape(words), re.I))

    def write(self, field: Locator, text: str) -> None:
        """Replace what stands in a field and leave it."""
        self.to(field)
        self.page.keyboard.press("Control+a")
        self.page.keyboard.type(text)
        with self.page.expect_response(lambda answer: answer.request.method == "POST"):
            self.page.keyboard.press("Tab")

    def command(self, key: str) -> None:
        """Leave whatever field the hand is in and press a key that is a command."""
        self.page.keyboard.press("Escape")
        self.page.keyboard.press(key)

    def press(self, button: Locator) -> None:
        """Go to a button or link and press Enter."""
        self.to(button)
        self.page.keyboard.press("Enter")


@pytest.mark.usefixtures("nothing_mends")
def test_a_plywood_box_for_a_rosy_boa_is_built_by_keyboard_alone(page: Page, address: str, shelf: Shelf) -> None:
    hands = Hands(page)
    page.goto(address)
    hands.choose(page.locator("#new-species"), "Rosy boa")
    hands.press(page.locator("#new"))
    expect(page).to_have_url(re.compile("sheet=animal"))
    hands.write(page.get_by_label("Day length", exact=True), "12 h")
    hands.command("2")
    hands.choose(page.locator("#preset-key"), "plywood box 100")
    hands.press(page.locator("#use-preset"))
    expect(page.get_by_label("Length inside")).to_have_value("100")
    hands.write(page.get_by_label("Height inside"), "0,5 m")
    hands.write(page.get_by_label("Winter day", exact=True), "70F")
    for what, name in (("basking place", "Basking place"), ("cool hide", "Cool hide"), ("warm hide", "Warm hide")):
        hands.command("a")
        hands.choose(page.locator("#add-what"), what)
        hands.press(page.locator("#add"))
        expect(page.locator("#part-form h2")).to_have_text(name)
    hands.command("3")
    expect(page.locator("#tab-winter-day")).to_be_visible()
    hands.command("a")
    hands.choose(page.locator("#add-what"), "halogen flood")
    hands.press(page.locator("#add"))
    expect(page.locator("#part-form h2")).to_have_text("Halogen flood")
    settled(page)
    lamp = page.locator('[data-view="section"] [data-part="heaters:Halogen flood"]')
    hands.to(lamp)
    for _ in range(3):
        page.keyboard.press("ArrowLeft")
    page.keyboard.press("ArrowDown")
    expect(page.locator("#undo")).to_be_enabled()
    expect(page.locator("#drawing .chosen").first).to_be_attached()
    page.wait_for_function("() => document.querySelector('#frame').dataset.revision >= 9", polling=POLLING_MS)
    design = latest(shelf)
    assert (design.enclosure.length_m, design.enclosure.depth_m, design.enclosure.height_m) == (1.0, 0.5, 0.5)
    assert design.enclosure.panels.back.material == "plywood"
    assert design.animal.species == "rosy-boa"
    assert design.day_hours == 12.0
    assert design.room.winter.day_c == pytest.approx(21.11, abs=0.01)
    assert [site.role for site in design.sites] == ["basking", "cool-hide", "warm-hide"]
    heater = design.heater("Halogen flood")
    assert heater.x_m == pytest.approx(design.sites[0].x_m - 0.03)
    # From the lamp in the list the brackets change its power.
    before = heater.watts
    page.locator('[data-chip="heaters:Halogen flood"]').focus()
    page.keyboard.press("[")
    settled(page)
    assert latest(shelf).heater("Halogen flood").watts < before


def drag(page: Page, ref: str, across: float, up: float, view: str = "section") -> None:
    """Drag a part by its middle, in drawn pixels, and let go."""
    grasp = page.locator(f'[data-view="{view}"] [data-part="{ref}"] .grasp').bounding_box()
    assert grasp is not None
    x, y = grasp["x"] + grasp["width"] / 2, grasp["y"] + grasp["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + across / 2, y - up / 2)
    page.mouse.move(x + across, y - up)
    with page.expect_response(lambda answer: "/move/" in answer.url):
        page.mouse.up()
    settled(page)


@pytest.mark.usefixtures("nothing_mends")
def test_the_same_box_is_built_by_dragging(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(address)
    page.locator("#new-species").select_option("rosy-boa")
    page.locator("#new").click()
    page.locator("#step-box").click()
    page.locator("#preset-key").select_option("plywood-100")
    page.locator("#use-preset").click()
    expect(page.get_by_label("Length inside")).to_have_value("100")
    page.locator("#step-heat").click()
    expect(page.locator("#tab-winter-day")).to_be_visible()
    for what in ("basking", "cool-hide", "halogen-flood", "uvb-tube-forest"):
        page.locator("#add-what").select_option(what)
        with page.expect_response(lambda answer: "/add" in answer.url):
            page.locator("#add").click()
    settled(page)
    drag(page, "sites:Basking place", -30, 0)
    drag(page, "sites:Cool hide", 0, -25, view="plan")
    drag(page, "heaters:Halogen flood", 24, -12)
    drag(page, "uvb:UV tube, T5, forest", 20, -10, view="plan")
    drag(page, "vents:Vent 1", 0, 30)
    page.locator('[data-chip="heaters:Halogen flood"]').click()
    page.get_by_role("button", name="Over the basking place").click()
    settled(page)
    design = latest(shelf)
    assert len(design.sites) == 2
    site, lamp = design.sites[0], design.heater("Halogen flood")
    assert site.x_m < 0.76
    assert site.z_m is None
    assert design.sites[1].y_m < 0.25
    assert design.enclosure.vents[0].z_m is not None
    assert design.enclosure.vents[0].z_m > 0.1
    assert lamp.x_m == pytest.approx(site.x_m, abs=0.006)
    # Whole centimetres, never out of the box.
    for length in (site.x_m, lamp.x_m, lamp.z_m - design.substrate.depth_m, design.uvb[0].y_m):
        assert round(length * 100, 6) == pytest.approx(round(length * 100), abs=1e-6)
    drag(page, "heaters:Halogen flood", 500, 110)
    lamp = latest(shelf).heater("Halogen flood")
    assert (lamp.x_m, lamp.z_m) == (1.0, 0.5)


def test_it_is_broken_in_six_ways_and_six_findings_are_shown(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/1")
    expect(page.locator(".finding:not([data-rule=no-water])")).to_have_count(0)
    page.get_by_text("More", exact=True).click()
    page.get_by_label("Socket", exact=True).select_option("plastic")
    expect(page.locator('[data-rule="socket-material"]')).to_be_visible()
    page.get_by_label("Runs", exact=True).select_option("always")
    expect(page.locator('[data-rule="light-at-night"]')).to_be_visible()
    page.get_by_label("From left", exact=True).fill("60")
    page.keyboard.press("Tab")
    expect(page.locator('[data-rule="lamp-in-the-middle"]')).to_be_visible()
    page.locator('[data-chip="uvb:UV tube"]').click()
    expect(page.locator("#part-form h2")).to_have_text("UV tube")
    page.get_by_label("UV index at 30 cm").fill("20")
    page.keyboard.press("Tab")
    expect(page.locator('[data-rule="uv-too-near"]')).to_be_visible()
    page.locator('[data-chip="sites:Hide"]').click()
    expect(page.locator("#part-form h2")).to_have_text("Hide")
    page.locator("#remove").click()
    expect(page.locator('[data-rule="no-cover-cool"]')).to_be_visible()
    page.locator("#step-box").click()
    page.get_by_label("Length inside").fill("110")
    page.keyboard.press("Tab")
    expect(page.locator('[data-rule="box-too-small"]')).to_be_visible()
    shown = page.locator(".finding").evaluate_all("all => all.map(one => one.dataset.rule)")
    assert {
        "socket-material", "light-at-night", "lamp-in-the-middle", "uv-too-near", "no-cover-cool", "box-too-small",
    } <= set(shown)  # fmt: skip
    expect(page.locator('[data-rule="box-too-small"]')).to_contain_text("110 of 120 cm long")


@pytest.mark.usefixtures("nothing_mends")
def test_two_variants_are_compared_and_one_is_adopted(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(f"{address}/enclosures/1/variants")
    page.get_by_label("Name for the enclosure as it is now").fill("50 W")
    page.locator("#keep").click()
    page.get_by_role("link", name="Back to Heat").click()
    page.get_by_label("Power").select_option("75")
    expect(page.locator("#drawing")).to_contain_text("75 W halogen flood")
    page.get_by_role("link", name="Variants").click()
    expect(page.locator(".column")).to_have_count(2)
    expect(page.locator(".column").nth(1)).to_contain_text("Main lamp: power 75 W to 50 W")
    row = page.locator(".compare-rows tr", has_text="Basking surface")
    expect(row).to_have_class("differing")
    expect(row.locator(".other")).to_contain_text("38.7 °C")
    page.locator("#materials").click()
    expect(page.locator(".column h2")).to_have_text(["over slate", "over hardwood", "over cast resin", "over topsoil"])
    page.go_back()
    page.get_by_role("button", name="Adopt 50 W").click()
    expect(page.locator("#drawing")).to_contain_text("50 W halogen flood")
    assert shelf.open(1).design.heaters[0].watts == 50.0
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#drawing")).to_contain_text("75 W halogen flood")
    assert shelf.history(1)[0].summary == "Adopted the variant '50 W'"


def test_exported_removed_and_opened_again_the_verdict_is_the_same(
    page: Page, address: str, shelf: Shelf, tmp_path: Path
) -> None:
    page.goto(f"{address}/enclosures/2")
    verdict = verdict_of(page)
    page.get_by_text("Save", exact=True).click()
    with page.expect_download() as saving:
        page.get_by_role("link", name="The design, as a file").click()
    saved = tmp_path / "saved.mitten.json"
    saving.value.save_as(saved)
    page.get_by_role("link", name="Mitten").click()
    page.get_by_role("button", name="Remove Glass canyon").click()
    expect(page.get_by_role("link", name="Glass canyon")).to_have_count(0)
    expect(page.get_by_role("button", name="Put it back: Glass canyon")).to_be_visible()
    page.get_by_label("Open a design file").set_input_files(saved)
    page.get_by_role("button", name="Open", exact=True).click()
    assert verdict_of(page) == verdict
    assert latest(shelf) == shelf.removed()[0].design


@pytest.mark.parametrize("width", [390, 1280])
def test_nothing_on_the_shelf_moves_as_its_pictures_come_in(page: Page, address: str, width: int) -> None:
    """A click on Remove is not to land beside it."""
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(address)
    # Pictures come in as they are scrolled to: those in view are there at once.
    expect(page.locator(".entry-card svg").first).to_be_visible()
    tops = "[...document.querySelectorAll('.entry-acts')].map(one => one.offsetTop)"
    full = page.evaluate(tops)
    page.evaluate("document.querySelectorAll('.entry-card').forEach(one => { one.textContent = 'Working' })")
    assert page.evaluate(tops) == full


def test_a_dropped_file_with_faults_lists_them_all_and_a_good_one_opens(
    page: Page, address: str, shelf: Shelf, expected_statuses: set[int]
) -> None:
    expected_statuses.add(422)
    page.goto(address)
    drop = """content => {
      const carried = new DataTransfer();
      carried.items.add(new File([content], 'dropped.mitten.json', {type: 'application/json'}));
      document.body.dispatchEvent(new DragEvent('drop', {dataTransfer: carried, bubbles: true, cancelable: true}));
    }"""
    bad = ledge_data(watts=-5.0)
    bad["colour"] = 1
    page.evaluate(drop, json.dumps(bad))
    expect(page.get_by_role("alert").get_by_role("listitem")).to_have_count(2)
    assert len(shelf.enclosures()) == 6
    page.evaluate(drop, json.dumps(ledge_data()))
    expect(page).to_have_url(re.compile("/enclosures/7$"), timeout=20_000)


@pytest.mark.usefixtures("nothing_mends")
def test_of_two_tabs_the_later_one_is_told_and_nothing_is_lost(
    page: Page, address: str, shelf: Shelf, expected_statuses: set[int]
) -> None:
    expected_statuses.add(409)
    other = page.context.new_page()
    for tab in (page, other):
        tab.goto(f"{address}/enclosures/1")
    page.get_by_label("Power").select_option("60")
    expect(page.locator("#drawing")).to_contain_text("60 W halogen flood")
    height = other.get_by_label("Above ground", exact=True)
    height.fill("40")
    height.press("Tab")
    expect(other.get_by_role("alert").filter(has_text="changed elsewhere")).to_contain_text("power 50 W to 60 W")
    expect(other.locator("#drawing")).to_contain_text("60 W halogen flood")
    expect(height).to_have_value("40")
    assert shelf.open(1).design.heaters[0].z_m == 0.5
    height.press("Enter")
    expect(other.locator("#drawing .measure-label")).to_have_text("28 cm")
    design = shelf.open(1).design
    assert (design.heaters[0].watts, design.heaters[0].z_m) == (60.0, 0.46)
    other.close()


@pytest.mark.usefixtures("nothing_mends")
def test_a_finger_drags_as_a_mouse_does(browser: object, address: str, shelf: Shelf) -> None:
    context = browser.new_context(viewport={"width": 1280, "height": 800}, has_touch=True)  # type: ignore[attr-defined]
    page: Page = context.new_page()
    page.goto(f"{address}/enclosures/1")
    grasp = page.locator('[data-view="section"] [data-part="heaters:Main lamp"] .grasp').bounding_box()
    assert grasp is not None
    x, y = grasp["x"] + grasp["width"] / 2, grasp["y"] + grasp["height"] / 2
    touch = context.new_cdp_session(page)
    touch.send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [{"x": x, "y": y}]})
    for step in (10, 20, 38):
        touch.send("Input.dispatchTouchEvent", {"type": "touchMove", "touchPoints": [{"x": x - step, "y": y}]})
    with page.expect_response(lambda answer: "/move/" in answer.url):
        touch.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
    assert shelf.open(1).design.heaters[0].x_m < 0.9
    context.close()


def test_the_readout_the_room_slider_and_the_units_follow(page: Page, address: str) -> None:
    page.goto(f"{address}/enclosures/1")
    settled(page)
    plan = page.locator('[data-view="plan"] [data-part="sites:Ledge"]').bounding_box()
    assert plan is not None
    page.mouse.move(plan["x"] + 20, plan["y"] + 20)
    page.mouse.move(plan["x"] + 24, plan["y"] + 20)
    expect(page.locator("#readout")).to_contain_text(re.compile(r"Ledge \d+\.\d °C · air \d+\.\d °C · \d+ W/m²"))
    page.get_by_text("Any room", exact=True).click()
    slider = page.locator("#room-c")
    slider.evaluate("e => { e.value = 12; e.dispatchEvent(new Event('input', {bubbles: true})) }")
    expect(page.locator("#room-out")).to_have_text("12.0 °C")
    slider.evaluate("e => e.dispatchEvent(new Event('change', {bubbles: true}))")
    expect(page.locator("#room-slide summary")).to_have_text("Room at 12.0 °C")
    page.goto(f"{address}/enclosures/1")
    page.locator("#units").click()
    expect(page.get_by_label("Winter day", exact=True)).to_have_value("69.8")
    expect(page.locator(".target").first).to_contain_text("101.7")
    expect(page.locator("#drawing")).to_contain_text("12 in")
    page.get_by_label("Winter day", exact=True).fill("18 C")
    page.keyboard.press("Tab")
    expect(page.get_by_label("Winter day", exact=True)).to_have_value("64.4")
    page.reload()
    expect(page.locator("#units")).to_have_text("°F · in")


def test_the_checklist_is_ticked_and_remembered(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(f"{address}/enclosures/1")
    settled(page)
    page.get_by_text("To see to by hand", exact=False).click()
    page.get_by_label("A smoke alarm is in the room and works.").check()
    expect(page.locator("#checklist summary")).to_contain_text("14 of 15 left")
    assert list(shelf.ticks(1)) == ["smoke-alarm"]


def test_the_checklist_stays_open_while_fixes_come_in(page: Page, address: str, shelf: Shelf) -> None:
    """The margin is replaced as fixes are found: what is read or ticked in it meanwhile is not shut."""
    page.goto(f"{address}/enclosures/1")
    settled(page)
    page.get_by_label("Winter day", exact=True).fill("9")
    page.keyboard.press("Tab")
    expect(page.get_by_text("Working out what would fix it")).to_be_visible()
    page.locator("#checklist summary").click()
    box = page.locator("#checklist input[type=checkbox]").first
    box.focus()
    held = box.get_attribute("id")
    expect(page.get_by_text("Working out what would fix it")).to_have_count(0, timeout=30000)
    settled(page)
    expect(page.locator("#checklist")).to_have_attribute("open", "")
    assert page.evaluate("document.activeElement.id") == held


def test_outside_parts_are_marked_on_the_drawing(
    page: Page, address: str, shelf: Shelf, expected_statuses: set[int]
) -> None:
    expected_statuses.add(422)
    page.goto(f"{address}/enclosures/1?part=sites:Ledge")
    page.get_by_label("Length", exact=True).fill("1,9 m")
    page.keyboard.press("Tab")
    expect(page.locator("#drawing .troubled").first).to_contain_text("does not fit")
    expect(page.get_by_label("Length", exact=True)).to_have_value("1,9 m")
    assert shelf.open(1).revision == 1


@pytest.mark.usefixtures("nothing_mends")
def test_keys_copy_remove_and_step_the_part_that_has_the_focus(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(f"{address}/enclosures/1")
    settled(page)
    page.locator('[data-chip="heaters:Main lamp"]').focus()
    page.keyboard.press("d")
    expect(page.locator("#part-form h2")).to_have_text("Main lamp 2")
    settled(page)
    expect(page.locator('[data-chip="heaters:Main lamp 2"]')).to_be_focused()
    page.keyboard.press("Shift+ArrowLeft")
    expect(page.locator("#frame")).to_have_attribute("data-revision", "3")
    assert shelf.open(1).design.heater("Main lamp 2").x_m == pytest.approx(0.94)
    page.locator('[data-view="plan"] [data-part="sites:Hide"]').focus()
    page.keyboard.press("Enter")
    expect(page.locator("#part-form h2")).to_have_text("Hide")
    page.keyboard.press("ArrowDown")
    expect(page.locator("#frame")).to_have_attribute("data-revision", "4")
    assert shelf.open(1).design.site("Hide").y_m == pytest.approx(0.31)
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Delete")
    expect(page.locator('[data-chip="sites:Hide"]')).to_have_count(1)
    page.locator('[data-view="plan"] [data-part="sites:Hide"]').focus()
    page.keyboard.press("Delete")
    expect(page.locator('[data-chip="sites:Hide"]')).to_have_count(0)
    expect(page.locator(".chips a").first).to_be_focused()
    for left in (4, 3, 2, 1):
        page.get_by_role("button", name="Undo").click()
        expect(page.locator("#frame")).to_have_attribute("data-revision", str(left))
    expect(page.locator("#undo")).to_be_disabled()


def test_an_own_species_is_copied_searched_compared_and_kept_in(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(f"{address}/library")
    page.get_by_label("Search the library").fill("sand boa")
    expect(page.locator(".library-list li")).to_have_count(1)
    page.get_by_role("link", name="Kenyan sand boa").click()
    page.locator("#copy-entry").click()
    page.get_by_label("label", exact=True).fill("Sand boa of mine")
    page.get_by_label("night", exact=True).fill("70 F; 79 F")
    page.get_by_label("Your source for night", exact=True).fill("two winters of readings")
    page.locator("#save-entry").click()
    expect(page.locator("tr", has_text="two winters of readings")).to_contain_text("21.1; 26.1 °C")
    page.locator("#other").select_option("kenyan-sand-boa")
    page.locator("#compare").click()
    expect(page.locator(".differing").first).to_contain_text("night")
    page.goto(f"{address}/enclosures/4?sheet=animal")
    page.get_by_label("Species").select_option(label="Sand boa of mine")
    expect(page.get_by_label("Night air, low end", exact=True)).to_have_value("21.1")
    assert shelf.open(4).design.animal.species == "sand-boa-of-mine"
