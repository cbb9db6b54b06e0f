"""What routes share: the services with the shelf, the pages and the latest assessments on it."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from itertools import count
from time import time
from typing import Annotated

from fastapi import Cookie, Depends, Path, Query, Request
from starlette.datastructures import UploadFile

from mitten.core.catalogue import Catalogue, shipped_catalogue
from mitten.core.design import Design
from mitten.core.design.units import METRIC, US, Units
from mitten.core.judge.outlooks import Outlook
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.plan.mains import Heat, heat_of
from mitten.store import OwnLibrary, Settings, Shelf, Shelved
from mitten.web.assessments import Assessments
from mitten.web.at import MAIN_CONDITION, At, SheetName
from mitten.web.days import Days
from mitten.web.editing import Editing
from mitten.web.edits.fields import Typed
from mitten.web.kept import LatestCache
from mitten.web.pages import Pages
from mitten.web.searches import Searches
from mitten.web.undertakings import Undertakings
from mitten.web.views.card import Card, card_of

KEPT_PAGES, KEPT_FIELDS, KEPT_MOMENTS = 200, 5000, 20_000
KEPT_CARDS, KEPT_HEATS = 600, 4000
NO_HEAT = (0.0, 0.0, 0.0, 0.0)
UNITS_COOKIE = "units"


LONGEST_NUMBER = 12


def _is_number(text: str) -> bool:
    """Whether a header holds a number such as our own pages send."""
    return text.isascii() and text.isdecimal() and len(text) <= LONGEST_NUMBER


class Editors:
    """Which page made the state that is in force, and the number of the latest edit that said each field of it."""

    def __init__(self) -> None:
        self._numbers: LatestCache[tuple[str, str, str], int] = LatestCache(KEPT_FIELDS)
        self._in_force: LatestCache[int, str] = LatestCache(KEPT_PAGES)
        # From the clock on: after a new start every state is later than all that a page has seen.
        self._moments = count(int(time() * 1000))
        self._begun = next(self._moments)
        self._came: LatestCache[tuple[int, int], int] = LatestCache(KEPT_MOMENTS)

    def still_said(self, edit: str | None, form: str, fields: Iterable[str]) -> set[str]:
        """The fields of an edit that no later one of its page and form has said anew, which was taken already.

        ``edit`` is its page and number, if it says them.
        """
        page, _, number = (edit or "").partition(" ")
        if not _is_number(number):
            return set(fields)
        return {field for field in fields if self._is_latest(int(number), (page, form, field))}

    def _is_latest(self, number: int, said: tuple[str, str, str]) -> bool:
        before = self._numbers.get(said) or 0
        self._numbers.put(said, max(number, before))
        return number >= before

    def is_behind(self, enclosure_id: int, seen: str | None, current: int, edit: str | None) -> bool:
        """Whether an edit was made on a state that another page has changed since.

        ``seen`` is the number of the revision that its page shows, if it says one.
        """
        if seen is None or not _is_number(seen) or int(seen) == current:
            return False
        return self._in_force.get(enclosure_id) != (edit or "").partition(" ")[0]

    def changed(self, shelved: Shelved, edit: str | None) -> None:
        """Note that a page has put another state in force."""
        self._in_force.put(shelved.id, (edit or "").partition(" ")[0])
        self._came.put((shelved.id, shelved.revision), next(self._moments))

    def moment_of(self, shelved: Shelved) -> int:
        """When a state came into force, as a number that is larger for a later one; undone, it is later again."""
        return self._came.get((shelved.id, shelved.revision)) or self._begun


class Workings:
    """What was worked out with one catalogue; with another one all of it begins anew."""

    def __init__(self, catalogue: Catalogue) -> None:
        self.catalogue = catalogue
        self.assessments = Assessments(catalogue)
        self.days = Days(self.assessments)
        self.cards: LatestCache[tuple[Design, Units], Card] = LatestCache(KEPT_CARDS)
        self.heats: LatestCache[Design, Heat] = LatestCache(KEPT_HEATS)


class InUse:
    """Which workings are in use now: an entry of the library that is kept puts others in their place."""

    def __init__(self, workings: Workings) -> None:
        self.workings = workings


@dataclass(frozen=True)
class Services:
    """What a route works with: the same ``workings`` from its begin to its end, whatever is kept meanwhile."""

    shelf: Shelf
    in_use: InUse
    workings: Workings
    pages: Pages = field(default_factory=Pages)
    editing: Editing = field(default_factory=Editing)
    editors: Editors = field(default_factory=Editors)
    searches: Searches = field(default_factory=Searches)
    undertakings: Undertakings = field(default_factory=lambda: Undertakings(Searches()))
    notice: str = ""
    """What the keeper should know of the data file as long as the shelf is empty."""

    @property
    def catalogue(self) -> Catalogue:
        """The catalogue in use, the keeper's own entries in it."""
        return self.workings.catalogue

    @property
    def assessments(self) -> Assessments:
        """The latest assessments."""
        return self.workings.assessments

    @property
    def days(self) -> Days:
        """Days of the latest designs."""
        return self.workings.days

    @property
    def library(self) -> OwnLibrary:
        """The keeper's own entries."""
        return OwnLibrary(self.shelf.connection)

    @property
    def settings(self) -> Settings:
        """What the keeper has set once for all."""
        return Settings(self.shelf.connection)

    def use_library(self) -> None:
        """Take the keeper's own entries into use, and leave what was worked out with others."""
        catalogue = catalogue_with(self.library)
        self.in_use.workings = Workings(catalogue)
        self.shelf.catalogue = catalogue
        self.searches.forget()
        self.undertakings.forget()

    def now(self) -> "Services":
        """These, with the workings that are in use now."""
        return replace(self, workings=self.in_use.workings)

    def stuck_on(self, design: Design) -> Outlook | None:
        """What comes of every thermostat that sticks on a summer day, where anyone has asked: Check, the margin and a
        plan that has become the design have one answer, whatever it is called.
        """

        def is_it(subject: object) -> bool:
            return isinstance(subject, Design) and subject.model_copy(update={"name": design.name}) == design

        found = (one for one in self.undertakings.results_about(is_it) if isinstance(one, Outlook))
        return next((one for one in found if (one.season, one.failure.kind) == ("summer", "stuck-on")), None)

    def heat_of(self, design: Design, compute: bool) -> Heat | None:
        """What a design gives the room, worked out once; None where it is not known and not to be, or cannot be."""
        known = self.workings.heats.get(design)
        if known is not None or not compute:
            return known
        try:
            return self.workings.heats.put(design, heat_of(self.assessments.of(design)))
        except UnsolvedError:
            return self.workings.heats.put(design, NO_HEAT)

    def card_of(self, design: Design, units: Units) -> Card:
        """The card of a design on the shelf, drawn once."""
        cards = self.workings.cards
        return cards.get((design, units)) or cards.put((design, units), card_of(self.assessments.of(design), units))


def catalogue_with(library: OwnLibrary) -> Catalogue:
    """The shipped catalogue with the keeper's own entries."""
    own = library.entries()
    return shipped_catalogue().with_own(own) if own else shipped_catalogue()


def begin_services(
    shelf: Shelf, known: Workings | None = None, searches: Searches | None = None, notice: str = ""
) -> Services:
    """The services over a shelf; what is known already serves where it was worked out with the shelf's catalogue."""
    catalogue = catalogue_with(OwnLibrary(shelf.connection))
    shelf.catalogue = catalogue
    workings = known if known is not None and known.catalogue is catalogue else Workings(catalogue)
    searches = searches or Searches()
    undertakings = Undertakings(searches)
    return Services(shelf, InUse(workings), workings, searches=searches, undertakings=undertakings, notice=notice)


def services_of(request: Request) -> Services:
    """The application's services."""
    services: Services = request.app.state.services
    return services.now()


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


TheServices = Annotated[Services, Depends(services_of)]
TheUnits = Annotated[Units, Depends(units_of)]
TheTyped = Annotated[Typed, Depends(typed_of)]
TheAt = Annotated[At, Depends(at_of)]
EnclosureId = Annotated[int, Path(ge=1, le=2**53)]
