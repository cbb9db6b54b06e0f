"""The Control sheet: the places for each probe side by side, which control suits which source, and the wiring."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.catalogue import Catalogue, with_article
from mitten.core.design import Control, Design, Heater
from mitten.core.design.amounts import plain
from mitten.core.design.units import TEMPERATURE, TEMPERATURE_STEP, Units
from mitten.core.judge.finding import Finding
from mitten.core.plan.aiming import Aim
from mitten.core.plan.comparing_probes import ProbeTrial, reason_for, recommended
from mitten.core.plan.probe_places import probe_words
from mitten.core.plan.usual import usual_control
from mitten.draw.wiring import wiring


@dataclass(frozen=True)
class ControlSheet:
    """The thermostats by name, what is said of sources and their controls, and the wiring."""

    thermostats: Sequence[str]
    suits: Sequence[str]
    wiring: Markup
    asked_for: Sequence[str] = ()
    """What the rule book says of sources that need a thermostat and have none."""


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
    against: str
    values: Mapping[str, str]


@dataclass(frozen=True)
class PlacesView:
    """The rows of one thermostat, what they are for, and what is recommended."""

    name: str
    target: str
    aim: str
    rows: Sequence[PlaceRow]
    advice: str


def control_sheet(design: Design, catalogue: Catalogue, units: Units, findings: Sequence[Finding] = ()) -> ControlSheet:
    """What is there at once."""
    thermostats = [control for control in design.controls if control.is_thermostat]
    probes = {control.name: units.say(probe_words(design, catalogue, control)) for control in thermostats}
    return ControlSheet(
        [control.name for control in thermostats],
        list(_suits(design, catalogue)),
        wiring(design, probes),
        [units.say(one.title) for one in findings if one.rule == "needs-a-thermostat"],
    )


def _suits(design: Design, catalogue: Catalogue) -> Sequence[str]:
    return [
        f"'{heater.name}', {catalogue.sources[heater.kind].label}: "
        + _suit_words(catalogue, heater, _load_w(design, heater), design.control_of(heater))
        for heater in design.heaters
    ]


def _load_w(design: Design, heater: Heater) -> float:
    """What a control would hold with a source: all that it holds now."""
    control = design.control_of(heater)
    return heater.watts if control is None else sum(one.watts for one in design.heaters_of(control))


def _suit_words(catalogue: Catalogue, heater: Heater, load_w: float, control: Control | None) -> str:
    """Which control suits a source and why, and whether it has that: the one that plans and new sources get."""
    kind = catalogue.sources[heater.kind]
    if not kind.dims:
        return "it may be neither dimmed nor switched by a thermostat; choose its power and distance, and a timer."
    best = catalogue.controls[usual_control(kind, load_w, catalogue)].kind
    switched = "switched on and off it flickers and wears out" if kind.light else "switched on and off it cools between"
    why = {
        "dimming": f"{switched}, and the basking place swings",
        "pulse": "it gives no light that would flicker, and holds steadier than on-off",
        "on-off": "what lies over it is slow, so that switching it does no harm",
    }[best]
    if control is None or not control.is_thermostat:
        return f"a {best} thermostat suits it; {why}. It has none."
    has = "that is what it has" if control.kind == best else f"it has {control.kind}"
    return f"{with_article(best)} thermostat suits it; {why}; {has}."


def places_view(
    name: str, aim: Aim | None, trials: Sequence[ProbeTrial], units: Units
) -> PlacesView:  # fmt: skip
    """The rows of one thermostat: those to which the rule book has an objection stand there with it, and cannot be
    taken.
    """
    best = recommended(trials)
    if aim is None:
        advice = (
            f"'{name}' makes neither the basking place nor the air: keep its probe on the source or under the ground."
        )
    elif best is None and all(trial.setpoint_c is None for trial in trials):
        advice = f"No power of its sources brings {aim.words} to its target in winter: see to the heat first."
    elif best is None:
        advice = "The rule book has an objection to every place: see to what it says first."
    else:
        advice = units.say(reason_for(best, trials, aim))
    rows = (
        []
        if aim is None
        else [_row(trial, trial is best, aim, units) for trial in trials if trial.setpoint_c is not None]
    )
    target = "" if aim is None else f"{units.degrees(aim.target_c)} {units.unit_of(TEMPERATURE)}"
    return PlacesView(name, target, aim.words if aim else "", rows, advice)


def _row(trial: ProbeTrial, best: bool, aim: Aim, units: Units) -> PlaceRow:
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
        against=units.say(trial.against),
        values={
            "probe.where": trial.place.key, aim.field: units.show(TEMPERATURE, setpoint_c), f"summer.{aim.field}": "",
        },
    )  # fmt: skip
