"""Every drawing of the demo designs has each of its marks where it was."""

import json

import pytest

from mitten.core.design import Design
from mitten.demo import demo_designs
from tests.draw.marks import DRAWINGS, differ, drawings_of


@pytest.mark.parametrize("design", demo_designs(), ids=lambda design: design.name)
def test_the_drawings_of_a_demo_design_stay(design: Design) -> None:
    """When they are meant to change: `python -m tools.golden`, and look at them."""
    kept = json.loads(DRAWINGS.read_text(encoding="utf-8"))[design.name]
    for name, marks in drawings_of(design).items():
        assert len(marks) == len(kept[name]), name
        changed = [(now, before) for now, before in zip(marks, kept[name], strict=True) if differ(now, before)]
        assert changed == [], name
