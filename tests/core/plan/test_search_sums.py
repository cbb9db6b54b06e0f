"""Combinations as sums of what their sources do on their own, beside the full model; who works out what."""

import json
import os
from concurrent.futures import Future
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from scipy.stats import spearmanr

from mitten.core.catalogue import load_presets, read_checked_design
from mitten.core.design import Design, Room, RoomSeason
from mitten.core.judge import assess, read_condition, solve_condition
from mitten.core.plan.search import ALONE, Brief, Candidate, Crew, find_plans, search, two_processes
from mitten.core.plan.search.crew import AtOnce
from mitten.core.plan.search.screening.days import Main, days_of
from mitten.core.plan.search.screening.extras import Ultraviolet
from mitten.core.plan.search.screening.responses import at_power, figures_of
from mitten.core.plan.search.screening.screen import Screened, candidates, layouts_for, screen
from mitten.core.plan.search.solving.build import AIR_CONTROL, DAY_CONTROL, MAT_CONTROL, build
from mitten.core.plan.search.solving.plan import work_out
from mitten.core.plan.search.wants.figures import COOL_AIR, FIGURES, OPERATIVE, SURFACE, UVI, WARM_AIR
from mitten.core.plan.search.wants.furnish import furnish
from mitten.core.plan.search.wants.wishes import Wishes
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.sweeping import sweep

QUARRY, CANYON, ATTIC, TUB, TABLE, COAST = demo_designs()
COOL_ROOM = Room(winter=RoomSeason(day_c=20.0, night_c=17.0), summer=RoomSeason(day_c=24.0, night_c=20.0))
POWERS = np.ones(UVI)
NO_UV = Ultraviolet()


def boxed(species: str, box: str = "plywood-120") -> Design:
    data = COAST.model_dump(mode="json", exclude_none=True)
    data |= {"animal": {"species": species, "stage": "adult"}, "sites": [], "heaters": [], "controls": []}
    data |= {"enclosure": load_presets().boxes[box].enclosure.model_dump(mode="json", exclude_none=True)}
    data |= {"room": COOL_ROOM.model_dump(mode="json", exclude_none=True)}
    return read_checked_design(json.dumps(data), CATALOGUE)


@pytest.fixture(scope="module")
def of_a_boa() -> tuple[Brief, Screened]:
    brief = Brief(boxed("rosy-boa"), CATALOGUE)
    return brief, screen(brief, next(furnish(brief.design, CATALOGUE)))


def rises(**figures: float) -> np.ndarray:
    return np.array([figures.get(name, 0.0) for name in FIGURES])


def summed(
    wishes: Wishes, main: Main, helpers: list[np.ndarray], mats: list[np.ndarray],
    lamps: list[np.ndarray] | None = None,
) -> list[np.ndarray]:  # fmt: skip
    """A winter, a usual and a summer day of one main source with what may help it."""
    days = days_of(wishes, main, *(np.stack(them) for them in (helpers, mats, lamps or [rises()])))
    return [day.rises for day in days]


def one_with(found: tuple[Brief, Screened], kind: str, **changes: object) -> Candidate:
    """The best combination of a kind, with other help."""
    brief, box = found
    return replace(next(iter(candidates(brief, box, kind))), **changes)  # type: ignore[arg-type]


def test_a_lamp_that_is_not_held_adds_to_what_is_held_beside_it() -> None:
    wishes = Wishes.of(COAST, CATALOGUE)
    lamp = rises(surface=6.0, operative=5.0, warm_air=1.0, cool_air=0.5)[None, :]
    heat, none = rises(surface=4.0, operative=4.0, warm_air=20.0, cool_air=8.0), rises()
    winter, _, summer = summed(wishes, Main(lamp, POWERS, False, False), [none, heat], [none])
    assert winter.shape == (1, 2, 1, 1, len(FIGURES))
    assert winter[0, 0, 0, 0] == pytest.approx(lamp[0])
    share = (wishes.warm_aim_c - wishes.by_day_c[0] - 1.0) / 20.0
    assert winter[0, 1, 0, 0] == pytest.approx(lamp[0] + share * heat)
    # A warmer room needs less of it.
    assert summer[0, 1, 0, 0, COOL_AIR] < winter[0, 1, 0, 0, COOL_AIR]


