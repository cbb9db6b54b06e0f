"""Random realistic designs: what a keeper might build, in every kind of box, wet and dry, with thermostats and without.

Seeded, so that a fault can be looked at again; ``bench/soak.py`` goes through hundreds of them, tests through a few.
"""

from typing import Any

import numpy as np

from mitten.core.design import BadDesignError, Design
from tests.catalogue import CATALOGUE
from tests.designs import Data, read

Random = np.random.Generator
BOARDS = (("melamine", 16.0), ("plywood", 12.0), ("foam-pvc-white", 10.0), ("foam-pvc-dark", 10.0), ("hdpe", 8.0))
SPOTS = ("halogen-flood", "halogen-spot", "incandescent-reflector", "mercury-vapour", "carbon-projector")
NIGHTS = ("ceramic-emitter", "radiant-panel", "carbon-projector")
GROUNDS = ("paper", "dry-sand", "soil", "soil-sand", "coconut-fibre", "wood-shavings", "bark", "gravel", "tile")
SLABS = ("slate", "sandstone", "hardwood", "cork", "resin", "tile")
TRIES = 40


def random_design(seed: int) -> Design:
    """The random design of a seed; its parts fit together."""
    random = np.random.default_rng(seed)
    for _ in range(TRIES):
        try:
            return read(random_data(random))
        except BadDesignError:
            continue
    raise AssertionError(f"seed {seed}: no design that fits in {TRIES} tries")


def random_data(random: Random) -> Data:
    """The data of one; parts may not fit."""
    box = _box(random)
    wet = random.choice(["dry", "dry", "damp", "wet"])
    ground_mm = float(random.choice([5, 20, 40, 80])) if box["height_m"] > 0.25 else float(random.choice([3, 20]))
    design: Data = {
        "format": "mitten-design/1",
        "animal": {
            "species": str(random.choice(sorted(CATALOGUE.species))),
            "stage": str(random.choice(["hatchling", "juvenile", "adult"])),
        },
        "room": _room(random),
        "enclosure": box,
        "substrate": {
            "material": str(random.choice(GROUNDS)), "depth_mm": ground_mm, "moisture": str(wet),
            "misting_ml_day": float(random.choice([0, 0, 0, 50, 300])),
        },
        "sites": _sites(random, box, ground_mm / 1000),
        "heaters": [], "controls": [], "uvb": [],
    }  # fmt: skip
    _heat(random, design)
    if random.random() < 0.4:
        design["uvb"].append(_tube(random, box))
    return design


def _cm(value_m: float) -> float:
    return round(float(value_m), 2)


def _box(random: Random) -> Data:
    length, depth, height = (
        (random.uniform(0.25, 0.6), random.uniform(0.2, 0.4), random.uniform(0.12, 0.3)),
        (random.uniform(0.6, 1.8), random.uniform(0.3, 0.8), random.uniform(0.3, 0.8)),
        (random.uniform(0.3, 0.8), random.uniform(0.3, 0.7), random.uniform(0.5, 1.6)),
    )[random.choice(3, p=[0.3, 0.5, 0.2])]
    box: Data = {"length_m": _cm(length), "depth_m": _cm(depth), "height_m": _cm(height)}
    make = random.choice(["glass", "board", "tub"])
    material, mm = ("glass", 5.0) if make == "glass" else ("polypropylene", 2.5)
    if make == "board":
        material, mm = BOARDS[random.integers(len(BOARDS))]
    faces = ("floor", "top", "left", "right", "front", "back")
    box["panels"] = {face: {"material": material, "thickness_mm": mm} for face in faces}
    if make == "board":
        box["panels"]["front"] = {"material": "glass", "thickness_mm": 4.0}
        box["door_gap_mm"] = float(random.choice([0, 1, 2]))
    lid = random.choice(["mesh", "solid", "part", "open"], p=[0.4, 0.4, 0.15, 0.05])
    if lid == "mesh":
        box["lid_mesh"] = {"mesh": str(random.choice(["mesh-coarse", "mesh-standard", "mesh-fine"]))}
    elif lid == "part":
        part = {"x_m": box["length_m"] / 2, "y_m": box["depth_m"] / 2}
        box["lid_mesh"] = {
            "mesh": "mesh-standard", **part, "length_m": box["length_m"] / 2, "depth_m": box["depth_m"] / 2
        }  # fmt: skip
    elif lid == "open":
        box["open_top"] = True
    box["vents"] = [
        {"face": face, "area_cm2": float(random.uniform(2, 60)), "z_m": _cm(share * box["height_m"])}
        for face, share in (("left", 0.2), ("right", 0.8), ("back", 0.8))
        if random.random() < 0.45
    ]
    if random.random() < 0.1:
        box["fan_l_s"] = float(random.uniform(0.5, 6.0))
    box["underside"] = {"raised": bool(random.random() < 0.6), "insulated": bool(random.random() < 0.2)}
    return box


def _room(random: Random) -> Data:
    winter, summer = random.uniform(14, 23), random.uniform(22, 31)
    rh = [float(random.uniform(0.25, 0.75)) for _ in range(2)]
    return {
        "winter": {"day_c": round(winter, 1), "night_c": round(winter - random.uniform(0, 4), 1), "rh": rh[0]},
        "summer": {"day_c": round(summer, 1), "night_c": round(summer - random.uniform(0, 5), 1), "rh": rh[1]},
    }


