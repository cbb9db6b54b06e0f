"""One design in one situation: the temperatures, with its thermostats at rest.

This is the door of the thermal model: a design goes in, a climate comes out.
"""

from collections.abc import Callable, Container, Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

from mitten.core.catalogue import Catalogue
from mitten.core.design import Control, Design
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.balance.state import State
from mitten.core.physics.balance.steady import (
    PERTURBATION_ROUNDS,
    SETTLED_K,
    SteadyState,
    perturb,
    solve_steady,
    with_temperatures,
)
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.balance.thermostats import Duties, Loop, Plant, Regulated, regulate
from mitten.core.physics.radiation.sources import Sources, sources_of
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.probes import probe_c
from mitten.core.physics.situation import Situation, regulating_controls, running_sources
from mitten.core.physics.tweaks import NOMINAL, Tweaks

Figure = Callable[[Climate], float]


@dataclass(frozen=True)
class _Solver:
    """A design and a situation, to be solved for any duties of its thermostats."""

    design: Design
    catalogue: Catalogue
    situation: Situation
    fineness: float = 1.0
    tweaks: Tweaks = NOMINAL

    @classmethod
    def of(cls, climate: Climate, more: Tweaks = NOMINAL) -> "_Solver":
        """That which a climate was solved with, with its parameters moved by more."""
        tweaks = climate.tweaks.then(more)
        return cls(climate.design, climate.catalogue, climate.situation, climate.fineness, tweaks)

    def sources(self, duties: Mapping[str, float]) -> Sources:
        now = running_sources(self.design, self.situation, duties)
        return sources_of(self.design, now, self.situation.day, self.catalogue, self.tweaks, self.situation.dead)

    @property
    def surroundings(self) -> Surroundings:
        room_c = self.situation.room_c + self.tweaks.room_k
        rh = min(max(self.situation.rh + self.tweaks.room_rh, 0.0), 1.0)
        return Surroundings(room_c, self.design.room.altitude_m, rh, dict(self.situation.faces))

    @property
    def _prepared(self) -> Prepared:
        return prepare(self.design, self.catalogue, self.fineness, self.tweaks, self.situation.films_w_m2k)

    def solve(
        self, duties: Mapping[str, float], start: SteadyState | None, settled_k: float = SETTLED_K
    ) -> SteadyState:
        return solve_steady(self._prepared, self.sources(duties), self.surroundings, start, settled_k)

    def near(self, start: SteadyState, duties: Mapping[str, float], rounds: int = PERTURBATION_ROUNDS) -> SteadyState:
        return perturb(start, self.sources(duties), self.surroundings, self._prepared, rounds)

    def climate(self, steady: SteadyState, controls: Mapping[str, Regulated]) -> Climate:
        return Climate(
            self.design, self.catalogue, self.situation, steady.state, controls, self.tweaks, self.fineness, steady
        )

    def reading_of(self, control: Control) -> Callable[[State], float]:
        return lambda state: probe_c(self.design, state, control, self.catalogue)

    def _held_c(self, control: Control) -> float:
        setpoint_c = control.setpoint_c(self.situation.day, self.situation.summer) or 0.0
        return setpoint_c + self.tweaks.setpoint_k(control.name)

    def loops(self) -> list[Loop]:
        self.tweaks.must_name(setpoints={control.name for control in self.design.controls})
        return [
            Loop(control.name, self._held_c(control), self.reading_of(control))
            for control in regulating_controls(self.design, self.situation)
        ]


def solve_climate(
    design: Design, catalogue: Catalogue, situation: Situation, start: Climate | None = None, fineness: float = 1.0,
    tweaks: Tweaks = NOMINAL, settled_k: float = SETTLED_K,
) -> Climate:  # fmt: skip
    """Solve a design in a situation, its parts as the catalogue has them; ``start`` is the climate of a design in the
    same enclosure to begin from, ``fineness`` the grid's, ``tweaks`` what the model's parameters are moved by. Without
    thermostats it is done when nothing moves by more than ``settled_k`` in a round.

    Raises:
        NotSettledError: no steady state was found.
        NotRegulatedError: the thermostats found no rest.
    """
    solver = _Solver(design, catalogue, situation, fineness, tweaks)
    begun, loops = None if start is None else _steady_of(start), solver.loops()
    if not loops:
        return solver.climate(solver.solve({}, begun, settled_k), {})
    guess = {} if start is None else {name: control.duty for name, control in start.controls.items()}
    steady, _, controls = regulate(Plant(solver.solve, solver.near), loops, guess, begun)
    return solver.climate(steady, controls)


def _steady_of(climate: Climate) -> SteadyState:
    """What a solution may begin from; a state that is on its way serves too."""
    return climate.settled or SteadyState(climate.state, 0, float("inf"))


def tweak(climate: Climate, tweaks: Tweaks, effects: "Effects | None" = None) -> Climate:
    """Nearly what a climate becomes when parameters move a little, its thermostats still on their setpoints.

    ``effects`` are the climate's own, where they are known already. What a climate was moved by before stays moved.
    """
    solver = _Solver.of(climate, tweaks)
    duties: Duties = {name: control.duty for name, control in climate.controls.items()}
    # What moves a thermostat alone moves nothing else but by its duty, and what moves the animal nothing at all.
    by_control_alone = replace(tweaks, setpoints=()).is_of_the_body_alone
    begun = _steady_of(climate)
    moved = begun if by_control_alone else solver.near(begun, duties)
    controls, loops = dict(climate.controls), {loop.control: loop for loop in solver.loops()}
    for effect in effects_of(climate) if effects is None else effects:
        # One control at a time: they are seldom coupled so closely that a second pass would show.
        moved = _back_on(solver, replace(effect, loop=loops[effect.loop.control]), moved, duties)
    for loop in loops.values():
        held = controls[loop.control]
        controls[loop.control] = replace(held, duty=duties[loop.control], probe_c=loop.reading(moved.state))
    return solver.climate(moved, controls)


