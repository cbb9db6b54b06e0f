"""Nothing that a keeper does is lost or done unasked: Back and reload, keys, quick presses, refused fields."""

import pytest
from playwright.sync_api import Page, expect

from mitten.store import Shelf

SMALL = {"width": 390, "height": 844}
BOTH = pytest.mark.parametrize("small", [False, True], ids=["1280", "390"])


def open_quarry(page: Page, address: str, small: bool = False) -> None:
    if small:
        page.set_viewport_size(SMALL)  # type: ignore[arg-type]
    page.goto(f"{address}/enclosures/1")
    expect(page.locator("#frame")).to_be_visible()


def revision(page: Page, number: int) -> None:
    page.wait_for_function(f"() => document.querySelector('#frame').dataset.revision === '{number}'")


def lamp_comes_to(page: Page, shelf: Shelf, x_m: float) -> float:
    """Where the lamp is stored: there, or wherever it is after the time that a busy machine may take."""
    for _ in range(200):
        if shelf.open(1).design.heaters[0].x_m == pytest.approx(x_m):
            break
        page.wait_for_timeout(200)
    return shelf.open(1).design.heaters[0].x_m


def travel(page: Page, by: int) -> None:
    """Back or forward; the browser's own way of waiting gives up where a page loads itself again."""
    page.evaluate(f"setTimeout(() => history.go({by}), 0)")
    page.wait_for_timeout(300)
    page.wait_for_load_state("networkidle")


def styled(page: Page) -> bool:
    return bool(page.evaluate("getComputedStyle(document.querySelector('.topbar')).display === 'flex'"))


@BOTH
@pytest.mark.parametrize("away", ["sheet", "variants", "help", "library"])
def test_back_gives_the_whole_page_and_edits_are_stored_after_it(
    page: Page, address: str, shelf: Shelf, away: str, small: bool
) -> None:
    open_quarry(page, address, small)
    if away == "sheet":
        page.locator("#step-box").click()
        expect(page.locator("#box-form")).to_be_visible()
    else:
        page.goto(f"{address}/{'enclosures/1/variants' if away == 'variants' else away}")
    travel(page, -1)
    expect(page.locator("#bench #room-slide")).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert styled(page)
    page.get_by_label("Power").select_option("60")
    expect(page.locator("#drawing")).to_contain_text("60 W halogen flood")
    assert shelf.open(1).design.heaters[0].watts == 60.0
    travel(page, 1)
    page.wait_for_load_state("networkidle")
    travel(page, -1)
    expect(page.locator("#bench #room-slide")).to_be_visible()
    expect(page.locator("#drawing")).to_contain_text("60 W halogen flood")
    page.reload()
    expect(page.locator("#drawing")).to_contain_text("60 W halogen flood")


def test_a_page_without_a_place_for_the_answer_says_so_and_begins_anew(page: Page, address: str, shelf: Shelf) -> None:
    open_quarry(page, address)
    page.locator('[data-chip="heaters:Main lamp"]').focus()
    page.evaluate("document.getElementById('bench').removeAttribute('id')")
    page.keyboard.press("Delete")
    expect(page.locator("#notice")).to_contain_text("loaded again")
    expect(page.locator("#bench")).to_be_visible()
    expect(page.locator("#drawing")).to_contain_text("50 W halogen flood")
    assert shelf.open(1).revision == 1


def test_with_nothing_focused_keys_change_nothing_and_arrows_scroll(page: Page, address: str, shelf: Shelf) -> None:
    page.set_viewport_size({"width": 1280, "height": 500})
    open_quarry(page, address)
    for key in ("ArrowLeft", "ArrowUp", "Delete", "d", "o", "[", "]"):
        page.keyboard.press(key)
    page.keyboard.press("ArrowDown")
    page.wait_for_function("() => window.scrollY > 0")
    page.wait_for_timeout(700)
    assert shelf.open(1).revision == 1


def test_every_arrow_press_counts_however_quick(page: Page, address: str, shelf: Shelf) -> None:
    open_quarry(page, address)
    before = shelf.open(1).design.heaters[0].x_m
    page.locator('[data-chip="heaters:Main lamp"]').focus()
    for count in (5, 3, 4):
        for _ in range(count):
            page.keyboard.press("ArrowLeft")
        page.wait_for_timeout(480)
    assert lamp_comes_to(page, shelf, before - 0.12) == pytest.approx(before - 0.12)


