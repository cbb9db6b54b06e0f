"""Where new sites go at first: beside one another, whichever end is warm and whatever the animal."""

import json
from itertools import pairwise

import pytest

from mitten.core.catalogue import load_presets, read_checked_design
from mitten.core.design import Design
from mitten.core.judge import assess
from mitten.core.plan.usual import _whole_cm, new_site
from mitten.core.plan.usual_box import construction
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE

BOXES = ("tank-90", "plywood-120", "foam-pvc-120", "tub-80")
SPECIES = ("collared-lizard", "rosy-boa", "gargoyle-gecko", "kenyan-sand-boa", "hermanns-tortoise")
ROLES = ("basking", "warm-hide", "cool-hide")


def empty(species: str, box: str) -> Design:
    data = demo_designs()[0].model_dump(mode="json", exclude_none=True)
    data["animal"] = {"species": species, "stage": "adult"}
    data["enclosure"] = load_presets().boxes[box].enclosure.model_dump(mode="json", exclude_none=True)
    data |= {"sites": [], "heaters": [], "controls": [], "lights": [], "uvb": []}
    return read_checked_design(json.dumps(data), CATALOGUE)


def with_new(design: Design, role: str) -> Design:
    data = design.model_dump(mode="json", exclude_none=True)
    data["sites"] = [*data.get("sites", []), {"name": role, **new_site(design, CATALOGUE, role)}]
    return read_checked_design(json.dumps(data), CATALOGUE)


@pytest.mark.parametrize("box", BOXES)
@pytest.mark.parametrize("species", SPECIES)
def test_a_basking_place_and_two_hides_that_are_added_lie_side_by_side(species: str, box: str) -> None:
    design = empty(species, box)
    for role in ROLES:
        design = with_new(design, role)
    along = sorted((site.x_m - site.length_m / 2, site.x_m + site.length_m / 2) for site in design.sites)
    assert all(one[1] <= other[0] + 0.01 for one, other in pairwise(along))
    assert along[0][0] >= 0.0
    assert along[-1][1] <= design.enclosure.length_m


def test_in_a_box_that_is_warm_on_the_left_they_go_the_other_way_round() -> None:
    design = empty("rosy-boa", "plywood-120")
    left = {**new_site(design, CATALOGUE, "basking"), "name": "basking", "x_m": 0.26}
    data = design.model_dump(mode="json", exclude_none=True) | {"sites": [left]}
    turned = read_checked_design(json.dumps(data), CATALOGUE)
    warm, cool = new_site(turned, CATALOGUE, "warm-hide"), new_site(turned, CATALOGUE, "cool-hide")
    assert 0.26 + left["length_m"] / 2 < warm["x_m"] - warm["length_m"] / 2
    assert warm["x_m"] + warm["length_m"] / 2 < cool["x_m"] - cool["length_m"] / 2


def test_what_is_added_in_turn_hides_nothing_from_the_lamp() -> None:
    design = empty("collared-lizard", "plywood-120")
    for role in ROLES:
        design = with_new(design, role)
    assert not [one for one in assess(design, CATALOGUE).findings if one.severity == "stop"]


@pytest.mark.parametrize(
    ("middle_m", "whole_m"), [(0.613, 0.61), (0.146, 0.15), (1.054, 1.05), (1.196, 1.05), (0.02, 0.15)]
)
def test_a_new_part_lies_at_a_whole_centimetre_within_the_walls(middle_m: float, whole_m: float) -> None:
    assert _whole_cm(middle_m, 0.3, 1.2) == pytest.approx(whole_m)


@pytest.mark.parametrize(
    ("species", "box"),
    [
        ("collared-lizard", "foam-pvc-120"), ("rosy-boa", "tank-120"), ("gargoyle-gecko", "tall-glass-60"),
        ("hermanns-tortoise", "tortoise-table-150"), ("panther-chameleon", "mesh-cage-60"),
        ("eastern-fence-lizard", "tank-120"), ("green-iguana", "foam-pvc-120"), ("emerald-tree-skink", "tall-glass-60"),
    ],
)  # fmt: skip
def test_a_usual_box_is_made_as_its_animals_are_commonly_kept(species: str, box: str) -> None:
    """Small glass, tall glass for what lives in trees, boards where it is long, mesh and tables where they are usual."""
    assert construction(CATALOGUE.species[species]) == box
