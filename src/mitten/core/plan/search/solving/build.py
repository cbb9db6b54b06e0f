"""From a combination to a whole design: parts with names, fixtures and controls, probes placed, setpoints solved."""

from collections.abc import Iterator, Mapping
from math import floor, inf
from types import MappingProxyType
from typing import Any

from mitten.core.catalogue import Catalogue, SourceKind, read_data
from mitten.core.design import Control, Design
from mitten.core.design.amounts import capital
from mitten.core.design.editing import Data, data_of
from mitten.core.judge import read_condition
from mitten.core.physics.balance.thermostats import Regulated
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.solving import Figure, readings_of, solve_aimed_at
from mitten.core.plan.search.screening.extras import SAME, Night
from mitten.core.plan.search.screening.layouts import Layout
from mitten.core.plan.search.screening.probing import (
    beside_the_basking_place,
    day_lights,
    in_the_middle,
    in_the_warm_air,
    on_the_mat,
    towards_the_middle,
)
from mitten.core.plan.search.screening.responses import COARSE, raise_box, with_watts
from mitten.core.plan.search.screening.screen import Candidate
from mitten.core.plan.search.screening.spending import control_type
from mitten.core.plan.search.solving.water import dry_if_too_damp, water
from mitten.core.plan.search.wants.boxes import WANTS_DAMP
from mitten.core.plan.search.wants.wishes import Wishes

DAY_CONTROL, NIGHT_CONTROL, AIR_CONTROL, MAT_CONTROL = (
    "Thermostat", "Night thermostat", "Air thermostat", "Mat thermostat",
)  # fmt: skip
FULL_POWER_C = 85.0
"""A setpoint that nothing reaches, to begin from: its heaters then give all they have."""

NIGHT_APART_M = 0.14
CLEAR_M, FAR_ABOVE_M, FROM_A_WALL_M = 0.10, 0.15, 0.05
"""A UV lamp hangs so far beside heat lamps, unless so far above them, and so far from a wall."""

HALF_DEGREES = 2

ONE_SETTING_K = 1.0
"""Settings of winter and summer that differ by no more are one."""

SETTINGS_APART_K = 6.0
"""Nor do they differ by more than this: else something other than the thermostat warms the place in one of them."""

NEARLY_ALL = 0.85
"""A duty from which the coarse grid does not tell whether a setpoint can be reached."""

A_GUESS = 0.6
"""A duty to begin from."""

Aims = Mapping[str, tuple[Figure, float]]
"""By control: what it is for, and what that is to become in °C."""


def build(candidate: Candidate, name: str, catalogue: Catalogue) -> Design:
    """The design of a combination, its setpoints solved.

    Raises:
        BadDesignError: it does not fit after all.
        NotSettledError, NotRegulatedError: as ``solve_condition``.
    """
    design, wishes = assemble(candidate, name, catalogue), Wishes.of(candidate.furnished.design, catalogue)
    # Where it will be sprayed, what evaporates decides the settings: to find how much, near ones do.
    exactly, setting = wishes.targets.humidity[0] < WANTS_DAMP, _Setting(catalogue, candidate, wishes)
    first = setting.of(design, exactly)
    wet = water(first, catalogue)
    if exactly and wet == first:
        return first
    set_wet = setting.of(wet, True)
    # The settings found with that water heat less or later: what they leave in the air may be too much.
    left = dry_if_too_damp(set_wet, catalogue)
    return set_wet if left == set_wet else setting.of(left, True)


