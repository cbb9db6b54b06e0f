"""What the temperatures do not change: the heat that lamps, mats and the room's surfaces give to patches and air."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from mitten.core.physics.air.ceiling import into_the_ceiling_w_m2, jet_rise_k
from mitten.core.physics.air.zones import Zones
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.contact import ContactLoad, contact_load
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.constants import ZERO_C_K, value
from mitten.core.physics.radiation.exchange import Absorbed, absorbed_of, long_arriving, opening_gain_w, short_arriving
from mitten.core.physics.radiation.lamps import Beam, Deposit, Lamp, deposit, unit_deposit
from mitten.core.physics.radiation.sources import Sources
from mitten.core.physics.shape.geometry import SUBDIVISION

KEPT_LANDINGS = 64
KEPT_PLUMES = 256


@dataclass(frozen=True, eq=False)
class Landing:
    """Of one watt of a beam: what comes straight (n,), in W/m2 of the radiating areas, and what arrives of it with all
    reflections, were it all shortwave and were it all longwave.
    """

    straight: Array
    short: Array
    long: Array


@dataclass(frozen=True, eq=False)
class OverALamp:
    """What a lamp inside sends up: longwave of its back, and the heat of its plume where that meets the solid part of
    the top, ``jet_w_m2`` at the sub-points (n x SUBDIVISION^2,).
    """

    longwave: Landing
    jet_w_m2: Array


@dataclass(frozen=True, eq=False)
class Load:
    """What the temperatures do not change: power (n,) into the patches from the sources, and as longwave through
    the lid's openings, body heat (columns, layers) where the air takes it up, and the same where its plumes begin;
    ``landings`` and ``deposits`` in the order of the lamps.
    """

    sources: Sources
    deposits: tuple[Deposit, ...]
    contacts: tuple[ContactLoad, ...]
    absorbed: Absorbed
    sources_w: Array
    through_openings_w: Array
    body_w: Array
    plume_w: Array
    landings: tuple[Landing, ...]


def load_of(prepared: Prepared, sources: Sources, surroundings: Surroundings) -> Load:
    """What the sources and what is over the lid give to the patches and the air of an enclosure."""
    interior, zones = prepared.interior, prepared.zones
    contacts = tuple(contact_load(source, prepared) for source in sources.contacts)
    landings = tuple(landing_of(prepared, lamp.beam) for lamp in sources.lamps)
    deposits = tuple(deposit(lamp, interior, prepared.window) for lamp in sources.lamps)
    short, long, direct_w = (np.zeros(interior.patches) for _ in range(3))
    body_w, plume_w = (np.zeros((zones.columns, zones.layers)) for _ in range(2))
    for lamp, landing, received in zip(sources.lamps, landings, deposits, strict=True):
        short += lamp.radiant_w * lamp.bands.short * landing.short
        long += lamp.radiant_w * lamp.bands.ir_c * landing.long
        kept = 1.0
        if lamp.hangs_inside and lamp.body_w > 0:
            above = over_the_lamp(prepared, lamp)
            long += lamp.rising_w * above.longwave.long
            jet_w = patch_sum(prepared, above.jet_w_m2)
            direct_w += jet_w
            kept = _kept_by_the_air(prepared, lamp, above, float(jet_w.sum()))
        warms, begins = _plume(prepared, lamp)
        in_the_mesh = _mesh_heat(prepared, received.mesh_w)
        body_w += in_the_mesh + kept * warms
        plume_w += in_the_mesh + begins
    absorbed = absorbed_of(prepared.network, short, long)
    sources_w = absorbed.absorbed_w + sum((load.patch_w for load in contacts), direct_w)
    through_openings_w = opening_gain_w(prepared.network, surroundings.of("top").seen_c + ZERO_C_K)
    return Load(sources, deposits, contacts, absorbed, sources_w, through_openings_w, body_w, plume_w, landings)


def landing_of(prepared: Prepared, beam: Beam) -> Landing:
    """What lands of one watt; kept with the surfaces' exchange: lamps change power more often than place."""
    network, key = prepared.network, (beam, prepared.window)
    found: Landing | None = network.known.get(key)
    if found is None:
        straight = patch_mean(prepared, unit_deposit(beam, prepared.interior, prepared.window).irradiance_w_m2)
        found = Landing(straight, short_arriving(network, straight), long_arriving(network, straight))
        if len(network.known) >= KEPT_LANDINGS:
            network.known.clear()
        network.known[key] = found
    return found


