"""Whole drawings: the heat sheet with section, plan, slope and ruler on one x axis, and the shelf's small drawing."""

from dataclasses import replace

from markupsafe import Markup

from mitten.core.catalogue import Targets
from mitten.core.design import Design
from mitten.core.design.units import LENGTH, METRIC, Units
from mitten.core.physics.reading.climate import Climate
from mitten.draw.marks import Marks
from mitten.draw.plan import plan, plan_scale
from mitten.draw.scale import ASIDE, LEFT, SHEET_WIDTH, Scale, scale_of, scales_side_by_side, stands_tall
from mitten.draw.section import section
from mitten.draw.slope import slope
from mitten.draw.svg import element, group, line, text

SLOPE_HEIGHT = 132.0
BETWEEN = 18.0
RULER = 34.0
UNDER_THE_FLOOR = 12.0
"""Room for a mat under the floor and its words."""

THUMB = (260.0, 150.0)
HATCH = element(
    "defs",
    element(
        "pattern", line(2, 0, 2, 7, "hatch-under"), line(0, 0, 0, 7, "hatch-line"), id="hatch", width=7, height=7,
        patternUnits="userSpaceOnUse", patternTransform="rotate(45)",
    ),
)  # fmt: skip
"""Hatching for what is hotter than the animal bears."""


def heat_sheet(
    climate: Climate, targets: Targets, units: Units = METRIC, selected: str = "",
    troubled: frozenset[str] = frozenset(), movable: bool = True,
) -> Markup:  # fmt: skip
    """Section above plan above slope, one ruler under all; of a box that is taller than long, section and plan side by
    side, each with its own ruler.

    ``selected`` is the chosen part, ``troubled`` are names of parts that do not fit where they were put.
    """
    marks = Marks(units, selected, troubled, movable=movable)
    aside = stands_tall(climate.design)
    front, above = scales_side_by_side(climate.design) if aside else _one_above_the_other(climate.design)
    slope_top = above.floor_y + BETWEEN + (RULER if aside else 0.0)
    ruler_y = slope_top + SLOPE_HEIGHT
    height = ruler_y + RULER
    return element(
        "svg",
        HATCH,
        _title("Section", front),
        _title("Plan", above),
        _title("Slope", replace(front, floor_y=ruler_y, height_m=SLOPE_HEIGHT / front.per_m)),
        section(climate, targets, front, marks),
        plan(climate, targets, above, marks),
        slope(climate, targets, marks, front, slope_top, SLOPE_HEIGHT),
        _ruler(above, above.floor_y + UNDER_THE_FLOOR, units) if aside else "",
        _ruler(front, ruler_y, units),
        viewBox=f"0 0 {SHEET_WIDTH:g} {height:g}",
        class_="heat-sheet aside" if aside else "heat-sheet",
        role="group",
        aria_label=_description(climate, units),
    )


def thumbnail(climate: Climate, units: Units = METRIC) -> Markup:
    """The section alone, small and without words."""
    scale = scale_of(climate.design, THUMB[0], THUMB[1] - 16, left=8, top=8, right=8, with_plan=False)
    scale = replace(scale, left=(THUMB[0] - scale.width) / 2)
    return element(
        "svg", section(climate, None, scale, Marks(units, labels=False)), viewBox=f"0 0 {THUMB[0]:g} {THUMB[1]:g}",
        class_="thumbnail", role="img", aria_label=_description(climate, units),
    )  # fmt: skip


def _one_above_the_other(design: Design) -> tuple[Scale, Scale]:
    scale = scale_of(design)
    return scale, plan_scale(design, scale, scale.floor_y + UNDER_THE_FLOOR + BETWEEN)


def _title(words: str, scale: Scale) -> Markup:
    """The name of a drawing, along its left side."""
    x, y = scale.left - (LEFT - 12.0), scale.y(scale.height_m / 2)
    x = max(x, scale.left - ASIDE / 2) if scale.left > LEFT else x
    return element("text", words, x=x, y=y, class_=f"drawing-title {words.lower()}", text_anchor="middle",
                   transform=f"rotate(-90 {x:.1f} {y:.1f})")  # fmt: skip


def _ruler(scale: Scale, y: float, units: Units) -> Markup:
    """Centimetres or inches along the bottom, some of them numbered."""
    per_m = units.convert(LENGTH, 1.0)
    every, numbered = (5, 20) if units.system == "metric" else (2, 6 if scale.length_m < 1.6 else 12)
    marks = []
    for mark in range(0, round(scale.length_m * per_m) + 1, every):
        x = scale.x(mark / per_m)
        long = mark % numbered == 0
        marks.append(line(x, y, x, y + (7 if long else 4), "ruler"))
        if long:
            marks.append(text(x, y + 19, f"{mark}", "tick", "middle"))
    marks.append(text(scale.left - 8, y + 19, units.unit_of(LENGTH), "tick", "end"))
    return group(line(scale.left, y, scale.left + scale.width, y, "ruler"), *marks)


def _description(climate: Climate, units: Units) -> str:
    air = climate.air
    sites = "; ".join(f"{name} {units.say_degrees(surface_c)}" for name, surface_c in climate.site_surfaces_c.items())
    ends = f"warm side air {units.say_degrees(air.warm_c)}, cool side air {units.say_degrees(air.cool_c)}"
    words = f"{climate.design.name}: {ends}"
    return f"{words}; {sites}" if sites else words
