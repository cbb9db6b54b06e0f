"""Natural-convection films on plates and walls.

Nusselt numbers after Incropera et al.: level plates, hot face up, the larger of ``0.54 Ra^(1/4)`` and
``0.15 Ra^(1/3)`` (laminar and turbulent, which meet near Ra 5e6); hot face down, ``0.27 Ra^(1/4)``; vertical,
Churchill & Chu for all Ra. Below Ra 1e4 the plate formulas are used outside their range; the least film then takes
over.
"""

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import GRAVITY_M_S2, value

PRANDTL = value("air_viscosity") / value("air_diffusivity")
_VERTICAL = 0.387 / (1 + (0.492 / PRANDTL) ** (9 / 16)) ** (8 / 27)


def rayleigh(difference_k: Array, length_m: Array, air_k: float, thinness: float = 1.0) -> Array:
    """Rayleigh number g beta dT L^3 / (nu a), with beta = 1/T; nu and a grow as the air gets thinner."""
    buoyancy = GRAVITY_M_S2 / air_k / (value("air_viscosity") * value("air_diffusivity")) * thinness**2
    return np.asarray(buoyancy * difference_k * length_m**3)


def horizontal_cylinder_w_m2k(difference_k: float, diameter_m: float, air_k: float, thinness: float = 1.0) -> float:
    """Film on a long level cylinder: an animal's body. Churchill & Chu, Ra up to 1e12; Incropera et al."""
    ra = float(rayleigh(np.array(difference_k), np.array(diameter_m), air_k, thinness))
    root: float = 0.60 + 0.387 * ra ** (1 / 6) / (1 + (0.559 / PRANDTL) ** (9 / 16)) ** (8 / 27)
    return max(root**2 * value("air_conductivity") / diameter_m, value("film_least"))


def cross_flow_w_m2k(speed_m_s: float, diameter_m: float, thinness: float = 1.0) -> float:
    """Film on a cylinder across moving air. Churchill & Bernstein, Re Pr over 0.2; Incropera et al."""
    reynolds = speed_m_s * diameter_m * thinness / value("air_viscosity")
    prandtl = (1 + (0.4 / PRANDTL) ** (2 / 3)) ** 0.25
    nusselt: float = (
        0.3 + 0.62 * reynolds**0.5 * PRANDTL ** (1 / 3) / prandtl * (1 + (reynolds / 282e3) ** 0.625) ** 0.8
    )
    return nusselt * value("air_conductivity") / diameter_m


def film_w_m2k(
    surface_minus_air_k: Array, tilt: Array, length_m: Array, air_k: float, least_w_m2k: Array, thinness: float = 1.0
) -> Array:
    """Film coefficients (n,), at least ``least_w_m2k`` (n,). ``tilt`` is +1 for faces looking up, -1 looking down, 0
    vertical; ``thinness`` is the air's density over that at sea level.
    """
    ra = rayleigh(np.abs(surface_minus_air_k), length_m, air_k, thinness)
    lively = tilt * surface_minus_air_k > 0
    rising = np.maximum(0.54 * ra**0.25, 0.15 * np.cbrt(ra))
    still = 0.27 * ra**0.25
    vertical = (0.825 + _VERTICAL * ra ** (1 / 6)) ** 2
    nusselt = np.where(tilt == 0, vertical, np.where(lively, rising, still))
    return np.maximum(nusselt * value("air_conductivity") / length_m, least_w_m2k)
