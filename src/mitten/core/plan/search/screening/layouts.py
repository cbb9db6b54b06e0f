"""Where sources can go in an enclosure: one to three of a kind, in fixtures that fit the lid and the space."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from mitten.core.catalogue import Catalogue, SourceKind
from mitten.core.design import Design
from mitten.core.design.amounts import length
from mitten.core.judge.rules.heat import TOO_NEAR_M
from mitten.core.plan.usual import lies_at_m, usual_fixture, usual_heater_data, warm_x_m

CLEARANCES_M = (0.20, 0.25, 0.30, 0.36, 0.43)
"""Heights of a lamp over what the animal lies on that are tried."""

LOW_M, CLEAR_OF_THAT_M = 0.32, 0.01
OVER_A_MESH_M = (0.02, 0.10, 0.20)
FAR_UNDER_A_MESH_M = 0.45
LAMP_BODY_M = 0.09
"""What a lamp and its socket need between the emitting face and a solid lid."""

APART_M = 0.14
MOST_OF_A_KIND: dict[str, int] = {"halogen-flood": 3, "incandescent-reflector": 3, "halogen-spot": 2}
USUAL_MOST = 2
MAT_SHARES = (0.25, 0.4)
"""Lengths of a mat beside the box's; one of more than half leaves no cool floor."""

WALL_MAT_M, WALL_SHARE, OVER_THE_GROUND_M = (0.40, 0.28), 0.8, 0.02
"""Largest size of a mat on a wall, the share of the wall that it takes at most, and where it begins."""

PANEL_SHARE = 0.8

PANEL_LEAST_M = 0.40
"""A panel on a lower ceiling is a lid that burns."""

ARC_LEAST_M = (1.2, 0.6)
"""Length and height of the least box for a mercury-vapour lamp."""


@dataclass(frozen=True)
class Layout:
    """One or more sources of a kind in their places, at one watt each; ``watts_sold`` are those that fit the fixture.

    ``heaters`` are the data of design files; ``size_m2`` the area of a mat or panel, which limits its watts.
    """

    kind: str
    source: SourceKind
    heaters: tuple[dict[str, Any], ...]
    watts_sold: tuple[float, ...]
    where: str

    @property
    def count(self) -> int:
        """How many sources."""
        return len(self.heaters)

    @property
    def family(self) -> str:
        """Lamp, panel or contact."""
        return self.source.family

    @property
    def warms_from_below(self) -> bool:
        """Whether it lies under what the animal lies on: a mat that is not on a wall."""
        return self.family == "contact" and not self.is_on_a_wall

    @property
    def is_on_a_wall(self) -> bool:
        """Whether it is a mat on a wall, which warms the air."""
        return self.heaters[0].get("place") == "wall"


def is_out_of_place(design: Design, kind: SourceKind) -> bool:
    """Whether a kind of source is nothing for the box: a panel in a low one, a mercury lamp in a small one."""
    box = design.enclosure
    too_low = kind.family == "panel" and box.height_m < PANEL_LEAST_M
    too_small = kind.arc_share > 0 and (box.length_m < ARC_LEAST_M[0] or box.height_m < ARC_LEAST_M[1])
    return too_low or too_small


def layouts_of(design: Design, catalogue: Catalogue, kind_name: str) -> Iterator[Layout]:
    """Every layout of a kind that fits a design."""
    kind = catalogue.sources[kind_name]
    if kind.family == "lamp":
        yield from _lamps(design, catalogue, kind_name, kind)
    elif kind.family == "panel":
        yield from _panels(design, catalogue, kind_name, kind)
    elif kind.family == "contact":
        yield from _mats(design, catalogue, kind_name, kind)


def _lamps(design: Design, catalogue: Catalogue, name: str, kind: SourceKind) -> Iterator[Layout]:
    usual = MOST_OF_A_KIND.get(name, USUAL_MOST if kind.dims else 1)
    for z_m, above, where in _heights(design, catalogue):
        most = 1 if design.enclosure.lid_mesh is not None and not above else usual
        fixture = usual_fixture(kind, above, catalogue)
        watts = tuple(watts for watts in kind.watts_sold if watts <= fixture["max_watts"])
        for count in range(1, most + 1):
            places = _beside_each_other(design, count)
            if places is None or not watts:
                continue
            heaters = tuple(
                {
                    **_base(design, catalogue, name, kind),
                    "x_m": x,
                    "y_m": y,
                    "z_m": z_m,
                    "above_mesh": above,
                    "fixture": fixture,
                }
                for x, y in places
            )
            yield Layout(name, kind, heaters, watts, where)


def _heights(design: Design, catalogue: Catalogue) -> Iterator[tuple[float, bool, str]]:
    """Height, whether above the lid, and in words."""
    box = design.enclosure
    if box.lid_mesh is not None or box.open_top:
        lid = "the mesh" if box.lid_mesh is not None else "the rim"
        for over_m in OVER_A_MESH_M:
            yield round(box.height_m + over_m, 3), True, f"{length(over_m)} above {lid}"
    # Below a mesh only where a lamp on it would be far from what it is to warm.
    lies_m = lies_at_m(design)
    if not box.open_top and (box.lid_mesh is None or box.height_m - lies_m > FAR_UNDER_A_MESH_M):
        for clear_m in _clearances_m(design, catalogue):
            z_m = round(lies_m + clear_m, 3)
            if z_m <= box.height_m - LAMP_BODY_M:
                yield z_m, False, f"{length(clear_m)} over the basking place"