class _Setting:
    """Solves the setpoints of one combination; each solution is begun from the last one of its grid and time of day."""

    def __init__(self, catalogue: Catalogue, candidate: Candidate, wishes: Wishes) -> None:
        self.catalogue, self.candidate, self.wishes = catalogue, candidate, wishes
        self._last: dict[tuple[bool, float], Climate] = {}

    def of(self, design: Design, exactly: bool) -> Design:
        """The design with its setpoints solved, those of the day first; by the coarse grid alone where near ones do."""
        for aims in _by_day(self.candidate, self.wishes):
            design = self._set_days(design, aims, exactly)
        for control in design.controls:
            if control.night_c is not None and not _lies_on_a_mat(design, control.name):
                design = self._set_night(design, control, exactly)
        return design

    def _set_days(self, design: Design, aims: Aims, exactly: bool) -> Design:
        """The controls set so that the basking place is right in winter and in summer, with a setting for each where
        they differ, the air too, and mats below what burns who burrows.
        """
        winter = self._solve_for(design, "winter-day", aims, COARSE)
        guess = {name: found.duty for name, found in winter.items()}
        exact = self._solve_for(design, "winter-day", aims, 1.0, guess) if exactly else winter
        # How much the seasons differ is said well enough by the coarse grid, which is several times as quick.
        summer = self._solve_for(design, "summer-day", aims, COARSE, guess)
        for name in aims:
            in_winter = _reachable_setting(exact[name])
            if exact[name].status == "cannot reach":
                in_summer = _round_setpoint(summer[name].probe_c)
            else:
                in_summer = _round_setpoint(exact[name].probe_c + summer[name].probe_c - winter[name].probe_c)
            most_c = self.wishes.safe_on_a_mat_c if _lies_on_a_mat(design, name) else inf
            # A mat's warmth under the belly is the same day and night.
            times = ("day_c", "night_c") if _lies_on_a_mat(design, name) else ("day_c",)
            settings = _by_season(min(in_winter, most_c), min(in_summer, most_c), times)
            design = with_setpoint(design, self.catalogue, name, settings)
        return design

    def _set_night(self, design: Design, control: Control, exactly: bool) -> Design:
        """One control set so that the cool side has its air on a winter night."""
        aim = {control.name: (_cool_air, self.wishes.night_aim_c)}
        found = self._solve_for(design, "winter-night", aim, COARSE)[control.name]
        if exactly and found.duty > NEARLY_ALL:
            found = self._solve_for(design, "winter-night", aim, 1.0, {control.name: found.duty})[control.name]
        night_c = _not_above_the_day(control, _reachable_setting(found))
        return with_setpoint(design, self.catalogue, control.name, {"night_c": night_c})

    def _solve_for(
        self, design: Design, name: str, aims: Aims, fineness: float, guess: Mapping[str, float] = MappingProxyType({})
    ) -> dict[str, Regulated]:
        """What the controls' probes read in a condition when what they are for is at its temperature, or as near as it
        comes.
        """
        condition = read_condition(design, name)
        start = self._last.get((condition.day, fineness))
        known = {} if start is None else {name: held.duty for name, held in start.controls.items() if name in aims}
        begun = dict.fromkeys(aims, A_GUESS) | known | dict(guess)
        climate = solve_aimed_at(design, self.catalogue, condition.situation, aims, start, fineness, begun)
        self._last[condition.day, fineness] = climate
        return readings_of(climate, aims)


def _not_above_the_day(control: Control, night_c: float) -> float:
    """A night's setting that is never above the day's of the same control."""
    by_day = [c for summer in (0.0, 1.0) if (c := control.setpoint_c(True, summer)) is not None]
    return min(night_c, *by_day) if by_day else night_c


def _by_day(candidate: Candidate, wishes: Wishes) -> Iterator[Aims]:
    """What each control is for by day: those that are set together, a mat before a main source that is held too.

    Such a mat makes up for what the main source cannot do at its full power.
    """
    surface, air = (_basking_of(wishes), 0.0), (_warm_air, wishes.warm_aim_c)
    together = {}
    if candidate.mat.layout is not None:
        if candidate.held:
            yield {MAT_CONTROL: surface}
        else:
            together[MAT_CONTROL] = surface
    if candidate.held:
        together[DAY_CONTROL] = surface
    if candidate.night.all_day:
        together[AIR_CONTROL] = air
    if together:
        yield together


