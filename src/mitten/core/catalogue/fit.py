"""Whether heaters and lights fit the box, the lid, the sites and their controls: this depends on their kinds."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Protocol

from mitten.core.catalogue.gear import SourceKind
from mitten.core.design import (
    LAMP_ABOVE_LID_LIMIT_M,
    LEAST_LAMP_HEIGHT_M,
    TOUCHING_M,
    Design,
    Enclosure,
    Fault,
    Heater,
)
from mitten.core.design.amounts import exact_length


class _Hanging(Protocol):
    """What a lamp, a light and a UV lamp have in common."""

    @property
    def name(self) -> str: ...
    @property
    def x_m(self) -> float: ...
    @property
    def y_m(self) -> float: ...
    @property
    def z_m(self) -> float: ...
    @property
    def above_mesh(self) -> bool: ...


def faults_of_heaters(design: Design, kinds: Mapping[str, SourceKind]) -> Iterator[Fault]:
    """Every heater and light that is outside the box, in a site, in a place its kind cannot have, or half described."""
    for index, heater in enumerate(design.heaters):
        path, kind = f"heaters[{index}]", kinds[heater.kind]
        yield from _place_faults(path, heater, kind)
        yield from _size_faults(design, path, heater, kind)
        yield from _site_faults(design, path, heater, kind)
        yield from _control_faults(design, path, heater)
        yield from _sideways_faults(design.enclosure, path, heater)
        if kind.family == "lamp":
            yield from _height_faults(design, path, heater)
        elif heater.above_mesh:
            yield Fault(f"{path}.above_mesh", f"{kind.with_article} does not hang above a mesh.")
    hung: dict[str, Sequence[_Hanging]] = {"lights": design.lights, "uvb": design.uvb}
    for key, lights in hung.items():
        for index, light in enumerate(lights):
            yield from _sideways_faults(design.enclosure, f"{key}[{index}]", light)
            yield from _height_faults(design, f"{key}[{index}]", light)


def _place_faults(path: str, heater: Heater, kind: SourceKind) -> Iterator[Fault]:
    if heater.place is not None and heater.place not in kind.places:
        allowed = " or ".join(f"'{place}'" for place in kind.places)
        yield Fault(f"{path}.place", f"{kind.with_article} cannot be placed '{heater.place}'; it goes {allowed}.")


def _size_faults(design: Design, path: str, heater: Heater, kind: SourceKind) -> Iterator[Fault]:
    if not kind.has_area:
        return
    if heater.length_m is None or heater.depth_m is None:
        yield Fault(path, f"{kind.with_article} covers an area: give its length and depth.")
        return
    place, box = kind.place_of(heater), design.enclosure
    if place in ("wall", "hide-roof"):
        return
    for key, centre, size, limit in (
        ("length_m", heater.x_m, heater.length_m, box.length_m), ("depth_m", heater.y_m, heater.depth_m, box.depth_m)
    ):  # fmt: skip
        if centre - size / 2 < -TOUCHING_M or centre + size / 2 > limit + TOUCHING_M:
            yield Fault(f"{path}.{key}", f"'{heater.name}' reaches past the edge of the box.")


def _site_faults(design: Design, path: str, heater: Heater, kind: SourceKind) -> Iterator[Fault]:
    needs_site = kind.family == "rock" or kind.place_of(heater) == "hide-roof"
    if needs_site and heater.site is None:
        yield Fault(f"{path}.site", f"name the piece of furniture that this {kind.label} warms.")
    if heater.site is not None and heater.site not in {site.name for site in design.sites}:
        yield Fault(f"{path}.site", f"there is no furniture called '{heater.site}'.")


def _control_faults(design: Design, path: str, heater: Heater) -> Iterator[Fault]:
    if heater.control is not None and design.control_of(heater) is None:
        yield Fault(f"{path}.control", f"there is no control '{heater.control}'.")


def _sideways_faults(box: Enclosure, path: str, part: _Hanging) -> Iterator[Fault]:
    if part.x_m > box.length_m:
        yield Fault(f"{path}.x_m", _outside(part.x_m, box.length_m, "long"))
    if part.y_m > box.depth_m:
        yield Fault(f"{path}.y_m", _outside(part.y_m, box.depth_m, "deep"))


def _outside(place_m: float, limit_m: float, words: str) -> str:
    return f"{exact_length(place_m)} is outside the box, which is {exact_length(limit_m)} {words}."


def _height_faults(design: Design, path: str, part: _Hanging) -> Iterator[Fault]:
    box = design.enclosure
    if part.above_mesh:
        yield from _above_lid_faults(box, path, part)
    elif part.z_m > box.height_m:
        yield Fault(f"{path}.z_m", _outside(part.z_m, box.height_m, "high inside"))
    elif part.z_m < design.substrate.depth_m + LEAST_LAMP_HEIGHT_M:
        yield Fault(f"{path}.z_m", f"{exact_length(part.z_m)} is in or on the ground; a lamp hangs above it.")
    else:
        yield from _inside_site_faults(design, path, part)


def _above_lid_faults(box: Enclosure, path: str, part: _Hanging) -> Iterator[Fault]:
    if box.lid_mesh is None and not box.open_top:
        yield Fault(f"{path}.above_mesh", "the box has no mesh lid and no open top for a lamp to shine through.")
    highest_m = box.height_m + LAMP_ABOVE_LID_LIMIT_M
    if not box.height_m < part.z_m <= highest_m + TOUCHING_M:
        least, most = exact_length(box.height_m), exact_length(highest_m)
        yield Fault(f"{path}.z_m", f"a lamp above the lid hangs higher than {least} and at most at {most}.")


def _inside_site_faults(design: Design, path: str, part: _Hanging) -> Iterator[Fault]:
    ground_m = design.substrate.depth_m
    for site in design.sites:
        over = site.is_under(part.x_m, part.y_m)
        if over and site.underside_m(ground_m) <= part.z_m < site.top_m(ground_m) + 0.02:
            yield Fault(f"{path}.z_m", f"the lamp is inside '{site.name}' or touches it; hang it higher.")
