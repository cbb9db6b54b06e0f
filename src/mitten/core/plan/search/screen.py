"""All combinations of sources, screened by their responses: no solve a combination."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from mitten.core.catalogue import load_catalogue
from mitten.core.design import LEAST_LAMP_HEIGHT_M, BadDesignError
from mitten.core.physics.geometry import Array
from mitten.core.plan.search.brief import ApproachName, Brief, approach_of
from mitten.core.plan.search.furnish import Furnished
from mitten.core.plan.search.layouts import Layout, layouts_of
from mitten.core.plan.search.responses import (
    COOL_AIR,
    LEAST_RISE_K,
    PROBE,
    RISING,
    SURFACE,
    UVI,
    Enclosed,
    Response,
    at_power,
)
from mitten.core.plan.search.spending import spending_of
from mitten.core.plan.search.wishes import Wishes
from mitten.core.plan.usual import new_tube

NIGHT_KINDS = ("ceramic-emitter", "carbon-projector", "radiant-panel")
UV_HEIGHTS_M = (0.0, 0.06, 0.12)
UNKNOWN_UV = 0.6
"""How likely the ultraviolet of a lamp is right that only a meter can tell."""

A_KELVIN = 0.01
A_UVI = 0.03
"""What a kelvin, or one of UV index, outside a target takes off: it tells the hopeless apart."""


@dataclass(frozen=True)
class Night:
    """What heats by night: nothing, the day's own source, or another."""

    label: str
    layout: Layout | None = None
    watts: float = 0.0


NOTHING, SAME = Night("nothing"), Night("the same source")


@dataclass(frozen=True)
class Ultraviolet:
    """A UV lamp's data, and the index it makes at the basking place; none where ``data`` is empty."""

    data: dict[str, Any] = field(default_factory=dict)
    uvi: float = 0.0


@dataclass(frozen=True)
class Candidate:
    """One combination, and what the screening says of it: rises (figures,) by day in winter, chance and score."""

    furnished: Furnished
    layout: Layout
    watts: float
    held: bool
    night: Night
    ultraviolet: Ultraviolet
    chance: float
    score: float

    @property
    def kind(self) -> str:
        """The main source's kind."""
        return self.layout.kind

    @property
    def approach(self) -> ApproachName:
        """The school that it belongs to; one lamp where nothing else is powered."""
        kind = load_catalogue().sources[self.kind]
        alone = self.layout.count == 1 and self.night is NOTHING and not self.ultraviolet.data and kind.light
        return "one-lamp" if alone else approach_of(kind)


@dataclass
class Screened:
    """A furnished enclosure with the responses of what may go in it, and what has been learned of their errors."""

    furnished: Furnished
    enclosed: Enclosed
    responses: list[Response]
    nights: list[tuple[Night, float]]
    ultraviolet: list[Ultraviolet]
    errors: dict[str, Array] = field(default_factory=dict)
    """By layout's kind: what the full model's day rises (figures,) were, over the screened ones."""

    best: dict[str, list[Candidate]] = field(default_factory=dict)
    """By kind: the best combinations as the screening has them now."""

    @property
    def combinations(self) -> int:
        """How many combinations are screened here."""
        choices = sum(len(response.layout.watts_sold) * len(_controls(response)) for response in self.responses)
        return choices * (len(self.nights) + 1) * len(self.ultraviolet)


def screened(brief: Brief, furnished: Furnished) -> Screened:
    """The responses of everything that a brief allows in an enclosure."""
    enclosed = Enclosed(furnished.design)
    catalogue = load_catalogue()
    mains = [
        layout for kind in catalogue.sources if brief.allows(kind) for layout in layouts_of(furnished.design, kind)
    ]
    responses = [found for layout in mains if (found := _response(enclosed, layout)) is not None]
    night_kinds = [kind for kind in NIGHT_KINDS if kind not in brief.avoid]
    return Screened(
        furnished, enclosed, responses, list(_nights(enclosed, night_kinds)), list(_ultraviolet(enclosed, brief))
    )


