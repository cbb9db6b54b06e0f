"""The bench: the sheets of an enclosure, its margin, and what is worked out beside them."""

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, JSONResponse, Response

from mitten.core.design import Design, MittenError
from mitten.core.design.units import Units
from mitten.draw import heat_sheet
from mitten.store import Shelved
from mitten.web.at import At
from mitten.web.edits import EditError, PartRef, find_part, summary_of
from mitten.web.edits.fields import Typed
from mitten.web.edits.kept import really_typed
from mitten.web.pages import segment
from mitten.web.routes.common import (
    UNITS_COOKIE,
    EnclosureId,
    Services,
    TheAt,
    TheServices,
    TheUnits,
    units_of,
    wants_a_part,
)
from mitten.web.views.bench import IN_TIME, BenchView, back_from, bench_view, is_explored
from mitten.web.views.checklist import checklist_view
from mitten.web.views.readout import readout_of
from mitten.web.views.setpoint import setpoint_offer
from mitten.web.views.verdict import margin

router = APIRouter()
PAGE = "/enclosures/{enclosure_id}"
Edit = Callable[[Design, Typed], tuple[Design, str]]
"""A design, and what was typed, into the changed design and the part to show afterwards."""

Metres = Annotated[float, Query(allow_inf_nan=False)]
BEHIND = 409


@router.get(PAGE, response_class=HTMLResponse, responses={404: {}})
def show_bench(request: Request, enclosure_id: EnclosureId, services: TheServices, at: TheAt) -> Response:
    """The whole page; for htmx, the bench alone."""
    services.editing.wait_for(enclosure_id)
    return bench(request, services, services.shelf.open(enclosure_id), at)


@router.get(PAGE + "/revision", responses={404: {}})
def show_revision(enclosure_id: EnclosureId, services: TheServices) -> JSONResponse:
    """The number of the state in force, after the edits that have come: for a page that may show an older one."""
    services.editing.wait_for(enclosure_id)
    return JSONResponse({"revision": services.shelf.revision_of(enclosure_id)})


@router.get(PAGE + "/margin", response_class=HTMLResponse, responses={404: {}})
def show_margin(
    request: Request, enclosure_id: EnclosureId, services: TheServices, at: TheAt, units: TheUnits, fixes: bool = False
) -> Response:
    """The margin with its intervals, which take longer than the figures; with ``fixes``, which take longest, too."""
    shelved = services.shelf.open(enclosure_id)
    design = shelved.design

    def still_wanted() -> bool:
        return services.shelf.revision_of(enclosure_id) == shelved.revision

    shown = at.condition_of(design)
    if is_explored(shown):
        seen = margin(
            services.assessments.in_condition(design, shown), units, services.assessments.sure_in(design, shown)
        )
    else:
        sure, found = services.assessments.sure_of(design), services.assessments.fixes_of(design, fixes, still_wanted)
        seen = margin(services.assessments.of(design), units, sure, found)
    context = {
        "margin": seen,
        "checklist": checklist_view(design, services.catalogue, services.shelf.ticks(enclosure_id)),
        "path": f"/enclosures/{enclosure_id}",
        "query": at.query(),
        "back": at.query(condition=back_from(at.condition)),
        "units": units,
    }
    return services.pages.answer(request, "_margin.html", context)


@router.get(PAGE + "/setpoint/{name:path}", response_class=HTMLResponse, responses={404: {}})
def show_setpoint(
    request: Request, enclosure_id: EnclosureId, name: str, services: TheServices, at: TheAt, units: TheUnits
) -> Response:
    """The setpoints at which the basking place comes right in winter and in summer, with a button that sets them."""
    design = services.shelf.open(enclosure_id).design
    assessment = services.assessments.of(design)
    offer = setpoint_offer(assessment, name, units)
    to = f"/enclosures/{enclosure_id}/part/{segment(f'controls:{name}')}{at.query()}"
    return services.pages.answer(request, "_setpoint.html", {"offer": offer, "to": to})


