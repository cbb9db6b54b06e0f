"""Opening the database: pragmas, migrations, and the refusal of a newer one."""

from pathlib import Path

from peewee import DatabaseError, SqliteDatabase

from mitten.core.design import MittenError
from mitten.store.migrations import MIGRATIONS

PRAGMAS = {"journal_mode": "wal", "synchronous": "full", "foreign_keys": 1, "busy_timeout": 5000}


class StoreError(MittenError):
    """The database cannot be used as it is."""


def open_database(path: Path | str) -> SqliteDatabase:
    """Open a database and bring it up to date; ``":memory:"`` works as everywhere in SQLite.

    The connection this makes stays open: while one does, SQLite need not fold the log away after every request.

    Raises:
        StoreError: the file is no database of Mitten's, or was written by a newer Mitten.
    """
    if path != ":memory:":
        Path(path).parent.mkdir(parents=True, exist_ok=True)
    database = SqliteDatabase(str(path), pragmas=PRAGMAS, lock_type="IMMEDIATE")
    try:
        database.connect()
        _migrate(database)
    except DatabaseError as error:
        database.close()
        raise StoreError(f"{path} cannot be opened as Mitten's database: {error}.") from error
    except StoreError:
        database.close()
        raise
    return database


def version_of(database: SqliteDatabase) -> int:
    """Number of the last migration applied."""
    return int(database.execute_sql("PRAGMA user_version").fetchone()[0])


def _migrate(database: SqliteDatabase) -> None:
    found = version_of(database)
    if found > len(MIGRATIONS):
        raise StoreError(
            f"The data was written by a newer Mitten (format {found}; this one knows {len(MIGRATIONS)}). "
            "Nothing was changed; start the newer version."
        )
    for number, statements in enumerate(MIGRATIONS[found:], start=found + 1):
        with database.atomic():
            for statement in statements:
                database.execute_sql(statement)
            # In the same transaction: a migration and its record stand or fall together.
            database.execute_sql(f"PRAGMA user_version = {number}")
