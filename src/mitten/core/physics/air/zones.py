"""The air: well-mixed zones in columns along x and layers along z, and the flows between them.

Arrays over zones are (columns, layers); flows are volume flows in m3/s. ``across`` (columns - 1, layers) is positive
to the right, ``up`` (columns, layers - 1) positive upwards.
"""

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
import numpy.typing as npt
from scipy.sparse import csr_array

from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import GRAVITY_M_S2, value
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
    """Share (patches, zones) of each patch that lies in each zone. A patch lies in two or three zones of the many, so
    that larger products leave out the zeros.
    """

    shares: Array

    def at_patches(self, of_zones: Array) -> Array:
        """What the patches (n,) find of something that the zones (m,) have."""
        return np.asarray(self.shares @ of_zones)

    def in_zones(self, of_patches: Array) -> Array:
        """What the zones (m,) get of something that the patches (n,) give."""
        return np.asarray(of_patches @ self.shares)

    def coupled(self, of_patches: Array) -> Array:
        """How the zones (m, m) answer to one another through patches that take so much (n,) from each of theirs:
        ``S' diag(w) S``.
        """
        zones = self.shares.shape[1]
        return np.asarray((self._pairs @ of_patches).reshape(zones, zones))

    @cached_property
    def _pairs(self) -> csr_array:
        """Products of the shares of each patch in every pair of zones (zones squared, patches)."""
        (patch, zone), (patches, count) = np.nonzero(self.shares), self.shares.shape
        in_all = np.bincount(patch, minlength=patches)
        # Each share goes with every share of its patch, its own too.
        one = np.repeat(np.arange(len(patch)), in_all[patch])
        begins = np.cumsum(in_all[patch]) - in_all[patch]
        other = (np.cumsum(in_all) - in_all)[patch[one]] + np.arange(len(one)) - begins[one]
        products = self.shares[patch[one], zone[one]] * self.shares[patch[one], zone[other]]
        return csr_array((products, (zone[one] * count + zone[other], patch[one])), shape=(count**2, patches))


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
    given = heat_w + body_w
    below = np.cumsum(given, axis=1)[:, :-1]
    # Where the air is cooled from below on the whole, only a place that really warms it makes a plume.
    excess = np.maximum(below - np.maximum(below.mean(axis=0), 0.0), 0.0)
    layer_height = zones.sizes_m[2]
    bottoms = np.arange(zones.layers) * layer_height
    warming = np.maximum(given, 0.0)
    weight = np.cumsum(warming, axis=1)[:, :-1]
    moment = np.cumsum(warming * bottoms, axis=1)[:, :-1]
    source_height = np.divide(moment, weight, out=np.zeros_like(moment), where=weight > 0)
    interface_height = bottoms[1:]
    rising = plume_flow_m3_s(_felt_w(excess), interface_height - source_height, air_k, density_kg_m3)
    up = rising - rising.mean(axis=0)
    return _close_sideways(up), up


def _felt_w(excess_w: Array) -> Array:
    """Power that drives a plume: all of a strong excess, and less than all of a slight one.

    Without this the cube root would turn a thousandth of a watt into a tenth of the flow of a watt.
    """
    whole = value("plume_whole")
    return np.asarray(excess_w**3 / (excess_w**2 + whole**2))


def _close_sideways(up: Array) -> Array:
    """Flows across (columns - 1, layers) that make the zones' mass balance close for given flows up."""
    columns = up.shape[0]
    nothing = np.zeros((columns, 1))
    rising = np.hstack([nothing, up, nothing])
    gathered = rising[:, :-1] - rising[:, 1:]
    return np.asarray(np.cumsum(gathered, axis=0)[:-1])


def mixing_flows(zones: Zones, air_k: Array) -> tuple[Array, Array]:
    """Exchange flows, equal both ways, between neighbours (across, up) at air temperatures (columns, layers).

    Sideways: density exchange ``0.1 A sqrt(g h dT/T)``. Upwards: an eddy diffusivity while warmer air lies above,
    overturning ``0.3 A sqrt(g dz dT/T)`` while it lies below.
    """
    width, depth, height = zones.sizes_m
    mean_k = float(air_k.mean())
    sideways = np.abs(air_k[:-1, :] - air_k[1:, :]) / mean_k
    across = value("neighbour_exchange") * height * depth * np.sqrt(GRAVITY_M_S2 * zones.height_m * sideways)
    overturning = np.maximum(air_k[:, :-1] - air_k[:, 1:], 0.0) / mean_k
    up = width * depth * (
        value("stable_mixing") / height
        + value("unstable_mixing") * np.sqrt(GRAVITY_M_S2 * height * overturning)
    )  # fmt: skip
    return across, up


def transport_matrix(zones: Zones, net: tuple[Array, Array], mixing: tuple[Array, Array], leaving: Array) -> Array:
    """Matrix (count, count) in m3/s: outflow times own temperature less inflows times the neighbours'.

    Net flows are taken upwind; ``leaving`` (columns, layers) leaves to the room.
    """
    flow = np.concatenate([net[0].ravel(), net[1].ravel()])
    exchange = np.concatenate([mixing[0].ravel(), mixing[1].ravel()])
    forth, back = np.maximum(flow, 0.0) + exchange, np.maximum(-flow, 0.0) + exchange
    weights = np.concatenate([-forth, -back, forth, back, leaving.ravel()])
    matrix = np.bincount(_entries(zones.columns, zones.layers), weights, zones.count**2)
    return np.asarray(matrix.reshape(zones.count, zones.count), dtype=np.float64)


@lru_cache(maxsize=8)
def _entries(columns: int, layers: int) -> npt.NDArray[np.intp]:
    """Where in the transport matrix, row by row, stands what flows forth and back between neighbours, sideways and then
    upwards, what so leaves its own zone, and what leaves to the room.
    """
    count = columns * layers
    numbers = np.arange(count).reshape(columns, layers)
    here = np.concatenate([numbers[:-1, :].ravel(), numbers[:, :-1].ravel()])
    there = np.concatenate([numbers[1:, :].ravel(), numbers[:, 1:].ravel()])
    diagonal = np.arange(count) * (count + 1)
    return np.concatenate(
        [there * count + here, here * count + there, diagonal[here], diagonal[there], diagonal]
    )  # fmt: skip
