"""Editing, adding, copying and removing parts."""

from copy import deepcopy
from typing import Any

from mitten.core.catalogue import Catalogue
from mitten.core.catalogue.moving import keep_part_inside, mats_follow, move_clear
from mitten.core.design import BadDesignError, Design, Heater
from mitten.core.design.editing import Data, data_of
from mitten.core.design.units import METRIC, Units
from mitten.core.plan import ChangeKind, apply_change
from mitten.core.plan.usual import at_the_warm_end, new_heater, new_site, new_tube, new_vent, usual_control
from mitten.web.edits.control import add_control, new_name, settle_control, without_idle_controls
from mitten.web.edits.fields import EditError, Typed, put_at, read_edited, read_fields
from mitten.web.edits.heater import refuse_overload, settle_heater
from mitten.web.edits.part_specs import ROLE_WORDS, part_specs
from mitten.web.edits.refs import VENT, PartRef, noun_of, part_data, path_of

LED = "light"
NEW_VENT = "vent"
COPY_MOVED_M = 0.05


def edit_part(design: Design, catalogue: Catalogue, ref: PartRef, typed: Typed, units: Units) -> tuple[Design, PartRef]:
    """The design with one part as its form says, and the part, which may have a new name.

    Raises:
        EditError: with a sentence beside each field that is refused.
    """
    form = str(ref)
    try:
        specs, before = part_specs(design, catalogue, ref, typed.get("kind")), noun_of(design, ref)
    except KeyError:
        raise EditError(form, {"": f"There is no '{ref.name}' any more."}, typed) from None
    data = data_of(design)
    part, prefix = part_data(data, ref), path_of(data, ref)
    sentences = read_fields(part, specs, typed, units)
    if sentences:
        raise EditError(form, sentences, typed)
    if ref.collection == "heaters":
        settle_heater(design, catalogue, data, part, before)
    elif ref.collection == "controls":
        settle_control(design, catalogue, part, before)
    elif ref.collection == "sites":
        mats_follow(data, catalogue, part, before)
    after = PartRef(ref.collection, part.get("name", ref.name))
    _rename(data, ref, after.name)
    made = read_edited(form, data, typed, units, catalogue, prefix, design)
    if ref.collection == "heaters":
        refuse_overload(form, part, before, made, typed, catalogue)
    return made, after


def _rename(data: Data, ref: PartRef, name: str) -> None:
    """Heaters follow the new name of their control or site."""
    key = {"controls": "control", "sites": "site"}.get(ref.collection)
    for heater in data.get("heaters", []) if key and name != ref.name else ():
        if heater.get(key) == ref.name:
            heater[key] = name


def add_part(design: Design, catalogue: Catalogue, what: str) -> tuple[Design, PartRef]:
    """The design with one more source of that kind, UV lamp, plain light, site or vent, and what was added.

    Raises:
        EditError: the kind is unknown, or has nowhere to go.
    """
    data = data_of(design)
    ref = _add(design, catalogue, data, what)
    return read_edited("add", data, {}, METRIC, catalogue, before=design), ref


def _add(design: Design, catalogue: Catalogue, data: Data, what: str) -> PartRef:
    shining = {part.name for part in design.powered}
    if what in catalogue.sources:
        ref = _append(
            data, "heaters", new_name(shining, catalogue.sources[what].label), _new_heater(design, catalogue, what)
        )
        _regulate(design, catalogue, data, what)
        return ref
    if what in catalogue.uvb:
        return _append(data, "uvb", new_name(shining, catalogue.uvb[what].label), new_tube(design, catalogue, what))
    if what == LED:
        return _append(data, "lights", new_name(shining, "plain light"), {"watts": 12.0, **at_the_warm_end(design)})
    if what in ROLE_WORDS:
        name = new_name({site.name for site in design.sites}, ROLE_WORDS[what])
        added = _append(data, "sites", name, new_site(design, catalogue, what))
        move_clear(data, data["sites"][-1])
        return added
    if what == NEW_VENT:
        data["enclosure"]["vents"] = [*data["enclosure"].get("vents", []), new_vent(design)]
        return PartRef("vents", f"{VENT}{len(data['enclosure']['vents'])}")
    raise EditError("add", {"": f"The catalogue has no source '{what}'."}, {})


