"""From the steady state to fields that can be read: fine surface temperatures, the ground below, air at a point.

A surface under a beam is hotter in the middle of a patch than its mean. The patches' own temperatures are laid out
smoothly, and what the beam does within them is added as the slab's exact answer to the finer flux.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache, cached_property, lru_cache, partial
from typing import TypeVar

import numpy as np
import numpy.typing as npt
from scipy.ndimage import convolve

from mitten.core.physics.arrays import Array, Mask, highest_at
from mitten.core.physics.balance.contact import Transfer, buried_source, rise_of
from mitten.core.physics.balance.load import over_the_lamp
from mitten.core.physics.balance.state import State
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K
from mitten.core.physics.radiation.lamps import unit_deposit
from mitten.core.physics.radiation.sources import ContactSource
from mitten.core.physics.shape.geometry import SUBDIVISION, Surface
from mitten.core.physics.solids.ground import BuriedSource, Layer, below_surface_k, surface_response_k

SPOT_DIAMETER_M = 0.03
"""What a spot thermometer sees at arm's length."""

DISC_SAMPLES = 15
Values = TypeVar("Values", Array, Mask)
KEPT_FIELDS = 4


@dataclass(frozen=True, eq=False)
class SurfaceField:
    """A level surface, or a level plane under it, in fine cells: ``temperature_c`` (rows along y, columns along x).

    Of a surface, ``layers`` are what is under it from the bottom up, which lose ``below_w_m2k``; ``loss_w_m2k`` is what
    it loses upwards. ``bare`` (rows, columns) says which cells nothing stands on; all of them where None.
    """

    surface: Surface
    temperature_c: Array
    layers: Sequence[Layer] = ()
    below_w_m2k: float = 0.0
    loss_w_m2k: float = 0.0
    bare: Mask | None = None

    @property
    def cell_m(self) -> tuple[float, float]:
        """Cell sizes along x and y."""
        width, depth = self.surface.patch_sizes
        return width / SUBDIVISION, depth / SUBDIVISION

    @property
    def xs_m(self) -> Array:
        """Cell centres along x (columns,)."""
        return np.asarray(self.surface.origin[0] + (np.arange(self.temperature_c.shape[1]) + 0.5) * self.cell_m[0])

    @property
    def ys_m(self) -> Array:
        """Cell centres along y (rows,)."""
        return np.asarray(self.surface.origin[1] + (np.arange(self.temperature_c.shape[0]) + 0.5) * self.cell_m[1])

    @cached_property
    def spots_c(self) -> Array:
        """Mean over a 3 cm disc around every cell, as a spot thermometer reads it."""
        return disc_mean(self.temperature_c, self.cell_m)

    def hottest(self) -> tuple[float, tuple[float, float]]:
        """The hottest spot figure in °C and its place (x, y)."""
        spots = self.spots_c
        reachable = spots if self.bare is None else np.where(self.bare, spots, -np.inf)
        row, column = np.unravel_index(highest_at(reachable), spots.shape)
        return float(spots[row, column]), (float(self.xs_m[column]), float(self.ys_m[row]))

    def lowest_c(self) -> float:
        """The coldest place in °C."""
        return float(self.temperature_c[slice(None) if self.bare is None else self.bare].min())

    def spot_at(self, x_m: float, y_m: float) -> float:
        """Spot figure in °C at a place, between cell centres by straight lines."""
        return float(interpolate(self.spots_c, self.ys_m, self.xs_m, y_m, x_m))

    def spots_at(self, xs_m: Array, ys_m: Array) -> Array:
        """Spot figures in °C (m,) at places (m,)."""
        return interpolate(self.spots_c, self.ys_m, self.xs_m, ys_m, xs_m)

    def at(self, x_m: float, y_m: float) -> float:
        """Temperature in °C at a point, as a probe in the ground has it."""
        return float(interpolate(self.temperature_c, self.ys_m, self.xs_m, y_m, x_m))


