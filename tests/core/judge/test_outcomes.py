"""What comes of a failure, against what is reckoned beside it."""

from dataclasses import replace

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from mitten.core.judge import read_condition
from mitten.core.judge.days import Failure, of_condition, of_season, run
from mitten.core.judge.outcomes import SAMPLED_MIN, Outcome, outcome_of
from mitten.core.physics.reading.body import body_of, time_constant_s
from tests.catalogue import CATALOGUE
from tests.designs import ledge_data, read


@pytest.fixture(scope="module")
def warming() -> Outcome:
    """Six hours of a lamp over a ledge, in a box that begins as cold as its room."""
    design = read(ledge_data())
    through = of_condition(design, CATALOGUE, read_condition(design, "room=20,day"))
    return Outcome(Failure("stuck-on"), 0.0, run(through, 6.0, from_room=True))


@pytest.mark.slow
def test_a_body_comes_to_its_place_as_a_lump_of_its_time_constant_does(warming: Outcome) -> None:
    course, animal = warming.course, warming.course.design.animal
    minutes = np.array([minute for minute in SAMPLED_MIN if minute <= 360])
    places = [course.climate_at(int(minute)).basking for minute in minutes]
    lag_min = time_constant_s(body_of(CATALOGUE.species[animal.species], animal.stage), places[0].place) / 60

    def drawn_to(minute: float, body_c: np.ndarray) -> np.ndarray:
        return (np.interp(minute, minutes, [one.operative_c for one in places]) - body_c) / lag_min

    lump = solve_ivp(drawn_to, (0, 360), [places[0].operative_c], t_eval=minutes[1:], rtol=1e-6)
    assert 5 < lag_min < 120
    np.testing.assert_allclose(warming.body_c[minutes[1:]], lump.y[0], atol=0.3)
    assert warming.body_c[30] < places[3].operative_c - 1, "it follows, and is behind"


def with_dangers(outcome: Outcome, **celsius: float) -> Outcome:
    """The same, of an animal that is harmed by other temperatures."""
    other = replace(outcome)
    vars(other)["targets"] = outcome.targets.model_copy(update=celsius)
    return other


@pytest.mark.slow
def test_air_is_a_danger_once_the_cool_end_has_it_too_and_touch_as_soon_as_anything_has_it(warming: Outcome) -> None:
    course = warming.course
    hottest_c = np.max(list(warming.surfaces_c.values()), axis=0)
    assert course.warm_c[60] > course.cool_c[60] + 1
    assert hottest_c[60] > course.cool_c[60] + 1
    found = with_dangers(
        warming, danger_air_c=float(course.cool_c[90]), danger_contact_c=float(hottest_c[60]), danger_body_c=99.0
    )
    assert found.minutes_to_danger == {"body": None, "contact": 60.0, "air": 90.0}
    assert found.first_danger_min == 60.0
    assert with_dangers(warming, danger_air_c=99.0, danger_contact_c=99.0, danger_body_c=99.0).first_danger_min is None


@pytest.mark.slow
@pytest.mark.parametrize(("failure", "hours", "begins"), [("heat-wave", 24.0, 0.0), ("power-cut", 12.0, 12.0)])
def test_what_fails_stays_so_for_half_a_day_and_a_heat_wave_is_lived_through(
    failure: str, hours: float, begins: float
) -> None:
    """A heat wave from lights-on, with its afternoon and the night after it; a cut as the lamps go off."""
    through = of_season(read(ledge_data()), CATALOGUE, "summer")
    clock = through.happening.clock
    found = outcome_of(through, through.moving.repeating_day(through.happening), Failure(failure))
    minutes = found.course.minutes
    assert minutes[-1] - minutes[0] == hours * 60
    assert (minutes[0] - clock.day_from_min) % 1440 == begins * 60
