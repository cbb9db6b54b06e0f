"""Start, plans, owned gear, shopping list and build sheet over HTTP."""

import csv
import pickle
import threading
from concurrent.futures import BrokenExecutor, Future, ProcessPoolExecutor, ThreadPoolExecutor
from io import StringIO
from time import monotonic, sleep

import pytest
from markupsafe import escape
from starlette.testclient import TestClient

from mitten.core.design import Design, Schedule
from mitten.core.design.units import METRIC, US
from mitten.core.judge import assess
from mitten.core.plan.search import ALONE, Brief, Owned, crew, distinct, placeholder_prices, two_processes
from mitten.core.plan.shopping import cost_over, shopping_list
from mitten.demo import demo_designs
from mitten.store import Settings, Shelf
from mitten.web.owned import MOST_OWNED, NotOwnedError, add_gear, gear_key, owned_gear, read_owned, remove_gear
from mitten.web.searches import Searches
from mitten.web.views.card import card_of
from mitten.web.views.plans import gear_words
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, lamp, read

QUARRY, CANYON, ATTIC, TUB, TABLE, COAST = demo_designs()
ANSWERS = {"species": "rosy-boa", "stage": "adult", "box": "tub-80", "room.winter.day_c": "22", "gear": "any"}


def wait_for(enclosure_id: int) -> None:
    """Until the search of an enclosure has come to its end."""
    for thread in threading.enumerate():
        if thread.name == f"search-{enclosure_id}":
            thread.join(60)


def finished(searches: Searches, brief: Brief) -> list[str]:
    """Names of the plans of a search that has come to its end."""
    searching = searches.of(1, brief)
    wait_for(1)
    assert not searching.running
    assert searching.trouble == ""
    return [plan.design.name for plan in searching.progress.plans]


@pytest.mark.parametrize("design", [QUARRY, COAST, TUB], ids=lambda design: str(design.name))
def test_what_pages_keep_of_a_plan_is_small_and_shows_the_same(design: Design) -> None:
    """A dozen searches are kept, with their plans: not with the matrices that solved them."""
    whole = assess(design, CATALOGUE)
    shown = whole.to_show()
    for units in (METRIC, US):
        assert card_of(shown, units) == card_of(whole, units)
    assert shown.headline == whole.headline
    assert len(pickle.dumps(shown)) < 0.3 * len(pickle.dumps(whole))


@pytest.mark.slow
def test_plans_of_a_search_are_kept_as_pages_show_them() -> None:
    searches = Searches()
    searches.of(1, Brief(TUB, CATALOGUE))
    wait_for(1)
    found = searches.latest(1)
    assert found is not None
    for plan in (*found.progress.plans, *found.progress.rejected):
        assert all(climate.state.prepared.conduction.size == 0 for climate in plan.assessment.solved.values())


def test_five_answers_make_an_enclosure_and_begin_its_search(client: TestClient, shelf: Shelf) -> None:
    answer = client.post("/start", data=ANSWERS, follow_redirects=False)
    assert answer.status_code == 303
    made = shelf.enclosures()[-1]
    assert answer.headers["location"] == f"/enclosures/{made.id}/plans?gear=any"
    assert (made.design.animal.species, made.design.room.winter.day_c) == ("rosy-boa", 22.0)
    assert made.design.enclosure.length_m == 0.8


def test_an_answer_that_is_none_is_refused_beside_its_field_and_kept(client: TestClient, shelf: Shelf) -> None:
    answer = client.post("/start", data={**ANSWERS, "room.winter.day_c": "warm"})
    assert answer.status_code == 422
    assert 'value="warm"' in answer.text
    assert "aria-invalid" in answer.text
    assert len(shelf.enclosures()) == 6


def test_nonsense_answers_fall_back_to_what_there_is(client: TestClient, shelf: Shelf) -> None:
    odd = {**ANSWERS, "species": "dragon", "box": "castle", "stage": "egg", "gear": "stolen"}
    assert client.post("/start", data=odd, follow_redirects=False).status_code == 303
    assert shelf.enclosures()[-1].design.animal.species in CATALOGUE.species


def test_a_search_runs_beside_and_is_the_same_for_the_same_brief() -> None:
    searches = Searches()
    brief = Brief(TUB, CATALOGUE, approach="lightless")
    assert searches.of(1, brief) is searches.of(1, brief)
    finished(searches, brief)
    said = searches.of(1, brief).said
    assert all(isinstance(sentence, str) for sentence in said)
    searches.forget()
    assert searches.latest(1) is None


