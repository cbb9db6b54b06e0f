"""The library, the rule book, variants, the checklist and what hangs on the mains."""

import re
from typing import Any

import pytest
from starlette.testclient import TestClient

from mitten.core.catalogue import TABLES, Catalogue
from mitten.core.design import Design
from mitten.core.judge import Condition, solve_condition
from mitten.core.judge.rulebook import RULE_NAMES
from mitten.core.physics.balance.steady import NotSettledError
from mitten.core.physics.reading.climate import Climate
from mitten.store import Shelf
from mitten.web.edits.entries import leaves_of
from tests.catalogue import CATALOGUE
from tests.sweeping import sliced


def test_there_are_45_species_of_every_group_with_stages_and_ranges() -> None:
    species = CATALOGUE.species
    assert len(species) >= 45
    assert {one.group for one in species.values()} == {"lizard", "gecko", "snake", "tortoise", "turtle"}
    for one in species.values():
        assert one.length_m.hatchling < one.length_m.juvenile < one.length_m.adult
        assert one.mass_g.hatchling < one.mass_g.juvenile < one.mass_g.adult
        for stage in ("hatchling", "juvenile", "adult"):
            targets = one.targets_at(stage)
            assert targets.cool_air_c[0] < targets.warm_air_c[1] <= targets.basking_surface_c[1]
            assert targets.basking_surface_c[1] <= targets.danger_contact_c
            assert targets.cool_air_c[1] < targets.danger_air_c
            assert targets.basking_operative_c[1] < targets.danger_body_c
        assert one.origin == "starting point to verify"
        assert one.targets_at("hatchling") != one.targets_at("adult")


@pytest.mark.parametrize("table", sorted(TABLES))
def test_every_entry_is_shown_with_its_origin_and_can_be_copied(client: TestClient, shelf: Shelf, table: str) -> None:
    key = next(iter(getattr(CATALOGUE, table)))
    assert "starting point to verify" in client.get(f"/library/{table}/{key}").text
    form = client.get(f"/library/{table}/{key}/edit?copy=true").text
    assert "Your source" in form
    answer = client.post(f"/library/{table}/{key}?copy=true", data={"label": "Mine"}, follow_redirects=False)
    assert answer.headers["location"] == f"/library/{table}/mine"
    assert getattr(shelf.catalogue, table)["mine"].label == "Mine"
    assert "your own" in client.get(f"/library?table={table}").text


def test_search_finds_by_name_group_and_habit(client: TestClient) -> None:
    assert "Kenyan sand boa" in client.get("/library?search=sand+boa").text
    found = client.get("/library?search=gecko+night", headers={"hx-request": "true"}).text
    assert "Gargoyle gecko" in found
    assert "Rosy boa" not in found
    assert "Nothing with these words" in client.get("/library?search=dragonfly").text


@pytest.mark.slow
def test_two_entries_stand_side_by_side(client: TestClient) -> None:
    page = client.get("/library/species?one=rosy-boa&other=kenyan-sand-boa").text
    assert "Rosy boa and Kenyan sand boa" in page
    assert page.count("(differs)") > 5
    assert client.get("/library/species?one=rosy-boa&other=unicorn").status_code == 404


@pytest.mark.slow
def test_own_figures_judge_from_then_on_and_a_used_entry_stays(client: TestClient, shelf: Shelf) -> None:
    client.get("/enclosures/1")
    fields = {"targets.basking_surface_c": "50; 53", "note:targets.basking_surface_c": "my vet"}
    client.post("/library/species/collared-lizard", data=fields)
    page = client.get("/enclosures/1?sheet=animal").text
    assert 'value="53"' in page
    assert "basking surface is" in page
    assert "my vet" in client.get("/library/species/collared-lizard").text
    client.post("/library/species/collared-lizard/remove")
    assert "Every target that is judged is met" in client.get("/enclosures/1").text
    client.post("/library/species/collared-lizard?copy=true", data={"label": "Mine"})
    client.post("/enclosures/1/sheet/animal", data={"animal.species": "mine"})
    refused = client.post("/library/species/mine/remove", follow_redirects=True)
    assert "Quarry ledge' uses this entry" in refused.text
    assert "mine" in shelf.catalogue.species


