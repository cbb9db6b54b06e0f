"""Conduction within the slabs of the sites, and between a slab and the ground it lies on.

Conductance matrices are (n, n) over all patches, in W/K: heat leaving each patch for given temperatures.
"""

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import value
from mitten.core.physics.shape.geometry import Box, Interior, Surface, overlap_m2
from mitten.core.physics.solids.ground import Layer


def link(matrix: Array, here: int, there: int, conductance_w_k: float) -> None:
    """Add a conductance between two patches to the matrix, in place."""
    matrix[here, here] += conductance_w_k
    matrix[there, there] += conductance_w_k
    matrix[here, there] -= conductance_w_k
    matrix[there, here] -= conductance_w_k


def parts_of(interior: Interior, site: int) -> dict[str, tuple[int, Surface]]:
    """The surfaces of one site by their side, with their numbers."""
    return {surface.name.rpartition(":")[2]: (index, surface) for index, surface in interior.of_site(site)}


def add_slab(matrix: Array, interior: Interior, site: int, slab: Layer) -> None:
    """Add the conduction within one site's slab: through it, along it, and to its edges."""
    parts = parts_of(interior, site)
    top_index, top = parts["top"]
    first_top, first_bottom = interior.starts[top_index], interior.starts[parts["bottom"][0]]
    through = top.patch_sizes[0] * top.patch_sizes[1] / slab.resistance_m2k_w
    for number in range(top.patches):
        link(matrix, first_top + number, first_bottom + number, through)
    add_sideways(matrix, interior, site, slab)


def add_sideways(matrix: Array, interior: Interior, site: int, slab: Layer) -> None:
    """Add what one site's slab conducts along itself and to its edges: its two halves as plates, each by itself."""
    parts = parts_of(interior, site)
    top_index, top = parts["top"]
    plates = interior.starts[top_index], interior.starts[parts["bottom"][0]]
    for first in plates:
        _add_along(matrix, first, top, slab.conductivity_w_mk * slab.thickness_m / 2)
    for side in ("left", "right", "front", "back"):
        index, surface = parts[side]
        _add_edge(matrix, interior, index, surface, top, plates, slab.conductivity_w_mk)


def _add_along(matrix: Array, first: int, plate: Surface, conductance_w_k: float) -> None:
    """Neighbours within a plate of that conductance per square (k times thickness)."""
    columns, rows = plate.counts
    width, depth = plate.patch_sizes
    numbers = first + np.arange(columns * rows).reshape(rows, columns)
    for here, there in zip(numbers[:, :-1].ravel(), numbers[:, 1:].ravel(), strict=True):
        link(matrix, int(here), int(there), conductance_w_k * depth / width)
    for here, there in zip(numbers[:-1, :].ravel(), numbers[1:, :].ravel(), strict=True):
        link(matrix, int(here), int(there), conductance_w_k * width / depth)


def _add_edge(matrix: Array, interior: Interior, index: int, side: Surface, top: Surface,
              plates: tuple[int, int], conductivity_w_mk: float) -> None:  # fmt: skip
    """From one edge face to the cells of the upper and lower plate behind it, each by its nearness in height."""
    columns, rows = top.counts
    cells = np.arange(columns * rows).reshape(rows, columns)
    behind = {"left": cells[:, 0], "right": cells[:, -1], "front": cells[0, :], "back": cells[-1, :]}
    edge = behind[side.name.rpartition(":")[2]]
    along, inward = (top.patch_sizes[1], top.patch_sizes[0]) if side.axis == 0 else top.patch_sizes
    levels = side.counts[1]
    whole = conductivity_w_mk * along * side.sizes[1] / levels / (inward / 2)
    for place, cell in enumerate(edge):
        nearest = place * side.counts[0] // len(edge)
        for level in range(levels):
            patch = interior.starts[index] + level * side.counts[0] + nearest
            height = (level + 0.5) / levels
            link(matrix, patch, plates[0] + cell, whole * height)
            link(matrix, patch, plates[1] + cell, whole * (1 - height))


def add_contact(matrix: Array, interior: Interior, site: int) -> None:
    """Join the underside of a slab that lies on the ground, or in it, to the floor patches under it."""
    block = interior.blocks[site]
    ground_m = interior.box.low[2]
    if block.low[2] > ground_m:
        return
    index = next(i for i, surface in interior.of_site(site) if surface.kind == "site-bottom")
    bottom, floor = interior.surfaces[index], interior.surfaces[0]
    half = np.array([*bottom.patch_sizes, 0.0]) / 2
    for number, centre in enumerate(bottom.centres()):
        low, high = centre - half, centre + half
        cell = Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))
        shared = overlap_m2(floor, cell)
        for patch in np.flatnonzero(shared):
            link(matrix, interior.starts[index] + number, int(patch), value("contact") * float(shared[patch]))
