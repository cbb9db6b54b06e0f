"""The water of zones and patches; equations in ``air.moisture``."""

import numpy as np

from mitten.core.physics.arrays import Array, Counts, Mask
from mitten.core.physics.kernels.compiled import compiled


@compiled
def water_system(
    takes: Mask, soaked: Mask, wetness: Array, film_kg_s: Array, saturated: Array, supplied_kg_s: Array,
    first: Counts, zone: Counts, share: Array, between_kg_s: Array,
) -> tuple[Array, Array, Array]:  # fmt: skip
    """Matrix (m, m) and right-hand side (m,) of the zones' water with every patch doing that, and how freely each patch
    (n,) gives or takes: what flows ``between_kg_s`` (m, m) the zones, and what goes to and from the patches. Patch
    ``p`` lies in the zones ``zone[first[p]]`` up to ``zone[first[p + 1]]``, with these shares.
    """
    matrix, given, uptake = between_kg_s.copy(), np.zeros(len(between_kg_s)), np.empty(len(wetness))
    for patch in range(len(wetness)):
        is_free = takes[patch] or soaked[patch]
        uptake[patch] = film_kg_s[patch] if is_free else film_kg_s[patch] * wetness[patch]
        gives = uptake[patch] * saturated[patch] + (0.0 if is_free else supplied_kg_s[patch])
        for one in range(first[patch], first[patch + 1]):
            given[zone[one]] += share[one] * gives
            for other in range(first[patch], first[patch + 1]):
                matrix[zone[one], zone[other]] += uptake[patch] * share[one] * share[other]
    return matrix, given, uptake


@compiled
def water_doings(lacking: Array, wetness: Array, film_kg_s: Array, supplied_kg_s: Array) -> tuple[Mask, Mask]:
    """Which patches (n,) take water from air that lacks so much at them, and which are as wet as they can be."""
    takes, soaked = np.empty(len(lacking), np.bool_), np.empty(len(lacking), np.bool_)
    for patch in range(len(lacking)):
        supplied = supplied_kg_s[patch]
        takes[patch] = lacking[patch] < 0.0
        free = (1.0 - wetness[patch]) * film_kg_s[patch] * lacking[patch]
        soaked[patch] = lacking[patch] >= 0.0 and supplied > 0.0 and supplied >= free
    return takes, soaked


@compiled
def water_exchange(lacking: Array, wetness: Array, film_kg_s: Array, supplied_kg_s: Array) -> tuple[Array, Array]:
    """What leaves each patch (n,) of its own water and of what is sprayed on it, and what condenses on it, in kg/s."""
    leaves, takes = np.empty(len(lacking)), np.empty(len(lacking))
    for patch in range(len(lacking)):
        free = film_kg_s[patch] * max(lacking[patch], 0.0)
        leaves[patch] = wetness[patch] * free + min(supplied_kg_s[patch], (1.0 - wetness[patch]) * free)
        takes[patch] = film_kg_s[patch] * max(-lacking[patch], 0.0)
    return leaves, takes
