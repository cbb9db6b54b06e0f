"""View factors between patches: exact between faces, by deterministic hemisphere ray casting around sites; shadows.

The rays of one patch are spread over its sub-points; their directions are mirror images of one another in both
in-plane axes, so that a mirrored enclosure has exactly mirrored view factors.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from threading import Lock

import numpy as np
from cachetools import LRUCache, cached

from mitten.core.physics.arrays import Array, Mask
from mitten.core.physics.kernels import rays as kernels
from mitten.core.physics.shape.geometry import KEPT_GRIDS, SUBDIVISION, Box, Indices, Interior, sub_places
from mitten.core.physics.shape.rectangles import exchange_m2

MANY_RAYS = (4, 12)
"""Cosine-weighted rays per sub-point and quadrant: 144 rays a patch of a face, to find how much of what it sees is
hidden by sites, and 432 a patch of a site, to find what it sees."""

FEW_RAYS = (2, 6)
"""Half as many, for a coarse grid that is looked at in passing."""

NO_AREA_M2 = 1e-12
GOLDEN = (5.0**0.5 - 1.0) / 2.0
PLASTIC = np.array([0.7548776662466927, 0.5698402909980532])
"""Steps of the two-dimensional low-discrepancy sequence: powers of the inverse of the plastic number."""

FACES = 6
"""The faces of the box come first among the surfaces."""

KEPT_FACES_BYTES, KEPT_RAYS_BYTES = 16 * 2**20, 24 * 2**20
"""Of what does not depend on sites so much stays: they are moved more often than the box is resized."""

CLOSING_ROUNDS = 30
JUST_OFF_M = 1e-6


@dataclass(frozen=True, eq=False)
class _Rays:
    """Rays (m,) of patches: where they begin and where they go (m, 3), and where each would meet the box if there were
    no sites: which patch, and at how many multiples of its direction.
    """

    senders: Indices
    starts: Array
    directions: Array
    behind: Indices
    distance: Array

    @property
    def nbytes(self) -> int:
        """Bytes of all of them."""
        return sum(one.nbytes for one in (self.senders, self.starts, self.directions, self.behind, self.distance))


def view_factors(interior: Interior, rays: tuple[int, int] = MANY_RAYS) -> Array:
    """View factors F (n, n) over the radiating areas: reciprocal, rows sum to 1 (0 for covered patches).

    Between faces of the box they are exact, times the share of the rays that no site stops; to and from sites they
    are what the rays find. ``rays`` are those from faces and from sites.
    """
    n, faces, sites = interior.patches, slice(0, interior.starts[FACES]), slice(interior.starts[FACES], None)
    # The faces are numbered as in the empty box, which is the same wherever its sites are.
    empty = Interior(interior.box, interior.surfaces[:FACES], ())
    seen = np.zeros((n, n))
    seen[faces, faces] = _between_faces(empty)
    if interior.blocks:
        from_faces, free = _rays_of_faces(empty, rays[0]), _is_free(interior)
        visible, through = _count_rays(interior, from_faces, np.repeat(free[: len(empty.points)], 4 * rays[0]))
        seen[faces, faces] *= np.divide(visible, through, out=np.ones_like(visible), where=through > 0)[faces, faces]
        from_sites = _rays_from(interior, len(empty.points) + np.flatnonzero(free[len(empty.points) :]), rays[1])
        visible, through = _count_rays(interior, from_sites)
        seen[sites] = (visible / np.maximum(through.sum(axis=1, keepdims=True), 1.0))[sites]
        # What a face sees of a site is what the site sees of it, over more rays.
        areas = interior.radiating_m2
        back = areas[sites, None] * seen[sites, faces]
        seen[faces, sites] = (back / np.maximum(areas[faces], NO_AREA_M2)).T
    return close(seen, interior.radiating_m2)


@cached(LRUCache(KEPT_FACES_BYTES, lambda seen: seen.nbytes), lock=Lock())
def _between_faces(empty: Interior) -> Array:
    """Exact view factors (n, n) between the patches of an empty box's faces."""
    seen = np.zeros((empty.patches, empty.patches))
    for i, here in enumerate(empty.surfaces):
        for j, there in enumerate(empty.surfaces):
            if i < j:
                exchange = exchange_m2(here, there)
                seen[empty.span(i), empty.span(j)] = exchange / empty.areas_m2[empty.span(i), None]
                seen[empty.span(j), empty.span(i)] = exchange.T / empty.areas_m2[empty.span(j), None]
    return seen


