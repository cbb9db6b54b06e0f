"""The animal at a site: its operative temperature, how fast it warms and cools, and how large it is.

A body of one temperature on the site's surface gains what its back takes of the lamps' and the surroundings' radiation,
what its flanks see of the ground, and what it touches, and loses to the air (Porter & Gates 1969, Gates 1980; operative
temperature after Bakken 1976).
"""

from dataclasses import dataclass
from math import log
from typing import Any

import numpy as np

from mitten.core.catalogue import Species
from mitten.core.design import Stage
from mitten.core.physics.air.convection import at_least, cross_flow_w_m2k, horizontal_cylinder_w_m2k
from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K, value

ROUNDS = 60
SETTLED_K = 1e-4
GRAMS = 1000.0
SHELLED = ("tortoise", "turtle")
SHELL_ASPECT = 1.3
"""Length over width of a shell; a starting point to verify."""

TRUNK_SHARE = {"lizard": 0.5, "gecko": 0.6}
"""Share of the length, nose to tail tip, that is not tail; starting points to verify."""

ASPECTS = (2.0, 6.0)
"""Least and most length over width of a trunk: what mass and length make of it is kept within."""

LOOSE_COIL = 1.6
"""Area of a loose coil over that of the snake in it."""


@dataclass(frozen=True)
class Body:
    """An animal as the balance sees it: mass, length, and the height of its back above what it lies on."""

    mass_g: float
    length_m: float
    back_m: float
    group: str

    @property
    def skin_m2(self) -> float:
        """Skin area, ``10 m^(2/3)`` cm2 for m in grams; less of it on a shell, which has neither limbs nor tail."""
        share = value("shell_area" if self.group in SHELLED else "skin_area")
        return float(share * (self.mass_g / GRAMS) ** (2 / 3))

    @property
    def silhouette_m2(self) -> float:
        """Area seen from above."""
        return value("silhouette") * self.skin_m2

    @property
    def heat_capacity_j_k(self) -> float:
        """Heat it stores for each kelvin."""
        return self.mass_g / GRAMS * value("body_heat_capacity")

    @property
    def half_axes_m(self) -> tuple[float, float]:
        """Half axes of the ellipse it covers, the longer first: a snake loosely coiled, any other stretched out,
        without its tail. Its area is the silhouette's; a coil's that of the snake and the gaps in it.
        """
        if self.group == "snake":
            coil_m = float(np.sqrt(self.silhouette_m2 * LOOSE_COIL / np.pi))
            return coil_m, coil_m
        across_m = float(np.sqrt(self.silhouette_m2 / (np.pi * self._aspect)))
        return self._aspect * across_m, across_m

    @property
    def _aspect(self) -> float:
        if self.group in SHELLED:
            return SHELL_ASPECT
        trunk_m = self.length_m * TRUNK_SHARE[self.group]
        return float(np.clip(trunk_m**2 * np.pi / 4 / self.silhouette_m2, *ASPECTS))

    @property
    def outline_m2(self) -> float:
        """Area of that ellipse."""
        along, across = self.half_axes_m
        return float(np.pi * along * across)


def body_of(species: Species, stage: Stage) -> Body:
    """The body of a species at a life stage."""
    return Body(species.mass_g.at(stage), species.length_m.at(stage), species.back_m.at(stage), species.group)


@dataclass(frozen=True)
class Exposure:
    """What surrounds a body at a site.

    ``surface_c`` is what its belly touches, ``belly_w_m2k`` how well; irradiance is the mean over its outline at the
    height of its back. ``radiant_c`` is what the surfaces above and around send, as the temperature of an even
    surrounding, ``ground_c`` that of the ground beside it, which its flanks see (the surface's where None).
    ``speed_m_s`` is how fast the air passes, ``thinness`` its density over that at sea level.
    """

    surface_c: float
    air_c: float
    radiant_c: float
    short_w_m2: float
    long_w_m2: float
    belly_w_m2k: float = value("skin_contact")
    ground_c: float | None = None
    speed_m_s: float = 0.0
    thinness: float = 1.0

    @property
    def beside_c(self) -> float:
        """Temperature of the ground beside the body."""
        return self.surface_c if self.ground_c is None else self.ground_c


