"""Plans: a search beside the pages, its results, and one of them put on the bench."""

from functools import partial
from typing import Annotated, Literal
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mitten.core.design import Approach
from mitten.core.design.units import Units
from mitten.core.judge.outlooks import outlook
from mitten.core.plan.search import Brief, Plan, source_words
from mitten.store import Shelved
from mitten.web.at import MAIN_CONDITION
from mitten.web.owned import FULL, NotOwnedError, add_gear, owned_gear, read_owned, remove_gear
from mitten.web.routes.common import EnclosureId, Services, TheServices, TheUnits, wants_a_part
from mitten.web.searches import Searching
from mitten.web.views.card import Card, card_of
from mitten.web.views.check import stuck_words
from mitten.web.views.plans import MOST_PURCHASES, PlansView, key_of, plans_view
from mitten.web.views.variants import ComparedState, compare_view

router = APIRouter()
PAGE = "/enclosures/{enclosure_id}/plans"
Order = Literal["best", "chance", "price", "kwh", "gentle"]
WHOLE = "plans.html"
MOST_AVOIDED = 20
MOST_SIDE_BY_SIDE = 3
PlanKey = Annotated[str, Query(max_length=40)]
OWN = ("own", "own_fixture", "own_hours")
"""Fields of gear that was refused, in the address."""


class PlanQuery:
    """What the form above the plans says."""

    def __init__(
        self,
        services: TheServices,
        approach: Approach = "any",
        avoid: Annotated[list[str] | None, Query(max_length=MOST_AVOIDED)] = None,
        gear: Literal["any", "owned", "owned-and-one"] = "any",
        budget: Annotated[str, Query(max_length=12)] = "",
        order: Order = "best",
        own: Annotated[str, Query(max_length=80)] = "",
        own_fixture: Annotated[str, Query(max_length=12)] = "",
        own_hours: Annotated[str, Query(max_length=12)] = "",
    ) -> None:
        self.own, self.own_fixture, self.own_hours = own, own_fixture, own_hours
        self.approach: Approach = approach
        self.avoid = frozenset(kind for kind in avoid or () if kind in services.catalogue.sources)
        self._catalogue = services.catalogue
        self.gear = gear
        self.budget_text = budget.strip()
        self.order: Order = order

    @property
    def budget(self) -> float | None:
        """The budget as a number; none where it is no number."""
        try:
            amount = float(self.budget_text.replace(",", "."))
        except ValueError:
            return None
        return amount if 0.0 <= amount <= 1e6 else None

    @property
    def fault(self) -> str:
        """What is wrong with the budget that was typed."""
        return f"'{self.budget_text}' is no amount." if self.budget_text and self.budget is None else ""

    @property
    def own_fault(self) -> str:
        """What is wrong with the gear that was typed and refused."""
        if not (self.own or self.own_fixture or self.own_hours):
            return ""
        try:
            read_owned(self._catalogue, self.own, self.own_fixture, self.own_hours)
        except NotOwnedError as error:
            return f"{error} Nothing was added."
        # What can be read comes back here only where there was no room for it.
        return f"{FULL} Nothing was added."

    def brief(self, services: Services, shelved: Shelved) -> Brief:
        """What to look for."""
        owned = () if self.gear == "any" else owned_gear(services.settings, services.catalogue)
        return Brief(
            shelved.design, services.catalogue, self.approach, owned,
            self.gear != "any", MOST_PURCHASES if self.gear == "owned-and-one" else 0, self.avoid, self.budget,
        )  # fmt: skip


TheWishes = Annotated[PlanQuery, Depends()]


@router.get(PAGE, response_class=HTMLResponse, responses={404: {}})
def show_plans(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, wishes: TheWishes
) -> Response:
    """The page with what was found for these wishes; it asks for the search by itself where there was none."""
    return _answer(request, enclosure_id, services, units, wishes, WHOLE)


@router.post(PAGE + "/look", response_class=HTMLResponse, responses={303: {}, 404: {}, 422: {}})
def look(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, wishes: TheWishes
) -> Response:
    """Begin the search for these wishes; where it has begun, how far it has come."""
    shelved = services.shelf.open(enclosure_id)
    services.searches.of(enclosure_id, wishes.brief(services, shelved))
    if not wants_a_part(request):
        return RedirectResponse(f"/enclosures/{enclosure_id}/plans?{request.url.query}", status_code=303)
    return _answer(request, enclosure_id, services, units, wishes, "_plans_found.html")


