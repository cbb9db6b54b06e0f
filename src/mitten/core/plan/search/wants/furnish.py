"""The enclosure before its gear: the keeper's furniture, what an animal needs beside it, changes of the box."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from mitten.core.catalogue import Catalogue, Species, read_data, targets_of
from mitten.core.design import BadDesignError, Design
from mitten.core.design.editing import Data, copy_of, data_of
from mitten.core.judge.reach import STEP_OF_LENGTH
from mitten.core.plan.search.wants.boxes import changes_of_box, is_cold, wants_damp
from mitten.core.plan.usual import MOST_OF_A_HIDE, WARM_PLACE, new_site
from mitten.core.plan.usual_box import lives_in_trees

FAR_PLACE = 0.86
"""Where along the length the basking place may lie, other than in the usual place."""

BRANCH_SHARES = (0.58, 0.72, 0.45)
"""Heights of a branch, as shares of the room over the ground."""

UNDER_A_LID_M, UNDER_A_MESH_M = 0.31, 0.20
"""What is left over a branch: under a solid lid for a lamp inside and its distance, under a mesh for the distance."""

LOW_BOX_M = 0.30
"""With less room than this over the ground nothing is raised."""

LEDGE_SHARE = 0.35
LEAST_LEDGE_M = 0.06
HIGHEST_LEDGE_M = 0.25
UNDER_A_STEP = 0.9
"""A ledge is lower than the highest step that the animal takes by so much."""

BRANCH_MM = 40.0
DAMP, WET = "keep part of the ground damp", "keep part of the ground wet"
ROLES = {"basking": "Basking place", "warm-hide": "Warm hide", "cool-hide": "Cool hide"}


@dataclass(frozen=True)
class Furnished:
    """A design without gear, what was put in that the keeper did not have, and what of the box is changed, in words."""

    design: Design
    added: tuple[str, ...]
    changes: tuple[str, ...] = ()


@dataclass(frozen=True)
class _Arrangement:
    """Where along the length and how high the basking place is put, and a change of the box."""

    place: float = WARM_PLACE
    top_m: float | None = None
    change: str | None = None


def furnish(design: Design, catalogue: Catalogue) -> Iterator[Furnished]:
    """The enclosure as the keeper has furnished it, what is missing in its usual place first; then with the basking
    place higher or elsewhere, where it is not the keeper's own, and with changes of the box.
    """
    bare, seen = _bare(design, catalogue), []
    for arrangement in _arrangements(design, catalogue):
        try:
            found = _furnish_in(bare, arrangement, catalogue)
        except BadDesignError:
            continue
        if found is not None and found.design not in seen:
            seen.append(found.design)
            yield found


def _arrangements(design: Design, catalogue: Catalogue) -> Iterator[_Arrangement]:
    """The usual one, then others, those that change the box last."""
    if design.basking_site is not None:
        yield _Arrangement()
        yield from (_Arrangement(change=change) for change in changes_of_box(design, catalogue))
        return
    first, *others = _heights_m(design, catalogue)
    higher = [_Arrangement(top_m=top_m) for top_m in others]
    changed = [_Arrangement(top_m=first, change=change) for change in changes_of_box(design, catalogue)]
    yield _Arrangement(top_m=first)
    if is_cold(design, catalogue):
        # What holds the warmth comes before a higher place, the most of it first.
        yield from (*reversed(changed), *higher)
    else:
        yield from (*higher, *changed)
    yield _Arrangement(FAR_PLACE, first)


def _heights_m(design: Design, catalogue: Catalogue) -> list[float | None]:
    """Heights of the basking place's top over the floor panel, the usual one first; None is a slab on the ground."""
    species, box, ground_m = catalogue.species[design.animal.species], design.enclosure, design.substrate.depth_m
    room_m = box.height_m - ground_m
    if lives_in_trees(species) and room_m >= LOW_BOX_M:
        is_open = box.lid_mesh is not None or box.open_top
        most_m = box.height_m - (UNDER_A_MESH_M if is_open else UNDER_A_LID_M)
        return list(dict.fromkeys(round(min(ground_m + share * room_m, most_m), 2) for share in BRANCH_SHARES))
    return [None, *_ledges_m(design, species)]