def test_the_heat_of_a_uv_lamp_counts_and_a_held_source_backs_off_for_it() -> None:
    wishes = Wishes.of(COAST, CATALOGUE)
    lamp, tube = rises(surface=40.0, operative=30.0, warm_air=1.0)[None, :], rises(surface=3.0, warm_air=2.0, uvi=2.0)
    free, held = (
        summed(wishes, Main(lamp, POWERS, held, False), [rises()], [rises()], [rises(), tube])[0][0, 0, 0]
        for held in (False, True)
    )
    assert free[1] - free[0] == pytest.approx(tube)
    assert held[1, SURFACE] == pytest.approx(held[0, SURFACE])
    assert held[1, UVI] == 2.0


def test_a_held_source_backs_off_for_what_warms_its_place_too() -> None:
    wishes = Wishes.of(COAST, CATALOGUE)
    lamp = rises(surface=40.0, operative=30.0, warm_air=1.0)[None, :]
    heat = rises(surface=6.0, warm_air=10.0)
    main = Main(lamp, POWERS, True, False)
    alone, with_heat = (summed(wishes, main, [one], [rises()])[0][0, 0, 0, 0] for one in (rises(), heat))
    assert with_heat[SURFACE] == pytest.approx(alone[SURFACE])
    assert with_heat[OPERATIVE] < alone[OPERATIVE]


def test_a_mat_makes_up_for_what_a_weak_lamp_leaves_and_stays_safe_to_touch() -> None:
    wishes = Wishes.of(COAST, CATALOGUE)
    weak = rises(surface=2.0, operative=2.0)[None, :]
    deep, shallow = rises(surface=8.0, base=400.0), rises(surface=40.0, base=41.0)
    winter, *_ = summed(wishes, Main(weak, POWERS, False, False), [rises()], [rises(), deep, shallow])
    room_c = wishes.by_day_c[0]
    aim_k = float(wishes.aim_c(weak[:, SURFACE], weak[:, OPERATIVE], room_c)[0]) - room_c
    safe_k = wishes.safe_on_a_mat_c - room_c
    assert winter[0, 0, 2, 0, SURFACE] == pytest.approx(min(aim_k, 2.0 + 40.0 * safe_k / 41.0))
    assert winter[0, 0, 1, 0, SURFACE] == pytest.approx(2.0 + 8.0 * safe_k / 400.0)
    assert wishes.safe_on_a_mat_c < wishes.targets.danger_contact_c


@pytest.mark.slow
@pytest.mark.parametrize("mat_w", [0.0, 20.0])
def test_sums_of_a_lamp_a_mat_and_heat_for_the_air_are_near_the_full_model(
    of_a_boa: tuple[Brief, Screened], mat_w: float
) -> None:
    _, box = of_a_boa
    night = next(one for one in box.nights if one.all_day and one.label.startswith("60 W ceramic"))
    mat = next(one for one in box.mats if one.watts == mat_w)
    response = next(one for one in box.responses if one.layout.kind == "halogen-flood" and one.layout.count == 1)
    main = Main(at_power(response, np.array([25.0 / response.watts])), response.powers, False, False)
    winter, *_ = summed(Wishes.of(box.furnished.design, CATALOGUE), main, [night.day_rises], [mat.rises])
    base = one_with(
        of_a_boa,
        "halogen-flood",
        layout=response.layout,
        watts=25.0,
        night=night,
        mat=mat,
        held=False,
        ultraviolet=NO_UV,
    )
    climate = assess(build(base, "Plan", CATALOGUE), CATALOGUE).climate("winter-day")
    real = figures_of(climate) - climate.room_c
    for figure in (SURFACE, OPERATIVE, WARM_AIR, COOL_AIR):
        assert winter[0, 0, 0, 0, figure] == pytest.approx(real[figure], rel=0.15, abs=0.8), FIGURES[figure]


