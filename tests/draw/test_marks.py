"""Every drawing has each of its marks where it was."""

import pytest

from mitten.core.design import Design
from mitten.core.design.units import METRIC, US, Units
from mitten.demo import demo_designs
from tests.draw.marks import bars_of, drawings_of, others
from tests.held import changed

DESIGNS = demo_designs()
SHOWN = [*((design, "winter-day", METRIC) for design in DESIGNS), (DESIGNS[0], "summer-night", US),
         (DESIGNS[2], "summer-day", US), (DESIGNS[5], "winter-night", METRIC)]  # fmt: skip


@pytest.mark.parametrize(("design", "condition", "units"), SHOWN, ids=lambda one: str(getattr(one, "name", one)))
def test_the_drawings_of_a_demo_design_stay(design: Design, condition: str, units: Units) -> None:
    """When they are meant to change: `python -m tools.golden`, and look at them."""
    kept = f"drawings-{design.name.lower().replace(' ', '-')}-{condition}-{units.system}"
    assert changed(kept, drawings_of(design, condition, units)) == []


@pytest.mark.parametrize("design", DESIGNS, ids=lambda design: design.name)
def test_the_bars_of_its_verdicts_stay(design: Design) -> None:
    assert changed(f"bars-{design.name.lower().replace(' ', '-')}", bars_of(design)) == []


def test_drawings_of_given_figures_stay() -> None:
    assert changed("drawings-of-figures", others()) == []
