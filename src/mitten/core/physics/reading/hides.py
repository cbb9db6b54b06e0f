"""The air inside a hide: nearly still, between the roof's underside, the ground and the hide's sides."""

import numpy as np

from mitten.core.design import Site
from mitten.core.physics.balance.state import State
from mitten.core.physics.constants import value
from mitten.core.physics.reading.fields import air_at

LOW_M = 0.03


def is_hide(site: Site) -> bool:
    """Whether a site is the roof of a hide."""
    return site.role.endswith("hide")


def inside_air_c(state: State, index: int, site: Site) -> float:
    """Air inside a hide: the balance of its roof, its ground, its sides and its entrance.

    The model's rays and flows take a hide as its roof alone; this is worked out afterwards and moves nothing else.
    """
    interior = state.prepared.interior
    roof = next(i for i, surface in interior.of_site(index) if surface.kind == "site-bottom")
    roof_c = float(state.surface_c[interior.span(roof)].mean())
    block, centres = interior.blocks[index], interior.centres[interior.span(0)]
    under = np.all((centres[:, :2] > block.low[:2]) & (centres[:, :2] < block.high[:2]), axis=1)
    nearest = int(np.hypot(centres[:, 0] - site.x_m, centres[:, 1] - site.y_m).argmin())
    ground = state.surface_c[interior.span(0)]
    ground_c = float(ground[under].mean()) if under.any() else float(ground[nearest])
    height_m = max(block.low[2] - interior.box.low[2], LOW_M)
    plan_m2, side_m2 = site.length_m * site.depth_m, 2 * (site.length_m + site.depth_m) * height_m
    around_c = float(air_at(state, site.x_m, interior.box.low[2] + LOW_M))
    film = value("hide_film") * plan_m2
    outwards = value("hide_wall") * side_m2 + value("hide_door") * state.surroundings.air_w_k_per_m3_s
    return (film * (roof_c + ground_c) + outwards * around_c) / (2 * film + outwards)
