"""Where a state uses a correlation outside the range in which it was found."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from mitten.core.physics.air.convection import plate_of, rayleigh
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.state import State
from mitten.core.physics.constants import ZERO_C_K
from mitten.core.physics.correlations import CEILING_JET, MOIST_AIR, Correlation

COUNTS_FROM = 0.05
"""A correlation that moves less of the heat than this outside its range is not worth a word."""

KILO = 1000.0


@dataclass(frozen=True)
class Beyond:
    """A correlation that is used outside its range: for how much (0-1) of what it is used for, and from where to where
    its symbol goes there.
    """

    correlation: Correlation
    share: float
    low: float
    high: float


def beyond_validity(state: State) -> tuple[Beyond, ...]:
    """Every correlation that a state uses outside its range to an extent that counts."""
    found = (*_films(state), *_jets(state), *_moist_air(state))
    return tuple(one for one in found if one.share >= COUNTS_FROM)


def _of(correlation: Correlation, values: Array, weights: Array) -> Iterator[Beyond]:
    """How much of the weights goes with values outside the range."""
    beyond = correlation.is_beyond(values) & (weights > 0)
    if beyond.any():
        share = float(weights[beyond].sum() / weights.sum())
        yield Beyond(correlation, share, float(values[beyond].min()), float(values[beyond].max()))


def _films(state: State) -> Iterator[Beyond]:
    """The films on the patches, by the heat that they move; where the least film has taken over, none is used."""
    prepared, mean_k = state.prepared, float(state.air_c.mean()) + ZERO_C_K
    difference_k = state.surface_c - prepared.zone_shares.at_patches(state.air_c.ravel())
    ra = rayleigh(np.abs(difference_k), prepared.film_length_m, mean_k, state.surroundings.thinness)
    moved_w = np.abs(difference_k) * state.coefficients.film_w_k
    is_used = (state.film_w_m2k > prepared.least_film_w_m2k * (1 + 1e-9)) & (moved_w > 0)
    for correlation, faces in plate_of(difference_k, prepared.film_tilt):
        used = faces.astype(bool) & is_used
        if used.any():
            yield from _of(correlation, ra[used], moved_w[used])


def _jets(state: State) -> Iterator[Beyond]:
    """The plumes of lamps that hang inside."""
    lamps = [lamp for lamp in state.lamps if lamp.hangs_inside and lamp.body_w > 0]
    if lamps:
        powers_kw = np.array([lamp.body_into_air_w for lamp in lamps]) / KILO
        yield from _of(CEILING_JET, powers_kw, powers_kw)


def _moist_air(state: State) -> Iterator[Beyond]:
    """The air, and what evaporates."""
    temperatures = np.concatenate([state.air_c.ravel(), state.surface_c[state.prepared.wetness > 0]])
    yield from _of(MOIST_AIR, temperatures, np.ones(len(temperatures)))