def disc_mean(values: Array, cell_m: tuple[float, float]) -> Array:
    """Mean of a gridded quantity (rows, columns) over a disc of the spot's size around every cell."""
    reach = [int(np.ceil(SPOT_DIAMETER_M / 2 / size - 0.5)) for size in cell_m]
    offsets = (np.arange(DISC_SAMPLES) + 0.5) / DISC_SAMPLES * SPOT_DIAMETER_M - SPOT_DIAMETER_M / 2
    x, y = np.meshgrid(offsets, offsets)
    inside = np.hypot(x, y) <= SPOT_DIAMETER_M / 2
    columns = np.floor(x[inside] / cell_m[0] + 0.5).astype(int) + reach[0]
    rows = np.floor(y[inside] / cell_m[1] + 0.5).astype(int) + reach[1]
    kernel = np.zeros((2 * reach[1] + 1, 2 * reach[0] + 1))
    np.add.at(kernel, (rows, columns), 1.0)
    return np.asarray(convolve(values, kernel / kernel.sum(), mode="nearest"))


def interpolate(values: Array, firsts: Array, seconds: Array, first: Array | float, second: Array | float) -> Array:
    """Straight-line values between points of an even grid; beyond the outermost points, theirs."""
    row, up = _between(firsts, first)
    column, right = _between(seconds, second)
    below = values[row, column] * (1 - right) + values[row, column + (right > 0)] * right
    row = row + (up > 0)
    above = values[row, column] * (1 - right) + values[row, column + (right > 0)] * right
    return np.asarray(below * (1 - up) + above * up, dtype=np.float64)


def _between(grid: Array, at: Array | float) -> tuple[npt.NDArray[np.intp], Array]:
    """The point of an even grid before each place, and how far the place lies on the way to the next."""
    last = len(grid) - 1
    step = (grid[-1] - grid[0]) / last if last else 1.0
    place = np.minimum(np.maximum((np.asarray(at) - grid[0]) / step, 0.0), last)
    before = np.minimum(place.astype(np.intp), last)
    return before, place - before


@lru_cache(maxsize=KEPT_FIELDS)
def floor_field(state: State) -> SurfaceField:
    """The ground's surface; the last few are kept, because every depth below begins from it."""
    return _field(state, 0, state.prepared.ground, state.prepared.underside_w_m2k)


def site_field(state: State, site: int) -> SurfaceField:
    """The top of the site with that index."""
    interior = state.prepared.interior
    index = next(i for i, surface in interior.of_site(site) if surface.kind == "site-top")
    below = next(i for i, surface in interior.of_site(site) if surface.kind == "site-bottom")
    return _field(state, index, [state.prepared.slabs[site]], _mean_loss_w_m2k(state, below))


def ceiling_field(state: State) -> SurfaceField:
    """The inner surface of the top, with what the lamps under it send up."""
    prepared = state.prepared
    own = np.repeat(prepared.network.optics.long_own, SUBDIVISION**2)
    rising = np.zeros(len(own))
    for lamp in state.lamps:
        if lamp.hangs_inside and lamp.body_w > 0:
            longwave = unit_deposit(lamp.beam.upwards, prepared.interior, prepared.window).irradiance_w_m2
            rising += lamp.rising_w * own * longwave + over_the_lamp(prepared, lamp).jet_w_m2
    index = prepared.interior.index_of("top")
    return _field(state, index, [prepared.top_panel], prepared.outside_top_w_m2k, rising)


def _field(
    state: State, index: int, layers: Sequence[Layer], below_w_m2k: float, more_w_m2: Array | None = None
) -> SurfaceField:
    """A surface on layers; ``more_w_m2`` (sub-points,) is taken up there beside what comes from the lamps."""
    interior = state.prepared.interior
    surface, span = interior.surfaces[index], interior.span(index)
    shape = surface.counts[1], surface.counts[0]
    optics = state.prepared.network.optics
    fine_flux = np.zeros((shape[0] * SUBDIVISION, shape[1] * SUBDIVISION))
    patch_flux = np.zeros(shape)
    for lamp, received in zip(state.lamps, state.deposits, strict=True):
        taken = lamp.bands.short * optics.short_absorbed[span.start] + lamp.bands.ir_c * optics.long_own[span.start]
        fine = _fine(surface, received.irradiance_w_m2[span.start * SUBDIVISION**2 : span.stop * SUBDIVISION**2])
        fine_flux += taken * fine
        patch_flux += taken * _coarse(fine)
    if more_w_m2 is not None:
        fine = _fine(surface, more_w_m2[span.start * SUBDIVISION**2 : span.stop * SUBDIVISION**2])
        fine_flux += fine
        patch_flux += _coarse(fine)
    loss_w_m2k = _mean_loss_w_m2k(state, index)
    response = surface_response_k(fine_flux - _refine(patch_flux), surface.sizes, layers, below_w_m2k, loss_w_m2k)
    temperature = _refine(state.surface_c[span].reshape(shape)) + response
    return SurfaceField(surface, temperature, layers, below_w_m2k, loss_w_m2k, _bare(state, index))


