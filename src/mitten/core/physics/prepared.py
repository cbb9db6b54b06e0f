"""Everything about an enclosure that its lamps and its room do not change, worked out once and kept."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from scipy.sparse import csr_array

from mitten.core.catalogue import Catalogue, load_catalogue
from mitten.core.design import Design, Enclosure, Site, Substrate
from mitten.core.physics.air import Zones, build_zones
from mitten.core.physics.constants import value
from mitten.core.physics.geometry import Array, Interior, build_interior, overlap_m2
from mitten.core.physics.ground import Layer, conductance_matrix
from mitten.core.physics.losses import ground_layers, panel_u_w_m2k, underside_w_m2k
from mitten.core.physics.radiation import RadiationNetwork, SurfaceOptics, build_network
from mitten.core.physics.slabs import add_contact, add_slab
from mitten.core.physics.sources import MeshWindow, mesh_window
from mitten.core.physics.ventilation import Openings, build_openings
from mitten.core.physics.view_factors import view_factors

KEPT = 12
"""How many enclosures stay prepared: a bench with its variants."""

DARK_ABSORPTANCE = 0.92
"""Shortwave absorptance of a site that the keeper calls dark."""


@dataclass(frozen=True, eq=False)
class Prepared:
    """Matrices and tables of one enclosure; arrays over patches (n,), zones (m,).

    ``conduction`` (n, n) gives the heat each patch loses through solids for its temperature above the room's:
    panels, ground and slabs together. ``zone_shares`` (n, m) says
    how much of each patch convects to which zone.
    """

    interior: Interior
    zones: Zones
    window: MeshWindow | None
    network: RadiationNetwork
    long_loss: Array
    conduction: Array
    openings: Openings
    convecting_m2: Array
    film_tilt: Array
    film_length_m: Array
    zone_shares: Array
    mesh_share: Array
    ground: tuple[Layer, ...]
    underside_w_m2k: float

    @cached_property
    def sparse_conduction(self) -> csr_array:
        """The same conductances without their many zeros, for products."""
        return csr_array(self.conduction)

    @property
    def unknowns(self) -> int:
        """Patches and air zones."""
        return self.interior.patches + self.zones.count


def prepare(design: Design, fineness: float = 1.0) -> Prepared:
    """The prepared enclosure of a design, from the cache where only lamps or room differ."""
    bare = _Bare(design.enclosure, design.substrate, design.sites)
    return _prepare(bare, fineness)


def forget_prepared() -> None:
    """Clear the cache."""
    _prepare.cache_clear()


@dataclass(frozen=True)
class _Bare:
    """What preparation depends on, and so the key of the cache."""

    enclosure: Enclosure
    substrate: Substrate
    sites: tuple[Site, ...]


@lru_cache(maxsize=KEPT)
def _prepare(bare: _Bare, fineness: float) -> Prepared:
    catalogue = load_catalogue()
    interior = build_interior(bare.enclosure, bare.substrate, bare.sites, fineness)
    zones = build_zones(interior)
    window = mesh_window(bare.enclosure, catalogue)
    mesh_share = _mesh_share(interior, window)
    optics = _optics(bare, interior, mesh_share, catalogue)
    network = build_network(view_factors(interior), interior.radiating_m2, optics)
    ground = ground_layers(bare.enclosure, bare.substrate, catalogue)
    wires = np.ones(interior.patches)
    wires[_top(interior)] = 1.0 - mesh_share * (window.open_share if window else 0.0)
    return Prepared(
        interior=interior,
        zones=zones,
        window=window,
        network=network,
        long_loss=network.long_loss,
        conduction=_conduction(bare, interior, mesh_share, ground, catalogue),
        openings=build_openings(bare.enclosure, zones, window),
        convecting_m2=interior.exposed_m2 * wires,
        film_tilt=interior.normals[:, 2].copy(),
        film_length_m=np.concatenate([np.full(s.patches, s.characteristic_m) for s in interior.surfaces]),
        zone_shares=zones.patch_shares(interior),
        mesh_share=mesh_share,
        ground=ground,
        underside_w_m2k=underside_w_m2k(bare.enclosure.underside),
    )


def _top(interior: Interior) -> slice:
    return interior.span(interior.index_of("top"))


def _mesh_share(interior: Interior, window: MeshWindow | None) -> Array:
    """Share (top patches,) of each patch of the top that is mesh or open."""
    top = interior.surfaces[interior.index_of("top")]
    if window is None:
        return np.zeros(top.patches)
    return overlap_m2(top, window.block()) / (top.patch_sizes[0] * top.patch_sizes[1])


def _optics(bare: _Bare, interior: Interior, mesh_share: Array, catalogue: Catalogue) -> SurfaceOptics:
    """Absorbed, transmitted, own and open shares of every patch."""
    rows = np.empty((4, interior.patches))
    for index, surface in enumerate(interior.surfaces):
        span = interior.span(index)
        if surface.site is not None:
            stuff = catalogue.site_materials[bare.sites[surface.site].material]
            absorbed = stuff.short_absorptance
            if bare.sites[surface.site].dark:
                absorbed = max(absorbed, DARK_ABSORPTANCE)
            shares = (absorbed, 0.0, stuff.emissivity, 0.0)
        elif surface.kind == "floor":
            ground = catalogue.grounds[bare.substrate.material]
            shares = (ground.short_absorptance, 0.0, ground.emissivity, 0.0)
        else:
            panel = catalogue.panels[_panel_of(bare.enclosure, surface.name)]
            absorbed = 1 - panel.short_reflectance - panel.short_transmittance
            shares = (absorbed, panel.short_transmittance, panel.emissivity, 0.0)
        rows[:, span] = np.array(shares)[:, None]
    _blend_mesh(rows[:, _top(interior)], mesh_share, bare.enclosure, catalogue)
    return SurfaceOptics(*rows)


def _panel_of(enclosure: Enclosure, face: str) -> str:
    material: str = getattr(enclosure.panels, face).material
    return material


def _blend_mesh(rows: Array, mesh_share: Array, enclosure: Enclosure, catalogue: Catalogue) -> None:
    """Mix the mesh into the top's shares, in place, by the part of each patch that is mesh."""
    if enclosure.open_top:
        rows[:] = np.array([0.0, 1.0, 0.0, 1.0])[:, None]
    elif enclosure.lid_mesh is not None:
        mesh = catalogue.meshes[enclosure.lid_mesh.mesh]
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


