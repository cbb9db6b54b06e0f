"""What must hold for any realistic design in any condition; each breach is one line."""

import json
from collections.abc import Callable, Iterator, Mapping

import numpy as np

from mitten.core.design import BadDesignError, Design, MittenError, write_design
from mitten.core.judge.conditions import SEASONAL, Condition, read_condition, solve_condition
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.climate import Climate
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import Data, read
from tests.random_designs import random_design

ENERGY_SHARE = 1e-3
ENERGY_DUST_W = 2e-3
WATER_DUST_KG_S = 1e-12
COLDER_K = 0.3
STEP_M = 0.01
STEPS = 6

JUMP_K = 1.0
JUMP_SHARE = 0.1
"""A step of a centimetre may differ from the steps beside it by a kelvin, or by so much of the highest rise, of the ground
or of the air under the top: shadows and meshes have edges, and near a ceiling a centimetre counts.
"""

Figure = Callable[[Climate], float]
HEADLINES: Mapping[str, Figure] = {
    "warm": lambda climate: climate.air.warm_c,
    "middle": lambda climate: climate.air.middle_c,
    "cool": lambda climate: climate.air.cool_c,
    "top": lambda climate: climate.air.top_c,
    "mean": lambda climate: climate.air.mean_c,
    "basking air": lambda climate: climate.basking.air_c,
}


def conditions_of(design: Design) -> Iterator[Condition]:
    """The four seasons, a thermostat that sticks in summer, and a winter night with a source dead."""
    for name in (*SEASONAL, "summer-day+stuck-on"):
        yield read_condition(design, name)
    if design.heaters:
        yield read_condition(design, f"winter-night+dead:{design.heaters[0].name}")


def faults_of_seed(seed: int) -> Iterator[str]:
    """Every breach of one random design."""
    design = random_design(seed)
    for condition in conditions_of(design):
        try:
            climate = solve_condition(design, CATALOGUE, condition)
        except MittenError as error:
            yield f"unsettled: {condition.name}: {error}"
            continue
        for fault in faults_of(climate):
            yield f"{fault} ({condition.name})"


def faults_of(climate: Climate) -> Iterator[str]:
    """What is wrong with a climate."""
    state, energy = climate.state, climate.energy
    if not (np.all(np.isfinite(state.surface_c)) and np.all(np.isfinite(state.air_c))):
        yield "numbers: not finite"
    if abs(energy.residual_w) > max(ENERGY_SHARE * energy.in_w, ENERGY_DUST_W):
        yield f"energy: {energy.residual_w:.4f} of {energy.in_w:.1f} W"
    water = state.moisture
    if abs(water.residual_kg_s) > max(ENERGY_SHARE * water.turned_over_kg_s, WATER_DUST_KG_S):
        yield f"water: {water.residual_kg_s:.3g} of {water.turned_over_kg_s:.3g} kg/s"
    coldest = min(float(state.surface_c.min()), float(state.air_c.min()))
    bound = climate.room_wet_bulb_c if state.prepared.evaporates else climate.room_c
    if coldest < bound - COLDER_K:
        yield f"colder: {coldest:.2f} under {bound:.2f} °C"
    if climate.air.warm_c < climate.air.cool_c:
        yield f"ends: warm {climate.air.warm_c:.2f}, cool {climate.air.cool_c:.2f} °C"
    yield from _body_faults(climate)


def _body_faults(climate: Climate) -> Iterator[str]:
    """An animal takes no more of the lamps than they give, and comes to nothing beyond what is around it and they add."""
    spot, body = climate.basking, climate.body
    radiant_w = sum(lamp.radiant_w for lamp in climate.state.lamps)
    if spot.arriving.total_w_m2 * body.silhouette_m2 > 1.5 * radiant_w + 1e-6:
        yield f"body: takes {spot.arriving.total_w_m2 * body.silhouette_m2:.1f} of {radiant_w:.1f} W"
    around = (spot.place.surface_c, spot.place.air_c, spot.place.radiant_c, spot.place.beside_c)
    if spot.operative_c < min(around) - 0.1:
        yield f"body: {spot.operative_c:.1f} under {min(around):.1f} °C"
    if radiant_w == 0.0 and spot.operative_c > max(around) + 0.1:
        yield f"body: {spot.operative_c:.1f} over {max(around):.1f} °C"
    if radiant_w == 0.0 and (spot.uvi > 0 or spot.irradiance_w_m2 > 1e-6):
        yield "off: light without a lamp"


