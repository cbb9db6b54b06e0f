"""The plan: the enclosure seen from above, with the warmth of its ground and site tops, the patch and the animal."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
from contourpy import FillType, contour_generator
from markupsafe import Markup

from mitten.core.catalogue import Catalogue, SourceKind, Targets
from mitten.core.design import Design, Heater, Light, Site, UvbLamp
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.fields import SurfaceField
from mitten.draw.animal import animal_outline
from mitten.draw.isotherms import bands, danger_hatching, isotherms, path_of
from mitten.draw.marks import Marks, view
from mitten.draw.scale import Scale
from mitten.draw.svg import element, line, rect, text

LAMP_RADIUS_M = 0.05


def plan_scale(design: Design, scale: Scale, top: float) -> Scale:
    """The section's scale for the plan under it: its upward axis is the depth, front at the bottom."""
    depth_m = design.enclosure.depth_m
    return replace(scale, floor_y=top + depth_m * scale.per_m, height_m=depth_m)


def plan(climate: Climate, targets: Targets, scale: Scale, marks: Marks) -> Markup:
    """Ground, sites, patch, animal, sources and probes; ``scale`` is the plan's own."""
    design, box = climate.design, climate.design.enclosure
    x0, y0 = scale.x(0.0), scale.y(box.depth_m)
    ground = _to_the_edges(climate.floor)
    lowest_first = sorted(design.sites, key=lambda site: site.top_m(design.substrate.depth_m))
    return view(
        "plan",
        scale,
        *bands(*ground, scale, marks),
        *isotherms(*ground, scale, marks, _middles_of_sites(design, scale)),
        *danger_hatching(*ground, targets.danger_contact_c, scale),
        *(_site(climate, site, targets, scale, marks) for site in lowest_first),
        *_patch(climate, targets, scale),
        _animal(climate, scale),
        *_sources(design, climate.catalogue, scale, marks),
        rect(x0, y0, box.length_m * scale.per_m, box.depth_m * scale.per_m, "plan-edge"),
        text(x0 + 6, scale.y(0.0) - 6, "front", "plan-words"),
    )


def _to_the_edges(field: SurfaceField) -> tuple[Array, Array, Array]:
    """A field's places along x and y and its spot temperatures, carried on to the edges of its surface."""
    origin, sizes = field.surface.origin, field.surface.sizes
    xs = np.concatenate([[origin[0]], field.xs_m, [origin[0] + sizes[0]]])
    ys = np.concatenate([[origin[1]], field.ys_m, [origin[1] + sizes[1]]])
    return xs, ys, np.pad(field.spots_c, 1, mode="edge")


def _middles_of_sites(design: Design, scale: Scale) -> list[tuple[float, float]]:
    """Middles of sites, where no isotherm's label should stand."""
    return [(scale.x(site.x_m), scale.y(site.y_m)) for site in design.sites]


def _site(climate: Climate, site: Site, targets: Targets, scale: Scale, marks: Marks) -> Markup:
    field = _to_the_edges(climate.site_field(site.name))
    width, depth = site.length_m * scale.per_m, site.depth_m * scale.per_m
    x, y = scale.x(site.x_m - site.length_m / 2), scale.y(site.y_m + site.depth_m / 2)
    at = (site.x_m, site.y_m, site.underside_m(climate.design.substrate.depth_m))
    return marks.part(
        f"sites:{site.name}", at, site.name, (x, y, width, depth),
        rect(x, y, width, depth, "plan-ground"),
        *bands(*field, scale, marks),
        *danger_hatching(*field, targets.danger_contact_c, scale),
        rect(x, y, width, depth, "plan-site"), from_above=True,
    )  # fmt: skip


def _patch(climate: Climate, targets: Targets, scale: Scale) -> Iterator[Markup]:
    """Outline of the part of the basking surface that lies in the wanted band."""
    generator = contour_generator(*_to_the_edges(climate.basking_field), fill_type=FillType.OuterOffset)
    drawn = path_of(generator.filled(*targets.basking_surface_c), scale)
    if drawn:
        yield element("path", d=drawn, class_="patch", fill_rule="evenodd")


def _sources(design: Design, catalogue: Catalogue, scale: Scale, marks: Marks) -> Iterator[Markup]:
    kinds = catalogue.sources
    for heater in design.heaters:
        yield from _heater(heater, kinds[heater.kind], scale, marks)
    for tube in design.uvb:
        yield _tube(f"uvb:{tube.name}", tube, (tube.length_m or 0.06) / 2, scale, marks)
    for light in design.lights:
        yield _tube(f"lights:{light.name}", light, 0.03, scale, marks)
    for control in design.controls:
        probe = control.probe
        if probe is not None:
            x, y = scale.x(probe.x_m), scale.y(probe.y_m)
            dot = element("circle", cx=x, cy=y, r=3.5, class_="probe")
            at, words = (probe.x_m, probe.y_m, probe.z_m), f"Probe of {control.name}"
            yield marks.part(f"controls:{control.name}", at, words, (x - 4, y - 4, 8.0, 8.0), dot, from_above=True)


def _tube(ref: str, tube: UvbLamp | Light, half_m: float, scale: Scale, marks: Marks) -> Markup:
    x, y, half = scale.x(tube.x_m), scale.y(tube.y_m), half_m * scale.per_m
    shape = line(x - half, y, x + half, y, "plan-tube")
    at, words = (tube.x_m, tube.y_m, tube.z_m), tube.name
    return marks.part(ref, at, words, (x - half, y - 3, 2 * half, 6.0), shape, from_above=True)


def _heater(heater: Heater, kind: SourceKind, scale: Scale, marks: Marks) -> Iterator[Markup]:
    """A lamp as its rim, an area as its outline; a hot rock is its site."""
    x, y = scale.x(heater.x_m), scale.y(heater.y_m)
    if kind.family == "lamp":
        half = high = LAMP_RADIUS_M * scale.per_m
        shape = element("circle", cx=x, cy=y, r=half, class_="plan-source")
    elif kind.has_area and kind.place_of(heater) != "wall":
        half, high = (heater.length_m or 0.0) / 2 * scale.per_m, (heater.depth_m or 0.0) / 2 * scale.per_m
        shape = rect(x - half, y - high, 2 * half, 2 * high, "plan-source")
    else:
        return
    at, words = (heater.x_m, heater.y_m, heater.z_m), heater.name
    yield marks.part(
        f"heaters:{heater.name}", at, words, (x - half, y - high, 2 * half, 2 * high), shape, from_above=True
    )


def _animal(climate: Climate, scale: Scale) -> Markup:
    """The animal where it lies on its basking place."""
    lying = climate.lying
    return animal_outline(
        climate.body, scale.x(lying.x_m), scale.y(lying.y_m), scale.per_m, lying.half_y_m > lying.half_x_m
    )