def _new_heater(design: Design, catalogue: Catalogue, what: str) -> Data:
    if catalogue.sources[what].family == "rock" and not design.sites:
        raise EditError("add", {"": "A hot rock is a piece of furniture that is heated: add furniture first."}, {})
    return new_heater(design, catalogue, what)


def _regulate(design: Design, catalogue: Catalogue, data: Data, what: str) -> None:
    """What gives no light never runs without a thermostat: nobody would see that it is on."""
    kind, part = catalogue.sources[what], data["heaters"][-1]
    if not kind.light:
        add_control(
            design, catalogue, data, Heater.model_validate(part), part, usual_control(kind, part["watts"], catalogue)
        )


def _append(data: Data, collection: Any, name: str, part: Data) -> PartRef:
    data.setdefault(collection, []).append({"name": name, **part})
    return PartRef(collection, name)


def copy_part(design: Design, catalogue: Catalogue, ref: PartRef) -> tuple[Design, PartRef]:
    """The design with a part twice, the copy a little beside it; a copied control gets no heater and so none is made.

    Raises:
        EditError: the part is not there, or the copy does not fit.
    """
    data = data_of(design)
    try:
        copy = deepcopy(part_data(data, ref))
    except KeyError:
        raise EditError("add", {"": f"There is no '{ref.name}' any more."}, {}) from None
    if ref.collection == "controls":
        raise EditError(
            "add", {"": "A control is made where a heat source is regulated: choose 'by a new …' there."}, {}
        )
    if ref.collection == "vents":
        data["enclosure"]["vents"].append(copy)
        copied = PartRef("vents", f"{VENT}{len(data['enclosure']['vents'])}")
        return read_edited("add", data, {}, METRIC, catalogue, before=design), copied
    taken = {part["name"] for key in ("heaters", "lights", "uvb", "sites") for part in data.get(key, [])}
    copy["name"] = new_name(taken, ref.name)
    limit_m = design.enclosure.length_m - copy.get("length_m", 0.0) / 2
    ahead_m = copy["x_m"] + COPY_MOVED_M
    copy["x_m"] = round(ahead_m if ahead_m <= limit_m else max(copy["x_m"] - COPY_MOVED_M, 0.0), 4)
    data[ref.collection].append(copy)
    keep_part_inside(data, catalogue, ref.collection, copy)
    if ref.collection == "sites":
        move_clear(data, copy)
    return read_edited("add", data, {}, METRIC, catalogue, before=design), PartRef(ref.collection, copy["name"])


def remove_part(design: Design, catalogue: Catalogue, ref: PartRef) -> Design:
    """The design without a part; heaters of a control that goes run without one, those of a site go with it.

    Raises:
        EditError: the part is not there.
    """
    data = data_of(design)
    try:
        path = path_of(data, ref)
    except KeyError:
        raise EditError("add", {"": f"There is no '{ref.name}' any more."}, {}) from None
    if ref.collection == "vents":
        del data["enclosure"]["vents"][int(path.rpartition("[")[2].rstrip("]"))]
        return read_edited("add", data, {}, METRIC, catalogue, before=design)
    data[ref.collection] = [part for part in data[ref.collection] if part["name"] != ref.name]
    for heater in data.get("heaters", []):
        if ref.collection == "controls" and heater.get("control") == ref.name:
            put_at(heater, "control", None)
    if ref.collection == "sites":
        data["heaters"] = [heater for heater in data.get("heaters", []) if heater.get("site") != ref.name]
    without_idle_controls(data)
    return read_edited("add", data, {}, METRIC, catalogue, before=design)


def apply_fix(design: Design, catalogue: Catalogue, kind: ChangeKind, name: str, value: float) -> Design:
    """The design with one of the offered changes.

    Raises:
        EditError: the change does not fit the design any more.
    """
    try:
        return apply_change(design, catalogue, kind, name, value)
    except BadDesignError as error:
        raise EditError("add", {"": f"That change does not fit any more: {error}"}, {}) from None
    except (KeyError, ValueError):
        raise EditError("add", {"": "That change does not fit any more: what it changes is not there."}, {}) from None