def _response(enclosed: Enclosed, layout: Layout) -> Response | None:
    try:
        return enclosed.respond(layout)
    except BadDesignError:
        return None


def _nights(enclosed: Enclosed, kinds: Sequence[str]) -> Iterator[tuple[Night, float]]:
    """Night sources with the rise of the cool side at full power, nothing first; the higher of the places will do."""
    yield NOTHING, 0.0
    for kind in kinds:
        layout = next(reversed([one for one in layouts_of(enclosed.design, kind) if one.count == 1]), None)
        response = None if layout is None else _response(enclosed, layout)
        if layout is None or response is None:
            continue
        for watts in layout.watts_sold:
            rise = at_power(response, np.array(watts / response.watts), enclosed.powers)[COOL_AIR]
            yield Night(f"{watts:g} W {load_catalogue().sources[kind].label}", layout, watts), float(rise)


def _ultraviolet(enclosed: Enclosed, brief: Brief) -> Iterator[Ultraviolet]:
    """No UV lamp, and every kind at a few heights."""
    yield Ultraviolet()
    wants = Wishes.of(enclosed.design).targets.uvi
    for kind in load_catalogue().uvb if wants[1] > 0 else ():
        for lower_m in UV_HEIGHTS_M if kind not in brief.avoid else ():
            data = {**new_tube(enclosed.design, kind), "on": "day"}
            if data["above_mesh"] and lower_m:
                continue
            data["z_m"] = round(data["z_m"] - lower_m, 3)
            if data["z_m"] < enclosed.design.substrate.depth_m + LEAST_LAMP_HEIGHT_M:
                continue
            try:
                yield Ultraviolet(data, float(enclosed.of_parts(uvb=[data])[UVI]))
            except BadDesignError:
                continue


def _controls(response: Response) -> tuple[bool, ...]:
    """Whether a layout is held by a thermostat: what is lightless always is, what cannot be dimmed never."""
    kind = load_catalogue().sources[response.layout.kind]
    if not kind.dims:
        return (False,)
    return (False, True) if kind.light else (True,)


def candidates(brief: Brief, found: Screened, kind: str) -> list[Candidate]:
    """The best combination of a kind of main source for each approach that it can follow, best first."""
    wishes = Wishes.of(found.furnished.design)
    best: dict[ApproachName, Candidate] = {}
    for response in found.responses:
        for held in _controls(response) if response.layout.kind == kind else ():
            for one in _best_of(brief, found, wishes, response, held):
                if one.approach not in best or one.score > best[one.approach].score:
                    best[one.approach] = one
    return sorted(best.values(), key=lambda one: -one.score)


def _best_of(brief: Brief, found: Screened, wishes: Wishes, response: Response, held: bool) -> Iterator[Candidate]:
    """The best of one layout under one control over its watts (w), night sources (n) and UV lamps (u): with others, and
    on its own.
    """
    layout = response.layout
    nights = _nights_for(found, layout)
    chance, score = _scored(brief, found, wishes, response, held, nights)
    alone = np.zeros(score.shape, dtype=bool)
    alone[:, 0, 0] = layout.count == 1
    for mask in (alone, ~alone):
        masked = np.where(mask, score, -np.inf)
        w, n, u = np.unravel_index(int(masked.argmax()), score.shape)
        if np.isfinite(masked[w, n, u]):
            yield Candidate(
                found.furnished, layout, layout.watts_sold[w], held, nights[n][0], found.ultraviolet[u],
                float(chance[w, n, u]), float(score[w, n, u]),
            )  # fmt: skip


def _nights_for(found: Screened, layout: Layout) -> list[tuple[Night, float]]:
    """Night sources that go with a layout, with their rises; itself, where it gives no light.

    A mat warms the ground: however hot, it does not hold the air of a night.
    """
    own = not load_catalogue().sources[layout.kind].light and layout.family != "contact"
    return found.nights + ([(SAME, np.nan)] if own else [])


