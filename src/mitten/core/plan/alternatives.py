"""The same lamp over other things to lie on: what the animal's back meets is then a matter of the stuff alone."""

from mitten.core.catalogue import Catalogue, read_data
from mitten.core.design import BadDesignError, Design
from mitten.core.design.editing import Data, data_of

MATERIALS = ("slate", "hardwood", "resin")
GROUND = "soil"


def over_materials(design: Design, catalogue: Catalogue) -> dict[str, Design]:
    """The design with its basking place of slate, wood and resin, and with the lamp as far above bare soil.

    Without a basking site only the soil is there.
    """
    site = design.basking_site
    found: dict[str, Design] = {}
    for material in MATERIALS if site else ():
        data = data_of(design)
        for one in data["sites"]:
            if site and one["name"] == site.name:
                one["material"] = material
        _add_if_it_fits(found, f"over {catalogue.site_materials[material].label}", data, catalogue)
    _add_if_it_fits(found, f"over {catalogue.grounds[GROUND].label}", _on_the_ground(design, catalogue), catalogue)
    return found


def _on_the_ground(design: Design, catalogue: Catalogue) -> Data:
    """The basking site taken away, bare soil in its place, and the lamps over it lowered by its height."""
    data, site = data_of(design), design.basking_site
    data["substrate"]["material"] = GROUND
    if site is None:
        return data
    raised_m = site.top_m(design.substrate.depth_m) - design.substrate.depth_m
    data["sites"] = [one for one in data["sites"] if one["name"] != site.name]
    kept = []
    for heater in data["heaters"]:
        over = site.is_under(heater["x_m"], heater["y_m"])
        if over and not heater["above_mesh"] and catalogue.sources[heater["kind"]].family == "lamp":
            heater["z_m"] = round(heater["z_m"] - raised_m, 4)
        if heater.get("site") != site.name:
            kept.append(heater)
    data["heaters"] = kept
    used = {heater.get("control") for heater in kept}
    data["controls"] = [control for control in data["controls"] if control["name"] in used]
    return data


def _add_if_it_fits(found: dict[str, Design], name: str, data: Data, catalogue: Catalogue) -> None:
    """Add a design that fits; one that does not is no alternative."""
    try:
        found[name] = read_data(data, catalogue)
    except BadDesignError:
        return
