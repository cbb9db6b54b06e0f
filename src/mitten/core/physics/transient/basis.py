"""A few dozen patterns of temperature in which the solids of a box move, found once for a design.

What the solids do in time is a mixture of what each source and the room make of them at once, in minutes, in hours and
in the end (a rational Krylov space). The heat balance is projected onto these patterns; the air is kept whole, zone by
zone, because it is quick and its flows turn.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from mitten.core.design import FACES
from mitten.core.physics.arrays import Array, Single
from mitten.core.physics.balance.factors import Factors, Slopes
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.solids.network import SolidNetwork

RATES_1_S = tuple(1.0 / seconds for seconds in (2.0, 10.0, 45.0, 200.0, 1000.0, 5000.0, 40000.0))
"""Rates at which the answers are taken: from seconds to the better part of a day."""

HALFWAY_1_S = (1.0 / 1000.0, 1.0 / 5000.0)
"""Those at which answers are taken halfway between day and night, whose air moves otherwise than in either."""

SAME = 1e-7
"""Patterns that add less than this to those before them are left out."""

LEAST_J_K = 1.0
"""Weight of what stores nothing, such as the wires of a mesh, when patterns are told apart."""


@dataclass(frozen=True, eq=False)
class Basis:
    """Patterns (N, k) of the solids' nodes, and what is the same however warm it is: their conductance and capacity
    (k, k), what they gain of a kelvin outside each face (k, faces), and ``view`` (k, n), how the longwave of the
    patches weighs on them.
    """

    patterns: Array
    patches: int
    conductance_w_k: Array
    capacity_j_k: Array
    outside_w_k: Array
    view: Array
    weight_j_k: Array

    @property
    def count(self) -> int:
        """How many."""
        return int(self.patterns.shape[1])

    @property
    def of_patches(self) -> Array:
        """The patterns (n, k) on the patches."""
        return self.patterns[: self.patches]

    @cached_property
    def single(self) -> Single:
        """The same in single precision, for what need not be told more closely."""
        return self.of_patches.astype(np.float32)

    @cached_property
    def single_view(self) -> Single:
        """How the longwave weighs, in single precision."""
        return self.view.astype(np.float32)

    def amplitudes(self, nodes: Array) -> Array:
        """Amplitudes (k,) that come nearest to temperatures (N,)."""
        return np.asarray(self.patterns.T @ (self.weight_j_k * nodes))


def basis_of(prepared: Prepared, network: SolidNetwork, columns: Iterable[Array]) -> Basis:
    """The patterns in columns (N, any) of temperatures, told apart and evened."""
    weight = network.capacity_j_k + LEAST_J_K
    root = np.sqrt(weight)
    # The even temperature comes first and stays exact: with it heat is conserved.
    even = root * network.even
    even /= np.linalg.norm(even)
    raw = root[:, None] * np.concatenate(list(columns), axis=1)
    raw /= np.maximum(np.linalg.norm(raw, axis=0), 1e-300)
    raw -= np.outer(even, even @ raw)
    left, size, _ = np.linalg.svd(raw, full_matrices=False)
    found = np.column_stack([even, left[:, size > SAME * size[0]]])
    patterns = np.ascontiguousarray(found / root[:, None])
    n = network.patches
    return Basis(
        patterns=patterns,
        patches=n,
        conductance_w_k=patterns.T @ (network.conductance_w_k @ patterns),
        capacity_j_k=patterns.T @ (network.capacity_j_k[:, None] * patterns),
        outside_w_k=patterns.T @ network.outside_w_k,
        view=patterns[:n].T @ prepared.long_loss,
        weight_j_k=weight,
    )


def responses(
    network: SolidNetwork, day: Slopes, night: Slopes, air_j_k: Array, heat_w: Array, air_w: Array,
    rates_1_s: Sequence[float] = RATES_1_S, halfway_1_s: Sequence[float] = HALFWAY_1_S,
) -> Array:  # fmt: skip
    """Temperatures (N, columns x all rates) that heat into the solids (N, columns) and the air (m, columns) makes at
    each rate, with the slopes of day and night, and at some halfway between them.
    """
    taken = [*((day, rate) for rate in rates_1_s), *((night, rate) for rate in rates_1_s)]
    taken += [(_halfway(day, night), rate) for rate in halfway_1_s]
    return np.concatenate(
        [_response(network, slopes, air_j_k, heat_w, air_w, rate) for slopes, rate in taken], axis=1
    )  # fmt: skip


def _halfway(one: Slopes, other: Slopes) -> Slopes:
    return Slopes(
        (one.surfaces + other.surfaces) / np.float32(2), (one.air + other.air) / 2,
        (one.to_surfaces + other.to_surfaces) / 2, (one.to_air + other.to_air) / 2,
    )  # fmt: skip


def _response(
    network: SolidNetwork, slopes: Slopes, air_j_k: Array, heat_w: Array, air_w: Array, rate: float
) -> Array:  # fmt: skip
    n, inside = network.patches, network.inside(rate)
    surfaces, air = slopes.surfaces.copy(order="F"), slopes.air.copy()
    surfaces += network.condensed_at(rate)
    surfaces[np.diag_indices(n)] += rate * network.capacity_j_k[:n]
    air[np.diag_indices(len(air))] += rate * air_j_k
    factors = Factors.of_slopes(Slopes(surfaces, air, slopes.to_surfaces, slopes.to_air))
    inwards = network.conductance_w_k[n:, :n]
    surface, _ = factors.solve(heat_w[:n] - inwards.T @ inside.solve(heat_w[n:]), air_w)
    return np.concatenate([surface, inside.solve(heat_w[n:] - inwards @ surface)])


def room_gain_w_k(network: SolidNetwork) -> Array:
    """What a kelvin of the room gives to the nodes (N,) through all faces."""
    return np.asarray(network.outside_w_k @ np.ones(len(FACES)))


def parts_of_air(prepared: Prepared) -> Array:
    """Heat into parts of the air (m, parts): its upper half, its lower, and its left. Thin things follow the air."""
    zones = prepared.zones
    upper, left = np.zeros((zones.columns, zones.layers)), np.zeros((zones.columns, zones.layers))
    upper[:, zones.layers // 2 :] = 1.0
    left[: zones.columns // 2] = 1.0
    return np.column_stack([upper.ravel(), 1.0 - upper.ravel(), left.ravel()])
