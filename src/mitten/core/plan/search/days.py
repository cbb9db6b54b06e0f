"""Days of combinations, as sums of what their sources do: the main one, a mat, and heat for the air.

Each thermostat takes the share of its source that brings what it is for to where it is wanted: the main source the
basking surface, the mat what is missing of it, the other source the air of the warm side.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.plan.search.responses import BASE, LEAST_RISE_K, PROBE, RISING, SURFACE, UVI, WARM_AIR
from mitten.core.plan.search.wishes import Wishes


@dataclass(frozen=True, eq=False)
class Main:
    """The main source at its watts: rises (w, figures) at full power, and how it is held.

    ``powers`` (figures,) say how rises grow with watts; ``contact`` is a mat, whose probe lies on it.
    """

    full: Array
    powers: Array
    held: bool
    contact: bool

    def shares(self, wishes: Wishes) -> tuple[Array, Array]:
        """Shares (w,) of the surface's full rise on a winter and a summer day.

        A thermostat keeps its probe, and so nearly the basking place, at one temperature in both, set so that the
        place is as much too warm in one as too cold in the other.
        """
        if not self.held:
            return np.ones(len(self.full)), np.ones(len(self.full))
        winter_c, summer_c = wishes.by_day_c
        surface = np.maximum(self.full[:, SURFACE], LEAST_RISE_K)
        # A mat's probe lies on it and follows it closely; one beside a basking place lags behind the place.
        probe = surface if self.contact else np.maximum(self.full[:, PROBE], LEAST_RISE_K)
        more_in_winter = (summer_c - winter_c) / probe
        in_summer = (2 * wishes.surface_c - winter_c - summer_c - surface * more_in_winter) / (2 * surface)
        shares = in_summer + more_in_winter, in_summer
        most = [self._most_share(wishes, room_c) for room_c in wishes.by_day_c]
        return np.clip(shares[0], 0.0, most[0]), np.clip(shares[1], 0.0, most[1])

    def _most_share(self, wishes: Wishes, room_c: float) -> Array:
        return most_of_a_mat(wishes, self.full, room_c) if self.contact else np.ones(len(self.full))

    def at(self, share: Array) -> Array:
        """Rises (w, figures) at the power that gives that share (w,) of the surface's rise."""
        by_watts = share[:, None] ** (self.powers / self.powers[SURFACE])
        return np.concatenate([self.full[:, RISING] * by_watts, self.full[:, UVI:]], axis=1)


def most_of_a_mat(wishes: Wishes, rises: Array, room_c: float) -> Array:
    """The share (...) of mats' power, rises (..., figures), at which what lies on them is still safe to touch."""
    spare_k = wishes.safe_on_a_mat_c - room_c
    return np.clip(spare_k / np.maximum(rises[..., BASE], LEAST_RISE_K), 0.0, 1.0)


def day_rises(wishes: Wishes, main: Main, helpers: Array, mats: Array) -> Sequence[Array]:
    """Rises (w, n, m, figures) on a winter and a summer day of a main source with helpers (n, figures) for the air and
    mats (m, figures), all at full power.
    """
    return [
        _day(wishes, main, share, room_c, helpers, mats)
        for share, room_c in zip(main.shares(wishes), wishes.by_day_c, strict=True)
    ]


def _day(wishes: Wishes, main: Main, share: Array, room_c: float, helpers: Array, mats: Array) -> Array:
    own = main.at(share)[:, None, None, :]
    missing_k = wishes.surface_c - room_c - own[..., SURFACE]
    under = _up_to(missing_k, mats[:, SURFACE], most_of_a_mat(wishes, mats, room_c))[..., None] * mats
    cool_k = wishes.warm_aim_c - room_c - own[..., WARM_AIR] - under[..., WARM_AIR]
    beside = _up_to(cool_k, helpers[:, None, WARM_AIR], 1.0)[..., None] * helpers[:, None, :]
    added = under + beside
    if main.held:
        own = own * _backing_off(wishes, own, share[:, None, None], room_c, added)
    return np.asarray(own + added)


def _up_to(missing_k: Array, full_k: Array, most: Array | float) -> Array:
    """The share of a source that makes up for what is missing."""
    return np.clip(missing_k / np.maximum(full_k, LEAST_RISE_K), 0.0, most) * (full_k > LEAST_RISE_K)


def _backing_off(wishes: Wishes, own: Array, share: Array, room_c: float, added: Array) -> Array:
    """What is left (w, n, m, figures) of the main source's rises when its probe feels what others add."""
    holds_k = np.where(share < 1.0, own[..., SURFACE], wishes.surface_c - room_c)
    too_much_k = np.maximum(own[..., SURFACE] + added[..., SURFACE] - holds_k, 0.0)
    left = np.clip(1.0 - too_much_k / np.maximum(own[..., SURFACE], LEAST_RISE_K), 0.0, 1.0)
    factors = np.repeat(left[..., None], own.shape[-1], axis=-1)
    factors[..., UVI] = 1.0
    return factors
