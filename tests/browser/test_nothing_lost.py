"""Nothing that a keeper does is lost or done unasked: Back and reload, keys, quick presses, refused fields."""

from collections.abc import Callable
from contextlib import suppress
from time import sleep
from typing import Any

import pytest
from playwright.sync_api import Error, Page, Request, Route, expect

from mitten.core.design import Design
from mitten.store import Shelf
from mitten.web.edits import move_part
from tests.sweeping import sweep

pytestmark = pytest.mark.usefixtures("nothing_mends")

A_BUSY_MACHINE_MS = 40_000
SMALL = {"width": 390, "height": 844}


def open_quarry(page: Page, address: str, small: bool = False) -> None:
    if small:
        page.set_viewport_size(SMALL)  # type: ignore[arg-type]
    page.goto(f"{address}/enclosures/1")
    expect(page.locator("#frame")).to_be_visible()


def revision(page: Page, number: int) -> None:
    expect(page.locator("#frame")).to_have_attribute("data-revision", str(number))


def lamp_comes_to(page: Page, shelf: Shelf, x_m: float) -> float:
    """Where the lamp is stored: there, or wherever it is after the time that a busy machine may take."""
    for _ in range(200):
        if shelf.open(1).design.heaters[0].x_m == pytest.approx(x_m):
            break
        page.wait_for_timeout(200)
    return shelf.open(1).design.heaters[0].x_m


def scripts_come_late(page: Page) -> Callable[[], None]:
    """The page's scripts are held back until what is answered here is called."""
    held: list[Route] = []
    late = "**/htmx.min.js*"
    page.route(late, lambda route: held.append(route))

    def release() -> None:
        page.route(late, lambda route: route.continue_())
        held.pop().continue_()

    return release


def travel(page: Page, by: int) -> None:
    """Back or forward; the browser's own way of waiting gives up where a page loads itself again."""
    # On a busy machine the page may be gone before it has said that it goes, or still be there for long.
    with page.expect_event("framenavigated", timeout=A_BUSY_MACHINE_MS), suppress(Error):
        page.evaluate(f"setTimeout(() => history.go({by}), 50)")
    page.wait_for_timeout(350)
    page.wait_for_load_state("networkidle")


def slow_answers(page: Page, where: str, by_ms: float) -> None:
    """Edits are stored as soon as ever, but what the page is told of it comes late."""

    def late(route: Route) -> None:
        answer = route.fetch()
        page.wait_for_timeout(by_ms)
        route.fulfill(response=answer)

    page.route(where, late)


def styled(page: Page) -> bool:
    return bool(page.evaluate("getComputedStyle(document.querySelector('.topbar')).display === 'flex'"))


@pytest.mark.parametrize(
    ("away", "small"),
    [
        ("sheet", True),
        ("variants", False),
        pytest.param("help", True, marks=sweep),
        pytest.param("library", False, marks=sweep),
        pytest.param("sheet", False, marks=sweep),
    ],
)
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


def test_presses_of_one_part_are_not_lost_where_those_of_another_follow_at_once(
    page: Page, address: str, shelf: Shelf
) -> None:
    open_quarry(page, address)
    before = shelf.open(1).design
    for part in ("heaters:Main lamp", "sites:Ledge"):
        page.locator(f'[data-chip="{part}"]').focus()
        page.keyboard.press("ArrowLeft")
    assert lamp_comes_to(page, shelf, before.heaters[0].x_m - 0.01) == pytest.approx(before.heaters[0].x_m - 0.01)
    revision(page, 3)
    assert shelf.open(1).design.sites[0].x_m == pytest.approx(before.sites[0].x_m - 0.01)


def test_presses_are_stored_by_a_browser_that_says_only_at_the_last_moment_that_a_page_goes(
    page: Page, address: str, shelf: Shelf
) -> None:
    """Phones close a page so. The hand never rests here: nothing else would store them."""
    open_quarry(page, address)
    before = shelf.open(1).design.heaters[0].x_m
    page.evaluate("window.setTimeout = () => 0")
    page.locator('[data-chip="heaters:Main lamp"]').focus()
    page.keyboard.press("ArrowLeft")
    page.evaluate("window.dispatchEvent(new Event('pagehide'))")
    assert lamp_comes_to(page, shelf, before - 0.01) == pytest.approx(before - 0.01)


def test_a_page_asked_for_before_the_last_presses_came_shows_them_all_the_same(
    page: Page, address: str, shelf: Shelf
) -> None:
    held: list[Request] = []
    # Of the browser, not of the page: what a page sends as it is left outlives it.
    page.context.route("**/move/**", lambda route: held.append(route.request))
    open_quarry(page, address)
    page.locator('[data-chip="heaters:Main lamp"]').focus()
    page.keyboard.press("ArrowLeft")
    page.goto(f"{address}/enclosures/1?sheet=heat")
    expect(page.locator("#frame")).to_have_attribute("data-revision", "1")
    assert len(held) == 1
    came_late = {**held[0].headers, "origin": address}
    assert page.request.post(held[0].url, data=held[0].post_data, headers=came_late).ok
    revision(page, 2)
    page.get_by_label("Power").select_option("60")
    revision(page, 3)
    assert shelf.open(1).design.heaters[0].watts == 60


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


