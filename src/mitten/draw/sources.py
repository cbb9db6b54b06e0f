"""Heat sources, lights and probes on the section, as plain outlines."""

from collections.abc import Iterator

import numpy as np
from markupsafe import Markup

from mitten.core.catalogue import Catalogue, SourceKind, nearest_wall
from mitten.core.design import Control, Design, Heater, Light, UvbLamp
from mitten.core.design.units import LENGTH
from mitten.core.physics.radiation.sources import PANEL_THICKNESS_M
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.fields import SurfaceField, ground_at_depth
from mitten.draw.marks import Marks, Point
from mitten.draw.scale import Scale
from mitten.draw.svg import element, group, line, number, rect, text

LETTER = 6.4
"""Mean width of a letter of a label."""

LINE_HIGH, GAP, EDGE = 13.0, 8.0, 3.0
ROWS_BELOW = 6
"""Lines under a lamp on which its words may stand."""

SIDE_BY_SIDE_M = 0.4
LAMP_WIDTH_M, LAMP_HEIGHT_M = 0.10, 0.09
MAT_HIGH = 5.0
TUBE_HIGH = 6.0
ASIDE_OF_PROBE, OVER_PROBE = 8.0, 7.0
"""Where the words of a probe end beside it, and how far over it they stand, in drawing units."""

BASE_WORTH_SAYING_K = 3.0
"""The base is labelled where it is that much hotter than the surface's hottest spot."""


def sources(climate: Climate, scale: Scale, marks: Marks) -> Iterator[Markup]:
    """Every heater, light, UV lamp and probe."""
    design, kinds, labels = (
        climate.design,
        climate.catalogue.sources,
        LampLabels(climate.design, climate.catalogue, scale),
    )
    for heater in design.heaters:
        kind, running = kinds[heater.kind], climate.state.sources.watts_of(heater.name) > 0
        if kind.family == "lamp":
            yield _lamp(design, climate.catalogue, heater, scale, marks, running, labels)
        elif kind.family == "rock":
            yield _rock(design, climate.catalogue, heater, scale, marks, running)
        elif kind.place_of(heater) == "wall":
            yield _wall_mat(design, heater, kind, scale, marks, running)
        else:
            yield _area(design, heater, kind, scale, marks, running)
    for tube in design.uvb:
        yield _tube(tube, scale, f"uvb:{tube.name}", marks)
    for light in design.lights:
        yield _tube(light, scale, f"lights:{light.name}", marks)
    for control in design.controls:
        yield from _probe(climate, control, scale, marks)
    if marks.labels:
        yield from _base(climate, scale, marks)


def spoken(heater: Heater, kind: SourceKind, running: bool, marks: Marks) -> str:
    """A heater in words, for those who do not see the drawing."""
    return f"{heater.name}, {_words(heater, kind, running)}, {marks.length(heater.x_m)} from left"


def _place(heater: Heater) -> Point:
    return heater.x_m, heater.y_m, heater.z_m


def _area(design: Design, heater: Heater, kind: SourceKind, scale: Scale, marks: Marks, running: bool) -> Markup:
    """A panel under the ceiling, a mat under or on the floor, or under a slab."""
    place, x = kind.place_of(heater), scale.x(heater.x_m)
    half = (heater.length_m or 0.1) / 2 * scale.per_m
    y, high, words_y = _area_heights(design, heater, place, scale)
    shape = rect(x - half, y, 2 * half, high, "area-heater" if running else "area-heater off")
    words = text(x, words_y, _words(heater, kind, running), "heater-label", "middle") if marks.labels else ""
    said = spoken(heater, kind, running, marks)
    return marks.part(f"heaters:{heater.name}", _place(heater), said, (x - half, y, 2 * half, high), shape, words)


def _area_heights(design: Design, heater: Heater, place: str, scale: Scale) -> tuple[float, float, float]:
    """Drawn top and height of a level heater, and where its words stand."""
    if place == "ceiling":
        y, high = scale.y(design.enclosure.height_m), PANEL_THICKNESS_M * scale.per_m
        return y, high, y + high + 13
    if place == "hide-roof":
        y = scale.y(design.site(heater.site or "").underside_m(design.substrate.depth_m)) - 1
        return y, MAT_HIGH, y + 18
    return scale.y(0) + (1 if place == "under-floor" else -MAT_HIGH), MAT_HIGH, scale.y(0) + 22