@pytest.mark.parametrize(
    ("field", "typed", "words"),
    [
        ("targets.night_c", "30; 20", "The low end, 30 °C, is above the high end, 20 °C."),
        ("targets.night_c", "warm", "is not a number."),
        ("targets.night_c", "20", "Enter every figure, with a semicolon between them."),
        ("targets.night_c", "10; 15; 20", "Too many figures: at most 2, with a semicolon between them."),
        ("targets.humidity", "60; 300", "Must be at most 100%."),
        ("targets.day_hours", "10; 40", "Must be at most 24."),
        ("targets.basking_surface_c", "500; 900", "Must be at most 100 °C."),
        ("targets.danger_body_c", "20", "is not below what is dangerous, 20 °C."),
        ("targets.danger_body_c", "30; 40", "is not a number."),
        ("targets.bearable.night_c", "25; 26", "25 to 26 °C does not hold all that is wanted."),
        ("stages.hatchling.night_c", "28; 20", "The low end, 28 °C, is above the high end, 20 °C."),
        ("stages.juvenile.basking_surface_c", "90; 95", "is not below what is dangerous"),
        ("length_m.adult", "-4", "Must be at least 0.1 cm."),
        ("least_box_m", "90; 45", "Enter every figure, with a semicolon between them."),
        ("mass_g.adult", "", "Enter a number."),
        ("group", "fish", "Must be &#39;lizard&#39;"),
        ("basks", "perhaps", "Say yes or no."),
        ("label", "", "Enter a name."),
    ],
)
def test_a_figure_that_makes_no_sense_is_refused_beside_itself(
    client: TestClient, shelf: Shelf, field: str, typed: str, words: str
) -> None:
    answer = client.post("/library/species/rosy-boa", data={field: typed})
    assert answer.status_code == 422
    row = re.search(f'id="e-{re.escape(field)}".*?</tr>', answer.text, re.DOTALL)
    assert row is not None
    assert words in row[0], "beside its field"
    assert shelf.catalogue is CATALOGUE, "nothing was kept"


def test_a_refused_figure_is_told_in_the_keepers_units(client: TestClient) -> None:
    client.post("/units", data={"system": "us", "back": "/"})
    answer = client.post("/library/species/rosy-boa", data={"targets.night_c": "90; 70", "length_m.adult": "0"})
    assert "Must be at least 0 in." in answer.text
    answer = client.post("/library/species/rosy-boa", data={"targets.night_c": "90; 70"})
    assert "The low end, 90 °F, is above the high end, 70 °F." in answer.text


def test_the_rule_book_lists_every_rule(client: TestClient) -> None:
    page = client.get("/rules").text
    assert all(name in page for name in RULE_NAMES)
    assert "Shift" in client.get("/help").text


