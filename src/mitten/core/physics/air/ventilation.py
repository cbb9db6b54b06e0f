"""Exchange of air with the room: mesh lid, vents, door gaps and fan.

Flows are volume flows in m3/s; arrays over zones are (columns, layers).
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from mitten.core.design import Enclosure, Face
from mitten.core.physics.air.zones import Zones
from mitten.core.physics.arrays import Array
from mitten.core.physics.constants import GRAVITY_M_S2, value
from mitten.core.physics.radiation.lamps import MeshWindow

SLICES = 12
"""An opening in a wall is cut into this many level slices, so that it can breathe in below and out above."""

BISECTIONS = 60
LITRES = 1000.0


@dataclass(frozen=True)
class Slice:
    """A level piece of an opening: free area at a height, and the share of it in each zone (columns, layers)."""

    area_m2: float
    z_m: float
    zones: Array


@dataclass(frozen=True)
class Openings:
    """What the geometry decides: flows scale with the root of the temperature difference.

    ``inflow`` and ``outflow`` (columns, layers): stack flow in m3/s at a relative difference dT/T of 1, when the
    inside is the warmer; ``through`` (across, up) is its way through the zones. ``lid`` (columns, layers) shares out
    the two-way exchange of the lid, whose strength at dT/T of 1 is ``lid_exchange``; ``lid_through`` is the stack flow
    that already passes through it. ``fan_m3_s`` is added everywhere. ``lid_draught`` and ``vents`` (columns, layers),
    in m3/s, are what the room's slight air movement exchanges through lid and vents even where nothing is warm.
    """

    inflow: Array
    outflow: Array
    through: tuple[Array, Array]
    lid: Array
    lid_exchange: float
    lid_through: float
    lid_draught: float
    vents: Array
    fan_m3_s: float

    def scaled(self, factor: float) -> "Openings":
        """All flows through openings times a factor."""
        return replace(
            self, inflow=self.inflow * factor, outflow=self.outflow * factor,
            through=(self.through[0] * factor, self.through[1] * factor),
            lid_exchange=self.lid_exchange * factor, lid_through=self.lid_through * factor,
            lid_draught=self.lid_draught * factor, vents=self.vents * factor, fan_m3_s=self.fan_m3_s * factor,
        )  # fmt: skip


@dataclass(frozen=True)
class AirExchange:
    """Flows at given temperatures: room air in, enclosure air out, and the flows between zones they cause."""

    entering: Array
    leaving: Array
    net: tuple[Array, Array]

    @property
    def total_m3_s(self) -> float:
        """Room air that enters."""
        return float(self.entering.sum())


def build_openings(enclosure: Enclosure, zones: Zones, window: MeshWindow | None) -> Openings:
    """Cut the openings into slices, find the neutral level, and share the flows out over the zones."""
    lid_area = window.area_m2 * window.open_share if window else 0.0
    lid = _lid_zones(zones, window)
    slices = [*_vent_slices(enclosure, zones), *_gap_slices(enclosure, zones)]
    if lid_area > 0:
        slices.append(Slice(lid_area, zones.box.high[2], lid))
    inflow, outflow = _stack_flow(slices, zones)
    exchange = lid_exchange_m3_s(window.area_m2, window.open_share) if window else 0.0
    through = _lid_through(slices) if lid_area > 0 else 0.0
    in_walls = slices[:-1] if lid_area > 0 else slices
    nothing = np.zeros((zones.columns, zones.layers))
    vents = sum((value("vent_draught") * piece.area_m2 * piece.zones for piece in in_walls), nothing)
    return Openings(
        inflow, outflow, zones.through_flow(inflow - outflow), lid, exchange, through,
        value("lid_draught") * lid_area, vents, enclosure.fan_l_s / LITRES,
    )  # fmt: skip


def air_exchange(openings: Openings, zones: Zones, air_mean_k: float, room_k: float) -> AirExchange:
    """Flows at a mean air temperature and room temperature, in kelvin."""
    relative = (air_mean_k - room_k) / room_k
    strength = np.sqrt(abs(relative))
    entering, leaving, onward = openings.inflow * strength, openings.outflow * strength, strength
    if relative < 0:
        entering, leaving, onward = leaving, entering, -strength
    # Air already drawn through the lid by the vents displaces the lid's own two-way exchange.
    lid = max(openings.lid_exchange - openings.lid_through, 0.0) * strength if relative > 0 else 0.0
    # Draught is felt only as far as warmth does not already move more.
    stack, draught = float(entering.sum()), float(openings.vents.sum())
    left = max(draught - stack, 0.0) / draught if draught > 0 else 0.0
    both_ways = openings.lid * max(lid, openings.lid_draught - stack) + openings.vents * left
    both_ways += openings.fan_m3_s / zones.count
    across, up = openings.through
    return AirExchange(entering + both_ways, leaving + both_ways, (across * onward, up * onward))


def stack_flow_m3_s(low_m2: float, high_m2: float, height_m: float, difference_k: float, room_k: float) -> float:
    """Flow in m3/s through a low and a high opening, ``C_d A_eff sqrt(2 g h dT/T)``.

    ``1/A_eff^2 = 1/A_low^2 + 1/A_high^2``; C_d 0.6 is that of a sharp-edged opening, h the height between their
    middles, T the room's. Two of 40 cm2, 0.4 m apart, 5 K at 293 K: 0.62 l/s. ASHRAE Fundamentals.
    """
    effective = (1 / low_m2**2 + 1 / high_m2**2) ** -0.5
    speed = np.sqrt(2 * GRAVITY_M_S2 * height_m * difference_k / room_k)
    return float(value("discharge") * effective * speed)


def lid_exchange_m3_s(area_m2: float, open_share: float, relative: float = 1.0) -> float:
    """Flow in m3/s each way through a level opening, ``0.055 s sqrt(g dT/T L^5)`` with L the root of its area.

    ``relative`` is dT/T, the warmer air below; s the open share of a mesh over it. 0.6 m2 at 0.62 open, 5 K at 293 K:
    7.4 l/s. Epstein 1988, on openings of walls thin against L.
    """
    side_m = np.sqrt(area_m2)
    return float(value("mesh_exchange") * open_share * np.sqrt(GRAVITY_M_S2 * relative * side_m**5))


def _lid_zones(zones: Zones, window: MeshWindow | None) -> Array:
    share = np.zeros((zones.columns, zones.layers))
    if window is None:
        return share
    edges = zones.box.low[0] + np.arange(zones.columns + 1) * zones.sizes_m[0]
    share[:, -1] = np.diff(np.clip(edges, window.low_x_m, window.high_x_m))
    return np.asarray(share / share.sum())


def _vent_slices(enclosure: Enclosure, zones: Zones) -> Iterator[Slice]:
    for vent in enclosure.vents:
        if vent.face in ("top", "floor"):
            z_m = zones.box.high[2] if vent.face == "top" else zones.box.low[2]
            yield Slice(vent.area_m2, z_m, _face_zones(zones, vent.face, z_m))
            continue
        # A vent is taken as four times as wide as it is high: a grille.
        height = 0.5 * np.sqrt(vent.area_m2)
        middle = float(np.clip(vent.z_m or 0.0, zones.box.low[2] + height / 2, zones.box.high[2] - height / 2))
        yield from _wall_slices(zones, vent.face, vent.area_m2, middle, height)


def _gap_slices(enclosure: Enclosure, zones: Zones) -> Iterator[Slice]:
    """Door gaps: two upright cracks of that width in the front, as high as the air."""
    gap_m = enclosure.door_gap_mm / 1000
    if gap_m > 0:
        middle = (zones.box.low[2] + zones.box.high[2]) / 2
        yield from _wall_slices(zones, "front", 2 * gap_m * zones.height_m, middle, zones.height_m)


def _wall_slices(zones: Zones, face: Face, area_m2: float, middle_m: float, height_m: float) -> Iterator[Slice]:
    for step in range(SLICES):
        z_m = middle_m + ((step + 0.5) / SLICES - 0.5) * height_m
        yield Slice(area_m2 / SLICES, z_m, _face_zones(zones, face, z_m))


def _face_zones(zones: Zones, face: Face, z_m: float) -> Array:
    share = np.zeros((zones.columns, zones.layers))
    layer = zones.layer_of(np.array([z_m]))[0]
    columns = {"left": slice(0, 1), "right": slice(-1, None)}.get(face, slice(None))
    share[columns, layer] = 1.0
    return np.asarray(share / share.sum())


def _neutral_level_m(slices: list[Slice]) -> float:
    """Height where inside and outside pressure are equal: as much flows in below as out above."""
    heights_m, areas_m2 = (np.array(values) for values in zip(*((s.z_m, s.area_m2) for s in slices), strict=True))
    low, high = float(heights_m.min()), float(heights_m.max())
    for _ in range(BISECTIONS):
        middle = (low + high) / 2
        above = heights_m - middle
        if float(np.sum(np.sign(above) * areas_m2 * np.sqrt(np.abs(above)))) > 0:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def _slice_flow(piece: Slice, neutral_m: float) -> float:
    """Flow out of a slice (negative: in) at dT/T of 1."""
    above = piece.z_m - neutral_m
    speed = np.sqrt(2 * GRAVITY_M_S2 * abs(above))
    return float(np.sign(above) * value("discharge") * piece.area_m2 * speed)


def _stack_flow(slices: list[Slice], zones: Zones) -> tuple[Array, Array]:
    inflow = np.zeros((zones.columns, zones.layers))
    outflow = np.zeros_like(inflow)
    if not slices:
        return inflow, outflow
    neutral_m = _neutral_level_m(slices)
    for piece in slices:
        flow = _slice_flow(piece, neutral_m)
        if flow > 0:
            outflow += flow * piece.zones
        else:
            inflow -= flow * piece.zones
    # Bisection leaves a last-digit gap; the two must agree exactly for mass to close.
    return inflow, outflow * (inflow.sum() / outflow.sum()) if outflow.sum() > 0 else outflow


def _lid_through(slices: list[Slice]) -> float:
    """Stack flow through the lid, which is the last slice, at dT/T of 1."""
    return abs(_slice_flow(slices[-1], _neutral_level_m(slices)))
