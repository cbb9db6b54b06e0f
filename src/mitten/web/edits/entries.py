"""Entries of the library as fields: every figure by its path, and what was typed back into an entry."""

import hashlib
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from types import UnionType
from typing import Any, Literal, Union, get_args, get_origin

from pydantic import BaseModel, ValidationError

from mitten.core.catalogue import TABLES, Entry, check_entry
from mitten.core.design.amounts import capital, centimetres
from mitten.core.design.units import (
    ANGLE,
    LENGTH,
    MASS,
    PLAIN,
    SHARE,
    TEMPERATURE,
    THICKNESS,
    WATTS,
    BadQuantityError,
    Quantity,
    Units,
)
from mitten.web.edits.fields import NO, YES, EditError, Typed, at_path, put_at
from mitten.web.edits.target_specs import BEARABLE

NOT_FIGURES = ("notes", "origin")
NOTE = "note:"
OWN_FIGURE = "your own figure"
SEEN = "seen"
"""The field of the editor that says which state of the entry it was opened with."""

ENDS = 2
SEVERAL = "; "
"""Between the figures of a range or a list, where a comma would be taken for a decimal."""

BETWEEN = re.compile(r";|\bto\b|–")
"""What may stand between them when they are typed."""

ENDINGS: tuple[tuple[str, Quantity], ...] = (
    ("_c", TEMPERATURE), ("_m", LENGTH), ("_mm", THICKNESS), ("_g", MASS),
    ("_deg", ANGLE), ("watts", WATTS), ("watts_sold", WATTS), ("_w", WATTS),
    ("humidity", SHARE), ("_share", SHARE),
)  # fmt: skip
UNIT_WORDS = {
    "_c": "", "_m": "", "_deg": "", "_mm": "", "_g": "", "_k": " in K", "_m2": " in m²", "_w_mk": " in W/mK",
    "_mj_m3k": " in MJ/m³K", "_w_m2": " in W/m²",
}  # fmt: skip


@dataclass(frozen=True)
class Leaf:
    """One figure or word of an entry: its path, what it is, its value, and the choices where it has some."""

    path: str
    label: str
    value: Any
    quantity: Quantity
    choices: Sequence[str] = ()
    is_several: bool = False
    """Whether it is a range or a list."""

    @property
    def is_flag(self) -> bool:
        """Whether it is yes or no."""
        return isinstance(self.value, bool)

    def shown(self, units: Units) -> str:
        """The value as it stands in a field."""
        if self.value is None:
            return ""
        if self.is_flag:
            return YES if self.value else NO
        if isinstance(self.value, str):
            return self.value
        values = self.value if isinstance(self.value, (list, tuple)) else [self.value]
        return SEVERAL.join(one if isinstance(one, str) else units.show(self.quantity, one) for one in values)


def leaves_of(table: str, entry: Entry) -> list[Leaf]:
    """Every figure of an entry, in the order of its kind; what is borne of a target comes after what is wanted."""
    leaves = list(_leaves(TABLES[table], entry.model_dump(mode="json"), ""))
    order = {leaf.path: place for place, leaf in enumerate(leaves)}
    after = {bearable_path(leaf.path): order[leaf.path] + 0.5 for leaf in leaves}
    return sorted(leaves, key=lambda leaf: after.get(leaf.path, order[leaf.path]))


def mark_of(entry: Entry) -> str:
    """What tells this state of an entry from any other."""
    return hashlib.sha256(entry.model_dump_json().encode()).hexdigest()[:16]


def bearable_path(path: str) -> str:
    """Where what is borne of a target stands: ``targets.night_c`` to ``targets.bearable.night_c``."""
    group, _, name = path.rpartition(".")
    return f"{group}.{BEARABLE}{name}"


