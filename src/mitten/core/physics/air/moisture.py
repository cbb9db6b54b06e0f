"""Water in the air: what dishes, damp ground and misting give, what condenses, what ventilation carries away.

Humidity ratios are in kg of water a kg of dry air. Evaporation and condensation follow the film of the surface by the
analogy of heat and mass transfer, ``g = h / (c_p Le^(2/3))`` (ASHRAE Fundamentals); moist-air properties are
PsychroLib's, tabulated once for each air pressure because it takes one value at a time.

The water closes as the heat does: what evaporates is what leaves with the air, what condenses on patches below the dew
point, and what falls as fog where the air itself is full. What condenses drips back to the ground; what is sprayed and
finds no room in the air stays there.
"""

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from mitten.core.physics.air.psychrometrics import psychrolib
from mitten.core.physics.air.zones import ZoneShares
from mitten.core.physics.arrays import Array, Mask
from mitten.core.physics.constants import ZERO_C_K, value
from mitten.core.physics.kernels import water as kernels
from mitten.core.physics.linear import LuFactors, diagonal_of, factor, inverse_of, solve_factored

SEA_LEVEL_PA = 101325.0
TABLE_C = np.linspace(-20.0, 90.0, 441)
SLOPE_STEP_K = 0.1
LEAK_M3_S = 1e-9
"""A box that is quite shut still comes to the room's humidity in the end."""

SECONDS_A_WEEK = 7 * 86400.0

FOG_PULL = 100.0
"""Air above saturation gives off its surplus so many times as freely as it exchanges water otherwise: it stays full."""

MOST_STEPS = 25


def pressure_pa(altitude_m: float) -> float:
    """Air pressure at an altitude, to the nearest hectopascal."""
    return float(round(SEA_LEVEL_PA * np.exp(-altitude_m / value("air_scale_height")), -2))


@lru_cache(maxsize=16)
def _saturation_ratios(pressure: float) -> Array:
    return np.array([psychrolib.GetSatHumRatio(float(c), pressure) for c in TABLE_C])


def saturation_ratio(celsius: Array, pressure: float) -> Array:
    """Humidity ratio of saturated air; at -20 to 90 °C, beyond which the ends are taken."""
    return np.asarray(np.interp(celsius, TABLE_C, _saturation_ratios(pressure)))


def room_ratio(room_c: float, rh: float, pressure: float) -> float:
    """Humidity ratio of the room's air."""
    return float(psychrolib.GetHumRatioFromRelHum(room_c, rh, pressure))


def relative_humidity(ratio: Array, celsius: Array, pressure: float) -> Array:
    """Relative humidity of air of a humidity ratio, by the vapour pressures; at most 1."""
    saturated = saturation_ratio(celsius, pressure)
    vapour, most = ratio / (0.621945 + ratio), saturated / (0.621945 + saturated)
    return np.minimum(vapour / most, 1.0)


@dataclass(frozen=True, eq=False)
class WaterSlopes:
    """How the water answers to temperatures, for steps of the heat balance: ``zones`` (m, m), as factors, takes up what
    the patches' ``uptake`` (n,) and the fog's ``fog`` (m,) give, in kg/s for each unit of humidity ratio.
    """

    zones: LuFactors
    uptake: Array
    fog: Array
    surface_c: Array
    air_c: Array
    pressure: float

    @cached_property
    def answers(self) -> Array:
        """What a kg/s in each zone does to the ratio of all (m, m)."""
        return inverse_of(self.zones)

    @cached_property
    def surface_k(self) -> Array:
        """Slope (n,) of saturation at the patches."""
        return _saturation_slope(self.surface_c, self.pressure)

    @cached_property
    def air_k(self) -> Array:
        """The same (m,) in the zones."""
        return _saturation_slope(self.air_c, self.pressure)


@dataclass(frozen=True, eq=False)
class Doing:
    """Which patches (n,) take water from the air, which are as wet as they can be, and which zones (m,) fog."""

    takes: Mask
    soaked: Mask
    fogs: Mask

    def same_as(self, other: "Doing") -> bool:
        """Whether nothing changes what it does."""
        pairs = ((self.takes, other.takes), (self.soaked, other.soaked), (self.fogs, other.fogs))
        return all(one.tobytes() == two.tobytes() for one, two in pairs)


