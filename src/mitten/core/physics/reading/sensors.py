"""What a probe reads as weights of the temperatures, so that time can follow it without reading a whole state.

Found at one state: the weights of the nodes are where the probe is, what lamps and mats add for each of their watts is
the difference that they make there, and the rest is whatever is left of the reading.
"""

from dataclasses import replace

import numpy as np

from mitten.core.catalogue import Catalogue, nearest_wall
from mitten.core.design import FACES, Control, Design, Probe
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.contact import buried_source
from mitten.core.physics.balance.state import Inside, State
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.sources import ContactSource
from mitten.core.physics.reading.fields import SPOT_DIAMETER_M, SurfaceField, interpolate, mat_c, patch_weights
from mitten.core.physics.reading.hides import inside_air_c, is_hide
from mitten.core.physics.reading.points import nearest_patch
from mitten.core.physics.reading.probes import probe_c
from mitten.core.physics.shape.geometry import Surface
from mitten.core.physics.solids.network import SolidNetwork
from mitten.core.physics.transient.box import Sensor

DISC_POINTS = 7


def sensor_of(
    design: Design, state: State, control: Control, catalogue: Catalogue, names: tuple[str, ...]
) -> Sensor:  # fmt: skip
    """A control's probe, of a state with its insides in which everything that may run does; ``names`` are the channels.

    Raises:
        ValueError: the control has no probe.
    """
    probe = control.probe
    if probe is None:
        raise ValueError(f"'{control.name}' has no probe")
    solids, air = _weights(design, state, control, probe)
    without = only(state, "")
    idle_c = probe_c(design, without, control, catalogue)
    own = np.zeros(len(names))
    for number, name in enumerate(names):
        power_w = state.sources.watts_of(name)
        if power_w > 0:
            own[number] = (probe_c(design, only(state, name), control, catalogue) - idle_c) / power_w
    if probe.reads == "heater":
        return _of_heater(design, state, control, names, solids, air, catalogue)
    rest_k = idle_c - _weighted_sum(state, solids, air)
    return Sensor(solids, air, own, rest_k, 0.0, lag_s(probe))


def out_of_the_box(sensor: Sensor) -> Sensor:
    """The same probe hanging in the room."""
    return replace(
        sensor, solids=0.0 * sensor.solids, air=0.0 * sensor.air, own_k_w=0.0 * sensor.own_k_w, rest_k=0.0, room=1.0,
        lag_s=value("probe_lag_air"),
    )  # fmt: skip


def lag_s(probe: Probe) -> float:
    """How a probe follows what it reads: slowly in air, quickly where it touches."""
    return value("probe_lag_air") if probe.reads in ("air", "hide") else value("probe_lag_surface")


def _weighted_sum(state: State, solids: Array, air: Array) -> float:
    return float(solids @ _inside(state).nodes_c + air @ state.air_c.ravel())


def _inside(state: State) -> Inside:
    if state.inside is None:
        raise ValueError("a probe in time needs the insides of the solids")
    return state.inside


def only(state: State, name: str) -> State:
    """The same temperatures with one source alone, or with none."""
    load, sources = state.load, state.load.sources
    lamps = [number for number, lamp in enumerate(sources.lamps) if lamp.name == name]
    contacts = [number for number, source in enumerate(sources.contacts) if source.name == name]
    alone = replace(
        sources, lamps=tuple(sources.lamps[i] for i in lamps), contacts=tuple(sources.contacts[i] for i in contacts)
    )
    return replace(
        state,
        load=replace(
            load, sources=alone, deposits=tuple(load.deposits[i] for i in lamps),
            landings=tuple(load.landings[i] for i in lamps), contacts=tuple(load.contacts[i] for i in contacts),
        ),
    )  # fmt: skip


def _weights(design: Design, state: State, control: Control, probe: Probe) -> tuple[Array, Array]:
    """Weights of the nodes (N,) and of the air (m,)."""
    network = _inside(state).network
    if probe.reads == "air":
        return np.zeros(network.nodes), _air_weights(state, probe.x_m, probe.z_m)
    if probe.reads == "hide":
        return _hide_weights(design, state, probe, network)
    if probe.reads == "base":
        at = (probe.x_m, probe.y_m)
        return _ground_weights(state, network, at, design.substrate.depth_m), np.zeros(state.air_c.size)
    if probe.reads == "heater":
        return _heater_weights(design, state, control, network)
    return _surface_weights(state, network, probe), np.zeros(state.air_c.size)


def _air_weights(state: State, x_m: float, z_m: float) -> Array:
    zones, count = state.prepared.zones, state.air_c.size
    units = np.eye(count).reshape(count, *state.air_c.shape)
    return np.array([float(interpolate(one, zones.centres_x_m, zones.centres_z_m, x_m, z_m)) for one in units])


def _surface_weights(state: State, network: SolidNetwork, probe: Probe) -> Array:
    interior, weights = state.prepared.interior, np.zeros(network.nodes)
    patch = nearest_patch(state, probe.x_m, probe.y_m, probe.z_m)
    index = int(np.searchsorted(interior.starts, patch, side="right")) - 1
    surface = interior.surfaces[index]
    if surface.kind in ("floor", "site-top"):
        weights[interior.span(index)] = spot_weights(surface, probe.x_m, probe.y_m)
    else:
        weights[patch] = 1.0
    return weights


def spot_weights(surface: Surface, x_m: float, y_m: float) -> Array:
    """Weights (patches,) of a level surface's patches in what a spot thermometer reads at a place of it."""
    offsets = (np.arange(DISC_POINTS) + 0.5) / DISC_POINTS * SPOT_DIAMETER_M - SPOT_DIAMETER_M / 2
    places = [(x_m + dx, y_m + dy) for dx in offsets for dy in offsets if np.hypot(dx, dy) <= SPOT_DIAMETER_M / 2]
    return np.asarray(np.mean([patch_weights(surface, *place) for place in places], axis=0))


