"""A shelf with the demo data behind the test client."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from starlette.testclient import TestClient

from mitten.demo import demo_designs
from mitten.store import Shelf, open_database
from mitten.web import create_app
from tests.serving import ASSESSMENTS, TEST_HOSTS


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
    with TestClient(create_app(shelf, ASSESSMENTS, hosts=TEST_HOSTS)) as client:
        yield client
