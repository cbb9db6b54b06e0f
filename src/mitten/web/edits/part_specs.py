"""The fields of every kind of part."""

from collections.abc import Callable, Iterator, Sequence

from mitten.core.catalogue import Catalogue, SourceKind
from mitten.core.design import (
    LAMP_ABOVE_LID_LIMIT_M,
    LEAST_LAMP_HEIGHT_M,
    Control,
    Design,
    Fixture,
    Heater,
    LampOverrides,
    Light,
    Site,
    UvbLamp,
    Vent,
)
from mitten.core.design.amounts import centimetres
from mitten.core.design.units import (
    ANGLE,
    AREA,
    LENGTH,
    PLAIN,
    SHARE,
    TEMPERATURE,
    TEMPERATURE_STEP,
    THICKNESS,
    WATTS,
)
from mitten.core.plan.probe_places import place_of, probe_places, probe_words
from mitten.web.edits.fields import NO, YES, Option, Spec, noun_limits
from mitten.web.edits.refs import PartRef, noun_of

NEW_CONTROL = "+"
"""Begins what the form sends for a control that is not there yet; the control's key in the catalogue follows."""

ON_WORDS = [Option("day", "by day"), Option("night", "by night"), Option("always", "day and night")]
PLACE_WORDS = {
    "air": "in the air", "ceiling": "on the ceiling", "under-floor": "under the floor", "on-floor": "on the floor",
    "wall": "on the nearest wall", "hide-roof": "under a slab",
}  # fmt: skip
CONTROL_WORDS = {
    "on-off": "on-off thermostat", "pulse": "pulse thermostat", "dimming": "dimming thermostat",
    "dimmer": "dimmer, by hand", "timer": "timer",
}  # fmt: skip
READS_WORDS = {
    "air": "the air", "surface": "a surface", "heater": "the source itself",
    "base": "under the ground", "hide": "inside the hide",
}  # fmt: skip
ROLE_WORDS = {
    "basking": "basking place", "warm-hide": "warm hide", "cool-hide": "cool hide", "humid-hide": "humid hide",
    "perch": "perch", "water": "water dish", "plant": "plant",
}  # fmt: skip
FACE_WORDS = {
    "floor": "floor", "top": "top", "left": "left", "right": "right", "front": "front", "back": "back",
}  # fmt: skip
SETTINGS = (
    ("day_c", "By day", "off"), ("night_c", "By night", "off"), ("summer.day_c", "By day in summer", "the same"),
    ("summer.night_c", "By night in summer", "the same"),
)  # fmt: skip
"""Settings of a thermostat: the key, its words, and what an empty one means."""

ELSEWHERE = "elsewhere"
"""What the form sends for a probe that is at no place with a name."""

FAIL_WORDS = [Option("unknown", "not known"), Option("off", "off"), Option("on", "on, at full power")]

UVI_WORDS = f"UV index at {centimetres(30)}"


def part_specs(design: Design, catalogue: Catalogue, ref: PartRef, kind: str | None = None) -> list[Spec]:
    """The fields of a part; ``kind`` is a heater's kind as it was typed, which decides the wattages on offer.

    Raises:
        KeyError: there is no such part.
    """
    part = noun_of(design, ref)
    makers: dict[str, Callable[[], Iterator[Spec]]] = {
        "heaters": lambda: _heater(design, catalogue, part, kind),
        "controls": lambda: _control(design, catalogue, part),
        "uvb": lambda: _uvb(design, catalogue, part),
        "lights": lambda: _light(design, part),
        "sites": lambda: _site(design, catalogue, part),
        "vents": lambda: _vent(design, part),
    }
    specs = list(makers[ref.collection]())
    return specs if ref.collection == "vents" else [*specs, Spec("name", "Name", "text", rare=True)]


def options_of(words: dict[str, str]) -> list[Option]:
    """A table of words as options."""
    return [Option(key, label) for key, label in words.items()]


def options_of_table(table: str, catalogue: Catalogue) -> list[Option]:
    """A table of the catalogue as options, by label."""
    return [Option(key, entry.label) for key, entry in getattr(catalogue, table).items()]


