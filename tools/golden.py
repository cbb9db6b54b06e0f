"""Write tests/golden.json, the figures of every demo design in its four seasons, and tests/findings.json, what the rule
book says of the mistakes that its tests make, tests/pages.json, what their pages say, and tests/held, what many other
tests keep, drawings among it: all are held while walls are moved.
"""

import json
import os
from pathlib import Path
from tempfile import TemporaryDirectory

import pytest
from starlette.testclient import TestClient
from tests.core.judge.test_rule_book import CASES, FINDINGS, said_of
from tests.held import WRITES
from tests.holding import HOLDING
from tests.serving import TEST_HOSTS
from tests.web.held_pages import PAGES, pages_of

from mitten.core.catalogue import shipped_catalogue
from mitten.core.judge import SEASONAL, read_condition, solve_condition
from mitten.core.physics.reading.climate import Climate
from mitten.demo import demo_designs
from mitten.store import Shelf, open_database
from mitten.web import create_app

DOCUMENT = Path(__file__).parent.parent / "tests" / "golden.json"
DECIMALS = 4


def figures_of(climate: Climate) -> dict[str, float]:
    """What is read off a climate, from every kind of reader."""
    at, air = climate.basking, climate.air
    figures = {
        "basking surface °C": at.surface_c, "basking body °C": at.operative_c, "basking air °C": at.air_c,
        "irradiance W/m²": at.irradiance_w_m2, "UV index": at.uvi, "warm air °C": air.warm_c, "cool air °C": air.cool_c,
        "humidity": climate.humidity.mean, "base °C": climate.base_c,
    }  # fmt: skip
    for name, held in climate.controls.items():
        figures |= {f"{name}: duty": held.duty, f"{name}: probe °C": held.probe_c}
    return {name: round(float(value), DECIMALS) for name, value in figures.items()}


def golden() -> dict[str, dict[str, dict[str, float]]]:
    """Figures by design and condition."""
    return {
        design.name: {
            name: figures_of(solve_condition(design, shipped_catalogue(), read_condition(design, name)))
            for name in SEASONAL
        }
        for design in demo_designs()
    }


def pages() -> dict[str, list[str]]:
    """What the pages of a shelf with the demo designs say."""
    with TemporaryDirectory() as folder:
        database = open_database(Path(folder) / "mitten.sqlite3")
        shelf = Shelf(database)
        for design in demo_designs():
            shelf.add(design, "Demo")
        with TestClient(create_app(shelf, hosts=TEST_HOSTS)) as client:
            found = dict(pages_of(client))
        database.close()
    return found


if __name__ == "__main__":
    FINDINGS.write_text(
        json.dumps({rule: said_of(rule) for rule in CASES}, indent=1, ensure_ascii=False) + "\n", encoding="utf-8"
    )
    PAGES.write_text(json.dumps(pages(), indent=0, ensure_ascii=False) + "\n", encoding="utf-8")
    DOCUMENT.write_text(json.dumps(golden(), indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
    os.environ[WRITES] = "1"
    pytest.main(["-q", "-W", "ignore::pytest.PytestAssertRewriteWarning", *HOLDING])
