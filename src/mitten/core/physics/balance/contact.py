"""Contact heat: mats, tape and cable under or on the floor, on a wall or under a slab, and heated rocks.

Where their watts enter the patches and what is lost outwards is worked out for one watt; both are linear.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from mitten.core.catalogue import nearest_wall
from mitten.core.design import Face, Heater
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.prepared import Bedded, Prepared
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.sources import ContactSource
from mitten.core.physics.shape.geometry import SUBDIVISION, Box, Surface, overlap_m2
from mitten.core.physics.solids.ground import BuriedSource, Layer, cut_from_top, resistance_m2k_w, spread

Transfer = Callable[[Array], Array]


@dataclass(frozen=True, eq=False)
class ContactLoad:
    """What enters each patch (n,), and what leaves by a face without entering one."""

    patch_w: Array
    lost_w: float
    face: Face = "floor"


def contact_load(source: ContactSource, prepared: Prepared) -> ContactLoad:
    """Where a contact source's heat goes, for all of its power."""
    kind, heater = source.kind, source.heater
    if kind.family == "rock":
        one = _in_a_rock(heater, prepared)
    elif source.in_floor:
        one = _in_the_floor(source, prepared)
    else:
        one = {"wall": _on_a_wall, "hide-roof": _under_a_slab}[kind.place_of(heater)](heater, prepared)
    return replace(one, patch_w=one.patch_w * source.power_w, lost_w=one.lost_w * source.power_w)


def buried_source(source: ContactSource, prepared: Prepared) -> BuriedSource:
    """The interface of the ground's layers at which a floor heater lies."""
    heater = source.heater
    index = prepared.floor_panel if source.kind.place_of(heater) == "under-floor" else prepared.floor_panel + 1
    cover_m = heater.cover_mm / 1000
    cover = (Layer(cover_m, value("cover_conductivity")),) if cover_m > 0 else ()
    return BuriedSource(prepared.ground[:index], prepared.ground[index:], prepared.underside_w_m2k, cover)


def footprint(heater: Heater, surface: Surface, fine: int = 1) -> Array:
    """Share (rows, columns) of each of a level surface's cells that a heater's area covers, ``fine`` cells a patch."""
    length_m, depth_m = heater.length_m or 0.0, heater.depth_m or 0.0
    shares = []
    for axis, centre, size in ((0, heater.x_m, length_m), (1, heater.y_m, depth_m)):
        count = surface.counts[axis] * fine
        edges = surface.origin[axis] + np.linspace(0.0, surface.sizes[axis], count + 1)
        clipped = np.clip(edges, centre - size / 2, centre + size / 2)
        shares.append(np.diff(clipped) / np.diff(edges))
    return np.outer(shares[1], shares[0])


def flux_w_m2(heater: Heater, power_w: float, surface: Surface, fine: int = 1) -> Array:
    """Heat flux (rows, columns) of a heater over a level surface's cells."""
    covered = footprint(heater, surface, fine)
    cell_m2 = surface.sizes[0] * surface.sizes[1] / covered.size
    area_m2 = float(covered.sum()) * cell_m2
    return covered * (power_w / area_m2 if area_m2 > 0 else 0.0)


def _in_the_floor(source: ContactSource, prepared: Prepared) -> ContactLoad:
    heater, interior = source.heater, prepared.interior
    floor, buried = interior.surfaces[0], buried_source(source, prepared)
    cell_m2 = floor.sizes[0] * floor.sizes[1] / floor.patches
    into_top = spread(flux_w_m2(heater, 1.0, floor), floor.sizes, buried.share_into_top) * cell_m2
    patch_w = np.zeros(interior.patches)
    patch_w[interior.span(0)] = into_top.ravel()
    for bedded in prepared.bedded:
        patch_w[bedded.span] += _more_into_a_slab(heater, buried, bedded, prepared)
    return ContactLoad(patch_w, 1.0 - float(patch_w.sum()))


