"""An edit of a page that was overtaken: it is not stored, and what was typed is still there, on every sheet."""

from html.parser import HTMLParser

import pytest
from starlette.testclient import TestClient

from mitten.store import Shelf

HX = {"HX-Request": "true"}


class Fields(HTMLParser):
    """Names and values of the fields of one form of a page."""

    def __init__(self, action: str) -> None:
        super().__init__()
        self.action, self.within, self.values = action, False, dict[str, str]()

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        known = {key: value or "" for key, value in attrs}
        if tag == "form":
            self.within = self.action in known.get("action", "")
        elif tag == "input" and self.within and "name" in known:
            self.values[known["name"]] = known.get("value", "")

    def handle_endtag(self, tag: str) -> None:
        if tag == "form":
            self.within = False


def fields_of(page: str, action: str) -> dict[str, str]:
    reader = Fields(action)
    reader.feed(page)
    return reader.values


@pytest.mark.slow
@pytest.mark.parametrize(
    ("sheet", "form", "field", "typed"),
    [
        ("animal", "targets", "warm_air_c.low", "23.7"),
        ("animal", "targets", "bearable.warm_air_c.high", "39.4"),
        ("animal", "targets", "danger_body_c", "44.3"),
        ("animal", "day", "schedule.day_start", "09:17"),
        ("animal", "day", "schedule.day_hours", "11.3"),
        ("animal", "day", "after:Main lamp", "1.5"),
        ("box", "months", "room.months[4].day_c", "21.7"),
        ("box", "place", "room.altitude_m", "417"),
        ("heat", "room", "room.winter.day_c", "17.7"),
        ("box", "box", "enclosure.length_m", "131"),
    ],
)
def test_what_was_typed_on_a_page_that_was_overtaken_is_still_in_its_field(
    client: TestClient, shelf: Shelf, sheet: str, form: str, field: str, typed: str
) -> None:
    if form == "months":
        client.post("/enclosures/1/sheet/months", data={"months": "yes"}, headers=HX)
    page = client.get(f"/enclosures/1?sheet={sheet}").text
    filled = fields_of(page, f"/sheet/{form}")
    assert field in filled
    seen = shelf.open(1).revision
    client.post("/enclosures/1/move/heaters:Main lamp", data={"x_m": "0.8"}, headers={"Mitten-Edit": "one 1"})
    late = client.post(
        f"/enclosures/1/sheet/{form}?sheet={sheet}", data={**filled, field: typed},
        headers={"Mitten-Edit": "two 1", "Mitten-Revision": str(seen), **HX},
    )  # fmt: skip
    assert late.status_code == 409
    assert shelf.open(1).revision == seen + 1
    assert "changed elsewhere" in late.text
    after = fields_of(late.text, f"/sheet/{form}")
    assert after[field] == typed
    assert {name for name in filled if after.get(name) != filled[name]} == {field}


def test_where_nothing_was_typed_no_field_is_said_to_hold_it(client: TestClient, shelf: Shelf) -> None:
    client.post("/enclosures/1/move/heaters:Main lamp", data={"x_m": "0.8"}, headers={"Mitten-Edit": "one 1"})
    late = client.post(
        "/enclosures/1/sheet/against?sheet=box", data={"against.back": "yes"},
        headers={"Mitten-Edit": "two 1", "Mitten-Revision": "1", **HX},
    )  # fmt: skip
    assert late.status_code == 409
    assert "make the change again" in late.text
    assert "still in its field" not in late.text
    assert shelf.open(1).revision == 2
