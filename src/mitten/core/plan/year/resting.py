"""The cool rest before breeding: what the heat is set to so that the warm end comes to its temperatures."""

from dataclasses import dataclass, replace

from mitten.core.catalogue import Catalogue
from mitten.core.design import Control, Design
from mitten.core.design.schedule import Cooling
from mitten.core.judge.conditions import Condition, solve_condition
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.solving import setpoint_for
from mitten.core.physics.transient.regulation import Thermostat
from mitten.core.plan.setpoints import HALF_DEGREES
from mitten.core.plan.year.months import Month

NEAR_K = 0.5
"""A box that comes so near to its rest by itself needs no heat for it."""


@dataclass(frozen=True)
class Rest:
    """What the cool rest of a month needs: the one thermostat that may be left on and what it is set to by day and by
    night (None: off), and the warm end's air in °C without any heat.
    """

    control: str
    day_c: float | None
    night_c: float | None
    without_day_c: float
    without_night_c: float

    def thermostats(self, usual: tuple[Thermostat, ...]) -> tuple[Thermostat, ...]:
        """The thermostats as they are set then."""
        return tuple(
            replace(one, day_c=self.day_c, night_c=self.night_c)
            if one.name == self.control
            else replace(one, day_c=None, night_c=None)
            for one in usual
        )


def rest_of(design: Design, catalogue: Catalogue, month: Month, cooling: Cooling) -> Rest:
    """What the rest needs in a month.

    Raises:
        UnsolvedError: the design finds no rest in that month.
    """
    control = _left_on(design)
    found = {day: _setting(design, catalogue, month.condition(day), control, wanted_c) for day, wanted_c in
             ((True, cooling.day_c), (False, cooling.night_c))}  # fmt: skip
    return Rest(control.name if control else "", found[True][1], found[False][1], found[True][0], found[False][0])


def _left_on(design: Design) -> Control | None:
    """The thermostat that holds a rest best: one that works by night too, then the first."""
    thermostats = [control for control in design.controls if control.is_thermostat]
    by_night = [one for one in thermostats if one.night_c is not None]
    return next(iter(by_night or thermostats), None)


def off(design: Design) -> frozenset[str]:
    """Every heat source, to be left off."""
    return frozenset(heater.name for heater in design.heaters)


def _setting(
    design: Design, catalogue: Catalogue, condition: Condition, control: Control | None, wanted_c: float
) -> tuple[float, float | None]:
    """The warm end's air without heat, and the setting that brings it to what is wanted, if it needs one."""
    cold = solve_condition(design, catalogue, replace(condition, dead=tuple(sorted(off(design)))))
    without_c = cold.air.warm_c
    if control is None or without_c >= wanted_c - NEAR_K:
        return without_c, None
    others = tuple(heater.name for heater in design.heaters if heater.control != control.name)
    alone = solve_condition(design, catalogue, replace(condition, dead=others))
    found = setpoint_for(alone, control.name, _warm_c, wanted_c)
    if found is None or found.status != "regulates":
        return without_c, None
    return without_c, round(found.probe_c * HALF_DEGREES) / HALF_DEGREES


def _warm_c(climate: Climate) -> float:
    return climate.air.warm_c
