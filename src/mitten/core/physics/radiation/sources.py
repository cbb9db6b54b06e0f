"""From the design's heaters, lights and UV lamps to what the model computes with: radiators and contact sources."""

from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from mitten.core.catalogue import Catalogue, SourceKind
from mitten.core.design import Design, Fixture, Heater, Light, UvbLamp
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.lamps import BODY_WIDTH_M, Beam, Lamp, exponent_of
from mitten.core.physics.radiation.spectrum import LIGHT_ALONE, Spectrum, black_surface_k, spectrum_of
from mitten.core.physics.tweaks import NOMINAL, Tweaks

PANEL_SPACING_M = 0.08
TUBE_SPACING_M = 0.06
EVENLY = 1.0
"""Exponent of a beam that spreads as from a flat, even surface: with no beam share it is not used."""

PANEL_THICKNESS_M = 0.02
USUAL_PANEL_SURROUNDINGS_K = 300.0
WIDEST_HALF_ANGLE_DEG = 80.0


@dataclass(frozen=True)
class ContactSource:
    """A mat, tape, cable or hot rock at the power it runs at."""

    heater: Heater
    kind: SourceKind
    power_w: float

    @property
    def name(self) -> str:
        """The heater's name."""
        return self.heater.name

    @property
    def in_floor(self) -> bool:
        """Whether it lies under or on the floor panel."""
        return self.kind.family == "contact" and self.kind.place_of(self.heater) in ("under-floor", "on-floor")


@dataclass(frozen=True)
class Sources:
    """Everything that gives heat in one condition."""

    lamps: tuple[Lamp, ...] = ()
    contacts: tuple[ContactSource, ...] = ()

    def __bool__(self) -> bool:
        return bool(self.lamps or self.contacts)

    @property
    def all(self) -> "tuple[Lamp | ContactSource, ...]":
        """Every one of them."""
        return (*self.lamps, *self.contacts)

    def watts_of(self, name: str) -> float:
        """Electrical power of the heater of that name; 0 if it does not run."""
        return sum(source.power_w for source in self.all if source.name == name)


def together(several: Iterable[Sources]) -> Sources:
    """All that several hold."""
    known = tuple(several)
    lamps = tuple(lamp for one in known for lamp in one.lamps)
    return Sources(lamps, tuple(source for one in known for source in one.contacts))


@dataclass(frozen=True)
class Running:
    """A heater that runs, at a share of its power; ``dims`` if it is dimmed rather than switched."""

    heater: Heater
    duty: float = 1.0
    dims: bool = False


def sources_of(
    design: Design,
    running: Mapping[str, Running],
    day: bool,
    catalogue: Catalogue,
    tweaks: Tweaks = NOMINAL,
    dead: Collection[str] = (),
) -> Sources:
    """The sources of a design with those heaters running, and its lights and UV lamps by day or night but ``dead``
    ones.
    """
    tweaks.must_name(outputs={part.name for part in design.powered})
    lamps: list[Lamp] = []
    contacts: list[ContactSource] = []
    for item in running.values():
        kind = catalogue.sources[item.heater.kind]
        output = tweaks.output_of(item.heater.name)
        if kind.family in ("contact", "rock"):
            power_w = item.heater.watts * item.heater.dim * item.duty * output
            contacts.append(ContactSource(item.heater, kind, power_w))
        else:
            lamps.append(radiator_of(item, kind, catalogue, design.enclosure.height_m, tweaks))
    lamps += (light for light in lights_of(design, day, catalogue, tweaks) if light.name not in dead)
    return Sources(tuple(lamps), tuple(contacts))


def is_guarded(fixture: Fixture, catalogue: Catalogue) -> bool:
    """Whether a guard keeps the animal off the heater."""
    return catalogue.fixtures[fixture.kind].has_guard if fixture.guard is None else fixture.guard


