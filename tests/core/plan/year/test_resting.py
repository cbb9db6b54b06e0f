"""The cool rest's settings against the box that is set to them."""

from dataclasses import replace

import pytest

from mitten.core.design import Cooling, Design
from mitten.core.judge.conditions import solve_condition
from mitten.core.plan.year import months_of
from mitten.core.plan.year.resting import _left_on, off, rest_of
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, lamp, read

PROBE = {"x_m": 0.95, "y_m": 0.3, "z_m": 0.3}
WARM: Data = {"name": "Warm", "kind": "pulse", "day_c": 32.0, "night_c": 26.0, "probe": PROBE}


def box(*controls: Data) -> Design:
    """A lamp of the day that nothing holds, and an emitter for each control, in a room of 18 and 14 °C."""
    emitter = lamp(name="Emitter", kind="ceramic-emitter", watts=100.0, on="always")
    held = [
        {**emitter, "name": f"Emitter {n}", "control": one["name"], "x_m": 0.95 - 0.3 * n}
        for n, one in enumerate(controls)
    ]
    data = {**box_data(), "heaters": [lamp(x_m=0.3), *held], "controls": list(controls)}
    season = {"day_c": 18.0, "night_c": 14.0}
    return read({**data, "room": {"winter": season, "summer": season}})


@pytest.mark.slow
def test_what_a_rest_is_set_to_brings_the_warm_end_there_with_all_else_off() -> None:
    design, wanted = box(WARM), Cooling(starts="11-15", weeks=8, day_c=24.0, night_c=20.0, ramp_weeks=0)
    month = months_of(design, CATALOGUE)[0]
    rest = rest_of(design, CATALOGUE, month, wanted)
    assert rest.control == "Warm"
    assert (rest.without_day_c, rest.without_night_c) == pytest.approx((18.0, 14.0), abs=0.3)
    assert rest.day_c is not None
    assert rest.night_c is not None
    held = {**WARM, "day_c": rest.day_c, "night_c": rest.night_c}
    for day, wanted_c in ((True, 24.0), (False, 20.0)):
        condition = replace(month.condition(day), dead=tuple(off(design) - {"Emitter 0"}))
        assert solve_condition(box(held), CATALOGUE, condition).air.warm_c == pytest.approx(wanted_c, abs=0.5)


@pytest.mark.slow
@pytest.mark.parametrize(("day_c", "is_off"), [(17.0, True), (18.3, True), (19.5, False)])
def test_a_box_that_comes_near_to_its_rest_by_itself_is_left_off(day_c: float, is_off: bool) -> None:
    wanted = Cooling(starts="11-15", weeks=8, day_c=day_c, night_c=10.0, ramp_weeks=0)
    design = box(WARM)
    rest = rest_of(design, CATALOGUE, months_of(design, CATALOGUE)[0], wanted)
    assert (rest.day_c is None) is is_off
    assert rest.night_c is None


def test_what_is_left_on_works_by_night_too() -> None:
    by_day = {**WARM, "name": "Day", "night_c": None}
    for controls, left in (((by_day, WARM), "Warm"), ((WARM, by_day), "Warm"), ((by_day,), "Day")):
        found = _left_on(box(*controls))
        assert found is not None
        assert found.name == left
    assert _left_on(read(box_data())) is None
