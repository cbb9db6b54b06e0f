"""The insides of Control and Day: probes tried, a day of a season or after a failure, a moment drawn."""

from functools import partial
from typing import Annotated, Any
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Form, Query, Request
from fastapi.responses import HTMLResponse, JSONResponse, Response

from mitten.core.design import BadDesignError, Fault, MittenError
from mitten.core.design.amounts import celsius
from mitten.core.design.units import TEMPERATURE, BadQuantityError, Units
from mitten.core.judge.days import SEASONS
from mitten.core.judge.settling import changes_to_settle
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.traced import Course
from mitten.core.plan.front import front
from mitten.draw import heat_sheet
from mitten.reports import course_csv
from mitten.web.days import Room
from mitten.web.pages import segment
from mitten.web.routes.common import EnclosureId, Services, TheAt, TheServices, TheUnits
from mitten.web.undertakings import Undertaking
from mitten.web.views.control import places_view
from mitten.web.views.day import animal_view, chart_data, clock_words, day_view, front_view, settling_words

router = APIRouter()
PAGE = "/enclosures/{enclosure_id}"
FEWEST_HOURS, MOST_HOURS = 2, 24
ROOM_LIMITS_C = (-10.0, 50.0)

Season = Annotated[str, Query(max_length=12)]
FailureText = Annotated[str, Query(max_length=120)]
RoomText = Annotated[str, Query(max_length=300)]
Minute = Annotated[float, Query(allow_inf_nan=False)]


def read_room(text: str, units: Units) -> Room:
    """A room of one's own, ``18, 20, 24, 20``: temperatures at even times of a day, from midnight.

    Raises:
        BadDesignError: they are too few, too many, or no temperatures.
    """
    # Where semicolons stand between them, a comma is a decimal one.
    words = [word.strip() for word in text.split(";" if ";" in text else ",") if word.strip()]
    if len(words) > MOST_HOURS:
        raise _refusal(f"Give {FEWEST_HOURS} to {MOST_HOURS} temperatures from midnight on; these are {len(words)}.")
    found = tuple(_room_c(word, units) for word in words)
    if found and len(found) < FEWEST_HOURS:
        raise _refusal(f"Give {FEWEST_HOURS} to {MOST_HOURS} temperatures from midnight on; this is one.")
    return found


def _room_c(word: str, units: Units) -> float:
    try:
        room_c = units.read(TEMPERATURE, word)
    except BadQuantityError as error:
        raise _refusal(str(error)) from error
    if not ROOM_LIMITS_C[0] <= room_c <= ROOM_LIMITS_C[1]:
        raise _refusal(f"A room of {celsius(room_c)} is outside {celsius(ROOM_LIMITS_C)}.")
    return round(room_c, 2)


def _refusal(sentence: str) -> BadDesignError:
    return BadDesignError([Fault("room", sentence)])


def _course(services: Services, enclosure_id: int, season: str, failure: str, room: Room) -> Course:
    design = services.shelf.open(enclosure_id).design
    if failure:
        return services.days.failing(design, season, failure).course
    return services.days.of(design, season, room)


def course_asked(
    enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter",
    failure: FailureText = "", room: RoomText = "",
) -> Course | None:  # fmt: skip
    """The course that an address names; None where it cannot be gone through, which the page itself says."""
    try:
        return _course(services, enclosure_id, season, failure, read_room(room, units))
    except MittenError:
        return None


TheCourse = Annotated[Course | None, Depends(course_asked)]


@router.get(PAGE + "/day", response_class=HTMLResponse, responses={404: {}, 422: {}})
def show_day(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter",
    failure: FailureText = "", room: RoomText = "",
) -> Response:  # fmt: skip
    """A day in time, or the hours after a failure: what the chart needs and what is said beside it."""
    context = {
        "path": f"/enclosures/{enclosure_id}", "season": season, "failure": failure, "room": room, "units": units,
        "fault": "",
    }  # fmt: skip
    try:
        room_c = read_room(room, units)
    except BadDesignError as error:
        return _refuse_room(request, services, context, error)
    try:
        course = _course(services, enclosure_id, season, failure, room_c)
    except (BadDesignError, UnsolvedError) as error:
        said = error.faults[0].sentence if isinstance(error, BadDesignError) else str(error)
        return services.pages.answer(request, "_day.html", {**context, "fault": said}, 422)
    view = day_view(course, units)
    begins = clock_words(float(course.minutes[0]))
    animal = animal_view(course, units) if course.design.basking_site and not failure else None
    return services.pages.answer(request, "_day.html", {**context, "view": view, "begins": begins, "animal": animal})


def _refuse_room(request: Request, services: Services, context: dict[str, Any], error: BadDesignError) -> Response:
    """What is wrong with a room, for the place below its field; the day that is drawn stays."""
    refused = {**context, "fault": error.faults[0].sentence, "view": None, "work": None}
    answer = services.pages.answer(request, "_front.html", refused, 422)
    answer.headers.update({"hx-retarget": "#front", "hx-reswap": "outerHTML"})
    return answer


@router.post(PAGE + "/front/begin", response_class=HTMLResponse, responses={404: {}, 422: {}})
def begin_front(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter",
    typed: Annotated[str, Form(alias="room", max_length=300)] = "", room: RoomText = "",
) -> Response:  # fmt: skip
    """Begin to look for the one change for tonight, before a day of another room; or go on where it was stopped."""
    return _front(request, enclosure_id, services, units, season, typed or room, begins=True)