@router.get(PAGE + "/found", response_class=HTMLResponse, responses={404: {}})
def show_found(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, wishes: TheWishes
) -> Response:
    """What was found so far."""
    return _answer(request, enclosure_id, services, units, wishes, "_plans_found.html")


@router.get(PAGE + "/beside", response_class=HTMLResponse, responses={303: {}, 404: {}})
def show_beside(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits,
    show: Annotated[list[str] | None, Query(max_length=40)] = None,
) -> Response:  # fmt: skip
    """Up to three plans side by side; without any, back to the list."""
    shelved, searching = services.shelf.open(enclosure_id), services.searches.latest(enclosure_id)
    if searching is None or not show:
        return RedirectResponse(f"/enclosures/{enclosure_id}/plans", status_code=303)
    rows = _view(services, shelved, searching, "best", units).rows
    chosen = [row for row in rows if row.key in show][:MOST_SIDE_BY_SIDE]
    designs = {key_of(plan): plan.design for plan in searching.progress.plans}
    candidates = [ComparedState(row.source, designs[row.key], None) for row in chosen]
    view = compare_view(shelved, candidates, candidates, services.assessments, MAIN_CONDITION, units, materials=False)
    return services.pages.answer(request, "plans_beside.html", {"view": view, "plans": chosen, "units": units})


@router.post(PAGE + "/stop", response_class=HTMLResponse, responses={303: {}, 404: {}, 422: {}})
def stop(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, wishes: TheWishes
) -> Response:
    """End the search with what it has."""
    services.searches.stop(enclosure_id)
    if services.searches.latest(enclosure_id) is None or not wants_a_part(request):
        return RedirectResponse(f"/enclosures/{enclosure_id}/plans", status_code=303)
    return _answer(request, enclosure_id, services, units, wishes, "_plans_found.html")


def _answer(
    request: Request, enclosure_id: int, services: Services, units: TheUnits, wishes: PlanQuery, template: str
) -> Response:
    shelved = services.shelf.open(enclosure_id)
    searching = services.searches.known(enclosure_id, wishes.brief(services, shelved))
    view = _view(services, shelved, searching, wishes.order, units)
    # A part that was asked for alone never begins a search by itself: two pages would stop one another's for ever.
    begins = template == WHOLE and not view.begun
    context = {"view": view, "units": units, "wishes": wishes, "query": _query(request), "begins": begins}
    return services.pages.answer(request, template, context)


def _query(request: Request) -> str:
    """The query of a page, without gear that was refused: it is typed anew."""
    return urlencode([(key, value) for key, value in request.query_params.multi_items() if key not in OWN])


def _view(services: Services, shelved: Shelved, searching: Searching | None, order: str, units: Units) -> PlansView:
    def card(plan: Plan) -> Card:
        return services.workings.cards.get((plan.design, units)) or services.workings.cards.put(
            (plan.design, units), card_of(plan.assessment, units)
        )

    before = services.searches.before(searching) if searching else 0
    return plans_view(
        shelved,
        searching,
        order,
        owned_gear(services.settings, services.catalogue),
        units,
        card,
        services.catalogue,
        before,
    )


@router.post(PAGE + "/stuck", response_class=HTMLResponse, responses={404: {}})
def begin_stuck(request: Request, enclosure_id: EnclosureId, services: TheServices, plan: PlanKey = "") -> Response:
    """Begin to go through a summer day in which a plan's thermostats stick on."""
    found = _plan(services, enclosure_id, plan)
    if found is not None and services.stuck_on(found.design) is None:
        step = partial(outlook, found.design, services.catalogue, "summer", "stuck-on")
        services.undertakings.of((enclosure_id, "stuck", plan), found.design, lambda: [step], goes_on=True)
    return show_stuck(request, enclosure_id, services, plan)


