"""What a design is solved for: the room, the time of day, and what has failed."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from mitten.core.design import USUAL_ROOM_RH, Control, Design, Face, Heater
from mitten.core.physics.outside import FaceSurroundings
from mitten.core.physics.radiation.sources import Running


@dataclass(frozen=True)
class Situation:
    """A room at a time of day. ``dead`` heaters and lights give nothing; with ``stuck_on`` every thermostat gives full
    power, or as much as its cut-out lets through. ``summer`` (0-1) says which season its setpoints are those of.

    ``on_date`` is the day for which UV lamps have aged; they are new where none is given. ``faces`` are outer faces
    that look at something else than the room, with what that is; ``wrapped`` those with another film in W/m²K than
    their place makes, such as under a blanket.
    """

    room_c: float
    day: bool = True
    rh: float = USUAL_ROOM_RH
    dead: frozenset[str] = frozenset()
    stuck_on: bool = False
    on_date: date | None = None
    summer: float = 0.0
    faces: tuple[tuple[Face, FaceSurroundings], ...] = ()
    wrapped: tuple[tuple[Face, float], ...] = ()

    @property
    def films_w_m2k(self) -> dict[Face, float]:
        """Films of the faces whose surroundings bring their own."""
        own = {face: one.film_w_m2k for face, one in self.faces if one.film_w_m2k is not None}
        return {**own, **dict(self.wrapped)}


def on_now(heater: Heater, situation: Situation) -> bool:
    """Whether a heater's time is now and it works."""
    times = ("day", "always") if situation.day else ("night", "always")
    return heater.on in times and heater.name not in situation.dead


def regulating_controls(design: Design, situation: Situation) -> tuple[Control, ...]:
    """Thermostats that have something to regulate now; of those that are stuck on, what their cut-outs do."""
    now = (control.when_stuck if situation.stuck_on else control for control in design.controls)
    return tuple(
        control
        for control in now
        if control is not None
        and control.is_thermostat
        and control.setpoint_c(situation.day) is not None
        and any(on_now(heater, situation) for heater in design.heaters_of(control))
    )


def running_sources(design: Design, situation: Situation, duties: Mapping[str, float]) -> dict[str, Running]:
    """The heaters that run, by name, those of a thermostat at its duty (0-1).

    A thermostat without a setpoint for this time of day keeps its heaters off, unless it is stuck on.
    """
    found = {}
    for heater in design.heaters:
        if not on_now(heater, situation):
            continue
        control = design.control_of(heater)
        if control is not None and control.is_thermostat and control.name in duties:
            dimmed = control.kind == "dimming" and not situation.stuck_on
            found[heater.name] = Running(heater, duties[control.name], dimmed)
        elif control is None or not control.is_thermostat or situation.stuck_on:
            found[heater.name] = Running(heater)
    return found
