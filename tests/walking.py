"""A keeper who does anything: clicks, types, drags, goes back and reloads; after each step page and store must agree."""

import random
from collections.abc import Callable, Iterator
from contextlib import suppress
from time import monotonic

from playwright.sync_api import Error, Locator, Page, Request
from playwright.sync_api import TimeoutError as TooSlow

from mitten.store import Shelf
from mitten.web.edits import parts_of
from mitten.web.edits.refs import noun_of

ENCLOSURE = 4
"""The smallest of the demo data: a step takes little time."""

PATH = f"/enclosures/{ENCLOSURE}"
PATIENCE_MS = 10_000
SETTLED_S, QUIET_MS, STEPS_REST_MS = 30.0, 120, 520
TYPED = ("12", "20", "33 cm", "7,5", "abc", "", "999999", "-4", "½", "25 ℃", "8am", "5 to 6", "1e9", "  14 ", "10in")
ADDED = ("ceramic-emitter", "halogen-flood", "uvb-tube", "light", "cool-hide", "basking", "water", "vent", "heat-mat")
AWAY = ("/", "/help", "/library", "/library/species/rosy-boa", f"{PATH}/variants", f"{PATH}/history", "/start")
KEYS = ("ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown", "Shift+ArrowLeft", "d", "o", "[", "]", "Delete", "Enter")
CONDITIONS = ("winter-day", "summer-night", "usual-day", "room=25,night", "winter-day+stuck-on")
MOST_PARTS = 9


