"""Planck's law: how a source's radiation divides into light, IR-A, IR-B and IR-C."""

from dataclasses import dataclass
from functools import cache

import numpy as np

from mitten.core.catalogue import SourceKind
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K, value

VISIBLE_TO_M = 0.7e-6
IR_A_TO_M = 1.4e-6
IR_B_TO_M = 3.0e-6
"""Ends of the bands; the computing bands, shortwave and longwave, part at the end of IR-B."""

SERIES_TERMS = 60
FILAMENT_POWER_EXPONENT = 0.25
"""A filament run at the power share d glows at d^(1/4) of its temperature (grey body)."""

USUAL_SURROUNDINGS_C = 25.0


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
class Spectrum:
    """A grey emitter behind an envelope that is opaque above ``cut_m``, with ``arc_share`` of light from an arc.

    What the envelope takes it gives off again as IR-C.
    """

    emitter_k: float
    cut_m: float | None = None
    arc_share: float = 0.0

    def below(self, wavelength_m: float) -> float:
        """Share of the radiation below a wavelength; an arc's light counts as a whole below the end of light."""
        thermal = fraction_below(min(wavelength_m, self.cut_m or wavelength_m), self.emitter_k)
        arc = self.arc_share if wavelength_m >= VISIBLE_TO_M else 0.0
        return arc + (1.0 - self.arc_share) * thermal


LIGHT_ALONE = Spectrum(5000.0, cut_m=VISIBLE_TO_M, arc_share=1.0)
"""LEDs and fluorescent tubes: light and next to nothing else."""


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
def bands_of(spectrum: Spectrum) -> Bands:
    """Shares of a spectrum in light and the three infrared bands."""
    visible, to_a, to_b = (spectrum.below(end) for end in (VISIBLE_TO_M, IR_A_TO_M, IR_B_TO_M))
    return Bands(visible, to_a - visible, to_b - to_a, 1.0 - to_b)


def black_surface_k(radiant_w: float, area_m2: float, emissivity: float, surroundings_k: float) -> float:
    """Temperature at which an area gives off that much more radiation than it takes in.

    ``eta P = eps sigma A (T^4 - T0^4)``.
    """
    return float((radiant_w / (emissivity * SIGMA_W_M2K4 * area_m2) + surroundings_k**4) ** 0.25)


def emitter_temperature_k(kind: SourceKind, watts: float, dim: float) -> float:
    """Temperature of the filament, or of a ceramic emitter from its own balance in usual surroundings."""
    if kind.emitter_k is not None:
        return float(kind.emitter_k * max(dim, 1e-3) ** FILAMENT_POWER_EXPONENT)
    if kind.radiating_area_m2 is None:
        raise ValueError(f"{kind.label} has neither an emitter temperature nor a radiating area")
    radiant_w = kind.radiant_share * watts * dim
    return black_surface_k(
        radiant_w, kind.radiating_area_m2, value("ceramic_emissivity"), ZERO_C_K + USUAL_SURROUNDINGS_C
    )


def spectrum_of(kind: SourceKind, watts: float, dim: float) -> Spectrum:
    """Spectrum of a lamp or emitter run at ``dim`` of its power, behind its envelope."""
    cut = {"quartz": value("quartz_cut"), "glass": value("glass_cut"), "none": None}[kind.envelope]
    return Spectrum(round(emitter_temperature_k(kind, watts, dim), 1), cut, kind.arc_share)