@pytest.mark.slow
def test_variants_are_named_compared_adopted_and_dropped(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/1/variants", data={"name": "First"})
    client.post("/enclosures/1/part/heaters:Main%20lamp", data={"watts": "75"})
    page = client.get("/enclosures/1/variants").text
    assert page.count('class="heat-sheet"') == 2
    assert "Main lamp: power 75 W to 50 W" in page
    client.post("/enclosures/1/variants/adopt", data={"name": "First"})
    assert shelf.open(1).design.heaters[0].watts == 50.0
    assert shelf.open(1).can_undo
    client.post("/enclosures/1/variants/drop", data={"name": "First"})
    assert shelf.variants(1) == []
    assert client.get("/enclosures/1/variants?materials=true").text.count('class="heat-sheet"') == 4


@pytest.mark.slow
def test_variants_of_a_state_that_has_no_day_are_shown_by_night_and_say_so(
    client: TestClient, shelf: Shelf, monkeypatch: pytest.MonkeyPatch
) -> None:
    def solve(design: Design, catalogue: Catalogue, condition: Condition, *rest: Any) -> Climate:
        if condition.day:
            raise NotSettledError("No steady state was found.")
        return solve_condition(design, catalogue, condition, *rest)

    for module in ("mitten.core.judge.assessment", "mitten.web.assessments"):
        monkeypatch.setattr(f"{module}.solve_condition", solve)
    client.post("/enclosures/1/move/sites:Ledge", data={"x_m": "0.91"})
    for path in ("/enclosures/1", "/enclosures/1/variants", "/enclosures/1/variants?materials=true"):
        page = client.get(path)
        assert page.status_code == 200
        assert "could not be worked out" in page.text
        assert 'class="heat-sheet"' in page.text
    assert shelf.open(1).can_undo


def test_an_enclosure_is_taken_off_and_put_back(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/2/remove")
    assert [one.design.name for one in shelf.removed()] == ["Glass canyon"]
    assert "Put it back" in client.get("/").text
    client.post("/enclosures/2/put-back")
    assert len(shelf.enclosures()) == 6


@pytest.mark.slow
def test_outlets_and_mains_are_remembered(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/1/outlet", data={"outlet": "Outlet 2"})
    client.post("/mains", data={"volts": "120", "rated_a": "15"})
    page = client.get("/").text
    assert shelf.open(1).outlet == "Outlet 2"
    assert "under 12.0 A" in page
    assert "on a winter day" in client.get("/room-heat").text


@pytest.mark.slow
def test_a_page_that_is_behind_is_told_and_keeps_only_what_it_changed(client: TestClient, shelf: Shelf) -> None:
    lamp = "/enclosures/1/part/heaters:Main%20lamp"
    client.post(lamp, data={"watts": "60"}, headers={"mitten-edit": "a 1", "mitten-revision": "1"})
    late = client.post(lamp, data={"watts": "50", "z_m": "40"}, headers={"mitten-edit": "b 1", "mitten-revision": "1"})
    assert late.status_code == 409
    assert "changed elsewhere in the meantime (Main lamp: power 50 W to 60 W)" in late.text
    assert 'name="z_m" value="40"' in late.text
    assert shelf.open(1).design.heaters[0].z_m == 0.5
    again = client.post(lamp, data={"z_m": "40"}, headers={"mitten-edit": "b 2", "mitten-revision": "2"})
    assert again.status_code == 200
    own = client.post(lamp, data={"z_m": "41"}, headers={"mitten-edit": "b 3", "mitten-revision": "2"})
    assert own.status_code == 200


def test_a_name_that_stands_for_another_state_is_asked_about_first(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/1/variants", data={"name": "First"})
    client.post("/enclosures/1/add", data={"what": "light"})
    asked = client.post("/enclosures/1/variants", data={"name": "First"})
    assert "stands for another state already" in asked.text
    assert [one.number for one in shelf.variants(1)] == [1]
    client.post("/enclosures/1/variants", data={"name": "First", "replace": "true"})
    assert [one.number for one in shelf.variants(1)] == [2]


ODD = ("5; 37", "3 to 4 to 5", "-40", "1e400", "nan", "0", "1000000", "", "warm")
LIBRARY_WORDS = ("Input should", "Field required", "Tuple should", "validation", "_c", "_m2")
"""What the checking library and the keys of the file would say."""


@pytest.mark.slow
@pytest.mark.parametrize("table", sliced(TABLES, 3))
def test_whatever_is_typed_into_a_figure_is_taken_or_refused_in_words(client: TestClient, table: str) -> None:
    key, entry = next(iter(getattr(CATALOGUE, table).items()))
    leaves = leaves_of(table, entry)
    for leaf in leaves[:: len(leaves) // 20 + 1]:
        for typed in ODD:
            answer = client.post(f"/library/{table}/{key}?copy=true", data={"label": "Own", leaf.path: typed})
            assert answer.status_code in (200, 422), (leaf.path, typed)
            for said in re.findall(r'class="[^"]*fault[^"]*"[^>]*>([^<]*)', answer.text):
                assert not any(word in said for word in LIBRARY_WORDS), (leaf.path, typed, said)


def test_a_lamp_shines_from_something_and_a_kind_lies_where_its_family_does(client: TestClient) -> None:
    answer = client.post("/library/sources/halogen-flood?copy=true", data={"label": "Own", "emitter_k": ""})
    assert "Give the emitter&#39;s temperature, or the area that it radiates from." in answer.text
    answer = client.post("/library/sources/heat-mat?copy=true", data={"label": "Own", "places": "wall; air"})
    assert "A contact source goes under-floor or on-floor or wall or hide-roof, not air." in answer.text
