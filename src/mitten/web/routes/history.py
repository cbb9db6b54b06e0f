"""The history of an enclosure: every revision, and the way back to any of them."""

from typing import Annotated

from fastapi import APIRouter, Path, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mitten.web.routes.common import EnclosureId, TheServices, TheUnits

router = APIRouter()


@router.get("/enclosures/{enclosure_id}/history", response_class=HTMLResponse, responses={404: {}})
def show_history(request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits) -> Response:
    """Every revision, the newest first."""
    shelved = services.shelf.open(enclosure_id)
    context = {"shelved": shelved, "revisions": services.shelf.history(enclosure_id), "units": units}
    return services.pages.answer(request, "history.html", context)


@router.post("/enclosures/{enclosure_id}/history/{number}", responses={303: {}, 404: {}})
def go_to(enclosure_id: EnclosureId, number: Annotated[int, Path(ge=1, le=2**53)], services: TheServices) -> Response:
    """Make a revision the one in force."""
    with services.editing.of(enclosure_id):
        services.editors.changed(services.shelf.go_to(enclosure_id, number), None)
    return RedirectResponse(f"/enclosures/{enclosure_id}", status_code=303)
