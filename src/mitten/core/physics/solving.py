"""One design in one situation: the temperatures, with its thermostats at rest.

This is the door of the thermal model: a design goes in, a climate comes out.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

from mitten.core.catalogue import load_catalogue
from mitten.core.design import Control, Design
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.balance import Surroundings
from mitten.core.physics.balance.prepared import prepare
from mitten.core.physics.balance.steady import SteadyState, carried, nudge, solve_steady
from mitten.core.physics.balance.thermostats import Duties, Loop, Plant, Regulated, regulate
from mitten.core.physics.radiation.sources import Sources, sources_of
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.probes import probe_c
from mitten.core.physics.situation import Situation, regulated, running
from mitten.core.physics.tweaks import NOMINAL, Tweaks

Figure = Callable[[Climate], float]


@dataclass(frozen=True)
class _Solver:
    """A design and a situation, to be solved for any duties of its thermostats."""

    design: Design
    situation: Situation
    fineness: float = 1.0
    tweaks: Tweaks = NOMINAL

    def sources(self, duties: Mapping[str, float]) -> Sources:
        now = running(self.design, self.situation, duties)
        return sources_of(self.design, now, self.situation.day, load_catalogue(), self.tweaks, self.situation.dead)

    @property
    def surroundings(self) -> Surroundings:
        room_c = self.situation.room_c + self.tweaks.room_k
        rh = min(max(self.situation.rh + self.tweaks.room_rh, 0.0), 1.0)
        return Surroundings(room_c, self.design.room.altitude_m, rh)

    def solve(self, duties: Mapping[str, float], start: SteadyState | None) -> SteadyState:
        prepared = prepare(self.design, self.fineness, self.tweaks)
        return solve_steady(prepared, self.sources(duties), self.surroundings, start)

    def near(self, state: SteadyState, duties: Mapping[str, float]) -> SteadyState:
        prepared = prepare(self.design, self.fineness, self.tweaks)
        return nudge(state, self.sources(duties), self.surroundings, prepared)

    def climate(self, state: SteadyState, controls: Mapping[str, Regulated]) -> Climate:
        return Climate(self.design, self.situation, state, controls, self.tweaks.ultraviolet)

    def reading_of(self, control: Control) -> Callable[[SteadyState], float]:
        return lambda state: probe_c(self.design, state, control)

    def _held_c(self, control: Control) -> float:
        setpoint_c = control.setpoint_c(self.situation.day, self.situation.summer) or 0.0
        return setpoint_c + self.tweaks.setpoint_k(control.name)

    def loops(self) -> list[Loop]:
        return [
            Loop(control.name, self._held_c(control), self.reading_of(control))
            for control in regulated(self.design, self.situation)
        ]


def solve_climate(design: Design, situation: Situation, start: Climate | None = None, fineness: float = 1.0) -> Climate:
    """Solve a design in a situation; ``start`` is the climate of a design in the same enclosure to begin from.

    Raises:
        NotSettledError: no steady state was found.
        NotRegulatedError: the thermostats found no rest.
    """
    solver = _Solver(design, situation, fineness)
    state, loops = None if start is None else start.state, solver.loops()
    if not loops:
        return solver.climate(solver.solve({}, state), {})
    guess = {} if start is None else {name: control.duty for name, control in start.controls.items()}
    state, _, controls = regulate(Plant(solver.solve, solver.near), loops, guess, state)
    return solver.climate(state, controls)


def tweaked(climate: Climate, tweaks: Tweaks, effects: "Effects | None" = None, fineness: float = 1.0) -> Climate:
    """Nearly what a climate becomes when parameters move a little, its thermostats still on their setpoints.

    ``effects`` are the climate's own, where they are known already; ``fineness`` is that of the climate's grid.
    """
    solver = _Solver(climate.design, climate.situation, fineness, tweaks)
    duties: Duties = {name: control.duty for name, control in climate.controls.items()}
    # What moves a thermostat alone moves nothing else but by its duty.
    by_control_alone = replace(tweaks, setpoints=()) == NOMINAL
    moved = climate.state if by_control_alone else solver.near(climate.state, duties)
    controls, loops = dict(climate.controls), {loop.control: loop for loop in solver.loops()}
    for effect in effects_of(climate, fineness) if effects is None else effects:
        # One control at a time: they are seldom coupled so closely that a second pass would show.
        moved = _back_on(solver, replace(effect, loop=loops[effect.loop.control]), moved, duties)
    for loop in loops.values():
        held = controls[loop.control]
        controls[loop.control] = replace(held, duty=duties[loop.control], probe_c=loop.reading(moved))
    return solver.climate(moved, controls)


def _back_on(solver: _Solver, effect: "Effect", state: SteadyState, duties: Duties) -> SteadyState:
    """The state with one probe nearly back on its setpoint; its duty is changed in place.

    Corrected more than once, because the effect is that of the climate that nothing has moved.
    """
    name = effect.loop.control
    for _ in range(CORRECTIONS):
        gap_k = effect.loop.setpoint_c - effect.loop.reading(state)
        wanted = min(max(duties[name] + gap_k / effect.probe_k, 0.0), 1.0)
        change = wanted - duties[name]
        if abs(gap_k) < NEARLY_K or change == 0.0:
            break
        duties[name] = wanted
        surface_c, air_c = state.surface_c + change * effect.surface_k, state.air_c + change * effect.air_k
        state = carried(state, solver.sources(duties), surface_c, air_c)
    return state


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


def effects_of(climate: Climate, fineness: float = 1.0) -> list[Effect]:
    """Effects of the thermostats that regulate, around their duties; ``fineness`` is that of the climate's grid."""
    solver, state = _Solver(climate.design, climate.situation, fineness), climate.state
    duties = {name: control.duty for name, control in climate.controls.items()}
    found = []
    for loop in solver.loops():
        if climate.controls[loop.control].word != "regulates":
            continue
        step = -PROBING if duties[loop.control] > 0.5 else PROBING
        near = solver.near(state, {**duties, loop.control: duties[loop.control] + step})
        probe_k = (loop.reading(near) - loop.reading(state)) / step
        surface_k, air_k = (near.surface_c - state.surface_c) / step, (near.air_c - state.air_c) / step
        found.append(Effect(loop, max(probe_k, LEAST_EFFECT_K), surface_k, air_k))
    return found