def _wall_mat(design: Design, heater: Heater, kind: SourceKind, scale: Scale, marks: Marks, running: bool) -> Markup:
    """On the left or right wall as an upright bar; on front or back as its outline."""
    high = (heater.depth_m or 0.1) * scale.per_m
    y = scale.y(heater.z_m) - high / 2
    face = nearest_wall(heater.x_m, heater.y_m, design.enclosure.length_m, design.enclosure.depth_m)
    class_ = "area-heater" if running else "area-heater off"
    if face in ("left", "right"):
        side = -1 if face == "left" else 1
        wall_x = scale.x(0.0 if face == "left" else design.enclosure.length_m)
        box = (wall_x + side * 6.5 - MAT_HIGH / 2, y, MAT_HIGH, high)
        words_x, anchor = wall_x - side * 8, "start" if face == "left" else "end"
    else:
        half = (heater.length_m or 0.1) / 2 * scale.per_m
        box, class_ = (scale.x(heater.x_m) - half, y, 2 * half, high), "area-heater outline"
        words_x, anchor = scale.x(heater.x_m), "middle"
    words = text(words_x, y + high / 2 + 4, _words(heater, kind, running), "heater-label", anchor)
    said = spoken(heater, kind, running, marks)
    inside = (rect(*box, class_), words if marks.labels else "")
    return marks.part(f"heaters:{heater.name}", _place(heater), said, box, *inside)


def _words(heater: Heater, kind: SourceKind, running: bool) -> str:
    return f"{heater.watts:g} W {kind.label}" + ("" if running else ", off")


def _rock(design: Design, catalogue: Catalogue, heater: Heater, scale: Scale, marks: Marks, running: bool) -> Markup:
    """A heated site: a wire drawn through it."""
    site, ground_m = design.site(heater.site or ""), design.substrate.depth_m
    y = scale.y((site.underside_m(ground_m) + site.top_m(ground_m)) / 2)
    xs = np.linspace(site.x_m - 0.4 * site.length_m, site.x_m + 0.4 * site.length_m, 13)
    points = " ".join(f"{number(scale.x(float(x)))},{number(y + (3 if i % 2 else -3))}" for i, x in enumerate(xs))
    wire = element("polyline", points=points, class_="wire" if running else "wire off")
    kind = catalogue.sources[heater.kind]
    words_y = scale.y(site.underside_m(ground_m)) + 15
    words = text(scale.x(site.x_m), words_y, _words(heater, kind, running), "heater-label", "middle")
    box = (scale.x(float(xs[0])), y - 4, scale.x(float(xs[-1])) - scale.x(float(xs[0])), 8.0)
    at = (site.x_m, site.y_m, site.underside_m(ground_m))
    said = spoken(heater, kind, running, marks)
    return marks.part(f"heaters:{heater.name}", at, said, box, wire, words if marks.labels else "")


def _half_tube(lamp: UvbLamp | Light, scale: Scale) -> float:
    """Half of a tube's drawn length; of a compact lamp or light, of a short bar."""
    length_m = lamp.length_m if isinstance(lamp, UvbLamp) else None
    return (length_m or 0.06) / 2 * scale.per_m


def _tube(lamp: UvbLamp | Light, scale: Scale, ref: str, marks: Marks) -> Markup:
    """A tube as a rounded bar, a compact lamp or light as a short one."""
    half = _half_tube(lamp, scale)
    x, y = scale.x(lamp.x_m), scale.y(lamp.z_m)
    box = (x - half, y - TUBE_HIGH / 2, 2 * half, TUBE_HIGH)
    shape = rect(*box, "tube" if ref.startswith("uvb") else "led", rx=3)
    words = text(x - half - 6, y + 4, lamp.name, "tube-label", "end") if marks.labels else ""
    said = f"{lamp.name}, {lamp.watts:g} W, {marks.length(lamp.x_m)} from left"
    return marks.part(ref, (lamp.x_m, lamp.y_m, lamp.z_m), said, box, shape, words)


