"""A box that is usual for an animal: made as its kind is commonly kept, and as large as it needs at its age."""

from mitten.core.catalogue import Species, load_presets
from mitten.core.design import Enclosure, Stage

MESH_CAGE, TALL_GLASS, TABLE, TANK, BOX = (
    "mesh-cage-60", "tall-glass-60", "tortoise-table-150", "tank-120", "foam-pvc-120",
)  # fmt: skip
TALL = 0.75
"""What climbs everything lives in trees where its least box is at least so high for its length."""

SMALL_M = 1.0
"""Shorter boxes are commonly glass tanks, longer ones are built of boards."""

IN_MESH = ("Chamaeleo", "Furcifer", "Trioceros")
"""Genera that are kept in mesh cages for the fresh air."""

HIGHEST_VENT = 0.8


def usual_box(species: Species, stage: Stage) -> Enclosure:
    """The enclosure: its construction by the animal's habits, its inside size the least for its age."""
    return resize(load_presets().boxes[construction(species)].enclosure, *species.least_box_at(stage))


def resize(box: Enclosure, length_m: float, depth_m: float, height_m: float) -> Enclosure:
    """A box of another inside size, its vents below its top."""
    vents = tuple(
        vent if vent.z_m is None else vent.model_copy(update={"z_m": round(min(vent.z_m, HIGHEST_VENT * height_m), 3)})
        for vent in box.vents
    )
    return box.model_copy(update={"length_m": length_m, "depth_m": depth_m, "height_m": height_m, "vents": vents})


def construction(species: Species) -> str:
    """The preset whose panels, lid and vents are usual for an animal."""
    length_m = species.least_box_m[0]
    if species.latin.partition(" ")[0] in IN_MESH:
        return MESH_CAGE
    if species.group == "tortoise":
        return TABLE
    if lives_in_trees(species) and length_m < SMALL_M:
        return TALL_GLASS
    return TANK if length_m < SMALL_M else BOX


def lives_in_trees(species: Species) -> bool:
    """Whether an animal belongs on a branch: it climbs everything, does not dig, and wants height."""
    length_m, _, height_m = species.least_box_m
    return species.climbs == "strong" and not species.burrows and height_m >= TALL * length_m
