"""The box as it is built: panels and insulation in their thickness, openings, ground, furniture, what it stands on."""

from collections.abc import Iterator
from dataclasses import replace

from markupsafe import Markup

from mitten.core.catalogue import Catalogue
from mitten.core.design import FACES, Design, Face, Panel, Site, Substrate, SubstrateLayer
from mitten.core.design.units import LENGTH, METRIC, THICKNESS, Units
from mitten.draw.scale import Scale
from mitten.draw.sheet import HATCH
from mitten.draw.svg import element, group, line, rect, text

WIDTH = 460.0
AROUND = 62.0
TALLEST = 400.0
BETWEEN = 34.0
LEAST_WALL = 3.0
FOOT = 12.0
Walls = dict[Face, tuple[float, float]]
"""Drawn thickness of panel and insulation by face."""


def box_drawing(design: Design, catalogue: Catalogue, units: Units = METRIC) -> Markup:
    """Section and plan of the box with its walls, and words on what they are."""
    box = design.enclosure
    per_m = min((WIDTH - 2 * AROUND) / box.length_m, TALLEST / (box.height_m + box.depth_m))
    left = (WIDTH - box.length_m * per_m) / 2
    section = Scale(per_m, left, AROUND + box.height_m * per_m, box.length_m, box.height_m)
    plan_top = section.floor_y + AROUND + BETWEEN
    plan = replace(section, floor_y=plan_top + box.depth_m * per_m, height_m=box.depth_m)
    walls: Walls = {face: _thick(box.panels.of(face), per_m) for face in FACES}
    height = plan.floor_y + AROUND
    return element(
        "svg", HATCH, _section(design, catalogue, section, walls, units), _plan(design, catalogue, plan, walls, units),
        viewBox=f"0 0 {WIDTH:g} {height:g}", class_="box-drawing", role="img",
        aria_label=box_words(design, catalogue, units),
    )  # fmt: skip


def box_words(design: Design, catalogue: Catalogue, units: Units = METRIC) -> str:
    """The box in a sentence."""
    box = design.enclosure
    size = " × ".join(units.show(LENGTH, side) for side in (box.length_m, box.depth_m, box.height_m))
    lid = "open top" if box.open_top else "mesh in the top" if box.lid_mesh else "solid top"
    vents = f"{len(box.vents)} vent{'' if len(box.vents) == 1 else 's'}"
    back = panel_words(box.panels.back, units, catalogue)
    return f"{size} {units.unit_of(LENGTH)} inside, {back} at the back, {lid}, {vents}"


def panel_words(panel: Panel, units: Units, catalogue: Catalogue) -> str:
    """A panel in a few words."""
    label = catalogue.panels[panel.material].label
    words = f"{label} {units.say_with_unit(THICKNESS, panel.thickness_mm)}"
    if panel.insulation_mm:
        words += f" + {units.say_with_unit(THICKNESS, panel.insulation_mm)} insulation"
    return words


def _thick(panel: Panel, per_m: float) -> tuple[float, float]:
    insulation = panel.insulation_mm / 1000 * per_m
    return max(panel.thickness_mm / 1000 * per_m, LEAST_WALL), max(insulation, 2.0) if panel.insulation_mm else 0.0


def _class(panel: Panel) -> str:
    return f"built-wall {panel.material}"


def _section(design: Design, catalogue: Catalogue, scale: Scale, walls: Walls, units: Units) -> Markup:
    box = design.enclosure
    x0, x1, y0, y1 = scale.x(0), scale.x(box.length_m), scale.y(box.height_m), scale.y(0)
    middle = (x0 + x1) / 2
    outer = sum(walls["floor"])
    return group(
        *_ground(design, catalogue, scale, units),
        *_upright("left", x0, -1, (y0, y1), design, walls),
        *_upright("right", x1, 1, (y0, y1), design, walls),
        *_level("floor", y1, 1, (x0, x1), design, walls),
        *_lid(design, scale, walls),
        *(_site(design, site, scale) for site in design.sites),
        *_standing(design, x0, x1, y1 + outer),
        *_openings(design, scale, walls),
        text(middle, y0 - 34, f"top: {_top_words(design, catalogue, units)}", "built-words", "middle"),
        text(
            middle,
            y1 + outer + 26,
            f"floor: {panel_words(box.panels.floor, units, catalogue)}",
            "built-words",
            "middle",
        ),
        _side_words("left", x0 - sum(walls["left"]) - 8, (y0 + y1) / 2, design, units, catalogue),
        _side_words("right", x1 + sum(walls["right"]) + 14, (y0 + y1) / 2, design, units, catalogue),
        _size(middle, y0 + 14, units.say_with_unit(LENGTH, box.length_m)),
        text(x0 + 8, (y0 + y1) / 2, units.say_with_unit(LENGTH, box.height_m), "built-size"),
    )