@dataclass(frozen=True, eq=False)
class MoistureBalance:
    """Humidity ratio (columns, layers) and the water in kg/s: what evaporates from each patch (n,), what condenses on
    it (n,), what falls as fog (columns, layers), and what leaves with the air beyond what came in with it.
    """

    ratio: Array
    evaporation_kg_s: Array
    condensation_kg_s: Array
    fog_kg_s: Array
    carried_kg_s: float
    slopes: WaterSlopes | None = None
    doing: Doing | None = None

    @cached_property
    def latent_w(self) -> Array:
        """Heat (n,) that the water takes from each patch; negative where it condenses."""
        return np.asarray(value("vaporisation") * (self.evaporation_kg_s - self.condensation_kg_s))

    @cached_property
    def fog_w(self) -> Array:
        """Heat (columns, layers) that the fog gives to the air."""
        return np.asarray(value("vaporisation") * self.fog_kg_s)

    @property
    def residual_kg_s(self) -> float:
        """What evaporates less what condenses, falls as fog and is carried away."""
        return float(self.evaporation_kg_s.sum() - self.condensation_kg_s.sum() - self.fog_kg_s.sum()) - (
            self.carried_kg_s
        )

    @property
    def turned_over_kg_s(self) -> float:
        """All that evaporates."""
        return float(self.evaporation_kg_s.sum())

    @property
    def litres_a_week(self) -> float:
        """Water evaporated in a week."""
        return self.turned_over_kg_s * SECONDS_A_WEEK

    @property
    def condensed_litres_a_week(self) -> float:
        """Water that condenses in a week, on patches and as fog."""
        return float(self.condensation_kg_s.sum() + self.fog_kg_s.sum()) * SECONDS_A_WEEK


def dry_air(ratio_kg_kg: float, patches: int, zones: tuple[int, int]) -> MoistureBalance:
    """Air of the room's humidity throughout, and no water."""
    nothing = np.zeros(patches)
    return MoistureBalance(np.full(zones, ratio_kg_kg), nothing, nothing, np.zeros(zones), 0.0)


@dataclass(frozen=True, eq=False)
class Evaporating:
    """What moisture needs to know of an enclosure: ``wetness`` (n,), ``zone_shares`` (n, m), the share (n,) of what is
    sprayed that falls on each patch of the ground, and the misting.
    """

    wetness: Array
    zone_shares: ZoneShares
    falls_on: Array
    misting_kg_s: float

    @cached_property
    def supplied_kg_s(self) -> Array:
        """What is sprayed on each patch (n,)."""
        return np.asarray(self.falls_on * self.misting_kg_s)


@dataclass(frozen=True, eq=False)
class Flows:
    """The air's part of the water, frozen for a round: what exchanges between zones (m, m), with the room, and its
    ratio there; all in kg/s.
    """

    zones_kg_s: Array
    entering_kg_s: Array
    room_ratio: float

    @classmethod
    def of(cls, transport_m3_s: Array, entering_m3_s: Array, room_ratio: float, density_kg_m3: float) -> "Flows":
        """From the air's transport (m, m) and the room air entering each zone (m,), both in m3/s."""
        zones = density_kg_m3 * transport_m3_s
        diagonal_of(zones)[...] += density_kg_m3 * LEAK_M3_S
        return cls(zones, density_kg_m3 * (entering_m3_s + LEAK_M3_S), room_ratio)

    def carried_kg_s(self, ratio: Array) -> float:
        """Water that leaves with the air beyond what comes in with it."""
        return float(self.zones_kg_s.sum(axis=0) @ ratio - self.entering_kg_s.sum() * self.room_ratio)


