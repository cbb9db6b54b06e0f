"""The drawing in words: the same figures and places as a table, for those who do not see it or want to copy it."""

from collections.abc import Iterator

import numpy as np

from mitten.core.design import Design
from mitten.core.design.units import LENGTH, Units
from mitten.core.physics.reading.climate import Climate
from mitten.draw.box import panel_words
from mitten.draw.slope import surface_line
from mitten.web.at import SheetName
from mitten.web.edits import parts_of
from mitten.web.edits.refs import VENT, noun_of
from mitten.web.views.place import condensed_words

SLOPE_POINTS = 9
Rows = list[tuple[str, str]]


def drawing_table(design: Design, climate: Climate, sheet: SheetName, units: Units) -> Rows:
    """What the drawing of a sheet shows; the Animal sheet has its figures in a table of its own."""
    if sheet == "animal":
        return []
    if sheet == "box":
        return [*_box(design, units), *_places(design, units)]
    said = [(name, units.say(figure)) for name, figure in (*_climate(climate), *_slope(climate))]
    return [*said, *_places(design, units)]


def _box(design: Design, units: Units) -> Iterator[tuple[str, str]]:
    box = design.enclosure
    for name, side_m in (("Length", box.length_m), ("Depth", box.depth_m), ("Height", box.height_m)):
        yield f"{name} inside", units.say_with_unit(LENGTH, side_m)
    for face in ("left", "right", "front", "back", "floor", "top"):
        is_open = face == "top" and box.open_top
        yield face.capitalize(), "open" if is_open else panel_words(getattr(box.panels, face), units)
    yield "Ground", units.say_with_unit(LENGTH, design.substrate.depth_m)


def _places(design: Design, units: Units) -> Iterator[tuple[str, str]]:
    """Where every part is, as the section and the plan show it."""
    for ref in parts_of(design):
        part = noun_of(design, ref)
        if ref.collection == "controls":
            part = part.probe
        if part is None or ref.name.startswith(VENT):
            continue
        z_m = part.underside_m(design.substrate.depth_m) if ref.collection == "sites" else part.z_m
        x, y, z = (units.say_with_unit(LENGTH, metres) for metres in (part.x_m, part.y_m, z_m))
        name = f"Probe of {ref.name}" if ref.collection == "controls" else ref.name
        yield f"{name}, where", f"{x} from the left, {y} from the front, {z} above the floor"


def _slope(climate: Climate) -> Iterator[tuple[str, str]]:
    """The slope's two curves, at even steps from left to right."""
    xs, surface = surface_line(climate)
    air = climate.low_air_along(xs)
    for x_m in np.linspace(xs[0], xs[-1], SLOPE_POINTS):
        at = int(np.abs(xs - x_m).argmin())
        yield f"Slope, {x_m * 100:.0f} cm from the left", f"surface {surface[at]:.1f} °C, air {air[at]:.1f} °C"


def _climate(climate: Climate) -> Rows:
    """What the section and the plan show of air, surfaces and water."""
    air = climate.air
    rows = [
        ("Warm side air", f"{air.warm_c:.1f} °C"),
        ("Middle air", f"{air.middle_c:.1f} °C"),
        ("Cool side air", f"{air.cool_c:.1f} °C"),
        ("Air under the top, hottest", f"{air.top_c:.1f} °C"),
        *([] if climate.design.enclosure.open_top else [("Inside of the top, hottest", f"{climate.ceiling_c:.1f} °C")]),
        ("Hottest ground", f"{climate.floor.hottest()[0]:.1f} °C"),
        ("Coolest ground", f"{climate.floor.lowest_c():.1f} °C"),
        ("Bottom of the ground, hottest", f"{climate.base_c:.1f} °C"),
        ("What the box stands on, hottest", f"{climate.shelf_c:.1f} °C"),
        ("Humidity, warm end and cool end", f"{climate.humidity.warm:.0%}, {climate.humidity.cool:.0%}"),
        ("Water evaporated", f"{climate.humidity.litres_a_week:.1f} l a week"),
        ("Water that condenses", condensed_words(climate.humidity)),
    ]
    for name, site in climate.sites.items():
        rows.append((f"{name}, surface", f"{site.surface_c:.1f} °C"))
        rows.append((f"{name}, air above", f"{site.air_c:.1f} °C"))
        rows.append((f"{name}, irradiance", f"{site.irradiance_w_m2:.0f} W/m²"))
        rows.append((f"{name}, body there", f"{site.operative_c:.1f} °C"))
        if site.hide_air_c is not None:
            rows.append((f"{name}, air inside", f"{site.hide_air_c:.1f} °C"))
    for name, held in climate.controls.items():
        rows.append((f"{name}, probe", f"{held.probe_c:.1f} °C, {held.duty:.0%} of full power, {held.word}"))
    exchange_l_s = climate.state.exchange.total_m3_s * 1000
    rows.append(("Ventilation", f"{exchange_l_s:.1f} l/s, {climate.air_changes_per_hour:.0f} air changes an hour"))
    energy = climate.state.energy
    rows.append(("Energy in and out", f"{energy.in_w:.1f} W in, {energy.out_w:.1f} W out"))
    return rows
