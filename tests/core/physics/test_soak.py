"""A slice of the soak: a few random realistic designs in every condition; ``bench/soak.py`` goes through hundreds."""

import pytest

from tests.soaking import faults_of_seed, jumps_of_seed

SEEDS = range(1000, 1012)

UNRULY = (13, 17, 36, 102, 132, 144, 154, 165, 180, 190, 2169, 2291)
"""Small boxes with much power, wet ones and tall ones, whose flows once turned from round to round without end."""


@pytest.mark.parametrize("seed", SEEDS)
def test_a_random_design_breaks_no_rule_in_any_condition(seed: int) -> None:
    assert list(faults_of_seed(seed)) == []


@pytest.mark.slow
@pytest.mark.parametrize("seed", UNRULY)
def test_designs_that_once_did_not_settle_do(seed: int) -> None:
    assert list(faults_of_seed(seed)) == []


@pytest.mark.slow
@pytest.mark.parametrize("seed", range(1000, 1003))
def test_nothing_jumps_when_something_moves_by_a_centimetre(seed: int) -> None:
    assert list(jumps_of_seed(seed)) == []
