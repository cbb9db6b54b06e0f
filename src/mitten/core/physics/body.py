"""The animal at a site: its operative temperature, how fast it warms and cools, and whether its patch is large enough.

A body of one temperature on the site's surface gains what its back takes of the lamps' and the surroundings' radiation
and what it touches, and loses to the air (Porter & Gates 1969, Gates 1980; operative temperature after Bakken 1976).
"""

from dataclasses import dataclass
from math import log

import numpy as np

from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K, value
from mitten.core.physics.convection import horizontal_cylinder_w_m2k
from mitten.core.physics.geometry import Array

ROUNDS = 60
SETTLED_K = 1e-4
GRAMS = 1000.0
SLENDERNESS = {"snake": 22.0, "lizard": 7.0, "gecko": 6.0, "tortoise": 1.3}
"""Length over width of the outline; starting points to verify."""


@dataclass(frozen=True)
class Body:
    """An animal as the balance sees it: mass, length, and the height of its back above what it lies on."""

    mass_g: float
    length_m: float
    back_m: float
    group: str

    @property
    def skin_m2(self) -> float:
        """Skin area, ``10 m^(2/3)`` cm2 for m in grams."""
        return float(value("skin_area") * (self.mass_g / GRAMS) ** (2 / 3))

    @property
    def heat_capacity_j_k(self) -> float:
        """Heat it stores for each kelvin."""
        return self.mass_g / GRAMS * value("body_heat_capacity")

    @property
    def outline_m2(self) -> float:
        """Area it covers: a snake coiled, any other stretched out without its tail's last half."""
        width_m = self.length_m / SLENDERNESS[self.group]
        if self.group == "snake":
            return self.length_m * width_m * 1.6  # A loose coil leaves gaps.
        return self.length_m * (1.0 if self.group == "tortoise" else 0.6) * width_m


@dataclass(frozen=True)
class Place:
    """What surrounds a body at a site. Irradiance is at the height of its back; ``radiant_c`` is what the surfaces
    above and around send, as the temperature of an even surrounding.
    """

    surface_c: float
    air_c: float
    radiant_c: float
    short_w_m2: float
    long_w_m2: float


def operative_c(body: Body, place: Place) -> float:
    """Temperature that the body comes to at a place, if it stays and makes no heat of its own."""
    temperature = place.air_c
    for _ in range(ROUNDS):
        gain, conductance = _gain_and_conductance(body, place, temperature)
        moved = gain / conductance - temperature
        temperature += moved
        if abs(moved) < SETTLED_K:
            break
    return temperature


def _gain_and_conductance(body: Body, place: Place, body_c: float) -> tuple[float, float]:
    """Heat that it would gain at 0 °C, in W, and what it loses for each kelvin of its own."""
    skin, touching = body.skin_m2, value("skin_in_contact")
    free = skin * (1.0 - touching)
    film = horizontal_cylinder_w_m2k(abs(body_c - place.air_c), body.back_m, place.air_c + ZERO_C_K)
    mean_k = (body_c + place.radiant_c) / 2 + ZERO_C_K
    radiative = value("skin_long") * 4 * SIGMA_W_M2K4 * mean_k**3
    contact = value("skin_contact") * touching * skin
    beam = skin * value("silhouette") * (
        value("skin_short") * place.short_w_m2 + value("skin_long") * place.long_w_m2
    )  # fmt: skip
    gain = beam + free * (film * place.air_c + radiative * place.radiant_c) + contact * place.surface_c
    return gain, free * (film + radiative) + contact


def time_constant_s(body: Body, place: Place) -> float:
    """Time in which it comes 63 % nearer to its operative temperature at a place."""
    _, conductance = _gain_and_conductance(body, place, operative_c(body, place))
    return body.heat_capacity_j_k / conductance


def minutes_between(body: Body, place: Place, from_c: float, to_c: float) -> float | None:
    """Minutes to come from one body temperature to another at a place; None if it never gets there."""
    end_c = operative_c(body, place)
    if not min(from_c, end_c) <= to_c <= max(from_c, end_c) or to_c == end_c:
        return None
    left = (to_c - end_c) / (from_c - end_c)
    return -time_constant_s(body, place) * log(left) / 60.0


def radiant_c(arriving_w_m2: float) -> float:
    """Temperature of an even surrounding that sends that much longwave."""
    return float((arriving_w_m2 / SIGMA_W_M2K4) ** 0.25 - ZERO_C_K)


@dataclass(frozen=True)
class Patch:
    """Area of a site within the wanted band around its middle, against the animal's outline."""

    area_m2: float
    outline_m2: float

    @property
    def covers(self) -> float:
        """Share of the outline that finds room in it, at most 1."""
        return min(self.area_m2 / self.outline_m2, 1.0)


def patch_of(spots_c: Array, cell_m: tuple[float, float], wanted_c: tuple[float, float], body: Body) -> Patch:
    """The patch of a site's field (rows, columns) that lies in a band of surface temperatures."""
    inside = (spots_c >= wanted_c[0]) & (spots_c <= wanted_c[1])
    return Patch(float(np.count_nonzero(inside)) * cell_m[0] * cell_m[1], body.outline_m2)
