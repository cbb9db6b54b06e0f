"""What the pages of the demo enclosures say, as lines of text that can be kept and compared."""

from collections.abc import Iterator
from datetime import UTC, datetime
from html.parser import HTMLParser
from pathlib import Path
from unittest.mock import patch

from starlette.testclient import TestClient

from tests.catalogue import CATALOGUE

PAGES = Path(__file__).parents[1] / "pages.json"
ADDRESSES = (
    "/enclosures/1", "/enclosures/1?sheet=animal", "/enclosures/1?sheet=box", "/enclosures/1?part=uvb:UV tube",
    "/enclosures/2?condition=winter-night&part=vents:Vent 1", "/enclosures/3?condition=summer-day",
    "/enclosures/4?part=heaters:Mat", "/enclosures/4?sheet=box", "/enclosures/5?part=sites:Dish",
    "/enclosures/6?part=controls:Pulse", "/enclosures/6?part=lights:Daylight row", "/enclosures/6?sheet=control", "/enclosures/6?sheet=year", "/enclosures/6?sheet=check",
    "/enclosures/1/shopping", "/enclosures/6/build-sheet", "/enclosures/6/shopping", "/enclosures/1/history",
    "/enclosures/1/variants", "/library/species/rosy-boa", "/library/sources/heat-mat", "/start", "/terms",
)  # fmt: skip
"""Not the shelf, whose order and state others change, nor what is worked out afterwards."""

OF_THE_LIBRARY = {f"option value={key}".casefold() for key in CATALOGUE.species} | {
    one.label.casefold() for one in CATALOGUE.species.values()
}
"""Menus of all species are as long as the library."""

SKIPPED = ("script", "style", "svg")
NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)
FIELDS = ("name", "type", "value", "min", "max", "step", "checked", "selected", "aria-invalid")


class _Lines(HTMLParser):
    """Words and fields in their order; drawings are held elsewhere."""

    def __init__(self) -> None:
        super().__init__()
        self.lines: list[str] = []
        self._within = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag in SKIPPED:
            self._within += 1
        if tag in ("input", "option", "select") and not self._within:
            known = " ".join(f"{key}={value}" for key, value in attrs if key in FIELDS)
            self.lines.append(f"{tag} {known}")

    def handle_endtag(self, tag: str) -> None:
        if tag in SKIPPED:
            self._within -= 1

    def handle_data(self, data: str) -> None:
        words = " ".join(data.split())
        if words and not self._within:
            self.lines.append(words)


def lines_of(page: str) -> list[str]:
    """What a page says."""
    parser = _Lines()
    parser.feed(page)
    return [line for line in parser.lines if line.casefold() not in OF_THE_LIBRARY]


def pages_of(client: TestClient) -> Iterator[tuple[str, list[str]]]:
    """Every address with what it says on one day, the first ones in the other units too: lamps age."""
    with patch("mitten.web.assessments.datetime") as clock:
        clock.now.return_value = NOW
        for units in ("metric", "us"):
            client.cookies.set("units", units)
            for address in ADDRESSES if units == "metric" else ADDRESSES[:12]:
                yield f"{units} {address}", lines_of(client.get(address).text)