def _top_words(design: Design, catalogue: Catalogue, units: Units) -> str:
    box = design.enclosure
    if box.open_top:
        return "open"
    if box.lid_mesh is None:
        return panel_words(box.panels.top, units, catalogue)
    mesh = catalogue.meshes[box.lid_mesh.mesh].label
    return mesh if box.lid_mesh.length_m is None else f"{panel_words(box.panels.top, units, catalogue)}, {mesh} in it"


def _size(x: float, y: float, words: str) -> Markup:
    return text(x, y, words, "built-size", "middle")


def _face_words(face: Face, x: float, y: float, design: Design, units: Units, catalogue: Catalogue) -> Markup:
    return text(
        x, y, f"{face}: {panel_words(design.enclosure.panels.of(face), units, catalogue)}", "built-words", "middle"
    )


def _side_words(face: Face, x: float, y: float, design: Design, units: Units, catalogue: Catalogue) -> Markup:
    words = f"{face}: {panel_words(design.enclosure.panels.of(face), units, catalogue)}"
    turn = f"rotate(-90 {x:.1f} {y:.1f})"
    return element("text", words, x=x, y=y, class_="built-words", text_anchor="middle", transform=turn)


def _upright(
    face: Face, x: float, side: int, ends: tuple[float, float], design: Design, walls: Walls
) -> Iterator[Markup]:
    """A wall seen from its end: panel inside, insulation outside, and what it stands against."""
    panel, insulation = walls[face]
    y, high = ends[0], ends[1] - ends[0]
    yield rect(x if side > 0 else x - panel, y, panel, high, _class(design.enclosure.panels.of(face)))
    if insulation:
        yield rect(x + panel if side > 0 else x - panel - insulation, y, insulation, high, "insulation")
    if face in design.enclosure.against:
        edge = x + side * (panel + insulation)
        yield rect(edge if side > 0 else edge - 5, y - 4, 5, high + 8, "against")


def _level(
    face: Face, y: float, side: int, ends: tuple[float, float], design: Design, walls: Walls
) -> Iterator[Markup]:
    """A floor or top seen from its end; ``side`` is -1 upwards."""
    panel, insulation = walls[face]
    x, wide = ends[0] - walls["left"][0], ends[1] - ends[0] + walls["left"][0] + walls["right"][0]
    yield rect(x, y if side > 0 else y - panel, wide, panel, _class(design.enclosure.panels.of(face)))
    if insulation:
        yield rect(x, y + panel if side > 0 else y - panel - insulation, wide, insulation, "insulation")
    if face in design.enclosure.against:
        edge = y + side * (panel + insulation)
        yield rect(x - 4, edge if side > 0 else edge - 5, wide + 8, 5, "against")


def _lid(design: Design, scale: Scale, walls: Walls) -> Iterator[Markup]:
    box = design.enclosure
    y, x0, x1 = scale.y(box.height_m), scale.x(0), scale.x(box.length_m)
    if box.open_top:
        return
    mesh = box.lid_mesh
    whole = mesh is not None and mesh.length_m is None
    if not whole:
        yield from _level("top", y, -1, (x0, x1), design, walls)
    if mesh is not None:
        half = (mesh.length_m or box.length_m) / 2
        middle = box.length_m / 2 if mesh.x_m is None else mesh.x_m
        yield rect(scale.x(middle - half), y - walls["top"][0], 2 * half * scale.per_m, walls["top"][0], "mesh-gap")
        yield line(scale.x(middle - half), y - 2, scale.x(middle + half), y - 2, "mesh")


