"""The shopping list and the build sheet: a design's parts, ratings, prices, and how they go together."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.catalogue import Catalogue
from mitten.core.design import Control, Design, Site
from mitten.core.design.units import LENGTH, TEMPERATURE, Units
from mitten.core.judge import Assessment
from mitten.core.physics.running import clock_of
from mitten.core.physics.transient.regulation import DAY_MIN
from mitten.core.plan.cost import kwh_a_year
from mitten.core.plan.mains import load_of_control_w
from mitten.core.plan.probe_places import place_of, probe_words
from mitten.core.plan.shopping import YEARS, CostOver, Item, cost_over, shopping_list
from mitten.core.plan.year.changes import timer_min
from mitten.draw import heat_sheet
from mitten.reports import csv_of
from mitten.store import Shelved
from mitten.web.views.control_words import setpoint_words
from mitten.web.views.day import clock_words

WHAT_WORDS = {"source": "Sources", "fixture": "Fixtures", "control": "Controls", "spare": "Spares"}
CAUTIONS = (
    "Use certified gear within its ratings, an RCD/GFCI outlet, drip loops and a smoke alarm.",
    "Follow local electrical codes; a licensed electrician does fixed wiring.",
    "Computed, not measured: no animal goes in before measured readings agree; a veterinarian decides on health.",
)


@dataclass(frozen=True)
class ShoppingView:
    """The list by what things are, and what years cost."""

    shelved: Shelved
    groups: Sequence[tuple[str, Sequence[Item]]]
    costs: Sequence[CostOver]
    total: float
    kwh_year: float
    by_months: bool
    currency: str
    faults: Mapping[str, str]

    @property
    def path(self) -> str:
        """Address of the enclosure."""
        return f"/enclosures/{self.shelved.id}"


def shopping_view(
    shelved: Shelved, assessment: Assessment, own: Mapping[str, float], faults: Mapping[str, str],
    kwh_year: float | None = None,
) -> ShoppingView:  # fmt: skip
    """The shopping list of an enclosure with the keeper's own prices; ``kwh_year`` is the energy of its twelve months,
    where they were worked out.
    """
    items = shopping_list(shelved.design, assessment.catalogue, own)
    groups = [(words, [item for item in items if item.what == what]) for what, words in WHAT_WORDS.items()]
    return ShoppingView(
        shelved, [(words, of_it) for words, of_it in groups if of_it],
        [cost_over(assessment, items, years, kwh_year) for years in YEARS], sum(item.total for item in items),
        kwh_a_year(assessment) if kwh_year is None else kwh_year, kwh_year is not None,
        shelved.design.room.currency or "", faults,
    )  # fmt: skip


def shopping_csv(design: Design, catalogue: Catalogue, own: Mapping[str, float], units: Units) -> str:
    """The list as RFC 4180 text; what a spreadsheet would take for a formula is kept from being one."""
    rows: list[list[str | float]] = [
        [
            item.what, units.say(item.words), item.count, f"{item.price:.2f}", f"{item.total:.2f}",
            "placeholder" if item.placeholder else "own",
            "" if item.life_years is None else f"{item.life_years:.1f}",
        ]
        for item in shopping_list(design, catalogue, own)
    ]  # fmt: skip
    return csv_of([["what", "description", "count", "price each", "price", "price is", "serves, years"], *rows])


@dataclass(frozen=True)
class SheetRow:
    """A part of the build sheet: its name, what it is, and where it goes."""

    name: str
    what: str
    where: str


@dataclass(frozen=True)
class BuildSheet:
    """One printed page of a design."""

    shelved: Shelved
    drawing: Markup
    size: str
    parts: Sequence[SheetRow]
    wiring: Sequence[str]
    setpoints: Sequence[str]
    timers: str
    points: Sequence[tuple[str, str]]
    findings: Sequence[tuple[str, str]]
    cautions: Sequence[str]
    headline: str
    animal: str

    @property
    def path(self) -> str:
        """Address of the enclosure."""
        return f"/enclosures/{self.shelved.id}"


def build_sheet(shelved: Shelved, assessment: Assessment, units: Units) -> BuildSheet:
    """The build sheet of an enclosure."""
    design, box = shelved.design, shelved.design.enclosure
    sides = " × ".join(units.show(LENGTH, side) for side in (box.length_m, box.depth_m, box.height_m))
    species = assessment.catalogue.species[design.animal.species]
    findings = [(one.severity, units.say(f"{one.title} ({one.number}).")) for one in assessment.findings]
    return BuildSheet(
        shelved=shelved, drawing=heat_sheet(assessment.climate("winter-day"), assessment.targets, units),
        size=f"{sides} {units.unit_of(LENGTH)} inside", parts=[*_parts(design, assessment.catalogue, units)],
        wiring=[*(_wire(design, control) for control in design.controls), *_lines_without_control(design)],
        setpoints=[_setpoint(design, assessment.catalogue, one, units) for one in design.controls if one.is_thermostat]
        + _by_hand(design),
        timers=_timers(design), points=_points(assessment, units),
        findings=[one for one in findings if one[0] != "note"][:MOST_FINDINGS], cautions=CAUTIONS,
        headline=units.say(assessment.headline), animal=f"{species.label}, {design.animal.stage}",
    )  # fmt: skip


MOST_FINDINGS = 4
OUTLET = "Outlet (RCD/GFCI)"
THROUGH = {"day": "timer → ", "night": "timer for the night → ", "always": ""}
"""What switches a source that nothing regulates, by when it runs."""


def _parts(design: Design, catalogue: Catalogue, units: Units) -> list[SheetRow]:
    rows = []
    for heater in design.heaters:
        kind = catalogue.sources[heater.kind]
        fixture = f", {catalogue.fixtures[heater.fixture.kind].label}" if kind.needs_fixture else ""
        rating = f" rated {heater.fixture.max_watts:g} W" if kind.needs_fixture and heater.fixture.max_watts else ""
        z_m = heater.z_m if kind.family == "lamp" else None
        words = f"{kind.label}, {heater.watts:g} W{fixture}{rating}"
        rows.append(SheetRow(heater.name, words, _place(units, heater.x_m, heater.y_m, z_m)))
    for lamp in design.uvb:
        words = f"{catalogue.uvb[lamp.lamp].label}, {lamp.watts:g} W"
        rows.append(SheetRow(lamp.name, words, _place(units, lamp.x_m, lamp.y_m, lamp.z_m)))
    rows += [
        SheetRow(light.name, f"plain light, {light.watts:g} W", _place(units, light.x_m, light.y_m, light.z_m))
        for light in design.lights
    ]
    return rows + [
        SheetRow(site.name, _site_words(site, catalogue), _place(units, site.x_m, site.y_m, None))
        for site in design.sites
    ]


def _site_words(site: Site, catalogue: Catalogue) -> str:
    return f"{site.role.replace('-', ' ')}, {catalogue.site_materials[site.material].label}"


def _place(units: Units, x_m: float, y_m: float, z_m: float | None) -> str:
    """Measures from the left, the front and the floor panel."""
    said = [f"{units.show(LENGTH, x_m)} from left", f"{units.show(LENGTH, y_m)} from front"]
    if z_m is not None:
        said.append(f"{units.show(LENGTH, z_m)} above the floor")
    return ", ".join(said) + f" ({units.unit_of(LENGTH)})"


def _wire(design: Design, control: Control) -> str:
    heaters = design.heaters_of(control)
    names = ", ".join(heater.name for heater in heaters)
    rating = f", rated {control.max_watts:g} W" if control.max_watts else ""
    cut_out = "" if control.cut_out_c is None else "cut-out (a second thermostat, its own probe beside the first) → "
    load = f"{load_of_control_w(design, control):g} W"
    timer = "timer → " if design.goes_by_the_clock(control) and control.kind != "timer" else ""
    return f"{OUTLET} → {timer}{cut_out}{control.name} ({control.kind}{rating}) → {names} ({load})"


def _lines_without_control(design: Design) -> Iterator[str]:
    """What runs by day, by night and always, each on a line of its own; plain lights are lit by day."""
    regulated = {heater.name for heater in design.heaters if heater.control is not None}
    left = [part for part in design.powered if part.name not in regulated]
    for on, through in THROUGH.items():
        names = [part.name for part in left if getattr(part, "on", "day") == on]
        if names:
            yield f"{OUTLET} → {through}{', '.join(names)}"


def _setpoint(design: Design, catalogue: Catalogue, control: Control, units: Units) -> str:
    probe = control.probe
    where = _place(units, probe.x_m, probe.y_m, probe.z_m) if probe else ""
    shaded = ", shaded" if probe and probe.shaded else ""
    named = place_of(design, catalogue, control)
    reads = (
        "in the air"
        if named is None and probe and probe.reads == "air"
        else units.say(probe_words(design, catalogue, control))
    )
    return f"{control.name}: {setpoint_words(control, units)}. Its probe is {reads}: {where}{shaded}."


def _by_hand(design: Design) -> list[str]:
    """What is held back by a dimmer that a hand sets."""
    return [
        f"{heater.name}: dimmed by hand to {heater.dim:.0%} of full power."
        for heater in design.heaters
        if heater.dim < 1.0
    ]


def _timers(design: Design) -> str:
    if design.schedule is None:
        return f"Lights {design.day_hours:g} h a day."
    if design.schedule.day_length == "fixed":
        return f"Lights on at {design.schedule.day_start} for {design.schedule.day_hours:g} h."
    winter, summer = (_hours_words(design, design.day_hours_in(at)) for at in (0.0, 1.0))
    return f"Lights on {winter} in the middle of winter, {summer} in that of summer: Year says when to move the timer."


def _hours_words(design: Design, hours: float) -> str:
    """When lights come on and for how long, in the steps in which timers are set."""
    clock = clock_of(design, hours)
    on_min, off_min = (timer_min(minute) for minute in (clock.day_from_min, clock.day_from_min + clock.day_min))
    return f"at {clock_words(on_min)} for {(off_min - on_min) % DAY_MIN / 60:g} h"


def _points(assessment: Assessment, units: Units) -> list[tuple[str, str]]:
    """Where to measure, and what is computed there on a winter and on a summer day."""
    winter, summer = assessment.climate("winter-day"), assessment.climate("summer-day")
    site = assessment.design.basking_site
    spot = f"Surface of '{site.name}'" if site else "Warmest ground"
    rows = [
        (spot, winter.basking.surface_c, summer.basking.surface_c),
        ("Air over it", winter.basking.air_c, summer.basking.air_c),
        ("Air, middle", winter.air.middle_c, summer.air.middle_c),
        ("Air, cool end", winter.air.cool_c, summer.air.cool_c),
    ]
    unit = units.unit_of(TEMPERATURE)
    return [(name, f"{units.degrees(a)} to {units.degrees(b)} {unit}" if a <= b else
             f"{units.degrees(b)} to {units.degrees(a)} {unit}") for name, a, b in rows]  # fmt: skip
