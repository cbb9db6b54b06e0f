"""Single changes of a design, small enough to be said in a few words and undone by one step."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import log2
from typing import Any, Literal

from mitten.core.catalogue import Catalogue, UvKind, read_data
from mitten.core.design import BadDesignError, Control, Design, GroundMoisture, Heater, UvbLamp
from mitten.core.design.amounts import celsius, centimetres, kelvin, length, millilitres
from mitten.core.design.editing import Data, data_of
from mitten.core.judge import Condition, fixture_rating_w
from mitten.core.plan.night_source import KIND, add_night_source, free_name, is_without_night_heat, sold_w
from mitten.core.plan.usual import HIDES, meant_warm_right, new_site, warm_x_m

ChangeKind = Literal[
    "height", "watts", "setpoint", "room", "vents", "misting", "moisture", "dish", "uv-lamp", "uv-height",
    "insulation", "length", "place", "hide", "night-source", "day-length",
]  # fmt: skip
HEIGHTS_CM = (-12, -8, -5, -3, 3, 5, 8, 12)
SETPOINTS_K = (-4, -2, -1, 1, 2, 4)
ROOM_K = (-4, -3, -2, -1, 1, 2, 3, 4)
SIZES_AWAY = 3
VENT_TIMES = {2.0: "Open the vents to twice their size", 0.5: "Close half of the vents", 4.0: "Open the vents to four "
              "times their size", 0.25: "Close three quarters of the vents"}  # fmt: skip
MISTINGS_ML_DAY = (0.0, 50.0, 100.0, 200.0, 400.0)
MOISTURES: tuple[GroundMoisture, ...] = ("dry", "damp", "wet")
LONGER = (1.25, 1.5)
INSULATION_MM = 30.0
INSULATED = ("back", "left", "right", "floor")

HARDLY_MOVED_M = 0.02
"""A dish so near the lamp stands under it."""

A_SMALL_ONE, A_TURN, A_CHORE, A_PURCHASE, A_REBUILDING, A_HOUSE = 1.0, 1.2, 1.8, 2.5, 6.0, 9.0
"""How much kinds of changes ask of a keeper, the least first: the room of a home is the last thing to be changed."""


@dataclass(frozen=True)
class Change:
    """One change, with the part that it is of, or the season and time, and a figure.

    The figure is a height, length or place from the left (m), watts, a temperature (°C), how many times as large
    (vents), millilitres a day (misting), or a place among ``MOISTURES`` or among UV lamps by strength. ``effort``
    orders changes by how much they ask.
    """

    kind: ChangeKind
    name: str
    value: float
    words: str
    effort: float
    step: float
    """How much more or less it is than now, in what its kind is counted in: twice the step does about twice as much.
    What changes nothing is no change: it is never 0.
    """

    @property
    def way(self) -> "Way":
        """What is changed, and which way."""
        return self.kind, self.name, self.step > 0


Way = tuple[ChangeKind, str, bool]


def apply_change(design: Design, catalogue: Catalogue, kind: ChangeKind, name: str, value: float) -> Design:
    """The design with one change made.

    Raises:
        BadDesignError: the change does not fit the design.
        KeyError, ValueError: nothing of that name is there, or there is no such figure.
    """
    data = data_of(design)
    if kind in _MADE_OF_GEAR:
        _MADE_OF_GEAR[kind](data, catalogue, name, value)
    else:
        _MADE[kind](data, name, value)
    return read_data(data, catalogue, design)


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
        yield from _of_ultraviolet(design, catalogue)
        return
    if target == "humidity":
        yield from (*_of_vents(design), *_of_water(design), *_of_setpoints(design, condition))
        return
    if target == "night_c" and is_without_night_heat(design):
        yield from _of_the_night(catalogue)
    yield from (*_of_heaters(design, catalogue, condition), *_of_setpoints(design, condition), *_of_vents(design))
    yield from (*_of_panels(design), *_of_length(design), *_of_the_room(condition))


# What is done to the data.


def _room_to(data: Data, name: str, value: float) -> None:
    season, time = name.split("-")
    data["room"][season][f"{time}_c"] = value


def _setpoint_to(data: Data, name: str, value: float) -> None:
    """A setting by day or night, or that of the summer: ``Thermostat:day``, ``Thermostat:summer.night``."""
    control_name, _, setting = name.rpartition(":")
    season, _, time = setting.rpartition(".")
    control = _named(data["controls"], control_name)
    (control.setdefault(season, {}) if season else control)[f"{time}_c"] = value


def _part_to(collection: str, key: str) -> Callable[[Data, str, float], None]:
    def to(data: Data, name: str, value: float) -> None:
        _named(data[collection], name)[key] = value

    return to


def scale_vents(data: Data, times: float) -> None:
    """Open the vents of a design's data to so many times their size; round holes by their number, one at least."""
    for vent in data["enclosure"]["vents"]:
        if "area_cm2" in vent:
            vent["area_cm2"] = round(vent["area_cm2"] * times, 1)
        else:
            vent["holes"] = max(round(vent["holes"] * times), 1)


