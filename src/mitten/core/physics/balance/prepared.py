"""Everything about an enclosure that its lamps and its room do not change, worked out once and kept."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from threading import Lock

import numpy as np
from cachetools import LRUCache, cached
from numpy.typing import NDArray
from scipy.sparse import csr_array

from mitten.core.catalogue import Catalogue, load_catalogue
from mitten.core.design import Design, Enclosure, Moisture, Panels, Site, Substrate, Underside
from mitten.core.physics.air.moisture import Evaporating
from mitten.core.physics.air.ventilation import Openings, build_openings
from mitten.core.physics.air.zones import Zones, build_zones
from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.exchange import RadiationNetwork, SurfaceOptics, build_network, with_optics
from mitten.core.physics.radiation.lamps import MeshWindow, mesh_window
from mitten.core.physics.shape.geometry import STANDS_WITHIN_M, Interior, build_interior, overlap_m2
from mitten.core.physics.shape.view_factors import FEW_RAYS, MANY_RAYS, view_factors
from mitten.core.physics.solids.ground import Layer, conductance_matrix, cut_from_top, resistance_m2k_w
from mitten.core.physics.solids.panels import (
    ground_layers,
    panel_resistances_m2k_w,
    panel_u_w_m2k,
    shelf_share,
    underside_w_m2k,
)
from mitten.core.physics.solids.slabs import add_bedding, add_contact, add_slab
from mitten.core.physics.tweaks import NOMINAL, Tweaks

MEGABYTE = 2**20
KEPT_SHAPE_BYTES, KEPT_SHINING_BYTES, KEPT_BYTES, KEPT_TWEAKED_BYTES = (mb * MEGABYTE for mb in (20, 60, 130, 40))
"""How much of what was worked out stays: a bench with its variants. Enclosures are of very different sizes, so that
bytes are counted and not enclosures; one that is larger than all of it is worked out each time.
"""

_LOCKS = tuple(Lock() for _ in range(16))
WALLS = ("left", "right", "front", "back")
SECONDS_A_DAY = 86400.0

DARK_ABSORPTANCE = 0.92
"""Shortwave absorptance of a site that the keeper calls dark."""


@dataclass(frozen=True)
class Bedded:
    """A slab that reaches into the ground: its underside's surface and patches, and how deep it reaches."""

    surface: int
    span: slice
    depth_m: float


