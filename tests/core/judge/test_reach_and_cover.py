"""What the animal gets to, where it finds cover, and what is left to see to by hand."""

import pytest

from mitten.core.design import Design
from mitten.core.judge import assess
from mitten.core.judge.checklist import checklist_of
from mitten.core.judge.cover import _nearest, cover_by_temperature, has_hide
from mitten.core.judge.reach import Footing, _gets_from, footings, out_of_reach, stretch_m
from tests.catalogue import CATALOGUE
from tests.designs import LEDGE, Data, box_data, ledge_data, mat_data, read

SPECIES = CATALOGUE.species


def with_sites(species: str, *sites: Data) -> Design:
    """A box for a species with slabs."""
    return read({**box_data(), "animal": {"species": species}, "sites": list(sites)})


def slab(name: str, top_m: float, x_m: float = 0.94) -> Data:
    return {**LEDGE, "name": name, "role": "perch", "x_m": x_m, "z_m": top_m - 0.025}


def test_a_long_animal_gets_higher_than_a_short_one_and_a_climber_everywhere() -> None:
    high = slab("High", 0.44)
    names = {
        species: [footing.name for footing in footings(with_sites(species, high), SPECIES[species])]
        for species in ("rosy-boa", "hermanns-tortoise", "gargoyle-gecko", "collared-lizard")
    }
    assert names["gargoyle-gecko"] == ["the ground", "'High'"]
    assert names["rosy-boa"] == ["the ground", "'High'"]
    assert names["hermanns-tortoise"] == names["collared-lizard"] == ["the ground"]


def test_a_step_leads_up_where_it_is_near_enough() -> None:
    high, lizard = slab("High", 0.44), SPECIES["collared-lizard"]
    near, far = slab("Step", 0.22, x_m=0.62), slab("Step", 0.22, x_m=0.2)
    assert out_of_reach(with_sites("collared-lizard", high, near), lizard) == []
    assert [site.name for site in out_of_reach(with_sites("collared-lizard", high, far), lizard)] == ["High"]


def ledge(top_m: float, x_m: float = 0.9, y_m: float = 0.3) -> Footing:
    """A slab of 20 cm by 20 cm to stand on."""
    site = read(ledge_data()).sites[0].model_copy(update={"x_m": x_m, "y_m": y_m, "length_m": 0.2, "depth_m": 0.2})
    return Footing("a ledge", top_m, site)


def test_down_it_gets_from_any_height_and_up_only_a_step() -> None:
    low, high = ledge(0.1), ledge(0.5)
    assert _gets_from(high, low, step_m=0.2, gap_m=0.1)
    assert not _gets_from(low, high, step_m=0.2, gap_m=0.1)
    assert _gets_from(low, high, step_m=0.4, gap_m=0.1)
    assert _gets_from(Footing("the ground", 0.05), ledge(0.25, x_m=0.1), step_m=0.2, gap_m=0.0)


@pytest.mark.parametrize(
    ("x_m", "y_m", "gets_there"),
    [
        (0.9, 0.3, True), (0.65, 0.3, True), (0.55, 0.3, False), (0.9, 0.55, True), (0.9, 0.65, False),
        (0.65, 0.55, True), (0.61, 0.59, False), (1.15, 0.3, True), (1.25, 0.3, False),
    ],
)  # fmt: skip
def test_a_gap_is_as_wide_as_it_is_between_edges_whichever_way(x_m: float, y_m: float, gets_there: bool) -> None:
    """10 cm are crossed: 20 cm slabs whose middles are 25 cm apart leave 5."""
    assert _gets_from(ledge(0.2), ledge(0.2, x_m, y_m), step_m=0.1, gap_m=0.1) is gets_there


def test_a_footing_is_as_far_from_a_place_as_its_nearest_edge() -> None:
    here = ledge(0.2)
    assert here.distance_m(0.9, 0.3, 0.5) == pytest.approx(0.3)
    assert here.distance_m(1.3, 0.3, 0.6) == pytest.approx(0.5)
    assert here.distance_m(1.03, 0.44, 0.32) == pytest.approx(0.13)
    assert here.away_m(0.9, 0.8) == pytest.approx(0.4)
    assert Footing("the ground", 0.05).distance_m(0.1, 0.1, 0.45) == pytest.approx(0.4)


@pytest.mark.parametrize(
    ("inside", "nearest"),
    [
        ({"Hot": 45.0, "Cold": 25.0}, "Cold"), ({"Hot": 38.0, "Cold": 20.0}, "Hot"), ({"In": 32.0, "Hot": 36.0}, "In"),
    ],
)  # fmt: skip
def test_the_hide_that_comes_nearest_may_be_too_warm_or_too_cool(inside: dict[str, float], nearest: str) -> None:
    assert _nearest(inside, 30.0, 35.0) == (nearest, inside[nearest])


def test_a_hatchling_reaches_less_far_than_an_adult() -> None:
    boa = SPECIES["rosy-boa"]
    assert stretch_m(boa, "hatchling") < stretch_m(boa, "adult")


def test_cover_names_the_hide_in_each_band_or_says_how_near_one_comes() -> None:
    hide = {**LEDGE, "name": "Den", "role": "cool-hide", "x_m": 0.2, "z_m": 0.1}
    design = ledge_data()
    design["sites"].append(hide)
    assessment = assess(read(design), CATALOGUE)
    covers = {cover.band: cover for cover in cover_by_temperature(assessment.climate("winter-day"), assessment.targets)}
    assert covers["cool"].hide == "Den"
    bare = assess(read(ledge_data()), CATALOGUE)
    empty = list(cover_by_temperature(bare.climate("winter-day"), bare.targets))
    assert [cover.hide for cover in empty] == [None, None]
    assert empty[0].nearest == "there is no hide"
    assert has_hide(read(design))
    assert not has_hide(read(ledge_data()))


def test_the_checklist_asks_only_what_matters() -> None:
    lamp, mat = (
        {item.key for item in checklist_of(read(design), CATALOGUE)} for design in (box_data(), mat_data(25.0))
    )
    assert {"rcd", "smoke-alarm", "certified-gear", "leads-pinned", "tight-holes"} <= lamp & mat
    assert "grease" in lamp - mat
    assert "flat-mat" in mat - lamp
