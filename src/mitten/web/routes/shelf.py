"""The shelf: every enclosure, and design files in and out."""

import re
from typing import Annotated, Literal

from fastapi import APIRouter, Request, UploadFile
from fastapi.params import File
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mitten.core.catalogue import load_catalogue, read_checked_design
from mitten.core.design import MAX_FILE_BYTES, TOO_LARGE, BadDesignError, Fault, write_design
from mitten.web.routes.common import Desk, EnclosureId, TheDesk
from mitten.web.views.shelf import shelf_view

router = APIRouter(include_in_schema=True)


@router.get("/", response_class=HTMLResponse)
def show_shelf(request: Request, desk: TheDesk, refused: Literal["too-large"] | None = None) -> Response:
    """Every enclosure with its small drawing and its state; ``refused`` says why a file was not taken."""
    return _page(request, desk, (Fault("", TOO_LARGE),) if refused else ())


@router.post("/designs", response_class=HTMLResponse, responses={303: {}, 413: {}, 422: {}})
def open_file(request: Request, desk: TheDesk, design_file: Annotated[UploadFile, File()]) -> Response:
    """Put a design file on the shelf, or say everything that is wrong with it and store nothing."""
    try:
        content = design_file.file.read(MAX_FILE_BYTES + 1)
        design = read_checked_design(content, load_catalogue())
    except BadDesignError as error:
        return _page(request, desk, error.faults, 422)
    shelved = desk.shelf.add(design, f"Opened from {design_file.filename or 'a file'}")
    return RedirectResponse(f"/enclosures/{shelved.id}", status_code=303)


@router.get("/enclosures/{enclosure_id}/file", responses={404: {}})
def save_file(enclosure_id: EnclosureId, desk: TheDesk) -> Response:
    """The design as a file."""
    design = desk.shelf.open(enclosure_id).design
    name = re.sub(r"[^a-z0-9]+", "-", design.name.lower()).strip("-") or "enclosure"
    return Response(
        write_design(design),
        media_type="application/json",
        headers={"content-disposition": f'attachment; filename="{name}.mitten.json"'},
    )


def _page(request: Request, desk: Desk, faults: tuple[Fault, ...], status: int = 200) -> Response:
    entries = [(shelved, desk.assessments.of(shelved.design)) for shelved in desk.shelf.enclosures()]
    return desk.pages.answer(request, "shelf.html", {"view": shelf_view(entries), "faults": faults}, status)
