"""The twelve months as the box meets them: the room, the length of the day, and how much of each is a cool rest."""

from calendar import monthrange
from dataclasses import dataclass
from datetime import date, timedelta
from math import cos, pi

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design, RoomSeason
from mitten.core.design.daylight import ANY_YEAR, WINTER_SOLSTICE, daylight_hours
from mitten.core.design.year import monthly_rooms
from mitten.core.judge.conditions import Condition, humidities
from mitten.core.judge.resting import allowed_rest

DAYS_A_YEAR = 365
MIDDLE_DAY = 15
WHOLE_DAY_H = 24.0
NO_SEASONS_K = 0.5
"""Where winter and summer differ by less, how far the year has gone is told by the date."""


@dataclass(frozen=True)
class Month:
    """One month: its room in °C by day and night, that room's humidity (0-1), how far the year has gone from winter to
    summer (0-1), the hours of day, and the share of its days that belong to the cool rest.
    """

    number: int
    room_day_c: float
    room_night_c: float
    rh: float
    summer: float
    day_hours: float
    resting: float = 0.0

    @property
    def first_day(self) -> date:
        """Its first day."""
        return date(ANY_YEAR, self.number, 1)

    @property
    def days(self) -> int:
        """How many days it has."""
        return monthrange(ANY_YEAR, self.number)[1]

    def condition(self, day: bool) -> Condition:
        """Its day or its night, that stays as it is."""
        room_c = self.room_day_c if day else self.room_night_c
        return Condition(f"room={room_c:g},{'day' if day else 'night'}", room_c, day, self.rh, summer=self.summer)

    @property
    def alike(self) -> tuple[float, ...]:
        """What decides its figures: months of which this is the same are the same."""
        return (self.room_day_c, self.room_night_c, round(self.rh, 4), round(self.summer, 4), round(self.day_hours, 2),
                float(self.resting > 0))  # fmt: skip


def months_of(design: Design, catalogue: Catalogue) -> tuple[Month, ...]:
    """Twelve months, January first: the keeper's own, or what winter and summer make of them."""
    rooms = monthly_rooms(design.room)
    return tuple(_month(design, catalogue, number, room) for number, room in enumerate(rooms, start=1))


def _month(design: Design, catalogue: Catalogue, number: int, room: RoomSeason) -> Month:
    middle = date(ANY_YEAR, number, MIDDLE_DAY)
    summer = _summer_of(design, room, middle)
    winter_rh, summer_rh = humidities(design.room)
    rh = winter_rh + summer * (summer_rh - winter_rh) if room.rh is None else room.rh
    hours = round(day_hours_on(design, middle), 2)
    return Month(number, room.day_c, room.night_c, rh, summer, hours, _resting(design, catalogue, number))


def _summer_of(design: Design, room: RoomSeason, middle: date) -> float:
    """How far on to summer a month is: by its room, as thermostats are turned."""
    winter_c, summer_c = (season.day_c + season.night_c for season in (design.room.winter, design.room.summer))
    if abs(summer_c - winter_c) < 2 * NO_SEASONS_K:
        return summer_by_date(design, middle)
    return min(max((room.day_c + room.night_c - winter_c) / (summer_c - winter_c), 0.0), 1.0)


def summer_by_date(design: Design, day: date) -> float:
    """How far the sun has gone from winter (0) to summer (1); the other way round south of the equator."""
    since = (day.replace(year=ANY_YEAR) - WINTER_SOLSTICE).days
    share = (1 - cos(2 * pi * since / DAYS_A_YEAR)) / 2
    south = design.room.latitude is not None and design.room.latitude < 0
    return 1 - share if south else share


def day_hours_on(design: Design, day: date) -> float:
    """Hours of day on a date, as the schedule has them."""
    schedule, latitude = design.schedule, design.room.latitude
    if schedule is not None and schedule.day_length == "latitude" and latitude is not None:
        return daylight_hours(latitude, day)
    return design.day_hours_in(summer_by_date(design, day))


def _resting(design: Design, catalogue: Catalogue, number: int) -> float:
    cooling = allowed_rest(design, catalogue)
    if cooling is None:
        return 0.0
    first, days = date(ANY_YEAR, number, 1), monthrange(ANY_YEAR, number)[1]
    return sum(cooling.share_on(first + timedelta(days=after)) for after in range(days)) / days