@router.get(PAGE + "/stuck", response_class=HTMLResponse, responses={404: {}})
def show_stuck(request: Request, enclosure_id: EnclosureId, services: TheServices, plan: PlanKey = "") -> Response:
    """How soon that is dangerous, if it is known by now; nothing for a plan that is no more."""
    found = _plan(services, enclosure_id, plan)
    work = services.undertakings.known((enclosure_id, "stuck", plan), found.design) if found else None
    known = services.stuck_on(found.design) if found else None
    context = {
        "path": f"/enclosures/{enclosure_id}", "plan": plan, "work": work, "fault": work.trouble if work else "",
        "words": stuck_words(known) if known else "",
    }  # fmt: skip
    return services.pages.answer(request, "_plan_stuck.html", context)


@router.post(PAGE + "/take", responses={303: {}, 404: {}, 422: {}})
def take(enclosure_id: EnclosureId, plan: Annotated[str, Form(max_length=40)], services: TheServices) -> Response:
    """Put a plan on the bench: one step that can be undone."""
    found = _plan(services, enclosure_id, plan)
    if found is None:
        return RedirectResponse(f"/enclosures/{enclosure_id}/plans", status_code=303)
    return _put_on_the_bench(services, enclosure_id, found, "Took the plan")


@router.post(PAGE + "/mend", responses={303: {}, 404: {}, 422: {}})
def mend(
    enclosure_id: EnclosureId, plan: Annotated[str, Form(max_length=40)],
    change: Annotated[int, Form(ge=0, le=20)], services: TheServices,
) -> Response:  # fmt: skip
    """Make a change of the box or the room, and put the plan that works with it on the bench: one step."""
    searching = services.searches.latest(enclosure_id)
    near = next((one for one in searching.nearest if key_of(one.plan) == plan), None) if searching else None
    if near is None or change >= len(near.mends):
        return RedirectResponse(f"/enclosures/{enclosure_id}/plans", status_code=303)
    found = near.mends[change]
    return _put_on_the_bench(services, enclosure_id, found.plan, f"{found.words}, and took the plan")


def _put_on_the_bench(services: Services, enclosure_id: int, plan: Plan, words: str) -> Response:
    """A plan on the bench, under the enclosure's own name."""
    with services.editing.of(enclosure_id):
        shelved = services.shelf.open(enclosure_id)
        design = plan.design.model_copy(update={"name": shelved.design.name})
        services.assessments.of(design, before=shelved.design)
        said = f"{words}: {source_words(plan.candidate, services.catalogue)}"
        services.editors.changed(services.shelf.save(enclosure_id, design, said), None)
    return RedirectResponse(f"/enclosures/{enclosure_id}", status_code=303)


def _plan(services: Services, enclosure_id: int, key: str) -> Plan | None:
    searching = services.searches.latest(enclosure_id)
    plans = (*searching.progress.plans, *searching.progress.rejected) if searching else ()
    return next((one for one in plans if key_of(one) == key), None)


@router.post("/owned", responses={303: {}, 422: {}})
def own(
    gear: Annotated[str, Form(max_length=80)], services: TheServices, back: Annotated[str, Form(max_length=200)] = "/",
    fixture: Annotated[str, Form(max_length=12)] = "", hours: Annotated[str, Form(max_length=12)] = "",
) -> Response:  # fmt: skip
    """One more piece of gear on the shelf; what is not understood is refused and stays in its fields."""
    try:
        owned = read_owned(services.catalogue, gear, fixture, hours)
        with services.editing.settings:
            add_gear(services.settings, owned, services.catalogue)
    except NotOwnedError:
        typed = _with(_own_path(back), own=gear, own_fixture=fixture, own_hours=hours)
        return RedirectResponse(f"{typed}#owned", status_code=303)
    return RedirectResponse(_own_path(back), status_code=303)


def _with(path: str, **values: str) -> str:
    """An address with more in its query."""
    return f"{path}{'&' if '?' in path else '?'}{urlencode(values)}"


@router.post("/owned/remove", responses={303: {}, 422: {}})
def disown(
    gear: Annotated[str, Form(max_length=120)], services: TheServices, back: Annotated[str, Form(max_length=200)] = "/"
) -> Response:
    """One piece less."""
    with services.editing.settings:
        remove_gear(services.settings, gear, services.catalogue)
    return RedirectResponse(_own_path(back), status_code=303)


def _own_path(back: str) -> str:
    """Only a path of our own: two slashes would lead elsewhere."""
    return "/" + back.lstrip("/\\")
