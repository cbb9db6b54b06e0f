"""How hot the outside of a heat source gets where something can touch it: emitter, panel, guard, dome, mat."""

from dataclasses import dataclass, replace

import numpy as np

from mitten.core.catalogue import Catalogue, SourceKind, nearest_wall
from mitten.core.design import FACES, Design, Heater
from mitten.core.physics.air.ceiling import jet_rise_k
from mitten.core.physics.balance.contact import contact_load
from mitten.core.physics.balance.state import State
from mitten.core.physics.constants import ZERO_C_K, value
from mitten.core.physics.radiation.lamps import Lamp
from mitten.core.physics.radiation.sources import ContactSource, is_guarded
from mitten.core.physics.radiation.spectrum import black_surface_k
from mitten.core.physics.reading.fields import air_at, mat_c

PLUME_BESIDE = 0.3
"""Of the plume's rise over a lamp, so much is met beside it; a starting point to verify."""

ALIKE_DIGITS = 6
"""Parts that are as hot to so many digits stand in the order in which they are looked at."""


@dataclass(frozen=True)
class HotPart:
    """The hottest outside of a heater, and what it is."""

    what: str
    celsius: float


def hot_parts(design: Design, state: State, heater: Heater, catalogue: Catalogue) -> tuple[HotPart, ...]:
    """Every part of a running heater whose temperature is known, the hottest first; none if it does not run."""
    kind = catalogue.sources[heater.kind]
    found = [
        HotPart(kind.label, _contact_c(state, contact))
        for contact in state.sources.contacts
        if contact.name == heater.name
    ]
    for lamp in state.lamps:
        if lamp.name == heater.name:
            found += _lamp_parts(design, state, heater, lamp, kind, catalogue)
    return tuple(sorted(found, key=lambda part: -round(part.celsius, ALIKE_DIGITS)))


def _contact_c(state: State, source: ContactSource) -> float:
    interior = state.prepared.interior
    if source.in_floor:
        return float(mat_c(state, source).max())
    if source.kind.family == "contact" and source.kind.place_of(source.heater) == "wall":
        return _wall_mat_c(state, source)
    index = state.prepared.site_names.index(source.heater.site or "")
    spans = [interior.span(i) for i, surface in interior.of_site(index) if surface.kind in ("site-top", "site-bottom")]
    return float(max(state.surface_c[span].max() for span in spans))


def _wall_mat_c(state: State, source: ContactSource) -> float:
    """Between wall and insulation: what the wall's inside and what is outside make there, and its own watts."""
    prepared, heater = state.prepared, source.heater
    face = nearest_wall(heater.x_m, heater.y_m, *prepared.interior.box.high[:2])
    index = prepared.interior.index_of(face)
    span, inward = prepared.interior.span(index), prepared.wall_inward[face]
    behind_it = contact_load(replace(source, power_w=1.0), prepared).patch_w[span] > 0
    if state.inside is not None:
        return float(state.inside.nodes_c[state.inside.network.behind[FACES.index(face)]][behind_it].max())
    outside_c = state.surroundings.of(face).together_c
    inside_c = float(state.surface_c[span][behind_it].max(initial=outside_c))
    rows = np.arange(span.start, span.stop)
    through = float(prepared.conduction[rows, rows][0] / prepared.interior.areas_m2[span][0])
    # U is panel and outside in series; the outside alone is U over the share that the panel takes of the drop.
    outside_m2k_w, panel_m2k_w = inward / through, (1.0 - inward) / through
    own_k = source.power_w / ((heater.length_m or 1.0) * (heater.depth_m or 1.0)) * (
        outside_m2k_w * panel_m2k_w / (outside_m2k_w + panel_m2k_w)
    )  # fmt: skip
    return outside_c + inward * (inside_c - outside_c) + own_k


def _lamp_parts(
    design: Design, state: State, heater: Heater, lamp: Lamp, kind: SourceKind, catalogue: Catalogue
) -> list[HotPart]:
    around_c = _around_c(design, state, heater, lamp)
    area_m2 = kind.radiating_area_m2
    if kind.family == "panel":
        area_m2 = (heater.length_m or 0.0) * (heater.depth_m or 0.0)
    parts = []
    if area_m2:
        emissivity = value("panel_emissivity" if kind.family == "panel" else "ceramic_emissivity")
        full_w = kind.radiant_share * lamp.power_w
        kelvin = black_surface_k(full_w, area_m2, emissivity, around_c + ZERO_C_K)
        parts.append(HotPart("panel" if kind.family == "panel" else "ceramic", kelvin - ZERO_C_K))
    if kind.family == "lamp":
        parts += _holder_parts(heater, lamp, around_c, catalogue)
    return parts


def _around_c(design: Design, state: State, heater: Heater, lamp: Lamp) -> float:
    """Air around a lamp: that over the lid above a mesh, else the enclosure's."""
    if heater.above_mesh:
        return state.surroundings.of("top").air_c
    return float(air_at(state, heater.x_m, min(lamp.middle[2], design.enclosure.height_m)))


def _holder_parts(heater: Heater, lamp: Lamp, around_c: float, catalogue: Catalogue) -> list[HotPart]:
    """Guard and dome: the wires take what falls on their width and stand in what rises, the dome takes what the lamp's
    body gives and a little of its radiation.
    """
    parts = []
    if is_guarded(heater.fixture, catalogue):
        parts.append(HotPart("guard", around_c + guard_rise_k(lamp)))
    shell_m2 = catalogue.fixtures[heater.fixture.kind].shell_area_m2
    if shell_m2:
        heat_w = value("shell_share") * lamp.body_w + value("shell_absorbs") * lamp.radiant_w
        parts.append(HotPart("dome", around_c + heat_w / (value("dome_film") * shell_m2)))
    return parts


def guard_rise_k(lamp: Lamp) -> float:
    """How far the hottest wire of a lamp's guard is above the air around the lamp, of its front, its sides and its top.

    A wire of diameter d takes what falls on d and gives it off over pi d. Before the face falls the beam; beside the
    lamp, what it sends over its edge, taken as an even spread of its radiation; over it, what its back sends up, and
    its plume, which is as warm there as over any small source (``ceiling.jet_rise_k``).
    """
    near_m, taken = value("guard_distance"), value("guard_absorptance") / (np.pi * value("guard_film"))
    # So near, a face is no point: on the axis of a disc the square of its radius joins that of the distance.
    square_m2 = near_m**2 + (lamp.beam.face_m / 2) ** 2
    leaves_w = lamp.radiant_w / value("guard_open")
    ahead = leaves_w * float(lamp.beam.intensity_sr(lamp.beam.axis[None, :])[0]) / square_m2
    beside = leaves_w / (4 * np.pi * square_m2)
    above = value("body_upwards") * lamp.body_w / (np.pi * square_m2)
    plume_k = float(jet_rise_k(lamp.body_into_air_w, near_m, lamp.beam.face_m, np.zeros(1))[0])
    return max(taken * ahead, taken * beside + PLUME_BESIDE * plume_k, taken * above + plume_k)
