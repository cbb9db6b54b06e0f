"""Of very many combinations at once: how likely their figures are all right, and how far off they are; compiled as the
kernels of the physics are, and bound by the same two rules.
"""

from math import erf

import numpy as np

from mitten.core.physics.arrays import Array, Counts
from mitten.core.physics.kernels.compiled import compiled


@compiled
def all_within(
    rises_k: Array, figures: Counts, lows_c: Array, highs_c: Array, room_c: float, room_sigma_k: float, of_rise: float
) -> Array:  # fmt: skip
    """How likely (k,) those figures (q,) of rises (k, figures) over a room are all between what is least (q,) and most
    (k, q); each is off by a normal error, of the room and of a share of its rise.
    """
    chances = np.ones(len(rises_k))
    for row in range(len(rises_k)):
        for place in range(len(figures)):
            rise_k = rises_k[row, figures[place]]
            off_k = np.sqrt(2.0 * (room_sigma_k**2 + (of_rise * rise_k) ** 2))
            below, above = lows_c[place] - room_c - rise_k, highs_c[row, place] - room_c - rise_k
            chances[row] *= 0.5 * (erf(above / off_k) - erf(below / off_k))
    return chances


@compiled
def all_outside(rises_k: Array, figures: Counts, lows_c: Array, highs_c: Array, room_c: float) -> Array:
    """By how many kelvin (k,) those figures (q,) together are outside what is least and most (q,)."""
    outside_k = np.zeros(len(rises_k))
    for row in range(len(rises_k)):
        for place in range(len(figures)):
            here_c = room_c + rises_k[row, figures[place]]
            outside_k[row] += max(lows_c[place] - here_c, 0.0) + max(here_c - highs_c[place], 0.0)
    return outside_k
