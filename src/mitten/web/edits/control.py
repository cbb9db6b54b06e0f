"""Thermostats and other controls: new ones, changes of kind, and those that have nothing left to do."""

from mitten.core.catalogue import Catalogue, targets_of
from mitten.core.design import Control, Design, Heater
from mitten.core.design.amounts import capital
from mitten.core.design.editing import Data
from mitten.core.plan.probe_places import probe_beside, probe_places

FOLLOWING = ("probe", "day_c", "night_c", "summer", "cut_out_c")
"""Keys of a control that follows a probe."""


def settle_control(design: Design, catalogue: Catalogue, data: Data, before: Control) -> None:
    """Give a control what its kind needs, and take from it what its kind cannot have."""
    _put_probe(design, catalogue, data, before)
    if data["kind"] in ("dimmer", "timer"):
        for key in FOLLOWING:
            data.pop(key, None)
        return
    if not data.get("summer"):
        data.pop("summer", None)
    if before.probe is None:
        data["probe"] = _beside(design, catalogue, design.heaters_of(before)[0])
    if data.get("day_c") is None and data.get("night_c") is None and not before.is_thermostat:
        data["day_c"] = _usual_setpoint_c(design, catalogue)


def _put_probe(design: Design, catalogue: Catalogue, data: Data, before: Control) -> None:
    """Put the probe to the place with the name that was chosen."""
    where = (data.get("probe") or {}).pop("where", None)
    for place in probe_places(design, catalogue, before):
        if place.key == where:
            data["probe"] = place.probe.model_dump(mode="json")


def _beside(design: Design, catalogue: Catalogue, heater: Heater) -> Data:
    return probe_beside(design, catalogue, heater).model_dump(mode="json")


def _usual_setpoint_c(design: Design, catalogue: Catalogue) -> float:
    targets = targets_of(design.animal, catalogue.species[design.animal.species])
    return round(sum(targets.warm_air_c) / 2)


def add_control(design: Design, catalogue: Catalogue, data: Data, heater: Heater, heater_data: Data, key: str) -> None:
    """A new control of a kind of the catalogue for a heater."""
    kind = catalogue.controls[key]
    name = new_name({control.name for control in design.controls}, kind.label)
    control: Data = {"name": name, "kind": kind.kind, "max_watts": kind.usual_max_watts}
    if kind.kind not in ("dimmer", "timer"):
        control |= _setpoints(design, catalogue, heater) | {"probe": _beside(design, catalogue, heater)}
    heater_data["control"] = name
    data["controls"] = [*data.get("controls", []), control]


def _setpoints(design: Design, catalogue: Catalogue, heater: Heater) -> Data:
    targets = targets_of(design.animal, catalogue.species[design.animal.species])
    contact = catalogue.sources[heater.kind].family in ("contact", "rock")
    day_c = targets.basking_surface_c[1] if contact else _usual_setpoint_c(design, catalogue)
    return {"day_c": day_c, "night_c": round(sum(targets.night_c) / 2)}


def new_name(taken: set[str], label: str) -> str:
    """A label as a name, with a number where it is taken."""
    word = capital(label)
    return next(name for name in (word, *(f"{word} {number}" for number in range(2, 60))) if name not in taken)


def without_idle_controls(data: Data) -> None:
    """Take out controls that regulate no heater any more."""
    used = {heater.get("control") for heater in data.get("heaters", [])}
    data["controls"] = [control for control in data.get("controls", []) if control["name"] in used]
