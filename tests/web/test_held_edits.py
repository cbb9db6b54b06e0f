"""Forms show, take and refuse what they did, in the same words."""

import pytest

from mitten.core.design.units import Units
from mitten.demo import demo_designs
from tests.held import changed
from tests.web.held_edits import HELD, held_of

DESIGNS = {design.name: design for design in demo_designs()}


@pytest.mark.parametrize(("name", "units"), HELD, ids=lambda one: str(getattr(one, "system", one)))
def test_forms_do_what_they_did(name: str, units: Units) -> None:
    kept = f"forms-{name.lower().replace(' ', '-')}-{units.system}"
    assert changed(kept, held_of(DESIGNS[name], units)) == []
