"""Lamps: Planck's shares, the point source and the face, and where all the power goes."""

from dataclasses import replace

import numpy as np
import pytest

from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.radiation.lamps import ANGLE_STEPS, Lamp, _lower_half_space, deposit, irradiance_at
from mitten.core.physics.radiation.sources import Running, radiator_of
from mitten.core.physics.radiation.spectrum import (
    Spectrum,
    bands_of,
    emitter_temperature_k,
    fraction_below,
    spectrum_of,
)
from mitten.core.physics.shape.geometry import SUBDIVISION
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, ledge_data, read, tank_data

UP = np.array([[0.0, 0.0, 1.0]])


def lamp_from(design: Data) -> Lamp:
    heater = read(design).heaters[0]
    return radiator_of(Running(heater), CATALOGUE.sources[heater.kind], CATALOGUE, 0.6)


@pytest.mark.parametrize(
    ("lambda_t_um_k", "fraction"),
    [(1000.0, 0.000321), (2000.0, 0.066728), (2898.0, 0.250108), (4000.0, 0.480877), (8000.0, 0.856288)],
)
def test_blackbody_fractions_match_the_published_table(lambda_t_um_k: float, fraction: float) -> None:
    """Incropera et al., blackbody radiation functions."""
    assert fraction_below(lambda_t_um_k * 1e-6, 1.0) == pytest.approx(fraction, abs=5e-5)


def test_a_halogen_filament_at_2950_k_divides_as_published() -> None:
    bands = bands_of(Spectrum(2950.0))
    assert bands.visible == pytest.approx(0.08, abs=0.02)
    assert bands.ir_a == pytest.approx(0.43, abs=0.04)
    assert bands.ir_b == pytest.approx(0.38, abs=0.04)
    assert bands.ir_c == pytest.approx(0.11, abs=0.02)


def test_shares_always_sum_to_one_and_dimming_moves_them_to_longer_waves() -> None:
    kind = CATALOGUE.sources["halogen-flood"]
    full, dimmed = (bands_of(spectrum_of(kind, 100.0, dim)) for dim in (1.0, 0.3))
    for bands in (full, dimmed):
        assert bands.visible + bands.ir_a + bands.ir_b + bands.ir_c == pytest.approx(1.0)
    assert dimmed.visible < full.visible
    assert dimmed.ir_c > full.ir_c


@pytest.mark.parametrize("watts", [60.0, 100.0, 150.0, 250.0])
def test_a_ceramic_emitter_glows_at_450_to_720_k_by_wattage(watts: float) -> None:
    assert 450 < emitter_temperature_k(CATALOGUE.sources["ceramic-emitter"], watts, 1.0) < 720


def under_the_middle(lamp: Lamp, below_m: float) -> float:
    inside = prepare(read(box_data()), CATALOGUE).interior
    return float(irradiance_at(lamp, inside, None, np.array([[0.95, 0.3, 0.5 - below_m]]), UP)[0])


def test_far_from_a_lamp_its_irradiance_is_a_point_sources() -> None:
    """I = eta P [s (n+1)/(2 pi) + (1-s)/pi] on the axis, over r^2."""
    lamp = lamp_from(box_data())
    lamp = replace(lamp, beam=replace(lamp.beam, face_m=0.02))
    intensity = lamp.radiant_w * (0.7 * (lamp.beam.exponent + 1) / (2 * np.pi) + 0.3 / np.pi)
    assert under_the_middle(lamp, 0.4) == pytest.approx(intensity / 0.4**2)


def from_a_disc(exponent: float, radius_m: float, below_m: float) -> float:
    """E for one watt of cos^n on the axis of an evenly shining disc: [1 - (1 + a^2/r^2)^(-(n+1)/2)] / (pi a^2)."""
    fallen = (1 + (radius_m / below_m) ** 2) ** (-(exponent + 1) / 2)
    return float((1 - fallen) / (np.pi * radius_m**2))


@pytest.mark.parametrize("below_m", [0.04, 0.07, 0.1, 0.2, 0.4])
def test_near_a_lamp_its_face_counts(below_m: float) -> None:
    lamp = lamp_from(box_data())
    radius_m = lamp.beam.face_m / 2
    assert radius_m > 0.03
    closed = 0.7 * from_a_disc(lamp.beam.exponent, radius_m, below_m) + 0.3 * from_a_disc(1.0, radius_m, below_m)
    assert under_the_middle(lamp, below_m) == pytest.approx(lamp.radiant_w * closed, rel=0.04)


def test_nothing_is_brighter_than_the_face_it_is_lit_by() -> None:
    """A point source would give 16,000 W/m2 and more a few centimetres under it; a face gives what it has."""
    lamp = lamp_from(box_data())
    exitance_w_m2 = lamp.radiant_w / (np.pi * (lamp.beam.face_m / 2) ** 2)
    assert under_the_middle(lamp, 0.03) < 1.2 * exitance_w_m2


def test_the_beam_has_fallen_to_half_at_its_half_angle() -> None:
    lamp = lamp_from(box_data())
    angle = np.deg2rad(25.0)
    ray = np.array([[np.sin(angle), 0.0, -np.cos(angle)], [0.0, 0.0, -1.0]])
    beam = lamp.beam.intensity_sr(ray) - 0.3 / np.pi * -ray[:, 2]
    assert beam[0] / beam[1] == pytest.approx(0.5)


def test_the_intensity_sums_to_the_radiant_power() -> None:
    directions, solid_angles = _lower_half_space()
    assert len(directions) == ANGLE_STEPS[0] * ANGLE_STEPS[1]
    lamp = lamp_from(box_data())
    assert lamp.beam.intensity_sr(directions) @ solid_angles == pytest.approx(1.0, rel=1e-3)


@pytest.mark.parametrize("design", [box_data(), ledge_data(), tank_data(), ledge_data(tilt_deg=20.0)])
def test_deposit_mesh_and_missed_make_up_the_radiant_power(design: Data) -> None:
    lamp, prepared = lamp_from(design), prepare(read(design), CATALOGUE)
    landed = deposit(lamp, prepared.interior, prepared.window)
    points = np.repeat(prepared.interior.areas_m2, SUBDIVISION**2) / SUBDIVISION**2
    inside_w = float(landed.irradiance_w_m2 @ points)
    assert inside_w + landed.mesh_w.sum() + landed.missed_w == pytest.approx(lamp.radiant_w, rel=1e-9)
    # What was rescaled is a numerical remainder, not physics.
    assert landed.remainder < 0.05


def test_a_mesh_stops_its_wires_share_straight_down_and_more_aslant() -> None:
    window = prepare(read(tank_data()), CATALOGUE).window
    assert window is not None
    centre = np.array([[0.45, 0.2], [0.45, 0.2], [2.0, 0.2]])
    through = window.transmittance(np.array([1.0, np.cos(np.deg2rad(60)), 1.0]), centre)
    assert through == pytest.approx([0.62, 1 - 0.38 / 0.5, 0.0])


def test_a_bare_globe_shines_all_round_and_one_in_a_dome_does_not() -> None:
    bare = lamp_from(box_data(kind="incandescent-globe", watts=60.0, fixture={"kind": "bare-socket"}))
    domed = lamp_from(box_data(kind="incandescent-globe", watts=60.0, fixture={"kind": "dome"}))
    assert bare.beam.intensity_sr(UP)[0] == pytest.approx(1 / (4 * np.pi))
    assert domed.beam.intensity_sr(UP)[0] == 0.0
