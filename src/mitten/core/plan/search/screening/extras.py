"""What a main source may be joined by: heat for the night or for the air all day, a mat under the ground, ultraviolet.

Each comes with what it does in the enclosure on its own, so that combinations are sums.
"""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.design import TOUCHING_M, BadDesignError, Design
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.plan.search.screening.layouts import (
    APART_M,
    Layout,
    is_out_of_place,
    layouts_of,
    wall_mats,
)
from mitten.core.plan.search.screening.probing import towards_the_middle
from mitten.core.plan.search.screening.responses import Enclosed, Response, at_power, uvi_of
from mitten.core.plan.search.wants.boxes import LOW_BOX_M, is_cold
from mitten.core.plan.search.wants.brief import Brief
from mitten.core.plan.search.wants.figures import COOL_AIR, FIGURES, LEAST_RISE_K, UVI
from mitten.core.plan.search.wants.wishes import Wishes
from mitten.core.plan.usual import lies_at_m, new_tube
from mitten.core.plan.usual_box import lives_in_trees

NIGHT_KINDS = ("ceramic-emitter", "carbon-projector", "radiant-panel")
MAT, PAIRED = "heat-mat", "ceramic-emitter"
SECOND_AWAY = 0.35
"""How far the second of a pair hangs from the first, as a share of the length, not past the middle."""

UV_CLEAR_M = (0.18, 0.23, 0.28, 0.34, 0.42, 0.52, 0.65)
"""Heights of a UV lamp over the animal's back that are tried inside."""

ON_THE_MESH_M, UNDER_THE_LID_M = 0.02, 0.03
UV_SHARE = 0.62
"""A tube is the longest that is sold of at most this share of the box's length: the other end stays shaded."""

UV_LAMPS = 2
"""UV lamps that are gone on with: the most suitable ones."""

A_HOLE_FOR_UV = 0.02
A_METRE_LOW = 0.4
"""Taken off for each metre that a UV lamp hangs under the lid: a stronger one up there does the same."""

A_UVI = 0.03
IN_FRONT_M, IN_FRONT_OVER_A_MESH_M, FROM_THE_FRONT_M = 0.12, 0.08, 0.06
"""A UV lamp hangs so far in front of the middle, beside the lamps' beams and not in them, and so far from the front.
Over a mesh it is beside them in any case, and needs all it has.
"""

OF_ITS_POWER = 0.2
"""A source of which the coldest night or day needs less than this share is too strong for its work."""


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

    def of(self, watts: float) -> "Night":
        """The same source, of another power."""
        label = _label(self.layout, watts) if self.layout else self.label
        return replace(self, label=label, watts=watts, rises=self.rises * (watts / self.watts))


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
    """A UV lamp's data, its index at the basking place, and what its heat does; none where ``data`` is empty."""

    data: dict[str, Any] = field(default_factory=dict)
    uvi: float = 0.0
    rises: Array = field(default_factory=_no_rise, compare=False, repr=False)


def helping_layouts(design: Design, brief: Brief) -> list[Layout]:
    """Sources that may help a main one: a single one of each kind for the night, where it works - on the mesh, else
    high under the lid - and the smallest mat for an animal that seeks warmth on the ground, one on the wall for what
    lives in trees or in a low box.
    """
    if brief.approach == "one-lamp":
        return []
    found = []
    mats = () if Wishes.of(design, brief.catalogue).from_above else (MAT,)
    sources = brief.catalogue.sources
    for kind in (name for name in (*NIGHT_KINDS, *mats) if not is_out_of_place(design, sources[name])):
        singles = (
            [one for one in layouts_of(design, brief.catalogue, kind) if one.count == 1]
            if kind not in brief.avoid
            else []
        )
        found += singles[:1] if kind == MAT else _where_it_works(design, brief.catalogue, singles)
    if _wants_warm_walls(design, brief.catalogue) and MAT not in brief.avoid:
        found += wall_mats(design, brief.catalogue, MAT)
    return [*found, *_pairs(design, brief.catalogue, found)]


def _wants_warm_walls(design: Design, catalogue: Catalogue) -> bool:
    """Whether the air is warmed best by a wall: for what lives in trees, and where nothing that hangs has room."""
    is_low = design.enclosure.height_m - design.substrate.depth_m < LOW_BOX_M
    return is_low or lives_in_trees(catalogue.species[design.animal.species])


def _pairs(design: Design, catalogue: Catalogue, found: Sequence[Layout]) -> Iterator[Layout]:
    """In a cold room a second emitter of the same kind over the middle: one end's heat does not reach the other."""
    for layout in found if is_cold(design, catalogue) else ():
        one = layout.heaters[0]
        x_m = round(towards_the_middle(design, one["x_m"], SECOND_AWAY * design.enclosure.length_m), 3)
        if layout.kind == PAIRED and abs(x_m - one["x_m"]) >= APART_M and _is_open(design, one, x_m):
            yield replace(layout, heaters=(one, {**one, "x_m": x_m}))