@router.get(PAGE + "/readout", responses={404: {}})
def show_readout(
    enclosure_id: EnclosureId, services: TheServices, at: TheAt, units: TheUnits, x_m: Metres,
    y_m: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    z_m: Annotated[float | None, Query(allow_inf_nan=False)] = None,
) -> JSONResponse:  # fmt: skip
    """What there is at a point of the drawing: of the section with ``z_m``, of the plan with ``y_m``."""
    design = services.shelf.open(enclosure_id).design
    climate = services.assessments.climate(design, at.condition_of(design))
    return JSONResponse({"words": readout_of(climate, units, x_m, y_m, z_m)})


@router.get(PAGE + "/drawing.svg", responses={404: {}})
def save_drawing(enclosure_id: EnclosureId, services: TheServices, at: TheAt, units: TheUnits) -> Response:
    """The drawing of the sheet as an SVG file that needs nothing else."""
    shelved = services.shelf.open(enclosure_id)
    # Sheets in time have none that lies still: what is saved there is the condition's.
    at = replace(at, sheet="heat") if at.sheet in IN_TIME else at
    view = _view(services, shelved, at, units)
    name = f'attachment; filename="{view.file_name}-{at.sheet}.svg"'
    return Response(view.standalone_drawing, media_type="image/svg+xml", headers={"content-disposition": name})


@router.get(PAGE + "/sketch", responses={404: {}, 422: {}})
def show_sketch(enclosure_id: EnclosureId, services: TheServices, at: TheAt, units: TheUnits) -> Response:
    """The drawing alone, from a coarse grid, while the room is being slid."""
    design = services.shelf.open(enclosure_id).design
    try:
        climate = services.assessments.on_the_way.solve(design, at.condition_of(design))
    except MittenError:
        return Response(status_code=422)
    drawing = heat_sheet(climate, services.assessments.of(design).targets, units, at.part)
    return Response(str(drawing), media_type="image/svg+xml")


@router.post(PAGE + "/ticks", response_class=HTMLResponse, responses={404: {}, 422: {}})
def tick(
    request: Request, enclosure_id: EnclosureId, services: TheServices, item: Annotated[str, Form(max_length=60)],
    done: Annotated[str, Form(max_length=5)] = "",
) -> Response:  # fmt: skip
    """Note that the keeper has seen to something, or has not."""
    services.shelf.tick(enclosure_id, item, done == "yes")
    design = services.shelf.open(enclosure_id).design
    context = {
        "checklist": checklist_view(design, services.catalogue, services.shelf.ticks(enclosure_id)),
        "path": f"/enclosures/{enclosure_id}", "open": True,
    }  # fmt: skip
    return services.pages.answer(request, "_checklist.html", context)


def change(
    request: Request, services: Services, enclosure_id: int, at: At, edit: Edit, typed: Typed | None = None,
    form: str = "",
) -> Response:  # fmt: skip
    """Make an edit and store it; one that changes nothing makes no revision, of one that is refused in some fields the
    others are stored.

    ``form`` names what a later edit of the same page says anew: what of it comes too late changes nothing. What adds to
    what is there, such as one more part, has none and always counts.
    """
    made_by, typed = request.headers.get("mitten-edit"), typed or {}
    with services.editing.of(enclosure_id):
        # The library may have been changed while this one waited for its turn.
        services = services.now()
        shelved = services.shelf.open(enclosure_id)
        said = services.editors.still_said(made_by, f"{enclosure_id} {form}", typed or {""}) if form else {""}
        if not said:
            return bench(request, services, shelved, at)
        seen = request.headers.get("mitten-revision")
        if services.editors.is_behind(enclosure_id, seen, shelved.revision, made_by):
            error = _behind(request, services, shelved, form if typed else at.part, typed)
            return bench(request, services, shelved, at, error, BEHIND)
        taken = {field: text for field, text in typed.items() if field in said}
        shelved, at, refused = _try_to_store(services, shelved, at, edit, taken, made_by)
    return bench(request, services, shelved, at, refused)


def _try_to_store(
    services: Services, shelved: Shelved, at: At, edit: Edit, typed: Typed, made_by: str | None
) -> tuple[Shelved, At, EditError | None]:
    """The same as ``_apply_and_store``; where nothing was stored, with the reason."""
    try:
        return _apply_and_store(services, shelved, at, edit, typed, made_by)
    except EditError as error:
        return shelved, at, error
    except MittenError as trouble:
        return shelved, at, EditError(at.part or "add", {"": f"{trouble} Nothing was stored."}, typed)