@router.get(PAGE + "/front", response_class=HTMLResponse, responses={404: {}, 422: {}})
def show_front(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter",
    room: RoomText = "",
) -> Response:  # fmt: skip
    """What was found for that day, if it is found by now."""
    return _front(request, enclosure_id, services, units, season, room)


@router.post(PAGE + "/front/stop", response_class=HTMLResponse, responses={404: {}, 422: {}})
def stop_front(
    request: Request, enclosure_id: EnclosureId, services: TheServices, units: TheUnits, season: Season = "winter",
    room: RoomText = "",
) -> Response:  # fmt: skip
    """Let it be."""
    services.undertakings.stop((enclosure_id, "front"))
    return _front(request, enclosure_id, services, units, season, room)


def _front(
    request: Request, enclosure_id: int, services: Services, units: Units, season: str, room: str, *,
    begins: bool = False,
) -> Response:  # fmt: skip
    design, path, key = services.shelf.open(enclosure_id).design, f"/enclosures/{enclosure_id}", (enclosure_id, "front")
    try:
        tomorrow_c = read_room(room, units)
        if not tomorrow_c or season not in SEASONS:
            raise _refusal("Type tomorrow's room first: temperatures at even times from midnight, such as 12, 10, 15.")
    except BadDesignError as error:
        return _refuse_room(request, services, {"path": path, "room": room}, error)
    subject, step = (design, season, tomorrow_c), partial(front, design, services.catalogue, season, tomorrow_c)
    if begins:
        work: Undertaking | None = services.undertakings.of(key, subject, lambda: [step], goes_on=True)
    else:
        work = services.undertakings.known(key, subject)
    context = {
        "path": path, "room": room, "work": work, "before": work.before if work else 0,
        "query": "?" + urlencode({"season": season, "room": room}), "fault": work.trouble if work else "",
        "view": front_view(work.results[0], units) if work and work.results else None, "units": units,
    }  # fmt: skip
    return services.pages.answer(request, "_front.html", context)


@router.get(PAGE + "/day.json", responses={404: {}, 422: {}})
def day_data(course: TheCourse, units: TheUnits) -> Response:
    """The chart's lines."""
    return Response(status_code=422) if course is None else JSONResponse(chart_data(course, units))


@router.get(PAGE + "/day.csv", responses={404: {}, 422: {}})
def save_day(course: TheCourse) -> Response:
    """Every minute as CSV, in °C."""
    if course is None:
        return Response(status_code=422)
    name = 'attachment; filename="day.csv"'
    return Response(course_csv(course), media_type="text/csv", headers={"content-disposition": name})


@router.get(PAGE + "/day/moment", responses={404: {}, 422: {}})
def show_moment(course: TheCourse, services: TheServices, units: TheUnits, minute: Minute) -> Response:
    """Section and plan at one minute."""
    if course is None:
        return Response(status_code=422)
    try:
        climate = course.climate_at(course.row_at(minute))
        targets = services.assessments.of(course.design).targets
        drawing = heat_sheet(climate, targets, units)
    except MittenError:
        return Response(status_code=422)
    return Response(str(drawing), media_type="image/svg+xml")


@router.get(PAGE + "/warm-up", response_class=HTMLResponse, responses={404: {}, 422: {}})
def show_warm_up(
    request: Request, enclosure_id: EnclosureId, services: TheServices, season: Season = "winter",
    after: Annotated[str, Query(max_length=12)] = "cold",
) -> Response:  # fmt: skip
    """When it may be measured after it was switched on; with ``after=changes``, after each kind of change."""
    design = services.shelf.open(enclosure_id).design
    kinds = [kind for kind in changes_to_settle(design) if (kind == "cold") == (after == "cold")]
    try:
        words = [settling_words(kind, services.days.settling(design, season, kind)) for kind in kinds]
    except (BadDesignError, UnsolvedError) as error:
        return services.pages.answer(request, "_warm_up.html", {"words": [str(error)], "more": ""}, 422)
    more = f"/enclosures/{enclosure_id}/warm-up?season={season}&after=changes" if after == "cold" else ""
    return services.pages.answer(request, "_warm_up.html", {"words": words, "more": more})


@router.get(PAGE + "/control/{name:path}", response_class=HTMLResponse, responses={404: {}, 422: {}})
def show_probe_places(
    request: Request, enclosure_id: EnclosureId, name: str, services: TheServices, units: TheUnits, at: TheAt
) -> Response:
    """A thermostat's probe at every place that has a name."""
    design = services.shelf.open(enclosure_id).design
    control = next((one for one in design.controls if one.name == name), None)
    to = f"/enclosures/{enclosure_id}/part/{segment(f'controls:{name}')}{at.query(sheet='control')}"
    context = {"to": to, "units": units, "fault": ""}
    if control is None or not control.is_thermostat:
        fault = f"There is no thermostat '{name}' any more."
        return services.pages.answer(request, "_probe_places.html", {**context, "fault": fault}, 404)
    try:
        aim, trials = services.days.probes(design, control)
    except UnsolvedError as error:
        return services.pages.answer(request, "_probe_places.html", {**context, "fault": str(error)}, 422)
    view = places_view(name, aim, trials, units)
    return services.pages.answer(request, "_probe_places.html", {**context, "places": view})
