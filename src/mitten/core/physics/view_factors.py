"""View factors between patches by deterministic hemisphere ray casting, and shadows.

The rays of one patch are spread over its sub-points; their directions are mirror images of one another in both
in-plane axes, so that a mirrored enclosure has exactly mirrored view factors.
"""

import numpy as np
import numpy.typing as npt

from mitten.core.physics.geometry import SUBDIVISION, Array, Box, Interior, Mask

Indices = npt.NDArray[np.intp]

RAYS_PER_QUADRANT = 12
"""Cosine-weighted rays per sub-point and quadrant: 4 x 9 x 12 = 432 rays a patch."""

GOLDEN = (5.0**0.5 - 1.0) / 2.0
PLASTIC = np.array([0.7548776662466927, 0.5698402909980532])
"""Steps of the two-dimensional low-discrepancy sequence: powers of the inverse of the plastic number."""

CLOSING_ROUNDS = 30
JUST_OFF_M = 1e-6


def view_factors(interior: Interior) -> Array:
    """View factors F (n, n) over the radiating areas: reciprocal, rows sum to 1 (0 for covered patches)."""
    n = interior.patches
    if n == 0:
        return np.zeros((0, 0))
    chosen = _free_points(interior)
    directions = _directions(interior, chosen)
    rays = directions.shape[1]
    owners = chosen // SUBDIVISION**2
    starts = interior.points[chosen] + JUST_OFF_M * interior.normals[owners]
    hits = patches_hit(interior, np.repeat(starts, rays, axis=0), directions.reshape(-1, 3))
    counts = np.bincount(np.repeat(owners, rays) * n + hits, minlength=n * n).reshape(n, n).astype(float)
    totals = counts.sum(axis=1, keepdims=True)
    seen = np.divide(counts, totals, out=np.zeros_like(counts), where=totals > 0)
    return close(seen, interior.radiating_m2)


def close(seen: Array, areas_m2: Array) -> Array:
    """Make raw view factors (n, n) reciprocal and closed over the areas (n,), by symmetric scaling."""
    exchange = areas_m2[:, None] * seen
    exchange = (exchange + exchange.T) / 2
    exchange[areas_m2 == 0, :] = 0.0
    exchange[:, areas_m2 == 0] = 0.0
    for _ in range(CLOSING_ROUNDS):
        sums = exchange.sum(axis=1)
        scale = np.sqrt(np.divide(areas_m2, sums, out=np.zeros_like(sums), where=sums > 0))
        exchange *= scale[:, None] * scale[None, :]
    return np.divide(exchange, areas_m2[:, None], out=np.zeros_like(exchange), where=areas_m2[:, None] > 0)


def patches_hit(interior: Interior, starts: Array, directions: Array) -> Indices:
    """Patch (m,) that each ray from ``starts`` (m, 3) along ``directions`` (m, 3) meets first."""
    nearest, axis, facing = _exit_from_box(interior.box, starts, directions)
    block_hit = np.full(len(starts), -1)
    for number, block in enumerate(interior.blocks):
        distance, entry_axis, entry_facing = _entry_to_block(block, starts, directions)
        closer = distance < nearest
        nearest[closer], axis[closer], facing[closer] = (
            distance[closer],
            entry_axis[closer],
            entry_facing[closer],
        )
        block_hit[closer] = number
    points = starts + nearest[:, None] * directions
    hits = np.zeros(len(starts), dtype=np.intp)
    for index, surface in enumerate(interior.surfaces):
        number = -1 if surface.site is None else surface.site
        here = (block_hit == number) & (axis == surface.axis) & (facing == surface.facing)
        if here.any():
            hits[here] = interior.starts[index] + surface.patch_at(points[here])
    return hits


def unshadowed(blocks: tuple[Box, ...], points: Array, source: Array) -> Mask:
    """Which of the points (m, 3) see the source (3,) past every block."""
    reach = source - points
    seen = np.ones(len(points), dtype=bool)
    for block in blocks:
        near, far = _slab_span(block, points, reach)
        seen &= ~((near < far) & (far > JUST_OFF_M) & (near < 1.0 - JUST_OFF_M))
    return seen


def _free_points(interior: Interior) -> Indices:
    exposed = np.repeat(interior.exposed_m2 > 0, SUBDIVISION**2)
    return np.flatnonzero(interior.open_points & exposed)


