"""The section: the enclosure seen from the front, with its warmth."""

from collections.abc import Iterator

import numpy as np
from markupsafe import Markup
from scipy.interpolate import RectBivariateSpline

from mitten.core.catalogue import Targets
from mitten.core.design import Design, Site, Vent
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.fields import ground_at_depth
from mitten.draw.isotherms import bands, danger_hatching, isotherms
from mitten.draw.marks import Marks, Rect, view
from mitten.draw.scale import Scale
from mitten.draw.sources import probe_words, sources, taken_places
from mitten.draw.svg import group, line, rect, text
from mitten.draw.wash import colour_of

AIR_GRID = (56, 32)
GROUND_ROWS = 6
LEAST_WALL = 2.5
ABOVE_SITE = 6.0
BOLD_LETTER, BOLD_HIGH, BOLD_LINE = 8.0, 14.5, 18.0
"""Mean width of a letter of a site's words, their height, and from line to line, in the larger type of small sheets."""


def section(climate: Climate, targets: Targets | None, scale: Scale, marks: Marks) -> Markup:
    """Air bands, ground, walls, sites and heaters; what is above the ``targets``' danger temperatures is hatched."""
    design = climate.design
    words_ys = label_ys(climate, scale, marks) if marks.labels else {}
    return view(
        "section",
        scale,
        _air(climate, targets, scale, marks),
        _ground(climate, targets, scale, marks),
        *_walls(design, scale, marks),
        *(_site(climate, site, targets, scale, marks, words_ys) for site in design.sites),
        *sources(climate, scale, marks),
    )


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


def _air(climate: Climate, targets: Targets | None, scale: Scale, marks: Marks) -> Markup:
    field = air_grid(climate)
    lines = (
        isotherms(*field, scale, marks, taken_places(climate.design, climate.catalogue, scale)) if marks.labels else ()
    )
    danger = danger_hatching(*field, targets.danger_air_c, scale) if targets else ()
    return group(*bands(*field, scale, marks), *lines, *danger)


def _ground(climate: Climate, targets: Targets | None, scale: Scale, marks: Marks) -> Markup:
    """The ground in its own temperatures, along the line through the basking place."""
    depth_m = climate.design.substrate.depth_m
    field = climate.floor
    row = int(np.abs(field.ys_m - line_y_m(climate.design)).argmin())
    depths = np.linspace(0.0, depth_m, GROUND_ROWS)
    values = np.array([ground_at_depth(climate.state, float(depth))[row] for depth in depths[::-1]])
    xs = np.concatenate([[0.0], field.xs_m, [climate.design.enclosure.length_m]])
    values = np.column_stack([values[:, 0], values, values[:, -1]])
    top = line(scale.x(0), scale.y(depth_m), scale.x(scale.length_m), scale.y(depth_m), "ground-line")
    danger = danger_hatching(xs, depth_m - depths[::-1], values, targets.danger_contact_c, scale) if targets else ()
    return group(*bands(xs, depth_m - depths[::-1], values, scale, marks), *danger, top)


def line_y_m(design: Design) -> float:
    """Depth of the line that the slope and the ground are drawn along: through the basking site, else the lamp."""
    if design.basking_site is not None:
        return design.basking_site.y_m
    return design.heaters[0].y_m if design.heaters else design.enclosure.depth_m / 2


def _walls(design: Design, scale: Scale, marks: Marks) -> Iterator[Markup]:
    box, panels = design.enclosure, design.enclosure.panels
    left, right = (max(p.thickness_mm / 1000 * scale.per_m, LEAST_WALL) for p in (panels.left, panels.right))
    floor = max(panels.floor.thickness_mm / 1000 * scale.per_m, LEAST_WALL)
    top_y, floor_y = scale.y(box.height_m), scale.y(0)
    x0, x1 = scale.x(0), scale.x(box.length_m)
    yield rect(x0 - left, top_y, left, floor_y - top_y, _wall_class(panels.left.material))
    yield rect(x1, top_y, right, floor_y - top_y, _wall_class(panels.right.material))
    yield rect(x0 - left, floor_y, x1 - x0 + left + right, floor, _wall_class(panels.floor.material))
    yield from _lid(design, scale, x0 - left, x1 + right)
    for number, vent in enumerate(box.vents, 1):
        yield _vent(vent, number, scale, (left, right), marks)


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


