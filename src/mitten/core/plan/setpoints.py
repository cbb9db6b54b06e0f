"""The settings that bring what a thermostat is for where it is wanted, in winter and in summer; and its cut-out's."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import ceil

from mitten.core.design import Control, Design
from mitten.core.design.control import SummerSetpoints
from mitten.core.judge import Assessment
from mitten.core.physics.balance.thermostats import Regulated
from mitten.core.physics.solving import setpoint_for
from mitten.core.plan.aiming import Aim, aim_of

HALF_DEGREES = 2
"""Thermostats are set in steps of half a degree."""


CUT_OUT_ABOVE_K = 3.0
"""A cut-out opens at least so far above the highest setpoint and its swing: nearer it would act on usual days."""


def cut_out_setting_c(control: Control) -> float | None:
    """What a cut-out in line with a thermostat is set to, wherever it is spoken of; None without a setpoint."""
    settings = (control.setpoint_c(day, summer) for day in (True, False) for summer in (0.0, 1.0))
    highest_c = max((one for one in settings if one is not None), default=None)
    if highest_c is None:
        return None
    return ceil((highest_c + control.band_k / 2 + CUT_OUT_ABOVE_K) * HALF_DEGREES) / HALF_DEGREES


@dataclass(frozen=True)
class Settings:
    """What is aimed at, and what the control's probe reads then in each season: None where the control regulates
    nothing.
    """

    aim: Aim
    found: Mapping[str, Regulated | None]

    @property
    def settings_c(self) -> dict[str, float]:
        """By season what it can be set to; none for one in which no power brings the figure there."""
        return {
            season: round(one.probe_c * HALF_DEGREES) / HALF_DEGREES
            for season, one in self.found.items()
            if one is not None and one.status == "regulates"
        }


def settings_of(assessment: Assessment, control: Control) -> Settings | None:
    """The settings that bring what a control is for to the middle of what is wanted; None where it is for neither the
    basking place nor the air.
    """
    aim = aim_of(assessment.climate("winter-day"), control, assessment.targets)
    if aim is None:
        return None
    climates = ((season, assessment.climate(f"{season}-{aim.time}")) for season in ("winter", "summer"))
    found = {season: setpoint_for(climate, control.name, aim.figure, aim.target_c) for season, climate in climates}
    return Settings(aim, found)


def set_to(design: Design, control: Control, aim: Aim, settings_c: Mapping[str, float]) -> Design:
    """The design with a control set so in each season; a cut-out that would no longer be above is set anew."""
    winter_c = settings_c.get("winter", settings_c.get("summer"))
    summer = control.summer.model_dump() if control.summer else {}
    if "summer" in settings_c and "winter" in settings_c and settings_c["summer"] != winter_c:
        summer[aim.field] = settings_c["summer"]
    else:
        summer.pop(aim.field, None)
    own = SummerSetpoints(**summer) if any(value is not None for value in summer.values()) else None
    changed = control.model_copy(update={aim.field: winter_c, "summer": own})
    if changed.cut_out_c is not None:
        changed = changed.model_copy(update={"cut_out_c": cut_out_setting_c(changed)})
    controls = tuple(changed if one.name == control.name else one for one in design.controls)
    return design.model_copy(update={"controls": controls})
