"""Fields of a form: each says where in the design's data its value lies, what it is, and what may be typed.

The same list of fields makes the form that a page shows and reads what comes back from it. A field's key is the path of
its value within the part that the form is of, so that a fault of the design finds its field by its path.
"""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from functools import cache
from typing import Any, Literal

from pydantic import BaseModel

from mitten.core.catalogue import Catalogue, read_data
from mitten.core.design import BadDesignError, Design, Fault, MittenError
from mitten.core.design.amounts import capital
from mitten.core.design.daylight import ANY_YEAR
from mitten.core.design.editing import Data, data_of
from mitten.core.design.units import PLAIN, BadQuantityError, Quantity, Units
from mitten.core.design.year import MONTH_NAMES

Typed = Mapping[str, str]
FieldKind = Literal["choice", "flag", "number", "whole", "slider", "text", "date", "time", "month-day"]
YES, NO = "yes", "no"


@dataclass(frozen=True)
class Option:
    """One entry of a choice."""

    value: str
    label: str
    allowed: bool = True
    group: str = ""


@dataclass(frozen=True)
class Spec:
    """One field. ``limits`` are in the stored unit; with ``optional`` an emptied field leaves its key out.

    ``usual`` is what an absent key means; ``ground_m`` is taken off a height that is shown above the ground.
    """

    key: str
    label: str
    kind: FieldKind = "number"
    quantity: Quantity = PLAIN
    options: Sequence[Option] = ()
    limits: tuple[float, float] | None = None
    optional: bool = False
    usual: Any = None
    ground_m: float = 0.0
    rare: bool = False
    placeholder: str = ""


class EditError(MittenError):
    """An edit that was refused: sentences by field, the form as it was typed, and the parts that are in the way."""

    def __init__(
        self, form: str, sentences: Mapping[str, str], typed: Typed, troubled: frozenset[str] = frozenset()
    ) -> None:
        super().__init__(" ".join(sentences.values()))
        self.form = form
        self.sentences = dict(sentences)
        self.typed = dict(typed)
        self.troubled = troubled


def at_path(data: Any, path: str) -> Any:
    """What lies at a path such as ``probe.x_m`` or ``layers[1].depth_mm``; None where nothing does."""
    for step in _steps(path):
        try:
            data = data[step]
        except (KeyError, IndexError, TypeError):
            return None
    return data


def put_at(data: Data, path: str, value: Any) -> None:
    """Put a value at a path, making what is missing on the way; None takes the key out."""
    *way, last = _steps(path)
    place: Any = data
    for step in way:
        if isinstance(step, str) and place.get(step) is None:
            if value is None:
                return
            place[step] = {}
        place = place[step]
    if value is None and isinstance(last, str):
        place.pop(last, None)
    else:
        place[last] = value


def _steps(path: str) -> list[str | int]:
    return [int(step) if step.isdecimal() else step for step in re.findall(r"[^.\[\]]+", path)]


def shown_value(data: Data, spec: Spec, units: Units) -> str:
    """What stands in a field for the data's value."""
    value = at_path(data, spec.key)
    if value is None:
        value = spec.usual
    if spec.kind == "flag":
        return YES if value else NO
    if value is None:
        return ""
    if spec.kind in ("number", "slider"):
        return units.show(spec.quantity, value - spec.ground_m)
    if spec.kind == "whole":
        return f"{value:g}"
    return month_day_words(value) if spec.kind == "month-day" else str(value)


def read_fields(data: Data, specs: Sequence[Spec], typed: Typed, units: Units) -> dict[str, str]:
    """Put what was typed into the data; sentences by field for what could not be taken.

    What stands in a field as it was shown is left as it is stored, so that showing it rounded changes nothing.
    """
    sentences = {}
    for spec in specs:
        text = typed.get(spec.key)
        if text is None or text.strip() == shown_value(data, spec, units):
            continue
        try:
            put_at(data, spec.key, _value_of(spec, text.strip(), units))
        except BadQuantityError as error:
            sentences[spec.key] = str(error)
    return sentences


def _value_of(spec: Spec, text: str, units: Units) -> Any:
    if not text and spec.optional:
        return None
    if spec.kind == "flag":
        return text == YES
    if spec.kind == "whole":
        return _whole(text)
    if spec.kind == "time":
        return time_of(text)
    if spec.kind == "month-day":
        return month_day_of(text)
    if spec.kind in ("number", "slider"):
        value = round(units.read(spec.quantity, text) + spec.ground_m, 6)
        if spec.limits is not None and not spec.limits[0] - 1e-6 <= value <= spec.limits[1] + 1e-6:
            raise BadQuantityError(limits_sentence(spec, units))
        return value
    return text


def _whole(text: str) -> int:
    if not re.fullmatch(r"\d{1,6}", text):
        raise BadQuantityError(f"'{text[:30]}' is not a whole number." if text else "Enter a whole number.")
    return int(text)


_TIME = re.compile(r"(\d{1,2})(?:[:.h ]?([0-5]\d))?\s*(?:([ap])\.?\s*m\.?|o'?clock|h)?", re.IGNORECASE)
_NOON_H = 12