def _probe(climate: Climate, control: Control, scale: Scale, marks: Marks) -> Iterator[Markup]:
    """A probe with its lead to the top and what it reads."""
    probe = control.probe
    if probe is None:
        return
    x, y = scale.x(probe.x_m), scale.y(probe.z_m)
    if probe.reads != "heater":
        yield line(x, scale.y(climate.design.enclosure.height_m), x, y, "lead")
    dot = element("circle", cx=x, cy=y, r=4 if marks.labels else 3, class_="probe")
    reading = probe_reading(climate, control, marks)
    words = text(*_beside_probe(x, y), reading, "site-label", "end") if marks.labels else ""
    said = f"Probe of {control.name}, {marks.length(probe.x_m)} from left, {reading}"
    at = (probe.x_m, probe.y_m, probe.z_m)
    yield marks.part(f"controls:{control.name}", at, said, (x - 4, y - 4, 8.0, 8.0), dot, words)


def probe_reading(climate: Climate, control: Control, marks: Marks) -> str:
    """What a probe reads, as it stands on a drawing."""
    held = climate.controls.get(control.name)
    return f"probe {marks.degrees(held.probe_c)}" if held is not None else "probe, off"


def probe_words(climate: Climate, scale: Scale, marks: Marks) -> Iterator[tuple[float, float, str]]:
    """Where the words beside each probe end, how high they stand, and what they are."""
    for control in climate.design.controls:
        if control.probe is not None:
            at = _beside_probe(scale.x(control.probe.x_m), scale.y(control.probe.z_m))
            yield *at, probe_reading(climate, control, marks)


def _beside_probe(x: float, y: float) -> tuple[float, float]:
    return x - ASIDE_OF_PROBE, y - OVER_PROBE


def _base(climate: Climate, scale: Scale, marks: Marks) -> Iterator[Markup]:
    """The hottest place under the substrate, where it is hotter than a keeper would think from the surface."""
    depth_m = climate.design.substrate.depth_m
    if climate.base_c < climate.floor.hottest()[0] + BASE_WORTH_SAYING_K:
        return
    deep = ground_at_depth(climate.state, depth_m)
    surface = climate.floor.surface
    _, (x_m, _) = SurfaceField(surface, deep).hottest()
    x, y = scale.x(x_m), scale.y(0.0)
    yield element("circle", cx=x, cy=y - 2, r=3, class_="base-spot")
    yield text(x, y - 8, f"base {marks.degrees(climate.base_c)}", "site-label", "middle")


def _lamp(
    design: Design,
    catalogue: Catalogue,
    heater: Heater,
    scale: Scale,
    marks: Marks,
    running: bool,
    labels: "LampLabels",
) -> Markup:
    kind = catalogue.sources[heater.kind]
    x, y = scale.x(heater.x_m), scale.y(heater.z_m)
    half, high = LAMP_WIDTH_M / 2 * scale.per_m, LAMP_HEIGHT_M * scale.per_m
    shape = f"M{number(x - half)} {number(y)}L{number(x - half * 0.45)} {number(y - high)}"
    shape += f"L{number(x + half * 0.45)} {number(y - high)}L{number(x + half)} {number(y)}Z"
    lamp = element(
        "path", d=shape, class_="lamp" if running else "lamp off",
        transform=f"rotate({number(-heater.tilt_deg)} {number(x)} {number(y)})" if heater.tilt_deg else None,
    )  # fmt: skip
    drawn = marks.part(
        f"heaters:{heater.name}", _place(heater), spoken(heater, kind, running, marks),
        (x - half, y - high, 2 * half, high), lamp,
    )  # fmt: skip
    if not marks.labels:
        return drawn
    half_angle = np.deg2rad(heater.lamp.beam_half_angle_deg or kind.half_angle_deg)
    return group(
        *(_beam(design, heater, scale, float(half_angle)) if running else ()),
        labels.label(heater, _words(heater, kind, running)),
        _clearance(design, heater, scale, marks, x, y),
        drawn,
    )


