"""When it is day in the enclosure, through the year, and the cooling before breeding."""

from datetime import date, timedelta
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from mitten.core.design.base import Name, Noun
from mitten.core.design.daylight import ANY_YEAR

USUAL_DAY_HOURS = 12.0
WEEKS_A_YEAR = 52
MONTH_DAY = r"^(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$"
CLOCK_TIME = r"^([01]\d|2[0-3]):[0-5]\d$"
Hours = Annotated[float, Field(ge=0.0, le=24.0)]
RestC = Annotated[float, Field(ge=0.0, le=40.0)]


class Cooling(Noun):
    """A cool rest before breeding: on ``starts`` (month-day) the heat begins to go down over ``ramp_weeks``, stays for
    ``weeks`` at ``day_c`` and ``night_c`` of the warm end's air, and comes up again over ``ramp_weeks``.
    """

    starts: Annotated[str, Field(pattern=MONTH_DAY)]
    weeks: Annotated[int, Field(ge=1, le=30)]
    day_c: RestC
    night_c: RestC
    ramp_weeks: Annotated[int, Field(ge=0, le=8)] = 2

    @property
    def first_day(self) -> date:
        """Its first day, in any year that is no leap year."""
        month, day = (int(part) for part in self.starts.split("-"))
        return date(ANY_YEAR, month, day)

    def share_on(self, day: date) -> float:
        """How far a day is on the way to the cool rest: 0 outside it, 1 within."""
        since = (day.replace(year=ANY_YEAR) - self.first_day).days % 365
        ramp, rest = 7 * self.ramp_weeks, 7 * self.weeks
        if since < ramp:
            return (since + 0.5) / ramp
        if since < ramp + rest:
            return 1.0
        return max(1.0 - (since - ramp - rest + 0.5) / ramp, 0.0) if ramp else 0.0

    @property
    def stages(self) -> tuple[tuple[date, float], ...]:
        """The days on which something is to be changed, each with the share of the way that it then has gone."""
        steps = self.ramp_weeks + 1
        down = [(timedelta(weeks=step), (step + 1) / steps) for step in range(steps)]
        up = [(timedelta(weeks=self.ramp_weeks + self.weeks + step), 1 - (step + 1) / steps) for step in range(steps)]
        return tuple((self.first_day + after, share) for after, share in (*down, *up))

    @model_validator(mode="after")
    def _whole(self) -> Self:
        try:
            self.first_day  # noqa: B018, it raises
        except ValueError:
            raise ValueError(f"there is no day {self.starts}; write month-day, such as 11-15.") from None
        if self.weeks + 2 * self.ramp_weeks >= WEEKS_A_YEAR:
            raise ValueError("the cooling lasts longer than a year and overlaps itself.")
        if self.night_c > self.day_c:
            raise ValueError("the nights of the cooling are warmer than its days.")
        return self


class Schedule(Noun):
    """The lamps' day: when it begins, how long it is, how long lamps take to come up, and what runs on after dark.

    ``after_dark_h`` gives hours by the names of the sources that run on. ``day_length`` says how the day changes
    through the year: not at all, from ``winter_hours`` to ``summer_hours``, or as outdoors at the room's latitude.
    """

    day_start: Annotated[str, Field(pattern=CLOCK_TIME)] = "08:00"
    day_hours: Hours = USUAL_DAY_HOURS
    ramp_min: Annotated[float, Field(ge=0.0, le=240.0)] = 0.0
    after_dark_h: dict[Name, Hours] = Field(default_factory=dict)
    day_length: Literal["fixed", "seasons", "latitude"] = "fixed"
    winter_hours: Hours | None = None
    summer_hours: Hours | None = None
    cooling: Cooling | None = None

    def __hash__(self) -> int:
        """By all of its values: a design is a key of what was computed from it."""
        return hash((self.day_start, self.day_hours, self.ramp_min, tuple(sorted(self.after_dark_h.items())),
                     self.day_length, self.winter_hours, self.summer_hours, self.cooling))  # fmt: skip

    @property
    def middle_h(self) -> float:
        """The middle of the lamps' day, in hours from midnight; it stays where it is as days grow longer."""
        hours, _, minutes = self.day_start.partition(":")
        return int(hours) + int(minutes) / 60.0 + self.day_hours / 2

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.day_length == "seasons" and (self.winter_hours is None or self.summer_hours is None):
            raise ValueError("a day that changes with the seasons needs the hours of the shortest and the longest day.")
        for name, hours in self.after_dark_h.items():
            if hours > 24.0 - self.day_hours:
                night = 24.0 - self.day_hours
                raise ValueError(f"'{name}' runs on for {hours:g} h after dark, but the night has only {night:g} h.")
        return self
