"""What a change does to a design: its data with the change made, read again."""

from collections.abc import Callable
from math import floor
from typing import Any

from mitten.core.catalogue import Catalogue, MeshType, UvKind, read_data
from mitten.core.design import Design
from mitten.core.design.editing import Data, data_of
from mitten.core.plan.changing.added import (
    DAY_LAMP,
    NIGHT_SOURCE,
    add_day_lamp,
    add_night_source,
    add_thermostat,
    add_ultraviolet,
    free_name,
)
from mitten.core.plan.changing.change import MOISTURES, ChangeKind
from mitten.core.plan.probe_places import probe_places
from mitten.core.plan.usual import HIDES, meant_warm_right, new_site

SHADED = -1.0
"""The place of a probe that stays where it is and is shaded."""

INSULATION_MM = 30.0
INSULATED = ("back", "left", "right", "floor")


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


def _room_to(data: Data, name: str, value: float) -> None:
    season, time = name.split("-")
    data["room"][season][f"{time}_c"] = value


def _setpoint_to(data: Data, name: str, value: float) -> None:
    """A setting by day or night, or that of one season while the other's stays: ``Thermostat:day``,
    ``Thermostat:summer.night``.
    """
    control_name, _, setting = name.rpartition(":")
    season, _, time = setting.rpartition(".")
    control, key = _part_called(data["controls"], control_name), f"{time}_c"
    if season:
        summer = control.setdefault("summer", {})
        summer[key] = summer.get(key, control[key]) if season == "winter" else value
    if season != "summer":
        control[key] = value


def _probe_to(data: Data, catalogue: Catalogue, name: str, value: float) -> None:
    """To one of the places that it may have, or shaded where it is."""
    design, control = Design.model_validate(data), _part_called(data["controls"], name)
    if value == SHADED:
        control["probe"]["shaded"] = True
        return
    named = next(one for one in design.controls if one.name == name)
    control["probe"] = _pick(probe_places(design, catalogue, named), value).probe.model_dump(mode="json")


def _part_to(collection: str, key: str) -> Callable[[Data, str, float], None]:
    def to(data: Data, name: str, value: float) -> None:
        _part_called(data[collection], name)[key] = value

    return to


def scale_vents(data: Data, times: float) -> None:
    """Open the vents of a design's data to so many times their size; round holes by their number, one at least."""
    for vent in data["enclosure"]["vents"]:
        if "area_cm2" in vent:
            vent["area_cm2"] = round(vent["area_cm2"] * times, 1)
        else:
            vent["holes"] = max(round(vent["holes"] * times), 1)


def cover_mesh(data: Data, share: float) -> None:
    """Leave the mesh of a whole lid open over the warm end, that share of it closed.

    Raises:
        ValueError: there is no mesh over the whole lid.
    """
    box = data["enclosure"]
    mesh = box.get("lid_mesh")
    if not mesh or mesh.get("length_m") is not None:
        raise ValueError("There is no mesh over the whole lid.")
    open_m = floor((1 - share) * box["length_m"] * 100) / 100
    warm_right = meant_warm_right(Design.model_validate(data))
    mesh |= {
        "length_m": open_m, "depth_m": box["depth_m"], "y_m": round(box["depth_m"] / 2, 4),
        "x_m": round(box["length_m"] - open_m / 2 if warm_right else open_m / 2, 4),
    }  # fmt: skip


def _cover_to(data: Data, _: str, share: float) -> None:
    cover_mesh(data, share)


def _vents_to(data: Data, _: str, times: float) -> None:
    scale_vents(data, times)


def _day_length_to(data: Data, _: str, value: float) -> None:
    data["schedule"]["day_hours"] = value


def _misting_to(data: Data, _: str, value: float) -> None:
    data["substrate"]["misting_ml_day"] = value


def _moisture_to(data: Data, _: str, value: float) -> None:
    data["substrate"]["moisture"] = _pick(MOISTURES, value)


