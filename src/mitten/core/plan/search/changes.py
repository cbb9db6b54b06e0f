"""What would allow a plan where none works, or a better one: changes of the room and of the box."""

import json
from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil
from typing import Any

from mitten.core.catalogue import load_catalogue, read_checked_design
from mitten.core.design import BadDesignError, Design, Site
from mitten.core.judge import assess
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.plan.search.brief import Brief
from mitten.core.plan.search.crew import ALONE, Crew
from mitten.core.plan.search.furnish import PLACES, furnished
from mitten.core.plan.search.missing import own_misses
from mitten.core.plan.search.plan import Plan
from mitten.core.plan.search.screen import Candidate, a_few_of, begun, candidates, layouts_for

MOST_ROOM_K = 8
INSULATION_MM = 30.0
SHALLOW_MM = 20.0
WORTH_SAYING = 0.06
WORTH_MOVING_M = 0.05
Data = dict[str, Any]


@dataclass(frozen=True)
class BoxChange:
    """A change of the box, and the best that the screening finds with it and without it."""

    words: str
    candidate: Candidate
    before: Candidate


def smallest_room_change(plan: Plan) -> str | None:
    """The least change of the room, in whole kelvin, with which a plan that does not work would; None if none does.

    Worked out on the full model with the plan's own setpoints.
    """
    shifts = _shifts_k(plan)
    if not shifts or max(abs(shift) for shift in shifts.values()) > MOST_ROOM_K:
        return None
    data = _data(plan.design)
    rooms = []
    for name, shift in shifts.items():
        season, time = name.split("-")
        data["room"][season][f"{time}_c"] += shift
        rooms.append(f"{data['room'][season][f'{time}_c']:g} °C on a {season} {time}")
    return f"It would work with the room at {' and '.join(rooms)}." if _works(data) else None


def _shifts_k(plan: Plan) -> dict[str, int]:
    """By condition, by how many whole kelvin its worst temperature is too cold (up) or too warm (down)."""
    found: dict[str, int] = {}
    for verdict in own_misses(plan.assessment):
        if verdict.unit != "°C":
            continue
        shift = -ceil(verdict.outside) if verdict.outside > 0 else ceil(-verdict.outside)
        if abs(shift) > abs(found.get(verdict.condition.name, 0)):
            found[verdict.condition.name] = shift
    return found


def _works(data: Data) -> bool:
    """Whether nothing is forbidden or missed in a design."""
    try:
        found = assess(read_checked_design(json.dumps(data), load_catalogue()))
    except (BadDesignError, UnsolvedError):
        return False
    return not found.stops and not own_misses(found)


def box_changes(brief: Brief, crew: Crew = ALONE) -> Iterator[BoxChange]:
    """Changes of the box with which the best plan would be clearly likelier to work, by the screening."""
    unchanged = crew.executor.submit(_best, brief)
    changed = [
        (words, crew.executor.submit(_best, replace(brief, design=design)))
        for words, design in changed_boxes(brief.design)
    ]
    before = unchanged.result()
    for words, future in changed:
        best = future.result()
        if best is not None and before is not None and best.score > before.score + WORTH_SAYING:
            yield BoxChange(words, best, before)


def _best(brief: Brief) -> Candidate | None:
    """The best of a few sources: with and without a change they are the same few."""
    furniture = next(furnished(brief.design))
    box = begun(brief, furniture)
    box.add(a_few_of(layouts_for(brief, furniture)), ALONE)
    kinds = {response.layout.kind for response in box.responses}
    found = [one for kind in kinds for one in candidates(brief, box, kind)]
    return max(found, key=lambda one: one.score, default=None)


def changed_boxes(design: Design) -> Iterator[tuple[str, Design]]:
    """Changes in words, and the design with each."""
    yield from _basking_moved(design)
    data = _data(design)
    panels = data["enclosure"]["panels"]
    for face, panel in panels.items():
        if face not in ("front", "top") and not panel.get("insulation_mm"):
            panel["insulation_mm"] = INSULATION_MM
    yield from _read(f"{INSULATION_MM / 10:g} cm of insulation on the outside of back, ends and floor", data)
    mesh = design.enclosure.lid_mesh
    if mesh is not None and mesh.length_m is None:
        data, box = _data(design), design.enclosure
        half = {
            "length_m": box.length_m / 2,
            "depth_m": box.depth_m,
            "x_m": 0.75 * box.length_m,
            "y_m": box.depth_m / 2,
        }
        data["enclosure"]["lid_mesh"] |= half
        yield from _read("a board over half of the mesh, at the cool end", data)
    if design.substrate.depth_mm > SHALLOW_MM:
        data = _data(design)
        data["substrate"]["depth_mm"] = SHALLOW_MM
        yield from _read(f"the ground only {SHALLOW_MM / 10:g} cm deep", data)


def _basking_moved(design: Design) -> Iterator[tuple[str, Design]]:
    """The keeper's own basking place in the usual places of its end, where nothing else lies."""
    site = design.basking_site
    if site is None:
        return
    length_m, others = design.enclosure.length_m, [one for one in design.sites if one is not site]
    for share in PLACES:
        x_m = share * length_m if site.x_m > length_m / 2 else (1 - share) * length_m
        x_m = round(min(max(x_m, site.length_m / 2), length_m - site.length_m / 2), 2)
        moved = site.model_copy(update={"x_m": x_m})
        if abs(x_m - site.x_m) < WORTH_MOVING_M or any(_meet(moved, other) for other in others):
            continue
        data = _data(design)
        data["sites"][design.sites.index(site)]["x_m"] = x_m
        yield from _read(f"'{site.name}' moved to {x_m * 100:.0f} cm from the left", data)


def _meet(one: Site, other: Site) -> bool:
    """Whether two sites lie over one another in plan."""
    return (
        abs(one.x_m - other.x_m) < (one.length_m + other.length_m) / 2
        and abs(one.y_m - other.y_m) < (one.depth_m + other.depth_m) / 2
    )


def _read(words: str, data: Data) -> Iterator[tuple[str, Design]]:
    try:
        yield words, read_checked_design(json.dumps(data), load_catalogue())
    except BadDesignError:
        return


def _data(design: Design) -> Data:
    return design.model_dump(mode="json", exclude_none=True)
