"""Radiators: how much they radiate in each direction, and what of it lands where.

Irradiance arrays run over the interior's sub-points (n x SUBDIVISION^2,), in W/m2.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from mitten.core.catalogue import MeshType
from mitten.core.design import Enclosure
from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import value
from mitten.core.physics.kernels import lamps as kernels
from mitten.core.physics.radiation.spectrum import Bands, Spectrum, bands_of
from mitten.core.physics.shape.geometry import SUBDIVISION, Box, Interior
from mitten.core.physics.shape.view_factors import unshadowed

ANGLE_STEPS = (90, 72)
"""Polar and azimuth steps of the quadrature over a lamp's half space."""

BODY_WIDTH_M = 0.10
"""Width over which a lamp's body gives its heat to the air: so that it passes evenly from column to column."""

NEAREST_M = 0.02
"""Nothing comes nearer to a lamp's filament than its envelope."""

NEAR_FACES = 5.0
"""So many face widths from a lamp its face counts; beyond, it is a point."""

VERY_NEAR_FACES = 1.5
"""Nearer than this it is taken by more places."""

KEPT_DEPOSITS = 64
KEPT_POINTS = 2048


@dataclass(frozen=True)
class MeshWindow:
    """The mesh area of the lid: a level rectangle at height ``z_m`` with its open share."""

    low_x_m: float
    high_x_m: float
    low_y_m: float
    high_y_m: float
    z_m: float
    open_share: float

    def transmittance(self, cos_theta: Array, crossing: Array) -> Array:
        """Share let through of rays at that angle from the vertical, crossing at (m, 2); 0 beside the mesh."""
        within = (
            (crossing[:, 0] >= self.low_x_m)
            & (crossing[:, 0] <= self.high_x_m)
            & (crossing[:, 1] >= self.low_y_m)
            & (crossing[:, 1] <= self.high_y_m)
        )
        if self.open_share >= 1.0:
            return within.astype(float)
        # The wires' shadow grows as the ray leans: 1 - (1 - open)/cos(theta).
        through = 1.0 - (1.0 - self.open_share) / np.maximum(cos_theta, 1e-9)
        return np.where(within, np.maximum(through, 0.0), 0.0)

    @property
    def area_m2(self) -> float:
        """Area of the mesh with its wires."""
        return (self.high_x_m - self.low_x_m) * (self.high_y_m - self.low_y_m)

    def block(self) -> Box:
        """Its outline as a box around the lid plane, for overlaps."""
        return Box((self.low_x_m, self.low_y_m, self.z_m - 0.01), (self.high_x_m, self.high_y_m, self.z_m + 0.01))


def mesh_window(enclosure: Enclosure, mesh: MeshType | None) -> MeshWindow | None:
    """The lid's opening: mesh, or all of an open top; None under a solid lid."""
    length, depth, height = enclosure.length_m, enclosure.depth_m, enclosure.height_m
    if enclosure.open_top:
        return MeshWindow(0.0, length, 0.0, depth, height, 1.0)
    lid = enclosure.lid_mesh
    if lid is None or mesh is None:
        return None
    share = mesh.open_share
    if lid.x_m is None or lid.y_m is None or lid.length_m is None or lid.depth_m is None:
        return MeshWindow(0.0, length, 0.0, depth, height, share)
    half = lid.length_m / 2, lid.depth_m / 2
    return MeshWindow(lid.x_m - half[0], lid.x_m + half[0], lid.y_m - half[1], lid.y_m + half[1], height, share)


