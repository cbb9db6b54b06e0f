"""Day length by latitude, against almanac values, and the schedule through the year."""

from datetime import date

import pytest

from mitten.core.design import BadDesignError, Design
from mitten.core.design.daylight import ANY_YEAR, daylight_hours, seasonal_daylight_hours
from mitten.core.design.schedule import Cooling
from tests.designs import Data, box_data, read

JUNE, DECEMBER, MARCH = date(ANY_YEAR, 6, 21), date(ANY_YEAR, 12, 21), date(ANY_YEAR, 3, 20)


@pytest.mark.parametrize(
    ("latitude", "day", "hours"),
    [(0.0, JUNE, 12.12), (0.0, DECEMBER, 12.12), (50.0, JUNE, 16.37), (50.0, DECEMBER, 8.07), (60.0, JUNE, 18.87),
     (35.0, MARCH, 12.15), (-35.0, DECEMBER, 14.52), (-35.0, JUNE, 9.80)],
)  # fmt: skip
def test_days_are_as_long_as_the_almanac_has_them(latitude: float, day: date, hours: float) -> None:
    """Rounded values of common day-length tables, upper limb and refraction in them."""
    assert daylight_hours(latitude, day) == pytest.approx(hours, abs=0.06)


def test_beyond_the_polar_circles_the_sun_stays_up_or_down() -> None:
    assert daylight_hours(78.0, JUNE) == 24.0
    assert daylight_hours(78.0, DECEMBER) == 0.0
    assert seasonal_daylight_hours(-50.0) == pytest.approx(seasonal_daylight_hours(50.0), abs=0.1)


def scheduled(**changes: object) -> Design:
    return read({**box_data(), "schedule": {"day_start": "08:00", "day_hours": 12.0, **changes}})


def test_the_day_of_a_season_follows_the_schedule() -> None:
    fixed, turned = scheduled(), scheduled(day_length="seasons", winter_hours=9, summer_hours=15)
    assert [fixed.day_hours_in(share) for share in (0.0, 1.0)] == [12.0, 12.0]
    assert [turned.day_hours_in(share) for share in (0.0, 0.5, 1.0)] == [9.0, 12.0, 15.0]


def test_the_day_outdoors_is_followed_where_the_latitude_is_known() -> None:
    data: Data = {**box_data(), "schedule": {"day_length": "latitude"}}
    data["room"]["latitude"] = 50.0
    assert read(data).day_hours_in(0.0) == pytest.approx(8.07, abs=0.06)
    del data["room"]["latitude"]
    with pytest.raises(BadDesignError, match="need the room's latitude"):
        read(data)


@pytest.mark.parametrize(
    ("schedule", "words"),
    [
        ({"day_length": "seasons"}, "needs the hours of the shortest and the longest day"),
        ({"day_hours": -2}, "must be at least 0"),
        ({"day_hours": 14, "after_dark_h": {"Lamp": 11}}, "the night has only 10 h"),
        ({"cooling": {"starts": "02-30", "weeks": 4, "day_c": 15, "night_c": 10}}, "there is no day 02-30"),
        ({"cooling": {"starts": "11-15", "weeks": 30, "day_c": 15, "night_c": 10, "ramp_weeks": 8}}, None),
        ({"cooling": {"starts": "11-15", "weeks": 4, "day_c": 10, "night_c": 15}}, "nights of the cooling are warmer"),
        ({"cooling": {"starts": "15-11", "weeks": 4, "day_c": 15, "night_c": 10}}, "month-day, such as 11-15"),
    ],
)
def test_a_year_that_cannot_be_is_refused(schedule: Data, words: str | None) -> None:
    data = {**box_data(), "schedule": schedule}
    if words is None:
        assert read(data).schedule is not None
        return
    with pytest.raises(BadDesignError, match=words):
        read(data)


def test_the_cool_rest_goes_down_stays_and_comes_up() -> None:
    rest = Cooling(starts="12-01", weeks=4, day_c=15, night_c=10, ramp_weeks=2)
    shares = [rest.share_on(day) for day in (date(ANY_YEAR, 11, 30), date(ANY_YEAR, 12, 1), date(ANY_YEAR, 12, 14),
              date(ANY_YEAR, 12, 15), date(ANY_YEAR, 1, 11), date(ANY_YEAR, 1, 12), date(ANY_YEAR, 1, 25),
              date(ANY_YEAR, 1, 26))]  # fmt: skip
    assert shares == pytest.approx([0.0, 0.5 / 14, 13.5 / 14, 1.0, 1.0, 13.5 / 14, 0.5 / 14, 0.0], abs=1e-9)
    assert [share for _, share in rest.stages] == pytest.approx([1 / 3, 2 / 3, 1.0, 2 / 3, 1 / 3, 0.0])
    assert [day.isoformat()[5:] for day, _ in rest.stages] == ["12-01", "12-08", "12-15", "01-12", "01-19", "01-26"]