@dataclass(frozen=True, eq=False)
class Prepared:
    """Matrices and tables of one enclosure; arrays over patches (n,), zones (m,).

    ``conduction`` (n, n) gives the heat each patch loses through solids for its temperature above the room's:
    panels, ground and slabs together. ``zone_shares`` (n, m) says how much of each patch convects to which zone.
    ``ground`` are the layers under the surface from the bottom up, ``floor_panel`` the index of the floor panel in
    them. ``wall_inward`` is the share of heat given to a wall's outside that comes in, ``wetness`` (n,) how freely a
    patch evaporates beside a water surface, ``misting_kg_s`` the water sprayed on the ground.
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
    floor_panel: int
    underside_w_m2k: float
    shelf_share: float
    wall_inward: Mapping[str, float]
    bedded: tuple[Bedded, ...]
    site_names: tuple[str, ...]
    wetness: Array
    misting_kg_s: float

    @property
    def matrices(self) -> tuple[NDArray[np.floating], ...]:
        """Everything in it that is as large as its patches squared."""
        network = self.network
        return network.view, network.short_factors[0], network.long_arriving, self.long_loss, self.conduction

    @cached_property
    def sparse_conduction(self) -> csr_array:
        """The same conductances without their many zeros, for products."""
        return csr_array(self.conduction)

    @cached_property
    def nearest(self) -> dict[tuple[float, float, float], int]:
        """Numbers of the patches nearest to points that were asked for: probes are read often."""
        return {}

    def has_matrices_of(self, other: "Prepared") -> bool:
        """Whether factors of the one serve the other: the same solids and surfaces, whatever is sprayed."""
        return self.conduction is other.conduction and self.long_loss is other.long_loss

    @property
    def unknowns(self) -> int:
        """Patches and air zones."""
        return self.interior.patches + self.zones.count

    @cached_property
    def evaporating(self) -> Evaporating:
        """What evaporates, and where to; what is sprayed falls evenly on the ground."""
        ground_m2 = np.zeros(self.interior.patches)
        ground_m2[self.interior.span(0)] = self.interior.exposed_m2[self.interior.span(0)]
        falls_on = ground_m2 / max(float(ground_m2.sum()), 1e-12)
        return Evaporating(self.wetness, self.zone_shares, falls_on, self.misting_kg_s)

    @cached_property
    def least_film_w_m2k(self) -> Array:
        """Thinnest film (n,) of each patch: over water, and over ground that is sprayed, the air is never as still."""
        wet = self.wetness.copy()
        if self.misting_kg_s > 0:
            wet[self.interior.span(0)] = 1.0
        dry = value("film_least")
        return np.asarray(dry + wet * (value("evaporation_film") - dry))

    @cached_property
    def evaporates(self) -> bool:
        """Whether any water can leave a surface."""
        return bool(self.wetness.any()) or self.misting_kg_s > 0


def prepare(design: Design, fineness: float = 1.0, tweaks: Tweaks = NOMINAL) -> Prepared:
    """The prepared enclosure of a design, from the cache where only sources or room differ."""
    bare = _Bare(design.enclosure, design.substrate, design.sites)
    # Two threads that want the same enclosure wait for one another instead of both working it out.
    with _LOCKS[hash((bare, fineness)) % len(_LOCKS)]:
        if tweaks.of_enclosure == NOMINAL:
            return _prepare(bare, fineness)
        return _prepare_tweaked(bare, fineness, tweaks.of_enclosure)


def forget_prepared() -> None:
    """Clear the caches."""
    _shape.cache_clear()
    _shining.cache_clear()
    _prepare.cache_clear()
    _prepare_tweaked.cache_clear()


@dataclass(frozen=True)
class _Bare:
    """What preparation depends on, and so the key of the cache."""

    enclosure: Enclosure
    substrate: Substrate
    sites: tuple[Site, ...]

    @property
    def unmisted(self) -> "_Bare":
        """The same without what is sprayed, which no matrix depends on."""
        return replace(self, substrate=self.substrate.model_copy(update={"misting_ml_day": 0.0}))

    @property
    def shining(self) -> "_Bare":
        """What the exchange of radiation depends on: neither water, air and insulation, nor what is outside."""
        box, ground = self.enclosure, self.substrate
        panels = {face: panel.model_copy(update={"insulation_mm": 0.0}) for face, panel in box.panels}
        bare_box = box.model_copy(update={**WITHOUT, "panels": box.panels.model_copy(update=panels)})
        return replace(self, enclosure=bare_box, substrate=ground.model_copy(update=DRY))

    @property
    def shape(self) -> "_Bare":
        """What the patches and their view of one another depend on: sizes and places."""
        box = self.enclosure.model_copy(update={**WITHOUT, "panels": Panels(), "lid_mesh": None, "open_top": False})
        return replace(self, enclosure=box, substrate=self.substrate.model_copy(update=DRY))


WITHOUT = {"vents": (), "door_gap_mm": 0.0, "fan_l_s": 0.0, "underside": Underside(), "against": ()}
DRY = {"moisture": "dry", "misting_ml_day": 0.0}


@dataclass(frozen=True, eq=False)
class _Shape:
    """The patches and zones of an enclosure, and how the patches (n,) see one another (n, n)."""

    interior: Interior
    zones: Zones
    view: Array


@cached(LRUCache(KEPT_SHAPE_BYTES, lambda shape: shape.view.nbytes), lock=Lock(), info=True)
def _shape(bare: _Bare, fineness: float) -> _Shape:
    interior = build_interior(bare.enclosure, bare.substrate, bare.sites, fineness)
    rays = MANY_RAYS if fineness >= 1.0 else FEW_RAYS
    return _Shape(interior, build_zones(interior), view_factors(interior, rays))


@dataclass(frozen=True, eq=False)
class _Shining:
    """The exchange of radiation in an enclosure, through its mesh too."""

    shape: _Shape
    window: MeshWindow | None
    mesh_share: Array
    network: RadiationNetwork
    long_loss: Array


def _bytes_of_shining(shining: _Shining) -> int:
    network = shining.network
    return sum(one.nbytes for one in (network.view, network.short_factors[0], network.long_arriving, shining.long_loss))


@cached(LRUCache(KEPT_SHINING_BYTES, _bytes_of_shining), lock=Lock(), info=True)
def _shining(bare: _Bare, fineness: float) -> _Shining:
    catalogue, shape = load_catalogue(), _shape(bare.shape, fineness)
    window = mesh_window(bare.enclosure, catalogue)
    mesh_share = _mesh_share(shape.interior, window)
    optics = _optics(bare, shape.interior, mesh_share, catalogue, NOMINAL)
    network = build_network(shape.view, shape.interior.radiating_m2, optics)
    return _Shining(shape, window, mesh_share, network, np.asfortranarray(network.long_loss))


def _bytes_of(prepared: Prepared) -> int:
    return sum(matrix.nbytes for matrix in prepared.matrices)


@cached(LRUCache(KEPT_BYTES, _bytes_of), lock=Lock(), info=True)
def _prepare(bare: _Bare, fineness: float) -> Prepared:
    """The prepared enclosure; of one that is sprayed, that of a dry one with the water."""
    misting_kg_s = bare.substrate.misting_ml_day / 1000 / SECONDS_A_DAY
    if misting_kg_s > 0:
        return replace(_prepare(bare.unmisted, fineness), misting_kg_s=misting_kg_s)
    catalogue, shining = load_catalogue(), _shining(bare.shining, fineness)
    interior, zones, window, mesh_share = (
        shining.shape.interior,
        shining.shape.zones,
        shining.window,
        shining.mesh_share,
    )
    ground, floor_panel = ground_layers(bare.enclosure, bare.substrate, catalogue)
    underside = bare.enclosure.underside
    bedded = tuple(_bedded_sites(bare, interior))
    return Prepared(
        interior=interior,
        zones=zones,
        window=window,
        network=shining.network,
        long_loss=shining.long_loss,
        conduction=_conduction(bare, interior, mesh_share, bedded, catalogue, NOMINAL),
        openings=build_openings(bare.enclosure, zones, window),
        convecting_m2=_convecting_m2(interior, mesh_share, window),
        film_tilt=interior.normals[:, 2].copy(),
        film_length_m=np.concatenate([np.full(s.patches, s.characteristic_m) for s in interior.surfaces]),
        zone_shares=zones.patch_shares(interior),
        mesh_share=mesh_share,
        ground=ground,
        floor_panel=floor_panel,
        underside_w_m2k=underside_w_m2k(underside),
        shelf_share=shelf_share(underside),
        wall_inward={wall: _inward(bare.enclosure, wall, catalogue) for wall in WALLS},
        bedded=bedded,
        site_names=tuple(site.name for site in bare.sites),
        wetness=_wetness(bare, interior),
        misting_kg_s=misting_kg_s,
    )


def _bytes_of_tweaked(prepared: Prepared) -> int:
    """Only some of its matrices are its own; which is not known here, so that half of them are counted."""
    return _bytes_of(prepared) // 2


@cached(LRUCache(KEPT_TWEAKED_BYTES, _bytes_of_tweaked), lock=Lock(), info=True)
def _prepare_tweaked(bare: _Bare, fineness: float, tweaks: Tweaks) -> Prepared:
    """A prepared enclosure with some of its parameters moved: only what they touch is worked out again."""
    catalogue, nominal = load_catalogue(), _prepare(bare, fineness)
    interior, changed = nominal.interior, nominal
    if tweaks.absorptance != 1.0:
        optics = _optics(bare, interior, nominal.mesh_share, catalogue, tweaks)
        changed = replace(changed, network=with_optics(nominal.network, optics))
    if tweaks.mesh != 1.0 and nominal.window is not None and nominal.window.open_share < 1.0:
        window = replace(nominal.window, open_share=min(nominal.window.open_share * tweaks.mesh, 1.0))
        changed = replace(changed, window=window)
    if tweaks.ventilation != 1.0:
        changed = replace(changed, openings=nominal.openings.scaled(tweaks.ventilation))
    if tweaks.outside_film != 1.0 or tweaks.ground != 1.0:
        ground, _ = ground_layers(bare.enclosure, bare.substrate, catalogue, tweaks.ground)
        changed = replace(
            changed,
            ground=ground,
            underside_w_m2k=underside_w_m2k(bare.enclosure.underside, tweaks.outside_film),
            conduction=_conduction(bare, interior, nominal.mesh_share, nominal.bedded, catalogue, tweaks),
        )
    return changed


def _convecting_m2(interior: Interior, mesh_share: Array, window: MeshWindow | None) -> Array:
    wires = np.ones(interior.patches)
    wires[_top(interior)] = 1.0 - mesh_share * (window.open_share if window else 0.0)
    return np.asarray(interior.exposed_m2 * wires)


def _inward(enclosure: Enclosure, wall: str, catalogue: Catalogue) -> float:
    panel, outside = panel_resistances_m2k_w(enclosure, wall, catalogue)
    return outside / (panel + outside)


def _bedded_sites(bare: _Bare, interior: Interior) -> Iterator[Bedded]:
    ground_m = bare.substrate.depth_m
    for number, site in enumerate(bare.sites):
        depth_m = ground_m - site.underside_m(ground_m)
        if depth_m > STANDS_WITHIN_M:
            index = next(i for i, surface in interior.of_site(number) if surface.kind == "site-bottom")
            yield Bedded(index, interior.span(index), depth_m)


WETNESS: dict[Moisture, float] = {"dry": 0.0, "damp": value("damp_wetness"), "wet": value("wet_wetness")}


def _wetness(bare: _Bare, interior: Interior) -> Array:
    """Damp and wet ground, and the water in dishes."""
    wetness = np.zeros(interior.patches)
    wetness[interior.span(0)] = WETNESS[bare.substrate.moisture]
    for number, site in enumerate(bare.sites):
        if site.role == "water":
            index = next(i for i, surface in interior.of_site(number) if surface.kind == "site-top")
            wetness[interior.span(index)] = 1.0
    return wetness


def _top(interior: Interior) -> slice:
    return interior.span(interior.index_of("top"))


def _mesh_share(interior: Interior, window: MeshWindow | None) -> Array:
    """Share (top patches,) of each patch of the top that is mesh or open."""
    top = interior.surfaces[interior.index_of("top")]
    if window is None:
        return np.zeros(top.patches)
    return overlap_m2(top, window.block()) / (top.patch_sizes[0] * top.patch_sizes[1])


def _optics(bare: _Bare, interior: Interior, mesh_share: Array, catalogue: Catalogue, tweaks: Tweaks) -> SurfaceOptics:
    """Absorbed, transmitted, own and open shares of every patch."""
    rows = np.empty((4, interior.patches))
    for index, surface in enumerate(interior.surfaces):
        span = interior.span(index)
        if surface.site is not None:
            stuff = catalogue.site_materials[bare.sites[surface.site].material]
            absorbed = stuff.short_absorptance
            if bare.sites[surface.site].dark:
                absorbed = max(absorbed, DARK_ABSORPTANCE)
            shares = (min(absorbed * tweaks.absorptance, 1.0), 0.0, stuff.emissivity, 0.0)
        elif surface.kind == "floor":
            ground = catalogue.grounds[bare.substrate.material]
            shares = (min(ground.short_absorptance * tweaks.absorptance, 1.0), 0.0, ground.emissivity, 0.0)
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
    bare: _Bare, interior: Interior, mesh_share: Array, bedded: Sequence[Bedded], catalogue: Catalogue, tweaks: Tweaks
) -> Array:
    box, film_factor = bare.enclosure, tweaks.outside_film
    ground, _ = ground_layers(box, bare.substrate, catalogue, tweaks.ground)
    below_w_m2k = underside_w_m2k(box.underside, film_factor)
    matrix = np.zeros((interior.patches, interior.patches))
    floor = interior.surfaces[0]
    matrix[interior.span(0), interior.span(0)] = conductance_matrix(floor.counts, floor.sizes, ground, below_w_m2k)
    for index, surface in enumerate(interior.surfaces):
        if surface.kind in ("wall", "ceiling"):
            span = interior.span(index)
            u = np.full(surface.patches, panel_u_w_m2k(box, surface.name, catalogue, film_factor))
            if surface.kind == "ceiling":
                u = u + mesh_share * (_wire_film_w_m2k(box, catalogue) * film_factor - u)
            rows = np.arange(span.start, span.stop)
            matrix[rows, rows] += u * interior.areas_m2[span]
    for number, site in enumerate(bare.sites):
        conductivity = catalogue.site_materials[site.material].conductivity_w_mk
        add_slab(matrix, interior, number, conductivity, site.thickness_mm / 1000)
        add_contact(matrix, interior, number)
    for slab in bedded:
        site_number = interior.surfaces[slab.surface].site
        if site_number is not None:
            add_bedding(matrix, interior, site_number, _shorter_way_w_m2k(ground, slab.depth_m, below_w_m2k))
    return np.asfortranarray(matrix)


def _shorter_way_w_m2k(ground: Sequence[Layer], depth_m: float, below_w_m2k: float) -> float:
    """What a slab bedded that deep loses downwards beyond what the ground in its place would."""
    whole = 1.0 / (1.0 / below_w_m2k + resistance_m2k_w(ground))
    under_it = 1.0 / (1.0 / below_w_m2k + resistance_m2k_w(cut_from_top(ground, depth_m)) + 1.0 / value("contact"))
    return max(under_it - whole, 0.0)


def _wire_film_w_m2k(enclosure: Enclosure, catalogue: Catalogue) -> float:
    """Heat from the mesh's wires to the room above, per area of mesh; an open top has none but needs a number."""
    if enclosure.lid_mesh is None:
        return value("film_least")
    return (1 - catalogue.meshes[enclosure.lid_mesh.mesh].open_share) * value("outside_film_free")
