"""Steps of a linear system: second order, at rest where it should be, and quick things within a step."""

import numpy as np
import pytest

from mitten.core.physics.arrays import Array
from mitten.core.physics.transient.linear import KEPT_STEPPERS, LinearSystem


def gone(system: LinearSystem, gain: Array, start: Array, seconds: float, steps: int) -> Array:
    place, stepper = start, system.stepper(seconds / steps)
    for _ in range(steps):
        place = stepper.step(place, gain)
    return place


def test_a_lump_cools_by_the_exponential_and_halving_the_step_divides_the_error_by_four() -> None:
    lump = LinearSystem(np.array([[900.0]]), np.array([[1.5]]))
    exact = 10.0 * np.exp(-1.5 / 900.0 * 600.0)
    errors = [abs(float(gone(lump, np.zeros(1), np.array([10.0]), 600.0, steps)[0]) - exact) for steps in (4, 8, 16)]
    assert errors[0] / errors[1] == pytest.approx(4.0, rel=0.1)
    assert errors[1] / errors[2] == pytest.approx(4.0, rel=0.1)
    assert errors[2] < 1e-3


def test_two_lumps_follow_their_eigenvalues() -> None:
    capacity, loss = np.diag([400.0, 2500.0]), np.array([[3.0, -2.0], [-2.0, 2.5]])
    rates, modes = np.linalg.eig(-np.linalg.inv(capacity) @ loss)
    start = np.array([8.0, 1.0])
    exact = modes @ (np.exp(rates * 900.0) * np.linalg.solve(modes, start))
    np.testing.assert_allclose(gone(LinearSystem(capacity, loss), np.zeros(2), start, 900.0, 200), exact, rtol=1e-4)


def test_what_stores_nothing_is_at_rest_with_the_others_after_every_step() -> None:
    capacity, loss = np.diag([600.0, 0.0]), np.array([[2.0, -1.0], [-1.0, 4.0]])
    system, gain = LinearSystem(capacity, loss), np.array([0.0, 8.0])
    after = system.stepper(60.0).step(np.array([0.0, -99.0]), gain)
    assert after[1] == pytest.approx((8.0 + after[0]) / 4.0)
    np.testing.assert_allclose(gone(system, gain, after, 36000.0, 300), system.at_rest(gain), rtol=1e-6)


def test_what_is_far_quicker_than_a_step_does_not_ring() -> None:
    quick = LinearSystem(np.array([[1.0]]), np.array([[50.0]]))
    after = quick.stepper(60.0).step(np.array([100.0]), np.array([50.0]))
    assert abs(float(after[0]) - 1.0) < 0.2


def test_a_step_of_any_length_is_the_step_of_a_kept_one() -> None:
    system = LinearSystem(np.diag([400.0, 2500.0]), np.array([[3.0, -2.0], [-2.0, 2.5]]))
    start, gain = np.array([8.0, 1.0]), np.array([1.0, 4.0])
    for seconds in (60.0, 7.5, 41.3):
        np.testing.assert_allclose(system.step(seconds, start, gain), system.stepper(seconds).step(start, gain))


def test_steppers_are_kept_but_not_without_end() -> None:
    system = LinearSystem(np.eye(1), np.eye(1))
    assert system.stepper(5.0) is system.stepper(5.0)
    for number in range(3 * KEPT_STEPPERS):
        system.stepper(1.0 + number)
    assert len(system.steppers) <= KEPT_STEPPERS
