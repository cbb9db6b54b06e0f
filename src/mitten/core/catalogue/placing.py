"""Parts that are where nothing can be: in one another, past the end of the box, beside what they belong to.

A design that was kept before these were refused is still opened, and shown with what is wrong in it; an edit may leave
such a fault as it stood, and makes no new one.
"""

from collections.abc import Iterator, Mapping
from itertools import combinations

from mitten.core.catalogue.gear import FixtureType, SourceKind
from mitten.core.design import TOUCHING_M, Control, Design, Fault, Heater, Site, UvbLamp

INTO_ONE_ANOTHER_M = 0.005
"""Parts may touch, and press into one another by so much."""

CLEAR_OF_A_SITE_M = 0.02


def faults_of_placing(
    design: Design, kinds: Mapping[str, SourceKind], fixtures: Mapping[str, FixtureType]
) -> Iterator[Fault]:
    """Every part that is where it cannot be."""
    yield from _sites_in_one_another(design)
    for index, lamp in enumerate(design.uvb):
        yield from _tube_faults(design, f"uvb[{index}]", lamp)
    for index, heater in enumerate(design.heaters):
        place = kinds[heater.kind].place_of(heater)
        if place == "wall":
            yield from _wall_faults(design, f"heaters[{index}]", heater)
        elif place == "hide-roof":
            yield from _roof_faults(design, f"heaters[{index}]", heater)
    for index, control in enumerate(design.controls):
        yield from _unread_faults(design, f"controls[{index}].probe.reads", control, kinds, fixtures)


def overlap(one: Site, other: Site, ground_m: float) -> bool:
    """Whether two sites fill the same space."""
    gaps = (
        abs(one.x_m - other.x_m) - (one.length_m + other.length_m) / 2,
        abs(one.y_m - other.y_m) - (one.depth_m + other.depth_m) / 2,
        max(one.underside_m(ground_m), other.underside_m(ground_m)) - min(one.top_m(ground_m), other.top_m(ground_m)),
    )
    return all(gap < -INTO_ONE_ANOTHER_M for gap in gaps)


def nearest_wall(x_m: float, y_m: float, length_m: float, depth_m: float) -> str:
    """The wall of a box of that length and depth that is nearest to a place."""
    gaps = {"left": x_m, "right": length_m - x_m, "front": y_m, "back": depth_m - y_m}
    return min(gaps, key=lambda face: gaps[face])


def _sites_in_one_another(design: Design) -> Iterator[Fault]:
    ground_m = design.substrate.depth_m
    for (_, one), (index, other) in combinations(enumerate(design.sites), 2):
        if overlap(one, other, ground_m):
            yield Fault(
                f"sites[{index}].x_m",
                f"'{other.name}' and '{one.name}' are in one another; move one aside, or above the other.",
            )


def _tube_faults(design: Design, path: str, lamp: UvbLamp) -> Iterator[Fault]:
    half_m, box = (lamp.length_m or 0.0) / 2, design.enclosure
    if lamp.length_m is not None and lamp.length_m > box.length_m + TOUCHING_M:
        yield Fault(
            f"{path}.length_m", f"'{lamp.name}' is {lamp.length_m:g} m long; the box is {box.length_m:g} m long."
        )
    elif lamp.x_m - half_m < -TOUCHING_M or lamp.x_m + half_m > box.length_m + TOUCHING_M:
        yield Fault(f"{path}.x_m", f"'{lamp.name}' reaches past the left or right end of the box.")
    ground_m = design.substrate.depth_m
    for site in design.sites if lamp.length_m and not lamp.above_mesh else ():
        across_m, inward_m = abs(lamp.x_m - site.x_m) - half_m, abs(lamp.y_m - site.y_m)
        over = across_m < site.length_m / 2 and inward_m < site.depth_m / 2
        if over and site.underside_m(ground_m) <= lamp.z_m < site.top_m(ground_m) + CLEAR_OF_A_SITE_M:
            yield Fault(f"{path}.z_m", f"'{lamp.name}' is inside '{site.name}' or touches it; hang it higher.")


def _wall_faults(design: Design, path: str, heater: Heater) -> Iterator[Fault]:
    """A mat on the wall that is nearest to its centre; ``length_m`` runs along it, ``depth_m`` up it."""
    box = design.enclosure
    wall = nearest_wall(heater.x_m, heater.y_m, box.length_m, box.depth_m)
    sideways = wall in ("left", "right")
    key, along_m = ("y_m", heater.y_m) if sideways else ("x_m", heater.x_m)
    wide_m = box.depth_m if sideways else box.length_m
    length_m, high_m = heater.length_m or 0.0, heater.depth_m or 0.0
    if length_m > wide_m + TOUCHING_M:
        yield Fault(f"{path}.length_m", f"'{heater.name}' is {length_m:g} m; the {wall} wall is {wide_m:g} m wide.")
    elif along_m - length_m / 2 < -TOUCHING_M or along_m + length_m / 2 > wide_m + TOUCHING_M:
        yield Fault(f"{path}.{key}", f"'{heater.name}' reaches past the edge of the {wall} wall.")
    if high_m > box.height_m + TOUCHING_M:
        yield Fault(f"{path}.depth_m", f"'{heater.name}' is {high_m:g} m high; the {wall} wall is {box.height_m:g} m.")
    elif heater.z_m - high_m / 2 < -TOUCHING_M or heater.z_m + high_m / 2 > box.height_m + TOUCHING_M:
        yield Fault(f"{path}.z_m", f"'{heater.name}' reaches past the top or bottom of the {wall} wall.")


def _roof_faults(design: Design, path: str, heater: Heater) -> Iterator[Fault]:
    """A mat under a slab lies under it, and is no larger."""
    site = next((one for one in design.sites if one.name == heater.site), None)
    if site is None:
        return  # That the site is missing is said elsewhere.
    sides = (
        ("x_m", "length_m", heater.x_m - site.x_m, heater.length_m or 0.0, site.length_m),
        ("y_m", "depth_m", heater.y_m - site.y_m, heater.depth_m or 0.0, site.depth_m),
    )
    for place, size, away_m, own_m, slab_m in sides:
        if own_m > slab_m + TOUCHING_M:
            yield Fault(f"{path}.{size}", f"'{heater.name}' is {own_m:g} m; '{site.name}' over it is {slab_m:g} m.")
        elif abs(away_m) + own_m / 2 > slab_m / 2 + TOUCHING_M:
            yield Fault(f"{path}.{place}", f"'{heater.name}' does not lie under '{site.name}'.")


def _unread_faults(
    design: Design, path: str, control: Control, kinds: Mapping[str, SourceKind], fixtures: Mapping[str, FixtureType]
) -> Iterator[Fault]:
    """A probe on a heater needs a heater with a surface that it can lie on: the glass of a bare lamp is none."""
    heaters = design.heaters_of(control)
    if control.probe is None or control.probe.reads != "heater" or not heaters:
        return
    if not any(_has_a_surface(heater, kinds[heater.kind], fixtures[heater.fixture.kind]) for heater in heaters):
        yield Fault(
            path,
            f"the probe of '{control.name}' cannot lie on the glass of a lamp: let it read the air or a surface, or "
            "give the lamp a guard.",
        )


def _has_a_surface(heater: Heater, kind: SourceKind, fixture: FixtureType) -> bool:
    if kind.family != "lamp" or kind.radiating_area_m2 is not None:
        return True
    guarded = fixture.has_guard if heater.fixture.guard is None else heater.fixture.guard
    return guarded or fixture.shell_area_m2 is not None
