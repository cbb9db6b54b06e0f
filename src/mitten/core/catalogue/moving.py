"""Moving parts in a box: in whole centimetres, carrying what lies on them, never out of it or into one another.

All of it works on a design's data, in place; who calls it has the whole read again.
"""

from collections.abc import Mapping, Sequence
from math import hypot
from typing import Literal

from mitten.core.catalogue import Catalogue
from mitten.core.catalogue.placing import nearest_wall, overlap
from mitten.core.design import LAMP_ABOVE_LID_LIMIT_M, LEAST_LAMP_HEIGHT_M, Site
from mitten.core.design.editing import Data

Axis = Literal["x_m", "y_m", "z_m"]
Coordinates = Mapping[Axis, float]
Span = tuple[float, float]
SNAP_M = 0.01
CLEAR_OF_A_SITE_M = 0.03
UNDER_THE_TOP_M = 0.021
ROOM_FOR_A_LAMP_M = 0.1


def put_part(data: Data, catalogue: Catalogue, collection: str, part: Data, to: Coordinates) -> None:
    """Put a part, a site, heater, lamp, light, vent or control's probe, as near to a place as it can be; axes left out
    stay.
    """
    was = {axis: part[axis] for axis in ("x_m", "y_m") if collection == "sites"}
    place = part["probe"] if collection == "controls" else part
    hung_m = None if collection in ("controls", "sites", "vents") else part["z_m"]
    _set_axes(data, collection, place, to)
    keep_part_inside(data, catalogue, collection, part, hung_m)
    if collection == "sites":
        move_clear(data, part)
        _carry_mats(data, catalogue, part, {axis: part[axis] - was[axis] for axis in was})


def _set_axes(data: Data, collection: str, place: Data, to: Coordinates) -> None:
    """In whole centimetres, heights above the ground; a vent goes up and down its wall alone."""
    vent = collection == "vents"
    for axis, wanted in to.items():
        if axis == "z_m" or not vent:
            place[axis] = _snap(wanted, ground_of(data) if axis == "z_m" and not vent else 0.0)


def mats_follow(data: Data, catalogue: Catalogue, site: Data, before: Site) -> None:
    """Mats under a slab go with it where it goes."""
    _carry_mats(data, catalogue, site, {"x_m": site["x_m"] - before.x_m, "y_m": site["y_m"] - before.y_m})


def _carry_mats(data: Data, catalogue: Catalogue, site: Data, moved_m: Mapping[str, float]) -> None:
    for heater in data.get("heaters", []):
        if heater.get("site") != site["name"]:
            continue
        for axis, away_m in moved_m.items():
            # A heated rock is its site, wherever its own place was written down.
            rock = catalogue.sources[heater["kind"]].family == "rock"
            heater[axis] = site[axis] if rock else round(heater[axis] + away_m, 4)


def move_clear(data: Data, site: Data) -> None:
    """Push a site that is in another one to the nearest place where it is in none; it stays where there is none."""
    others = [other for other in data["sites"] if other is not site]
    if not _in_any(data, site, others):
        return
    here = site["x_m"], site["y_m"]
    places = [place for other in others for place in _beside(site, other)]
    for place in sorted(places, key=lambda place: hypot(place[0] - here[0], place[1] - here[1])):
        site["x_m"], site["y_m"] = place
        _keep_across(data["enclosure"], site)
        if not _in_any(data, site, others):
            return
    site["x_m"], site["y_m"] = here


def _beside(site: Data, other: Data) -> list[tuple[float, float]]:
    """Places of a site to the left, right, front and back of another, touching it."""
    across_m, inward_m = ((site[size] + other[size]) / 2 for size in ("length_m", "depth_m"))
    x_m, y_m = site["x_m"], site["y_m"]
    return [
        (round(other["x_m"] - across_m, 4), y_m), (round(other["x_m"] + across_m, 4), y_m),
        (x_m, round(other["y_m"] - inward_m, 4)), (x_m, round(other["y_m"] + inward_m, 4)),
    ]  # fmt: skip


def _in_any(data: Data, site: Data, others: Sequence[Data]) -> bool:
    one, ground_m = Site.model_validate(site), ground_of(data)
    return any(overlap(one, Site.model_validate(other), ground_m) for other in others)


def _snap(value_m: float, base_m: float) -> float:
    """To whole centimetres above a base."""
    return round(base_m + round((value_m - base_m) / SNAP_M) * SNAP_M, 4)


def ground_of(data: Data) -> float:
    """Height of the ground above the floor panel in a design's data."""
    substrate = data["substrate"]
    return float(substrate["depth_mm"] + sum(layer["depth_mm"] for layer in substrate.get("layers", []))) / 1000


def keep_all_inside(data: Data, catalogue: Catalogue) -> list[str]:
    """Move and shorten every part so that it lies inside the box; the names of those that changed."""
    moved = []
    for site in data.get("sites", []):
        _leave_room_above(data, site)
    for collection in ("sites", "heaters", "uvb", "lights", "controls"):
        for part in data.get(collection, []):
            before = repr(part)
            keep_part_inside(data, catalogue, collection, part)
            if repr(part) != before:
                moved.append(part["name"])
    for site in data.get("sites", []):
        move_clear(data, site)
    for vent in data["enclosure"].get("vents", []):
        keep_part_inside(data, catalogue, "vents", vent)
    return moved


