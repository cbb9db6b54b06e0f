"""Where a hide would be as warm, or as cool, as a finding says that none is."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.design import BadDesignError, Design
from mitten.core.design.amounts import length
from mitten.core.judge import Assessment, Finding, assess, read_condition, solve_condition
from mitten.core.judge.cover import NO_COVER, Cover, cover_by_temperature, hide_temperatures
from mitten.core.judge.targets import outside_by
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.plan.changing import Change, ChangeKind, apply_change
from mitten.core.plan.changing.change import A_PURCHASE, A_SMALL_ONE
from mitten.core.plan.fixes import COARSE, Fix, spoils_nothing
from mitten.core.plan.usual import meant_warm_right

JUDGED_IN = "winter-day"
"""The condition in which cover is judged."""

PLACES = 13
MOST_TRIED = 6
"""Places along the box that are thought of, and how many of the likely ones are tried."""

FAR_OFF_K = 3.0
"""A hide is not so much warmer or colder than the low air where it stands."""

LOW_M = 0.03
UNSURE_K = 1.0


@dataclass(frozen=True)
class _Way:
    """A way to come to a hide: one that is moved, or one more."""

    kind: ChangeKind
    name: str
    words: str
    effort: float

    def to(self, x_m: float) -> Change:
        """The change that puts it there."""
        return Change(self.kind, self.name, x_m, f"{self.words} {length(x_m)} from the left", self.effort, 1.0)


def hide_fixes(assessment: Assessment, wanted: Callable[[], bool] = lambda: True) -> dict[str, tuple[Fix, ...]]:
    """By rule: a hide moved, and another one put in, so that there is cover in the band of temperature that has none.

    Every one is judged in all conditions: the finding is gone, and nothing else is spoiled.
    """
    rules = {finding.rule for finding in to_be_covered(assessment)}
    found: dict[str, tuple[Fix, ...]] = {}
    for cover in cover_by_temperature(assessment.climate(JUDGED_IN), assessment.targets):
        rule = NO_COVER[cover.band]
        if rule in rules and wanted():
            fixes = [_first_that_works(assessment, cover, way) for way in _ways(assessment.design, cover)]
            found[rule] = tuple(fix for fix in fixes if fix is not None)
    return found


def to_be_covered(assessment: Assessment) -> list[Finding]:
    """Findings that a hide is missing; where it is a matter of choice, as in trees, none."""
    return [one for one in assessment.findings if one.rule in NO_COVER.values() and one.severity == "warn"]


def _ways(design: Design, cover: Cover) -> Iterator[_Way]:
    """The hide that was meant for that end moved; one more."""
    role = f"{cover.band}-hide"
    for site in [site for site in design.sites if site.role == role][:1]:
        yield _Way("place", site.name, f"Move {site.name} to", A_SMALL_ONE)
    yield _Way("hide", role, f"Put a {cover.band} hide at", A_PURCHASE)


def _first_that_works(assessment: Assessment, cover: Cover, way: _Way) -> Fix | None:
    """The likeliest place that is right on the coarse grid and then in all conditions."""
    for x_m in _likely_places_m(assessment, cover):
        change = way.to(x_m)
        try:
            design = apply_change(assessment.design, assessment.catalogue, change.kind, change.name, change.value)
            if _nearly_right(design, assessment.catalogue, cover):
                after = assess(design, assessment.catalogue, assessment.climates, assessment.today)
                covered = _temperature_under_cover(after, cover)
                if covered is not None and spoils_nothing(assessment, after):
                    return Fix(change, covered)
        except (BadDesignError, UnsolvedError):
            continue
    return None


def _likely_places_m(assessment: Assessment, cover: Cover) -> list[float]:
    """Places along the box where the low air is right, or nearly, those nearest to the band's own end first."""
    climate, box = assessment.climate(JUDGED_IN), assessment.design.enclosure
    low_m, span = assessment.design.substrate.depth_m + LOW_M, (cover.low_c, cover.high_c)
    places_m = [round(float(x_m), 2) for x_m in np.linspace(0.0, box.length_m, PLACES + 2)[1:-1]]
    off_k = {x_m: abs(outside_by(climate.air_at(x_m, low_m), span)) for x_m in places_m}
    own_end_m = box.length_m if meant_warm_right(assessment.design) == (cover.band == "warm") else 0.0
    likely = [x_m for x_m in places_m if off_k[x_m] <= FAR_OFF_K]
    return sorted(likely, key=lambda x_m: (round(off_k[x_m]), abs(x_m - own_end_m)))[:MOST_TRIED]


def _nearly_right(design: Design, catalogue: Catalogue, cover: Cover) -> bool:
    """Whether any hide is in the band on the coarse grid."""
    climate = solve_condition(design, catalogue, read_condition(design, JUDGED_IN), None, COARSE)
    return any(cover.low_c - UNSURE_K <= at <= cover.high_c + UNSURE_K for at in hide_temperatures(climate).values())


def _temperature_under_cover(after: Assessment, cover: Cover) -> float | None:
    """The temperature of the hide that then is in the band; None where there still is none."""
    now = next(one for one in cover_by_temperature(after.climate(JUDGED_IN), after.targets) if one.band == cover.band)
    return None if now.hide is None else hide_temperatures(after.climate(JUDGED_IN))[now.hide]
