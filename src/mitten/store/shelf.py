"""The shelf: every enclosure with its history. Speaks the core's nouns.

A revision is never changed or deleted. Undo moves to the revision that the present one was made from, redo to the
newest one made from the present; an edit after an undo starts a new line and loses nothing.
"""

import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from threading import Lock

from cachetools import LRUCache
from peewee import JOIN, SqliteDatabase, fn

from mitten.core.catalogue import Catalogue, read_kept_design, shipped_catalogue
from mitten.core.design import BadDesignError, Design, MittenError, write_design
from mitten.store.connection import Connection, now
from mitten.store.tables import Row


class UnknownEnclosureError(MittenError):
    """No enclosure or revision has that number."""


class DamagedError(MittenError):
    """Something of an enclosure is missing from the file."""


@dataclass(frozen=True)
class Revision:
    """One entry of a history, newest numbers last; ``current`` marks the one in force."""

    number: int
    made_at: datetime
    summary: str
    current: bool


@dataclass(frozen=True)
class Shelved:
    """An enclosure as it stands."""

    id: int
    design: Design
    revision: int
    can_undo: bool
    can_redo: bool
    outlet: str = "Outlet 1"


@dataclass(frozen=True)
class Variant:
    """A state of an enclosure that the keeper has named, and the number of its revision."""

    name: str
    number: int
    design: Design


@dataclass(frozen=True)
class Unreadable:
    """An enclosure whose design cannot be read, and why."""

    id: int
    sentence: str


