"""Exchange areas between rectangles with parallel edges, exactly: the closed forms of the view-factor literature.

For two parallel rectangles and for two at right angles, ``A1 F12`` is a sum over the sixteen pairs of edges of a
function G, with alternating signs (Howell, A Catalog of Radiation Heat Transfer Configuration Factors, C-13 and C-15).
On grids of patches the sum is a difference along four axes of G between all edges, so that G is needed once an edge
pair and not once a patch pair.
"""

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.shape.geometry import Surface

NOTHING = 1e-30
"""Keeps the logarithm of a shared corner finite; its factor is zero."""


def exchange_m2(here: Surface, there: Surface) -> Array:
    """Exchange areas (patches of here, patches of there), ``A_i F_ij``, of two faces that see all of each other."""
    if here.axis == there.axis:
        return _parallel(here, there)
    return _at_right_angles(here, there)


def _edges(surface: Surface, axis: int) -> Array:
    """Edges of a surface's patches along one of its in-plane axes."""
    place = surface.in_plane.index(axis)
    return np.asarray(surface.origin[axis] + np.linspace(0.0, surface.sizes[place], surface.counts[place] + 1))


def _parallel(here: Surface, there: Surface) -> Array:
    first, second = here.in_plane
    apart = here.origin[here.axis] - there.origin[there.axis]
    u = (_edges(here, first)[:, None] - _edges(there, first)[None, :])[:, :, None, None]
    v = (_edges(here, second)[:, None] - _edges(there, second)[None, :])[None, None, :, :]
    beside_u, beside_v = np.hypot(u, apart), np.hypot(v, apart)
    total = v * beside_u * np.arctan(v / beside_u) + u * beside_v * np.arctan(u / beside_v)
    total = total - apart**2 / 2 * np.log(u**2 + v**2 + apart**2)
    # Axes: first here, first there, second here, second there.
    return _alternating_sum(total).transpose(2, 0, 3, 1).reshape(here.patches, there.patches)


def _at_right_angles(here: Surface, there: Surface) -> Array:
    common = next(axis for axis in here.in_plane if axis in there.in_plane)
    x = np.abs(_edges(here, there.axis) - there.origin[there.axis])[:, None, None, None]
    z = np.abs(_edges(there, here.axis) - here.origin[here.axis])[None, :, None, None]
    y = (_edges(here, common)[:, None] - _edges(there, common)[None, :])[None, None, :, :]
    from_edge = np.hypot(x, z)
    total = y * from_edge * np.arctan2(y, from_edge)
    total = total - (from_edge**2 - y**2) / 4 * np.log(from_edge**2 + y**2 + NOTHING)
    # Axes: across here, across there, along the common edge here, and there.
    order = (*_order(here, common, (0, 2)), *_order(there, common, (1, 3)))
    return _alternating_sum(total).transpose(order).reshape(here.patches, there.patches)


def _order(surface: Surface, common: int, axes: tuple[int, int]) -> tuple[int, int]:
    """Which array axes are a surface's second and first in-plane axes, given those across and along the edge."""
    across, along = axes
    return (across, along) if surface.in_plane[0] == common else (along, across)


def _alternating_sum(total: Array) -> Array:
    """The alternating sum over the edges of every pair of patches, over 2 pi."""
    for axis in range(4):
        total = np.diff(total, axis=axis)
    return np.asarray(np.abs(total) / (2 * np.pi))