def _leaves(model: type[BaseModel], content: Mapping[str, Any], prefix: str) -> Iterator[Leaf]:
    for name, field in model.model_fields.items():
        if name in NOT_FIGURES:
            continue
        nested, value = _model_in(field.annotation), content.get(name)
        if nested is not None:
            yield from _leaves(nested, value or {}, f"{prefix}{name}.")
        else:
            choices, several = _choices(field.annotation), _is_several(field.annotation)
            yield Leaf(f"{prefix}{name}", _label(prefix, name), value, quantity_of(name, prefix), choices, several)


def _model_in(annotation: Any) -> type[BaseModel] | None:
    return annotation if isinstance(annotation, type) and issubclass(annotation, BaseModel) else None


def _choices(annotation: Any) -> tuple[str, ...]:
    if get_origin(annotation) is Literal:
        return tuple(str(one) for one in get_args(annotation))
    if get_origin(annotation) in (Union, UnionType):
        return next((_choices(one) for one in get_args(annotation) if get_origin(one) is Literal), ())
    return ()


def _is_several(annotation: Any) -> bool:
    return get_origin(annotation) is tuple or any(_is_several(one) for one in get_args(annotation))


def quantity_of(name: str, prefix: str = "") -> Quantity:
    """What kind of number a key's ending says it is; within a group by stage, the group's."""
    key = prefix.rstrip(".").rpartition(".")[2] if name in ("hatchling", "juvenile", "adult") else name
    return next((quantity for ending, quantity in ENDINGS if key.endswith(ending)), PLAIN)


def _label(prefix: str, name: str) -> str:
    """A key as words: ``targets.night_c`` as "night", ``length_m.adult`` as "length, adult"."""
    group = prefix.rstrip(".").rpartition(".")[2]
    if name in ("hatchling", "juvenile", "adult"):
        return f"{_words(group)}, {name}"
    if group == BEARABLE.rstrip("."):
        stage = prefix.rstrip(".").rpartition(".")[0].rpartition(".")[2]
        return f"{_words(name)}, bearable{f', {stage}' if stage in ('hatchling', 'juvenile') else ''}"
    return f"{_words(name)}, {group}" if group in ("hatchling", "juvenile") else _words(name)


def _words(key: str) -> str:
    ending = next((one for one in sorted(UNIT_WORDS, key=len, reverse=True) if key.endswith(one)), "")
    return key.removesuffix(ending).replace("_", " ").replace("uvi", "UV index").replace(
        "30cm", centimetres(30)
    ) + UNIT_WORDS.get(ending, "")


def read_entry(table: str, before: Entry, typed: Typed, units: Units) -> Entry:
    """An entry as its form says.

    Raises:
        EditError: with a sentence beside each field that is refused.
    """
    content, sentences = before.model_dump(mode="json", exclude_none=True), dict[str, str]()
    changed = []
    for leaf in leaves_of(table, before):
        text = typed.get(leaf.path)
        if text is None or text.strip() == leaf.shown(units):
            continue
        changed.append(leaf.path)
        try:
            put_at(content, leaf.path, _value(leaf, text.strip(), units))
            _hold_what_is_wanted(content, leaf.path)
        except BadQuantityError as error:
            sentences[leaf.path] = units.say(str(error))
    if sentences:
        raise EditError("entry", sentences, typed)
    content["notes"] = _notes(table, before, content, typed)
    try:
        return check_entry(table, content)
    except ValidationError as error:
        raise EditError("entry", fault_sentences(table, before, error, units, changed), typed) from None


def _notes(table: str, before: Entry, content: dict[str, Any], typed: Typed) -> dict[str, str]:
    """Where figures come from: as the keeper says; of a figure of the keeper's without a word, that it is one."""
    typed_notes = {key.removeprefix(NOTE): text.strip() for key, text in typed.items() if key.startswith(NOTE)}
    notes = {path: text for path, text in {**before.notes, **typed_notes}.items() if text}
    figures = (leaf for leaf in leaves_of(table, before) if leaf.path != "label")
    own = {leaf.path: OWN_FIGURE for leaf in figures if at_path(content, leaf.path) != leaf.value}
    return own | notes


