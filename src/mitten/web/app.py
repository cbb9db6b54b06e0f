"""The application: routes, static files, trust."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import HTMLResponse, Response
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware

from mitten.core.design import BadDesignError
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.store import Shelf, StoreError, UnknownEnclosureError
from mitten.web.assessments import Assessments
from mitten.web.pages import STATIC
from mitten.web.routes import bench, edits, history, library, plans, shelf, shopping, start, variants
from mitten.web.routes.common import UNITS_COOKIE, Desk, units_of
from mitten.web.searches import Searches
from mitten.web.trust import HOST_NAMES, TrustMiddleware

LEAST_GZIPPED_BYTES = 1500
LONGEST_SAID = 60


def create_app(
    keepers_shelf: Shelf, assessments: Assessments | None = None, searches: Searches | None = None,
    hosts: frozenset[str] = HOST_NAMES,
) -> FastAPI:  # fmt: skip
    """The web application over one shelf; it may begin with what was worked out already, and with searches that work
    in processes of their own. ``hosts`` are the names that it answers to.
    """
    app = FastAPI(title="Mitten", docs_url=None, redoc_url=None, lifespan=_until_the_end)
    app.state.desk = Desk(keepers_shelf, assessments=assessments or Assessments(), searches=searches or Searches())
    app.state.desk.use_library()
    app.mount("/static", StaticFiles(directory=STATIC), name="static")
    for routes in (shelf, start, bench, edits, history, variants, plans, shopping, library):
        app.include_router(routes.router)
    app.add_exception_handler(UnknownEnclosureError, _not_found)
    app.add_exception_handler(404, _not_found)
    app.add_exception_handler(405, _not_so)
    app.add_exception_handler(RequestValidationError, _not_understood)
    app.add_exception_handler(UnsolvedError, _unsolved)
    app.add_exception_handler(BadDesignError, _unreadable)
    app.add_exception_handler(StoreError, _not_stored)
    app.add_exception_handler(Exception, _unforeseen)
    # Level 1: on one machine, higher levels cost more time than they save.
    app.add_middleware(GZipMiddleware, minimum_size=LEAST_GZIPPED_BYTES, compresslevel=1)
    app.add_middleware(TrustMiddleware, hosts=hosts)
    return app


@asynccontextmanager
async def _until_the_end(app: FastAPI) -> AsyncIterator[None]:
    yield
    app.state.desk.searches.close()


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


async def _unforeseen(request: Request, error: Exception) -> Response:
    return _trouble(request, 500, "Something went wrong that nobody foresaw. Nothing was stored.")


async def _unsolved(request: Request, error: Exception) -> Response:
    return _trouble(request, 500, f"{error} No figures are shown; the design is kept as it is.")


def _trouble(request: Request, status: int, sentence: str) -> HTMLResponse:
    desk: Desk = request.app.state.desk
    units = units_of(request.cookies.get(UNITS_COOKIE, ""))
    return desk.pages.answer(request, "trouble.html", {"sentence": sentence, "units": units}, status)