def _more_into_a_slab(heater: Heater, buried: BuriedSource, bedded: Bedded, prepared: Prepared) -> Array:
    """Of one watt, what more enters a slab (patches,) that is bedded over the heater, nearer to it than the surface.

    One-dimensional: the two ways from the source, up and down, with and without the ground that the slab takes the
    place of.
    """
    down = 1.0 / buried.below_w_m2k + resistance_m2k_w(buried.below)
    whole = resistance_m2k_w(buried.over)
    short = resistance_m2k_w(cut_from_top(buried.over, bedded.depth_m)) + 1.0 / value("contact")
    more = max(down / (down + short) - down / (down + whole), 0.0)
    bottom = prepared.interior.surfaces[bedded.surface]
    cell_m2 = bottom.sizes[0] * bottom.sizes[1] / bottom.patches
    area_m2 = (heater.length_m or 0.0) * (heater.depth_m or 0.0)
    return (footprint(heater, bottom) * cell_m2 / area_m2 * more).ravel()


def _on_a_wall(heater: Heater, prepared: Prepared) -> ContactLoad:
    """On the outside of the nearest wall, under its insulation: in and out by the two resistances."""
    interior = prepared.interior
    face = nearest_wall(heater.x_m, heater.y_m, *interior.box.high[:2])
    index = interior.index_of(face)
    wall = interior.surfaces[index]
    along = heater.x_m if wall.axis == 1 else heater.y_m
    half = (heater.length_m or 0.0) / 2, (heater.depth_m or 0.0) / 2
    low, high = [-1.0, -1.0, heater.z_m - half[1]], [9.0, 9.0, heater.z_m + half[1]]
    low[wall.in_plane[0]], high[wall.in_plane[0]] = along - half[0], along + half[0]
    covered = overlap_m2(wall, Box((low[0], low[1], low[2]), (high[0], high[1], high[2])))
    total = float(covered.sum())
    share = covered / total if total > 0 else np.full(wall.patches, 1 / wall.patches)
    inward = prepared.wall_inward[face]
    patch_w = np.zeros(interior.patches)
    patch_w[interior.span(index)] = share * inward
    return ContactLoad(patch_w, 1.0 - inward, face)


def _site_parts(heater: Heater, prepared: Prepared) -> dict[str, tuple[slice, Surface]]:
    site = prepared.site_names.index(heater.site or "")
    parts = prepared.interior.of_site(site)
    return {surface.name.rpartition(":")[2]: (prepared.interior.span(i), surface) for i, surface in parts}


def _under_a_slab(heater: Heater, prepared: Prepared) -> ContactLoad:
    """Between a slab and the roof under it: into the slab's underside, where the mat covers it."""
    span, bottom = _site_parts(heater, prepared)["bottom"]
    covered = footprint(heater, bottom).ravel()
    share = covered / covered.sum() if covered.sum() > 0 else np.full(bottom.patches, 1 / bottom.patches)
    patch_w = np.zeros(prepared.interior.patches)
    patch_w[span] = share
    return ContactLoad(patch_w, 0.0)


def _in_a_rock(heater: Heater, prepared: Prepared) -> ContactLoad:
    """Within a site's slab: half to its top, half to its underside, more in the middle than at the rim."""
    parts, uneven = _site_parts(heater, prepared), value("rock_unevenness")
    patch_w = np.zeros(prepared.interior.patches)
    for part in ("top", "bottom"):
        span, surface = parts[part]
        columns, rows = (np.pi * ((np.arange(count) + 0.5) / count - 0.5) for count in surface.counts)
        hump = np.outer(np.cos(rows), np.cos(columns)).ravel()
        weight = 1.0 + uneven * (hump / hump.mean() - 1.0)
        patch_w[span] = 0.5 * weight / weight.sum()
    return ContactLoad(patch_w, 0.0)


def rise_of(source: ContactSource, prepared: Prepared, transfer_of: Callable[[BuriedSource], Transfer]) -> Array:
    """Rise (rows, columns) on the fine floor grid that a floor heater makes somewhere, the ground's surface held."""
    floor = prepared.interior.surfaces[0]
    flux = flux_w_m2(source.heater, source.power_w, floor, SUBDIVISION)
    return spread(flux, floor.sizes, transfer_of(buried_source(source, prepared)))
