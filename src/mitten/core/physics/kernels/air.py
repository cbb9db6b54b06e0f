"""Films, plumes and the flows between zones; equations in ``air.convection`` and ``air.zones``."""

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.kernels.compiled import compiled


@compiled
def plate_films(
    difference_k: Array, tilt: Array, length_m: Array, least_w_m2k: Array, per_k_m3: float, upright: float,
    conductivity_w_mk: float,
) -> Array:  # fmt: skip
    """Films (n,) in W/m2K on plates: ``per_k_m3`` is the Rayleigh number for a kelvin along a metre, ``upright`` the
    factor of its sixth root on an upright plate.
    """
    films = np.empty(len(difference_k))
    for patch in range(len(films)):
        rayleigh = per_k_m3 * abs(difference_k[patch]) * length_m[patch] ** 3
        if tilt[patch] == 0.0:
            nusselt = (0.825 + upright * np.sqrt(np.cbrt(rayleigh))) ** 2
        elif tilt[patch] * difference_k[patch] > 0.0:
            nusselt = max(0.54 * np.sqrt(np.sqrt(rayleigh)), 0.15 * np.cbrt(rayleigh))
        else:
            nusselt = 0.27 * np.sqrt(np.sqrt(rayleigh))
        films[patch] = max(nusselt * conductivity_w_mk / length_m[patch], least_w_m2k[patch])
    return films


@compiled
def plume_drives(heat_w: Array, layer_m: float, whole_w: float) -> tuple[Array, Array]:
    """What drives the plume at the top of every layer but the highest, in W, and its height in m above where it begins,
    both (columns, layers - 1), of the heat (columns, layers) that the air is given.
    """
    columns, layers = heat_w.shape
    power_w, height_m = np.empty((columns, layers - 1)), np.empty((columns, layers - 1))
    below_w, warming_w, moment_w_m = np.zeros(columns), np.zeros(columns), np.zeros(columns)
    for layer in range(layers - 1):
        for column in range(columns):
            given = heat_w[column, layer]
            below_w[column] += given
            warming_w[column] += max(given, 0.0)
            moment_w_m[column] += max(given, 0.0) * layer * layer_m
        # Where the air is cooled from below on the whole, only a place that really warms it makes a plume.
        usual_w = max(below_w.mean(), 0.0)
        for column in range(columns):
            excess = max(below_w[column] - usual_w, 0.0)
            begins_m = moment_w_m[column] / warming_w[column] if warming_w[column] > 0.0 else 0.0
            # Less than all of a slight excess: the cube root would turn a thousandth of a watt into a tenth of the flow
            # of a watt.
            power_w[column, layer] = excess**3 / (excess**2 + whole_w**2)
            height_m[column, layer] = (layer + 1) * layer_m - begins_m
    return power_w, height_m


@compiled
def closed_flows(rising_m3_s: Array) -> tuple[Array, Array]:
    """Flows (columns - 1, layers) across and (columns, layers - 1) up where air rises so in each column: it comes down
    evenly over all of them, and what a zone lacks comes from the side.
    """
    columns, between = rising_m3_s.shape
    up = np.empty((columns, between))
    for layer in range(between):
        mean = rising_m3_s[:, layer].mean()
        for column in range(columns):
            up[column, layer] = rising_m3_s[column, layer] - mean
    across = np.empty((columns - 1, between + 1))
    for layer in range(between + 1):
        gathered = 0.0
        for column in range(columns - 1):
            gathered += up[column, layer - 1] if layer > 0 else 0.0
            gathered -= up[column, layer] if layer < between else 0.0
            across[column, layer] = gathered
    return across, up


@compiled
def mixing(air_k: Array, sideways_m2_5_s: float, stable_m3_s: float, overturning_m2_5_s: float) -> tuple[Array, Array]:
    """Exchange flows across (columns - 1, layers) and up (columns, layers - 1) between zones at such temperatures
    (columns, layers), for the roots of the relative differences.
    """
    columns, layers = air_k.shape
    mean_k = air_k.mean()
    across, up = np.empty((columns - 1, layers)), np.empty((columns, layers - 1))
    for column in range(columns):
        for layer in range(layers):
            here_k = air_k[column, layer]
            if column < columns - 1:
                apart = abs(here_k - air_k[column + 1, layer]) / mean_k
                across[column, layer] = sideways_m2_5_s * np.sqrt(apart)
            if layer < layers - 1:
                over = max(here_k - air_k[column, layer + 1], 0.0) / mean_k
                up[column, layer] = stable_m3_s + overturning_m2_5_s * np.sqrt(over)
    return across, up


@compiled
def transport(net_across: Array, net_up: Array, mixing_across: Array, mixing_up: Array, leaving: Array) -> Array:
    """Matrix (m, m) in m3/s: outflow times a zone's own temperature less inflows times the neighbours', upwind."""
    columns, layers = leaving.shape
    matrix = np.zeros((columns * layers, columns * layers))
    for column in range(columns):
        for layer in range(layers):
            here = column * layers + layer
            matrix[here, here] += leaving[column, layer]
            if column < columns - 1:
                _exchange(matrix, here, here + layers, net_across[column, layer], mixing_across[column, layer])
            if layer < layers - 1:
                _exchange(matrix, here, here + 1, net_up[column, layer], mixing_up[column, layer])
    return matrix


@compiled
def _exchange(matrix: Array, here: int, there: int, net: float, both_ways: float) -> None:
    """Add to a transport matrix, in place, what flows from one zone to another and back."""
    forth, back = max(net, 0.0) + both_ways, max(-net, 0.0) + both_ways
    matrix[here, here] += forth
    matrix[there, here] -= forth
    matrix[there, there] += back
    matrix[here, there] -= back
