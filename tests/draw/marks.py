"""What drawings are made of, as lines of text that can be kept and compared."""

import re
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from pathlib import Path

from mitten.core.catalogue import targets_of
from mitten.core.design import Design
from mitten.core.design.units import METRIC
from mitten.core.design.year import monthly_rooms
from mitten.core.judge import read_condition, solve_condition
from mitten.core.plan.probe_places import probe_words
from mitten.draw import box_drawing, heat_sheet, needs
from mitten.draw.wiring import wiring
from mitten.draw.year import year_strip
from tests.catalogue import CATALOGUE

DRAWINGS = Path(__file__).parents[1] / "drawings.json"
LONGEST = 160
"""What follows the temperatures in long lines is not kept."""

WANDERING = ("isotherm", "isotherm-label", "hatched")
"""What lies where the temperatures have it, and may jump for a hair's breadth of them."""

PIXEL = 1.1
NUMBER = re.compile(r"-?\d+(?:\.\d+)?")


def marks_of(svg: str) -> Iterator[str]:
    """Every element with its place and its words."""
    for one in ET.fromstring(svg).iter():  # noqa: S314, drawn by ourselves
        if one.get("class", "") in WANDERING:
            continue
        places = " ".join(f"{key}={value}" for key, value in sorted(one.attrib.items()) if len(value) < LONGEST)
        yield f"{one.tag.rpartition('}')[2]} {places} {(one.text or '').strip()}".strip()


def drawings_of(design: Design) -> dict[str, list[str]]:
    """The drawings of a design on a winter day."""
    climate = solve_condition(design, CATALOGUE, read_condition(design, "winter-day"))
    targets = targets_of(design.animal, CATALOGUE.species[design.animal.species])
    probes = {one.name: probe_words(design, CATALOGUE, one) for one in design.controls if one.is_thermostat}
    drawn = {
        "sheet": heat_sheet(climate, targets, METRIC), "box": box_drawing(design, CATALOGUE, METRIC),
        "needs": needs(targets, METRIC), "year": year_strip(monthly_rooms(design.room), METRIC),
        "wiring": wiring(design, probes),
    }  # fmt: skip
    return {name: list(marks_of(str(svg))) for name, svg in drawn.items()}


def differ(now: str, kept: str) -> bool:
    """Whether two lines say different things, or stand more than a pixel apart."""
    if NUMBER.sub("#", now) != NUMBER.sub("#", kept):
        return True
    pairs = zip(NUMBER.findall(now), NUMBER.findall(kept), strict=True)
    return any(abs(float(one) - float(other)) > PIXEL for one, other in pairs)
