"""A slice of the soak: a few random realistic designs in every condition; ``bench/soak.py`` goes through hundreds."""

import pytest

from tests.random_designs import random_design
from tests.soaking import faults_of_seed, faults_of_stacks, jumps_of_seed
from tests.soaking_in_time import faults_in_time_of
from tests.sweeping import sliced, sweep

SEEDS = range(1000, 1012)

UNRULY = (13, 17, 36, 102, 132, 144, 154, 165, 180, 190, 2169, 2291)
"""Small boxes with much power, wet ones and tall ones, whose flows once turned from round to round without end."""


@pytest.mark.parametrize("seed", sliced(SEEDS, 4))
def test_a_random_design_breaks_no_rule_in_any_condition(seed: int) -> None:
    assert list(faults_of_seed(seed)) == []


@pytest.mark.slow
@pytest.mark.parametrize("seed", sliced(UNRULY, 4))
def test_designs_that_once_did_not_settle_do(seed: int) -> None:
    assert list(faults_of_seed(seed)) == []


@pytest.mark.slow
@pytest.mark.parametrize("seed", sliced(range(1000, 1003), 3))
def test_nothing_jumps_when_something_moves_by_a_centimetre(seed: int) -> None:
    assert list(jumps_of_seed(seed)) == []


@pytest.mark.parametrize("fineness", [0.5, 1.0])
@pytest.mark.parametrize("seed", sliced(range(12), 4))
def test_slabs_that_lie_on_slabs_have_temperatures(seed: int, fineness: float) -> None:
    assert list(faults_of_stacks(seed, fineness)) == []


@sweep
@pytest.mark.slow
def test_a_random_design_breaks_no_rule_through_time() -> None:
    """A wet box with a mat on a thermostat. A whole look takes a minute: ``bench/soak.py`` goes through many."""
    assert list(faults_in_time_of(random_design(6174), seasons=("winter",))) == []