def _bare(state: State, index: int) -> Mask | None:
    """Cells (rows, columns) of a surface that no site stands on; None where none stands on any."""
    interior = state.prepared.interior
    surface, span = interior.surfaces[index], interior.span(index)
    free = interior.open_points[span.start * SUBDIVISION**2 : span.stop * SUBDIVISION**2]
    return None if free.all() or not free.any() else _fine(surface, free)


def _mean_loss_w_m2k(state: State, index: int) -> float:
    """Film and longwave together, the mean over a surface."""
    span = state.prepared.interior.span(index)
    areas = state.prepared.interior.exposed_m2[span]
    if areas.sum() == 0:
        return 0.0
    longwave = 4 * SIGMA_W_M2K4 * (state.surface_c[span] + ZERO_C_K) ** 3
    return float(np.average(state.film_w_m2k[span] + longwave, weights=areas))


def _fine(surface: Surface, at_points: Values) -> Values:
    """Values at the sub-points, patch by patch, as one fine grid (rows, columns)."""
    columns, rows = surface.counts
    blocks = at_points.reshape(rows, columns, SUBDIVISION, SUBDIVISION)
    return blocks.transpose(0, 2, 1, 3).reshape(rows * SUBDIVISION, columns * SUBDIVISION)


def _refine(values: Array) -> Array:
    """Patch values (rows, columns) laid out on the fine grid by straight lines between patch centres."""
    rows, columns = values.shape
    return np.asarray(_subpoint_weights(rows) @ values @ _subpoint_weights(columns).T)


def patch_weights(surface: Surface, x_m: float, y_m: float) -> Array:
    """Weights (patches,) of a surface's patches at a place of it, between the sub-points by straight lines."""
    weights = []
    for place_m, axis in ((y_m, 1), (x_m, 0)):
        count = surface.counts[axis]
        fine = (np.arange(count * SUBDIVISION) + 0.5) / (count * SUBDIVISION) * surface.sizes[axis]
        along_m = float(np.clip(place_m - surface.origin[axis], fine[0], fine[-1]))
        between = np.array([np.interp(along_m, fine, unit) for unit in np.eye(len(fine))])
        weights.append(between @ _subpoint_weights(count))
    return np.outer(*weights).ravel()


@cache
def _subpoint_weights(count: int) -> Array:
    """Weights (count x SUBDIVISION, count) of patches in the sub-points between their centres."""
    fine = (np.arange(count * SUBDIVISION) + 0.5) / SUBDIVISION - 0.5
    low = np.clip(np.floor(fine).astype(int), 0, count - 1)
    high = np.clip(low + 1, 0, count - 1)
    share = np.clip(fine - low, 0.0, 1.0)
    weights = np.zeros((len(fine), count))
    np.add.at(weights, (np.arange(len(fine)), low), 1 - share)
    np.add.at(weights, (np.arange(len(fine)), high), share)
    return weights


def air_at(state: State, x_m: Array | float, z_m: Array | float) -> Array:
    """Air temperature in °C at places, between zone centres by straight lines."""
    zones = state.prepared.zones
    return interpolate(state.air_c, zones.centres_x_m, zones.centres_z_m, x_m, z_m)


