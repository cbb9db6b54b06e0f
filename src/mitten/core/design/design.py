"""A whole design, and what can be said of it without the catalogue."""

from collections import Counter
from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field

from mitten.core.design.animal import Animal
from mitten.core.design.base import LAMP_ABOVE_LID_LIMIT_M, LEAST_LAMP_HEIGHT_M, Name, Noun
from mitten.core.design.enclosure import Enclosure
from mitten.core.design.faults import Fault
from mitten.core.design.heater import Heater
from mitten.core.design.room import Room
from mitten.core.design.site import Site
from mitten.core.design.substrate import Substrate

TOUCHING_M = 1e-6
"""Two lengths closer than this are the same: designs are given in millimetres at the finest."""


class Design(Noun):
    """Everything that decides the temperatures: the animal, its box, its room and its heat."""

    format: Literal["mitten-design/1"]
    name: Name = "Unnamed enclosure"
    animal: Animal
    room: Room
    enclosure: Enclosure
    substrate: Substrate = Substrate()
    sites: Annotated[tuple[Site, ...], Field(max_length=20, strict=False)] = ()
    heaters: Annotated[tuple[Heater, ...], Field(max_length=12, strict=False)] = ()

    @property
    def basking_site(self) -> Site | None:
        """The first site with the basking role, if there is one."""
        return next((site for site in self.sites if site.role == "basking"), None)

    def heater(self, name: str) -> Heater:
        """The heater of that name.

        Raises:
            KeyError: no heater has the name.
        """
        for heater in self.heaters:
            if heater.name == name:
                return heater
        raise KeyError(name)

    def with_heater(self, name: str, **changes: object) -> dict[str, object]:
        """The design's data with one heater changed, ready to be read and checked again."""
        data = self.model_dump(mode="json", exclude_none=True)
        for heater in data["heaters"]:
            if heater["name"] == name:
                heater.update(changes)
        return data


def faults_of_fit(design: Design) -> list[Fault]:
    """Parts outside the box, parts of the same name, lids that do not fit: every one found."""
    return [
        *_repeated_names("sites", [site.name for site in design.sites]),
        *_repeated_names("heaters", [heater.name for heater in design.heaters]),
        *_substrate_faults(design),
        *_lid_faults(design.enclosure),
        *_vent_faults(design.enclosure),
        *(fault for index, site in enumerate(design.sites) for fault in _site_faults(design, index, site)),
        *(fault for index, heater in enumerate(design.heaters) for fault in _heater_faults(design, index, heater)),
    ]


def _repeated_names(key: str, names: list[str]) -> Iterator[Fault]:
    for name, count in Counter(names).items():
        if count > 1:
            yield Fault(key, f"{count} of them are called '{name}'; each needs a name of its own.")


def _substrate_faults(design: Design) -> Iterator[Fault]:
    if design.substrate.depth_m > 0.6 * design.enclosure.height_m:
        yield Fault(
            "substrate.depth_mm",
            f"{design.substrate.depth_mm:g} mm leaves the animal too little room in a box "
            f"{design.enclosure.height_m * 1000:g} mm high; at most 60 % of the height can be filled.",
        )


def _span_outside(centre_m: float, size_m: float, limit_m: float) -> bool:
    return centre_m - size_m / 2 < -TOUCHING_M or centre_m + size_m / 2 > limit_m + TOUCHING_M


def _lid_faults(enclosure: Enclosure) -> Iterator[Fault]:
    lid = enclosure.lid_mesh
    if lid is None or lid.x_m is None or lid.y_m is None or lid.length_m is None or lid.depth_m is None:
        return
    if _span_outside(lid.x_m, lid.length_m, enclosure.length_m):
        yield Fault("enclosure.lid_mesh", "the mesh reaches past the left or right end of the top.")
    if _span_outside(lid.y_m, lid.depth_m, enclosure.depth_m):
        yield Fault("enclosure.lid_mesh", "the mesh reaches past the front or back of the top.")


def _vent_faults(enclosure: Enclosure) -> Iterator[Fault]:
    for index, vent in enumerate(enclosure.vents):
        if vent.z_m is not None and vent.z_m > enclosure.height_m + TOUCHING_M:
            yield Fault(
                f"enclosure.vents[{index}].z_m",
                f"{vent.z_m:g} m is above the top of the box, which is {enclosure.height_m:g} m high.",
            )


def _site_faults(design: Design, index: int, site: Site) -> Iterator[Fault]:
    box, path, ground_m = design.enclosure, f"sites[{index}]", design.substrate.depth_m
    if _span_outside(site.x_m, site.length_m, box.length_m):
        yield Fault(f"{path}.x_m", f"'{site.name}' reaches past the left or right end of the box.")
    if _span_outside(site.y_m, site.depth_m, box.depth_m):
        yield Fault(f"{path}.y_m", f"'{site.name}' reaches past the front or back of the box.")
    if site.top_m(ground_m) > box.height_m - 0.02:
        yield Fault(f"{path}.z_m", f"'{site.name}' reaches the top of the box; lower or thin it.")
    if site.z_m is not None and site.z_m + site.thickness_mm / 1000 <= ground_m:
        yield Fault(f"{path}.z_m", f"'{site.name}' is buried: its top is below the substrate's surface.")


def _heater_faults(design: Design, index: int, heater: Heater) -> Iterator[Fault]:
    box, path = design.enclosure, f"heaters[{index}]"
    if heater.x_m > box.length_m:
        yield Fault(f"{path}.x_m", f"{heater.x_m:g} m is outside the box, which is {box.length_m:g} m long.")
    if heater.y_m > box.depth_m:
        yield Fault(f"{path}.y_m", f"{heater.y_m:g} m is outside the box, which is {box.depth_m:g} m deep.")
    if heater.above_mesh:
        yield from _above_lid_faults(box, path, heater)
    elif heater.z_m > box.height_m:
        yield Fault(f"{path}.z_m", f"{heater.z_m:g} m is outside the box, which is {box.height_m:g} m high inside.")
    elif heater.z_m < design.substrate.depth_m + LEAST_LAMP_HEIGHT_M:
        yield Fault(f"{path}.z_m", f"{heater.z_m:g} m is in or on the substrate; a lamp hangs above it.")
    else:
        yield from _inside_site_faults(design, path, heater)


def _above_lid_faults(box: Enclosure, path: str, heater: Heater) -> Iterator[Fault]:
    if box.lid_mesh is None and not box.open_top:
        yield Fault(f"{path}.above_mesh", "the box has no mesh lid and no open top for a lamp to shine through.")
    highest_m = box.height_m + LAMP_ABOVE_LID_LIMIT_M
    if not box.height_m < heater.z_m <= highest_m + TOUCHING_M:
        yield Fault(
            f"{path}.z_m",
            f"a lamp above the lid hangs higher than {box.height_m:g} m and at most at {highest_m:g} m.",
        )


def _inside_site_faults(design: Design, path: str, heater: Heater) -> Iterator[Fault]:
    ground_m = design.substrate.depth_m
    for site in design.sites:
        over = abs(heater.x_m - site.x_m) <= site.length_m / 2 and abs(heater.y_m - site.y_m) <= site.depth_m / 2
        if over and site.underside_m(ground_m) <= heater.z_m < site.top_m(ground_m) + 0.02:
            yield Fault(f"{path}.z_m", f"the lamp is inside '{site.name}' or touches it; hang it higher.")
