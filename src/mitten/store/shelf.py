"""The shelf: every enclosure with its history. Speaks the core's nouns.

A revision is never changed or deleted. Undo moves to the revision that the present one was made from, redo to the
newest one made from the present; an edit after an undo starts a new line and loses nothing.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime

from peewee import SqliteDatabase, fn

from mitten.core.catalogue import Catalogue, load_catalogue, read_checked_design
from mitten.core.design import Design, MittenError, write_design
from mitten.store.tables import Row, tables_of


class UnknownEnclosureError(MittenError):
    """No enclosure or revision has that number."""


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


class Shelf:
    """The enclosures of one database."""

    def __init__(self, database: SqliteDatabase, catalogue: Catalogue | None = None) -> None:
        self._database = database
        self._catalogue = catalogue or load_catalogue()
        self._tables = tables_of(database)

    def enclosures(self) -> list[Shelved]:
        """Every enclosure, the oldest first."""
        table = self._tables.enclosure
        with self._connected():
            return [self._shelved(row) for row in table.select().order_by(table.id)]

    def open(self, enclosure_id: int) -> Shelved:
        """One enclosure.

        Raises:
            UnknownEnclosureError: there is none of that number.
        """
        with self._connected():
            return self._shelved(self._enclosure(enclosure_id))

    def add(self, design: Design, summary: str = "Put on the shelf") -> Shelved:
        """A new enclosure, with its first revision."""
        with self._connected(), self._database.atomic():
            row = self._tables.enclosure.create(made_at=_now())
            self._append(row, design, summary)
            return self._shelved(row)

    def save(self, enclosure_id: int, design: Design, summary: str) -> Shelved:
        """An edit: a new revision, made from the present one.

        Raises:
            UnknownEnclosureError: there is no enclosure of that number.
        """
        with self._connected(), self._database.atomic():
            row = self._enclosure(enclosure_id)
            self._append(row, design, summary)
            return self._shelved(row)

    def undo(self, enclosure_id: int) -> Shelved:
        """Back to the revision that the present one was made from; without one, nothing changes."""
        with self._connected(), self._database.atomic():
            row = self._enclosure(enclosure_id)
            parent_id = self._revision(row).parent_id
            return self._move(row, parent_id) if parent_id else self._shelved(row)

    def redo(self, enclosure_id: int) -> Shelved:
        """Forth to the newest revision made from the present one; without one, nothing changes."""
        with self._connected(), self._database.atomic():
            row = self._enclosure(enclosure_id)
            child_id = self._newest_child(row)
            return self._move(row, child_id) if child_id else self._shelved(row)

    def go_to(self, enclosure_id: int, number: int) -> Shelved:
        """To any revision of the history.

        Raises:
            UnknownEnclosureError: the enclosure has no revision of that number.
        """
        with self._connected(), self._database.atomic():
            row = self._enclosure(enclosure_id)
            table = self._tables.revision
            revision = table.get_or_none(table.enclosure == row.id, table.number == number)
            if revision is None:
                raise UnknownEnclosureError(f"This enclosure has no revision {number}.")
            return self._move(row, revision.id)

    def history(self, enclosure_id: int) -> list[Revision]:
        """Every revision, the newest first."""
        with self._connected():
            row = self._enclosure(enclosure_id)
            table = self._tables.revision
            rows = table.select().where(table.enclosure == row.id).order_by(table.number.desc())
            return [
                Revision(r.number, datetime.fromisoformat(r.made_at), r.summary, r.id == row.current_id) for r in rows
            ]

    @contextmanager
    def _connected(self) -> Iterator[None]:
        """A connection of this thread; one that was open already stays open."""
        was_open = not self._database.is_closed()
        self._database.connect(reuse_if_open=True)
        try:
            yield
        finally:
            if not was_open:
                self._database.close()

    def _append(self, row: Row, design: Design, summary: str) -> None:
        table = self._tables.revision
        last = table.select(fn.MAX(table.number)).where(table.enclosure == row.id).scalar()
        revision = table.create(
            enclosure=row,
            parent_id=row.current_id,
            number=(last or 0) + 1,
            made_at=_now(),
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
            design=read_checked_design(revision.design, self._catalogue),
            revision=revision.number,
            can_undo=revision.parent_id is not None,
            can_redo=self._newest_child(row) is not None,
        )

    def _enclosure(self, enclosure_id: int) -> Row:
        table = self._tables.enclosure
        row = table.get_or_none(table.id == enclosure_id)
        if row is None:
            raise UnknownEnclosureError(f"There is no enclosure {enclosure_id} on the shelf.")
        return row

    def _revision(self, row: Row) -> Row:
        return self._tables.revision.get_by_id(row.current_id)

    def _newest_child(self, row: Row) -> int | None:
        table = self._tables.revision
        newest: int | None = table.select(fn.MAX(table.id)).where(table.parent_id == row.current_id).scalar()
        return newest


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")
