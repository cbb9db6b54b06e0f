"""The slope: surface and low-air temperature along the line through the basking place."""

from collections.abc import Callable, Iterator, Sequence

import numpy as np
from markupsafe import Markup

from mitten.core.catalogue import Targets
from mitten.core.design.units import TEMPERATURE, Units
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.climate import END_SHARE, Climate
from mitten.draw.marks import Marks
from mitten.draw.scale import Scale
from mitten.draw.section import line_y_m
from mitten.draw.svg import group, line, polyline, rect, text

LEAST_SPAN_C = 16.0
LABEL_WIDTH_PER_LETTER = 5.8

Curve = list[tuple[float, float]]
Band = tuple[str, tuple[float, float], tuple[float, float], str]

TICK_STEPS = (5, 10, 20, 50, 100, 200, 500)
MOST_TICKS = 7


def slope(climate: Climate, targets: Targets, marks: Marks, scale: Scale, top: float, height: float) -> Markup:
    """Two curves over target stripes, on the section's x axis, between ``top`` and ``top + height``."""
    xs, surface = surface_line(climate)
    air = climate.low_air_along(xs)
    bands = _bands(climate, targets, climate.situation.day)
    low_c, high_c = _span(surface, air, bands)

    def y(temperature_c: float) -> float:
        return top + height * (high_c - temperature_c) / (high_c - low_c)

    air_curve = [(scale.x(x), y(c)) for x, c in zip(xs, air, strict=True)]
    surface_curve = [(scale.x(x), y(c)) for x, c in zip(xs, surface, strict=True)]
    return group(
        *_grid(scale, y, (low_c, high_c), marks.units),
        *_stripes(bands, scale, y),
        polyline(air_curve, "air-line"),
        polyline(surface_curve, "surface-line"),
        *_stripe_labels(bands, scale, y, [air_curve, surface_curve], (marks.units, top + height)),
        class_="slope",
    )


def surface_line(climate: Climate) -> tuple[Array, Array]:
    """Places along x (m,) and the surface the animal would lie on there, in °C: a site's top, else the ground."""
    y_m = line_y_m(climate.design)
    floor = climate.floor
    xs = floor.xs_m
    spots = floor.spots_c[int(np.abs(floor.ys_m - y_m).argmin())].copy()
    for site in sorted(climate.design.sites, key=lambda site: site.top_m(climate.design.substrate.depth_m)):
        if abs(site.y_m - y_m) <= site.depth_m / 2:
            field = climate.site_field(site.name)
            row = field.spots_c[int(np.abs(field.ys_m - y_m).argmin())]
            over = np.abs(xs - site.x_m) <= site.length_m / 2
            spots[over] = np.interp(xs[over], field.xs_m, row)
    return xs, spots


def _span(surface: Array, air: Array, bands: Sequence[Band]) -> tuple[float, float]:
    lowest = min(float(surface.min()), float(air.min()), *(band[1][0] for band in bands))
    highest = max(float(surface.max()), float(air.max()), *(band[1][1] for band in bands))
    low, high = np.floor(lowest / 2) * 2 - 2, np.ceil(highest / 2) * 2 + 2
    return float(low), float(max(high, low + LEAST_SPAN_C))


def _grid(scale: Scale, y: Callable[[float], float], span_c: tuple[float, float], units: Units) -> Iterator[Markup]:
    shown = TEMPERATURE.shown_in(units.system)
    low, high = (units.convert(TEMPERATURE, end) for end in span_c)
    step = next((step for step in TICK_STEPS if high - low <= MOST_TICKS * step), TICK_STEPS[-1])
    for tick in np.arange(np.ceil(low / step) * step, high + 0.1, step):
        at = y((tick - shown.offset) / shown.factor)
        yield line(scale.left, at, scale.left + scale.width, at, "grid")
        yield text(scale.left - 8, at + 4, f"{tick:g}°", "tick", "end")


def _stripes(bands: Sequence[Band], scale: Scale, y: Callable[[float], float]) -> Iterator[Markup]:
    """Target bands over the part of the length they belong to."""
    for _, (low, high), (start, stop), class_ in bands:
        x, width = scale.x(start), (stop - start) * scale.per_m
        yield rect(x, y(high), width, y(low) - y(high), class_)


def _bands(climate: Climate, targets: Targets, day: bool) -> tuple[Band, ...]:
    """Name, range, part of the length and class of each target band."""
    length = climate.design.enclosure.length_m
    warm = (length * (1 - END_SHARE), length) if climate.warm_is_right else (0.0, length * END_SHARE)
    cool = (0.0, length * END_SHARE) if climate.warm_is_right else (length * (1 - END_SHARE), length)
    if not day:
        return (("night air", targets.night_c, (0.0, length), "stripe"),)
    return (
        ("basking surface", targets.basking_surface_c, warm, "stripe hot"),
        ("warm air", targets.warm_air_c, warm, "stripe"),
        ("cool air", targets.cool_air_c, cool, "stripe"),
    )


def _stripe_labels(
    bands: Sequence[Band], scale: Scale, y: Callable[[float], float], curves: Sequence[Curve],
    said: tuple[Units, float],
) -> Iterator[Markup]:  # fmt: skip
    """Names of the stripes, each in the free place of its stripe that is farthest from both curves."""
    units, bottom = said
    for name, (low, high), (start, stop), _ in bands:
        words = f"{name} {_end(units, low)}–{_end(units, high)}"
        wide = LABEL_WIDTH_PER_LETTER * len(words)
        places = [
            (x, place)
            for x in (scale.x(start) + 5, max(scale.x(stop) - 5 - wide, scale.x(start) + 5))
            for place in (y(high) + 12, y(low) - 4, y(high) - 5, y(low) + 13)
            if place < bottom - 2
        ]
        # To a tenth of a pixel, so that rounding does not choose between places that are alike.
        best = max(places, key=lambda at, wide=wide: round(_clear_of(curves, (at[0], at[0] + wide), at[1] - 4), 1))  # type: ignore[misc]
        # On a small page letters are larger: one at the right end grows towards the middle, not out of the drawing.
        at_the_right = best[0] + wide / 2 > scale.left + scale.width / 2
        yield (
            text(best[0] + wide, best[1], words, "stripe-label", "end")
            if at_the_right
            else text(*best, words, "stripe-label")
        )


def _end(units: Units, celsius: float) -> str:
    """An end of a band, without decimals that a conversion would bring."""
    return units.show(TEMPERATURE, celsius) if units.system == "metric" else units.degrees(celsius, 0)


def _clear_of(curves: Sequence[Curve], reach: tuple[float, float], y: float) -> float:
    """Least vertical distance of a label's middle to the curves over its width."""
    near = [abs(py - y) for curve in curves for px, py in curve if reach[0] <= px <= reach[1]]
    return min(near, default=0.0)
