"""A whole application of one small box, and requests that Schemathesis makes up for each of its addresses."""

from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import schemathesis
from fastapi import FastAPI
from hypothesis import HealthCheck, Phase, settings
from schemathesis.specs.openapi.schemas import OpenApiSchema

from mitten.demo import demo_designs
from mitten.store import Shelf, open_database
from mitten.web import create_app
from tests.serving import TEST_HOSTS

FOLDER = TemporaryDirectory(prefix="mitten-fuzz-")


def _app() -> FastAPI:
    shelf = Shelf(open_database(Path(FOLDER.name) / "fuzz.sqlite3"))
    shelf.add(demo_designs()[2], "Demo")
    return create_app(shelf, hosts=TEST_HOSTS)


APP = _app()


def addresses(with_edges: bool) -> OpenApiSchema:
    """Every address; with edges, what lies at the edge of each parameter is asked too, some forty requests to one."""
    phases = {"phases": {"coverage": {"enabled": with_edges}}}
    return schemathesis.openapi.from_asgi("/openapi.json", APP, config=schemathesis.Config.from_dict(phases))


def requests(count: int) -> settings:
    """So many at random to each address, beside those at edges; a failing one is not made smaller."""
    return settings(
        max_examples=count, phases=[Phase.explicit, Phase.generate], suppress_health_check=list(HealthCheck)
    )


def check(case: schemathesis.Case[Any]) -> None:
    """Whatever is sent, no answer is a crash."""
    answer = case.call(headers={"sec-fetch-site": "same-origin", "host": "127.0.0.1"})
    assert answer.status_code < 500


def end_searches() -> None:
    """Searches that were begun are over before the process is."""
    APP.state.services.searches.close()
