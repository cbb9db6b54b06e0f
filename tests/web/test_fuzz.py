"""Schemathesis over every address of the application: whatever is sent, no answer is a crash."""

from collections.abc import Iterator
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import pytest
import schemathesis
from fastapi import FastAPI
from hypothesis import HealthCheck, Phase, settings

from mitten.demo import demo_designs
from mitten.store import Shelf, open_database
from mitten.web import create_app
from tests.serving import TEST_HOSTS
from tests.sweeping import sweep

FOLDER = TemporaryDirectory(prefix="mitten-fuzz-")


def _app() -> FastAPI:
    shelf = Shelf(open_database(Path(FOLDER.name) / "fuzz.sqlite3"))
    shelf.add(demo_designs()[2], "Demo")
    return create_app(shelf, hosts=TEST_HOSTS)


APP = _app()
schema = schemathesis.openapi.from_asgi("/openapi.json", APP)


@pytest.fixture(scope="module", autouse=True)
def _searches_end() -> Iterator[None]:
    """Searches that were begun are over before the process is."""
    yield
    APP.state.services.searches.close()


def settled(examples: int) -> settings:
    """So many requests to each address, and none for a fault to be made smaller."""
    return settings(
        max_examples=examples, phases=[Phase.explicit, Phase.generate], suppress_health_check=list(HealthCheck)
    )


@pytest.mark.slow
@schema.parametrize()
@settled(3)
def test_no_request_crashes(case: schemathesis.Case[Any]) -> None:
    check(case)


@sweep
@pytest.mark.slow
@schema.parametrize()
@settled(15)
def test_none_of_many_requests_crashes(case: schemathesis.Case[Any]) -> None:
    check(case)


def check(case: schemathesis.Case[Any]) -> None:
    answer = case.call(headers={"sec-fetch-site": "same-origin", "host": "127.0.0.1"})
    assert answer.status_code < 500
