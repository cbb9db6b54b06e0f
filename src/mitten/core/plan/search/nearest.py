"""Where nothing works: the plans that come nearest, and the single change of the box or the room that mends each."""

from collections.abc import Iterator
from concurrent.futures import Future
from dataclasses import dataclass, replace
from math import ceil

from mitten.core.catalogue import Catalogue, read_data
from mitten.core.design import BadDesignError, Design
from mitten.core.design.amounts import capital, celsius
from mitten.core.design.editing import data_of
from mitten.core.plan.search.crew import ALONE, Crew
from mitten.core.plan.search.search import Progress, class_of
from mitten.core.plan.search.solving.plan import Plan, work_out
from mitten.core.plan.search.wants.boxes import changes_of_box
from mitten.core.plan.search.wants.brief import Brief
from mitten.core.plan.search.wants.furnish import Furnished

NEAREST = 3
MOST_ROOM_K = 8
ROOM_STEPS_K = (0, 1, 2)
"""What a room is warmed or cooled by beyond what is missed: a thermostat in the box answers to the room."""

MENDS = 3


@dataclass(frozen=True)
class Mend:
    """One change of the box or the room, as an instruction, and the plan that works with it."""

    words: str
    plan: Plan


@dataclass(frozen=True)
class Near:
    """A plan that does not work as things are, and what would mend it."""

    plan: Plan
    mends: tuple[Mend, ...]


def nearest(brief: Brief, progress: Progress, crew: Crew = ALONE) -> list[Near]:
    """The plans that come nearest, one of a kind, each with the changes that make it work on the full model."""
    near = _one_of_a_kind(progress, brief.catalogue)
    mends: dict[int, list[Mend]] = {id(plan): [] for plan in near}
    # A room that is a little warmer or cooler still is tried only for plans that the least change does not mend.
    for step in range(len(ROOM_STEPS_K)):
        for plan, mend in _mends(brief, [plan for plan in near if not mends[id(plan)]], step, crew):
            mends[id(plan)].append(mend)
    return [Near(plan, tuple(mends[id(plan)][:MENDS])) for plan in near]


def _mends(brief: Brief, plans: list[Plan], step: int, crew: Crew) -> Iterator[tuple[Plan, Mend]]:
    """Plans with each change that makes them work, all worked out side by side."""
    changes = [(plan, words, design) for plan in plans for words, design in _single_changes(plan, step)]
    begun = [(plan, words, _submit(crew, brief, plan, design)) for plan, words, design in changes]
    for plan, words, future in begun:
        mended = future.result()
        if mended is not None and mended.works:
            yield plan, Mend(words, mended)


def _one_of_a_kind(progress: Progress, catalogue: Catalogue) -> list[Plan]:
    """The best few that do not work, harmless ones first."""
    found: dict[tuple[object, ...], Plan] = {}
    for plan in sorted(progress.rejected, key=lambda one: (bool(one.assessment.stops), -one.score)):
        found.setdefault(class_of(plan.candidate, catalogue), plan)
    return list(found.values())[:NEAREST]


def _submit(crew: Crew, brief: Brief, plan: Plan, design: Design) -> "Future[Plan | None]":
    """The plan's combination, to be worked out in another box or room."""
    furnished = Furnished(design, plan.candidate.furnished.added, plan.candidate.furnished.changes)
    return crew.executor.submit(work_out, brief, replace(plan.candidate, furnished=furnished))


def _single_changes(plan: Plan, step: int) -> Iterator[tuple[str, Design]]:
    """Single changes that might mend a plan: the room a little warmer or cooler, and at first the box."""
    yield from _rooms(plan, ROOM_STEPS_K[step])
    for change in (
        changes_of_box(plan.candidate.furnished.design, plan.assessment.catalogue).values() if step == 0 else ()
    ):
        yield capital(change.words), change.design


ROOM = "Keep the room"


def _rooms(plan: Plan, more_k: int) -> Iterator[tuple[str, Design]]:
    shifts = {name: shift + (more_k if shift > 0 else -more_k) for name, shift in shifts_k(plan).items()}
    if shifts and max(abs(shift) for shift in shifts.values()) <= MOST_ROOM_K:
        yield from _room(plan.candidate.furnished.design, plan.assessment.catalogue, shifts)


def _room(design: Design, catalogue: Catalogue, shifts: dict[str, int]) -> Iterator[tuple[str, Design]]:
    data = data_of(design)
    rooms = []
    for name, shift in shifts.items():
        season, time = name.split("-")
        data["room"][season][f"{time}_c"] += shift
        limit = "at least" if shift > 0 else "at most"
        rooms.append(f"{limit} {celsius(data['room'][season][f'{time}_c'])} on a {season} {time}")
    try:
        yield f"{ROOM} {' and '.join(rooms)}", read_data(data, catalogue)
    except BadDesignError:
        return


def shifts_k(plan: Plan) -> dict[str, int]:
    """By condition, by how many whole kelvin its worst temperature is beyond what is borne: too cold (up) or too warm
    (down).
    """
    found: dict[str, int] = {}
    for verdict in plan.assessment.missed:
        if verdict.unit != "°C" or verdict.condition.is_usual:
            continue
        shift = -ceil(verdict.beyond) if verdict.beyond > 0 else ceil(-verdict.beyond)
        if abs(shift) > abs(found.get(verdict.condition.name, 0)):
            found[verdict.condition.name] = shift
    return found