def _scored(
    brief: Brief, found: Screened, wishes: Wishes, response: Response, held: bool,
    nights: Sequence[tuple[Night, float]],
) -> tuple[Array, Array]:  # fmt: skip
    """Chance and score (w, n, u); what is not allowed has no score."""
    layout, powers = response.layout, found.enclosed.powers
    watts = np.array(layout.watts_sold)
    full = at_power(response, watts / response.watts, powers)
    full[:, RISING] *= found.errors.get(layout.kind, np.ones(UVI))
    days = list(zip(_by_season(wishes, full, held, layout, powers), wishes.by_day_c, strict=True))
    day = np.minimum(*(wishes.day_chance(rises, room_c) for rises, room_c in days))
    missed_k = np.maximum(*(wishes.shortfall_k(rises, room_c) for rises, room_c in days))
    night = np.stack([_night_chance(wishes, full, one, rise) for one, rise in nights], axis=1)
    chance = day[:, None, None] * night[:, :, None] * _uv_chances(found, wishes, layout)
    cool = np.stack([full[:, COOL_AIR] if one is SAME else np.full(len(full), rise) for one, rise in nights], axis=1)
    missed = A_KELVIN * (missed_k[:, None] + wishes.night_shortfall_k(cool))[:, :, None]
    missed = missed + A_UVI * wishes.uv_shortfall(np.array([one.uvi for one in found.ultraviolet]))
    sources = [one for one, _ in nights]
    asked = spending_of(brief, found.furnished.design, layout, watts, held, sources, found.ultraviolet)
    return chance, np.where(asked.allowed(brief), chance - asked.weight - missed, -np.inf)


def _uv_chances(found: Screened, wishes: Wishes, layout: Layout) -> Array:
    """Chance (u,) of the ultraviolet; what a lamp gives that only a meter can tell is taken as likely."""
    chances = np.array([float(wishes.uv_chance(np.array(one.uvi))) for one in found.ultraviolet])
    if load_catalogue().sources[layout.kind].arc_share and wishes.targets.uvi[0] > 0:
        chances[0] = UNKNOWN_UV
    return chances


def _by_season(wishes: Wishes, full: Array, held: bool, layout: Layout, powers: Array) -> tuple[Array, Array]:
    """Rises (w, figures) on a winter and on a summer day; a thermostat keeps its probe, and so nearly the basking
    place, at one temperature in both, set so that the place is as much too warm in one as too cold in the other.
    """
    if not held:
        return full, full
    winter_c, summer_c = wishes.by_day_c
    surface = np.maximum(full[:, SURFACE], LEAST_RISE_K)
    # A mat's probe lies on it and follows it closely; one beside a basking place lags behind the place.
    probe = surface if layout.family == "contact" else np.maximum(full[:, PROBE], LEAST_RISE_K)
    more_in_winter = (summer_c - winter_c) / probe
    in_summer = (2 * wishes.surface_c - winter_c - summer_c - surface * more_in_winter) / (2 * surface)
    shares = np.clip(in_summer + more_in_winter, 0.0, 1.0), np.clip(in_summer, 0.0, 1.0)
    return _scaled(full, shares[0], powers), _scaled(full, shares[1], powers)


def _scaled(full: Array, share: Array, powers: Array) -> Array:
    """Rises (w, figures) at the power that gives that share (w,) of the surface's rise."""
    by_watts = share[:, None] ** (powers / powers[SURFACE])
    return np.concatenate([full[:, RISING] * by_watts, full[:, UVI:]], axis=1)


def _night_chance(wishes: Wishes, full: Array, night: Night, rise: float) -> Array:
    """Chance (w,) of the nights; the day's own source must not burn the basking place while it warms the cool side."""
    if night is SAME:
        harmless = wishes.basking_at_night_c(full[:, SURFACE], full[:, COOL_AIR]) < wishes.targets.danger_contact_c
        return np.where(harmless, wishes.night_chance(full[:, COOL_AIR], held=True), 0.0)
    return np.full(len(full), wishes.night_chance(np.array(rise), held=night is not NOTHING))
