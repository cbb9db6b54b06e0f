"""What a thermostat's probe reads: the air, a surface, a heater, the base under the substrate or the air in a hide.

Unshaded in a beam it reads high by ``a E (A_proj / A) / h``: a dark thin cylinder.
"""

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.design import Control, Design, Probe
from mitten.core.physics.balance.state import State
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.lamps import across_the_beam_w_m2
from mitten.core.physics.reading.fields import SurfaceField, air_at, ground_at_depth
from mitten.core.physics.reading.hides import inside_air_c, is_hide
from mitten.core.physics.reading.points import surface_at
from mitten.core.physics.reading.touch import hot_parts


def probe_c(design: Design, state: State, control: Control, catalogue: Catalogue) -> float:
    """Temperature in °C at a control's probe.

    Raises:
        ValueError: the control has no probe.
    """
    probe = control.probe
    if probe is None:
        raise ValueError(f"'{control.name}' has no probe")
    if probe.reads == "heater":
        return _heater_c(design, state, control, catalogue)
    if probe.reads == "base":
        deep = ground_at_depth(state, design.substrate.depth_m)
        return SurfaceField(state.prepared.interior.surfaces[0], deep).at(probe.x_m, probe.y_m)
    if probe.reads == "hide":
        return _hide_c(design, state, probe)
    return _place_c(state, probe) + beam_error_k(state, probe)


def _place_c(state: State, probe: Probe) -> float:
    if probe.reads == "air":
        return float(air_at(state, probe.x_m, probe.z_m))
    return surface_at(state, probe.x_m, probe.y_m, probe.z_m)


def beam_error_k(state: State, probe: Probe) -> float:
    """How much too high a probe reads because lamps shine on it; 0 if it is shaded."""
    if probe.shaded:
        return 0.0
    prepared = state.prepared
    point = np.array([probe.x_m, probe.y_m, probe.z_m + value("probe_radius")])
    falling = sum(across_the_beam_w_m2(lamp, prepared.interior, prepared.window, point) for lamp in state.lamps)
    return falling * value("probe_absorptance") * value("probe_shape") / value("probe_film")


def _heater_c(design: Design, state: State, control: Control, catalogue: Catalogue) -> float:
    """The hottest of the control's heaters; the room's temperature where none runs."""
    parts = [
        part.celsius
        for heater in design.heaters_of(control)
        for part in hot_parts(design, state, heater, catalogue)[:1]
    ]
    return max(parts, default=state.surroundings.room_c)


def _hide_c(design: Design, state: State, probe: Probe) -> float:
    hides = [(index, site) for index, site in enumerate(design.sites) if is_hide(site)]
    index, site = min(hides, key=lambda item: np.hypot(item[1].x_m - probe.x_m, item[1].y_m - probe.y_m))
    return inside_air_c(state, index, site)
