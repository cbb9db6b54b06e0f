"""Conduction with what the solids store: the network of one enclosure, not condensed onto its patches.

The steady model needs the patches alone (``conduction``); in time the insides of panels, ground and slabs count, each
with the heat that it stores.
"""

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.design import FACES, Design
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.bare import Bare
from mitten.core.physics.balance.conduction import shorter_way_w_m2k, wire_film_w_m2k
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.shape.geometry import Surface
from mitten.core.physics.solids.network import (
    NetworkBuilder,
    SolidNetwork,
    add_chain,
    add_ground,
    add_through,
)
from mitten.core.physics.solids.panels import insulation_layer, panel_layer
from mitten.core.physics.solids.slabs import add_contact, add_sideways, parts_of

FLOOR = FACES.index("floor")


def network_of(prepared: Prepared, design: Design, catalogue: Catalogue) -> SolidNetwork:
    """The solids of a prepared enclosure with their insides."""
    bare = Bare.of(design, catalogue, {})
    builder = NetworkBuilder(prepared.interior.patches)
    _add_floor(builder, prepared)
    for index, surface in enumerate(prepared.interior.surfaces):
        if surface.kind in ("wall", "ceiling"):
            _add_panel(builder, prepared, bare, index, surface)
    _add_sites(builder, prepared)
    return builder.build()


def _add_floor(builder: NetworkBuilder, prepared: Prepared) -> None:
    floor = prepared.interior.surfaces[0]
    patches = np.arange(floor.patches)
    add_ground(builder, patches, floor.counts, floor.sizes, prepared.ground, prepared.underside_w_m2k, FLOOR)


def _add_panel(builder: NetworkBuilder, prepared: Prepared, bare: Bare, index: int, surface: Surface) -> None:
    """The sheet of a face and the board on it; through the mesh of the top, its wires' film alone."""
    interior, face = prepared.interior, surface.outer_face
    span, panel = interior.span(index), bare.enclosure.panels.of(face)
    patches, areas_m2 = np.arange(span.start, span.stop), interior.areas_m2[span]
    solid_m2 = areas_m2
    if surface.kind == "ceiling":
        solid_m2 = areas_m2 * (1.0 - prepared.mesh_share)
        builder.leave(patches, areas_m2 * prepared.mesh_share * wire_film_w_m2k(bare.materials), FACES.index(face))
    there = solid_m2 > 0
    if there.any():
        layers = [panel_layer(panel, bare.materials.panel(face)), insulation_layer(panel.insulation_mm)]
        film_w_m2k = prepared.films_w_m2k[face]
        add_chain(builder, patches[there], solid_m2[there], layers, film_w_m2k, FACES.index(face))


def _add_sites(builder: NetworkBuilder, prepared: Prepared) -> None:
    """Slabs: through them with their insides, along them as two plates, where they touch the ground, and deeper."""
    interior, n = prepared.interior, prepared.interior.patches
    flat: Array = np.zeros((n, n))
    for number, slab in enumerate(prepared.slabs):
        parts = parts_of(interior, number)
        top, bottom = (interior.span(parts[side][0]) for side in ("top", "bottom"))
        width_m, depth_m = parts["top"][1].patch_sizes
        ends = np.arange(top.start, top.stop), np.arange(bottom.start, bottom.stop)
        add_through(builder, *ends, width_m * depth_m, slab)
        add_sideways(flat, interior, number, slab)
        add_contact(flat, interior, number)
    rows, columns = np.nonzero(flat)
    builder.entries(rows, columns, flat[rows, columns])
    for deep in prepared.bedded:
        extra_w_m2k = shorter_way_w_m2k(prepared.ground, deep.depth_m, prepared.underside_w_m2k)
        builder.leave(np.arange(deep.span.start, deep.span.stop), extra_w_m2k * interior.areas_m2[deep.span], FLOOR)
