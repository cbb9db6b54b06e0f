"""What a thermostat is to be set to: in winter and in summer, in a sentence and as a change to be made."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from mitten.core.catalogue import Targets
from mitten.core.design.amounts import celsius
from mitten.core.design.units import TEMPERATURE, Units
from mitten.core.physics.balance.thermostats import Regulated
from mitten.core.physics.reading.climate import Climate
from mitten.core.plan.setpoints import day_settings

HARDLY_K = 0.5
"""Settings of winter and summer that differ by no more are one."""

NO_HEAT = "It regulates nothing now."


@dataclass(frozen=True)
class SetpointOffer:
    """What is said, and what a form sends to set it so; nothing where there is nothing to be set."""

    sentences: Sequence[str]
    values: Mapping[str, str]


def setpoint_offer(winter: Climate, summer: Climate, control: str, targets: Targets, units: Units) -> SetpointOffer:
    """The settings by day that bring the basking surface to the middle of what is wanted, in both seasons."""
    settings = day_settings(winter, summer, control, targets)
    target_c, found, set_to = settings.target_c, settings.found, settings.settings_c
    site = winter.design.basking_site
    where = f"'{site.name}'" if site else "the warmest ground"
    if all(one is None for one in found.values()):
        return SetpointOffer([NO_HEAT], {})
    said = [_cannot(season, one, where, target_c) for season, one in found.items() if season not in set_to]
    if set_to:
        said.insert(0, f"For {celsius(target_c, 1)} on {where} by day, set it to {_settings_words(set_to)}.")
    return SetpointOffer([units.say(one) for one in said], _values(set_to, units))


def _is_one(set_to: Mapping[str, float]) -> bool:
    return len(set_to) > 1 and abs(set_to["winter"] - set_to["summer"]) <= HARDLY_K


def _settings_words(set_to: Mapping[str, float]) -> str:
    if _is_one(set_to):
        return f"{celsius(set_to['winter'], 1)} in winter and in summer"
    return " and ".join(f"{celsius(setpoint_c, 1)} in {season}" for season, setpoint_c in set_to.items())


def _cannot(season: str, found: Regulated | None, where: str, target_c: float) -> str:
    if found is None:
        return f"In {season} it regulates nothing."
    if found.status == "cannot reach":
        return f"In {season} no setpoint brings {where} to {celsius(target_c, 1)}: full power is too little."
    return f"In {season} no setpoint brings {where} down to {celsius(target_c, 1)}."


def _values(set_to: Mapping[str, float], units: Units) -> dict[str, str]:
    """The fields of the thermostat's form; a summer that needs no setting of its own has none."""
    if not set_to:
        return {}
    winter_c = set_to.get("winter", set_to.get("summer", 0.0))
    own_summer = "summer" in set_to and not _is_one(set_to) and "winter" in set_to
    return {
        "day_c": units.show(TEMPERATURE, winter_c),
        "summer.day_c": units.show(TEMPERATURE, set_to["summer"]) if own_summer else "",
    }
