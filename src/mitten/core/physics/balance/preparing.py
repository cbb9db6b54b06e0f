"""Preparing enclosures: each is worked out once, and kept for as long as there is room."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from threading import Lock
from types import MappingProxyType

import numpy as np
from cachetools import LRUCache, cached

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design, Face, GroundMoisture
from mitten.core.physics.air.ventilation import build_openings
from mitten.core.physics.air.zones import Zones, build_zones
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.bare import Bare
from mitten.core.physics.balance.conduction import bedded_sites, conduction_of, ground_of, inward_share, slabs_of
from mitten.core.physics.balance.optics import mesh_share_of, optics_of
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.exchange import RadiationNetwork, build_network, with_optics
from mitten.core.physics.radiation.lamps import MeshWindow, mesh_window
from mitten.core.physics.shape.geometry import Interior, build_interior
from mitten.core.physics.shape.view_factors import FEW_RAYS, MANY_RAYS, view_factors
from mitten.core.physics.solids.panels import (
    insulation_layer,
    outside_films_w_m2k,
    panel_layer,
    shelf_share,
)
from mitten.core.physics.tweaks import NOMINAL, Tweaks

MEGABYTE = 2**20
KEPT_SHAPE_BYTES, KEPT_SHINING_BYTES, KEPT_BYTES, KEPT_TWEAKED_BYTES = (mb * MEGABYTE for mb in (20, 60, 130, 40))
"""How much of what was worked out stays: a bench with its variants. Enclosures are of very different sizes, so that
bytes are counted and not enclosures; one that is larger than all of it is worked out each time.
"""

_LOCKS = tuple(Lock() for _ in range(16))
WALLS: tuple[Face, ...] = ("left", "right", "front", "back")
USUAL: Mapping[Face, float] = MappingProxyType({})
SECONDS_A_DAY = 86400.0
WETNESS: dict[GroundMoisture, float] = {"dry": 0.0, "damp": value("damp_wetness"), "wet": value("wet_wetness")}


def prepare(
    design: Design, catalogue: Catalogue, fineness: float = 1.0, tweaks: Tweaks = NOMINAL,
    films_w_m2k: Mapping[Face, float] = USUAL,
) -> Prepared:  # fmt: skip
    """The prepared enclosure of a design, from the cache where only sources or room differ. ``films_w_m2k`` are those
    of faces outside which it is not as the enclosure's place has it.
    """
    bare = Bare.of(design, catalogue, films_w_m2k)
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


@dataclass(frozen=True, eq=False)
class _Shape:
    """The patches and zones of an enclosure, and how the patches (n,) see one another (n, n)."""

    interior: Interior
    zones: Zones
    view: Array


@cached(LRUCache(KEPT_SHAPE_BYTES, lambda shape: shape.view.nbytes), lock=Lock(), info=True)
def _shape(bare: Bare, fineness: float) -> _Shape:
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
def _shining(bare: Bare, fineness: float) -> _Shining:
    shape = _shape(bare.shape, fineness)
    window = mesh_window(bare.enclosure, bare.materials.mesh)
    mesh_share = mesh_share_of(shape.interior, window)
    optics = optics_of(bare, shape.interior, mesh_share, NOMINAL)
    network = build_network(shape.view, shape.interior.radiating_m2, optics)
    return _Shining(shape, window, mesh_share, network, np.asfortranarray(network.long_loss))


def _bytes_of(prepared: Prepared) -> int:
    return sum(matrix.nbytes for matrix in prepared.matrices)


@cached(LRUCache(KEPT_BYTES, _bytes_of), lock=Lock(), info=True)
def _prepare(bare: Bare, fineness: float) -> Prepared:
    """The prepared enclosure; of one that is sprayed, that of a dry one with the water."""
    misting_kg_s = bare.substrate.misting_ml_day / 1000 / SECONDS_A_DAY
    if misting_kg_s > 0:
        return replace(_prepare(bare.unmisted, fineness), misting_kg_s=misting_kg_s)
    shining, materials = _shining(bare.shining, fineness), bare.materials
    interior, zones, window, mesh_share = (
        shining.shape.interior,
        shining.shape.zones,
        shining.window,
        shining.mesh_share,
    )
    panels, underside = bare.enclosure.panels, bare.enclosure.underside
    ground, floor_panel = ground_of(bare)
    films_w_m2k = outside_films_w_m2k(bare.enclosure, dict(bare.films))
    bedded = tuple(bedded_sites(bare, interior))
    return Prepared(
        interior=interior,
        zones=zones,
        window=window,
        network=shining.network,
        long_loss=shining.long_loss,
        conduction=conduction_of(bare, interior, mesh_share, bedded, ground, films_w_m2k),
        openings=build_openings(bare.enclosure, zones, window),
        convecting_m2=_convecting_m2(interior, mesh_share, window),
        film_tilt=interior.normals[:, 2].copy(),
        film_length_m=np.concatenate([np.full(s.patches, s.characteristic_m) for s in interior.surfaces]),
        zone_shares=zones.patch_shares(interior),
        mesh_share=mesh_share,
        ground=ground,
        floor_panel=floor_panel,
        films_w_m2k=films_w_m2k,
        shelf_share=shelf_share(underside),
        wall_inward={wall: inward_share(bare, wall, films_w_m2k[wall]) for wall in WALLS},
        bedded=bedded,
        slabs=slabs_of(bare),
        top_panel=panel_layer(panels.top, materials.panel("top")),
        top_board_m2k_w=insulation_layer(panels.top.insulation_mm).resistance_m2k_w,
        site_names=tuple(site.name for site in bare.sites),
        wetness=_wetness(bare, interior),
        misting_kg_s=misting_kg_s,
    )


def _bytes_of_tweaked(prepared: Prepared) -> int:
    """Only some of its matrices are its own; which is not known here, so that half of them are counted."""
    return _bytes_of(prepared) // 2


@cached(LRUCache(KEPT_TWEAKED_BYTES, _bytes_of_tweaked), lock=Lock(), info=True)
def _prepare_tweaked(bare: Bare, fineness: float, tweaks: Tweaks) -> Prepared:
    """A prepared enclosure with some of its parameters moved: only what they touch is worked out again."""
    nominal = _prepare(bare, fineness)
    interior, changed = nominal.interior, nominal
    if tweaks.absorptance != 1.0:
        optics = optics_of(bare, interior, nominal.mesh_share, tweaks)
        changed = replace(changed, network=with_optics(nominal.network, optics))
    if tweaks.mesh != 1.0 and nominal.window is not None and nominal.window.open_share < 1.0:
        window = replace(nominal.window, open_share=min(nominal.window.open_share * tweaks.mesh, 1.0))
        changed = replace(changed, window=window)
    if tweaks.ventilation != 1.0:
        changed = replace(changed, openings=nominal.openings.scaled(tweaks.ventilation))
    if tweaks.outside_film != 1.0 or tweaks.ground != 1.0:
        ground, _ = ground_of(bare, tweaks.ground)
        films_w_m2k = outside_films_w_m2k(bare.enclosure, dict(bare.films), tweaks.outside_film)
        changed = replace(
            changed,
            ground=ground,
            films_w_m2k=films_w_m2k,
            conduction=conduction_of(
                bare, interior, nominal.mesh_share, nominal.bedded, ground, films_w_m2k, tweaks.outside_film
            ),
        )
    return changed


def _convecting_m2(interior: Interior, mesh_share: Array, window: MeshWindow | None) -> Array:
    wires = np.ones(interior.patches)
    wires[interior.top] = 1.0 - mesh_share * (window.open_share if window else 0.0)
    return np.asarray(interior.exposed_m2 * wires)


def _wetness(bare: Bare, interior: Interior) -> Array:
    """Damp and wet ground, and the water in dishes."""
    wetness = np.zeros(interior.patches)
    wetness[interior.span(0)] = WETNESS[bare.substrate.moisture]
    for number, site in enumerate(bare.sites):
        if site.role == "water":
            index = next(i for i, surface in interior.of_site(number) if surface.kind == "site-top")
            wetness[interior.span(index)] = 1.0
    return wetness
