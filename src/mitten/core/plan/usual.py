"""Where a new part goes at first: at the warm end, in its usual place and size, where it fits."""

from typing import Any

from mitten.core.catalogue import Catalogue, SourceKind, UvKind
from mitten.core.design import LEAST_LAMP_HEIGHT_M, Design, Heater, OnWhen
from mitten.core.judge.rules.fit import UNDER_PLASTIC_M

UNDER_THE_LID_M = 0.10
WARM_PLACE = 0.78
"""Where along the length the warm end's middle is."""

MARGIN_M = 0.02
TUBE_SHARE = 0.45
WARM_ROLES = ("basking", "warm-hide")
HIDES = ("warm-hide", "cool-hide", "humid-hide")
MOST_OF_A_HIDE = 0.22
MOST_OF_A_SITE = 0.33
"""Shares of the length that hides and other sites take at most, so that two and one lie beside one another."""

BETWEEN = 0.04
"""Room between them, as a share of the length."""
SITE_MATERIAL = {"basking": "slate", "warm-hide": "cork", "cool-hide": "cork", "humid-hide": "cork", "water": "tile"}
PERCH_RAISED_M = 0.15
"""How high the underside of a perch is above the ground at first."""

SHARE_OF_RATING = 0.8
"""A control is loaded to this part of what it is rated for at most."""

ROOF_OVER_BACK = 1.5
LEAST_ROOF_M = 0.05
"""A hide's roof is so many times as high as the animal's back, and at least so high."""


def warm_x_m(design: Design) -> float:
    """Middle of the warm end: over the basking site, where there is one."""
    site, length_m = design.basking_site, design.enclosure.length_m
    if site is not None:
        return site.x_m
    return length_m * (WARM_PLACE if meant_warm_right(design) else 1.0 - WARM_PLACE)


def lies_at_m(design: Design) -> float:
    """Height of what the animal basks on: the basking site's top, else the ground."""
    site = design.basking_site
    return design.substrate.depth_m if site is None else site.top_m(design.substrate.depth_m)


def height_inside_m(design: Design) -> float:
    """A height for a lamp inside, under the lid and clear of the ground."""
    return max(design.enclosure.height_m - UNDER_THE_LID_M, design.substrate.depth_m + LEAST_LAMP_HEIGHT_M)


def usual_heater_data(design: Design, catalogue: Catalogue, before: Heater | None, kind_name: str) -> dict[str, Any]:
    """A heater's data for its kind: place, size and height as usual, the rest as it was before."""
    kind = catalogue.sources[kind_name]
    watts, x_m, y_m, on = _as_before(before) if before else _usual(design, kind)
    data: dict[str, Any] = {
        "kind": kind_name, "watts": min(kind.watts_sold, key=lambda sold: abs(sold - watts)), "on": on,
        "x_m": round(x_m, 4), "y_m": round(y_m, 4), "z_m": 0.0, "above_mesh": False, "place": kind.places[0],
        "tilt_deg": 0.0, "site": None, "length_m": None, "depth_m": None,
    }  # fmt: skip
    if kind.family == "lamp":
        data |= _hanging(design)
    if kind.has_area:
        data |= _size_of(design, kind, x_m, y_m)
    if kind.family == "rock" and design.sites:
        data["site"] = (design.basking_site or design.sites[0]).name
    return data


def _as_before(before: Heater) -> tuple[float, float, float, OnWhen]:
    """Watts, place along x and y, and when it runs, as they were."""
    return before.watts, before.x_m, before.y_m, before.on


