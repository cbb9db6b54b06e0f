"""Errors as pages: each kind with its sentence, and what nobody foresaw with a number that the log has too."""

import logging
import re

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from mitten.core.design import MittenError
from mitten.core.physics.balance.steady import NotSettledError
from mitten.store import Shelf, StoreError
from mitten.web.app import create_app
from tests.serving import TEST_HOSTS


class OwnError(MittenError):
    """One of the project's own that no route knows."""


@pytest.fixture
def application(shelf: Shelf) -> FastAPI:
    return create_app(shelf, hosts=TEST_HOSTS)


def answer(application: FastAPI, error: Exception) -> tuple[int, str]:
    """What a page says whose route raises."""

    @application.get("/broken")
    def _broken() -> None:
        raise error

    client = TestClient(application, raise_server_exceptions=False)
    found = client.get("/broken")
    said = re.search("<h1>(.*?)</h1>", found.text)
    assert said is not None, "no page of the application's own"
    return found.status_code, said[1]


@pytest.mark.parametrize(
    ("error", "status", "says"),
    [
        (OwnError("The moon is full."), 500, "The moon is full. Nothing was stored."),
        (StoreError("The disk is full."), 503, "The disk is full."),
        (NotSettledError("It does not settle."), 500, "It does not settle. No figures are shown"),
    ],
)
def test_the_projects_own_errors_are_said_in_their_own_words(
    application: FastAPI, error: Exception, status: int, says: str
) -> None:
    code, said = answer(application, error)
    assert code == status
    assert said.startswith(says)


@pytest.mark.slow
def test_what_nobody_foresaw_has_one_number_in_the_page_and_in_the_log_with_its_trace(
    application: FastAPI, caplog: pytest.LogCaptureFixture
) -> None:
    with caplog.at_level(logging.ERROR, logger="mitten"):
        code, said = answer(application, ZeroDivisionError("by nought"))
    number = re.search(r"number ([0-9a-f]{6})\.", said)
    assert code == 500
    assert "by nought" not in said
    assert number is not None
    (record,) = [one for one in caplog.records if one.name.startswith("mitten")]
    assert number[1] in record.getMessage()
    assert "GET /broken" in record.getMessage()
    assert record.exc_info is not None
    assert record.exc_info[0] is ZeroDivisionError
