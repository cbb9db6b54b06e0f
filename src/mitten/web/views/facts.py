"""What is worked out of a part, beside what can be set of it."""

from mitten.core.design import Control, Design, Heater
from mitten.core.design.units import AREA, Units
from mitten.core.judge import fixture_rating_w
from mitten.core.physics.reading.climate import Climate
from mitten.core.plan.probe_places import probe_words
from mitten.web.edits import PartRef
from mitten.web.edits.refs import noun_of

Facts = list[tuple[str, str]]


def facts_of(design: Design, ref: PartRef, climate: Climate, units: Units) -> Facts:
    """Facts of a part under the condition that is shown."""
    part = noun_of(design, ref)
    if ref.collection == "heaters":
        return _heater(part, climate, units)
    if ref.collection == "controls":
        return _control(design, part, climate, units)
    if ref.collection == "sites":
        return _site(ref.name, climate, units)
    if ref.collection == "vents":
        return [("Open", f"{units.say_with_unit(AREA, part.area_m2 * 1e4)}")]
    return []


def _heater(heater: Heater, climate: Climate, units: Units) -> Facts:
    catalogue = climate.catalogue
    now = climate.heaters[heater.name]
    facts = []
    if catalogue.sources[heater.kind].needs_fixture:
        rating = fixture_rating_w(heater.fixture, catalogue)
        known = "" if heater.fixture.max_watts else ", assumed"
        facts.append(("Fixture", f"{catalogue.fixtures[heater.fixture.kind].label}, {rating:g} W{known}"))
    facts.append(("Gives now", f"{now.watts:.1f} W" if now.watts > 0 else "nothing"))
    if now.hottest is not None:
        facts.append((f"Its {now.hottest.what}", units.say_degrees(now.hottest.celsius, 0)))
    return facts


def _control(design: Design, control: Control, climate: Climate, units: Units) -> Facts:
    held = climate.controls.get(control.name)
    if held is None:
        return [("Now", "off: no setpoint" if control.is_thermostat else "at full power")]
    return [
        ("Probe", units.say(probe_words(design, climate.catalogue, control))),
        ("Probe reads", units.say_degrees(held.probe_c)),
        ("Gives", f"{held.duty:.0%} of full power"),
        ("", held.status),
    ]


def _site(name: str, climate: Climate, units: Units) -> Facts:
    spot = climate.sites[name]
    facts = [
        ("Surface, hottest", units.say_degrees(spot.surface_c)),
        ("Air above", units.say_degrees(spot.air_c)),
    ]
    if spot.hide_air_c is not None:
        facts.append(("Air inside", units.say_degrees(spot.hide_air_c)))
    facts.append(("Arrives there", f"{spot.irradiance_w_m2:.0f} W/m²"))
    return facts
