"""When it is day in the enclosure."""

from typing import Annotated

from pydantic import Field

from mitten.core.design.base import Name, Noun

USUAL_DAY_HOURS = 12.0
HoursAfterDark = Annotated[float, Field(ge=0.0, le=24.0)]


class Schedule(Noun):
    """The lamps' day: when it begins, how long it is, how long lamps take to come up, and what runs on after dark.

    ``after_dark_h`` gives hours by the names of the sources that run on.
    """

    day_start: Annotated[str, Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")] = "08:00"
    day_hours: Annotated[float, Field(ge=0.0, le=24.0)] = USUAL_DAY_HOURS
    ramp_min: Annotated[float, Field(ge=0.0, le=240.0)] = 0.0
    after_dark_h: dict[Name, HoursAfterDark] = Field(default_factory=dict)

    def __hash__(self) -> int:
        """By all of its values: a design is a key of what was computed from it."""
        return hash((self.day_start, self.day_hours, self.ramp_min, tuple(sorted(self.after_dark_h.items()))))
