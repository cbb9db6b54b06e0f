"""Own entries of a library that travel: within a design's file, and as a file of their own."""

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from mitten.core.catalogue.catalogue import (
    TABLES,
    Catalogue,
    Own,
    check_entry,
    names_in,
    read_checked_design,
    shipped_catalogue,
)
from mitten.core.catalogue.entry import Entry
from mitten.core.design import BadDesignError, Design, Fault, design_schema, write_design
from mitten.core.design.editing import Data
from mitten.core.design.reading import read_object

LIBRARY = "library"
LIBRARY_FORMAT = "mitten-library/1"
MOST_ENTRIES = 500


@dataclass(frozen=True)
class Arrived:
    """Entries that a file brought and this library lacks, under the keys that they get here."""

    entries: Own
    catalogue: Catalogue
    """The library with them."""


def content_of(entry: Entry) -> Mapping[str, Any]:
    """An entry as it is kept and sent."""
    return entry.model_dump(mode="json", exclude_none=True)


def own_entries_in(design: Design, catalogue: Catalogue) -> dict[str, dict[str, Mapping[str, Any]]]:
    """The entries that a design names and that are not as Mitten ships them: table, key, content."""
    shipped, found = shipped_catalogue(), dict[str, dict[str, Mapping[str, Any]]]()
    for _, key, table, _ in names_in(design):
        entry = catalogue.table(table)[key]
        if shipped.table(table).get(key) != entry:
            found.setdefault(table, {})[key] = content_of(entry)
    return found


def write_carrying(design: Design, catalogue: Catalogue) -> str:
    """A design's file with the own entries of the library that it names, so that another library can read it."""
    own = own_entries_in(design, catalogue)
    if not own:
        return write_design(design)
    return json.dumps({**json.loads(write_design(design)), LIBRARY: own}, indent=2, ensure_ascii=False) + "\n"


def read_carrying(content: bytes | str, catalogue: Catalogue) -> tuple[Design, Arrived]:
    """A checked design, and the entries that its file brought; an entry that is here already with other figures stays,
    and the one that was brought gets a key of its own.

    Raises:
        BadDesignError: with every fault found.
    """
    data = read_object(content)
    if LIBRARY not in data:
        return read_checked_design(content, catalogue), Arrived({}, catalogue)
    brought = _checked(data.pop(LIBRARY), f"{LIBRARY}.")
    arrived, renamed = _arrive(brought, catalogue)
    _rename(data, renamed)
    return read_checked_design(json.dumps(data), arrived.catalogue), arrived


def write_library(own: Own) -> str:
    """All own entries as a file."""
    return json.dumps({"format": LIBRARY_FORMAT, **own}, indent=2, ensure_ascii=False) + "\n"


def read_library(content: bytes | str, catalogue: Catalogue) -> Arrived:
    """The entries of such a file that this library lacks.

    Raises:
        BadDesignError: with every fault found; nothing of it is taken then.
    """
    data = read_object(content)
    said = data.pop("format", None)
    if said != LIBRARY_FORMAT:
        raise BadDesignError([Fault("format", f"this is no library file: its format is not '{LIBRARY_FORMAT}'.")])
    return _arrive(_checked(data, ""), catalogue)[0]


def file_schema() -> dict[str, Any]:
    """JSON Schema of a design's file, with what it may carry."""
    schema = design_schema()
    tables = {name: {"type": "object", "additionalProperties": {"type": "object"}} for name in TABLES}
    about = "Own entries of the library that the design names: table, key, entry."
    carried = {"type": "object", "properties": tables, "additionalProperties": False, "description": about}
    return {**schema, "properties": {**schema["properties"], LIBRARY: carried}}


