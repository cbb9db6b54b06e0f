"""A power cut with a warm bottle of the keeper's own size: a part of Check."""

from functools import partial
from typing import Annotated, Any
from urllib.parse import urlencode

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, Response

from mitten.core.design.units import LITRES, TEMPERATURE, BadQuantityError, Quantity, Units
from mitten.core.plan.failsafe import USUAL_BOTTLE, Bottle, in_a_cut
from mitten.web.routes.common import EnclosureId, Services, TheServices, TheUnits
from mitten.web.undertakings import Undertaking
from mitten.web.views.check import bottle_view

router = APIRouter()
PAGE = "/enclosures/{enclosure_id}/bottle"
MOST_LETTERS = 60
LIMITS_L, LIMITS_C = (0.2, 20.0), (30.0, 60.0)
HELPS = ("bottle", "everything")
"""What is gone through with it: the bottle alone, and with a blanket and closed vents."""

Typed = Annotated[str, Form(max_length=MOST_LETTERS)]
TypedBefore = Annotated[str, Query(max_length=MOST_LETTERS)]
"""What was typed before, in the address of what asks for it again."""


@router.post(PAGE + "/begin", response_class=HTMLResponse, responses={404: {}, 422: {}})
def begin_bottle(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits,
    litres: Typed = "", water: Typed = "", litres_then: TypedBefore = "", water_then: TypedBefore = "",
) -> Response:  # fmt: skip
    """Begin to go through a cut with a bottle of one's own, or go on where that was stopped."""
    typed = litres or litres_then, water or water_then
    return _bottle(request, services, enclosure_id, units, *typed, begins=True)


@router.get(PAGE, response_class=HTMLResponse, responses={404: {}, 422: {}})
def show_bottle(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits,
    litres_then: TypedBefore = "", water_then: TypedBefore = "",
) -> Response:  # fmt: skip
    """The bottle's form, and what is known of it; a usual one where none was typed."""
    litres = litres_then or units.show(LITRES, USUAL_BOTTLE.litres)
    water = water_then or units.show(TEMPERATURE, USUAL_BOTTLE.water_c)
    return _bottle(request, services, enclosure_id, units, litres, water)


@router.post(PAGE + "/stop", response_class=HTMLResponse, responses={404: {}, 422: {}})
def stop_bottle(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits,
    litres_then: TypedBefore = "", water_then: TypedBefore = "",
) -> Response:  # fmt: skip
    """Let it be."""
    services.undertakings.stop((enclosure_id, "bottle"))
    return show_bottle(request, enclosure_id, services, units, litres_then, water_then)


def _bottle(
    request: Request, services: Services, enclosure_id: int, units: Units, litres: str, water: str, *,
    begins: bool = False,
) -> Response:  # fmt: skip
    context: dict[str, Any] = {
        "path": f"/enclosures/{enclosure_id}", "units": units, "work": None, "before": 0, "trouble": "", "faults": {},
        "query": "?" + urlencode({"litres_then": litres, "water_then": water}),
    }  # fmt: skip
    bottle, faults = read_bottle(litres, water, units)
    if bottle is None:
        context |= {"faults": faults, "view": bottle_view(litres, water, (), units)}
        return services.pages.answer(request, "_bottle.html", context, 422)
    work = _work(services, enclosure_id, bottle, begins=begins)
    if work is not None:
        context |= {"work": work, "before": work.before, "trouble": work.trouble}
    context["view"] = bottle_view(litres, water, work.results if work else (), units)
    return services.pages.answer(request, "_bottle.html", context)


def _work(services: Services, enclosure_id: int, bottle: Bottle, *, begins: bool) -> Undertaking | None:
    """What goes through it, if that was begun."""
    design, key = services.shelf.open(enclosure_id).design, (enclosure_id, "bottle")
    if not begins:
        return services.undertakings.known(key, (design, bottle))
    steps = [partial(in_a_cut, design, services.catalogue, one, bottle) for one in HELPS]
    return services.undertakings.of(key, (design, bottle), lambda: steps, goes_on=True)


def read_bottle(litres: str, water: str, units: Units) -> tuple[Bottle | None, dict[str, str]]:
    """A bottle as it was typed; or none, and a sentence for each field that is wrong."""
    fields = {
        "litres": (LITRES, litres, LIMITS_L, "A bottle holds {} to {}."),
        "water": (TEMPERATURE, water, LIMITS_C, "Its water is at {} to {}: hotter burns through a cloth."),
    }
    read, faults = {}, {}
    for name, (quantity, typed, limits, sentence) in fields.items():
        try:
            read[name] = _within(quantity, typed, limits, sentence, units)
        except BadQuantityError as error:
            faults[name] = str(error)
    return (None, faults) if faults else (Bottle(round(read["litres"], 2), round(read["water"], 1)), {})


def _within(quantity: Quantity, typed: str, limits: tuple[float, float], sentence: str, units: Units) -> float:
    value = units.read(quantity, typed)
    if not limits[0] <= value <= limits[1]:
        raise BadQuantityError(sentence.format(*(units.say_with_unit(quantity, limit) for limit in limits)))
    return value
