"""What no computation can know: a short list that the keeper ticks for each enclosure."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design


@dataclass(frozen=True)
class CheckItem:
    """One thing to see to by hand, and why."""

    key: str
    words: str
    why: str


@dataclass(frozen=True)
class _Listed:
    item: CheckItem
    applies: Callable[[Design, Catalogue], bool]


def checklist_of(design: Design, catalogue: Catalogue) -> Iterator[CheckItem]:
    """The items that matter for a design."""
    return (listed.item for listed in LIST if listed.applies(design, catalogue))


def _always(_: Design, __: Catalogue) -> bool:
    return True


def _families(design: Design, catalogue: Catalogue) -> set[str]:
    return {catalogue.sources[heater.kind].family for heater in design.heaters}


def _has_lamp(design: Design, catalogue: Catalogue) -> bool:
    return "lamp" in _families(design, catalogue)


def _has_halogen(design: Design, catalogue: Catalogue) -> bool:
    return any(catalogue.sources[heater.kind].envelope == "quartz" for heater in design.heaters)


def _has_contact(design: Design, catalogue: Catalogue) -> bool:
    return "contact" in _families(design, catalogue)


def _has_thermostat(design: Design, _: Catalogue) -> bool:
    return any(control.is_thermostat for control in design.controls)


def _has_lid(design: Design, _: Catalogue) -> bool:
    return not design.enclosure.open_top


def _has_tube(design: Design, _: Catalogue) -> bool:
    return bool(design.uvb)


LIST: tuple[_Listed, ...] = (
    _Listed(CheckItem(
        "certified-gear", "Every heat source, fixture and thermostat carries a test mark and is undamaged.",
        "Unmarked gear may not bear what is printed on it."), _always),
    _Listed(CheckItem(
        "rcd", "The outlet has an RCD/GFCI, and its test button works.",
        "Electricity, heat and water are in one box."), _always),
    _Listed(CheckItem(
        "drip-loops", "Every lead hangs in a drip loop below its plug.",
        "Water that runs along a lead then drips off before it reaches the outlet."), _always),
    _Listed(CheckItem("smoke-alarm", "A smoke alarm is in the room and works.", "It wakes you."), _always),
    _Listed(CheckItem(
        "curtains", "No curtain, paper, bedding or shelf is near a lamp or dome.",
        "A dome's outside gets hot enough to char what touches it."), _has_lamp),
    _Listed(CheckItem(
        "hot-lamp", "A lamp is switched off and cold before it is taken down, and never laid on carpet.",
        "A lamp stays hot for minutes."), _has_lamp),
    _Listed(CheckItem(
        "grease", "The halogen's glass was not touched with bare fingers, or was wiped with spirit.",
        "Grease burns into the glass, which then cracks."), _has_halogen),
    _Listed(CheckItem(
        "leads-pinned", "Leads inside are pinned where the animal cannot pull or coil round them.",
        "A pulled lead moves the lamp or the probe."), _always),
    _Listed(CheckItem(
        "probe-pinned", "The probe is fixed where it is drawn, and cannot be moved or wetted.",
        "A probe that has fallen out reads the room, and the heat runs at full power."), _has_thermostat),
    _Listed(CheckItem(
        "one-box", "Each thermostat regulates this enclosure alone.",
        "Of several boxes on one probe, all but one are unregulated."), _has_thermostat),
    _Listed(CheckItem(
        "no-tape", "No adhesive tape is inside.", "It comes loose, and skin sticks to it."), _always),
    _Listed(CheckItem(
        "tight-holes", "Cable holes and doors are escape-tight.", "Where a head fits, the animal follows."), _always),
    _Listed(CheckItem(
        "flat-mat", "The mat lies flat, without a lifted edge or a fold.",
        "A lifted edge overheats, and a fold breaks the conductor."), _has_contact),
    _Listed(CheckItem(
        "free-leads", "No lead is crushed by the lid, a door or the box's foot.",
        "A crushed lead is a fire that waits."), _has_lid),
    _Listed(CheckItem(
        "second-thermometer", "A second thermometer beside the thermostat's own is inside; not only a stick-on one.",
        "A stick-on strip shows the glass, not the air."), _always),
    _Listed(CheckItem(
        "warm-before-reading", "Readings were taken hours after switching on, at two times of day.",
        "Stone and soil are not warm after an hour."), _always),
    _Listed(CheckItem(
        "winter-reading", "The winter is checked in winter: summer readings do not stand for it.",
        "The room decides more than the lamp."), _always),
    _Listed(CheckItem(
        "tube-age", "The UV lamp's date is written on it.", "It shines on when its UV has gone."), _has_tube),
)  # fmt: skip
