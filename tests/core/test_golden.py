"""The figures of the demo designs stay where they are while the code is moved; a change of the model changes them.

When it is meant to: `python -m tools.golden`, and say in the commit by how much and why.
"""

import json

import pytest
from tools.golden import DOCUMENT, figures_of

from mitten.core.design import Design
from mitten.core.judge import SEASONAL, read_condition, solve_condition
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE

KEPT = json.loads(DOCUMENT.read_text(encoding="utf-8"))
WITHIN_K, WITHIN_SHARE = 0.01, 0.001


@pytest.mark.parametrize("design", demo_designs(), ids=lambda design: design.name)
def test_the_figures_of_a_demo_design_stay(design: Design) -> None:
    for name in SEASONAL:
        now, before = (
            figures_of(solve_condition(design, CATALOGUE, read_condition(design, name))),
            KEPT[design.name][name],
        )
        assert now.keys() == before.keys()
        for figure, value in now.items():
            within = WITHIN_K if "°C" in figure else WITHIN_SHARE * max(1.0, abs(before[figure]))
            assert value == pytest.approx(before[figure], abs=within), f"{name}: {figure}"
