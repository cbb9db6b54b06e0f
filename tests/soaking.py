"""What must hold for any realistic design in any condition; each breach is one line."""

from collections.abc import Iterator

import numpy as np

from mitten.core.design import Design, MittenError
from mitten.core.judge.conditions import SEASONAL, Condition, read_condition, solve_condition
from mitten.core.physics.reading.climate import Climate
from tests.random_designs import random_design

ENERGY_SHARE = 1e-3
ENERGY_DUST_W = 2e-3
COLDER_K = 0.3
STEP_M = 0.01
JUMP_K = 1.0
"""The most that a headline figure of air may move when one thing moves by a centimetre, for each 100 W in the box."""


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
            climate = solve_condition(design, condition)
        except MittenError as error:
            yield f"unsettled: {condition.name}: {error}"
            continue
        for fault in faults_of(climate):
            yield f"{fault} ({condition.name})"


def faults_of(climate: Climate) -> Iterator[str]:
    """What is wrong with a climate."""
    state, energy = climate.state, climate.state.energy
    if abs(energy.residual_w) > max(ENERGY_SHARE * energy.in_w, ENERGY_DUST_W):
        yield f"energy: {energy.residual_w:.4f} of {energy.in_w:.1f} W"
    water = state.moisture
    if abs(water.residual_kg_s) > max(ENERGY_SHARE * water.turned_over_kg_s, 1e-12):
        yield f"water: {water.residual_kg_s:.3g} of {water.turned_over_kg_s:.3g} kg/s"
    coldest = min(float(state.surface_c.min()), float(state.air_c.min()))
    bound = climate.room_wet_bulb_c if state.prepared.evaporates else climate.room_c
    if coldest < bound - COLDER_K:
        yield f"colder: {coldest:.2f} under {bound:.2f} °C"
    if climate.air.warm_c < climate.air.cool_c:
        yield f"ends: warm {climate.air.warm_c:.2f}, cool {climate.air.cool_c:.2f} °C"
    if not np.all(np.isfinite(state.surface_c)):
        yield "numbers: not finite"
