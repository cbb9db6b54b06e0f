"""Reading single temperatures off a state: the surface nearest to a point, with the fine fields of ground and sites."""

import numpy as np

from mitten.core.physics.balance.state import State
from mitten.core.physics.reading.fields import SurfaceField, floor_field, site_field
from mitten.core.physics.shape.geometry import Interior


def surface_at(state: State, x_m: float, y_m: float, z_m: float) -> float:
    """Surface temperature in °C at the place of a surface nearest to a point."""
    interior = state.prepared.interior
    patch = nearest_patch(state, x_m, y_m, z_m)
    surface = interior.surfaces[int(np.searchsorted(interior.starts, patch, side="right")) - 1]
    if surface.kind == "floor":
        return floor_field(state).spot_at(x_m, y_m)
    if surface.kind == "site-top" and surface.site is not None:
        return site_field(state, surface.site).spot_at(x_m, y_m)
    return float(state.surface_c[patch])


def within_slab_c(state: State, site: int, top: SurfaceField, at: tuple[float, float], up: float) -> float:
    """Temperature in °C within a site's slab over a place (x, y), ``up`` of the way from its underside to its top."""
    interior = state.prepared.interior
    index, below = next((i, one) for i, one in interior.of_site(site) if one.kind == "site-bottom")
    patch = interior.starts[index] + int(below.patch_at(np.array([[*at, 0.0]]))[0])
    return float((1.0 - up) * state.surface_c[patch] + up * top.at(*at))


def nearest_patch(state: State, x_m: float, y_m: float, z_m: float) -> int:
    """Number of the exposed patch nearest to a point."""
    known, point = state.prepared.nearest, (x_m, y_m, z_m)
    if point not in known:
        known[point] = _nearest_patch(state.prepared.interior, x_m, y_m, z_m)
    return known[point]


def _nearest_patch(interior: Interior, x_m: float, y_m: float, z_m: float) -> int:
    offsets = interior.centres - np.array([x_m, y_m, z_m])
    for index, surface in enumerate(interior.surfaces):
        span = interior.span(index)
        half = np.zeros(3)
        half[list(surface.in_plane)] = np.array(surface.patch_sizes) / 2
        offsets[span] = np.maximum(np.abs(offsets[span]) - half, 0.0)
    reachable = np.where(interior.exposed_m2 > 0, np.linalg.norm(offsets, axis=1), np.inf)
    return int(reachable.argmin())
