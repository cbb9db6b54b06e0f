"""Opening the database: whose file it is, who else has it open, pragmas, migrations, and the end of it."""

import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from filelock import FileLock, Timeout
from peewee import DatabaseError, SqliteDatabase

from mitten.core.design import MittenError
from mitten.store.migrations import APPLICATION_ID, FIRST_WITH_APPLICATION_ID, MIGRATIONS, OLDEST_TABLES

PRAGMAS = {"journal_mode": "wal", "synchronous": "full", "foreign_keys": 1, "busy_timeout": 5000}
IN_MEMORY = ":memory:"
OWNER_ONLY = 0o600
"""What a keeper writes about the home is nobody else's."""


class StoreError(MittenError):
    """The database cannot be used as it is."""


def open_database(path: Path | str) -> SqliteDatabase:
    """Open a database and bring it up to date; ``":memory:"`` works as everywhere in SQLite.

    The connection this makes stays open: while one does, SQLite need not fold the log away after every request.

    Raises:
        StoreError: the file is no database of Mitten's, or was written by a newer Mitten; it is left as it is.
    """
    if path != IN_MEMORY:
        _look_at(Path(path))
        _make_private(Path(path))
    database = SqliteDatabase(str(path), pragmas=PRAGMAS, lock_type="IMMEDIATE")
    try:
        database.connect()
        _migrate(database)
    except DatabaseError as error:
        database.close()
        raise _cannot_open(path, error) from error
    return database


def close_database(database: SqliteDatabase) -> None:
    """Fold the write-ahead log into the file, and close it: what is left is one file that can be copied."""
    database.connect(reuse_if_open=True)
    database.execute_sql("PRAGMA wal_checkpoint(TRUNCATE)")
    database.close()


@contextmanager
def exclusive_lock(path: Path) -> Iterator[None]:
    """Hold a database for this process alone, by whatever name it is called.

    Raises:
        StoreError: another process holds it, it has another name besides, or its folder cannot be written to.
    """
    path = resolved(path)
    _make_folder(path)
    _refuse_second_names(path)
    lock = FileLock(f"{path}.lock", timeout=0)
    try:
        lock.acquire()
    except Timeout:
        raise StoreError(
            f"Another Mitten is running on {path}. Use that one, or stop it first: two at once would lose changes."
        ) from None
    except OSError as error:
        raise _not_writable(path.parent, error) from error
    try:
        yield
    finally:
        lock.release()


def resolved(path: Path) -> Path:
    """Where a file is, whichever links lead to it.

    Raises:
        StoreError: the links lead in a circle.
    """
    try:
        return path.resolve()
    except (OSError, RuntimeError) as error:
        raise StoreError(f"{path} leads to no file: its links go round in a circle.") from error


def _refuse_second_names(path: Path) -> None:
    """SQLite keeps its log beside each name: two names of one file would be two logs, and lose changes."""
    if path.is_file() and path.stat().st_nlink > 1:
        raise StoreError(
            f"{path} has a second name (a hard link), and opening it by both would lose changes. "
            "Remove the other name, or make a real copy of the file and open that."
        )


def version_of(database: SqliteDatabase) -> int:
    """Number of the last migration applied."""
    return int(database.execute_sql("PRAGMA user_version").fetchone()[0])


def _make_folder(path: Path) -> None:
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise _not_writable(path.parent, error) from error


def _not_writable(folder: Path, error: OSError) -> StoreError:
    return StoreError(f"The folder {folder} cannot be used for your data: {error.strerror or error}.")


def _look_at(path: Path) -> None:
    """See whose file it is, and how new, before anything of it is touched."""
    _make_folder(path)
    if not path.exists():
        return
    if not path.is_file():
        raise StoreError(f"{path} is no file, and cannot hold your data.")
    try:
        # Only to read, so that not even a pragma changes the file of another program.
        with closing(sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True)) as looking:
            application, version = (
                looking.execute(f"PRAGMA {name}").fetchone()[0] for name in ("application_id", "user_version")
            )
            tables = {name for (name,) in looking.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    except sqlite3.Error as error:
        raise _cannot_open(path, error) from error
    _refuse_others(path, application, version, tables)


def _refuse_others(path: Path, application: int, version: int, tables: set[str]) -> None:
    marked = application == APPLICATION_ID
    before_marks = application == 0 and version < FIRST_WITH_APPLICATION_ID and tables >= OLDEST_TABLES
    if not (marked or before_marks or (application == 0 and version == 0 and not tables)):
        raise StoreError(f"{path} is the database of another program. It was left as it is: choose another file.")
    if version > len(MIGRATIONS):
        raise StoreError(
            f"The data was written by a newer Mitten (format {version}; this one knows {len(MIGRATIONS)}). "
            "Nothing was changed; start the newer version."
        )


def _make_private(path: Path) -> None:
    """Nobody but the keeper reads the file; what SQLite puts beside it is like it."""
    try:
        if not path.exists():
            os.close(os.open(path, os.O_RDWR | os.O_CREAT, OWNER_ONLY))
        path.chmod(OWNER_ONLY)
    except OSError as error:
        raise StoreError(f"{path} cannot be written to: {error.strerror or error}.") from error
    if not os.access(path, os.W_OK):
        raise StoreError(f"{path} cannot be written to. Choose another file, or allow writing to it.")


def trouble_with(error: DatabaseError) -> StoreError:
    """What SQLite says while the file is in use, in a sentence that says what can be done."""
    said = str(error)
    known = {
        "full": "The disk is full. Nothing was stored: make room on it, and do it again.",
        "locked": "Another program holds the data file. Nothing was stored: close that program, and do it again.",
        "readonly": "The data file may only be read. Nothing was stored: allow writing to it, and do it again.",
        "malformed": "The data file is damaged. Stop Mitten, keep a copy of the file, and restore it from a backup.",
        "disk I/O": "The disk did not do what was asked. Nothing was stored; look whether it is full or failing.",
    }
    sentence = next((sentence for word, sentence in known.items() if word in said), f"The data file fails: {said}.")
    return StoreError(sentence)


def _cannot_open(path: Path | str, error: Exception) -> StoreError:
    return StoreError(f"{path} cannot be opened as Mitten's database: {error}.")


def _migrate(database: SqliteDatabase) -> None:
    for number, statements in enumerate(MIGRATIONS[version_of(database) :], start=version_of(database) + 1):
        with database.atomic():
            for statement in statements:
                database.execute_sql(statement)
            # In the same transaction: a migration and its record stand or fall together.
            database.execute_sql(f"PRAGMA user_version = {number}")
