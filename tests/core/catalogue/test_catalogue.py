"""The catalogue has what keepers own, and what it says makes sense."""

import pytest

from mitten.core.catalogue import targets_of
from mitten.core.design import Animal, TargetOverrides
from tests.catalogue import CATALOGUE

DEMO_SPECIES = {"collared-lizard", "rosy-boa", "gargoyle-gecko", "kenyan-sand-boa", "hermanns-tortoise"}


def test_it_holds_the_names_that_design_files_rely_on() -> None:
    assert len(CATALOGUE.species) >= 8
    assert set(CATALOGUE.species) >= DEMO_SPECIES
    assert set(CATALOGUE.panels) >= {
        "glass",
        "acrylic",
        "foam-pvc-white",
        "foam-pvc-dark",
        "melamine",
        "plywood",
        "polypropylene",
        "hdpe",
        "xps",
    }
    assert set(CATALOGUE.meshes) == {"mesh-coarse", "mesh-standard", "mesh-fine", "mesh-dense"}
    assert set(CATALOGUE.grounds) >= {
        "paper",
        "dry-sand",
        "soil",
        "soil-sand",
        "coconut-fibre",
        "wood-shavings",
        "bark",
        "gravel",
        "tile",
    }
    assert set(CATALOGUE.site_materials) == {"slate", "sandstone", "hardwood", "cork", "resin", "tile"}
    assert set(CATALOGUE.sources) >= {"halogen-flood", "halogen-spot", "incandescent-reflector", "ceramic-emitter"}
    assert set(CATALOGUE.fixtures) >= {"dome", "wide-dome", "wire-cage", "bare-socket", "guarded-socket"}


@pytest.mark.parametrize("name", sorted(CATALOGUE.species))
def test_a_species_targets_are_ordered_and_short_of_danger(name: str) -> None:
    species = CATALOGUE.species[name]
    targets = species.targets
    for low, high in (value for key, value in targets if isinstance(value, tuple)):
        assert low < high
    assert targets.cool_air_c[0] < targets.warm_air_c[0] < targets.basking_surface_c[0]
    assert targets.basking_surface_c[1] < targets.danger_contact_c
    assert targets.cool_air_c[1] < targets.danger_air_c
    assert targets.basking_operative_c[1] < targets.danger_body_c
    assert "verify" in species.origin
    assert species.length_m.hatchling < species.length_m.juvenile < species.length_m.adult


@pytest.mark.parametrize("name", sorted(CATALOGUE.grounds))
def test_wetter_ground_conducts_and_stores_no_less(name: str) -> None:
    ground = CATALOGUE.grounds[name]
    assert ground.conductivity_w_mk("dry") <= ground.conductivity_w_mk("damp") <= ground.conductivity_w_mk("wet")
    assert ground.heat_capacity_dry_mj_m3k <= ground.heat_capacity_wet_mj_m3k


@pytest.mark.parametrize("name", sorted(CATALOGUE.sources))
def test_a_lamp_says_what_it_is_sold_in(name: str) -> None:
    lamp = CATALOGUE.sources[name]
    assert list(lamp.watts_sold) == sorted(lamp.watts_sold)
    if lamp.family == "lamp":
        assert (lamp.emitter_k is None) != (lamp.radiating_area_m2 is None)
    assert lamp.places
    assert (lamp.usual_size_m is not None) == lamp.has_area


def test_the_keepers_own_targets_take_the_place_of_the_species() -> None:
    animal = Animal(species="rosy-boa", targets=TargetOverrides(night_c=(15.0, 22.0)))
    targets = targets_of(animal, CATALOGUE.species["rosy-boa"])
    assert targets.night_c == (15.0, 22.0)
    assert targets.cool_air_c == CATALOGUE.species["rosy-boa"].targets.cool_air_c


def test_names_keep_their_capitals_within_a_sentence_only_where_they_are_proper() -> None:
    species = CATALOGUE.species
    assert species["rosy-boa"].in_a_sentence == "rosy boa"
    assert species["kenyan-sand-boa"].in_a_sentence == "Kenyan sand boa"
    assert species["hermanns-tortoise"].in_a_sentence == "Hermann's tortoise"
