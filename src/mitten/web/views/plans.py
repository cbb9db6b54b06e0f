"""The Plans page: what was found, why, and what it trades off."""

import hashlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from threading import Event

from markupsafe import Markup

from mitten.core.catalogue import Catalogue
from mitten.core.design.units import Units
from mitten.core.plan.search import (
    Brief,
    Near,
    Owned,
    Plan,
    Progress,
    asked_of_the_box,
    chance_words,
    distinct,
    explanation,
    is_simplest,
    misses,
    night_words,
    placeholder_of,
    source_words,
)
from mitten.draw.tradeoff import TradeoffPoint, tradeoff
from mitten.store import Shelved
from mitten.web.owned import gear_key
from mitten.web.searches import Searching
from mitten.web.views.card import Card
from mitten.web.views.control_words import setpoint_words

APPROACH_WORDS = {"sunlit": "Sunlit", "lightless": "Lightless", "ground": "Ground", "one-lamp": "One lamp"}
GIVES_UP = {
    "sunlit": "Bright like the day. Lamps wear out, and a second source is needed where nights are cold.",
    "lightless": "Warm day and night without light of its own. It gives little of the near-infrared of the sun.",
    "ground": "Belly warmth for boxes that are too low for lamps. It warms the ground and hardly the air.",
    "one-lamp": "The fewest parts. When it fails, everything does.",
}
MOST_PURCHASES = 1
WORN_SHARE = 0.8
HARMLESS, HARMFUL = "harmless when a thermostat sticks", "dangerous when its thermostat sticks"
NOTHING_STICKS = "no thermostat that could stick"


@dataclass(frozen=True)
class PlanRow:
    """One plan as a row."""

    key: str
    number: int
    approach: str
    source: str
    night: str
    sets: Sequence[str]
    chance: str
    kwh: str
    running: str
    price: str
    parts: int
    stuck: str
    harmless: bool
    can_stick: bool
    reasons: Sequence[str]
    gives_up: str
    drawing: Markup
    best: bool
    simplest: bool
    asks: Sequence[str]
    """What it asks of the box and of the keeper."""


@dataclass(frozen=True)
class NearRow:
    """A plan that does not work, what it misses, and the changes that mend it, each with what a form sends."""

    row: PlanRow
    misses: Sequence[str]
    mends: Sequence[str]
    is_harmless: bool


@dataclass(frozen=True)
class PlansView:
    """The page: the brief, how far the search has come, rows, and the picture."""

    shelved: Shelved
    begun: bool
    running: bool
    before: int
    """Searches that have their turn before this one."""

    share: int
    step: str
    combinations: str
    looked_at: int
    rows: Sequence[PlanRow]
    picture: Markup
    said: Sequence[str]
    nearest: Sequence[NearRow]
    trouble: str
    owned: Sequence[tuple[str, str]]
    """Pieces of owned gear: what tells each from others, and in words."""

    kinds: Sequence[str]

    @property
    def path(self) -> str:
        """Address of the enclosure."""
        return f"/enclosures/{self.shelved.id}"


def key_of(plan: Plan) -> str:
    """A plan's key in addresses: of its design."""
    return hashlib.sha256(plan.design.model_dump_json().encode()).hexdigest()[:16]


def plans_view(
    shelved: Shelved,
    searching: Searching | None,
    order: str,
    owned: Sequence[Owned],
    units: Units,
    card_of: Callable[[Plan], Card],
    catalogue: Catalogue,
    before: int = 0,
) -> PlansView:
    """The page of a search as far as it has come; without one, of what is not looked for yet."""
    found = searching.seen() if searching else Searching(Brief(shelved.design, catalogue), Event(), Progress(), False)
    progress = found.progress
    best = {id(plan) for plan in progress.best_by_approach.values()}
    plans = sorted(distinct(progress.plans, catalogue), key=_order(order))
    rows = [
        _row(number, plan, progress, card_of(plan), units, id(plan) in best, is_simplest(plan, plans))
        for number, plan in enumerate(plans, 1)
    ]
    points = [
        TradeoffPoint(row.number, plan.kwh_year, plan.chance, f"{row.source}, {row.chance}, {row.kwh}")
        for row, plan in zip(rows, plans, strict=True)
    ]
    near = [_near(number, one, progress, card_of(one.plan), units) for number, one in enumerate(found.nearest, 1)]
    return PlansView(
        shelved=shelved, begun=searching is not None, running=found.running, before=before,
        share=round(100 * progress.share),
        step=progress.step, combinations=f"{progress.combinations:,}", looked_at=progress.looked_at, rows=rows,
        picture=tradeoff(points), said=[units.say(one) for one in found.said], nearest=near,
        trouble=found.trouble, owned=[(gear_key(one), gear_words(one, catalogue)) for one in owned],
        kinds=owned_kinds(catalogue),
    )  # fmt: skip


