"""Variants: states of an enclosure by name, laid side by side, and one of them adopted."""

from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mitten.core.plan import over_materials
from mitten.web.at import MAIN_CONDITION
from mitten.web.routes.common import EnclosureId, TheServices, TheUnits
from mitten.web.views.variants import NOW, ComparedState, compare_view

router = APIRouter()
PAGE = "/enclosures/{enclosure_id}/variants"
MOST_SIDE_BY_SIDE = 3
Name = Annotated[str, Form(min_length=1, max_length=60)]


@router.get(PAGE, response_class=HTMLResponse, responses={404: {}})
def show_variants(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits,
    show: Annotated[list[str] | None, Query(max_length=20)] = None,
    condition: Annotated[str, Query(max_length=160)] = MAIN_CONDITION,
    materials: bool = False,
    taken: Annotated[str, Query(max_length=60)] = "",
) -> Response:  # fmt: skip
    """Up to three states side by side; with ``materials``, the same lamp over slate, wood, resin and soil. ``taken`` is
    a name that was to be given and stands for another state.
    """
    shelved = services.shelf.open(enclosure_id)
    candidates = [ComparedState(NOW, shelved.design, shelved.revision)]
    candidates += [ComparedState(v.name, v.design, v.number) for v in services.shelf.variants(enclosure_id)]
    if materials:
        chosen = [
            ComparedState(name, design, None)
            for name, design in over_materials(shelved.design, services.catalogue).items()
        ]
    else:
        wanted = show or [candidate.name for candidate in candidates][:MOST_SIDE_BY_SIDE]
        chosen = [candidate for candidate in candidates if candidate.name in wanted][:MOST_SIDE_BY_SIDE]
    view = compare_view(shelved, candidates, chosen, services.assessments, condition, units, materials)
    return services.pages.answer(request, "variants.html", {"view": view, "units": units, "taken": taken})


@router.post(PAGE, responses={303: {}, 404: {}, 422: {}})
def keep(
    enclosure_id: EnclosureId, name: Name, services: TheServices, replace: Annotated[bool, Form()] = False
) -> Response:  # fmt: skip
    """Name the state in force; a name that stands for another state already is asked about first."""
    name = name.strip() or "Variant"
    with services.editing.of(enclosure_id):
        taken = any(one.name == name for one in services.shelf.variants(enclosure_id))
        if taken and not replace:
            return RedirectResponse(f"/enclosures/{enclosure_id}/variants?taken={quote(name)}", status_code=303)
        services.shelf.keep_variant(enclosure_id, name)
    return RedirectResponse(f"/enclosures/{enclosure_id}/variants", status_code=303)


@router.post(PAGE + "/drop", responses={303: {}, 404: {}, 422: {}})
def drop(enclosure_id: EnclosureId, name: Name, services: TheServices) -> Response:
    """Forget a name; its state stays in the history."""
    services.shelf.drop_variant(enclosure_id, name)
    return RedirectResponse(f"/enclosures/{enclosure_id}/variants", status_code=303)


@router.post(PAGE + "/adopt", responses={303: {}, 404: {}, 422: {}})
def adopt(enclosure_id: EnclosureId, name: Name, services: TheServices) -> Response:
    """Put a variant in force, as one more step that can be undone."""
    with services.editing.of(enclosure_id):
        variant = next((one for one in services.shelf.variants(enclosure_id) if one.name == name), None)
        if variant is not None:
            adopted = services.shelf.save(enclosure_id, variant.design, f"Adopted the variant '{name}'")
            services.editors.changed(adopted, None)
    return RedirectResponse(f"/enclosures/{enclosure_id}", status_code=303)
