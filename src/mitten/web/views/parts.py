"""The inspector: the chosen part - heater, control, light or UV lamp - as fields and facts."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from mitten.core.catalogue import SourceKind, Targets, load_catalogue
from mitten.core.design import Control, Design, Heater, Light, UvbLamp
from mitten.core.judge import fixture_rating_w
from mitten.core.physics.climate import Climate
from mitten.core.physics.solving import setpoint_for
from mitten.web.edits import LED, NEW_CONTROL, Collection, EditError, height_limits_cm

FieldKind = Literal["select", "number", "slider"]


@dataclass(frozen=True)
class Option:
    """One entry of a select."""

    value: str
    label: str
    allowed: bool = True


@dataclass(frozen=True)
class Field:
    """One field: what stands in it, and what is wrong with that. ``limits`` are a slider's ends."""

    key: str
    label: str
    kind: FieldKind
    value: str
    unit: str = ""
    options: Sequence[Option] = ()
    limits: tuple[float, float] = (0.0, 0.0)
    fault: str = ""
    rare: bool = False


@dataclass(frozen=True)
class Chip:
    """A part in the row above the inspector."""

    name: str
    shown: bool
    note: str


@dataclass(frozen=True)
class PartPanel:
    """The inspector of one part."""

    name: str
    collection: Collection
    fields: Sequence[Field]
    facts: Sequence[tuple[str, str]]
    fault: str
    previews: bool

    @property
    def action(self) -> str:
        """The last of the address that its form goes to."""
        return "lights" if self.collection in ("uvb", "lights") else self.collection

    @property
    def rare(self) -> Sequence[Field]:
        """Fields that are seldom touched."""
        return [field for field in self.fields if field.rare]

    @property
    def common(self) -> Sequence[Field]:
        """The others."""
        return [field for field in self.fields if not field.rare]


def addable() -> Sequence[tuple[str, Sequence[Option]]]:
    """What can be added, in groups."""
    catalogue = load_catalogue()
    heat = [Option(key, kind.label) for key, kind in catalogue.sources.items()]
    light = [Option(key, kind.label) for key, kind in catalogue.uvb.items()]
    return [("Heat", heat), ("Light and UV", [*light, Option(LED, "plain light")])]


def chips(design: Design, climate: Climate, shown: str) -> list[Chip]:
    """Every part by name."""
    found = [(heater.name, f"{climate.state.sources.watts_of(heater.name):.0f} W") for heater in design.heaters]
    found += [(control.name, _control_note(control, climate)) for control in design.controls]
    found += [(part.name, f"{part.watts:g} W") for part in (*_uvb(design), *_lights(design))]
    return [Chip(name, name == shown, note) for name, note in found]


def _uvb(design: Design) -> tuple[UvbLamp | Light, ...]:
    return design.uvb


def _lights(design: Design) -> tuple[UvbLamp | Light, ...]:
    return design.lights


def _control_note(control: Control, climate: Climate) -> str:
    held = climate.controls.get(control.name)
    return f"{held.duty:.0%}" if held else ("off" if control.is_thermostat else control.kind)


def first_part(design: Design) -> str:
    """The part that is shown when none is asked for."""
    parts = (*design.heaters, *design.controls, *_uvb(design), *_lights(design))
    return parts[0].name if parts else ""


def panel_of(design: Design, climate: Climate, name: str, error: EditError | None) -> PartPanel | None:
    """The inspector of the part of that name."""
    for heater in design.heaters:
        if heater.name == name:
            facts = _heater_facts(heater, climate)
            return _panel(name, "heaters", _heater_fields(design, heater, error), facts, error, previews=True)
    for control in design.controls:
        if control.name == name:
            return _panel(name, "controls", _control_fields(design, control), _control_facts(control, climate), error)
    for lamp in design.uvb:
        if lamp.name == name:
            return _panel(name, "uvb", [*_light_fields(design, lamp), *_uv_fields(design, lamp)], [], error)
    for light in design.lights:
        if light.name == name:
            return _panel(name, "lights", list(_light_fields(design, light)), [], error)
    return None


def _panel(
    name: str, collection: Collection, fields: Sequence[Field], facts: Sequence[tuple[str, str]],
    error: EditError | None, previews: bool = False,
) -> PartPanel:  # fmt: skip
    """Fields with what is in force, or with what was typed and refused, and its fault."""
    typed: Mapping[str, str] = error.typed if error else {}
    faults: Mapping[str, str] = error.sentences if error else {}
    filled = [
        Field(
            field.key, field.label, field.kind, typed.get(field.key, field.value), field.unit,
            _with_typed(field, typed), field.limits, faults.get(field.key, ""),
            field.rare and field.key not in faults,
        )
        for field in fields
    ]  # fmt: skip
    known = {field.key for field in fields}
    loose = " ".join(sentence for key, sentence in faults.items() if key not in known)
    return PartPanel(name, collection, filled, facts, loose, previews)


