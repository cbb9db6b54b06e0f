"""What an animal meets at the basking place, as facts for the inspector, with the reason for its surface."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.design import FACES
from mitten.core.design.amounts import celsius, litres
from mitten.core.design.units import Units
from mitten.core.physics.radiation.ultraviolet import zone_of
from mitten.core.physics.reading.climate import AirHumidity, Climate
from mitten.core.physics.reading.spot import SpotClimate
from mitten.draw.shares import shares_bar

LITTLE_W_M2 = 5.0
WORTH_SAYING_L_WEEK = 0.05
NEARLY_BLIND = 0.1


@dataclass(frozen=True)
class PlaceView:
    """Facts of the basking place, the shares of what arrives there, and the sentence that explains its surface."""

    title: str
    facts: Sequence[tuple[str, str]]
    shares: Markup | None
    why: str


def place_view(climate: Climate, units: Units) -> PlaceView:
    """The basking place of a climate."""
    site, spot = climate.design.basking_site, climate.basking
    return PlaceView(
        title=f"At the {site.name[:1].lower()}{site.name[1:]}" if site else "At the warmest ground",
        facts=[(name, units.say(fact)) for name, fact in _facts(climate, spot)],
        shares=shares_bar(spot.arriving.shares) if spot.irradiance_w_m2 > LITTLE_W_M2 else None,
        why=why_this_surface(spot),
    )


def _facts(climate: Climate, spot: SpotClimate) -> list[tuple[str, str]]:
    arriving, patch = spot.arriving, climate.patch
    facts = []
    if spot.irradiance_w_m2 > LITTLE_W_M2:
        facts += [
            ("Arrives on its back", f"{arriving.total_w_m2:.0f} W/m²"),
            ("Silicon meter shows", _reading(arriving.silicon_w_m2, arriving.total_w_m2)),
            ("Thermopile shows", _reading(arriving.thermopile_w_m2, arriving.total_w_m2)),
        ]
    facts.append(("Body comes to", f"{celsius(spot.operative_c, 1)}"))
    if climate.situation.day:
        warm_up = climate.warm_up_minutes
        facts.append(("Warms up in", "never" if warm_up is None else f"{warm_up:.0f} min"))
    cool_down = climate.cool_down_minutes
    if climate.situation.day and cool_down is not None:
        facts.append(("Half cooled after lights-out in", f"{cool_down:.0f} min"))
    facts.append(("Wanted patch covers", f"{patch.covers:.0%} of it"))
    if spot.uvi > 0:
        facts.append(("UV index", f"{spot.uvi:.1f}, zone {zone_of(spot.uvi)}"))
    humidity = climate.humidity
    facts.append(("Humidity, warm · cool", f"{humidity.warm:.0%} · {humidity.cool:.0%}"))
    if humidity.condensed_litres_a_week >= WORTH_SAYING_L_WEEK:
        facts.append(("Water runs down", condensed_words(humidity)))
    facts.append(("Base, hottest", f"{celsius(climate.base_c, 1)}"))
    return facts


def condensed_words(humidity: AirHumidity) -> str:
    """How much water condenses in a week, and where most of it does."""
    if humidity.condensed_litres_a_week < WORTH_SAYING_L_WEEK:
        return "none"
    where = next(iter(humidity.runs_down), "")
    face = f"the {where}" if where in FACES else f"'{where}'"
    return f"{litres(humidity.condensed_litres_a_week, 1)} a week" + (f", most on {face}" if where else ", as fog")


def _reading(shown_w_m2: float, arriving_w_m2: float) -> str:
    blind = ", nearly blind" if shown_w_m2 < NEARLY_BLIND * arriving_w_m2 else ""
    return f"{shown_w_m2:.0f} W/m²{blind}"


def why_this_surface(spot: SpotClimate) -> str:
    """Where the heat that a surface takes up goes, in a sentence."""
    flows = spot.flows
    if flows.absorbed < LITTLE_W_M2:
        if flows.conducted < -LITTLE_W_M2:
            return f"{-flows.conducted:.0f} W/m² come up through it from below."
        return "No source shines on it."
    ways = [
        ("to the air", flows.to_air),
        ("as warmth to what it sees", flows.as_longwave),
        ("by evaporation", flows.evaporated),
        ("into what lies under it and beside it", flows.conducted),
    ]
    lost = ", ".join(f"{amount:.0f} {words}" for words, amount in ways if amount > LITTLE_W_M2)
    gained = ", ".join(f"{-amount:.0f} back {words}" for words, amount in ways if amount < -LITTLE_W_M2)
    sentence = f"Its surface takes up {flows.absorbed:.0f} W/m² of what falls on it"
    sentence += f" and gives off {lost}" if lost else ""
    return sentence + (f"; {gained}." if gained else ".")
