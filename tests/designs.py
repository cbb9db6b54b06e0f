"""Designs that tests share, as data to be changed and read."""

import json
from copy import deepcopy
from typing import Any

from mitten.core.catalogue import read_checked_design
from mitten.core.design import Design
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.situation import Situation
from mitten.core.physics.solving import solve_climate
from tests.catalogue import CATALOGUE

Data = dict[str, Any]


def steady_room(celsius: float) -> Data:
    """A room of one temperature the year round."""
    season = {"day_c": celsius, "night_c": celsius}
    return {"winter": season, "summer": dict(season)}


def panels(material: str, thickness_mm: float, front: str = "glass") -> Data:
    """All faces of one material, but for a glass front."""
    box = {
        face: {"material": material, "thickness_mm": thickness_mm} for face in ("floor", "top", "left", "right", "back")
    }
    return {**box, "front": {"material": front, "thickness_mm": 4.0}}


def lamp(**changes: Any) -> Data:
    """A 75 W halogen flood in a guarded socket."""
    base = {
        "name": "Lamp",
        "kind": "halogen-flood",
        "watts": 75.0,
        "fixture": {"kind": "guarded-socket", "max_watts": 150.0},
        "x_m": 0.95,
        "y_m": 0.3,
        "z_m": 0.5,
    }
    return {**base, **changes}


def data(enclosure: Data, heaters: list[Data], **changes: Any) -> Data:
    """A design's data for a rosy boa in a room of 21 °C."""
    return {
        "format": "mitten-design/1",
        "animal": {"species": "rosy-boa"},
        "room": steady_room(21.0),
        "enclosure": enclosure,
        "heaters": heaters,
        **changes,
    }


GLASS_TANK: Data = {"length_m": 0.9, "depth_m": 0.45, "height_m": 0.45, "lid_mesh": {"mesh": "mesh-standard"}}
PVC_BOX: Data = {
    "length_m": 1.2,
    "depth_m": 0.6,
    "height_m": 0.6,
    "panels": panels("foam-pvc-white", 10.0),
    "vents": [{"face": "left", "area_cm2": 40.0, "z_m": 0.1}, {"face": "right", "area_cm2": 40.0, "z_m": 0.52}],
}
MELAMINE_BOX: Data = {
    "length_m": 0.9,
    "depth_m": 0.45,
    "height_m": 0.45,
    "panels": panels("melamine", 16.0),
    "vents": [{"face": "back", "area_cm2": 30.0, "z_m": 0.38}],
    "door_gap_mm": 2.0,
}
LEDGE: Data = {
    "name": "Ledge",
    "role": "basking",
    "material": "slate",
    "x_m": 0.94,
    "y_m": 0.3,
    "length_m": 0.3,
    "depth_m": 0.26,
    "z_m": 0.16,
    "thickness_mm": 25.0,
}


def tank_data() -> Data:
    """The glass tank under a 100 W dome lamp."""
    dome = lamp(
        watts=100.0, x_m=0.72, y_m=0.225, z_m=0.47, above_mesh=True, fixture={"kind": "dome", "max_watts": 150.0}
    )
    return data(deepcopy(GLASS_TANK), [dome])


def box_data(**changes: Any) -> Data:
    """The white foam-PVC box under a 75 W flood."""
    return data(deepcopy(PVC_BOX), [lamp(**changes)])


def ledge_data(**changes: Any) -> Data:
    """The foam-PVC box with a slate ledge under its lamp, for a collared lizard."""
    design = data(deepcopy(PVC_BOX), [lamp(**{"x_m": 0.94, **changes})], sites=[deepcopy(LEDGE)])
    return {**design, "animal": {"species": "collared-lizard"}}


def board_data() -> Data:
    """The melamine box with a 100 W ceramic emitter."""
    emitter = lamp(kind="ceramic-emitter", watts=100.0, x_m=0.68, y_m=0.225, z_m=0.35)
    return data(deepcopy(MELAMINE_BOX), [emitter])


def read(design: Data) -> Design:
    """The design, read as a file is."""
    return read_checked_design(json.dumps(design), CATALOGUE)


def climate_of(design: Data, room_c: float = 21.0, fineness: float = 1.0) -> Climate:
    """The climate of a design by day in a room."""
    return solve_climate(read(design), CATALOGUE, Situation(room_c), fineness=fineness)


def mat_data(depth_mm: float = 25.0, probe: Data | None = None, setpoint_c: float = 32.0, **changes: Any) -> Data:
    """A 60x40x40 cm glass tank on feet, a 16 W mat under its glass, dry coconut fibre; ``probe`` makes a thermostat."""
    box = {
        "length_m": 0.6, "depth_m": 0.4, "height_m": 0.4,
        "lid_mesh": {"mesh": "mesh-standard"}, "underside": {"raised": True},
    }  # fmt: skip
    mat = {
        "name": "Mat", "kind": "heat-mat", "watts": 16.0, "x_m": 0.42, "y_m": 0.2, "length_m": 0.28, "depth_m": 0.28,
        "on": "always", **changes,
    }  # fmt: skip
    design = data(box, [mat], substrate={"material": "coconut-fibre", "depth_mm": depth_mm})
    design["animal"] = {"species": "kenyan-sand-boa"}
    if probe is not None:
        at = {"x_m": 0.42, "y_m": 0.2, "z_m": depth_mm / 1000, **probe}
        mat["control"] = "Thermostat"
        design["controls"] = [
            {"name": "Thermostat", "kind": "on-off", "day_c": setpoint_c, "night_c": setpoint_c, "probe": at}
        ]
    return design


def panel_data(watts: float = 80.0) -> Data:
    """The foam-PVC box under a panel on its ceiling."""
    return box_data(kind="radiant-panel", watts=watts, x_m=0.85, z_m=0.0, length_m=0.6, depth_m=0.3)
