"""The sources one by one, as time needs them: what each takes, how it follows, and what one watt of it heats."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from mitten.core.catalogue import Catalogue, nearest_wall
from mitten.core.design import FACES, Design, Heater
from mitten.core.design.heater import OnWhen
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.contact import buried_source, contact_load, flux_w_m2
from mitten.core.physics.balance.load import load_of
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.lamps import Lamp
from mitten.core.physics.radiation.sources import ContactSource, Running, Sources, lights_of, sources_of
from mitten.core.physics.solids.ground import wave_numbers
from mitten.core.physics.solids.network import Indices, SolidNetwork

MINUTE_S = 60.0
LEVELS = 8
"""What a dimmed source sends out is worked out at so many levels of its power."""


@dataclass(frozen=True)
class Channel:
    """A source: its power at full, how it lags behind what it is fed, when it runs and by whose leave.

    ``lag_s`` is the time constant of what it gives off, ``restrike_s`` how long it must cool before it lights again.
    ``sources_at`` is what radiates and touches at a level (0-1) of its power. Of what it gives to the air, the share
    ``through_shell`` warms the dome that it hangs in first, whose time constant is ``shell_lag_s``.
    """

    name: str
    full_w: float
    lag_s: float
    restrike_s: float
    control: str | None
    on: OnWhen
    ramps: bool
    sources_at: Callable[[float], Sources]
    through_shell: float = 0.0
    shell_lag_s: float = 0.0


@dataclass(frozen=True, eq=False)
class Heating:
    """What one watt of a source heats: the nodes of the solids (N,) and the air (m,), where its plume begins (m,), and
    how much of it leaves at once.
    """

    solids: Array
    air: Array
    plume: Array


def channels_of(design: Design, catalogue: Catalogue) -> tuple[Channel, ...]:
    """Every source of a design."""
    return (*_heaters(design, catalogue), *_lights(design, catalogue))


def _heaters(design: Design, catalogue: Catalogue) -> Iterator[Channel]:
    for heater in design.heaters:
        kind, control = catalogue.sources[heater.kind], design.control_of(heater)
        regulated = control if control is not None and control.is_thermostat else None
        dims = regulated is not None and regulated.kind == "dimming"
        yield Channel(
            name=heater.name, full_w=heater.watts * heater.dim, lag_s=kind.warm_up_min * MINUTE_S,
            restrike_s=kind.restrike_min * MINUTE_S, control=None if regulated is None else regulated.name,
            on=heater.on, ramps=kind.light and regulated is None,
            sources_at=partial(_running, design, catalogue, heater, dims),
            through_shell=value("shell_share") if _has_shell(heater, catalogue) else 0.0,
            # Sheet as thick everywhere: how large it is does not matter to how slow it is.
            shell_lag_s=value("dome_heat_capacity") / value("dome_film"),
        )  # fmt: skip


def _has_shell(heater: Heater, catalogue: Catalogue) -> bool:
    """Whether a lamp hangs in a dome inside; one over the lid gives what it takes to the room."""
    is_lamp = catalogue.sources[heater.kind].family == "lamp" and not heater.above_mesh
    return is_lamp and bool(catalogue.fixtures[heater.fixture.kind].shell_area_m2)


def _running(design: Design, catalogue: Catalogue, heater: Heater, dims: bool, level: float) -> Sources:
    everything = sources_of(design, {heater.name: Running(heater, level, dims)}, True, catalogue)
    return Sources(
        tuple(lamp for lamp in everything.lamps if lamp.name == heater.name), everything.contacts
    )  # fmt: skip


def _lights(design: Design, catalogue: Catalogue) -> Iterator[Channel]:
    """Plain lights and ultraviolet lamps; neither is dimmed, and a ramp is taken as so many of them."""
    times: dict[str, OnWhen] = {lamp.name: lamp.on for lamp in design.uvb}
    for day in (True, False):
        for lamp in lights_of(design, day, catalogue):
            on = times.get(lamp.name, "day")
            if day or on == "night":
                always_so = partial(_alone, lamp)
                yield Channel(lamp.name, lamp.power_w, 0.0, 0.0, None, on, True, always_so)


def _alone(lamp: Lamp, _level: float) -> Sources:
    """What is not dimmed is the same at every level."""
    return Sources((lamp,))


def heating_of(sources: Sources, prepared: Prepared, network: SolidNetwork, surroundings: Surroundings) -> Heating:
    """What one watt of sources that run heats; nothing, of those that take none."""
    power_w = sum(source.power_w for source in sources.all)
    if power_w <= 0:
        return Heating(np.zeros(network.nodes), np.zeros(prepared.zones.count), np.zeros(prepared.zones.count))
    load = load_of(prepared, sources, surroundings)
    solids = np.zeros(network.nodes)
    solids[: network.patches] = load.sources_w
    for source in sources.contacts:
        _move_into_the_solids(solids, source, prepared, network)
    return Heating(solids / power_w, load.body_w.ravel() / power_w, load.plume_w.ravel() / power_w)


def _move_into_the_solids(solids: Array, source: ContactSource, prepared: Prepared, network: SolidNetwork) -> None:
    """What the steady state gives to the patches in the end goes to the place that is heated."""
    n = network.patches
    known_w = contact_load(source, prepared).patch_w
    if source.in_floor:
        solids[:n][prepared.interior.span(0)] -= known_w[prepared.interior.span(0)]
        nodes, heat_w = _under_the_ground(source, prepared, network)
        np.add.at(solids, nodes, heat_w)
    elif source.kind.family == "contact" and source.kind.place_of(source.heater) == "wall":
        face = nearest_wall(source.heater.x_m, source.heater.y_m, *prepared.interior.box.high[:2])
        span = prepared.interior.span(prepared.interior.index_of(face))
        share = known_w[span] / known_w[span].sum()
        solids[:n][span] -= known_w[span]
        solids[network.behind[FACES.index(face)]] += share * source.power_w


def _under_the_ground(source: ContactSource, prepared: Prepared, network: SolidNetwork) -> tuple[Indices, Array]:
    """The nodes at the depth of a heater in the floor, and what each takes of it.

    A cover of its own lies over the heater alone, and no node is between the two: what it sends downwards leaves at
    once, so that at rest as much reaches the top as with it.
    """
    floor, buried = prepared.interior.surfaces[0], buried_source(source, prepared)
    depth_m = sum(layer.thickness_m for layer in buried.above)
    heat_w = flux_w_m2(source.heater, source.power_w, floor).ravel() * (floor.sizes[0] * floor.sizes[1] / floor.patches)
    border = min(network.ground, key=lambda one: abs(one.depth_m - depth_m))
    kappa = wave_numbers(floor.counts, floor.sizes).ravel()
    covered, bare = (one.share_into_top(kappa) for one in (buried, replace(buried, cover=())))
    return border.nodes, (network.waves @ heat_w) * np.divide(covered, bare, out=np.ones_like(bare), where=bare > 0)
