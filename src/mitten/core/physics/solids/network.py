"""Conduction with the insides of solids: conductances and capacities of the patches and of the nodes behind them.

A layer is cut into cells; nodes are on their borders, so that a surface is a node, and each holds the halves of the
cells beside it. Between nodes conduction is exact for a steady state: condensed onto the surfaces, the network says the
same as the closed forms.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.fft import dctn
from scipy.sparse import coo_array, csc_array, csr_array, diags_array
from scipy.sparse.linalg import SuperLU, splu

from mitten.core.design import FACES
from mitten.core.physics.arrays import Array
from mitten.core.physics.solids.ground import DEEP, Layer, wave_numbers

RESOLVED_S = 120.0
"""Cells are as thick as warmth goes in this time, ``sqrt(k / (rho c) t)``: what is quicker is not resolved."""

GROWTH = 1.4
"""By how much each cell is thicker than the one before it on the way into a layer."""

Indices = NDArray[np.intp]


@dataclass(frozen=True, eq=False)
class Border:
    """A level border of the ground's cells: its depth under the surface, and the nodes that hold its temperatures, as
    amplitudes of the floor's cosine waves.
    """

    depth_m: float
    nodes: Indices


@dataclass(frozen=True, eq=False)
class SolidNetwork:
    """The patches (n,) and, after them, the nodes inside the solids (m,); together (n + m,).

    The ground's nodes are amplitudes of its cosine waves, which do not mix; all others are temperatures. ``even``
    (n + m,) is what an even temperature of 1 is in them. ``conductance_w_k`` (n + m, n + m) gives the heat that leaves
    each node, everything outside at 0; ``outside_w_k`` (n + m, faces) what each gains from a kelvin outside a face.
    ``capacity_j_k`` (n + m,) is the heat that each stores. ``ground`` are the borders of its cells from the top down,
    ``behind`` the outsides of the sheets, under their insulation. ``through`` are patches joined by what is inside a
    slab, ``floor`` those over the ground and ``waves`` what leads from them to their amplitudes.
    """

    patches: int
    conductance_w_k: csr_array
    outside_w_k: Array
    capacity_j_k: Array
    even: Array
    ground: tuple[Border, ...]
    behind: Mapping[int, Indices]
    through: tuple[tuple[Indices, Indices], ...]
    floor: Indices
    waves: Array

    @property
    def nodes(self) -> int:
        """Patches and nodes inside."""
        return len(self.even)

    def leaving_w(self, temperature: Array, outside: Array) -> Array:
        """Heat (faces,) that leaves by each face, with temperatures (n + m,) and those outside (faces,)."""
        return np.asarray(temperature @ self.outside_w_k - (self.even @ self.outside_w_k) * outside)

    def condensed(self) -> Array:
        """Conductance (n, n) of the patches alone, where the inside is at rest: ``K_ss - K_si K_ii^-1 K_is``."""
        return self.condensed_at(0.0)

    def condensed_at(self, rate_1_s: float) -> Array:
        """The same (n, n) where the inside moves at a rate: its capacities times the rate beside its conductances."""
        n = self.patches
        surfaces = self.conductance_w_k[:n, :n].toarray()
        if self.nodes > n:
            self._take_off_inside(surfaces, self.inside(rate_1_s))
        return np.asarray(surfaces)

    def _take_off_inside(self, surfaces: Array, inside: SuperLU) -> None:
        """Take ``K_si K_ii^-1 K_is`` off, in place. What is behind one patch hardly knows of what is behind another,
        so that all are asked at once: undersides of slabs apart from their tops, and the ground by its waves.
        """
        n = self.patches
        inwards = csr_array(self.conductance_w_k[n:, :n])
        pairs = [np.empty((0, 2), dtype=np.intp), *(np.column_stack(ends) for ends in self.through)]
        top, bottom = np.concatenate(pairs).T
        under = np.zeros(n)
        under[bottom] = 1.0
        over = 1.0 - under
        over[self.floor] = 0.0
        by_over, by_under = (inwards.T @ inside.solve(inwards @ ones) for ones in (over, under))
        own = by_over * over + by_under * under
        surfaces[np.diag_indices(n)] -= own
        surfaces[top, bottom] -= by_under[top]
        surfaces[bottom, top] -= by_over[bottom]
        if len(self.floor):
            ones = np.zeros(n)
            ones[self.floor] = self.waves.sum(axis=0)
            by_waves = self.waves @ (inwards.T @ inside.solve(inwards @ ones))[self.floor]
            surfaces[np.ix_(self.floor, self.floor)] -= self.waves.T @ (by_waves[:, None] * self.waves)

    def inside(self, rate_1_s: float) -> SuperLU:
        """Factors of the inside's conductances with its capacities times a rate."""
        n = self.patches
        stored = diags_array(rate_1_s * self.capacity_j_k[n:])
        return splu(csc_array(csc_array(self.conductance_w_k)[n:, n:] + stored))

    def inside_at_rest(self, surface: Array, outside: Array, heat_w: Array | None = None) -> Array:
        """Nodes (m,) inside that go with the temperatures of the patches (n,) and of what is outside each face, and
        with heat (n + m,) given to the nodes.
        """
        n = self.patches
        gain = (self.outside_w_k @ outside)[n:] - self.conductance_w_k[n:, :n] @ surface
        if heat_w is not None:
            gain = gain + heat_w[n:]
        return np.asarray(self.inside(0.0).solve(gain)) if self.nodes > n else np.zeros(0)