def _hold_what_is_wanted(content: dict[str, Any], path: str) -> None:
    """Widen what is borne of a target to hold what is newly wanted; what is typed there itself comes after it."""
    wanted, borne = at_path(content, path), at_path(content, bearable_path(path))
    if isinstance(wanted, list) and isinstance(borne, list) and len(wanted) == len(borne) == ENDS:
        put_at(content, bearable_path(path), [min(borne[0], wanted[0]), max(borne[1], wanted[1])])


def _value(leaf: Leaf, text: str, units: Units) -> Any:
    if not text:
        return None
    if leaf.is_flag:
        if text not in (YES, NO):
            raise BadQuantityError("Say yes or no.")
        return text == YES
    if leaf.is_several:
        return _several(leaf, text, units)
    if leaf.choices or isinstance(leaf.value, str):
        return text
    return units.read(leaf.quantity, text)


def _several(leaf: Leaf, text: str, units: Units) -> list[Any]:
    """Figures, or words where the entry had words."""
    parts = [part.strip() for part in BETWEEN.split(text) if part.strip()]
    if leaf.value and isinstance(leaf.value[0], str):
        return parts
    return [units.read(leaf.quantity, part) for part in parts]


def fault_sentences(
    table: str, before: Entry, error: ValidationError, units: Units, changed: Sequence[str]
) -> dict[str, str]:
    """What is refused, by the path of the figure, in words and the keeper's units: of figures that do not agree, by
    that of one that was changed.
    """
    leaves, found = {leaf.path: leaf for leaf in leaves_of(table, before)}, dict[str, str]()
    for fault in error.errors():
        steps = [str(step) for step in fault["loc"] if not isinstance(step, int)]
        said = fault.get("ctx", {})
        if fault["type"] == "odd_figure":
            path = ".".join((*steps, said["path"]))
            others = [".".join((*steps, one)) for one in said["others"]]
            found[next((one for one in (path, *others) if one in changed), path)] = units.say(said["said"])
            continue
        path = ".".join(steps)
        # Of several figures of one field the first that is refused is told.
        found.setdefault(path, _refusal_words(fault["type"], said, leaves.get(path), units))
    return found


LIMITS = {
    "greater_than": ("gt", "Must be more than"), "greater_than_equal": ("ge", "Must be at least"),
    "less_than": ("lt", "Must be less than"), "less_than_equal": ("le", "Must be at most"),
}  # fmt: skip


SAID = {
    "literal_error": "Must be {expected}.",
    "string_too_long": "Too long: at most {max_length} letters.",
    "too_long": "Too many figures: at most {max_length}, with a semicolon between them.",
}


def _refusal_words(kind: str, context: Mapping[str, Any], leaf: Leaf | None, units: Units) -> str:
    """One refusal as a sentence."""
    if kind == "value_error":
        return capital(str(context["error"]))
    if kind in LIMITS and leaf is not None:
        key, words = LIMITS[kind]
        return f"{words} {units.say_with_unit(leaf.quantity, context[key])}."
    return SAID[kind].format(**context) if kind in SAID else _asked_for(leaf)


def _asked_for(leaf: Leaf | None) -> str:
    """What is to be entered where nothing is, or nothing that can be read."""
    if leaf is not None and (isinstance(leaf.value, str) or leaf.choices):
        return "Enter a name." if leaf.path == "label" else "Enter a word."
    return "Enter every figure, with a semicolon between them." if leaf and leaf.is_several else "Enter a number."


def key_of(label: str, taken: Mapping[str, object]) -> str:
    """A key for a new entry from its label."""
    slug = re.sub(r"[^a-z0-9]+", "-", label.lower()).strip("-")[:50] or "own"
    return next(key for key in (slug, *(f"{slug}-{number}" for number in range(2, 1000))) if key not in taken)