def _frames(interior: Interior) -> Array:
    """In-plane axes and normal (n, 3, 3) of each patch."""
    frames = np.zeros((interior.patches, 3, 3))
    for index, surface in enumerate(interior.surfaces):
        first, second = surface.in_plane
        span = interior.span(index)
        frames[span, 0, first] = 1.0
        frames[span, 1, second] = 1.0
        frames[span, 2, surface.axis] = surface.facing
    return frames


def _directions(interior: Interior, chosen: Indices) -> Array:
    """Cosine-weighted unit directions (points, 4 x RAYS_PER_QUADRANT, 3) for the chosen sub-points.

    A rank-1 lattice in one quadrant, shifted from sub-point to sub-point so that their rays interleave, and
    mirrored into the other three.
    """
    shift_radius, shift_angle = _lattice_shifts(interior)[:, chosen]
    k = np.arange(RAYS_PER_QUADRANT)
    radius_squared = (k / RAYS_PER_QUADRANT + shift_radius[:, None]) % 1.0
    angle = (k * GOLDEN + shift_angle[:, None]) % 1.0 * (np.pi / 2)
    radius = np.sqrt(radius_squared)
    quadrant = np.stack([radius * np.cos(angle), radius * np.sin(angle), np.sqrt(1.0 - radius_squared)], axis=-1)
    signs = np.array([[1, 1, 1], [-1, 1, 1], [1, -1, 1], [-1, -1, 1]])
    local = (quadrant[:, :, None, :] * signs).reshape(len(chosen), -1, 3)
    return np.asarray(np.matmul(local, _frames(interior)[chosen // SUBDIVISION**2]))


def _lattice_shifts(interior: Interior) -> Array:
    """Two shifts in 0-1 for each sub-point (2, n x SUBDIVISION^2), equal in mirrored places of a surface."""
    shifts = []
    for surface in interior.surfaces:
        steps = np.array(surface.counts) * SUBDIVISION
        first, second = surface.in_plane
        size = np.array(surface.sizes) / steps
        offsets = surface.centres(SUBDIVISION) - np.array(surface.origin)
        place = np.floor(offsets[:, [first, second]] / size).astype(int)
        from_edge = np.minimum(place, steps - 1 - place)
        number = from_edge[:, 0] + from_edge[:, 1] * ((steps[0] + 1) // 2)
        shifts.append(np.outer(PLASTIC, number) % 1.0)
    return np.concatenate(shifts, axis=1)


def _slab_span(block: Box, starts: Array, directions: Array) -> tuple[Array, Array]:
    """Entry and exit (m,) of the rays in the block, in multiples of the direction; entry >= exit is a miss."""
    with np.errstate(divide="ignore", invalid="ignore"):
        to_low = (np.array(block.low) - starts) / directions
        to_high = (np.array(block.high) - starts) / directions
    near = np.nanmax(np.minimum(to_low, to_high), axis=1)
    far = np.nanmin(np.maximum(to_low, to_high), axis=1)
    return near, far


def _exit_from_box(box: Box, starts: Array, directions: Array) -> tuple[Array, Indices, Indices]:
    with np.errstate(divide="ignore", invalid="ignore"):
        to_far = (np.where(directions > 0, box.high, box.low) - starts) / directions
    to_far = np.where(np.abs(directions) < 1e-12, np.inf, np.maximum(to_far, 0.0))
    axis = np.argmin(to_far, axis=1)
    rows = np.arange(len(starts))
    facing = np.where(directions[rows, axis] > 0, -1, 1)
    return to_far[rows, axis], axis, facing


def _entry_to_block(block: Box, starts: Array, directions: Array) -> tuple[Array, Indices, Indices]:
    with np.errstate(divide="ignore", invalid="ignore"):
        to_near = (np.where(directions > 0, block.low, block.high) - starts) / directions
        to_far = (np.where(directions > 0, block.high, block.low) - starts) / directions
    axis = np.nanargmax(to_near, axis=1)
    rows = np.arange(len(starts))
    near, far = to_near[rows, axis], np.nanmin(to_far, axis=1)
    missed = (near >= far) | (near < -JUST_OFF_M)
    facing = np.where(directions[rows, axis] > 0, -1, 1)
    return np.where(missed, np.inf, near), axis, facing