def time_of(text: str) -> str:
    """A time of day as it is stored, ``08:00``, from ``8``, ``8am``, ``8.30 pm`` or ``20:15``.

    Raises:
        BadQuantityError: with a sentence that says what it is not.
    """
    if not text:
        raise BadQuantityError("Enter a time of day, such as 8:00, 8am or 20:15.")
    found = _TIME.fullmatch(text)
    hour, minute, half = found.groups() if found else ("99", None, None)
    hours = int(hour)
    if half and 0 < hours <= _NOON_H:
        hours = hours % _NOON_H + _NOON_H * (half in "pP")
    if hours >= 2 * _NOON_H:
        raise BadQuantityError(f"'{text[:30]}' is no time of day: type it as 8:00, 8am or 20:15.")
    return f"{hours:02d}:{minute or '00'}"


_MONTH_DAY = re.compile(
    r"(?P<month>\d{1,2})\s*[-/.]\s*(?P<day>\d{1,2})\.?"
    r"|(?P<day_before>\d{1,2})\.?\s*(?P<name>[a-z]+)\.?"
    r"|(?P<name_before>[a-z]+)\.?\s*(?P<day_after>\d{1,2})\.?"
)
LETTERS_OF_A_MONTH = 3


def month_day_of(text: str) -> str:
    """A day of the year as it is stored, ``11-15``, from ``15 November``, ``Nov 15`` or ``11-15``.

    Raises:
        BadQuantityError: with a sentence that says what it is not.
    """
    found = _MONTH_DAY.fullmatch(text.strip().lower())
    refused = BadQuantityError(f"'{text[:30]}' is no day of the year: type it as 15 November, or 11-15.")
    if found is None:
        raise refused
    if found["month"]:
        month, day = int(found["month"]), int(found["day"])
    else:
        name, day = found["name"] or found["name_before"], int(found["day_before"] or found["day_after"])
        known = [number for number, one in enumerate(MONTH_NAMES, 1) if one.lower().startswith(name)]
        if len(name) < LETTERS_OF_A_MONTH or not known:
            raise refused
        month = known[0]
    try:
        date(ANY_YEAR, month, day)
    except ValueError:
        raise refused from None
    return f"{month:02d}-{day:02d}"


def month_day_words(stored: str) -> str:
    """A day of the year in words: ``15 November``."""
    month, day = (int(part) for part in stored.split("-"))
    return f"{day} {MONTH_NAMES[month - 1]}"


def limits_sentence(spec: Spec, units: Units) -> str:
    """What is allowed in a field, in the keeper's units."""
    low, high = (end - spec.ground_m for end in spec.limits or (0.0, 0.0))
    return f"Between {units.show(spec.quantity, low)} and {units.say_with_unit(spec.quantity, high)}."


@cache
def noun_limits(noun: type[BaseModel], key: str) -> tuple[float, float] | None:
    """The range of a number as the noun's schema declares it; None where it does not declare both ends."""
    schema = noun.model_json_schema()["properties"][key]
    for choice in (schema, *schema.get("anyOf", ())):
        low = choice.get("minimum", choice.get("exclusiveMinimum"))
        high = choice.get("maximum", choice.get("exclusiveMaximum"))
        if low is not None and high is not None:
            return float(low), float(high)
    return None


def read_edited(
    form: str,
    data: Data,
    typed: Typed,
    units: Units,
    catalogue: Catalogue,
    prefix: str = "",
    before: Design | None = None,
) -> Design:
    """The design of edited data, of which it was ``before``; faults under ``prefix`` stand beside their fields, others
    over the form.

    Raises:
        EditError: with every fault found.
    """
    try:
        return read_data(data, catalogue, before)
    except BadDesignError as error:
        sentences: dict[str, str] = {}
        came_from = _only_change(data, before, typed, prefix)
        for fault in error.faults:
            key = came_from or _key_of(fault, prefix, typed)
            said = units.say(capital(fault.sentence))
            if said not in sentences.get(key, ""):
                sentences[key] = f"{sentences[key]} {said}" if key in sentences else said
        raise EditError(form, sentences, typed, _parts_named(data, error)) from None


def _only_change(data: Data, before: Design | None, typed: Typed, prefix: str) -> str:
    """The field that alone was changed: whatever does not fit any more came from it."""
    if before is None:
        return ""
    was = data_of(before)
    paths = {key: f"{prefix}.{key}".lstrip(".") for key in typed if key}
    changed = [key for key, path in paths.items() if at_path(was, path) != at_path(data, path)]
    return changed[0] if len(changed) == 1 else ""


def _key_of(fault: Fault, prefix: str, typed: Typed) -> str:
    """The field of a fault's path: itself, or one that its path leads into; else the form as a whole."""
    if not fault.path.startswith(prefix):
        return ""
    path = fault.path.removeprefix(prefix).lstrip(".")
    return next((key for key in typed if key and (path == key or key.startswith(f"{path}["))), "")


def _parts_named(data: Data, error: BadDesignError) -> frozenset[str]:
    """Names of the parts that faults lie in, to be marked on the drawing."""
    found = set()
    for fault in error.faults:
        part = re.match(r"(\w+\[\d+\])", fault.path)
        name = at_path(data, f"{part[1]}.name") if part else None
        if name:
            found.add(name)
    return frozenset(found)


def index_of(parts: Sequence[Data], name: str) -> int:
    """Where the part of that name stands among the design's data.

    Raises:
        KeyError: there is none.
    """
    for index, part in enumerate(parts):
        if part["name"] == name:
            return index
    raise KeyError(name)