def _ground_weights(state: State, network: SolidNetwork, at: tuple[float, float], depth_m: float) -> Array:
    floor, weights = state.prepared.interior.surfaces[0], np.zeros(network.nodes)
    on_floor = patch_weights(floor, *at)
    if not network.ground or depth_m <= 0:
        weights[network.floor] = on_floor
        return weights
    border = min(network.ground, key=lambda one: abs(one.depth_m - depth_m))
    weights[border.nodes] = network.waves @ on_floor
    return weights


def _hide_weights(design: Design, state: State, probe: Probe, network: SolidNetwork) -> tuple[Array, Array]:
    """A hide's air is a sum of its roof, its ground and the air around it: each is moved by a kelvin."""
    hides = [(index, site) for index, site in enumerate(design.sites) if is_hide(site)]
    index, site = min(hides, key=lambda item: np.hypot(item[1].x_m - probe.x_m, item[1].y_m - probe.y_m))
    interior, solids = state.prepared.interior, np.zeros(network.nodes)
    known_c = inside_air_c(state, index, site)
    bottom = next(i for i, surface in interior.of_site(index) if surface.kind == "site-bottom")
    for patch in (*range(*_ends(interior.span(bottom))), *range(*_ends(interior.span(0)))):
        moved = state.surface_c.copy()
        moved[patch] += 1.0
        solids[patch] = inside_air_c(replace(state, surface_c=moved), index, site) - known_c
    warmer = replace(state, air_c=state.air_c + 1.0)
    of_air = inside_air_c(warmer, index, site) - known_c
    around = _air_weights(state, site.x_m, interior.box.low[2] + 0.03)
    return solids, of_air * around


def _ends(span: slice) -> tuple[int, int]:
    return span.start, span.stop


def _hottest_source(design: Design, state: State, control: Control) -> ContactSource | None:
    """The contact source of a control that gives most to a place."""
    names = {heater.name for heater in design.heaters_of(control)}
    own = [source for source in state.sources.contacts if source.name in names]
    return max(own, key=lambda source: source.power_w, default=None)


def _heater_weights(
    design: Design, state: State, control: Control, network: SolidNetwork
) -> tuple[Array, Array]:  # fmt: skip
    """The hottest place of what is heated, or the air around a lamp."""
    source, air = _hottest_source(design, state, control), np.zeros(state.air_c.size)
    prepared = state.prepared
    interior = prepared.interior
    if source is None:
        heater = design.heaters_of(control)[0]
        return np.zeros(network.nodes), _air_weights(state, heater.x_m, min(heater.z_m, design.enclosure.height_m))
    if source.in_floor:
        return _ground_weights(state, network, _hottest_of_mat(state, source), _depth_m(state, source)), air
    weights = np.zeros(network.nodes)
    if source.kind.family == "contact" and source.kind.place_of(source.heater) == "wall":
        face = nearest_wall(source.heater.x_m, source.heater.y_m, *interior.box.high[:2])
        span = interior.span(interior.index_of(face))
        load = next(one for one, other in zip(state.contacts, state.sources.contacts, strict=True) if other is source)
        behind = network.behind[FACES.index(face)]
        weights[behind[int(load.patch_w[span].argmax())]] = 1.0
        return weights, air
    site = prepared.site_names.index(source.heater.site or "")
    spans = [interior.span(i) for i, surface in interior.of_site(site) if surface.kind in ("site-top", "site-bottom")]
    patches = np.concatenate([np.arange(span.start, span.stop) for span in spans])
    weights[patches[int(state.surface_c[patches].argmax())]] = 1.0
    return weights, air


def _depth_m(state: State, source: ContactSource) -> float:
    return sum(layer.thickness_m for layer in buried_source(source, state.prepared).above)


def _hottest_of_mat(state: State, source: ContactSource) -> tuple[float, float]:
    """Where the plane of a heater in the floor is hottest once it has come to rest with it."""
    field = _mat_field(replace(state, inside=None), source)
    row, column = np.unravel_index(int(field.temperature_c.argmax()), field.temperature_c.shape)
    return float(field.xs_m[column]), float(field.ys_m[row])


def _mat_field(state: State, source: ContactSource) -> SurfaceField:
    return SurfaceField(state.prepared.interior.surfaces[0], mat_c(state, source))


def _of_heater(
    design: Design, state: State, control: Control, names: tuple[str, ...], solids: Array, air: Array,
    catalogue: Catalogue,
) -> Sensor:  # fmt: skip
    """A probe on a heater: what it reads beyond the place that is heated goes with the watts of all that runs."""
    source, probe = _hottest_source(design, state, control), control.probe
    own, rest_k = np.zeros(len(names)), 0.0
    if source is not None and source.in_floor:
        at = _hottest_of_mat(state, source)
        idle_c = _mat_field(only(state, ""), source).at(*at)
        rest_k = idle_c - _weighted_sum(state, solids, air)
        for number, name in enumerate(names):
            power_w = state.sources.watts_of(name)
            if power_w > 0:
                own[number] = (_mat_field(only(state, name), source).at(*at) - idle_c) / power_w
    else:
        watts = {heater.name: state.sources.watts_of(heater.name) for heater in design.heaters_of(control)}
        most = max(watts, key=lambda name: watts[name])
        if watts[most] > 0:
            beyond_k = probe_c(design, state, control, catalogue) - _weighted_sum(state, solids, air)
            own[names.index(most)] = beyond_k / watts[most]
    return Sensor(solids, air, own, rest_k, 0.0, lag_s(probe) if probe is not None else 0.0)
