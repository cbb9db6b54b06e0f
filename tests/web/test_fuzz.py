"""Some requests at random to every address: whatever is sent, no answer is a crash."""

from collections.abc import Iterator
from typing import Any

import pytest
import schemathesis

from tests.web.fuzzing import addresses, check, end_searches, requests

schema = addresses(with_edges=False)


@pytest.fixture(scope="module", autouse=True)
def _searches_end() -> Iterator[None]:
    yield
    end_searches()


@pytest.mark.slow
@schema.parametrize()
@requests(3)
def test_no_request_crashes(case: schemathesis.Case[Any]) -> None:
    check(case)
