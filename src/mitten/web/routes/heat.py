"""The Heat page: the sheet, its edits, and previews while a control is being moved."""

from collections.abc import Callable
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, Response

from mitten.core.design import BadDesignError, Design, MittenError
from mitten.core.judge import Condition, read_condition, solve_condition
from mitten.core.plan import ChangeKind
from mitten.draw import heat_sheet
from mitten.store import Shelved
from mitten.web.edits import (
    Collection,
    ControlForm,
    EditError,
    HeaterForm,
    LightForm,
    RoomForm,
    add_part,
    apply_fix,
    edit_control,
    edit_heater,
    edit_light,
    edit_room,
    remove_part,
    summary_of,
)
from mitten.web.routes.common import Desk, EnclosureId, TheDesk
from mitten.web.views.heat import heat_view
from mitten.web.views.parts import setpoint_sentence
from mitten.web.views.verdict import margin

router = APIRouter()
Shown = Annotated[str, Query(max_length=120)]
MAIN_CONDITION = "winter-day"
Part = Annotated[str, Query(max_length=120)]
PAGE = "/enclosures/{enclosure_id}"


@router.get(PAGE, response_class=HTMLResponse, responses={404: {}})
def show_heat(
    request: Request, enclosure_id: EnclosureId, desk: TheDesk, condition: Shown = MAIN_CONDITION, part: Part = ""
) -> Response:
    """The whole page; for htmx, the bench alone."""
    return _bench(request, desk, desk.shelf.open(enclosure_id), condition, part)


@router.get(PAGE + "/margin", response_class=HTMLResponse, responses={404: {}})
def show_margin(
    request: Request, enclosure_id: EnclosureId, desk: TheDesk, condition: Shown = MAIN_CONDITION, part: Part = ""
) -> Response:
    """The margin with its intervals and fixes, which take longer than the figures."""
    design = desk.shelf.open(enclosure_id).design
    sure, fixes = desk.assessments.sure_of(design), desk.assessments.fixes_of(design)
    context = {
        "margin": margin(desk.assessments.of(design), sure, fixes),
        "path": f"/enclosures/{enclosure_id}",
        "query": "?" + urlencode({"condition": condition, "part": part}),
    }
    return desk.pages.answer(request, "_margin.html", context)


@router.post(PAGE + "/fix", response_class=HTMLResponse, responses={404: {}, 422: {}})
def fix(
    request: Request, enclosure_id: EnclosureId, kind: Annotated[ChangeKind, Form()],
    name: Annotated[str, Form(max_length=200)], value: Annotated[float, Form(allow_inf_nan=False)], desk: TheDesk,
    condition: Shown = MAIN_CONDITION, part: Part = "",
) -> Response:  # fmt: skip
    """Make one of the changes that the margin offers."""
    return _change(request, desk, enclosure_id, condition, lambda d: apply_fix(d, kind, name, value), lambda: part)


@router.get(PAGE + "/setpoint/{name:path}", response_class=HTMLResponse, responses={404: {}})
def show_setpoint(
    request: Request, enclosure_id: EnclosureId, name: str, desk: TheDesk, condition: Shown = MAIN_CONDITION
) -> Response:
    """The setpoint at which the basking place comes right, in a sentence."""
    design = desk.shelf.open(enclosure_id).design
    assessment, shown = desk.assessments.of(design), _condition(design, condition)
    climate = assessment.climates.get(shown) or solve_condition(design, shown)
    sentence = setpoint_sentence(climate, name, assessment.targets)
    return desk.pages.answer(request, "_setpoint.html", {"sentence": sentence})


