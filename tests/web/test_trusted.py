"""What the bench can be trusted with: conditions judged wholly, rows of one condition, probes by name, safe defaults."""

import re
from datetime import UTC, datetime
from itertools import pairwise
from threading import Thread
from time import monotonic, sleep

import numpy as np
import pytest
from starlette.testclient import TestClient

from mitten.core.judge import assess, judge_in, read_condition, solve_condition
from mitten.core.judge.assessment import on_day
from mitten.core.plan import Mending, hide_fixes
from mitten.core.plan.probe_places import place_of, probe_places, probe_words
from mitten.core.plan.search import Brief
from mitten.demo import demo_designs
from mitten.store import Shelf
from mitten.web import assessments
from mitten.web.editing import Editing
from mitten.web.kept import LatestCache
from mitten.web.searches import AT_ONCE, Searches
from tests.catalogue import CATALOGUE

QUARRY, CANYON, ATTIC, TUB, TABLE, COAST = demo_designs()
HX = {"HX-Request": "true"}


def headline(page: str) -> str:
    found = re.search(r'id="headline">([^<]*)<', page)
    assert found
    return found.group(1)


@pytest.mark.parametrize("condition", ["winter-day+dead:Main lamp", "room=33,day", "winter-night+dead:UV tube"])
def test_a_condition_is_judged_wholly_with_a_way_back(client: TestClient, condition: str) -> None:
    page = client.get("/enclosures/1", params={"condition": condition}).text
    assert "not at the four seasons" in page
    assert 'id="to-seasons"' in page
    margin = client.get("/enclosures/1/margin", params={"condition": condition, "fixes": True}).text
    assert headline(margin) == headline(page)
    assert "likely" in margin
    at = read_condition(QUARRY, condition)
    judged = judge_in(QUARRY, at, solve_condition(QUARRY, CATALOGUE, at), assess(QUARRY, CATALOGUE).targets)
    assert len(re.findall('<section class="target', page)) == len(judged)
    assert ("too" in headline(page)) == any(one.status == "misses" for one in judged)
    assert "not at the four seasons" not in client.get("/enclosures/1").text


@pytest.mark.slow
@pytest.mark.parametrize("condition", ["winter-day", "summer-day", "summer-night", "usual-day"])
def test_every_row_of_a_comparison_is_of_one_condition_the_chosen_one(
    client: TestClient, shelf: Shelf, condition: str
) -> None:
    shelf.keep_variant(1, "Before")
    client.post("/enclosures/1/part/heaters:Main lamp", data={"watts": "75"}, headers=HX)
    page = client.get("/enclosures/1/variants", params={"condition": condition}).text
    designs = [shelf.open(1).design, QUARRY]
    counterpart = condition.replace("day", "*").replace("night", "day").replace("*", "night")
    for name in (condition, counterpart):
        for design in designs:
            at = read_condition(design, name)
            for verdict in judge_in(
                design,
                at,
                on_day(solve_condition(design, CATALOGUE, at), datetime.now(UTC).date()),
                assess(design, CATALOGUE).targets,
            ):
                row = re.search(rf'<th scope="row">{verdict.label} <small>([^<]*)</small></th>(.*?)</tr>', page)
                assert row
                if row.group(1) == at.within:
                    shown = [float(one) for one in re.findall(r">(-?[\d.]+) ", row.group(2))]
                    # What a solution was begun from may tip the last figure that is shown.
                    assert any(
                        one == pytest.approx(verdict.value, abs=0.11 if "." in row.group(2) else 1) for one in shown
                    )


