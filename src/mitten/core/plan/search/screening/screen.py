"""All combinations of sources, screened by their responses: no solve a combination."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.physics.arrays import Array
from mitten.core.plan.search.crew import ALONE, Crew
from mitten.core.plan.search.screening.axes import best_of, of_watts_and_nights, of_watts_nights_and_mats
from mitten.core.plan.search.screening.days import Main, days_of
from mitten.core.plan.search.screening.extras import (
    NO_MAT,
    NOTHING,
    SAME,
    Mat,
    Night,
    Ultraviolet,
    helping_layouts,
    mats_of,
    nights_of,
    ultraviolet_in,
)
from mitten.core.plan.search.screening.layouts import Layout, is_out_of_place, layouts_of
from mitten.core.plan.search.screening.probing import beside_the_basking_place
from mitten.core.plan.search.screening.responses import Response, at_power, responses_of
from mitten.core.plan.search.screening.spending import HelperDemands, demands_of_helpers, spending_of
from mitten.core.plan.search.screening.taste import idling, misgivings
from mitten.core.plan.search.wants.brief import ApproachName, Brief, approach_of
from mitten.core.plan.search.wants.figures import BASKING_AIR, COOL_AIR, LEAST_RISE_K, RISING, SURFACE, UVI
from mitten.core.plan.search.wants.furnish import Furnished
from mitten.core.plan.search.wants.wishes import Wishes

LEAST_ERROR, MOST_ERROR = 0.7, 1.4
"""What the full model may correct the screening by."""

UNKNOWN_UV = 0.6
"""How likely the ultraviolet of a lamp is right that only a meter can tell."""

FELT_AT_LEAST = 0.12
"""Share of the basking surface's rise that the air beside it must show for a probe there to hold the place."""

A_KELVIN = 0.01
"""What a kelvin beyond what is borne takes off: it tells the hopeless apart."""

A_WANTED_K = 0.02
A_WANTED_UVI = 0.08
"""What a kelvin, or one of UV index, outside what is wanted on a usual day takes off."""


Shape = Literal["plain", "several", "helped"]


@dataclass(frozen=True)
class Candidate:
    """One combination, and what the screening says of it: its chance and score."""

    furnished: Furnished
    layout: Layout
    watts: float
    held: bool
    night: Night
    mat: Mat
    ultraviolet: Ultraviolet
    chance: float
    score: float
    rises: Array = field(compare=False, repr=False)
    """What it is thought to do on a winter day (figures,)."""

    @property
    def kind(self) -> str:
        """The main source's kind."""
        return self.layout.kind

    @property
    def approach(self) -> ApproachName:
        """The school that it belongs to; one lamp where nothing else is powered."""
        kind = self.layout.source
        alone = self.is_plain and not self.ultraviolet.data
        return "one-lamp" if kind.light and alone else approach_of(kind)

    @property
    def shape(self) -> Shape:
        """Plain is what everybody would hang: one source, and at most a UV lamp beside it; else several small ones, or
        one that is helped by heat for the air or the ground.
        """
        if self.night not in (NOTHING, SAME) or self.mat != NO_MAT:
            return "helped"
        return "plain" if self.layout.count == 1 else "several"

    @property
    def is_plain(self) -> bool:
        """Whether it is what everybody would hang."""
        return self.shape == "plain"


@dataclass
class Screened:
    """A furnished enclosure with the responses of what may go in it, and what has been learned of their errors."""

    furnished: Furnished
    catalogue: Catalogue
    helping: list[Response]
    responses: list[Response]
    nights: list[Night]
    mats: list[Mat]
    ultraviolet: list[Ultraviolet]
    beside: HelperDemands
    errors: dict[str, Array] = field(default_factory=dict)
    """By main source's kind: what the full model's day rises (figures but the UV index,) were, over the screened."""

    best: dict[tuple[int, bool], list[Candidate]] = field(default_factory=dict)
    """By main source, its place among the responses, and whether it is held: its best combinations as they are thought
    of now.
    """

    @property
    def combinations(self) -> int:
        """How many combinations are screened here."""
        found = 0
        for response in self.responses:
            choices = len(response.layout.watts_sold) * len(_controls(self, response))
            found += choices * len(_nights_for(self, response.layout)) * len(_mats_for(self, response.layout))
        return found * len(self.ultraviolet)

    def add(self, layouts: Sequence[Layout], crew: Crew) -> None:
        """Work out what more main sources do, but for those that do not fit after all."""
        known = [response for response in self.helping if response.layout in layouts]
        left = [layout for layout in layouts if all(layout != response.layout for response in known)]
        self.responses += [*known, *responses_of(self.furnished.design, self.catalogue, left, crew)]

    def learn(self, candidate: Candidate, real: Array) -> None:
        """Note by how much a winter day's rises (figures,) differ on the full model from the screened ones, for
        combinations of that kind.
        """
        expected = np.maximum(candidate.rises[RISING], LEAST_RISE_K)
        known = self.errors.get(candidate.kind, np.ones(UVI))
        self.errors[candidate.kind] = np.clip(known * real[RISING] / expected, LEAST_ERROR, MOST_ERROR)
        for place, held in list(self.best):
            if self.responses[place].layout.kind == candidate.kind:
                del self.best[place, held]


