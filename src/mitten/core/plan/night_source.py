"""A source without light for the night, on a thermostat of its own: what a cold night wants where nothing heats it."""

from itertools import chain, count

from mitten.core.catalogue import Catalogue, targets_of
from mitten.core.design import Design
from mitten.core.design.editing import Data
from mitten.core.plan.probe_places import in_the_air
from mitten.core.plan.usual import new_heater, usual_control

KIND = "ceramic-emitter"
"""What is added: it has no light, and gives its warmth to the air well."""

SURE_K = 2.0
"""It is set so far above the coldest that is wanted: what the room may be off."""

BESIDE_M = 0.14
"""Two lamps cannot hang in one place."""


def is_without_night_heat(design: Design) -> bool:
    """Whether nothing heats by night."""
    return all(heater.on == "day" for heater in design.heaters)


def sold_w(catalogue: Catalogue) -> tuple[float, ...]:
    """Powers that such a source is sold in."""
    return tuple(catalogue.sources[KIND].watts_sold)


def add_night_source(data: Data, catalogue: Catalogue, watts: float) -> None:
    """Put one into a design's data, beside what hangs over the warm end, with its thermostat in the middle."""
    design, kind = Design.model_validate(data), catalogue.sources[KIND]
    name = free_name("Night heat", {part.name for part in design.powered})
    control = free_name("Night thermostat", {one.name for one in design.controls})
    part = new_heater(design, catalogue, KIND) | {"name": name, "watts": watts, "on": "night", "control": control}
    data.setdefault("heaters", []).append(part | _beside_the_lamp(design, part))
    type_ = catalogue.controls[usual_control(kind, watts, catalogue)]
    probe = next(place.probe for place in in_the_air(design) if place.key == "middle")
    data.setdefault("controls", []).append({
        "name": control, "kind": type_.kind, "max_watts": type_.usual_max_watts,
        "night_c": _setpoint_c(design, catalogue), "probe": probe.model_dump(mode="json"),
    })  # fmt: skip


def _beside_the_lamp(design: Design, part: Data) -> Data:
    """Behind it, or towards the middle where the box is too narrow."""
    if part["y_m"] + BESIDE_M <= design.enclosure.depth_m - BESIDE_M / 2:
        return {"y_m": round(part["y_m"] + BESIDE_M, 3)}
    away_m = -BESIDE_M if part["x_m"] > design.enclosure.length_m / 2 else BESIDE_M
    return {"x_m": round(part["x_m"] + away_m, 3)}


def _setpoint_c(design: Design, catalogue: Catalogue) -> float:
    low_c, high_c = targets_of(design.animal, catalogue.species[design.animal.species]).night_c
    return float(round(min(low_c + SURE_K, (low_c + high_c) / 2)))


def free_name(words: str, taken: set[str]) -> str:
    """The words, with a number where they are taken."""
    return next(one for one in chain((words,), (f"{words} {number}" for number in count(2))) if one not in taken)
