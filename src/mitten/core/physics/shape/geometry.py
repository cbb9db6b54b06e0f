"""The inside of an enclosure as rectangles divided into patches.

Axes as in the design file: x to the right, y to the back, z up from the floor panel. The inside that air and
radiation fill reaches from the substrate's surface to the top. Arrays over patches run surface by surface,
within a surface row by row with the first in-plane axis fastest.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np
import numpy.typing as npt

from mitten.core.design import Enclosure, Face, Site, Substrate, is_face
from mitten.core.physics.arrays import Array, Mask

FLOOR_PATCH_M = 0.06
WALL_PATCH_M = 0.10
SITE_PATCH_M = 0.05
MOST_FLOOR_PATCHES = (24, 12)
LEAST_FLOOR_PATCHES = (12, 6)
LEAST_WALL_PATCHES, MOST_WALL_PATCHES, MOST_CEILING_PATCHES = 4, 8, 12
"""More on the walls of large boxes would move no figure by 0.04 K; the top has lamps under it and panels on it."""

SUBDIVISION = 3
"""A beam is integrated over this many points along each side of a patch."""

STANDS_WITHIN_M = 0.005
"""A site whose underside is this near the ground lies on it."""

KEPT_GRIDS = 256

Indices = npt.NDArray[np.intp]
SurfaceKind = Literal["floor", "ceiling", "wall", "site-top", "site-bottom", "site-side"]


@dataclass(frozen=True)
class Box:
    """An axis-parallel box by two corners, each (x, y, z) in metres."""

    low: tuple[float, float, float]
    high: tuple[float, float, float]


@dataclass(frozen=True)
class Surface:
    """A rectangle facing the inside, divided into ``counts`` patches along its two in-plane axes.

    ``axis`` is the axis of the normal and ``facing`` its sign; ``origin`` is the corner with the least
    coordinates; ``sizes`` the lengths along the two other axes, in their order.
    """

    name: str
    kind: SurfaceKind
    axis: int
    facing: int
    origin: tuple[float, float, float]
    sizes: tuple[float, float]
    counts: tuple[int, int]
    site: int | None = None

    @property
    def outer_face(self) -> Face:
        """The outer face through which heat leaves it for what is outside: its own; down, from what stands inside."""
        return self.name if is_face(self.name) else "floor"

    @property
    def in_plane(self) -> tuple[int, int]:
        """The two in-plane axes."""
        first, second = (axis for axis in range(3) if axis != self.axis)
        return first, second

    @property
    def patches(self) -> int:
        """How many patches it has."""
        return self.counts[0] * self.counts[1]

    @property
    def patch_sizes(self) -> tuple[float, float]:
        """Lengths of one patch in metres along the two in-plane axes."""
        return self.sizes[0] / self.counts[0], self.sizes[1] / self.counts[1]

    @property
    def characteristic_m(self) -> float:
        """Area over perimeter for level surfaces, height for walls: the length of the film correlations."""
        if self.axis == 2:
            return self.sizes[0] * self.sizes[1] / (2 * (self.sizes[0] + self.sizes[1]))
        return self.sizes[1]

    def centres(self, subdivision: int = 1) -> Array:
        """Points (patches x subdivision^2, 3): the centres of the patches' sub-rectangles, patch by patch."""
        first, second = self.in_plane
        step = np.array(self.patch_sizes) / subdivision
        along, up = sub_places(self.counts, subdivision)
        points = np.empty((along.size, 3))
        points[:, self.axis] = self.origin[self.axis]
        points[:, first] = self.origin[first] + (along + 0.5) * step[0]
        points[:, second] = self.origin[second] + (up + 0.5) * step[1]
        return points

    def patch_at(self, points: Array) -> Indices:
        """Index within this surface of the patch at each of the points (m, 3), clipped to its edges."""
        first, second = self.in_plane
        step = self.patch_sizes
        iu = np.clip(((points[:, first] - self.origin[first]) / step[0]).astype(np.intp), 0, self.counts[0] - 1)
        iv = np.clip(((points[:, second] - self.origin[second]) / step[1]).astype(np.intp), 0, self.counts[1] - 1)
        index: Indices = iv * self.counts[0] + iu
        return index


@lru_cache(maxsize=KEPT_GRIDS)
def sub_places(counts: tuple[int, int], subdivision: int) -> tuple[Indices, Indices]:
    """Which sub-rectangle along each in-plane axis of a surface (patches x subdivision^2,), patch by patch."""
    inner = np.arange(subdivision)
    iu, iv, su, sv = (
        grid.transpose(1, 0, 3, 2).ravel()
        for grid in np.meshgrid(np.arange(counts[0]), np.arange(counts[1]), inner, inner, indexing="ij")
    )
    along, up = iu * subdivision + su, iv * subdivision + sv
    along.flags.writeable = up.flags.writeable = False
    return along, up