def height_limits_m(design: Design, above_mesh: bool) -> tuple[float, float]:
    """Lowest and highest z of a lamp's face, inside the box or above its lid."""
    lid_m = design.enclosure.height_m
    if above_mesh:
        return lid_m + 0.01, lid_m + LAMP_ABOVE_LID_LIMIT_M
    return design.substrate.depth_m + LEAST_LAMP_HEIGHT_M, lid_m


def _across(design: Design, rare_y: bool = True) -> Iterator[Spec]:
    """From left and from front."""
    box = design.enclosure
    yield Spec("x_m", "From left", "slider", LENGTH, limits=(0.0, box.length_m))
    yield Spec("y_m", "From front", "number", LENGTH, limits=(0.0, box.depth_m), rare=rare_y)


def _hanging(design: Design, above_mesh: bool) -> Iterator[Spec]:
    """Height, and whether inside or above the mesh."""
    box, ground_m = design.enclosure, design.substrate.depth_m
    limits = height_limits_m(design, above_mesh)
    yield Spec("z_m", "Above ground", "slider", LENGTH, limits=limits, ground_m=ground_m)
    has_mesh = box.open_top or box.lid_mesh is not None
    words = "above the open top" if box.open_top else "above the mesh" if has_mesh else "above the mesh (no mesh lid)"
    yield Spec("above_mesh", "Hangs", "flag", options=[Option(NO, "inside"), Option(YES, words, has_mesh)])


def _heater(design: Design, catalogue: Catalogue, heater: Heater, typed_kind: str | None) -> Iterator[Spec]:
    kind = catalogue.sources[heater.kind]
    chosen = catalogue.sources.get(typed_kind or heater.kind, kind)
    yield Spec("kind", "Source", "choice", options=options_of_table("sources", catalogue))
    yield Spec("watts", "Power", "number", WATTS, options=_watts(chosen.watts_sold, f"{heater.watts:g}"))
    if kind.family != "rock" or heater.site is None:
        yield from _across(design)
    if kind.family == "lamp":
        yield from _hanging(design, heater.above_mesh)
    yield from _place_specs(design, heater, kind)
    yield Spec("on", "Runs", "choice", options=ON_WORDS)
    yield Spec("control", "Regulated", "choice", optional=True, options=_controls(design, catalogue))
    if kind.needs_fixture:
        yield from _fixture(catalogue)
    yield from _lamp(kind)
    yield Spec("dim", "Dimmed by hand to", "number", SHARE, limits=(0.0, 1.0), rare=True)


def _watts(sold: Sequence[float], chosen: str) -> list[Option]:
    options = [Option(f"{watts:g}", f"{watts:g} W") for watts in sold]
    if chosen not in {option.value for option in options}:
        options.insert(0, Option(chosen, f"{chosen} W, not a usual size"))
    return options


def _controls(design: Design, catalogue: Catalogue) -> list[Option]:
    own = [Option(control.name, f"by {control.name}") for control in design.controls]
    new = [Option(f"{NEW_CONTROL}{key}", f"by a new {kind.label}") for key, kind in catalogue.controls.items()]
    return [Option("", "by nothing"), *own, *new]


def _place_specs(design: Design, heater: Heater, kind: SourceKind) -> Iterator[Spec]:
    """Where a panel, mat, tape, cable or rock lies, and how large it is."""
    if kind.family == "contact":
        options = [Option(place, PLACE_WORDS[place]) for place in kind.places]
        yield Spec("place", "Lies", "choice", options=options, usual=kind.places[0])
    if kind.family == "rock" or kind.place_of(heater) == "hide-roof":
        sites = [Option(site.name, site.name) for site in design.sites]
        yield Spec("site", "Warms", "choice", options=[Option("", "choose"), *sites], optional=True)
    if kind.has_area:
        for key, label in (("length_m", "Length"), ("depth_m", "Depth")):
            yield Spec(key, label, "number", LENGTH, limits=noun_limits(Heater, key), optional=True)
    if kind.place_of(heater) == "wall":
        ground_m = design.substrate.depth_m
        limits = (0.0, design.enclosure.height_m)
        yield Spec("z_m", "Middle above ground", "number", LENGTH, limits=limits, ground_m=ground_m)
    if kind.family == "contact":
        yield Spec("cover_mm", "Covered by", "number", THICKNESS, limits=noun_limits(Heater, "cover_mm"), rare=True)


