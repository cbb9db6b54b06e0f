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
from mitten.store.tables import TABLES, EnclosureRow, RevisionRow


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

    def enclosures(self) -> list[Shelved]:
        """Every enclosure, the oldest first."""
        with self._connected():
            return [self._shelved(row) for row in EnclosureRow.select().order_by(EnclosureRow.id)]

    def open(self, enclosure_id: int) -> Shelved:
        """One enclosure.

        Raises:
            UnknownEnclosureError: there is none of that number.
        """
        with self._connected():
            return self._shelved(_enclosure(enclosure_id))

    def add(self, design: Design, summary: str = "Put on the shelf") -> Shelved:
        """A new enclosure, with its first revision."""
        with self._connected(), self._database.atomic():
            row = EnclosureRow.create(made_at=_now())
            self._append(row, design, summary)
            return self._shelved(row)

    def save(self, enclosure_id: int, design: Design, summary: str) -> Shelved:
        """An edit: a new revision, made from the present one.

        Raises:
            UnknownEnclosureError: there is no enclosure of that number.
        """
        with self._connected(), self._database.atomic():
            row = _enclosure(enclosure_id)
            self._append(row, design, summary)
            return self._shelved(row)

    def undo(self, enclosure_id: int) -> Shelved:
        """Back to the revision that the present one was made from; without one, nothing changes."""
        with self._connected(), self._database.atomic():
            row = _enclosure(enclosure_id)
            parent_id = _revision(row).parent_id
            return self._move(row, parent_id) if parent_id else self._shelved(row)

    def redo(self, enclosure_id: int) -> Shelved:
        """Forth to the newest revision made from the present one; without one, nothing changes."""
        with self._connected(), self._database.atomic():
            row = _enclosure(enclosure_id)
            child_id = _newest_child(row)
            return self._move(row, child_id) if child_id else self._shelved(row)

    def go_to(self, enclosure_id: int, number: int) -> Shelved:
        """To any revision of the history.

        Raises:
            UnknownEnclosureError: the enclosure has no revision of that number.
        """
        with self._connected(), self._database.atomic():
            row = _enclosure(enclosure_id)
            revision = RevisionRow.get_or_none(RevisionRow.enclosure == row.id, RevisionRow.number == number)
            if revision is None:
                raise UnknownEnclosureError(f"This enclosure has no revision {number}.")
            return self._move(row, revision.id)

    def history(self, enclosure_id: int) -> list[Revision]:
        """Every revision, the newest first."""
        with self._connected():
            row = _enclosure(enclosure_id)
            rows = RevisionRow.select().where(RevisionRow.enclosure == row.id).order_by(RevisionRow.number.desc())
            return [
                Revision(r.number, datetime.fromisoformat(r.made_at), r.summary, r.id == row.current_id) for r in rows
            ]

    @contextmanager
    def _connected(self) -> Iterator[None]:
        """A connection of this thread, bound to the tables."""
        already_open = not self._database.is_closed()
        self._database.connect(reuse_if_open=True)
        try:
            with self._database.bind_ctx(TABLES, bind_refs=False, bind_backrefs=False):
                yield
        finally:
            if not already_open:
                self._database.close()

    def _append(self, row: EnclosureRow, design: Design, summary: str) -> None:
        last = RevisionRow.select(fn.MAX(RevisionRow.number)).where(RevisionRow.enclosure == row.id).scalar()
        revision = RevisionRow.create(
            enclosure=row,
            parent_id=row.current_id,
            number=(last or 0) + 1,
            made_at=_now(),
            summary=summary,
            design=write_design(design),
        )
        self._move(row, revision.id)

    def _move(self, row: EnclosureRow, revision_id: int) -> Shelved:
        row.current_id = revision_id
        row.save()
        return self._shelved(row)

    def _shelved(self, row: EnclosureRow) -> Shelved:
        revision = _revision(row)
        return Shelved(
            id=row.id,
            design=read_checked_design(revision.design, self._catalogue),
            revision=revision.number,
            can_undo=revision.parent_id is not None,
            can_redo=_newest_child(row) is not None,
        )


def _enclosure(enclosure_id: int) -> EnclosureRow:
    row = EnclosureRow.get_or_none(EnclosureRow.id == enclosure_id)
    if row is None:
        raise UnknownEnclosureError(f"There is no enclosure {enclosure_id} on the shelf.")
    return row


def _revision(row: EnclosureRow) -> RevisionRow:
    return RevisionRow.get_by_id(row.current_id)


def _newest_child(row: EnclosureRow) -> int | None:
    newest: int | None = (
        RevisionRow.select(fn.MAX(RevisionRow.id)).where(RevisionRow.parent_id == row.current_id).scalar()
    )
    return newest


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")
