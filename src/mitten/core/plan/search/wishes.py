"""What the animal wants of the screened figures, and how likely a figure is to be right."""

from dataclasses import dataclass

import numpy as np
from scipy.special import ndtr

from mitten.core.catalogue import Targets, load_catalogue, targets_of
from mitten.core.design import Design
from mitten.core.judge.targets import NEAR
from mitten.core.physics.arrays import Array
from mitten.core.plan.search.responses import BASKING_AIR, COOL_AIR, OPERATIVE, SURFACE, WARM_AIR

ROOM_SIGMA_K = 1.0
OF_RISE = 0.12
"""One sigma of a rise: that of a source's output, which moves it most."""

OF_UVI = 0.18
LEAST_SIGMA_UVI = 0.05
UNDER_DANGER_K = 2.0
OVER_SURFACE_K = 3.0
LEAVES_K = 1.0
"""How much too warm the cool side may be for an animal that leaves its basking place."""

A_WRONG_MAT = 0.2
"""What is taken off for warmth from below where the animal seeks it from above."""

WHEN_STUCK = 0.1
"""Taken off where a thermostat that sticks makes something dangerous."""

IDLE = 0.1
USED_AT_LEAST = 0.5
"""Taken off for the share of a source's power under a half that even the coldest day leaves idle."""

HARDLY_ANY_K = 0.5
"""A room within this of the most that is wanted leaves no place for a source's heat."""

ROOM_OVER_K = 2.0
"""By how much a room may be warmer than is wanted before no plan makes sense in it."""

ROOM_ADDED_K = 1.0
"""What sources may add to such a room."""

Span = tuple[float, float]


def is_too_warm(high_c: float, room_c: float) -> bool:
    """Whether a room alone is as warm as is wanted at most, or a little warmer, so that no source could do better."""
    return high_c - HARDLY_ANY_K < room_c <= high_c + ROOM_OVER_K


def highest_c(high_c: float, room_c: float) -> float:
    """What a plan may bring air to that is wanted at ``high_c`` at most: in a room that is too warm, a little more."""
    return max(high_c, room_c + ROOM_ADDED_K) if is_too_warm(high_c, room_c) else high_c


