"""Random editing of random designs: what comes out fits and can be read again, or a sentence says why not."""

import random

import pytest

from mitten.core.catalogue import read_checked_design
from mitten.core.catalogue.catalogue import placing_faults
from mitten.core.design import Design, write_design
from mitten.web.edits import EditError, PartRef, add_part, copy_part, move_part, remove_part
from tests.catalogue import CATALOGUE
from tests.random_designs import random_design

ROLES = ("basking", "warm-hide", "cool-hide", "humid-hide", "perch", "water", "plant")
STEPS = 14


def refs_of(design: Design) -> list[PartRef]:
    return [
        *(PartRef("heaters", heater.name) for heater in design.heaters),
        *(PartRef("sites", site.name) for site in design.sites),
        *(PartRef("uvb", lamp.name) for lamp in design.uvb),
        *(PartRef("controls", control.name) for control in design.controls),
    ]


def edited(design: Design, chance: random.Random) -> Design:
    """The design after one random edit."""
    catalogue, refs = CATALOGUE, refs_of(design)
    what = chance.choice(["add", "copy", "move", "move", "remove"])
    if what == "add" or not refs:
        return add_part(
            design, CATALOGUE, chance.choice([*catalogue.sources, *catalogue.uvb, *ROLES, "light", "vent"])
        )[0]
    ref = chance.choice(refs)
    if what == "copy":
        return copy_part(design, CATALOGUE, ref)[0]
    if what == "move":
        to = {"x_m": chance.uniform(-0.2, 2.0), "y_m": chance.uniform(-0.2, 1.0), "z_m": chance.uniform(0.0, 2.0)}
        return move_part(design, CATALOGUE, ref, to)  # type: ignore[arg-type]
    return remove_part(design, CATALOGUE, ref) if chance.random() < 0.3 else design


@pytest.mark.parametrize("seed", range(4000, 4016))
def test_every_random_edit_fits_or_is_refused_in_a_sentence(seed: int) -> None:
    chance, design, made = random.Random(seed), random_design(seed), 0  # noqa: S311
    for _ in range(STEPS):
        try:
            design = edited(design, chance)
        except EditError as refused:
            assert str(refused).endswith(".")  # noqa: PT017
            continue
        made += 1
        assert placing_faults(design, CATALOGUE) == []
        assert read_checked_design(write_design(design), CATALOGUE) == design
    assert made > STEPS / 2