class LampLabels:
    """Words beside lamps, where nothing else stands: one for all of a kind that hang side by side."""

    def __init__(self, design: Design, catalogue: Catalogue, scale: Scale) -> None:
        kinds = catalogue.sources
        self._scale = scale
        self._lamps = [heater for heater in design.heaters if kinds[heater.kind].family == "lamp"]
        self._taken = [self._box(heater) for heater in self._lamps]
        tubes: list[UvbLamp | Light] = [*design.uvb, *design.lights]
        for tube in tubes:
            left, middle = scale.x(tube.x_m) - _half_tube(tube, scale), scale.y(tube.z_m)
            wide = LETTER * len(tube.name)
            self._taken.append((left - GAP - wide, middle - LINE_HIGH / 2, left, middle + LINE_HIGH / 2))

    def label(self, heater: Heater, words: str) -> Markup:
        """The words of a lamp; nothing for all but the first of several alike."""
        alike = [one for one in self._lamps if _alike(one, heater)]
        if alike[0] is not heater:
            return Markup("")
        many = f"{len(alike)} × {words}" if len(alike) > 1 else words
        left, wide = self._box(heater)[0], LETTER * len(many)
        places = list(self._places(heater, wide))
        x, y = next((place for place in places if self._is_free(*place, wide)), places[0])
        self._taken.append((x, y - LINE_HIGH / 2, x + wide, y + LINE_HIGH / 2))
        anchor = "end" if x < left else "start"
        return text(x + wide if anchor == "end" else x, y + 4, many, "heater-label", anchor)

    def _places(self, heater: Heater, wide: float) -> Iterator[tuple[float, float]]:
        """Where words that are so wide may begin, the best first: beside the lamp, or where lamps hang in a row and
        there is no place beside them, under it.
        """
        left, top, right, bottom = self._box(heater)
        for shift in (0.0, -LINE_HIGH, LINE_HIGH):
            yield left - GAP - wide, (top + bottom) / 2 + shift
            yield right + GAP, (top + bottom) / 2 + shift
        for row in range(ROWS_BELOW):
            yield self._within(left, wide), bottom + LINE_HIGH * (row + 0.5)

    def _box(self, heater: Heater) -> tuple[float, float, float, float]:
        """Left, top, right and bottom of a lamp as it is drawn."""
        x, y = self._scale.x(heater.x_m), self._scale.y(heater.z_m)
        half, high = LAMP_WIDTH_M / 2 * self._scale.per_m, LAMP_HEIGHT_M * self._scale.per_m
        return x - half, y - high, x + half, y

    def _within(self, x: float, wide: float) -> float:
        """Where words that are so wide begin, there or as near as they stay on the sheet."""
        return max(min(x, self._scale.end - EDGE - wide), EDGE)

    def _is_free(self, x: float, y: float, wide: float) -> bool:
        if x < EDGE or x + wide > self._scale.end - EDGE:
            return False
        top, bottom = y - LINE_HIGH / 2, y + LINE_HIGH / 2
        return not any(
            x < right and x + wide > left and top < low and bottom > high for left, high, right, low in self._taken
        )


def _alike(one: Heater, other: Heater) -> bool:
    """Whether two lamps are of a kind and hang side by side."""
    same = (one.kind, one.watts, one.on, one.control) == (other.kind, other.watts, other.on, other.control)
    return same and abs(one.z_m - other.z_m) < SIDE_BY_SIDE_M and abs(one.x_m - other.x_m) < SIDE_BY_SIDE_M


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


def _clearance(design: Design, heater: Heater, scale: Scale, marks: Marks, x: float, y: float) -> Markup:
    """A measuring line from the lamp to what lies under it."""
    top_m, _ = _landing(design, heater)
    end_y = scale.y(top_m)
    return group(
        line(x, y + 2, x, end_y - 1, "measure"),
        text(x + 6, (y + end_y) / 2 + 4, _whole(heater.z_m - top_m, marks), "measure-label"),
    )


def _whole(metres: float, marks: Marks) -> str:
    """A length on the drawing, in whole units: it is read, not computed with."""
    return f"{marks.units.convert(LENGTH, metres):.0f} {marks.units.unit_of(LENGTH)}"


def taken_places(design: Design, catalogue: Catalogue, scale: Scale) -> list[tuple[float, float]]:
    """Where words and lamps already stand, so that isotherm labels keep clear of them."""
    ground_m = design.substrate.depth_m
    taken = []
    kinds = catalogue.sources
    for heater in (heater for heater in design.heaters if kinds[heater.kind].family == "lamp"):
        x, low_m = scale.x(heater.x_m), _landing(design, heater)[0]
        taken += [(x, scale.y(heater.z_m)), (x + 15, scale.y((heater.z_m + low_m) / 2))]
        taken += [(x - step, scale.y(heater.z_m + LAMP_HEIGHT_M / 2)) for step in (40, 80, 120)]
    for site in design.sites:
        label_y = scale.y(site.top_m(ground_m)) - 8
        taken += [(scale.x(site.x_m) + step, label_y) for step in (-40, 0, 40)]
    return taken
