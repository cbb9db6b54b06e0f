"""What the core says of many designs stays, value by value."""

import pytest

from tests.core.held_figures import HELD
from tests.held import changed


@pytest.mark.parametrize("name", HELD)
def test_what_the_core_says_stays(name: str) -> None:
    assert changed(name, list(HELD[name]())) == []