def faults_of_stacks(seed: int, fineness: float = 1.0) -> Iterator[str]:
    """Every breach where slabs lie on slabs, wholly covered or in part, in a box of the demo data."""
    random = np.random.default_rng(seed)
    try:
        design = _stacked(random, demo_designs()[int(random.integers(6))])
    except BadDesignError:
        return
    climate = solve_condition(design, CATALOGUE, read_condition(design, "winter-day"), None, fineness)
    yield from faults_of(climate)
    around = climate.room_c - COLDER_K, float(climate.state.surface_c.max()) + 40.0
    for name, surface_c in climate.site_surfaces_c.items():
        if not around[0] <= surface_c <= around[1]:
            yield f"site: '{name}' is at {surface_c} °C"


def _stacked(random: np.random.Generator, design: Design) -> Design:
    data, ground_m = json.loads(write_design(design)), design.substrate.depth_m
    for number in range(int(random.integers(1, 4))):
        under = data["sites"][int(random.integers(len(data["sites"])))]
        if random.random() < 0.5:
            under.pop("z_m", None)
        top_m = under.get("z_m", ground_m) + under["thickness_mm"] / 1000
        grows = float(random.choice([1.0, 1.0, 1.3, 0.6]))
        data["sites"].append(under | {
            "name": f"Stone {number}", "role": "none", "material": str(random.choice(["slate", "cork", "tile"])),
            "z_m": round(top_m, 6), "thickness_mm": float(random.choice([5, 10, 30])),
            "length_m": grows * under["length_m"], "depth_m": grows * under["depth_m"],
        })  # fmt: skip
    return read(data)


def jumps_of_seed(seed: int) -> Iterator[str]:
    """Every headline figure of the air that jumps while the box grows or a part moves by centimetres."""
    design = random_design(seed)
    for what, change in _moves(design):
        climates = list(_moved(design, change))
        if len(climates) < 4:
            continue
        found = np.array([[figure(climate) for figure in HEADLINES.values()] for climate in climates])
        hottest = ((climate.floor.hottest()[0], climate.air.top_c, climate.room_c) for climate in climates)
        rise_k = max(max(ground_c, top_c) - room_c for ground_c, top_c, room_c in hottest)
        allowed_k = max(JUMP_K, JUMP_SHARE * rise_k)
        for name, jump_k in zip(HEADLINES, _jumps_k(found), strict=True):
            if jump_k > allowed_k:
                yield f"jump: {name} by {jump_k:.2f} K as {what} moves; allowed {allowed_k:.1f} K"


def _jumps_k(found: Array) -> Array:
    steps = np.diff(found, axis=0)
    return np.asarray(np.abs(steps - np.median(steps, axis=0)).max(axis=0))


Change = Callable[[Data, int], None]


def _moves(design: Design) -> Iterator[tuple[str, Change]]:
    """Edges of the box, the first heater and the first site, by steps of a centimetre."""
    for edge in ("length_m", "depth_m", "height_m"):
        yield f"enclosure.{edge}", _by_steps(lambda data: data["enclosure"], edge)
    if design.heaters:
        yield "heater.x_m", _by_steps(lambda data: data["heaters"][0], "x_m")
    if design.heaters and design.heaters[0].z_m > 0:
        yield "heater.z_m", _by_steps(lambda data: data["heaters"][0], "z_m")
    if design.sites:
        yield "site.x_m", _by_steps(lambda data: data["sites"][0], "x_m")


def _by_steps(part_of: Callable[[Data], Data], key: str) -> Change:
    def change(data: Data, step: int) -> None:
        part_of(data)[key] = round(part_of(data)[key] + step * STEP_M, 4)

    return change


def _moved(design: Design, change: Change) -> Iterator[Climate]:
    for step in range(STEPS):
        data = json.loads(write_design(design))
        change(data, step)
        try:
            moved = read(data)
        except BadDesignError:
            continue
        # At full power: a thermostat that comes within reach of its setpoint may turn a lamp down by a quarter.
        yield solve_condition(moved, CATALOGUE, read_condition(moved, "summer-day+stuck-on"))
