"""Days of combinations, as sums of what their sources do: the main one, a mat, and heat for the air.

Each thermostat takes the share of its source that brings what it is for to where it is wanted: the main source the
basking surface, the mat what is missing of it, the other source the air of the warm side.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.plan.search.screening.axes import of_mats, of_nights, of_watts
from mitten.core.plan.search.wants.figures import BASE, LEAST_RISE_K, OPERATIVE, RISING, SURFACE, UVI, WARM_AIR
from mitten.core.plan.search.wants.wishes import Wishes


@dataclass(frozen=True, eq=False)
class Main:
    """The main source at its watts: rises (watts, figures) at full power, and how it is held.

    ``powers`` (figures,) say how rises grow with watts; ``contact`` is a mat, whose probe lies on it.
    """

    full: Array
    powers: Array
    held: bool
    contact: bool

    def shares(self, wishes: Wishes) -> list[Array]:
        """Shares (watts,) of the surface's full rise on a winter, a usual and a summer day.

        A thermostat brings the basking place to where it is wanted in each: where the year needs more than one setting,
        it gets a setting for each season, and stands between them on a usual day.
        """
        if not self.held:
            return [np.ones(len(self.full)) for _ in wishes.days_c]
        surface = np.maximum(self.full[:, SURFACE], LEAST_RISE_K)
        return [
            np.clip((self._aim_c(wishes, room_c) - room_c) / surface, 0.0, self._most_share(wishes, room_c))
            for room_c in wishes.days_c
        ]

    def _aim_c(self, wishes: Wishes, room_c: float) -> Array:
        return wishes.aim_c(self.full[:, SURFACE], self.full[:, OPERATIVE], room_c)

    def _most_share(self, wishes: Wishes, room_c: float) -> Array:
        return most_of_a_mat(wishes, self.full, room_c) if self.contact else np.ones(len(self.full))

    def at(self, share: Array) -> Array:
        """Rises (watts, figures) at the power that gives that share (watts,) of the surface's rise."""
        by_watts = share[:, None] ** (self.powers / self.powers[SURFACE])
        return np.concatenate([self.full[:, RISING] * by_watts, self.full[:, UVI:]], axis=1)


def most_of_a_mat(wishes: Wishes, rises: Array, room_c: float) -> Array:
    """The share (...) of mats' power, rises (..., figures), at which what lies on them is still safe to touch."""
    spare_k = wishes.safe_on_a_mat_c - room_c
    return np.clip(spare_k / np.maximum(rises[..., BASE], LEAST_RISE_K), 0.0, 1.0)


@dataclass(frozen=True, eq=False)
class Day:
    """A day of every combination: rises (watts, nights, mats, lamps, figures), and the share (watts, nights, mats,
    lamps) of its rise that the main source is left to make.
    """

    rises: Array
    share: Array


def days_of(wishes: Wishes, main: Main, helpers: Array, mats: Array, lamps: Array) -> Sequence[Day]:
    """A winter, a usual and a summer day of a main source with helpers (nights, figures) for the air, mats (mats,
    figures), all at full power, and UV lamps (lamps, figures).
    """
    return [
        _day(wishes, main, share, room_c, _Helpers(helpers, mats, lamps))
        for share, room_c in zip(main.shares(wishes), wishes.days_c, strict=True)
    ]


@dataclass(frozen=True, eq=False)
class _Helpers:
    """What works beside a main source: rises of what warms the air (nights, figures), of mats (mats, figures) and of
    lamps (lamps, figures).
    """

    helpers: Array
    mats: Array
    lamps: Array


def _day(wishes: Wishes, main: Main, share: Array, room_c: float, others: _Helpers) -> Day:
    own = of_watts(main.at(share), figures=True)
    aim_c = of_watts(wishes.aim_c(main.full[:, SURFACE], main.full[:, OPERATIVE], room_c))
    aim_k, mats = aim_c - room_c, of_mats(others.mats)
    given = own + others.lamps
    missing_k = aim_k - given[..., SURFACE]
    under = _up_to(missing_k, mats[..., SURFACE], most_of_a_mat(wishes, mats, room_c))[..., None] * mats
    cool_k = wishes.warm_aim_c - room_c - given[..., WARM_AIR] - under[..., WARM_AIR]
    helpers = of_nights(others.helpers)
    beside = _up_to(cool_k, helpers[..., WARM_AIR], 1.0)[..., None] * helpers
    added = under + beside + others.lamps
    shares = np.broadcast_to(of_watts(share), added.shape[:-1])
    if main.held:
        left = _backing_off(aim_k, own, shares, added)
        factors = np.repeat(left[..., None], own.shape[-1], axis=-1)
        factors[..., UVI] = 1.0
        own, shares = own * factors, shares * left
    return Day(np.asarray(own + added), np.asarray(shares))


def _up_to(missing_k: Array, full_k: Array, most: Array | float) -> Array:
    """The share of a source that makes up for what is missing."""
    return np.clip(missing_k / np.maximum(full_k, LEAST_RISE_K), 0.0, most) * (full_k > LEAST_RISE_K)


def _backing_off(aim_k: Array, own: Array, share: Array, added: Array) -> Array:
    """What is left (watts, nights, mats, lamps) of the main source's rises when its place feels what others add.

    ``aim_k`` (watts, 1, 1, 1) is the rise that its place is to have.
    """
    holds_k = np.where(share < 1.0, own[..., SURFACE], aim_k)
    too_much_k = np.maximum(own[..., SURFACE] + added[..., SURFACE] - holds_k, 0.0)
    return np.asarray(np.clip(1.0 - too_much_k / np.maximum(own[..., SURFACE], LEAST_RISE_K), 0.0, 1.0))
