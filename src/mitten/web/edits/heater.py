"""What a heater's form does beyond its fields: new kinds and places settle in, overloads are refused."""

from math import hypot

from mitten.core.catalogue import Catalogue
from mitten.core.catalogue.moving import keep_part_inside
from mitten.core.design import Design, Heater
from mitten.core.design.editing import Data
from mitten.core.judge import fixture_rating_w
from mitten.core.plan.usual import height_inside_m, usual_heater_data
from mitten.web.edits.control import add_control, without_idle_controls
from mitten.web.edits.fields import EditError, Typed
from mitten.web.edits.part_specs import NEW_CONTROL

JUST_ABOVE_THE_MESH_M = 0.02


def settle_heater(design: Design, catalogue: Catalogue, data: Data, heater: Data, before: Heater) -> None:
    """Bring a heater whose fields were changed to where its kind and place can be; ``heater`` lies in ``data``."""
    kinds = catalogue.sources
    if heater["kind"] in kinds and kinds[heater["kind"]].family != kinds[before.kind].family:
        for key, value in usual_heater_data(design, catalogue, before, heater["kind"]).items():
            heater.pop(key, None) if value is None else heater.update({key: value})
    else:
        _settle_place(design, catalogue, heater, before)
    if heater["kind"] in kinds and kinds[heater["kind"]].family == "rock":
        _be_its_site(design, heater)
    wanted = heater.get("control") or ""
    if wanted.startswith(NEW_CONTROL) and wanted.removeprefix(NEW_CONTROL) in catalogue.controls:
        add_control(design, catalogue, data, before, heater, wanted.removeprefix(NEW_CONTROL))
    without_idle_controls(data)


def _settle_place(design: Design, catalogue: Catalogue, heater: Data, before: Heater) -> None:
    """A lamp that changes sides of the mesh is moved to where it fits; a mat gets what its new place needs."""
    box_m = design.enclosure.height_m
    if heater["above_mesh"] != before.above_mesh and heater["z_m"] == before.z_m:
        above_m = round(box_m + JUST_ABOVE_THE_MESH_M, 4)
        heater["z_m"] = above_m if heater["above_mesh"] else round(height_inside_m(design), 4)
    place = heater.get("place")
    if place == "wall" and before.place != "wall":
        heater["z_m"] = round(box_m / 2, 4)
        keep_part_inside({"enclosure": design.enclosure.model_dump()}, catalogue, "heaters", heater)
    if place == "hide-roof" and design.sites and (before.place != "hide-roof" or heater.get("site") != before.site):
        _lay_under(design, heater, before)


def _be_its_site(design: Design, rock: Data) -> None:
    """A heated rock is the site that it warms, and is where that is."""
    for site in design.sites:
        if site.name == rock.get("site"):
            rock |= {"x_m": site.x_m, "y_m": site.y_m}


def _lay_under(design: Design, heater: Data, before: Heater) -> None:
    """Under the slab that it names, or else the nearest, in its middle and no larger."""
    named = [site for site in design.sites if site.name == heater.get("site")]
    nearest = min(named or design.sites, key=lambda site: hypot(site.x_m - before.x_m, site.y_m - before.y_m))
    heater |= {
        "site": nearest.name, "x_m": nearest.x_m, "y_m": nearest.y_m,
        "length_m": min(heater["length_m"], nearest.length_m), "depth_m": min(heater["depth_m"], nearest.depth_m),
    }  # fmt: skip


def refuse_overload(form: str, heater: Data, before: Heater, after: Design, typed: Typed, catalogue: Catalogue) -> None:
    """A lamp stronger than its fixture is not taken at all; one that already hangs there may still be moved.

    Raises:
        EditError: beside the power.
    """
    now = after.heater(heater["name"])
    if not catalogue.sources[now.kind].needs_fixture:
        return
    rating = fixture_rating_w(now.fixture, catalogue)
    if now.watts > rating and (now.watts != before.watts or now.fixture != before.fixture):
        sentence = (
            f"{now.watts:g} W is more than the {rating:g} W this fixture is rated for: it would overheat. "
            f"Choose {rating:g} W or less, or get a fixture rated for it."
        )
        raise EditError(form, {"watts": sentence}, typed)
