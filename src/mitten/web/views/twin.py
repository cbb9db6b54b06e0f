"""The drawing in words: the same figures and places as a table, for those who do not see it or want to copy it."""

from collections.abc import Iterator
from math import inf, log10

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.design.amounts import celsius, length, litres, litres_a_second
from mitten.core.design.units import LENGTH, Units
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.validity import Beyond, beyond_validity
from mitten.draw.box import panel_words
from mitten.draw.slope import surface_line
from mitten.web.at import SheetName
from mitten.web.edits import parts_of
from mitten.web.edits.refs import VENT, noun_of
from mitten.web.views.place import condensed_words

SLOPE_POINTS = 9
POWERS_FROM = 1e6
Rows = list[tuple[str, str]]


def drawing_table(design: Design, climate: Climate, sheet: SheetName, units: Units) -> Rows:
    """What the drawing of a sheet shows; the Animal sheet has its figures in a table of its own."""
    if sheet in ("animal", "control", "check", "day"):
        return []
    if sheet == "box":
        return [*_box(design, climate.catalogue, units), *_places(design, units)]
    said = [(name, units.say(figure)) for name, figure in (*_climate(climate), *_slope(climate))]
    return [*said, *_places(design, units)]


def _box(design: Design, catalogue: Catalogue, units: Units) -> Iterator[tuple[str, str]]:
    box = design.enclosure
    for name, side_m in (("Length", box.length_m), ("Depth", box.depth_m), ("Height", box.height_m)):
        yield f"{name} inside", units.say_with_unit(LENGTH, side_m)
    for face in ("left", "right", "front", "back", "floor", "top"):
        is_open = face == "top" and box.open_top
        yield face.capitalize(), "open" if is_open else panel_words(getattr(box.panels, face), units, catalogue)
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
        yield (
            f"Slope, {length(x_m)} from the left",
            f"surface {celsius(surface[at], 1)}, air {celsius(air[at], 1)}",
        )


def _climate(climate: Climate) -> Rows:
    """What the section and the plan show of air, surfaces and water."""
    air = climate.air
    rows = [
        ("Warm side air", f"{celsius(air.warm_c, 1)}"),
        ("Middle air", f"{celsius(air.middle_c, 1)}"),
        ("Cool side air", f"{celsius(air.cool_c, 1)}"),
        ("Air under the top, hottest", f"{celsius(air.top_c, 1)}"),
        *(
            []
            if climate.design.enclosure.open_top
            else [("Inside of the top, hottest", f"{celsius(climate.ceiling_c, 1)}")]
        ),
        ("Hottest ground", f"{celsius(climate.floor.hottest()[0], 1)}"),
        ("Coolest ground", f"{celsius(climate.floor.lowest_c(), 1)}"),
        ("Bottom of the ground, hottest", f"{celsius(climate.base_c, 1)}"),
        ("What the box stands on, hottest", f"{celsius(climate.shelf_c, 1)}"),
        ("Humidity, warm end and cool end", f"{climate.humidity.warm:.0%}, {climate.humidity.cool:.0%}"),
        ("Water evaporated", f"{litres(climate.humidity.litres_a_week, 1)} a week"),
        ("Water that condenses", condensed_words(climate.humidity)),
    ]
    for name, site in climate.sites.items():
        rows.append((f"{name}, surface", f"{celsius(site.surface_c, 1)}"))
        rows.append((f"{name}, air above", f"{celsius(site.air_c, 1)}"))
        rows.append((f"{name}, irradiance", f"{site.irradiance_w_m2:.0f} W/m²"))
        rows.append((f"{name}, body there", f"{celsius(site.operative_c, 1)}"))
        if site.hide_air_c is not None:
            rows.append((f"{name}, air inside", f"{celsius(site.hide_air_c, 1)}"))
    for name, held in climate.controls.items():
        rows.append((f"{name}, probe", f"{celsius(held.probe_c, 1)}, {held.duty:.0%} of full power, {held.status}"))
    exchange_l_s = climate.state.exchange.total_m3_s * 1000
    rows.append(
        (
            "Ventilation",
            f"{litres_a_second(exchange_l_s, 1)}, {climate.air_changes_per_hour:.0f} air changes an hour",
        )
    )
    energy = climate.energy
    beyond = beyond_validity(climate.state)
    rows += [(f"Outside its range: {one.correlation.name}", _beyond_words(one)) for one in beyond]
    # Nothing is 0.0 and never -0.0.
    in_w, out_w = (round(one, 1) + 0.0 for one in (energy.in_w, energy.out_w))
    rows.append(("Energy in and out", f"{in_w:.1f} W in, {out_w:.1f} W out"))
    return rows


def _beyond_words(one: Beyond) -> str:
    """For how much of what it moves a correlation is used where it was not found, and where it was."""
    known = one.correlation
    upwards = "and more" if known.high == inf else f"to {_number(known.high)}"
    used = _number(one.low) if one.low == one.high else f"{_number(one.low)} to {_number(one.high)}"
    return f"{one.share:.0%} of its work at {known.symbol} {used}; found for {_number(known.low)} {upwards}"


def _number(value: float) -> str:
    """A number of any size, to two digits: ``8,500``, ``10^10``."""
    if value >= POWERS_FROM:
        return f"10^{log10(value):.0f}"
    return f"{float(f'{value:.2g}'):,.10g}"