def test_a_state_without_the_part_that_failed_is_compared_in_the_same_season(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/1/do/remove/heaters:Main lamp", headers=HX)
    shelf.keep_variant(1, "Without it")
    shelf.undo(1)
    asked = {"condition": "summer-day+dead:Main lamp", "show": ["Without it", "As it is now"]}
    page = client.get("/enclosures/1/variants", params=asked).text
    row = re.search(r'<th scope="row">Cool side air <small>([^<]*)</small></th>(.*?)</tr>', page)
    assert row
    assert "summer day" in row.group(1)
    shown = [float(one) for one in re.findall(r">(-?[\d.]+) °C", row.group(2))]
    assert shown[0] == pytest.approx(shown[1], abs=0.11)


@pytest.mark.slow
def test_a_setpoint_is_offered_for_both_seasons_and_set_with_a_button(client: TestClient, shelf: Shelf) -> None:
    offer = client.get("/enclosures/6/setpoint/Pulse").text
    assert re.search(r"by day, set it to [\d.]+ °C in winter and [\d.]+ °C in summer", offer)
    values = dict(re.findall(r'"([a-z_.]+)": "([\d.]*)"', offer.replace("&#34;", '"')))
    assert client.post("/enclosures/6/part/controls:Pulse", data=values, headers=HX).status_code == 200
    control = shelf.open(6).design.controls[0]
    assert control.day_c == float(values["day_c"])
    surfaces = [
        assess(shelf.open(6).design, CATALOGUE).climate(name).basking.surface_c for name in ("winter-day", "summer-day")
    ]
    aim_c = sum(assess(COAST, CATALOGUE).targets.basking_surface_c) / 2
    assert surfaces == pytest.approx([aim_c, aim_c], abs=1.0)


@pytest.mark.slow
@pytest.mark.parametrize("design", [COAST, TUB], ids=["coast", "tub"])
def test_a_probe_is_put_by_name_and_said_back(client: TestClient, shelf: Shelf, design: object) -> None:
    number = 6 if design is COAST else 4
    before = shelf.open(number).design
    name = before.controls[0].name
    for place in probe_places(before, CATALOGUE, before.controls[0]):
        answer = client.post(f"/enclosures/{number}/part/controls:{name}", data={"probe.where": place.key}, headers=HX)
        now = shelf.open(number).design
        found = place_of(now, CATALOGUE, now.controls[0])
        assert found is not None
        assert found.probe == place.probe
        assert place.words.replace("'", "&#39;") in answer.text
        assert probe_words(now, CATALOGUE, now.controls[0]) == found.words


def test_a_probe_meant_for_a_ledge_that_reads_the_ground_under_it_says_so() -> None:
    site, control = COAST.basking_site, COAST.controls[0]
    assert site is not None
    ground_m = COAST.substrate.depth_m
    probe = {"x_m": site.x_m, "y_m": site.y_m, "z_m": ground_m, "reads": "surface", "shaded": True}
    raised = site.model_copy(update={"z_m": ground_m + 0.2})
    sites = tuple(raised if one == site else one for one in COAST.sites)
    moved = control.model_copy(update={"probe": control.probe and control.probe.model_copy(update=probe)})
    said = probe_words(COAST.model_copy(update={"sites": sites}), CATALOGUE, moved)
    assert said == f"on the ground under '{site.name}', not on it"


@pytest.mark.slow
@pytest.mark.parametrize("kind", CATALOGUE.sources)
def test_what_is_added_is_safe_at_once(client: TestClient, shelf: Shelf, kind: str) -> None:
    client.post("/enclosures/1/add", data={"what": kind})
    design, catalogue = shelf.open(1).design, CATALOGUE
    heater, source = design.heaters[-1], catalogue.sources[kind]
    if source.needs_fixture:
        fixture = catalogue.fixtures[heater.fixture.kind]
        assert fixture.has_guard or heater.above_mesh
        assert heater.watts <= (heater.fixture.max_watts or fixture.usual_max_watts)
    if not source.light:
        control = next(one for one in design.controls if one.name == heater.control)
        assert control.is_thermostat
    stops = {one.rule for one in assess(design, CATALOGUE).stops} - {
        one.rule for one in assess(QUARRY, CATALOGUE).stops
    }
    assert not stops & {"no-thermostat", "no-guard", "over-rating"}


def test_start_takes_the_size_that_is_typed_and_keeps_vents_inside(client: TestClient, shelf: Shelf) -> None:
    size = {"length_m": "100", "depth_m": "50 cm", "height_m": "12 in"}
    client.post("/start", data={"species": "rosy-boa", "box": "plywood-180", **size}, follow_redirects=False)
    box = shelf.enclosures()[-1].design.enclosure
    assert (box.length_m, box.depth_m, box.height_m) == pytest.approx((1.0, 0.5, 0.3048))
    assert all(vent.z_m is None or vent.z_m < box.height_m for vent in box.vents)
    refused = client.post("/start", data={"species": "rosy-boa", "length_m": "long"})
    assert refused.status_code == 422
    assert 'value="long"' in refused.text


@pytest.mark.slow
@pytest.mark.parametrize(
    ("number", "form", "changes", "words"),
    [
        (6, "ground", {"substrate.moisture": "wet"}, ["Set Pulse"]),
        (1, "part/uvb:UV tube", {"z_m": "15"}, ["UV tube"]),
        (3, "place", {"room.winter.rh": "12", "room.summer.rh": "12"}, ["Mist", "ground"]),
    ],
)
def test_water_and_light_that_miss_are_mended_too(
    client: TestClient, number: int, form: str, changes: dict[str, str], words: list[str]
) -> None:
    path = form if form.startswith("part") else f"sheet/{form}"
    assert client.post(f"/enclosures/{number}/{path}", data=changes, headers=HX).status_code == 200
    fixes = fixes_in(whole_margin(client, number))
    assert any(any(word in fix for word in words) for fix in fixes), fixes


def fixes_in(margin: str) -> list[str]:
    """The words of every fix on offer."""
    return re.findall(r'<button class="fix" id="[^"]*"><span>([^<]*)', margin)


def whole_margin(client: TestClient, number: int) -> str:
    """The margin once fixes were looked for everywhere, as the page asks for it."""
    for _ in range(20):
        margin = client.get(f"/enclosures/{number}/margin?fixes=true").text
        if "fixes=true" not in margin:
            break
    return margin


@pytest.mark.slow
def test_fixes_are_shown_as_they_are_found(client: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(assessments, "A_WHILE_S", 0.0)
    seen = []
    for _ in range(12):
        margin = client.get("/enclosures/3/margin?fixes=true").text
        seen.append(fixes_in(margin))
        if "fixes=true" not in margin:
            break
    assert len(seen) > 2
    assert all(set(before) <= set(after) for before, after in pairwise(seen)), "what was shown stays"
    assert len(seen[0]) < len(seen[-1])
    judged = assess(ATTIC, CATALOGUE)
    mending = Mending(judged)
    of_targets = sum(len(mending.fixes_for(verdict)) for verdict in judged.wrong)
    assert len(seen[-1]) == of_targets + sum(map(len, hide_fixes(judged).values()))
    ids = re.findall(r'<button class="fix" id="([^"]*)"', margin)
    assert len(ids) == len(set(ids))
    assert "fixes=true" not in client.get("/enclosures/3/margin").text, "all is known"


def test_where_the_room_is_the_cause_it_is_said(client: TestClient) -> None:
    client.post("/enclosures/1/sheet/place", data={"room.winter.rh": "92", "room.summer.rh": "95"}, headers=HX)
    margin = client.get("/enclosures/1/margin?fixes=true").text
    assert re.search(r"The room itself is at 9\d%, which is \d\d% at the \d\d °C of the box", margin)
    assert "no vent can help" in margin


def test_where_no_single_change_mends_it_plans_are_pointed_at(client: TestClient) -> None:
    """The sand tub's warm air misses what is wanted, and no change alone brings it there."""
    margin = whole_margin(client, 4)
    assert "No single change mends it without spoiling something else" in margin
    assert '<a href="/enclosures/4/plans">plans</a>' in margin
    assert "No single change" not in client.get("/enclosures/1/margin").text, "what is right has nothing to mend"


def test_of_two_tabs_on_one_library_entry_the_later_is_told_and_loses_nothing(client: TestClient, shelf: Shelf) -> None:
    editor = client.get("/library/meshes/steel-fine/edit").text if "steel-fine" in CATALOGUE.meshes else ""
    key = "steel-fine" if editor else next(iter(CATALOGUE.meshes))
    page = client.get(f"/library/meshes/{key}/edit").text
    seen = page.partition('name="seen" value="')[2].partition('"')[0]
    label = CATALOGUE.meshes[key].label
    first = client.post(f"/library/meshes/{key}", data={"seen": seen, "label": f"{label} one"}, follow_redirects=False)
    assert first.status_code == 303
    second = client.post(f"/library/meshes/{key}", data={"seen": seen, "label": f"{label} two"})
    assert second.status_code == 422
    assert "changed elsewhere" in second.text
    assert f'value="{label} two"' in second.text
    assert shelf.catalogue.meshes[key].label == f"{label} one"
    client.post(f"/library/meshes/{key}/remove")


def test_undo_takes_back_only_what_its_page_shows(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/1/move/heaters:Main lamp", data={"x_m": "0.8"}, headers={"Mitten-Edit": "one 1"})
    client.post("/enclosures/1/move/heaters:Main lamp", data={"x_m": "0.7"}, headers={"Mitten-Edit": "two 1"})
    old = client.post("/enclosures/1/undo", headers={"Mitten-Edit": "one 2", "Mitten-Revision": "2", **HX})
    assert old.status_code == 409
    assert shelf.open(1).revision == 3
    assert client.post("/enclosures/1/undo", headers={"Mitten-Revision": "3", **HX}).status_code == 200
    assert shelf.open(1).revision == 2


def test_edits_of_one_enclosure_wait_for_one_another_alone_and_for_the_library() -> None:
    editing, order = Editing(), list[str]()

    def edit(number: int, word: str, seconds: float) -> None:
        with editing.of(number):
            sleep(seconds)
            order.append(word)

    threads = [Thread(target=edit, args=args) for args in ((1, "slow", 0.3), (1, "after it", 0.0), (2, "other", 0.0))]
    for thread in threads:
        thread.start()
        sleep(0.03)
    with editing.library():
        order.append("library")
    for thread in threads:
        thread.join()
    assert order == ["other", "slow", "library", "after it"] or order == ["other", "slow", "after it", "library"]


def test_only_so_many_searches_work_at_once_and_the_others_say_their_place() -> None:
    searches = Searches()
    running = [searches.of(number, Brief(COAST, CATALOGUE)) for number in range(1, AT_ONCE + 3)]
    assert [searches.before(one) for one in running] == [0] * AT_ONCE + [1, 2]
    searches.stop(AT_ONCE + 1)
    until = monotonic() + 5
    while running[AT_ONCE].running and monotonic() < until:
        sleep(0.02)
    assert not running[AT_ONCE].running, "one that waits is stopped at once"
    assert searches.before(running[-1]) == 1
    searches.close()


def test_another_search_of_an_enclosure_stops_the_one_before_and_the_same_one_goes_on() -> None:
    searches = Searches()
    first = searches.of(1, Brief(COAST, CATALOGUE))
    other = searches.of(2, Brief(COAST, CATALOGUE))
    assert searches.of(1, Brief(COAST, CATALOGUE)) is first
    second = searches.of(1, Brief(COAST, CATALOGUE, approach="ground"))
    assert second is not first
    assert [one.stop.is_set() for one in (first, other, second)] == [True, False, False]
    searches.close()
    assert all(one.stop.is_set() for one in (other, second))


def test_what_is_large_is_kept_by_bytes_and_what_is_shared_counted_once() -> None:
    kept: LatestCache[int, tuple[np.ndarray, ...]] = LatestCache(100, 3000, heavy=lambda arrays: arrays)
    shared = np.zeros(125)
    for key in range(20):
        kept.put(key, (shared,))
    assert all(kept.get(key) for key in range(20))
    for key in range(20, 25):
        kept.put(key, (np.zeros(125),))
    assert kept.get(0) is None
    assert [key for key in range(25) if kept.get(key)][-2:] == [23, 24]
    kept.put(99, (np.zeros(10_000),))
    assert kept.get(99) is not None
    assert kept.get(24) is None


def test_the_heat_of_many_enclosures_comes_as_it_is_known(
    client: TestClient, shelf: Shelf, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("mitten.web.routes.shelf.ROOM_HEAT_S", 0.0)
    assert "So far 0 of 6" in client.get("/room-heat").text
    monkeypatch.setattr("mitten.web.routes.shelf.ROOM_HEAT_S", 60.0)
    whole = client.get("/room-heat").text
    assert "hx-get" not in whole
    monkeypatch.setattr("mitten.web.routes.shelf.ROOM_HEAT_S", 0.0)
    assert client.get("/room-heat").text == whole
