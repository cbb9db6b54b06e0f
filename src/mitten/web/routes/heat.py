"""The Heat page: the sheet, its edits, and previews while a control is being moved."""

from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, Response

from mitten.core.design import BadDesignError, Design
from mitten.core.judge import Condition, read_condition, solve_condition
from mitten.draw import heat_sheet
from mitten.store import Shelved
from mitten.web.edits import EditError, HeaterForm, RoomForm, edit_heater, edit_room, summary_of
from mitten.web.routes.common import EnclosureId, ThePages, TheShelf, assessed
from mitten.web.views.heat import heat_view

router = APIRouter()
Shown = Annotated[str, Query(max_length=120)]
MAIN_CONDITION = "winter-day"


@router.get("/enclosures/{enclosure_id}", response_class=HTMLResponse, responses={404: {}})
def show_heat(
    request: Request, enclosure_id: EnclosureId, shelf: TheShelf, pages: ThePages, condition: Shown = MAIN_CONDITION
) -> Response:
    """The whole page; for htmx, the bench alone."""
    return _bench(request, pages, shelf.open(enclosure_id), condition)


@router.post(
    "/enclosures/{enclosure_id}/heaters/{name:path}", response_class=HTMLResponse, responses={404: {}, 422: {}}
)
def change_heater(
    request: Request, enclosure_id: EnclosureId, name: str, form: Annotated[HeaterForm, Form()],
    shelf: TheShelf, pages: ThePages, condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """Change one heater: a new revision, or a sentence beside the field and nothing stored."""
    shelved = shelf.open(enclosure_id)
    try:
        design = edit_heater(shelved.design, name, form)
    except EditError as error:
        return _bench(request, pages, shelved, condition, error)
    return _bench(request, pages, _saved(shelf, shelved, design), condition)


@router.post("/enclosures/{enclosure_id}/room", response_class=HTMLResponse, responses={404: {}, 422: {}})
def change_room(
    request: Request, enclosure_id: EnclosureId, form: Annotated[RoomForm, Form()],
    shelf: TheShelf, pages: ThePages, condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """Change the room's temperatures."""
    shelved = shelf.open(enclosure_id)
    try:
        design = edit_room(shelved.design, form)
    except EditError as error:
        return _bench(request, pages, shelved, condition, error)
    return _bench(request, pages, _saved(shelf, shelved, design), condition)


@router.post("/enclosures/{enclosure_id}/preview/{name:path}", responses={404: {}, 422: {}})
def preview_heater(
    enclosure_id: EnclosureId, name: str, form: Annotated[HeaterForm, Form()], shelf: TheShelf,
    condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """The drawing alone, for a heater on its way; nothing is stored."""
    shelved = shelf.open(enclosure_id)
    try:
        design = edit_heater(shelved.design, name, form)
    except EditError:
        return Response(status_code=422)
    kept = assessed(shelved.design)
    start = next((climate.state for c, climate in kept.climates.items() if c.name == condition), None)
    shown = _condition(design, condition)
    climate = solve_condition(design, shown, start)
    return Response(str(heat_sheet(climate, kept.targets, shown.day)), media_type="image/svg+xml")


@router.post("/enclosures/{enclosure_id}/undo", response_class=HTMLResponse, responses={404: {}})
def undo(
    request: Request, enclosure_id: EnclosureId, shelf: TheShelf, pages: ThePages, condition: Shown = MAIN_CONDITION
) -> Response:
    """Back one step."""
    return _bench(request, pages, shelf.undo(enclosure_id), condition)


@router.post("/enclosures/{enclosure_id}/redo", response_class=HTMLResponse, responses={404: {}})
def redo(
    request: Request, enclosure_id: EnclosureId, shelf: TheShelf, pages: ThePages, condition: Shown = MAIN_CONDITION
) -> Response:
    """Forth one step."""
    return _bench(request, pages, shelf.redo(enclosure_id), condition)


def _saved(shelf: TheShelf, shelved: Shelved, design: Design) -> Shelved:
    """Store an edit; one that changes nothing makes no revision."""
    if design == shelved.design:
        return shelved
    return shelf.save(shelved.id, design, summary_of(shelved.design, design))


def _bench(
    request: Request, pages: ThePages, shelved: Shelved, condition: str, error: EditError | None = None
) -> Response:
    view = heat_view(shelved, assessed(shelved.design), _condition(shelved.design, condition), error)
    template = "bench.html" if request.headers.get("hx-request") else "heat.html"
    return pages.answer(request, template, {"view": view}, 422 if error else 200)


def _condition(design: Design, text: str) -> Condition:
    """The condition asked for; the main one, where an old address names none."""
    try:
        return read_condition(design, text)
    except BadDesignError:
        return read_condition(design, MAIN_CONDITION)
