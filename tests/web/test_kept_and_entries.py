"""What the services remembers, and entries of the library as fields in both systems of units."""

from threading import Thread
from time import time

import pytest

from mitten.core.catalogue import TABLES, Species
from mitten.core.design.units import METRIC, US
from mitten.store import Shelved
from mitten.web.edits import EditError
from mitten.web.edits.entries import key_of, leaves_of, read_entry
from mitten.web.kept import LatestCache
from mitten.web.routes import common
from mitten.web.routes.common import Editors
from tests.catalogue import CATALOGUE
from tests.designs import box_data, read

BOA = CATALOGUE.species["rosy-boa"]


def test_what_was_not_asked_for_longest_goes_first() -> None:
    kept: LatestCache[str, int] = LatestCache(2)
    assert kept.put("a", 1) == 1
    kept.put("b", 2)
    assert kept.get("a") == 1
    kept.put("c", 3)
    assert (kept.get("a"), kept.get("b"), kept.get("c")) == (1, None, 3)
    kept.clear()
    assert kept.get("a") is None


def test_many_threads_keep_no_more_than_is_allowed() -> None:
    kept: LatestCache[int, int] = LatestCache(10)

    def fill(start: int) -> None:
        for number in range(start, start + 200):
            kept.put(number, number)

    threads = [Thread(target=fill, args=(1000 * n,)) for n in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    left = [number for start in range(0, 4000, 1000) for number in range(start, start + 200) if kept.get(number)]
    assert len(left) <= 10


def test_a_page_is_behind_only_when_another_has_changed_what_it_shows() -> None:
    editors = Editors()
    assert not editors.is_behind(1, "1", 1, "a 1")
    assert editors.is_behind(1, "1", 2, "a 1"), "someone changed it before this server began"
    editors.changed(shelved(2), "a 1")
    assert not editors.is_behind(1, "1", 2, "a 2"), "its own quick edits do not lock it out"
    assert editors.is_behind(1, "1", 2, "b 1")
    assert not editors.is_behind(1, None, 2, None), "forms without scripts say nothing and are taken"
    editors.changed(shelved(3), None)
    assert editors.is_behind(1, "2", 3, "a 3")


def shelved(revision: int) -> Shelved:
    return Shelved(1, read(box_data()), revision, can_undo=True, can_redo=False)


def test_a_state_that_is_in_force_again_is_later_than_all_before_it(monkeypatch: pytest.MonkeyPatch) -> None:
    editors = Editors()
    before = editors.moment_of(shelved(1))
    editors.changed(shelved(2), "a 1")
    made = editors.moment_of(shelved(2))
    editors.changed(shelved(1), "a 2")
    assert before < made < editors.moment_of(shelved(1))
    monkeypatch.setattr(common, "time", lambda: time() + 1)
    assert Editors().moment_of(shelved(2)) > editors.moment_of(shelved(1)), (
        "what a server that begins anew says is later"
    )


@pytest.mark.parametrize("edit", [None, "", "page", "page x", "page 1.5"])
def test_an_edit_without_a_number_is_never_overtaken(edit: str | None) -> None:
    editors = Editors()
    assert editors.still_said("page 5", "a form", ["watts"]) == {"watts"}
    assert editors.still_said(edit, "a form", ["watts"]) == {"watts"}
    assert editors.still_said("page 4", "a form", ["watts", "x_m"]) == {"x_m"}
    assert editors.still_said("page 4", "another form", ["watts"]) == {"watts"}, "it says nothing of the first one's"
    assert editors.still_said("other 4", "a form", ["watts"]) == {"watts"}
    assert editors.still_said("page 5", "a form", ["watts"]) == {"watts"}


@pytest.mark.slow
@pytest.mark.parametrize("table", sorted(TABLES))
def test_every_entry_reads_back_from_what_is_shown_of_it(table: str) -> None:
    for entry in getattr(CATALOGUE, table).values():
        for units in (METRIC, US):
            shown = {leaf.path: leaf.shown(units) for leaf in leaves_of(table, entry)}
            assert read_entry(table, entry, shown, units) == entry


def test_figures_are_read_with_the_unit_that_their_key_says() -> None:
    typed = {
        "targets.night_c": "64 F; 77 F", "least_box_m": "3 ft; 18 in; 45 cm", "length_m.adult": "31.5",
        "targets.humidity": "35; 55 %", "burrows": "no", "stages.hatchling.cool_air_c": "21 to 25",
    }  # fmt: skip
    read = read_entry("species", BOA, typed, METRIC)
    assert isinstance(read, Species)
    assert read.targets.night_c == pytest.approx((17.78, 25.0), abs=0.01)
    assert read.least_box_m == pytest.approx((0.9144, 0.4572, 0.45))
    assert read.length_m.adult == pytest.approx(0.315)
    assert read.targets.humidity == pytest.approx((0.35, 0.55))
    assert not read.burrows
    assert read.targets_at("hatchling").cool_air_c == (21.0, 25.0)
    assert read.targets_at("juvenile").cool_air_c == BOA.targets.cool_air_c
    in_inches = read_entry("species", BOA, {"length_m.adult": "32"}, US)
    assert isinstance(in_inches, Species)
    assert in_inches.length_m.adult == pytest.approx(0.8128)


def test_a_source_beside_a_figure_is_kept_and_can_be_taken_away() -> None:
    noted = read_entry("species", BOA, {"note:targets.night_c": "my notebook"}, METRIC)
    assert noted.origin_of("targets.night_c") == "my notebook"
    assert noted.origin_of("targets.uvi") == "starting point to verify"
    bare = read_entry("species", noted, {"note:targets.night_c": ""}, METRIC)
    assert bare == BOA


def test_every_fault_of_an_entry_is_found_at_once() -> None:
    with pytest.raises(EditError) as refused:
        read_entry("species", BOA, {"targets.uvi": "much", "length_m.adult": "long"}, METRIC)
    assert set(refused.value.sentences) == {"targets.uvi", "length_m.adult"}


def test_keys_are_made_of_labels_and_never_taken_twice() -> None:
    assert key_of("Rosy boa, mine!", {}) == "rosy-boa-mine"
    assert key_of("Rosy boa", {"rosy-boa": 1, "rosy-boa-2": 1}) == "rosy-boa-3"
    assert key_of("!!!", {}) == "own"