class NetworkBuilder:
    """Puts a network together, element by element."""

    def __init__(self, patches: int) -> None:
        self.patches = patches
        self.ground: list[Border] = []
        self.behind: dict[int, Indices] = {}
        self.through: list[tuple[Indices, Indices]] = []
        self.floor, self.waves = np.empty(0, dtype=np.intp), np.empty((0, 0))
        self._rows: list[Indices] = []
        self._columns: list[Indices] = []
        self._values: list[Array] = []
        self._stored: list[tuple[Indices, Array]] = []
        self._outside: list[tuple[Indices, int, Array]] = []
        self._even = [np.ones(patches)]
        self._count = patches

    def nodes(self, count: int, even: Array | None = None) -> Indices:
        """So many nodes more; ``even`` (count,) is what an even temperature of 1 is in them where that is not 1."""
        made = np.arange(self._count, self._count + count)
        self._count += count
        self._even.append(np.ones(count) if even is None else even)
        return made

    def join(self, here: Indices, there: Indices, conductance_w_k: Array) -> None:
        """Conductances between pairs of nodes."""
        for rows, columns, sign in ((here, here, 1), (there, there, 1), (here, there, -1), (there, here, -1)):
            self.entries(rows, columns, sign * conductance_w_k)

    def block(self, here: Indices, there: Indices, matrix: Array) -> None:
        """A whole matrix (here, there)."""
        self.entries(np.repeat(here, len(there)), np.tile(there, len(here)), matrix.ravel())

    def entries(self, rows: Indices, columns: Indices, values: Array) -> None:
        """Entries of the conductance matrix, added to what is there."""
        self._rows.append(rows)
        self._columns.append(columns)
        self._values.append(np.asarray(values, dtype=float))

    def leave(self, here: Indices, conductance_w_k: Array, face: int) -> None:
        """Conductances from nodes to what is outside a face."""
        self.entries(here, here, conductance_w_k)
        self._outside.append((here, face, conductance_w_k))

    def store(self, here: Indices, capacity_j_k: Array) -> None:
        """Heat that nodes store."""
        self._stored.append((here, capacity_j_k))

    def build(self) -> SolidNetwork:
        """The network."""
        entries = np.concatenate(self._values), (np.concatenate(self._rows), np.concatenate(self._columns))
        whole = csr_array(coo_array(entries, shape=(self._count, self._count)))
        even, capacity = np.concatenate(self._even), np.zeros(self._count)
        outside = np.zeros((self._count, len(FACES)))
        for here, capacity_j_k in self._stored:
            np.add.at(capacity, here, capacity_j_k)
        for here, face, conductance_w_k in self._outside:
            np.add.at(outside[:, face], here, conductance_w_k * even[here])
        return SolidNetwork(
            self.patches, whole, outside, capacity, even, tuple(self.ground), dict(self.behind), tuple(self.through),
            self.floor, self.waves,
        )  # fmt: skip


def cells_of(layer: Layer) -> list[Layer]:
    """A layer cut into cells: at its borders as thick as warmth goes while nothing is resolved, or thinner, and growing
    towards its middle, where things are slow.
    """
    if layer.heat_capacity_j_m3k <= 0:
        return [layer]
    finest_m = float(np.sqrt(layer.conductivity_w_mk / layer.heat_capacity_j_m3k * RESOLVED_S))
    if layer.thickness_m <= finest_m:
        return [layer]
    half = [finest_m]
    while sum(half) < layer.thickness_m / 2:
        half.append(half[-1] * GROWTH)
    shrunk = layer.thickness_m / 2 / sum(half)
    return [layer.of_thickness(thickness_m * shrunk) for thickness_m in (*half, *reversed(half))]


