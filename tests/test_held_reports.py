"""What the command prints of designs stays, figure by figure."""

import csv
import io
import json
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from typer.testing import CliRunner

from mitten.cli import app
from mitten.core.design import Design, write_design
from mitten.core.design.units import METRIC, US
from mitten.core.plan.year import CalendarChange
from mitten.demo import demo_designs
from mitten.reports import year_calendar
from tests.held import changed
from tests.sweeping import sliced

RUN = CliRunner()
DESIGNS = demo_designs()
POINTS = ("0.4,0.2,0.12,air", "0.3,0.2,0.05,surface", "0.3,0.2,0.02,inside")
SOLVES = ("winter-day", "summer-night", "room=21,day", "usual-day")
SIMULATES = (
    ("winter-day", "--hours", "2", "--from", "room"), ("summer-day", "--hours", "3", "--fault", "stuck-on"),
    ("winter-night", "--hours", "2", "--fault", "power-cut"),
)  # fmt: skip
EVERY = 20
"""Of a trace so many rows are left out between two that are kept."""

TODAY = date(2026, 10, 2)


def printed(folder: Path, design: Design, command: str, *options: str) -> str:
    path = folder / "one.mitten.json"
    path.write_text(write_design(design), encoding="utf-8")
    return RUN.invoke(app, [command, str(path), *options]).stdout


def said_of(design: Design, folder: Path) -> dict[str, Any]:
    """Reports and lines of one design."""
    points = [word for point in POINTS for word in ("--at", point)]
    found: dict[str, Any] = {
        f"solve {name}": json.loads(printed(folder, design, "solve", "--json", "--condition", name, *points))
        for name in SOLVES
    }
    found["lines"] = printed(folder, design, "solve", "--condition", SOLVES[0]).splitlines()
    found["assess"] = json.loads(printed(folder, design, "assess", "--json"))
    found["assess lines"] = printed(folder, design, "assess").splitlines()
    return found


@pytest.mark.parametrize("design", sliced(DESIGNS, 2), ids=lambda design: design.name)
def test_solve_and_assess_say_what_they_said(design: Design, tmp_path: Path) -> None:
    assert changed(f"reports-{design.name.lower().replace(' ', '-')}", said_of(design, tmp_path)) == []


@pytest.mark.parametrize("name", sliced(["Sand tub", "Coast box"], 2))
def test_simulate_says_what_it_said(name: str, tmp_path: Path) -> None:
    design = next(one for one in DESIGNS if one.name == name)
    found: dict[str, Any] = {}
    for condition, *options in SIMULATES:
        given = ["--condition", condition, *options]
        found[" ".join(given)] = json.loads(printed(tmp_path, design, "simulate", *given))
    rows = list(csv.reader(io.StringIO(printed(tmp_path, design, "simulate", *given, "--csv"))))
    found["trace"] = [rows[0], *([float(one) for one in row] for row in rows[1::EVERY])]
    assert changed(f"courses-{name.lower().replace(' ', '-')}", found) == []


def test_a_calendar_has_the_lines_that_it_had() -> None:
    changes = [
        CalendarChange(date(2000, 1, 9), "lamp", "Set the lamp to ⁣32 °C⁤", "Because"),
        CalendarChange(date(2000, 11, 15), "rest", "Begin the rest"),
    ]
    found = {
        units.system: year_calendar("Box; one", changes, TODAY, units).decode().splitlines() for units in (METRIC, US)
    }
    assert changed("calendar", found) == []