def _fixture(catalogue: Catalogue) -> Iterator[Spec]:
    yield Spec("fixture.kind", "Fixture", "choice", options=options_of_table("fixtures", catalogue), rare=True)
    yield Spec("fixture.max_watts", "Rated for", "number", WATTS, limits=noun_limits(Fixture, "max_watts"),
               optional=True, rare=True, placeholder="as usual")  # fmt: skip
    sockets = [Option("ceramic", "ceramic"), Option("plastic", "plastic")]
    yield Spec("fixture.socket", "Socket", "choice", options=sockets, rare=True)
    guard = [Option("", "as the fixture has"), Option(YES, "guarded"), Option(NO, "no guard")]
    yield Spec("fixture.guard", "Guard", "flag", options=guard, optional=True, rare=True)


def _lamp(kind: SourceKind) -> Iterator[Spec]:
    if kind.family != "lamp":
        return
    yield Spec("tilt_deg", "Tilt to the right", "number", ANGLE, limits=noun_limits(Heater, "tilt_deg"), rare=True)
    yield Spec("lamp.beam_half_angle_deg", "Beam, half angle", "number", ANGLE, optional=True, rare=True,
               limits=noun_limits(LampOverrides, "beam_half_angle_deg"),
               placeholder=f"{kind.half_angle_deg:g}")  # fmt: skip
    if kind.arc_share > 0:
        yield Spec("lamp.uvi_at_30cm", UVI_WORDS, "number", optional=True, placeholder="not known",
                   limits=noun_limits(LampOverrides, "uvi_at_30cm"))  # fmt: skip


def _control(design: Design, catalogue: Catalogue, control: Control) -> Iterator[Spec]:
    yield Spec("kind", "Kind", "choice", options=options_of(CONTROL_WORDS))
    if control.is_thermostat and control.probe is not None:
        yield from _thermostat(design, catalogue, control)
    yield Spec("max_watts", "Rated for", "number", WATTS, limits=noun_limits(Control, "max_watts"), optional=True,
               rare=True, placeholder="not known")  # fmt: skip
    yield Spec("fail", "When it fails, it is", "choice", options=FAIL_WORDS, rare=True)


def _thermostat(design: Design, catalogue: Catalogue, control: Control) -> Iterator[Spec]:
    box, ground_m = design.enclosure, design.substrate.depth_m
    limits = noun_limits(Control, "day_c") or (-5.0, 90.0)
    for key, label, empty in SETTINGS:
        yield Spec(key, label, "number", TEMPERATURE, limits=limits, optional=True, placeholder=empty)
    yield Spec("cut_out_c", "Cut-out in line opens at", "number", TEMPERATURE, limits=limits, optional=True, rare=True,
               placeholder="none")  # fmt: skip
    yield Spec("probe.where", "Its probe is", "choice", options=_probe_options(design, catalogue, control),
               usual=(place.key if (place := place_of(design, catalogue, control)) else ELSEWHERE))  # fmt: skip
    hides = any(site.role.endswith("hide") for site in design.sites)
    reads = [Option(key, label, key != "hide" or hides) for key, label in READS_WORDS.items()]
    yield Spec("probe.reads", "It reads", "choice", options=reads)
    yield Spec("probe.x_m", "From left", "slider", LENGTH, limits=(0.0, box.length_m))
    yield Spec("probe.z_m", "Above ground", "slider", LENGTH, limits=(0.0, box.height_m), ground_m=ground_m)
    yield Spec("probe.y_m", "From front", "number", LENGTH, limits=(0.0, box.depth_m))
    yield Spec("probe.shaded", "In the beam", "flag", options=[Option(YES, "shaded"), Option(NO, "unshaded")])
    yield Spec("band_k", "Switches within", "number", TEMPERATURE_STEP, limits=(0.1, 15.0), rare=True)


