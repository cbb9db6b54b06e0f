"""A control's form into a new design; new controls, and controls that have nothing left to do."""

from typing import Any

from mitten.core.catalogue import load_catalogue, targets_of
from mitten.core.design import Design, Heater
from mitten.web.edits.forms import ControlForm, EditError, data_of, named, numbers_of, read_edited

NEW_CONTROL = "+"
"""What the form sends for a control that is not there yet."""

LOW_AIR_M = 0.05
FIELDS = {
    ".kind": "kind",
    ".day_c": "day_c",
    ".night_c": "night_c",
    ".probe.reads": "reads",
    ".probe.x_m": "x_cm",
    ".probe.y_m": "y_cm",
    ".probe.z_m": "height_cm",
}
SETPOINTS = ("day_c", "night_c")


def edit_control(design: Design, name: str, form: ControlForm) -> Design:
    """The design with one control as the form says.

    Raises:
        EditError: with a sentence beside each field that is refused.
    """
    data = data_of(design)
    try:
        control = named(data["controls"], name)
    except KeyError:
        raise EditError(name, {"": f"There is no control '{name}' any more."}, form.model_dump()) from None
    typed = {key: value for key, value in form.model_dump().items() if value is not None}
    filled = form.model_copy(update={key: None for key in SETPOINTS if not typed.get(key, "").strip()})
    numbers = numbers_of(name, filled, ("day_c", "night_c", "x_cm", "y_cm", "height_cm"))
    control["kind"] = form.kind
    if form.kind in ("dimmer", "timer"):
        for key in ("probe", *SETPOINTS):
            control.pop(key, None)
        return read_edited(name, data, form, FIELDS)
    for key in SETPOINTS:
        if key in typed:
            control[key] = numbers.get(key)
    control["probe"] = _probe(design, name, control.get("probe"), form, numbers)
    control.setdefault("day_c", _usual_setpoint_c(design) if control.get("night_c") is None else None)
    return read_edited(name, data, form, FIELDS)


def _probe(
    design: Design, name: str, before: dict[str, Any] | None, form: ControlForm, numbers: dict[str, float]
) -> dict[str, Any]:
    probe = before or _probe_beside(design, design.heaters_of(next(c for c in design.controls if c.name == name))[0])
    for field, key in (("x_cm", "x_m"), ("y_cm", "y_m")):
        if field in numbers:
            probe[key] = round(numbers[field] / 100, 4)
    if "height_cm" in numbers:
        probe["z_m"] = round(max(numbers["height_cm"] / 100 + design.substrate.depth_m, 0.0), 4)
    if form.reads is not None:
        probe["reads"] = form.reads
        probe["shaded"] = form.shaded == "yes"
    return probe


def _probe_beside(design: Design, heater: Heater) -> dict[str, Any]:
    """Low air under a lamp, shaded; of a contact source the source itself."""
    family = load_catalogue().sources[heater.kind].family
    reads = "heater" if family in ("contact", "rock") else "air"
    z_m = design.substrate.depth_m + LOW_AIR_M
    return {"x_m": heater.x_m, "y_m": heater.y_m, "z_m": round(z_m, 4), "reads": reads, "shaded": True}


def _usual_setpoint_c(design: Design) -> float:
    targets = targets_of(design.animal, load_catalogue().species[design.animal.species])
    return round(sum(targets.warm_air_c) / 2)


def with_new_control(design: Design, data: dict[str, Any], heater: Heater) -> dict[str, Any]:
    """The data with a thermostat of the usual kind for a heater."""
    kind = load_catalogue().sources[heater.kind]
    targets = targets_of(design.animal, load_catalogue().species[design.animal.species])
    contact = kind.family in ("contact", "rock")
    day_c = targets.basking_surface_c[1] if contact else _usual_setpoint_c(design)
    taken = {control.name for control in design.controls}
    name = next(word for word in _names("Thermostat") if word not in taken)
    control = {
        "name": name,
        "kind": "dimming" if kind.light else "on-off" if contact else "pulse",
        "day_c": day_c,
        "night_c": round(sum(targets.night_c) / 2),
        "probe": _probe_beside(design, heater),
    }
    named(data["heaters"], heater.name)["control"] = name
    return {**data, "controls": [*data.get("controls", []), control]}


def _names(word: str) -> list[str]:
    return [word, *(f"{word} {number}" for number in range(2, 40))]


def without_idle_controls(data: dict[str, Any]) -> dict[str, Any]:
    """The data without controls that regulate no heater any more."""
    used = {heater.get("control") for heater in data.get("heaters", [])}
    return {**data, "controls": [control for control in data.get("controls", []) if control["name"] in used]}
