"""Schemathesis over every address of the application: whatever is sent, no answer is a crash."""

from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import schemathesis
from hypothesis import HealthCheck, Phase, settings

from mitten.demo import demo_designs
from mitten.store import Shelf, open_database
from mitten.web import create_app

FOLDER = TemporaryDirectory(prefix="mitten-fuzz-")


def _app() -> object:
    shelf = Shelf(open_database(Path(FOLDER.name) / "fuzz.sqlite3"))
    shelf.add(demo_designs()[2], "Demo")
    return create_app(shelf)


schema = schemathesis.openapi.from_asgi("/openapi.json", _app())


@schema.parametrize()
@settings(max_examples=12, phases=[Phase.explicit, Phase.generate], suppress_health_check=list(HealthCheck))
def test_no_request_crashes(case: schemathesis.Case[Any]) -> None:
    answer = case.call(headers={"sec-fetch-site": "same-origin", "host": "127.0.0.1"})
    assert answer.status_code < 500
