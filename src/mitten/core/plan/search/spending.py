"""What combinations ask for: things to buy, their price, energy, parts and holes."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from mitten.core.catalogue import ControlType, SourceKind, load_catalogue
from mitten.core.design import Design
from mitten.core.physics.geometry import Array
from mitten.core.plan.cost import DAYS_A_YEAR
from mitten.core.plan.search.brief import Brief
from mitten.core.plan.search.layouts import Layout
from mitten.core.plan.search.prices import price_of
from mitten.core.plan.search.probing import day_lights

A_PART = 0.01
A_HOLE = 0.01
A_KWH = 0.00008
A_UNIT_OF_PRICE = 0.0002
WATTS_PER_KILO = 1000.0
SHARE_OF_RATING = 0.8
"""A control is loaded to this part of what it is rated for at most."""

HALF_A_DAY_H = 12.0
"""How long a source of the day or of the night runs, near enough to compare by."""

USUAL_DUTY = 0.5
"""Share of its power that a source on a thermostat gives over a year, near enough to compare by."""


@dataclass(frozen=True, eq=False)
class Spending:
    """Of combinations (w, n, u): sources to buy, the price of all that is not owned, parts, holes and kWh a year."""

    bought: Array
    price: Array
    parts: Array
    holes: Array
    kwh_year: Array

    @property
    def weight(self) -> Array:
        """What is taken off the chance for all of it."""
        effort = A_PART * self.parts + A_HOLE * self.holes
        return np.asarray(effort + A_KWH * self.kwh_year + A_UNIT_OF_PRICE * self.price)

    def allowed(self, brief: Brief) -> Array:
        """Which combinations the shelf and the purse allow."""
        within = np.ones_like(self.bought, dtype=bool)
        if brief.only_owned:
            within &= self.bought <= brief.purchases
        if brief.budget is not None:
            within &= self.price <= brief.budget
        return np.asarray(within)


def control_type(kind: SourceKind, load_w: float) -> ControlType:
    """What suits a kind: dimming for what shines or glows, pulses for ceramic, switching for mats."""
    controls = load_catalogue().controls
    if kind.family == "contact":
        return controls["on-off"]
    if kind.family == "lamp" and not kind.light and kind.emitter_k is None:
        return controls["pulse"]
    return controls["dimming" if load_w <= SHARE_OF_RATING * controls["dimming"].usual_max_watts else "dimming-strong"]


def spending_of(
    brief: Brief, design: Design, layout: Layout, watts: Array, held: bool, nights: Sequence[Any], lamps: Sequence[Any]
) -> Spending:
    """Of a layout at its watts (w) with each of the night sources (n) and UV lamps (u)."""
    shape = (len(watts), len(nights), len(lamps))
    asked = Spending(*(np.zeros(shape) for _ in range(5)))
    asked.price[:] += price_of("timer", 0.0)
    _add_main(asked, brief, layout, watts, held)
    for n, night in enumerate(nights):
        if night.layout is not None:
            _add_night(asked, brief, layout, watts, n, night)
    unlit = not load_catalogue().sources[layout.kind].light and bool(day_lights(design))
    for u, lamp in enumerate(lamps):
        _add_lamp(asked, brief, u, lamp.data, unlit)
    asked.kwh_year[:] *= DAYS_A_YEAR / WATTS_PER_KILO
    return asked


def _add_main(asked: Spending, brief: Brief, layout: Layout, watts: Array, held: bool) -> None:
    kind = load_catalogue().sources[layout.kind]
    for w, one in enumerate(watts):
        missing = max(layout.count - brief.owns(layout.kind, float(one)), 0)
        asked.bought[w] += missing
        asked.price[w] += missing * price_of(layout.kind, float(one)) + layout.count * _fixture_price(layout)
        asked.price[w] += price_of(control_type(kind, one * layout.count).kind, 0.0) if held else 0.0
        asked.kwh_year[w] += one * layout.count * HALF_A_DAY_H * (USUAL_DUTY if held else 1.0)
    asked.parts[:] += layout.count + held
    asked.holes[:] += layout.count * _needs_a_hole(layout)


def _add_night(asked: Spending, brief: Brief, layout: Layout, watts: Array, n: int, night: Any) -> None:
    kind = load_catalogue().sources[night.layout.kind]
    used = layout.count * ((watts == night.watts) & (layout.kind == night.layout.kind))
    missing = (brief.owns(night.layout.kind, night.watts) - used < 1)[:, None]
    asked.bought[:, n] += missing
    asked.price[:, n] += missing * price_of(night.layout.kind, night.watts) + _fixture_price(night.layout)
    asked.price[:, n] += price_of(control_type(kind, night.watts).kind, 0.0)
    asked.parts[:, n] += 2
    asked.holes[:, n] += _needs_a_hole(night.layout)
    asked.kwh_year[:, n] += night.watts * HALF_A_DAY_H * USUAL_DUTY


def _add_lamp(asked: Spending, brief: Brief, u: int, data: dict[str, Any], unlit: bool) -> None:
    """A UV lamp; without one, a plain light where nothing else shines."""
    if data and not brief.owns(data["lamp"], data["watts"]):
        asked.bought[:, :, u] += 1
        asked.price[:, :, u] += price_of(data["lamp"], data["watts"])
    elif not data and unlit:
        asked.price[:, :, u] += price_of("led", 0.0)
    asked.parts[:, :, u] += bool(data) or unlit
    asked.kwh_year[:, :, u] += data.get("watts", 0.0) * HALF_A_DAY_H


def _fixture_price(layout: Layout) -> float:
    if layout.family != "lamp":
        return 0.0
    return price_of(layout.heaters[0]["fixture"]["kind"], 0.0)


def _needs_a_hole(layout: Layout) -> int:
    """Whether something is screwed or led through a wall: what hangs inside, not what lies on a mesh or under it."""
    return int(layout.family != "contact" and not layout.heaters[0].get("above_mesh", False))


def purchase_price(design: Design, brief: Brief) -> float:
    """What the gear of a design costs by the placeholder prices, less what is owned."""
    left = Counter((one.kind, one.watts) for one in brief.owned if one.fits_its_fixture)
    total = price_of("timer", 0.0)
    for kind, watts in [(h.kind, h.watts) for h in design.heaters] + [(lamp.lamp, lamp.watts) for lamp in design.uvb]:
        if left[kind, watts] > 0:
            left[kind, watts] -= 1
        else:
            total += price_of(kind, watts)
    catalogue = load_catalogue()
    total += sum(price_of(h.fixture.kind, 0.0) for h in design.heaters if catalogue.sources[h.kind].needs_fixture)
    return total + len(design.lights) * price_of("led", 0.0) + sum(price_of(c.kind, 0.0) for c in design.controls)
