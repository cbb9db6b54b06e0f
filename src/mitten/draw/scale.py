"""Metres to drawing units, on one x axis for all drawings of a sheet."""

from dataclasses import dataclass
from typing import TypeVar

from mitten.core.design import Design
from mitten.core.physics.arrays import Array

Length = TypeVar("Length", float, Array)
"""A length in metres, or many."""

LEFT, RIGHT = 46.0, 14.0
TOP = 34.0
SHEET_WIDTH = 640.0
TALLEST = 520.0
"""Section and plan together are drawn at most this tall."""

TALLEST_BESIDE = 460.0
"""Side by side, so tall."""

ASIDE = 44.0
"""Between drawings that are side by side, with room for a name."""

ABOVE_LID_M = 0.16
"""Least space drawn above the lid when a lamp hangs there."""

LAMP_DRAWN_M = 0.10
"""How high a lamp is drawn above its face."""


@dataclass(frozen=True)
class Scale:
    """Where the enclosure lies on the sheet; units a metre are the same both ways."""

    per_m: float
    left: float
    floor_y: float
    length_m: float
    height_m: float
    end: float = SHEET_WIDTH
    """Where on the sheet words of this drawing have to end."""

    def x(self, x_m: Length) -> Length:
        """Drawing x of a length from the left inside wall."""
        return self.left + x_m * self.per_m

    def y(self, z_m: Length) -> Length:
        """Drawing y of a height above the floor panel."""
        return self.floor_y - z_m * self.per_m

    @property
    def width(self) -> float:
        """Drawn length of the enclosure."""
        return self.length_m * self.per_m


def scale_of(design: Design, width: float = SHEET_WIDTH, height: float = TALLEST, left: float = LEFT,
             top: float = TOP, right: float = RIGHT, with_plan: bool = True) -> Scale:  # fmt: skip
    """The largest scale at which section and plan fit, one above the other; what hangs above the lid is given room."""
    box, over_m = design.enclosure, _over_the_lid_m(design)
    tall_m = box.height_m + over_m + (box.depth_m if with_plan else 0.0)
    per_m = min((width - left - right) / box.length_m, height / tall_m)
    return Scale(per_m, left, top + (box.height_m + over_m) * per_m, box.length_m, box.height_m)


def stands_tall(design: Design) -> bool:
    """Whether a box is taller than long: one drawing above the other would waste the sheet."""
    return design.enclosure.height_m > design.enclosure.length_m


def scales_side_by_side(design: Design) -> tuple[Scale, Scale]:
    """The largest scale at which section and plan fit side by side, on the same floor line."""
    box, over_m = design.enclosure, _over_the_lid_m(design)
    wide = SHEET_WIDTH - LEFT - RIGHT - ASIDE
    per_m = min(wide / (2 * box.length_m), TALLEST_BESIDE / (box.height_m + over_m), TALLEST_BESIDE / box.depth_m)
    floor_y = TOP + max(box.height_m + over_m, box.depth_m) * per_m
    left = SHEET_WIDTH - RIGHT - box.length_m * per_m
    front = Scale(per_m, LEFT, floor_y, box.length_m, box.height_m, left - ASIDE / 2)
    return front, Scale(per_m, left, floor_y, box.length_m, box.depth_m)


def _over_the_lid_m(design: Design) -> float:
    """What is drawn above the lid."""
    box = design.enclosure
    hung_m = [heater.z_m - box.height_m for heater in design.heaters if heater.above_mesh]
    return max(ABOVE_LID_M, max(hung_m) + LAMP_DRAWN_M) if hung_m else 0.0
