"""How long it is light outdoors."""

from datetime import date

from astral import Observer
from astral.sun import daylight, elevation, noon

ANY_YEAR = 2027
"""No leap year; day lengths differ by a minute from one year to the next."""

WINTER_SOLSTICE, SUMMER_SOLSTICE = date(ANY_YEAR, 12, 21), date(ANY_YEAR, 6, 21)
WHOLE_DAY_H = 24.0


def daylight_hours(latitude: float, day: date) -> float:
    """Hours from sunrise to sunset at a latitude in degrees north; 0 or 24 where the sun does not rise, or set.

    Source: the solar position of astral, after the almanac's algorithms.
    """
    place = Observer(latitude, 0.0)
    try:
        rises, sets = daylight(place, day)
    except ValueError:
        return WHOLE_DAY_H if elevation(place, noon(place, day)) > 0 else 0.0
    return (sets - rises).total_seconds() / 3600


def seasonal_daylight_hours(latitude: float) -> tuple[float, float]:
    """The shortest and the longest day of the year."""
    lengths = sorted(daylight_hours(latitude, day) for day in (WINTER_SOLSTICE, SUMMER_SOLSTICE))
    return lengths[0], lengths[1]