def _ground(design: Design, catalogue: Catalogue, scale: Scale, units: Units) -> Iterator[Markup]:
    """The layers of the ground in their depth, and above them what they are, the top one first."""
    layers: list[SubstrateLayer | Substrate] = [*design.substrate.layers, design.substrate]
    bottom_m = 0.0
    for number, layer in enumerate(layers):
        y, high = scale.y(bottom_m + layer.depth_mm / 1000), layer.depth_mm / 1000 * scale.per_m
        tint = "ground-layer even" if number % 2 else "ground-layer"
        yield rect(scale.x(0), y, scale.width, high, f"{tint} {layer.moisture}")
        bottom_m += layer.depth_mm / 1000
    words = " over ".join(_layer_words(layer, units, catalogue) for layer in reversed(layers))
    yield text(scale.x(0) + 8, scale.y(bottom_m) - 4, words, "built-words")


def _layer_words(layer: SubstrateLayer | Substrate, units: Units, catalogue: Catalogue) -> str:
    label = catalogue.grounds[layer.material].label
    return f"{label}, {units.say_with_unit(THICKNESS, layer.depth_mm)}, {layer.moisture}"


def _site(design: Design, site: Site, scale: Scale) -> Markup:
    ground_m = design.substrate.depth_m
    x, width = scale.x(site.x_m - site.length_m / 2), site.length_m * scale.per_m
    top_y, under_y = scale.y(site.top_m(ground_m)), scale.y(site.underside_m(ground_m))
    return group(
        rect(x, top_y, width, max(under_y - top_y, 2), "built-site"),
        text(x + width / 2, top_y - 4, site.name, "built-words", "middle"),
    )


def _standing(design: Design, x0: float, x1: float, y: float) -> Iterator[Markup]:
    """Feet, a board, or flat on the table."""
    underside = design.enclosure.underside
    if underside.raised:
        for x in (x0 + 10, x1 - 22):
            yield rect(x, y, 12, FOOT, "foot")
    table = y + (FOOT if underside.raised else 0)
    if underside.insulated:
        yield rect(x0 - 10, table - 4 if underside.raised else table, x1 - x0 + 20, 4, "insulation")
        table += 4
    yield line(x0 - 26, table, x1 + 26, table, "table")


def _openings(design: Design, scale: Scale, walls: Walls) -> Iterator[Markup]:
    box = design.enclosure
    for vent in box.vents:
        y = scale.y(vent.z_m or 0.0) - 6
        if vent.face == "left":
            yield rect(scale.x(0) - walls["left"][0] - 1, y, walls["left"][0] + 2, 12, "vent")
        elif vent.face == "right":
            yield rect(scale.x(box.length_m) - 1, y, walls["right"][0] + 2, 12, "vent")
        elif vent.face in ("front", "back"):
            yield rect(scale.x(box.length_m / 2) - 22, y, 44, 12, "vent on-face")


def _plan(design: Design, catalogue: Catalogue, scale: Scale, walls: Walls, units: Units) -> Markup:
    box = design.enclosure
    x0, x1, y0, y1 = scale.x(0), scale.x(box.length_m), scale.y(box.depth_m), scale.y(0)
    middle = (x0 + x1) / 2
    return group(
        *_upright("left", x0, -1, (y0, y1), design, walls),
        *_upright("right", x1, 1, (y0, y1), design, walls),
        *_level("back", y0, -1, (x0, x1), design, walls),
        *_level("front", y1, 1, (x0, x1), design, walls),
        *(_site_from_above(site, scale) for site in design.sites),
        _face_words("back", middle, y0 - sum(walls["back"]) - 9, design, units, catalogue),
        _face_words("front", middle, y1 + sum(walls["front"]) + 16, design, units, catalogue),
        text(x0 + 8, y1 - 8, units.say_with_unit(LENGTH, box.depth_m), "built-size"),
    )


def _site_from_above(site: Site, scale: Scale) -> Markup:
    x, y = scale.x(site.x_m - site.length_m / 2), scale.y(site.y_m + site.depth_m / 2)
    return group(
        rect(x, y, site.length_m * scale.per_m, site.depth_m * scale.per_m, "built-site"),
        text(scale.x(site.x_m), scale.y(site.y_m) + 4, site.name, "built-words", "middle"),
    )