def _ledges_m(design: Design, species: Species) -> list[float | None]:
    """A ledge that the animal gets up to, where there is room for one."""
    ground_m, stage = design.substrate.depth_m, design.animal.stage
    room_m = design.enclosure.height_m - ground_m
    step_m = UNDER_A_STEP * STEP_OF_LENGTH[species.climbs] * species.body_length_m(stage)
    ledge_m = min(LEDGE_SHARE * room_m, step_m, HIGHEST_LEDGE_M)
    fits = room_m >= LOW_BOX_M and species.climbs != "none" and ledge_m > LEAST_LEDGE_M
    return [round(ground_m + ledge_m, 2)] if fits else []


def _furnish_in(bare: Data, arrangement: _Arrangement, catalogue: Catalogue) -> Furnished | None:
    """The enclosure in one arrangement; None where a change of the box is none here."""
    data, added, changes = copy_of(bare), [], []
    if arrangement.change is not None:
        change = changes_of_box(_read(data, catalogue), catalogue)[arrangement.change]
        data, changes = data_of(change.design), [change.words]
    if _made_damp(data, catalogue):
        changes.append(DAMP)
    for role in _missing(_read(data, catalogue), catalogue) if _read(data, catalogue).basking_site is None else ():
        try:
            data = _with_site(data, catalogue, role, arrangement)
        except BadDesignError:
            continue
        added.append(ROLES[role])
    return Furnished(_read(data, catalogue), tuple(added), tuple(changes))


def _made_damp(data: Data, catalogue: Catalogue) -> bool:
    """Make dry ground damp for an animal that wants humid air."""
    design = _read(data, catalogue)
    if design.substrate.moisture != "dry" or not wants_damp(design, catalogue):
        return False
    data["substrate"]["moisture"] = "damp"
    return True


def _missing(design: Design, catalogue: Catalogue) -> list[str]:
    """Roles that the animal needs and no site has; the basking place first. What lives in trees hides among leaves."""
    have = {site.role for site in design.sites}
    species = catalogue.species[design.animal.species]
    roles = ["basking"] if lives_in_trees(species) and species.group != "snake" else list(ROLES)
    return [role for role in roles if role not in have]


def _bare(design: Design, catalogue: Catalogue) -> Data:
    """The design's data without sources and controls, with a day as long as the animal wants where none is set."""
    data = data_of(design)
    for key in ("heaters", "controls", "lights", "uvb"):
        data[key] = []
    low, high = targets_of(design.animal, catalogue.species[design.animal.species]).day_hours
    hours = design.day_hours if design.schedule else round((low + high) / 2)
    data["schedule"] = {"day_start": design.schedule.day_start if design.schedule else "08:00", "day_hours": hours}
    return data


def _with_site(data: Data, catalogue: Catalogue, role: str, arrangement: _Arrangement) -> Data:
    design = _read(data, catalogue)
    site = {"name": ROLES[role], **new_site(design, catalogue, role)}
    # Three of them with room between, whatever the animal's length: snakes lie coiled.
    site["length_m"] = round(min(site["length_m"], MOST_OF_A_HIDE * design.enclosure.length_m), 2)
    if role == "basking":
        site |= _basking(design, catalogue, site, arrangement)
    data = {**data, "sites": [*data.get("sites", []), site]}
    _read(data, catalogue)
    return data


def _basking(design: Design, catalogue: Catalogue, site: Data, arrangement: _Arrangement) -> Data:
    """Where a basking place lies: a slab on the ground or on stones, a branch for what lives in trees."""
    length_m, half_m = design.enclosure.length_m, site["length_m"] / 2
    place: dict[str, Any] = {"x_m": round(min(max(arrangement.place * length_m, half_m), length_m - half_m), 2)}
    if arrangement.top_m is None:
        return place
    if lives_in_trees(catalogue.species[design.animal.species]):
        place |= {"name": "Basking branch", "material": "hardwood", "thickness_mm": BRANCH_MM}
    else:
        place["name"] = "Basking ledge"
    thick_m = {**site, **place}["thickness_mm"] / 1000
    return {**place, "z_m": round(arrangement.top_m - thick_m, 3)}


def _read(data: Data, catalogue: Catalogue) -> Design:
    return read_data(data, catalogue)