@pytest.mark.slow
def test_a_search_in_processes_of_its_own_finds_the_same(monkeypatch: pytest.MonkeyPatch) -> None:
    brief = Brief(TUB, CATALOGUE, approach="lightless")
    alone, crewed = Searches(), Searches(two_processes)
    assert finished(alone, brief) == finished(crewed, brief)
    assert alone.of(1, brief).said == crewed.of(1, brief).said
    monkeypatch.setattr(crew, "can_fork", lambda: False)
    with two_processes() as found:
        assert found is ALONE
    crewed.close()


def test_where_processes_do_not_come_up_a_search_works_alone(monkeypatch: pytest.MonkeyPatch) -> None:
    def broken(*_: object) -> Future[int]:
        raise BrokenExecutor("no processes here")

    monkeypatch.setattr(ProcessPoolExecutor, "submit", broken)
    with two_processes() as found:
        assert found is ALONE


@pytest.mark.slow
def test_searches_that_are_closed_have_ended() -> None:
    searches = Searches()
    running = [searches.of(number, Brief(COAST, CATALOGUE)) for number in (1, 2)]
    searches.close()
    assert not any(one.running for one in running)
    assert searches.latest(1) is None


@pytest.mark.slow
def test_plans_are_shown_as_they_come_and_one_is_put_on_the_bench(client: TestClient, shelf: Shelf) -> None:
    page = client.get("/enclosures/6/plans?approach=lightless").text
    assert 'hx-post="/enclosures/6/plans/look?approach=lightless"' in page
    client.post("/enclosures/6/plans/look?approach=lightless")
    services = client.app.state.services  # type: ignore[attr-defined]
    searching = services.searches.latest(6)
    wait_for(6)
    found = client.get("/enclosures/6/plans/found?approach=lightless").text
    assert "hx-trigger" not in found.partition("<article")[0].partition('id="found"')[2].partition(">")[0]
    assert found.count('<article class="plan"') == len(distinct(searching.progress.plans, CATALOGUE))
    key = found.partition('data-plan="')[2].partition('"')[0]
    beside = client.get("/enclosures/6/plans/beside", params={"show": [key]})
    assert beside.status_code == 200
    assert "Plans side by side" in beside.text
    assert "danger" in how_soon(client, f"/enclosures/6/plans/stuck?plan={key}")
    answer = client.post("/enclosures/6/plans/take", data={"plan": key}, follow_redirects=False)
    assert answer.headers["location"] == "/enclosures/6"
    taken = shelf.open(6)
    assert taken.design.name == "Coast box"
    assert taken.design.approach == "lightless"
    assert shelf.history(6)[0].summary.startswith("Took the plan:")
    shelf.undo(6)
    assert shelf.open(6).design == COAST


def how_soon(client: TestClient, path: str) -> str:
    """What is said of a plan whose thermostat sticks, once that was gone through."""
    text = client.post(path).text
    until = monotonic() + 60
    while "working" in text and monotonic() < until:
        sleep(0.1)
        text = client.get(path).text
    return text


def test_a_plan_that_is_not_there_any_more_leads_back_to_the_list(client: TestClient, shelf: Shelf) -> None:
    assert "danger" not in client.post("/enclosures/6/plans/stuck?plan=gone").text
    answer = client.post("/enclosures/6/plans/take", data={"plan": "gone"}, follow_redirects=False)
    assert answer.headers["location"] == "/enclosures/6/plans"
    assert shelf.open(6).design == COAST
    assert client.get("/enclosures/6/plans/beside", follow_redirects=False).status_code == 303


def test_a_budget_that_is_no_amount_is_said_beside_it(client: TestClient) -> None:
    page = client.get("/enclosures/4/plans", params={"budget": "lots", "approach": "ground"}).text
    assert "is no amount" in page
    assert 'value="lots"' in page
    client.post("/enclosures/4/plans/stop")