@cached(LRUCache(KEPT_RAYS_BYTES, lambda rays: rays.nbytes), lock=Lock())
def _rays_of_faces(empty: Interior, rays: int) -> _Rays:
    """Rays of all sub-points of an empty box's faces."""
    return _rays_from(empty, np.arange(len(empty.points)), rays)


def _rays_from(interior: Interior, chosen: Indices, rays: int) -> _Rays:
    """Rays of the chosen sub-points; ``rays`` a sub-point and quadrant."""
    directions = _directions(interior, chosen, rays)
    owners, each = chosen // SUBDIVISION**2, directions.shape[1]
    starts = np.repeat(interior.points[chosen] + JUST_OFF_M * interior.normals[owners], each, axis=0)
    along = directions.reshape(-1, 3)
    return _Rays(np.repeat(owners, each), starts, along, *_met_in_the_box(interior, starts, along))


def _count_rays(interior: Interior, rays: _Rays, counts: Mask | None = None) -> tuple[Array, Array]:
    """Rays (n, n) from each patch that hit each patch, and those that would if there were no sites; ``counts`` (m,)
    says of which.
    """
    every = np.ones(len(rays.senders), dtype=bool)
    hits = _met_first(interior, rays)
    return kernels.count_hits(rays.senders, hits, rays.behind, every if counts is None else counts, interior.patches)


def close(seen: Array, areas_m2: Array) -> Array:
    """Make raw view factors (n, n) reciprocal and closed over the areas (n,), by symmetric scaling."""
    exchange = areas_m2[:, None] * seen
    exchange = (exchange + exchange.T) / 2
    exchange[areas_m2 == 0, :] = 0.0
    exchange[:, areas_m2 == 0] = 0.0
    # The scaling of all rounds is found first: that takes products with vectors alone.
    scale = np.ones(len(areas_m2))
    for _ in range(CLOSING_ROUNDS):
        sums = scale * (exchange @ scale)
        scale *= np.sqrt(np.divide(areas_m2, sums, out=np.zeros_like(sums), where=sums > 0))
    exchange *= scale[:, None] * scale[None, :]
    # What the scaling leaves open is given to the patch itself, so that no energy is lost in the last digits.
    exchange[np.diag_indices_from(exchange)] += areas_m2 - exchange.sum(axis=1)
    return np.divide(exchange, areas_m2[:, None], out=np.zeros_like(exchange), where=areas_m2[:, None] > 0)


def patches_hit(interior: Interior, starts: Array, directions: Array) -> tuple[Indices, Indices]:
    """Patch (m,) that each ray from ``starts`` (m, 3) along ``directions`` (m, 3) meets first, and the patch of the
    box that it would meet if there were no sites.
    """
    nobody = np.zeros(len(starts), dtype=np.intp)
    rays = _Rays(nobody, starts, directions, *_met_in_the_box(interior, starts, directions))
    return _met_first(interior, rays), rays.behind


def _met_in_the_box(interior: Interior, starts: Array, directions: Array) -> tuple[Indices, Array]:
    """Patch (m,) of the box's faces that each ray meets, and at how many multiples of its direction."""
    low, high = np.array(interior.box.low), np.array(interior.box.high)
    distance, axis, facing = kernels.exit_of_box(low, high, starts, directions)
    behind = np.zeros(len(starts), dtype=np.intp)
    _assign(interior, behind, range(FACES), starts + distance[:, None] * directions, axis, facing)
    return behind, distance


def _met_first(interior: Interior, rays: _Rays) -> Indices:
    """Patch (m,) that each ray meets first, of the box or of a site in its way."""
    hits, nearest = rays.behind.copy(), rays.distance.copy()
    for number, block in enumerate(interior.blocks):
        entry = _entry_to_block(block, rays.starts, rays.directions)
        closer = np.flatnonzero(entry < nearest)
        nearest[closer] = entry[closer]
        begun, along = rays.starts[closer], rays.directions[closer]
        landed = np.zeros(len(closer), dtype=np.intp)
        own = [index for index, _ in interior.of_site(number)]
        _assign(interior, landed, own, begun + entry[closer, None] * along, *_face_entered(block, begun, along))
        hits[closer] = landed
    return hits