def test_the_screening_ranks_finalists_as_the_full_model_does(of_a_boa: tuple[Brief, Screened]) -> None:
    """One flood and what may hold the air beside it, by how far the warm side is from the middle of its range."""
    _, box = of_a_boa
    wishes = Wishes.of(box.furnished.design, CATALOGUE)
    middle_c = sum(wishes.targets.warm_air_c) / 2
    screened_k, solved_k = [], []
    for response in (one for one in box.responses if one.layout.kind == "ceramic-emitter" and one.layout.count == 1):
        data = box.furnished.design.model_dump(mode="json", exclude_none=True)
        data["heaters"] = [{**response.layout.heaters[0], "name": "Heat", "watts": response.watts, "on": "day"}]
        design = read_checked_design(json.dumps(data), CATALOGUE)
        climate = solve_condition(design, CATALOGUE, read_condition(design, "winter-day"))
        screened_k.append(abs(wishes.by_day_c[0] + response.rises[SURFACE] - middle_c))
        solved_k.append(abs(climate.basking.surface_c - middle_c))
    assert len(solved_k) >= 4
    assert spearmanr(screened_k, solved_k).statistic > 0.9


@pytest.mark.slow
def test_heat_for_the_air_holds_the_warm_side_by_day_and_the_cool_side_by_night(
    of_a_boa: tuple[Brief, Screened],
) -> None:
    night = next(one for one in of_a_boa[1].nights if one.all_day and one.label.startswith("100 W ceramic"))
    design = build(one_with(of_a_boa, "halogen-flood", night=night, held=True), "Plan", CATALOGUE)
    wishes, found = Wishes.of(design, CATALOGUE), assess(design, CATALOGUE)
    assert {control.name for control in design.controls} == {DAY_CONTROL, AIR_CONTROL}
    assert found.climate("winter-day").air.warm_c == pytest.approx(wishes.warm_aim_c, abs=1.0)
    assert found.climate("winter-night").air.cool_c == pytest.approx(wishes.night_aim_c, abs=1.0)
    heater = next(one for one in design.heaters if one.name == "Air heat")
    assert heater.on == "always"


def test_a_mat_has_a_thermostat_of_its_own_that_never_lets_it_burn(of_a_boa: tuple[Brief, Screened]) -> None:
    mat = next(one for one in of_a_boa[1].mats if one.watts >= 16.0)
    design = build(one_with(of_a_boa, "halogen-flood", mat=mat, held=True), "Plan", CATALOGUE)
    control = next(one for one in design.controls if one.name == MAT_CONTROL)
    assert control.kind == "on-off"
    assert control.day_c == control.night_c
    assert control.day_c is not None
    assert control.day_c <= Wishes.of(design, CATALOGUE).safe_on_a_mat_c + 0.5
    assert control.probe is not None
    assert control.probe.reads == "base"


def test_what_full_solutions_teach_moves_the_next_screening(of_a_boa: tuple[Brief, Screened]) -> None:
    brief, box = of_a_boa
    box = replace(box, best={}, errors={})
    before = candidates(brief, box, "ceramic-emitter")[0]
    real = before.rises.copy()
    real[WARM_AIR] *= 1.2
    box.learn(before, real)
    assert box.errors["ceramic-emitter"][WARM_AIR] == pytest.approx(1.2)
    after = candidates(brief, box, "ceramic-emitter")[0]
    assert after.score != before.score


@pytest.mark.slow
@sweep
def test_a_crew_of_two_processes_finds_what_one_finds(of_a_boa: tuple[Brief, Screened]) -> None:
    brief, box = of_a_boa
    candidate = candidates(brief, box, "ceramic-emitter")[0]
    with two_processes() as crew:
        assert crew.hands == 2
        assert crew.executor.submit(os.getpid).result() != os.getpid()
        found = crew.executor.submit(work_out, brief, candidate).result()
        again = screen(brief, next(furnish(brief.design, CATALOGUE)))
        again.responses.clear()
        again.helping.clear()
        again.add([response.layout for response in box.responses[:6]], crew)
    own = work_out(brief, candidate)
    assert found is not None
    assert own is not None
    assert found.design == own.design
    assert found.chance == pytest.approx(own.chance)
    for one, other in zip(again.responses, box.responses[:6], strict=True):
        assert one.layout == other.layout
        assert one.rises == pytest.approx(other.rises, abs=0.05)


