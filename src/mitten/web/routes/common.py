"""What routes share: the desk with the shelf, the pages and the latest assessments on it."""

from dataclasses import dataclass, field
from typing import Annotated

from fastapi import Cookie, Depends, Path, Query, Request
from starlette.datastructures import UploadFile

from mitten.core.catalogue import use_own
from mitten.core.design import Design
from mitten.core.design.units import METRIC, US, Units
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.store import OwnLibrary, Settings, Shelf
from mitten.web.assessments import Assessments
from mitten.web.at import MAIN_CONDITION, At, SheetName
from mitten.web.editing import Editing
from mitten.web.edits.fields import Typed
from mitten.web.kept import Kept
from mitten.web.pages import Pages
from mitten.web.searches import Searches
from mitten.web.views.card import Card, card_of
from mitten.web.views.shelf import Heat, heat_of

KEPT_PAGES = 200
KEPT_CARDS, KEPT_HEATS = 600, 4000
NO_HEAT = (0.0, 0.0, 0.0, 0.0)
UNITS_COOKIE = "units"


LONGEST_NUMBER = 12


def _is_number(text: str) -> bool:
    """Whether a header holds a number such as our own pages send."""
    return text.isascii() and text.isdecimal() and len(text) <= LONGEST_NUMBER


class Editors:
    """Which page made the state that is in force, and the number of each page's latest edit."""

    def __init__(self) -> None:
        self._numbers: Kept[str, int] = Kept(KEPT_PAGES)
        self._in_force: Kept[int, str] = Kept(KEPT_PAGES)

    def overtaken(self, edit: str | None) -> bool:
        """Whether a later edit of the same page was taken already; ``edit`` is its page and number, if it says them."""
        page, _, number = (edit or "").partition(" ")
        if not _is_number(number):
            return False
        before = self._numbers.get(page) or 0
        self._numbers.put(page, max(int(number), before))
        return int(number) < before

    def is_behind(self, enclosure_id: int, seen: str | None, current: int, edit: str | None) -> bool:
        """Whether an edit was made on a state that another page has changed since.

        ``seen`` is the number of the revision that its page shows, if it says one.
        """
        if seen is None or not _is_number(seen) or int(seen) == current:
            return False
        return self._in_force.get(enclosure_id) != (edit or "").partition(" ")[0]

    def changed(self, enclosure_id: int, edit: str | None) -> None:
        """Note that a page has put another state in force."""
        self._in_force.put(enclosure_id, (edit or "").partition(" ")[0])


@dataclass(frozen=True)
class Desk:
    """What a route works with."""

    shelf: Shelf
    pages: Pages = field(default_factory=Pages)
    assessments: Assessments = field(default_factory=Assessments)
    editing: Editing = field(default_factory=Editing)
    editors: Editors = field(default_factory=Editors)
    searches: Searches = field(default_factory=Searches)
    cards: Kept[tuple[Design, Units], Card] = field(default_factory=lambda: Kept(KEPT_CARDS))
    heats: Kept[Design, Heat] = field(default_factory=lambda: Kept(KEPT_HEATS))

    @property
    def library(self) -> OwnLibrary:
        """The keeper's own entries."""
        return OwnLibrary(self.shelf.connection)

    @property
    def settings(self) -> Settings:
        """What the keeper has set once for all."""
        return Settings(self.shelf.connection)

    def use_library(self) -> None:
        """Take the keeper's own entries into use, and forget what was computed with others."""
        if use_own(self.library.entries()):
            self.assessments.forget()
            self.cards.clear()
            self.heats.clear()
            self.searches.forget()

    def heat_of(self, design: Design, compute: bool) -> Heat | None:
        """What a design gives the room, worked out once; None where it is not known and not to be, or cannot be."""
        known = self.heats.get(design)
        if known is not None or not compute:
            return known
        try:
            return self.heats.put(design, heat_of(self.assessments.of(design)))
        except UnsolvedError:
            return self.heats.put(design, NO_HEAT)

    def card_of(self, design: Design, units: Units) -> Card:
        """The card of a design on the shelf, drawn once."""
        return self.cards.get((design, units)) or self.cards.put(
            (design, units), card_of(self.assessments.of(design), units)
        )


def desk_of(request: Request) -> Desk:
    """The application's desk."""
    desk: Desk = request.app.state.desk
    return desk


def units_of(units: Annotated[str, Cookie()] = METRIC.system) -> Units:
    """The keeper's units, remembered by the browser; whatever else it sends for them is metric."""
    return US if units == US.system else METRIC


async def typed_of(request: Request) -> Typed:
    """What a form holds, as text; files are not taken."""
    form = await request.form(max_files=1, max_fields=400)
    return {key: value for key, value in form.items() if not isinstance(value, UploadFile)}


def wants_a_part(request: Request) -> bool:
    """Whether a page of ours asks for a part of itself; a browser that goes back in its history wants it whole."""
    return "hx-request" in request.headers and "hx-history-restore-request" not in request.headers


def at_of(
    sheet: SheetName = "heat",
    condition: Annotated[str, Query(max_length=160)] = MAIN_CONDITION,
    part: Annotated[str, Query(max_length=120)] = "",
) -> At:
    """Where the address says that the keeper is."""
    return At(sheet, condition, part)


TheDesk = Annotated[Desk, Depends(desk_of)]
TheUnits = Annotated[Units, Depends(units_of)]
TheTyped = Annotated[Typed, Depends(typed_of)]
TheAt = Annotated[At, Depends(at_of)]
EnclosureId = Annotated[int, Path(ge=1, le=2**53)]
