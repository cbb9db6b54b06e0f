"""The last touches of a plan: a cut-out where a thermostat that sticks would harm, water where the air is too dry."""

import json
from bisect import bisect_left
from collections.abc import Iterator
from math import ceil, floor
from typing import Any

from mitten.core.catalogue import load_catalogue, read_checked_design
from mitten.core.design import Design
from mitten.core.judge import Assessment, assess, read_condition, solve_condition
from mitten.core.physics.reading.climate import Climate
from mitten.core.plan.search.screening.responses import COARSE
from mitten.core.plan.search.solving.build import HALF_DEGREES

CUT_OUTS_K = (4.0, 2.0, 1.0)
"""How far above its setpoint a thermostat's cut-out opens, the least touchy first."""

LEAST_DUTY = 0.07
"""A source that gives less than this of its power at the coldest time is none that anybody needs."""

MISTING_ML_DAY = (50.0, 100.0, 200.0, 350.0, 600.0, 1000.0, 1600.0, 2500.0)
STUCK, UNREACHED = "too-strong-when-stuck", "cannot-reach"
INSIDE_RH = 0.03
"""How far inside what is wanted humidity is brought: the coarse grid is not surer."""

Data = dict[str, Any]


def finished(first: Assessment) -> Assessment:
    """The assessment of a design with what it still lacks: water, setpoints that are reached, cut-outs."""
    design = _within_reach(_watered(first), first)
    return _made_safe(first if design == first.design else assess(design))


def _within_reach(design: Design, first: Assessment) -> Design:
    """Setpoints that full power does not quite reach set to what it does: else a thermostat never rests."""
    if not any(finding.rule == UNREACHED for finding in first.findings):
        return design
    data = _data(design)
    for control in data["controls"]:
        for time in ("day", "night"):
            _lower(control, f"{time}_c", first.climate(f"winter-{time}"))
    return _read(data)


def _lower(control: Data, key: str, climate: Climate) -> None:
    """Set one control's setting of a time of day to what it reaches then, on half degrees."""
    held = climate.controls.get(control["name"])
    if held is not None and held.word == "cannot reach" and control.get(key) is not None:
        control[key] = min(control[key], floor(held.probe_c * HALF_DEGREES) / HALF_DEGREES)


def _made_safe(assessment: Assessment) -> Assessment:
    """An assessment with a cut-out on every thermostat, where one that sticks makes something dangerous: as far above
    the setpoints as is still harmless.
    """
    for above_k in CUT_OUTS_K:
        if not any(finding.rule == STUCK for finding in assessment.findings):
            break
        # Cut-outs change nothing as long as nothing sticks.
        assessment = assess(_cut_out(assessment.design, above_k), assessment, known=assessment.solved)
    return assessment


def _cut_out(design: Design, above_k: float) -> Design:
    data = _data(design)
    for control, held in zip(data["controls"], design.controls, strict=True):
        settings = [held.setpoint_c(day, summer) for day in (True, False) for summer in (0.0, 1.0)]
        highest_c = max((one for one in settings if one is not None), default=None)
        if held.is_thermostat and highest_c is not None:
            control["cut_out_c"] = ceil(highest_c + above_k)
    return _read(data)


def idles(assessment: Assessment) -> bool:
    """Whether a thermostat hardly ever gives anything: the same does without its source."""
    most: dict[str, float] = {}
    for climate in assessment.solved.values():
        for name, held in climate.controls.items():
            most[name] = max(most.get(name, 0.0), held.duty)
    return any(duty < LEAST_DUTY for duty in most.values())


def _watered(first: Assessment) -> Design:
    """With the least misting that brings a usual day's humidity to what is wanted, as far as the dampest night bears
    it; with less water where it is too damp.
    """
    design, air = first.design, _Air(first)
    verdict = next(one for one in first.verdicts if one.key == "humidity")
    if verdict.word == "meets":
        return design
    if air.is_too_damp(design):
        return next((one for one in _drier(design) if not air.is_too_damp(one)), design)
    if air.is_damp_enough(design):
        return design
    levels = [one for one in MISTING_ML_DAY if one > design.substrate.misting_ml_day]
    wetter = [_with_ground(design, misting_ml_day=one) for one in levels]
    enough = bisect_left(wetter, True, key=air.is_damp_enough)
    borne = (one for one in reversed(wetter[: enough + 1]) if not air.is_too_damp(one))
    return next(borne, design)


class _Air:
    """The air of a design with more or less water in it, by the coarse grid."""

    def __init__(self, first: Assessment) -> None:
        self.targets = first.targets
        self._last = dict(first.solved)

    def is_damp_enough(self, design: Design) -> bool:
        """Whether a usual day has what is wanted."""
        return self._humidity(design, "usual-day") >= self.targets.humidity[0] + INSIDE_RH

    def is_too_damp(self, design: Design) -> bool:
        """Whether it is more than is borne in the dampest of what is judged."""
        dampest = "summer-day" if self.targets.is_arid else "summer-night"
        return self._humidity(design, dampest) > self.targets.bears("humidity")[1] - INSIDE_RH

    def _humidity(self, design: Design, name: str) -> float:
        """Relative humidity (0-1), begun from what is known of the condition."""
        condition = read_condition(design, name)
        self._last[condition] = solve_condition(design, condition, self._last.get(condition), COARSE)
        return self._last[condition].humidity.mean


def _drier(design: Design) -> Iterator[Design]:
    if design.substrate.misting_ml_day:
        yield _with_ground(design, misting_ml_day=0.0)
    if design.substrate.moisture != "dry":
        yield _with_ground(design, misting_ml_day=0.0, moisture="dry")


def _with_ground(design: Design, **changes: Any) -> Design:
    data = _data(design)
    data["substrate"] |= changes
    return _read(data)


def _data(design: Design) -> Data:
    return design.model_dump(mode="json", exclude_none=True)


def _read(data: Data) -> Design:
    return read_checked_design(json.dumps(data), load_catalogue())