def _usual(design: Design, kind: SourceKind) -> tuple[float, float, float, OnWhen]:
    """The same of a new one: a middling size at the warm end, lamps by day and the rest always."""
    middling = kind.watts_sold[len(kind.watts_sold) // 2]
    return middling, warm_x_m(design), design.enclosure.depth_m / 2, "day" if kind.light else "always"


def usual_fixture(kind: SourceKind, above: bool, catalogue: Catalogue) -> dict[str, Any]:
    """A fixture that bears the kind: a guarded socket inside, above the lid a dome, a wide one for what is hot."""
    wide = not kind.light or not kind.dims
    name = ("wide-dome" if wide else "dome") if above else "guarded-socket"
    usual = catalogue.fixtures[name]
    return {"kind": name, "max_watts": usual.usual_max_watts, "socket": "ceramic"}


def usual_control(kind: SourceKind, load_w: float, catalogue: Catalogue) -> str:
    """What suits a kind, a key of the catalogue: dimming for what shines or glows, pulses for ceramic, switching for
    mats.
    """
    if kind.family in ("contact", "rock"):
        return "on-off"
    if kind.family == "lamp" and not kind.light and kind.emitter_k is None:
        return "pulse"
    most_w = SHARE_OF_RATING * catalogue.controls["dimming"].usual_max_watts
    return "dimming" if load_w <= most_w else "dimming-strong"


def new_heater(design: Design, catalogue: Catalogue, kind_name: str) -> dict[str, Any]:
    """A new source where a keeper would put it, a lamp in a fixture that bears it and, inside, has a guard."""
    kind = catalogue.sources[kind_name]
    part = {
        key: value for key, value in usual_heater_data(design, catalogue, None, kind_name).items() if value is not None
    }
    if not kind.needs_fixture:
        return part
    fixture = usual_fixture(kind, part["above_mesh"], catalogue)
    fits = [watts for watts in kind.watts_sold if watts <= fixture["max_watts"]] or [min(kind.watts_sold)]
    if not kind.light and not part["above_mesh"] and part.get("z_m", 0.0) != 0.0:
        part["z_m"] = min(part["z_m"], _below_plastic_m(design, catalogue))
    return part | {"fixture": fixture, "watts": min(fits, key=lambda watts: abs(watts - part["watts"]))}


def _below_plastic_m(design: Design, catalogue: Catalogue) -> float:
    """The highest place for an emitter without light: clear of a lid of plastic."""
    box = design.enclosure
    is_plastic = catalogue.panels[box.panels.top.material].softens
    lowest_m = design.substrate.depth_m + LEAST_LAMP_HEIGHT_M
    return round(max(box.height_m - (UNDER_PLASTIC_M if is_plastic else 0.0), lowest_m), 4)


def _hanging(design: Design) -> dict[str, Any]:
    box = design.enclosure
    if box.lid_mesh is not None or box.open_top:
        return {"above_mesh": True, "z_m": round(box.height_m + MARGIN_M, 4)}
    return {"z_m": round(height_inside_m(design), 4)}


def _size_of(design: Design, kind: SourceKind, x_m: float, y_m: float) -> dict[str, Any]:
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


def at_the_warm_end(design: Design) -> dict[str, Any]:
    """Where a light goes at first: over the warm end, above the mesh where there is one."""
    box = design.enclosure
    above = box.lid_mesh is not None or box.open_top
    z_m = box.height_m + MARGIN_M if above else height_inside_m(design)
    return {
        "x_m": round(warm_x_m(design), 4), "y_m": round(box.depth_m / 2, 4), "z_m": round(z_m, 4), "above_mesh": above,
    }  # fmt: skip


def new_tube(design: Design, catalogue: Catalogue, what: str) -> dict[str, Any]:
    """A UV lamp of a kind, a tube over less than half of the length."""
    kind = catalogue.uvb[what]
    part = {"lamp": what, "watts": _a_small_one(kind), "uvi_at_30cm": kind.uvi_at_30cm, **at_the_warm_end(design)}
    if kind.tube:
        box_m = design.enclosure.length_m
        length_m = round(TUBE_SHARE * box_m, 2)
        x_m = min(max(part["x_m"], length_m / 2), box_m - length_m / 2)
        part |= {"length_m": length_m, "x_m": round(x_m, 4)}
    return part


def _a_small_one(kind: UvKind) -> float:
    """The second size sold; the only one where there is no other."""
    return kind.watts_sold[min(1, len(kind.watts_sold) - 1)]


def new_site(design: Design, catalogue: Catalogue, role: str) -> dict[str, Any]:
    """A site of a usual size for the animal: warm ones under the heat, or beside the basking place where there is one,
    cool ones at the other end.
    """
    box, ground_m = design.enclosure, design.substrate.depth_m
    species, stage = catalogue.species[design.animal.species], design.animal.stage
    body_m = species.body_length_m(stage)
    along_m = min(max(0.5 * body_m, 0.12), 0.4, (MOST_OF_A_HIDE if role in HIDES else MOST_OF_A_SITE) * box.length_m)
    across_m = min(max(0.4 * body_m, 0.10), 0.3, 0.6 * box.depth_m)
    along_m, across_m = round(along_m, 2), round(across_m, 2)
    middle_m = _middle_m(design, role, along_m)
    x_m = min(max(middle_m, along_m / 2), box.length_m - along_m / 2)
    part: dict[str, Any] = {
        "role": role, "material": SITE_MATERIAL.get(role, "hardwood"), "x_m": _whole_cm(x_m, along_m, box.length_m),
        "y_m": _whole_cm(box.depth_m / 2, across_m, box.depth_m), "length_m": along_m, "depth_m": across_m,
        "thickness_mm": 30.0 if role in ("basking", "water") else 15.0,
    }  # fmt: skip
    raised_m = PERCH_RAISED_M if role == "perch" else 0.0
    if role in HIDES:
        raised_m = max(ROOF_OVER_BACK * species.back_m.at(stage), LEAST_ROOF_M)
    if raised_m:
        part["z_m"] = round(min(ground_m + raised_m, max(0.6 * box.height_m, ground_m)), 3)
    return part


def _whole_cm(middle_m: float, size_m: float, limit_m: float) -> float:
    """A place in whole centimetres, unless that would put the part past an end."""
    whole_m = round(middle_m, 2)
    fits = size_m / 2 <= whole_m <= limit_m - size_m / 2
    return whole_m if fits else round(min(max(middle_m, size_m / 2), limit_m - size_m / 2), 4)


def _middle_m(design: Design, role: str, along_m: float) -> float:
    """Where along the box the middle of a new site is."""
    warm_m, basking, length_m = warm_x_m(design), design.basking_site, design.enclosure.length_m
    if role == "cool-hide":
        # In the corner, which leaves the middle for a warm hide.
        at_m = along_m / 2 + BETWEEN * length_m
        return at_m if warm_m > length_m / 2 else length_m - at_m
    if role not in WARM_ROLES:
        return length_m - warm_m
    if role == "basking" or basking is None:
        return warm_m
    # Beside the basking place, towards the middle: on it, it would take its place and its light.
    away_m = basking.length_m / 2 + BETWEEN * length_m + along_m / 2
    return basking.x_m - away_m if basking.x_m > length_m / 2 else basking.x_m + away_m


def new_vent(design: Design) -> dict[str, Any]:
    """A small vent low in the cool end."""
    face = "left" if warm_x_m(design) > design.enclosure.length_m / 2 else "right"
    low_m = min(design.substrate.depth_m + 0.08, design.enclosure.height_m)
    return {"face": face, "area_cm2": 20.0, "z_m": round(low_m, 3)}


NEAR_MIDDLE_M = 0.02


def meant_warm_right(design: Design) -> bool:
    """Whether the warm end is meant to be the right one: where the watts are, else where the basking site is. For new
    parts of designs that are not solved; what is warm is computed.
    """
    middle = design.enclosure.length_m / 2
    watts = sum(heater.watts * heater.dim for heater in design.heaters)
    if watts > 0:
        centre = sum(heater.watts * heater.dim * heater.x_m for heater in design.heaters) / watts
        if abs(centre - middle) > NEAR_MIDDLE_M:
            return centre > middle
    site = design.basking_site
    return site is None or site.x_m >= middle
