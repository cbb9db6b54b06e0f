"""How an animal lies on a surface: where, on how much of it, and what the surface under it does.

A body that lies somewhere takes the mean of a beam over its outline, and shades what it lies on: the ground under it
takes up no beam and gives nothing to the air, and settles with the belly through its own conduction.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache, cached_property, lru_cache

import numpy as np
from scipy.ndimage import maximum_filter
from scipy.special import j1

from mitten.core.physics.arrays import Array, Mask
from mitten.core.physics.constants import value
from mitten.core.physics.reading.body import Body
from mitten.core.physics.reading.fields import SurfaceField
from mitten.core.physics.solids.ground import Layer, admittance_w_m2k

ACROSS = 7
"""Points across an outline at which radiation is taken."""

COVER_ACROSS = 15
EVENLY_WARM_K = 0.2
NEARLY_AS_WARM_K, NEIGHBOURS_M, MOST_SPOTS = 4.0, 0.04, 6
"""A second spot that is less warm than the first by no more, and further from it, may be the warmer one for a body."""

ALIKE_M = 1e-6
WAVES = 400
WAVES_FROM, WAVES_TO = 1e-3, 60.0
KEPT_COVERS = 256


@dataclass(frozen=True)
class Lying:
    """An outline on a level surface: an ellipse around (x, y) with half axes along x and y, in metres."""

    x_m: float
    y_m: float
    half_x_m: float
    half_y_m: float

    def points(self, across: int = ACROSS) -> Array:
        """Places (m, 2) evenly over the outline."""
        return np.array([self.x_m, self.y_m]) + np.array([self.half_x_m, self.half_y_m]) * _disc(across)

    @cached_property
    def radius_m(self) -> float:
        """Radius of the disc of the same area."""
        return float(np.sqrt(self.half_x_m * self.half_y_m))


@cache
def _disc(across: int) -> Array:
    """Places (m, 2) evenly over a disc of radius 1."""
    reach = (np.arange(across) + 0.5) / across * 2 - 1
    u, v = np.meshgrid(reach, reach)
    within = np.hypot(u, v) <= 1
    return np.column_stack([u[within], v[within]])


def lie_on(field: SurfaceField, body: Body, at: tuple[float, float] | None = None) -> Lying:
    """Where an animal lies on a surface: over its warmest spot, or another that is said, towards the middle the less
    the spot stands out, along the longer side, and as far on the surface as it is large enough.
    """
    origin, sizes = field.surface.origin, field.surface.sizes
    spots = field.spots_c
    spot = field.hottest()[1] if at is None else at
    # Not at once from the middle to the spot: a body must not jump where a surface is nearly even.
    stands_out = min(max(float(spots.max() - spots.min()) / EVENLY_WARM_K - 1.0, 0.0), 1.0)
    middle = origin[0] + sizes[0] / 2, origin[1] + sizes[1] / 2
    towards = [to_m + stands_out * (from_m - to_m) for from_m, to_m in zip(spot, middle, strict=True)]
    along, across = body.half_axes_m
    half = (along, across) if sizes[0] > sizes[1] - ALIKE_M else (across, along)
    x_m, y_m = (
        _keep_on(towards[axis], half[axis], origin[axis], origin[axis] + sizes[axis]) for axis in (0, 1)
    )  # fmt: skip
    return Lying(x_m, y_m, *half)


def warm_spots(field: SurfaceField) -> list[tuple[float, float]]:
    """The places that are warmer than all around them, nearly as warm as the warmest, the warmest first."""
    spots = field.spots_c if field.bare is None else np.where(field.bare, field.spots_c, -np.inf)
    highest_c, first = field.hottest()
    reach = [2 * int(np.ceil(NEIGHBOURS_M / size)) + 1 for size in reversed(field.cell_m)]
    tops = (spots == maximum_filter(spots, size=reach, mode="nearest")) & (spots > highest_c - NEARLY_AS_WARM_K)
    rows, columns = np.nonzero(tops)
    order = np.argsort(-spots[rows, columns])[:MOST_SPOTS]
    found = [first]
    for at in ((float(field.xs_m[columns[one]]), float(field.ys_m[rows[one]])) for one in order):
        if all(np.hypot(at[0] - x_m, at[1] - y_m) > NEIGHBOURS_M for x_m, y_m in found):
            found.append(at)
    return found


def _keep_on(at_m: float, half_m: float, low_m: float, high_m: float) -> float:
    """A middle from which the half length reaches over no end; the surface's own where it is shorter."""
    if high_m - low_m <= 2 * half_m:
        return (low_m + high_m) / 2
    return min(max(at_m, low_m + half_m), high_m - half_m)