@pytest.mark.parametrize("goes_on", [True, False], ids=["goes on writing", "leaves at once"])
def test_what_is_written_while_an_answer_is_on_its_way_is_kept_and_stored(
    page: Page, address: str, shelf: Shelf, goes_on: bool
) -> None:
    page.goto(f"{address}/enclosures/1?sheet=box")
    slow_answers(page, "**/sheet/**", 600)
    length, depth = page.locator("#box-form input").nth(0), page.locator("#box-form input").nth(1)
    length.fill("130")
    page.keyboard.press("Tab")
    page.keyboard.press("Control+A")
    page.keyboard.type("6" if goes_on else "65")
    revision(page, 2)
    expect(depth).to_be_focused()
    if goes_on:
        page.keyboard.type("5")
    expect(depth).to_have_value("65")
    depth.press("Tab")
    revision(page, 3)
    size = shelf.open(1).design.enclosure
    assert (size.length_m, size.depth_m) == pytest.approx((1.3, 0.65))


def test_a_field_that_was_sent_holds_its_own_while_another_form_is_answered(
    page: Page, address: str, shelf: Shelf
) -> None:
    """Two forms of one sheet, the first answered late: the second shows what was written in it all the time."""
    page.goto(f"{address}/enclosures/1?sheet=animal")
    name, stage = page.locator("#name-form input"), page.get_by_label("Stage")
    slow_answers(page, "**/sheet/animal**", 1500)
    stage.select_option("juvenile")
    name.fill("Under the slate")
    page.keyboard.press("Tab")
    expect(page.locator("h1")).to_contain_text("Under the slate")
    expect(stage).to_have_value("juvenile")
    page.wait_for_load_state("networkidle")
    expect(stage).to_have_value("juvenile")
    expect(page.locator("h1")).to_contain_text("Under the slate")
    stored = shelf.open(1).design
    assert (stored.name, stored.animal.stage) == ("Under the slate", "juvenile")


def test_what_is_changed_before_the_scripts_are_there_is_stored_and_what_is_not_is_left(
    page: Page, address: str, shelf: Shelf
) -> None:
    release = scripts_come_late(page)
    page.goto(f"{address}/enclosures/1", wait_until="commit")
    page.get_by_label("Power").select_option("75")
    release()
    expect(page.locator("#drawing")).to_contain_text("75 W halogen flood")
    assert shelf.open(1).design.heaters[0].watts == 75.0
    before = len(shelf.history(1))
    page.reload()
    page.wait_for_load_state("networkidle")
    travel(page, -1)
    travel(page, 1)
    assert len(shelf.history(1)) == before


def test_a_slider_that_is_moved_before_the_scripts_are_there_goes_back_to_its_number(page: Page, address: str) -> None:
    release = scripts_come_late(page)
    page.goto(f"{address}/enclosures/1", wait_until="commit")
    slider = page.locator("#part-form input[type=range]").first
    stood = slider.input_value()
    slider.evaluate("slider => { slider.value = slider.max; }")
    assert slider.input_value() != stood
    release()
    expect(slider).to_have_value(stood)


def test_what_is_being_typed_when_the_scripts_come_is_sent_once_it_is_whole(
    page: Page, address: str, shelf: Shelf
) -> None:
    release = scripts_come_late(page)
    page.goto(f"{address}/enclosures/1", wait_until="commit")
    page.get_by_label("Power").select_option("75")
    winter = page.locator("#room input").first
    winter.fill("")
    winter.press_sequentially("1")
    release()
    expect(page.locator("#drawing")).to_contain_text("75 W halogen flood")
    assert shelf.open(1).design.room.winter.day_c == 21.0
    winter.press_sequentially("9")
    winter.press("Tab")
    revision(page, 3)
    assert shelf.open(1).design.room.winter.day_c == 19.0


def test_a_page_that_is_only_opened_sends_nothing(page: Page, address: str) -> None:
    sent: list[str] = []
    page.on("request", lambda request: sent.append(request.url) if request.method == "POST" else None)
    sheets = [f"enclosures/{number}?sheet={sheet}" for number in (1, 4, 6) for sheet in ("heat", "box", "animal")]
    for opened in (*sheets, "start"):
        page.goto(f"{address}/{opened}", wait_until="load")
        page.wait_for_timeout(50)
    assert sent == []


def test_presses_that_wait_for_a_slow_answer_are_stored_when_the_page_is_left_and_shown_when_it_is_opened(
    page: Page, address: str, shelf: Shelf, monkeypatch: pytest.MonkeyPatch
) -> None:
    def slowly(*rest: Any) -> Design:
        sleep(1.2)
        return move_part(*rest)

    monkeypatch.setattr("mitten.web.routes.edits.move_part", slowly)
    open_quarry(page, address)
    before_m = shelf.open(1).design.heaters[0].x_m
    page.locator('[data-chip="heaters:Main lamp"]').first.focus()
    for _ in range(3):
        page.keyboard.press("ArrowLeft")
        page.wait_for_timeout(600)
    page.reload()
    assert page.locator("#frame").get_attribute("data-revision") == str(shelf.open(1).revision)
    assert lamp_comes_to(page, shelf, before_m - 0.03) == pytest.approx(before_m - 0.03)