@dataclass(frozen=True, eq=False)
class Exposures:
    """The same of many moments: arrays (T,) of what changes."""

    surface_c: Array
    air_c: Array
    radiant_c: Array
    short_w_m2: Array
    long_w_m2: Array
    beside_c: Array
    speed_m_s: Array
    belly_w_m2k: float
    thinness: float


def operative_c(body: Body, place: Exposure) -> float:
    """Temperature that the body comes to at a place, if it stays and makes no heat of its own."""
    temperature = place.air_c
    for _ in range(ROUNDS):
        gain, conductance = _gain_and_conductance(body, place, temperature)
        moved = gain / conductance - temperature
        temperature += moved
        if abs(moved) < SETTLED_K:
            break
    return temperature


def follow(body: Body, places: Exposures) -> tuple[Array, Array]:
    """What the body comes to at each moment's place (T,), as ``operative_c``, and its time constant there in s (T,)."""
    temperature = places.air_c
    for _ in range(ROUNDS):
        gain, conductance = _gain_and_conductance(body, places, temperature)
        moved = gain / conductance - temperature
        temperature = temperature + moved
        if float(np.abs(moved).max(initial=0.0)) < SETTLED_K:
            break
    return temperature, body.heat_capacity_j_k / conductance


def _gain_and_conductance(body: Body, place: Exposure | Exposures, body_c: Any) -> tuple[Any, Any]:
    """Heat that it would gain at 0 °C, in W, and what it loses for each kelvin of its own; of one moment or many."""
    skin, touching, flanks = body.skin_m2, value("skin_in_contact"), value("skin_to_ground")
    free = 1.0 - touching
    film = _film_w_m2k(body, place, body_c)
    up, down = (_radiative_w_m2k(body_c, celsius) for celsius in (place.radiant_c, place.beside_c))
    contact = place.belly_w_m2k * touching
    beam = value("silhouette") * (value("skin_short") * place.short_w_m2 + value("skin_long") * place.long_w_m2)
    gain = (
        beam
        + free * film * place.air_c
        + (free - flanks) * up * place.radiant_c
        + flanks * down * place.beside_c
        + contact * place.surface_c
    )
    return skin * gain, skin * (free * film + (free - flanks) * up + flanks * down + contact)


def _film_w_m2k(body: Body, place: Exposure | Exposures, body_c: Any) -> Any:
    """Film on the body: its own warmth or the passing air moves more of it away, whichever is stronger."""
    air_c: Any = place.air_c
    speed_m_s: Any = place.speed_m_s
    still = horizontal_cylinder_w_m2k(abs(body_c - air_c), body.back_m, air_c + ZERO_C_K, place.thinness)
    return at_least(cross_flow_w_m2k(speed_m_s, body.back_m, place.thinness), still)


def _radiative_w_m2k(one_c: Any, other_c: Any) -> Any:
    mean_k = (one_c + other_c) / 2 + ZERO_C_K
    return value("skin_long") * 4 * SIGMA_W_M2K4 * mean_k**3


def time_constant_s(body: Body, place: Exposure) -> float:
    """Time in which it comes 63 % nearer to its operative temperature at a place."""
    _, conductance = _gain_and_conductance(body, place, operative_c(body, place))
    return float(body.heat_capacity_j_k / conductance)


def minutes_between(body: Body, place: Exposure, from_c: float, to_c: float) -> float | None:
    """Minutes to come from one body temperature to another at a place; None if it never gets there."""
    end_c = operative_c(body, place)
    if not min(from_c, end_c) <= to_c <= max(from_c, end_c) or to_c == end_c:
        return None
    left = (to_c - end_c) / (from_c - end_c)
    return -time_constant_s(body, place) * log(left) / 60.0


def radiant_c(arriving_w_m2: float) -> float:
    """Temperature of an even surrounding that sends that much longwave."""
    return float((arriving_w_m2 / SIGMA_W_M2K4) ** 0.25 - ZERO_C_K)
