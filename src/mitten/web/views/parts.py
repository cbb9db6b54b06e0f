"""The inspector: every part as a chip, and the chosen one with its fields and facts."""

from collections.abc import Sequence
from dataclasses import dataclass

from mitten.core.catalogue import Catalogue
from mitten.core.design import Control, Design
from mitten.core.design.editing import data_of
from mitten.core.design.units import LENGTH, Units
from mitten.core.physics.reading.climate import Climate
from mitten.web.edits import LED, NEW_VENT, EditError, PartRef, parts_of
from mitten.web.edits.fields import Option
from mitten.web.edits.part_specs import ROLE_WORDS, part_specs
from mitten.web.edits.refs import noun_of, part_data
from mitten.web.views.facts import facts_of
from mitten.web.views.fields import Field, fields_of

FURNITURE = ("sites", "vents")
"""Collections that the Box & room sheet shows; the others are on the Heat sheet, sites on both."""


@dataclass(frozen=True)
class Chip:
    """A part in the row above the inspector."""

    ref: str
    name: str
    note: str
    shown: bool


@dataclass(frozen=True)
class PartPanel:
    """The inspector of one part."""

    ref: PartRef
    fields: Sequence[Field]
    facts: Sequence[tuple[str, str]]

    @property
    def rare(self) -> Sequence[Field]:
        """Fields that are seldom touched."""
        return [field for field in self.fields if field.rare]

    @property
    def common(self) -> Sequence[Field]:
        """The others."""
        return [field for field in self.fields if not field.rare]

    @property
    def can_align(self) -> bool:
        """Whether it can be put over the basking site."""
        return self.ref.collection in ("heaters", "uvb", "lights", "controls")

    @property
    def can_copy(self) -> bool:
        """Whether a second one of it makes sense."""
        return self.ref.collection != "controls"


def addable(sheet: str, catalogue: Catalogue) -> Sequence[Option]:
    """What can be added on a sheet, in groups."""
    sites = [Option(role, words, group="Furniture") for role, words in ROLE_WORDS.items()]
    openings = [Option(NEW_VENT, "vent", group="Openings")]
    if sheet == "box":
        return [*sites, *openings]
    heat = [Option(key, kind.label, group="Heat") for key, kind in catalogue.sources.items()]
    light = [Option(key, kind.label, group="Light and UV") for key, kind in catalogue.uvb.items()]
    return [*heat, *light, Option(LED, "plain light", group="Light and UV"), *sites, *openings]


def chips(design: Design, climate: Climate, shown: PartRef | None, sheet: str, units: Units) -> list[Chip]:
    """Every part that a sheet shows, by name."""
    refs = [ref for ref in parts_of(design) if sheet == "heat" or ref.collection in FURNITURE]
    return [Chip(str(ref), ref.name, _note(design, ref, climate, units), ref == shown) for ref in refs]


def _note(design: Design, ref: PartRef, climate: Climate, units: Units) -> str:
    part = noun_of(design, ref)
    if ref.collection == "heaters":
        return f"{climate.state.sources.watts_of(ref.name):.0f} W"
    if ref.collection == "controls":
        return _control_note(part, climate)
    if ref.collection == "sites":
        return f"{units.degrees(climate.site_surfaces_c[ref.name], 0)}°"
    if ref.collection == "vents":
        return str(part.face)
    return f"{part.watts:g} W"


def _control_note(control: Control, climate: Climate) -> str:
    held = climate.controls.get(control.name)
    return f"{held.duty:.0%}" if held else ("off" if control.is_thermostat else control.kind)


def panel_of(design: Design, climate: Climate, ref: PartRef, units: Units, error: EditError | None) -> PartPanel:
    """The inspector of a part, with an edit that was refused beside its fields."""
    typed_kind = error.typed.get("kind") if error else None
    specs = part_specs(design, climate.catalogue, ref, typed_kind)
    fields = fields_of(part_data(data_of(design), ref), specs, units, error)
    return PartPanel(ref, fields, facts_of(design, ref, climate, units))


def step_words(units: Units) -> str:
    """How far an arrow key moves a part."""
    return f"{units.say_with_unit(LENGTH, 0.01)}, with Shift {units.say_with_unit(LENGTH, 0.05)}"
