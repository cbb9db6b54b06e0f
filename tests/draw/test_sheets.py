"""Drawings of what a keeper sets, marks on the heat sheet, and both systems of units."""

import re
from xml.etree import ElementTree

import pytest
from markupsafe import Markup

from mitten.core.design import Design
from mitten.core.design.units import LENGTH, METRIC, US, Units
from mitten.core.design.year import monthly_rooms
from mitten.core.judge import assess, read_condition, solve_condition
from mitten.core.physics.reading.climate import Climate
from mitten.demo import demo_designs
from mitten.draw import box_drawing, box_words, heat_sheet, legend, needs, sizes, year_strip
from mitten.draw.standalone import standalone
from mitten.draw.tradeoff import TradeoffPoint, tradeoff
from mitten.draw.wash import band_levels
from tests.catalogue import CATALOGUE
from tests.designs import ledge_data, read

DESIGNS = demo_designs()
NAMES = [design.name for design in DESIGNS]


def climate_of(design: Design, condition: str = "winter-day") -> Climate:
    return solve_condition(design, CATALOGUE, read_condition(design, condition))


def parsed(drawing: Markup) -> ElementTree.Element:
    return ElementTree.fromstring(str(drawing))  # noqa: S314


@pytest.mark.parametrize("design", DESIGNS, ids=NAMES)
@pytest.mark.parametrize("units", [METRIC, US], ids=["metric", "us"])
def test_box_needs_sizes_and_year_are_drawn_and_said(design: Design, units: Units) -> None:
    species = CATALOGUE.species[design.animal.species]
    targets = species.targets_at(design.animal.stage)
    drawings = (
        box_drawing(design, CATALOGUE, units), needs(targets, units), sizes(species, design.animal.stage, units),
        year_strip(monthly_rooms(design.room), units),
    )  # fmt: skip
    for drawing in drawings:
        assert parsed(drawing).attrib["aria-label"]
    assert units.unit_of(LENGTH) in box_words(design, CATALOGUE, units)


def test_the_box_is_drawn_with_what_it_is_built_of() -> None:
    design = ledge_data()
    design["enclosure"]["panels"]["back"] = {"material": "plywood", "thickness_mm": 18.0, "insulation_mm": 30.0}
    design["enclosure"]["against"] = ["left"]
    design["enclosure"]["underside"] = {"raised": True, "insulated": True}
    design["substrate"] = {"material": "soil", "depth_mm": 40.0, "layers": [{"material": "gravel", "depth_mm": 30.0}]}
    text = str(box_drawing(read(design), CATALOGUE))
    for words in (
        "back: plywood 18 mm + 30 mm insulation",
        "topsoil, 40 mm, dry",
        "gravel, 30 mm, dry",
        "120 cm",
        "Ledge",
    ):
        assert words in text
    for mark in ("built-wall plywood", "insulation", "against", "foot", "ground-layer"):
        assert f'class="{mark}' in text


def test_parts_carry_their_place_and_name_for_hands_and_ears() -> None:
    sheet = str(heat_sheet(climate_of(DESIGNS[0]), assess(DESIGNS[0], CATALOGUE).targets, selected="sites:Ledge"))
    root = ElementTree.fromstring(sheet)  # noqa: S314
    parts = {part.attrib["data-part"]: part for part in root.iter() if "data-part" in part.attrib}
    assert set(parts) == {
        "heaters:Main lamp",
        "uvb:UV tube",
        "sites:Ledge",
        "sites:Hide",
        "vents:Vent 1",
        "vents:Vent 2",
    }
    for part in parts.values():
        assert part.attrib["role"] == "button"
        assert part.attrib["tabindex"] == "0"
        assert part.attrib["aria-label"]
    assert "chosen" in parts["sites:Ledge"].attrib["class"]
    lamp = parts["heaters:Main lamp"].attrib
    assert (lamp["data-x"], lamp["data-y"], lamp["data-z"]) == ("0.9400", "0.3000", "0.5000")
    assert {view.attrib["data-view"] for view in root.iter() if "data-view" in view.attrib} == {"section", "plan"}


def test_parts_that_do_not_fit_are_marked_and_those_of_a_comparison_stand_still() -> None:
    climate, targets = climate_of(DESIGNS[0]), assess(DESIGNS[0], CATALOGUE).targets
    troubled = str(heat_sheet(climate, targets, troubled=frozenset({"Ledge"})))
    assert troubled.count("! does not fit") == 2
    assert re.search(r"Ledge, in the plan [^\"]*from the front, does not fit", troubled)
    assert "data-part" not in str(heat_sheet(climate, targets, movable=False))


def test_what_is_hotter_than_the_animal_bears_is_hatched() -> None:
    attic = DESIGNS[2]
    targets = assess(attic, CATALOGUE).targets
    hot, mild = (str(heat_sheet(climate_of(attic, when), targets)) for when in ("summer-day", "winter-night"))
    assert 'fill="url(#hatch)"' in hot
    assert 'fill="url(#hatch)"' not in mild


def test_the_same_sheet_speaks_fahrenheit_and_inches() -> None:
    climate, targets = climate_of(DESIGNS[0]), assess(DESIGNS[0], CATALOGUE).targets
    metric, us = (str(heat_sheet(climate, targets, units)) for units in (METRIC, US))
    surface_c = climate.site_surfaces_c["Ledge"]
    assert f"Ledge {METRIC.degrees(surface_c)}°" in metric
    assert f"Ledge {US.degrees(surface_c)}°" in us
    assert ">32 cm<" in metric
    assert ">12 in<" in us
    assert "61°" in str(legend(US))


def test_bands_are_whole_steps_in_both_units() -> None:
    assert band_levels(21.3, 26.1) == [20.0, 22.0, 24.0, 26.0, 28.0]
    fahrenheit = [level * 1.8 + 32 for level in band_levels(21.3, 26.1, US)]
    assert fahrenheit == pytest.approx([68.0, 72.0, 76.0, 80.0])


def test_a_drawing_of_its_own_needs_no_page() -> None:
    alone = standalone(year_strip(monthly_rooms(DESIGNS[0].room)), ".month { opacity: 1; }")
    root = ElementTree.fromstring(alone)  # noqa: S314
    assert root.tag == "{http://www.w3.org/2000/svg}svg"
    assert float(root.attrib["width"]) == 800.0
    assert ".month { opacity: 1; }" in alone


def test_the_trade_off_puts_surer_plans_higher_and_thirstier_ones_further_right() -> None:
    points = [
        TradeoffPoint(1, 100.0, 0.9, "one"),
        TradeoffPoint(2, 400.0, 0.2, "two"),
        TradeoffPoint(3, 402.0, 0.2, "three"),
    ]
    drawn = str(tradeoff(points))
    circles = [(float(x), float(y)) for x, y in re.findall(r'<circle cx="([\d.]+)" cy="([\d.]+)"', drawn)]
    assert circles[0][0] < circles[1][0]
    assert circles[0][1] < circles[1][1]
    assert abs(circles[1][0] - circles[2][0]) > 20
    assert "one" in drawn
    assert str(tradeoff([])).startswith("<svg")
