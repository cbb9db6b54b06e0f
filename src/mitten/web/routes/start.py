"""Start: from five questions to a new enclosure and the search for its plans."""

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mitten.web.edits import EditError
from mitten.web.owned import owned_gear
from mitten.web.routes.common import TheServices, TheTyped, TheUnits
from mitten.web.views.start import GEAR, design_from_answers, start_view

router = APIRouter()


@router.get("/start", response_class=HTMLResponse)
def show_start(request: Request, services: TheServices, units: TheUnits) -> Response:
    """The five questions."""
    view = start_view({}, owned_gear(services.settings, services.catalogue), units, services.catalogue)
    return services.pages.answer(request, "start.html", {"view": view, "units": units})


@router.get("/start/answers", response_class=HTMLResponse)
def show_answers(request: Request, services: TheServices, units: TheUnits) -> Response:
    """The boxes for the animal as it was answered, and what makes the answers hard."""
    view = start_view(
        dict(request.query_params), owned_gear(services.settings, services.catalogue), units, services.catalogue
    )
    return services.pages.answer(request, "_start_answers.html", {"view": view, "units": units})


@router.post("/start", response_class=HTMLResponse, responses={303: {}, 422: {}})
def start(request: Request, services: TheServices, units: TheUnits, typed: TheTyped) -> Response:
    """Make the enclosure and look for its plans; an answer that cannot be taken makes nothing."""
    try:
        design = design_from_answers(typed, units, services.catalogue)
    except EditError as error:
        view = start_view(typed, owned_gear(services.settings, services.catalogue), units, services.catalogue, error)
        return services.pages.answer(request, "start.html", {"view": view, "units": units}, 422)
    shelved = services.shelf.add(design, "Started from five questions")
    gear = typed.get("gear", GEAR[0])
    return RedirectResponse(f"/enclosures/{shelved.id}/plans?gear={gear if gear in GEAR else GEAR[0]}", status_code=303)