def _checked(tables: Any, prefix: str) -> dict[str, dict[str, Entry]]:
    """Entries by table and key.

    Raises:
        BadDesignError: with every fault found.
    """
    found, faults, count = dict[str, dict[str, Entry]](), list[Fault](), 0
    for table, path, content in _rows(tables, prefix, faults):
        count += 1
        try:
            found.setdefault(table, {})[path.rpartition(".")[2]] = check_entry(table, content)
        except (ValidationError, TypeError) as error:
            faults.append(Fault(path, f"this is no entry of the library: {_first_of(error)}."))
    if count > MOST_ENTRIES:
        faults.append(Fault(prefix.rstrip("."), f"more than {MOST_ENTRIES} entries are no keeper's own."))
    if faults:
        raise BadDesignError(faults)
    return found


def _rows(tables: Any, prefix: str, faults: list[Fault]) -> Iterator[tuple[str, str, Any]]:
    """Table, path and content of every entry; what is no table is a fault."""
    if not isinstance(tables, dict):
        faults.append(Fault(prefix.rstrip("."), "the library is no object of tables."))
        return
    for table, entries in tables.items():
        if table not in TABLES or not isinstance(entries, dict):
            faults.append(Fault(f"{prefix}{table}", f"the library has no such table; use {', '.join(TABLES)}."))
            continue
        for key, content in entries.items():
            if _is_key(key):
                yield table, f"{prefix}{table}.{key}", content
            else:
                faults.append(Fault(f"{prefix}{table}", f"'{key[:40]}' is no key: small letters, digits and hyphens."))


def _is_key(text: str) -> bool:
    plain = text.replace("-", "")
    return 0 < len(text) <= 60 and plain.isascii() and plain.isalnum() and plain == plain.lower()


def _first_of(error: ValidationError | TypeError) -> str:
    if isinstance(error, TypeError):
        return str(error)
    detail = error.errors()[0]
    return f"{'.'.join(str(step) for step in detail['loc'])}: {detail['msg']}".strip(": ")


def _arrive(
    brought: Mapping[str, Mapping[str, Entry]], catalogue: Catalogue
) -> tuple[Arrived, dict[str, dict[str, str]]]:
    """What is new here, and which keys became which others."""
    new, renamed = dict[str, dict[str, Mapping[str, Any]]](), dict[str, dict[str, str]]()
    for table, entries in brought.items():
        known = dict(catalogue.table(table))
        for key, entry in entries.items():
            here = next((one for one in (key, *_further(key, known)) if known.get(one) in (None, entry)), key)
            if here not in known:
                known[here] = entry
                new.setdefault(table, {})[here] = content_of(entry)
            if here != key:
                renamed.setdefault(table, {})[key] = here
    return Arrived(new, catalogue.with_own(new) if new else catalogue), renamed


def _further(key: str, known: Mapping[str, Entry]) -> Iterator[str]:
    """Keys for an entry whose own is taken."""
    return (f"{key[:50]}-{number}" for number in range(2, len(known) + 3))


def _rename(data: Data, renamed: Mapping[str, Mapping[str, str]]) -> None:
    """Have a design's data name its entries as they are called here."""
    if renamed:
        for table, holder, key in _named_in(data):
            if isinstance(holder, dict) and isinstance(holder.get(key), str):
                holder[key] = renamed.get(table, {}).get(holder[key], holder[key])


def _named_in(data: Data) -> Iterator[tuple[str, Any, str]]:
    """Every place of a design's data, well formed or not, that names an entry: table, what holds it, its key."""
    enclosure, substrate = _dict(data.get("enclosure")), _dict(data.get("substrate"))
    yield "species", data.get("animal"), "species"
    for ground in (substrate, *_list(substrate.get("layers"))):
        yield "grounds", ground, "material"
    for panel in _dict(enclosure.get("panels")).values():
        yield "panels", panel, "material"
    yield "meshes", enclosure.get("lid_mesh"), "mesh"
    for site in _list(data.get("sites")):
        yield "site_materials", site, "material"
    for heater in _list(data.get("heaters")):
        yield "sources", heater, "kind"
        yield "fixtures", _dict(heater).get("fixture"), "kind"
    for lamp in _list(data.get("uvb")):
        yield "uvb", lamp, "lamp"


def _dict(value: Any) -> dict[str, Any]:
    return value if isinstance(value, dict) else {}


def _list(value: Any) -> list[Any]:
    return value if isinstance(value, list) else []
