"""The inside of Check: what comes of every failure, worked out beside the pages and shown as far as it is."""

from collections.abc import Sequence
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import HTMLResponse, Response

from mitten.core.design import Design
from mitten.core.judge.days import SEASONS
from mitten.core.judge.outlooks import everything_that_fails, outlook
from mitten.core.plan.failsafe import HELPS, cut_out, in_a_cut, survivable
from mitten.web.routes.common import EnclosureId, Services, TheServices, TheUnits
from mitten.web.undertakings import Step, Undertaking
from mitten.web.views.check import answers_view, failures_view, stuck_words

router = APIRouter()
PAGE = "/enclosures/{enclosure_id}/failures"
ANSWERS = "/enclosures/{enclosure_id}/answers"
STUCK = "/enclosures/{enclosure_id}/stuck"
Season = Annotated[str, Query(max_length=12)]


@router.post(PAGE + "/begin", response_class=HTMLResponse, responses={404: {}, 422: {}})
def begin(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter"
) -> Response:
    """Begin to work out every failure of every season, the one that is shown first; or go on where it was stopped."""
    design = services.shelf.open(enclosure_id).design
    if season not in SEASONS:
        return _refusal(request, services, season)
    undertaking = services.undertakings.of(
        (enclosure_id, "failures"), design, lambda: _steps(services, design, season), goes_on=True
    )
    return _answer(request, services, enclosure_id, undertaking, season, units)


@router.get(PAGE, response_class=HTMLResponse, responses={404: {}, 422: {}})
def show_failures(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter"
) -> Response:
    """What is known so far, the worst first."""
    design = services.shelf.open(enclosure_id).design
    if season not in SEASONS:
        return _refusal(request, services, season)
    undertaking = services.undertakings.known((enclosure_id, "failures"), design)
    return _answer(request, services, enclosure_id, undertaking, season, units)


@router.post(PAGE + "/stop", response_class=HTMLResponse, responses={404: {}, 422: {}})
def stop(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter"
) -> Response:
    """End it with what is known."""
    services.undertakings.stop((enclosure_id, "failures"))
    return show_failures(request, enclosure_id, services, units, season)


def _steps(services: Services, design: Design, first: str) -> Sequence[Step]:
    return [
        partial(outlook, design, services.catalogue, season, failure.text)
        for season, failure in everything_that_fails(design, first)
    ]


def _refusal(request: Request, services: Services, season: str) -> Response:
    context = {"season": "", "path": "", "fault": f"'{season[:12]}' is no season.", "view": None, "work": None}
    return services.pages.answer(request, "_failures.html", context, 422)


def _answer(
    request: Request, services: Services, enclosure_id: int, undertaking: Undertaking | None, season: str,
    units: TheUnits,
) -> Response:  # fmt: skip
    findings = services.assessments.of(services.shelf.open(enclosure_id).design).findings
    context = {
        "path": f"/enclosures/{enclosure_id}", "season": season, "units": units, "work": undertaking,
        "before": undertaking.before if undertaking else 0, "what": "failures",
        "fault": undertaking.trouble if undertaking else "",
        "view": failures_view(undertaking.results if undertaking else (), season, units, findings),
    }  # fmt: skip
    return services.pages.answer(request, "_failures.html", context)


@router.post(ANSWERS + "/begin", response_class=HTMLResponse, responses={404: {}})
def begin_answers(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter"
) -> Response:
    """Begin to work out what would make failures harmless, or go on where that was stopped."""
    design = services.shelf.open(enclosure_id).design
    undertaking = services.undertakings.of(
        (enclosure_id, "answers"), design, lambda: _questions(services, design), goes_on=True
    )
    return _answer_questions(request, services, enclosure_id, undertaking, season, units)


@router.get(ANSWERS, response_class=HTMLResponse, responses={404: {}})
def show_answers(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter"
) -> Response:
    """What is known of it so far."""
    design = services.shelf.open(enclosure_id).design
    undertaking = services.undertakings.known((enclosure_id, "answers"), design)
    return _answer_questions(request, services, enclosure_id, undertaking, season, units)


@router.post(ANSWERS + "/stop", response_class=HTMLResponse, responses={404: {}})
def stop_answers(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter"
) -> Response:
    """End it with what is known."""
    services.undertakings.stop((enclosure_id, "answers"))
    return show_answers(request, enclosure_id, services, units, season)


def _questions(services: Services, design: Design) -> Sequence[Step]:
    """Of each thermostat the wattage that may stick and its cut-out, then what helps in a cut."""
    thermostats = [control.name for control in design.controls if control.is_thermostat]
    of_thermostats = [
        partial(ask, design, services.catalogue, name) for name in thermostats for ask in (survivable, cut_out)
    ]
    return [*of_thermostats, *(partial(in_a_cut, design, services.catalogue, key) for key in HELPS)]


def _answer_questions(
    request: Request, services: Services, enclosure_id: int, undertaking: Undertaking | None, season: str,
    units: TheUnits,
) -> Response:  # fmt: skip
    design = services.shelf.open(enclosure_id).design
    context = {
        "path": f"/enclosures/{enclosure_id}", "units": units, "work": undertaking, "what": "answers",
        "season": season if season in SEASONS else "winter",
        "before": undertaking.before if undertaking else 0,
        "fault": undertaking.trouble if undertaking else "",
        "view": answers_view(design, services.catalogue, undertaking.results if undertaking else (), units),
    }  # fmt: skip
    return services.pages.answer(request, "_answers.html", context)


@router.post(STUCK + "/begin", response_class=HTMLResponse, responses={404: {}})
def begin_stuck(request: Request, enclosure_id: EnclosureId, services: TheServices) -> Response:
    """Begin to go through a summer day in which every thermostat sticks on."""
    design = services.shelf.open(enclosure_id).design
    if services.stuck_on(design) is None:
        step = partial(outlook, design, services.catalogue, "summer", "stuck-on")
        services.undertakings.of((enclosure_id, "stuck"), design, lambda: [step], goes_on=True)
    return show_stuck(request, enclosure_id, services)


@router.get(STUCK, response_class=HTMLResponse, responses={404: {}})
def show_stuck(request: Request, enclosure_id: EnclosureId, services: TheServices) -> Response:
    """How soon that is dangerous, where this or Check has gone through it."""
    design = services.shelf.open(enclosure_id).design
    work = services.undertakings.known((enclosure_id, "stuck"), design)
    found = services.stuck_on(design)
    context = {
        "path": f"/enclosures/{enclosure_id}", "work": work, "words": stuck_words(found) if found else "",
        "fault": work.trouble if work else "",
    }  # fmt: skip
    return services.pages.answer(request, "_stuck.html", context)