def _with_typed(field: Field, typed: Mapping[str, str]) -> Sequence[Option]:
    """A select's options, with what was typed among them even if it is none of them."""
    value = typed.get(field.key, field.value)
    if field.kind != "select" or value in {option.value for option in field.options}:
        return field.options
    return [Option(value, value), *field.options]


def _cm(metres: float) -> str:
    return f"{metres * 100:.4g}"


def _heater_fields(design: Design, heater: Heater, error: EditError | None) -> list[Field]:
    catalogue = load_catalogue()
    kind = catalogue.sources[heater.kind]
    chosen = catalogue.sources.get((error.typed if error else {}).get("kind", heater.kind), kind)
    box, ground_m = design.enclosure, design.substrate.depth_m
    kinds = [Option(key, source.label) for key, source in catalogue.sources.items()]
    fields = [
        Field("kind", "Source", "select", heater.kind, options=kinds),
        Field("watts", "Power", "select", f"{heater.watts:g}", options=_watts(chosen.watts_sold, f"{heater.watts:g}")),
        Field("x_cm", "From left", "slider", _cm(heater.x_m), "cm", limits=(0, box.length_m * 100)),
    ]
    if kind.family == "lamp":
        limits = height_limits_cm(design, heater.above_mesh)
        fields.append(Field("height_cm", "Above ground", "slider", _cm(heater.z_m - ground_m), "cm", limits=limits))
    fields += _place_fields(design, heater, kind)
    fields += [
        Field("on", "Runs", "select", heater.on, options=[
            Option("day", "by day"), Option("night", "by night"), Option("always", "day and night")]),
        Field("control", "Regulated", "select", heater.control or "", options=[
            Option("", "by nothing"), *(Option(c.name, f"by {c.name}") for c in design.controls),
            Option(NEW_CONTROL, "by a new thermostat")]),
        Field("y_cm", "From front", "number", _cm(heater.y_m), "cm", rare=True),
    ]  # fmt: skip
    if kind.family == "lamp":
        fields.append(Field("tilt_deg", "Tilt to the right", "number", f"{heater.tilt_deg:g}", "°", rare=True))
    fields.append(Field("dim_percent", "Dimmed by hand to", "number", f"{heater.dim * 100:g}", "%", rare=True))
    return fields


PLACE_WORDS = {
    "air": "in the air", "ceiling": "on the ceiling", "under-floor": "under the floor", "on-floor": "on the floor",
    "wall": "on the nearest wall", "hide-roof": "under a slab",
}  # fmt: skip


def _place_fields(design: Design, heater: Heater, kind: SourceKind) -> Iterator[Field]:
    if kind.family == "lamp":
        yield _hanging_field(design, heater)
    if kind.family == "contact":
        options = [Option(place, PLACE_WORDS[place]) for place in kind.places]
        yield Field("place", "Lies", "select", kind.place_of(heater), options=options)
    if kind.family == "rock" or kind.place_of(heater) == "hide-roof":
        yield _site_field(design, heater)
    if kind.has_area:
        for key, label, size_m in (("length_cm", "Length", heater.length_m), ("depth_cm", "Depth", heater.depth_m)):
            yield Field(key, label, "number", _cm(size_m or 0.0), "cm")
    if kind.place_of(heater) == "wall":
        height_m = heater.z_m - design.substrate.depth_m
        yield Field("height_cm", "Middle above ground", "number", _cm(height_m), "cm")


def _site_field(design: Design, heater: Heater) -> Field:
    options = [Option(site.name, site.name) for site in design.sites]
    return Field("site", "Warms", "select", heater.site or "choose", options=options)


def _hanging_field(design: Design, heater: Heater) -> Field:
    """Inside, or above the mesh where there is one."""
    box = design.enclosure
    words = (
        "above the open top" if box.open_top else "above the mesh" if box.lid_mesh else "above the mesh (no mesh lid)"
    )
    above = Option("above", words, box.open_top or box.lid_mesh is not None)
    value = "above" if heater.above_mesh else "inside"
    return Field("place", "Hangs", "select", value, options=[Option("inside", "inside"), above])


def _watts(sold: Sequence[float], chosen: str) -> list[Option]:
    options = [Option(f"{watts:g}", f"{watts:g} W") for watts in sold]
    if chosen not in {option.value for option in options}:
        options.insert(0, Option(chosen, f"{chosen} W, not a usual size"))
    return options


