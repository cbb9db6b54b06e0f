"""The pages of the demo enclosures say what they said."""

import json

from starlette.testclient import TestClient

from mitten.store import Shelf
from mitten.web import create_app
from tests.draw.marks import NUMBER
from tests.serving import TEST_HOSTS
from tests.web.held_pages import PAGES, pages_of

DATES = "2026"


def same(now: str, kept: str) -> bool:
    """Whether two lines say the same, but for the last digit, which another machine may round the other way, and for
    what depends on the day.
    """
    if DATES in now or DATES in kept:
        return True
    if NUMBER.sub("#", now) != NUMBER.sub("#", kept):
        return False
    pairs = zip(NUMBER.findall(now), NUMBER.findall(kept), strict=True)
    return all(abs(float(one) - float(other)) <= 1.1 * 10.0 ** -len(other.partition(".")[2]) for one, other in pairs)


def test_the_pages_of_the_demo_enclosures_stay(shelf: Shelf) -> None:
    """When they are meant to change: `python -m tools.golden`, and read what changed."""
    held = json.loads(PAGES.read_text(encoding="utf-8"))
    # With nothing worked out before: what other tests know of these designs would be on the pages too.
    with TestClient(create_app(shelf, hosts=TEST_HOSTS)) as client:
        found = dict(pages_of(client))
    for address, lines in found.items():
        assert len(lines) == len(held[address]), address
        changed = [(now, before) for now, before in zip(lines, held[address], strict=True) if not same(now, before)]
        assert changed == [], address
