"""The section: the enclosure seen from the front, with its warmth."""

from collections.abc import Iterator
from itertools import pairwise
from typing import cast

import numpy as np
from contourpy import FillType, LineType, contour_generator
from markupsafe import Markup
from scipy.interpolate import RectBivariateSpline

from mitten.core.catalogue import load_catalogue
from mitten.core.design import Design, Heater, Site, Vent
from mitten.core.physics.climate import Climate
from mitten.core.physics.fields import ground_at_depth
from mitten.core.physics.geometry import Array
from mitten.draw.scale import Scale
from mitten.draw.svg import element, group, line, number, rect, text
from mitten.draw.wash import band_levels, colour_of

AIR_GRID = (56, 32)
GROUND_ROWS = 6
LEAST_WALL = 2.5
LABELLED_LENGTH = 60.0
"""Isotherms shorter than this in drawing units carry no label."""

LETTER = 6.0
"""Mean width of a letter of a label."""

CLEAR_OF_LABELS = 30.0
LAMP_WIDTH_M, LAMP_HEIGHT_M = 0.10, 0.09
BEAM_DRAWN_TO = 0.5


def section(climate: Climate, scale: Scale, labels: bool = True) -> Markup:
    """Air bands, ground, walls, sites and heaters; ``labels`` off for small drawings."""
    design = climate.design
    parts = [
        _air(climate, scale, labels),
        _ground(climate, scale),
        *_walls(design, scale),
        *(_site(climate, site, scale, labels) for site in design.sites),
        *(_heater(design, heater, scale, labels, _runs(climate, heater)) for heater in design.heaters),
    ]
    return group(*parts, class_="section")


def _runs(climate: Climate, heater: Heater) -> bool:
    return heater.name in {lamp.name for lamp in climate.state.lamps}


def air_grid(climate: Climate) -> tuple[Array, Array, Array]:
    """Air temperatures drawn smoothly: xs (c,), zs (r,) in metres and values (r, c) in °C, none beyond the zones'."""
    zones = climate.state.prepared.zones
    box = zones.box
    xs = np.linspace(box.low[0], box.high[0], AIR_GRID[0])
    zs = np.linspace(box.low[2], box.high[2], AIR_GRID[1])
    inner_x = np.clip(xs, zones.centres_x_m[0], zones.centres_x_m[-1])
    inner_z = np.clip(zs, zones.centres_z_m[0], zones.centres_z_m[-1])
    spline = RectBivariateSpline(zones.centres_x_m, zones.centres_z_m, climate.state.air_c, kx=2, ky=2)
    values = spline(inner_x, inner_z).T
    return xs, zs, np.clip(values, climate.state.air_c.min(), climate.state.air_c.max())


def _air(climate: Climate, scale: Scale, labels: bool) -> Markup:
    xs, zs, values = air_grid(climate)
    isotherms = _isotherms(xs, zs, values, scale, _taken_places(climate.design, scale)) if labels else ()
    return group(*_bands(xs, zs, values, scale), *isotherms)


def _taken_places(design: Design, scale: Scale) -> list[tuple[float, float]]:
    """Where words and lamps already stand, so that isotherm labels keep clear of them."""
    ground_m = design.substrate.depth_m
    taken = []
    for heater in design.heaters:
        x, low_m = scale.x(heater.x_m), _landing(design, heater)[0]
        taken += [(x, scale.y(heater.z_m)), (x + 15, scale.y((heater.z_m + low_m) / 2))]
        taken += [(x - step, scale.y(heater.z_m + LAMP_HEIGHT_M / 2)) for step in (40, 80, 120)]
    for site in design.sites:
        label_y = scale.y(site.top_m(ground_m)) - 8
        taken += [(scale.x(site.x_m) + step, label_y) for step in (-40, 0, 40)]
    return taken


def _bands(xs: Array, zs: Array, values: Array, scale: Scale) -> Iterator[Markup]:
    """Filled 2 °C bands."""
    generator = contour_generator(xs, zs, values, fill_type=FillType.OuterOffset)
    levels = band_levels(float(values.min()), float(values.max()))
    for low, high in pairwise(levels):
        polygons, offsets = cast("tuple[list[Array], list[list[int]]]", generator.filled(low, high))
        path = "".join(
            _path(points[start:stop], scale) + "Z"
            for points, starts in zip(polygons, offsets, strict=True)
            for start, stop in pairwise(starts)
        )
        if path:
            yield element("path", d=path, fill=colour_of((low + high) / 2), fill_rule="evenodd")


def _path(points: Array, scale: Scale) -> str:
    xs, ys = scale.x(points[:, 0]), scale.y(points[:, 1])
    return "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in zip(xs.tolist(), ys.tolist(), strict=True))