def _vents_to(data: Data, _: str, times: float) -> None:
    scale_vents(data, times)


def _day_length_to(data: Data, _: str, value: float) -> None:
    data["schedule"]["day_hours"] = value


def _misting_to(data: Data, _: str, value: float) -> None:
    data["substrate"]["misting_ml_day"] = value


def _moisture_to(data: Data, _: str, value: float) -> None:
    data["substrate"]["moisture"] = _chosen(MOISTURES, value)


def _lamp_to(data: Data, catalogue: Catalogue, name: str, value: float) -> None:
    """Another UV lamp of its size: what is printed on the old one goes with it."""
    key, kind = _chosen(_by_strength(catalogue), value)
    lamp = _named(data["uvb"], name)
    lamp.pop("beam_half_angle_deg", None)
    watts = min(kind.watts_sold, key=lambda sold: abs(sold - lamp["watts"]))
    lamp |= {"lamp": key, "uvi_at_30cm": kind.uvi_at_30cm, "watts": watts}


def _insulation_to(data: Data, _: str, value: float) -> None:
    """Where there is less; the front stays free to look in."""
    for face in INSULATED:
        panel = data["enclosure"]["panels"][face]
        panel["insulation_mm"] = max(panel["insulation_mm"], value)


def _length_to(data: Data, name: str, value: float) -> None:
    """A longer box, its warm end as it was: what is new lies at the cool end."""
    more_m = value - data["enclosure"]["length_m"]
    data["enclosure"]["length_m"] = value
    probes = [control["probe"] for control in data.get("controls", []) if control.get("probe")]
    parts = [part for key in ("sites", "heaters", "lights", "uvb") for part in data.get(key, [])]
    mesh = data["enclosure"].get("lid_mesh") or {}
    for part in (*parts, *probes, mesh) if name == "right" else ():
        if "x_m" in part:
            part["x_m"] = round(part["x_m"] + more_m, 4)


def _hide_to(data: Data, catalogue: Catalogue, role: str, value: float) -> None:
    """One more hide of a usual size, named as its work is."""
    if role not in HIDES:
        raise ValueError(f"There is no such hide as '{role}'.")
    names = {site["name"] for site in data["sites"]}
    name = free_name(role.replace("-", " ").capitalize(), names)
    data["sites"].append({**new_site(Design.model_validate(data), catalogue, role), "name": name, "x_m": value})


def _night_source_to(data: Data, catalogue: Catalogue, _: str, watts: float) -> None:
    if watts not in sold_w(catalogue):
        raise ValueError(f"None is sold with {watts:g} W.")
    add_night_source(data, catalogue, watts)


_MADE: dict[ChangeKind, Callable[[Data, str, float], None]] = {
    "height": _part_to("heaters", "z_m"), "watts": _part_to("heaters", "watts"), "setpoint": _setpoint_to,
    "room": _room_to, "vents": _vents_to, "misting": _misting_to, "moisture": _moisture_to,
    "dish": _part_to("sites", "x_m"), "uv-height": _part_to("uvb", "z_m"),
    "insulation": _insulation_to, "length": _length_to, "place": _part_to("sites", "x_m"),
    "day-length": _day_length_to,
}  # fmt: skip

_MADE_OF_GEAR: dict[ChangeKind, Callable[[Data, Catalogue, str, float], None]] = {
    "uv-lamp": _lamp_to, "hide": _hide_to, "night-source": _night_source_to,
}  # fmt: skip
"""Those that take something from the catalogue."""


def _named(parts: list[Data], name: str) -> Data:
    for part in parts:
        if part["name"] == name:
            return part
    raise KeyError(name)


def _chosen(among: Any, place: float) -> Any:
    """One of several by its place.

    Raises:
        ValueError: there is none.
    """
    if not (place == int(place) and 0 <= place < len(among)):
        raise ValueError(f"There is no choice {place:g} here.")
    return among[int(place)]