def test_presses_on_their_way_are_stored_before_another_sheet_and_when_the_page_is_left(
    page: Page, address: str, shelf: Shelf
) -> None:
    open_quarry(page, address)
    before = shelf.open(1).design.heaters[0].x_m
    page.locator('[data-chip="heaters:Main lamp"]').focus()
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("ArrowLeft")
    page.locator("#step-box").click()
    expect(page.locator("#box-form")).to_be_visible()
    assert shelf.open(1).design.heaters[0].x_m == pytest.approx(before - 0.02)
    travel(page, -1)
    expect(page.locator("#room-slide")).to_be_visible()
    page.wait_for_load_state("networkidle")
    page.locator('[data-chip="heaters:Main lamp"]').focus()
    page.keyboard.press("ArrowLeft")
    page.goto(f"{address}/help")
    assert lamp_comes_to(page, shelf, before - 0.03) == pytest.approx(before - 0.03)


def test_undo_and_redo_have_their_usual_keys(page: Page, address: str, shelf: Shelf) -> None:
    open_quarry(page, address)
    page.get_by_label("Power").select_option("60")
    revision(page, 2)
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Control+z")
    expect(page.locator("#drawing")).to_contain_text("50 W halogen flood")
    page.keyboard.press("Control+Shift+z")
    expect(page.locator("#drawing")).to_contain_text("60 W halogen flood")


def test_escape_puts_back_what_is_dragged(page: Page, address: str, shelf: Shelf) -> None:
    open_quarry(page, address)
    lamp = page.locator("#drawing .lamp").bounding_box()
    assert lamp is not None
    x, y = lamp["x"] + lamp["width"] / 2, lamp["y"] + lamp["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 60, y + 10, steps=4)
    page.keyboard.press("Escape")
    page.mouse.up()
    expect(page.get_by_label("From left", exact=True)).to_have_value("94")
    page.wait_for_timeout(600)
    after = page.locator("#drawing .lamp").bounding_box()
    assert after is not None
    assert after["x"] == pytest.approx(lamp["x"], abs=1.0)
    assert shelf.open(1).revision == 1


def test_single_letters_can_be_switched_off_for_good(page: Page, address: str, shelf: Shelf) -> None:
    page.goto(f"{address}/help")
    page.get_by_label("Keys of one letter").uncheck()
    open_quarry(page, address)
    page.locator('[data-chip="heaters:Main lamp"]').focus()
    page.keyboard.press("d")
    page.keyboard.press("2")
    page.wait_for_timeout(600)
    assert shelf.open(1).revision == 1
    expect(page.locator("#step-heat")).to_have_attribute("aria-current", "page")
    page.goto(f"{address}/help")
    expect(page.get_by_label("Keys of one letter")).not_to_be_checked()


def test_a_menu_keeps_open_and_its_slider_its_keys(page: Page, address: str, shelf: Shelf) -> None:
    open_quarry(page, address)
    page.get_by_text("Any room").click()
    slider = page.locator("#room-c")
    slider.focus()
    before = float(slider.input_value())
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    expect(page.locator("#room-slide")).to_have_attribute("open", "")
    page.wait_for_timeout(1200)
    expect(page.locator("#room-c")).to_be_focused()
    assert float(page.locator("#room-c").input_value()) == pytest.approx(before + 1.0)
    page.reload()
    assert float(page.locator("#room-c").input_value()) == pytest.approx(before + 1.0)
    assert shelf.open(1).revision == 1


def test_a_refused_field_is_opened_gone_to_and_takes_no_neighbour_down(
    page: Page, address: str, shelf: Shelf, expected_statuses: set[int]
) -> None:
    expected_statuses.add(422)
    page.goto(f"{address}/enclosures/1?sheet=box")
    rare = page.locator("#more-place")
    rare.evaluate("one => { one.open = true; }")
    altitude = page.get_by_label("Altitude")
    # Both at once: going from field to field would send the first one alone.
    page.locator("#place").evaluate(
        "form => { form.elements['room.altitude_m'].value = 'far up'; form.elements['room.latitude'].value = '48';"
        " form.requestSubmit(); }"
    )
    expect(page.locator("#more-place")).to_have_attribute("open", "")
    expect(altitude).to_be_focused()
    expect(altitude).to_have_attribute("aria-invalid", "true")
    expect(altitude).to_have_value("far up")
    assert shelf.open(1).design.room.latitude == pytest.approx(48.0)
