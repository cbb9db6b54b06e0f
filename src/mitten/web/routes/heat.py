"""The Heat page: the sheet, its edits, and previews while a control is being moved."""

from collections.abc import Callable
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, Response

from mitten.core.design import BadDesignError, Design
from mitten.core.judge import Condition, read_condition, solve_condition
from mitten.draw import heat_sheet
from mitten.store import Shelved
from mitten.web.edits import EditError, HeaterForm, RoomForm, edit_heater, edit_room, summary_of
from mitten.web.routes.common import Desk, EnclosureId, TheDesk
from mitten.web.views.heat import heat_view

router = APIRouter()
Shown = Annotated[str, Query(max_length=120)]
MAIN_CONDITION = "winter-day"


@router.get("/enclosures/{enclosure_id}", response_class=HTMLResponse, responses={404: {}})
def show_heat(
    request: Request, enclosure_id: EnclosureId, desk: TheDesk, condition: Shown = MAIN_CONDITION
) -> Response:
    """The whole page; for htmx, the bench alone."""
    return _bench(request, desk, desk.shelf.open(enclosure_id), condition)


@router.post(
    "/enclosures/{enclosure_id}/heaters/{name:path}", response_class=HTMLResponse, responses={404: {}, 422: {}}
)
def change_heater(
    request: Request, enclosure_id: EnclosureId, name: str, form: Annotated[HeaterForm, Form()], desk: TheDesk,
    condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """Change one heater: a new revision, or a sentence beside the field and nothing stored."""
    return _change(request, desk, enclosure_id, condition, lambda design: edit_heater(design, name, form))


@router.post("/enclosures/{enclosure_id}/room", response_class=HTMLResponse, responses={404: {}, 422: {}})
def change_room(
    request: Request, enclosure_id: EnclosureId, form: Annotated[RoomForm, Form()], desk: TheDesk,
    condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """Change the room's temperatures."""
    return _change(request, desk, enclosure_id, condition, lambda design: edit_room(design, form))


@router.post("/enclosures/{enclosure_id}/preview/{name:path}", responses={404: {}, 422: {}})
def preview_heater(
    enclosure_id: EnclosureId, name: str, form: Annotated[HeaterForm, Form()], desk: TheDesk,
    condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """The drawing alone, for a heater on its way; nothing is stored."""
    before = desk.shelf.open(enclosure_id).design
    try:
        design = edit_heater(before, name, form)
    except EditError:
        return Response(status_code=422)
    kept, shown = desk.assessments.of(before), _condition(design, condition)
    near = next((climate for at, climate in kept.climates.items() if at.day == shown.day), None)
    climate = solve_condition(design, shown, near)
    return Response(str(heat_sheet(climate, kept.targets, shown.day)), media_type="image/svg+xml")


@router.post("/enclosures/{enclosure_id}/undo", response_class=HTMLResponse, responses={404: {}})
def undo(request: Request, enclosure_id: EnclosureId, desk: TheDesk, condition: Shown = MAIN_CONDITION) -> Response:
    """Back one step."""
    return _bench(request, desk, desk.shelf.undo(enclosure_id), condition)


@router.post("/enclosures/{enclosure_id}/redo", response_class=HTMLResponse, responses={404: {}})
def redo(request: Request, enclosure_id: EnclosureId, desk: TheDesk, condition: Shown = MAIN_CONDITION) -> Response:
    """Forth one step."""
    return _bench(request, desk, desk.shelf.redo(enclosure_id), condition)


def _change(
    request: Request, desk: Desk, enclosure_id: int, condition: str, edit: Callable[[Design], Design]
) -> Response:
    """Make an edit and store it; one that changes nothing makes no revision, one refused stores nothing."""
    shelved = desk.shelf.open(enclosure_id)
    try:
        design = edit(shelved.design)
    except EditError as error:
        return _bench(request, desk, shelved, condition, error)
    if design != shelved.design:
        # Judged before it is stored: a design that cannot be computed is not kept.
        desk.assessments.of(design, before=shelved.design)
        shelved = desk.shelf.save(shelved.id, design, summary_of(shelved.design, design))
    return _bench(request, desk, shelved, condition)


def _bench(request: Request, desk: Desk, shelved: Shelved, condition: str, error: EditError | None = None) -> Response:
    shown = _condition(shelved.design, condition)
    view = heat_view(shelved, desk.assessments.of(shelved.design), shown, error)
    template = "bench.html" if request.headers.get("hx-request") else "heat.html"
    return desk.pages.answer(request, template, {"view": view}, 422 if error else 200)


def _condition(design: Design, text: str) -> Condition:
    """The condition asked for; the main one, where an old address names none."""
    try:
        return read_condition(design, text)
    except BadDesignError:
        return read_condition(design, MAIN_CONDITION)
