"""What the server answers to what a keeper asks and does, one group after the other, stays."""

import json
import re
from collections.abc import Mapping
from typing import Any
from unittest.mock import patch

import pytest
from starlette.testclient import TestClient

from mitten.core.catalogue import TABLES, shipped_catalogue
from mitten.store import Shelf
from mitten.web import create_app
from tests.draw.marks import marks_of
from tests.held import changed
from tests.serving import TEST_HOSTS
from tests.web.held_pages import NOW, lines_of

DAY = re.compile(r"20\d\d-\d\d-\d\d( \d\d:\d\d)?")
"""When something was done is told by the day on which it is asked."""

Request = str | tuple[str, Mapping[str, str]]
"""An address that is asked for, or one with what is sent there."""

E1, E4, E6 = "/enclosures/1", "/enclosures/4", "/enclosures/6"
ENTRIES = {table: list(getattr(shipped_catalogue(), table)) for table in TABLES}
HOME = {"species": "kenyan-sand-boa", "stage": "adult", "box": "tub-80", "gear": "any"}

GROUPS: dict[str, tuple[Request, ...]] = {
    "library": (
        "/library", "/library?table=sources&search=halogen", "/library?search=nothing", "/rules", "/help",
        *(f"/library/{table}/{keys[-1]}" for table, keys in ENTRIES.items()),
        *(f"/library/{table}/{keys[0]}/edit" for table, keys in ENTRIES.items()),
        *(f"/library/{table}?one={keys[0]}&other={keys[-1]}" for table, keys in ENTRIES.items()),
        ("/library/sources/heat-mat?copy=true", {"label": "Mat of mine", "watts_sold": "7; 14"}),
        "/library/sources/mat-of-mine", ("/library/sources/heat-mat", {"watts_sold": "some", "price": "cheap"}), "/library?table=sources",
        ("/library/fixtures/dome?copy=true", {"label": ""}), ("/library/species/rosy-boa", {"stages.adult.night_c.low": "40", "stages.adult.uvi.high": "x"}),
    ),
    "conditions": (
        f"{E1}?condition=winter-day%2Bdead:Main%20lamp", f"{E1}?condition=room%3D30,day",
        f"{E6}?condition=room%3D12,night", f"{E4}?condition=summer-day%2Bstuck-on", f"{E1}?condition=nonsense",
        f"{E1}/readout?x_m=0.5&z_m=0.3", f"{E1}/readout?x_m=0.94&y_m=0.3", f"{E1}/readout?x_m=0.1&z_m=0.01",
        f"{E1}/readout?x_m=9&z_m=9", f"{E4}/setpoint/Thermostat", f"{E6}/setpoint/Pulse", f"{E1}/setpoint/Nothing",
        f"{E1}/revision", f"{E1}/card", f"{E6}/card", f"{E1}/sketch?condition=room%3D26,day", f"{E4}/drawing.svg",
        f"{E4}/drawing.svg?sheet=box", "/enclosures/99", f"{E1}/nowhere",
    ),
    "in time": (
        f"{E4}/day", f"{E4}/day?season=summer", f"{E4}/day?season=summer&failure=stuck-on", f"{E4}/day?room=10, 30, 12",
        f"{E4}/day?room=10, warm", f"{E4}/day?failure=nothing", f"{E4}/day.json", f"{E4}/day.json?failure=power-cut",
        f"{E4}/day/moment?minute=600", f"{E4}/warm-up", f"{E4}/control/Nothing", f"{E4}/front?room=",
        f"{E4}/front?room=10, 12", f"{E4}/year", f"{E4}/year.ics",
    ),
    "nothing begun": (
        (f"{E4}/plans/take", {"plan": "nothing"}), (f"{E4}/plans/mend", {"plan": "nothing", "change": "1"}),
        (f"{E4}/plans/stuck", {"plan": "nothing"}), (f"{E4}/plans/stop", {}), f"{E4}/plans/beside?plan=nothing",
        f"{E4}/plans/found", f"{E4}/plans?gear=any&avoid=heat-mat&budget=x&own=x&own_hours=y", f"{E4}/bottle",
        f"{E4}/bottle?litres=0&celsius=hot", (f"{E4}/bottle/stop", {}), (f"{E4}/year/stop", {}), f"{E4}/failures",
        (f"{E4}/failures/stop", {}), f"{E4}/answers", (f"{E4}/answers/stop", {}), f"{E4}/stuck?watts=20",
        (f"{E4}/front/stop?room=10, 12", {}), (f"{E4}/front/begin", {"room": "warm"}), f"{E6}/front?room=9, 4&season=spring",
        f"{E4}/failures?season=spring", f"{E4}/margin?condition=room%3D30,day", (f"{E4}/history/1", {}),
        (f"{E4}/history/99", {}), "/enclosures/99/plans", (f"{E4}/owned/remove", {"gear": "nothing"}),
    ),
    "start": (
        "/start/answers", "/start/answers?species=gargoyle-gecko&stage=juvenile",
        "/start/answers?species=collared-lizard&room.winter.day_c=9&room.winter.night_c=5", ("/start", HOME),
        ("/start", {**HOME, "room.winter.day_c": "warm"}), ("/start", {**HOME, "box": "own", "length_m": "huge"}),
        "/enclosures/7", "/enclosures/7/history", "/enclosures/7/plans", "/enclosures/7/plans?gear=owned",
    ),
    "what is kept": (
        (f"{E1}/shopping", {"item": "main-lamp", "price": "9,5"}), (f"{E1}/shopping", {"item": "x", "price": "free"}),
        f"{E1}/shopping", f"{E1}/shopping.csv", (f"{E1}/ticks", {"item": "mains", "done": "yes"}), f"{E1}/build-sheet",
        (f"{E1}/variants", {"name": "First"}), (f"{E1}/do/remove/heaters:Main lamp", {}), f"{E1}/variants",
        (f"{E1}/variants", {"name": "First"}), f"{E1}/variants?materials=true", f"{E1}/variants?taken=First",
        (f"{E1}/variants/adopt", {"name": "First"}), f"{E1}/history", (f"{E1}/undo", {}), (f"{E1}/redo", {}),
        (f"{E1}/variants/drop", {"name": "First"}), f"{E1}/variants", (f"{E4}/outlet", {"outlet": "Desk"}),
        ("/mains", {"volts": "120", "rated_a": "15"}), ("/owned", {"gear": "heat-mat:14", "fixture": "many", "hours": ""}),
        ("/owned", {"gear": "heat-mat:14", "hours": "20"}), f"{E4}/plans", ("/units", {"system": "us"}), f"{E4}/plans",
        (f"{E4}/remove", {}), E4, (f"{E4}/put-back", {}), f"{E4}/shopping", f"{E1}/file",
    ),
    "refused": (
        (f"{E1}/part/sites:Ledge", {"length_m": "175", "depth_m": "20"}), (f"{E1}/part/sites:Gone", {"x_m": "3"}),
        (f"{E1}/sheet/room?sheet=box", {"room.winter.day_c": "hot", "room.winter.night_c": "17"}),
        (f"{E1}/sheet/nothing", {}), (f"{E1}/add", {"what": "nothing"}), (f"{E1}/preset?sheet=box", {"key": "nothing"}),
        (f"{E1}/fix", {"kind": "height", "name": "Gone", "value": "0.4"}), (f"{E1}/layers", {"remove": "4"}),
        (f"{E1}/move/sites:Ledge", {"x_m": "0.2"}), (f"{E1}/preview/sites:Ledge", {"x_m": "0.6"}), f"{E1}/history",
    ),
}  # fmt: skip


