"""A heater's form into a new design, or a sentence beside the field."""

from math import hypot
from typing import Any

from mitten.core.catalogue import SourceKind, load_catalogue
from mitten.core.design import LAMP_ABOVE_LID_LIMIT_M, LEAST_LAMP_HEIGHT_M, Design, Heater
from mitten.core.judge import fixture_rating_w
from mitten.web.edits.control import NEW_CONTROL, with_new_control, without_idle_controls
from mitten.web.edits.defaults import height_inside_m, settled_in
from mitten.web.edits.forms import EditError, HeaterForm, data_of, named, numbers_of, read_edited

JUST_ABOVE_THE_MESH_M = 0.02
NUMBERS = ("watts", "x_cm", "y_cm", "height_cm", "length_cm", "depth_cm", "tilt_deg", "dim_percent")
SCALED = (
    ("x_cm", "x_m", 0.01),
    ("y_cm", "y_m", 0.01),
    ("length_cm", "length_m", 0.01),
    ("depth_cm", "depth_m", 0.01),
    ("tilt_deg", "tilt_deg", 1.0),
    ("dim_percent", "dim", 0.01),
)
"""Numbers of the form, their keys in the file, and one of the form's units in the file's."""

FIELDS = {
    ".kind": "kind",
    ".watts": "watts",
    ".x_m": "x_cm",
    ".y_m": "y_cm",
    ".z_m": "height_cm",
    ".length_m": "length_cm",
    ".depth_m": "depth_cm",
    ".above_mesh": "place",
    ".place": "place",
    ".site": "site",
    ".tilt_deg": "tilt_deg",
    ".dim": "dim_percent",
    ".on": "on",
    ".control": "control",
}


def edit_heater(design: Design, name: str, form: HeaterForm) -> Design:
    """The design with one heater as the form says.

    Raises:
        EditError: with a sentence beside each field that is refused.
    """
    try:
        before = design.heater(name)
    except KeyError:
        raise EditError(name, {"": f"There is no heater '{name}' any more."}, form.model_dump()) from None
    kinds, data = load_catalogue().sources, data_of(design)
    numbers = numbers_of(name, form, NUMBERS)
    heater = named(data["heaters"], name)
    if form.kind in kinds and kinds[form.kind].family != kinds[before.kind].family:
        heater.update(settled_in(design, before, form.kind))
        return read_edited(name, without_idle_controls(data), form, FIELDS)
    heater.update(_changes(design, before, form, numbers))
    _refuse_out_of_range(name, design, form, heater)
    _refuse_overload(name, before, kinds.get(form.kind), form, numbers["watts"])
    if form.control == NEW_CONTROL:
        data = with_new_control(design, data, before)
    return read_edited(name, without_idle_controls(data), form, FIELDS)


def _changes(design: Design, before: Heater, form: HeaterForm, numbers: dict[str, float]) -> dict[str, Any]:
    changes: dict[str, Any] = {"kind": form.kind, "watts": numbers["watts"]}
    changes |= {key: round(numbers[field] * unit, 4) for field, key, unit in SCALED if field in numbers}
    if "height_cm" in numbers:
        changes["z_m"] = round(numbers["height_cm"] / 100 + design.substrate.depth_m, 4)
    changes |= {key: getattr(form, key) for key in ("on", "site") if getattr(form, key) is not None}
    if form.control not in (None, NEW_CONTROL):
        changes["control"] = form.control or None
    if form.place is not None:
        changes |= _placed(design, before, form.place, changes)
    return changes


def _placed(design: Design, before: Heater, place: str, changes: dict[str, Any]) -> dict[str, Any]:
    """A lamp inside or above the mesh, moved to where it fits when it changes sides; other sources by their place."""
    if place not in ("inside", "above"):
        return {"place": place, **_settled_at(design, before, place)}
    above = place == "above"
    if above == before.above_mesh or changes.get("z_m") != round(before.z_m, 4):
        return {"above_mesh": above}
    box_m = design.enclosure.height_m
    return {"above_mesh": above, "z_m": round(box_m + JUST_ABOVE_THE_MESH_M if above else height_inside_m(design), 4)}


def _settled_at(design: Design, before: Heater, place: str) -> dict[str, Any]:
    """What a mat needs at a place it was not at before: a height on a wall, a slab to lie under."""
    if place == "wall" and before.place != "wall":
        return {"z_m": round(design.enclosure.height_m / 2, 4)}
    if place == "hide-roof" and before.site is None and design.sites:
        nearest = min(design.sites, key=lambda site: hypot(site.x_m - before.x_m, site.y_m - before.y_m))
        return {"site": nearest.name}
    return {}


def height_limits_cm(design: Design, above_mesh: bool) -> tuple[float, float]:
    """Lowest and highest place of a lamp, in cm above the ground, inside the box or above its lid."""
    lid_cm = (design.enclosure.height_m - design.substrate.depth_m) * 100
    return (lid_cm + 1, lid_cm + LAMP_ABOVE_LID_LIMIT_M * 100) if above_mesh else (LEAST_LAMP_HEIGHT_M * 100, lid_cm)


def _refuse_out_of_range(name: str, design: Design, form: HeaterForm, heater: dict[str, Any]) -> None:
    """Say beside the field what is allowed, in the page's own units."""
    sentences = {}
    for field, key, limit_m in (("x_cm", "x_m", design.enclosure.length_m), ("y_cm", "y_m", design.enclosure.depth_m)):
        if not 0 <= heater[key] <= limit_m:
            sentences[field] = f"Between 0 and {limit_m * 100:g} cm in this box."
    if form.height_cm is not None and form.place in ("inside", "above"):
        low, high = height_limits_cm(design, heater["above_mesh"])
        if not low - 0.01 <= (heater["z_m"] - design.substrate.depth_m) * 100 <= high + 0.01:
            where = "above this mesh" if heater["above_mesh"] else "inside this box"
            sentences["height_cm"] = f"Between {low:g} and {high:g} cm above the ground {where}."
    if sentences:
        raise EditError(name, sentences, form.model_dump())


def _refuse_overload(name: str, before: Heater, kind: SourceKind | None, form: HeaterForm, watts: float) -> None:
    """A lamp stronger than its fixture is not taken at all; one that already hangs there may still be moved."""
    if kind is None or not kind.needs_fixture:
        return
    rating = fixture_rating_w(before.fixture, load_catalogue())
    if watts > rating and watts != before.watts:
        sentence = (
            f"{watts:g} W is more than the {rating:g} W this fixture is rated for: it would overheat. "
            f"Choose {rating:g} W or less, or get a fixture rated for it."
        )
        raise EditError(name, {"watts": sentence}, form.model_dump())
