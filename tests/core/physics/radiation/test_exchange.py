"""Radiation between patches, films, air flows and ventilation: closed forms and conservation."""

import numpy as np
import pytest

from mitten.core.design import Enclosure, Vent
from mitten.core.physics.air.convection import film_w_m2k
from mitten.core.physics.air.ventilation import air_exchange, build_openings, stack_flow_m3_s
from mitten.core.physics.air.zones import (
    Zones,
    mixing_flows,
    plume_flow_m3_s,
    plume_flows,
    transport_matrix,
)
from mitten.core.physics.constants import SIGMA_W_M2K4
from mitten.core.physics.kernels.air import closed_flows
from mitten.core.physics.radiation.exchange import SurfaceOptics, absorb, build_network, emissive_power_w_m2
from mitten.core.physics.shape.geometry import Box

ZONES = Zones(Box((0.0, 0.0, 0.0), (1.2, 0.6, 0.56)), 6, 4)
BOX = Enclosure(length_m=1.2, depth_m=0.6, height_m=0.56)

LEAST = np.array([0.7])


def two_plates(emissivity: float) -> tuple[np.ndarray, np.ndarray]:
    """View factors and areas of two large plates that see only each other."""
    return np.array([[0.0, 1.0], [1.0, 0.0]]), np.array([2.0, 2.0])


def test_grey_plates_exchange_by_the_closed_form() -> None:
    """q = sigma (T1^4 - T2^4) / (1/e1 + 1/e2 - 1)."""
    view, areas = two_plates(0.8)
    optics = SurfaceOptics(np.ones(2), np.zeros(2), np.array([0.8, 0.6]), np.zeros(2))
    loss = build_network(view, areas, optics).long_loss @ emissive_power_w_m2(np.array([320.0, 290.0]))
    expected = 2.0 * SIGMA_W_M2K4 * (320.0**4 - 290.0**4) / (1 / 0.8 + 1 / 0.6 - 1)
    assert loss == pytest.approx([expected, -expected])


def test_shortwave_is_absorbed_or_transmitted_to_the_last_watt() -> None:
    view, areas = two_plates(0.8)
    optics = SurfaceOptics(np.array([0.1, 0.8]), np.array([0.1, 0.0]), np.full(2, 0.9), np.zeros(2))
    network = build_network(view, areas, optics)
    found = absorb(network, np.array([0.0, 100.0]), np.zeros(2))
    assert found.absorbed_w.sum() + found.lost_w == pytest.approx(200.0)


@pytest.mark.parametrize(
    ("difference_k", "tilt", "expected"), [(15.0, 1.0, 4.38), (15.0, 0.0, 4.21), (15.0, -1.0, 2.04), (0.0, 1.0, 0.7)]
)
def test_films_have_the_size_the_correlations_give(difference_k: float, tilt: float, expected: float) -> None:
    """A 20 cm plate, Ra 1.12e7: Nu 33.5 hot face up, 32.2 upright, 15.6 hot face down; the least film at rest."""
    found = film_w_m2k(np.array([difference_k]), np.array([tilt]), np.array([0.2]), 300.0, LEAST)
    assert found[0] == pytest.approx(expected, rel=0.01)


def test_a_warm_plate_facing_up_sheds_more_than_facing_down() -> None:
    up, down = (film_w_m2k(np.array([10.0]), np.array([t]), np.array([0.2]), 300.0, LEAST)[0] for t in (1.0, -1.0))
    assert up > 2 * down


def test_a_plume_grows_with_the_five_thirds_power_of_height() -> None:
    low, high = plume_flow_m3_s(np.array([30.0, 30.0]), np.array([0.2, 0.4]), 296.0, 1.2)
    assert high / low == pytest.approx(2 ** (5 / 3))
    assert high == pytest.approx(0.153 * (9.80665 * 30 / (1.2 * 1006 * 296)) ** (1 / 3) * 0.4 ** (5 / 3))


def test_mass_closes_in_every_zone_under_plumes_and_vents() -> None:
    heat = np.random.default_rng(1).uniform(-2, 12, (6, 4))
    across, up = plume_flows(ZONES, heat, np.zeros((6, 4)), 300.0, 1.2)
    inflow = np.zeros((6, 4))
    inflow[0, 0], inflow[5, 3] = 1e-3, -1e-3
    more_across, more_up = ZONES.through_flow(inflow)
    across, up = across + more_across, up + more_up
    gathered = -inflow.copy()
    gathered[:-1] += across
    gathered[1:] -= across
    gathered[:, :-1] += up
    gathered[:, 1:] -= up
    assert np.abs(gathered).max() < 1e-12


def test_flows_across_end_at_the_wall() -> None:
    across, up = closed_flows(np.array([[2.0, 5.0], [0.0, 1.0]]))
    assert np.allclose(up, [[1.0, 2.0], [-1.0, -2.0]]), "what rises comes down evenly over all columns"
    assert np.allclose(across, [[-1.0, -1.0, 2.0]])


def test_air_of_one_temperature_carries_no_heat() -> None:
    net = plume_flows(ZONES, np.ones((6, 4)), np.diag([9.0] * 4 + [0.0] * 2)[:, :4], 300.0, 1.2)
    leaving = np.zeros((6, 4))
    matrix = transport_matrix(ZONES, net, mixing_flows(ZONES, np.full((6, 4), 300.0)), leaving)
    assert np.abs(matrix @ np.full(24, 300.0)).max() < 1e-9


def test_stack_flow_of_two_vents_matches_the_closed_form() -> None:
    vents = (Vent(face="left", area_cm2=40.0, z_m=0.1), Vent(face="right", area_cm2=60.0, z_m=0.5))
    openings = build_openings(BOX.model_copy(update={"vents": vents}), ZONES, None)
    found = air_exchange(openings, ZONES, 303.0, 293.0).total_m3_s
    # The closed form takes each vent at one height; ours breathe over their own.
    assert found == pytest.approx(stack_flow_m3_s(40e-4, 60e-4, 0.4, 10.0, 293.0), rel=0.02)


def test_a_single_vent_breathes_in_below_and_out_above() -> None:
    vent = (Vent(face="back", area_cm2=30.0, z_m=0.4),)
    openings = build_openings(BOX.model_copy(update={"vents": vent}), ZONES, None)
    exchange = air_exchange(openings, ZONES, 303.0, 293.0)
    assert exchange.entering.sum() == pytest.approx(exchange.leaving.sum())
    assert 0 < exchange.total_m3_s < stack_flow_m3_s(30e-4, 30e-4, 0.4, 10.0, 293.0)


def test_without_openings_no_air_is_exchanged_and_a_fan_adds_its_flow() -> None:
    closed = build_openings(BOX, ZONES, None)
    fanned = build_openings(BOX.model_copy(update={"fan_l_s": 3.0}), ZONES, None)
    assert air_exchange(closed, ZONES, 303.0, 293.0).total_m3_s == 0.0
    assert air_exchange(fanned, ZONES, 303.0, 293.0).total_m3_s == pytest.approx(3e-3)
