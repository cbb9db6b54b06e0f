"""A whole design, and what can be said of it without the catalogue."""

from collections import Counter
from collections.abc import Iterator, Sequence
from typing import Annotated, Literal, Protocol

from pydantic import Field

from mitten.core.design.amounts import exact_length, millimetres
from mitten.core.design.animal import Animal
from mitten.core.design.base import Name, Noun
from mitten.core.design.control import Control
from mitten.core.design.daylight import seasonal_daylight_hours
from mitten.core.design.enclosure import Enclosure
from mitten.core.design.faults import Fault
from mitten.core.design.heater import Heater
from mitten.core.design.light import Light, UvbLamp
from mitten.core.design.room import Room
from mitten.core.design.schedule import USUAL_DAY_HOURS, Schedule
from mitten.core.design.site import Site
from mitten.core.design.substrate import Substrate

TOUCHING_M = 1e-6
"""Two lengths closer than this are the same: designs are given in millimetres at the finest."""


Meter = Literal["silicon", "thermopile", "true"]
Approach = Literal["sunlit", "lightless", "ground", "one-lamp", "any"]


class Design(Noun):
    """Everything that decides the temperatures: the animal, its box, its room and its heat.

    ``decide_by`` is what the keeper aims at: the temperature of the basking surface, or the irradiance on it as
    ``irradiance_meter`` reads it. ``approach`` is the school of heating that the keeper follows.
    """

    format: Literal["mitten-design/1"]
    name: Name = "Unnamed enclosure"
    animal: Animal
    approach: Approach = "any"
    decide_by: Literal["surface", "irradiance"] = "surface"
    irradiance_meter: Meter = "silicon"
    room: Room
    enclosure: Enclosure
    substrate: Substrate = Substrate()
    sites: Annotated[tuple[Site, ...], Field(max_length=20, strict=False)] = ()
    heaters: Annotated[tuple[Heater, ...], Field(max_length=12, strict=False)] = ()
    controls: Annotated[tuple[Control, ...], Field(max_length=6, strict=False)] = ()
    lights: Annotated[tuple[Light, ...], Field(max_length=8, strict=False)] = ()
    uvb: Annotated[tuple[UvbLamp, ...], Field(max_length=6, strict=False)] = ()
    schedule: Schedule | None = None

    @property
    def day_hours(self) -> float:
        """Hours of day in a day: the schedule's, or half where there is none."""
        return USUAL_DAY_HOURS if self.schedule is None else self.schedule.day_hours

    def goes_by_the_clock(self, control: Control) -> bool:
        """Whether a timer switches all that a control holds."""
        return control.kind == "timer" or all(heater.on != "always" for heater in self.heaters_of(control))

    def day_hours_in(self, summer: float) -> float:
        """Hours of day in a day of the year; ``summer`` (0-1) is how far it has gone from winter to summer."""
        schedule, latitude = self.schedule, self.room.latitude
        if schedule is None or schedule.day_length == "fixed":
            return self.day_hours
        if schedule.day_length == "latitude" and latitude is not None:
            winter_h, summer_h = seasonal_daylight_hours(latitude)
        else:
            winter_h, summer_h = schedule.winter_hours or 0.0, schedule.summer_hours or 0.0
        return winter_h + summer * (summer_h - winter_h)

    @property
    def powered(self) -> tuple[Heater | Light | UvbLamp, ...]:
        """Everything that draws power: heaters, plain lights and UV lamps; no two of them share a name."""
        return (*self.heaters, *self.lights, *self.uvb)

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

    def site(self, name: str) -> Site:
        """The site of that name.

        Raises:
            KeyError: no site has the name.
        """
        for site in self.sites:
            if site.name == name:
                return site
        raise KeyError(name)

    def control_of(self, heater: Heater) -> Control | None:
        """What regulates a heater."""
        return next((control for control in self.controls if control.name == heater.control), None)

    def heaters_of(self, control: Control) -> tuple[Heater, ...]:
        """The heaters that a control regulates."""
        return tuple(heater for heater in self.heaters if heater.control == control.name)


