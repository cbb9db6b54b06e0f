"""The keeper's own entries at work: they are searched, priced and owned, and never take shelf, undo or history down."""

import json
from typing import Any

import pytest
from starlette.testclient import TestClient

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.judge import Assessment, assess
from mitten.core.plan.search import Brief, find_plans, placeholder_of, price_of
from mitten.core.plan.shopping import shopping_list
from mitten.store import Shelf
from mitten.web.routes.common import Workings
from tests.sweeping import sliced

OWN = {"label": "Flood of mine"}
KEY = "flood-of-mine"


@pytest.fixture
def own_flood(client: TestClient, shelf: Shelf) -> TestClient:
    client.post("/library/sources/halogen-flood?copy=true", data=OWN)
    assert KEY in shelf.catalogue.sources
    return client


@pytest.mark.slow
def test_an_own_lamp_is_added_priced_owned_and_searched(own_flood: TestClient, shelf: Shelf) -> None:
    own_flood.post("/enclosures/1/add", data={"what": KEY})
    design = shelf.open(1).design
    assert design.heaters[-1].kind == KEY
    assert any("Flood of mine" in item.words for item in shopping_list(design, shelf.catalogue))
    for page in ("/enclosures/1/shopping", "/enclosures/1/shopping.csv", "/enclosures/1/plans"):
        assert own_flood.get(page).status_code == 200
    own_flood.post("/owned", data={"gear": f"{KEY}:50", "back": "/"})
    assert own_flood.get("/enclosures/1/plans").status_code == 200
    assert find_plans(Brief(design, shelf.catalogue)).plans


@pytest.mark.slow
@pytest.mark.parametrize(
    ("table", "shipped"), [("sources", "heat-mat"), ("uvb", "uvb-tube"), ("fixtures", "dome"), ("controls", "pulse")]
)
def test_an_own_kind_is_priced_like_what_it_is_like(client: TestClient, shelf: Shelf, table: str, shipped: str) -> None:
    client.post(f"/library/{table}/{shipped}?copy=true", data={"label": "Own thing"})
    assert "own-thing" in getattr(shelf.catalogue, table)
    assert price_of("own-thing", 20.0, shelf.catalogue) > 0
    if table == "sources":
        assert placeholder_of("own-thing", shelf.catalogue) == placeholder_of(shipped, shelf.catalogue)


def test_an_entry_in_use_is_not_made_into_one_that_spoils_a_design(own_flood: TestClient, shelf: Shelf) -> None:
    own_flood.post("/enclosures/1/add", data={"what": KEY})
    answer = own_flood.post(f"/library/sources/{KEY}", data={**OWN, "family": "contact", "places": "under-floor"})
    assert answer.status_code == 422
    assert "would not fit any more" in answer.text
    assert shelf.catalogue.sources[KEY].family == "lamp"
    assert own_flood.get("/").status_code == own_flood.get("/enclosures/1").status_code == 200


def test_an_entry_that_only_history_uses_stays_for_it(own_flood: TestClient, shelf: Shelf) -> None:
    own_flood.post("/enclosures/1/add", data={"what": KEY})
    own_flood.post(f"/enclosures/1/do/remove/heaters:{shelf.open(1).design.heaters[-1].name}")
    answer = own_flood.post(f"/library/sources/{KEY}/remove")
    assert "Nothing was removed" in answer.text
    assert own_flood.post("/enclosures/1/undo").status_code == 200
    assert shelf.open(1).design.heaters[-1].kind == KEY


@pytest.mark.slow
def test_one_bad_row_takes_nothing_else_down_and_can_be_stepped_back_from(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/1/add", data={"what": "ceramic-emitter"})
    with shelf.connection.writing() as tables:
        row = tables.revision.get(tables.revision.enclosure == 1, tables.revision.number == 2)
        row.design = json.dumps({**json.loads(row.design), "animal": {"species": "gone"}})
        row.save()
    page = client.get("/")
    assert page.status_code == 200
    assert "Enclosure 1 cannot be read" in page.text
    assert "the catalogue has no species" in page.text
    assert len(shelf.enclosures()) == 5
    broken = client.get("/enclosures/1")
    assert (broken.status_code, "kept as it is" in broken.text) == (500, True)
    assert client.post("/enclosures/1/undo").status_code == 200
    assert len(shelf.enclosures()) == 6


@pytest.mark.slow
def test_an_entry_that_is_kept_while_a_design_is_solved_is_in_the_next_answer(
    client: TestClient, shelf: Shelf, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What was begun with the old lamp ends with it, and is not what the page shows from then on."""
    design, old = shelf.open(1).design, shelf.catalogue
    services = client.app.state.services  # type: ignore[attr-defined]
    solved: list[Catalogue] = []

    def slow(design: Design, catalogue: Catalogue, *rest: Any) -> Assessment:
        found = assess(design, catalogue, *rest)
        if not solved:
            weaker = old.sources["halogen-flood"].model_copy(update={"radiant_share": 0.4})
            services.library.save("sources", "halogen-flood", weaker.model_dump(mode="json", exclude_none=True))
            services.use_library()
        solved.append(catalogue)
        return found

    monkeypatch.setattr("mitten.web.assessments.assess", slow)
    services.in_use.workings = Workings(old)
    at_work = services.now()
    before = at_work.assessments.of(design).climate("winter-day").basking.surface_c
    after = services.now().assessments.of(design).climate("winter-day").basking.surface_c
    assert solved == [old, shelf.catalogue]
    assert shelf.catalogue is not old
    assert after < before - 4.0
    exact = assess(design, shelf.catalogue).climate("winter-day").basking.surface_c
    assert after == pytest.approx(exact, abs=0.02)
    assert f"{after:.1f}" in client.get("/enclosures/1").text


@pytest.mark.parametrize("sold", sliced(["40; 20; 20", "24", "24; 8"], 3))
def test_gear_that_is_sold_in_few_sizes_or_in_any_order_is_taken(client: TestClient, shelf: Shelf, sold: str) -> None:
    """A tube of one size once broke whatever hung it."""
    lengths = "; ".join(["55 cm"] * (sold.count(";") + 1))
    tube = {"label": "Own tube", "watts_sold": sold, "lengths_m": lengths}
    assert client.post("/library/uvb/uvb-tube?copy=true", data=tube).status_code < 400
    assert client.post("/library/sources/ceramic-emitter?copy=true", data={"label": "Own emitter", "watts_sold": sold})
    watts = shelf.catalogue.sources["own-emitter"].watts_sold
    assert list(watts) == sorted(set(watts))
    for what in ("own-tube", "own-emitter"):
        assert client.post("/enclosures/1/add", data={"what": what}).status_code < 400
    names = {part.name for part in shelf.open(1).design.powered}
    assert {"Own tube", "Own emitter"} <= names
    assert client.get("/enclosures/1/margin?fixes=true").status_code == 200


@pytest.mark.parametrize(
    ("typed", "sentence"),
    [
        ({"watts_sold": ""}, "Enter every figure"),
        ({"watts_sold": "-5"}, "Must be at least 0.5 W."),
        ({"watts_sold": "8; 14", "lengths_m": "55 cm"}, "one length for each of the watts sold"),
    ],
)
def test_gear_that_nobody_could_buy_is_refused_beside_its_field(
    client: TestClient, shelf: Shelf, typed: dict[str, str], sentence: str
) -> None:
    answer = client.post("/library/uvb/uvb-tube?copy=true", data={"label": "Own tube", **typed})
    assert answer.status_code == 422
    assert sentence in answer.text
    assert "own-tube" not in shelf.catalogue.uvb
