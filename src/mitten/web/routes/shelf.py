"""The shelf: every enclosure, new ones, design files in and out, and what hangs on the mains."""

import re
from time import monotonic
from typing import Annotated, Literal
from urllib.parse import urlsplit

from fastapi import APIRouter, Form, Request, UploadFile
from fastapi.params import File
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mitten.core.catalogue import read_carrying, write_carrying
from mitten.core.design import MAX_FILE_BYTES, TOO_LARGE, BadDesignError, Fault
from mitten.store import Shelved
from mitten.web.new import new_design
from mitten.web.routes.common import UNITS_COOKIE, EnclosureId, Services, TheServices, TheUnits, units_of
from mitten.web.views.shelf import (
    OUTLETS,
    RATED_A,
    USUAL_RATED_A,
    USUAL_VOLTS,
    VOLTS,
    heat_into_the_room,
    shelf_view,
)

router = APIRouter()
A_YEAR_S = 365 * 24 * 3600
ROOM_HEAT_S = 1.0
"""So long an answer about the heat of all enclosures works out further ones."""


@router.get("/", response_class=HTMLResponse)
def show_shelf(request: Request, services: TheServices, refused: Literal["too-large"] | None = None) -> Response:
    """Every enclosure with its small drawing and its state; ``refused`` says why a file was not taken."""
    return _page(request, services, (Fault("", TOO_LARGE),) if refused else ())


@router.get("/enclosures/{enclosure_id}/card", response_class=HTMLResponse, responses={404: {}})
def show_card(request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits) -> Response:
    """The drawing and the state of one enclosure, which take longer than the rest of the shelf."""
    card = services.card_of(services.shelf.open(enclosure_id).design, units)
    return services.pages.answer(request, "_card.html", {"card": card})


@router.get("/room-heat", response_class=HTMLResponse)
def show_room_heat(request: Request, services: TheServices) -> Response:
    """What all enclosures together give the room; with many that were not worked out yet, of those that are, and the
    page asks again as long as it is looked at.
    """
    designs, until = [shelved.design for shelved in services.shelf.enclosures()], monotonic() + ROOM_HEAT_S
    heats = [heat for design in designs if (heat := services.heat_of(design, compute=monotonic() < until)) is not None]
    return services.pages.answer(request, "_room_heat.html", {"heat": heat_into_the_room(heats, len(designs))})


@router.post("/enclosures", responses={303: {}, 422: {}})
def make_new(species: Annotated[str, Form(max_length=60)], services: TheServices) -> Response:
    """A new enclosure for an animal: an empty box of the least size for it."""
    known = species if species in services.catalogue.species else next(iter(services.catalogue.species))
    shelved = services.shelf.add(new_design(known, services.catalogue), "New")
    return RedirectResponse(f"/enclosures/{shelved.id}?sheet=animal", status_code=303)


@router.post("/enclosures/{enclosure_id}/remove", responses={303: {}, 404: {}})
def remove(enclosure_id: EnclosureId, services: TheServices) -> Response:
    """Take an enclosure off the shelf; it can be put back."""
    services.shelf.remove(enclosure_id)
    return RedirectResponse("/", status_code=303)


@router.post("/enclosures/{enclosure_id}/put-back", responses={303: {}, 404: {}})
def put_back(enclosure_id: EnclosureId, services: TheServices) -> Response:
    """Put an enclosure back on the shelf."""
    services.shelf.put_back(enclosure_id)
    return RedirectResponse("/", status_code=303)


@router.post("/enclosures/{enclosure_id}/outlet", responses={303: {}, 404: {}})
def set_outlet(
    enclosure_id: EnclosureId, outlet: Annotated[str, Form(max_length=20)], services: TheServices
) -> Response:
    """Say on which outlet an enclosure hangs."""
    services.shelf.set_outlet(enclosure_id, outlet if outlet in OUTLETS else OUTLETS[0])
    return RedirectResponse("/#mains", status_code=303)