@dataclass(frozen=True)
class Beam:
    """Where a radiator's rays come from and how they spread; for equal beams and boxes what lands is worked out once.

    Its power is shared evenly by ``points``, (x, y, z) each: one for a lamp, many for a panel or a tube. A lamp has a
    face, a disc of ``face_m`` across, from which it shines evenly: near by, that is not a point.
    """

    points: tuple[tuple[float, float, float], ...]
    tilt_deg: float
    above_mesh: bool
    exponent: float
    beam_share: float
    isotropic: bool = False
    face_m: float = 0.0

    @property
    def axis(self) -> Array:
        """Unit vector (3,) of the beam's middle."""
        tilt = np.deg2rad(self.tilt_deg)
        return np.array([np.sin(tilt), 0.0, -np.cos(tilt)])

    def intensity_sr(self, directions: Array) -> Array:
        """Radiant intensity (m,) along unit directions (m, 3), per watt of all points together.

        ``I = eta P [ s (n+1)/(2 pi) cos^n theta + (1-s)/pi cos theta ]``; bare globes shine evenly all round.
        """
        if self.isotropic:
            return np.full(len(directions), 1.0 / (4 * np.pi))
        cos_theta = np.maximum(directions @ self.axis, 0.0)
        beam = self.beam_share * (self.exponent + 1) / (2 * np.pi) * cos_theta**self.exponent
        return np.asarray(beam + (1 - self.beam_share) / np.pi * cos_theta)

    @property
    def middle(self) -> tuple[float, float, float]:
        """Middle of its points."""
        if len(self.points) == 1:
            return self.points[0]
        x, y, z = np.mean(self.points, axis=0)
        return float(x), float(y), float(z)

    @property
    def upwards(self) -> "Beam":
        """What its back sends up, evenly."""
        return Beam(self.points, 180.0, False, 1.0, 0.0, face_m=self.face_m)


@dataclass(frozen=True)
class Lamp:
    """Whatever radiates into the enclosure - lamp, emitter, panel, tube - at the power it runs at.

    ``radiant_w`` leaves towards the enclosure, past a guard if it has one; ``reach_m`` is the length along x over
    which its body warms the air, ``share`` the part of its full power at which it runs. Names of lights and UV lamps
    stand here too.
    """

    name: str
    beam: Beam
    power_w: float
    radiant_w: float
    spectrum: Spectrum
    reach_m: float = BODY_WIDTH_M
    share: float = 1.0

    @property
    def bands(self) -> Bands:
        """Shares of its radiation in the bands."""
        return bands_of(self.spectrum)

    @property
    def middle(self) -> tuple[float, float, float]:
        """Middle of its points."""
        return self.beam.middle

    @property
    def body_w(self) -> float:
        """Power that does not leave as radiation: it warms air."""
        return self.power_w - self.radiant_w

    @property
    def hangs_inside(self) -> bool:
        """Whether it is a lamp that hangs in the enclosure, with a body that a ceiling feels."""
        return self.beam.face_m > 0 and not self.beam.above_mesh

    @property
    def rising_w(self) -> float:
        """The part of its body heat that leaves upwards as longwave."""
        return value("body_upwards") * self.body_w if self.hangs_inside else 0.0

    @property
    def body_into_air_w(self) -> float:
        """The part of its body heat that enters the enclosure's air."""
        return (self.body_w - self.rising_w) * (value("body_heat_through_mesh") if self.beam.above_mesh else 1.0)


def exponent_of(half_angle_deg: float) -> float:
    """Exponent n of a beam that has fallen to half at that angle: ``n = ln 0.5 / ln cos(half angle)``."""
    return float(np.log(0.5) / np.log(np.cos(np.deg2rad(half_angle_deg))))


@dataclass(frozen=True)
class Deposit:
    """Where one radiator's radiation goes.

    ``irradiance_w_m2`` over the sub-points; ``mesh_w`` (top patches,) is stopped by the mesh; ``missed_w`` never
    reaches the inside; ``remainder`` is the relative gap between the summed deposit and the power that enters,
    by which the irradiance was rescaled.
    """

    irradiance_w_m2: Array
    entering_w: float
    mesh_w: Array
    missed_w: float
    remainder: float


def deposit(lamp: Lamp, interior: Interior, window: MeshWindow | None) -> Deposit:
    """Spread a lamp's radiant power over the patches, with shadows and the mesh."""
    one, power = unit_deposit(lamp.beam, interior, window), lamp.radiant_w
    return Deposit(
        one.irradiance_w_m2 * power, one.entering_w * power, one.mesh_w * power, one.missed_w * power, one.remainder
    )


