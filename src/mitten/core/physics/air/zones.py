"""The air: well-mixed zones in columns along x and layers along z, and the flows between them.

Arrays over zones are (columns, layers); flows are volume flows in m3/s. ``across`` (columns - 1, layers) is positive
to the right, ``up`` (columns, layers - 1) positive upwards.
"""

from dataclasses import dataclass
from functools import cached_property, lru_cache
from math import sqrt

import numpy as np
import numpy.typing as npt

from mitten.core.physics.arrays import Array, Counts
from mitten.core.physics.constants import GRAVITY_M_S2, value
from mitten.core.physics.kernels import air as kernels
from mitten.core.physics.shape.geometry import Box, Interior, Surface

COLUMNS, LAYERS = 8, 6
"""Every box has as many zones, so that none of its figures jumps when it is a centimetre longer or higher."""


@dataclass(frozen=True)
class Zones:
    """The zone grid of an interior. Zone (c, l) has the number ``c * layers + l``."""

    box: Box
    columns: int
    layers: int

    @property
    def count(self) -> int:
        """Number of zones."""
        return self.columns * self.layers

    @cached_property
    def sizes_m(self) -> tuple[float, float, float]:
        """Width, depth and height of one zone."""
        size = np.subtract(self.box.high, self.box.low)
        return float(size[0]) / self.columns, float(size[1]), float(size[2]) / self.layers

    @property
    def height_m(self) -> float:
        """Height of the air."""
        return self.box.high[2] - self.box.low[2]

    @property
    def centres_x_m(self) -> Array:
        """Middle of each column (columns,)."""
        width = self.sizes_m[0]
        return np.asarray(self.box.low[0] + (np.arange(self.columns) + 0.5) * width)

    @property
    def centres_z_m(self) -> Array:
        """Middle of each layer (layers,), above the floor panel."""
        height = self.sizes_m[2]
        return np.asarray(self.box.low[2] + (np.arange(self.layers) + 0.5) * height)

    def column_of(self, x_m: Array) -> npt.NDArray[np.intp]:
        """Column of each x."""
        place = (x_m - self.box.low[0]) / self.sizes_m[0]
        return np.clip(place.astype(np.intp), 0, self.columns - 1)

    def layer_of(self, z_m: Array) -> npt.NDArray[np.intp]:
        """Layer of each z."""
        place = (z_m - self.box.low[2]) / self.sizes_m[2]
        return np.clip(place.astype(np.intp), 0, self.layers - 1)

    def column_shares(self, x_m: float, width_m: float) -> Array:
        """Share (columns,) of a width around x that lies in each column."""
        shares = _overlaps(np.array([x_m]), np.array([width_m / 2]), self.box.low[0], self.box.high[0], self.columns)
        return np.asarray(shares[0])

    def height_shares(self, z_m: float) -> Array:
        """Share (layers,) by which something at a height lies in each layer: by its nearness to their middles."""
        place = np.clip(np.interp(z_m, self.centres_z_m, np.arange(self.layers)), 0, self.layers - 1)
        return np.asarray(np.maximum(1.0 - np.abs(np.arange(self.layers) - place), 0.0))

    def rising_shares(self, z_m: float) -> Array:
        """Share (layers,) of a plume's heat that each layer takes up from a height to the top: it mixes out evenly on
        its way. All of it where the height is in the highest layer or above.
        """
        above = np.cumsum(self.height_shares(z_m))
        return np.asarray(above / above.sum())

    def patch_shares(self, interior: Interior) -> "ZoneShares":
        """How much of each patch lies in each zone; one that stands upright on an axis is as thick as a zone there, so
        that it passes evenly from one to the next.
        """
        halves = np.concatenate([_half_sizes(surface, self.sizes_m) for surface in interior.surfaces])
        low, high = self.box.low, self.box.high
        along = _overlaps(interior.centres[:, 0], halves[:, 0], low[0], high[0], self.columns)
        upwards = _overlaps(interior.centres[:, 2], halves[:, 2], low[2], high[2], self.layers)
        return ZoneShares((along[:, :, None] * upwards[:, None, :]).reshape(interior.patches, self.count))

    @property
    def potential(self) -> Array:
        """Pseudo-inverse (count, count) of the zone graph's Laplacian: spreads a net inflow through the zones."""
        return _potential(self.columns, self.layers)

    def through_flow(self, inflow_m3_s: Array) -> tuple[Array, Array]:
        """Flows (across, up) that carry a net inflow (columns, layers), summing to 0, through the zones."""
        pressure = (self.potential @ inflow_m3_s.ravel()).reshape(self.columns, self.layers)
        return pressure[:-1, :] - pressure[1:, :], pressure[:, :-1] - pressure[:, 1:]