def test_owned_gear_is_kept_and_taken_off(shelf: Shelf, client: TestClient) -> None:
    settings = Settings(shelf.connection)
    for gear in ("75 W Halogen flood", "uvb-tube:14"):
        answer = client.post("/owned", data={"gear": gear, "back": "//elsewhere"}, follow_redirects=False)
        assert answer.headers["location"] == "/elsewhere"
    assert owned_gear(settings, CATALOGUE) == (Owned("halogen-flood", 75.0), Owned("uvb-tube", 14.0))
    client.post("/owned/remove", data={"gear": gear_key(Owned("halogen-flood", 75.0))})
    assert owned_gear(settings, CATALOGUE) == (Owned("uvb-tube", 14.0),)
    settings.put("owned-gear", "not json")
    assert owned_gear(settings, CATALOGUE) == ()
    add_gear(settings, Owned("heat-mat", 16.0), CATALOGUE)
    remove_gear(settings, "halogen-flood:75", CATALOGUE)
    assert owned_gear(settings, CATALOGUE) == (Owned("heat-mat", 16.0),)


def test_more_gear_than_can_be_kept_is_refused_and_said(client: TestClient, shelf: Shelf) -> None:
    gear = Owned("halogen-flood", 75.0)
    for _ in range(MOST_OWNED):
        add_gear(Settings(shelf.connection), gear, shelf.catalogue)
    page = client.post("/owned", data={"gear": "halogen-flood:50", "back": "/enclosures/1/plans?gear=owned"})
    assert "as many as can be kept" in page.text
    assert owned_gear(Settings(shelf.connection), shelf.catalogue) == (gear,) * MOST_OWNED


def test_owned_gear_says_what_its_fixture_and_hours_mean(client: TestClient, shelf: Shelf) -> None:
    client.post("/owned", data={"gear": "halogen-flood:100", "fixture": "60", "hours": ""})
    client.post("/owned", data={"gear": "halogen-flood:75", "fixture": "100", "hours": "2400"})
    too_strong, worn = owned_gear(Settings(shelf.connection), CATALOGUE)
    assert (too_strong.fixture_w, too_strong.hours) == (60.0, None)
    assert "left out: its fixture may hold 60 W" in gear_words(too_strong, CATALOGUE)
    assert "2400 h burned of about 2500: keep a spare" in gear_words(worn, CATALOGUE)
    brief = Brief(QUARRY, CATALOGUE, owned=(too_strong, worn))
    assert (brief.owns("halogen-flood", 100.0), brief.owns("halogen-flood", 75.0)) == (0, 1)


@pytest.mark.parametrize(
    ("typed", "owned"),
    [
        ("75 W halogen flood", ("halogen-flood", 75.0)), ("halogen-flood:75", ("halogen-flood", 75.0)),
        ("24 w UV tube, T5, desert", ("uvb-tube", 24.0)), ("UV tube, T5, strong desert 24 W", ("uvb-tube-strong", 24.0)),
        ("heat mat 16", ("heat-mat", 16.0)), ("UV tube, T5, forest, 22,5Watt", ("uvb-tube-forest", 22.5)),
    ],
)  # fmt: skip
def test_gear_is_understood_by_its_name_though_that_begins_anothers(typed: str, owned: tuple[str, float]) -> None:
    found = read_owned(CATALOGUE, typed)
    assert (found.kind, found.watts, found.fixture_w, found.hours) == (*owned, None, None)


@pytest.mark.parametrize(
    ("gear", "fixture", "hours"),
    [("0 W halogen flood", "", ""), ("halogen-flood:0", "", ""), ("75 W halogen flood", "0", ""),
     ("75 W halogen flood", "", "0"), ("75 W halogen flood", "-5", ""), ("halogen flood", "", ""), ("75 W tube", "", "")],
)  # fmt: skip
def test_gear_of_no_watts_or_of_several_names_is_refused_in_words(gear: str, fixture: str, hours: str) -> None:
    with pytest.raises(NotOwnedError, match=r"\.$"):
        read_owned(CATALOGUE, gear, fixture, hours)


def test_a_shopping_list_names_everything_with_ratings_and_a_spare_of_what_burns_out() -> None:
    items = {(item.what, item.words): item for item in shopping_list(QUARRY, CATALOGUE)}
    words = " ".join(item.words for item in items.values())
    assert "halogen flood" in words
    assert "rated for" in words
    assert any(what == "spare" for what, _ in items)


