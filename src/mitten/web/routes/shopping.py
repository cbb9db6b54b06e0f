"""The shopping list with the keeper's prices, and the build sheet."""

import json
from typing import Annotated

from fastapi import APIRouter, Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mitten.store import Settings
from mitten.web.routes.common import EnclosureId, Services, TheServices, TheUnits
from mitten.web.routes.year import kwh_of_the_year
from mitten.web.views.shopping import build_sheet, shopping_csv, shopping_view

router = APIRouter()
PAGE = "/enclosures/{enclosure_id}"
OWN_PRICES = "own-prices"
MOST_PRICE = 1e6


def own_prices(settings: Settings) -> dict[str, float]:
    """The keeper's prices by description."""
    found: dict[str, float] = json.loads(settings.get(OWN_PRICES, "{}"))
    return found


@router.get(PAGE + "/shopping", response_class=HTMLResponse, responses={404: {}})
def show_shopping(request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits) -> Response:
    """The list."""
    return _answer(request, enclosure_id, services, units, {})


@router.get(PAGE + "/shopping.csv", responses={404: {}})
def save_shopping(enclosure_id: EnclosureId, services: TheServices, units: TheUnits) -> Response:
    """The list as CSV."""
    text = shopping_csv(
        services.shelf.open(enclosure_id).design, services.catalogue, own_prices(services.settings), units
    )
    return Response(text, media_type="text/csv", headers={"content-disposition": 'attachment; filename="shopping.csv"'})


@router.post(PAGE + "/shopping", response_class=HTMLResponse, responses={303: {}, 404: {}, 422: {}})
def set_price(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits,
    item: Annotated[str, Form(max_length=200)], price: Annotated[str, Form(max_length=20)] = "",
) -> Response:  # fmt: skip
    """The keeper's own price of a thing; emptied, the placeholder is back."""
    amount = _amount(price)
    if price.strip() and amount is None:
        return _answer(request, enclosure_id, services, units, {item: f"'{price.strip()}' is no price."}, 422)
    with services.editing.settings:
        prices = {key: value for key, value in own_prices(services.settings).items() if key != item}
        if amount is not None:
            prices[item] = amount
        services.settings.put(OWN_PRICES, json.dumps(prices, ensure_ascii=False))
    return RedirectResponse(f"/enclosures/{enclosure_id}/shopping", status_code=303)


def _amount(text: str) -> float | None:
    """A price as typed; None where it is none."""
    try:
        amount = float(text.strip().replace(",", "."))
    except ValueError:
        return None
    return amount if 0.0 <= amount <= MOST_PRICE else None


def _answer(
    request: Request, enclosure_id: int, services: Services, units: TheUnits, faults: dict[str, str], status: int = 200
) -> Response:
    shelved = services.shelf.open(enclosure_id)
    kwh_year = kwh_of_the_year(services, shelved.id, shelved.design)
    assessment = services.assessments.of(shelved.design)
    view = shopping_view(shelved, assessment, own_prices(services.settings), faults, kwh_year)
    return services.pages.answer(request, "shopping.html", {"view": view, "units": units}, status)


@router.get(PAGE + "/build-sheet", response_class=HTMLResponse, responses={404: {}})
def show_build_sheet(request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits) -> Response:
    """One page to print and to build from."""
    shelved = services.shelf.open(enclosure_id)
    view = build_sheet(shelved, services.assessments.of(shelved.design), units)
    return services.pages.answer(request, "build_sheet.html", {"view": view, "units": units})
