"""What falls from a lamp; equations in ``radiation.lamps``."""

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.kernels.compiled import compiled


@compiled
def falling(
    points: Array, normals: Array, middle: Array, axis: Array, spread: tuple[float, float, bool],
    reaches_m: tuple[float, float, float], few: tuple[Array, Array], many: tuple[Array, Array],
) -> Array:  # fmt: skip
    """Irradiance (m,) for a watt of a beam on faces at points (m, 3) with unit normals (m, 3), without shadows.

    The beam leaves from ``middle`` along ``axis`` (3,), with ``spread``: its exponent, the share that is in the beam,
    and whether it shines evenly all round. Within ``reaches_m``, the least distance that counts, that of a very near
    face and that of a near one, it comes from many places (p, 3) or few, each with its weight (p,).
    """
    nearest_m, very_near_m, near_m = reaches_m
    found = np.zeros(len(points))
    for point in range(len(points)):
        distance_m = _distance(points[point], middle, nearest_m)
        if distance_m < very_near_m:
            found[point] = _from_places(points[point], normals[point], many, axis, spread, nearest_m)
        elif distance_m < near_m:
            found[point] = _from_places(points[point], normals[point], few, axis, spread, nearest_m)
        else:
            found[point] = _from_place(points[point], normals[point], middle, axis, spread, nearest_m)
    return found


@compiled
def _distance(point: Array, place: Array, nearest_m: float) -> float:
    """From a point (3,) to a place (3,), and no less than the nearest that counts."""
    squared = 0.0
    for axis in range(3):
        squared += (place[axis] - point[axis]) ** 2
    distance_m: float = max(np.sqrt(squared), nearest_m)
    return distance_m


@compiled
def _from_places(
    point: Array, normal: Array, places: tuple[Array, Array], axis: Array, spread: tuple[float, float, bool],
    nearest_m: float,
) -> float:  # fmt: skip
    """Irradiance at a point from places (p, 3) with weights (p,)."""
    found, (at, weights) = 0.0, places
    for place in range(len(weights)):
        found += weights[place] * _from_place(point, normal, at[place], axis, spread, nearest_m)
    return found


@compiled
def _from_place(
    point: Array, normal: Array, place: Array, axis: Array, spread: tuple[float, float, bool], nearest_m: float
) -> float:
    """Irradiance at a point (3,) with that normal (3,), all of it from one place (3,)."""
    exponent, beam_share, is_even = spread
    distance_m = _distance(point, place, nearest_m)
    cos_phi = cos_theta = 0.0
    for along in range(3):
        towards = (place[along] - point[along]) / distance_m
        cos_phi += towards * normal[along]
        cos_theta -= towards * axis[along]
    if cos_phi <= 0.0:
        return 0.0
    if is_even:
        return cos_phi / (4.0 * np.pi * distance_m**2)
    cos_theta = max(cos_theta, 0.0)
    beam = beam_share * (exponent + 1.0) / (2.0 * np.pi) * cos_theta**exponent
    irradiance: float = (beam + (1.0 - beam_share) / np.pi * cos_theta) * cos_phi / distance_m**2
    return irradiance
