"""The same lamp over other things to lie on: what the animal's back meets is then a matter of the stuff alone."""

import json
from typing import Any

from mitten.core.catalogue import load_catalogue, read_checked_design
from mitten.core.design import BadDesignError, Design

MATERIALS = ("slate", "hardwood", "resin")
GROUND = "soil"


def over_materials(design: Design) -> dict[str, Design]:
    """The design with its basking place of slate, wood and resin, and with the lamp as far above bare soil.

    Without a basking site only the soil is there.
    """
    site = design.basking_site
    found: dict[str, Design] = {}
    for material in MATERIALS if site else ():
        data = _data(design)
        for one in data["sites"]:
            if site and one["name"] == site.name:
                one["material"] = material
        _put(found, f"over {load_catalogue().site_materials[material].label}", data)
    _put(found, f"over {load_catalogue().grounds[GROUND].label}", _on_the_ground(design))
    return found


def _on_the_ground(design: Design) -> dict[str, Any]:
    """The basking site taken away, bare soil in its place, and the lamps over it lowered by its height."""
    data, site = _data(design), design.basking_site
    data["substrate"]["material"] = GROUND
    if site is None:
        return data
    raised_m = site.top_m(design.substrate.depth_m) - design.substrate.depth_m
    data["sites"] = [one for one in data["sites"] if one["name"] != site.name]
    kept = []
    for heater in data["heaters"]:
        over = abs(heater["x_m"] - site.x_m) <= site.length_m / 2 and abs(heater["y_m"] - site.y_m) <= site.depth_m / 2
        if over and not heater["above_mesh"] and load_catalogue().sources[heater["kind"]].family == "lamp":
            heater["z_m"] = round(heater["z_m"] - raised_m, 4)
        if heater.get("site") != site.name:
            kept.append(heater)
    data["heaters"] = kept
    used = {heater.get("control") for heater in kept}
    data["controls"] = [control for control in data["controls"] if control["name"] in used]
    return data


def _data(design: Design) -> dict[str, Any]:
    return design.model_dump(mode="json", exclude_none=True)


def _put(found: dict[str, Design], name: str, data: dict[str, Any]) -> None:
    """Add a design that fits; one that does not is no alternative."""
    try:
        found[name] = read_checked_design(json.dumps(data), load_catalogue())
    except BadDesignError:
        return