def answer_of(client: TestClient, request: Request) -> tuple[str, Any]:
    """What is asked and what comes back: where it leads, or what it says."""
    address, sent = (request, None) if isinstance(request, str) else request
    answer = client.get(address) if sent is None else client.post(address, data=sent, follow_redirects=False)
    asked = address if sent is None else f"{address} {json.dumps(sent)}"
    return asked, [answer.status_code, answer.headers.get("location", ""), _content(answer.headers, answer.text)]


def _content(headers: Mapping[str, str], text: str) -> Any:
    kind = headers.get("content-type", "")
    if "json" in kind:
        return thinned(json.loads(text))
    if "svg" in kind:
        return list(marks_of(text))
    lines = lines_of(text) if "html" in kind else text.splitlines()
    return [DAY.sub("a day", line) for line in lines]


def thinned(value: Any) -> Any:
    """Of the long lines of a chart a few values."""
    if isinstance(value, dict):
        return {key: thinned(one) for key, one in value.items()}
    if isinstance(value, list) and len(value) > 100:
        return [len(value), *value[::60]]
    return [thinned(one) for one in value] if isinstance(value, list) else value


@pytest.mark.parametrize("name", GROUPS)
def test_answers_stay(name: str, shelf: Shelf) -> None:
    # With nothing worked out before, as on the pages that are held.
    with TestClient(create_app(shelf, hosts=TEST_HOSTS)) as client, patch("mitten.web.assessments.datetime") as clock:
        clock.now.return_value = NOW
        found = [answer_of(client, request) for request in GROUPS[name]]
    assert changed(f"answers-{name.replace(' ', '-')}", found) == []
