"""What patches lose through solids: panels, ground and slabs together, as one matrix."""

from collections.abc import Iterator, Mapping, Sequence

import numpy as np

from mitten.core.catalogue import SiteMaterial
from mitten.core.design import Face, Site
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.bare import Bare, Materials
from mitten.core.physics.balance.prepared import Bedded
from mitten.core.physics.constants import value
from mitten.core.physics.shape.geometry import STANDS_WITHIN_M, Interior
from mitten.core.physics.solids.ground import Layer, conductance_matrix, cut_from_top, resistance_m2k_w
from mitten.core.physics.solids.panels import ground_layers, panel_resistances_m2k_w, panel_u_w_m2k
from mitten.core.physics.solids.slabs import add_contact, add_slab

WATER_J_M3K, WATER_IN_A_DISH = 4.18e6, 0.7
"""What water stores, and the share of a dish that is water, filled nearly to its rim; a starting point to verify."""


def bedded_sites(bare: Bare, interior: Interior) -> Iterator[Bedded]:
    """Slabs that reach into the ground."""
    ground_m = bare.substrate.depth_m
    for number, site in enumerate(bare.sites):
        depth_m = ground_m - site.underside_m(ground_m)
        if depth_m > STANDS_WITHIN_M:
            index = next(i for i, surface in interior.of_site(number) if surface.kind == "site-bottom")
            yield Bedded(index, interior.span(index), depth_m)


def slabs_of(bare: Bare) -> tuple[Layer, ...]:
    """The slabs of the sites; a dish holds water, which stores more than what the dish is made of."""
    return tuple(
        Layer(site.thickness_mm / 1000, made_of.conductivity_w_mk, _stores_j_m3k(site, made_of))
        for site, made_of in zip(bare.sites, bare.materials.sites, strict=True)
    )


def _stores_j_m3k(site: Site, made_of: SiteMaterial) -> float:
    dry = made_of.heat_capacity_mj_m3k * 1e6
    return dry if site.role != "water" else dry + WATER_IN_A_DISH * (WATER_J_M3K - dry)


def ground_of(bare: Bare, factor: float = 1.0) -> tuple[tuple[Layer, ...], int]:
    """What is under the floor's patches, from the bottom up, and which of it is the floor panel; ``factor`` is on the
    conductivity of the ground.
    """
    materials = bare.materials
    return ground_layers(
        bare.enclosure.panels.floor, bare.substrate, materials.panel("floor"), materials.layers, factor
    )


def inward_share(bare: Bare, wall: Face, film_w_m2k: float) -> float:
    """Share of heat given to a wall's outside that comes in."""
    resistances = panel_resistances_m2k_w(bare.enclosure.panels.of(wall), bare.materials.panel(wall), film_w_m2k)
    return resistances[1] / sum(resistances)


def conduction_of(
    bare: Bare, interior: Interior, mesh_share: Array, bedded: Sequence[Bedded], ground: Sequence[Layer],
    films_w_m2k: Mapping[Face, float], film_factor: float = 1.0,
) -> Array:  # fmt: skip
    """Matrix (n, n) in W/K from the patches' temperatures to the heat that they lose through solids, where everything
    outside is at 0; the inside of the solids condensed onto them. ``film_factor`` is on the film of the mesh's wires.
    """
    matrix = np.zeros((interior.patches, interior.patches))
    floor = interior.surfaces[0]
    below_w_m2k = films_w_m2k["floor"]
    matrix[interior.span(0), interior.span(0)] = conductance_matrix(floor.counts, floor.sizes, ground, below_w_m2k)
    for index, surface in enumerate(interior.surfaces):
        if surface.kind in ("wall", "ceiling"):
            face, span = surface.outer_face, interior.span(index)
            panel = bare.enclosure.panels.of(face)
            u = np.full(surface.patches, panel_u_w_m2k(panel, bare.materials.panel(face), films_w_m2k[face]))
            if surface.kind == "ceiling":
                u = u + mesh_share * (wire_film_w_m2k(bare.materials) * film_factor - u)
            rows = np.arange(span.start, span.stop)
            matrix[rows, rows] += u * interior.areas_m2[span]
    for number, slab in enumerate(slabs_of(bare)):
        add_slab(matrix, interior, number, slab)
        add_contact(matrix, interior, number)
    for deep in bedded:
        rows = np.arange(deep.span.start, deep.span.stop)
        matrix[rows, rows] += shorter_way_w_m2k(ground, deep.depth_m, below_w_m2k) * interior.areas_m2[deep.span]
    return np.asfortranarray(matrix)


def shorter_way_w_m2k(ground: Sequence[Layer], depth_m: float, below_w_m2k: float) -> float:
    """What a slab bedded that deep loses downwards beyond what the ground in its place would."""
    whole = 1.0 / (1.0 / below_w_m2k + resistance_m2k_w(ground))
    under_it = 1.0 / (1.0 / below_w_m2k + resistance_m2k_w(cut_from_top(ground, depth_m)) + 1.0 / value("contact"))
    return max(under_it - whole, 0.0)


def wire_film_w_m2k(materials: Materials) -> float:
    """Heat from the mesh's wires to the room above, per area of mesh; an open top has none but needs a number."""
    if materials.mesh is None:
        return value("film_least")
    return (1 - materials.mesh.open_share) * value("outside_film_free")
