"""A keeper's own copies of everything that ships, under names of their own: every answer is what it is of the shipped."""

from dataclasses import replace
from typing import Any

import pytest

from mitten.core.catalogue import read_data
from mitten.core.catalogue.catalogue import TABLES
from mitten.core.design import Design
from mitten.core.design.amounts import plain
from mitten.core.judge import assess
from mitten.core.plan.alternatives import over_materials
from mitten.core.plan.fixes import Mending
from mitten.core.plan.hides import hide_fixes
from mitten.core.plan.shopping import shopping_list
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import mat_data
from tests.sweeping import sliced

OWN = replace(
    CATALOGUE,
    **{
        name: {**CATALOGUE.table(name), **{f"own-{key}": entry for key, entry in CATALOGUE.table(name).items()}}
        for name in TABLES
    },  # type: ignore[arg-type]
)
NAMES = {"species": ("species",), "lamp": ("uvb",), "mesh": ("meshes",), "kind": ("sources", "fixtures"),
         "material": ("panels", "grounds", "site_materials")}  # fmt: skip
"""Keys of the design file that hold a name of the catalogue, and its tables."""


def with_own(data: Any, key: str = "") -> Any:
    """The data of a design with every name of the catalogue replaced by that of the keeper's copy."""
    if isinstance(data, dict):
        return {name: with_own(value, name) for name, value in data.items()}
    if isinstance(data, list):
        return [with_own(value, key) for value in data]
    is_name = isinstance(data, str) and any(data in CATALOGUE.table(table) for table in NAMES.get(key, ()))
    return f"own-{data}" if is_name else data


@pytest.mark.slow
@pytest.mark.parametrize("design", sliced(demo_designs(), 2), ids=lambda design: design.name)
def test_own_copies_do_what_the_shipped_entries_do(design: Design) -> None:
    copied = read_data(with_own(design.model_dump(mode="json", exclude_none=True)), OWN)
    assert copied.animal.species.startswith("own-")
    shipped, own = assess(design, CATALOGUE), assess(copied, OWN)
    assert [(one.label, one.value, one.status) for one in own.verdicts] == [
        (one.label, one.value, one.status) for one in shipped.verdicts
    ]
    assert [(one.rule, one.severity, one.number) for one in own.findings] == [
        (one.rule, one.severity, one.number) for one in shipped.findings
    ]
    assert [plain(item.words) for item in shopping_list(copied, OWN)] == [
        plain(item.words) for item in shopping_list(design, CATALOGUE)
    ]
    assert list(over_materials(copied, OWN)) == list(over_materials(design, CATALOGUE))
    assert {key: len(fixes) for key, fixes in hide_fixes(own).items()} == {
        key: len(fixes) for key, fixes in hide_fixes(shipped).items()
    }


@pytest.mark.slow
@pytest.mark.parametrize("design", sliced(demo_designs()[:3], 3), ids=lambda design: design.name)
def test_what_is_too_weak_is_mended_in_the_same_ways(design: Design) -> None:
    weak = design.model_dump(mode="json", exclude_none=True)
    for heater in weak["heaters"]:
        heater["watts"] /= 2
    shipped, own = assess(read_data(weak, CATALOGUE), CATALOGUE), assess(read_data(with_own(weak), OWN), OWN)
    assert shipped.wrong
    ours, theirs = Mending(own), Mending(shipped)
    for mine, other in zip(own.wrong, shipped.wrong, strict=True):
        assert [fix.change.words for fix in ours.fixes_for(mine)] == [
            fix.change.words for fix in theirs.fixes_for(other)
        ]


def test_a_copy_of_bare_live_tape_inside_is_a_stop_too() -> None:
    data = mat_data(kind="heat-tape", place="on-floor", length_m=0.5, depth_m=0.1, x_m=0.3)
    own = assess(read_data(with_own(data), OWN), OWN)
    assert own.design.heaters[0].kind == "own-heat-tape"
    assert "tape-inside" in {stop.rule for stop in own.stops}
