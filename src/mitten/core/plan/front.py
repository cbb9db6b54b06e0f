"""A cold or warm front: tomorrow's room, what it does to the box, the one change for tonight, and when to undo it."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from math import ceil, inf

import numpy as np
from numpy.typing import NDArray

from mitten.core.catalogue import Catalogue, Targets, targets_of
from mitten.core.design import Control, Design
from mitten.core.design.amounts import celsius
from mitten.core.judge import assess
from mitten.core.judge.days import RoomCurve, Through, of_season, temperatures_kept
from mitten.core.judge.exposed import exposed_in
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.transient.regulation import DAY_MIN, Thermostat
from mitten.core.plan.failsafe import done_about_cold, may_be_covered
from mitten.core.plan.offering import why_not_offered
from mitten.core.plan.setpoints import HALF_DEGREES

ENDS_MIN = 2 * DAY_MIN + 60.0
"""From this evening through the whole of tomorrow."""

SPARE_K = 0.5
ROOM_TRIES = 4
Flags = NDArray[np.bool_]
HOUR_MIN = 60.0


@dataclass(frozen=True)
class Worst:
    """The furthest that something gets beyond what is borne: what, its figure in °C, the end of what is borne, and the
    minute, counted from the midnight before this evening.
    """

    what: str
    celsius: float
    borne_c: float
    minute: float

    @property
    def is_cold(self) -> bool:
        """Whether it is too cold, and not too warm."""
        return self.celsius < self.borne_c

    @property
    def beyond_k(self) -> float:
        """How far beyond; positive for too cold as for too warm."""
        return abs(self.celsius - self.borne_c)


@dataclass(frozen=True)
class Front:
    """What a front does: the coldest of the night and the warmest of the day in °C without a change, what goes furthest
    beyond what is borne (None: nothing does), the one change for tonight in words, what is left beyond with it, and the
    minute from which it may be undone (None: not before the day after tomorrow).
    """

    coldest_c: float
    warmest_c: float
    worst: Worst | None
    change: str = ""
    left: Worst | None = None
    undo_min: float | None = None


def front(design: Design, catalogue: Catalogue, season: str, tomorrow_c: tuple[float, ...]) -> Front:
    """Go from this evening, as the lamps go off, through tomorrow, whose room is given at even times from midnight on.

    Raises:
        BadDesignError: there is no such season.
        UnsolvedError: the design finds no rest in it.
    """
    through = of_season(design, catalogue, season)
    day = through.moving.repeating_day(through.happening)
    clock = through.happening.clock
    begins_min = (clock.day_from_min + clock.day_min) % DAY_MIN
    start = day.trace.places[day.row_at(_in_day(day, begins_min))]
    coming = replace(through.happening, room_c=room_through(through.happening.room_c, tomorrow_c))
    through = replace(through, happening=coming)
    targets = targets_of(design.animal, catalogue.species[design.animal.species])
    course = through.moving.go(coming, start, round(ENDS_MIN - begins_min), begins_min)
    worst = worst_of(course, through, targets)
    ends = float(course.cool_c[_is_tomorrow(course)].min()), float(course.warm_c[_is_tomorrow(course)].max())
    if worst is None:
        return Front(*ends, None)
    undo_min = _undo_min(course, through, targets)
    change, left = _best(through, start, begins_min, worst, targets, undo_min)
    return Front(*ends, worst, change, left, undo_min)


def _in_day(day: Course, minute: float) -> float:
    """A minute of the clock as one of a trace of a day."""
    first = float(day.minutes[0])
    return first + (minute - first) % DAY_MIN


def room_through(usual: RoomCurve, tomorrow_c: tuple[float, ...]) -> RoomCurve:
    """The usual room until midnight and tomorrow's for a day, which ends where its last temperature leaves it; from
    there the days after go as far from the usual ones as it ended. Minutes count from the midnight before this evening.
    """
    places = np.linspace(0.0, DAY_MIN, len(tomorrow_c), endpoint=False)
    stays_k = tomorrow_c[-1] - usual(0.0)

    def at(minute: float) -> float:
        if minute < DAY_MIN:
            return usual(minute)
        if minute < 2 * DAY_MIN:
            return float(np.interp(minute - DAY_MIN, places, tomorrow_c))
        return usual(minute) + stays_k

    return at


def worst_of(course: Course, through: Through, targets: Targets) -> Worst | None:
    """What goes furthest beyond what is tolerated tomorrow, from midnight to midnight; None where nothing does."""
    found = [worst for worst in _each(course, through, targets) if worst is not None]
    return max(found, key=lambda one: one.beyond_k, default=None)


def _each(course: Course, through: Through, targets: Targets) -> Iterator[Worst | None]:
    """As Check judges a failure: cold where even the warm end is, hot where even the cool end is, and what harms."""
    by_day, by_night, all_day = (
        _is_settled_day(course, through),
        _is_settled_night(course, through),
        _is_tomorrow(course),
    )
    night_c = targets.bears("night_c")
    yield _beyond("The night's air", course.warm_c, by_night, (night_c[0], inf), course)
    yield _beyond("The night's air", course.cool_c, by_night, (-inf, night_c[1]), course)
    yield _beyond("The warm end", course.warm_c, by_day, (targets.bears("warm_air_c")[0], inf), course)
    yield _beyond("The cool end", course.cool_c, by_day, (-inf, targets.bears("cool_air_c")[1]), course)
    yield _beyond(
        "The body at the basking place", exposed_in(course).body_c, all_day, (-inf, targets.danger_body_c), course
    )


def _is_tomorrow(course: Course) -> Flags:
    return np.asarray((course.minutes >= DAY_MIN) & (course.minutes < 2 * DAY_MIN))


def _is_settled_night(course: Course, through: Through) -> Flags:
    """The dark hours without the first two, in which the day is still in the box."""
    clock = through.happening.clock
    since = (course.minutes - clock.day_from_min - clock.day_min) % DAY_MIN
    return np.asarray((since >= 2 * HOUR_MIN) & (since < DAY_MIN - clock.day_min)) & _is_tomorrow(course)


def _is_settled_day(course: Course, through: Through) -> Flags:
    """The lamps' day without its first hours, in which everything is still on its way."""
    clock = through.happening.clock
    since = (course.minutes - clock.day_from_min) % DAY_MIN
    return np.asarray((since >= min(4 * HOUR_MIN, clock.day_min / 2)) & (since < clock.day_min)) & _is_tomorrow(course)


