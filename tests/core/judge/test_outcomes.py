"""What comes of a failure, against what is reckoned beside it."""

from dataclasses import replace

import numpy as np
import pytest

from mitten.core.judge import read_condition
from mitten.core.judge.days import Failure, of_condition, of_season, run
from mitten.core.judge.exposed import Exposed
from mitten.core.judge.outcomes import Outcome, outcome_of
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
@pytest.mark.parametrize("kind", ["on-off", "dimming"])
def test_a_body_is_followed_each_minute_through_on_and_off(kind: str) -> None:
    """Against a plain integration over whole states of every minute, of a lamp that a thermostat switches or dims."""
    data = ledge_data()
    data["controls"] = [{
        "name": "Thermostat", "kind": kind, "day_c": 23.0, "night_c": None, "band_k": 1.0, "max_watts": 300,
        "probe": {"x_m": 0.8, "y_m": 0.3, "z_m": 0.1, "reads": "air", "shaded": True},
    }]  # fmt: skip
    data["heaters"][0]["control"] = "Thermostat"
    through = of_condition(read(data), CATALOGUE, read_condition(read(data), "winter-day"))
    course = run(through, 2.0, from_room=True)
    exposed, rows = Exposed(course), range(len(course.minutes))
    spots = [course.climate_at(row).basking for row in rows]
    ends_c = np.array([one.operative_c for one in spots])
    np.testing.assert_allclose(exposed.staying.operative_c, ends_c, atol=0.25)
    animal = course.design.animal
    body = body_of(CATALOGUE.species[animal.species], animal.stage)
    plain_c = [ends_c[0]]
    for row in rows[1:]:
        share = 1.0 - np.exp(-60.0 / time_constant_s(body, spots[row].place))
        plain_c.append(plain_c[-1] + share * (ends_c[row] - plain_c[-1]))
    np.testing.assert_allclose(exposed.body_c, plain_c, atol=0.15)
    if kind == "on-off":
        assert np.ptp(ends_c[-60:]) > 2.0, "what it comes to goes up and down with the lamp"
        assert np.ptp(exposed.body_c[-60:]) < np.ptp(ends_c[-60:])


def with_dangers(outcome: Outcome, **celsius: float) -> Outcome:
    """The same, of an animal that is harmed by other temperatures."""
    other = replace(outcome)
    vars(other.exposed)["targets"] = outcome.targets.model_copy(update=celsius)
    return other


@pytest.mark.slow
def test_air_is_a_danger_once_the_cool_end_has_it_too_and_touch_as_soon_as_anything_has_it(warming: Outcome) -> None:
    course = warming.course
    hottest_c = np.max(list(warming.exposed.surfaces_c.values()), axis=0)
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