def assemble(candidate: Candidate, name: str, catalogue: Catalogue) -> Design:
    """The design of a combination, its setpoints still to be solved.

    Raises:
        BadDesignError: it does not fit after all.
    """
    design = candidate.furnished.design
    data = data_of(design)
    main_kind = catalogue.sources[candidate.kind]
    data |= {"name": name, "approach": candidate.approach}
    data["heaters"] = _mains(candidate, main_kind)
    if candidate.ultraviolet.data:
        tube = _clear_of(data["heaters"], candidate.ultraviolet.data, design.enclosure.depth_m)
        data["uvb"] = [{"name": "UV lamp", **tube}]
    if not main_kind.light and not data["uvb"]:
        data["lights"] = day_lights(design)
    data["controls"] = []
    if candidate.held:
        data["controls"].append(_day_control(design, catalogue, candidate, main_kind))
    if candidate.night.layout is not None:
        data["heaters"] += _nights(candidate, candidate.night.layout)
        data["controls"].append(_night_control(design, catalogue, candidate.night, candidate.night.layout))
    if candidate.mat.layout is not None:
        mat = {**with_watts(candidate.mat.layout, candidate.mat.watts)[0], "name": "Heat mat", "on": "always"}
        data["heaters"].append({**mat, "control": MAT_CONTROL})
        data["controls"].append(_mat_control(mat, catalogue))
    made = read_data(data, catalogue)
    return raise_box(made) if any(heater.place == "under-floor" for heater in made.heaters) else made


def _clear_of(lamps: list[Data], tube: Data, depth_m: float) -> Data:
    """A UV lamp in front of the lamps that it would touch, or behind them where the box has no room there; where it has
    on neither side, as far from them as it can be.
    """
    reach_m = (tube.get("length_m") or 0.0) / 2 + CLEAR_M
    beside = [
        lamp["y_m"]
        for lamp in lamps
        if lamp["above_mesh"] == tube["above_mesh"]
        and abs(lamp["x_m"] - tube["x_m"]) < reach_m
        and abs(lamp["z_m"] - tube["z_m"]) < FAR_ABOVE_M
    ]
    if not beside:
        return tube

    def clear_m(y_m: float) -> float:
        nearest_m: float = min(abs(y_m - one) for one in beside)
        return round(min(CLEAR_M, nearest_m), 3)

    sides = [min(beside) - CLEAR_M, max(beside) + CLEAR_M]
    inside = [round(min(max(y_m, FROM_A_WALL_M), depth_m - FROM_A_WALL_M), 3) for y_m in sides]
    return {**tube, "y_m": max([tube["y_m"], *inside], key=clear_m)}


def _mains(candidate: Candidate, kind: SourceKind) -> list[Data]:
    label = capital(kind.label)
    heaters = with_watts(candidate.layout, candidate.watts)
    for number, heater in enumerate(heaters, 1):
        heater |= {"name": label if number == 1 else f"{label} {number}", "on": "day"}
        if candidate.held:
            always = candidate.night == SAME or kind.family == "contact"
            heater |= {"control": DAY_CONTROL, "on": "always" if always else "day"}
    return heaters


def _nights(candidate: Candidate, layout: Layout) -> list[Data]:
    """The source of the night, or of the air all day; of a pair both."""
    heaters = with_watts(layout, candidate.night.watts)
    by_day = candidate.night.all_day
    name, on, control = ("Air heat", "always", AIR_CONTROL) if by_day else ("Night heat", "night", NIGHT_CONTROL)
    for number, heater in enumerate(heaters, 1):
        heater |= {"name": name if number == 1 else f"{name} {number}", "on": on, "control": control}
    if layout.family == "lamp" and candidate.layout.family == "lamp":
        heaters[0] |= _beside(candidate, heaters[0])
    return heaters


def _beside(candidate: Candidate, heater: Data) -> Data:
    """Behind the main lamp, for two cannot hang in one place; towards the middle of the box where several hang across
    it or it is too narrow.
    """
    design, y_m = candidate.furnished.design, heater["y_m"] + NIGHT_APART_M
    if candidate.layout.count == 1 and y_m <= design.enclosure.depth_m - NIGHT_APART_M / 2:
        return {"y_m": round(y_m, 3)}
    return {"x_m": round(towards_the_middle(design, heater["x_m"], NIGHT_APART_M), 3)}


