"""How long a box takes after something was changed: until whoever measures it measures the new rest."""

from collections.abc import Iterator
from dataclasses import replace

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.judge.conditions import Condition, solve_condition
from mitten.core.judge.days import of_condition, run
from mitten.core.physics.reading.climate import Climate

HOURS = 36.0
LESS, COLDER_K, LOWER_K = 0.8, 3.0, 2.0
"""What it comes from: four fifths of the power, a room three kelvin colder, setpoints two kelvin lower."""

CHANGES = ("cold", "power", "setpoint", "room")
"""Switched on from cold; another lamp or height; another setpoint; another room, or more air from it."""


def changes_to_settle(design: Design) -> Iterator[str]:
    """Kinds of change that a design can have."""
    held = any(control.is_thermostat for control in design.controls)
    yield from (kind for kind in CHANGES if kind != "setpoint" or held)


def settling_minutes(design: Design, catalogue: Catalogue, condition: Condition, kind: str) -> float | None:
    """Minutes after a change until everything that is measured is within 5 % of its change; None where 36 hours are
    not enough.

    Raises:
        UnsolvedError: the design finds no rest, before the change or after it.
    """
    through = of_condition(design, catalogue, condition)
    if kind == "cold":
        return run(through, HOURS, from_room=True).warm_up_minutes
    start = through.moving.at_rest(_before(design, catalogue, condition, kind))
    return through.moving.go(through.happening, start, round(60 * HOURS)).warm_up_minutes


def _before(design: Design, catalogue: Catalogue, condition: Condition, kind: str) -> Climate:
    """The rest from which the change begins."""
    if kind == "room":
        return solve_condition(design, catalogue, replace(condition, room_c=condition.room_c - COLDER_K))
    if kind == "setpoint":
        return solve_condition(_with_lower_setpoints(design), catalogue, condition)
    weaker = tuple(one.model_copy(update={"dim": one.dim * LESS}) for one in design.heaters)
    return solve_condition(design.model_copy(update={"heaters": weaker}), catalogue, condition)


def _with_lower_setpoints(design: Design) -> Design:
    def lower(celsius: float | None) -> float | None:
        return None if celsius is None else celsius - LOWER_K

    controls = tuple(
        one.model_copy(update={"day_c": lower(one.day_c), "night_c": lower(one.night_c), "summer": None})
        for one in design.controls
    )
    return design.model_copy(update={"controls": controls})