@lru_cache(maxsize=KEPT_DEPOSITS)
def unit_deposit(beam: Beam, interior: Interior, window: MeshWindow | None) -> Deposit:
    """What lands of one watt."""
    top = interior.surfaces[interior.index_of("top")]
    raw, entering, mesh = np.zeros(len(interior.points)), 1.0, np.zeros(top.patches)
    normals = np.repeat(interior.normals, SUBDIVISION**2, axis=0)
    for point in beam.points:
        falling = _from_point(beam, point, interior, window, interior.points, normals)
        raw += np.where(interior.open_points, falling, 0.0) / len(beam.points)
    if beam.above_mesh:
        entering, mesh = _through_the_lid(beam, interior, window)
    point_m2 = np.repeat(interior.areas_m2, SUBDIVISION**2) / SUBDIVISION**2
    landed = float(raw @ point_m2)
    scale = entering / landed if landed > 0 else 1.0
    return Deposit(raw * scale, entering, mesh, 1.0 - entering - float(mesh.sum()), abs(1.0 - scale))


def irradiance_at(lamp: Lamp, interior: Interior, window: MeshWindow | None, points: Array, normals: Array) -> Array:
    """Irradiance (m,) on small faces at the points (m, 3) with those unit normals, before any rescaling."""
    return np.asarray(lamp.radiant_w * point_share(lamp.beam, interior, window, points, normals))


UP = (0.0, 0.0, 1.0)


def point_share(beam: Beam, interior: Interior, window: MeshWindow | None, points: Array, normals: Array) -> Array:
    """The same for one watt."""
    shares = [_from_point(beam, point, interior, window, points, normals) for point in beam.points]
    return np.asarray(np.mean(shares, axis=0))


def across_the_beam_w_m2(lamp: Lamp, interior: Interior, window: MeshWindow | None, point: Array) -> float:
    """Irradiance on something at a point (3,) that faces the lamp, as a probe across the beam does."""
    facing = np.array(lamp.middle) - point
    normal = facing / max(float(np.linalg.norm(facing)), 1e-6)
    return lamp.radiant_w * float(shares_at(lamp.beam, interior, window, _key(point[None, :]), tuple(normal))[0])


def level_w_m2(lamp: Lamp, interior: Interior, window: MeshWindow | None, points: Array) -> float:
    """Mean irradiance on level faces at points (m, 3)."""
    return lamp.radiant_w * float(level_shares(lamp.beam, interior, window, points).mean())


def level_shares(beam: Beam, interior: Interior, window: MeshWindow | None, points: Array) -> Array:
    """Irradiance (m,) on level faces at points (m, 3) for one watt."""
    return shares_at(beam, interior, window, _key(points), UP)


def _key(points: Array) -> tuple[tuple[float, ...], ...]:
    return tuple(map(tuple, points.tolist()))


@lru_cache(maxsize=KEPT_POINTS)
def shares_at(
    beam: Beam, interior: Interior, window: MeshWindow | None, points: tuple[tuple[float, ...], ...],
    normal: tuple[float, ...],
) -> Array:  # fmt: skip
    """Irradiance (m,) at points for one watt, on faces of one direction; the same are asked for again and again."""
    return point_share(beam, interior, window, np.array(points), np.tile(normal, (len(points), 1)))


def _from_point(
    beam: Beam, source: tuple[float, float, float], interior: Interior, window: MeshWindow | None,
    points: Array, normals: Array,
) -> Array:  # fmt: skip
    """Irradiance (m,) per watt, all of it leaving from one of the beam's points."""
    middle = np.array(source)
    falling = kernels.falling(
        points, normals, middle, beam.axis, (beam.exponent, beam.beam_share, beam.isotropic),
        (NEAREST_M, VERY_NEAR_FACES * beam.face_m, NEAR_FACES * beam.face_m),
        (_on_the_face(beam, middle, FEW_PLACES), FEW_PLACES.weights),
        (_on_the_face(beam, middle, MANY_PLACES), MANY_PLACES.weights),
    )  # fmt: skip
    falling *= unshadowed(interior.blocks, points, middle)
    if beam.above_mesh:
        reach = middle - points
        distance = np.maximum(np.sqrt(np.einsum("ij,ij->i", reach, reach)), NEAREST_M)
        falling *= lid_transmittance(window, points, reach / distance[:, None])
    return np.asarray(falling)