def begin_screening(brief: Brief, furnished: Furnished, crew: Crew = ALONE) -> Screened:
    """An enclosure with what may help a main source, and no main source yet."""
    design = furnished.design
    lit = crew.executor.submit(ultraviolet_in, design, brief)
    helping = responses_of(design, brief.catalogue, helping_layouts(design, brief), crew, closely=True)
    nights, mats, lamps = (
        list(nights_of(helping, Wishes.of(design, brief.catalogue))),
        list(mats_of(helping)),
        lit.result(),
    )
    demands = demands_of_helpers(brief, design, nights, mats, lamps)
    return Screened(furnished, brief.catalogue, helping, [], nights, mats, lamps, demands)


def layouts_for(brief: Brief, furnished: Furnished) -> list[Layout]:
    """Every layout of main sources that a brief allows in an enclosure.

    What seeks warmth from above gets it from below only where the keeper asks for that, or nothing else has room.
    """
    from_below = brief.approach == "ground" or not Wishes.of(furnished.design, brief.catalogue).from_above
    return _layouts(brief, furnished, from_below) or _layouts(brief, furnished, True)


def _layouts(brief: Brief, furnished: Furnished, from_below: bool) -> list[Layout]:
    wants_uv = Wishes.of(furnished.design, brief.catalogue).targets.uvi[0] > 0
    found: list[Layout] = []
    for name, kind in brief.catalogue.sources.items():
        # What an arc gives of ultraviolet only a meter tells: nothing for an animal that wants none.
        suits = (wants_uv or not kind.arc_share) and (from_below or kind.family != "contact")
        if brief.allows(name) and suits and not is_out_of_place(brief.design, kind):
            found += layouts_of(furnished.design, brief.catalogue, name)
    return found


def a_few_of(layouts: Sequence[Layout]) -> list[Layout]:
    """Single sources, in every other of the places of each kind: enough for a first impression."""
    by_kind: dict[str, list[Layout]] = {}
    for layout in layouts:
        if layout.count == 1:
            by_kind.setdefault(layout.kind, []).append(layout)
    return [layout for of_kind in by_kind.values() for layout in of_kind[:: 2 if len(of_kind) > 2 else 1]]


def screen(brief: Brief, furnished: Furnished) -> Screened:
    """An enclosure with the responses of everything that a brief allows in it."""
    found = begin_screening(brief, furnished)
    found.add(layouts_for(brief, furnished), ALONE)
    return found


def _controls(found: Screened, response: Response) -> tuple[bool, ...]:
    """Whether a layout is held by a thermostat: what is lightless always is, what cannot be dimmed never; nor is what a
    probe would not feel, because the air beside the basking place blows away.
    """
    kind = response.layout.source
    if not kind.dims:
        return (False,)
    free = (False,) if kind.light else ()
    in_the_air = beside_the_basking_place(found.furnished.design)["reads"] == "air"
    felt = response.rises[BASKING_AIR] / max(response.rises[SURFACE], LEAST_RISE_K)
    return free if in_the_air and kind.family != "contact" and felt < FELT_AT_LEAST else (*free, True)


def candidates(brief: Brief, found: Screened, kind: str) -> list[Candidate]:
    """The best combinations of a kind of main source, one of each shape in each approach it can follow, best first.

    What was screened already is not screened again before something is learned of its kind.
    """
    wishes = Wishes.of(found.furnished.design, brief.catalogue)
    best: dict[tuple[ApproachName, Shape], Candidate] = {}
    for place, response in enumerate(found.responses):
        for held in _controls(found, response) if response.layout.kind == kind else ():
            if (place, held) not in found.best:
                found.best[place, held] = list(_best_of(brief, found, wishes, response, held))
            for one in found.best[place, held]:
                class_ = one.approach, one.shape
                if class_ not in best or one.score > best[class_].score:
                    best[class_] = one
    return sorted(best.values(), key=lambda one: -one.score)


def _best_of(brief: Brief, found: Screened, wishes: Wishes, response: Response, held: bool) -> Iterator[Candidate]:
    """The best of one layout under one control over its watts, night sources, mats and UV lamps: on its own, with a UV
    lamp at most, and with help.
    """
    layout = response.layout
    nights, mats = _nights_for(found, layout), _mats_for(found, layout)
    rises, chance, score = _scores_of(brief, found, wishes, response, held)
    alone, unhelped = np.zeros((2, *score.shape), dtype=bool)
    for place, night in enumerate(nights):
        unhelped[:, place, 0, :] = night in (NOTHING, SAME)
    alone[..., 0] = unhelped[..., 0] & (layout.source.light and layout.count == 1)
    for mask in (alone,) if brief.approach == "one-lamp" else (alone, unhelped & ~alone, ~unhelped):
        masked = np.where(mask, score, -np.inf)
        best = best_of(masked)
        if np.isfinite(masked[best]):
            yield Candidate(
                found.furnished, layout, layout.watts_sold[best.watts], held, nights[best.night], mats[best.mat],
                found.ultraviolet[best.lamp], float(chance[best]), float(score[best]), rises[best],
            )  # fmt: skip


