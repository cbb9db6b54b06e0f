"""What there is at a point of the drawing, in a few words."""

from mitten.core.design.units import LENGTH, Units
from mitten.core.physics.reading.climate import Climate
from mitten.draw.section import line_y_m

LOW_AIR_M = 0.05
ON_A_TOP_M = 0.02
"""A point of the section this near above a top is on it."""


def readout_of(climate: Climate, units: Units, x_m: float, y_m: float | None, z_m: float | None) -> str:
    """A point of the plan (``y_m``) or of the section (``z_m``): surface, air and irradiance there."""
    box = climate.design.enclosure
    x_m = min(max(x_m, 0.0), box.length_m)
    if y_m is not None:
        return _on_a_surface(climate, units, x_m, min(max(y_m, 0.0), box.depth_m))
    return _in_the_section(climate, units, x_m, min(max(z_m or 0.0, 0.0), box.height_m))


def _on_a_surface(climate: Climate, units: Units, x_m: float, y_m: float) -> str:
    """The highest surface at a place of the plan, the air above it, and what shines on it."""
    design, ground_m = climate.design, climate.design.substrate.depth_m
    over = [site for site in design.sites if site.is_under(x_m, y_m)]
    top = max(over, key=lambda site: site.top_m(ground_m), default=None)
    field = climate.floor if top is None else climate.site_field(top.name)
    height_m = ground_m if top is None else top.top_m(ground_m)
    air_c = climate.air_at(x_m, min(height_m + LOW_AIR_M, design.enclosure.height_m))
    falls_w_m2 = climate.irradiance_at(field, x_m, y_m)
    name = "ground" if top is None else top.name
    degrees = f"{units.say_degrees(field.spot_at(x_m, y_m))} · air {units.say_degrees(air_c)}"
    return f"{name} {degrees} · {falls_w_m2:.0f} W/m²"


def _in_the_section(climate: Climate, units: Units, x_m: float, z_m: float) -> str:
    """Air, or the ground at its depth, along the section."""
    design = climate.design
    depth_m = design.substrate.depth_m - z_m
    if depth_m > 0:
        inside_c = climate.inside_at(x_m, line_y_m(design), z_m)
        return f"{units.say_with_unit(LENGTH, depth_m)} down in the ground {units.say_degrees(inside_c)}"
    words = f"air {units.say_degrees(climate.air_at(x_m, z_m))}"
    for site in design.sites:
        gap_m = z_m - site.top_m(design.substrate.depth_m)
        if abs(x_m - site.x_m) <= site.length_m / 2 and -site.thickness_mm / 1000 <= gap_m <= ON_A_TOP_M:
            field = climate.site_field(site.name)
            falls_w_m2 = climate.irradiance_at(field, x_m, site.y_m)
            degrees = units.say_degrees(field.spot_at(x_m, site.y_m))
            return f"{site.name} {degrees} · {words} · {falls_w_m2:.0f} W/m²"
    return words
