"""Lamps: how much they radiate in each direction, and what of it lands where.

Irradiance arrays run over the interior's sub-points (n x SUBDIVISION^2,), in W/m2.
"""

from dataclasses import dataclass

import numpy as np

from mitten.core.catalogue import Catalogue, LampKind
from mitten.core.design import Enclosure, Heater
from mitten.core.physics.constants import value
from mitten.core.physics.geometry import SUBDIVISION, Array, Box, Interior
from mitten.core.physics.spectrum import Bands, emitter_temperature_k, lamp_bands
from mitten.core.physics.view_factors import unshadowed

ANGLE_STEPS = (90, 72)
"""Polar and azimuth steps of the quadrature over a lamp's half space."""


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


def mesh_window(enclosure: Enclosure, catalogue: Catalogue) -> MeshWindow | None:
    """The lid's opening: mesh, or all of an open top; None under a solid lid."""
    length, depth, height = enclosure.length_m, enclosure.depth_m, enclosure.height_m
    if enclosure.open_top:
        return MeshWindow(0.0, length, 0.0, depth, height, 1.0)
    lid = enclosure.lid_mesh
    if lid is None:
        return None
    share = catalogue.meshes[lid.mesh].open_share
    if lid.x_m is None or lid.y_m is None or lid.length_m is None or lid.depth_m is None:
        return MeshWindow(0.0, length, 0.0, depth, height, share)
    half = lid.length_m / 2, lid.depth_m / 2
    return MeshWindow(lid.x_m - half[0], lid.x_m + half[0], lid.y_m - half[1], lid.y_m + half[1], height, share)


@dataclass(frozen=True)
class Lamp:
    """A heater as the model sees it: powers, beam and bands at the power it runs at."""

    name: str
    position: tuple[float, float, float]
    tilt_deg: float
    above_mesh: bool
    power_w: float
    radiant_w: float
    exponent: float
    beam_share: float
    isotropic: bool
    bands: Bands
    emitter_k: float

    @property
    def body_w(self) -> float:
        """Power that does not leave as radiation: it warms air."""
        return self.power_w - self.radiant_w

    @property
    def body_into_air_w(self) -> float:
        """The part of it that enters the enclosure's air."""
        return self.body_w * (value("body_heat_through_mesh") if self.above_mesh else 1.0)

    @property
    def axis(self) -> Array:
        """Unit vector (3,) of the beam's middle."""
        tilt = np.deg2rad(self.tilt_deg)
        return np.array([np.sin(tilt), 0.0, -np.cos(tilt)])

    def intensity_w_sr(self, directions: Array) -> Array:
        """Radiant intensity (m,) along unit directions (m, 3).

        ``I = eta P [ s (n+1)/(2 pi) cos^n theta + (1-s)/pi cos theta ]``; bare globes shine evenly all round.
        """
        if self.isotropic:
            return np.full(len(directions), self.radiant_w / (4 * np.pi))
        cos_theta = np.maximum(directions @ self.axis, 0.0)
        beam = self.beam_share * (self.exponent + 1) / (2 * np.pi) * cos_theta**self.exponent
        return np.asarray(self.radiant_w * (beam + (1 - self.beam_share) / np.pi * cos_theta))


def lamp_of(heater: Heater, kind: LampKind, catalogue: Catalogue) -> Lamp:
    """A heater with its catalogue entry, as a source."""
    half_angle_deg = heater.lamp.beam_half_angle_deg or kind.half_angle_deg
    power_w = heater.watts * heater.dim
    enclosed = catalogue.fixtures[heater.fixture.kind].encloses
    return Lamp(
        name=heater.name,
        position=(heater.x_m, heater.y_m, heater.z_m),
        tilt_deg=heater.tilt_deg,
        above_mesh=heater.above_mesh,
        power_w=power_w,
        radiant_w=kind.radiant_share * power_w,
        exponent=float(np.log(0.5) / np.log(np.cos(np.deg2rad(half_angle_deg)))),
        beam_share=kind.beam_share,
        isotropic=kind.isotropic_when_bare and not enclosed,
        bands=lamp_bands(kind, heater.watts, heater.dim),
        emitter_k=emitter_temperature_k(kind, heater.watts, heater.dim),
    )