def ground_at_depth(state: State, depth_m: float) -> Array:
    """Temperature in °C (rows, columns) of the ground at a depth below its surface, on the fine floor grid."""
    whole_m = sum(layer.thickness_m for layer in state.prepared.ground)
    height_m = whole_m - depth_m

    def at_height(buried: BuriedSource) -> Transfer:
        return partial(_rise_at_k, buried, height_m)

    return _in_the_ground(state, depth_m, at_height)


def _rise_at_k(buried: BuriedSource, height_m: float, kappa: Array) -> Array:
    """Rise that a source under the ground makes at a height above the lowest layer's underside."""
    own_m = sum(layer.thickness_m for layer in buried.below)
    if height_m >= own_m:
        return buried.rise_above_k(kappa, height_m - own_m)
    return buried.rise_below_k(kappa, own_m - height_m)


def underside_c(state: State) -> Array:
    """Temperature in °C (rows, columns) of the floor's underside, or of the insulating board's under it."""
    return ground_at_depth(state, sum(layer.thickness_m for layer in state.prepared.ground))


def mat_c(state: State, source: ContactSource) -> Array:
    """Temperature in °C (rows, columns) in the plane of a heater under or on the floor panel."""
    prepared = state.prepared
    buried = buried_source(source, prepared)
    depth_m = sum(layer.thickness_m for layer in buried.above)
    whole_m = sum(layer.thickness_m for layer in prepared.ground)

    def in_its_plane(other: BuriedSource) -> Transfer:
        # Its own plane is under its own cover.
        return other.own_rise_k if other == buried else partial(_rise_at_k, other, whole_m - depth_m)

    return _in_the_ground(state, depth_m, in_its_plane)


def _in_the_ground(state: State, depth_m: float, transfer_of: Callable[[BuriedSource], Transfer]) -> Array:
    """At a depth (rows, columns): at rest, what the surface and the heaters make there; in time, what the nodes there
    have come to, with what the heaters do within a patch.
    """
    if state.inside is None:
        return _below(state, depth_m) + _from_mats(state, transfer_of)
    floor = state.prepared.interior.surfaces[0]
    shape = floor.counts[1], floor.counts[0]
    at_nodes = _refine(state.inside.ground_c(depth_m).reshape(shape))
    return at_nodes + _within_patches(state, depth_m) + _from_mats(state, transfer_of, within_patches=True)


def _within_patches(state: State, depth_m: float) -> Array:
    """What is left at a depth (rows, columns) of that by which the surface differs within its patches."""
    prepared, fine = state.prepared, floor_field(state).temperature_c
    floor = prepared.interior.surfaces[0]
    own = fine - _refine(state.surface_c[prepared.interior.span(0)].reshape(floor.counts[1], floor.counts[0]))
    return below_surface_k(own, floor.sizes, prepared.ground, prepared.underside_w_m2k, depth_m)


def _below(state: State, depth_m: float) -> Array:
    """What the surface's own temperature makes at a depth."""
    prepared, below_c = state.prepared, state.surroundings.of("floor").together_c
    rise = floor_field(state).temperature_c - below_c
    sizes = prepared.interior.surfaces[0].sizes
    return below_c + below_surface_k(rise, sizes, prepared.ground, prepared.underside_w_m2k, depth_m)


def _from_mats(
    state: State, transfer_of: Callable[[BuriedSource], Transfer], within_patches: bool = False
) -> Array:  # fmt: skip
    """What the heaters in the floor add there, the surface held; all of it, or what it differs by within a patch."""
    floor = state.prepared.interior.surfaces[0]
    shape = floor.counts[1] * SUBDIVISION, floor.counts[0] * SUBDIVISION
    rises = [rise_of(source, state.prepared, transfer_of) for source in state.sources.contacts if source.in_floor]
    whole: Array = sum(rises, np.zeros(shape))
    return whole - _refine(_coarse(whole)) if within_patches else whole


def _coarse(fine: Array) -> Array:
    """Means (rows, columns) over the patches of a fine grid."""
    rows, columns = fine.shape[0] // SUBDIVISION, fine.shape[1] // SUBDIVISION
    return np.asarray(fine.reshape(rows, SUBDIVISION, columns, SUBDIVISION).mean(axis=(1, 3)))