@pytest.mark.parametrize(("kind", "on", "hours_a_day"), [
    ("halogen-flood", "day", 10.0), ("ceramic-emitter", "night", 14.0), ("ceramic-emitter", "always", 24.0),
])  # fmt: skip
def test_a_source_wears_by_the_hours_that_it_runs(kind: str, on: str, hours_a_day: float) -> None:
    lamp = QUARRY.heaters[0].model_copy(update={"kind": kind, "on": on})
    design = QUARRY.model_copy(update={"heaters": (lamp,), "schedule": Schedule(day_hours=10.0)})
    (item,) = [one for one in shopping_list(design, CATALOGUE) if (one.what, one.key) == ("source", kind)]
    assert item.life_years == pytest.approx((placeholder_prices()[kind].life_h or 0) / (365 * hours_a_day))


@pytest.mark.parametrize(
    ("on", "control", "timers"),
    [
        ("day", None, ["timer for the lights of the day"]), ("night", None, ["timer for the heat of the night"]),
        ("always", None, []), ("day", "pulse", ["timer for the lights of the day"]), ("always", "pulse", []),
        ("night", "pulse", []), ("day", "timer", ["timer, rated for 75 W or more"]),
    ],
)  # fmt: skip
def test_timers_are_bought_for_what_goes_by_the_clock(on: str, control: str | None, timers: list[str]) -> None:
    data = box_data(on=on, **({} if control is None else {"control": "C"}))
    if control is not None:
        held = {"day_c": 30.0, "night_c": 24.0, "probe": {"x_m": 0.9, "y_m": 0.3, "z_m": 0.2}}
        data["controls"] = [{"name": "C", "kind": control, **(held if control == "pulse" else {})}]
    assert [item.words for item in shopping_list(read(data), CATALOGUE) if item.key == "timer"] == timers


def test_costs_add_up_over_the_years() -> None:
    design = QUARRY.model_copy(update={"room": QUARRY.room.model_copy(update={"tariff_per_kwh": 0.3})})
    assessment, items = assess(design, CATALOGUE), shopping_list(design, CATALOGUE)
    one, five = cost_over(assessment, items, 1), cost_over(assessment, items, 5)
    assert one.purchase == pytest.approx(sum(item.total for item in items))
    assert five.energy == pytest.approx(5 * (one.energy or 0.0))
    assert five.replacements > one.replacements
    assert five.total == pytest.approx(five.purchase + five.replacements + (five.energy or 0.0))


def test_own_prices_are_remembered_refused_and_forgotten(client: TestClient) -> None:
    item = next(one for one in shopping_list(QUARRY, CATALOGUE) if one.key == "halogen-flood").words
    assert client.post("/enclosures/1/shopping", data={"item": item, "price": "7,50"}).status_code == 200
    rows = list(csv.DictReader(StringIO(client.get("/enclosures/1/shopping.csv").text)))
    own = next(row for row in rows if row["description"] == item and row["what"] == "source")
    assert (own["price each"], own["price is"]) == ("7.50", "own")
    refused = client.post("/enclosures/1/shopping", data={"item": item, "price": "cheap"})
    assert refused.status_code == 422
    assert "is no price" in refused.text
    client.post("/enclosures/1/shopping", data={"item": item, "price": ""})
    assert "own" not in {
        row["price is"] for row in csv.DictReader(StringIO(client.get("/enclosures/1/shopping.csv").text))
    }


@pytest.mark.slow
@pytest.mark.parametrize(
    ("runs", "by_the_clock"), [(("day", "day"), True), (("day", "night"), True), (("day", "always"), False)]
)
def test_a_control_goes_by_the_clock_where_all_that_it_holds_does(runs: tuple[str, str], by_the_clock: bool) -> None:
    probe = {"x_m": 0.9, "y_m": 0.3, "z_m": 0.2}
    heaters = [lamp(name=f"Lamp {n}", x_m=0.4 + 0.4 * n, on=on, control="T") for n, on in enumerate(runs)]
    controls = [{"name": "T", "kind": "pulse", "day_c": 30.0, "night_c": 22.0, "probe": probe}]
    design = read({**box_data(), "heaters": heaters, "controls": controls})
    assert design.goes_by_the_clock(design.controls[0]) is by_the_clock


