"""Planck's law: how a source's radiation divides into light, IR-A, IR-B and IR-C."""

from dataclasses import dataclass
from functools import cache

import numpy as np

from mitten.core.catalogue import LampKind
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K, value

VISIBLE_TO_M = 0.7e-6
IR_A_TO_M = 1.4e-6
IR_B_TO_M = 3.0e-6
"""Ends of the bands; the computing bands, shortwave and longwave, part at the end of IR-B."""

SERIES_TERMS = 60
FILAMENT_POWER_EXPONENT = 0.25
"""A filament run at the power share d glows at d^(1/4) of its temperature (grey body)."""


def fraction_below(wavelength_m: float, temperature_k: float) -> float:
    """Share of a black body's radiation below a wavelength.

    Series of Planck's integral, F = 15/pi^4 sum_n e^(-nx) (x^3/n + 3x^2/n^2 + 6x/n^3 + 6/n^4) with
    x = c2 / (lambda T); Incropera et al., table of blackbody functions. Valid for x > 0.2.
    """
    x = value("second_radiation") / (wavelength_m * temperature_k)
    n = np.arange(1, SERIES_TERMS + 1)
    terms = np.exp(-n * x) * (x**3 / n + 3 * x**2 / n**2 + 6 * x / n**3 + 6 / n**4)
    return float(15.0 / np.pi**4 * terms.sum())


@dataclass(frozen=True)
class Bands:
    """Shares of the radiant power; they sum to 1."""

    visible: float
    ir_a: float
    ir_b: float
    ir_c: float

    @property
    def short(self) -> float:
        """Shortwave: all that passes glass and is reflected by white boards."""
        return self.visible + self.ir_a + self.ir_b


@cache
def band_shares(temperature_k: float, cut_m: float | None = None) -> Bands:
    """Shares of a black emitter's radiation behind an envelope that is opaque above ``cut_m``.

    What the envelope takes it gives off again as IR-C.
    """

    def below(wavelength_m: float) -> float:
        return fraction_below(min(wavelength_m, cut_m or wavelength_m), temperature_k)

    visible, to_a, to_b = below(VISIBLE_TO_M), below(IR_A_TO_M), below(IR_B_TO_M)
    return Bands(visible, to_a - visible, to_b - to_a, 1.0 - to_b)


def emitter_temperature_k(lamp: LampKind, watts: float, dim: float) -> float:
    """Temperature of the filament, or of a ceramic emitter from its own balance.

    The ceramic's: ``eta P = eps sigma A (T^4 - T0^4)`` with surroundings at 25 °C.
    """
    if lamp.emitter_k is not None:
        return float(lamp.emitter_k * max(dim, 1e-3) ** FILAMENT_POWER_EXPONENT)
    area_m2 = lamp.radiating_area_m2
    if area_m2 is None:
        raise ValueError(f"{lamp.label} has neither an emitter temperature nor a radiating area")
    surroundings_k = ZERO_C_K + 25.0
    radiant_w = lamp.radiant_share * watts * dim
    fourth = radiant_w / (value("ceramic_emissivity") * SIGMA_W_M2K4 * area_m2) + surroundings_k**4
    return float(fourth**0.25)


def lamp_bands(lamp: LampKind, watts: float, dim: float) -> Bands:
    """Shares of a lamp's radiation, behind its envelope."""
    cut = {"quartz": value("quartz_cut"), "glass": value("glass_cut"), "none": None}[lamp.envelope]
    return band_shares(round(emitter_temperature_k(lamp, watts, dim), 1), cut)