def _heater_facts(heater: Heater, climate: Climate) -> list[tuple[str, str]]:
    catalogue = load_catalogue()
    now = climate.heaters[heater.name]
    facts = []
    if catalogue.sources[heater.kind].needs_fixture:
        rating = fixture_rating_w(heater.fixture, catalogue)
        known = "" if heater.fixture.max_watts else ", assumed"
        facts.append(("Fixture", f"{catalogue.fixtures[heater.fixture.kind].label}, {rating:g} W{known}"))
    facts.append(("Gives now", f"{now.watts:.1f} W" if now.watts > 0 else "nothing"))
    if now.hottest is not None:
        facts.append((f"Its {now.hottest.what}", f"{now.hottest.celsius:.0f} °C"))
    return facts


CONTROL_WORDS = {
    "on-off": "on-off thermostat", "pulse": "pulse thermostat", "dimming": "dimming thermostat",
    "dimmer": "dimmer, by hand", "timer": "timer",
}  # fmt: skip
READS_WORDS = {
    "air": "the air", "surface": "a surface", "heater": "the heater itself",
    "base": "under the substrate", "hide": "inside the hide",
}  # fmt: skip


def _control_fields(design: Design, control: Control) -> list[Field]:
    kinds = [Option(key, label) for key, label in CONTROL_WORDS.items()]
    fields = [Field("kind", "Kind", "select", control.kind, options=kinds)]
    probe = control.probe
    if not control.is_thermostat or probe is None:
        return fields
    hides = any(site.role.endswith("hide") for site in design.sites)
    reads = [Option(key, label, key != "hide" or hides) for key, label in READS_WORDS.items()]
    height_m = probe.z_m - design.substrate.depth_m
    return [
        *fields,
        Field("day_c", "By day", "number", _setpoint(control.day_c), "°C"),
        Field("night_c", "By night", "number", _setpoint(control.night_c), "°C"),
        Field("reads", "Probe reads", "select", probe.reads, options=reads),
        Field("x_cm", "From left", "number", _cm(probe.x_m), "cm"),
        Field("y_cm", "From front", "number", _cm(probe.y_m), "cm"),
        Field("height_cm", "Above ground", "number", _cm(height_m), "cm"),
        Field("shaded", "In the beam", "select", "yes" if probe.shaded else "no", options=[
            Option("yes", "shaded"), Option("no", "unshaded")]),
    ]  # fmt: skip


def _setpoint(celsius: float | None) -> str:
    return "" if celsius is None else f"{celsius:g}"


def _control_facts(control: Control, climate: Climate) -> list[tuple[str, str]]:
    held = climate.controls.get(control.name)
    if held is None:
        return [("Now", "off: no setpoint" if control.is_thermostat else "at full power")]
    return [
        ("Probe reads", f"{held.probe_c:.1f} °C"),
        ("Gives", f"{held.duty:.0%} of full power"),
        ("", held.word),
    ]


def setpoint_sentence(climate: Climate, control: str, targets: Targets) -> str:
    """What a thermostat is to be set to, so that the basking surface comes to the middle of what is wanted."""
    target_c = sum(targets.basking_surface_c) / 2
    found = setpoint_for(climate, control, lambda now: now.basking.surface_c, target_c)
    site = climate.design.basking_site
    where = f"'{site.name}'" if site else "the warmest ground"
    if found is None:
        return "It regulates nothing now."
    if found.word == "regulates":
        return f"For {target_c:.1f} °C on {where}, set it to {found.probe_c:.1f} °C."
    if found.word == "cannot reach":
        return f"No setpoint brings {where} to {target_c:.1f} °C: full power is too little."
    return f"No setpoint brings {where} down to {target_c:.1f} °C."


def _light_fields(design: Design, light: Light | UvbLamp) -> Iterator[Field]:
    ground_m = design.substrate.depth_m
    yield Field("watts", "Power", "number", f"{light.watts:g}", "W")
    yield Field("x_cm", "From left", "number", _cm(light.x_m), "cm")
    yield Field("y_cm", "From front", "number", _cm(light.y_m), "cm")
    yield Field("height_cm", "Above ground", "number", _cm(light.z_m - ground_m), "cm")


def _uv_fields(design: Design, lamp: UvbLamp) -> Iterator[Field]:
    usual = load_catalogue().uvb[lamp.lamp].uvi_at_30cm
    reading = usual if lamp.uvi_at_30cm is None else lamp.uvi_at_30cm
    yield Field("uvi_at_30cm", "UV index at 30 cm", "number", f"{reading:g}")
    if lamp.length_m is not None:
        yield Field("length_cm", "Length", "number", _cm(lamp.length_m), "cm")