@router.post("/mains", responses={303: {}})
def set_mains(volts: Annotated[str, Form()], rated_a: Annotated[str, Form()], services: TheServices) -> Response:
    """Say what the mains have, and what a circuit is rated for."""
    services.settings.put("volts", volts if volts in VOLTS else USUAL_VOLTS)
    services.settings.put("rated_a", rated_a if rated_a in RATED_A else USUAL_RATED_A)
    return RedirectResponse("/#mains", status_code=303)


@router.post("/units", responses={303: {}})
def set_units(request: Request, system: Annotated[Literal["metric", "us"], Form()]) -> Response:
    """Show everything in the other units, and remember that."""
    answer = RedirectResponse(_path_of(request.headers.get("referer", "")), status_code=303)
    answer.set_cookie(UNITS_COOKIE, system, max_age=A_YEAR_S, httponly=True, samesite="lax")
    return answer


def _path_of(came_from: str) -> str:
    """The page that a request came from, within ours; the shelf where it says none that can be read."""
    try:
        parts = urlsplit(came_from)
    except ValueError:
        return "/"
    # Only a path of our own: two slashes, or what a browser takes for one, would lead elsewhere.
    return "/" + parts.path.lstrip("/\\") + (f"?{parts.query}" if parts.query else "")


@router.post("/designs", response_class=HTMLResponse, responses={303: {}, 413: {}, 422: {}})
def open_file(request: Request, services: TheServices, design_file: Annotated[UploadFile, File()]) -> Response:
    """Put a design file on the shelf, or say everything that is wrong with it and store nothing."""
    content = design_file.file.read(MAX_FILE_BYTES + 1)
    summary = f"Opened from {design_file.filename or 'a file'}"
    try:
        design, arrived = read_carrying(content, services.catalogue)
        shelved = _take_in(services, content, summary) if arrived.entries else services.shelf.add(design, summary)
    except BadDesignError as error:
        return _page(request, services, error.faults, 422)
    return RedirectResponse(f"/enclosures/{shelved.id}", status_code=303)


def _take_in(services: Services, content: bytes, summary: str) -> Shelved:
    """A design that brings entries of a library: they are kept first, so that it can be read from then on.

    Raises:
        BadDesignError: it cannot be read any more, as the library stands by now.
    """
    with services.editing.library():
        design, arrived = read_carrying(content, services.now().catalogue)
        services.library.take_in(arrived.entries)
        services.use_library()
        return services.shelf.add(design, summary)


@router.get("/enclosures/{enclosure_id}/file", responses={404: {}})
def save_file(enclosure_id: EnclosureId, services: TheServices) -> Response:
    """The design as a file, with the own entries of the library that it names."""
    design = services.shelf.open(enclosure_id).design
    name = re.sub(r"[^a-z0-9]+", "-", design.name.lower()).strip("-") or "enclosure"
    return Response(
        write_carrying(design, services.catalogue),
        media_type="application/json",
        headers={"content-disposition": f'attachment; filename="{name}.mitten.json"'},
    )


def _page(request: Request, services: Services, faults: tuple[Fault, ...], status: int = 200) -> Response:
    units = units_of(request.cookies.get(UNITS_COOKIE, ""))
    mains = services.settings.get("volts", USUAL_VOLTS), services.settings.get("rated_a", USUAL_RATED_A)
    entries = [
        (shelved, services.workings.cards.get((shelved.design, units))) for shelved in services.shelf.enclosures()
    ]
    unreadable = services.shelf.unreadable()
    view = shelf_view(entries, services.shelf.removed(), units, mains, services.catalogue)
    context = {
        "view": view, "faults": faults, "units": units, "unreadable": unreadable,
        "set_aside": services.library.set_aside(), "notice": services.notice if services.shelf.is_empty() else "",
    }  # fmt: skip
    return services.pages.answer(request, "shelf.html", context, status)
