"""One database with its tables, and connections to it from any thread."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

from peewee import DatabaseError, IntegrityError, SqliteDatabase

from mitten.store.database import trouble_with
from mitten.store.tables import Tables, tables_of


class Connection:
    """A database and the tables in it."""

    def __init__(self, database: SqliteDatabase) -> None:
        self.database = database
        self.tables: Tables = tables_of(database)

    @contextmanager
    def reading(self) -> Iterator[Tables]:
        """A connection of this thread; one that was open already stays open.

        Raises:
            StoreError: the file cannot be used any more.
        """
        was_open = not self.database.is_closed()
        try:
            self.database.connect(reuse_if_open=True)
            yield self.tables
        except DatabaseError as error:
            if isinstance(error, IntegrityError):
                raise
            raise trouble_with(error) from error
        finally:
            if not was_open:
                self.database.close()

    @contextmanager
    def writing(self) -> Iterator[Tables]:
        """The same within one transaction."""
        with self.reading() as tables, self.database.atomic():
            yield tables


def now() -> str:
    """This moment, as it is stored."""
    return datetime.now(UTC).isoformat(timespec="seconds")