@dataclass(frozen=True)
class Interior:
    """All surfaces of the inside; patches are numbered through them in order."""

    box: Box
    surfaces: tuple[Surface, ...]
    blocks: tuple[Box, ...]
    """One box a site, in the order of the design."""

    @cached_property
    def starts(self) -> tuple[int, ...]:
        """Number of the first patch of each surface, and at the end the number of patches."""
        return tuple(int(n) for n in np.cumsum([0, *(surface.patches for surface in self.surfaces)]))

    @property
    def patches(self) -> int:
        """Number of patches."""
        return self.starts[-1]

    def span(self, index: int) -> slice:
        """The patches of the surface with that index."""
        return slice(self.starts[index], self.starts[index + 1])

    def index_of(self, name: str) -> int:
        """Index of the surface of that name.

        Raises:
            StopIteration: there is no such surface.
        """
        return next(index for index, surface in enumerate(self.surfaces) if surface.name == name)

    @property
    def top(self) -> slice:
        """The patches of the box's top."""
        return self.span(self.index_of("top"))

    def of_site(self, site: int) -> Iterator[tuple[int, Surface]]:
        """Surfaces of the site with that index, each with its own index."""
        return ((i, surface) for i, surface in enumerate(self.surfaces) if surface.site == site)

    @cached_property
    def centres(self) -> Array:
        """Patch centres (n, 3)."""
        return np.concatenate([surface.centres() for surface in self.surfaces])

    @cached_property
    def points(self) -> Array:
        """Sub-points (n x SUBDIVISION^2, 3), patch by patch."""
        return np.concatenate([surface.centres(SUBDIVISION) for surface in self.surfaces])

    @cached_property
    def normals(self) -> Array:
        """Unit normals (n, 3) into the inside."""
        normals = np.zeros((self.patches, 3))
        for index, surface in enumerate(self.surfaces):
            normals[self.span(index), surface.axis] = surface.facing
        return normals

    @cached_property
    def areas_m2(self) -> Array:
        """Whole patch areas (n,), covered or not."""
        return np.concatenate([np.full(s.patches, s.sizes[0] * s.sizes[1] / s.patches) for s in self.surfaces])

    @cached_property
    def exposed_m2(self) -> Array:
        """Patch areas (n,) that air and radiation reach: less what sites lie against."""
        covered = np.zeros(self.patches)
        for index, surface in enumerate(self.surfaces):
            if surface.kind == "site-bottom" and surface.origin[2] <= self.box.low[2]:
                covered[self.span(index)] = np.inf
            else:
                against = [b for n, b in enumerate(self.blocks) if n != surface.site and _touches(surface, b)]
                covered[self.span(index)] = covered_m2(surface, against)
        return np.maximum(self.areas_m2 - covered, 0.0)

    @cached_property
    def radiating_m2(self) -> Array:
        """Patch areas (n,) that exchange radiation: exposed, with at least one free sub-point."""
        free = self.open_points.reshape(self.patches, -1).any(axis=1)
        return np.where(free, self.exposed_m2, 0.0)

    @cached_property
    def open_points(self) -> Mask:
        """Which sub-points (n x SUBDIVISION^2,) lie free: not against or inside a site."""
        lifted = self.points + 1e-6 * np.repeat(self.normals, SUBDIVISION**2, axis=0)
        free = np.ones(len(lifted), dtype=bool)
        for block in self.blocks:
            free &= ~np.all((lifted > block.low) & (lifted < block.high), axis=1)
        return free


def _touches(surface: Surface, block: Box) -> bool:
    """Whether the block lies directly in front of the surface's plane."""
    front = surface.origin[surface.axis] + surface.facing * 1e-6
    return block.low[surface.axis] < front < block.high[surface.axis]


def overlap_m2(surface: Surface, block: Box) -> Array:
    """Area (patches,) of each patch of the surface that lies within the block's outline."""
    lengths = []
    for axis, count, size in zip(surface.in_plane, surface.counts, surface.sizes, strict=True):
        edges = surface.origin[axis] + np.linspace(0.0, size, count + 1)
        clipped = np.clip(edges, block.low[axis], block.high[axis])
        lengths.append(np.diff(clipped))
    return np.outer(lengths[1], lengths[0]).ravel()


def covered_m2(surface: Surface, blocks: Sequence[Box]) -> Array:
    """Area (patches,) of each patch of the surface that lies within the outline of any block, shared parts once."""
    if len(blocks) < 2:
        return sum((overlap_m2(surface, block) for block in blocks), np.zeros(surface.patches))
    along, up = (_cells(surface, which, blocks) for which in (0, 1))
    inside = np.zeros((len(up.sizes), len(along.sizes)), dtype=bool)
    for block in blocks:
        inside |= np.outer(up.within(block), along.within(block))
    covered = np.zeros(surface.counts[::-1])
    np.add.at(covered, np.ix_(up.patches, along.patches), inside * np.outer(up.sizes, along.sizes))
    return covered.ravel()


@dataclass(frozen=True)
class _Cells:
    """An in-plane axis of a surface cut so finely that each cell lies wholly inside or outside of every block."""

    axis: int
    middles: Array
    sizes: Array
    patches: Indices
    """The patch, counted along this axis, that each cell is a part of."""

    def within(self, block: Box) -> Mask:
        """Which cells lie between the block's ends."""
        return (self.middles > block.low[self.axis]) & (self.middles < block.high[self.axis])


