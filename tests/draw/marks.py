"""What drawings are made of, as lines of text that can be kept and compared."""

import re
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
from markupsafe import Markup

from mitten.core.catalogue import targets_of
from mitten.core.design import Design
from mitten.core.design.units import METRIC, US, Units
from mitten.core.design.year import monthly_rooms
from mitten.core.judge import assess, read_condition, solve_condition
from mitten.core.physics.radiation.spectrum import Bands
from mitten.core.plan.probe_places import probe_words
from mitten.core.plan.year import MonthFigures
from mitten.core.plan.year.lamps import LampNeed
from mitten.core.plan.year.months import months_of
from mitten.draw import (
    box_drawing,
    box_words,
    colour_of,
    heat_sheet,
    legend,
    needs,
    sizes,
    target_bar,
    thumbnail,
    year_strip,
)
from mitten.draw.isotherms import bands, danger_hatching, isotherms
from mitten.draw.marks import Marks
from mitten.draw.months import month_chart
from mitten.draw.scale import Scale
from mitten.draw.shares import shares_bar
from mitten.draw.tradeoff import TradeoffPoint, tradeoff
from mitten.draw.wiring import wiring
from tests.catalogue import CATALOGUE

LONGEST = 160
"""Of what is longer, as a line through the temperatures is, the two ends are kept."""

WANDERING = ("isotherm", "isotherm-label", "hatched")
"""What lies where the temperatures have it, and may jump for a hair's breadth of them: held of a field that is known."""

PLACES = re.compile(r"[-\d., MLZ]+")
NUMBER = re.compile(r"-?\d+(?:\.\d+)?")

Drawn = dict[str, list[str]]


def marks_of(svg: str, wandering: bool = False) -> Iterator[str]:
    """Every element with its place and its words."""
    for one in ET.fromstring(svg).iter():  # noqa: S314, drawn by ourselves
        if one.get("class", "") in WANDERING and not wandering:
            continue
        places = " ".join(f"{key}={_short(value, wandering)}" for key, value in sorted(one.attrib.items()))
        yield f"{one.tag.rpartition('}')[2]} {places} {(one.text or '').strip()}".strip()


def _short(value: str, wandering: bool) -> str:
    if PLACES.fullmatch(value):
        # To a tenth of a pixel, whole ones too.
        value = NUMBER.sub(lambda found: f"{float(found[0]):.1f}", value)
    if wandering:
        return value
    if value[:1] == "M" and value[-1:] == "Z":
        return "…"
    if len(value) < LONGEST:
        return value
    points = value.split()
    return f"{points[0]} … {points[-1]}, {len(points)}"


def drawings_of(design: Design, condition: str, units: Units) -> Drawn:
    """The drawings of a design in a condition."""
    climate = solve_condition(design, CATALOGUE, read_condition(design, condition))
    species = CATALOGUE.species[design.animal.species]
    targets, stage = targets_of(design.animal, species), design.animal.stage
    probes = {one.name: probe_words(design, CATALOGUE, one) for one in design.controls if one.is_thermostat}
    first, last = design.heaters[0].name, design.sites[-1].name
    drawn = {
        "sheet": heat_sheet(climate, targets, units),
        "chosen": heat_sheet(climate, targets, units, f"heaters:{first}", frozenset({last}), movable=False),
        "thumbnail": thumbnail(climate, units), "box": box_drawing(design, CATALOGUE, units),
        "needs": needs(targets, units), "sizes": sizes(species, stage, units),
        "year": year_strip(monthly_rooms(design.room), units), "wiring": wiring(design, probes),
        "months": month_chart(months_like(design), targets.wants("basking_surface_c"), units),
    }  # fmt: skip
    return {name: list(marks_of(str(svg))) for name, svg in drawn.items()} | {
        "box words": [box_words(design, CATALOGUE, units)]
    }


def months_like(design: Design) -> list[MonthFigures]:
    """Figures such as a design's months may have: from the room's, without solving."""
    return [
        MonthFigures(
            month, 480.0 - 6 * month.number, 1230.0 + 20 * month.number, 39.5 + month.summer, month.room_day_c + 3.5,
            month.room_night_c + 1.25, month.room_night_c + 0.5, 16.0, 20.0, (("Thermostat", 30.0, None),),
            0.8 - 0.04 * month.number, ("night_c",) if month.number == 1 else (), LampNeed(60.0, (50.0, 80.0)),
        )
        for month in (replace(one, resting=0.4 if one.number == 12 else 0.0) for one in months_of(design, CATALOGUE))
    ]  # fmt: skip


def bars_of(design: Design) -> Drawn:
    """The bar of every verdict of a design, with a likely span for half of them."""
    drawn = {}
    for number, one in enumerate(assess(design, CATALOGUE).verdicts):
        sure = (one.value - 2.0, one.value + 1.5) if number % 2 else None
        for units in (METRIC, US):
            drawn[f"{one.key} {units.system}"] = list(marks_of(str(target_bar(one, units, sure))))
    return drawn


def others() -> Drawn:
    """Drawings of figures that are given."""
    points = [
        TradeoffPoint(1, 100.0, 0.9, "one"), TradeoffPoint(2, 400.0, 0.2, "two"), TradeoffPoint(3, 402.0, 0.2, "three"),
        TradeoffPoint(4, 730.0, 0.55, "four"),
    ]  # fmt: skip
    drawn = {
        "tradeoff": tradeoff(points), "one plan": tradeoff(points[:1]), "no plan": tradeoff([]),
        "shares": shares_bar(Bands(0.12, 0.36, 0.3, 0.22)), "legend": legend(METRIC), "legend us": legend(US),
    }  # fmt: skip
    colours = [colour_of(float(c)) for c in range(10, 64, 3)]
    return {name: list(marks_of(str(svg))) for name, svg in drawn.items()} | {"wash": colours} | field_drawn()


def field_drawn() -> Drawn:
    """Bands, lines and hatching of a field that is known at every place."""
    xs, zs = np.linspace(0.0, 1.2, 25), np.linspace(0.0, 0.6, 13)
    values = 20.0 + 12.0 * xs[None, :] + 9.0 * zs[:, None] ** 2
    scale, found = Scale(400.0, 46.0, 300.0, 1.2, 0.6), {}
    for units in (METRIC, US):
        marks = Marks(units)
        drawn = [
            *bands(xs, zs, values, scale, marks), *danger_hatching(xs, zs, values, 31.5, scale),
            *isotherms(xs, zs, values, scale, marks, [(300.0, 200.0)]),
        ]  # fmt: skip
        found[f"field {units.system}"] = list(marks_of(f"<g>{Markup().join(drawn)}</g>", wandering=True))
    return found
