"""The axes of what is reckoned of many combinations at once, always in this order: the main source's watts, the night
sources, the mats under the ground, the UV lamps; after them, where there is one, the figures.
"""

from typing import NamedTuple

import numpy as np

from mitten.core.physics.arrays import Array


class Combination(NamedTuple):
    """A place on each axis."""

    watts: int
    night: int
    mat: int
    lamp: int


def best_of(score: Array) -> Combination:
    """Where a score (watts, nights, mats, lamps) is highest."""
    return Combination(*(int(place) for place in np.unravel_index(int(score.argmax()), score.shape)))


def of_watts(values: Array, figures: bool = False) -> Array:
    """Values (watts,), or (watts, figures), the same for every night source, mat and lamp."""
    return np.asarray(values[:, None, None, None, :] if figures else values[:, None, None, None])


def of_nights(rises: Array) -> Array:
    """Rises (nights, figures), the same for all watts, mats and lamps."""
    return np.asarray(rises[:, None, None, :])


def of_mats(rises: Array) -> Array:
    """Rises (mats, figures), the same for all watts, night sources and lamps."""
    return np.asarray(rises[:, None, :])


def of_watts_and_nights(values: Array) -> Array:
    """Values (watts, nights), the same for every mat and lamp."""
    return np.asarray(values[:, :, None, None])


def of_watts_nights_and_mats(values: Array) -> Array:
    """Values (watts, nights, mats), the same for every lamp."""
    return np.asarray(values[..., None])