def _beyond(what: str, values: Array, when: Flags, span: tuple[float, float], course: Course) -> Worst | None:
    if not when.any():
        return None
    rows = np.flatnonzero(when)
    low, high = rows[values[rows].argmin()], rows[values[rows].argmax()]
    too_cold_k, too_warm_k = span[0] - values[low], values[high] - span[1]
    if max(too_cold_k, too_warm_k) <= 0:
        return None
    row, borne_c = (low, span[0]) if too_cold_k > too_warm_k else (high, span[1])
    return Worst(what, float(values[row]), borne_c, float(course.minutes[row]))


def _best(
    through: Through, start: Array, begins_min: float, worst: Worst, targets: Targets, undo_min: float | None
) -> tuple[str, Worst | None]:  # fmt: skip
    """The first change with which nothing is beyond what is borne; another room where none is enough."""

    def left_with(changed: Through) -> Worst | None:
        place = start if changed.moving is through.moving else temperatures_kept(through.moving, changed.moving, start)
        course = changed.moving.go(changed.happening, place, round(ENDS_MIN - begins_min), begins_min)
        return worst_of(course, changed, targets)

    for words, changed in _changes(through, worst):
        if left_with(changed) is None:
            return words, None
    return _in_another_room(through, worst, left_with, undo_min)


def _in_another_room(
    through: Through, worst: Worst, left_with: Callable[[Through], Worst | None], undo_min: float | None
) -> tuple[str, Worst | None]:  # fmt: skip
    """The room kept warmer, or cooler, by as much as it takes, and no further: what is left where even that is not
    enough.
    """
    limit_c, left, usual = through.happening.room_c(worst.minute), worst, through.happening.room_c
    pick, towards = (max, 1.0) if worst.is_cold else (min, -1.0)
    best: tuple[str, Worst] | None = None
    for _ in range(ROOM_TRIES):
        limit_c = round((limit_c + towards * (left.beyond_k + SPARE_K)) * HALF_DEGREES) / HALF_DEGREES

        def held_room(minute: float, limit_c: float = limit_c) -> float:
            return pick(usual(minute), limit_c)

        until = "until the room is as usual again" if undo_min is None else _time_words(undo_min)
        words = (
            f"Keep the room at {celsius(limit_c)} or more {until}"
            if worst.is_cold
            else f"Keep the room at {celsius(limit_c)} or less {until}: shut out the sun, air it while it is cooler "
            "outside, or move the box to a cooler room"
        )
        now = left_with(replace(through, happening=replace(through.happening, room_c=held_room)))
        if now is None:
            return words, None
        if best is None or now.beyond_k < best[1].beyond_k:
            best = words, now
        if now.is_cold != worst.is_cold:
            break
        left = now
    return best or ("", worst)


def _time_words(minute: float) -> str:
    """Until when: ``until tomorrow 14:00``."""
    at = minute % DAY_MIN
    when = "tonight" if minute < DAY_MIN else "tomorrow" if minute <= 2 * DAY_MIN else "the day after tomorrow"
    clock = "24:00" if at == 0 else f"{int(at // 60):02d}:{int(at % 60):02d}"
    return f"until {when} {clock}"


