"""Design files: strict reading, a plain sentence for each fault, and writing."""

import difflib
import json
from collections.abc import Iterable
from typing import Any, NoReturn

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from mitten.core.design.design import Design, faults_of_fit
from mitten.core.design.editing import data_of
from mitten.core.design.faults import BadDesignError, Fault
from mitten.core.design.schedule import CLOCK_TIME, MONTH_DAY

MAX_FILE_BYTES = 1_000_000
"""A design is a few kilobytes; what is larger than this is something else."""

TOO_LARGE = f"the file is larger than {MAX_FILE_BYTES / 1e6:g} MB; a design is a few kilobytes."

MOST_ENTRIES, MOST_VALUES = 300, 10_000
"""Entries of one list or object, and values in all: a design of the largest enclosure has a few hundred. What has more
is refused before each of its faults is looked for.
"""

LONGEST_PATH = 200

FORMAT = "mitten-design/1"


def read_design(content: bytes | str) -> Design:
    """Read a design file's content.

    Raises:
        BadDesignError: with every fault found, each naming the key's path.
    """
    text = _text_of(content)
    _check_json(text)
    try:
        design = Design.model_validate_json(text)
    except ValidationError as error:
        raise BadDesignError([_fault_of(detail) for detail in error.errors()]) from None
    faults = faults_of_fit(design)
    if faults:
        raise BadDesignError(faults)
    return design


def write_design(design: Design) -> str:
    """The design as a file: JSON, keys in the order of the format, without unset keys."""
    return json.dumps(data_of(design), indent=2, ensure_ascii=False) + "\n"


def design_schema() -> dict[str, Any]:
    """JSON Schema (draft 2020-12) of the design file."""
    schema = Design.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema, "title": FORMAT}


def _text_of(content: bytes | str) -> str:
    if len(content) > MAX_FILE_BYTES:
        _refuse(TOO_LARGE)
    if isinstance(content, bytes):
        try:
            content = content.decode("utf-8-sig")
        except UnicodeDecodeError:
            _refuse("the file is not UTF-8 text, so it is no design file.")
    if not content.strip():
        _refuse("the file is empty.")
    return content


def read_object(content: bytes | str) -> dict[str, Any]:
    """The one JSON object that a file holds, whatever is in it.

    Raises:
        BadDesignError: it holds none, or far more than any design.
    """
    return _object_of(_text_of(content))


def _object_of(text: str) -> dict[str, Any]:
    try:
        data = json.loads(text, object_pairs_hook=_no_key_twice, parse_int=float)
    except json.JSONDecodeError as error:
        _refuse(f"the file is not JSON: line {error.lineno}, column {error.colno}: {error.msg}.")
    except RecursionError:
        _refuse("the file is nested too deeply to be a design.")
    if not isinstance(data, dict):
        _refuse("a design file holds one object, { … }.")
    _check_size(data)
    return data


def _check_json(text: str) -> None:
    data = _object_of(text)
    if "format" in data and data["format"] != FORMAT:
        raise BadDesignError(
            [Fault("format", f"this version reads '{FORMAT}', not {json.dumps(data['format'])[:40]}.")]
        )


def _check_size(data: dict[str, Any]) -> None:
    """Refuse what holds far more than any design, at the place where it does."""
    waiting: list[tuple[tuple[str | int, ...], Any]] = [((), data)]
    values = 0
    while waiting:
        location, value = waiting.pop()
        if not isinstance(value, (dict, list)):
            continue
        values += len(value)
        if len(value) > MOST_ENTRIES or values > MOST_VALUES:
            raise BadDesignError([Fault(_path(location), "holds far more entries than any design.")])
        inner = value.items() if isinstance(value, dict) else enumerate(value)
        waiting.extend(((*location, key), one) for key, one in inner)


