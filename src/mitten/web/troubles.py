"""Whatever cannot be answered, as a page in the application's own look with a sentence and a way on."""

import logging
from collections.abc import Awaitable, Callable
from secrets import token_hex

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import HTMLResponse, Response

from mitten.core.design import BadDesignError, MittenError
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.store import StoreError, UnknownEnclosureError
from mitten.web.routes.common import UNITS_COOKIE, Services, units_of

LONGEST_SAID = 60
NUMBER_BYTES = 3

_LOG = logging.getLogger(__name__)
Handler = Callable[[Request, Exception], Awaitable[Response]]


def say_troubles(app: FastAPI) -> None:
    """Answer every kind of error with a page."""
    handlers: dict[int | type[Exception], Handler] = {
        404: _not_found,
        405: _not_so,
        RequestValidationError: _not_understood,
        UnknownEnclosureError: _not_found,
        UnsolvedError: _unsolved,
        BadDesignError: _unreadable,
        StoreError: _not_stored,
        MittenError: _refused,
        Exception: _unforeseen,
    }
    for kind, handler in handlers.items():
        app.add_exception_handler(kind, handler)


async def _not_found(request: Request, error: Exception) -> Response:
    sentence = str(error) if isinstance(error, UnknownEnclosureError) else "There is no such page."
    return _trouble(request, 404, sentence)


async def _not_so(request: Request, error: Exception) -> Response:
    return _trouble(request, 405, "This address does not work like that: open it from the page that has its button.")


async def _not_understood(request: Request, error: Exception) -> Response:
    """An address or a form that no page of ours makes; not 422, which a page would take for a part of itself."""
    at = request.scope["path"]
    known = at if len(at) <= LONGEST_SAID else f"{at[:LONGEST_SAID]}…"
    return _trouble(request, 400, f"What was asked of '{known}' was not understood, and nothing was stored.")


async def _unreadable(request: Request, error: Exception) -> Response:
    return _trouble(request, 500, f"This design cannot be read, and is kept as it is: {error}")


async def _not_stored(request: Request, error: Exception) -> Response:
    return _trouble(request, 503, str(error))


async def _refused(request: Request, error: Exception) -> Response:
    """One of the project's own errors that no route has answered in a better place."""
    _LOG.error("%s %s: %s", request.method, request.url.path, error, exc_info=error)
    return _trouble(request, 500, f"{error} Nothing was stored.")


async def _unforeseen(request: Request, error: Exception) -> Response:
    """An error of the application itself: the page and the log say the same number."""
    number = token_hex(NUMBER_BYTES)
    _LOG.error("unforeseen error %s: %s %s", number, request.method, request.url.path, exc_info=error)
    sentence = "Something went wrong that nobody foresaw. Nothing was stored."
    return _trouble(request, 500, f"{sentence} In the log it has the number {number}.")


async def _unsolved(request: Request, error: Exception) -> Response:
    return _trouble(request, 500, f"{error} No figures are shown; the design is kept as it is.")


def _trouble(request: Request, status: int, sentence: str) -> HTMLResponse:
    services: Services = request.app.state.services
    units = units_of(request.cookies.get(UNITS_COOKIE, ""))
    return services.pages.answer(request, "trouble.html", {"sentence": sentence, "units": units}, status)
