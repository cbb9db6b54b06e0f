"""Every single change that may be offered for a target, the room of the home last."""

from collections.abc import Iterator
from math import log2

from mitten.core.catalogue import Catalogue
from mitten.core.design import BadDesignError, Design
from mitten.core.design.amounts import centimetres, kelvin, length, millilitres
from mitten.core.judge import Condition
from mitten.core.plan.changing.change import (
    A_CHORE,
    A_HOUSE,
    A_PURCHASE,
    A_REBUILDING,
    A_SMALL_ONE,
    A_TURN,
    MOISTURES,
    Change,
)
from mitten.core.plan.changing.lamps import (
    HARDLY_MOVED_M,
    of_heaters,
    of_probes,
    of_setpoints,
    of_the_day,
    of_the_night,
    of_thermostats,
)
from mitten.core.plan.changing.making import INSULATED, INSULATION_MM, apply_change
from mitten.core.plan.changing.ultraviolet import of_ultraviolet
from mitten.core.plan.usual import meant_warm_right, warm_x_m

ROOM_K = (-4, -3, -2, -1, 1, 2, 3, 4)
VENT_TIMES = {2.0: "Open the vents to twice their size", 0.5: "Close half of the vents", 4.0: "Open the vents to four "
              "times their size", 0.25: "Close three quarters of the vents"}  # fmt: skip
CLOSED = {0.5: "half", 0.7: "70 %"}
MISTINGS_ML_DAY = (0.0, 50.0, 100.0, 200.0, 400.0)
LONGER = (1.25, 1.5)


def candidates(
    design: Design, catalogue: Catalogue, condition: Condition, target: str = ""
) -> Iterator[tuple[Change, Design]]:
    """Every single change that fits the design and matters for a target in a condition, with the changed design."""
    for change in _that_matter(design, catalogue, condition, target):
        try:
            yield change, apply_change(design, catalogue, change.kind, change.name, change.value)
        except BadDesignError:
            continue


def day_of(hours: float, hours_now: float) -> Change:
    """Another length of the day, which no temperature of a steady day depends on."""
    return Change("day-length", "", hours, f"Make the day {hours:g} h long", A_SMALL_ONE, hours - hours_now)


def _that_matter(design: Design, catalogue: Catalogue, condition: Condition, target: str) -> Iterator[Change]:
    if target == "uvi":
        yield from of_ultraviolet(design, catalogue)
        return
    if target == "humidity":
        yield from (*_of_vents(design), *_of_water(design), *_of_dishes(design), *of_setpoints(design, condition))
        return
    if target == "night_c":
        yield from of_the_night(design, catalogue)
    else:
        yield from (*of_the_day(design, catalogue), *of_thermostats(design, catalogue, condition))
    yield from (*of_heaters(design, catalogue, condition, target), *of_setpoints(design, condition))
    yield from (*of_probes(design, catalogue, condition), *_of_vents(design))
    yield from (*_of_panels(design), *_of_length(design), *_of_the_room(condition))


def _of_vents(design: Design) -> Iterator[Change]:
    """Vents opened and closed, and a mesh over the whole lid closed in part."""
    for times, words in VENT_TIMES.items() if design.enclosure.vents else ():
        yield Change("vents", "", times, words, A_TURN + (times in (0.25, 4.0)), log2(times))
    mesh = design.enclosure.lid_mesh
    for share, words in CLOSED.items() if mesh is not None and mesh.length_m is None else ():
        said = f"Lay a board over {words} of the mesh, at the cool end"
        yield Change("cover", "", share, said, A_TURN + share, share)


def _of_water(design: Design) -> Iterator[Change]:
    """More or less of what evaporates: sprayed water, damp ground."""
    ground = design.substrate
    for value in MISTINGS_ML_DAY:
        if value != ground.misting_ml_day:
            words = f"Mist {millilitres(value)} a day" if value else "Mist no more"
            more = value - ground.misting_ml_day
            yield Change("misting", "", value, words, A_CHORE + abs(more) / 200, more)
    for place, moisture in enumerate(MOISTURES):
        if moisture != ground.moisture:
            words = "Let the ground dry" if moisture == "dry" else f"Keep part of the ground {moisture}"
            more = place - MOISTURES.index(ground.moisture)
            yield Change("moisture", "", place, words, A_CHORE + 0.1 * place, more)


def _of_dishes(design: Design) -> Iterator[Change]:
    """Water where it is warm, or where it is cool; a first dish there."""
    length_m, warm_m = design.enclosure.length_m, warm_x_m(design)
    places = {"under the lamp, at the warm end": warm_m, "at the cool end": length_m - warm_m}
    dishes = [site for site in design.sites if site.role == "water"]
    for dish in dishes:
        for where, wanted_m in places.items():
            x_m = round(min(max(wanted_m, dish.length_m / 2), length_m - dish.length_m / 2), 2)
            if abs(x_m - dish.x_m) > HARDLY_MOVED_M:
                yield Change("dish", dish.name, x_m, f"Put {dish.name} {where}", A_SMALL_ONE, x_m - dish.x_m)
    for number, (where, x_m) in enumerate(places.items() if not dishes else ()):
        yield Change("new-dish", "water", round(x_m, 2), f"Put a water dish {where}", A_TURN + 0.1 * number, 1.0)


def _of_panels(design: Design) -> Iterator[Change]:
    """Insulation, where a box has none yet and the room is what takes the warmth."""
    panels = design.enclosure.panels
    if all(getattr(panels, face).insulation_mm < INSULATION_MM for face in INSULATED):
        words = f"Put {centimetres(INSULATION_MM / 10)} of insulation on the outside of back, ends and floor"
        yield Change("insulation", "", INSULATION_MM, words, A_PURCHASE + 0.5, 1.0)


def _of_length(design: Design) -> Iterator[Change]:
    warm_end = "right" if meant_warm_right(design) else "left"
    for share in LONGER:
        length_m = round(design.enclosure.length_m * share, 2)
        words = f"Take a box {length(length_m)} long, longer at the cool end"
        yield Change("length", warm_end, length_m, words, A_REBUILDING + share, share - 1.0)


def _of_the_room(condition: Condition) -> Iterator[Change]:
    """The room in one of the seasons; a usual day lies between them and has none of its own."""
    for step in ROOM_K if not condition.is_usual else ():
        words = f"{'Warm' if step > 0 else 'Cool'} the room {kelvin(abs(step))} {condition.when}"
        yield Change("room", condition.name, condition.room_c + step, words, A_HOUSE + abs(step), step)