def _no_key_twice(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            raise BadDesignError([Fault(_path((key,)), "the key is given twice; only one of them can be meant.")])
        found[key] = value
    return found


def _refuse(sentence: str) -> NoReturn:
    raise BadDesignError([Fault("", sentence)])


def path_of(location: Iterable[str | int]) -> str:
    """``("heaters", 0, "watts")`` as ``heaters[0].watts``."""
    path = ""
    for part in location:
        if isinstance(part, int):
            path += f"[{part}]"
        else:
            path += f".{part}" if path else part
    return path


def _path(location: Iterable[str | int]) -> str:
    """A path that can be shown, whatever a file has for keys."""
    return path_of(location)[:LONGEST_PATH].encode("utf-8", "replace").decode()


def _fault_of(detail: ErrorDetails) -> Fault:
    path = _path(detail["loc"])
    if detail["type"] == "extra_forbidden":
        return Fault(path, _unknown_key(str(detail["loc"][-1]), detail["loc"][:-1]))
    return Fault(path, _sentence(detail))


def _unknown_key(key: str, parents: tuple[str | int, ...]) -> str:
    near = difflib.get_close_matches(key, _known_keys(parents), n=1)
    return "unknown key." + (f" Did you mean '{near[0]}'?" if near else "")


def _known_keys(parents: tuple[str | int, ...]) -> list[str]:
    """Keys that the noun at this place of the file has; none if the place is not a noun."""
    noun: type[BaseModel] | None = Design
    for part in parents:
        if noun is None or isinstance(part, int):
            continue
        field = noun.model_fields.get(part)
        noun = _noun_in(field.annotation) if field else None
    return list(noun.model_fields) if noun else []


def _noun_in(annotation: Any) -> type[BaseModel] | None:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    for argument in getattr(annotation, "__args__", ()):
        found = _noun_in(argument)
        if found:
            return found
    return None


_SENTENCES = {
    "missing": "is missing.",
    "finite_number": "must be a plain number, not NaN or infinity.",
    "float_type": "must be a number, not {shown}.",
    "int_type": "must be a whole number, not {shown}.",
    "string_type": "must be text, not {shown}.",
    "bool_type": "must be true or false, not {shown}.",
    "greater_than": "must be above {gt:g}; it is {shown}.",
    "greater_than_equal": "must be at least {ge:g}; it is {shown}.",
    "less_than": "must be below {lt:g}; it is {shown}.",
    "less_than_equal": "must be at most {le:g}; it is {shown}.",
    "literal_error": "must be {expected}, not {shown}.",
    "string_too_short": "must not be empty.",
    "too_short": "must not be empty.",
    "string_too_long": "is too long; at most {max_length} characters.",
    "too_long": "has too many entries; at most {max_length}.",
    "date_from_datetime_parsing": "must be a date such as 2026-03-01, not {shown}.",
    "date_parsing": "must be a date such as 2026-03-01, not {shown}.",
    "model_type": "must be an object, {{ … }}, not {shown}.",
    "tuple_type": "must be a list, [ … ], not {shown}.",
}


_WRITTEN = {MONTH_DAY: "a day, month-day, such as 11-15", CLOCK_TIME: "a time such as 08:00"}
"""What is written by a pattern; anything else is a name of the catalogue."""


def _sentence(detail: ErrorDetails) -> str:
    if detail["type"] == "string_pattern_mismatch":
        what = _WRITTEN.get(detail["ctx"]["pattern"], "a catalogue name such as 'halogen-flood'")
        return f"must be {what}, not {_as_written(detail['input'])}."
    if detail["type"] == "value_error":
        return str(detail["ctx"]["error"])
    if detail["type"] == "too_long" and isinstance(detail["input"], str):
        return _SENTENCES["string_too_long"].format(**detail["ctx"])
    template = _SENTENCES.get(detail["type"])
    if template is None:
        return detail["msg"].rstrip(".") + "."
    return template.format(shown=_as_written(detail["input"]), **detail.get("ctx", {}))


def _as_written(value: object) -> str:
    text = f"{value:g}" if isinstance(value, float) else json.dumps(value, ensure_ascii=False, default=str)
    return text if len(text) <= 40 else text[:39] + "…"
