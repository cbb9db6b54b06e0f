"""Adding and removing heat sources and lights, and the forms of lights and room."""

from typing import Any, Literal

from mitten.core.catalogue import load_catalogue
from mitten.core.design import BadDesignError, Design
from mitten.core.plan import ChangeKind, changed
from mitten.web.edits.control import without_idle_controls
from mitten.web.edits.defaults import height_inside_m, settled_in, warm_x_m
from mitten.web.edits.forms import EditError, LightForm, RoomForm, data_of, named, numbers_of, read_edited

Collection = Literal["heaters", "controls", "uvb", "lights"]
LED = "light"
TUBE_SHARE = 0.45
LIGHT_FIELDS = {
    ".watts": "watts",
    ".uvi_at_30cm": "uvi_at_30cm",
    ".x_m": "x_cm",
    ".y_m": "y_cm",
    ".z_m": "height_cm",
    ".length_m": "length_cm",
}
ROOM_FIELDS = ("winter_day", "winter_night", "summer_day", "summer_night")


def add_part(design: Design, what: str) -> tuple[Design, str]:
    """The design with one more source of that kind, UV lamp or plain light, and its name.

    Raises:
        EditError: the kind is unknown, or has nowhere to go.
    """
    catalogue, data = load_catalogue(), data_of(design)
    if what in catalogue.sources:
        kind = catalogue.sources[what]
        if kind.family == "rock" and not design.sites:
            raise EditError("add", {"": "A hot rock is a site that is heated: this design has no site."}, {})
        name = _new_name(design, kind.label)
        part = {key: value for key, value in settled_in(design, None, what).items() if value is not None}
        data.setdefault("heaters", []).append({"name": name, **part})
    elif what in catalogue.uvb:
        name = _new_name(design, catalogue.uvb[what].label)
        data.setdefault("uvb", []).append({"name": name, **_new_tube(design, what)})
    elif what == LED:
        name = _new_name(design, "plain light")
        data.setdefault("lights", []).append({"name": name, "watts": 12.0, **_at_the_warm_end(design)})
    else:
        raise EditError("add", {"": f"The catalogue has no source '{what}'."}, {})
    return read_edited("add", data, LightForm(), {}), name


def _at_the_warm_end(design: Design) -> dict[str, Any]:
    box = design.enclosure
    x_m, above = warm_x_m(design), box.lid_mesh is not None or box.open_top
    z_m = box.height_m + 0.02 if above else height_inside_m(design)
    return {"x_m": round(x_m, 4), "y_m": round(box.depth_m / 2, 4), "z_m": round(z_m, 4), "above_mesh": above}


def _new_tube(design: Design, what: str) -> dict[str, Any]:
    kind = load_catalogue().uvb[what]
    part = {"lamp": what, "watts": kind.watts_sold[1], "uvi_at_30cm": kind.uvi_at_30cm, **_at_the_warm_end(design)}
    if kind.tube:
        part["length_m"] = round(design.enclosure.length_m * TUBE_SHARE, 2)
    return part


def _new_name(design: Design, label: str) -> str:
    taken = {part.name for part in design.heaters} | {p.name for p in design.lights} | {p.name for p in design.uvb}
    word = label[:1].upper() + label[1:]
    candidates = [word, *(f"{word} {number}" for number in range(2, 40))]
    return next(name for name in candidates if name not in taken)


def remove_part(design: Design, collection: Collection, name: str) -> Design:
    """The design without a part; heaters of a control that goes run without one."""
    data = data_of(design)
    data[collection] = [part for part in data.get(collection, []) if part["name"] != name]
    if collection == "controls":
        for heater in data.get("heaters", []):
            if heater.get("control") == name:
                del heater["control"]
    return read_edited(name, without_idle_controls(data), LightForm(), {})


def edit_light(design: Design, name: str, form: LightForm) -> Design:
    """The design with a light or a UV lamp as the form says.

    Raises:
        EditError: with a sentence beside each field that is refused.
    """
    data = data_of(design)
    try:
        part = named([*data["uvb"], *data["lights"]], name)
    except KeyError:
        raise EditError(name, {"": f"There is no light '{name}' any more."}, form.model_dump()) from None
    numbers = numbers_of(name, form, ("watts", "uvi_at_30cm", "x_cm", "y_cm", "height_cm", "length_cm"))
    part["watts"] = numbers["watts"]
    if "uvi_at_30cm" in numbers:
        part["uvi_at_30cm"] = numbers["uvi_at_30cm"]
    for field, key in (("x_cm", "x_m"), ("y_cm", "y_m"), ("length_cm", "length_m")):
        if field in numbers:
            part[key] = round(numbers[field] / 100, 4)
    part["z_m"] = round(numbers["height_cm"] / 100 + design.substrate.depth_m, 4)
    return read_edited(name, data, form, LIGHT_FIELDS)


def apply_fix(design: Design, kind: ChangeKind, name: str, value: float) -> Design:
    """The design with one of the offered changes.

    Raises:
        EditError: the change does not fit the design any more.
    """
    try:
        return changed(design, kind, name, value)
    except (BadDesignError, KeyError, ValueError) as error:
        raise EditError("add", {"": f"That change does not fit any more: {error}"}, {}) from None


def edit_room(design: Design, form: RoomForm) -> Design:
    """The design in another room.

    Raises:
        EditError: with a sentence beside each field that is refused.
    """
    numbers = numbers_of("room", form, ROOM_FIELDS)
    data = data_of(design)
    for field in ROOM_FIELDS:
        season, time = field.split("_")
        data["room"][season][f"{time}_c"] = numbers[field]
    fields = {f"{season}.{time}_c": f"{season}_{time}" for season, time in (f.split("_") for f in ROOM_FIELDS)}
    return read_edited("room", data, form, fields)
