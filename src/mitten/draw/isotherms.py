"""Temperatures of a plane as filled 2 °C bands, and the lines between them with their labels."""

from collections.abc import Iterator
from itertools import pairwise
from typing import cast

import numpy as np
from contourpy import FillType, LineType, contour_generator
from markupsafe import Markup

from mitten.core.physics.arrays import Array
from mitten.draw.marks import Marks
from mitten.draw.scale import Scale
from mitten.draw.svg import element, text
from mitten.draw.wash import band_levels, colour_of

LABELLED_LENGTH = 60.0
"""Isotherms shorter than this in drawing units carry no label."""

CLEAR_OF_LABELS = 30.0


def bands(xs: Array, zs: Array, values: Array, scale: Scale, marks: Marks) -> Iterator[Markup]:
    """Filled bands of 2 °C, or 4 °F."""
    generator = contour_generator(xs, zs, values, fill_type=FillType.OuterOffset)
    levels = band_levels(float(values.min()), float(values.max()), marks.units)
    for low, high in pairwise(levels):
        path = path_of(generator.filled(low, high), scale)
        if path:
            yield element("path", d=path, fill=colour_of((low + high) / 2), fill_rule="evenodd")


def danger_hatching(xs: Array, zs: Array, values: Array, above_c: float, scale: Scale) -> Iterator[Markup]:
    """Hatching over all that is hotter than a danger temperature."""
    highest_c = float(values.max())
    if highest_c > above_c:
        generator = contour_generator(xs, zs, values, fill_type=FillType.OuterOffset)
        path = path_of(generator.filled(above_c, highest_c + 1.0), scale)
        if path:
            yield element("path", d=path, fill="url(#hatch)", class_="hatched", fill_rule="evenodd")


def path_of(filled: object, scale: Scale) -> str:
    """Outlines of a filled contour, holes too, as one path."""
    polygons, offsets = cast("tuple[list[Array], list[list[int]]]", filled)
    return "".join(
        _path(points[start:stop], scale) + "Z"
        for points, starts in zip(polygons, offsets, strict=True)
        for start, stop in pairwise(starts)
    )


def _path(points: Array, scale: Scale) -> str:
    drawn = np.column_stack([scale.x(points[:, 0]), scale.y(points[:, 1])])
    # All numbers at once: they are most of a drawing.
    return "M" + "L".join(["%.1f %.1f"] * len(points)) % tuple(drawn.ravel().tolist())


def isotherms(
    xs: Array, zs: Array, values: Array, scale: Scale, marks: Marks, taken: list[tuple[float, float]]
) -> Iterator[Markup]:
    """Lines between the bands, the long ones labelled once, clear of the places taken already."""
    generator = contour_generator(xs, zs, values, line_type=LineType.Separate)
    labelled = list(taken)
    for level in band_levels(float(values.min()), float(values.max()), marks.units)[1:-1]:
        for points in cast("list[Array]", generator.lines(level)):
            yield element("path", d=_path(points, scale), class_="isotherm")
            place = _label_place(points, scale, labelled)
            if place is not None:
                labelled.append(place)
                yield text(place[0], place[1] + 3.5, marks.units.degrees(level, 0), "isotherm-label", "middle")


def _label_place(points: Array, scale: Scale, taken: list[tuple[float, float]]) -> tuple[float, float] | None:
    drawn = np.column_stack([points[:, 0] * scale.per_m, points[:, 1] * scale.per_m])
    if np.linalg.norm(np.diff(drawn, axis=0), axis=1).sum() < LABELLED_LENGTH:
        return None
    for share in (0.5, 0.3, 0.7, 0.15, 0.85):
        x, z = points[int(share * (len(points) - 1))]
        place = float(scale.x(x)), float(scale.y(z))
        inside = scale.left + 14 < place[0] < scale.left + scale.width - 14 and 0.06 < z < scale.height_m - 0.02
        if inside and all(np.hypot(place[0] - a, place[1] - b) > CLEAR_OF_LABELS for a, b in taken):
            return place
    return None
