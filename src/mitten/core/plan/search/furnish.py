"""The enclosure before its gear: the keeper's furniture, and what an animal needs where there is none."""

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from mitten.core.catalogue import load_catalogue, read_checked_design, targets_of
from mitten.core.design import BadDesignError, Design
from mitten.core.plan.usual import MOST_OF_A_HIDE, WARM_PLACE, new_site

PLACES = (WARM_PLACE, 0.70, 0.86)
"""Where along the length the basking place may lie, the usual one first."""

Data = dict[str, Any]
NAMES = {"basking": "Basking place", "warm-hide": "Warm hide", "cool-hide": "Cool hide"}


@dataclass(frozen=True)
class Furnished:
    """A design without gear, and what was put in that the keeper did not have."""

    design: Design
    added: tuple[str, ...]


def furnished(design: Design) -> Iterator[Furnished]:
    """The enclosure as the keeper has furnished it; without a basking place, with one in each of a few places."""
    bare = _bare(design)
    if design.basking_site is not None:
        yield Furnished(_read(bare), ())
        return
    for share in PLACES:
        data, added = json.loads(json.dumps(bare)), []
        for role in _missing(design):
            try:
                data = _with_site(data, role, share)
            except BadDesignError:
                continue
            added.append(NAMES[role])
        yield Furnished(_read(data), tuple(added))


def _missing(design: Design) -> list[str]:
    """Roles that the animal needs and no site has; the basking place first."""
    have = {site.role for site in design.sites}
    return [role for role in NAMES if role not in have]


def _bare(design: Design) -> Data:
    """The design's data without sources and controls, with a day as long as the animal wants where none is set."""
    data: Data = design.model_dump(mode="json", exclude_none=True)
    for key in ("heaters", "controls", "lights", "uvb"):
        data[key] = []
    low, high = targets_of(design.animal, load_catalogue().species[design.animal.species]).day_hours
    hours = design.day_hours if design.schedule else round((low + high) / 2)
    data["schedule"] = {"day_start": design.schedule.day_start if design.schedule else "08:00", "day_hours": hours}
    return data


def _with_site(data: Data, role: str, share: float) -> Data:
    design = _read(data)
    site = {"name": NAMES[role], **new_site(design, role)}
    # Three of them with room between, whatever the animal's length: snakes lie coiled.
    site["length_m"] = round(min(site["length_m"], MOST_OF_A_HIDE * design.enclosure.length_m), 2)
    length_m, half_m = design.enclosure.length_m, site["length_m"] / 2
    if role == "basking":
        site["x_m"] = round(min(max(share * length_m, half_m), length_m - half_m), 2)
    data = {**data, "sites": [*data.get("sites", []), site]}
    _read(data)
    return data


def _read(data: Data) -> Design:
    return read_checked_design(json.dumps(data), load_catalogue())