def faults_of_fit(design: Design) -> list[Fault]:
    """Parts outside the box, parts of the same name, lids that do not fit: every one found.

    Whether the heaters fit depends on their kinds, and so is checked where the catalogue is known.
    """
    return [
        *_repeated_names("sites", [site.name for site in design.sites]),
        *_repeated_names("heaters", _names(design.heaters) + _names(design.lights) + _names(design.uvb)),
        *_repeated_names("controls", [control.name for control in design.controls]),
        *_substrate_faults(design),
        *_schedule_faults(design),
        *_lid_faults(design.enclosure),
        *_vent_faults(design.enclosure),
        *(fault for index, site in enumerate(design.sites) for fault in _site_faults(design, index, site)),
        *(fault for index, control in enumerate(design.controls) for fault in _control_faults(design, index, control)),
    ]


class _Named(Protocol):
    @property
    def name(self) -> str: ...


def _names(parts: Sequence[_Named]) -> list[str]:
    return [part.name for part in parts]


def _repeated_names(key: str, names: list[str]) -> Iterator[Fault]:
    for name, count in Counter(names).items():
        if count > 1:
            yield Fault(key, f"{count} of them are called '{name}'; each needs a name of its own.")


def _substrate_faults(design: Design) -> Iterator[Fault]:
    if design.substrate.depth_m > 0.6 * design.enclosure.height_m:
        yield Fault(
            "substrate.depth_mm",
            f"{millimetres(design.substrate.depth_m * 1000)} of ground leaves the animal too little room in a box "
            f"{millimetres(design.enclosure.height_m * 1000)} high; at most 60 % of the height can be filled.",
        )


def _schedule_faults(design: Design) -> Iterator[Fault]:
    if design.schedule and design.schedule.day_length == "latitude" and design.room.latitude is None:
        yield Fault("schedule.day_length", "days as long as outdoors need the room's latitude.")
    known = {*_names(design.heaters), *_names(design.lights), *_names(design.uvb)}
    for name in design.schedule.after_dark_h if design.schedule else ():
        if name not in known:
            yield Fault("schedule.after_dark_h", f"there is no source '{name}'.")


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
            high = exact_length(enclosure.height_m)
            said = f"{exact_length(vent.z_m)} is above the top of the box, which is {high} high."
            yield Fault(f"enclosure.vents[{index}].z_m", said)


def _site_faults(design: Design, index: int, site: Site) -> Iterator[Fault]:
    box, path, ground_m = design.enclosure, f"sites[{index}]", design.substrate.depth_m
    if _span_outside(site.x_m, site.length_m, box.length_m):
        yield Fault(f"{path}.x_m", f"'{site.name}' reaches past the left or right end of the box.")
    if _span_outside(site.y_m, site.depth_m, box.depth_m):
        yield Fault(f"{path}.y_m", f"'{site.name}' reaches past the front or back of the box.")
    if site.top_m(ground_m) > box.height_m - 0.02:
        yield Fault(f"{path}.z_m", f"'{site.name}' reaches the top of the box; lower or thin it.")
    if site.z_m is not None and site.z_m + site.thickness_mm / 1000 <= ground_m:
        yield Fault(f"{path}.z_m", f"'{site.name}' is buried: its top is below the ground's surface.")


def _control_faults(design: Design, index: int, control: Control) -> Iterator[Fault]:
    probe, box, path = control.probe, design.enclosure, f"controls[{index}]"
    if not design.heaters_of(control):
        yield Fault(path, f"'{control.name}' regulates no heat source: name it as control of one, or take it out.")
    if probe is None:
        return
    for key, value, limit in (
        ("x_m", probe.x_m, box.length_m), ("y_m", probe.y_m, box.depth_m), ("z_m", probe.z_m, box.height_m)
    ):  # fmt: skip
        if value > limit + TOUCHING_M:
            said = f"{exact_length(value)} is outside the box, which reaches to {exact_length(limit)}."
            yield Fault(f"{path}.probe.{key}", said)
    if probe.reads == "air" and probe.z_m < design.substrate.depth_m - TOUCHING_M:
        yield Fault(f"{path}.probe.z_m", f"{exact_length(probe.z_m)} is in the ground, where there is no air to read.")
    if probe.reads == "hide" and not any(site.role.endswith("hide") for site in design.sites):
        yield Fault(f"{path}.probe.reads", "there is no hide in this design.")
