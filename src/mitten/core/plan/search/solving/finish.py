"""The last touches of a plan: setpoints within reach, and a cut-out where a thermostat that sticks would harm."""

from math import floor

from mitten.core.catalogue import read_data
from mitten.core.design import Design
from mitten.core.design.editing import Data, data_of
from mitten.core.judge import Assessment, Condition, assess
from mitten.core.physics.reading.climate import Climate
from mitten.core.plan.search.screening.extras import Night
from mitten.core.plan.search.screening.taste import LEAST_DUTY, coldest_duties
from mitten.core.plan.search.solving.build import AIR_CONTROL, HALF_DEGREES, NIGHT_CONTROL
from mitten.core.plan.search.wants.wishes import Wishes
from mitten.core.plan.setpoints import cut_out_setting_c

NEAR_SOURCES = {"burning-surface", "material-too-hot"}
"""What a source that is too hot by night is found by."""

WORTH_K = 0.5
"""Nights that can be so much cooler are."""

MOST_DUTY = 0.7
"""So much of a smaller source's power may be needed on the coldest night; the rest is for what no model knows."""

STUCK, UNREACHED = "too-strong-when-stuck", "cannot-reach"


def finish(first: Assessment) -> Assessment:
    """The assessment of a design with what it still lacks: setpoints that are reached and burn nothing by night,
    cut-outs.

    What changes is begun from nothing, as it is when the plan is taken up: the same figures to the last digit.
    """
    return _made_safe(_with_cooler_nights(_set_to(first, _within_reach(first))))


def _set_to(found: Assessment, design: Design) -> Assessment:
    """The assessment of a design with other setpoints; a time of day whose settings are as they were is known."""
    if design == found.design:
        return found
    moved = {one.day for one in found.solved if _settings(design, one) != _settings(found.design, one)}
    known = {condition: climate for condition, climate in found.solved.items() if condition.day not in moved}
    return assess(design, found.catalogue, today=found.today, known=known)


def _settings(design: Design, condition: Condition) -> list[float | None]:
    """The setpoint of every control that is in force in a condition."""
    return [control.setpoint_c(condition.day, condition.summer) for control in design.controls]


def _within_reach(first: Assessment) -> Design:
    """Setpoints that full power does not quite reach set to what it does: else a thermostat never rests."""
    if not any(finding.rule == UNREACHED for finding in first.findings):
        return first.design
    data = data_of(first.design)
    for control in data["controls"]:
        for time in ("day", "night"):
            _lower(control, f"{time}_c", first.climate(f"winter-{time}"), control)
            # In summer its own setting is in force, where it has one.
            own = control.get("summer") or {}
            _lower(own if f"{time}_c" in own else control, f"{time}_c", first.climate(f"summer-{time}"), control)
        if control.get("day_c") is not None and control.get("night_c") is not None:
            control["night_c"] = min(control["night_c"], control["day_c"])
    return read_data(data, first.catalogue)


def _with_cooler_nights(found: Assessment) -> Assessment:
    """With nights as cool as is surely borne, where what holds them warmer is too hot for what is near it."""
    night = found.climate("winter-night")
    wishes = Wishes.of(found.design, found.catalogue)
    spare_k = night.air.cool_c - night.room_c - wishes.night_needed_k()
    if not NEAR_SOURCES & {stop.rule for stop in found.stops} or spare_k < WORTH_K:
        return found
    data = data_of(found.design)
    for control in data["controls"]:
        for settings in (control, control.get("summer") or {}):
            if settings.get("night_c") is not None:
                settings["night_c"] = floor((settings["night_c"] - spare_k) * HALF_DEGREES) / HALF_DEGREES
    return _set_to(found, read_data(data, found.catalogue))


def _lower(settings: Data, key: str, climate: Climate, control: Data) -> None:
    """Set one of a control's settings to what it reaches in a climate, on half degrees."""
    held = climate.controls.get(control["name"])
    if held is not None and held.status == "cannot reach" and settings.get(key) is not None:
        settings[key] = min(settings[key], floor(held.probe_c * HALF_DEGREES) / HALF_DEGREES)


def _made_safe(assessment: Assessment) -> Assessment:
    """An assessment with a cut-out on every thermostat, where one that sticks makes something dangerous."""
    if not any(finding.rule == STUCK for finding in assessment.findings):
        return assessment
    # Cut-outs change nothing as long as nothing sticks.
    return assess(_cut_out(assessment.design), assessment.catalogue, today=assessment.today, known=assessment.solved)


def _cut_out(design: Design) -> Design:
    controls = tuple(
        one.model_copy(update={"cut_out_c": cut_out_setting_c(one)}) if one.is_thermostat else one
        for one in design.controls
    )
    return design.model_copy(update={"controls": controls})


def idles(assessment: Assessment) -> bool:
    """Whether a thermostat gives hardly anything when it is coldest: the same does without its source."""
    return any(duty < LEAST_DUTY for duty in coldest_duties(assessment).values())


def night_by_need(night: Night, found: Assessment) -> Night:
    """The smallest source for the nights, of those sold, that still has power to spare on the coldest: the screening
    does not know what other sources give by night.
    """
    duty = coldest_duties(found).get(AIR_CONTROL if night.all_day else NIGHT_CONTROL)
    if night.layout is None or duty is None:
        return night
    enough = [watts for watts in night.layout.watts_sold if duty * night.watts <= MOST_DUTY * watts]
    watts = min([night.watts, *enough])
    return night if watts == night.watts else night.of(watts)
