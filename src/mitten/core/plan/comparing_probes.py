"""The places for a thermostat's probe side by side: what each has to be set to, and what the box then does."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from mitten.core.catalogue import Targets
from mitten.core.design import Control, Design
from mitten.core.design.amounts import celsius, kelvin
from mitten.core.judge import Assessment, read_condition
from mitten.core.judge.days import Failure, Through, failing, of_condition
from mitten.core.judge.outcomes import Outcome
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.probes import probe_c
from mitten.core.physics.reading.sensors import sensor_of
from mitten.core.physics.solving import solve_aimed_at, solve_climate
from mitten.core.plan.probe_places import ProbePlace, place_of, probe_places
from mitten.core.plan.setpoints import HALF_DEGREES

GOES_MIN, JUDGED_MIN = 300, 180
"""A thermostat is watched for so many minutes, and judged by the last of them."""

FALLEN_MIN = 8 * 60
MOVES: dict[str, str] = {
    "beside": "hangs in its reach: fix the lead",
    "on": "it lies on it, and can push it off",
    "mat": "out of its reach, under the floor or in a cover",
    "base": "out of its reach, unless it digs",
    "in": "it lies beside it, and can push it about",
    "middle": "hangs in its reach: fix the lead",
    "cool-end": "hangs in its reach: fix the lead",
}


@dataclass(frozen=True)
class ProbeTrial:
    """What comes of a probe at one place. Temperatures in °C; ``setpoint_c`` is None where no power brings the basking
    place to its target.

    ``from_c`` and ``to_c`` are what the basking place does from a winter day to a summer day with that setpoint;
    ``swing_k`` and ``switchings`` an hour are the thermostat's; ``fallen_c`` and ``out_c`` the hottest surface after
    eight hours with the probe on the ground or out of the box, and whether that is dangerous.
    """

    place: ProbePlace
    is_here: bool
    setpoint_c: float | None
    from_c: float = 0.0
    to_c: float = 0.0
    swing_k: float = 0.0
    switchings: float = 0.0
    fallen_c: float = 0.0
    out_c: float = 0.0
    fallen_harms: bool = False
    out_harms: bool = False

    @property
    def moves(self) -> str:
        """Whether the animal can lie on it or move it."""
        return MOVES[self.place.key.partition(":")[0]]

    @property
    def drift_k(self) -> float:
        """How far the basking place moves over the year."""
        return abs(self.to_c - self.from_c)

    @property
    def badness(self) -> tuple[bool, bool, float]:
        """What counts against it, the worst first."""
        return self.setpoint_c is None, self.fallen_harms, self.drift_k + self.swing_k / 2


@dataclass(frozen=True, eq=False)
class ProbeTrials:
    """A thermostat's probe at every place that has a name."""

    assessment: Assessment
    control: Control

    @property
    def design(self) -> Design:
        """The design."""
        return self.assessment.design

    @property
    def targets(self) -> Targets:
        """What the animal wants."""
        return self.assessment.targets

    @property
    def target_c(self) -> float:
        """What the basking surface is brought to: the middle of what is wanted."""
        return sum(self.targets.basking_surface_c) / 2

    @cached_property
    def aimed(self) -> Climate:
        """A winter day on which the basking place is at its target."""
        known = self.assessment.climate("winter-day")
        wanted = {self.control.name: (lambda now: now.basking.surface_c, self.target_c)}
        return solve_aimed_at(self.design, known.catalogue, known.situation, wanted, known)

    @cached_property
    def through(self) -> Through:
        """A winter day that stays, to be gone through with other probes."""
        known = self.assessment.climate("winter-day")
        return of_condition(self.design, known.catalogue, read_condition(self.design, "winter-day"), known)

    def all(self) -> Iterator[ProbeTrial]:
        """Every place, in the order in which they are offered."""
        here = place_of(self.design, self.aimed.catalogue, self.control)
        for place in probe_places(self.design, self.aimed.catalogue, self.control):
            yield self.at(place, here is not None and here.key == place.key)

    def at(self, place: ProbePlace, is_here: bool = False) -> ProbeTrial:
        """One place."""
        regulated = self.aimed.controls.get(self.control.name)
        if regulated is None or regulated.status != "regulates":
            return ProbeTrial(place, is_here, None)
        moved = self.control.model_copy(update={"probe": place.probe})
        reading = probe_c(self.design, self.aimed.state, moved, self.aimed.catalogue)
        setpoint_c = round(reading * HALF_DEGREES) / HALF_DEGREES
        moved = moved.model_copy(update={"day_c": setpoint_c, "summer": None, "cut_out_c": None})
        try:
            from_c, to_c = self._over_the_year(moved)
        except UnsolvedError:
            return ProbeTrial(place, is_here, None)
        swing_k, switchings = self._watched(moved)
        fallen, out = (self._fails(moved, kind) for kind in ("probe-fallen", "probe-out"))
        return ProbeTrial(
            place, is_here, setpoint_c, from_c, to_c, swing_k, switchings, fallen.hottest.celsius, out.hottest.celsius,
            fallen.first_danger_min is not None, out.first_danger_min is not None,
        )  # fmt: skip

    def _over_the_year(self, control: Control) -> tuple[float, float]:
        """The basking place on a winter day and on a summer day."""
        controls = tuple(control if one.name == control.name else one for one in self.design.controls)
        design = self.design.model_copy(update={"controls": controls})
        found = []
        for name in ("winter-day", "summer-day"):
            situation = read_condition(design, name).situation
            found.append(solve_climate(design, self.aimed.catalogue, situation, self.aimed).basking.surface_c)
        return found[0], found[1]

    def _with(self, control: Control) -> Through:
        """The winter day with the probe at another place and the thermostat set for it."""
        moving = self.through.moving
        thermostats = [one for one in self.design.controls if one.is_thermostat]
        number = [one.name for one in thermostats].index(control.name)
        names = tuple(channel.name for channel in moving.channels)
        sensors = list(moving.box.sensors)
        sensors[number] = sensor_of(self.design, moving.running, control, moving.catalogue, names)
        controls = tuple(control if one.name == control.name else one for one in self.design.controls)
        changed = replace(
            moving,
            design=self.design.model_copy(update={"controls": controls}),
            box=moving.box.with_sensors(sensors),
        )
        return Through(changed, replace(self.through.happening, thermostats=changed.thermostats(0.0)), "")

    def _watched(self, control: Control) -> tuple[float, float]:
        """Swing of the basking place in K, and switchings an hour."""
        through = self._with(control)
        start = through.moving.at_rest(self.aimed)
        course = through.moving.go(through.happening, start, GOES_MIN)
        site = self.design.basking_site
        surface_c = course.site_c(site.name) if site else course.floor_max_c
        closed = [minute for minute in course.trace.closings[control.name] if minute > GOES_MIN - JUDGED_MIN]
        return float(np.ptp(surface_c[-JUDGED_MIN:])), len(closed) / (JUDGED_MIN / 60)

    def _fails(self, control: Control, kind: str) -> Outcome:
        through = failing(self._with(control), Failure(kind, control.name), 0.0)
        course = through.moving.go(through.happening, through.moving.at_rest(self.aimed), FALLEN_MIN)
        return Outcome(Failure(kind, control.name), 0.0, course)


def recommended(trials: list[ProbeTrial]) -> ProbeTrial | None:
    """The place that is to be preferred; None where none serves."""
    serving = [trial for trial in trials if trial.setpoint_c is not None]
    return min(serving, key=lambda trial: trial.badness, default=None)


def reason_for(trial: ProbeTrial) -> str:
    """Why a place is recommended, in a sentence with its figures."""
    held = f"the basking place moves by {kelvin(trial.drift_k, 1)} from winter to summer"
    swings = f"swings by {kelvin(trial.swing_k, 1)}"
    falls = (
        f"and a probe that falls to the ground makes it {celsius(trial.fallen_c, 0)}: fix it well"
        if trial.fallen_harms
        else f"and a probe that falls to the ground harms nothing ({celsius(trial.fallen_c, 0)})"
    )
    set_to = celsius(trial.setpoint_c or 0.0, 1)
    return f"With the probe {trial.place.words}, set to {set_to}, {held}, {swings}, {falls}."
