"""Every edit of an enclosure, and previews while something is on its way."""

from typing import Annotated, Any, Literal

from fastapi import APIRouter, Form, Path, Request
from fastapi.responses import HTMLResponse, Response

from mitten.core.design import Design, MittenError
from mitten.core.plan import ChangeKind
from mitten.draw import heat_sheet
from mitten.web.edits import (
    SHEET_FORM_NAMES,
    Coordinates,
    EditError,
    PartRef,
    add_layer,
    add_part,
    align_part,
    apply_fix,
    apply_preset,
    copy_part,
    edit_part,
    edit_sheet,
    move_part,
    remove_layer,
    remove_part,
)
from mitten.web.edits.fields import Typed
from mitten.web.routes.bench import PAGE, change, part_of, step
from mitten.web.routes.common import EnclosureId, TheAt, TheServices, TheTyped, TheUnits

router = APIRouter()
ANSWERS: dict[int | str, dict[str, Any]] = {404: {}, 409: {}, 422: {}}
Metres = Annotated[float | None, Form(allow_inf_nan=False, ge=-10, le=10)]
Named = Annotated[str, Path(max_length=200)]
Act = Literal["copy", "remove", "align"]


@router.post(PAGE + "/part/{moved:path}", response_class=HTMLResponse, responses=ANSWERS)
def change_part(
    request: Request,
    enclosure_id: EnclosureId,
    moved: Named,
    typed: TheTyped,
    services: TheServices,
    at: TheAt,
    units: TheUnits,
) -> Response:
    """Change one part: a new revision, or a sentence beside the field and nothing stored."""

    def edit(design: Design, typed: Typed) -> tuple[Design, str]:
        made, ref = edit_part(design, services.catalogue, part_of(design, moved), typed, units)
        return made, str(ref)

    return change(request, services, enclosure_id, at, edit, typed, moved)


@router.post(PAGE + "/sheet/{form}", response_class=HTMLResponse, responses=ANSWERS)
def change_sheet(
    request: Request, enclosure_id: EnclosureId, form: Annotated[str, Path(max_length=20)], typed: TheTyped,
    services: TheServices, at: TheAt, units: TheUnits,
) -> Response:  # fmt: skip
    """Change the animal, the room, the box or the ground."""

    def edit(design: Design, typed: Typed) -> tuple[Design, str]:
        if form not in SHEET_FORM_NAMES:
            raise EditError("add", {"": "There is no such form."}, {})
        return edit_sheet(design, services.catalogue, form, typed, units), at.part

    return change(request, services, enclosure_id, at, edit, typed, form)


@router.post(PAGE + "/add", response_class=HTMLResponse, responses=ANSWERS)
def add(
    request: Request,
    enclosure_id: EnclosureId,
    services: TheServices,
    at: TheAt,
    what: Annotated[str, Form(max_length=60)],
) -> Response:
    """One more source, light, site or vent."""

    def edit(design: Design, _: Typed) -> tuple[Design, str]:
        made, ref = add_part(design, services.catalogue, what)
        return made, str(ref)

    return change(request, services, enclosure_id, at, edit)


@router.post(PAGE + "/do/{act}/{moved:path}", response_class=HTMLResponse, responses=ANSWERS)
def act_on_part(
    request: Request, enclosure_id: EnclosureId, act: Act, moved: Named, services: TheServices, at: TheAt
) -> Response:
    """Copy a part, take it out, or put it over the basking site."""

    def edit(design: Design, _: Typed) -> tuple[Design, str]:
        ref = part_of(design, moved)
        if act == "copy":
            made, copied = copy_part(design, services.catalogue, ref)
            return made, str(copied)
        if act == "remove":
            return remove_part(design, services.catalogue, ref), ""
        return align_part(design, services.catalogue, ref), str(ref)

    return change(request, services, enclosure_id, at, edit)