def _changes(through: Through, worst: Worst) -> Iterator[tuple[str, Through]]:
    """One thing that can be done tonight at a time, the least trouble first."""
    yield from _too_cold(through, worst) if worst.is_cold else _too_warm(through)


def _too_cold(through: Through, worst: Worst) -> Iterator[tuple[str, Through]]:
    more_k = ceil((worst.beyond_k + SPARE_K) * HALF_DEGREES) / HALF_DEGREES
    before = assess(through.moving.design, through.moving.catalogue)
    for one in through.happening.thermostats:
        by_night = one.night_c is not None
        set_c = one.night_c if by_night else one.day_c
        if set_c is None:
            continue
        raised = replace(
            one, day_c=None if one.day_c is None else one.day_c + more_k,
            night_c=set_c + more_k if by_night else None,
        )  # fmt: skip
        time = "by day and by night" if by_night and one.day_c is not None else "by night" if by_night else "by day"
        if why_not_offered(before, _raised(through.moving.design, one.name, more_k)) is not None:
            continue
        yield f"Set '{one.name}' {more_k:g} K higher {time}", _with(through, one.name, raised)
    design = through.moving.design
    if may_be_covered(design) or design.enclosure.vents:
        words = "Shut the vents" + (", and lay a cloth over the mesh" if may_be_covered(design) else "")
        yield f"{words} tonight; open them before the lamps come on", done_about_cold(through, "cover")
    yield (
        "Lay a folded blanket round the sides tonight, nothing over the lid, a lamp or a vent",
        done_about_cold(through, "blanket"),
    )


def _raised(design: Design, name: str, more_k: float) -> Design:
    """The design with a thermostat set so much higher, all year: what the rule book says of tonight."""

    def up(celsius: float | None) -> float | None:
        return None if celsius is None else celsius + more_k

    def raised(control: Control) -> Control:
        summer = control.summer and control.summer.model_copy(
            update={"day_c": up(control.summer.day_c), "night_c": up(control.summer.night_c)}
        )
        changed = {"day_c": up(control.day_c), "night_c": up(control.night_c), "summer": summer}
        return control.model_copy(update={**changed, "cut_out_c": up(control.cut_out_c)})

    controls = tuple(raised(one) if one.name == name else one for one in design.controls)
    return design.model_copy(update={"controls": controls})


def _with(through: Through, name: str, thermostat: Thermostat) -> Through:
    happening = through.happening
    changed = tuple(thermostat if one.name == name else one for one in happening.thermostats)
    return replace(through, happening=replace(happening, thermostats=changed))


def _too_warm(through: Through) -> Iterator[tuple[str, Through]]:
    """What takes heat away before what leaves the animal without its basking place: a cooler room comes last, with a
    fan that moves the room's air, never into the box, and frozen bottles beside it where that is not enough.
    """
    happening = through.happening
    heaters = sorted(through.moving.design.heaters, key=lambda one: -one.watts)
    for heater in heaters:
        without = replace(happening, dead=happening.dead | {heater.name})
        yield f"Leave '{heater.name}' off tomorrow, from the morning on", replace(through, happening=without)
    if len(heaters) > 1:
        nothing = replace(happening, dead=happening.dead | {one.name for one in heaters})
        yield "Leave all heat off tomorrow", replace(through, happening=nothing)


def _undo_min(course: Course, through: Through, targets: Targets) -> float | None:
    """The full hour after which nothing is beyond what is borne without the change; None where that is not seen."""
    outside = np.zeros(len(course.minutes), dtype=bool)
    checks: tuple[tuple[Array, Flags, Callable[[Array], Flags]], ...] = (
        (course.warm_c, _is_settled_night(course, through), _outside((targets.bears("night_c")[0], inf))),
        (course.cool_c, _is_settled_night(course, through), _outside((-inf, targets.bears("night_c")[1]))),
        (course.warm_c, _is_settled_day(course, through), _outside((targets.bears("warm_air_c")[0], inf))),
        (course.cool_c, _is_settled_day(course, through), _outside((-inf, targets.bears("cool_air_c")[1]))),
    )
    for values, when, is_outside in checks:
        outside |= when & is_outside(values)
    rows = np.flatnonzero(outside)
    if len(rows) == 0 or rows[-1] >= len(course.minutes) - 2:
        return None
    return ceil(float(course.minutes[rows[-1]]) / HOUR_MIN) * HOUR_MIN


def _outside(span: tuple[float, float]) -> Callable[[Array], Flags]:
    return lambda values: np.asarray((values < span[0]) | (values > span[1]))
