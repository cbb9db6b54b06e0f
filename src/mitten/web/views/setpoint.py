"""What a thermostat is to be set to: in winter and in summer, in a sentence and as a change to be made."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from mitten.core.design import Control
from mitten.core.design.amounts import celsius
from mitten.core.design.units import TEMPERATURE, Units
from mitten.core.judge import Assessment
from mitten.core.physics.balance.thermostats import Regulated
from mitten.core.plan.aiming import Aim
from mitten.core.plan.offering import why_not_offered
from mitten.core.plan.setpoints import Settings, set_to, settings_of

HARDLY_K = 0.5
"""Settings of winter and summer that differ by no more are one."""

NO_HEAT = "It regulates nothing now."
NOT_BY_A_PLACE = (
    "It makes neither the basking place nor the air: set it by what is needed where its warmth arrives, with the probe "
    "on the source or under the ground."
)


@dataclass(frozen=True)
class SetpointOffer:
    """What is said, and what a form sends to set it so; nothing where there is nothing to be set."""

    sentences: Sequence[str]
    values: Mapping[str, str]


def setpoint_offer(assessment: Assessment, name: str, units: Units) -> SetpointOffer:
    """The settings that bring what a thermostat is for to the middle of what is wanted, in both seasons; nothing to
    be pressed where they would make a danger that is not there.
    """
    control = next((one for one in assessment.design.controls if one.name == name and one.is_thermostat), None)
    settings = None if control is None else settings_of(assessment, control)
    if control is None or not assessment.design.heaters_of(control):
        return SetpointOffer([NO_HEAT], {})
    if settings is None:
        return SetpointOffer([NOT_BY_A_PLACE], {})
    return _offer_for(assessment, control, settings, units)


def _offer_for(assessment: Assessment, control: Control, settings: Settings, units: Units) -> SetpointOffer:
    """What a thermostat that is for something is to be set to."""
    aim, found, set_c = settings.aim, settings.found, settings.settings_c
    if all(one is None for one in found.values()):
        return SetpointOffer([NO_HEAT], {})
    said = [_cannot(season, one, aim) for season, one in found.items() if season not in set_c]
    values = _values(set_c, aim, units)
    if set_c:
        time = "by day" if aim.time == "day" else "by night"
        said.insert(0, f"For {celsius(aim.target_c, 1)} {_on(aim)} {time}, set it to {_settings_words(set_c)}.")
        danger = why_not_offered(assessment, set_to(assessment.design, control, aim, set_c))
        if danger is not None:
            said.insert(0, f"It must not be set so: {danger}. This source is not made to hold that.")
            values = {}
    return SetpointOffer([units.say(one) for one in said], values)


def _on(aim: Aim) -> str:
    return f"on {aim.words}" if aim.key == "basking_surface_c" else f"in {aim.words}"


def _is_one(set_c: Mapping[str, float]) -> bool:
    return len(set_c) > 1 and abs(set_c["winter"] - set_c["summer"]) <= HARDLY_K


def _settings_words(set_c: Mapping[str, float]) -> str:
    if _is_one(set_c):
        return f"{celsius(set_c['winter'], 1)} in winter and in summer"
    return " and ".join(f"{celsius(setpoint_c, 1)} in {season}" for season, setpoint_c in set_c.items())


def _cannot(season: str, found: Regulated | None, aim: Aim) -> str:
    if found is None:
        return f"In {season} it regulates nothing."
    if found.status == "cannot reach":
        return f"In {season} no setpoint brings {aim.words} to {celsius(aim.target_c, 1)}: full power is too little."
    return f"In {season} no setpoint brings {aim.words} down to {celsius(aim.target_c, 1)}."


def _values(set_c: Mapping[str, float], aim: Aim, units: Units) -> dict[str, str]:
    """The fields of the thermostat's form; a summer that needs no setting of its own has none."""
    if not set_c:
        return {}
    winter_c = set_c.get("winter", set_c.get("summer", 0.0))
    own_summer = "summer" in set_c and not _is_one(set_c) and "winter" in set_c
    return {
        aim.field: units.show(TEMPERATURE, winter_c),
        f"summer.{aim.field}": units.show(TEMPERATURE, set_c["summer"]) if own_summer else "",
    }
