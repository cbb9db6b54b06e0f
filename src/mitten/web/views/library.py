"""The library: species and gear, searched, looked at, compared."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from mitten.core.catalogue import TABLES, Catalogue, Entry, Species, shipped_catalogue
from mitten.core.design.amounts import celsius
from mitten.core.design.units import Units
from mitten.web.edits.entries import NOTE, Leaf, bearable_path, leaves_of, mark_of
from mitten.web.edits.fields import NO, YES, EditError, Option
from mitten.web.edits.sheet_specs import GROUP_WORDS
from mitten.web.edits.target_specs import BEARABLE
from mitten.web.views.fields import Field

TABLE_WORDS = {
    "species": "Species", "sources": "Heat sources", "uvb": "UV lamps", "fixtures": "Fixtures", "controls": "Controls",
    "panels": "Panels", "grounds": "Grounds", "site_materials": "Furniture materials", "meshes": "Meshes",
}  # fmt: skip
EMPTY = "–"


@dataclass(frozen=True)
class LibraryEntry:
    """One line of the list."""

    table: str
    key: str
    label: str
    about: str
    own: bool


@dataclass(frozen=True)
class LibraryView:
    """What was found, by table."""

    table: str
    search: str
    tables: Sequence[tuple[str, str, int]]
    entries: Sequence[LibraryEntry]


@dataclass(frozen=True)
class Figure:
    """One figure of an entry with where it comes from."""

    label: str
    value: str
    unit: str
    origin: str
    bears: str = ""
    """What is borne beside what is wanted, of a target."""


@dataclass(frozen=True)
class EntryView:
    """An entry with all its figures."""

    table: str
    table_words: str
    key: str
    label: str
    about: str
    own: bool
    shipped: bool
    figures: Sequence[Figure]
    others: Sequence[Option]


@dataclass(frozen=True)
class EditedFigure:
    """One figure in the editor: its field, and the keeper's own source for it."""

    field: Field
    note: Field


@dataclass(frozen=True)
class EntryForm:
    """The editor of an entry; ``key`` is empty while a copy has none yet."""

    table: str
    table_words: str
    key: str
    label: str
    copy: bool
    seen: str
    figures: Sequence[EditedFigure]
    loose: str


@dataclass(frozen=True)
class ComparedRow:
    """One figure of two entries."""

    label: str
    unit: str
    one: str
    other: str

    @property
    def differs(self) -> bool:
        """Whether they are not alike."""
        return self.one != self.other


def library_view(table: str, search: str, units: Units, catalogue: Catalogue) -> LibraryView:
    """Entries of a table whose words hold every word of the search."""
    wanted = search.lower().split()
    found = {
        name: [entry for entry in _entries(name, units, catalogue) if all(word in _words_of(entry) for word in wanted)]
        for name in TABLES
    }
    counts = [(name, TABLE_WORDS[name], len(found[name])) for name in TABLES]
    return LibraryView(table, search, counts, found[table])


def _words_of(entry: LibraryEntry) -> str:
    return f"{entry.label} {entry.about} {entry.key}".lower()


def _entries(table: str, units: Units, catalogue: Catalogue) -> list[LibraryEntry]:
    entries: Mapping[str, Entry] = getattr(catalogue, table)
    shipped: Mapping[str, Entry] = getattr(shipped_catalogue(), table)
    found = [
        LibraryEntry(table, key, entry.label, about(entry, units), shipped.get(key) != entry)
        for key, entry in entries.items()
    ]
    return sorted(found, key=lambda one: one.label.lower())


def about(entry: Entry, units: Units) -> str:
    """An entry in a few words."""
    if isinstance(entry, Species):
        group = GROUP_WORDS[entry.group].removesuffix(", on land").rstrip("s").lower()
        return f"{entry.latin}, {group}, active {'at dusk' if entry.active == 'dusk' else f'by {entry.active}'}"
    sold = getattr(entry, "watts_sold", None)
    if sold:
        return f"{min(sold):g} to {max(sold):g} W"
    watts, service_c = (getattr(entry, name, None) for name in ("usual_max_watts", "service_c"))
    if watts:
        return f"{watts:g} W usually"
    return units.say(f"{celsius(service_c)} at most") if service_c else ""


def entry_view(table: str, key: str, entry: Entry, units: Units, catalogue: Catalogue) -> EntryView:
    """An entry with its figures and their origins."""
    shipped = getattr(shipped_catalogue(), table).get(key)
    leaves = leaves_of(table, entry)
    borne = {leaf.path: leaf.shown(units) for leaf in leaves}
    figures = [
        Figure(
            units.say(leaf.label), leaf.shown(units), units.unit_of(leaf.quantity), entry.origin_of(leaf.path),
            borne.get(bearable_path(leaf.path), ""),
        )
        for leaf in leaves
        if leaf.value is not None and leaf.path != "label" and f".{BEARABLE}" not in leaf.path
    ]  # fmt: skip
    others = [Option(one.key, one.label) for one in _entries(table, units, catalogue) if one.key != key]
    return EntryView(
        table,
        TABLE_WORDS[table],
        key,
        entry.label,
        about(entry, units),
        shipped != entry,
        shipped is not None,
        figures,
        others,
    )


def entry_form(
    table: str, key: str, entry: Entry, units: Units, copy: bool, error: EditError | None = None
) -> EntryForm:
    """The editor of an entry, with what was typed and refused."""
    figures = [_form_figure(leaf, entry, units, error) for leaf in leaves_of(table, entry)]
    known = {figure.field.key for figure in figures}
    loose = [words for path, words in error.sentences.items() if path not in known] if error else []
    return EntryForm(table, TABLE_WORDS[table], key, entry.label, copy, mark_of(entry), figures, " ".join(loose))


def _form_figure(leaf: Leaf, entry: Entry, units: Units, error: EditError | None) -> EditedFigure:
    typed = error.typed if error else {}
    fault = error.sentences.get(leaf.path, "") if error else ""
    options = [Option(YES, "yes"), Option(NO, "no")] if leaf.is_flag else [Option(one, one) for one in leaf.choices]
    kind = "choice" if options else "text" if isinstance(leaf.value, str) else "number"
    value = typed.get(leaf.path, leaf.shown(units))
    field = Field(leaf.path, units.say(leaf.label), kind, value, units.unit_of(leaf.quantity), options, fault)
    note_key = NOTE + leaf.path
    note = Field(
        note_key,
        units.say(f"Your source for {leaf.label}"),
        "text",
        typed.get(note_key, entry.notes.get(leaf.path, "")),
    )
    return EditedFigure(field, note)


def compare_entries(table: str, one: Entry, other: Entry, units: Units) -> list[ComparedRow]:
    """Two entries figure by figure."""
    left, right = ({leaf.path: leaf for leaf in leaves_of(table, entry)} for entry in (one, other))
    rows = [
        ComparedRow(
            leaf.label, units.unit_of(leaf.quantity), leaf.shown(units) or EMPTY, right[path].shown(units) or EMPTY
        )
        for path, leaf in left.items()
        if path in right and path != "label"
    ]
    return [row for row in rows if row.one != EMPTY or row.other != EMPTY]