def _sites(random: Random, box: Data, ground_m: float) -> list[Data]:
    """A basking place at one end, hides, and a dish, each in a part of the box of its own."""
    length, depth, height = box["length_m"], box["depth_m"], box["height_m"]
    right = bool(random.random() < 0.5)
    places = {"basking": 0.8, "warm-hide": 0.5, "cool-hide": 0.18, "water": 0.5}
    found = []
    for role, along in places.items():
        if random.random() < 0.35:
            continue
        long, deep = random.uniform(0.12, 0.26) * length, random.uniform(0.2, 0.45) * depth
        site: Data = {
            "name": role, "role": role, "material": str(random.choice(SLABS)),
            "x_m": _cm(length * (along if right else 1 - along)),
            "y_m": _cm(depth * (0.75 if role == "water" else 0.35 if role == "warm-hide" else 0.5)),
            "length_m": max(_cm(long), 0.03), "depth_m": max(_cm(deep), 0.03),
            "thickness_mm": float(random.choice([5, 15, 30])),
        }  # fmt: skip
        if role.endswith("hide"):
            site["z_m"] = _cm(ground_m + min(0.08, 0.3 * height))
        elif role == "basking" and height > 0.35 and random.random() < 0.6:
            site["z_m"] = _cm(ground_m + random.uniform(0.05, 0.5) * (height - ground_m))
        found.append(site)
    return found


def _heat(random: Random, design: Data) -> None:
    """A main source over the basking place, perhaps one for the night or a mat, each perhaps on a thermostat."""
    box = design["enclosure"]
    basking = next((site for site in design["sites"] if site["role"] == "basking"), None)
    x_m = basking["x_m"] if basking else _cm(box["length_m"] * random.uniform(0.2, 0.8))
    small = box["height_m"] < 0.3
    if not small or random.random() < 0.2:
        watts = float(random.choice([25, 50, 75, 100, 150]))
        _add(random, design, str(random.choice(SPOTS)), watts, x_m, "day")
    if random.random() < (0.9 if small else 0.2):
        _add(random, design, "heat-mat", float(random.choice([7, 11, 16, 28])), x_m, "always")
    if random.random() < 0.35 and not small:
        on = str(random.choice(["night", "always"]))
        _add(random, design, str(random.choice(NIGHTS)), float(random.choice([40, 60, 100])), x_m, on)


def _add(random: Random, design: Data, kind: str, watts: float, x_m: float, on: str) -> None:
    box, ground_m = design["enclosure"], design["substrate"]["depth_mm"] / 1000
    name = f"{kind} {len(design['heaters'])}"
    heater: Data = {"name": name, "kind": kind, "watts": watts, "x_m": x_m, "y_m": _cm(box["depth_m"] / 2), "on": on}
    family = CATALOGUE.sources[kind].family
    if family == "lamp":
        heater |= _hung(random, design)
    else:
        size = [_cm(min(0.28, 0.5 * box[side])) for side in ("length_m", "depth_m")]
        heater |= {"length_m": size[0], "depth_m": size[1]}
        heater["x_m"] = _cm(min(max(x_m, size[0] / 2 + 0.01), box["length_m"] - size[0] / 2 - 0.01))
    design["heaters"].append(heater)
    if kind != "mercury-vapour" and random.random() < 0.6:
        heater["control"] = f"control {len(design['controls'])}"
        reads = "heater" if family == "contact" and random.random() < 0.5 else "air"
        z_m = ground_m + float(random.uniform(0.02, 0.6)) * (box["height_m"] - ground_m)
        design["controls"].append(
            {
                "name": heater["control"], "kind": str(random.choice(["on-off", "pulse", "dimming"])),
                "day_c": float(random.uniform(24, 34)), "night_c": float(random.uniform(18, 28)),
                "probe": {
                    "x_m": _cm(random.uniform(0.1, 0.9) * box["length_m"]), "y_m": heater["y_m"], "z_m": _cm(z_m),
                    "reads": reads, "shaded": True,
                },
            }
        )  # fmt: skip


def _hung(random: Random, design: Data) -> Data:
    box, ground_m = design["enclosure"], design["substrate"]["depth_mm"] / 1000
    through = "lid_mesh" in box or box.get("open_top")
    fixture = {"kind": str(random.choice(["dome", "guarded-socket", "wire-cage"])), "max_watts": 200.0}
    if through and random.random() < 0.7:
        return {"z_m": _cm(box["height_m"] + random.uniform(0.01, 0.1)), "above_mesh": True, "fixture": fixture}
    tops = [site.get("z_m", ground_m) + site["thickness_mm"] / 1000 for site in design["sites"]]
    highest_m = max([ground_m, *tops])
    return {"z_m": _cm(highest_m + random.uniform(0.4, 0.9) * (box["height_m"] - highest_m)), "fixture": fixture}


def _tube(random: Random, box: Data) -> dict[str, Any]:
    length_m = _cm(min(0.45, 0.5 * box["length_m"]))
    through = "lid_mesh" in box or box.get("open_top")
    z_m = box["height_m"] + 0.02 if through else box["height_m"] - 0.03
    tube = {"name": "Tube", "watts": 24.0, "x_m": box["length_m"] / 2, "y_m": _cm(box["depth_m"] / 2), "z_m": _cm(z_m)}
    return {**tube, "length_m": length_m, "above_mesh": bool(through), "on": str(random.choice(["day", "always"]))}
