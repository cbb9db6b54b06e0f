"""The UV index at a point: lamps scaled by a reading 30 cm in front of them, the mesh, shadows, and age.

Walls and ground absorb ultraviolet, so that only what comes straight from a lamp counts.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date
from functools import lru_cache

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design, UvbLamp
from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.lamps import Beam, MeshWindow, exponent_of, level_shares, point_share
from mitten.core.physics.radiation.sources import EVENLY, Running, Sources, radiator_of, tube_points
from mitten.core.physics.shape.geometry import Interior

READ_AT_M = 0.30
KEPT_READINGS = 64
DAYS_A_YEAR = 365.25
ZONES = ((0.0, 0.7), (0.7, 1.0), (1.0, 2.6), (2.6, 3.5))
"""UV index of the four zones in which reptiles were found to be, by their middays; Ferguson et al. 2010."""


@dataclass(frozen=True)
class UvSource:
    """A beam of ultraviolet and its UV index as read 30 cm in front of its middle."""

    beam: Beam
    uvi_at_30cm: float

    def uvi(self, interior: Interior, window: MeshWindow | None, points: Array) -> Array:
        """UV index (m,) on level sensors at points (m, 3), with mesh and shadows."""
        here = level_shares(self.beam, interior, window, points)
        return self.uvi_at_30cm * here / _at_30cm(self.beam, interior)


@lru_cache(maxsize=KEPT_READINGS)
def _at_30cm(beam: Beam, interior: Interior) -> float:
    """What one watt of a beam gives where it is read: straight in front of its middle, nothing between."""
    bare = replace(beam, above_mesh=False)
    front = np.mean(beam.points, axis=0) + READ_AT_M * beam.axis
    return float(point_share(bare, replace(interior, blocks=()), None, front[None, :], -beam.axis[None, :])[0])


def uv_sources(design: Design, running: Sources, catalogue: Catalogue, on: date | None = None) -> Iterator[UvSource]:
    """Every lamp that gives ultraviolet among the sources that run, at the share of its power at which it runs; ``on``
    is the day for which they have aged. What is off, dimmed out or dead gives none.
    """
    shares = {lamp.name: lamp.share for lamp in running.lamps if lamp.power_w > 0}
    for lamp in design.uvb:
        if lamp.name in shares:
            yield _from_uv_lamp(lamp, catalogue, on)
    for heater in design.heaters:
        reading = heater.lamp.uvi_at_30cm
        if reading and shares.get(heater.name, 0.0) > 0:
            kind = catalogue.sources[heater.kind]
            beam = radiator_of(Running(heater), kind, catalogue, design.enclosure.height_m).beam
            yield UvSource(beam, reading * shares[heater.name])


def _from_uv_lamp(lamp: UvbLamp, catalogue: Catalogue, on: date | None) -> UvSource:
    kind = catalogue.uvb[lamp.lamp]
    reading = kind.uvi_at_30cm if lamp.uvi_at_30cm is None else lamp.uvi_at_30cm
    half_angle_deg = lamp.beam_half_angle_deg or kind.half_angle_deg
    share = 0.0 if kind.tube else 1.0
    exponent = EVENLY if kind.tube else exponent_of(half_angle_deg)
    beam = Beam(tube_points(lamp), 0.0, lamp.above_mesh, exponent, share, face_m=kind.face_m)
    return UvSource(beam, reading * left_after(lamp, on))


def left_after(lamp: UvbLamp, on: date | None) -> float:
    """Share of a lamp's ultraviolet that is left on a day; all of it where no date is known."""
    if on is None or lamp.installed is None or on < lamp.installed:
        return 1.0
    years = (on - lamp.installed).days / DAYS_A_YEAR
    return float((1.0 - value("uv_yearly_loss")) ** years)


def zone_of(uvi: float) -> int:
    """Number of the zone, 1 to 4, that a UV index belongs to."""
    return next((number for number, (_, high) in enumerate(ZONES, start=1) if uvi < high), len(ZONES))