class Shelf:
    """The enclosures of one database."""

    def __init__(self, database: SqliteDatabase, catalogue: Catalogue | None = None) -> None:
        """Designs are read with ``catalogue``: the one that ships with Mitten, where none is given."""
        self.connection = Connection(database)
        self.catalogue = catalogue or shipped_catalogue()
        self._tables = self.connection.tables

    def enclosures(self) -> list[Shelved]:
        """Every enclosure on the shelf whose design can be read, the oldest first."""
        return self._where_removed(False)

    def removed(self) -> list[Shelved]:
        """Every enclosure that was taken off the shelf and can be put back, the oldest first."""
        return self._where_removed(True)

    def _where_removed(self, removed: bool) -> list[Shelved]:
        with self.connection.reading():
            rows = list(self._at_once().where(self._tables.enclosure.removed_at.is_null(not removed)))
        return [shelved for row in rows if (shelved := _shelved_of(row, self.catalogue)) is not None]

    def _at_once(self) -> Row:
        """Enclosures with their revision in force and the newest made from it, in one query however many they are."""
        table, revision = self._tables.enclosure, self._tables.revision
        child = revision.alias()
        picked = table.id, table.outlet, revision.number, revision.parent_id, revision.design
        return (
            table.select(*picked, fn.MAX(child.id).alias("child_id"))
            .join(revision, on=(table.current_id == revision.id))
            .join(child, JOIN.LEFT_OUTER, on=(child.parent_id == revision.id))
            .group_by(table.id)
            .order_by(table.id)
            .dicts()
        )

    def remove(self, enclosure_id: int) -> None:
        """Take an enclosure off the shelf; nothing of it is lost.

        Raises:
            UnknownEnclosureError: there is none of that number.
        """
        self._set(enclosure_id, removed_at=now())

    def put_back(self, enclosure_id: int) -> None:
        """Put an enclosure that was taken off on the shelf again.

        Raises:
            UnknownEnclosureError: there is none of that number.
        """
        self._set(enclosure_id, removed_at=None)

    def set_outlet(self, enclosure_id: int, outlet: str) -> None:
        """Say on which outlet an enclosure hangs.

        Raises:
            UnknownEnclosureError: there is none of that number.
        """
        self._set(enclosure_id, outlet=outlet)

    def _set(self, enclosure_id: int, **values: str | None) -> None:
        with self.connection.writing():
            row = self._enclosure(enclosure_id)
            for key, value in values.items():
                setattr(row, key, value)
            row.save()

    def open(self, enclosure_id: int) -> Shelved:
        """One enclosure.

        Raises:
            UnknownEnclosureError: there is none of that number.
        """
        with self.connection.reading():
            return self._shelved(self._enclosure(enclosure_id))

    def revision_of(self, enclosure_id: int) -> int:
        """Number of the revision in force, whether its design can be read or not; 0 where it is missing.

        Raises:
            UnknownEnclosureError: there is none of that number.
        """
        with self.connection.reading():
            current_id = self._enclosure(enclosure_id).current_id
            revision = self._tables.revision.get_or_none(self._tables.revision.id == current_id)
            return 0 if revision is None else int(revision.number)

    def add(self, design: Design, summary: str = "Put on the shelf") -> Shelved:
        """A new enclosure, with its first revision."""
        with self.connection.writing():
            row = self._tables.enclosure.create(made_at=now())
            self._append(row, design, summary)
            return self._shelved(row)

    def save(self, enclosure_id: int, design: Design, summary: str) -> Shelved:
        """An edit: a new revision, made from the present one.

        Raises:
            UnknownEnclosureError: there is no enclosure of that number.
        """
        with self.connection.writing():
            row = self._enclosure(enclosure_id)
            self._append(row, design, summary)
            return self._shelved(row)

    def undo(self, enclosure_id: int) -> Shelved:
        """Back to the revision that the present one was made from; without one, nothing changes."""
        with self.connection.writing():
            row = self._enclosure(enclosure_id)
            parent_id = self._before(row)
            return self._move(row, parent_id) if parent_id else self._shelved(row)

    def redo(self, enclosure_id: int) -> Shelved:
        """Forth to the newest revision made from the present one; without one, nothing changes."""
        with self.connection.writing():
            row = self._enclosure(enclosure_id)
            child_id = self._newest_child(row)
            return self._move(row, child_id) if child_id else self._shelved(row)

    def go_to(self, enclosure_id: int, number: int) -> Shelved:
        """To any revision of the history.

        Raises:
            UnknownEnclosureError: the enclosure has no revision of that number.
        """
        with self.connection.writing():
            row = self._enclosure(enclosure_id)
            table = self._tables.revision
            revision = table.get_or_none(table.enclosure == row.id, table.number == number)
            if revision is None:
                raise UnknownEnclosureError(f"This enclosure has no revision {number}.")
            return self._move(row, revision.id)

    def design_at(self, enclosure_id: int, number: int) -> Design:
        """The design of any revision.

        Raises:
            UnknownEnclosureError: the enclosure has no revision of that number.
        """
        with self.connection.reading() as tables:
            revision = tables.revision.get_or_none(
                tables.revision.enclosure == enclosure_id, tables.revision.number == number
            )
            if revision is None:
                raise UnknownEnclosureError(f"This enclosure has no revision {number}.")
            return _read(revision.design, self.catalogue)

    def history(self, enclosure_id: int) -> list[Revision]:
        """Every revision, the newest first."""
        with self.connection.reading():
            row = self._enclosure(enclosure_id)
            table = self._tables.revision
            rows = table.select().where(table.enclosure == row.id).order_by(table.number.desc())
            return [Revision(r.number, _moment_of(r.made_at), r.summary, r.id == row.current_id) for r in rows]

    def mentioning(self, key: str) -> list[tuple[str, str]]:
        """Names of enclosures, on the shelf and off it, and the content of every revision of theirs, however old, that
        names a key of the catalogue.
        """
        with self.connection.reading() as tables:
            found = [
                revision.design
                for revision in tables.revision.select().where(tables.revision.design.contains(f'"{key}"'))
            ]
        return [(_name_of(content), content) for content in found]

    def unreadable(self) -> list[Unreadable]:
        """Enclosures on the shelf whose design cannot be read as the library stands; they are kept as they are."""
        table = self._tables.enclosure
        with self.connection.reading():
            rows = table.select().where(table.removed_at.is_null()).order_by(table.id)
            return [one for row in rows if (one := self._unreadable(row)) is not None]

    def _unreadable(self, row: Row) -> Unreadable | None:
        try:
            _read(self._revision(row).design, self.catalogue)
        except BadDesignError as error:
            return Unreadable(row.id, error.faults[0].sentence)
        except DamagedError as error:
            return Unreadable(row.id, str(error))
        return None

    def is_empty(self) -> bool:
        """Whether no enclosure was ever put on it."""
        with self.connection.reading() as tables:
            return not tables.enclosure.select().exists()

    def keep_variant(self, enclosure_id: int, name: str) -> None:
        """Name the state in force; a name that was given before stands for this state from now on.

        Raises:
            UnknownEnclosureError: there is no enclosure of that number.
        """
        with self.connection.writing() as tables:
            row = self._enclosure(enclosure_id)
            tables.variant.delete().where(self._of(tables.variant, row), tables.variant.name == name).execute()
            tables.variant.create(enclosure=row, name=name, revision_id=row.current_id, made_at=now())

    def drop_variant(self, enclosure_id: int, name: str) -> None:
        """Forget a name; the revision that it stood for stays in the history."""
        with self.connection.writing() as tables:
            row = self._enclosure(enclosure_id)
            tables.variant.delete().where(self._of(tables.variant, row), tables.variant.name == name).execute()

    def variants(self, enclosure_id: int) -> list[Variant]:
        """The named states of an enclosure, the oldest name first.

        Raises:
            UnknownEnclosureError: there is no enclosure of that number.
        """
        with self.connection.reading() as tables:
            rows = tables.variant.select().where(self._of(tables.variant, self._enclosure(enclosure_id)))
            found = [(row.name, tables.revision.get_by_id(row.revision_id)) for row in rows.order_by(tables.variant.id)]
            return [Variant(name, revision.number, _read(revision.design, self.catalogue)) for name, revision in found]

    def ticks(self, enclosure_id: int) -> Sequence[str]:
        """Items of the checklist that the keeper has seen to.

        Raises:
            UnknownEnclosureError: there is no enclosure of that number.
        """
        with self.connection.reading() as tables:
            rows = tables.tick.select().where(self._of(tables.tick, self._enclosure(enclosure_id)))
            return [row.item for row in rows]

    def tick(self, enclosure_id: int, item: str, done: bool) -> None:
        """Note that an item was seen to, or that it was not.

        Raises:
            UnknownEnclosureError: there is no enclosure of that number.
        """
        with self.connection.writing() as tables:
            row = self._enclosure(enclosure_id)
            tables.tick.delete().where(self._of(tables.tick, row), tables.tick.item == item).execute()
            if done:
                tables.tick.create(enclosure=row, item=item, made_at=now())

    @staticmethod
    def _of(table: Row, row: Row) -> Row:
        return table.enclosure == row.id

    def _append(self, row: Row, design: Design, summary: str) -> None:
        table = self._tables.revision
        last = table.select(fn.MAX(table.number)).where(table.enclosure == row.id).scalar()
        revision = table.create(
            enclosure=row,
            parent_id=row.current_id,
            number=(last or 0) + 1,
            made_at=now(),
            summary=summary,
            design=write_design(design),
        )
        self._move(row, revision.id)

    def _move(self, row: Row, revision_id: int) -> Shelved:
        row.current_id = revision_id
        row.save()
        return self._shelved(row)

    def _shelved(self, row: Row) -> Shelved:
        revision = self._revision(row)
        return Shelved(
            id=row.id,
            design=_read(revision.design, self.catalogue),
            revision=revision.number,
            can_undo=revision.parent_id is not None,
            can_redo=self._newest_child(row) is not None,
            outlet=row.outlet,
        )

    def _enclosure(self, enclosure_id: int) -> Row:
        table = self._tables.enclosure
        row = table.get_or_none(table.id == enclosure_id)
        if row is None:
            raise UnknownEnclosureError(f"There is no enclosure {enclosure_id} on the shelf.")
        return row

    def _revision(self, row: Row) -> Row:
        found = self._tables.revision.get_or_none(self._tables.revision.id == row.current_id)
        if found is None:
            raise DamagedError("The state in force of this enclosure is missing from the data file.")
        return found

    def _before(self, row: Row) -> int | None:
        """The revision that the one in force was made from; the newest there is where that one is missing."""
        table = self._tables.revision
        current = table.get_or_none(table.id == row.current_id)
        newest: int | None = table.select(fn.MAX(table.id)).where(table.enclosure == row.id).scalar()
        return newest if current is None else current.parent_id

    def _newest_child(self, row: Row) -> int | None:
        table = self._tables.revision
        newest: int | None = table.select(fn.MAX(table.id)).where(table.parent_id == row.current_id).scalar()
        return newest


