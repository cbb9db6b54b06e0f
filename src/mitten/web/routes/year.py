"""The inside of Year: twelve months, worked out beside the pages, and what changes when, for the keeper's calendar."""

from collections.abc import Sequence
from datetime import UTC, datetime
from functools import partial

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.plan.year import MonthFigures, figures_of, months_of
from mitten.reports import year_calendar
from mitten.web.routes.common import EnclosureId, Services, TheServices, TheUnits
from mitten.web.undertakings import Step, Undertaking
from mitten.web.views.year import year_changes, year_view

router = APIRouter()
PAGE = "/enclosures/{enclosure_id}/year"


@router.post(PAGE + "/begin", response_class=HTMLResponse, responses={404: {}})
def begin(request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits) -> Response:
    """Begin to work out the months, or go on where that was stopped."""
    design = services.shelf.open(enclosure_id).design
    steps = partial(_steps, design, services.catalogue)
    undertaking = services.undertakings.of((enclosure_id, "year"), design, steps, goes_on=True)
    return _answer(request, services, enclosure_id, design, undertaking, units)


@router.get(PAGE, response_class=HTMLResponse, responses={404: {}})
def show_year(request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits) -> Response:
    """The months that are known so far."""
    design = services.shelf.open(enclosure_id).design
    undertaking = services.undertakings.known((enclosure_id, "year"), design)
    return _answer(request, services, enclosure_id, design, undertaking, units)


@router.post(PAGE + "/stop", response_class=HTMLResponse, responses={404: {}})
def stop(request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits) -> Response:
    """End it with the months that are known."""
    services.undertakings.stop((enclosure_id, "year"))
    return show_year(request, enclosure_id, services, units)


@router.get("/enclosures/{enclosure_id}/year.ics", responses={404: {}, 409: {}})
def save_calendar(enclosure_id: EnclosureId, services: TheServices, units: TheUnits) -> Response:
    """The changes of the year as iCalendar; once the months are known."""
    design = services.shelf.open(enclosure_id).design
    months = _months(design, services.catalogue, services.undertakings.known((enclosure_id, "year"), design))
    if len(months) < len(months_of(design, services.catalogue)):
        words = "The months of this enclosure are not worked out: open its Year and wait until they are."
        return Response(words, status_code=409, media_type="text/plain")
    changes = year_changes(design, services.catalogue, months)
    name = 'attachment; filename="year.ics"'
    text = year_calendar(design.name, changes, datetime.now(UTC).astimezone().date(), units)
    return Response(text, media_type="text/calendar; charset=utf-8", headers={"content-disposition": name})


def _steps(design: Design, catalogue: Catalogue) -> Sequence[Step]:
    """Months that are alike are worked out once."""
    first_alike = {month.alike: month for month in reversed(months_of(design, catalogue))}
    firsts = sorted(first_alike.values(), key=lambda month: month.number)
    return [partial(figures_of, design, catalogue, month) for month in firsts]


def kwh_of_the_year(services: Services, enclosure_id: int, design: Design) -> float | None:
    """Energy of the twelve months, where all were worked out."""
    months = _months(design, services.catalogue, services.undertakings.known((enclosure_id, "year"), design))
    return sum(one.kwh for one in months) if len(months) == len(months_of(design, services.catalogue)) else None


def _months(design: Design, catalogue: Catalogue, undertaking: Undertaking | None) -> list[MonthFigures]:
    """The months from January on, as far as they are known."""
    known = {one.month.alike: one for one in (undertaking.results if undertaking else ())}
    found = []
    for month in months_of(design, catalogue):
        if month.alike not in known:
            break
        found.append(known[month.alike].as_of(month))
    return found


def _answer(
    request: Request, services: Services, enclosure_id: int, design: Design, undertaking: Undertaking | None,
    units: TheUnits,
) -> Response:  # fmt: skip
    months = _months(design, services.catalogue, undertaking)
    context = {
        "path": f"/enclosures/{enclosure_id}", "units": units, "work": undertaking, "what": "year",
        "before": undertaking.before if undertaking else 0,
        "fault": undertaking.trouble if undertaking else "",
        "view": year_view(design, services.catalogue, months, units) if months else None,
    }  # fmt: skip
    return services.pages.answer(request, "_year.html", context)
