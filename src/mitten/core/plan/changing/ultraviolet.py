"""What may be done about ultraviolet: nearer, stronger, another mesh, inside, over the basking place, a first lamp."""

from collections.abc import Iterator

from mitten.core.catalogue import Catalogue, UvKind, targets_of
from mitten.core.design import Design, UvbLamp
from mitten.core.design.amounts import centimetres, length
from mitten.core.plan.changing.added import is_without_ultraviolet
from mitten.core.plan.changing.change import A_PURCHASE, A_SMALL_ONE, A_TURN, Change
from mitten.core.plan.changing.lamps import HARDLY_MOVED_M, HEIGHTS_CM, heights
from mitten.core.plan.changing.making import by_openness, by_strength
from mitten.core.plan.usual import MARGIN_M, lies_at_m, warm_x_m

CLEAR_M = (0.2, 0.28, 0.36, 0.46, 0.6)
UNDER_THE_LID_M = 0.05
"""How far over the animal's back a lamp is tried inside, and how far under the lid."""

READ_AT_M = 0.3
WEAKER_BY = 1.4
"""Between a tube's near field and a point's square: what the index falls by with distance, to order what is tried."""

FIRST_TRIED = 8
FAR_DOWN_CM = (-60, -45, -30, -20)
A_PIECE_OF_MESH = A_PURCHASE - 0.3


def of_ultraviolet(design: Design, catalogue: Catalogue) -> Iterator[Change]:
    """All of it, lamp by lamp."""
    if is_without_ultraviolet(design):
        yield from _a_first_lamp(design, catalogue)
    mercury = [heater for heater in design.heaters if heater.lamp.uvi_at_30cm]
    for heater in mercury:
        yield from heights("height", heater)
    for lamp in design.uvb:
        yield from heights("uv-height", lamp, (*FAR_DOWN_CM, *HEIGHTS_CM))
        yield from _over_the_basking_place(design, lamp)
        yield from _on_the_other_side(design, catalogue, lamp)
        yield from _of_another_strength(lamp, catalogue)
    if any(lamp.above_mesh for lamp in design.uvb) or any(heater.above_mesh for heater in mercury):
        yield from _under_another_mesh(design, catalogue)


def _a_first_lamp(design: Design, catalogue: Catalogue) -> Iterator[Change]:
    """Lamps of every strength on the mesh and inside at several heights, the likeliest first."""
    species = catalogue.species[design.animal.species]
    wanted = sum(targets_of(design.animal, species).uvi) / 2
    places_m = [*_above_m(design), *_inside_m(design, catalogue)]
    tried = [(key, kind, z_m) for key, kind in by_strength(catalogue) for z_m in places_m]
    tried.sort(key=lambda one: abs(_likely_uvi(design, catalogue, one[1].uvi_at_30cm, one[2]) - wanted))
    for place, (key, kind, z_m) in enumerate(tried[:FIRST_TRIED]):
        words = f"Add {_description(kind)}, {_where(design, z_m)}"
        yield Change("uv-new", key, z_m, words, A_PURCHASE + 0.01 * place, kind.uvi_at_30cm)


def _above_m(design: Design) -> list[float]:
    box = design.enclosure
    return [round(box.height_m + MARGIN_M, 4)] if box.lid_mesh is not None or box.open_top else []


def _inside_m(design: Design, catalogue: Catalogue) -> list[float]:
    """Heights under the lid at which a lamp is over the animal, not on it; the highest first. None in an open box."""
    box, back_m = design.enclosure, _back_m(design, catalogue)
    under_lid_m = box.height_m - UNDER_THE_LID_M
    places_m = {round(back_m + clear_m, 2) for clear_m in CLEAR_M} | {round(under_lid_m, 2)}
    fitting = (z_m for z_m in places_m if back_m + CLEAR_M[0] <= z_m <= under_lid_m)
    return [] if box.open_top else sorted(fitting, reverse=True)


def _back_m(design: Design, catalogue: Catalogue) -> float:
    """Height of the animal's back where it basks."""
    return lies_at_m(design) + catalogue.species[design.animal.species].back_m.at(design.animal.stage)


def _likely_uvi(design: Design, catalogue: Catalogue, uvi_at_30cm: float, z_m: float) -> float:
    """About what a lamp at a height brings to the animal's back under it."""
    box, clear_m = design.enclosure, max(z_m - _back_m(design, catalogue), 0.05)
    meshed = box.lid_mesh is not None and z_m > box.height_m
    # Seen aslant, a mesh is denser.
    share = catalogue.meshes[box.lid_mesh.mesh].open_share ** 1.5 if meshed and box.lid_mesh else 1.0
    return uvi_at_30cm * float((READ_AT_M / clear_m) ** WEAKER_BY) * share


def _where(design: Design, z_m: float) -> str:
    box = design.enclosure
    if z_m <= box.height_m:
        return f"inside, behind a guard, {length(box.height_m - z_m)} below the lid"
    return "on the mesh" if box.lid_mesh else "above the open top"


def _over_the_basking_place(design: Design, lamp: UvbLamp) -> Iterator[Change]:
    half_m, box_m = (lamp.length_m or 0.0) / 2, design.enclosure.length_m
    x_m = round(min(max(warm_x_m(design), half_m), box_m - half_m), 4)
    if abs(x_m - lamp.x_m) > HARDLY_MOVED_M and 2 * half_m <= box_m:
        where = f"over '{design.basking_site.name}'" if design.basking_site else "to the warm end"
        yield Change("uv-along", lamp.name, x_m, f"Move {lamp.name} {where}", A_SMALL_ONE, x_m - lamp.x_m)


def _on_the_other_side(design: Design, catalogue: Catalogue, lamp: UvbLamp) -> Iterator[Change]:
    verb = "Hang" if lamp.above_mesh or design.enclosure.open_top else "Lay"
    for place, z_m in enumerate(_inside_m(design, catalogue) if lamp.above_mesh else _above_m(design)):
        words = f"{verb} {lamp.name} {_where(design, z_m)}"
        yield Change("uv-side", lamp.name, z_m, words, A_TURN + 0.1 * place, lamp.z_m - z_m)


def _of_another_strength(lamp: UvbLamp, catalogue: Catalogue) -> Iterator[Change]:
    now = catalogue.uvb[lamp.lamp]
    for place, (_, kind) in enumerate(by_strength(catalogue)):
        stronger = kind.uvi_at_30cm - now.uvi_at_30cm
        if stronger and kind.tube == now.tube:
            yield Change("uv-lamp", lamp.name, place, f"{lamp.name}: take {_description(kind)}", A_PURCHASE, stronger)


def _under_another_mesh(design: Design, catalogue: Catalogue) -> Iterator[Change]:
    mesh = design.enclosure.lid_mesh
    if mesh is None:
        return
    now = catalogue.meshes[mesh.mesh]
    for place, (_, kind) in enumerate(by_openness(catalogue)):
        more = kind.open_share - now.open_share
        if more:
            words = f"Take {kind.with_article} for the lid, {kind.open_share:.0%} open"
            yield Change("mesh", "", place, words, A_PIECE_OF_MESH + abs(more), more)


def _description(kind: UvKind) -> str:
    return f"{kind.with_article}, UV index {kind.uvi_at_30cm:g} at {centimetres(30)}"
