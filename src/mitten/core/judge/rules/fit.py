"""Rules about parts that do not fit lid, space or each other."""

from collections.abc import Iterator
from itertools import combinations

from mitten.core.catalogue import overlap
from mitten.core.design import Design, Heater, Light, UvbLamp
from mitten.core.design.amounts import celsius, length
from mitten.core.judge.finding import Case, Finding, rule
from mitten.core.judge.reach import footings
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.sources import is_guarded

LAMP_BODY_M = 0.09
"""What is above a lamp's face: bulb, socket and lead; a usual size, to be measured."""

TOUCHING_M = 0.005
UNDER_PLASTIC_M = 0.2
"""An emitter stays so far below a lid of plastic; a starting point to verify."""


@rule(
    "no-room-under-the-lamp",
    chapter="Fit",
    catches="A lamp where the animal's back is.",
    shown_by="room, the back's height",
)
def _no_room_for_the_animal(case: Case) -> Iterator[Finding]:
    """Lamps whose guard or envelope is where the animal's back is when it stands under them."""
    standing = footings(case.design, case.species)
    for part in case.design.powered:
        if not _hangs(case, part):
            continue
        lowest_m = _lowest_m(case, part)
        under = [one for one in standing if one.away_m(part.x_m, part.y_m) <= case.body.half_axes_m[1]]
        highest = max(under, key=lambda one: one.height_m)
        into_m = highest.height_m + case.body.back_m - lowest_m
        if into_m > 0:
            gap_m = lowest_m - highest.height_m
            yield Finding(
                rule="no-room-under-the-lamp",
                severity="stop",
                title=f"'{part.name}' hangs where the animal's back is",
                reason=f"It leaves {length(max(gap_m, 0.0))} above {highest.name}, and the back of "
                f"{case.inmate} is {length(case.body.back_m)} high: it touches the lamp and burns.",
                number=f"{length(max(gap_m, 0.0))} free, needs more than {length(case.body.back_m)}",
                remedy="Hang the lamp higher, or lower what is under it.",
                parts=(part.name,),
            )


@rule("lamp-does-not-fit", chapter="Fit", catches="A lamp without room under the top.", shown_by="room, need")
def _under_the_lid(case: Case) -> Iterator[Finding]:
    box = case.design.enclosure
    for heater in _lamps(case):
        room_m = box.height_m - heater.z_m
        if not heater.above_mesh and not box.open_top and room_m < LAMP_BODY_M - TOUCHING_M:
            yield Finding(
                rule="lamp-does-not-fit",
                severity="warn",
                title=f"'{heater.name}' does not fit under the top",
                reason=f"Bulb and socket need about {length(LAMP_BODY_M)} above the lamp's face; there are "
                f"{length(room_m)}.",
                number=f"{length(room_m)}, needs {length(LAMP_BODY_M)}",
                remedy="Hang it lower, or above a mesh.",
                parts=(heater.name,),
            )


def _lamps(case: Case) -> Iterator[Heater]:
    return (heater for heater in case.design.heaters if case.catalogue.sources[heater.kind].family == "lamp")


@rule("shelf-above-the-lamp", chapter="Fit", catches="A lamp on the lid under a shelf.", shown_by="watts")
def _under_a_shelf(case: Case) -> Iterator[Finding]:
    if "top" not in case.design.enclosure.against:
        return
    for part in case.design.powered:
        if getattr(part, "above_mesh", False):
            yield Finding(
                rule="shelf-above-the-lamp",
                severity="stop",
                title=f"'{part.name}' hangs between the box and a shelf",
                reason="What stands above a lamp on the lid is heated until it chars, and the lamp cannot shed its "
                "heat.",
                number=f"{part.watts:g} W under a shelf",
                remedy="Clear the space above the lid, or hang the lamp inside behind a guard.",
            )


@rule("lamp-beside-the-mesh", chapter="Fit", catches="A lamp on the solid part of the lid.", shown_by="place")
def _beside_the_mesh(case: Case) -> Iterator[Finding]:
    mesh = case.design.enclosure.lid_mesh
    if mesh is None or mesh.x_m is None or mesh.y_m is None or mesh.length_m is None or mesh.depth_m is None:
        return
    for part in case.design.powered:
        over = abs(part.x_m - mesh.x_m) <= mesh.length_m / 2 and abs(part.y_m - mesh.y_m) <= mesh.depth_m / 2
        if getattr(part, "above_mesh", False) and not over:
            yield Finding(
                rule="lamp-beside-the-mesh",
                severity="stop",
                title=f"'{part.name}' stands on the solid part of the lid",
                reason="It heats the lid instead of the animal, and the lid may scorch.",
                number=f"{length(part.x_m)} from left",
                remedy="Put it over the mesh.",
                parts=(part.name,),
            )


@rule("tube-does-not-fit", chapter="Fit", catches="A tube longer than the box.", shown_by="length, room")
def _tube_too_long(case: Case) -> Iterator[Finding]:
    length_m = case.design.enclosure.length_m
    for lamp in case.design.uvb:
        half_m = (lamp.length_m or 0.0) / 2
        past_m = max(half_m - lamp.x_m, lamp.x_m + half_m - length_m)
        if past_m > TOUCHING_M:
            yield Finding(
                rule="tube-does-not-fit",
                severity="warn",
                title=f"'{lamp.name}' reaches {length(past_m)} past the end of the box",
                reason=f"It is {length(2 * half_m)} long in a box of {length(length_m)}.",
                number=f"{length(2 * half_m)}, room for {length(length_m)}",
                remedy="Move it to the middle of its half, or take a shorter one.",
                parts=(lamp.name,),
            )


