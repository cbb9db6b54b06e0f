"""What must hold for any realistic design through time: a day, what fails, what helps, a year, a front; each breach is one
line.
"""

from collections.abc import Iterator
from functools import partial

import numpy as np

from mitten.core.design import Design, MittenError
from mitten.core.judge import assess, read_condition
from mitten.core.judge.days import SEASONS, failures_of, of_season
from mitten.core.judge.outlooks import Outlook, outlook
from mitten.core.judge.settling import changes_to_settle, settling_minutes
from mitten.core.judge.shuttling import animal_day
from mitten.core.physics.balance.energy import energy_of
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.transient.regulation import Clock
from mitten.core.plan.comparing_probes import ProbeTrials
from mitten.core.plan.failsafe import HELPS, cut_out, in_a_cut, survivable
from mitten.core.plan.front import front
from mitten.core.plan.year import figures_of, months_of
from tests.catalogue import CATALOGUE

ENERGY_SHARE = 0.005
ENERGY_DUST_J = 0.03 * 86_400
"""Over a day so much may be missing where next to nothing is fed: coefficients of half a kelvin ago serve a while."""

BEYOND_K = 1.0
"""So much may a day go beyond what room, start and full power span: what dries, and what coefficients lag by."""

LEAST_C, MOST_C = -15.0, 400.0
COLD = ("stuck-off", "dead", "power-cut", "room-heating")
GOES_MIN = 720.0

Faults = Iterator[str]


def faults_in_time_of(design: Design, seasons: tuple[str, ...] = SEASONS) -> Faults:
    """Every breach of one design, its days and what fails gone through in so many seasons."""
    in_seasons = [partial(look, seasons=seasons) for look in (_days, _failures)]
    looks: list[partial[Faults]] = [*in_seasons, *map(partial, (_answers, _cut, _probe_places, _year, _front))]
    for look in looks:
        name = look.func.__name__.strip("_")
        try:
            yield from (f"{name}: {fault}" for fault in look(design))
        except MittenError as error:
            yield f"unsettled: {name}: {error}"


def _days(design: Design, seasons: tuple[str, ...]) -> Faults:
    for season in seasons:
        through = of_season(design, CATALOGUE, season)
        day = through.moving.repeating_day(through.happening)
        yield from (f"{season}: {fault}" for fault in (*_numbers(day), *_thermostats(day)))
        if season == seasons[0]:
            yield from _balance(day)
        ends_k = float(np.abs(day.trace.places[-1][day.box.place.air] - day.trace.places[0][day.box.place.air]).max())
        if ends_k > BEYOND_K:
            yield f"{season}: the day ends {ends_k:.1f} K from where it began"
        if design.basking_site:
            yield from _animal(day, through.happening.clock, season)
    for kind in changes_to_settle(design):
        minutes = settling_minutes(design, CATALOGUE, read_condition(design, "winter-day"), kind)
        if minutes is not None and not 0 <= minutes <= 36 * 60:
            yield f"settles after {minutes} minutes of {kind}"


def _numbers(course: Course) -> Faults:
    if not np.isfinite(course.trace.places).all():
        yield "numbers that are none"
    coldest, hottest = float(course.surface_c.min()), float(course.surface_c.max())
    if not LEAST_C < coldest <= hottest < MOST_C:
        yield f"surfaces of {coldest:.0f} to {hottest:.0f} °C"
    if not ((course.rh_mean >= 0) & (course.rh_mean <= 1.0 + 1e-6)).all():
        yield f"humidity of {course.rh_mean.min():.2f} to {course.rh_mean.max():.2f}"


def _balance(day: Course) -> Faults:
    """Over a whole day what is stored is what came in less what went out."""
    rows = range(len(day.minutes))
    out_w = np.array([energy_of(day.state_at(row)).out_w for row in rows])
    out_j, in_j = float(np.trapezoid(out_w, day.minutes * 60.0)), float(day.trace.fed_j.sum())
    left_j = in_j - out_j - float(day.stored_j[-1])
    if abs(left_j) > max(ENERGY_SHARE * in_j, ENERGY_DUST_J):
        yield f"energy: {left_j:.0f} J of {in_j:.0f} J are missing"


def _thermostats(day: Course) -> Faults:
    if ((day.trace.duties < -1e-9) | (day.trace.duties > 1 + 1e-9)).any():
        yield "a thermostat gives less than nothing or more than all"
    full_w = np.array([channel.full_w for channel in day.box.channels])
    if (day.trace.fed_w > full_w * (1 + 1e-6) + 1e-6).any():
        yield "a source is fed more than it takes"


def _animal(day: Course, clock: Clock, season: str) -> Faults:
    animal = animal_day(day, clock)
    if not np.isfinite(animal.body_c).all() or not LEAST_C < animal.body_c.min() <= animal.body_c.max() < 80:
        yield f"{season}: a body of {animal.body_c.min():.0f} to {animal.body_c.max():.0f} °C"
    if not 0 <= animal.basking_share <= 1:
        yield f"{season}: basks {animal.basking_share:.2f} of its hours"