def radiator_of(
    item: Running, kind: SourceKind, catalogue: Catalogue, height_m: float, tweaks: Tweaks = NOMINAL
) -> Lamp:
    """A lamp, emitter or panel as a source."""
    heater, dim = item.heater, item.heater.dim * (item.duty if item.dims else 1.0)
    power_w = heater.watts * heater.dim * item.duty
    # The keeper pays for power_w; what its lamp makes of it is what is uncertain.
    radiant_w = kind.radiant_share * power_w
    if kind.family == "panel":
        return _panel(heater, kind, power_w, radiant_w, height_m, tweaks)
    past_guard = value("guard_open") if is_guarded(heater.fixture, catalogue) else 1.0
    half_angle_deg = (heater.lamp.beam_half_angle_deg or kind.half_angle_deg) * tweaks.beam
    enclosed = catalogue.fixtures[heater.fixture.kind].encloses
    beam = Beam(
        points=((heater.x_m, heater.y_m, heater.z_m),),
        tilt_deg=heater.tilt_deg,
        above_mesh=heater.above_mesh,
        exponent=exponent_of(min(half_angle_deg, WIDEST_HALF_ANGLE_DEG)),
        beam_share=kind.beam_share,
        isotropic=kind.isotropic_when_bare and not enclosed,
        face_m=kind.face_m,
    )
    output = tweaks.output_of(heater.name)
    return Lamp(
        heater.name,
        beam,
        power_w * output,
        radiant_w * past_guard * output,
        spectrum_of(kind, heater.watts, dim),
        share=heater.dim * item.duty,
    )


def _panel(heater: Heater, kind: SourceKind, power_w: float, radiant_w: float, height_m: float, tweaks: Tweaks) -> Lamp:
    """A panel: points all over its face, each radiating evenly down."""
    length_m, depth_m = _size_of(heater)
    face_m = height_m - PANEL_THICKNESS_M
    columns, rows = (max(2, round(size / PANEL_SPACING_M)) for size in (length_m, depth_m))
    xs = heater.x_m + ((np.arange(columns) + 0.5) / columns - 0.5) * length_m
    ys = heater.y_m + ((np.arange(rows) + 0.5) / rows - 0.5) * depth_m
    beam = Beam(tuple((float(x), float(y), face_m) for x in xs for y in ys), 0.0, False, EVENLY, 0.0)
    kelvin = black_surface_k(radiant_w, length_m * depth_m, value("panel_emissivity"), USUAL_PANEL_SURROUNDINGS_K)
    output = tweaks.output_of(heater.name)
    return Lamp(heater.name, beam, power_w * output, radiant_w * output, Spectrum(round(kelvin, 1)), length_m)


def _size_of(heater: Heater) -> tuple[float, float]:
    if heater.length_m is None or heater.depth_m is None:
        raise ValueError(f"'{heater.name}' has no area")
    return heater.length_m, heater.depth_m


def lights_of(design: Design, day: bool, catalogue: Catalogue, tweaks: Tweaks = NOMINAL) -> Iterator[Lamp]:
    """Plain lights and UV lamps: their light falls evenly, the rest of their watts warms the air."""
    for light in design.lights:
        if day:
            share = value("led_radiant")
            yield _even_light(light, ((light.x_m, light.y_m, light.z_m),), share, BODY_WIDTH_M, tweaks)
    for lamp in design.uvb:
        if lamp.on in ("day" if day else "night", "always"):
            share = catalogue.uvb[lamp.lamp].radiant_share
            yield _even_light(lamp, tube_points(lamp), share, lamp.length_m or BODY_WIDTH_M, tweaks)


def tube_points(lamp: UvbLamp) -> tuple[tuple[float, float, float], ...]:
    """Points along a tube, or the one point of a compact lamp."""
    if lamp.length_m is None:
        return ((lamp.x_m, lamp.y_m, lamp.z_m),)
    count = max(3, round(lamp.length_m / TUBE_SPACING_M))
    xs = lamp.x_m + ((np.arange(count) + 0.5) / count - 0.5) * lamp.length_m
    return tuple((float(x), lamp.y_m, lamp.z_m) for x in xs)


def _even_light(
    lamp: Light | UvbLamp, points: tuple[tuple[float, float, float], ...], share: float, reach_m: float, tweaks: Tweaks
) -> Lamp:
    beam, power_w = Beam(points, 0.0, lamp.above_mesh, EVENLY, 0.0), lamp.watts * tweaks.output_of(lamp.name)
    return Lamp(lamp.name, beam, power_w, power_w * share, LIGHT_ALONE, reach_m)
