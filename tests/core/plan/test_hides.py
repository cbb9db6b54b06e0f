"""Hides that are missing: what is offered for them, done, makes the finding go away."""

import json

import pytest

from mitten.core.catalogue import read_checked_design
from mitten.core.design import Design
from mitten.core.judge import assess
from mitten.core.plan import apply_change, hide_fixes, hides, to_be_covered
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE

QUARRY, CANYON, ATTIC, TUB, TABLE, COAST = demo_designs()


def bare(design: Design) -> Design:
    """The design without any hide."""
    data = design.model_dump(mode="json", exclude_none=True)
    data["sites"] = [site for site in data["sites"] if not site["role"].endswith("hide")]
    return read_checked_design(json.dumps(data), CATALOGUE)


@pytest.mark.slow
@pytest.mark.parametrize("design", [QUARRY, CANYON, TABLE], ids=lambda design: design.name)
def test_a_hide_that_is_offered_ends_the_finding_and_spoils_nothing(design: Design) -> None:
    before = assess(bare(design), CATALOGUE)
    offered = hide_fixes(before)
    assert offered.keys() == {finding.rule for finding in to_be_covered(before)}
    assert any(offered.values())
    for rule, fixes in offered.items():
        for fix in fixes:
            after = assess(
                apply_change(before.design, CATALOGUE, fix.change.kind, fix.change.name, fix.change.value),
                CATALOGUE,
            )
            assert rule not in {finding.rule for finding in after.findings}
            assert len(after.missed) <= len(before.missed)
            assert len(after.stops) <= len(before.stops)


@pytest.mark.slow
def test_a_hide_at_the_wrong_end_is_moved_before_another_is_bought() -> None:
    data = COAST.model_dump(mode="json", exclude_none=True)
    next(site for site in data["sites"] if site["role"] == "cool-hide")["x_m"] = 1.02
    misplaced = assess(read_checked_design(json.dumps(data), CATALOGUE), CATALOGUE)
    fixes = hide_fixes(misplaced)["no-cover-cool"]
    assert [fix.change.kind for fix in fixes] == ["place", "hide"]
    assert fixes[0].change.words.startswith("Move Cool hide to ")


@pytest.mark.slow
def test_a_hide_that_would_spoil_something_else_is_not_offered(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(hides, "MOST_TRIED", 1)
    monkeypatch.setattr(hides, "spoils_nothing", lambda *_: False)
    assert not any(hide_fixes(assess(bare(QUARRY), CATALOGUE)).values())


def test_nothing_is_offered_where_all_is_covered_or_a_hide_is_a_matter_of_choice() -> None:
    assert hide_fixes(assess(QUARRY, CATALOGUE)) == {}
    assert hide_fixes(assess(bare(ATTIC), CATALOGUE)) == {}


def test_a_hide_of_no_known_kind_is_refused_and_names_never_meet() -> None:
    with pytest.raises(ValueError, match="no such site"):
        apply_change(QUARRY, CATALOGUE, "hide", "basking", 0.5)
    twice = apply_change(
        apply_change(bare(QUARRY), CATALOGUE, "hide", "cool-hide", 0.2),
        CATALOGUE,
        "hide",
        "cool-hide",
        0.6,
    )
    assert [site.name for site in twice.sites][-2:] == ["Cool hide", "Cool hide 2"]
