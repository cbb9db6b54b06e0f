"""Factors that many threads share."""

from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest

from mitten.core.physics.linear import factor, invert, solve_factored


def test_threads_that_share_factors_do_not_spoil_each_others_solutions() -> None:
    random = np.random.default_rng(3)
    matrix = random.random((150, 150))
    right = random.random(150)
    factors = factor(matrix.copy(order="F"))
    exact = np.linalg.solve(matrix, right)

    def farthest(_: int) -> float:
        return max(float(np.abs(solve_factored(factors, right) - exact).max()) for _ in range(300))

    with ThreadPoolExecutor(4) as threads:
        assert max(threads.map(farthest, range(8))) < 1e-8


def test_pivots_are_left_as_they_were() -> None:
    factors = factor(np.asfortranarray(np.random.default_rng(1).random((20, 20))))
    before = factors[1].copy()
    solve_factored(factors, np.ones(20))
    assert np.array_equal(factors[1], before)


def test_an_inverse_undoes_its_matrix_and_a_singular_one_is_refused() -> None:
    matrix = np.random.default_rng(5).normal(size=(30, 30)) + 8 * np.eye(30)
    kept = matrix.copy()
    np.testing.assert_allclose(invert(matrix) @ matrix, np.eye(30), atol=1e-12)
    np.testing.assert_array_equal(matrix, kept)
    with pytest.raises(np.linalg.LinAlgError):
        invert(np.ones((4, 4)))