def _isotherms(xs: Array, zs: Array, values: Array, scale: Scale, taken: list[tuple[float, float]]) -> Iterator[Markup]:
    """Lines between the bands, the long ones labelled once, clear of the places taken already."""
    generator = contour_generator(xs, zs, values, line_type=LineType.Separate)
    labelled = list(taken)
    for level in band_levels(float(values.min()), float(values.max()))[1:-1]:
        for points in cast("list[Array]", generator.lines(level)):
            yield element("path", d=_path(points, scale), class_="isotherm")
            place = _label_place(points, scale, labelled)
            if place is not None:
                labelled.append(place)
                yield text(place[0], place[1] + 3.5, f"{level:g}", "isotherm-label", "middle")


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


def _ground(climate: Climate, scale: Scale) -> Markup:
    """The ground in its own temperatures, along the line through the basking place."""
    depth_m = climate.design.substrate.depth_m
    field = climate.floor
    row = int(np.abs(field.ys_m - line_y_m(climate.design)).argmin())
    depths = np.linspace(0.0, depth_m, GROUND_ROWS)
    values = np.array([ground_at_depth(climate.state, float(depth))[row] for depth in depths[::-1]])
    xs = np.concatenate([[0.0], field.xs_m, [climate.design.enclosure.length_m]])
    values = np.column_stack([values[:, 0], values, values[:, -1]])
    top = line(scale.x(0), scale.y(depth_m), scale.x(scale.length_m), scale.y(depth_m), "ground-line")
    return group(*_bands(xs, depth_m - depths[::-1], values, scale), top)


def line_y_m(design: Design) -> float:
    """Depth of the line that the slope and the ground are drawn along: through the basking site, else the lamp."""
    if design.basking_site is not None:
        return design.basking_site.y_m
    return design.heaters[0].y_m if design.heaters else design.enclosure.depth_m / 2


def _walls(design: Design, scale: Scale) -> Iterator[Markup]:
    box, panels = design.enclosure, design.enclosure.panels
    left, right = (max(p.thickness_mm / 1000 * scale.per_m, LEAST_WALL) for p in (panels.left, panels.right))
    floor = max(panels.floor.thickness_mm / 1000 * scale.per_m, LEAST_WALL)
    top_y, floor_y = scale.y(box.height_m), scale.y(0)
    x0, x1 = scale.x(0), scale.x(box.length_m)
    yield rect(x0 - left, top_y, left, floor_y - top_y, _wall_class(panels.left.material))
    yield rect(x1, top_y, right, floor_y - top_y, _wall_class(panels.right.material))
    yield rect(x0 - left, floor_y, x1 - x0 + left + right, floor, _wall_class(panels.floor.material))
    yield from _lid(design, scale, x0 - left, x1 + right)
    for vent in box.vents:
        yield _vent(vent, scale, left, right)


def _wall_class(material: str) -> str:
    return "wall glassy" if material in ("glass", "acrylic") else "wall"


def _lid(design: Design, scale: Scale, x0: float, x1: float) -> Iterator[Markup]:
    box = design.enclosure
    thick = max(box.panels.top.thickness_mm / 1000 * scale.per_m, LEAST_WALL)
    y = scale.y(box.height_m) - thick
    if box.open_top:
        return
    mesh = box.lid_mesh
    if mesh is None:
        yield rect(x0, y, x1 - x0, thick, _wall_class(box.panels.top.material))
        return
    middle = box.length_m / 2 if mesh.x_m is None else mesh.x_m
    length = box.length_m if mesh.length_m is None else mesh.length_m
    from_x, to_x = scale.x(middle - length / 2), scale.x(middle + length / 2)
    if length < box.length_m:
        yield rect(x0, y, from_x - x0, thick, _wall_class(box.panels.top.material))
        yield rect(to_x, y, x1 - to_x, thick, _wall_class(box.panels.top.material))
    yield line(from_x, y + thick / 2, to_x, y + thick / 2, "mesh")


def _vent(vent: Vent, scale: Scale, left: float, right: float) -> Markup:
    high = max(0.5 * np.sqrt(vent.area_m2) * scale.per_m, 8.0)
    if vent.face in ("top", "floor"):
        y = scale.y(scale.height_m) - 5 if vent.face == "top" else scale.y(0)
        return rect(scale.x(scale.length_m / 2) - 12, y, 24, 5, "vent")
    y = scale.y(vent.z_m or 0.0) - high / 2
    if vent.face == "left":
        return rect(scale.x(0) - left - 1, y, left + 2, high, "vent")
    if vent.face == "right":
        return rect(scale.x(scale.length_m) - 1, y, right + 2, high, "vent")
    return rect(scale.x(scale.length_m / 2) - 2 * high, y, 4 * high, high, "vent on-face")


