"""The animal at a site: its operative temperature, how fast it warms and cools, and whether its patch is large enough.

A body of one temperature on the site's surface gains what its back takes of the lamps' and the surroundings' radiation
and what it touches, and loses to the air (Porter & Gates 1969, Gates 1980; operative temperature after Bakken 1976).
"""

from dataclasses import dataclass
from math import log

import numpy as np

from mitten.core.physics.air.convection import horizontal_cylinder_w_m2k
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K, value
from mitten.core.physics.reading.fields import SurfaceField

ROUNDS = 60
SETTLED_K = 1e-4
GRAMS = 1000.0
SLENDERNESS = {"snake": 22.0, "lizard": 7.0, "gecko": 6.0, "tortoise": 1.3, "turtle": 1.3}
"""Length over width of the outline; starting points to verify."""

TRUNK_SHARE = {"lizard": 0.5, "gecko": 0.6, "tortoise": 1.0, "turtle": 1.0}
"""Share of the length, nose to tail tip, that is not tail; starting points to verify."""

LOOSE_COIL = 1.6
"""Area of a loose coil over that of the snake in it."""

SAMPLES = 15


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
    def half_axes_m(self) -> tuple[float, float]:
        """Half axes of the ellipse it covers: a snake loosely coiled, any other stretched out, without its tail."""
        width_m = self.length_m / SLENDERNESS[self.group]
        if self.group == "snake":
            coil_m = float(np.sqrt(self.length_m * width_m * LOOSE_COIL / np.pi))
            return coil_m, coil_m
        return self.length_m * TRUNK_SHARE[self.group] / 2, width_m / 2

    @property
    def outline_m2(self) -> float:
        """Area of that ellipse."""
        along, across = self.half_axes_m
        return float(np.pi * along * across)


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
    """Area of a surface within the wanted band, the animal's outline, and the share of the outline that lies in the
    band when the animal lies on the warmest spot, turned the better of two ways.
    """

    area_m2: float
    outline_m2: float
    covers: float


def patch_of(field: SurfaceField, at: tuple[float, float], wanted_c: tuple[float, float], body: Body) -> Patch:
    """The patch of a surface that lies in a band of temperatures, with the animal at ``at`` (x, y)."""
    inside = (field.spots_c >= wanted_c[0]) & (field.spots_c <= wanted_c[1])
    area_m2 = float(np.count_nonzero(inside)) * field.cell_m[0] * field.cell_m[1]
    along, across = body.half_axes_m
    covers = max(_covered(field, at, wanted_c, half_axes) for half_axes in ((along, across), (across, along)))
    return Patch(area_m2, body.outline_m2, covers)


def _covered(
    field: SurfaceField, at: tuple[float, float], wanted_c: tuple[float, float], half_axes_m: tuple[float, float]
) -> float:
    """Share of an ellipse around a place whose spots lie in the band; what hangs over the edge lies in none."""
    reach = (np.arange(SAMPLES) + 0.5) / SAMPLES * 2 - 1
    u, v = np.meshgrid(reach, reach)
    within = np.hypot(u, v) <= 1
    xs, ys = at[0] + half_axes_m[0] * u[within], at[1] + half_axes_m[1] * v[within]
    spots = field.spots_at(xs, ys)
    origin, sizes = field.surface.origin, field.surface.sizes
    on_it = (xs >= origin[0]) & (xs <= origin[0] + sizes[0]) & (ys >= origin[1]) & (ys <= origin[1] + sizes[1])
    return float(np.mean(on_it & (spots >= wanted_c[0]) & (spots <= wanted_c[1])))