def _lamp_to(data: Data, catalogue: Catalogue, name: str, value: float) -> None:
    """Another UV lamp of its size: what is printed on the old one goes with it."""
    key, kind = _pick(by_strength(catalogue), value)
    lamp = _part_called(data["uvb"], name)
    lamp.pop("beam_half_angle_deg", None)
    watts = min(kind.watts_sold, key=lambda sold: abs(sold - lamp["watts"]))
    lamp |= {"lamp": key, "uvi_at_30cm": kind.uvi_at_30cm, "watts": watts}


def _side_to(data: Data, name: str, value: float) -> None:
    """A UV lamp to the other side of the lid, at a height."""
    _part_called(data["uvb"], name).update(z_m=value, above_mesh=value > data["enclosure"]["height_m"])


def _mesh_to(data: Data, catalogue: Catalogue, _: str, value: float) -> None:
    """Another mesh of the size of the one that is there."""
    mesh = data["enclosure"].get("lid_mesh")
    if not mesh:
        raise ValueError("There is no mesh.")
    mesh["mesh"] = _pick(by_openness(catalogue), value)[0]


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


def _site_to(data: Data, catalogue: Catalogue, role: str, value: float) -> None:
    """One more hide or dish of a usual size, named as its work is."""
    if role not in (*HIDES, "water"):
        raise ValueError(f"There is no such site as '{role}'.")
    names = {site["name"] for site in data["sites"]}
    name = free_name("Water dish" if role == "water" else role.replace("-", " ").capitalize(), names)
    data["sites"].append({**new_site(Design.model_validate(data), catalogue, role), "name": name, "x_m": value})


def _sold(kind: str, add: Callable[[Data, Catalogue, float], None]) -> Callable[[Data, Catalogue, str, float], None]:
    """What adds a source of a kind, in one of the powers that it is sold in."""

    def to(data: Data, catalogue: Catalogue, _: str, watts: float) -> None:
        if watts not in catalogue.sources[kind].watts_sold:
            raise ValueError(f"None is sold with {watts:g} W.")
        add(data, catalogue, watts)

    return to


_MADE: dict[ChangeKind, Callable[[Data, str, float], None]] = {
    "height": _part_to("heaters", "z_m"), "along": _part_to("heaters", "x_m"), "watts": _part_to("heaters", "watts"),
    "setpoint": _setpoint_to, "room": _room_to, "vents": _vents_to, "cover": _cover_to, "misting": _misting_to,
    "moisture": _moisture_to, "dish": _part_to("sites", "x_m"), "uv-height": _part_to("uvb", "z_m"),
    "uv-along": _part_to("uvb", "x_m"), "uv-side": _side_to, "insulation": _insulation_to, "length": _length_to,
    "place": _part_to("sites", "x_m"), "day-length": _day_length_to,
}  # fmt: skip

_MADE_OF_GEAR: dict[ChangeKind, Callable[[Data, Catalogue, str, float], None]] = {
    "probe": _probe_to, "thermostat": add_thermostat, "day-lamp": _sold(DAY_LAMP, add_day_lamp),
    "night-source": _sold(NIGHT_SOURCE, add_night_source), "uv-lamp": _lamp_to, "uv-new": add_ultraviolet,
    "mesh": _mesh_to, "hide": _site_to, "new-dish": _site_to,
}  # fmt: skip
"""Those that take something from the catalogue, or look up there what there is."""


def _part_called(parts: list[Data], name: str) -> Data:
    for part in parts:
        if part["name"] == name:
            return part
    raise KeyError(name)


def _pick(among: Any, place: float) -> Any:
    """One of several by its place.

    Raises:
        ValueError: there is none.
    """
    if not (place == int(place) and 0 <= place < len(among)):
        raise ValueError(f"There is no choice {place:g} here.")
    return among[int(place)]


def by_strength(catalogue: Catalogue) -> list[tuple[str, UvKind]]:
    """UV lamps, the gentlest first."""
    return sorted(catalogue.uvb.items(), key=lambda item: (item[1].uvi_at_30cm, item[0]))


def by_openness(catalogue: Catalogue) -> list[tuple[str, MeshType]]:
    """Meshes, the densest first."""
    return sorted(catalogue.meshes.items(), key=lambda item: (item[1].open_share, item[0]))
