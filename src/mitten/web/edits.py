"""Forms of the Heat page: what was typed, into a new design or a sentence beside the field."""

import json
from typing import Any

from pydantic import BaseModel

from mitten.core.catalogue import load_catalogue, read_checked_design
from mitten.core.design import (
    LAMP_ABOVE_LID_LIMIT_M,
    LEAST_LAMP_HEIGHT_M,
    BadDesignError,
    Design,
    Fault,
    Heater,
    MittenError,
)
from mitten.core.judge import fixture_rating_w

JUST_ABOVE_THE_MESH_M = 0.02
UNDER_THE_LID_M = 0.10
"""Where a lamp goes when it changes sides of the mesh and its height no longer fits."""


class HeaterForm(BaseModel):
    """A heater's fields as typed: lengths in cm, the height above the ground."""

    kind: str = ""
    watts: str = ""
    x_cm: str = ""
    height_cm: str = ""
    place: str = "inside"
    on: str = "day"


class RoomForm(BaseModel):
    """The room's temperatures as typed, in °C."""

    winter_day: str = ""
    winter_night: str = ""
    summer_day: str = ""
    summer_night: str = ""


class EditError(MittenError):
    """An edit that was refused: sentences by field, and the form as it was typed."""

    def __init__(self, form: str, sentences: dict[str, str], typed: dict[str, str]) -> None:
        super().__init__(" ".join(sentences.values()))
        self.form = form
        self.sentences = sentences
        self.typed = typed


def number_of(text: str) -> float:
    """A number as keepers write it, with point or comma.

    Raises:
        ValueError: it is none.
    """
    return float(text.strip().replace(",", "."))


def edit_heater(design: Design, name: str, form: HeaterForm) -> Design:
    """The design with one heater as the form says.

    Raises:
        EditError: with a sentence beside each field that is refused.
    """
    try:
        before = design.heater(name)
    except KeyError:
        raise EditError(name, {"": f"There is no heater '{name}' any more."}, form.model_dump()) from None
    numbers = _numbers(name, form, ("watts", "x_cm", "height_cm"))
    changes: dict[str, Any] = {
        "kind": form.kind,
        "watts": numbers["watts"],
        "x_m": round(numbers["x_cm"] / 100, 4),
        "z_m": round(numbers["height_cm"] / 100 + design.substrate.depth_m, 4),
        "above_mesh": form.place == "above",
        "on": form.on,
    }
    if changes["above_mesh"] != before.above_mesh and changes["z_m"] == round(before.z_m, 4):
        changes["z_m"] = _height_on_other_side(design, changes["above_mesh"])
    _refuse_out_of_range(name, design, form, changes)
    _refuse_overload(name, before, form, numbers["watts"])
    return _read(name, design.with_heater(name, **changes), form, _HEATER_FIELDS)


def edit_room(design: Design, form: RoomForm) -> Design:
    """The design in another room.

    Raises:
        EditError: with a sentence beside each field that is refused.
    """
    fields = ("winter_day", "winter_night", "summer_day", "summer_night")
    numbers = _numbers("room", form, fields)
    data = design.model_dump(mode="json", exclude_none=True)
    for field in fields:
        season, time = field.split("_")
        data["room"][season][f"{time}_c"] = numbers[field]
    return _read("room", data, form, {f"{s}.{t}_c": f"{s}_{t}" for s, t in (f.split("_") for f in fields)})


def summary_of(before: Design, after: Design) -> str:
    """What changed between two designs, in words for the history."""
    said = [
        words
        for old, new in zip(before.heaters, after.heaters, strict=False)
        if old != new
        for words in _heater_changes(old, new, before.substrate.depth_m)
    ]
    for season in ("winter", "summer"):
        for time in ("day", "night"):
            old_c = getattr(getattr(before.room, season), f"{time}_c")
            new_c = getattr(getattr(after.room, season), f"{time}_c")
            if old_c != new_c:
                said.append(f"Room, {season} {time}: {old_c:g} to {new_c:g} °C")
    return "; ".join(said) or "Changed"


_HEATER_FIELDS = {
    "kind": "kind",
    "watts": "watts",
    "x_m": "x_cm",
    "z_m": "height_cm",
    "above_mesh": "place",
    "on": "on",
}