@dataclass(frozen=True)
class _FacePlaces:
    """Places (m, 2) on a disc of radius 1 and their weights (m,), which sum to 1."""

    at: Array
    weights: Array

    @classmethod
    def on_rings(cls, radii: Array, weights: Array) -> "_FacePlaces":
        """Six places on each ring."""
        angles = np.arange(6) * np.pi / 3
        at = np.stack([np.outer(radii, np.cos(angles)), np.outer(radii, np.sin(angles))], axis=-1)
        return cls(at.reshape(-1, 2), np.repeat(weights / 6, 6))


def _many_places() -> _FacePlaces:
    """Three rings by Gauss and Legendre over the area, which is even in the square of the radius."""
    places, weights = np.polynomial.legendre.leggauss(3)
    return _FacePlaces.on_rings(np.sqrt((places + 1) / 2), weights / 2)


def _few_places() -> _FacePlaces:
    """The middle and a ring, to the fifth degree; Abramowitz & Stegun 25.4.61."""
    ring = _FacePlaces.on_rings(np.sqrt([2 / 3]), np.array([3 / 4]))
    return _FacePlaces(np.vstack([[0.0, 0.0], ring.at]), np.concatenate([[1 / 4], ring.weights]))


FEW_PLACES = _few_places()
MANY_PLACES = _many_places()


def _on_the_face(beam: Beam, middle: Array, places: _FacePlaces) -> Array:
    """Places (p, 3) of a beam's face around a point (3,)."""
    across = np.array([[-beam.axis[2], 0.0, beam.axis[0]], [0.0, 1.0, 0.0]])
    return np.asarray(middle + beam.face_m / 2 * places.at @ across)


def lid_transmittance(window: MeshWindow | None, points: Array, towards_lamp: Array) -> Array:
    """Share (m,) that the lid lets through of rays that reach the points from those directions (m, 3)."""
    if window is None:
        return np.zeros(len(points))
    rise = np.maximum(towards_lamp[:, 2], 1e-9)
    along = (window.z_m - points[:, 2]) / rise
    crossing = points[:, :2] + along[:, None] * towards_lamp[:, :2]
    return np.where(towards_lamp[:, 2] > 0, window.transmittance(rise, crossing), 0.0)


def _through_the_lid(beam: Beam, interior: Interior, window: MeshWindow | None) -> tuple[float, Array]:
    """Share let through the lid, and share stopped in each top patch, by quadrature over directions."""
    index = interior.index_of("top")
    top = interior.surfaces[index]
    if window is None:
        return 0.0, np.zeros(top.patches)
    directions, solid_angles = _lower_half_space()
    share = beam.intensity_sr(directions) * solid_angles / len(beam.points)
    entering, by_patch = 0.0, np.zeros(top.patches)
    for source in beam.points:
        drop = source[2] - window.z_m
        crossing = np.array(source)[:2] + drop * directions[:, :2] / -directions[:, 2:]
        through = window.transmittance(-directions[:, 2], crossing)
        on_mesh = MeshWindow.transmittance(_fully_open(window), -directions[:, 2], crossing)
        at = top.patch_at(np.column_stack([crossing, np.full(len(crossing), window.z_m)]))
        by_patch += np.bincount(at, weights=share * (on_mesh - through), minlength=top.patches)
        entering += float(share @ through)
    return entering, by_patch


def _fully_open(window: MeshWindow) -> MeshWindow:
    return MeshWindow(window.low_x_m, window.high_x_m, window.low_y_m, window.high_y_m, window.z_m, 1.0)


def _lower_half_space() -> tuple[Array, Array]:
    """Unit directions (m, 3) pointing down, and their solid angles (m,), midpoint rule."""
    polar, azimuth = ANGLE_STEPS
    edges = np.cos(np.linspace(0.0, np.pi / 2, polar + 1))
    ring = 2 * np.pi / azimuth * (edges[:-1] - edges[1:])
    cos_theta = (edges[:-1] + edges[1:]) / 2
    sin_theta = np.sqrt(1 - cos_theta**2)
    phi = (np.arange(azimuth) + 0.5) * (2 * np.pi / azimuth)
    directions = np.stack(
        [
            np.outer(sin_theta, np.cos(phi)),
            np.outer(sin_theta, np.sin(phi)),
            np.outer(-cos_theta, np.ones(azimuth)),
        ],
        axis=-1,
    )
    return directions.reshape(-1, 3), np.repeat(ring, azimuth)
