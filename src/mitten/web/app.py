"""The application: routes, static files, trust."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from fastapi import FastAPI
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware

from mitten.store import Shelf
from mitten.web.pages import STATIC
from mitten.web.routes import (
    bench,
    bottle,
    check,
    days,
    edits,
    history,
    library,
    plans,
    shelf,
    shopping,
    start,
    variants,
    year,
)
from mitten.web.routes.common import begin_services
from mitten.web.searches import Searches
from mitten.web.troubles import say_troubles
from mitten.web.trust import HOST_NAMES, TrustMiddleware

LEAST_GZIPPED_BYTES = 1500


def create_app(
    keepers_shelf: Shelf, searches: Searches | None = None, hosts: frozenset[str] = HOST_NAMES, notice: str = ""
) -> FastAPI:
    """The web application over one shelf; its searches may work in processes of their own. ``hosts`` are the names
    that it answers to, ``notice`` what the keeper should know of the data as long as the shelf is empty.
    """
    app = without_shelf(hosts)
    app.state.services = begin_services(keepers_shelf, searches=searches, notice=notice)
    return app


def without_shelf(hosts: frozenset[str]) -> FastAPI:
    """The application with all its addresses; it answers as soon as its state has services."""
    app = FastAPI(title="Mitten", docs_url=None, redoc_url=None, lifespan=_until_the_end)
    app.mount("/static", StaticFiles(directory=STATIC), name="static")
    for routes in (
        shelf, start, bench, check, bottle, days, year, edits, history, variants, plans, shopping, library,
    ):  # fmt: skip
        app.include_router(routes.router)
    say_troubles(app)
    # Level 1: on one machine, higher levels cost more time than they save.
    app.add_middleware(GZipMiddleware, minimum_size=LEAST_GZIPPED_BYTES, compresslevel=1)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=sorted(hosts), www_redirect=False)
    app.add_middleware(TrustMiddleware)
    return app


@asynccontextmanager
async def _until_the_end(app: FastAPI) -> AsyncIterator[None]:
    yield
    app.state.services.undertakings.forget()
    app.state.services.searches.close()
    app.state.services.undertakings.close()
