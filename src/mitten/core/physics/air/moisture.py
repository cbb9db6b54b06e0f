"""Water in the air: what dishes, damp ground and misting give, what ventilation carries away, and the heat it takes.

Humidity ratios are in kg of water a kg of dry air. Evaporation follows the film of the surface by the analogy of heat
and mass transfer, ``g = h / (c_p Le^(2/3))`` (ASHRAE Fundamentals); moist-air properties are PsychroLib's, tabulated
once for each air pressure because it takes one value at a time.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import psychrolib

from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import ZERO_C_K, value

psychrolib.SetUnitSystem(psychrolib.SI)

SEA_LEVEL_PA = 101325.0
TABLE_C = np.linspace(-20.0, 90.0, 441)
SLOPE_STEP_K = 0.1
LEAK_M3_S = 1e-9
"""A box that is quite shut still comes to the room's humidity in the end."""

SECONDS_A_WEEK = 7 * 86400.0


def pressure_pa(altitude_m: float) -> float:
    """Air pressure at an altitude, to the nearest hectopascal."""
    return float(round(SEA_LEVEL_PA * np.exp(-altitude_m / value("air_scale_height")), -2))


@lru_cache(maxsize=16)
def _saturated(pressure: float) -> Array:
    return np.array([psychrolib.GetSatHumRatio(float(c), pressure) for c in TABLE_C])


def saturation_ratio(celsius: Array, pressure: float) -> Array:
    """Humidity ratio of saturated air; at -20 to 90 °C, beyond which the ends are taken."""
    return np.asarray(np.interp(celsius, TABLE_C, _saturated(pressure)))


def room_ratio(room_c: float, rh: float, pressure: float) -> float:
    """Humidity ratio of the room's air."""
    return float(psychrolib.GetHumRatioFromRelHum(room_c, rh, pressure))


def relative_humidity(ratio: Array, celsius: Array, pressure: float) -> Array:
    """Relative humidity of air of a humidity ratio, by the vapour pressures; at most 1."""
    saturated = saturation_ratio(celsius, pressure)
    vapour, most = ratio / (0.621945 + ratio), saturated / (0.621945 + saturated)
    return np.minimum(vapour / most, 1.0)


@dataclass(frozen=True, eq=False)
class Moisture:
    """Humidity ratio (columns, layers), water leaving each patch (n,) in kg/s, and the latent heat it takes:
    ``latent_w`` (n,) and how much more for each kelvin, ``latent_w_k`` (n,).
    """

    ratio: Array
    evaporation_kg_s: Array
    latent_w: Array
    latent_w_k: Array

    @property
    def litres_a_week(self) -> float:
        """Water evaporated in a week."""
        return float(self.evaporation_kg_s.sum()) * SECONDS_A_WEEK


@dataclass(frozen=True, eq=False)
class Evaporating:
    """What moisture needs to know of an enclosure: ``wetness`` (n,), areas (n,), ``zone_shares`` (n, m), the ground's
    areas (n,), zero elsewhere, and the misting.
    """

    wetness: Array
    areas_m2: Array
    zone_shares: Array
    ground_m2: Array
    misting_kg_s: float


def moisture_at(
    wet: Evaporating, film_w_k: Array, transport_m3_s: Array, entering_m3_s: Array,
    surface_k: Array, air_k: Array, room_ratio_kg_kg: float, density_kg_m3: float, pressure: float,
) -> Moisture:  # fmt: skip
    """Solve the zones' humidity for given temperatures: films times areas (n,), air transport (m, m), inflow (m,)."""
    shares = wet.zone_shares
    film = np.maximum(film_w_k, value("evaporation_film") * wet.areas_m2)
    uptake = wet.wetness * film / (value("air_heat_capacity") * value("lewis") ** (2 / 3))
    at_surface = saturation_ratio(surface_k - ZERO_C_K, pressure)
    mist = wet.misting_kg_s * wet.ground_m2 / max(float(wet.ground_m2.sum()), 1e-12)
    matrix = density_kg_m3 * transport_m3_s
    matrix[np.diag_indices(len(matrix))] += uptake @ shares + density_kg_m3 * LEAK_M3_S
    given = shares.T @ (uptake * at_surface + mist)
    given += density_kg_m3 * (entering_m3_s + LEAK_M3_S) * room_ratio_kg_kg
    ratio = np.minimum(np.linalg.solve(matrix, given), saturation_ratio(air_k.ravel() - ZERO_C_K, pressure))
    evaporation = uptake * (at_surface - shares @ ratio) + mist
    slope = (saturation_ratio(surface_k - ZERO_C_K + SLOPE_STEP_K, pressure) - at_surface) / SLOPE_STEP_K
    heat = value("vaporisation")
    return Moisture(ratio.reshape(air_k.shape), evaporation, evaporation * heat, uptake * slope * heat)