def _moment_of(text: str) -> datetime:
    """When something was kept; the beginning of time, as computers count it, where that cannot be read."""
    try:
        return datetime.fromisoformat(text)
    except (ValueError, TypeError):
        return datetime.fromtimestamp(0, UTC)


def _name_of(content: str) -> str:
    """The name that a kept design has; its beginning where it is no design any more."""
    try:
        return str(json.loads(content)["name"])
    except (ValueError, TypeError, LookupError):
        return content[:40]


def _shelved_of(row: Row, catalogue: Catalogue) -> Shelved | None:
    """One row of all at once; None where its design cannot be read."""
    try:
        design = _read(row["design"], catalogue)
    except BadDesignError:
        return None
    undo, redo = row["parent_id"] is not None, row["child_id"] is not None
    return Shelved(row["id"], design, row["number"], undo, redo, row["outlet"])


def _read(content: str, catalogue: Catalogue) -> Design:
    """A design as it is kept; the latest ones are not read again as long as the catalogue is the same."""
    key = content, catalogue
    with _READ_LOCK:
        known = _READ.get(key)
    if known is None:
        known = read_kept_design(content, catalogue)
        with _READ_LOCK:
            _READ[key] = known
    return known


_READ: LRUCache[tuple[str, Catalogue], Design] = LRUCache(3000)
_READ_LOCK = Lock()
