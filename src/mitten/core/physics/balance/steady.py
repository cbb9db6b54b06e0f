"""The steady state: the temperatures at which every patch and every air zone gains what it loses.

Each round solves the linear system with films and flows frozen at the last temperatures; the steps of the last rounds
are combined so that their residuals cancel best (Anderson 1965). Usually factors are renewed in the first rounds and
kept while the steps become shorter, which is quick. Where that does not settle - small boxes with much power, whose
flows turn from round to round - the solution begins again at a slower pace: fresh factors more often, in the end for
every round, and a part of each step.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from weakref import WeakKeyDictionary

import numpy as np

from mitten.core.design import MittenError
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.balance import residual
from mitten.core.physics.balance.coefficients import Coefficients, coefficients_at, reference_coefficients
from mitten.core.physics.balance.energy import energy_of
from mitten.core.physics.balance.factors import Factors
from mitten.core.physics.balance.load import Load, load_of
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.state import State
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.constants import ZERO_C_K
from mitten.core.physics.radiation.sources import Sources

SETTLED_K = 0.01
"""A solution is settled when no temperature moves by more than this in a whole round."""

SETTLED_ENERGY = 1e-3
"""And when energy in and out agree within this share of the input,"""

ENERGY_DUST_W = 1e-4
"""or within this, where there is no input to speak of."""

WATER_DUST_KG_S = 1e-12
"""The same of water, where next to none is turned over."""

STALE_ROUNDS = 5
"""Factors that are kept are renewed when so many rounds have not brought a step of half the shortest before."""

PERTURBATION_ROUNDS = 3
PERTURBED_K = 0.1
"""A small change to a settled state is followed so many rounds, or until nothing moves by more than this."""

FAR_K = 6.0
"""A solution that begins with a longer step than this is not nearby: the first guess is nearer, and what it brought is
no good.
"""

REMEMBERED = 6
"""Steps that are combined."""

LONGEST_STEP_K = 60.0
REFERENCE_ROOM_C = 21.0

WORSE = 3.0
"""A step so many times longer than the last says that combining went astray: it begins anew."""


@dataclass(frozen=True)
class Pace:
    """How a solution goes: at most so many rounds, the rounds that begin with factors of their own (every one where
    None), the part of each step that is taken, and whether steps are combined.
    """

    rounds: int
    renewed: tuple[int, ...] | None
    part: float = 1.0
    combines: bool = True

    def renews(self, number: int) -> bool:
        """Whether a round begins with new factors."""
        return self.renewed is None or number in self.renewed

    def is_lost(self, number: int, step_k: float) -> bool:
        """Whether a solution that was to be nearby begins with a long step."""
        return self is NEARBY and number == 0 and step_k > FAR_K


NEARBY = Pace(24, (), 0.7)
FRESH = Pace(24, (1,), 0.7)
SURER = (
    Pace(60, tuple(range(0, 60, 3)), 0.5),
    Pace(60, None, 0.5),
    Pace(60, None, 0.5, False),
    Pace(150, None, 0.2),
    Pace(150, None, 0.2, False),
)
"""Paces for a solution begun nearby with factors of its own, for a fresh one, and for those that do not settle."""


class UnsolvedError(MittenError):
    """The model has no answer for a design in a condition."""


class NotSettledError(UnsolvedError):
    """The model found no steady state for this design."""


@dataclass(frozen=True, eq=False)
class SteadyState:
    """A state in which nothing moves any more: ``rounds`` and ``last_move_k`` say how it settled. ``factors`` are those
    of its last rounds, for a solution begun from this one; they are large, and ``without_factors`` is what to keep.
    """

    state: State
    rounds: int
    last_move_k: float
    factors: Factors | None = None

    def without_factors(self) -> "SteadyState":
        """The same without what only a next solution needs."""
        return replace(self, factors=None)

    def with_factors(self) -> "SteadyState":
        """The same with factors at its temperatures, for solutions begun from it."""
        return self if self.factors is not None else replace(self, factors=_factors_at(self.state))


class _Anderson:
    """Combines the last steps so that what remains of the residuals is least (Anderson 1965)."""

    def __init__(self, part: float, combines: bool = True) -> None:
        self.part, self.combines = part, combines
        self.last: tuple[Array, Array] | None = None
        """The place of the last round, and the step from it."""

        self.changes: list[tuple[Array, Array]] = []
        """By how much the places of the last rounds differ, and the steps from them."""

    def note_renewal(self, pace: Pace) -> None:
        """Factors were renewed: where they are kept for some rounds, steps of others do not go with theirs."""
        if pace.renewed is not None:
            self.forget()

    def forget(self) -> None:
        """Begin combining anew."""
        self.last = None
        self.changes.clear()

    def next(self, place: Array, step: Array) -> Array:
        """Where to go from a place with that step."""
        if not self.combines:
            self.forget()
        if self.last is not None:
            self.changes = [*self.changes[1 - REMEMBERED :], (place - self.last[0], step - self.last[1])]
        self.last = place, step
        if not self.changes:
            return self._along(place, step)
        place_changes, step_changes = (np.array(part).T for part in zip(*self.changes, strict=True))
        weights = np.linalg.lstsq(step_changes, step, rcond=1e-10)[0]
        combined = self.part * step - (place_changes + self.part * step_changes) @ weights
        return np.asarray(place + np.clip(combined, -LONGEST_STEP_K, LONGEST_STEP_K))

    def _along(self, place: Array, step: Array) -> Array:
        return np.asarray(place + self.part * np.clip(step, -LONGEST_STEP_K, LONGEST_STEP_K))


class _Progress:
    """Whether the steps of a solution still become shorter."""

    def __init__(self) -> None:
        self.shortest_k = self.last_k = np.inf
        self.stale = 0

    def went_astray(self, step_k: float) -> bool:
        """Note the step of a round: whether it is much longer than the last."""
        before_k, self.last_k = self.last_k, step_k
        self.stale = 0 if step_k < self.shortest_k / 2 else self.stale + 1
        self.shortest_k = min(self.shortest_k, step_k)
        return step_k > WORSE * before_k

    def asks_for_factors(self, pace: Pace, number: int) -> bool:
        """Whether a round begins with new factors: by its pace, or because the old ones have served for too long."""
        return pace.renews(number) or self.stale >= STALE_ROUNDS


def solve_steady(
    prepared: Prepared, sources: Sources, surroundings: Surroundings, start: SteadyState | None = None,
    settled_k: float = SETTLED_K,
) -> SteadyState:  # fmt: skip
    """Solve for the steady state; ``start`` is a nearby solution of the same enclosure to begin from. With a
    larger ``settled_k`` than usual it ends sooner, on its way, and in and out need not agree yet.

    Raises:
        NotSettledError: the temperatures did not settle within the rounds allowed.
    """
    load = load_of(prepared, sources, surroundings)
    for begun in _beginnings(prepared, surroundings, load, start):
        found, move = _settle(prepared, surroundings, load, *begun, settled_k)
        if found is not None:
            return found
    raise NotSettledError(
        f"No steady state was found: after {SURER[-1].rounds} rounds temperatures still move by {move:.2g} K."
    )


def _beginnings(
    prepared: Prepared, surroundings: Surroundings, load: Load, start: SteadyState | None
) -> Iterator[tuple[Array, Factors | None, Pace]]:
    """Places to begin from, with factors and a pace: the quickest first, the surest last."""
    if start is not None and start.state.prepared.has_matrices_of(prepared):
        yield _start_from(start.state, surroundings), start.factors, NEARBY
    elif start is not None and _alike(start.state.prepared, prepared):
        # Sites that were moved a little, other panels: the temperatures are near, the factors are not.
        yield _start_from(start.state, surroundings), None, NEARBY
    place = _first_guess(prepared, surroundings, load)
    yield place, _reference_factors(prepared), FRESH
    for pace in SURER:
        yield place, None, pace


def _alike(one: Prepared, other: Prepared) -> bool:
    """Whether two enclosures have the same surfaces and zones, though not in the same places."""
    counts = [[surface.counts for surface in prepared.interior.surfaces] for prepared in (one, other)]
    return (
        counts[0] == counts[1]
        and one.zones.centres_x_m.shape == other.zones.centres_x_m.shape
        and (one.zones.centres_z_m.shape == other.zones.centres_z_m.shape)
    )


def _settle(
    prepared: Prepared, surroundings: Surroundings, load: Load, place: Array, factors: Factors | None, pace: Pace,
    settled_k: float,
) -> tuple[SteadyState | None, float]:  # fmt: skip
    """Rounds from a place until nothing moves; None, and the last move, if that does not come about."""
    # Nothing to heat or to cool: the first guess is the answer, and its factors serve.
    is_driven = bool(load.sources) or prepared.evaporates or not surroundings.is_even
    mixer, progress, move, frozen = _Anderson(pace.part, pace.combines), _Progress(), np.inf, None
    for number in range(pace.rounds):
        surface_k, air_k = _split(prepared, place)
        frozen = coefficients_at(prepared, surroundings, load, surface_k, air_k, frozen)
        if factors is None or (is_driven and progress.asks_for_factors(pace, number)):
            factors = Factors.of(prepared, frozen, surface_k)
            mixer.note_renewal(pace)
            progress.stale = 0
        step = np.concatenate(factors.solve(*residual(prepared, surroundings, load, frozen, surface_k, air_k)))
        move = float(np.abs(step).max())
        if move < settled_k and _closes(state := _state(prepared, surroundings, load, frozen, place), settled_k):
            return SteadyState(state, number + 1, move, factors), move
        if pace.is_lost(number, move):
            break
        if progress.went_astray(move):
            mixer.forget()
        place = mixer.next(place, step)
    return None, move


def _closes(state: State, settled_k: float) -> bool:
    """Whether in and out agree, of heat and of water; of what is on its way that is not asked."""
    if settled_k > SETTLED_K:
        return True
    energy, water = energy_of(state), state.moisture
    heat = abs(energy.residual_w) <= max(SETTLED_ENERGY * energy.turned_over_w, ENERGY_DUST_W)
    return heat and abs(water.residual_kg_s) <= max(SETTLED_ENERGY * water.turned_over_kg_s, WATER_DUST_KG_S)


def _split(prepared: Prepared, place: Array) -> tuple[Array, Array]:
    """Surfaces (n,) and air (columns, layers) of all unknowns."""
    n = prepared.interior.patches
    return place[:n], place[n:].reshape(prepared.zones.columns, prepared.zones.layers)


def _state(
    prepared: Prepared, surroundings: Surroundings, load: Load, frozen: Coefficients, place: Array
) -> State:  # fmt: skip
    return State(prepared, surroundings, load, frozen, *_split(prepared, place - ZERO_C_K))


def _factors_at(state: State) -> Factors:
    """Factors at a solution that was kept without its own."""
    surface_k, air_k = state.surface_c + ZERO_C_K, state.air_c + ZERO_C_K
    frozen = coefficients_at(state.prepared, state.surroundings, state.load, surface_k, air_k)
    return Factors.of(state.prepared, frozen, surface_k)


def perturb(
    start: SteadyState, sources: Sources, surroundings: Surroundings, prepared: Prepared | None = None,
    rounds: int = PERTURBATION_ROUNDS,
) -> SteadyState:  # fmt: skip
    """Nearly the steady state of something slightly changed: a few rounds with the factors of a solution.

    For derivatives: it is not settled.
    """
    inside = prepared or start.state.prepared
    load = load_of(inside, sources, surroundings)
    place, mixer, move = _start_from(start.state, surroundings), _Anderson(1.0), np.inf
    factors = start.factors or _factors_at(start.state)
    frozen = None
    for _ in range(rounds):
        surface_k, air_k = _split(inside, place)
        frozen = coefficients_at(inside, surroundings, load, surface_k, air_k, frozen)
        step = np.concatenate(factors.solve(*residual(inside, surroundings, load, frozen, surface_k, air_k)))
        move = float(np.abs(step).max())
        place = mixer.next(place, step)
        if move < PERTURBED_K:
            break
    if frozen is None:
        raise ValueError("a change is followed for at least one round")
    return SteadyState(_state(inside, surroundings, load, frozen, place), rounds, move, factors)


def with_temperatures(steady: SteadyState, sources: Sources, surface_c: Array, air_c: Array) -> SteadyState:
    """A state with other temperatures and what other sources send there: for derivatives, as ``perturb``."""
    state = steady.state
    load = load_of(state.prepared, sources, state.surroundings)
    return replace(steady, state=replace(state, load=load, surface_c=surface_c, air_c=air_c))


def _start_from(start: State, surroundings: Surroundings) -> Array:
    """A nearby solution, carried over to another room: a warmer room warms everything nearly alike."""
    carried = surroundings.room_k - start.surroundings.room_k
    return np.concatenate([start.surface_c, start.air_c.ravel()]) + ZERO_C_K + carried


def _first_guess(prepared: Prepared, surroundings: Surroundings, load: Load) -> Array:
    """One linear solution with the reference coefficients, from the room's temperature everywhere."""
    n, zones = prepared.interior.patches, prepared.zones
    surface_k = np.full(n, surroundings.room_k)
    air_k = np.full((zones.columns, zones.layers), surroundings.room_k)
    frozen = reference_coefficients(prepared, surroundings)
    step = np.concatenate(
        _reference_factors(prepared).solve(*residual(prepared, surroundings, load, frozen, surface_k, air_k))
    )
    return np.asarray(surroundings.room_k + np.clip(step, -LONGEST_STEP_K, LONGEST_STEP_K))


def _reference_factors(prepared: Prepared) -> Factors:
    """Factors to begin from, which go with the enclosure that they are of."""
    known = _REFERENCES.get(prepared)
    if known is None:
        known = _REFERENCES[prepared] = _usual_factors(prepared)
    return known


_REFERENCES: WeakKeyDictionary[Prepared, Factors] = WeakKeyDictionary()


def _usual_factors(prepared: Prepared) -> Factors:
    usual = Surroundings(REFERENCE_ROOM_C)
    surface_k = np.full(prepared.interior.patches, usual.room_k)
    return Factors.of(prepared, reference_coefficients(prepared, usual), surface_k)