def _heater_changes(old: Heater, new: Heater, ground_m: float) -> list[str]:
    lamps = load_catalogue().sources
    said = []
    if old.kind != new.kind:
        said.append(f"{lamps[old.kind].label} to {lamps[new.kind].label}")
    if old.watts != new.watts:
        said.append(f"{old.watts:g} to {new.watts:g} W")
    if old.x_m != new.x_m:
        said.append(f"from left {old.x_m * 100:g} to {new.x_m * 100:g} cm")
    if old.z_m != new.z_m:
        said.append(f"height {(old.z_m - ground_m) * 100:.4g} to {(new.z_m - ground_m) * 100:.4g} cm")
    if old.above_mesh != new.above_mesh:
        said.append("moved above the mesh" if new.above_mesh else "moved inside")
    if old.on != new.on:
        said.append(f"runs {old.on} to {new.on}")
    return [f"{new.name}: {words}" for words in said]


def _numbers(form_name: str, form: BaseModel, fields: tuple[str, ...]) -> dict[str, float]:
    typed = form.model_dump()
    numbers, sentences = {}, {}
    for field in fields:
        try:
            numbers[field] = number_of(typed[field])
        except ValueError:
            shown = typed[field].strip()
            sentences[field] = f"'{shown}' is not a number." if shown else "Enter a number."
    if sentences:
        raise EditError(form_name, sentences, typed)
    return numbers


def _height_on_other_side(design: Design, above: bool) -> float:
    height_m = design.enclosure.height_m
    return round(height_m + JUST_ABOVE_THE_MESH_M if above else height_m - UNDER_THE_LID_M, 4)


def height_limits_cm(design: Design, above_mesh: bool) -> tuple[float, float]:
    """Lowest and highest place of a lamp, in cm above the ground, inside the box or above its lid."""
    lid_cm = (design.enclosure.height_m - design.substrate.depth_m) * 100
    return (lid_cm + 1, lid_cm + LAMP_ABOVE_LID_LIMIT_M * 100) if above_mesh else (LEAST_LAMP_HEIGHT_M * 100, lid_cm)


def _refuse_out_of_range(name: str, design: Design, form: HeaterForm, changes: dict[str, Any]) -> None:
    """Say beside the field what is allowed, in the page's own units."""
    sentences = {}
    length_cm = design.enclosure.length_m * 100
    if not 0 <= changes["x_m"] * 100 <= length_cm:
        sentences["x_cm"] = f"Between 0 and {length_cm:g} cm in this box."
    low, high = height_limits_cm(design, changes["above_mesh"])
    if not low - 0.01 <= (changes["z_m"] - design.substrate.depth_m) * 100 <= high + 0.01:
        where = "above this mesh" if changes["above_mesh"] else "inside this box"
        sentences["height_cm"] = f"Between {low:g} and {high:g} cm above the ground {where}."
    if sentences:
        raise EditError(name, sentences, form.model_dump())


def _refuse_overload(name: str, before: Heater, form: HeaterForm, watts: float) -> None:
    """A lamp stronger than its fixture is not taken at all; one that already hangs there may still be moved."""
    rating = fixture_rating_w(before.fixture, load_catalogue())
    if watts > rating and watts != before.watts:
        sentence = (
            f"{watts:g} W is more than the {rating:g} W this fixture is rated for: it would overheat. "
            f"Choose {rating:g} W or less, or get a fixture rated for it."
        )
        raise EditError(name, {"watts": sentence}, form.model_dump())


def _read(form_name: str, data: dict[str, Any], form: BaseModel, fields: dict[str, str]) -> Design:
    try:
        return read_checked_design(json.dumps(data), load_catalogue())
    except BadDesignError as error:
        sentences = {_field(fault, fields): fault.sentence[:1].upper() + fault.sentence[1:] for fault in error.faults}
        raise EditError(form_name, sentences, form.model_dump()) from None


def _field(fault: Fault, fields: dict[str, str]) -> str:
    """The form's field for a fault's path; the form as a whole for any other."""
    return next((field for key, field in fields.items() if fault.path.endswith(key)), "")