def step(request: Request, services: Services, enclosure_id: int, at: At, taken: Callable[[int], Shelved]) -> Response:
    """Take a step back or forth in the history: from the state that the page shows, or not at all."""
    made_by = request.headers.get("mitten-edit")
    with services.editing.of(enclosure_id):
        seen, now = request.headers.get("mitten-revision"), services.shelf.revision_of(enclosure_id)
        if services.editors.is_behind(enclosure_id, seen, now, made_by):
            shelved = services.shelf.open(enclosure_id)
            return bench(request, services, shelved, at, _behind(request, services, shelved, at.part, {}), BEHIND)
        shelved = taken(enclosure_id)
        services.editors.changed(shelved, made_by)
    return bench(request, services, shelved, at)


def _apply_and_store(
    services: Services, shelved: Shelved, at: At, edit: Edit, typed: Typed, made_by: str | None
) -> tuple[Shelved, At, EditError | None]:
    """The enclosure with an edit stored as far as it can be made, where the keeper is then, and what was refused.

    Raises:
        MittenError: nothing was stored.
    """
    design, part, refused = _apply(edit, shelved.design, typed)
    if design != shelved.design:
        # Judged before it is stored: a design that cannot be computed is not kept.
        services.assessments.of(design, before=shelved.design)
        shelved = services.shelf.save(shelved.id, design, summary_of(shelved.design, design, services.catalogue))
        services.editors.changed(shelved, made_by)
    return shelved, At(at.sheet, at.condition, part or at.part), refused


def _apply(edit: Edit, design: Design, typed: Typed) -> tuple[Design, str, EditError | None]:
    """An edit as far as it can be made: without the fields that are refused, which are said.

    Raises:
        EditError: nothing of it can be made.
    """
    try:
        return *edit(design, typed), None
    except EditError as error:
        taken = {key: text for key, text in typed.items() if key not in error.sentences}
        if len(taken) == len(typed):
            raise
        try:
            made, part = edit(design, taken)
        except EditError:
            raise error from None
        if ":" in error.form:
            # A part, which may have got another name by what was taken.
            error.form = part
        return made, part, error


def _behind(request: Request, services: Services, shelved: Shelved, form: str, typed: Typed) -> EditError:
    """What to say to the later one of two pages that edit the same enclosure; what it changed stays in its fields."""
    latest = next(revision for revision in services.shelf.history(shelved.id) if revision.current)
    seen = services.shelf.design_at(shelved.id, int(request.headers["mitten-revision"]))
    kept = really_typed(seen, form, typed, units_of(request.cookies.get(UNITS_COOKIE, "")), services.catalogue)
    still = "; what you typed is still in its field" if kept else ""
    sentence = (
        f"This enclosure was changed elsewhere in the meantime ({latest.summary}), so your change was not stored. "
        f"This is how it stands now{still}: make the change again if you still want it."
    )
    return EditError(form, {"": sentence}, kept)


def bench(
    request: Request, services: Services, shelved: Shelved, at: At, error: EditError | None = None, status: int = 422
) -> Response:
    """The bench as it stands, with an edit that was refused."""
    units = units_of(request.cookies.get(UNITS_COOKIE, ""))
    view = _view(services, shelved, at, units, error)
    template = "bench.html" if wants_a_part(request) else "bench_page.html"
    context = {"view": view, "units": units, "part": template == "bench.html"}
    answer = services.pages.answer(request, template, context, status if error else 200)
    # Of two answers the older may reach the page after the newer.
    answer.headers["Mitten-Moment"] = str(services.editors.moment_of(shelved))
    return answer


def _view(services: Services, shelved: Shelved, at: At, units: Units, error: EditError | None = None) -> BenchView:
    return bench_view(
        shelved, services.assessments, services.shelf.ticks(shelved.id), at, units, services.catalogue, error
    )


def part_of(design: Design, words: str) -> PartRef:
    """The part that an address names.

    Raises:
        EditError: it is not there any more.
    """
    ref = find_part(design, words)
    if ref is None:
        raise EditError("add", {"": f"There is no '{words.partition(':')[2] or words}' any more."}, {})
    return ref