def _probe_options(design: Design, catalogue: Catalogue, control: Control) -> list[Option]:
    """Places by name, and the one that has none."""
    places = [Option(place.key, place.words) for place in probe_places(design, catalogue, control)]
    here = probe_words(design, catalogue, control)
    return places if place_of(design, catalogue, control) else [Option(ELSEWHERE, here), *places]


def _light(design: Design, light: Light) -> Iterator[Spec]:
    yield Spec("watts", "Power", "number", WATTS, limits=noun_limits(Light, "watts"))
    yield from _across(design, rare_y=False)
    yield from _hanging(design, light.above_mesh)


def _uvb(design: Design, catalogue: Catalogue, lamp: UvbLamp) -> Iterator[Spec]:
    kind = catalogue.uvb[lamp.lamp]
    yield Spec("lamp", "Kind", "choice", options=options_of_table("uvb", catalogue))
    yield Spec("watts", "Power", "number", WATTS, options=_watts(kind.watts_sold, f"{lamp.watts:g}"))
    yield from _across(design, rare_y=False)
    yield from _hanging(design, lamp.above_mesh)
    yield Spec("length_m", "Length", "number", LENGTH, limits=noun_limits(UvbLamp, "length_m"), optional=True,
               placeholder="compact")  # fmt: skip
    yield Spec("uvi_at_30cm", UVI_WORDS, "number", PLAIN, limits=noun_limits(UvbLamp, "uvi_at_30cm"),
               optional=True, placeholder=f"{kind.uvi_at_30cm:g} as usual")  # fmt: skip
    yield Spec("on", "Runs", "choice", options=ON_WORDS)
    yield Spec("installed", "Installed on", "date", optional=True)
    yield Spec("beam_half_angle_deg", "Beam, half angle", "number", ANGLE, optional=True, rare=True,
               limits=noun_limits(UvbLamp, "beam_half_angle_deg"), placeholder=f"{kind.half_angle_deg:g}")  # fmt: skip


def _site(design: Design, catalogue: Catalogue, site: Site) -> Iterator[Spec]:
    box, ground_m = design.enclosure, design.substrate.depth_m
    yield Spec("role", "It is a", "choice", options=options_of(ROLE_WORDS))
    yield Spec("material", "Made of", "choice", options=options_of_table("site_materials", catalogue))
    yield Spec("x_m", "Middle from left", "slider", LENGTH, limits=(0.0, box.length_m))
    yield Spec("y_m", "Middle from front", "slider", LENGTH, limits=(0.0, box.depth_m))
    yield Spec("z_m", "Underside above ground", "number", LENGTH, limits=(0.0, box.height_m), ground_m=ground_m,
               optional=True, placeholder="lies on it")  # fmt: skip
    yield Spec("length_m", "Length", "number", LENGTH, limits=noun_limits(Site, "length_m"))
    yield Spec("depth_m", "Depth", "number", LENGTH, limits=noun_limits(Site, "depth_m"))
    yield Spec("thickness_mm", "Thickness", "number", THICKNESS, limits=noun_limits(Site, "thickness_mm"))
    yield Spec("dark", "Painted dark", "flag", options=[Option(NO, "no"), Option(YES, "yes")])


def _vent(design: Design, vent: Vent) -> Iterator[Spec]:
    yield Spec("face", "In the", "choice", options=options_of(FACE_WORDS))
    if vent.face not in ("top", "floor"):
        limits = (0.0, design.enclosure.height_m)
        yield Spec("z_m", "Middle above the floor", "slider", LENGTH, limits=limits)
    yield Spec("area_cm2", "Free area", "number", AREA, limits=noun_limits(Vent, "area_cm2"), optional=True,
               placeholder="by its holes")  # fmt: skip
    yield Spec("holes", "or round holes", "whole", optional=True, placeholder="none")
    yield Spec("hole_mm", "each across", "number", THICKNESS, limits=noun_limits(Vent, "hole_mm"), optional=True)
