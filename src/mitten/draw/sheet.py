"""Whole drawings: the heat sheet with section, plan, slope and ruler on one x axis, and the shelf's small drawing."""

from dataclasses import replace

from markupsafe import Markup

from mitten.core.catalogue import Targets
from mitten.core.physics.climate import Climate
from mitten.draw.plan import plan, plan_scale
from mitten.draw.scale import LEFT, SHEET_WIDTH, Scale, scale_of
from mitten.draw.section import section
from mitten.draw.slope import slope
from mitten.draw.svg import element, group, line, text

SLOPE_HEIGHT = 132.0
BETWEEN = 18.0
RULER = 34.0
UNDER_THE_FLOOR = 12.0
"""Room for a mat under the floor and its words."""

THUMB = (260.0, 150.0)


def heat_sheet(climate: Climate, targets: Targets, day: bool) -> Markup:
    """Section above plan above slope, one ruler under all; ``day`` says which targets the slope shows."""
    scale = scale_of(climate.design)
    seen_from_above = plan_scale(climate.design, scale, scale.floor_y + UNDER_THE_FLOOR + BETWEEN)
    slope_top = seen_from_above.floor_y + BETWEEN
    ruler_y = slope_top + SLOPE_HEIGHT
    height = ruler_y + RULER
    return element(
        "svg",
        _title("Section", scale.y(scale.height_m / 2)),
        _title("Plan", seen_from_above.y(seen_from_above.height_m / 2)),
        _title("Slope", slope_top + SLOPE_HEIGHT / 2),
        section(climate, scale),
        plan(climate, targets, seen_from_above),
        slope(climate, targets, day, scale, slope_top, SLOPE_HEIGHT),
        _ruler(scale, ruler_y),
        viewBox=f"0 0 {SHEET_WIDTH:g} {height:g}",
        class_="heat-sheet",
        data_per_cm=f"{scale.per_m / 100:.3f}",
        role="img",
        aria_label=_described(climate),
    )


def thumbnail(climate: Climate) -> Markup:
    """The section alone, small and without words."""
    scale = scale_of(climate.design, THUMB[0], THUMB[1] - 16, left=8, top=8, right=8, with_plan=False)
    scale = replace(scale, left=(THUMB[0] - scale.width) / 2)
    return element(
        "svg", section(climate, scale, labels=False), viewBox=f"0 0 {THUMB[0]:g} {THUMB[1]:g}",
        class_="thumbnail", role="img", aria_label=_described(climate),
    )  # fmt: skip


def _title(words: str, y: float) -> Markup:
    return element("text", words, x=12, y=y, class_="drawing-title", text_anchor="middle",
                   transform=f"rotate(-90 12 {y:.1f})")  # fmt: skip


def _ruler(scale: Scale, y: float) -> Markup:
    """Centimetres along the bottom; every ten marked, every twenty numbered."""
    marks = []
    for cm in range(0, round(scale.length_m * 100) + 1, 5):
        x = scale.x(cm / 100)
        long = cm % 20 == 0
        marks.append(line(x, y, x, y + (7 if long else 4), "ruler"))
        if long:
            marks.append(text(x, y + 19, f"{cm}", "tick", "middle"))
    marks.append(text(LEFT - 8, y + 19, "cm", "tick", "end"))
    return group(line(scale.left, y, scale.left + scale.width, y, "ruler"), *marks)


def _described(climate: Climate) -> str:
    air = climate.air
    sites = "; ".join(f"{name} {site.surface_c:.1f} °C" for name, site in climate.sites.items())
    return f"{climate.design.name}: warm side air {air.warm_c:.1f} °C, cool side air {air.cool_c:.1f} °C" + (
        f"; {sites}" if sites else ""
    )
