"""Conduction in level layered slabs: the ground under the animal and the slabs of the sites.

A slab with insulated edges is solved exactly in depth and by a cosine series in plan: each cosine wave of surface
temperature, of wave number ``kappa``, drives a heat flow through the layers that does not mix with the other waves.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.fft import dctn, idctn

from mitten.core.physics.arrays import Array

DEEP = 30.0
"""kappa * thickness beyond which tanh is 1 to the last digit."""


@dataclass(frozen=True)
class Layer:
    """A level layer: thickness in m, conductivity in W/mK, and heat it stores in J/m3K."""

    thickness_m: float
    conductivity_w_mk: float
    heat_capacity_j_m3k: float = 0.0

    @property
    def resistance_m2k_w(self) -> float:
        """Thermal resistance through it."""
        return self.thickness_m / self.conductivity_w_mk

    def of_thickness(self, thickness_m: float) -> "Layer":
        """As thick a layer of the same."""
        return replace(self, thickness_m=thickness_m)


def cut_from_top(layers: Sequence[Layer], depth_m: float) -> tuple[Layer, ...]:
    """The layers, from the bottom up, that are left when a depth is taken off the top."""
    kept, left_m = list(layers), depth_m
    while kept and left_m > 0:
        highest = kept.pop()
        rest_m = highest.thickness_m - left_m
        if rest_m > 1e-9:
            kept.append(highest.of_thickness(rest_m))
        left_m -= highest.thickness_m
    return tuple(kept)


def resistance_m2k_w(layers: Sequence[Layer]) -> float:
    """Layers in series."""
    return sum(layer.resistance_m2k_w for layer in layers)


def wave_numbers(counts: tuple[int, int], sizes_m: tuple[float, float]) -> Array:
    """Wave numbers (counts[1], counts[0]) in 1/m of the cosine waves of a rectangle, edges insulated."""
    first = np.pi * np.arange(counts[0]) / sizes_m[0]
    second = np.pi * np.arange(counts[1]) / sizes_m[1]
    return np.asarray(np.hypot(first[None, :], second[:, None]))


def admittance_w_m2k(kappa: Array, layers: Sequence[Layer], below_w_m2k: float) -> Array:
    """Heat flow into the top of the layers per kelvin of surface wave above what is below.

    ``layers`` run from the bottom up, the lowest losing ``below_w_m2k``. Each layer passes the admittance Y on as
    ``k kappa (Y + k kappa tanh) / (k kappa + Y tanh)``, tanh of kappa times thickness; for kappa 0 that is
    resistances in series. Incropera et al., two-dimensional conduction by separation of variables.
    """
    admittance = np.full_like(kappa, below_w_m2k)
    for layer in layers:
        admittance = _through(kappa, layer, admittance)
    return admittance


def admittance_upwards_w_m2k(kappa: Array, layers: Sequence[Layer]) -> Array:
    """The same seen from the bottom of the layers, the top of the highest held at a fixed temperature."""
    highest, *rest = reversed(layers)
    with np.errstate(divide="ignore", invalid="ignore"):
        held = highest.conductivity_w_mk * kappa / np.tanh(np.minimum(kappa * highest.thickness_m, DEEP))
    admittance = np.where(kappa > 0, held, highest.conductivity_w_mk / highest.thickness_m)
    for layer in rest:
        admittance = _through(kappa, layer, admittance)
    return admittance


def _through(kappa: Array, layer: Layer, admittance: Array) -> Array:
    """Admittance at the near side of a layer, for one at its far side."""
    k, t = layer.conductivity_w_mk, layer.thickness_m
    sideways = k * kappa
    depth = np.tanh(np.minimum(kappa * t, DEEP))
    with np.errstate(divide="ignore", invalid="ignore"):
        waves = sideways * (admittance + sideways * depth) / (sideways + admittance * depth)
        level = admittance / (1.0 + admittance * t / k)
    return np.where(kappa > 0, waves, level)


def conductance_matrix(
    counts: tuple[int, int], sizes_m: tuple[float, float], layers: Sequence[Layer], below_w_m2k: float
) -> Array:
    """Matrix (n, n) in W/K from patch temperatures above what is below to heat into the top, row by row."""
    n = counts[0] * counts[1]
    admittance = admittance_w_m2k(wave_numbers(counts, sizes_m), layers, below_w_m2k)
    units = np.eye(n).reshape(n, counts[1], counts[0])
    waves = dctn(units, axes=(1, 2), norm="ortho")
    flows = idctn(waves * admittance, axes=(1, 2), norm="ortho").reshape(n, n)
    return np.asarray(flows * (sizes_m[0] * sizes_m[1] / n))


def surface_response_k(
    flux_w_m2: Array,
    sizes_m: tuple[float, float],
    layers: Sequence[Layer],
    below_w_m2k: float,
    film_w_m2k: float,
) -> Array:
    """Temperature rise (rows, columns) of a slab's surface under a flux pattern of that shape.

    The surface loses ``film_w_m2k`` upwards and conducts into the layers. Of a slab that loses nothing above or below,
    because it lies between others, the even part of the flux has no answer of its own and is left out.
    """
    rows, columns = flux_w_m2.shape
    losing = film_w_m2k + admittance_w_m2k(wave_numbers((columns, rows), sizes_m), layers, below_w_m2k)
    waves = dctn(flux_w_m2, norm="ortho")
    waves = np.divide(waves, losing, out=np.zeros_like(waves), where=losing > 0)
    return np.asarray(idctn(waves, norm="ortho"))


def below_surface_k(
    surface_k: Array,
    sizes_m: tuple[float, float],
    layers: Sequence[Layer],
    below_w_m2k: float,
    depth_m: float,
) -> Array:
    """Temperature rise (rows, columns) at a depth, for a surface rise of that shape; both above what is below.

    Within a layer of thickness t over an admittance Y, a wave falls as
    ``[cosh k(t-d) + Y/(k kappa) sinh k(t-d)] / [cosh kt + Y/(k kappa) sinh kt]``.
    """
    return spread(surface_k, sizes_m, lambda kappa: _left_at_depth(kappa, layers, below_w_m2k, depth_m))


def _left_at_depth(kappa: Array, layers: Sequence[Layer], below_w_m2k: float, depth_m: float) -> Array:
    """Share of each wave at the top of the layers that is left at a depth."""
    share, left_m = np.ones_like(kappa), depth_m
    for number in reversed(range(len(layers))):
        layer = layers[number]
        below = admittance_w_m2k(kappa, layers[:number], below_w_m2k)
        into = min(left_m, layer.thickness_m)
        share = share * _fall(kappa, layer, below, into)
        left_m -= into
        if left_m <= 0:
            break
    return share


def _fall(kappa: Array, layer: Layer, below_w_m2k: Array, into_m: float) -> Array:
    """Share of each wave that is left ``into_m`` below the top of a layer."""
    rest, t, k = layer.thickness_m - into_m, layer.thickness_m, layer.conductivity_w_mk
    level = (1.0 + below_w_m2k * rest / k) / (1.0 + below_w_m2k * t / k)
    with np.errstate(divide="ignore", invalid="ignore"):
        ratio = below_w_m2k / (k * kappa)
        # Written with exponentials that only fall, so that deep waves do not overflow.
        top = (1 + ratio) + (1 - ratio) * np.exp(-2 * kappa * rest)
        bottom = (1 + ratio) + (1 - ratio) * np.exp(-2 * kappa * t)
        waves = np.exp(-kappa * into_m) * top / bottom
    return np.where(kappa > 0, waves, level)


@dataclass(frozen=True)
class BuriedSource:
    """A level heat source at an interface of the layers: ``below`` and ``above`` it, each from the bottom up, with a
    cover of its own on it. Heights above it are those of the layers, over the cover.

    All answers are for the top of the layers held at the temperature of what is below them; the rise that the top
    itself has is added by ``below_surface_k``.
    """

    below: tuple[Layer, ...]
    above: tuple[Layer, ...]
    below_w_m2k: float
    cover: tuple[Layer, ...] = ()

    @property
    def over(self) -> tuple[Layer, ...]:
        """What its heat passes on its way up: its own cover, which lies nowhere else, and the layers."""
        return (*self.cover, *self.above)

    @property
    def cover_m(self) -> float:
        """Thickness of its cover."""
        return sum(layer.thickness_m for layer in self.cover)

    def own_rise_k(self, kappa: Array) -> Array:
        """Rise of the source's plane per W/m2 of each wave."""
        down = admittance_w_m2k(kappa, self.below, self.below_w_m2k)
        return np.asarray(1.0 / (down + admittance_upwards_w_m2k(kappa, self.over)))

    def share_into_top(self, kappa: Array) -> Array:
        """Share of each wave of flux that reaches the held top."""
        highest = self.over[-1]
        rise = self.rise_above_k(kappa, sum(layer.thickness_m for layer in self.above[:-1]))
        k, t = highest.conductivity_w_mk, highest.thickness_m
        with np.errstate(divide="ignore", invalid="ignore"):
            waves = 2 * k * kappa * np.exp(-kappa * t) / -np.expm1(-2 * kappa * t)
        return np.asarray(rise * np.where(kappa > 0, waves, k / t))

    def rise_above_k(self, kappa: Array, height_m: float) -> Array:
        """Rise per W/m2 of each wave, at a height above the source within the layers."""
        rise, left_m = self.own_rise_k(kappa), self.cover_m + height_m
        for number, layer in enumerate(self.over):
            into_m = min(left_m, layer.thickness_m)
            if into_m <= 0:
                break
            rise = rise * self._fall_upwards(kappa, number, into_m)
            left_m -= into_m
        return rise

    def _fall_upwards(self, kappa: Array, number: int, into_m: float) -> Array:
        """Share of a wave that is left ``into_m`` above the bottom of a layer over the source."""
        layer, further = self.over[number], self.over[number + 1 :]
        if further:
            return _fall(kappa, layer, admittance_upwards_w_m2k(kappa, further), into_m)
        rest, t = layer.thickness_m - into_m, layer.thickness_m
        with np.errstate(divide="ignore", invalid="ignore"):
            waves = np.exp(-kappa * into_m) * np.expm1(-2 * kappa * rest) / np.expm1(-2 * kappa * t)
        return np.where(kappa > 0, waves, rest / t)

    def rise_below_k(self, kappa: Array, depth_m: float) -> Array:
        """Rise per W/m2 of each wave, at a depth below the source within the layers."""
        return self.own_rise_k(kappa) * _left_at_depth(kappa, self.below, self.below_w_m2k, depth_m)


def spread(pattern: Array, sizes_m: tuple[float, float], transfer: Callable[[Array], Array]) -> Array:
    """A pattern (rows, columns) with each of its cosine waves multiplied by ``transfer(kappa)``."""
    rows, columns = pattern.shape
    kappa = wave_numbers((columns, rows), sizes_m)
    return np.asarray(idctn(dctn(pattern, norm="ortho") * transfer(kappa), norm="ortho"))
