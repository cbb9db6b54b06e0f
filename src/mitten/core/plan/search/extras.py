"""What a main source may be joined by: heat for the night or for the air all day, a mat under the ground, ultraviolet.

Each comes with what it does in the enclosure on its own, so that combinations are sums.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from mitten.core.catalogue import load_catalogue
from mitten.core.design import LEAST_LAMP_HEIGHT_M, Design
from mitten.core.physics.arrays import Array
from mitten.core.plan.search.brief import Brief
from mitten.core.plan.search.layouts import Layout, layouts_of
from mitten.core.plan.search.responses import FIGURES, Response, at_power, uvi_of
from mitten.core.plan.search.wishes import Wishes
from mitten.core.plan.usual import new_tube

NIGHT_KINDS = ("ceramic-emitter", "carbon-projector", "radiant-panel")
MAT = "heat-mat"
UV_HEIGHTS_M = (0.0, 0.06, 0.12)
IN_FRONT_M, IN_FRONT_OVER_A_MESH_M, FROM_THE_FRONT_M = 0.12, 0.08, 0.06
"""A UV lamp hangs so far in front of the middle, beside the lamps' beams and not in them, and so far from the front.
Over a mesh it is beside them in any case, and needs all it has.
"""


def _no_rise() -> Array:
    return np.zeros(len(FIGURES))


@dataclass(frozen=True)
class Night:
    """What heats by night: nothing, the day's own source, or another, which may hold the air by day too.

    ``rises`` (figures,) are those at full power.
    """

    label: str
    layout: Layout | None = None
    watts: float = 0.0
    all_day: bool = False
    rises: Array = field(default_factory=_no_rise, compare=False, repr=False)

    @property
    def day_rises(self) -> Array:
        """What it can do by day (figures,)."""
        return self.rises if self.all_day else _no_rise()


NOTHING, SAME = Night("nothing"), Night("the same source")


@dataclass(frozen=True)
class Mat:
    """A mat under the ground beside another main source; none where there is no ``layout``."""

    layout: Layout | None = None
    watts: float = 0.0
    rises: Array = field(default_factory=_no_rise, compare=False, repr=False)


NO_MAT = Mat()


@dataclass(frozen=True)
class Ultraviolet:
    """A UV lamp's data, and the index it makes at the basking place; none where ``data`` is empty."""

    data: dict[str, Any] = field(default_factory=dict)
    uvi: float = 0.0


def helping_layouts(design: Design, brief: Brief) -> list[Layout]:
    """Sources that may help a main one: a single one of each kind for the night, in its highest place, and the smallest
    mat for an animal that seeks warmth on the ground.
    """
    if brief.approach == "one-lamp":
        return []
    found = []
    mats = () if Wishes.of(design).from_above else (MAT,)
    for kind in (*NIGHT_KINDS, *mats):
        singles = [one for one in layouts_of(design, kind) if one.count == 1] if kind not in brief.avoid else []
        found += singles[:1] if kind == MAT else singles[-1:]
    return found


def nights_of(responses: Iterable[Response]) -> Iterator[Night]:
    """Night sources, nothing first, each by night alone and all day."""
    yield NOTHING
    for response in responses:
        kind = load_catalogue().sources[response.layout.kind]
        for watts, rises in _at_all_watts(response) if kind.family != "contact" else ():
            for all_day in (False, True):
                yield Night(f"{watts:g} W {kind.label}", response.layout, watts, all_day, rises)


def mats_of(responses: Iterable[Response]) -> Iterator[Mat]:
    """No mat, and one at every power it is sold in."""
    yield NO_MAT
    for response in responses:
        for watts, rises in _at_all_watts(response) if response.layout.family == "contact" else ():
            yield Mat(response.layout, watts, rises)


def _at_all_watts(response: Response) -> Iterator[tuple[float, Array]]:
    """Watts and rises (figures,) of a source at every power it is sold in."""
    for watts in response.layout.watts_sold:
        yield watts, at_power(response, np.array(watts / response.watts))


def ultraviolet_in(design: Design, brief: Brief) -> list[Ultraviolet]:
    """No UV lamp, and every kind at a few heights."""
    found = [Ultraviolet()]
    wants = Wishes.of(design).targets.uvi
    for kind in load_catalogue().uvb if wants[1] > 0 else ():
        for lower_m in UV_HEIGHTS_M if kind not in brief.avoid else ():
            data = {**new_tube(design, kind), "on": "day"}
            if data["above_mesh"] and lower_m:
                continue
            data["z_m"] = round(data["z_m"] - lower_m, 3)
            in_front_m = IN_FRONT_OVER_A_MESH_M if data["above_mesh"] else IN_FRONT_M
            data["y_m"] = round(max(data["y_m"] - in_front_m, FROM_THE_FRONT_M), 3)
            if data["z_m"] >= design.substrate.depth_m + LEAST_LAMP_HEIGHT_M:
                found.append(Ultraviolet(data, uvi_of(design, data)))
    return found
