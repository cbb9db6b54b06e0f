"""Single changes of a design, small enough to be said in a few words and undone by one step."""

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

from mitten.core.catalogue import load_catalogue, read_checked_design
from mitten.core.design import BadDesignError, Control, Design, Heater
from mitten.core.judge import Condition, fixture_rating_w

ChangeKind = Literal["height", "watts", "setpoint", "room"]
HEIGHTS_CM = (-12, -8, -5, -3, 3, 5, 8, 12)
SETPOINTS_K = (-4, -2, -1, 1, 2, 4)
ROOM_K = (-4, -3, -2, -1, 1, 2, 3, 4)
SIZES_AWAY = 3


@dataclass(frozen=True)
class Change:
    """One change: of a heater's height (m) or watts, a control's setpoint or the room's temperature (°C).

    ``name`` is the heater's, the control's, or the season and time; ``effort`` orders changes by how much they ask.
    """

    kind: ChangeKind
    name: str
    value: float
    words: str
    effort: float


def changed(design: Design, kind: ChangeKind, name: str, value: float) -> Design:
    """The design with one change made.

    Raises:
        BadDesignError: the change does not fit the design.
        KeyError: nothing of that name is there.
    """
    data: dict[str, Any] = design.model_dump(mode="json", exclude_none=True)
    if kind == "room":
        season, time = name.split("-")
        data["room"][season][f"{time}_c"] = value
    elif kind == "setpoint":
        control, _, setting = name.rpartition(":")
        _set(_named(data["controls"], control), setting, value)
    else:
        _named(data["heaters"], name)["z_m" if kind == "height" else "watts"] = value
    return read_checked_design(json.dumps(data), load_catalogue())


def _set(control: dict[str, Any], setting: str, value: float) -> None:
    """A setting by day or night, or that of the summer: ``day``, ``summer.night``."""
    season, _, time = setting.rpartition(".")
    (control.setdefault(season, {}) if season else control)[f"{time}_c"] = value


def _named(parts: list[dict[str, Any]], name: str) -> dict[str, Any]:
    for part in parts:
        if part["name"] == name:
            return part
    raise KeyError(name)


def candidates(design: Design, condition: Condition) -> Iterator[tuple[Change, Design]]:
    """Every single change that fits the design and matters in a condition, with the changed design."""
    for change in (*_of_heaters(design, condition), *_of_setpoints(design, condition), *_of_the_room(condition)):
        try:
            yield change, changed(design, change.kind, change.name, change.value)
        except BadDesignError:
            continue


def _of_heaters(design: Design, condition: Condition) -> Iterator[Change]:
    times = ("day", "always") if condition.day else ("night", "always")
    for heater in (heater for heater in design.heaters if heater.on in times):
        if load_catalogue().sources[heater.kind].family == "lamp":
            for step in HEIGHTS_CM:
                words = f"{'Raise' if step > 0 else 'Lower'} {heater.name} {abs(step)} cm"
                yield Change("height", heater.name, round(heater.z_m + step / 100, 4), words, abs(step) / 5)
        yield from _of_watts(heater)


def _of_watts(heater: Heater) -> Iterator[Change]:
    """The next sizes sold, up and down, that the fixture may hold."""
    catalogue = load_catalogue()
    kind = catalogue.sources[heater.kind]
    most = fixture_rating_w(heater.fixture, catalogue) if kind.needs_fixture else max(kind.watts_sold)
    stronger = [watts for watts in kind.watts_sold if heater.watts < watts <= most][:SIZES_AWAY]
    weaker = [watts for watts in reversed(kind.watts_sold) if watts < heater.watts][:SIZES_AWAY]
    for away, watts in (*enumerate(stronger, 1), *enumerate(weaker, 1)):
        yield Change("watts", heater.name, watts, f"{heater.name}: {heater.watts:g} W to {watts:g} W", 1.0 + away)


def _of_setpoints(design: Design, condition: Condition) -> Iterator[Change]:
    time = "day" if condition.day else "night"
    for control in design.controls:
        setpoint_c = control.setpoint_c(condition.day, condition.summer)
        in_summer = condition.summer == 1.0 and _has_its_own(control, time)
        for step in SETPOINTS_K if control.is_thermostat and setpoint_c is not None else ():
            value = (setpoint_c or 0.0) + step
            words = f"Set {control.name} to {value:g} °C{' in summer' if in_summer else ''}"
            setting = f"summer.{time}" if in_summer else time
            yield Change("setpoint", f"{control.name}:{setting}", value, words, abs(step) / 4)


def _has_its_own(control: Control, time: str) -> bool:
    """Whether a control has a setting of its own for the summer."""
    return control.summer is not None and getattr(control.summer, f"{time}_c") is not None


def _of_the_room(condition: Condition) -> Iterator[Change]:
    """The room in one of the seasons; a usual day lies between them and has none of its own."""
    for step in ROOM_K if not condition.is_usual else ():
        words = f"{'Warm' if step > 0 else 'Cool'} the room {abs(step)} K on a {condition.label.lower()}"
        yield Change("room", condition.name, condition.room_c + step, words, 3.0 + abs(step))
