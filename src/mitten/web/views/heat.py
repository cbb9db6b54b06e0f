"""The Heat page."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.catalogue import load_catalogue
from mitten.core.design import Design, Heater
from mitten.core.judge import Assessment, Condition, fixture_rating_w, seasonal, solve_condition
from mitten.core.physics.climate import Climate
from mitten.draw import heat_sheet, legend
from mitten.store import Shelved
from mitten.web.edits import EditError, height_limits_cm
from mitten.web.views.verdict import Margin, margin


@dataclass(frozen=True)
class Tab:
    """One condition above the sheet."""

    name: str
    label: str
    room_c: float
    shown: bool
    missed: int


@dataclass(frozen=True)
class Option:
    """One entry of a select."""

    value: str
    label: str


@dataclass(frozen=True)
class Field:
    """One typed field: what stands in it, and what is wrong with that."""

    value: str
    fault: str = ""


@dataclass(frozen=True)
class HeaterPanel:
    """The inspector of one heater."""

    name: str
    fields: dict[str, Field]
    fault: str
    kinds: Sequence[Option]
    watts_sold: Sequence[Option]
    has_mesh: bool
    x_limits_cm: tuple[float, float]
    height_limits_cm: tuple[float, float]
    facts: Sequence[tuple[str, str]]


@dataclass(frozen=True)
class RoomPanel:
    """The room's four temperatures."""

    fields: dict[str, Field]
    fault: str


@dataclass(frozen=True)
class HeatView:
    """Everything the Heat page shows."""

    shelved: Shelved
    shown: Condition
    tabs: Sequence[Tab]
    drawing: Markup
    legend: Markup
    heaters: Sequence[HeaterPanel]
    room: RoomPanel
    margin: Margin
    table: Sequence[tuple[str, str]]
    to_fix: int

    @property
    def path(self) -> str:
        """Address of the enclosure."""
        return f"/enclosures/{self.shelved.id}"


def heat_view(shelved: Shelved, assessment: Assessment, shown: Condition, error: EditError | None) -> HeatView:
    """The page of an enclosure under one condition, with an edit that was refused beside its field."""
    design = shelved.design
    climate = assessment.climates.get(shown) or solve_condition(design, shown)
    return HeatView(
        shelved=shelved,
        shown=shown,
        tabs=[_tab(condition, shown, assessment) for condition in seasonal(design)],
        drawing=heat_sheet(climate, assessment.targets, shown.day),
        legend=legend(),
        heaters=[_heater(design, heater, climate, _for(error, heater.name)) for heater in design.heaters],
        room=_room(design, _for(error, "room")),
        margin=margin(assessment),
        table=_table(climate),
        to_fix=len(assessment.missed) + len(assessment.stops),
    )


def _for(error: EditError | None, form: str) -> EditError | None:
    return error if error is not None and error.form == form else None


def _tab(condition: Condition, shown: Condition, assessment: Assessment) -> Tab:
    missed = len(list(assessment.missed_in(condition.name)))
    return Tab(condition.name, condition.label, condition.room_c, condition == shown, missed)


def _fields(values: dict[str, str], error: EditError | None) -> dict[str, Field]:
    """What is in force, or what was typed and refused, with its fault."""
    typed = error.typed if error else {}
    faults = error.sentences if error else {}
    return {key: Field(typed.get(key, value), faults.get(key, "")) for key, value in values.items()}


def _heater(design: Design, heater: Heater, climate: Climate, error: EditError | None) -> HeaterPanel:
    catalogue = load_catalogue()
    fields = _fields(
        {
            "kind": heater.kind,
            "watts": f"{heater.watts:g}",
            "x_cm": f"{heater.x_m * 100:.4g}",
            "height_cm": f"{(heater.z_m - design.substrate.depth_m) * 100:.4g}",
            "place": "above" if heater.above_mesh else "inside",
            "on": heater.on,
        },
        error,
    )
    kind = catalogue.sources.get(fields["kind"].value, catalogue.sources[heater.kind])
    return HeaterPanel(
        name=heater.name,
        fields=fields,
        fault=error.sentences.get("", "") if error else "",
        kinds=[Option(key, lamp.label) for key, lamp in catalogue.sources.items()],
        watts_sold=_watts(kind.watts_sold, fields["watts"].value),
        has_mesh=design.enclosure.lid_mesh is not None or design.enclosure.open_top,
        x_limits_cm=(0.0, design.enclosure.length_m * 100),
        height_limits_cm=height_limits_cm(design, heater.above_mesh),
        facts=_facts(heater, climate),
    )


def _watts(sold: Sequence[float], chosen: str) -> list[Option]:
    options = [Option(f"{watts:g}", f"{watts:g} W") for watts in sold]
    if chosen not in {option.value for option in options}:
        options.insert(0, Option(chosen, f"{chosen} W, not a usual size"))
    return options


def _facts(heater: Heater, climate: Climate) -> list[tuple[str, str]]:
    catalogue = load_catalogue()
    fixture = catalogue.fixtures[heater.fixture.kind]
    rating = fixture_rating_w(heater.fixture, catalogue)
    known = "" if heater.fixture.max_watts else ", assumed"
    facts = [("Fixture", f"{fixture.label}, {rating:g} W{known}")]
    hottest = climate.heaters[heater.name].hottest
    if hottest is not None:
        facts.append((f"Hottest: {hottest.what}", f"{hottest.celsius:.0f} °C"))
    return facts


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
    ]
    for name, site in climate.sites.items():
        rows.append((f"{name}, surface", f"{site.surface_c:.1f} °C"))
        rows.append((f"{name}, air above", f"{site.air_c:.1f} °C"))
        rows.append((f"{name}, irradiance", f"{site.irradiance_w_m2:.0f} W/m²"))
    exchange_l_s = climate.state.exchange.total_m3_s * 1000
    rows.append(("Ventilation", f"{exchange_l_s:.1f} l/s, {climate.air_changes_per_hour:.0f} air changes an hour"))
    energy = climate.state.energy
    rows.append(("Energy in and out", f"{energy.in_w:.1f} W in, {energy.out_w:.1f} W out"))
    return rows
