"""What the keeper changes on which day of the year."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from itertools import pairwise

from mitten.core.catalogue import Catalogue
from mitten.core.design import Cooling, Design
from mitten.core.design.amounts import celsius
from mitten.core.design.daylight import ANY_YEAR
from mitten.core.judge.resting import CAUTIONS, allowed_rest
from mitten.core.plan.setpoints import HALF_DEGREES
from mitten.core.plan.year.lamps import LampYear
from mitten.core.plan.year.monthly import MonthFigures

TOO_WARM_K = 1.0
LEAST_CHANGE_K = 1.0
"""Nobody turns a thermostat by less."""

SEASONAL = ("setpoint", "night-heat", "lamp")
"""Changes that a cool rest stands in the place of."""

TIMER_STEP_MIN = 15
"""Timers are moved when the day has changed by so much: nobody does it for less."""


@dataclass(frozen=True)
class CalendarChange:
    """One thing to do on a day of every year: what kind of thing, and its words."""

    day: date
    kind: str
    words: str
    why: str = ""


def changes_of(
    design: Design, catalogue: Catalogue, months: Sequence[MonthFigures], lamps: LampYear | None
) -> list[CalendarChange]:
    """Every change of the year, January first.

    ``months`` are all twelve in their order.
    """
    found = [*_timers(months), *_setpoints(design, months), *_night_heat(design, months)]
    found += _ultraviolet(design)
    if lamps is not None and not _is_regulated(design, catalogue, lamps):
        found += _lamps(catalogue, months, lamps)
    cooling = allowed_rest(design, catalogue)
    if cooling is not None:
        found = list(_after_the_rest(found, cooling))
        found += _cooling(design, cooling, months)
    return sorted(found, key=lambda one: (one.day.month, one.day.day))


def _after_the_rest(found: Sequence[CalendarChange], cooling: Cooling) -> Iterator[CalendarChange]:
    """Changes as they are; of those that fall into the cool rest the last of each kind, on the day on which it ends."""
    ends = cooling.stages[-1][0].replace(year=ANY_YEAR)
    waiting = dict[tuple[str, str], CalendarChange]()
    # From the rest's first day on: what comes later in it counts.
    for one in sorted(found, key=lambda one: (one.day - cooling.first_day).days % 365):
        if one.kind not in SEASONAL or cooling.share_on(one.day) == 0:
            yield one
        else:
            waiting[one.kind, one.words.partition("' to ")[0] if one.kind == "setpoint" else ""] = replace(
                one, day=ends
            )
    yield from waiting.values()


def _steps(months: Sequence[MonthFigures]) -> Iterator[tuple[MonthFigures, MonthFigures]]:
    """Each month with the one before it; December before January."""
    yield from pairwise((months[-1], *months))


def timer_min(minute: float) -> int:
    """A minute of the day as a timer is set."""
    return round(minute / TIMER_STEP_MIN) * TIMER_STEP_MIN % (24 * 60)


def _clock(minute: int) -> str:
    return f"{minute // 60:02d}:{minute % 60:02d}"


def _timers(months: Sequence[MonthFigures]) -> Iterator[CalendarChange]:
    for before, after in _steps(months):
        was, now = ((timer_min(one.lights_on_min), timer_min(one.lights_off_min)) for one in (before, after))
        if was != now:
            hours = (now[1] - now[0]) % (24 * 60) / 60
            yield CalendarChange(after.month.first_day, "timer", f"Set the timer: on at {_clock(now[0])}, off at "
                         f"{_clock(now[1])}", f"{hours:g} hours of day this month.")  # fmt: skip


def _half_degrees(celsius_: float | None) -> float | None:
    return None if celsius_ is None else round(celsius_ * HALF_DEGREES) / HALF_DEGREES


def _setpoints(design: Design, months: Sequence[MonthFigures]) -> Iterator[CalendarChange]:
    """Thermostats whose summer differs from their winter are turned step by step, as far as that is worth a turn."""
    for number, control in enumerate(one for one in design.controls if one.is_thermostat):
        held = tuple(map(_half_degrees, months[-1].setpoints_c[number][1:]))
        for month in months:
            now = tuple(map(_half_degrees, month.setpoints_c[number][1:]))
            if all(_is_nearly(one, other) for one, other in zip(held, now, strict=True)):
                continue
            times, held = zip(("day", "night"), now, strict=True), now
            said = " and ".join(f"{celsius(at_c)} by {time}" for time, at_c in times if at_c is not None)
            yield CalendarChange(month.month.first_day, "setpoint", f"Set '{control.name}' to {said}")


def _is_nearly(one: float | None, other: float | None) -> bool:
    return one is other if one is None or other is None else abs(one - other) < LEAST_CHANGE_K


def _night_heat(design: Design, months: Sequence[MonthFigures]) -> Iterator[CalendarChange]:
    """Night heat is there to be used, or missing, from the first month that needs it to the last."""
    heats = any(heater.on in ("night", "always") for heater in design.heaters)
    for before, after in _steps(months):
        if before.night_heat == after.night_heat:
            continue
        if after.night_heat:
            without = f"Without it the night falls to {celsius(after.unheated_night_c, 1)}; it bears "
            why = without + f"{celsius(after.borne_night_c)}."
            words = "Night heat is needed from now on" + ("" if heats else ": this box has none")
            yield CalendarChange(after.month.first_day, "night-heat", words, why)
        else:
            why = f"The night stays at {celsius(after.unheated_night_c, 1)} without it."
            yield CalendarChange(after.month.first_day, "night-heat", "No night heat is needed from now on", why)


def _ultraviolet(design: Design) -> Iterator[CalendarChange]:
    """A UV lamp is seen to on the day it was put in: how fast it fades differs too much to go by the date alone."""
    for lamp in design.uvb:
        if lamp.installed is not None:
            day = lamp.installed.replace(year=ANY_YEAR, day=min(lamp.installed.day, 28))
            older = f"'{lamp.name}' is a year older: measure its UV index"
            words = f"{older}, and replace it if that is below what is wanted"
            yield CalendarChange(day, "uv-lamp", words)


def _is_regulated(design: Design, catalogue: Catalogue, lamps: LampYear) -> bool:
    """Whether a thermostat turns the lamps down by itself."""
    of_kind = [one for one in design.heaters if one.kind == lamps.kind and one.watts == lamps.now_w]
    held = [control for one in of_kind if (control := design.control_of(one)) is not None]
    return any(control.is_thermostat for control in held)


def _lamps(catalogue: Catalogue, months: Sequence[MonthFigures], lamps: LampYear) -> Iterator[CalendarChange]:
    """Another lamp, or another mark of the hand dimmer, where no thermostat sees to it and no lamp does for all."""
    if lamps.for_all_w is not None:
        return
    label = catalogue.sources[lamps.kind].label
    for number, power_w in lamps.spans:
        words = (
            f"No {label} that is sold keeps the basking place to what is borne from now on: leave it off on warm days, "
            "and keep the room cooler"
            if power_w is None
            else f"Change to a {power_w:g} W {label}"
        )
        yield CalendarChange(months[number - 1].month.first_day, "lamp", words)


def _cooling(design: Design, cooling: Cooling, months: Sequence[MonthFigures]) -> Iterator[CalendarChange]:
    """Down step by step, the rest, and up again."""
    for number, (day, share) in enumerate(cooling.stages):
        figures = months[day.month - 1]
        why = _too_warm(cooling, figures) if number == cooling.ramp_weeks else ""
        yield CalendarChange(day, "cooling", _stage_words(design, cooling, figures, share, number), why)


def _too_warm(cooling: Cooling, figures: MonthFigures) -> str:
    """What to say where the room alone is too warm for a rest."""
    rest = figures.rest
    if rest is None or max(rest.without_day_c - cooling.day_c, rest.without_night_c - cooling.night_c) < TOO_WARM_K:
        return ""
    alone = f"{celsius(rest.without_day_c, 1)} by day and {celsius(rest.without_night_c, 1)} by night"
    return f"Without any heat the warm end stays at {alone} here: such a rest needs a cooler room."


def _stage_words(design: Design, cooling: Cooling, figures: MonthFigures, share: float, number: int) -> str:
    deepest, setting = cooling.ramp_weeks, _rest_setting(design, figures, share)
    if number == deepest:
        to = f"the warm end to {celsius(cooling.day_c)} by day and {celsius(cooling.night_c)} by night"
        return f"Cool rest for {cooling.weeks} weeks, {to}: {setting}. {CAUTIONS}"
    if number < deepest:
        return f"Cooling, step {number + 1} of {deepest + 1}: {setting}"
    if share <= 0:
        return "The cool rest ends: set everything as this month's figures say"
    return f"Warming up, step {number - deepest} of {deepest + 1}: {setting}"


def _rest_setting(design: Design, figures: MonthFigures, share: float) -> str:
    """What is set on the way: a thermostat between its usual setting and that of the rest, or hours of heat."""
    rest = figures.rest
    if rest is None or not rest.control:
        hours = round((1 - share) * figures.month.day_hours)
        return f"heat for {hours} hours a day, by the timer" if hours else "all heat off"
    usual = next((day_c, night_c) for name, day_c, night_c in figures.setpoints_c if name == rest.control)
    times = (
        _on_the_way("day", usual[0], rest.day_c, rest.without_day_c, share),
        _on_the_way("night", usual[1], rest.night_c, rest.without_night_c, share),
    )
    said = [words for words in times if words]
    if not said or all(words.startswith("off") for words in said):
        return f"switch '{rest.control}' off, and all other heat"
    return f"set '{rest.control}' to {' and '.join(said)}"


def _on_the_way(time: str, from_c: float | None, to_c: float | None, alone_c: float, share: float) -> str:
    """A setting at a share of the way to the rest's, which is none where the box comes there by itself."""
    if from_c is None and to_c is None:
        return ""
    if to_c is None and share >= 1:
        return f"off by {time}"
    end_c = alone_c if to_c is None else to_c
    at_c = end_c if from_c is None else from_c + share * (end_c - from_c)
    return f"{celsius(round(at_c * HALF_DEGREES) / HALF_DEGREES)} by {time}"