@router.post(PAGE + "/parts", response_class=HTMLResponse, responses={404: {}, 422: {}})
def add(
    request: Request, enclosure_id: EnclosureId, desk: TheDesk, what: Annotated[str, Form(max_length=60)],
    condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """One more source or light."""
    added: list[str] = []

    def edit(design: Design) -> Design:
        made, name = add_part(design, what)
        added.append(name)
        return made

    return _change(request, desk, enclosure_id, condition, edit, lambda: added[0] if added else "")


@router.post(PAGE + "/remove/{collection}/{name:path}", response_class=HTMLResponse, responses={404: {}, 422: {}})
def remove(
    request: Request, enclosure_id: EnclosureId, collection: Collection, name: str, desk: TheDesk,
    condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """One part less."""
    return _change(request, desk, enclosure_id, condition, lambda design: remove_part(design, collection, name))


@router.post(PAGE + "/heaters/{name:path}", response_class=HTMLResponse, responses={404: {}, 422: {}})
def change_heater(
    request: Request, enclosure_id: EnclosureId, name: str, form: Annotated[HeaterForm, Form()], desk: TheDesk,
    condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """Change one heater: a new revision, or a sentence beside the field and nothing stored."""
    edit = lambda design: edit_heater(design, name, form)  # noqa: E731
    return _change(request, desk, enclosure_id, condition, edit, lambda: name)


@router.post(PAGE + "/controls/{name:path}", response_class=HTMLResponse, responses={404: {}, 422: {}})
def change_control(
    request: Request, enclosure_id: EnclosureId, name: str, form: Annotated[ControlForm, Form()], desk: TheDesk,
    condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """Change a control or its probe."""
    edit = lambda design: edit_control(design, name, form)  # noqa: E731
    return _change(request, desk, enclosure_id, condition, edit, lambda: name)


@router.post(PAGE + "/lights/{name:path}", response_class=HTMLResponse, responses={404: {}, 422: {}})
def change_light(
    request: Request, enclosure_id: EnclosureId, name: str, form: Annotated[LightForm, Form()], desk: TheDesk,
    condition: Shown = MAIN_CONDITION,
) -> Response:  # fmt: skip
    """Change a plain light or a UV lamp."""
    edit = lambda design: edit_light(design, name, form)  # noqa: E731
    return _change(request, desk, enclosure_id, condition, edit, lambda: name)


@router.post(PAGE + "/room", response_class=HTMLResponse, responses={404: {}, 422: {}})
def change_room(
    request: Request, enclosure_id: EnclosureId, form: Annotated[RoomForm, Form()], desk: TheDesk,
    condition: Shown = MAIN_CONDITION, part: Part = "",
) -> Response:  # fmt: skip
    """Change the room's temperatures."""
    return _change(request, desk, enclosure_id, condition, lambda design: edit_room(design, form), lambda: part)


@router.post(PAGE + "/preview/{name:path}", responses={404: {}, 422: {}})
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


@router.post(PAGE + "/undo", response_class=HTMLResponse, responses={404: {}})
def undo(
    request: Request, enclosure_id: EnclosureId, desk: TheDesk, condition: Shown = MAIN_CONDITION, part: Part = ""
) -> Response:
    """Back one step."""
    return _bench(request, desk, desk.shelf.undo(enclosure_id), condition, part)


@router.post(PAGE + "/redo", response_class=HTMLResponse, responses={404: {}})
def redo(
    request: Request, enclosure_id: EnclosureId, desk: TheDesk, condition: Shown = MAIN_CONDITION, part: Part = ""
) -> Response:
    """Forth one step."""
    return _bench(request, desk, desk.shelf.redo(enclosure_id), condition, part)


def _change(
    request: Request, desk: Desk, enclosure_id: int, condition: str, edit: Callable[[Design], Design],
    part: Callable[[], str] = lambda: "",
) -> Response:  # fmt: skip
    """Make an edit and store it; one that changes nothing makes no revision, one refused stores nothing."""
    with desk.editing:
        shelved = desk.shelf.open(enclosure_id)
        if desk.latest.overtaken(request.headers.get("mitten-edit")):
            return _bench(request, desk, shelved, condition, part())
        try:
            design = edit(shelved.design)
        except EditError as error:
            return _bench(request, desk, shelved, condition, part(), error)
        if design != shelved.design:
            # Judged before it is stored: a design that cannot be computed is not kept.
            try:
                desk.assessments.of(design, before=shelved.design)
            except MittenError as trouble:
                said = EditError(part() or "add", {"": f"{trouble} Nothing was stored."}, {})
                return _bench(request, desk, shelved, condition, part(), said)
            shelved = desk.shelf.save(shelved.id, design, summary_of(shelved.design, design))
    return _bench(request, desk, shelved, condition, part())


def _bench(
    request: Request, desk: Desk, shelved: Shelved, condition: str, part: str, error: EditError | None = None
) -> Response:
    shown = _condition(shelved.design, condition)
    assessment = desk.assessments.of(shelved.design)
    kept = (
        desk.assessments.sure_of(shelved.design, compute=False),
        desk.assessments.fixes_of(shelved.design, compute=False),
    )
    view = heat_view(shelved, assessment, shown, part, error, *kept)
    template = "bench.html" if request.headers.get("hx-request") else "heat.html"
    return desk.pages.answer(request, template, {"view": view}, 422 if error else 200)


def _condition(design: Design, text: str) -> Condition:
    """The condition asked for; the main one, where an old address names none."""
    try:
        return read_condition(design, text)
    except BadDesignError:
        return read_condition(design, MAIN_CONDITION)
