"""What every animal wants, what it bears, and what is dangerous: in that order, for every species, stage and target."""

import pytest
from pydantic import ValidationError

from mitten.core.catalogue import Targets, targets_of
from mitten.core.catalogue.animals import RANGES
from mitten.core.design import Animal, Stage, TargetOverrides
from tests.catalogue import CATALOGUE

SPECIES = CATALOGUE.species
STAGES: tuple[Stage, ...] = ("hatchling", "juvenile", "adult")


@pytest.mark.parametrize("key", sorted(SPECIES))
def test_danger_is_above_what_is_borne_and_that_is_wider_than_what_is_wanted(key: str) -> None:
    for stage in STAGES:
        targets = SPECIES[key].targets_at(stage)
        for target in RANGES:
            wants, bears = targets.wants(target), targets.bears(target)
            assert bears[0] <= wants[0] < wants[1] <= bears[1], (stage, target)
            assert bears != wants, (stage, target)
            assert bears[1] < targets.danger_of(target), (stage, target)


@pytest.mark.parametrize("key", sorted(SPECIES))
def test_the_ranges_of_a_species_do_not_contradict_one_another(key: str) -> None:
    """A body on a warm surface is about as warm as that: both can be right at once, and short of harm."""
    for stage in STAGES:
        targets = SPECIES[key].targets_at(stage)
        low = max(targets.basking_surface_c[0], targets.basking_operative_c[0])
        high = min(targets.basking_surface_c[1], targets.danger_body_c - 1.0)
        assert high - low >= 2.0, stage
        assert targets.cool_air_c[0] <= targets.warm_air_c[0] <= targets.basking_air_c[1], stage
        assert targets.night_c[0] <= targets.cool_air_c[0], stage
        assert targets.cool_air_c[1] - targets.cool_air_c[0] >= 4.0, "a slope has a cool end of some width"


def test_every_shipped_species_says_what_it_bears_of_everything() -> None:
    for key, species in SPECIES.items():
        assert all(getattr(species.targets.bearable, target) is not None for target in RANGES), key


def test_the_young_bear_as_much_beside_what_they_want_as_the_grown() -> None:
    grown, young = (SPECIES["rosy-boa"].targets_at(stage) for stage in ("adult", "hatchling"))
    assert young.night_c[0] > grown.night_c[0]
    assert young.night_c[0] - young.bears("night_c")[0] == grown.night_c[0] - grown.bears("night_c")[0]


def test_an_entry_without_them_bears_a_little_more_than_it_wants() -> None:
    content = SPECIES["rosy-boa"].targets.model_dump(mode="json") | {"bearable": {}}
    old = Targets.model_validate(content)
    for target in RANGES:
        wants, bears = old.wants(target), old.bears(target)
        assert bears[0] <= wants[0] <= wants[1] <= bears[1]
        assert bears[1] < old.danger_of(target)


@pytest.mark.parametrize(
    ("bearable", "words"),
    [
        ({"cool_air_c": [22, 25]}, "does not hold all that is wanted"),
        ({"cool_air_c": [18, 60]}, "is not below what is dangerous"),
        ({"cool_air_c": [30, 18]}, "is above the high end"),
    ],
)
def test_ranges_in_the_wrong_order_are_refused(bearable: dict[str, list[float]], words: str) -> None:
    content = SPECIES["rosy-boa"].targets.model_dump(mode="json")
    content["bearable"] = bearable
    with pytest.raises(ValidationError, match=words):
        Targets.model_validate(content)


def test_the_keepers_own_ranges_stand_in_place_and_what_is_borne_always_holds_what_is_wanted() -> None:
    def own(**targets: object) -> Targets:
        overrides = TargetOverrides.model_validate(targets)
        return targets_of(Animal(species="rosy-boa", targets=overrides), SPECIES["rosy-boa"])

    assert own(bearable={"cool_air_c": (15.0, 33.0)}).bears("cool_air_c") == (15.0, 33.0)
    assert own(cool_air_c=(12.0, 26.0)).bears("cool_air_c")[0] == 12.0
    assert own(danger_air_c=29.0).bears("cool_air_c")[1] == 29.0
    with pytest.raises(ValidationError, match="does not hold all that is wanted"):
        own(cool_air_c=(20.0, 26.0), bearable={"cool_air_c": (21.0, 30.0)})


def test_bearable_may_stand_beside_the_targets_in_a_file() -> None:
    animal = Animal.model_validate({"species": "rosy-boa", "bearable": {"night_c": [10, 30]}})
    assert animal.targets.bearable.night_c == (10.0, 30.0)


def test_what_wants_dry_air_is_judged_by_day() -> None:
    assert SPECIES["collared-lizard"].targets.is_arid
    assert not SPECIES["gargoyle-gecko"].targets.is_arid
