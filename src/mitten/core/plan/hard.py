"""What makes a home hard before anything is looked for: said beside the choice that makes it so."""

from collections.abc import Iterator

from mitten.core.catalogue import Catalogue, Species, Targets, targets_of
from mitten.core.design import Design, Enclosure
from mitten.core.design.amounts import celsius
from mitten.core.judge.rules.home import short_sides

LEAKY_M2 = 0.10
"""Free openings beyond which warm air does not stay in a box, however it is heated."""

LEAKY_WARMS_K = 4.0
"""What sources commonly add to the air of such a box; a starting point to verify."""


def hard_box(design: Design, catalogue: Catalogue) -> list[str]:
    """What speaks against the box for this animal at its age."""
    species, stage = catalogue.species[design.animal.species], design.animal.stage
    short = short_sides(species, stage, design.enclosure)
    return [f"Too small for {species.at_stage(stage)}: {', '.join(short)}."] if short else []


def hard_room(design: Design, catalogue: Catalogue) -> list[str]:
    """What speaks against the room."""
    species = catalogue.species[design.animal.species]
    targets = targets_of(design.animal, species)
    return [*_too_warm(design, species, targets), *_too_cold(design, species, targets)]


def _too_warm(design: Design, species: Species, targets: Targets) -> Iterator[str]:
    summer = design.room.summer
    for room_c, key, when in ((summer.day_c, "cool_air_c", "day"), (summer.night_c, "night_c", "night")):
        most_c = targets.bears(key)[1]
        if room_c > most_c:
            yield (
                f"{celsius(room_c)} on a summer {when} is more than {species.with_article} bears ({celsius(most_c)}), "
                "and no source cools: plan how to keep the room cooler."
            )


def _too_cold(design: Design, species: Species, targets: Targets) -> Iterator[str]:
    least_c, winter_c = targets.bears("warm_air_c")[0], design.room.winter.day_c
    if winter_c < least_c - LEAKY_WARMS_K and _openings_m2(design.enclosure) > LEAKY_M2:
        yield (
            f"This box lets its warm air out, and {celsius(winter_c)} on a winter day is far below the "
            f"{celsius(least_c)} that {species.with_article} bears on its warm side: take a closed box, or keep "
            f"the room at {celsius(least_c - LEAKY_WARMS_K)}."
        )


def _openings_m2(box: Enclosure) -> float:
    """Mesh, open top and vents."""
    lid = box.lid_mesh
    top = box.length_m * box.depth_m if box.open_top or (lid is not None and lid.length_m is None) else 0.0
    if lid is not None and lid.length_m is not None and lid.depth_m is not None:
        top = lid.length_m * lid.depth_m
    return top + sum(vent.area_m2 for vent in box.vents)
