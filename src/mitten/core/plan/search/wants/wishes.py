"""What the animal wants and bears of the screened figures, and how likely a figure is to be right."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.special import ndtr

from mitten.core.catalogue import Catalogue, Species, Targets, targets_of
from mitten.core.design import Design
from mitten.core.physics.arrays import Array, Counts
from mitten.core.plan.search.wants.chances import all_outside, all_within
from mitten.core.plan.search.wants.figures import BASKING_AIR, COOL_AIR, LEAST_RISE_K, OPERATIVE, SURFACE, WARM_AIR

ROOM_SIGMA_K = 1.0
OF_RISE = 0.12
"""One sigma of a rise: that of a source's output, which moves it most."""

OF_UVI = 0.18
LEAST_SIGMA_UVI = 0.05
UNDER_DANGER_K = 2.0
OVER_SURFACE_K = 3.0
INSIDE_K = 0.5
"""A thermostat that follows a range is set so far inside it."""

SURE_K = 2.0
"""What is held at the low end of a range is aimed so far above it: what the room may be off."""

HARDLY_SURE_K = 1.0
"""Where something else is in danger, this has to do."""

OF_A_DAY = (
    (OPERATIVE, "basking_operative_c"), (BASKING_AIR, "basking_air_c"), (WARM_AIR, "warm_air_c"),
    (COOL_AIR, "cool_air_c"), (SURFACE, "basking_surface_c"),
)  # fmt: skip
"""Figures of a day and the targets that judge them: the body first, last the surface, where that decides."""

Span = tuple[float, float]