def _order(order: str) -> Callable[[Plan], float]:
    keys: dict[str, Callable[[Plan], float]] = {
        "chance": lambda plan: -plan.chance,
        "price": lambda plan: plan.price,
        "kwh": lambda plan: plan.kwh_year,
        "gentle": lambda plan: (not plan.harmless_when_stuck) * 10.0 - plan.score,
    }
    return keys.get(order, lambda plan: -plan.score)


def _near(number: int, near: Near, progress: Progress, card: Card, units: Units) -> NearRow:
    return NearRow(
        row=_row(number, near.plan, progress, card, units),
        misses=[units.say(one) for one in misses(near.plan)],
        mends=[units.say(one.words) for one in near.mends],
        is_harmless=not near.plan.assessment.stops,
    )


def _row(
    number: int, plan: Plan, progress: Progress, card: Card, units: Units, best: bool = False, simplest: bool = False
) -> PlanRow:  # fmt: skip
    tariff, currency = plan.design.room.tariff_per_kwh, plan.design.room.currency or ""
    running = "" if tariff is None else f"{plan.kwh_year * tariff:.0f} {currency} a year".strip()
    return PlanRow(
        key=key_of(plan), number=number, approach=APPROACH_WORDS[plan.approach],
        source=units.say(source_words(plan.candidate, plan.assessment.catalogue)), night=units.say(night_words(plan)),
        sets=controls_words(plan, units), chance=chance_words(plan.chance),
        kwh=f"{plan.kwh_year:.0f} kWh", running=running, price=f"{plan.price:.0f}", parts=plan.parts,
        stuck=_when_stuck(plan), harmless=plan.harmless_when_stuck,
        can_stick=any(control.is_thermostat for control in plan.design.controls),
        reasons=[units.say(one) for one in explanation(plan, progress)],
        gives_up=GIVES_UP[plan.approach], drawing=card.drawing, best=best, simplest=simplest,
        asks=[units.say(one) for one in asked_of_the_box(plan)],
    )  # fmt: skip


def controls_words(plan: Plan, units: Units) -> list[str]:
    """What each control is set to."""
    return [f"{control.name}, {control.kind}: {setpoint_words(control, units)}" for control in plan.design.controls]


def gear_words(gear: Owned, catalogue: Catalogue) -> str:
    """A piece of owned gear, with what its fixture and its hours say of it."""
    words = f"{gear.watts:g} W {({**catalogue.sources, **catalogue.uvb})[gear.kind].label}"
    if not gear.fits_its_fixture:
        words += f", left out: its fixture may hold {gear.fixture_w:g} W"
    elif gear.fixture_w is not None:
        words += f", in a fixture for {gear.fixture_w:g} W"
    life_h = placeholder_of(gear.kind, catalogue).life_h
    if gear.hours is not None:
        worn = life_h is not None and gear.hours > WORN_SHARE * life_h
        words += f", {gear.hours:.0f} h burned" + (f" of about {life_h:.0f}: keep a spare" if worn else "")
    return words


def owned_kinds(catalogue: Catalogue) -> list[str]:
    """Gear that can be owned, in words, with every wattage sold."""
    kinds = [kind for table in (catalogue.sources, catalogue.uvb) for kind in table.values()]
    return [f"{watts:g} W {kind.label}" for kind in kinds for watts in kind.watts_sold]


def _when_stuck(plan: Plan) -> str:
    """What a thermostat that sticks at full power would do."""
    if not any(control.is_thermostat for control in plan.design.controls):
        return NOTHING_STICKS
    if not plan.harmless_when_stuck:
        return HARMFUL
    relies = any(control.cut_out_c is not None for control in plan.design.controls)
    return f"{HARMLESS}, by its cut-out" if relies else HARMLESS
