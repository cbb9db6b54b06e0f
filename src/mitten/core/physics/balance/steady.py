"""The steady state: the temperatures at which every patch and every air zone gains what it loses.

Each round solves the linear system with films and flows frozen at the last temperatures; the steps of the last rounds
are combined so that their gaps cancel best (Anderson 1965). Usually factors are renewed in the first rounds and kept
after that, which is quick. Where that does not settle - small boxes with much power, whose flows turn from round to
round - the solution begins again at a slower pace: factors of its own for every round, and a part of each step.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from weakref import WeakKeyDictionary

import numpy as np

from mitten.core.design import MittenError
from mitten.core.physics.air.moisture import Moisture
from mitten.core.physics.air.ventilation import AirExchange
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.balance import (
    Coefficients,
    Energy,
    Factors,
    Surroundings,
    coefficients_at,
    energy_of,
    gaps,
    reference_coefficients,
)
from mitten.core.physics.balance.contact import ContactLoad
from mitten.core.physics.balance.load import Landing, Load, load_of
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.constants import ZERO_C_K
from mitten.core.physics.radiation.exchange import Absorbed
from mitten.core.physics.radiation.lamps import Deposit, Lamp
from mitten.core.physics.radiation.sources import Sources

SETTLED_K = 0.01
"""A solution is settled when no temperature moves by more than this in a whole round."""

SETTLED_ENERGY = 1e-3
"""And when energy in and out agree within this share of the input,"""

ENERGY_DUST_W = 1e-4
"""or within this, where there is no input to speak of."""

WATER_DUST_KG_S = 1e-12
"""The same of water, where next to none is turned over."""

RENEW_EVERY = 15
"""Factors that are kept are renewed again should the solution not have settled after so many rounds."""

NUDGE_ROUNDS = 3
NUDGED_K = 0.1
"""A small change to a settled state is followed so many rounds, or until nothing moves by more than this."""

FAR_K = 3.0
"""A solution that begins with a longer step than this is not nearby, and the factors it brought are no good."""

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
        return self.renewed is None or number in self.renewed or number % RENEW_EVERY == RENEW_EVERY - 1

    def after(self, number: int, step_k: float) -> "Pace":
        """A solution that begins with a long step is not nearby, and goes on like a fresh one."""
        return FRESH if self is NEARBY and number == 0 and step_k > FAR_K else self


NEARBY = Pace(24, ())
FRESH = Pace(24, (1,))
SURER = (Pace(60, None, 0.5), Pace(60, None, 0.5, False), Pace(150, None, 0.2), Pace(150, None, 0.2, False))
"""Paces for a solution begun nearby with factors of its own, for a fresh one, and for those that do not settle."""


class UnsolvedError(MittenError):
    """The model has no answer for a design in a condition."""


class NotSettledError(UnsolvedError):
    """The model found no steady state for this design."""


@dataclass(frozen=True, eq=False)
class SteadyState:
    """Temperatures in °C and what they came from.

    ``surface_c`` (n,), ``air_c`` (columns, layers), ``film_w_m2k`` (n,); ``deposits`` in the order of the sources'
    lamps, ``contacts`` in that of their contact sources.
    ``rounds`` and ``last_move_k`` say how the solution settled. ``factors`` are those of its last rounds, for a
    solution begun from this one; they are large, and ``without_factors`` is what to keep.
    """

    prepared: Prepared
    surroundings: Surroundings
    surface_c: Array
    air_c: Array
    film_w_m2k: Array
    sources: Sources
    deposits: tuple[Deposit, ...]
    contacts: tuple[ContactLoad, ...]
    absorbed: Absorbed
    landings: tuple[Landing, ...]
    exchange: AirExchange
    moisture: Moisture
    energy: Energy
    rounds: int
    last_move_k: float
    factors: Factors | None

    @property
    def lamps(self) -> tuple[Lamp, ...]:
        """Everything that radiates."""
        return self.sources.lamps


def without_factors(state: SteadyState) -> SteadyState:
    """The same state without what only a next solution needs."""
    return replace(state, factors=None)


def with_factors(state: SteadyState) -> SteadyState:
    """The state with factors at its temperatures, for solutions begun from it."""
    return state if state.factors is not None else replace(state, factors=_factors_at(state))


class _Anderson:
    """Combines the last steps so that what remains of the gaps is least (Anderson 1965)."""

    def __init__(self, part: float) -> None:
        self.part = part
        self.places: list[Array] = []
        self.steps: list[Array] = []

    def renewed(self, pace: Pace) -> None:
        """Factors were renewed: where they are kept for some rounds, steps of others do not go with theirs."""
        if pace.renewed is not None:
            self.forget()

    def forget(self) -> None:
        """Begin combining anew."""
        self.places.clear()
        self.steps.clear()

    def next(self, place: Array, step: Array) -> Array:
        """Where to go from a place with that step."""
        self.places = [*self.places[-REMEMBERED:], place]
        self.steps = [*self.steps[-REMEMBERED:], step]
        if len(self.steps) == 1:
            return self._along(place, step)
        step_changes = np.diff(self.steps, axis=0).T
        place_changes = np.diff(self.places, axis=0).T
        weights = np.linalg.lstsq(step_changes, step, rcond=1e-10)[0]
        combined = self.part * step - (place_changes + self.part * step_changes) @ weights
        return np.asarray(place + np.clip(combined, -LONGEST_STEP_K, LONGEST_STEP_K))

    def _along(self, place: Array, step: Array) -> Array:
        return np.asarray(place + self.part * np.clip(step, -LONGEST_STEP_K, LONGEST_STEP_K))


def solve_steady(
    prepared: Prepared, sources: Sources, surroundings: Surroundings, start: SteadyState | None = None
) -> SteadyState:
    """Solve for the steady state; ``start`` is a nearby solution of the same enclosure to begin from.

    Raises:
        NotSettledError: the temperatures did not settle within the rounds allowed.
    """
    load = load_of(prepared, sources, surroundings.room_k)
    for begun in _beginnings(prepared, surroundings, load, start):
        found, move = _settle(prepared, surroundings, load, *begun)
        if found is not None:
            return found
    raise NotSettledError(
        f"No steady state was found: after {SURER[-1].rounds} rounds temperatures still move by {move:.2g} K."
    )


def _beginnings(
    prepared: Prepared, surroundings: Surroundings, load: Load, start: SteadyState | None
) -> Iterator[tuple[Array, Factors | None, Pace]]:
    """Places to begin from, with factors and a pace: the quickest first, the surest last."""
    if start is not None and start.prepared.has_matrices_of(prepared):
        yield _start_from(start, surroundings), start.factors, NEARBY
    elif start is not None and _alike(start.prepared, prepared):
        # Sites that were moved a little, other panels: the temperatures are near, the factors are not.
        yield _start_from(start, surroundings), None, NEARBY
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
    prepared: Prepared, surroundings: Surroundings, load: Load, place: Array, factors: Factors | None, pace: Pace
) -> tuple[SteadyState | None, float]:
    """Rounds from a place until nothing moves; None, and the last move, if that does not come about."""
    n, shape = prepared.interior.patches, (prepared.zones.columns, prepared.zones.layers)
    # Nothing to heat or to cool: the first guess is the answer, and its factors serve.
    lively = bool(load.sources) or prepared.evaporates
    mixer, move, frozen = _Anderson(pace.part), np.inf, None
    for number in range(pace.rounds):
        surface_k, air_k = place[:n], place[n:].reshape(shape)
        frozen = coefficients_at(prepared, surroundings, load, surface_k, air_k, frozen)
        if factors is None or (lively and pace.renews(number)):
            factors = Factors.of(prepared, frozen, surface_k)
            mixer.renewed(pace)
        step = np.concatenate(factors.solve(*gaps(prepared, surroundings, load, frozen, surface_k, air_k)))
        before, move = move, float(np.abs(step).max())
        if move < SETTLED_K:
            energy = energy_of(prepared, surroundings, load, frozen, surface_k, air_k)
            if _closes(energy, frozen.moisture):
                return _state(prepared, surroundings, load, frozen, energy, place, number + 1, move, factors), move
        pace = pace.after(number, move)
        if move > WORSE * before or not pace.combines:
            mixer.forget()
        place = mixer.next(place, step)
    return None, move


def _closes(energy: Energy, water: Moisture) -> bool:
    """Whether in and out agree, of heat and of water."""
    heat = abs(energy.residual_w) <= max(SETTLED_ENERGY * energy.in_w, ENERGY_DUST_W)
    return heat and abs(water.residual_kg_s) <= max(SETTLED_ENERGY * water.turned_over_kg_s, WATER_DUST_KG_S)


def _state(
    prepared: Prepared, surroundings: Surroundings, load: Load, frozen: Coefficients, energy: Energy, place: Array,
    rounds: int, move: float, factors: Factors,
) -> SteadyState:  # fmt: skip
    n, shape = prepared.interior.patches, (prepared.zones.columns, prepared.zones.layers)
    celsius = place - ZERO_C_K
    film_w_m2k = frozen.film_w_k / np.maximum(prepared.convecting_m2, 1e-12)
    return SteadyState(
        prepared, surroundings, celsius[:n], celsius[n:].reshape(shape), film_w_m2k, load.sources, load.deposits,
        load.contacts, load.absorbed, load.landings, frozen.exchange, frozen.moisture, energy, rounds, move, factors,
    )  # fmt: skip


def _factors_at(state: SteadyState) -> Factors:
    """Factors at a solution that was kept without its own."""
    surface_k, air_k = state.surface_c + ZERO_C_K, state.air_c + ZERO_C_K
    load = load_of(state.prepared, state.sources, state.surroundings.room_k)
    frozen = coefficients_at(state.prepared, state.surroundings, load, surface_k, air_k)
    return Factors.of(state.prepared, frozen, surface_k)


def nudge(
    start: SteadyState, sources: Sources, surroundings: Surroundings, prepared: Prepared | None = None,
    rounds: int = NUDGE_ROUNDS,
) -> SteadyState:  # fmt: skip
    """Nearly the steady state of something slightly changed: a few rounds with the factors of a solution.

    For derivatives: it is not settled, and its energy is that of the solution it came from.
    """
    inside = prepared or start.prepared
    load = load_of(inside, sources, surroundings.room_k)
    n, shape = inside.interior.patches, (inside.zones.columns, inside.zones.layers)
    place, mixer, move = _start_from(start, surroundings), _Anderson(1.0), np.inf
    factors = start.factors or _factors_at(start)
    frozen = None
    for _ in range(rounds):
        surface_k, air_k = place[:n], place[n:].reshape(shape)
        frozen = coefficients_at(inside, surroundings, load, surface_k, air_k, frozen)
        step = np.concatenate(factors.solve(*gaps(inside, surroundings, load, frozen, surface_k, air_k)))
        move = float(np.abs(step).max())
        place = mixer.next(place, step)
        if move < NUDGED_K:
            break
    if frozen is None:
        raise ValueError("a nudge takes at least one round")
    return _state(inside, surroundings, load, frozen, start.energy, place, rounds, move, factors)


def carried(state: SteadyState, sources: Sources, surface_c: Array, air_c: Array) -> SteadyState:
    """A state with other temperatures and what other sources send there: for derivatives, as ``nudge``."""
    load = load_of(state.prepared, sources, state.surroundings.room_k)
    return replace(
        state, sources=sources, deposits=load.deposits, contacts=load.contacts, absorbed=load.absorbed,
        landings=load.landings,
        surface_c=surface_c, air_c=air_c,
    )  # fmt: skip


def _start_from(start: SteadyState, surroundings: Surroundings) -> Array:
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
        _reference_factors(prepared).solve(*gaps(prepared, surroundings, load, frozen, surface_k, air_k))
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