def _nights_for(found: Screened, layout: Layout) -> list[Night]:
    """Night sources that go with a layout; itself, where it gives no light.

    A mat warms the ground: however hot, it does not hold the air of a night.
    """
    own = not layout.source.light and not layout.warms_from_below
    return found.nights + ([SAME] if own else [])


def _mats_for(found: Screened, layout: Layout) -> list[Mat]:
    """Mats that go with a layout: none with a mat."""
    return found.mats[:1] if layout.warms_from_below else found.mats


def _scores_of(
    brief: Brief, found: Screened, wishes: Wishes, response: Response, held: bool
) -> tuple[Array, Array, Array]:
    """Rises on a winter day (watts, nights, mats, lamps, figures), chance and score (watts, nights, mats, lamps); what
    is not allowed has no score.
    """
    layout = response.layout
    nights, mats, watts = _nights_for(found, layout), _mats_for(found, layout), np.array(layout.watts_sold)
    full = at_power(response, watts / response.watts)
    # What was learned of the kind goes in before its thermostat takes what it needs of it.
    full[..., RISING] *= found.errors.get(layout.kind, 1.0)
    main = Main(full, response.powers, held, layout.warms_from_below)
    seasons = days_of(
        wishes, main, np.stack([one.day_rises for one in nights]), np.stack([one.rises for one in mats]),
        np.stack([one.rises for one in found.ultraviolet]),
    )  # fmt: skip
    winter, usual, _ = (day.rises for day in seasons)
    days = list(zip((day.rises for day in seasons), wishes.days_c, strict=True))
    day = np.min([wishes.day_chance(rises, room_c) for rises, room_c in days], axis=0)
    beyond_k = np.max([wishes.beyond_k(rises, room_c) for rises, room_c in days], axis=0)
    by_night = _nights(wishes, full, nights)
    chance = day * of_watts_and_nights(by_night.chance) * _uv_chances(found, wishes, layout)
    off = A_KELVIN * (beyond_k + of_watts_and_nights(by_night.beyond_k))
    off = off + A_WANTED_K * (wishes.outside_k(usual) + of_watts_and_nights(by_night.outside_k))
    off = off + A_WANTED_UVI * wishes.uv_outside(np.array([one.uvi for one in found.ultraviolet]))
    disliked = of_watts_nights_and_mats(misgivings(wishes, layout, main, nights, mats)) + main.held * idling(
        seasons[0].share
    )
    asked = spending_of(brief, layout, watts, held, nights, len(mats), found.beside)
    score = np.where(asked.allowed(brief), chance - asked.weight - off - disliked, -np.inf)
    if layout.source.arc_share:
        # With a UV lamp beside it there would be too much ultraviolet, whatever the arc gives.
        score[..., 1:] = -np.inf
    return winter, chance, score


def _uv_chances(found: Screened, wishes: Wishes, layout: Layout) -> Array:
    """Chance (lamps,) of the ultraviolet; what a lamp gives that only a meter can tell is taken as likely."""
    chances = np.array([float(wishes.uv_chance(np.array(one.uvi))) for one in found.ultraviolet])
    if layout.source.arc_share and wishes.targets.uvi[0] > 0:
        chances[0] = UNKNOWN_UV
    return chances


@dataclass(frozen=True, eq=False)
class _ByNight:
    """Of watts and night sources (watts, nights): the chance of the nights, by how many kelvin the coldest stays beyond
    what is borne, and a usual one outside what is wanted.
    """

    chance: Array
    beyond_k: Array
    outside_k: Array


def _nights(wishes: Wishes, full: Array, nights: Sequence[Night]) -> _ByNight:
    """The nights, of which nothing heats those with the first source."""
    full_k = np.array([night.rises[COOL_AIR] for night in nights])
    rise = np.tile(full_k, (len(full), 1))
    same = [n for n, night in enumerate(nights) if night == SAME]
    rise[:, same] = full[:, [COOL_AIR]]
    chances, outside_k = wishes.night_chance(rise, held=True), wishes.night_outside_k(rise, held=True)
    chances[:, 0] = wishes.night_chance(rise[:, 0], held=False)
    outside_k[:, 0] = wishes.night_outside_k(rise[:, 0], held=False)
    # The day's own source must not burn the basking place while it warms the cool side.
    over_it_c = wishes.basking_at_night_c(full[:, SURFACE], full[:, COOL_AIR])
    chances[:, same] *= (over_it_c < wishes.targets.danger_contact_c)[:, None]
    return _ByNight(chances, wishes.night_beyond_k(rise), outside_k)