def _back_on(solver: _Solver, effect: "Effect", steady: SteadyState, duties: Duties) -> SteadyState:
    """The state with one probe nearly back on its setpoint; its duty is changed in place.

    Corrected more than once, because the effect is that of the climate that nothing has moved.
    """
    name = effect.loop.control
    for _ in range(CORRECTIONS):
        gap_k = effect.loop.setpoint_c - effect.loop.reading(steady.state)
        wanted = min(max(duties[name] + gap_k / effect.probe_k, 0.0), 1.0)
        change = wanted - duties[name]
        if abs(gap_k) < NEARLY_K or change == 0.0:
            break
        duties[name] = wanted
        surface_c = steady.state.surface_c + change * effect.surface_k
        air_c = steady.state.air_c + change * effect.air_k
        steady = with_temperatures(steady, solver.sources(duties), surface_c, air_c)
    return steady


@dataclass(frozen=True, eq=False)
class Effect:
    """What a whole duty of one thermostat adds: to its own probe, to the surfaces (n,) and to the air."""

    loop: Loop
    probe_k: float
    surface_k: Array
    air_k: Array


Effects = Sequence[Effect]
CORRECTIONS = 3
NEARLY_K = 0.05
PROBING = 0.1
LEAST_EFFECT_K = 1e-3


def effects_of(climate: Climate) -> list[Effect]:
    """Effects of the thermostats that regulate, around their duties."""
    solver, state = _Solver.of(climate), climate.state
    duties = {name: control.duty for name, control in climate.controls.items()}
    found = []
    for loop in solver.loops():
        if climate.controls[loop.control].status != "regulates":
            continue
        step = -PROBING if duties[loop.control] > 0.5 else PROBING
        near = solver.near(_steady_of(climate), {**duties, loop.control: duties[loop.control] + step}).state
        probe_k = (loop.reading(near) - loop.reading(state)) / step
        surface_k, air_k = (near.surface_c - state.surface_c) / step, (near.air_c - state.air_c) / step
        found.append(Effect(loop, max(probe_k, LEAST_EFFECT_K), surface_k, air_k))
    return found


def setpoint_for(climate: Climate, control: str, figure: Figure, target_c: float) -> Regulated | None:
    """The setpoint at which a figure of the climate comes to a target: what the control's probe reads then.

    The other thermostats keep theirs. ``Regulated.probe_c`` is the setpoint; None if the control regulates nothing
    here, and a status other than "regulates" where no duty brings the figure there.

    Raises:
        NotSettledError, NotRegulatedError: as ``solve_climate``.
    """
    wanted = {control: (figure, target_c)}
    return setpoints_for(
        climate.design, climate.catalogue, climate.situation, wanted, climate, climate.fineness
    ).get(control)  # fmt: skip


def setpoints_for(
    design: Design, catalogue: Catalogue, situation: Situation, wanted: Mapping[str, tuple[Figure, float]],
    start: Climate | None = None, fineness: float = 1.0, guess: Mapping[str, float] = MappingProxyType({}),
) -> dict[str, Regulated]:  # fmt: skip
    """The setpoints at which figures come to their targets together, each by a control of its own, as ``setpoint_for``.

    ``wanted`` holds a figure and its target in °C by control; those that regulate nothing here are left out of the
    answer. ``guess`` are duties to begin from, before those of ``start``.

    Raises:
        NotSettledError, NotRegulatedError: as ``solve_climate``.
    """
    return readings_of(solve_aimed_at(design, catalogue, situation, wanted, start, fineness, guess), wanted)


def readings_of(aimed: Climate, controls: Container[str]) -> dict[str, Regulated]:
    """What the probes of some controls read in a climate, by control; those that regulate nothing there left out."""
    return {
        loop.control: replace(aimed.controls[loop.control], probe_c=loop.reading(aimed.state))
        for loop in _Solver.of(aimed).loops()
        if loop.control in controls
    }


def solve_aimed_at(
    design: Design, catalogue: Catalogue, situation: Situation, wanted: Mapping[str, tuple[Figure, float]],
    start: Climate | None = None, fineness: float = 1.0, guess: Mapping[str, float] = MappingProxyType({}),
) -> Climate:  # fmt: skip
    """The climate in which figures come to their targets together, as ``setpoints_for``; where a probe is does not
    matter to it. Its controls have their duties, and how that is called.

    Raises:
        NotSettledError, NotRegulatedError: as ``solve_climate``.
    """
    solver = _Solver(design, catalogue, situation, fineness)
    loops = [
        _loop_aimed_at(solver, loop, *wanted[loop.control]) if loop.control in wanted else loop
        for loop in solver.loops()
    ]
    known = {} if start is None else {name: item.duty for name, item in start.controls.items()}
    begun = None if start is None else _steady_of(start)
    steady, duties, found = regulate(Plant(solver.solve, solver.near), loops, {**known, **guess}, begun)
    return solver.climate(steady, {name: replace(one, duty=duties[name]) for name, one in found.items()})


def _loop_aimed_at(solver: _Solver, loop: Loop, figure: Figure, target_c: float) -> Loop:
    """A control's loop as if its probe read a figure of the climate."""

    def reading(state: State) -> float:
        steady = SteadyState(state, 0, float("inf"))
        return figure(solver.climate(steady, {}))

    return Loop(loop.control, target_c, reading)
