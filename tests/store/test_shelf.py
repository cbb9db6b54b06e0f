"""The shelf: every edit a revision, undo and redo, and databases that are not ours."""

import sqlite3
from collections.abc import Iterator
from pathlib import Path
from threading import Thread

import pytest

from mitten.core.catalogue import content_of, shipped_catalogue
from mitten.core.design import Design, write_design
from mitten.demo import demo_designs
from mitten.store import OwnLibrary, Settings, Shelf, StoreError, UnknownEnclosureError, open_database
from mitten.store.migrations import MIGRATIONS

ONE, TWO, THREE = demo_designs()[:3]


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "data" / "mitten.sqlite3"


@pytest.fixture
def shelf(path: Path) -> Iterator[Shelf]:
    database = open_database(path)
    yield Shelf(database)
    database.close()


def names(shelf: Shelf) -> list[str]:
    return [shelved.design.name for shelved in shelf.enclosures()]


def test_what_is_put_on_the_shelf_is_there_when_it_is_opened_again(shelf: Shelf, path: Path) -> None:
    shelf.add(ONE)
    again = open_database(path)
    assert [shelved.design for shelved in Shelf(again).enclosures()] == [ONE]
    again.close()


def test_every_edit_is_a_revision_and_none_is_lost(shelf: Shelf) -> None:
    made = shelf.add(ONE)
    shelf.save(made.id, TWO, "second")
    shelf.save(made.id, THREE, "third")
    assert [(r.number, r.summary, r.current) for r in shelf.history(made.id)] == [
        (3, "third", True), (2, "second", False), (1, "Put on the shelf", False)
    ]  # fmt: skip


def test_undo_and_redo_walk_the_line_of_revisions(shelf: Shelf) -> None:
    made = shelf.add(ONE)
    for design in (TWO, THREE):
        shelf.save(made.id, design, design.name)
    assert shelf.undo(made.id).design == TWO
    back = shelf.undo(made.id)
    assert (back.design, back.can_undo, back.can_redo) == (ONE, False, True)
    assert shelf.undo(made.id).design == ONE
    assert shelf.redo(made.id).design == TWO
    forth = shelf.redo(made.id)
    assert (forth.design, forth.can_redo) == (THREE, False)
    assert shelf.redo(made.id).design == THREE


def test_an_edit_after_undo_starts_a_new_line_and_keeps_the_old(shelf: Shelf) -> None:
    made = shelf.add(ONE)
    shelf.save(made.id, TWO, "old line")
    shelf.undo(made.id)
    shelf.save(made.id, THREE, "new line")
    assert shelf.undo(made.id).design == ONE
    assert shelf.redo(made.id).design == THREE
    assert shelf.go_to(made.id, 2).design == TWO
    assert len(shelf.history(made.id)) == 3


def test_enclosures_do_not_share_their_history(shelf: Shelf) -> None:
    first, second = shelf.add(ONE), shelf.add(TWO)
    shelf.save(first.id, THREE, "edit")
    assert names(shelf) == [THREE.name, TWO.name]
    with pytest.raises(UnknownEnclosureError):
        shelf.go_to(second.id, 2)


def test_an_enclosure_that_is_not_there_is_said(shelf: Shelf) -> None:
    with pytest.raises(UnknownEnclosureError, match="no enclosure 7"):
        shelf.open(7)


def test_two_databases_are_kept_apart(tmp_path: Path) -> None:
    databases = [open_database(tmp_path / name) for name in ("a", "b")]
    here, there = (Shelf(database) for database in databases)
    here.add(ONE)
    there.add(TWO)
    assert (names(here), names(there)) == ([ONE.name], [TWO.name])
    for database in databases:
        database.close()