def _failures(design: Design, seasons: tuple[str, ...]) -> Faults:
    for season in seasons:
        through = of_season(design, CATALOGUE, season)
        day = through.moving.repeating_day(through.happening)
        for failure in failures_of(design, season):
            found = outlook(design, CATALOGUE, season, failure.text)
            yield from (f"{season}, {failure.text}: {fault}" for fault in _failure(found, day))


def _failure(found: Outlook, day: Course) -> Faults:
    if not LEAST_C < found.coldest_c <= MOST_C or not LEAST_C < found.hottest_c < MOST_C:
        yield f"from {found.coldest_c:.0f} to {found.hottest_c:.0f} °C"
    for what, minutes in found.minutes_to_danger:
        if minutes is not None and not 0 <= minutes <= GOES_MIN:
            yield f"{what} in danger after {minutes} minutes"
    # What is dangerous anyway is shown at the hour at which that is soonest.
    is_harmless = all(minutes is None for _, minutes in found.minutes_to_danger)
    if is_harmless and found.failure.kind in COLD and found.coldest_c > float(day.warm_c.min()) + BEYOND_K:
        yield f"its warm end stays at {found.coldest_c:.1f}, the day's falls to {day.warm_c.min():.1f} °C"
    hottest_c = max(float(day.floor_max_c.max()), float(day.base_max_c.max()), *_sites_c(day))
    if found.failure.kind in COLD and found.hottest_c > hottest_c + BEYOND_K:
        yield f"{found.hottest_where} gets {found.hottest_c:.1f}, the day's hottest is {hottest_c:.1f} °C"


def _sites_c(day: Course) -> list[float]:
    return [float(day.site_c(site.name).max()) for site in day.design.sites]


def _answers(design: Design) -> Faults:
    for control in (one for one in design.controls if one.is_thermostat):
        most = survivable(design, CATALOGUE, control.name)
        if most is not None:
            dangers = [after for watts, after in most.tried if most.largest_w is not None and watts <= most.largest_w]
            if any(after is not None for after in dangers):
                yield f"'{control.name}': {most.largest_w:g} W is said to be survivable: {most.tried}"
        held = cut_out(design, CATALOGUE, control.name)
        if held is not None and held.with_it.hottest_c > held.without.hottest_c + BEYOND_K:
            hotter = f"{held.without.hottest_c:.1f} to {held.with_it.hottest_c:.1f}"
            yield f"'{control.name}': a cut-out makes it hotter, {hotter} °C"


def _cut(design: Design) -> Faults:
    helps = {key: in_a_cut(design, CATALOGUE, key) for key in HELPS}
    nothing = helps[""]
    for key, found in helps.items():
        if found.coldest_c < nothing.coldest_c - 0.2:
            yield f"'{key}' makes it colder: {found.coldest_c:.1f} for {nothing.coldest_c:.1f} °C"
        if found.hours is not None and (nothing.hours is None or found.hours < nothing.hours - 0.1):
            yield f"'{key}' makes it colder sooner: {found.hours} for {nothing.hours} h"


def _probe_places(design: Design) -> Faults:
    assessment = assess(design, CATALOGUE)
    for control in (one for one in design.controls if one.is_thermostat):
        trials = ProbeTrials(assessment, control)
        for trial in trials.all():
            if trial.setpoint_c is None:
                continue
            figures = (trial.setpoint_c, trial.from_c, trial.to_c, trial.swing_k, trial.fallen_c, trial.out_c)
            if not all(LEAST_C < one < MOST_C for one in figures) or trial.swing_k < 0 or trial.switchings < 0:
                yield f"'{control.name}' at {trial.place.key}: {figures}"


def _year(design: Design) -> Faults:
    for month in months_of(design, CATALOGUE)[::3]:
        found = figures_of(design, CATALOGUE, month)
        most_kwh = 0.024 * sum(one.watts for one in design.heaters) + 0.024 * 150
        if not 0 <= found.kwh_day <= most_kwh:
            yield f"month {month.number}: {found.kwh_day:.2f} kWh a day, of at most {most_kwh:.2f}"
        if found.unheated_night_c > found.night_c + BEYOND_K:
            yield f"month {month.number}: its night is {found.night_c:.1f}, without heat {found.unheated_night_c:.1f} °C"


def _front(design: Design) -> Faults:
    for season, tomorrow_c in (("winter", (10.0, 7.0, 12.0, 9.0)), ("summer", (24.0, 22.0, 33.0, 30.0))):
        found = front(design, CATALOGUE, season, tomorrow_c)
        if not LEAST_C < found.coldest_c <= found.warmest_c < MOST_C:
            yield f"{season}: from {found.coldest_c:.1f} to {found.warmest_c:.1f} °C"
        if found.worst and found.change and found.left and found.left.beyond_k > found.worst.beyond_k + 0.05:
            yield f"{season}: {found.change} leaves {found.left.beyond_k:.1f} K of {found.worst.beyond_k:.1f}"