def _plume(prepared: Prepared, lamp: Lamp) -> tuple[Array, Array]:
    """A lamp's body heat (columns, layers) where the air takes it up, and where its plume begins."""
    x_m, _, z_m = lamp.middle
    warms, begins = _plume_shares(prepared.zones, x_m, z_m, lamp.reach_m)
    return lamp.body_into_air_w * warms, lamp.body_into_air_w * begins


@lru_cache(maxsize=KEPT_PLUMES)
def _plume_shares(zones: Zones, x_m: float, z_m: float, reach_m: float) -> tuple[Array, Array]:
    """The same of one watt: lamps change power more often than place."""
    # Over two columns, so that what it warms does not depend on where their borders are.
    columns = zones.column_shares(x_m, max(reach_m, 2 * zones.sizes_m[0]))
    return np.outer(columns, zones.rising_shares(z_m)), np.outer(columns, zones.height_shares(z_m))


def _kept_by_the_air(prepared: Prepared, lamp: Lamp, above: OverALamp, jet_w: float) -> float:
    """The share of a plume's heat that the air keeps; longwave that does not land, because the lamp touches the top,
    warms the air as the rest does.
    """
    landed_w = lamp.rising_w * float(above.longwave.straight @ prepared.interior.radiating_m2)
    return 1.0 + (lamp.rising_w - landed_w - jet_w) / lamp.body_into_air_w


def _mesh_heat(prepared: Prepared, mesh_w: Array) -> Array:
    """Heat (columns, layers) that the mesh's wires give to the air under them.

    Thin wires are closely coupled to the air that passes them and hardly to anything else, so the heat is put
    into the air, half below and half above, rather than into a plate that would also conduct.
    """
    zones, interior = prepared.zones, prepared.interior
    top = interior.top
    heat = mesh_w @ prepared.zone_shares.shares[top]
    inside = value("mesh_heat_inside") * heat.reshape(zones.columns, zones.layers)
    return np.asarray(inside, dtype=np.float64)


def patch_mean(prepared: Prepared, at_points: Array) -> Array:
    """Mean (n,) over the radiating area of each patch of a density given at the sub-points."""
    interior = prepared.interior
    whole = patch_sum(prepared, at_points)
    radiating = interior.radiating_m2
    return np.divide(whole, radiating, out=np.zeros_like(whole), where=radiating > 0)


def patch_sum(prepared: Prepared, at_points: Array) -> Array:
    """Sum (n,) over each patch, in W, of a density given at the sub-points."""
    interior = prepared.interior
    each = at_points.reshape(interior.patches, SUBDIVISION**2)
    return np.asarray(np.add.reduce(each, axis=1) / SUBDIVISION**2 * interior.areas_m2)


def jet_over(prepared: Prepared, lamp: Lamp) -> Array:
    """Rise (n,) of a lamp's plume over the air around it where it meets the top; 0 elsewhere."""
    interior = prepared.interior
    top = interior.top
    x_m, y_m, z_m = lamp.middle
    away_m = np.hypot(interior.centres[top, 0] - x_m, interior.centres[top, 1] - y_m)
    rise = np.zeros(interior.patches)
    rise[top] = jet_rise_k(lamp.body_into_air_w, interior.box.high[2] - z_m, lamp.beam.face_m, away_m)
    return rise


def over_the_lamp(prepared: Prepared, lamp: Lamp) -> OverALamp:
    """The longwave and the jet over a lamp that hangs inside; the jet takes no more than a share of its plume."""
    interior = prepared.interior
    top = interior.top
    points = slice(top.start * SUBDIVISION**2, top.stop * SUBDIVISION**2)
    x_m, y_m, z_m = lamp.middle
    away_m = np.hypot(interior.points[points, 0] - x_m, interior.points[points, 1] - y_m)
    height_m = interior.box.high[2] - z_m
    jet = np.zeros(len(interior.points))
    solid = np.repeat(1.0 - prepared.mesh_share, SUBDIVISION**2)
    jet[points] = solid * into_the_ceiling_w_m2(lamp.body_into_air_w, height_m, lamp.beam.face_m, away_m)
    taken_w = float(patch_sum(prepared, jet).sum())
    most_w = value("jet_most") * lamp.body_into_air_w
    return OverALamp(landing_of(prepared, lamp.beam.upwards), jet * min(1.0, most_w / max(taken_w, 1e-12)))