def _leave_room_above(data: Data, site: Data) -> None:
    """A raised site that a lower box would press against its top comes down, to the ground if need be."""
    if site.get("z_m") is None:
        return
    thick_m = site.get("thickness_mm", 20.0) / 1000
    highest_m = data["enclosure"]["height_m"] - UNDER_THE_TOP_M - thick_m
    if site["z_m"] > highest_m:
        site["z_m"] = max(highest_m - ROOM_FOR_A_LAMP_M, ground_of(data))


def keep_part_inside(
    data: Data, catalogue: Catalogue, collection: str, part: Data, hung_m: float | None = None
) -> None:
    """Bring one part to the nearest place inside the box; ``hung_m`` is where something that hangs was before."""
    if collection == "vents":
        if part.get("z_m") is not None:
            part["z_m"] = _within(part["z_m"], (0.0, data["enclosure"]["height_m"]))
    elif collection == "controls":
        if part.get("probe"):
            _keep_probe_inside(data, part["probe"])
    elif collection == "heaters" and part.get("place") == "wall":
        _keep_on_the_wall(data["enclosure"], part)
    else:
        _keep_across(data["enclosure"], part)
        _keep_height(data, catalogue, collection, part, hung_m)


def _keep_height(data: Data, catalogue: Catalogue, collection: str, part: Data, hung_m: float | None) -> None:
    """A site on the ground or over it, a lamp clear of what is under it; mats and panels have no height."""
    if collection == "sites":
        _keep_site_height(data, part)
    elif collection != "heaters" or catalogue.sources[part["kind"]].family == "lamp":
        part["z_m"] = _within(part["z_m"], _hanging_span(data, part, part["z_m"] if hung_m is None else hung_m))


def _keep_across(box: Data, part: Data) -> None:
    """Along x and y, with half of its size on either side; a part larger than the box is cut to it."""
    for axis, size, limit_m in (("x_m", "length_m", box["length_m"]), ("y_m", "depth_m", box["depth_m"])):
        if part.get(size) is not None:
            part[size] = min(part[size], limit_m)
        half_m = (part.get(size) or 0.0) / 2
        part[axis] = _within(part[axis], (half_m, limit_m - half_m))


def _keep_on_the_wall(box: Data, mat: Data) -> None:
    """A mat on a wall: along it and up it, cut to the wall where it is larger."""
    sideways = nearest_wall(mat["x_m"], mat["y_m"], box["length_m"], box["depth_m"]) in ("left", "right")
    axis, wide_m = ("y_m", box["depth_m"]) if sideways else ("x_m", box["length_m"])
    mat["length_m"], mat["depth_m"] = min(mat["length_m"], wide_m), min(mat["depth_m"], box["height_m"])
    mat[axis] = _within(mat[axis], (mat["length_m"] / 2, wide_m - mat["length_m"] / 2))
    mat["z_m"] = _within(mat["z_m"], (mat["depth_m"] / 2, box["height_m"] - mat["depth_m"] / 2))


def _keep_probe_inside(data: Data, probe: Data) -> None:
    box = data["enclosure"]
    low_m = ground_of(data) if probe.get("reads", "air") == "air" else 0.0
    spans = {"x_m": (0.0, box["length_m"]), "y_m": (0.0, box["depth_m"]), "z_m": (low_m, box["height_m"])}
    for axis, span in spans.items():
        probe[axis] = _within(probe[axis], span)


def _keep_site_height(data: Data, site: Data) -> None:
    if site.get("z_m") is None:
        return
    ground_m, thick_m = ground_of(data), site.get("thickness_mm", 20.0) / 1000
    highest_m = data["enclosure"]["height_m"] - UNDER_THE_TOP_M - thick_m
    z_m = max(min(site["z_m"], highest_m), 0.0)
    if z_m + thick_m <= ground_m + SNAP_M or abs(z_m - ground_m) < SNAP_M / 2:
        del site["z_m"]  # It would be buried, or touches the ground: it lies on it.
    else:
        site["z_m"] = round(z_m, 4)


def _hanging_span(data: Data, part: Data, was_m: float) -> Span:
    """Lowest and highest z of something that hangs: clear of the ground and of the site that it was above."""
    top_m = data["enclosure"]["height_m"]
    if part.get("above_mesh"):
        return top_m + SNAP_M, top_m + LAMP_ABOVE_LID_LIMIT_M
    ground_m = ground_of(data)
    lowest_m = ground_m + LEAST_LAMP_HEIGHT_M
    for site in data.get("sites", []):
        over = all(
            abs(part[axis] - site[axis]) <= site[size] / 2 for axis, size in (("x_m", "length_m"), ("y_m", "depth_m"))
        )
        under_m = ground_m if site.get("z_m") is None else site["z_m"]
        if over and was_m >= under_m:
            lowest_m = max(lowest_m, under_m + site.get("thickness_mm", 20.0) / 1000 + CLEAR_OF_A_SITE_M)
    return lowest_m, max(top_m, lowest_m)


def _within(value: float, span: Span) -> float:
    return round(min(max(value, span[0]), span[1]), 4)
