"""What a lamp's plume does to the ceiling over it.

The rise of a ceiling jet after Alpert (1972), ``16.9 Q^(2/3) / H^(5/3)`` near the axis and ``5.38 (Q/r)^(2/3) / H``
beyond ``0.18 H``, Q in kW and lengths in metres, for sources that give 70 % of Q to the air; H is counted from the
virtual origin below a source of some width, after Heskestad (1984). Both were found on fires much larger than lamps,
and are used here below their range: a starting point.
"""

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import value

CONVECTIVE_SHARE = 0.7
NEAR_THE_AXIS = 0.18
KILO = 1000.0


def jet_rise_k(convective_w: float, height_m: float, width_m: float, radius_m: Array) -> Array:
    """Rise (m,) in K of a ceiling jet over the air under the ceiling, at distances from the axis of a plume of that
    much heat, whose source is ``width_m`` wide and ``height_m`` below.

    ``16.9 Q^(2/3) / H^(5/3)`` near the axis, ``5.38 (Q/r)^(2/3) / H`` beyond 0.18 H; Q in kW of which 70 % warm the
    air, H in m from the virtual origin, ``0.083 Q^(2/5) - 1.02 D`` above the source where that is below it (D its
    width). Found for 500 kW and more. As far from the axis as the plume is high, the jet has become that air: only what
    is beyond it counts. 30 W from a point 0.3 m below: 15.4 K on the axis, less 4.9 K at 0.3 m. Alpert 1972,
    Heskestad 1984.
    """
    power_kw = convective_w / CONVECTIVE_SHARE / KILO
    origin_m = 0.083 * power_kw ** (2 / 5) - 1.02 * width_m
    from_origin_m = max(height_m - min(origin_m, 0.0), width_m)
    on_the_axis = 16.9 * power_kw ** (2 / 3) / from_origin_m ** (5 / 3)

    def beyond(away_m: Array) -> Array:
        return np.asarray(5.38 * (power_kw / away_m) ** (2 / 3) / from_origin_m)

    outwards_m = np.maximum(radius_m, NEAR_THE_AXIS * from_origin_m)
    rise = np.minimum(on_the_axis, beyond(outwards_m)) - beyond(np.array(from_origin_m))
    return np.asarray(np.maximum(rise, 0.0))


def into_the_ceiling_w_m2(convective_w: float, height_m: float, width_m: float, radius_m: Array) -> Array:
    """Heat (m,) that the jet gives to a ceiling beyond what the air of the zone would."""
    return np.asarray(value("jet_film") * jet_rise_k(convective_w, height_m, width_m, radius_m))