@router.post(PAGE + "/move/{moved:path}", response_class=HTMLResponse, responses=ANSWERS)
def move(
    request: Request, enclosure_id: EnclosureId, moved: Named, services: TheServices, at: TheAt,
    x_m: Metres = None, y_m: Metres = None, z_m: Metres = None,
) -> Response:  # fmt: skip
    """Let a part go where it was dragged or stepped to."""
    place = _place(x_m, y_m, z_m)

    def edit(design: Design, _: Typed) -> tuple[Design, str]:
        ref = part_of(design, moved)
        return move_part(design, services.catalogue, ref, place), str(ref)

    return change(request, services, enclosure_id, at, edit, form=f"move {moved} {' '.join(place)}")


@router.post(PAGE + "/preview/{moved:path}", responses=ANSWERS)
def preview(
    enclosure_id: EnclosureId, moved: Named, services: TheServices, at: TheAt, units: TheUnits,
    x_m: Metres = None, y_m: Metres = None, z_m: Metres = None, full: Annotated[bool, Form()] = False,
) -> Response:  # fmt: skip
    """The drawing alone, for a part on its way, from a coarse grid or the full one; nothing is stored."""
    before = services.shelf.open(enclosure_id).design
    try:
        ref: PartRef = part_of(before, moved)
        design = move_part(before, services.catalogue, ref, _place(x_m, y_m, z_m))
        shown = at.condition_of(design)
        climate = (
            services.assessments.near(design, before, shown)
            if full
            else services.assessments.on_the_way.solve(design, shown)
        )
    except MittenError:
        return Response(status_code=422)
    targets = services.assessments.of(before).targets
    drawing = heat_sheet(climate, targets, units, selected=str(ref))
    return Response(str(drawing), media_type="image/svg+xml")


def _place(x_m: float | None, y_m: float | None, z_m: float | None) -> Coordinates:
    axes: dict[Literal["x_m", "y_m", "z_m"], float | None] = {"x_m": x_m, "y_m": y_m, "z_m": z_m}
    return {axis: value for axis, value in axes.items() if value is not None}


@router.post(PAGE + "/fix", response_class=HTMLResponse, responses=ANSWERS)
def fix(
    request: Request, enclosure_id: EnclosureId, kind: Annotated[ChangeKind, Form()],
    name: Annotated[str, Form(max_length=200)], value: Annotated[float, Form(allow_inf_nan=False)],
    services: TheServices, at: TheAt,
) -> Response:  # fmt: skip
    """Make one of the changes that the margin offers."""
    return change(
        request,
        services,
        enclosure_id,
        at,
        lambda design, _: (apply_fix(design, services.catalogue, kind, name, value), at.part),
    )


@router.post(PAGE + "/preset", response_class=HTMLResponse, responses=ANSWERS)
def preset(
    request: Request,
    enclosure_id: EnclosureId,
    key: Annotated[str, Form(max_length=60)],
    services: TheServices,
    at: TheAt,
) -> Response:
    """A common box, or a board for every face."""
    return change(
        request, services, enclosure_id, at, lambda design, _: (apply_preset(design, services.catalogue, key), at.part)
    )


@router.post(PAGE + "/layers", response_class=HTMLResponse, responses=ANSWERS)
def change_layers(
    request: Request, enclosure_id: EnclosureId, services: TheServices, at: TheAt,
    remove: Annotated[int | None, Form(ge=0, le=20)] = None,
) -> Response:  # fmt: skip
    """One more layer of the ground, or one less."""

    def edit(design: Design, _: Typed) -> tuple[Design, str]:
        return (
            add_layer(design, services.catalogue)
            if remove is None
            else remove_layer(design, services.catalogue, remove)
        ), at.part

    return change(request, services, enclosure_id, at, edit)


@router.post(PAGE + "/undo", response_class=HTMLResponse, responses={404: {}, 409: {}})
def undo(request: Request, enclosure_id: EnclosureId, services: TheServices, at: TheAt) -> Response:
    """Back one step."""
    return step(request, services, enclosure_id, at, services.shelf.undo)


@router.post(PAGE + "/redo", response_class=HTMLResponse, responses={404: {}, 409: {}})
def redo(request: Request, enclosure_id: EnclosureId, services: TheServices, at: TheAt) -> Response:
    """Forth one step."""
    return step(request, services, enclosure_id, at, services.shelf.redo)
