"""What combinations ask for: things to buy, their price, energy, parts and holes."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from mitten.core.catalogue import Catalogue, ControlType, SourceKind
from mitten.core.design import Design
from mitten.core.physics.arrays import Array
from mitten.core.plan.cost import DAYS_A_YEAR
from mitten.core.plan.search.screening.axes import of_watts, of_watts_and_nights
from mitten.core.plan.search.screening.extras import Mat, Night, Ultraviolet
from mitten.core.plan.search.screening.layouts import Layout
from mitten.core.plan.search.screening.prices import price_of
from mitten.core.plan.search.screening.probing import day_lights
from mitten.core.plan.search.wants.brief import Brief
from mitten.core.plan.usual import usual_control

A_PART = 0.01
A_HOLE = 0.01
A_KWH = 0.00008
A_UNIT_OF_PRICE = 0.0002
WATTS_PER_KILO = 1000.0
HALF_A_DAY_H = 12.0
"""How long a source of the day or of the night runs, near enough to compare by."""

USUAL_DUTY = 0.5
"""Share of its power that a source on a thermostat gives over a year, near enough to compare by."""


@dataclass(frozen=True)
class Demand:
    """What one part asks for: sources to buy, the price of all that is not owned, parts, holes and kWh a year."""

    bought: float = 0.0
    price: float = 0.0
    parts: float = 0.0
    holes: float = 0.0
    kwh_year: float = 0.0

    @cached_property
    def weight(self) -> float:
        """What is taken off the chance for it."""
        return A_PART * self.parts + A_HOLE * self.holes + A_KWH * self.kwh_year + A_UNIT_OF_PRICE * self.price


@dataclass(frozen=True, eq=False)
class Spending:
    """Of combinations (watts, nights, mats, lamps): sources to buy, the price, and what is taken off the chance."""

    bought: Array
    price: Array
    weight: Array

    def allowed(self, brief: Brief) -> Array:
        """Which combinations the shelf and the purse allow."""
        within = np.ones_like(self.bought, dtype=bool)
        if brief.only_owned:
            within &= self.bought <= brief.purchases
        if brief.budget is not None:
            within &= self.price <= brief.budget
        return np.asarray(within)


def control_type(kind: SourceKind, load_w: float, catalogue: Catalogue) -> ControlType:
    """The control that suits a kind under a load."""
    return catalogue.controls[usual_control(kind, load_w, catalogue)]


@dataclass(frozen=True, eq=False)
class HelperDemands:
    """What the night sources, mats and UV lamps of an enclosure ask for; the lamps beside a main source
    that gives light, and beside one that gives none.
    """

    nights: Sequence[Demand]
    mats: Sequence[Demand]
    lamps_lit: Sequence[Demand]
    lamps_unlit: Sequence[Demand]


def demands_of_helpers(
    brief: Brief, design: Design, nights: Sequence[Night], mats: Sequence[Mat], lamps: Sequence[Ultraviolet]
) -> HelperDemands:
    """What all that may help a main source asks for."""
    return HelperDemands(
        [_of_night(brief, night, 0) for night in nights],
        [_of_mat(brief, mat) for mat in mats],
        [_of_lamp(brief, lamp.data, False) for lamp in lamps],
        [_of_lamp(brief, lamp.data, bool(day_lights(design))) for lamp in lamps],
    )


def spending_of(
    brief: Brief, layout: Layout, watts: Array, held: bool, nights: Sequence[Night], mats: int, others: HelperDemands
) -> Spending:
    """Of a layout at its watts with each of the night sources, the first so many mats and each UV lamp.

    ``nights`` are those of ``others``, or those and more that ask for nothing.
    """
    mains = [_of_main(brief, layout, float(one), held) for one in watts]
    beside = [_of_nights(brief, layout, float(one), nights, others) for one in watts]
    lamps = others.lamps_lit if layout.source.light else others.lamps_unlit
    sums = (_sum_over(figure, mains, beside, others.mats[:mats], lamps) for figure in ("bought", "price", "weight"))
    return Spending(*sums)


def _sum_over(
    figure: str, mains: Sequence[Demand], nights: Sequence[Sequence[Demand]], mats: Sequence[Demand],
    lamps: Sequence[Demand],
) -> Array:  # fmt: skip
    """One figure of all combinations (watts, nights, mats, lamps)."""
    of_main, of_mat, of_lamp = (np.array([getattr(one, figure) for one in of]) for of in (mains, mats, lamps))
    of_night = np.array([[getattr(one, figure) for one in row] for row in nights])
    return np.asarray(of_watts(of_main) + of_watts_and_nights(of_night) + of_mat[:, None] + of_lamp)


def _of_nights(
    brief: Brief, layout: Layout, watts: float, nights: Sequence[Night], others: HelperDemands
) -> list[Demand]:
    """What each night source asks for beside a main source that may take some off the shelf."""
    row = [*others.nights, *(Demand() for _ in nights[len(others.nights) :])]
    for n, night in enumerate(nights if brief.owned else ()):
        used = _count_used(layout, watts, night)
        if used:
            row[n] = _of_night(brief, night, used)
    return row


def _count_used(layout: Layout, watts: float, night: Night) -> int:
    """How many of a night source's kind and watts the main layout takes off the shelf."""
    alike = night.layout is not None and (layout.kind, watts) == (night.layout.kind, night.watts)
    return layout.count if alike else 0