@rule("parts-overlap", chapter="Fit", catches="Two parts in the same place.", shown_by="which")
def _overlapping(case: Case) -> Iterator[Finding]:
    ground_m = case.design.substrate.depth_m
    for one, other in combinations(case.design.sites, 2):
        if overlap(one, other, ground_m):
            yield Finding(
                rule="parts-overlap",
                severity="warn",
                title=f"'{one.name}' and '{other.name}' are in the same place",
                reason="Both fill the same space, so that what is computed of them is not what will be built.",
                number="they overlap",
                remedy="Move one of them aside, or above the other.",
                parts=(one.name, other.name),
            )
    yield from _lamps_in_sites(case.design)
    yield from _panels_in_one_place(case)


def _panels_in_one_place(case: Case) -> Iterator[Finding]:
    """Panels and mats that lie on one another: each then heats the other."""
    areas = [one for one in case.design.heaters if case.catalogue.sources[one.kind].family in ("panel", "contact")]
    for one, other in combinations(areas, 2):
        same_face = case.catalogue.sources[one.kind].place_of(one) == case.catalogue.sources[other.kind].place_of(other)
        across_m = ((one.length_m or 0.0) + (other.length_m or 0.0)) / 2 - abs(one.x_m - other.x_m)
        inward_m = ((one.depth_m or 0.0) + (other.depth_m or 0.0)) / 2 - abs(one.y_m - other.y_m)
        upright_apart = one.place == "wall" and abs(one.z_m - other.z_m) > TOUCHING_M
        if same_face and one.site == other.site and min(across_m, inward_m) > TOUCHING_M and not upright_apart:
            yield Finding(
                rule="parts-overlap",
                severity="stop",
                title=f"'{one.name}' and '{other.name}' lie on one another",
                reason=f"Together they give {one.watts + other.watts:g} W in one place, and each keeps the other's "
                "heat in: they get hotter than they are made for.",
                number=f"{one.watts:g} and {other.watts:g} W",
                remedy="Move one of them beside the other, or take one out.",
                parts=(one.name, other.name),
            )


@rule(
    "emitter-under-plastic",
    chapter="Fit",
    catches="A lightless emitter close under a lid of plastic.",
    shown_by="room under the lid, room needed",
)
def _under_plastic(case: Case) -> Iterator[Finding]:
    """What a plastic lid over a lamp comes to depends on draught and dust: it is kept away, whatever is computed."""
    box = case.design.enclosure
    lid = case.catalogue.panels[box.panels.top.material]
    if box.open_top or (box.lid_mesh is not None and box.lid_mesh.length_m is None) or not lid.softens:
        return
    for heater in _lamps(case):
        room_m = box.height_m - heater.z_m
        shines = case.catalogue.sources[heater.kind].light
        if not shines and not heater.above_mesh and heater.watts > 0 and room_m < UNDER_PLASTIC_M - TOUCHING_M:
            yield Finding(
                rule="emitter-under-plastic",
                severity="warn",
                title=f"'{heater.name}' hangs {length(room_m)} under a lid of {lid.label}",
                reason=f"The lid is made for at most {celsius(lid.service_c, 0)}; over a lamp of {heater.watts:g} W it "
                "softens and sags onto it when the air stands still.",
                number=f"{length(room_m)} under the lid, at least {length(UNDER_PLASTIC_M)}",
                remedy=f"Hang it at least {length(UNDER_PLASTIC_M)} under the lid, or put a mesh or a board of wood or "
                "metal over it.",
                parts=(heater.name,),
            )


def _lamps_in_sites(design: Design) -> Iterator[Finding]:
    """Tubes and lights that are inside a site; heaters there are refused when they are read."""
    ground_m = design.substrate.depth_m
    for lamp in design.uvb:
        for site in design.sites:
            across = abs(lamp.x_m - site.x_m) < (site.length_m + (lamp.length_m or 0.0)) / 2
            inward = abs(lamp.y_m - site.y_m) < site.depth_m / 2
            if across and inward and site.underside_m(ground_m) <= lamp.z_m < site.top_m(ground_m):
                yield Finding(
                    rule="parts-overlap",
                    severity="warn",
                    title=f"'{lamp.name}' is inside '{site.name}'",
                    reason="Both fill the same space.",
                    number="they overlap",
                    remedy="Hang the lamp higher, or move what is under it.",
                    parts=(lamp.name, site.name),
                )


def _hangs(case: Case, part: Heater | Light | UvbLamp) -> bool:
    """Whether it is something with a glass or a guard that hangs over the animal."""
    return not isinstance(part, Heater) or case.catalogue.sources[part.kind].family == "lamp"


def _lowest_m(case: Case, part: Heater | Light | UvbLamp) -> float:
    """Height of the lowest of a lamp: its guard, its envelope, or the mesh under it."""
    if part.above_mesh:
        return case.design.enclosure.height_m
    guarded = isinstance(part, Heater) and is_guarded(part.fixture, case.catalogue)
    return part.z_m - (value("guard_distance") if guarded else 0.0)
