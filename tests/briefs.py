"""Ordinary briefs: every species in the boxes that keepers use for it, in a cold, a usual and a warm home.

Seeded, so that one can be looked at again. Nothing is furnished: the search puts in what is missing.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from mitten.core.catalogue import Species, load_presets
from mitten.core.design import BadDesignError, Design
from mitten.core.plan.usual_box import lives_in_trees
from tests.catalogue import CATALOGUE
from tests.designs import Data, read

Random = np.random.Generator
ROOMS_C = {"cold": (16.0, 23.0), "usual": (20.0, 25.0), "warm": (23.0, 28.0)}
"""Days of winter and summer; nights are two or three kelvin colder."""

OF_TANKS, OF_BOARDS = ("tank-120",), ("plywood-120", "foam-pvc-120", "melamine-120")
IN_TREES = ("tall-glass-60", "tall-glass-60", "plywood-120", "foam-pvc-120")
STAGES = ("adult", "adult", "adult", "adult", "juvenile")
GROUNDS = ("soil", "soil-sand", "coconut-fibre", "wood-shavings", "bark", "paper")
LARGER = (1.0, 1.0, 1.1, 1.25)
TUB_LEAST_M = 0.95
"""Snakes and geckos with a least box no longer than this are kept in tubs too."""

LONGEST_TANK_M = 1.5


@dataclass(frozen=True)
class Brief:
    """A home and an animal: what a keeper would type."""

    name: str
    room: str
    design: Design


def ordinary_briefs(rounds: int = 1, seed: int = 1) -> Iterator[Brief]:
    """Every species in every room, so many times, each time in another box."""
    random = np.random.default_rng(seed)
    for _ in range(rounds):
        for key, species in CATALOGUE.species.items():
            for room in ROOMS_C:
                yield _brief(random, key, species, room)


def _brief(random: Random, key: str, species: Species, room: str) -> Brief:
    while True:
        preset, data = _data(random, key, species, room)
        try:
            design = read(data)
        except BadDesignError:
            continue
        box, stage = design.enclosure, design.animal.stage
        size = f"{box.length_m * 100:.0f} × {box.depth_m * 100:.0f} × {box.height_m * 100:.0f} cm"
        return Brief(f"{species.label}, {stage}, {preset} {size}, {room} room", room, design)


def _data(random: Random, key: str, species: Species, room: str) -> tuple[str, Data]:
    stage = str(random.choice(STAGES))
    preset = _preset(random, species)
    box = load_presets().boxes[preset].enclosure.model_dump(mode="json", exclude_none=True)
    least, larger = species.least_box_at(stage), float(random.choice(LARGER))  # type: ignore[arg-type]
    tub = preset.startswith("tub")
    if not tub:
        box |= dict(zip(("length_m", "depth_m", "height_m"), (_cm(side * larger) for side in least), strict=True))
    for vent in box.get("vents", []):
        if vent.get("z_m") is not None:
            vent["z_m"] = round(min(vent["z_m"], 0.8 * box["height_m"]), 3)
    winter_c, summer_c = ROOMS_C[room]
    lower_k = float(random.choice([2.0, 2.5, 3.0]))
    return preset, {
        "format": "mitten-design/1",
        "name": "Ordinary brief",
        "animal": {"species": key, "stage": stage},
        "room": {
            "winter": {"day_c": winter_c, "night_c": winter_c - lower_k},
            "summer": {"day_c": summer_c, "night_c": summer_c - lower_k},
        },
        "enclosure": box,
        "substrate": {
            "material": str(random.choice(GROUNDS)),
            "depth_mm": 20.0 if tub else float(random.choice([30, 50])),
        },
    }


def _preset(random: Random, species: Species) -> str:
    """The construction of a box that is usual for an animal; its size is the animal's."""
    long_m = species.least_box_m[0]
    if "chameleon" in species.label.lower():
        return str(random.choice(["mesh-cage-60", "mesh-cage-60", "tall-glass-60"]))
    if species.group == "tortoise":
        return str(random.choice(["tortoise-table-150", "tortoise-table-150", "plywood-180", "foam-pvc-180"]))
    if lives_in_trees(species) and long_m < LONGEST_TANK_M:
        return str(random.choice(IN_TREES))
    in_tubs = ("tub-80",) if long_m < TUB_LEAST_M and species.group in ("snake", "gecko") and species.burrows else ()
    tanks = OF_TANKS if long_m < LONGEST_TANK_M else ()
    return str(random.choice([*in_tubs, *tanks, *OF_BOARDS]))


def _cm(value_m: float) -> float:
    return round(value_m, 2)