def _by_strength(catalogue: Catalogue) -> list[tuple[str, UvKind]]:
    return sorted(catalogue.uvb.items(), key=lambda item: (item[1].uvi_at_30cm, item[0]))


# What may be done.


def _of_heaters(design: Design, catalogue: Catalogue, condition: Condition) -> Iterator[Change]:
    times = ("day", "always") if condition.day else ("night", "always")
    for heater in (heater for heater in design.heaters if heater.on in times):
        if catalogue.sources[heater.kind].family == "lamp":
            yield from _heights("height", heater)
        yield from _of_watts(heater, catalogue)


def _heights(kind: ChangeKind, part: Heater | UvbLamp) -> Iterator[Change]:
    for step in HEIGHTS_CM:
        words = f"{'Raise' if step > 0 else 'Lower'} {part.name} {centimetres(abs(step))}"
        yield Change(kind, part.name, round(part.z_m + step / 100, 4), words, abs(step) / 5, step / 100)


def _of_watts(heater: Heater, catalogue: Catalogue) -> Iterator[Change]:
    """The next sizes sold, up and down, that the fixture may hold."""
    kind = catalogue.sources[heater.kind]
    most = fixture_rating_w(heater.fixture, catalogue) if kind.needs_fixture else max(kind.watts_sold)
    stronger = [watts for watts in kind.watts_sold if heater.watts < watts <= most][:SIZES_AWAY]
    weaker = [watts for watts in reversed(kind.watts_sold) if watts < heater.watts][:SIZES_AWAY]
    for away, watts in (*enumerate(stronger, 1), *enumerate(weaker, 1)):
        words = f"{heater.name}: {heater.watts:g} W to {watts:g} W"
        yield Change("watts", heater.name, watts, words, A_SMALL_ONE + away, watts - heater.watts)


def _of_setpoints(design: Design, condition: Condition) -> Iterator[Change]:
    time = "day" if condition.day else "night"
    for control in design.controls:
        setpoint_c = control.setpoint_c(condition.day, condition.summer)
        in_summer = condition.summer == 1.0 and _has_its_own(control, time)
        for step in SETPOINTS_K if control.is_thermostat and setpoint_c is not None else ():
            value = (setpoint_c or 0.0) + step
            words = f"Set {control.name} to {celsius(value)}{' in summer' if in_summer else ''}"
            setting = f"summer.{time}" if in_summer else time
            yield Change("setpoint", f"{control.name}:{setting}", value, words, abs(step) / 4, step)


def _has_its_own(control: Control, time: str) -> bool:
    """Whether a control has a setting of its own for the summer."""
    return control.summer is not None and getattr(control.summer, f"{time}_c") is not None


def _of_vents(design: Design) -> Iterator[Change]:
    for times, words in VENT_TIMES.items() if design.enclosure.vents else ():
        yield Change("vents", "", times, words, A_TURN + (times in (0.25, 4.0)), log2(times))


def _of_water(design: Design) -> Iterator[Change]:
    """More or less of what evaporates: sprayed water, damp ground, a dish where it is warm."""
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
    for dish in (site for site in design.sites if site.role == "water"):
        x_m = round(min(max(warm_x_m(design), dish.length_m / 2), design.enclosure.length_m - dish.length_m / 2), 2)
        if abs(x_m - dish.x_m) > HARDLY_MOVED_M:
            words = f"Put {dish.name} under the lamp, at the warm end"
            yield Change("dish", dish.name, x_m, words, A_SMALL_ONE, x_m - dish.x_m)


def _of_ultraviolet(design: Design, catalogue: Catalogue) -> Iterator[Change]:
    for lamp in design.uvb:
        yield from _heights("uv-height", lamp)
        for place, (_, kind) in enumerate(_by_strength(catalogue)):
            stronger = kind.uvi_at_30cm - catalogue.uvb[lamp.lamp].uvi_at_30cm
            if stronger and kind.tube == catalogue.uvb[lamp.lamp].tube:
                words = f"{lamp.name}: take a {kind.label}, UV index {kind.uvi_at_30cm:g} at {centimetres(30)}"
                yield Change("uv-lamp", lamp.name, place, words, A_PURCHASE, stronger)


def _of_the_night(catalogue: Catalogue) -> Iterator[Change]:
    """A source without light where nothing heats by night."""
    for place, watts in enumerate(sold_w(catalogue)):
        words = f"Add a {watts:g} W {catalogue.sources[KIND].label} for the night, on a thermostat"
        yield Change("night-source", KIND, watts, words, A_PURCHASE + 0.1 * place, watts)


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