def _is_open(design: Design, heater: dict[str, Any], x_m: float) -> bool:
    """Whether a lamp there would hang inside, or over the part of the mesh that is open."""
    mesh = design.enclosure.lid_mesh
    if mesh is None or mesh.x_m is None or mesh.length_m is None or not heater.get("above_mesh"):
        return True
    return abs(x_m - mesh.x_m) <= mesh.length_m / 2


def _where_it_works(design: Design, catalogue: Catalogue, singles: Sequence[Layout]) -> list[Layout]:
    """On the mesh, but as high over it as may be for an animal that climbs to it; high under the lid where there is no
    mesh, and in a cold room, where what warms the room is missed inside.
    """
    on_it = [one for one in singles if one.heaters[0].get("above_mesh")]
    inside = [one for one in singles if one not in on_it][-1:]
    climbs = catalogue.species[design.animal.species].climbs == "strong"
    suiting = on_it[-1:] if climbs else on_it[:1]
    return [*suiting, *inside] if is_cold(design, catalogue) else suiting or inside


def nights_of(responses: Iterable[Response], wishes: Wishes) -> Iterator[Night]:
    """Night sources, nothing first, each by night alone and all day; only those that have something to do."""
    yield NOTHING
    night_k, day_k = wishes.night_missing_k(), max(wishes.warm_aim_c - wishes.by_day_c[0], 0.0)
    for response in responses:
        layout = response.layout
        for watts, rises in _at_all_watts(response) if not layout.warms_from_below else ():
            label = _label(layout, watts)
            if _burns_by_night(response, watts, wishes):
                continue
            if night_k > OF_ITS_POWER * rises[COOL_AIR]:
                yield Night(label, layout, watts, False, rises)
            if max(night_k, day_k) > OF_ITS_POWER * rises[COOL_AIR]:
                yield Night(label, layout, watts, True, rises)


def _burns_by_night(response: Response, watts: float, wishes: Wishes) -> bool:
    """Whether a source, at the least that the coldest night takes of it, is too hot for what lies or stands near it."""
    if response.heated is None:
        return False
    full = watts / response.watts
    cool_k = max(at_power(response, np.array(full))[COOL_AIR], LEAST_RISE_K)
    return response.heated.is_too_hot(wishes.by_night_c[0], full * min(wishes.night_needed_k() / cool_k, 1.0))


def _label(layout: Layout, watts: float) -> str:
    """A helper in words: ``2 × 60 W ceramic emitter``."""
    many = "" if layout.count == 1 else f"{layout.count} × "
    where = f" {layout.where}" if layout.is_on_a_wall else ""
    return f"{many}{watts:g} W {layout.source.label}{where}"


def mats_of(responses: Iterable[Response]) -> Iterator[Mat]:
    """No mat, and one at every other power it is sold in: its thermostat takes what it needs of it."""
    yield NO_MAT
    for response in responses:
        for watts, rises in list(_at_all_watts(response))[::2] if response.layout.warms_from_below else ():
            yield Mat(response.layout, watts, rises)


def _at_all_watts(response: Response) -> Iterator[tuple[float, Array]]:
    """Watts and rises (figures,) of a source at every power it is sold in."""
    for watts in response.layout.watts_sold:
        yield watts, at_power(response, np.array(watts / response.watts))


def ultraviolet_in(design: Design, brief: Brief) -> list[Ultraviolet]:
    """No UV lamp, and the few that suit best: of every strength, on the mesh or inside at several heights."""
    wishes = Wishes.of(design, brief.catalogue)
    if wishes.targets.uvi[1] <= 0:
        return [Ultraviolet()]
    tried = [one for place in _uv_places(design, brief) for one in _of_all_strengths(design, brief, place)]
    if wishes.targets.uvi[0] <= 0:
        # Where none is needed, only what is gentle enough is any good.
        tried = [one for one in tried if one.uvi <= wishes.targets.uvi[1]]
    best = sorted(tried, key=lambda one: _unsuiting(wishes, brief, one))[:UV_LAMPS]
    return [Ultraviolet(), *_with_rises(Enclosed(design, brief.catalogue), best)]


def _with_rises(enclosed: Enclosed, lamps: Iterable[Ultraviolet]) -> Iterator[Ultraviolet]:
    """Lamps with what their heat does, which is nearly the same at every height; those that do not fit are left out."""
    known: dict[tuple[object, ...], Array] = {}
    for one in lamps:
        alike = one.data["watts"], one.data["above_mesh"]
        try:
            if alike not in known:
                known[alike] = enclosed.rises_of_lamp(one.data)
        except (BadDesignError, UnsolvedError):
            continue
        rises = known[alike].copy()
        rises[UVI] = one.uvi
        yield replace(one, rises=rises)


