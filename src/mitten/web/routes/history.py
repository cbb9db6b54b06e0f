"""The history of an enclosure: every revision, and the way back to any of them."""

from typing import Annotated

from fastapi import APIRouter, Path, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mitten.web.routes.common import EnclosureId, TheDesk, TheUnits

router = APIRouter()


@router.get("/enclosures/{enclosure_id}/history", response_class=HTMLResponse, responses={404: {}})
def show_history(request: Request, enclosure_id: EnclosureId, desk: TheDesk, units: TheUnits) -> Response:
    """Every revision, the newest first."""
    shelved = desk.shelf.open(enclosure_id)
    context = {"shelved": shelved, "revisions": desk.shelf.history(enclosure_id), "units": units}
    return desk.pages.answer(request, "history.html", context)


@router.post("/enclosures/{enclosure_id}/history/{number}", responses={303: {}, 404: {}})
def go_to(enclosure_id: EnclosureId, number: Annotated[int, Path(ge=1, le=2**53)], desk: TheDesk) -> Response:
    """Make a revision the one in force."""
    with desk.editing.of(enclosure_id):
        desk.shelf.go_to(enclosure_id, number)
        desk.editors.changed(enclosure_id, None)
    return RedirectResponse(f"/enclosures/{enclosure_id}", status_code=303)