def test_this_process_alone_hands_on_results_and_errors() -> None:
    def fail() -> None:
        raise ValueError("no")

    assert ALONE.hands == 1
    assert AtOnce().submit(int, "7").result() == 7
    with pytest.raises(ValueError, match="no"):
        AtOnce().submit(fail).result()


@pytest.mark.slow
def test_one_lamp_means_one_lamp_and_sunlit_gets_its_helpers() -> None:
    brief = Brief(boxed("gargoyle-gecko"), CATALOGUE, approach="one-lamp")
    progress = find_plans(brief)
    every = [*progress.plans, *progress.rejected]
    assert every
    assert {plan.approach for plan in every} == {"one-lamp"}
    assert all(len(plan.design.heaters) == 1 and not plan.design.uvb for plan in every)


def test_warmth_from_below_is_left_to_animals_that_seek_it_there_unless_it_is_asked_for() -> None:
    kinds = {
        (species, approach): {layout.kind for layout in layouts_for(brief, next(furnish(brief.design, CATALOGUE)))}
        for species in ("collared-lizard", "gargoyle-gecko", "rosy-boa")
        for approach in ("any", "ground")
        for brief in [Brief(boxed(species), CATALOGUE, approach=approach)]
    }
    assert "heat-mat" not in kinds["collared-lizard", "any"] | kinds["gargoyle-gecko", "any"]
    assert "heat-mat" in kinds["rosy-boa", "any"] & kinds["gargoyle-gecko", "ground"]
    assert "mercury-vapour" in kinds["collared-lizard", "any"] - kinds["rosy-boa", "any"]


@pytest.mark.slow
def test_no_ultraviolet_lamp_hangs_beside_a_source_that_gives_some_itself() -> None:
    brief = Brief(boxed("collared-lizard"), CATALOGUE)
    box = screen(brief, next(furnish(brief.design, CATALOGUE)))
    for one in candidates(brief, box, "mercury-vapour"):
        assert not one.ultraviolet.data
    assert any(one.ultraviolet.data for one in candidates(brief, box, "halogen-flood"))


class SecondSooner(AtOnce):
    """Of two combinations that are looked at, the first is done only when it is told to be."""

    def __init__(self) -> None:
        self.late: tuple[Future[Any], Any] | None = None

    def submit(self, fn: Any, /, *args: Any, **kwargs: Any) -> Future[Any]:
        done = super().submit(fn, *args, **kwargs)
        if fn is not work_out or self.late is not None:
            return done
        self.late = Future[Any](), done.result()
        return self.late[0]

    def end(self) -> None:
        """The first is done."""
        assert self.late is not None
        self.late[0].set_result(self.late[1])


@pytest.mark.slow
def test_a_plan_is_shown_as_soon_as_it_is_there_and_the_search_goes_the_same_way() -> None:
    brief, executor, shown = Brief(TUB, CATALOGUE), SecondSooner(), []
    in_turn = next(one for one in search(brief, crew=Crew(AtOnce(), 2)) if one.looked_at == 2)
    expected = [(plan.design, plan.score) for plan in in_turn.plans]
    for progress in search(brief, crew=Crew(executor, 2)):
        shown.append((progress.looked_at, [(plan.design, plan.score) for plan in progress.plans]))
        if progress.plans and not progress.looked_at:
            executor.end()
        if progress.looked_at == 2:
            break
    # The second alone, then both, from when the first is there.
    alone, *both = [plans for _, plans in shown if plans]
    assert len(expected) == 2
    assert len(alone) == 1
    assert alone[0] in expected
    assert both == [expected, expected]
