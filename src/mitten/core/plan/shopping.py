"""What a design is made of, to be bought: generic descriptions with ratings, prices by life, and spares."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from mitten.core.catalogue import Catalogue
from mitten.core.design import Control, Design, Heater
from mitten.core.design.amounts import length
from mitten.core.judge import Assessment, fixture_rating_w
from mitten.core.physics.radiation.sources import is_guarded
from mitten.core.plan.cost import DAYS_A_YEAR, HOURS_A_DAY, kwh_a_year
from mitten.core.plan.search.screening.prices import placeholder_of

YEARS = (1, 3, 5)
What = Literal["source", "fixture", "control", "spare"]


@dataclass(frozen=True)
class Item:
    """One line: ``key`` names its price, ``life_years`` how long it serves as it is used, if that is known."""

    what: What
    key: str
    words: str
    count: int
    price: float
    placeholder: bool
    life_years: float | None = None

    @property
    def total(self) -> float:
        """Price of all of them."""
        return self.count * self.price


@dataclass(frozen=True)
class CostOver:
    """What a number of years costs: the purchase, what wears out meanwhile, and energy where its price is known."""

    years: int
    purchase: float
    replacements: float
    energy: float | None

    @property
    def total(self) -> float:
        """All of it."""
        return self.purchase + self.replacements + (self.energy or 0.0)


def shopping_list(design: Design, catalogue: Catalogue, own_prices: Mapping[str, float] | None = None) -> list[Item]:
    """Everything that a design's gear is made of, and one spare of every lamp; own prices replace placeholders."""
    merged: dict[tuple[str, str], Item] = {}
    for item in (*_sources(design, catalogue), *_fixtures(design, catalogue), *_controls(design, catalogue)):
        priced = _priced(item, own_prices or {})
        before = merged.get((item.what, item.words))
        merged[item.what, item.words] = replace(priced, count=priced.count + (before.count if before else 0))
    items = list(merged.values())
    return items + [
        replace(one, what="spare", count=1) for one in items if one.what == "source" and _wears(one, catalogue)
    ]


def cost_over(
    assessment: Assessment, items: Sequence[Item], years: int, kwh_year: float | None = None
) -> CostOver:  # fmt: skip
    """What that many years cost: by the energy of a year where its months were worked out, else with half of each year
    like the coldest days and half like the warmest.
    """
    purchase = sum(item.total for item in items)
    replaced = sum(
        item.total * max(years / item.life_years - 1.0, 0.0)
        for item in items
        if item.life_years is not None and item.what != "spare"
    )
    tariff = assessment.design.room.tariff_per_kwh
    kwh = kwh_a_year(assessment) if kwh_year is None else kwh_year
    return CostOver(years, purchase, replaced, None if tariff is None else kwh * tariff * years)


def _sources(design: Design, catalogue: Catalogue) -> Iterator[Item]:
    for heater in design.heaters:
        kind = catalogue.sources[heater.kind]
        size = _size(heater)
        thread = ", E27 or as the fixture has it" if kind.needs_fixture else ""
        words = f"{kind.label}, {heater.watts:g} W{size}{thread}"
        yield _item("source", heater.kind, words, _hours_a_year(design, heater.on), heater.watts, catalogue)
    for lamp in design.uvb:
        tube = f", tube about {length(lamp.length_m)}" if lamp.length_m else ""
        words = f"{catalogue.uvb[lamp.lamp].label}, {lamp.watts:g} W{tube}, with its own fixture and reflector"
        yield _item("source", lamp.lamp, words, _hours_a_year(design, lamp.on), lamp.watts, catalogue)
    for light in design.lights:
        yield _item(
            "source",
            "led",
            f"plain white light, {light.watts:g} W",
            _hours_a_year(design, "day"),
            light.watts,
            catalogue,
        )


def _size(heater: Heater) -> str:
    if heater.length_m is None or heater.depth_m is None:
        return ""
    return f", about {length((heater.length_m, heater.depth_m), '×')}"


def _fixtures(design: Design, catalogue: Catalogue) -> Iterator[Item]:
    for heater in design.heaters:
        if catalogue.sources[heater.kind].needs_fixture:
            rating = fixture_rating_w(heater.fixture, catalogue)
            label = catalogue.fixtures[heater.fixture.kind].label
            guard = ", with a wire guard" if _wants_a_guard(heater, catalogue) else ""
            words = f"{label}{guard}, {heater.fixture.socket} socket, rated for {rating:g} W or more"
            yield _item("fixture", heater.fixture.kind, words, 0.0, 0.0, catalogue)


def _wants_a_guard(heater: Heater, catalogue: Catalogue) -> bool:
    """Whether a guard has to be bought that such a fixture usually does not have."""
    return is_guarded(heater.fixture, catalogue) and not catalogue.fixtures[heater.fixture.kind].has_guard


def _controls(design: Design, catalogue: Catalogue) -> Iterator[Item]:
    for control in design.controls:
        load_w = sum(heater.watts for heater in design.heaters_of(control))
        yield _item(
            "control", control.kind, f"{_control_words(control)}, rated for {load_w:g} W or more", 0.0, 0.0, catalogue
        )
        if control.cut_out_c is not None:
            words = f"on-off thermostat as a cut-out in line, rated for {load_w:g} W or more"
            yield _item("control", "on-off", words, 0.0, 0.0, catalogue)
    if design.uvb or design.lights or any(_wants_a_timer(design, heater) for heater in design.heaters):
        yield _item("control", "timer", "timer for the lights of the day", 0.0, 0.0, catalogue)
    if any(heater.on == "night" and heater.control is None for heater in design.heaters):
        yield _item("control", "timer", "timer for the heat of the night", 0.0, 0.0, catalogue)


def _wants_a_timer(design: Design, heater: Heater) -> bool:
    """Whether a timer that is no control of the design's has to switch it by day."""
    control = design.control_of(heater)
    by_clock = control is None or (control.kind != "timer" and design.goes_by_the_clock(control))
    return heater.on == "day" and by_clock


def _control_words(control: Control) -> str:
    names = {"on-off": "on-off thermostat", "pulse": "pulse thermostat", "dimming": "dimming thermostat"}
    return names.get(control.kind, "dimmer, by hand" if control.kind == "dimmer" else "timer")


def _hours_a_year(design: Design, on: str) -> float:
    hours = {"day": design.day_hours, "night": HOURS_A_DAY - design.day_hours, "always": HOURS_A_DAY}[on]
    return hours * DAYS_A_YEAR


def _item(what: What, key: str, words: str, hours_a_year: float, watts: float, catalogue: Catalogue) -> Item:
    price = placeholder_of(key, catalogue)
    life = price.life_years
    if price.life_h is not None and hours_a_year > 0:
        life = price.life_h / hours_a_year
    return Item(what, key, words, 1, price.each + price.per_watt * watts, placeholder=True, life_years=life)


def _priced(item: Item, own: Mapping[str, float]) -> Item:
    return replace(item, price=own[item.words], placeholder=False) if item.words in own else item


def _wears(item: Item, catalogue: Catalogue) -> bool:
    """Whether it is a lamp that one keeps a spare of."""
    price = placeholder_of(item.key, catalogue)
    return price.life_h is not None
