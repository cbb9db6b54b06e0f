"""What the animal gets to, where it finds cover, and what is left to see to by hand."""

from mitten.core.design import Design
from mitten.core.judge import assess
from mitten.core.judge.checklist import checklist_of
from mitten.core.judge.cover import cover_by_temperature, has_hide
from mitten.core.judge.reach import footings, out_of_reach, stretch_m
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
