"""The Heat page."""

from collections.abc import Sequence
from dataclasses import dataclass
from urllib.parse import urlencode

from markupsafe import Markup

from mitten.core.design import Design
from mitten.core.judge import Assessment, Condition, seasonal, solve_condition
from mitten.core.physics.climate import Climate
from mitten.draw import heat_sheet, legend
from mitten.store import Shelved
from mitten.web.edits import EditError
from mitten.web.views.parts import Chip, Option, PartPanel, addable, chips, first_part, panel_of
from mitten.web.views.place import PlaceView, place_view
from mitten.web.views.verdict import Fixes, Margin, Sure, margin


@dataclass(frozen=True)
class Tab:
    """One condition above the sheet."""

    name: str
    label: str
    room_c: float
    shown: bool
    missed: int


@dataclass(frozen=True)
class Failure:
    """One entry of the failures menu: a condition in which something has failed."""

    name: str
    label: str
    shown: bool


@dataclass(frozen=True)
class RoomField:
    """One typed field: what stands in it, and what is wrong with that."""

    value: str
    fault: str = ""


@dataclass(frozen=True)
class RoomPanel:
    """The room's four temperatures."""

    fields: dict[str, RoomField]
    fault: str


@dataclass(frozen=True)
class HeatView:
    """Everything the Heat page shows."""

    shelved: Shelved
    shown: Condition
    tabs: Sequence[Tab]
    failures: Sequence[Failure]
    drawing: Markup
    legend: Markup
    chips: Sequence[Chip]
    part: PartPanel | None
    addable: Sequence[tuple[str, Sequence[Option]]]
    add_fault: str
    regulates: bool
    place: PlaceView
    room: RoomPanel
    margin: Margin
    table: Sequence[tuple[str, str]]
    to_fix: int

    @property
    def path(self) -> str:
        """Address of the enclosure."""
        return f"/enclosures/{self.shelved.id}"

    @property
    def failure_words(self) -> str:
        """What has failed in the condition that is shown."""
        return next((failure.label for failure in self.failures if failure.shown), "")

    @property
    def query(self) -> str:
        """What the address carries on: the condition, and the part that is shown."""
        return "?" + urlencode({"condition": self.shown.name, "part": self.part.name if self.part else ""})


def heat_view(
    shelved: Shelved, assessment: Assessment, shown: Condition, part: str, error: EditError | None,
    sure: Sure | None, fixes: Fixes | None,
) -> HeatView:  # fmt: skip
    """The page of an enclosure under one condition, with an edit that was refused beside its field.

    ``part`` is the part in the inspector; ``sure`` are the intervals and ``fixes`` the mending changes, where they are
    known already.
    """
    design = shelved.design
    climate = assessment.climates.get(shown) or solve_condition(design, shown)
    chosen = panel_of(design, climate, part, _for(error, part))
    if chosen is None:
        part = first_part(design)
        chosen = panel_of(design, climate, part, _for(error, part))
    adding = _for(error, "add")
    return HeatView(
        shelved=shelved,
        shown=shown,
        tabs=[_tab(condition, shown, assessment) for condition in seasonal(design)],
        failures=_failures(design, shown),
        drawing=heat_sheet(climate, assessment.targets, shown.day),
        legend=legend(),
        chips=chips(design, climate, part),
        part=chosen,
        addable=addable(),
        add_fault=str(adding) if adding else "",
        regulates=part in climate.controls,
        place=place_view(climate),
        room=_room(design, _for(error, "room")),
        margin=margin(assessment, sure, fixes),
        table=_table(climate),
        to_fix=len(assessment.missed) + len(assessment.stops),
    )


def _for(error: EditError | None, form: str) -> EditError | None:
    return error if error is not None and error.form == form else None


def _tab(condition: Condition, shown: Condition, assessment: Assessment) -> Tab:
    missed = len(list(assessment.missed_in(condition.name)))
    return Tab(condition.name, condition.label, condition.room_c, condition == shown, missed)


def _failures(design: Design, shown: Condition) -> list[Failure]:
    """Every thermostat stuck on, and each source dead, at the time of the condition that is shown."""
    base = shown.name.partition("+")[0]
    found = []
    if any(control.is_thermostat for control in design.controls):
        found.append((f"{base}+stuck-on", "Every thermostat stuck on"))
    found += [(f"{base}+dead:{heater.name}", f"'{heater.name}' dead") for heater in design.heaters]
    return [Failure(name, label, name == shown.name) for name, label in found]


def _fields(values: dict[str, str], error: EditError | None) -> dict[str, RoomField]:
    """What is in force, or what was typed and refused, with its fault."""
    typed = error.typed if error else {}
    faults = error.sentences if error else {}
    return {key: RoomField(typed.get(key, value), faults.get(key, "")) for key, value in values.items()}


def _room(design: Design, error: EditError | None) -> RoomPanel:
    values = {
        f"{season}_{time}": f"{getattr(getattr(design.room, season), f'{time}_c'):g}"
        for season in ("winter", "summer")
        for time in ("day", "night")
    }
    return RoomPanel(_fields(values, error), error.sentences.get("", "") if error else "")


def _table(climate: Climate) -> list[tuple[str, str]]:
    """The drawing in words: the same figures as a table."""
    air = climate.air
    rows = [
        ("Warm side air", f"{air.warm_c:.1f} °C"),
        ("Middle air", f"{air.middle_c:.1f} °C"),
        ("Cool side air", f"{air.cool_c:.1f} °C"),
        ("Air under the top", f"{air.top_c:.1f} °C"),
        ("Hottest ground", f"{climate.floor.hottest()[0]:.1f} °C"),
        ("Coolest ground", f"{climate.floor.temperature_c.min():.1f} °C"),
        ("Bottom of the substrate, hottest", f"{climate.base_c:.1f} °C"),
        ("What the box stands on, hottest", f"{climate.shelf_c:.1f} °C"),
        ("Humidity, warm end and cool end", f"{climate.humidity.warm:.0%}, {climate.humidity.cool:.0%}"),
        ("Water evaporated", f"{climate.humidity.litres_a_week:.1f} l a week"),
    ]
    for name, site in climate.sites.items():
        rows.append((f"{name}, surface", f"{site.surface_c:.1f} °C"))
        rows.append((f"{name}, air above", f"{site.air_c:.1f} °C"))
        rows.append((f"{name}, irradiance", f"{site.irradiance_w_m2:.0f} W/m²"))
        rows.append((f"{name}, body there", f"{site.operative_c:.1f} °C"))
        if site.hide_air_c is not None:
            rows.append((f"{name}, air inside", f"{site.hide_air_c:.1f} °C"))
    for name, held in climate.controls.items():
        rows.append((f"{name}, probe", f"{held.probe_c:.1f} °C, {held.duty:.0%} of full power, {held.word}"))
    exchange_l_s = climate.state.exchange.total_m3_s * 1000
    rows.append(("Ventilation", f"{exchange_l_s:.1f} l/s, {climate.air_changes_per_hour:.0f} air changes an hour"))
    energy = climate.state.energy
    rows.append(("Energy in and out", f"{energy.in_w:.1f} W in, {energy.out_w:.1f} W out"))
    return rows
