"""What a thermostat is to be set to: in winter and in summer, in a sentence and as a change to be made."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from mitten.core.catalogue import Targets
from mitten.core.design.units import TEMPERATURE, Units
from mitten.core.physics.balance.thermostats import Regulated
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.solving import setpoint_for

HALF_DEGREES = 2
"""Thermostats are set to half a degree."""

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
    target_c = sum(targets.basking_surface_c) / 2
    found = {
        season: setpoint_for(climate, control, lambda now: now.basking.surface_c, target_c)
        for season, climate in (("winter", winter), ("summer", summer))
    }
    site = winter.design.basking_site
    where = f"'{site.name}'" if site else "the warmest ground"
    if all(one is None for one in found.values()):
        return SetpointOffer([NO_HEAT], {})
    set_to = {season: _rounded(one.probe_c) for season, one in found.items() if one and one.word == "regulates"}
    said = [_cannot(season, one, where, target_c) for season, one in found.items() if season not in set_to]
    if set_to:
        said.insert(0, f"For {target_c:.1f} °C on {where} by day, set it to {_settings_words(set_to)}.")
    return SetpointOffer([units.say(one) for one in said], _values(set_to, units))


def _rounded(celsius: float) -> float:
    return round(celsius * HALF_DEGREES) / HALF_DEGREES


def _is_one(set_to: Mapping[str, float]) -> bool:
    return len(set_to) > 1 and abs(set_to["winter"] - set_to["summer"]) <= HARDLY_K


def _settings_words(set_to: Mapping[str, float]) -> str:
    if _is_one(set_to):
        return f"{set_to['winter']:.1f} °C in winter and in summer"
    return " and ".join(f"{celsius:.1f} °C in {season}" for season, celsius in set_to.items())


def _cannot(season: str, found: Regulated | None, where: str, target_c: float) -> str:
    if found is None:
        return f"In {season} it regulates nothing."
    if found.word == "cannot reach":
        return f"In {season} no setpoint brings {where} to {target_c:.1f} °C: full power is too little."
    return f"In {season} no setpoint brings {where} down to {target_c:.1f} °C."


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