def _assign(
    interior: Interior, hits: Indices, surfaces: Iterable[int], points: Array, axis: Indices, facing: Indices
) -> None:
    """Fill in the patches (m,) of some surfaces that points (m, 3) lie on, given the axis and sense of the face."""
    for index in surfaces:
        surface = interior.surfaces[index]
        (first, second), origin = surface.in_plane, surface.origin
        kernels.land_on(
            hits, points, axis, facing, (surface.axis, int(surface.facing)), (first, second),
            (origin[first], origin[second]), surface.patch_sizes, surface.counts, interior.starts[index],
        )  # fmt: skip


def unshadowed(blocks: tuple[Box, ...], points: Array, source: Array) -> Mask:
    """Which of the points (m, 3) see the source (3,) past every block."""
    if not blocks:
        return np.ones(len(points), dtype=bool)
    lows, highs = np.array([block.low for block in blocks]), np.array([block.high for block in blocks])
    return kernels.seen_past(lows, highs, points, source, JUST_OFF_M)


def _is_free(interior: Interior) -> Mask:
    """Which sub-points (n x SUBDIVISION^2,) lie free."""
    return np.asarray(interior.open_points & np.repeat(interior.exposed_m2 > 0, SUBDIVISION**2))


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


def _directions(interior: Interior, chosen: Indices, rays: int) -> Array:
    """Cosine-weighted unit directions (points, 4 x rays, 3) for the chosen sub-points.

    A rank-1 lattice in one quadrant, shifted from sub-point to sub-point so that their rays interleave, and
    mirrored into the other three.
    """
    shift_radius, shift_angle = _lattice_shifts(interior)[:, chosen]
    k = np.arange(rays)
    radius_squared = (k / rays + shift_radius[:, None]) % 1.0
    angle = (k * GOLDEN + shift_angle[:, None]) % 1.0 * (np.pi / 2)
    radius = np.sqrt(radius_squared)
    quadrant = np.stack([radius * np.cos(angle), radius * np.sin(angle), np.sqrt(1.0 - radius_squared)], axis=-1)
    signs = np.array([[1, 1, 1], [-1, 1, 1], [1, -1, 1], [-1, -1, 1]])
    local = (quadrant[:, :, None, :] * signs).reshape(len(chosen), -1, 3)
    return np.asarray(np.matmul(local, _frames(interior)[chosen // SUBDIVISION**2]))


def _lattice_shifts(interior: Interior) -> Array:
    """Two shifts in 0-1 for each sub-point (2, n x SUBDIVISION^2), equal in mirrored places of a surface."""
    return np.concatenate([_shifts_of(surface.counts) for surface in interior.surfaces], axis=1)


@lru_cache(maxsize=KEPT_GRIDS)
def _shifts_of(counts: tuple[int, int]) -> Array:
    """Those of a surface of so many patches along and up."""
    steps = np.array(counts) * SUBDIVISION
    place = np.column_stack(sub_places(counts, SUBDIVISION))
    from_edge = np.minimum(place, steps - 1 - place)
    number = from_edge[:, 0] + from_edge[:, 1] * ((steps[0] + 1) // 2)
    shifts = np.outer(PLASTIC, number) % 1.0
    shifts.flags.writeable = False
    return shifts


def _entry_to_block(block: Box, starts: Array, directions: Array) -> Array:
    """Multiples (m,) of the direction at which each ray comes into the block; infinite where it does not."""
    near, far = kernels.span_in_block(np.array(block.low), np.array(block.high), starts, directions)
    return np.where((near >= far) | (near < -JUST_OFF_M), np.inf, near)


def _face_entered(block: Box, starts: Array, directions: Array) -> tuple[Indices, Indices]:
    """Axis and sense (m,) of the face through which rays that do come into the block enter it."""
    with np.errstate(divide="ignore", invalid="ignore"):
        to_near = (np.where(directions > 0, block.low, block.high) - starts) / directions
    axis = np.nanargmax(to_near, axis=1)
    return axis, np.where(directions[np.arange(len(starts)), axis] > 0, -1, 1)
