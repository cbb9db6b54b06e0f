"""What a source heats nearest to what burns, softens or scorches, so that none is chosen that must be refused later."""

from dataclasses import dataclass

import numpy as np

from mitten.core.catalogue import targets_of
from mitten.core.judge import Condition
from mitten.core.judge.materials import hottest_materials
from mitten.core.judge.rules.heat import hottest_surface
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.climate import Climate

POWER = 0.95
"""How rises near a source grow with its watts: they are nearly linear."""

COARSELY_K = 1.0
"""The coarse grid is not surer than this."""


@dataclass(frozen=True, eq=False)
class Heated:
    """The hottest place to lie on and every material: rises (things,) over the room, and limits in °C (things,)."""

    rises_k: Array
    limits_c: Array

    def is_too_hot(self, room_c: float, power: float) -> bool:
        """Whether anything passes its limit in a room, at a multiple of the power that the rises are of."""
        return bool((room_c + self.rises_k * power**POWER > self.limits_c - COARSELY_K).any())


def heated_in(climate: Climate, condition: Condition) -> Heated:
    """What sources heat in a climate."""
    design, catalogue = climate.design, climate.catalogue
    targets = targets_of(design.animal, catalogue.species[design.animal.species])
    materials = list(hottest_materials(design, {condition: climate}, catalogue))
    hottest_c = [hottest_surface(climate)[0], *(one.temperature_c for one in materials)]
    limits_c = [targets.danger_contact_c, *(one.service_c for one in materials)]
    return Heated(np.array(hottest_c) - climate.room_c, np.array(limits_c))