def _unsuiting(wishes: Wishes, brief: Brief, one: Ultraviolet) -> float:
    """What speaks against a UV lamp: a wrong index, a hole, cords to hang it low in the box, that it must be bought."""
    inside, low_m = not one.data["above_mesh"], max(brief.design.enclosure.height_m - one.data["z_m"], 0.0)
    off = abs(one.uvi - sum(wishes.targets.uvi) / 2)
    wrong = 1.0 - float(wishes.uv_chance(np.array(one.uvi))) + A_UVI * off
    bought = brief.owns(one.data["lamp"], one.data["watts"]) == 0
    price = (1.0 if brief.only_owned else A_HOLE_FOR_UV) * bought
    return float(wrong + A_METRE_LOW * low_m + A_HOLE_FOR_UV * inside + price)


def _of_all_strengths(design: Design, brief: Brief, place: dict[str, Any]) -> Iterator[Ultraviolet]:
    """A lamp of that form in every strength that harms nobody under it: the index goes with the strength."""
    per_one, most = (
        uvi_of(design, brief.catalogue, {**place, "uvi_at_30cm": 1.0}),
        Wishes.of(design, brief.catalogue).targets.bears("uvi")[1],
    )
    kinds = brief.catalogue.uvb
    for name, kind in kinds.items():
        if kind.tube == kinds[place["lamp"]].tube and name not in brief.avoid:
            data, strength = {**place, "lamp": name, "uvi_at_30cm": kind.uvi_at_30cm}, kind.uvi_at_30cm
            if per_one.under * strength <= most:
                yield Ultraviolet(data, per_one.basking * strength)


def _uv_places(design: Design, brief: Brief) -> Iterator[dict[str, Any]]:
    """Tubes and compact lamps on the mesh, and inside at several heights over the basking place."""
    species, box = brief.catalogue.species[design.animal.species], design.enclosure
    back_m = lies_at_m(design) + species.back_m.at(design.animal.stage)
    for kind in ("uvb-tube", "uvb-compact"):
        for watts in _uv_watts(design, brief, kind):
            data = _uv_lamp(design, brief.catalogue, kind, watts)
            if box.lid_mesh is not None or box.open_top:
                y_m = max(data["y_m"] - IN_FRONT_OVER_A_MESH_M, FROM_THE_FRONT_M)
                yield {**data, "above_mesh": True, "y_m": round(y_m, 3), "z_m": round(box.height_m + ON_THE_MESH_M, 3)}
            under_lid_m = box.height_m - UNDER_THE_LID_M - back_m
            for clear_m in () if box.open_top else sorted({*UV_CLEAR_M, round(under_lid_m, 3)}):
                z_m, y_m = round(back_m + clear_m, 3), max(data["y_m"] - IN_FRONT_M, FROM_THE_FRONT_M)
                if UV_CLEAR_M[0] <= clear_m <= under_lid_m + TOUCHING_M:
                    yield {**data, "above_mesh": False, "y_m": round(y_m, 3), "z_m": z_m}


def _uv_watts(design: Design, brief: Brief, kind: str) -> list[float]:
    """The wattage that suits the box, and what is owned."""
    sold = brief.catalogue.uvb[kind]
    lengths = sold.lengths_m or (0.0,) * len(sold.watts_sold)
    most_m = UV_SHARE * design.enclosure.length_m
    fitting = [(long_m, watts) for long_m, watts in zip(lengths, sold.watts_sold, strict=True) if long_m <= most_m]
    suits = [max(fitting)[1] if sold.tube else sold.watts_sold[0]] if fitting else []
    tubes = {name for name, one in brief.catalogue.uvb.items() if one.tube == sold.tube}
    return list(dict.fromkeys([*suits, *(one.watts for one in brief.owned if one.kind in tubes)]))


def _uv_lamp(design: Design, catalogue: Catalogue, kind: str, watts: float) -> dict[str, Any]:
    """A lamp over the basking place, not past the ends of the box."""
    data = {**new_tube(design, catalogue, kind), "watts": watts, "on": "day"}
    sold = catalogue.uvb[kind]
    if sold.tube:
        length_m = dict(zip(sold.watts_sold, sold.lengths_m, strict=False)).get(watts, data["length_m"])
        length_m = min(length_m, design.enclosure.length_m)
        x_m = min(max(data["x_m"], length_m / 2), design.enclosure.length_m - length_m / 2)
        data |= {"length_m": round(length_m, 3), "x_m": round(x_m, 4)}
    return data
