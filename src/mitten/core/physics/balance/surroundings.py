"""The boundary conditions: the room, and for each outer face what it looks at where that is not the room."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from mitten.core.design import FACES, USUAL_ROOM_RH, Face
from mitten.core.physics.air.moisture import pressure_pa, room_ratio
from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import ZERO_C_K, value
from mitten.core.physics.outside import FaceSurroundings


@dataclass(frozen=True)
class Surroundings:
    """The room: air and radiant temperature, relative humidity, and air density by altitude; ``faces`` holds those
    outer faces that look at something else. Air is exchanged with the room alone.
    """

    room_c: float
    altitude_m: float = 0.0
    rh: float = USUAL_ROOM_RH
    faces: Mapping[Face, FaceSurroundings] = field(default_factory=dict)

    @property
    def room_k(self) -> float:
        """Room temperature in kelvin."""
        return self.room_c + ZERO_C_K

    def of(self, face: Face) -> FaceSurroundings:
        """What a face looks at."""
        return self.faces.get(face) or FaceSurroundings(self.room_c)

    @property
    def is_even(self) -> bool:
        """Whether everything outside has the room's temperature."""
        return all(one.air_c == one.seen_c == self.room_c for one in self.faces.values())

    @cached_property
    def outside_k(self) -> Array:
        """Temperature (faces,) in kelvin that each face loses heat to, in the order of ``FACES``."""
        return np.array([self.of(face).together_c for face in FACES]) + ZERO_C_K

    @cached_property
    def air_density_kg_m3(self) -> float:
        """Density of air at the altitude."""
        return float(value("air_density") * np.exp(-self.altitude_m / value("air_scale_height")))

    @cached_property
    def thinness(self) -> float:
        """Density of the air over that at sea level."""
        return self.air_density_kg_m3 / value("air_density")

    @cached_property
    def pressure_pa(self) -> float:
        """Air pressure at the altitude."""
        return pressure_pa(self.altitude_m)

    @cached_property
    def humidity_ratio(self) -> float:
        """Humidity ratio of the room's air."""
        return room_ratio(self.room_c, self.rh, self.pressure_pa)

    @cached_property
    def air_w_k_per_m3_s(self) -> float:
        """Heat that a flow of air carries per kelvin."""
        return self.air_density_kg_m3 * value("air_heat_capacity")
