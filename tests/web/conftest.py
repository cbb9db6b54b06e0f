"""A shelf with the demo data behind the test client."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from starlette.testclient import TestClient

from mitten.demo import demo_designs
from mitten.store import Shelf, open_database
from tests.serving import app_over


@pytest.fixture
def shelf(tmp_path: Path) -> Iterator[Shelf]:
    database = open_database(tmp_path / "mitten.sqlite3")
    keepers = Shelf(database)
    for design in demo_designs():
        keepers.add(design, "Demo")
    yield keepers
    database.close()


@pytest.fixture
def client(shelf: Shelf) -> Iterator[TestClient]:
    with TestClient(app_over(shelf)) as client:
        yield client


def pytest_ignore_collect(collection_path: Path, config: pytest.Config) -> bool | None:
    """Requests at edges take seconds to be gathered alone: only a sweep does so."""
    is_swept = "not sweep" not in config.option.markexpr
    return None if is_swept or collection_path.name != "test_fuzz_at_edges.py" else True
