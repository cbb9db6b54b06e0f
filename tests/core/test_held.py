"""What the core says of many designs stays, value by value."""

import pytest

from tests.core.held_figures import HELD
from tests.core.held_in_time import HELD_IN_TIME
from tests.core.held_parts import HELD_PARTS
from tests.held import changed

ALL = HELD | HELD_IN_TIME | HELD_PARTS


@pytest.mark.parametrize("name", ALL)
def test_what_the_core_says_stays(name: str) -> None:
    assert changed(name, list(ALL[name]())) == []