@dataclass(frozen=True, eq=False)
class _Water:
    """The balance of the zones' water at given temperatures, linear as long as no patch changes what it does.

    A patch gives ``wetness g (sat - W)`` and, of what is sprayed on it, at most what a wet one would; below the dew
    point it takes ``g (W - sat)``. ``g`` (n,) are the films times areas.
    """

    wet: Evaporating
    flows: Flows
    g: Array
    saturated: Array
    full: Array

    @cached_property
    def fog_pull(self) -> Array:
        """How freely each zone (m,) gives off what it cannot hold."""
        return np.asarray(FOG_PULL * (self.flows.zones_kg_s.diagonal() + self.wet.zone_shares.in_zones(self.g)))

    def lacking(self, ratio: Array) -> Array:
        """How much the air at each patch (n,) is short of saturation at its surface; negative below the dew point."""
        return np.asarray(self.saturated - self.wet.zone_shares.at_patches(ratio))

    def fog(self, ratio: Array) -> Array:
        """What falls as fog in each zone (m,)."""
        return np.asarray(self.fog_pull * np.maximum(ratio - self.full, 0.0))

    def exchange(self, ratio: Array) -> tuple[Array, Array]:
        """What leaves each patch (n,), and what it takes."""
        return kernels.water_exchange(self.lacking(ratio), self.wet.wetness, self.g, self.wet.supplied_kg_s)

    def doing(self, ratio: Array) -> Doing:
        """What every patch and zone does at a ratio."""
        takes, soaked = kernels.water_doings(self.lacking(ratio), self.wet.wetness, self.g, self.wet.supplied_kg_s)
        return Doing(takes, soaked, ratio > self.full)

    def linear(self, doing: Doing) -> tuple[Array, Array, Array, Array]:
        """Matrix (m, m) and right-hand side (m,) with every patch doing that, and the slopes of the patches (n,) and of
        the fog (m,).
        """
        matrix, given, uptake = kernels.water_system(
            doing.takes, doing.soaked, self.wet.wetness, self.g, self.saturated, self.wet.supplied_kg_s,
            *self.wet.zone_shares.listed, self.flows.zones_kg_s,
        )  # fmt: skip
        fog = np.where(doing.fogs, self.fog_pull, 0.0)
        diagonal_of(matrix)[...] += fog
        given += fog * self.full + self.flows.entering_kg_s * self.flows.room_ratio
        return matrix, given, uptake, fog


def moisture_at(
    wet: Evaporating, film_w_k: Array, flows: Flows, surface_k: Array, air_k: Array, pressure: float,
    near: MoistureBalance | None = None,
) -> MoistureBalance:  # fmt: skip
    """Solve the zones' humidity for given temperatures, films times areas (n,), and flows of the air, begun from what
    it is ``near``.
    """
    surface_c, air_c = surface_k - ZERO_C_K, air_k.ravel() - ZERO_C_K
    g = mass_film(film_w_k)
    water = _Water(wet, flows, g, saturation_ratio(surface_c, pressure), saturation_ratio(air_c, pressure))
    known = None if near is None else near.doing
    doing = water.doing(np.full(len(air_c), flows.room_ratio)) if known is None else known
    for _ in range(MOST_STEPS):
        matrix, given, uptake, fog = water.linear(doing)
        factors = factor(matrix)
        ratio = solve_factored(factors, given)
        before, doing = doing, water.doing(ratio)
        if doing.same_as(before):
            break
    slopes = WaterSlopes(factors, uptake, fog, surface_c, air_c, pressure)
    return MoistureBalance(
        ratio.reshape(air_k.shape), *water.exchange(ratio), water.fog(ratio).reshape(air_k.shape),
        flows.carried_kg_s(ratio), slopes, doing,
    )  # fmt: skip


def mass_film(film: Array) -> Array:
    """Film of mass transfer that goes with a film of heat (...), ``g = h / (c_p Le^(2/3))``: kg/m2s with W/m2K, kg/s
    with W/K; it moves water by differences of humidity ratio, ``g (W_sat - W)``.

    3 W/m2K over water at 25 °C in air at 25 °C and 50 %: 0.00330 kg/m2s, 0.121 kg/m2h. Chilton & Colburn's analogy,
    ASHRAE Fundamentals.
    """
    return np.asarray(film / (value("air_heat_capacity") * value("lewis") ** (2 / 3)))


def _saturation_slope(celsius: Array, pressure: float) -> Array:
    step = SLOPE_STEP_K
    return (saturation_ratio(celsius + step, pressure) - saturation_ratio(celsius, pressure)) / step


def wet_bulb_c(celsius: float, rh: float, pressure: float) -> float:
    """Temperature to which evaporation alone cools a wet thing in air."""
    return float(psychrolib.GetTWetBulbFromRelHum(celsius, rh, pressure))
