"""The changes of a year as an iCalendar file (RFC 5545), so that a keeper's own calendar reminds of them."""

from collections.abc import Sequence
from datetime import UTC, date, datetime, timedelta
from hashlib import sha256

from icalendar import Alarm, Calendar, Event

from mitten.core.design.amounts import plain
from mitten.core.design.units import METRIC, Units
from mitten.core.plan.year import CalendarChange

PRODUCT = "-//Mitten//Changes of a year//EN"


def year_calendar(name: str, changes: Sequence[CalendarChange], today: date, units: Units = METRIC) -> bytes:
    """Every change as an event of a whole day that comes again each year, from ``today`` on; ``name`` is the
    enclosure's.
    """
    calendar = Calendar()
    calendar.add("prodid", PRODUCT)
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for change in changes:
        calendar.add_component(_event(name, change, today, units))
    return bytes(calendar.to_ical())


def _event(name: str, change: CalendarChange, today: date, units: Units) -> Event:
    event, first = Event(), next_day(change.day, today)
    words = plain(units.say(change.words))
    event.add("uid", f"{sha256(f'{name} {change.day} {change.kind} {words}'.encode()).hexdigest()[:24]}@mitten.invalid")
    event.add("dtstamp", datetime(today.year, today.month, today.day, tzinfo=UTC))
    event.add("dtstart", first)
    event.add("dtend", first + timedelta(days=1))
    event.add("summary", f"{name}: {words}")
    if change.why:
        event.add("description", plain(units.say(change.why)))
    event.add("rrule", {"freq": "yearly"})
    event.add("transp", "TRANSPARENT")
    event.add_component(_reminder(words))
    return event


def _reminder(words: str) -> Alarm:
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", words)
    alarm.add("trigger", timedelta(hours=9))
    return alarm


def next_day(day: date, today: date) -> date:
    """The next time that a day of the year comes, today included."""
    this_year = day.replace(year=today.year)
    return this_year if this_year >= today else day.replace(year=today.year + 1)
