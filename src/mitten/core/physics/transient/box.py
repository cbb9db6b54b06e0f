"""One enclosure as time sees it: its patterns, its air, its sources and probes as the unknowns of a linear system.

The unknowns are, in this order, the amplitudes of the patterns (k,), the air's zones (m,), the power that each source
gives off (channels,), what each probe reads (probes,) and the power for which each dome inside is warm (shells,); what
a dome gives off is its share of that. Temperatures are in kelvin, probes in °C.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from math import ceil

import numpy as np

from mitten.core.design import FACES
from mitten.core.physics.air.moisture import MoistureBalance
from mitten.core.physics.arrays import Array, Single
from mitten.core.physics.balance.balance import air_balance, to_the_air_w
from mitten.core.physics.balance.coefficients import Coefficients, coefficients_at
from mitten.core.physics.balance.load import Load, load_of
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K, value
from mitten.core.physics.radiation.exchange import emissive_power_w_m2, opening_gain_w
from mitten.core.physics.radiation.sources import Sources
from mitten.core.physics.solids.network import SolidNetwork
from mitten.core.physics.transient.basis import Basis
from mitten.core.physics.transient.channels import LEVELS, Channel, heating_of
from mitten.core.physics.transient.linear import LinearSystem

Regime = tuple[tuple[int, float], ...]
"""Which probes lead sources by a proportional band: the number of each with its channels' gain."""


@dataclass(frozen=True, eq=False)
class Sensor:
    """What a probe reads: weights of the solids' nodes (N,) and the air (m,), kelvin for each watt of the channels
    (channels,), a share of the room's temperature, and the rest; it follows with a lag.
    """

    solids: Array
    air: Array
    own_k_w: Array
    rest_k: float
    room: float
    lag_s: float


@dataclass(frozen=True)
class UnknownsIndex:
    """Where each kind of unknown stands."""

    patterns: int
    zones: int
    channels: int
    sensors: int
    domes: int = 0

    @cached_property
    def solids(self) -> slice:
        """Amplitudes."""
        return slice(0, self.patterns)

    @cached_property
    def air(self) -> slice:
        """Zones."""
        return slice(self.patterns, self.patterns + self.zones)

    @cached_property
    def powers(self) -> slice:
        """Channels."""
        first = self.patterns + self.zones
        return slice(first, first + self.channels)

    @cached_property
    def probes(self) -> slice:
        """Sensors."""
        first = self.patterns + self.zones + self.channels
        return slice(first, first + self.sensors)

    @cached_property
    def shells(self) -> slice:
        """Domes."""
        return slice(self.probes.stop, self.count)

    @cached_property
    def count(self) -> int:
        """All of them."""
        return self.patterns + self.zones + self.channels + self.sensors + self.domes


@dataclass(frozen=True, eq=False)
class Frozen:
    """The balance linear around a place: ``loss`` and ``capacity`` (K, K), ``gain`` (K,) at the room's temperature
    there, and what a kelvin of the room (K,) and a watt fed to each channel (K, channels) add to it; ``patches_k``
    (n,) are the temperatures at that place.
    """

    loss: Array
    capacity: Array
    gain: Array
    of_room: Array
    of_feed: Array
    at: Array
    patches_k: Single
    room_k: float
    moisture: MoistureBalance
    entering_m3_s: float
    systems: dict[Regime, LinearSystem] = field(default_factory=dict)


@dataclass(frozen=True, eq=False)
class _Heated:
    """What one watt of a source heats: the patterns (k,) and the air (m,), and where its plume begins (m,)."""

    patterns: Array
    air: Array
    plume: Array


