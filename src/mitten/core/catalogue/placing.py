"""Parts that are where nothing can be: in one another, past the end of the box, beside what they belong to.

A design that was kept before these were refused is still opened, and shown with what is wrong in it; an edit may leave
such a fault as it stood, and makes no new one.
"""

from collections.abc import Iterator, Mapping
from itertools import combinations

from mitten.core.catalogue.gear import FixtureType, SourceKind
from mitten.core.design import TOUCHING_M, Control, Design, Face, Fault, Heater, Site, UvbLamp
from mitten.core.design.amounts import exact_length

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


def nearest_wall(x_m: float, y_m: float, length_m: float, depth_m: float) -> Face:
    """The wall of a box of that length and depth that is nearest to a place."""
    gaps: dict[Face, float] = {"left": x_m, "right": length_m - x_m, "front": y_m, "back": depth_m - y_m}
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
    if 2 * half_m > box.length_m + TOUCHING_M:
        said = f"'{lamp.name}' is {exact_length(2 * half_m)} long; the box is {exact_length(box.length_m)} long."
        yield Fault(f"{path}.length_m", said)
    elif _past_an_end(lamp.x_m, 2 * half_m, box.length_m):
        yield Fault(f"{path}.x_m", f"'{lamp.name}' reaches past the left or right end of the box.")
    ground_m = design.substrate.depth_m
    for site in design.sites if half_m and not lamp.above_mesh else ():
        if _over(lamp, site) and site.underside_m(ground_m) <= lamp.z_m < site.top_m(ground_m) + CLEAR_OF_A_SITE_M:
            yield Fault(f"{path}.z_m", f"'{lamp.name}' is inside '{site.name}' or touches it; hang it higher.")


def _past_an_end(middle_m: float, size_m: float, limit_m: float) -> bool:
    return middle_m - size_m / 2 < -TOUCHING_M or middle_m + size_m / 2 > limit_m + TOUCHING_M


def _over(lamp: UvbLamp, site: Site) -> bool:
    """Whether a part of a tube is over or under a site."""
    across_m, inward_m = abs(lamp.x_m - site.x_m) - (lamp.length_m or 0.0) / 2, abs(lamp.y_m - site.y_m)
    return across_m < site.length_m / 2 and inward_m < site.depth_m / 2


def _wall_faults(design: Design, path: str, heater: Heater) -> Iterator[Fault]:
    """A mat on the wall that is nearest to its centre; ``length_m`` runs along it, ``depth_m`` up it."""
    box = design.enclosure
    wall = nearest_wall(heater.x_m, heater.y_m, box.length_m, box.depth_m)
    sideways = wall in ("left", "right")
    key, along_m = ("y_m", heater.y_m) if sideways else ("x_m", heater.x_m)
    sides = (
        ("length_m", key, along_m, heater.length_m or 0.0, box.depth_m if sideways else box.length_m, "wide", "edge"),
        ("depth_m", "z_m", heater.z_m, heater.depth_m or 0.0, box.height_m, "high", "top or bottom"),
    )
    for size_key, place_key, middle_m, size_m, limit_m, word, end in sides:
        if size_m > limit_m + TOUCHING_M:
            sentence = f"'{heater.name}' is {exact_length(size_m)}; the {wall} wall is {exact_length(limit_m)} {word}."
            yield Fault(f"{path}.{size_key}", sentence)
        elif _past_an_end(middle_m, size_m, limit_m):
            yield Fault(f"{path}.{place_key}", f"'{heater.name}' reaches past the {end} of the {wall} wall.")


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
            said = f"'{heater.name}' is {exact_length(own_m)}; '{site.name}' over it is {exact_length(slab_m)}."
            yield Fault(f"{path}.{size}", said)
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
