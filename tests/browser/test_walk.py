"""Walks at random: after each step, page, store and history agree, and nothing is in the console."""

import pytest
from playwright.sync_api import Page

from mitten.store import Shelf
from tests.sweeping import sliced
from tests.walking import Walk

STEPS = 16


@pytest.mark.parametrize("seed", sliced([1, 2, 3], 3))
def test_whatever_a_keeper_does_page_and_store_agree(
    page: Page, address: str, shelf: Shelf, seed: int, expected_statuses: set[int]
) -> None:
    expected_statuses.update({409, 422})
    assert list(Walk(page, address, shelf, seed).steps(STEPS)) == []