@dataclass(frozen=True)
class Wishes:
    """The targets that sources decide, and the rooms they are to be reached in."""

    targets: Targets
    by_day_c: tuple[float, float]
    by_night_c: tuple[float, float]
    by_surface: bool
    from_above: bool = False
    """Whether the animal seeks warmth from above: it basks, or lives off the ground."""

    @classmethod
    def of(cls, design: Design) -> "Wishes":
        """The wishes of a design's animal in its room."""
        room = design.room
        species = load_catalogue().species[design.animal.species]
        targets = targets_of(design.animal, species)
        return cls(
            targets, (room.winter.day_c, room.summer.day_c), (room.winter.night_c, room.summer.night_c),
            design.decide_by == "surface",
            species.basks or (species.climbs == "strong" and species.group != "snake"),
        )  # fmt: skip

    @property
    def surface_c(self) -> float:
        """What the basking surface is aimed at."""
        return sum(self.targets.basking_surface_c) / 2

    def day_chance(self, rises: Array, room_c: float) -> Array:
        """How likely (...) rises (..., figures) bring a day in that room to every target."""
        wants = self.targets
        cool = room_c + rises[..., COOL_AIR]
        leaves = cool <= self._high(wants.cool_air_c, room_c)[1] + LEAVES_K
        leaves &= room_c + rises[..., OPERATIVE] <= wants.danger_body_c
        operative_high = np.where(leaves, np.inf, wants.basking_operative_c[1])
        chance = _within(rises[..., OPERATIVE], room_c, (wants.basking_operative_c[0], operative_high))
        for figure, span in (
            (BASKING_AIR, wants.basking_air_c), (WARM_AIR, wants.warm_air_c), (COOL_AIR, wants.cool_air_c)
        ):  # fmt: skip
            chance = chance * _within(rises[..., figure], room_c, self._high(span, room_c))
        if self.by_surface:
            chance = chance * _within(rises[..., SURFACE], room_c, wants.basking_surface_c)
        return np.asarray(chance)

    def night_chance(self, cool_rise: Array, held: bool) -> Array:
        """How likely (...) the cool side's rise (...) at full power keeps the nights of both seasons."""
        winter_c, summer_c = self.by_night_c
        low, high = self.targets.night_c
        aim = self.night_aim_c
        rise = np.clip(aim - winter_c, 0.0, cool_rise) if held else cool_rise
        in_summer = np.clip(aim - summer_c, 0.0, cool_rise) if held else cool_rise
        in_winter_room, in_summer_room = (self._high((low, high), room_c) for room_c in (winter_c, summer_c))
        return np.asarray(_within(rise, winter_c, in_winter_room) * _within(in_summer, summer_c, in_summer_room))

    @staticmethod
    def _high(span: Span, room_c: float) -> Span:
        """A range of air temperatures, as far up as the room lets any plan keep it."""
        return span[0], highest_c(span[1], room_c)

    def shortfall_k(self, rises: Array, room_c: float) -> Array:
        """By how many kelvin (...) in all a day in that room misses the targets: tells the hopeless apart."""
        wants = self.targets
        spans = (
            (OPERATIVE, wants.basking_operative_c), (BASKING_AIR, wants.basking_air_c),
            (WARM_AIR, wants.warm_air_c), (COOL_AIR, self._high(wants.cool_air_c, room_c)),
            *([(SURFACE, wants.basking_surface_c)] if self.by_surface else []),
        )  # fmt: skip
        return np.asarray(sum(_outside(room_c + rises[..., figure], span) for figure, span in spans))

    def night_shortfall_k(self, cool_rise: Array) -> Array:
        """By how many kelvin (...) a winter night stays too cold at full power."""
        return np.maximum(self.targets.night_c[0] - self.by_night_c[0] - cool_rise, 0.0)

    def uv_shortfall(self, uvi: Array) -> Array:
        """By how much a UV index (...) is outside its range."""
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
        return min(low + 2 * ROOM_SIGMA_K, (low + high) / 2)

    @property
    def warm_aim_c(self) -> float:
        """What a source that is there for the air holds the warm side at by day: as at night, as little as is sure."""
        low, high = self.targets.warm_air_c
        return min(low + 2 * ROOM_SIGMA_K, (low + high) / 2)

    @property
    def safe_on_a_mat_c(self) -> float:
        """What a mat may get to: hardly more than the ground over it is to have, and never near what burns, for an
        animal that digs meets it.
        """
        return min(self.targets.danger_contact_c - UNDER_DANGER_K, self.targets.basking_surface_c[1] + OVER_SURFACE_K)

    def uv_chance(self, uvi: Array) -> Array:
        """How likely a UV index (...) is in its range."""
        low, high = self.targets.uvi[0] - NEAR["UVI"], self.targets.uvi[1] + NEAR["UVI"]
        sigma = np.maximum(OF_UVI * uvi, LEAST_SIGMA_UVI)
        below = np.zeros_like(uvi) if low <= 0 else ndtr((low - uvi) / sigma)
        return np.asarray(ndtr((high - uvi) / sigma) - below)


def _within(rise: Array, room_c: float, span: tuple[float | Array, float | Array]) -> Array:
    value, sigma, near = room_c + rise, np.hypot(ROOM_SIGMA_K, OF_RISE * rise), NEAR["°C"]
    return np.asarray(ndtr((span[1] + near - value) / sigma) - ndtr((span[0] - near - value) / sigma))


def _outside(value: Array, span: Span) -> Array:
    return np.asarray(np.maximum(span[0] - value, 0.0) + np.maximum(value - span[1], 0.0))