@dataclass(frozen=True)
class Deposit:
    """Where one lamp's radiation goes.

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
    top = interior.surfaces[interior.index_of("top")]
    none_stopped = np.zeros(top.patches)
    if lamp.radiant_w == 0.0:
        return Deposit(np.zeros(len(interior.points)), 0.0, none_stopped, 0.0, 0.0)
    raw = _direct_irradiance(lamp, interior, window)
    if lamp.above_mesh:
        entering_w, mesh_w = _through_the_lid(lamp, interior, window)
    else:
        entering_w, mesh_w = lamp.radiant_w, none_stopped
    point_m2 = np.repeat(interior.areas_m2, SUBDIVISION**2) / SUBDIVISION**2
    landed_w = float(raw @ point_m2)
    scale = entering_w / landed_w if landed_w > 0 else 1.0
    missed_w = lamp.radiant_w - entering_w - float(mesh_w.sum())
    return Deposit(raw * scale, entering_w, mesh_w, missed_w, abs(1.0 - scale))


def irradiance_at(lamp: Lamp, interior: Interior, window: MeshWindow | None, points: Array, normals: Array) -> Array:
    """Irradiance (m,) on small faces at the points (m, 3) with those unit normals, before any rescaling."""
    reach = np.array(lamp.position) - points
    distance = np.maximum(np.linalg.norm(reach, axis=1), 1e-3)
    towards_lamp = reach / distance[:, None]
    cos_phi = np.maximum(np.einsum("ij,ij->i", towards_lamp, normals), 0.0)
    falling = lamp.intensity_w_sr(-towards_lamp) * cos_phi / distance**2
    falling *= unshadowed(interior.blocks, points, np.array(lamp.position))
    if lamp.above_mesh:
        falling *= _lid_transmittance(lamp, window, points, towards_lamp)
    return np.asarray(falling)


def _direct_irradiance(lamp: Lamp, interior: Interior, window: MeshWindow | None) -> Array:
    normals = np.repeat(interior.normals, SUBDIVISION**2, axis=0)
    falling = irradiance_at(lamp, interior, window, interior.points, normals)
    return np.where(interior.open_points, falling, 0.0)


def _lid_transmittance(lamp: Lamp, window: MeshWindow | None, points: Array, towards_lamp: Array) -> Array:
    if window is None:
        return np.zeros(len(points))
    rise = np.maximum(towards_lamp[:, 2], 1e-9)
    along = (window.z_m - points[:, 2]) / rise
    crossing = points[:, :2] + along[:, None] * towards_lamp[:, :2]
    return np.where(towards_lamp[:, 2] > 0, window.transmittance(rise, crossing), 0.0)


def _through_the_lid(lamp: Lamp, interior: Interior, window: MeshWindow | None) -> tuple[float, Array]:
    """Power let through the lid, and power stopped in each top patch, by quadrature over directions."""
    index = interior.index_of("top")
    top = interior.surfaces[index]
    if window is None:
        return 0.0, np.zeros(top.patches)
    directions, solid_angles = _lower_half_space()
    power = lamp.intensity_w_sr(directions) * solid_angles
    drop = lamp.position[2] - window.z_m
    crossing = np.array(lamp.position)[:2] + drop * directions[:, :2] / -directions[:, 2:]
    through = window.transmittance(-directions[:, 2], crossing)
    on_mesh = MeshWindow.transmittance(_fully_open(window), -directions[:, 2], crossing)
    stopped = power * (on_mesh - through)
    at = top.patch_at(np.column_stack([crossing, np.full(len(crossing), window.z_m)]))
    by_patch = np.bincount(at, weights=stopped, minlength=top.patches).astype(np.float64)
    return float(power @ through), by_patch


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