def setpoint_for(
    climate: Climate, control: str, figure: Figure, target_c: float, fineness: float = 1.0
) -> Regulated | None:
    """The setpoint at which a figure of the climate comes to a target: what the control's probe reads then.

    The other thermostats keep theirs. ``Regulated.probe_c`` is the setpoint; None if the control regulates nothing
    here, and a word other than "regulates" where no duty brings the figure there. ``fineness`` is that of the climate's
    grid.

    Raises:
        NotSettledError, NotRegulatedError: as ``solve_climate``.
    """
    return setpoints_for(climate.design, climate.situation, {control: (figure, target_c)}, climate, fineness).get(
        control
    )


def setpoints_for(
    design: Design, situation: Situation, wanted: Mapping[str, tuple[Figure, float]], start: Climate | None = None,
    fineness: float = 1.0, guess: Mapping[str, float] = MappingProxyType({}),
) -> dict[str, Regulated]:  # fmt: skip
    """The setpoints at which figures come to their targets together, each by a control of its own, as ``setpoint_for``.

    ``wanted`` holds a figure and its target in °C by control; those that regulate nothing here are left out of the
    answer. ``guess`` are duties to begin from, before those of ``start``.

    Raises:
        NotSettledError, NotRegulatedError: as ``solve_climate``.
    """
    solver = _Solver(design, situation, fineness)
    own = solver.loops()
    loops = [_aimed(solver, loop, *wanted[loop.control]) if loop.control in wanted else loop for loop in own]
    known = {} if start is None else {name: item.duty for name, item in start.controls.items()}
    begun = None if start is None else start.state
    state, duties, found = regulate(Plant(solver.solve, solver.near), loops, {**known, **guess}, begun)
    return {
        loop.control: replace(
            found[loop.control], duty=duties[loop.control], probe_c=loop.reading(state),
            setpoint_c=wanted[loop.control][1],
        )
        for loop in own
        if loop.control in wanted
    }  # fmt: skip


def _aimed(solver: _Solver, loop: Loop, figure: Figure, target_c: float) -> Loop:
    """A control's loop as if its probe read a figure of the climate."""
    return Loop(loop.control, target_c, lambda state: figure(solver.climate(state, {})))
