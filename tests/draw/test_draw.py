"""Drawings: well-formed, to scale, on one x axis, with the wash that prints grey."""

from itertools import pairwise
from xml.etree import ElementTree

import numpy as np
import pytest

from mitten.core.catalogue import targets_of
from mitten.core.design import Design
from mitten.core.design.units import METRIC, US
from mitten.core.judge import assess, read_condition, solve_condition
from mitten.demo import demo_designs
from mitten.draw import colour_of, heat_sheet, target_bar, thumbnail
from mitten.draw.scale import SHEET_WIDTH, scale_of, scales_side_by_side, stands_tall
from mitten.draw.slope import surface_line
from mitten.draw.svg import element, text
from mitten.draw.wash import PAPER_TO_BRICK, band_levels
from tests.catalogue import CATALOGUE
from tests.designs import climate_of, ledge_data, read, tank_data

DESIGNS = demo_designs()


def luminance(colour: str) -> float:
    """Relative luminance of an sRGB colour (WCAG 2)."""
    channels = np.array([int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)])
    linear = np.where(channels <= 0.04045, channels / 12.92, ((channels + 0.055) / 1.055) ** 2.4)
    return float(linear @ [0.2126, 0.7152, 0.0722])


def test_the_wash_falls_steadily_in_luminance() -> None:
    shades = [luminance(colour_of(c)) for c in np.arange(16, 56.1, 2.0)]
    assert all(a > b for a, b in pairwise(shades))
    assert colour_of(0.0) == colour_of(16.0) == PAPER_TO_BRICK[0]
    assert colour_of(90.0) == colour_of(56.0) == PAPER_TO_BRICK[-1]


def test_bands_are_two_degrees_wide_and_cover_the_span() -> None:
    assert band_levels(21.3, 26.1) == [20.0, 22.0, 24.0, 26.0, 28.0]
    assert band_levels(22.0, 22.0) == [22.0, 24.0]


@pytest.mark.parametrize("design", DESIGNS)
@pytest.mark.parametrize("condition", ["winter-day", "winter-night"])
def test_every_demo_drawing_is_well_formed_and_says_what_it_shows(design: object, condition: str) -> None:
    known = next(d for d in DESIGNS if d == design)
    wanted = read_condition(known, condition)
    climate = solve_condition(known, CATALOGUE, wanted)
    targets = CATALOGUE.species[known.animal.species].targets
    for drawing in (heat_sheet(climate, targets), thumbnail(climate)):
        root = ElementTree.fromstring(str(drawing))  # noqa: S314
        assert root.tag == "svg"
        assert known.name in root.attrib["aria-label"]
    assert f"{known.heaters[0].watts:g} W" in str(heat_sheet(climate, targets))


def test_the_section_is_to_scale_both_ways() -> None:
    scale = scale_of(read(ledge_data()))
    across, up = scale.x(1.2) - scale.x(0.0), scale.y(0.0) - scale.y(0.6)
    assert across / up == pytest.approx(2.0)


def test_the_slope_follows_the_ledge_where_there_is_one() -> None:
    design = read(ledge_data())
    climate = solve_condition(design, CATALOGUE, read_condition(design, "winter-day"))
    xs, surface = surface_line(climate)
    assert surface.max() == pytest.approx(climate.sites["Ledge"].surface_c, abs=0.3)
    assert abs(xs[surface.argmax()] - 0.94) < 0.05


def test_names_from_the_keeper_are_escaped() -> None:
    assert str(text(1, 2, "<b>&")) == '<text x="1" y="2" text-anchor="start">&lt;b&gt;&amp;</text>'
    assert str(element("g", aria_label='"')) == '<g aria-label="&#34;"/>'


def test_a_figure_far_off_its_bar_points_the_way() -> None:
    verdicts = {verdict.key: verdict for verdict in assess(DESIGNS[2], CATALOGUE).verdicts}
    bar = str(target_bar(verdicts["basking_surface_c"]))
    assert "<path" in bar
    assert "<circle" in str(target_bar(verdicts["night_c"]))


@pytest.mark.parametrize("design", DESIGNS, ids=lambda design: design.name)
def test_the_plan_lies_under_the_section_on_the_same_axis_or_beside_a_tall_one(design: Design) -> None:
    climate = solve_condition(design, CATALOGUE, read_condition(design, "summer-day"))
    targets = CATALOGUE.species[design.animal.species].targets
    root = ElementTree.fromstring(str(heat_sheet(climate, targets)))  # noqa: S314
    edge = next(e for e in root.iter("rect") if e.get("class") == "plan-edge")
    beside = stands_tall(design)
    front, scale = scales_side_by_side(design) if beside else (scale_of(design), scale_of(design))
    assert beside == (design.name == "Attic terrarium")
    assert float(edge.attrib["x"]) == pytest.approx(scale.x(0.0), abs=0.1)
    assert float(edge.attrib["width"]) == pytest.approx(scale.width, abs=0.1)
    assert float(edge.attrib["height"]) == pytest.approx(design.enclosure.depth_m * scale.per_m, abs=0.1)
    if beside:
        assert front.per_m == scale.per_m > 1.2 * scale_of(design).per_m
        assert front.x(front.length_m) < scale.x(0.0) < scale.x(scale.length_m) < SHEET_WIDTH
    else:
        assert float(edge.attrib["y"]) > scale.floor_y
    assert any((e.get("class") or "").startswith("animal") for e in root.iter())


def test_the_patch_is_outlined_where_the_band_is_reached_and_not_elsewhere() -> None:
    design = DESIGNS[0]
    climate = solve_condition(design, CATALOGUE, read_condition(design, "winter-day"))
    targets = CATALOGUE.species[design.animal.species].targets
    assert 'class="patch"' in str(heat_sheet(climate, targets))
    dark = solve_condition(design, CATALOGUE, read_condition(design, "winter-day+dead:Main lamp"))
    assert 'class="patch"' not in str(heat_sheet(dark, targets))


def test_the_slope_has_few_marks_however_hot_it_gets_in_both_units() -> None:
    hot = climate_of(ledge_data(watts=500.0, z_m=0.34))
    assert max(hot.site_surfaces_c.values()) > 240.0
    targets = targets_of(hot.design.animal, CATALOGUE.species[hot.design.animal.species])
    for units in (METRIC, US):
        assert 3 <= str(heat_sheet(hot, targets, units)).count('class="grid"') <= 9


def test_a_lamp_high_over_the_lid_is_drawn_whole() -> None:
    for above_m in (0.02, 0.15, 0.3):
        design = tank_data()
        design["heaters"][0]["z_m"] = round(0.45 + above_m, 3)
        scale = scale_of(read(design), top=8.0)
        assert scale.y(0.45 + above_m + 0.09) >= 8.0