def on_surface(field: SurfaceField, points: Array) -> Mask:
    """Which places (m, 2) are on a level surface: the others hang over its edge."""
    low = np.array(field.surface.origin[:2])
    return np.asarray(np.all((points >= low) & (points <= low + np.array(field.surface.sizes)), axis=1))


def under_cover_m2k_w(field: SurfaceField, lying: Lying) -> float:
    """Rise of the covered surface for each W/m2 that flows into it, on the mean over the outline."""
    return _covered_m2k_w(
        tuple(field.layers), round(field.below_w_m2k, 1), round(field.loss_w_m2k, 0), round(lying.radius_m, 4)
    )


@lru_cache(maxsize=KEPT_COVERS)
def _covered_m2k_w(layers: Sequence[Layer], below_w_m2k: float, loss_w_m2k: float, radius_m: float) -> float:
    """Of a disc with an even flux on layers of any extent: ``2 J1(k a)² / k`` over their admittance, by all waves k.

    Everything loses heat upwards but the disc itself: what it would lose is taken back out. On a half space without
    losses this is ``8 a / (3 pi k)``; Carslaw & Jaeger, Conduction of Heat in Solids.
    """
    kappa_a = np.geomspace(WAVES_FROM, WAVES_TO, WAVES)
    admittance = admittance_w_m2k(kappa_a / radius_m, layers, below_w_m2k) + loss_w_m2k
    # In steps of the logarithm dk / k.
    open_m2k_w = float(np.trapezoid(2 * j1(kappa_a) ** 2 / admittance, np.log(kappa_a)))
    return open_m2k_w / max(1.0 - loss_w_m2k * open_m2k_w, 0.05)


@dataclass(frozen=True)
class Belly:
    """What an animal's belly meets: the shaded surface's temperature and the conductance to it."""

    surface_c: float
    conductance_w_m2k: float


def belly_on(field: SurfaceField, lying: Lying, conducted_w_m2: float, touches: float = 1.0) -> Belly:
    """The surface under an animal. ``conducted_w_m2`` is what flows into it where nothing lies: covered, it no longer
    does. ``touches`` is a factor on how well the belly touches.
    """
    points = lying.points()
    on_it = points[on_surface(field, points)]
    bare_c = float(field.spots_at(on_it[:, 0], on_it[:, 1]).mean()) if len(on_it) else field.hottest()[0]
    into_it = under_cover_m2k_w(field, lying)
    return Belly(bare_c - into_it * conducted_w_m2, belly_w_m2k(into_it, touches))


def belly_w_m2k(into_it_m2k_w: float, touches: float = 1.0) -> float:
    """How well a belly is coupled to what lies under it: its own contact, and the covered surface's resistance."""
    return 1.0 / (1.0 / (touches * value("skin_contact")) + into_it_m2k_w)


@dataclass(frozen=True)
class WarmPatch:
    """Area of a surface within the wanted band, the animal's outline, and the share of the outline that lies in the
    band where the animal lies.
    """

    area_m2: float
    outline_m2: float
    covers: float


def patch_of(field: SurfaceField, lying: Lying, wanted_c: tuple[float, float], body: Body) -> WarmPatch:
    """The patch of a surface that lies in a band of temperatures; what hangs over its edge lies in none."""
    inside = (field.spots_c >= wanted_c[0]) & (field.spots_c <= wanted_c[1])
    area_m2 = float(np.count_nonzero(inside)) * field.cell_m[0] * field.cell_m[1]
    points = lying.points(COVER_ACROSS)
    spots = field.spots_at(points[:, 0], points[:, 1])
    wanted = on_surface(field, points) & (spots >= wanted_c[0]) & (spots <= wanted_c[1])
    return WarmPatch(area_m2, body.outline_m2, float(wanted.mean()))