def _vent(vent: Vent, number: int, scale: Scale, walls: tuple[float, float], marks: Marks) -> Markup:
    box = _vent_box(vent, scale, *walls)
    class_ = "vent on-face" if vent.face in ("front", "back") else "vent"
    words = f"Vent {number} in the {vent.face}, {vent.area_m2 * 1e4:.0f} cm²"
    return marks.part(f"vents:Vent {number}", (0.0, 0.0, vent.z_m or 0.0), words, box, rect(*box, class_))


def _vent_box(vent: Vent, scale: Scale, left: float, right: float) -> Rect:
    """Where a vent is drawn: in its wall, or on the face that one looks through."""
    high = max(0.5 * float(np.sqrt(vent.area_m2)) * scale.per_m, 8.0)
    if vent.face in ("top", "floor"):
        y = scale.y(scale.height_m) - 5 if vent.face == "top" else scale.y(0)
        return scale.x(scale.length_m / 2) - 12, y, 24.0, 5.0
    y = scale.y(vent.z_m or 0.0) - high / 2
    if vent.face == "left":
        return scale.x(0) - left - 1, y, left + 2, high
    if vent.face == "right":
        return scale.x(scale.length_m) - 1, y, right + 2, high
    return scale.x(scale.length_m / 2) - 2 * high, y, 4 * high, high


def label_ys(climate: Climate, scale: Scale, marks: Marks) -> dict[str, float]:
    """How high each site's words stand, by name: over it, and over words that they would meet."""
    taken = [(end - BOLD_LETTER * len(words), end, y) for end, y, words in probe_words(climate, scale, marks)]
    found = {}
    for site in climate.design.sites:
        middle, half = scale.x(site.x_m), BOLD_LETTER * len(_site_words(climate, site, marks)) / 2
        y = scale.y(site.top_m(climate.design.substrate.depth_m)) - ABOVE_SITE
        # Over the highest of what they would meet, and so on until they meet nothing.
        while met := [
            at
            for left, right, at in taken
            if middle - half < right and middle + half > left and abs(y - at) < BOLD_HIGH
        ]:
            y = min(met) - BOLD_LINE
        taken.append((middle - half, middle + half, y))
        found[site.name] = y
    return found


def _site(
    climate: Climate, site: Site, targets: Targets | None, scale: Scale, marks: Marks, words_ys: dict[str, float]
) -> Markup:
    ground_m = climate.design.substrate.depth_m
    x, width = scale.x(site.x_m - site.length_m / 2), site.length_m * scale.per_m
    top_y, under_y = scale.y(site.top_m(ground_m)), scale.y(site.underside_m(ground_m))
    surface_c = climate.site_surfaces_c[site.name]
    parts = []
    if under_y < scale.y(ground_m) - 1:
        parts += [_stand(site, x, width, under_y, scale.y(ground_m))]
    parts.append(rect(x, top_y, width, under_y - top_y, "site", fill=colour_of(surface_c)))
    if targets and surface_c > targets.danger_contact_c:
        parts.append(rect(x, top_y, width, under_y - top_y, "hatched", fill="url(#hatch)"))
    if marks.labels:
        parts.append(
            text(x + width / 2, words_ys[site.name], _site_words(climate, site, marks), "site-label", "middle")
        )
    at = (site.x_m, site.y_m, site.underside_m(ground_m))
    said = f"{site.name}, middle {marks.length(site.x_m)} from left, surface {marks.degrees(surface_c)}"
    return marks.part(f"sites:{site.name}", at, said, (x, top_y, width, max(under_y, top_y + 4) - top_y), *parts)


def _site_words(climate: Climate, site: Site, marks: Marks) -> str:
    inside_c = climate.hide_air_c(site.name)
    if inside_c is not None:
        return f"{site.name}, inside {marks.degrees(inside_c)}"
    return f"{site.name} {marks.degrees(climate.site_surfaces_c[site.name])}"


def _stand(site: Site, x: float, width: float, under_y: float, ground_y: float) -> Markup:
    """Legs under a ledge or perch; the outline of the sides under a hide's roof."""
    if site.role.endswith("hide"):
        return rect(x, under_y, width, ground_y - under_y, "hide-sides")
    return group(
        line(x + 0.12 * width, under_y, x + 0.12 * width, ground_y, "leg"),
        line(x + 0.88 * width, under_y, x + 0.88 * width, ground_y, "leg"),
    )
