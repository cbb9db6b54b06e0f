"""What each patch does with the radiation that falls on it: absorbed, let through, given off, open."""

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.bare import Bare
from mitten.core.physics.radiation.exchange import SurfaceOptics
from mitten.core.physics.radiation.lamps import MeshWindow
from mitten.core.physics.shape.geometry import Interior, overlap_m2
from mitten.core.physics.tweaks import Tweaks

DARK_ABSORPTANCE = 0.92
"""Shortwave absorptance of a site that the keeper calls dark."""


def mesh_share_of(interior: Interior, window: MeshWindow | None) -> Array:
    """Share (top patches,) of each patch of the top that is mesh or open."""
    top = interior.surfaces[interior.index_of("top")]
    if window is None:
        return np.zeros(top.patches)
    return overlap_m2(top, window.block()) / (top.patch_sizes[0] * top.patch_sizes[1])


def optics_of(bare: Bare, interior: Interior, mesh_share: Array, tweaks: Tweaks) -> SurfaceOptics:
    """Absorbed, transmitted, own and open shares of every patch."""
    rows = np.empty((4, interior.patches))
    for index, surface in enumerate(interior.surfaces):
        span = interior.span(index)
        if surface.site is not None:
            stuff = bare.materials.sites[surface.site]
            absorbed = stuff.short_absorptance
            if bare.sites[surface.site].dark:
                absorbed = max(absorbed, DARK_ABSORPTANCE)
            shares = (min(absorbed * tweaks.absorptance, 1.0), 0.0, stuff.emissivity, 0.0)
        elif surface.kind == "floor":
            ground = bare.materials.ground
            shares = (min(ground.short_absorptance * tweaks.absorptance, 1.0), 0.0, ground.emissivity, 0.0)
        else:
            panel = bare.materials.panel(surface.outer_face)
            absorbed = 1 - panel.short_reflectance - panel.short_transmittance
            shares = (absorbed, panel.short_transmittance, panel.emissivity, 0.0)
        rows[:, span] = np.array(shares)[:, None]
    _blend_mesh(rows[:, interior.top], mesh_share, bare)
    return SurfaceOptics(*rows)


def _blend_mesh(rows: Array, mesh_share: Array, bare: Bare) -> None:
    """Mix the mesh into the top's shares, in place, by the part of each patch that is mesh."""
    if bare.enclosure.open_top:
        rows[:] = np.array([0.0, 1.0, 0.0, 1.0])[:, None]
    elif bare.materials.mesh is not None:
        mesh = bare.materials.mesh
        wire = 1 - mesh.open_share
        shares = np.array(
            [
                wire * mesh.wire_short_absorptance,
                mesh.open_share,
                wire * mesh.wire_emissivity,
                mesh.open_share,
            ]
        )
        rows += mesh_share * (shares[:, None] - rows)