def _cells(surface: Surface, which: int, blocks: Sequence[Box]) -> _Cells:
    axis = surface.in_plane[which]
    edges = surface.origin[axis] + np.linspace(0.0, surface.sizes[which], surface.counts[which] + 1)
    ends = [end[axis] for block in blocks for end in (block.low, block.high)]
    cuts = np.unique(np.clip([*edges, *ends], edges[0], edges[-1]))
    middles = (cuts[:-1] + cuts[1:]) / 2
    return _Cells(axis, middles, np.diff(cuts), np.searchsorted(edges, middles) - 1)


def build_interior(
    enclosure: Enclosure, substrate: Substrate, sites: Sequence[Site], fineness: float = 1.0
) -> Interior:
    """Divide the inside into patches; ``fineness`` 2 halves them along each side."""
    ground = substrate.depth_m
    box = Box((0.0, 0.0, ground), (enclosure.length_m, enclosure.depth_m, enclosure.height_m))
    blocks = tuple(_block(site, ground) for site in sites)
    surfaces = list(_faces(box, fineness))
    for number, (site, block) in enumerate(zip(sites, blocks, strict=True)):
        surfaces += _site_surfaces(number, site.name, block, fineness)
    return Interior(box, tuple(surfaces), blocks)


def _block(site: Site, ground_m: float) -> Box:
    low_z = site.underside_m(ground_m)
    if low_z - ground_m < STANDS_WITHIN_M:
        # What is bedded deeper is no part of the inside; its slab is.
        low_z = ground_m
    half = site.length_m / 2, site.depth_m / 2
    return Box(
        (site.x_m - half[0], site.y_m - half[1], low_z),
        (site.x_m + half[0], site.y_m + half[1], site.top_m(ground_m)),
    )


def _count(size_m: float, patch_m: float, least: int, most: int, fineness: float) -> int:
    return round(min(max(round(size_m / patch_m), least), most) * fineness)


def _faces(box: Box, fineness: float) -> Iterator[Surface]:
    low, size = box.low, np.subtract(box.high, box.low)
    floor = (
        _count(size[0], FLOOR_PATCH_M, LEAST_FLOOR_PATCHES[0], MOST_FLOOR_PATCHES[0], fineness),
        _count(size[1], FLOOR_PATCH_M, LEAST_FLOOR_PATCHES[1], MOST_FLOOR_PATCHES[1], fineness),
    )
    wall, top = (
        [_count(length, WALL_PATCH_M, LEAST_WALL_PATCHES, most, fineness) for length in size]
        for most in (MOST_WALL_PATCHES, MOST_CEILING_PATCHES)
    )
    length, depth, height = (float(value) for value in size)
    yield Surface("floor", "floor", 2, 1, low, (length, depth), floor)
    yield Surface("top", "ceiling", 2, -1, (0.0, 0.0, box.high[2]), (length, depth), (top[0], top[1]))
    yield Surface("left", "wall", 0, 1, low, (depth, height), (wall[1], wall[2]))
    yield Surface("right", "wall", 0, -1, (box.high[0], 0.0, low[2]), (depth, height), (wall[1], wall[2]))
    yield Surface("front", "wall", 1, 1, low, (length, height), (wall[0], wall[2]))
    yield Surface("back", "wall", 1, -1, (0.0, box.high[1], low[2]), (length, height), (wall[0], wall[2]))


def _site_surfaces(number: int, name: str, block: Box, fineness: float) -> Iterator[Surface]:
    low, high = block.low, block.high
    length, depth, thickness = (high[i] - low[i] for i in range(3))
    plan = (_count(length, SITE_PATCH_M, 2, 8, fineness), _count(depth, SITE_PATCH_M, 2, 8, fineness))
    around = (max(1, plan[0] // 2), max(1, plan[1] // 2))
    up = _count(thickness, WALL_PATCH_M, 1, 4, 1.0)
    top = (low[0], low[1], high[2])

    def surface(part: str, kind: SurfaceKind, axis: int, facing: int, origin: tuple[float, float, float],
                sizes: tuple[float, float], counts: tuple[int, int]) -> Surface:  # fmt: skip
        return Surface(f"{name}:{part}", kind, axis, facing, origin, sizes, counts, number)

    yield surface("top", "site-top", 2, 1, top, (length, depth), plan)
    yield surface("bottom", "site-bottom", 2, -1, low, (length, depth), plan)
    yield surface("left", "site-side", 0, -1, low, (depth, thickness), (around[1], up))
    yield surface("right", "site-side", 0, 1, (high[0], low[1], low[2]), (depth, thickness), (around[1], up))
    yield surface("front", "site-side", 1, -1, low, (length, thickness), (around[0], up))
    yield surface("back", "site-side", 1, 1, (low[0], high[1], low[2]), (length, thickness), (around[0], up))