def test_a_build_sheet_says_what_goes_by_which_timer_and_what_by_none(client: TestClient, shelf: Shelf) -> None:
    probe = {"x_m": 0.9, "y_m": 0.3, "z_m": 0.2}
    held = [
        {"name": "Day", "kind": "dimming", "day_c": 30.0, "cut_out_c": 36.0, "probe": probe},
        {"name": "All day", "kind": "pulse", "day_c": 28.0, "night_c": 22.0, "max_watts": 300.0, "probe": probe},
    ]
    emitter = lamp(kind="ceramic-emitter", watts=60.0, y_m=0.2)
    data: Data = box_data() | {
        "heaters": [
            lamp(name="Sun", control="Day"),
            {**emitter, "name": "Warm", "on": "always", "control": "All day", "x_m": 0.6},
            {**emitter, "name": "Moon", "on": "night", "x_m": 0.4},
            {**emitter, "name": "Ever", "on": "always", "x_m": 0.2},
        ],
        "lights": [{"name": "Plain", "watts": 10.0, "x_m": 0.6, "y_m": 0.3, "z_m": 0.55}],
        "controls": held,
        "schedule": {"day_start": "08:00", "day_length": "seasons", "winter_hours": 9, "summer_hours": 14.5},
    }
    number = shelf.add(read(data)).id
    page = client.get(f"/enclosures/{number}/build-sheet").text
    for line in (
        "timer → cut-out (a second thermostat, its own probe beside the first) → Day (dimming) → Sun (75 W)",
        "Outlet (RCD/GFCI) → All day (pulse, rated 300 W) → Warm (60 W)",
        "Outlet (RCD/GFCI) → timer → Plain<",
        "Outlet (RCD/GFCI) → timer for the night → Moon<",
        "Outlet (RCD/GFCI) → Ever<",
        "on at 09:30 for 9 h in the middle of winter, at 06:45 for 14.5 h in that of summer",
    ):
        assert line in page


@pytest.mark.parametrize("number", range(1, 7))
def test_a_build_sheet_says_everything_that_is_to_be_built(client: TestClient, shelf: Shelf, number: int) -> None:
    page = client.get(f"/enclosures/{number}/build-sheet").text
    design = shelf.open(number).design
    for part in (*design.powered, *design.sites):
        assert part.name in page
    for heading in ("Parts", "Wiring", "Setpoints and timers", "Measure, and compare", "Mind"):
        assert f"<h2>{heading}</h2>" in page
    assert "RCD/GFCI" in page


@pytest.mark.parametrize(
    ("typed", "sentence"),
    [
        ("dragon:9", "nothing that is called"),
        ("halogen flood", "Say how many watts"),
        ("halogen-flood:x", "Say how many watts"),
        ("75 W", "nothing that is called"),
        ("75 watts halogen", "may be 2 things: halogen"),
        ("9999 W halogen flood", "Say how many watts"),
        ("<b>75 W</b>", "nothing that is called"),
    ],
)
def test_gear_that_is_not_understood_is_refused_and_kept_as_typed(
    client: TestClient, shelf: Shelf, typed: str, sentence: str
) -> None:
    gear = {"gear": typed, "hours": "12", "back": "/enclosures/1/plans?gear=owned"}
    page = client.post("/owned", data=gear).text
    assert sentence in page
    assert f'value="{escape(typed)}"' in page
    assert 'value="12"' in page
    assert owned_gear(Settings(shelf.connection), CATALOGUE) == ()


@pytest.mark.parametrize("figures", [{"fixture": "sixty"}, {"hours": "lots"}, {"fixture": "-5"}])
def test_owned_gear_with_a_figure_that_is_no_number_is_refused_in_words(
    client: TestClient, shelf: Shelf, figures: dict[str, str]
) -> None:
    gear = {"gear": "halogen-flood:75", "back": "/enclosures/1/plans?gear=owned", **figures}
    answer = client.post("/owned", data=gear)
    assert "is no number above nothing" in answer.text
    assert owned_gear(Settings(shelf.connection), CATALOGUE) == ()


@pytest.mark.slow
def test_of_twenty_pieces_added_at_once_none_is_lost(client: TestClient, shelf: Shelf) -> None:
    with ThreadPoolExecutor(8) as many:
        list(
            many.map(
                lambda hours: client.post("/owned", data={"gear": "halogen-flood:75", "hours": str(hours)}),
                range(1, 21),
            )
        )
    assert {one.hours for one in owned_gear(Settings(shelf.connection), CATALOGUE)} == set(map(float, range(1, 21)))
