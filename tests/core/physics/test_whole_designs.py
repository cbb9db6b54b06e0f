"""What must hold for whole random designs of every kind of source, geometry fixed while one thing is changed."""

from copy import deepcopy

import numpy as np
import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from mitten.core.design import BadDesignError
from mitten.core.physics.reading.climate import Climate
from tests.core.physics.whole_designs import designs
from tests.designs import Data, climate_of, read

EXAMPLES = 40
SAME_K = 0.05
"""Two solutions that should be equal may differ by what settling leaves."""


def scaled(design: Data, factor: float) -> Data:
    """The design with every source's watts times a factor."""
    changed = deepcopy(design)
    for heater in changed["heaters"]:
        heater["watts"] *= factor
    return changed


def check_conserved(climate: Climate) -> None:
    """Energy, radiant deposit and air are all accounted for."""
    state, energy = climate.state, climate.energy
    assert abs(energy.residual_w) <= 1e-3 * energy.in_w + 1e-3
    for lamp, landed in zip(state.lamps, state.deposits, strict=True):
        assert abs(landed.entering_w + landed.mesh_w.sum() + landed.missed_w - lamp.radiant_w) < 1e-6 * lamp.radiant_w
    exchange, (across, up) = state.exchange, state.exchange.net
    gathered = exchange.leaving - exchange.entering
    gathered[:-1] += across
    gathered[1:] -= across
    gathered[:, :-1] += up
    gathered[:, 1:] -= up
    assert np.abs(gathered).max() < 1e-9


@pytest.mark.slow
@settings(max_examples=EXAMPLES, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
@given(design=designs(), room_c=st.floats(12.0, 28.0), more=st.floats(1.1, 1.8), warmer=st.floats(1.0, 8.0))
def test_conservation_and_monotony(design: Data, room_c: float, more: float, warmer: float) -> None:
    try:
        read(design)
    except BadDesignError:
        assume(False)
    usual = climate_of(design, room_c)
    check_conserved(usual)
    assert usual.state.surface_c.min() > room_c - SAME_K
    assert usual.state.air_c.min() > room_c - SAME_K

    stronger = climate_of(scaled(design, more), room_c)
    assert stronger.air.mean_c >= usual.air.mean_c - SAME_K
    assert stronger.state.surface_c.max() >= usual.state.surface_c.max() - SAME_K

    in_a_warmer_room = climate_of(design, room_c + warmer)
    assert np.all(in_a_warmer_room.state.surface_c >= usual.state.surface_c - SAME_K)
    assert in_a_warmer_room.air.mean_c >= usual.air.mean_c - SAME_K

    unheated = climate_of(scaled(design, 0.0), room_c)
    assert np.abs(unheated.state.surface_c - room_c).max() < 0.01
    assert np.abs(unheated.state.air_c - room_c).max() < 0.01