def _site(climate: Climate, site: Site, scale: Scale, labels: bool) -> Markup:
    ground_m = climate.design.substrate.depth_m
    x, width = scale.x(site.x_m - site.length_m / 2), site.length_m * scale.per_m
    top_y, under_y = scale.y(site.top_m(ground_m)), scale.y(site.underside_m(ground_m))
    surface_c = climate.sites[site.name].surface_c
    parts = []
    if under_y < scale.y(ground_m) - 1:
        parts += [_stand(site, x, width, under_y, scale.y(ground_m))]
    parts.append(rect(x, top_y, width, under_y - top_y, "site", fill=colour_of(surface_c)))
    if labels:
        words = f"{site.name} {surface_c:.1f}°"
        parts.append(text(x + width / 2, top_y - 6, words, "site-label", "middle"))
    return group(*parts)


def _stand(site: Site, x: float, width: float, under_y: float, ground_y: float) -> Markup:
    """Legs under a ledge or perch; the outline of the sides under a hide's roof."""
    if site.role.endswith("hide"):
        return rect(x, under_y, width, ground_y - under_y, "hide-sides")
    return group(
        line(x + 0.12 * width, under_y, x + 0.12 * width, ground_y, "leg"),
        line(x + 0.88 * width, under_y, x + 0.88 * width, ground_y, "leg"),
    )


def _heater(design: Design, heater: Heater, scale: Scale, labels: bool, running: bool) -> Markup:
    kind = load_catalogue().sources[heater.kind]
    x, y = scale.x(heater.x_m), scale.y(heater.z_m)
    half, high = LAMP_WIDTH_M / 2 * scale.per_m, LAMP_HEIGHT_M * scale.per_m
    shape = f"M{number(x - half)} {number(y)}L{number(x - half * 0.45)} {number(y - high)}"
    shape += f"L{number(x + half * 0.45)} {number(y - high)}L{number(x + half)} {number(y)}Z"
    lamp = element(
        "path", d=shape, class_="lamp" if running else "lamp off",
        transform=f"rotate({number(-heater.tilt_deg)} {number(x)} {number(y)})" if heater.tilt_deg else None,
    )  # fmt: skip
    parts = [lamp]
    if labels:
        half_angle = np.deg2rad(heater.lamp.beam_half_angle_deg or kind.half_angle_deg)
        parts = [*(_beam(design, heater, scale, float(half_angle)) if running else ()), lamp]
        words = f"{heater.watts:g} W {kind.label}" + ("" if running else ", off")
        parts.append(_heater_label(words, x, y, half, high))
        parts.append(_clearance(design, heater, scale, x, y))
    return group(*parts)


def _heater_label(words: str, x: float, y: float, half: float, high: float) -> Markup:
    """Beside the lamp, on the side where the words fit; to the left where they fit on both."""
    room_needed = half + 8 + LETTER * len(words)
    baseline = y - high / 2 + 4
    if x - room_needed > 2:
        return text(x - half - 8, baseline, words, "heater-label", "end")
    return text(x + half + 8, baseline, words, "heater-label")


def _beam(design: Design, heater: Heater, scale: Scale, half_angle: float) -> Iterator[Markup]:
    """The beam's edges, where it has fallen to half, down to what it meets."""
    low_m = _landing(design, heater)[0]
    for side in (-1, 1):
        angle = np.deg2rad(heater.tilt_deg) + side * min(half_angle, 1.2)
        reach_m = heater.x_m + (heater.z_m - low_m) * np.tan(np.clip(angle, -1.4, 1.4))
        end_m = float(np.clip(reach_m, 0.0, scale.length_m))
        share = (end_m - heater.x_m) / (reach_m - heater.x_m) if reach_m != heater.x_m else 1.0
        end_z = heater.z_m - (heater.z_m - low_m) * share
        yield line(scale.x(heater.x_m), scale.y(heater.z_m), scale.x(end_m), scale.y(end_z), "beam")


def _landing(design: Design, heater: Heater) -> tuple[float, str]:
    """Height of what lies straight under a heater, and its name."""
    ground_m = design.substrate.depth_m
    under = [
        (site.top_m(ground_m), site.name)
        for site in design.sites
        if abs(site.x_m - heater.x_m) <= site.length_m / 2
        and abs(site.y_m - heater.y_m) <= site.depth_m / 2
        and site.top_m(ground_m) < heater.z_m
    ]
    return max(under, default=(ground_m, "ground"))


def _clearance(design: Design, heater: Heater, scale: Scale, x: float, y: float) -> Markup:
    """A measuring line from the lamp to what lies under it."""
    top_m, _ = _landing(design, heater)
    end_y = scale.y(top_m)
    return group(
        line(x, y + 2, x, end_y - 1, "measure"),
        text(x + 6, (y + end_y) / 2 + 4, f"{(heater.z_m - top_m) * 100:.0f} cm", "measure-label"),
    )