@lru_cache(maxsize=8)
def _potential(columns: int, layers: int) -> Array:
    laplacian = np.zeros((columns * layers, columns * layers))
    numbers = np.arange(columns * layers).reshape(columns, layers)
    pairs = [
        (numbers[:-1, :].ravel(), numbers[1:, :].ravel()),
        (numbers[:, :-1].ravel(), numbers[:, 1:].ravel()),
    ]
    for a, b in pairs:
        laplacian[a, b] -= 1.0
        laplacian[b, a] -= 1.0
    laplacian[np.diag_indices(len(laplacian))] = -laplacian.sum(axis=1)
    found = np.asarray(np.linalg.pinv(laplacian), dtype=np.float64)
    found.flags.writeable = False
    return found


@dataclass(frozen=True, eq=False)
class ZoneShares:
    """Share (patches, zones) of each patch that lies in each zone. A patch lies in two or three zones of the many."""

    shares: Array

    def at_patches(self, of_zones: Array) -> Array:
        """What the patches (n,) find of something that the zones (m,) have."""
        return np.asarray(self.shares @ of_zones)

    def in_zones(self, of_patches: Array) -> Array:
        """What the zones (m,) get of something that the patches (n,) give."""
        return np.asarray(of_patches @ self.shares)

    @cached_property
    def listed(self) -> tuple[Counts, Counts, Array]:
        """The shares without their zeros, patch by patch: where each begins (n + 1,), the zones, and the shares."""
        patch, zone = np.nonzero(self.shares)
        first = np.concatenate([[0], np.cumsum(np.bincount(patch, minlength=len(self.shares)))])
        return first.astype(np.intp), zone, self.shares[patch, zone]


def _half_sizes(surface: Surface, zone_m: tuple[float, float, float]) -> Array:
    """Half lengths (patches, 3) of a surface's patches along x, y and z."""
    half = np.zeros(3)
    half[surface.axis] = zone_m[surface.axis] / 2
    half[list(surface.in_plane)] = np.array(surface.patch_sizes) / 2
    return np.tile(half, (surface.patches, 1))


def _overlaps(centres: Array, halves: Array, low: float, high: float, count: int) -> Array:
    """Share (m, count) of each span that lies in each of the equal parts of low..high; one beyond lies in the last."""
    edges = np.linspace(low, high, count + 1)
    edges[0], edges[-1] = -np.inf, np.inf
    start, stop = (centres - halves)[:, None], (centres + halves)[:, None]
    return np.asarray(np.maximum(np.minimum(stop, edges[1:]) - np.maximum(start, edges[:-1]), 0.0) / (stop - start))


def build_zones(interior: Interior) -> Zones:
    """Zones of an interior."""
    return Zones(interior.box, COLUMNS, LAYERS)


def plume_flow_m3_s(power_w: Array, height_m: Array, air_k: float, density_kg_m3: float) -> Array:
    """Volume flow in m3/s of a plume at a height z above its source, ``Q = 0.153 B^(1/3) z^(5/3)``.

    ``B = g P / (rho c_p T)`` in m4/s3 is the flux of buoyancy of P watts. For a turbulent plume from a point in still
    air. 20 W at 0.4 m, 295 K, sea level: 2.72 l/s. Morton, Taylor & Turner 1956.
    """
    buoyancy = GRAVITY_M_S2 * power_w / (density_kg_m3 * value("air_heat_capacity") * air_k)
    return np.asarray(value("plume") * np.cbrt(buoyancy) * np.maximum(height_m, 0.0) ** (5 / 3))


def plume_flows(zones: Zones, heat_w: Array, body_w: Array, air_k: float, density_kg_m3: float) -> tuple[Array, Array]:
    """Flows (across, up) of plumes over the columns that give more heat than the average.

    ``heat_w`` (columns, layers) is the convected heat of the surfaces in each zone; ``body_w`` (columns, layers)
    that of lamp bodies. The air drawn up comes down evenly over all columns, closed along ceiling and floor.
    """
    power_w, height_m = kernels.plume_drives(heat_w + body_w, zones.sizes_m[2], value("plume_whole"))
    return kernels.closed_flows(plume_flow_m3_s(power_w, height_m, air_k, density_kg_m3))


def mixing_flows(zones: Zones, air_k: Array) -> tuple[Array, Array]:
    """Exchange flows, equal both ways, between neighbours (across, up) at air temperatures (columns, layers).

    Sideways: density exchange ``0.1 A sqrt(g h dT/T)``. Upwards: an eddy diffusivity while warmer air lies above,
    overturning ``0.3 A sqrt(g dz dT/T)`` while it lies below.
    """
    width, depth, height = zones.sizes_m
    return kernels.mixing(
        air_k,
        value("neighbour_exchange") * height * depth * sqrt(GRAVITY_M_S2 * zones.height_m),
        width * depth * value("stable_mixing") / height,
        width * depth * value("unstable_mixing") * sqrt(GRAVITY_M_S2 * height),
    )


def transport_matrix(zones: Zones, net: tuple[Array, Array], mixing: tuple[Array, Array], leaving: Array) -> Array:
    """Matrix (count, count) in m3/s: outflow times own temperature less inflows times the neighbours'.

    Net flows are taken upwind; ``leaving`` (columns, layers) leaves to the room.
    """
    return kernels.transport(*net, *mixing, leaving)
