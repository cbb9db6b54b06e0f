"""Conduction in level layered slabs: the ground under the animal and the slabs of the sites.

A slab with insulated edges is solved exactly in depth and by a cosine series in plan: each cosine wave of surface
temperature, of wave number ``kappa``, drives a heat flow through the layers that does not mix with the other waves.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.fft import dctn, idctn

from mitten.core.physics.geometry import Array

DEEP = 30.0
"""kappa * thickness beyond which tanh is 1 to the last digit."""


@dataclass(frozen=True)
class Layer:
    """A level layer: thickness in m and conductivity in W/mK."""

    thickness_m: float
    conductivity_w_mk: float


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
        k, t = layer.conductivity_w_mk, layer.thickness_m
        sideways = k * kappa
        depth = np.tanh(np.minimum(kappa * t, DEEP))
        with np.errstate(divide="ignore", invalid="ignore"):
            waves = sideways * (admittance + sideways * depth) / (sideways + admittance * depth)
            level = admittance / (1.0 + admittance * t / k)
        admittance = np.where(kappa > 0, waves, level)
    return admittance


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

    The surface loses ``film_w_m2k`` upwards and conducts into the layers.
    """
    rows, columns = flux_w_m2.shape
    admittance = admittance_w_m2k(wave_numbers((columns, rows), sizes_m), layers, below_w_m2k)
    waves = dctn(flux_w_m2, norm="ortho") / (film_w_m2k + admittance)
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
    rows, columns = surface_k.shape
    kappa = wave_numbers((columns, rows), sizes_m)
    waves = dctn(surface_k, norm="ortho")
    left_m = depth_m
    for number in reversed(range(len(layers))):
        layer = layers[number]
        below = admittance_w_m2k(kappa, layers[:number], below_w_m2k)
        into = min(left_m, layer.thickness_m)
        waves = waves * _fall(kappa, layer, below, into)
        left_m -= into
        if left_m <= 0:
            break
    return np.asarray(idctn(waves, norm="ortho"))


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
