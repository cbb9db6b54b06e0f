"""The places for a thermostat's probe side by side: what each has to be set to, and what the box then does."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from mitten.core.catalogue import Targets
from mitten.core.design import Control, Design
from mitten.core.design.amounts import capital, celsius, kelvin
from mitten.core.judge import Assessment, read_condition
from mitten.core.judge.days import Failure, Through, failing, of_condition
from mitten.core.judge.outcomes import Outcome
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.probes import probe_c
from mitten.core.physics.reading.sensors import sensor_of
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.solving import solve_aimed_at, solve_climate
from mitten.core.plan.aiming import Aim, aim_of
from mitten.core.plan.offering import judged, new_dangers
from mitten.core.plan.probe_places import ProbePlace, place_of, probe_places
from mitten.core.plan.setpoints import HALF_DEGREES, cut_out_setting_c

GOES_MIN, JUDGED_MIN = 300, 180
"""A thermostat is watched for so many minutes, and judged by the last of them."""

FALLEN_MIN = 8 * 60
TOLD_APART_K = 0.3
"""What differs by less is alike to a keeper's thermometer."""

PROBE_RULES = (
    "probe-on-the-basking-place",
    "probe-in-water",
    "probe-in-the-beam",
    "probe-at-the-cool-end",
    "probe-high",
)
"""What the rule book says of a probe's place: no place is recommended of which it does."""

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
    """What comes of a probe at one place. Temperatures in °C; ``setpoint_c`` is None where no power brings what the
    thermostat is for to its target. ``against`` is what the rule book then has against it, that it had not before.

    ``from_c`` and ``to_c`` are what comes of the target from winter to summer with that setpoint; ``swing_k`` and
    ``switchings`` an hour are the thermostat's; ``fallen_c`` and ``out_c`` the hottest surface after eight hours with
    the probe on the ground or out of the box, and whether that is dangerous.
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
    against: str = ""

    @property
    def moves(self) -> str:
        """Whether the animal can lie on it or move it."""
        return MOVES[self.place.key.partition(":")[0]]

    @property
    def drift_k(self) -> float:
        """How far what is aimed at moves over the year."""
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

    @cached_property
    def aim(self) -> Aim | None:
        """What the thermostat is for; None where it is for neither the basking place nor the air."""
        return aim_of(self.assessment.climate("winter-day"), self.control, self.targets)

    @property
    def _aimed_at(self) -> Aim:
        if self.aim is None:
            raise ValueError(f"'{self.control.name}' is for neither the basking place nor the air")
        return self.aim

    @property
    def _winter(self) -> str:
        return f"winter-{self._aimed_at.time}"

    @cached_property
    def aimed(self) -> Climate:
        """A winter day, or night, on which what is aimed at is at its target."""
        known = self.assessment.climate(self._winter)
        wanted = {self.control.name: (self._aimed_at.figure, self._aimed_at.target_c)}
        return solve_aimed_at(self.design, known.catalogue, known.situation, wanted, known)

    @cached_property
    def through(self) -> Through:
        """That day or night as it stays, to be gone through with other probes."""
        known = self.assessment.climate(self._winter)
        return of_condition(self.design, known.catalogue, read_condition(self.design, self._winter), known)

    def all(self) -> Iterator[ProbeTrial]:
        """Every place, in the order in which they are offered; none for a thermostat that aims at nothing."""
        if self.aim is None:
            return
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
        moved = moved.model_copy(update={self._aimed_at.field: setpoint_c, "summer": None, "cut_out_c": None})
        try:
            from_c, to_c = self._over_the_year(moved)
        except UnsolvedError:
            return ProbeTrial(place, is_here, None)
        swing_k, switchings = self._watched(moved)
        fallen, out = (self._fails(moved, kind) for kind in ("probe-fallen", "probe-out"))
        return ProbeTrial(
            place, is_here, setpoint_c, from_c, to_c, swing_k, switchings, fallen.hottest.celsius, out.hottest.celsius,
            fallen.first_danger_min is not None, out.first_danger_min is not None, self._against(moved),
        )  # fmt: skip

    def _against(self, control: Control) -> str:
        """What the rule book has against a place that it does not have against the design as it is."""
        if self.control.cut_out_c is not None:
            control = control.model_copy(update={"cut_out_c": cut_out_setting_c(control)})
        after = judged(self.assessment, self._holding(control))
        if after is None:
            return "What it does cannot be worked out"
        of_the_place = [one for one in after.findings if one.rule in PROBE_RULES and f"'{control.name}'" in one.title]
        found = [*of_the_place, *new_dangers(self.assessment, after)]
        return found[0].title if found else ""

    def _holding(self, control: Control) -> Design:
        controls = tuple(control if one.name == control.name else one for one in self.design.controls)
        return self.design.model_copy(update={"controls": controls})

    def _over_the_year(self, control: Control) -> tuple[float, float]:
        """What is aimed at in winter and in summer."""
        design, found = self._holding(control), []
        for name in ("winter", "summer"):
            situation = read_condition(design, f"{name}-{self._aimed_at.time}").situation
            climate = solve_climate(design, self.aimed.catalogue, situation, self.aimed)
            found.append(self._aimed_at.figure(climate))
        return found[0], found[1]

    def _with(self, control: Control) -> Through:
        """The winter day with the probe at another place and the thermostat set for it."""
        moving = self.through.moving
        thermostats = [one for one in self.design.controls if one.is_thermostat]
        number = [one.name for one in thermostats].index(control.name)
        names = tuple(channel.name for channel in moving.channels)
        sensors = list(moving.box.sensors)
        sensors[number] = sensor_of(self.design, moving.running, control, moving.catalogue, names)
        changed = replace(moving, design=self._holding(control), box=moving.box.with_sensors(sensors))
        return Through(changed, replace(self.through.happening, thermostats=changed.thermostats(0.0)), "")

    def _watched(self, control: Control) -> tuple[float, float]:
        """Swing of what is aimed at in K, and switchings an hour."""
        through = self._with(control)
        start = through.moving.at_rest(self.aimed)
        course = through.moving.go(through.happening, start, GOES_MIN)
        swings_c = self._aimed_through(course)
        closed = [minute for minute in course.trace.closings[control.name] if minute > GOES_MIN - JUDGED_MIN]
        return float(np.ptp(swings_c[-JUDGED_MIN:])), len(closed) / (JUDGED_MIN / 60)

    def _aimed_through(self, course: Course) -> Array:
        """What is aimed at through time (T,)."""
        site = self.design.basking_site
        if self._aimed_at.key == "basking_surface_c":
            return course.site_c(site.name) if site else course.floor_max_c
        return course.warm_c if self._aimed_at.key == "warm_air_c" else course.cool_c

    def _fails(self, control: Control, kind: str) -> Outcome:
        through = failing(self._with(control), Failure(kind, control.name), 0.0)
        course = through.moving.go(through.happening, through.moving.at_rest(self.aimed), FALLEN_MIN)
        return Outcome(Failure(kind, control.name), 0.0, course)


def recommended(trials: Sequence[ProbeTrial]) -> ProbeTrial | None:
    """The place that is to be preferred; None where none serves, or the rule book has something against all."""
    return min(_allowed(trials), key=lambda trial: trial.badness, default=None)


def _allowed(trials: Sequence[ProbeTrial]) -> list[ProbeTrial]:
    return [trial for trial in trials if trial.setpoint_c is not None and not trial.against]


def reason_for(best: ProbeTrial, trials: Sequence[ProbeTrial], aim: Aim) -> str:
    """Where the probe is to be and why, in sentences: by what differs between the places that may be taken."""
    put = f"Put the probe {best.place.words} and set it to {celsius(best.setpoint_c or 0.0, 1)}."
    others = [trial for trial in _allowed(trials) if trial is not best]
    return f"{put} {_why(best, others, aim)}{_if_it_falls(best)}"


def _why(best: ProbeTrial, others: Sequence[ProbeTrial], aim: Aim) -> str:
    if not others:
        return "It is the only place to which the rule book has no objection."
    other = min(others, key=lambda trial: trial.badness)
    drifts = abs(other.drift_k - best.drift_k)
    if other.fallen_harms and not best.fallen_harms:
        return f"{capital(other.place.words)} it would be dangerous when it falls to the ground; here it is not."
    if drifts >= TOLD_APART_K:
        return (
            f"From winter to summer {aim.words} then moves by {kelvin(best.drift_k, 1)}; with the probe "
            f"{other.place.words} it would be {kelvin(other.drift_k, 1)}."
        )
    if other.swing_k - best.swing_k >= TOLD_APART_K:
        return (
            f"As it switches, {aim.words} swings by {kelvin(best.swing_k, 1)}; with the probe {other.place.words} it "
            f"would be {kelvin(other.swing_k, 1)}."
        )
    return f"{capital(other.place.words)} it does as well: choose the one where the lead can be fixed better."


def _if_it_falls(best: ProbeTrial) -> str:
    if best.fallen_harms:
        return f" Fix it well: a probe that falls to the ground makes {celsius(best.fallen_c, 0)}, which is dangerous."
    return "" if not best.out_harms else " Fix its lead well: pulled out of the box it would be dangerous."
