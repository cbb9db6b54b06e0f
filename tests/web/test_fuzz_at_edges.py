"""What lies at the edge of every parameter of every address, and more at random."""

from collections.abc import Iterator
from typing import Any

import pytest
import schemathesis

from tests.sweeping import sweep
from tests.web.fuzzing import addresses, check, end_searches, requests

schema = addresses(with_edges=True)


@pytest.fixture(scope="module", autouse=True)
def _searches_end() -> Iterator[None]:
    yield
    end_searches()


@sweep
@pytest.mark.slow
@schema.parametrize()
@requests(15)
def test_no_request_crashes(case: schemathesis.Case[Any]) -> None:
    check(case)
