"""Natural-convection films on plates, walls and bodies; the equations and their ranges stand in ``correlations``.

Below Ra 1e4 the plate formulas are used outside their range; the least film then takes over.
"""

from typing import Any, TypeVar, cast

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import GRAVITY_M_S2, value
from mitten.core.physics.correlations import STABLE_PLATE, UNSTABLE_PLATE, VERTICAL_PLATE, Correlation
from mitten.core.physics.kernels.air import plate_films

PRANDTL = value("air_viscosity") / value("air_diffusivity")
_CYLINDER = (1 + (0.559 / PRANDTL) ** (9 / 16)) ** (8 / 27)
_BUOYANCY_K_M3 = GRAVITY_M_S2 / (value("air_viscosity") * value("air_diffusivity"))
Some = TypeVar("Some", float, Array)
"""One figure, or one a moment (T,)."""

_VERTICAL = 0.387 / (1 + (0.492 / PRANDTL) ** (9 / 16)) ** (8 / 27)


def rayleigh(difference_k: Array, length_m: Array, air_k: float, thinness: float = 1.0) -> Array:
    """Rayleigh number ``Ra = g beta dT L^3 / (nu a)``, of any shape.

    beta = 1/T in 1/K of the air at ``air_k``, dT ``difference_k``, L ``length_m``; nu and a, the air's kinematic
    viscosity and thermal diffusivity in m2/s, grow as it gets thinner (``thinness``, its density over that at sea
    level). 5 K along 0.3 m at 300 K: 1.258e7.
    """
    buoyancy = GRAVITY_M_S2 / air_k / (value("air_viscosity") * value("air_diffusivity")) * thinness**2
    return np.asarray(buoyancy * difference_k * length_m**3)


def horizontal_cylinder_w_m2k(difference_k: Some, diameter_m: float, air_k: Some, thinness: float = 1.0) -> Some:
    """Film in W/m2K on a long level cylinder, such as an animal's body, in still air; of one temperature or many (T,).

    ``Nu = (0.60 + 0.387 Ra^(1/6) / (1 + (0.559/Pr)^(9/16))^(8/27))^2``, ``h = Nu k / D`` with the diameter D as the
    length in Ra; Ra up to 1e12. Churchill & Chu, in Incropera et al. 10 K on 30 mm at 300 K: 4.76 W/m2K.
    """
    ra = _BUOYANCY_K_M3 / air_k * thinness**2 * difference_k * diameter_m**3
    root = 0.60 + 0.387 * ra ** (1 / 6) / _CYLINDER
    return cast(Some, at_least(value("film_least"), root**2 * value("air_conductivity") / diameter_m))


def at_least(least: float | Some, found: Some) -> Some:
    """What was found, and never less; of one figure or many (T,)."""
    most: Any = np.maximum(found, least) if isinstance(found, np.ndarray) else max(found, least)
    return cast(Some, most)


def cross_flow_w_m2k(speed_m_s: Some, diameter_m: float, thinness: float = 1.0) -> Some:
    """Film in W/m2K on a cylinder of ``diameter_m`` across air that moves at ``speed_m_s``.

    ``Nu = 0.3 + 0.62 Re^(1/2) Pr^(1/3) / (1 + (0.4/Pr)^(2/3))^(1/4) (1 + (Re/282000)^(5/8))^(4/5)``, Re = v D / nu;
    Re Pr over 0.2. Churchill & Bernstein, in Incropera et al. 0.5 m/s on 30 mm: Re 949, 13.6 W/m2K.
    """
    reynolds = speed_m_s * diameter_m * thinness / value("air_viscosity")
    prandtl = (1 + (0.4 / PRANDTL) ** (2 / 3)) ** 0.25
    nusselt = 0.3 + 0.62 * reynolds**0.5 * PRANDTL ** (1 / 3) / prandtl * (1 + (reynolds / 282e3) ** 0.625) ** 0.8
    return cast(Some, nusselt * value("air_conductivity") / diameter_m)


def plate_of(surface_minus_air_k: Array, tilt: Array) -> list[tuple[Correlation, Array]]:
    """Which correlation serves which faces (n,) that are so much warmer than their air; ``tilt`` as ``film_w_m2k``."""
    upright = tilt == 0
    # Warm facing up or cold facing down: the layer at the surface is unstable and stirs itself.
    unstable = tilt * surface_minus_air_k > 0
    return [
        (VERTICAL_PLATE, upright), (UNSTABLE_PLATE, ~upright & unstable), (STABLE_PLATE, ~upright & ~unstable),
    ]  # fmt: skip


def film_w_m2k(
    surface_minus_air_k: Array, tilt: Array, length_m: Array, air_k: float, least_w_m2k: Array, thinness: float = 1.0
) -> Array:
    """Films (n,) in W/m2K on plates that are so much warmer than their air, at least ``least_w_m2k`` (n,).

    ``tilt`` is +1 for faces looking up, -1 looking down, 0 upright; ``length_m`` is area over perimeter of a level one,
    height of an upright one. ``h = Nu k / L`` with, after Incropera et al.,

    - upright, ``Nu = (0.825 + 0.387 Ra^(1/6) / (1 + (0.492/Pr)^(9/16))^(8/27))^2``, Ra up to 1e12 (Churchill & Chu);
    - level, warm face up or cold face down, ``Nu = max(0.54 Ra^(1/4), 0.15 Ra^(1/3))``, laminar and turbulent, which
      meet near 5e6; Ra 1e4 to 1e11;
    - level, warm face down or cold face up, ``Nu = 0.27 Ra^(1/4)``, Ra 1e5 to 1e10.

    At 300 K: 5 K on an upright plate of 0.3 m 2.90 W/m2K; 20 K on a level one of 0.1 m 5.21 up and 2.60 down.
    """
    per_k_m3 = float(rayleigh(np.array(1.0), np.array(1.0), air_k, thinness))
    return plate_films(
        surface_minus_air_k, tilt, length_m, least_w_m2k, per_k_m3, _VERTICAL, value("air_conductivity")
    )  # fmt: skip