def _clearances_m(design: Design, catalogue: Catalogue) -> tuple[float, ...]:
    """Distances over the basking place that are clear of the animal's back; in a low box from the least that is."""
    species, stage = catalogue.species[design.animal.species], design.animal.stage
    least_m = round(TOO_NEAR_M + species.back_m.at(stage) + CLEAR_OF_THAT_M, 3)
    clear = tuple(clear_m for clear_m in CLEARANCES_M if clear_m >= least_m)
    is_low = design.enclosure.height_m - lies_at_m(design) < LOW_M
    return (least_m, *clear) if is_low and least_m < CLEARANCES_M[0] else clear


def _beside_each_other(design: Design, count: int) -> list[tuple[float, float]] | None:
    """Places of the lamps over the basking place: across the box, so that they heat one end of it; along it where it is
    too narrow. None where they do not fit.
    """
    site, box = design.basking_site, design.enclosure
    x_m, y_m = warm_x_m(design), box.depth_m / 2 if site is None else site.y_m
    half_m = (count - 1) / 2 * APART_M
    steps = [round(number * APART_M - half_m, 3) for number in range(count)]
    if 2 * half_m + APART_M <= box.depth_m:
        y_m = _held_in(y_m, half_m + APART_M / 2, box.depth_m)
        return [(round(x_m, 3), round(y_m + step, 3)) for step in steps]
    if 2 * half_m > box.length_m / 2:
        return None
    x_m = _held_in(x_m, half_m + APART_M / 2, box.length_m)
    return [(round(x_m + step, 3), round(y_m, 3)) for step in steps]


def _held_in(at_m: float, margin_m: float, length_m: float) -> float:
    """A place so far from both ends."""
    return min(max(at_m, margin_m), length_m - margin_m)


def _base(design: Design, catalogue: Catalogue, name: str, kind: SourceKind) -> dict[str, Any]:
    settled = usual_heater_data(design, catalogue, None, name)
    return {key: value for key, value in settled.items() if value is not None} | {"watts": 1.0}


def _panels(design: Design, catalogue: Catalogue, name: str, kind: SourceKind) -> Iterator[Layout]:
    """On the ceiling over the warm end; none where the top is mesh or open."""
    box = design.enclosure
    usual = kind.usual_size_m or (0.3, 0.3)
    size = min(usual[0], PANEL_SHARE * box.length_m / 2), min(usual[1], PANEL_SHARE * box.depth_m)
    if box.open_top or box.lid_mesh is not None:
        return
    share = size[0] * size[1] / (usual[0] * usual[1])
    watts = tuple(sold for sold in kind.watts_sold if sold <= kind.watts_sold[-1] * share)
    if watts:
        yield Layout(name, kind, (_area(design, catalogue, name, kind, size),), watts, "on the ceiling")


def _mats(design: Design, catalogue: Catalogue, name: str, kind: SourceKind) -> Iterator[Layout]:
    """Under the floor at the warm end, of at most two fifths of the length; in a box that is too low for lamps under
    the basking place too, where no floor is in the way.
    """
    if name != "heat-mat":
        return
    for share in MAT_SHARES if not design.enclosure.underside.insulated else ():
        size = share * design.enclosure.length_m, min(0.8 * design.enclosure.depth_m, 0.4)
        watts = _mat_watts(kind, size)
        if watts:
            yield Layout(
                name, kind, (_area(design, catalogue, name, kind, size),), watts, f"under {share:.0%} of the floor"
            )
    site = design.basking_site
    if site is not None and design.enclosure.height_m - lies_at_m(design) < LOW_M:
        size = site.length_m, site.depth_m
        watts = _mat_watts(kind, size)
        if watts:
            place = {"place": "hide-roof", "site": site.name, "x_m": site.x_m, "y_m": site.y_m}
            yield Layout(
                name,
                kind,
                (_area(design, catalogue, name, kind, size) | place,),
                watts,
                "under the slab that it basks on",
            )


def wall_mats(design: Design, catalogue: Catalogue, name: str) -> Iterator[Layout]:
    """A mat on the outside of the back wall, low and as large as there is room: it warms the air of a tall box from
    below, where what hangs under its lid does not reach.
    """
    kind, box, ground_m = catalogue.sources[name], design.enclosure, design.substrate.depth_m
    size = min(WALL_MAT_M[0], WALL_SHARE * box.length_m), min(WALL_MAT_M[1], WALL_SHARE * (box.height_m - ground_m))
    watts = _mat_watts(kind, size)
    if "back" in box.against or not watts:
        return
    area = _area(design, catalogue, name, kind, size)
    on_it = {"place": "wall", "y_m": box.depth_m, "z_m": round(ground_m + OVER_THE_GROUND_M + size[1] / 2, 3)}
    yield Layout(name, kind, (area | on_it | {"x_m": round(box.length_m / 2, 3)},), watts, "on the back wall")


def _mat_watts(kind: SourceKind, size_m: tuple[float, float]) -> tuple[float, ...]:
    """What mats of a size are sold with."""
    usual = kind.usual_size_m or (0.28, 0.28)
    most_w = kind.watts_sold[-3] / (usual[0] * usual[1]) * size_m[0] * size_m[1]
    return tuple(sold for sold in kind.watts_sold if sold <= most_w)


def _area(
    design: Design, catalogue: Catalogue, name: str, kind: SourceKind, size: tuple[float, float]
) -> dict[str, Any]:
    box = design.enclosure
    x_m = min(max(warm_x_m(design), size[0] / 2), box.length_m - size[0] / 2)
    base = _base(design, catalogue, name, kind)
    return base | {
        "length_m": round(size[0], 3), "depth_m": round(size[1], 3), "x_m": round(x_m, 3),
        "y_m": round(box.depth_m / 2, 3),
    }  # fmt: skip
