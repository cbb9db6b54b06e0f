"""Where a new part goes at first: at the warm end, in its usual place and size, where it fits."""

from typing import Any

from mitten.core.catalogue import SourceKind, load_catalogue
from mitten.core.design import LEAST_LAMP_HEIGHT_M, Design, Heater, OnWhen
from mitten.core.physics.climate import warm_is_right

UNDER_THE_LID_M = 0.10
WARM_PLACE = 0.78
"""Where along the length the warm end's middle is."""

MARGIN_M = 0.02


def warm_x_m(design: Design) -> float:
    """Middle of the warm end: over the basking site, where there is one."""
    site, length_m = design.basking_site, design.enclosure.length_m
    if site is not None:
        return site.x_m
    return length_m * (WARM_PLACE if warm_is_right(design) else 1.0 - WARM_PLACE)


def height_inside_m(design: Design) -> float:
    """A height for a lamp inside, under the lid and clear of the ground."""
    return max(design.enclosure.height_m - UNDER_THE_LID_M, design.substrate.depth_m + LEAST_LAMP_HEIGHT_M)


def settled_in(design: Design, before: Heater | None, kind_name: str) -> dict[str, Any]:
    """A heater's data for its kind: place, size and height as usual, the rest as it was before."""
    kind = load_catalogue().sources[kind_name]
    watts, x_m, y_m, on = _kept(before) if before else _usual(design, kind)
    data: dict[str, Any] = {
        "kind": kind_name, "watts": min(kind.watts_sold, key=lambda sold: abs(sold - watts)), "on": on,
        "x_m": round(x_m, 4), "y_m": round(y_m, 4), "z_m": 0.0, "above_mesh": False, "place": kind.places[0],
        "tilt_deg": 0.0, "site": None, "length_m": None, "depth_m": None,
    }  # fmt: skip
    if kind.family == "lamp":
        data |= _hung(design)
    if kind.has_area:
        data |= _sized(design, kind, x_m, y_m)
    if kind.family == "rock" and design.sites:
        data["site"] = (design.basking_site or design.sites[0]).name
    return data


def _kept(before: Heater) -> tuple[float, float, float, OnWhen]:
    """Watts, place along x and y, and when it runs, as they were."""
    return before.watts, before.x_m, before.y_m, before.on


def _usual(design: Design, kind: SourceKind) -> tuple[float, float, float, OnWhen]:
    """The same of a new one: a middling size at the warm end, lamps by day and the rest always."""
    middling = kind.watts_sold[len(kind.watts_sold) // 2]
    return middling, warm_x_m(design), design.enclosure.depth_m / 2, "day" if kind.light else "always"


def _hung(design: Design) -> dict[str, Any]:
    box = design.enclosure
    if box.lid_mesh is not None or box.open_top:
        return {"above_mesh": True, "z_m": round(box.height_m + MARGIN_M, 4)}
    return {"z_m": round(height_inside_m(design), 4)}


def _sized(design: Design, kind: SourceKind, x_m: float, y_m: float) -> dict[str, Any]:
    """Its usual size, cut to the box, and moved in from the edges."""
    usual = kind.usual_size_m or (0.3, 0.3)
    box = design.enclosure
    length_m, depth_m = min(usual[0], box.length_m), min(usual[1], box.depth_m)
    return {
        "length_m": round(length_m, 4),
        "depth_m": round(depth_m, 4),
        "x_m": round(min(max(x_m, length_m / 2), box.length_m - length_m / 2), 4),
        "y_m": round(min(max(y_m, depth_m / 2), box.depth_m - depth_m / 2), 4),
    }
