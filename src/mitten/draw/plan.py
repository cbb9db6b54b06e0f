"""The plan: the enclosure seen from above, with the warmth of its ground and site tops, the patch and the animal."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
from contourpy import FillType, contour_generator
from markupsafe import Markup

from mitten.core.catalogue import SourceKind, Targets, load_catalogue
from mitten.core.design import Design, Heater, Site
from mitten.core.physics.body import Body
from mitten.core.physics.climate import Climate
from mitten.core.physics.fields import SurfaceField
from mitten.core.physics.geometry import Array
from mitten.draw.isotherms import bands, isotherms, path_of
from mitten.draw.scale import Scale
from mitten.draw.svg import element, group, line, rect, text

LAMP_RADIUS_M = 0.05


def plan_scale(design: Design, scale: Scale, top: float) -> Scale:
    """The section's scale for the plan under it: its upward axis is the depth, front at the bottom."""
    depth_m = design.enclosure.depth_m
    return replace(scale, floor_y=top + depth_m * scale.per_m, height_m=depth_m)


def plan(climate: Climate, targets: Targets, scale: Scale) -> Markup:
    """Ground, sites, patch, animal, sources and probes; ``scale`` is the plan's own."""
    design, box = climate.design, climate.design.enclosure
    x0, y0 = scale.x(0.0), scale.y(box.depth_m)
    ground = _to_the_edges(climate.floor)
    lowest_first = sorted(design.sites, key=lambda site: site.top_m(design.substrate.depth_m))
    return group(
        *bands(*ground, scale),
        *isotherms(*ground, scale, _taken(design, scale)),
        *(_site(climate, site, scale) for site in lowest_first),
        *_patch(climate, targets, scale),
        *_sources(design, scale),
        _animal(climate.body, climate.basking.at, scale),
        rect(x0, y0, box.length_m * scale.per_m, box.depth_m * scale.per_m, "plan-edge"),
        text(x0 + 6, scale.y(0.0) - 6, "front", "plan-words"),
        class_="plan",
    )


def _to_the_edges(field: SurfaceField) -> tuple[Array, Array, Array]:
    """A field's places along x and y and its spot temperatures, carried on to the edges of its surface."""
    origin, sizes = field.surface.origin, field.surface.sizes
    xs = np.concatenate([[origin[0]], field.xs_m, [origin[0] + sizes[0]]])
    ys = np.concatenate([[origin[1]], field.ys_m, [origin[1] + sizes[1]]])
    return xs, ys, np.pad(field.spots_c, 1, mode="edge")


def _taken(design: Design, scale: Scale) -> list[tuple[float, float]]:
    """Middles of sites, where no isotherm's label should stand."""
    return [(scale.x(site.x_m), scale.y(site.y_m)) for site in design.sites]


def _site(climate: Climate, site: Site, scale: Scale) -> Markup:
    field = climate.site_fields[site.name]
    width, depth = site.length_m * scale.per_m, site.depth_m * scale.per_m
    x, y = scale.x(site.x_m - site.length_m / 2), scale.y(site.y_m + site.depth_m / 2)
    return group(
        rect(x, y, width, depth, "plan-ground"),
        *bands(*_to_the_edges(field), scale),
        rect(x, y, width, depth, "plan-site"),
    )


def _patch(climate: Climate, targets: Targets, scale: Scale) -> Iterator[Markup]:
    """Outline of the part of the basking surface that lies in the wanted band."""
    generator = contour_generator(*_to_the_edges(climate.basking_field), fill_type=FillType.OuterOffset)
    drawn = path_of(generator.filled(*targets.basking_surface_c), scale)
    if drawn:
        yield element("path", d=drawn, class_="patch", fill_rule="evenodd")


def _sources(design: Design, scale: Scale) -> Iterator[Markup]:
    kinds = load_catalogue().sources
    for heater in design.heaters:
        yield from _heater(heater, kinds[heater.kind], scale)
    for tube in design.uvb:
        half = (tube.length_m or 0.06) / 2
        yield line(
            scale.x(tube.x_m - half), scale.y(tube.y_m), scale.x(tube.x_m + half), scale.y(tube.y_m), "plan-tube"
        )
    for control in design.controls:
        if control.probe is not None:
            yield element("circle", cx=scale.x(control.probe.x_m), cy=scale.y(control.probe.y_m), r=3.5, class_="probe")


def _heater(heater: Heater, kind: SourceKind, scale: Scale) -> Iterator[Markup]:
    """A lamp as its rim, an area as its outline; a hot rock is its site."""
    x, y = scale.x(heater.x_m), scale.y(heater.y_m)
    if kind.family == "lamp":
        yield element("circle", cx=x, cy=y, r=LAMP_RADIUS_M * scale.per_m, class_="plan-source")
    elif kind.has_area and kind.place_of(heater) != "wall":
        length, depth = (heater.length_m or 0.0) * scale.per_m, (heater.depth_m or 0.0) * scale.per_m
        yield rect(x - length / 2, y - depth / 2, length, depth, "plan-source")


def _animal(body: Body, at: tuple[float, float], scale: Scale) -> Markup:
    """The animal's outline to scale on the warmest spot: a snake coiled, others stretched out, with their tail."""
    x, y = scale.x(at[0]), scale.y(at[1])
    along, across = (axis * scale.per_m for axis in body.half_axes_m)
    if body.group == "snake":
        rings = [element("circle", cx=x, cy=y, r=along * share, class_="animal-line") for share in (0.92, 0.6, 0.28)]
        return group(*rings, class_="animal")
    trunk = element("ellipse", cx=x, cy=y, rx=along, ry=across, class_="animal")
    tail = body.length_m * scale.per_m - 2 * along
    return group(trunk, line(x + along, y, x + along + tail, y, "animal-line")) if tail > 1 else trunk