def add_chain(
    builder: NetworkBuilder, patches: Indices, areas_m2: Array, layers: Sequence[Layer], film_w_m2k: float, face: int
) -> None:
    """A wall's layers from the inside out behind each patch (n,), one-dimensional, and the film outside it; the first
    is the sheet of the face.
    """
    here = patches
    for number, layer in enumerate(layers):
        for cell in cells_of(layer) if layer.thickness_m > 0 else ():
            there = builder.nodes(len(patches))
            builder.join(here, there, areas_m2 / cell.resistance_m2k_w)
            half = areas_m2 * cell.thickness_m * cell.heat_capacity_j_m3k / 2
            builder.store(here, half)
            builder.store(there, half)
            here = there
        if number == 0:
            builder.behind[face] = here
    builder.leave(here, areas_m2 * film_w_m2k, face)


def add_through(builder: NetworkBuilder, top: Indices, bottom: Indices, area_m2: float, slab: Layer) -> None:
    """A slab's way from each patch of its top (n,) to that of its underside; a patch is of ``area_m2``."""
    cells, here = cells_of(slab), top
    if len(cells) > 1:
        builder.through.append((top, bottom))
    for number, cell in enumerate(cells):
        there = bottom if number == len(cells) - 1 else builder.nodes(len(top))
        builder.join(here, there, np.full(len(top), area_m2 / cell.resistance_m2k_w))
        half = np.full(len(top), area_m2 * cell.thickness_m * cell.heat_capacity_j_m3k / 2)
        builder.store(here, half)
        builder.store(there, half)
        here = there


def add_ground(
    builder: NetworkBuilder, patches: Indices, counts: tuple[int, int], sizes_m: tuple[float, float],
    layers: Sequence[Layer], below_w_m2k: float, face: int,
) -> None:  # fmt: skip
    """The ground under the floor's patches, ``layers`` from the bottom up: each cosine wave with nodes in depth.

    Between the borders of a cell of thickness d a wave kappa conducts exactly as ``k kappa coth(kappa d)`` at each and
    ``-k kappa / sinh(kappa d)`` between them.
    """
    n, kappa, cell_m2 = len(patches), wave_numbers(counts, sizes_m).ravel(), sizes_m[0] * sizes_m[1] / len(patches)
    builder.floor, builder.waves = patches, _waves_of(counts)
    waves = builder.waves
    here, depth_m = patches, 0.0
    for cell in (cell for layer in reversed(layers) if layer.thickness_m > 0 for cell in cells_of(layer)):
        there = builder.nodes(n, waves.sum(axis=1))
        own, across = (conductance * cell_m2 for conductance in _cell_w_m2k(kappa, cell))
        half = np.full(n, cell_m2 * cell.thickness_m * cell.heat_capacity_j_m3k / 2)
        builder.entries(there, there, own)
        if here is patches:
            builder.block(here, here, waves.T @ (own[:, None] * waves))
            builder.block(here, there, -waves.T * across)
            builder.block(there, here, -across[:, None] * waves)
        else:
            builder.entries(here, here, own)
            builder.entries(here, there, -across)
            builder.entries(there, here, -across)
        builder.store(here, half)
        builder.store(there, half)
        here, depth_m = there, depth_m + cell.thickness_m
        builder.ground.append(Border(depth_m, here))
    builder.leave(here, np.full(n, cell_m2 * below_w_m2k), face)


def _cell_w_m2k(kappa: Array, cell: Layer) -> tuple[Array, Array]:
    """What a cell conducts of each wave at one border, and from one to the other."""
    k, d = cell.conductivity_w_mk, cell.thickness_m
    reach = np.minimum(kappa * d, DEEP)
    with np.errstate(divide="ignore", invalid="ignore"):
        own, across = k * kappa / np.tanh(reach), k * kappa / np.sinh(reach)
    return np.where(kappa > 0, own, k / d), np.where(kappa > 0, across, k / d)


def _waves_of(counts: tuple[int, int]) -> Array:
    """Matrix (n, n) from the temperatures of a rectangle's patches to the amplitudes of its cosine waves; its transpose
    leads back.
    """
    n = counts[0] * counts[1]
    units = np.eye(n).reshape(n, counts[1], counts[0])
    return np.asarray(dctn(units, axes=(1, 2), norm="ortho").reshape(n, n).T)