def _conduction(
    bare: _Bare, interior: Interior, mesh_share: Array, ground: Sequence[Layer], catalogue: Catalogue
) -> Array:
    matrix = np.zeros((interior.patches, interior.patches))
    floor = interior.surfaces[0]
    matrix[interior.span(0), interior.span(0)] = conductance_matrix(
        floor.counts, floor.sizes, ground, underside_w_m2k(bare.enclosure.underside)
    )
    for index, surface in enumerate(interior.surfaces):
        if surface.kind in ("wall", "ceiling"):
            span = interior.span(index)
            u = np.full(surface.patches, panel_u_w_m2k(bare.enclosure, surface.name, catalogue))
            if surface.kind == "ceiling":
                u = u + mesh_share * (_wire_film_w_m2k(bare.enclosure, catalogue) - u)
            rows = np.arange(span.start, span.stop)
            matrix[rows, rows] += u * interior.areas_m2[span]
    for number, site in enumerate(bare.sites):
        add_slab(matrix, interior, number, catalogue.site_materials[site.material].conductivity_w_mk)
        add_contact(matrix, interior, number)
    return matrix


def _wire_film_w_m2k(enclosure: Enclosure, catalogue: Catalogue) -> float:
    """Heat from the mesh's wires to the room above, per area of mesh; an open top has none but needs a number."""
    if enclosure.lid_mesh is None:
        return value("film_least")
    return (1 - catalogue.meshes[enclosure.lid_mesh.mesh].open_share) * value("outside_film_free")