class Walk:
    """One walk by a seed; ``log`` says what was done."""

    def __init__(self, page: Page, address: str, shelf: Shelf, seed: int) -> None:
        self.page, self.address, self.shelf = page, address, shelf
        self.rng = random.Random(seed)  # noqa: S311, a walk that can be gone again
        self.log: list[str] = []
        self._under_way: set[Request] = set()
        page.on("request", self._begun)
        page.on("requestfinished", lambda request: self._under_way.discard(request))
        page.on("requestfailed", lambda request: self._under_way.discard(request))
        page.set_default_timeout(PATIENCE_MS)
        page.goto(f"{address}{PATH}")
        self._settle()

    def steps(self, count: int) -> Iterator[str]:
        """Go so many steps; yields what does not agree after each."""
        for number in range(count):
            step = self.rng.choices(*zip(*self._possible(), strict=True))[0]
            self.log.append(step.__name__)
            try:
                step()
                self._settle()
            except TooSlow as error:
                yield f"{number} {self._latest()}: {str(error).splitlines()[0]}"
                self.page.goto(f"{self.address}{PATH}")
                self._settle()
            yield from (f"{number} {self._latest()}: {fault}" for fault in self._lasting_faults())

    def _latest(self) -> str:
        return " > ".join(self.log[-6:])

    def _possible(self) -> list[tuple[Callable[[], None], int]]:
        if not self.page.locator("#frame").count():
            return [(self._back, 3), (self._forward, 1), (self._home, 4), (self._reload, 1)]
        return [
            (self._choose, 4), (self._key, 6), (self._keys_quickly, 3), (self._type, 6), (self._select, 4),
            (self._drag, 4), (self._undo, 5), (self._redo, 3), (self._add, 2), (self._sheet, 3), (self._condition, 3),
            (self._tick, 2), (self._mend, 1), (self._slide, 1), (self._leave, 2), (self._back, 2), (self._forward, 1),
            (self._reload, 1), (self._escape_a_drag, 1),
        ]  # fmt: skip

    # What a keeper does.

    def _choose(self) -> None:
        self._any("[data-chip]", lambda chip: chip.click())

    def _key(self) -> None:
        key = self.rng.choice(KEYS)
        if key == "d" and self.page.locator("[data-chip]").count() >= MOST_PARTS:
            return
        self.log[-1] += f" {key}"
        self._any("[data-chip]", lambda chip: chip.press(key))
        self.page.wait_for_timeout(STEPS_REST_MS if "Arrow" in key else 30)

    def _keys_quickly(self) -> None:
        keys = [self.rng.choice(KEYS[:4]) for _ in range(self.rng.randint(2, 9))]

        def press(chip: Locator) -> None:
            chip.focus()
            for key in keys:
                self.page.keyboard.press(key)
                self.page.wait_for_timeout(self.rng.choice([0, 0, 40, 470]))

        self._any("[data-chip]", press)
        self.page.wait_for_timeout(self.rng.choice([0, STEPS_REST_MS]))

    def _type(self) -> None:
        text = self.rng.choice(TYPED)
        self.log[-1] += f" {text!r}"
        fields = "#part-form input.form-control:visible, #room input.form-control:visible, #box-form input:visible"
        self._any(fields, lambda field: self._fill(field, text))

    def _fill(self, field: Locator, text: str) -> None:
        field.fill(text)
        field.press("Tab")

    def _select(self) -> None:
        def take(select: Locator) -> None:
            options = select.locator("option:not([disabled])").all()
            value = self.rng.choice(options).get_attribute("value") if options else None
            if value is not None:
                select.select_option(value)

        self._any("#part-form select:visible", take)

    def _drag(self) -> None:
        self._hold()
        self.page.mouse.up()

    def _escape_a_drag(self) -> None:
        self._hold()
        self.page.keyboard.press("Escape")
        self.page.mouse.up()

    def _hold(self) -> None:
        def take(part: Locator) -> None:
            box = part.bounding_box()
            if box is None or box["y"] < 0 or box["y"] > 760:
                return
            x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
            self.page.mouse.move(x, y)
            self.page.mouse.down()
            self.page.mouse.move(x + self.rng.randint(-90, 90), y + self.rng.randint(-60, 60), steps=3)

        self._any("#drawing [data-part]", take)

    def _undo(self) -> None:
        self._undo_or_redo("undo", "Control+z")

    def _redo(self) -> None:
        self._undo_or_redo("redo", "Control+Shift+z")

    def _undo_or_redo(self, button: str, keys: str) -> None:
        if not self.page.locator(f"#{button}").is_enabled():
            return
        if self.rng.random() < 0.5:
            self.page.locator(f"#{button}").click()
        else:
            self.page.evaluate("document.activeElement.blur()")
            self.page.keyboard.press(keys)

    def _add(self) -> None:
        offered = self.page.locator("#add-what option").evaluate_all("all => all.map(one => one.value)")
        wanted = [one for one in ADDED if one in offered]
        if wanted and self.page.locator("[data-chip]").count() < MOST_PARTS:
            self.page.locator("#add-what").select_option(self.rng.choice(wanted))
            self.page.locator("#add").click()

    def _sheet(self) -> None:
        self.page.locator(f"#step-{self.rng.choice(['heat', 'animal', 'box'])}").click()

    def _condition(self) -> None:
        if self.page.locator(".tabs").count():
            self.page.goto(
                f"{self.address}{PATH}?sheet=heat&condition={self.rng.choice(CONDITIONS).replace('+', '%2B')}"
            )

    def _tick(self) -> None:
        self._shut_menus()
        if not self.page.locator("#checklist[open]").count():
            self.page.locator("#checklist summary").click()
        self._any("#checklist input[type=checkbox]", lambda box: box.click())

    def _mend(self) -> None:
        self._any(".fix", lambda fix: fix.click())

    def _slide(self) -> None:
        if self.page.locator("#room-slide").count():
            if not self.page.locator("#room-slide[open]").count():
                self.page.locator("#room-slide summary").click()
            self.page.locator("#room-c").fill(str(self.rng.randint(10, 35)))
            self.page.wait_for_timeout(400)
            # What lies under an open menu cannot be hit: a click there would only shut it.
            self.page.keyboard.press("Escape")

    def _leave(self) -> None:
        self.page.goto(self.address + self.rng.choice(AWAY))

    def _home(self) -> None:
        self.page.goto(f"{self.address}{PATH}")

    def _reload(self) -> None:
        self.page.reload()

    def _back(self) -> None:
        self._travel(-1)

    def _forward(self) -> None:
        self._travel(1)

    def _travel(self, by: int) -> None:
        # On a busy machine the page may be gone before it has said that it goes.
        with suppress(Error):
            self.page.evaluate(f"setTimeout(() => history.go({by}), 50)")
        self.page.wait_for_timeout(250)
        if not self.page.url.startswith(self.address):
            self._home()

    def _any(self, selector: str, act: Callable[..., object]) -> None:
        self._shut_menus()
        found = self.page.locator(selector).all()
        if found:
            act(self.rng.choice(found))

    def _shut_menus(self) -> None:
        """What lies under an open menu is out of reach."""
        if self.page.locator("details.menu[open]").count():
            self.page.keyboard.press("Escape")

    # Whether everything agrees.

    def _begun(self, request: Request) -> None:
        # What hangs under the pointer may be given up unread.
        if not any(words in request.url for words in ("fixes=true", "/readout?")):
            self._under_way.add(request)

    def _settle(self) -> None:
        """Until nothing is on its way; what would mend a target may come later."""
        until, quiet_ms = monotonic() + SETTLED_S, 0
        while quiet_ms < QUIET_MS and monotonic() < until:
            self.page.wait_for_timeout(40)
            quiet_ms = 0 if self._under_way else quiet_ms + 40
        self.page.wait_for_load_state("load")

    def _lasting_faults(self) -> list[str]:
        """What does not agree even once presses that were added up have had the time to be stored."""
        found = list(self._faults())
        if not found:
            return []
        self.page.wait_for_timeout(STEPS_REST_MS)
        self._settle()
        return list(self._faults())

    def _faults(self) -> Iterator[str]:
        shelved, history = self.shelf.open(ENCLOSURE), self.shelf.history(ENCLOSURE)
        numbers = [revision.number for revision in history]
        if numbers != list(range(len(numbers), 0, -1)) or sum(one.current for one in history) != 1:
            yield f"the history has holes: {numbers[:9]}"
        if not self.page.locator("#frame").count():
            return
        shown = self.page.locator("#frame").get_attribute("data-revision")
        if shown != str(shelved.revision):
            yield f"the page shows revision {shown}, the store has {shelved.revision}"
            return
        if self.page.locator("#undo").is_enabled() != shelved.can_undo:
            yield "undo is not offered as it can be"
        if self.page.locator("#redo").is_enabled() != shelved.can_redo:
            yield "redo is not offered as it can be"
        if self.page.locator("#drawing .heat-sheet").count():
            yield from self._places()

    def _places(self) -> Iterator[str]:
        """Whether the drawing has every part where the store has it."""
        design = self.shelf.open(ENCLOSURE).design
        drawn = self.page.locator("#drawing [data-part]").evaluate_all("all => all.map(one => ({...one.dataset}))")
        places = {one["part"]: float(one["x"]) for one in drawn}
        for ref in parts_of(design):
            part = noun_of(design, ref)
            place = part.probe if ref.collection == "controls" else part
            if ref.collection == "vents" or place is None:
                continue
            if abs(places.get(str(ref), place.x_m) - place.x_m) > 1e-3:
                yield f"{ref} is drawn at {places[str(ref)]} and stored at {place.x_m}"
        chips = set(self.page.locator("[data-chip]").evaluate_all("all => all.map(one => one.dataset.chip)"))
        if chips != {str(ref) for ref in parts_of(design)}:
            yield f"parts shown and stored differ: {chips ^ {str(ref) for ref in parts_of(design)}}"
