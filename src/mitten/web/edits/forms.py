"""Forms of the Heat page as typed: lengths in cm, heights above the ground, temperatures in °C.

A field that a form does not have is None and leaves the design as it is; one that was emptied is "".
"""

import json
from collections.abc import Mapping
from typing import Any, Self

from pydantic import BaseModel, model_validator

from mitten.core.catalogue import load_catalogue, read_checked_design
from mitten.core.design import BadDesignError, Design, Fault, MittenError

Typed = str | None


class PartForm(BaseModel):
    """A form says which fields it ``shown``, because one that was emptied arrives as if it were not there."""

    shown: str = ""

    @model_validator(mode="after")
    def _emptied(self) -> Self:
        for field in self.shown.split():
            if field in type(self).model_fields and getattr(self, field) is None:
                setattr(self, field, "")
        return self


class HeaterForm(PartForm):
    """A heater."""

    kind: str = ""
    watts: str = ""
    x_cm: str = ""
    y_cm: Typed = None
    height_cm: Typed = None
    length_cm: Typed = None
    depth_cm: Typed = None
    place: Typed = None
    site: Typed = None
    tilt_deg: Typed = None
    dim_percent: Typed = None
    on: Typed = None
    control: Typed = None


class ControlForm(PartForm):
    """A control with its probe."""

    kind: str = ""
    day_c: Typed = None
    night_c: Typed = None
    reads: Typed = None
    x_cm: Typed = None
    y_cm: Typed = None
    height_cm: Typed = None
    shaded: Typed = None


class LightForm(PartForm):
    """A plain light or a UV lamp."""

    watts: str = ""
    uvi_at_30cm: Typed = None
    x_cm: str = ""
    y_cm: Typed = None
    height_cm: str = ""
    length_cm: Typed = None


class RoomForm(BaseModel):
    """The room's temperatures, and its humidity in per cent."""

    winter_day: str = ""
    winter_night: str = ""
    summer_day: str = ""
    summer_night: str = ""


class EditError(MittenError):
    """An edit that was refused: sentences by field, and the form as it was typed."""

    def __init__(self, form: str, sentences: Mapping[str, str], typed: Mapping[str, Any]) -> None:
        super().__init__(" ".join(sentences.values()))
        self.form = form
        self.sentences = dict(sentences)
        self.typed = {key: value for key, value in typed.items() if value is not None}


def number_of(text: str) -> float:
    """A number as keepers write it, with point or comma.

    Raises:
        ValueError: it is none.
    """
    return float(text.strip().replace(",", "."))


def numbers_of(form_name: str, form: BaseModel, fields: tuple[str, ...]) -> dict[str, float]:
    """The numbers typed in those fields that the form has.

    Raises:
        EditError: with a sentence beside each that is none.
    """
    typed = form.model_dump()
    numbers, sentences = {}, {}
    for field in fields:
        if typed[field] is None:
            continue
        try:
            numbers[field] = number_of(typed[field])
        except ValueError:
            shown = typed[field].strip()
            sentences[field] = f"'{shown}' is not a number." if shown else "Enter a number."
    if sentences:
        raise EditError(form_name, sentences, typed)
    return numbers


def read_edited(form_name: str, data: dict[str, Any], form: BaseModel, fields: Mapping[str, str]) -> Design:
    """The design of edited data; ``fields`` says which field of the form a key of the file belongs to.

    Raises:
        EditError: with a sentence beside each field that is refused.
    """
    try:
        return read_checked_design(json.dumps(data), load_catalogue())
    except BadDesignError as error:
        sentences = {_field(fault, fields): fault.sentence[:1].upper() + fault.sentence[1:] for fault in error.faults}
        raise EditError(form_name, sentences, form.model_dump()) from None


def _field(fault: Fault, fields: Mapping[str, str]) -> str:
    """The form's field for a fault's path; the form as a whole for any other."""
    return next((field for key, field in fields.items() if fault.path.endswith(key)), "")


def data_of(design: Design) -> dict[str, Any]:
    """A design's data, to be changed and read again."""
    return design.model_dump(mode="json", exclude_none=True)


def named(parts: list[dict[str, Any]], name: str) -> dict[str, Any]:
    """The part of that name in a design's data.

    Raises:
        KeyError: there is none.
    """
    for part in parts:
        if part["name"] == name:
            return part
    raise KeyError(name)
