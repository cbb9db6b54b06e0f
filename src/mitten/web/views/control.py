"""The Control sheet: the places for each probe side by side, which control suits which source, and the wiring."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.catalogue import Catalogue
from mitten.core.design import Control, Design
from mitten.core.design.amounts import plain
from mitten.core.design.units import TEMPERATURE, TEMPERATURE_STEP, Units
from mitten.core.plan.comparing_probes import ProbeTrial, reason_for, recommended
from mitten.core.plan.probe_places import probe_words
from mitten.draw.wiring import wiring


@dataclass(frozen=True)
class ControlSheet:
    """The thermostats by name, what is said of sources and their controls, and the wiring."""

    thermostats: Sequence[str]
    suits: Sequence[str]
    wiring: Markup


@dataclass(frozen=True)
class PlaceRow:
    """A place for the probe as a row; ``values`` are what a form sends to take it."""

    words: str
    here: bool
    best: bool
    setpoint: str
    range: str
    swing: str
    switchings: str
    fallen: str
    out: str
    fallen_harms: bool
    out_harms: bool
    moves: str
    values: Mapping[str, str]


@dataclass(frozen=True)
class PlacesView:
    """The rows of one thermostat, what they are for, and what is recommended."""

    name: str
    target: str
    rows: Sequence[PlaceRow]
    advice: str


def control_sheet(design: Design, catalogue: Catalogue, units: Units) -> ControlSheet:
    """What is there at once."""
    thermostats = [control for control in design.controls if control.is_thermostat]
    probes = {control.name: units.say(probe_words(design, catalogue, control)) for control in thermostats}
    return ControlSheet(
        [control.name for control in thermostats], list(_suits(design, catalogue)), wiring(design, probes)
    )


def _suits(design: Design, catalogue: Catalogue) -> Sequence[str]:
    return [
        f"'{heater.name}', {catalogue.sources[heater.kind].label}: "
        + _suit_words(catalogue, heater.kind, design.control_of(heater))
        for heater in design.heaters
    ]


def _suit_words(catalogue: Catalogue, key: str, control: Control | None) -> str:
    """Which control suits a kind of source and why, and whether it has that."""
    kind = catalogue.sources[key]
    if not kind.dims:
        return "it may be neither dimmed nor switched by a thermostat; choose its power and distance, and a timer."
    if kind.light:
        best, why = "dimming", "switched on and off it flickers and wears out, and the basking place swings"
    elif kind.family == "contact":
        best, why = "pulse", "on-off does as well: what lies over it is slow"
    else:
        best, why = "pulse", "it gives no light that would flicker, and holds steadier than on-off"
    if control is None or not control.is_thermostat:
        return f"a {best} thermostat suits it; {why}. It has none."
    has = "that is what it has" if control.kind == best else f"it has {control.kind}"
    return f"a {best} thermostat suits it; {why}; {has}."


def places_view(name: str, target_c: float, trials: Sequence[ProbeTrial], units: Units) -> PlacesView:
    """The rows of one thermostat."""
    best = recommended(list(trials))
    unit = units.unit_of(TEMPERATURE)
    advice = (
        "No power of its sources brings the basking place to its target on a winter day: see to the heat first."
        if best is None
        else units.say(reason_for(best))
    )
    rows = [_row(trial, trial is best, units) for trial in trials if trial.setpoint_c is not None]
    return PlacesView(name, f"{units.degrees(target_c)} {unit}", rows, advice)


def _row(trial: ProbeTrial, best: bool, units: Units) -> PlaceRow:
    unit, setpoint_c = units.unit_of(TEMPERATURE), trial.setpoint_c or 0.0
    low_c, high_c = sorted((trial.from_c, trial.to_c))
    return PlaceRow(
        words=units.say(trial.place.words),
        here=trial.is_here,
        best=best,
        setpoint=f"{units.degrees(setpoint_c)} {unit}",
        range=f"{units.degrees(low_c)} to {units.degrees(high_c)}",
        swing=f"{units.show(TEMPERATURE_STEP, trial.swing_k)} {units.unit_of(TEMPERATURE_STEP)}",
        switchings=f"{trial.switchings:.0f}" if trial.switchings >= 0.5 else "steady",
        fallen=units.degrees(trial.fallen_c),
        out=units.degrees(trial.out_c),
        fallen_harms=trial.fallen_harms,
        out_harms=trial.out_harms,
        moves=plain(trial.moves),
        values={
            "probe.where": trial.place.key, "day_c": units.show(TEMPERATURE, setpoint_c), "summer.day_c": "",
        },
    )  # fmt: skip