def test_edits_from_many_threads_are_all_kept(shelf: Shelf) -> None:
    made = shelf.add(ONE)

    def edit(design: Design) -> None:
        for _ in range(5):
            shelf.save(made.id, design, "thread")

    threads = [Thread(target=edit, args=(design,)) for design in (TWO, THREE)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert [revision.number for revision in shelf.history(made.id)] == list(range(11, 0, -1))


def test_a_file_that_is_no_database_is_refused(path: Path) -> None:
    path.parent.mkdir()
    path.write_text("not a database, " * 200)
    with pytest.raises(StoreError, match="cannot be opened"):
        open_database(path)


def test_a_migration_that_fails_leaves_nothing_behind(path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    broken = (*MIGRATIONS, ("CREATE TABLE half (id INTEGER)", "THIS IS NO SQL"))
    monkeypatch.setattr("mitten.store.database.MIGRATIONS", broken)
    with pytest.raises(StoreError):
        open_database(path)
    with sqlite3.connect(path) as raw:
        assert raw.execute("PRAGMA user_version").fetchone() == (len(MIGRATIONS),)
        assert raw.execute("SELECT name FROM sqlite_master WHERE name = 'half'").fetchall() == []
    raw.close()


def test_a_name_that_is_dropped_or_given_again_in_one_enclosure_stays_in_the_others(shelf: Shelf) -> None:
    one, other = shelf.add(demo_designs()[0]).id, shelf.add(demo_designs()[1]).id
    for number in (one, other):
        shelf.keep_variant(number, "As built")
        shelf.keep_variant(number, "Spare")
    shelf.keep_variant(one, "Spare")
    shelf.drop_variant(one, "As built")
    assert [variant.name for variant in shelf.variants(one)] == ["Spare"]
    assert sorted(variant.name for variant in shelf.variants(other)) == ["As built", "Spare"]


def test_variants_name_states_and_a_name_can_be_given_again(shelf: Shelf) -> None:
    item = shelf.add(ONE)
    shelf.keep_variant(item.id, "First")
    shelf.save(item.id, TWO, "Changed")
    shelf.keep_variant(item.id, "Second")
    assert [(one.name, one.number, one.design.name) for one in shelf.variants(item.id)] == [
        ("First", 1, ONE.name), ("Second", 2, TWO.name),
    ]  # fmt: skip
    shelf.keep_variant(item.id, "First")
    assert {one.name: one.number for one in shelf.variants(item.id)} == {"First": 2, "Second": 2}
    shelf.drop_variant(item.id, "First")
    assert [one.name for one in shelf.variants(item.id)] == ["Second"]
    assert shelf.design_at(item.id, 1) == ONE
    with pytest.raises(UnknownEnclosureError, match="no revision 9"):
        shelf.design_at(item.id, 9)


def test_what_is_taken_off_the_shelf_can_be_put_back(shelf: Shelf) -> None:
    one, two = shelf.add(ONE), shelf.add(TWO)
    shelf.remove(one.id)
    assert names(shelf) == [TWO.name]
    assert [item.design for item in shelf.removed()] == [ONE]
    shelf.put_back(one.id)
    assert names(shelf) == [ONE.name, TWO.name]
    shelf.set_outlet(two.id, "Outlet 3")
    assert shelf.open(two.id).outlet == "Outlet 3"


def test_ticks_settings_and_own_entries_are_kept(shelf: Shelf, path: Path) -> None:
    item = shelf.add(ONE)
    shelf.tick(item.id, "rcd", True)
    shelf.tick(item.id, "rcd", True)
    shelf.tick(item.id, "grease", True)
    shelf.tick(item.id, "grease", False)
    assert list(shelf.ticks(item.id)) == ["rcd"]
    settings, library = Settings(shelf.connection), OwnLibrary(shelf.connection)
    settings.put("volts", "120")
    settings.put("volts", "230")
    mine = content_of(shipped_catalogue().meshes["mesh-fine"])
    library.save("meshes", "mine", {**mine, "label": "Mine"})
    library.save("meshes", "mine", {**mine, "label": "Mine again"})
    again = open_database(path)
    other = Shelf(again)
    assert Settings(other.connection).get("volts", "?") == "230"
    assert OwnLibrary(other.connection).entries() == {"meshes": {"mine": {**mine, "label": "Mine again"}}}
    OwnLibrary(other.connection).remove("meshes", "mine")
    assert OwnLibrary(other.connection).entries() == {}
    again.close()


def test_a_database_of_the_first_format_is_brought_up_to_date_with_all_it_holds(tmp_path: Path) -> None:
    path = tmp_path / "old.sqlite3"
    with sqlite3.connect(path) as old:
        for statement in MIGRATIONS[0]:
            old.execute(statement)
        old.execute("PRAGMA user_version = 1")
        old.execute("INSERT INTO enclosure (id, made_at) VALUES (1, '2026-01-01T00:00:00+00:00')")
        old.execute(
            "INSERT INTO revision (id, enclosure_id, number, made_at, summary, design) VALUES (1, 1, 1, ?, 'Demo', ?)",
            ("2026-01-01T00:00:00+00:00", write_design(ONE)),
        )
        old.execute("UPDATE enclosure SET current_id = 1")
    old.close()
    database = open_database(path)
    shelf = Shelf(database)
    assert shelf.open(1).design == ONE
    assert shelf.open(1).outlet == "Outlet 1"
    shelf.keep_variant(1, "Old")
    assert shelf.variants(1)[0].design == ONE
    database.close()
