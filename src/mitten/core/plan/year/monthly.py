"""One month worked out: a day of it that repeats itself, the power its lamps want, and whether its nights need heat."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from mitten.core.catalogue import Catalogue, targets_of
from mitten.core.design import Design
from mitten.core.judge.conditions import solve_condition
from mitten.core.judge.days import room_over_a_day
from mitten.core.judge.resting import allowed_rest
from mitten.core.judge.targets import judge_targets
from mitten.core.physics.running import Moving, clock_of, make_ready
from mitten.core.physics.transient.drive import Happening
from mitten.core.physics.transient.regulation import DAY_MIN
from mitten.core.plan.year.lamps import LampNeed, lamp_need
from mitten.core.plan.year.months import WHOLE_DAY_H, Month
from mitten.core.plan.year.resting import Rest, off, rest_of

J_PER_KWH = 3.6e6
NIGHT = "night_c"
MOSTLY = 0.5


@dataclass(frozen=True)
class MonthFigures:
    """What one month comes to. Temperatures in °C: the basking surface (None without a basking place) and the cool end
    by day, the coldest of the night,
    the same night without night heat; energy of a day in kWh.

    ``missed`` are the keys of targets that are outside what is borne. ``setpoints_c`` are those in force by thermostat,
    by day and by night. ``rest`` says what the cool rest needs, where the month has some of it.
    """

    month: Month
    lights_on_min: float
    lights_off_min: float
    basking_c: float | None
    cool_c: float
    night_c: float
    unheated_night_c: float
    borne_night_c: float
    wanted_night_c: float
    setpoints_c: tuple[tuple[str, float | None, float | None], ...]
    kwh_day: float
    missed: tuple[str, ...]
    lamp: LampNeed | None
    rest: Rest | None = None
    resting_kwh_day: float = 0.0

    @property
    def is_at_rest(self) -> bool:
        """Whether most of it is cool rest, in which the box is colder than its figures say."""
        return self.month.resting >= MOSTLY

    @property
    def night_heat(self) -> bool:
        """Whether its nights need heat: without it they are colder than is borne. The cool rest asks for none."""
        return not self.is_at_rest and self.unheated_night_c < self.borne_night_c

    @property
    def night_heat_wished(self) -> bool:
        """Whether its nights are colder than is wanted without heat, though that is borne."""
        return self.borne_night_c <= self.unheated_night_c < self.wanted_night_c

    @property
    def kwh(self) -> float:
        """Energy of the month, its cool rest counted by its days."""
        resting = self.month.resting
        return self.month.days * ((1 - resting) * self.kwh_day + resting * self.resting_kwh_day)

    def as_of(self, month: Month) -> "MonthFigures":
        """The same for another month that is alike."""
        return replace(self, month=month)


def figures_of(design: Design, catalogue: Catalogue, month: Month) -> MonthFigures:
    """Work out one month.

    Raises:
        UnsolvedError: the design finds no rest in it.
    """
    day, night = month.condition(day=True), month.condition(day=False)
    moving = make_ready(design, catalogue, day.situation, night.situation)
    clock = clock_of(design, month.day_hours)
    room_c = room_over_a_day(month.room_day_c, month.room_night_c, clock)
    happening = Happening(clock, room_c, moving.thermostats(month.summer))
    targets = targets_of(design.animal, catalogue.species[design.animal.species])
    climates = {day: moving.day, night: moving.night}
    missed = tuple(one.key for one in judge_targets(design, catalogue, climates, targets) if one.status == "misses")
    rest, resting_kwh = _rest(design, catalogue, month, moving, happening)
    if rest is not None and month.resting >= MOSTLY:
        missed = tuple(_missed_at_rest(design, catalogue, rest))
    return MonthFigures(
        month=month,
        lights_on_min=clock.day_from_min,
        lights_off_min=(clock.day_from_min + clock.day_min) % (60 * WHOLE_DAY_H),
        basking_c=moving.day.basking.surface_c if design.basking_site else None,
        cool_c=moving.day.air.cool_c,
        night_c=moving.night.air.cool_c,
        unheated_night_c=_unheated_night_c(design, catalogue, month, moving),
        borne_night_c=targets.bears(NIGHT)[0],
        wanted_night_c=targets.wants(NIGHT)[0],
        setpoints_c=_setpoints(design, month),
        kwh_day=kwh_of_a_day(moving, happening),
        missed=missed,
        lamp=lamp_need(design, catalogue, month),
        rest=rest,
        resting_kwh_day=resting_kwh,
    )


def _missed_at_rest(design: Design, catalogue: Catalogue, rest: Rest) -> Iterator[str]:
    """Targets of the air that a resting animal's month does not keep: by what its species rests at."""
    usual = catalogue.species[design.animal.species].cool_rest
    if usual is None:
        return
    for key, reached_c, held_c, (low_c, high_c) in (
        ("warm_air_c", rest.without_day_c, rest.day_c, usual.day_c),
        (NIGHT, rest.without_night_c, rest.night_c, usual.night_c),
    ):
        if (held_c is None and reached_c < low_c) or reached_c > high_c:
            yield key


def kwh_of_a_day(moving: Moving, happening: Happening) -> float:
    """Energy of a day that repeats itself: as it is fed through the day, or by the clock where nothing regulates."""
    if any(one.day_c is not None or one.night_c is not None for one in happening.thermostats):
        return float(moving.repeating_day(happening).trace.fed_j.sum()) / J_PER_KWH
    minutes = range(int(DAY_MIN))
    by_clock = [one for one in moving.channels if one.control is None and one.name not in happening.dead]
    watt_minutes = sum(
        one.full_w * happening.clock.allows(one.name, one.on, one.ramps, minute)
        for one in by_clock
        for minute in minutes
    )
    return watt_minutes * 60 / J_PER_KWH


def _setpoints(design: Design, month: Month) -> tuple[tuple[str, float | None, float | None], ...]:
    return tuple(
        (one.name, one.setpoint_c(True, month.summer), one.setpoint_c(False, month.summer))
        for one in design.controls
        if one.is_thermostat
    )


def _unheated_night_c(design: Design, catalogue: Catalogue, month: Month, moving: Moving) -> float:
    """The night's air with everything off that heats by night."""
    by_night = tuple(sorted(name for name, heat in moving.night.heaters.items() if heat.watts > 0))
    if not by_night:
        return moving.night.air.cool_c
    return solve_condition(design, catalogue, replace(month.condition(day=False), dead=by_night)).air.cool_c


def _rest(
    design: Design, catalogue: Catalogue, month: Month, moving: Moving, happening: Happening
) -> tuple[Rest | None, float]:
    """What the cool rest needs, and the energy of a day of it in kWh."""
    cooling = allowed_rest(design, catalogue)
    if cooling is None or month.resting <= 0:
        return None, 0.0
    rest = rest_of(design, catalogue, month, cooling)
    regulated = {heater.name for heater in design.heaters if heater.control == rest.control and rest.control}
    resting = replace(
        happening, thermostats=rest.thermostats(happening.thermostats), dead=off(design) - regulated
    )  # fmt: skip
    return rest, kwh_of_a_day(moving, resting)