class TransientBox:
    """An enclosure with what it stores, to be taken through time."""

    def __init__(
        self, prepared: Prepared, network: SolidNetwork, basis: Basis, surroundings: Surroundings,
        channels: Sequence[Channel], sensors: Sequence[Sensor],
    ) -> None:  # fmt: skip
        self.prepared, self.network, self.basis = prepared, network, basis
        self.surroundings, self.channels, self.sensors = surroundings, tuple(channels), tuple(sensors)
        self.in_domes = tuple(number for number, one in enumerate(self.channels) if one.through_shell > 0)
        self.place = UnknownsIndex(
            basis.count, prepared.zones.count, len(self.channels), len(self.sensors), len(self.in_domes)
        )  # fmt: skip
        self.air_j_k = air_capacity_j_k(prepared, surroundings)
        self._heating: dict[tuple[int, int], _Heated] = {}
        self._idle = load_of(prepared, Sources(), surroundings)
        self._shape = prepared.zones.columns, prepared.zones.layers

    def with_sensors(self, sensors: Sequence[Sensor]) -> "TransientBox":
        """The same box with probes elsewhere."""
        other = TransientBox(self.prepared, self.network, self.basis, self.surroundings, self.channels, sensors)
        other._heating = self._heating
        return other

    @cached_property
    def capacity(self) -> Array:
        """What every unknown stores (K, K); the lags stand for it in powers and probes."""
        place, whole = self.place, np.zeros((self.place.count, self.place.count))
        whole[place.solids, place.solids] = self.basis.capacity_j_k
        whole[place.air, place.air] = np.diag(self.air_j_k)
        whole[place.powers, place.powers] = np.diag([channel.lag_s for channel in self.channels])
        whole[place.probes, place.probes] = np.diag([sensor.lag_s for sensor in self.sensors])
        whole[place.shells, place.shells] = np.diag([self.channels[number].shell_lag_s for number in self.in_domes])
        return whole

    def heating(self, number: int, power_w: float) -> "_Heated":
        """What a watt of a channel heats, while it gives off about so much."""
        channel = self.channels[number]
        level = min(max(ceil(power_w / max(channel.full_w, 1e-9) * LEVELS - 0.5), 1), LEVELS)
        key = number, level
        if key not in self._heating:
            sources = channel.sources_at(level / LEVELS)
            heated = heating_of(sources, self.prepared, self.network, self.surroundings)
            self._heating[key] = _Heated(self.basis.patterns.T @ heated.solids, heated.air, heated.plume)
        return self._heating[key]

    @cached_property
    def domes_s(self) -> Array:
        """What each dome (shells,) holds, in joules for each watt of its lamp that it is warm for."""
        lamps = [
            (self.channels[number], self.heating(number, self.channels[number].full_w)) for number in self.in_domes
        ]
        return np.array([one.shell_lag_s * one.through_shell * float(heated.air.sum()) for one, heated in lamps])

    @cached_property
    def _probe_weights(self) -> list[Array]:
        """What each probe takes from the patterns (k,)."""
        return [self.basis.patterns.T @ sensor.solids for sensor in self.sensors]

    def surface_k(self, at: Array) -> Array:
        """Patches (n,) at a place."""
        return np.asarray(self.basis.of_patches @ at[self.place.solids])

    def air_k(self, at: Array) -> Array:
        """Air (columns, layers) at a place."""
        return np.asarray(at[self.place.air].reshape(self._shape))

    def _load(self, powers_w: Array, surroundings: Surroundings) -> Load:
        """What films and flows need to know of the sources at these powers (channels,): their plumes, and the lid."""
        plume_w = np.zeros(self.place.zones)
        for number, power_w in enumerate(powers_w):
            plume_w += self.heating(number, float(power_w)).plume * power_w
        over = opening_gain_w(self.prepared.network, surroundings.of("top").seen_c + ZERO_C_K)
        return replace(self._idle, through_openings_w=over, plume_w=plume_w.reshape(self._shape))

    def freeze(self, at: Array, room_c: float, near: Frozen | None = None) -> Frozen:
        """The balance linear around a place (K,), in a room of that temperature."""
        surroundings = room_at(self.surroundings, room_c)
        surface_k, air_k = self.surface_k(at), self.air_k(at)
        powers_w = np.maximum(at[self.place.powers], 0.0)
        load = self._load(powers_w, surroundings)
        coefficients = coefficients_at(self.prepared, surroundings, load, surface_k, air_k)
        loss = self._loss(surface_k, coefficients, powers_w)
        gain = self._gain(at, surroundings, load, coefficients, surface_k, air_k, loss)
        return Frozen(
            loss, self.capacity, gain, self._of_room(surface_k, surroundings, coefficients), self._of_feed, at,
            surface_k.astype(np.float32), surroundings.room_k, coefficients.moisture, coefficients.exchange.total_m3_s,
        )  # fmt: skip

    def _loss(self, surface_k: Array, coefficients: Coefficients, powers_w: Array) -> Array:
        place, basis, prepared = self.place, self.basis, self.prepared
        film, shares = coefficients.film_w_k, prepared.zone_shares.shares
        loss = np.zeros((place.count, place.count))
        solids, air, powers, probes = place.solids, place.air, place.powers, place.probes
        # In single precision: the gain is taken so that the balance at this place is exact whatever the slopes are.
        answers = basis.single_view * (4 * SIGMA_W_M2K4 * surface_k**3).astype(np.float32)
        answers += basis.single.T * film.astype(np.float32)
        loss[solids, solids] = basis.conductance_w_k + answers @ basis.single
        both_ways = basis.single.T @ (film[:, None] * shares).astype(np.float32)
        loss[solids, air], loss[air, solids] = -both_ways, -both_ways.T
        loss[air, air] = coefficients.transport_w_k + np.diag(film @ shares)
        self._couple_water(loss, coefficients)
        for number, power_w in enumerate(powers_w):
            heated = self.heating(number, float(power_w))
            loss[solids, powers.start + number] = -heated.patterns
            loss[air, powers.start + number] = -heated.air
        loss[powers, powers] = np.eye(place.channels)
        self._couple_domes(loss)
        for number, sensor in enumerate(self.sensors):
            row = probes.start + number
            loss[row, solids], loss[row, air] = -self._probe_weights[number], -sensor.air
            loss[row, powers], loss[row, row] = -sensor.own_k_w, 1.0
        return loss

    def _couple_domes(self, loss: Array) -> None:
        """What goes through a dome reaches the air by the dome, which follows its lamp."""
        place = self.place
        for row, number in enumerate(self.in_domes, place.shells.start):
            lamp = place.powers.start + number
            loss[place.air, row] = self.channels[number].through_shell * loss[place.air, lamp]
            loss[place.air, lamp] -= loss[place.air, row]
            loss[row, lamp], loss[row, row] = -1.0, 1.0

    def _couple_water(self, loss: Array, coefficients: Coefficients) -> None:
        """What the water does when temperatures move, as in the steady factors."""
        water = coefficients.moisture.slopes
        if water is None:
            return
        solids, air, heat = self.place.solids, self.place.air, value("vaporisation")
        active = np.flatnonzero(water.uptake)
        patterns = self.basis.of_patches[active]
        given = water.uptake[active, None] * self.prepared.zone_shares.shares[active]
        by_surfaces = water.answers @ ((given.T * water.surface_k[active]) @ patterns)
        loss[solids, solids] += heat * (patterns.T * (water.uptake * water.surface_k)[active]) @ patterns
        loss[solids, solids] -= heat * (patterns.T @ given) @ by_surfaces
        if water.fog.any():
            by_air = water.answers * (water.fog * water.air_k)
            loss[solids, air] -= heat * (patterns.T @ given) @ by_air
            loss[air, air] += heat * (np.diag(water.fog * water.air_k) - water.fog[:, None] * by_air)
            loss[air, solids] -= heat * water.fog[:, None] * by_surfaces

    def _gain(
        self, at: Array, surroundings: Surroundings, load: Load, coefficients: Coefficients, surface_k: Array,
        air_k: Array, loss: Array,
    ) -> Array:  # fmt: skip
        """The gain (K,) with which the balance at that place is its residual: that, and the losses of the place."""
        place, patterns = self.place, self.basis.of_patches
        air = air_balance(self.prepared, surroundings, load, coefficients, surface_k, air_k)
        # What the patches lose, projected: the longwave by its projected matrix, which is far smaller.
        lost_w = to_the_air_w(self.prepared, coefficients, surface_k, air_k) + coefficients.moisture.latent_w
        lost = self.basis.view @ emissive_power_w_m2(surface_k) + patterns.T @ (lost_w - load.through_openings_w)
        gain = np.zeros(place.count)
        gain[place.solids] = self.basis.outside_w_k @ surroundings.outside_k - lost
        here = np.concatenate([at[place.solids], at[place.air]])
        both = slice(0, place.air.stop)
        solids_loss = loss[place.solids, both] @ here - self.basis.conductance_w_k @ at[place.solids]
        gain[place.solids] += solids_loss
        gain[place.air] = air.residual_w + loss[place.air, both] @ here
        for number, sensor in enumerate(self.sensors):
            # Temperatures are in kelvin, what is read in °C.
            weights = float(sensor.solids @ self.network.even + sensor.air.sum())
            read_c = sensor.rest_k - ZERO_C_K * weights + sensor.room * (surroundings.room_k - ZERO_C_K)
            gain[place.probes.start + number] = read_c
        return gain

    def _of_room(self, surface_k: Array, surroundings: Surroundings, coefficients: Coefficients) -> Array:
        """What a kelvin of the room adds to the gain (K,); faces that look at something else keep what they see."""
        place, found = self.place, np.zeros(self.place.count)
        into_room = np.array([0.0 if face in surroundings.faces else 1.0 for face in FACES])
        found[place.solids] = self.basis.outside_w_k @ into_room
        if "top" not in surroundings.faces:
            seen = 4 * SIGMA_W_M2K4 * surroundings.room_k**3 * self.prepared.network.room_taken_m2
            found[place.solids] += self.basis.of_patches.T @ seen
        found[place.air] = coefficients.exchange.entering.ravel() * surroundings.air_w_k_per_m3_s
        for number, sensor in enumerate(self.sensors):
            found[place.probes.start + number] = sensor.room
        return found

    @cached_property
    def _of_feed(self) -> Array:
        found = np.zeros((self.place.count, self.place.channels))
        found[self.place.powers] = np.eye(self.place.channels)
        return found

    def system(self, frozen: Frozen, regime: Mapping[int, Array]) -> LinearSystem:
        """The system with some probes leading: ``regime`` holds watts a kelvin (channels,) by the probe's number."""
        key: Regime = tuple((number, float(gain.sum())) for number, gain in sorted(regime.items()))
        known = frozen.systems.get(key)
        if known is None:
            loss = frozen.loss.copy() if regime else frozen.loss
            for number, watts_k in regime.items():
                loss[self.place.powers, self.place.probes.start + number] += watts_k
            known = frozen.systems[key] = LinearSystem(frozen.capacity, loss)
        return known


def room_at(surroundings: Surroundings, room_c: float) -> Surroundings:
    """The same surroundings with the room at another temperature."""
    return Surroundings(room_c, surroundings.altitude_m, surroundings.rh, surroundings.faces)


def air_capacity_j_k(prepared: Prepared, surroundings: Surroundings) -> Array:
    """Heat that the air of each zone (m,) stores."""
    width, depth, height = prepared.zones.sizes_m
    return np.full(prepared.zones.count, surroundings.air_w_k_per_m3_s * width * depth * height)