@dataclass(frozen=True)
class Wishes:
    """The targets that sources decide, and the rooms they are to be reached in."""

    targets: Targets
    by_day_c: tuple[float, float]
    by_night_c: tuple[float, float]
    by_surface: bool
    from_above: bool = False
    """Whether the animal seeks warmth from above: it basks, or lives off the ground."""

    basks_by_day: bool = False

    @classmethod
    def of(cls, design: Design, catalogue: Catalogue) -> "Wishes":
        """The wishes of a design's animal in its room."""
        room = design.room
        species = catalogue.species[design.animal.species]
        targets = targets_of(design.animal, species)
        return cls(
            targets, (room.winter.day_c, room.summer.day_c), (room.winter.night_c, room.summer.night_c),
            design.decide_by == "surface", seeks_warmth_from_above(species), species.basks and species.active == "day",
        )  # fmt: skip

    @property
    def days_c(self) -> tuple[float, float, float]:
        """The room on a winter, a usual and a summer day."""
        winter_c, summer_c = self.by_day_c
        return winter_c, (winter_c + summer_c) / 2, summer_c

    @property
    def surface_span_c(self) -> Span:
        """What a thermostat keeps the basking surface within."""
        low, high = self.targets.basking_surface_c
        return (low + INSIDE_K, high - INSIDE_K) if self.by_surface else (-np.inf, np.inf)

    @property
    def body_c(self) -> float:
        """What the basking body is aimed at."""
        return sum(self.targets.basking_operative_c) / 2

    def aim_c(self, surface_rise: Array, body_rise: Array, room_c: float) -> Array:
        """Basking surface (...) at which the body is as it is wanted, as far as the surface may follow it; for sources
        that make these rises (...) at once.
        """
        of_body = np.maximum(body_rise, LEAST_RISE_K) / np.maximum(surface_rise, LEAST_RISE_K)
        return np.asarray(np.clip(room_c + (self.body_c - room_c) / of_body, *self.surface_span_c))

    def day_chance(self, rises: Array, room_c: float) -> Array:
        """How likely (...) rises (..., figures) bring a day in that room to what is borne of every target."""
        rows = np.ascontiguousarray(rises).reshape(-1, rises.shape[-1])
        figures, lows_c, highs_c = self._spans_c(self.targets.bears)
        highs_c = np.tile(highs_c, (len(rows), 1))
        leaves = room_c + rows[:, COOL_AIR] <= self.targets.bears("cool_air_c")[1]
        highs_c[leaves, 0] = self.targets.danger_body_c
        chances = all_within(rows, figures, lows_c, highs_c, room_c, ROOM_SIGMA_K, OF_RISE)
        return chances.reshape(rises.shape[:-1])

    def _spans_c(self, span: Callable[[str], Span]) -> tuple[Counts, Array, Array]:
        """Figures (q,) of a day, the body first, and the least and most (q,) of each."""
        judged = OF_A_DAY if self.by_surface else OF_A_DAY[:-1]
        lows_c, highs_c = (np.array(ends) for ends in zip(*(span(key) for _, key in judged), strict=True))
        return np.array([figure for figure, _ in judged]), lows_c, highs_c

    def night_chance(self, cool_rise: Array, held: bool) -> Array:
        """How likely (...) the cool side's rise (...) at full power keeps the nights of both seasons."""
        span, chance = self.targets.bears("night_c"), np.ones(np.shape(cool_rise))
        for room_c in self.by_night_c:
            rise = np.clip(self.night_aim_c - room_c, 0.0, cool_rise) if held else cool_rise
            chance = chance * _within(rise, room_c, span)
        return np.asarray(chance)

    def beyond_k(self, rises: Array, room_c: float) -> Array:
        """By how many kelvin (...) in all a day in that room is beyond what is borne: tells the hopeless apart."""
        return self._beyond_k(rises, room_c, self.targets.bears)

    def outside_k(self, rises: Array) -> Array:
        """By how many kelvin (...) in all a usual day, with rises (..., figures), is outside what is wanted."""
        return self._beyond_k(rises, self.days_c[1], self.targets.wants)

    def _beyond_k(self, rises: Array, room_c: float, span: Callable[[str], Span]) -> Array:
        rows = np.ascontiguousarray(rises).reshape(-1, rises.shape[-1])
        return all_outside(rows, *self._spans_c(span), room_c).reshape(rises.shape[:-1])

    def night_outside_k(self, cool_rise: Array, held: bool) -> Array:
        """By how many kelvin (...) a usual night is outside what is wanted."""
        room_c = sum(self.by_night_c) / 2
        rise = np.clip(self.night_aim_c - room_c, 0.0, cool_rise) if held else cool_rise
        return _outside(room_c + rise, self.targets.night_c)

    def night_beyond_k(self, cool_rise: Array) -> Array:
        """By how many kelvin (...) a winter night stays colder than is borne, at full power."""
        return np.maximum(self.targets.bears("night_c")[0] - self.by_night_c[0] - cool_rise, 0.0)

    def night_missing_k(self) -> float:
        """By how many kelvin the room of a winter night is colder than is aimed at."""
        return max(self.night_aim_c - self.by_night_c[0], 0.0)

    def night_needed_k(self) -> float:
        """By how many kelvin it is colder than what is surely borne, where less than what is aimed at has to do."""
        surely_c = self.targets.bears("night_c")[0] + HARDLY_SURE_K
        return max(min(surely_c, self.night_aim_c) - self.by_night_c[0], 0.0)

    def uv_outside(self, uvi: Array) -> Array:
        """By how much a UV index (...) is outside what is wanted."""
        return _outside(uvi, self.targets.uvi)

    def basking_at_night_c(self, surface_rise: Array, cool_rise: Array) -> Array:
        """How hot (...) the basking place gets on a winter night while a source over it holds the cool side."""
        winter_c = self.by_night_c[0]
        share = np.clip((self.night_aim_c - winter_c) / np.maximum(cool_rise, 1e-3), 0.0, 1.0)
        return np.asarray(winter_c + surface_rise * share)

    @property
    def night_aim_c(self) -> float:
        """What a thermostat holds at night: above the floor by what the room may be off, below the middle."""
        low, high = self.targets.night_c
        return min(low + SURE_K, (low + high) / 2)

    @property
    def warm_aim_c(self) -> float:
        """What a source that is there for the air holds the warm side at by day: as little as is sure to leave nothing
        too cold.
        """
        low, high = self.targets.warm_air_c
        return min(low + SURE_K, (low + high) / 2)

    @property
    def safe_on_a_mat_c(self) -> float:
        """What a mat may get to: hardly more than the ground over it is to have, and never near what burns, for an
        animal that digs meets it.
        """
        return min(self.targets.danger_contact_c - UNDER_DANGER_K, self.targets.basking_surface_c[1] + OVER_SURFACE_K)

    def uv_chance(self, uvi: Array) -> Array:
        """How likely a UV index (...) is one that is borne."""
        low, high = self.targets.bears("uvi")
        sigma = np.maximum(OF_UVI * uvi, LEAST_SIGMA_UVI)
        below = np.zeros_like(uvi) if low <= 0 else ndtr((low - uvi) / sigma)
        return np.asarray(ndtr((high - uvi) / sigma) - below)


def seeks_warmth_from_above(species: Species) -> bool:
    """Whether an animal basks, or lives off the ground; snakes take warmth from wherever it comes."""
    return species.basks or (species.climbs == "strong" and species.group != "snake")


def _within(rise: Array, room_c: float, span: Span) -> Array:
    value, finely = room_c + rise, 1.0 / np.sqrt(ROOM_SIGMA_K**2 + (OF_RISE * rise) ** 2)
    return np.asarray(ndtr((span[1] - value) * finely) - ndtr((span[0] - value) * finely))


def _outside(value: Array, span: Span) -> Array:
    return np.asarray(np.maximum(span[0] - value, 0.0) + np.maximum(value - span[1], 0.0))
