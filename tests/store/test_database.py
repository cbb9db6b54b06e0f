"""Whose file it is, who else has it, and what SQLite says while it is in use."""

import sqlite3
from contextlib import closing
from pathlib import Path

import pytest
from peewee import OperationalError

from mitten.demo import demo_designs
from mitten.store import Shelf, StoreError, close_database, exclusive_lock, open_database
from mitten.store.database import trouble_with
from mitten.store.migrations import APPLICATION_ID, MIGRATIONS


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "mitten.sqlite3"


def pragma(path: Path, name: str) -> int:
    with closing(sqlite3.connect(path)) as raw:
        return int(raw.execute(f"PRAGMA {name}").fetchone()[0])


@pytest.mark.parametrize("mark", [0, 0x12345678])
def test_the_database_of_another_program_is_left_to_the_byte(path: Path, mark: int) -> None:
    with closing(sqlite3.connect(path)) as other:
        other.execute("CREATE TABLE letters (id INTEGER)")
        other.execute(f"PRAGMA application_id = {mark}")
        other.execute("PRAGMA user_version = 2")
        other.commit()
    before = path.read_bytes()
    with pytest.raises(StoreError, match="another program"):
        open_database(path)
    assert path.read_bytes() == before
    assert [one.name for one in path.parent.iterdir()] == [path.name]


def test_a_newer_database_is_left_to_the_byte_in_the_log_too(path: Path) -> None:
    open_database(path).close()
    keeps_the_log = sqlite3.connect(path)
    keeps_the_log.execute(f"PRAGMA user_version = {len(MIGRATIONS) + 1}")
    keeps_the_log.commit()
    before, log = path.read_bytes(), path.with_name(f"{path.name}-wal").read_bytes()
    assert log
    with pytest.raises(StoreError, match="newer Mitten"):
        open_database(path)
    assert (path.read_bytes(), path.with_name(f"{path.name}-wal").read_bytes()) == (before, log)
    keeps_the_log.close()


def test_one_that_was_written_before_there_was_a_mark_gets_it(path: Path) -> None:
    with closing(sqlite3.connect(path)) as old:
        for statement in MIGRATIONS[0]:
            old.execute(statement)
        old.execute("PRAGMA user_version = 1")
        old.commit()
    open_database(path).close()
    assert pragma(path, "application_id") == APPLICATION_ID


def test_only_its_owner_reads_it(path: Path) -> None:
    path.touch(0o644)
    database = open_database(path)
    Shelf(database).add(demo_designs()[0])
    assert {one.name: one.stat().st_mode & 0o777 for one in path.parent.iterdir()} == {
        path.name: 0o600, f"{path.name}-wal": 0o600, f"{path.name}-shm": 0o600,
    }  # fmt: skip
    close_database(database)
    assert [one.name for one in path.parent.iterdir()] == [path.name]


def test_what_is_said_to_be_stored_is_on_the_disk_and_refers_to_what_is_there(path: Path) -> None:
    """A power cut takes no answered edit with it: SQLite waits for the disk at every commit, 2 being FULL."""
    database = open_database(path)
    for name, value in (("synchronous", 2), ("foreign_keys", 1), ("journal_mode", "wal")):
        assert database.execute_sql(f"PRAGMA {name}").fetchone() == (value,)
    close_database(database)


def test_two_servers_on_one_file_are_one_too_many(path: Path) -> None:
    with exclusive_lock(path), pytest.raises(StoreError, match="Another Mitten is running"), exclusive_lock(path):
        pass
    with exclusive_lock(path):
        assert True


def test_a_folder_that_cannot_be_made_or_is_a_file_is_said(tmp_path: Path) -> None:
    (tmp_path / "file").touch()
    for wrong in (tmp_path / "file" / "mitten.sqlite3", Path("/proc/none/mitten.sqlite3")):
        with pytest.raises(StoreError, match="cannot be used for your data"):
            open_database(wrong)
        with pytest.raises(StoreError, match="cannot be used for your data"), exclusive_lock(wrong):
            pass
    with pytest.raises(StoreError, match="no file"):
        open_database(tmp_path)


def test_a_damaged_page_is_one_sentence_and_never_a_traceback(path: Path) -> None:
    database = open_database(path)
    shelf = Shelf(database)
    for design in demo_designs():
        shelf.add(design)
    close_database(database)
    content = bytearray(path.read_bytes())
    content[4096:] = b"\xa5" * (len(content) - 4096)
    path.write_bytes(content)
    with pytest.raises(StoreError, match=r"damaged|cannot be opened"):
        Shelf(open_database(path)).enclosures()


@pytest.mark.parametrize(
    ("said", "sentence"),
    [
        ("database or disk is full", "disk is full"),
        ("database is locked", "Another program holds"),
        ("attempt to write a readonly database", "may only be read"),
        ("database disk image is malformed", "damaged"),
        ("something new", "something new"),
    ],
)
def test_what_sqlite_says_is_said_with_what_can_be_done(said: str, sentence: str) -> None:
    assert sentence in str(trouble_with(OperationalError(said)))


def test_a_database_that_another_program_holds_is_said_and_nothing_is_half_written(path: Path) -> None:
    database = open_database(path)
    shelf = Shelf(database)
    database.execute_sql("PRAGMA busy_timeout = 50")
    with closing(sqlite3.connect(path)) as other:
        other.execute("BEGIN IMMEDIATE")
        with pytest.raises(StoreError, match="Another program holds"):
            shelf.add(demo_designs()[0])
    assert shelf.enclosures() == []
    shelf.add(demo_designs()[0])
    assert len(shelf.enclosures()) == 1
    close_database(database)
