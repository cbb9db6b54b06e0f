"""What a change may add to a design: a lamp by day, a source without light for the night, a thermostat, a UV lamp."""

from itertools import chain, count

from mitten.core.catalogue import Catalogue, targets_of
from mitten.core.design import Design, Heater, Probe
from mitten.core.design.editing import Data
from mitten.core.plan.probe_places import ProbePlace, at_a_basking_place, in_the_air, probe_beside
from mitten.core.plan.usual import new_heater, new_tube, usual_control

NIGHT_SOURCE = "ceramic-emitter"
"""What heats by night: it has no light, and gives its warmth to the air well."""

DAY_LAMP = "halogen-flood"
"""What heats by day: it is bright, and its beam makes a basking place."""

SURE_K = 2.0
"""A night is set so far above the coldest that is wanted: what the room may be off."""

BESIDE_M = 0.14
"""Two lamps cannot hang in one place."""


def is_without_heat(design: Design, time: str) -> bool:
    """Whether nothing heats by ``day`` or by ``night``."""
    return not any(heater.on in (time, "always") for heater in design.heaters)


def is_without_ultraviolet(design: Design) -> bool:
    """Whether no lamp gives ultraviolet."""
    return not design.uvb and not any(heater.lamp.uvi_at_30cm for heater in design.heaters)


def add_day_lamp(data: Data, catalogue: Catalogue, watts: float) -> None:
    """Hang one over the warm end of a design's data."""
    design = Design.model_validate(data)
    name = _free_among(design, "Basking lamp")
    part = new_heater(design, catalogue, DAY_LAMP) | {"name": name, "watts": watts, "on": "day"}
    data.setdefault("heaters", []).append(part)


def add_night_source(data: Data, catalogue: Catalogue, watts: float) -> None:
    """Put one into a design's data, beside what hangs over the warm end, with its thermostat in the middle."""
    design = Design.model_validate(data)
    name = _free_among(design, "Night heat")
    part = new_heater(design, catalogue, NIGHT_SOURCE) | {"name": name, "watts": watts, "on": "night"}
    probe = next(place.probe for place in in_the_air(design) if place.key == "middle")
    setting = {"night_c": _night_c(design, catalogue)}
    part["control"] = _add_control(data, catalogue, "Night thermostat", (NIGHT_SOURCE, watts), setting, probe)
    data.setdefault("heaters", []).append(part | _beside_the_lamp(design, part))


def add_thermostat(data: Data, catalogue: Catalogue, name: str, day_c: float) -> None:
    """One for a lamp that has no control, its probe beside the basking place.

    Raises:
        KeyError: there is no such lamp.
        ValueError: it has a control.
    """
    design = Design.model_validate(data)
    lamp = next((part for part in data["heaters"] if part["name"] == name), None)
    if lamp is None:
        raise KeyError(name)
    if lamp.get("control"):
        raise ValueError(f"'{name}' has a control.")
    probe, load = place_for_thermostat(design, catalogue, design.heater(name)).probe, (lamp["kind"], lamp["watts"])
    lamp["control"] = _add_control(data, catalogue, "Thermostat", load, {"day_c": day_c}, probe)


def place_for_thermostat(design: Design, catalogue: Catalogue, heater: Heater) -> ProbePlace:
    """Where the probe of a lamp's new thermostat goes: beside the basking place, or else under the lamp."""
    if design.basking_site is not None:
        return next(at_a_basking_place(design, design.basking_site))
    return ProbePlace("under", f"in the air under '{heater.name}'", probe_beside(design, catalogue, heater))


def add_ultraviolet(data: Data, catalogue: Catalogue, key: str, z_m: float) -> None:
    """Hang a UV lamp of a kind over the warm end at a height, above the lid or inside, beside the heat.

    Raises:
        KeyError: there is no such kind.
    """
    design = Design.model_validate(data)
    part = new_tube(design, catalogue, key) | {"name": _free_among(design, "UV lamp")}
    part |= {"z_m": z_m, "above_mesh": z_m > design.enclosure.height_m}
    data.setdefault("uvb", []).append(part | _behind(design, part))


def _add_control(
    data: Data, catalogue: Catalogue, words: str, load: tuple[str, float], setting: Data, probe: Probe
) -> str:
    """A thermostat of the type that suits a source and its watts, and what it is called."""
    kind, watts = load
    type_ = catalogue.controls[usual_control(catalogue.sources[kind], watts, catalogue)]
    name = free_name(words, {control["name"] for control in data.get("controls", [])})
    control = {"name": name, "kind": type_.kind, "max_watts": type_.usual_max_watts, **setting}
    data.setdefault("controls", []).append(control | {"probe": probe.model_dump(mode="json")})
    return name


def _beside_the_lamp(design: Design, part: Data) -> Data:
    """Behind it, or towards the middle where the box is too narrow."""
    away_m = -BESIDE_M if part["x_m"] > design.enclosure.length_m / 2 else BESIDE_M
    return _behind(design, part) or {"x_m": round(part["x_m"] + away_m, 3)}


def _behind(design: Design, part: Data) -> Data:
    """A place behind what hangs in the middle; none where the box is too narrow."""
    fits = part["y_m"] + BESIDE_M <= design.enclosure.depth_m - BESIDE_M / 2
    return {"y_m": round(part["y_m"] + BESIDE_M, 3)} if fits else {}


def _night_c(design: Design, catalogue: Catalogue) -> float:
    low_c, high_c = targets_of(design.animal, catalogue.species[design.animal.species]).night_c
    return float(round(min(low_c + SURE_K, (low_c + high_c) / 2)))


def _free_among(design: Design, words: str) -> str:
    return free_name(words, {part.name for part in design.powered})


def free_name(words: str, taken: set[str]) -> str:
    """The words, with a number where they are taken."""
    return next(one for one in chain((words,), (f"{words} {number}" for number in count(2))) if one not in taken)
