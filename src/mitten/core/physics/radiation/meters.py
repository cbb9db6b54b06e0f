"""What hand-held power meters read of a source's radiation, beside what arrives.

A silicon cell sees 0.4 to 1.1 um and is scaled to be right in sunlight; a thermopile behind glass sees 0.3 to 3 um and
is scaled likewise. Under any other spectrum both are off by the ratio of the shares that they see.
"""

from functools import cache

from mitten.core.design import Meter
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.spectrum import Spectrum


@cache
def _sunlight() -> Spectrum:
    return Spectrum(value("sun"), cut_m=value("sun_to"))


def _share_in_band(spectrum: Spectrum, kind: Meter) -> float:
    return spectrum.below(value(f"{kind}_to")) - spectrum.below(value(f"{kind}_from"))


@cache
def reading_share(spectrum: Spectrum, meter: Meter) -> float:
    """What a meter shows for each W/m2 of a spectrum; 1 for a true one, and for any in sunlight."""
    if meter == "true":
        return 1.0
    sun = _sunlight()
    # Sunlight's own share is of what reaches the ground: all below the wavelength where water vapour ends it.
    of_sun = _share_in_band(sun, meter) / sun.below(value("sun_to"))
    return _share_in_band(spectrum, meter) / of_sun
