"""From a combination to a whole design: parts with names, fixtures and controls, probes placed, setpoints solved."""

import json
from typing import Any

from mitten.core.catalogue import SourceKind, load_catalogue, read_checked_design
from mitten.core.design import Control, Design
from mitten.core.judge import read_condition, solve_condition
from mitten.core.physics.climate import Climate
from mitten.core.physics.solving import setpoint_for
from mitten.core.plan.search.layouts import Layout
from mitten.core.plan.search.probing import (
    beside_the_basking_place,
    day_lights,
    in_the_middle,
    on_the_mat,
    towards_the_middle,
)
from mitten.core.plan.search.responses import COARSE, with_watts
from mitten.core.plan.search.screen import SAME, Candidate
from mitten.core.plan.search.spending import control_type
from mitten.core.plan.search.wishes import Wishes

DAY_CONTROL, NIGHT_CONTROL = "Thermostat", "Night thermostat"
FULL_POWER_C = 85.0
"""A setpoint that nothing reaches, to begin from: its heaters then give all they have."""

NIGHT_APART_M = 0.14
UNDER_DANGER_K = 2.0
"""How far a mat stays below what burns: an animal that burrows meets it."""

HALF_DEGREES = 2

Data = dict[str, Any]


def built(candidate: Candidate, name: str) -> Design:
    """The design of a combination, its setpoints solved in the coldest season.

    Raises:
        BadDesignError: it does not fit after all.
        NotSettledError, NotRegulatedError: as ``solve_condition``.
    """
    design = _assembled(candidate, name)
    wishes = Wishes.of(design)
    for control in design.controls:
        if control.day_c is not None:
            design = _set(design, control, day=True, target_c=wishes.surface_c)
        if control.night_c is not None:
            design = _set(design, control, day=False, target_c=wishes.night_aim_c)
    return design


def _assembled(candidate: Candidate, name: str) -> Design:
    design = candidate.furnished.design
    data = design.model_dump(mode="json", exclude_none=True)
    main_kind = load_catalogue().sources[candidate.kind]
    data |= {"name": name, "approach": candidate.approach}
    data["heaters"] = _mains(candidate, main_kind)
    data["uvb"] = [{"name": "UV lamp", **candidate.ultraviolet.data}] if candidate.ultraviolet.data else []
    if not main_kind.light and not data["uvb"]:
        data["lights"] = day_lights(design)
    data["controls"] = []
    if candidate.held:
        data["controls"].append(_day_control(design, candidate, main_kind))
    if candidate.night.layout is not None:
        data["heaters"].append(_night(candidate, candidate.night.layout))
        data["controls"].append(_night_control(design, candidate, candidate.night.layout))
    return read_checked_design(json.dumps(data), load_catalogue())


def _mains(candidate: Candidate, kind: SourceKind) -> list[Data]:
    label = kind.label[:1].upper() + kind.label[1:]
    heaters = with_watts(candidate.layout, candidate.watts)
    for number, heater in enumerate(heaters, 1):
        heater |= {"name": label if number == 1 else f"{label} {number}", "on": "day"}
        if candidate.held:
            heater |= {"control": DAY_CONTROL, "on": "always" if candidate.night is SAME else "day"}
    return heaters


def _night(candidate: Candidate, layout: Layout) -> Data:
    heater = with_watts(layout, candidate.night.watts)[0]
    heater |= {"name": "Night heat", "on": "night", "control": NIGHT_CONTROL}
    if layout.family == "lamp":
        heater |= _beside(candidate.furnished.design, heater)
    return heater


def _beside(design: Design, heater: Data) -> Data:
    """Behind the main lamp, for two cannot hang in one place; in a box that is too narrow, towards the middle."""
    y_m = heater["y_m"] + NIGHT_APART_M
    if y_m <= design.enclosure.depth_m - NIGHT_APART_M / 2:
        return {"y_m": round(y_m, 3)}
    return {"x_m": round(towards_the_middle(design, heater["x_m"], NIGHT_APART_M), 3)}


def _day_control(design: Design, candidate: Candidate, kind: SourceKind) -> Data:
    load_w = candidate.watts * candidate.layout.count
    type_ = control_type(kind, load_w)
    data: Data = {"name": DAY_CONTROL, "kind": type_.kind, "day_c": FULL_POWER_C, "max_watts": type_.usual_max_watts}
    data["probe"] = (
        on_the_mat(candidate.layout.heaters[0]) if kind.family == "contact" else beside_the_basking_place(design)
    )
    if candidate.night is SAME:
        data["night_c"] = FULL_POWER_C
    return data


def _night_control(design: Design, candidate: Candidate, layout: Layout) -> Data:
    kind = load_catalogue().sources[layout.kind]
    type_ = control_type(kind, candidate.night.watts)
    return {
        "name": NIGHT_CONTROL, "kind": type_.kind, "night_c": FULL_POWER_C, "max_watts": type_.usual_max_watts,
        "probe": in_the_middle(design),
    }  # fmt: skip


def _set(design: Design, control: Control, day: bool, target_c: float) -> Design:
    """The design with one control on its setpoint: by day so that the basking place is as much too warm in the one
    season as too cold in the other; by night so that the cool side is right in winter.
    """
    season = "winter-day" if day else "winter-night"
    setpoint_c, _ = _held(design, control, season, target_c)
    if day:
        # How much the seasons differ is said well enough by the coarse grid, which is several times as quick.
        winter_c, start = _held(design, control, season, target_c, COARSE)
        summer_c, _ = _held(design, control, "summer-day", target_c, COARSE, start)
        setpoint_c += (summer_c - winter_c) / 2
    if control.probe is not None and control.probe.reads == "base":
        setpoint_c = min(setpoint_c, Wishes.of(design).targets.danger_contact_c - UNDER_DANGER_K)
    return with_setpoint(design, control.name, day, round(setpoint_c * HALF_DEGREES) / HALF_DEGREES)


def _held(
    design: Design, control: Control, season: str, target_c: float, fineness: float = 1.0,
    start: Climate | None = None,
) -> tuple[float, Climate]:  # fmt: skip
    """What a control's probe reads in a season when what it is for is at a temperature, or as near as it comes."""
    climate = solve_condition(design, read_condition(design, season), start, fineness)
    found = setpoint_for(climate, control.name, _surface if season.endswith("day") else _cool_air, target_c, fineness)
    return (climate.controls[control.name] if found is None else found).probe_c, climate


def with_setpoint(design: Design, control: str, day: bool, setpoint_c: float) -> Design:
    """The design with one control's setpoint of the day or the night."""
    data = design.model_dump(mode="json", exclude_none=True)
    for one in data["controls"]:
        if one["name"] == control:
            one["day_c" if day else "night_c"] = setpoint_c
    return read_checked_design(json.dumps(data), load_catalogue())


def _surface(climate: Climate) -> float:
    return climate.basking.surface_c


def _cool_air(climate: Climate) -> float:
    return climate.air.cool_c