def _of_main(brief: Brief, layout: Layout, watts: float, held: bool) -> Demand:
    """The main sources with their fixtures and control, and the timer."""
    kind = layout.source
    missing = max(layout.count - brief.owns(layout.kind, watts), 0)
    control = (
        price_of(control_type(kind, watts * layout.count, brief.catalogue).kind, 0.0, brief.catalogue) if held else 0.0
    )
    return Demand(
        bought=missing,
        price=price_of("timer", 0.0, brief.catalogue) + missing * price_of(layout.kind, watts, brief.catalogue)
        + layout.count * _fixture_price(layout, brief.catalogue) + control,
        parts=layout.count + held,
        holes=layout.count * _needs_a_hole(layout),
        kwh_year=_kwh_year(watts * layout.count, HALF_A_DAY_H, USUAL_DUTY if held else 1.0),
    )  # fmt: skip


def _of_night(brief: Brief, night: Night, used: int) -> Demand:
    """A source of the night, or of the air all day, with its fixture and control."""
    if night.layout is None:
        return Demand()
    hours = 2 * HALF_A_DAY_H if night.all_day else HALF_A_DAY_H
    return _with_control(brief, night.layout, night.watts, hours, used)


def _of_mat(brief: Brief, mat: Mat) -> Demand:
    return Demand() if mat.layout is None else _with_control(brief, mat.layout, mat.watts, 2 * HALF_A_DAY_H, 0)


def _with_control(brief: Brief, layout: Layout, watts: float, hours: float, used: int) -> Demand:
    """One source, or a pair, on a thermostat of its own."""
    count = layout.count
    missing = max(count - max(brief.owns(layout.kind, watts) - used, 0), 0)
    control = price_of(control_type(layout.source, watts * count, brief.catalogue).kind, 0.0, brief.catalogue)
    return Demand(
        bought=missing,
        price=missing * price_of(layout.kind, watts, brief.catalogue)
        + count * _fixture_price(layout, brief.catalogue)
        + control,
        parts=count + 1,
        holes=count * _needs_a_hole(layout),
        kwh_year=_kwh_year(watts * count, hours, USUAL_DUTY),
    )


def _of_lamp(brief: Brief, data: dict[str, Any], unlit: bool) -> Demand:
    """A UV lamp; without one, a plain light where nothing else shines."""
    if not data:
        return Demand(price=price_of("led", 0.0, brief.catalogue), parts=1) if unlit else Demand()
    missing = not brief.owns(data["lamp"], data["watts"])
    price = price_of(data["lamp"], data["watts"], brief.catalogue) if missing else 0.0
    return Demand(missing, price, parts=1, kwh_year=_kwh_year(data["watts"], HALF_A_DAY_H, 1.0))


def _kwh_year(watts: float, hours: float, duty: float) -> float:
    return watts * hours * duty * DAYS_A_YEAR / WATTS_PER_KILO


def _fixture_price(layout: Layout, catalogue: Catalogue) -> float:
    if layout.family != "lamp":
        return 0.0
    return price_of(layout.heaters[0]["fixture"]["kind"], 0.0, catalogue)


def _needs_a_hole(layout: Layout) -> int:
    """Whether something is screwed or led through a wall: what hangs inside, not what lies on a mesh or under it."""
    return int(layout.family != "contact" and not layout.heaters[0].get("above_mesh", False))


def purchase_price(design: Design, brief: Brief) -> float:
    """What the gear of a design costs by the placeholder prices, less what is owned."""
    left = Counter((one.kind, one.watts) for one in brief.owned if one.fits_its_fixture)
    total = price_of("timer", 0.0, brief.catalogue)
    for kind, watts in [(h.kind, h.watts) for h in design.heaters] + [(lamp.lamp, lamp.watts) for lamp in design.uvb]:
        if left[kind, watts] > 0:
            left[kind, watts] -= 1
        else:
            total += price_of(kind, watts, brief.catalogue)
    catalogue = brief.catalogue
    total += sum(
        price_of(h.fixture.kind, 0.0, brief.catalogue)
        for h in design.heaters
        if catalogue.sources[h.kind].needs_fixture
    )
    return (
        total
        + len(design.lights) * price_of("led", 0.0, brief.catalogue)
        + sum(price_of(c.kind, 0.0, brief.catalogue) for c in design.controls)
    )
