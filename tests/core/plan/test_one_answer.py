"""One enclosure, one answer: what plans, margin, Check and Control say of a thermostat that sticks does not differ."""

from functools import cache

import pytest

from mitten.core.design import Design
from mitten.core.design.units import METRIC
from mitten.core.judge import Assessment, assess
from mitten.core.judge.days import SEASONS, Failure, failures_of, of_season
from mitten.core.judge.outcomes import Outcome, outcome_of
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.plan.comparing_probes import ProbeTrials, recommended
from mitten.core.plan.failsafe import cut_out, survivable
from mitten.core.plan.offering import GRAVE, STANDING_RULES, STUCK, new_dangers
from mitten.core.plan.search.solving.finish import _cut_out
from mitten.core.plan.setpoints import cut_out_setting_c, set_to, settings_of
from mitten.demo import demo_designs
from mitten.web.views.setpoint import setpoint_offer
from tests.catalogue import CATALOGUE
from tests.random_designs import random_design
from tests.sweeping import sliced

DESIGNS = 40
HARDLY_K = 0.4
"""What a course through time may be beyond a steady state of the same: its patterns, and a spot followed from moments."""


@cache
def design_of(number: int) -> Design:
    """Designs with a thermostat: those of the demo, then random ones."""
    demo = [one for one in demo_designs() if any(control.is_thermostat for control in one.controls)]
    if number < len(demo):
        return demo[number]
    seed, found = 1000, len(demo) - 1
    while True:
        one = random_design(seed)
        found += any(control.is_thermostat and one.heaters_of(control) for control in one.controls)
        if found == number:
            return one
        seed += 1


@cache
def assessment_of(number: int) -> Assessment:
    return assess(design_of(number), CATALOGUE)


@cache
def stuck_in(number: int, season: str) -> Outcome | None:
    design = design_of(number)
    if "stuck-on" not in {failure.kind for failure in failures_of(design, season)}:
        return None
    through = of_season(design, CATALOGUE, season)
    return outcome_of(through, through.moving.repeating_day(through.happening), Failure("stuck-on"))


@pytest.mark.slow
@pytest.mark.parametrize("number", sliced(range(DESIGNS), 20))
def test_what_is_harmless_by_the_rule_book_and_in_plans_is_harmless_in_check_in_every_season(number: int) -> None:
    """A steady state at full power is beyond every hour on the way to it."""
    try:
        rules = {finding.rule for finding in assessment_of(number).findings}
        if rules & {STUCK, *STANDING_RULES, "not-worked-out"}:
            return
        for season in SEASONS:
            found = stuck_in(number, season)
            if found is None:
                continue
            targets = found.targets
            assert found.hottest.celsius < targets.danger_contact_c + HARDLY_K, season
            assert float(found.body_c.max()) < targets.danger_body_c + HARDLY_K, season
            assert float(found.course.cool_c.max()) < targets.danger_air_c + HARDLY_K, season
    except UnsolvedError:
        pytest.skip("it finds no rest")


@pytest.mark.slow
@pytest.mark.parametrize("number", sliced(range(DESIGNS), 20))
def test_what_may_stick_by_check_is_harmless_there_without_any_cut_out_and_the_cut_out_is_one_figure(
    number: int,
) -> None:
    design = design_of(number)
    try:
        for control in (one for one in design.controls if one.is_thermostat and design.heaters_of(one)):
            most = survivable(design, CATALOGUE, control.name)
            held = cut_out(design, CATALOGUE, control.name)
            planned = next(one for one in _cut_out(design).controls if one.name == control.name)
            assert held is None or held.set_c == cut_out_setting_c(control) == planned.cut_out_c
            assert most is None or all(watts <= most.rating_w for watts, _ in most.tried if watts != most.now_w)
            if most is not None and held is not None and most.largest_w == most.now_w:
                assert all(after is None for _, after in held.without.minutes_to_danger)
    except UnsolvedError:
        pytest.skip("it finds no rest")


@pytest.mark.slow
@pytest.mark.parametrize("number", sliced(range(DESIGNS), 20))
def test_what_control_says_to_do_makes_nothing_dangerous_that_was_not(number: int) -> None:
    """Its setpoints where a button sets them, and the place for the probe that it recommends."""
    before = assessment_of(number)
    design = before.design
    for control in (one for one in design.controls if one.is_thermostat and design.heaters_of(one)):
        try:
            settings = settings_of(before, control)
            if settings is not None and setpoint_offer(before, control.name, METRIC).values:
                after = assess(set_to(design, control, settings.aim, settings.settings_c), CATALOGUE)
                assert not new_dangers(before, after)
            trials = ProbeTrials(before, control)
            best = recommended(tuple(trials.all()))
            if best is not None:
                changes = {"probe": best.place.probe, trials._aimed_at.field: best.setpoint_c, "summer": None}
                taken = control.model_copy(update=changes)
                if taken.cut_out_c is not None:
                    taken = taken.model_copy(update={"cut_out_c": cut_out_setting_c(taken)})
                after = assess(trials._holding(taken), CATALOGUE)
                assert not [one for one in after.findings if one.rule.startswith("probe-") and one.severity in GRAVE
                            and f"'{control.name}'" in one.title]  # fmt: skip
                assert not new_dangers(before, after)
        except UnsolvedError:
            continue
