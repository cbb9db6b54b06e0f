"""The year: what the room does in every month, what the box then needs, and what is to be changed on which day."""

from mitten.core.plan.year.changes import CalendarChange, changes_of
from mitten.core.plan.year.lamps import LampYear, basking_lamps, lamp_year
from mitten.core.plan.year.monthly import MonthFigures, figures_of
from mitten.core.plan.year.months import Month, months_of

__all__ = [
    "CalendarChange",
    "LampYear",
    "Month",
    "MonthFigures",
    "basking_lamps",
    "changes_of",
    "figures_of",
    "lamp_year",
    "months_of",
]