def _day_control(design: Design, catalogue: Catalogue, candidate: Candidate, kind: SourceKind) -> Data:
    load_w = candidate.watts * candidate.layout.count
    type_ = control_type(kind, load_w, catalogue)
    data: Data = {"name": DAY_CONTROL, "kind": type_.kind, "day_c": FULL_POWER_C, "max_watts": type_.usual_max_watts}
    data["probe"] = (
        on_the_mat(candidate.layout.heaters[0]) if kind.family == "contact" else beside_the_basking_place(design)
    )
    if candidate.night == SAME or kind.family == "contact":
        data["night_c"] = FULL_POWER_C
    return data


def _night_control(design: Design, catalogue: Catalogue, night: Night, layout: Layout) -> Data:
    type_ = control_type(layout.source, night.watts * layout.count, catalogue)
    by_day = {"day_c": FULL_POWER_C} if night.all_day else {}
    probe = in_the_warm_air(design) if night.all_day else in_the_middle(design)
    return {
        "name": AIR_CONTROL if night.all_day else NIGHT_CONTROL, "kind": type_.kind, "night_c": FULL_POWER_C,
        "max_watts": type_.usual_max_watts, "probe": probe, **by_day,
    }  # fmt: skip


def _mat_control(mat: Data, catalogue: Catalogue) -> Data:
    type_ = control_type(catalogue.sources[mat["kind"]], mat["watts"], catalogue)
    return {
        "name": MAT_CONTROL, "kind": type_.kind, "day_c": FULL_POWER_C, "night_c": FULL_POWER_C,
        "max_watts": type_.usual_max_watts, "probe": on_the_mat(mat),
    }  # fmt: skip


def _by_season(winter_c: float, summer_c: float, times: tuple[str, ...]) -> dict[str, Any]:
    """One setting between the seasons' where they hardly differ, else one for each."""
    middle_c = (winter_c + summer_c) / 2
    apart_k = min(max(summer_c - winter_c, -SETTINGS_APART_K), SETTINGS_APART_K)
    winter_c, summer_c = _round_setpoint(middle_c - apart_k / 2), _round_setpoint(middle_c + apart_k / 2)
    if abs(apart_k) <= ONE_SETTING_K:
        return {**dict.fromkeys(times, _round_setpoint(middle_c)), "summer": None}
    return {**dict.fromkeys(times, winter_c), "summer": dict.fromkeys(times, summer_c)}


def _lies_on_a_mat(design: Design, name: str) -> bool:
    """Whether a control's probe lies on a mat."""
    probe = next(control.probe for control in design.controls if control.name == name)
    return probe is not None and probe.reads in ("base", "heater")


def _reachable_setting(found: Regulated) -> float:
    """The setpoint on half degrees; at full power the one below, which is still reached."""
    if found.status == "cannot reach":
        return floor(found.probe_c * HALF_DEGREES) / HALF_DEGREES
    return _round_setpoint(found.probe_c)


def _round_setpoint(setpoint_c: float) -> float:
    return round(setpoint_c * HALF_DEGREES) / HALF_DEGREES


def with_setpoint(design: Design, catalogue: Catalogue, control: str, setpoints: Mapping[str, Any]) -> Design:
    """The design with other setpoints, ``day_c``, ``night_c`` and those of ``summer``, of one control."""
    data = data_of(design)
    for one in data["controls"]:
        if one["name"] == control:
            one |= setpoints
    return read_data(data, catalogue)


def _basking_of(wishes: Wishes) -> Figure:
    """How far a basking place is from where it is wanted: the body from the middle of its range, as far as the surface
    may follow it.
    """
    low_c, high_c = wishes.surface_span_c

    def off_by_k(climate: Climate) -> float:
        at = climate.basking
        # The middle one of three: whichever of the surface's ends stands in the way, or the body itself.
        return sorted((at.operative_c - wishes.body_c, at.surface_c - low_c, at.surface_c - high_c))[1]

    return off_by_k


def _warm_air(climate: Climate) -> float:
    return climate.air.warm_c


def _cool_air(climate: Climate) -> float:
    return climate.air.cool_c
