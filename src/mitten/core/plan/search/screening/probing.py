"""Where a plan's thermostat probes and its plain light go."""

from mitten.core.design import Design
from mitten.core.design.editing import Data
from mitten.core.plan.usual import at_the_warm_end

BESIDE_M = 0.03
RAISED_M = 0.05
"""A basking place whose underside is higher than this has air beside it rather than ground."""

OVER_GROUND_M = 0.05
UNDER_THE_LID_M = 0.03
LED_W_M = 10.0
LEAST_LED_W = 4
LEAST_LIT_M = 0.25


def beside_the_basking_place(design: Design) -> Data:
    """On the ground beside the basking place, towards the middle, covered: as warm as may be where no animal lies.
    Beside a branch or a ledge, in the air at its height.
    """
    site, ground_m = design.basking_site, design.substrate.depth_m
    if site is None:
        x_m, y_m, half_m = at_the_warm_end(design)["x_m"], design.enclosure.depth_m / 2, 0.0
    else:
        x_m, y_m, half_m = site.x_m, site.y_m, site.length_m / 2
    x_m = towards_the_middle(design, x_m, half_m + BESIDE_M)
    raised_m = 0.0 if site is None else site.underside_m(ground_m) - ground_m
    if site is not None and raised_m > RAISED_M:
        return {
            "x_m": round(x_m, 3), "y_m": round(y_m, 3), "z_m": round(site.top_m(ground_m), 3), "reads": "air",
            "shaded": True,
        }  # fmt: skip
    return {
        "x_m": round(x_m, 3), "y_m": round(y_m, 3), "z_m": round(ground_m, 3), "reads": "surface",
        "shaded": True,
    }  # fmt: skip


def in_the_middle(design: Design) -> Data:
    """In the air over the middle of the ground, shaded."""
    box = design.enclosure
    z_m = min(design.substrate.depth_m + OVER_GROUND_M, box.height_m - 0.02)
    return {
        "x_m": round(box.length_m / 2, 3), "y_m": round(box.depth_m / 2, 3), "z_m": round(z_m, 3), "reads": "air",
        "shaded": True,
    }  # fmt: skip


def in_the_warm_air(design: Design) -> Data:
    """In the air over the ground of the warm side, beside the basking place, shaded."""
    beside, middle = beside_the_basking_place(design), in_the_middle(design)
    return {**middle, "x_m": beside["x_m"], "y_m": beside["y_m"]}


def day_lights(design: Design) -> list[Data]:
    """A plain light under the lid or over it, for days that no source lights: as strong as the box is long.

    None in a tub: it would be too near to what is under it, and the room lights it.
    """
    box = design.enclosure
    if box.height_m - design.substrate.depth_m < LEAST_LIT_M:
        return []
    above = box.lid_mesh is not None or box.open_top
    mesh_m = None if box.lid_mesh is None else box.lid_mesh.x_m
    z_m = box.height_m + UNDER_THE_LID_M if above else box.height_m - UNDER_THE_LID_M
    light = {
        "name": "Day light", "watts": float(max(round(LED_W_M * box.length_m), LEAST_LED_W)), "above_mesh": above,
        "x_m": round(box.length_m / 2 if mesh_m is None else mesh_m, 3), "y_m": round(box.depth_m / 2, 3),
        "z_m": round(z_m, 3),
    }  # fmt: skip
    return [light]


def on_the_mat(mat: Data) -> Data:
    """On a mat, where it is hottest: under the ground, or under the slab that it warms."""
    if mat.get("place") == "hide-roof":
        return {"x_m": mat["x_m"], "y_m": mat["y_m"], "z_m": 0.0, "reads": "heater"}
    return {"x_m": mat["x_m"], "y_m": mat["y_m"], "z_m": 0.0, "reads": "base"}


def towards_the_middle(design: Design, x_m: float, by_m: float) -> float:
    """A place by so much nearer to the middle, not past it."""
    middle_m = design.enclosure.length_m / 2
    return max(x_m - by_m, middle_m) if x_m > middle_m else min(x_m + by_m, middle_m)
