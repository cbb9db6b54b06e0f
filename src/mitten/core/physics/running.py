"""One design in time: the door of the transient model. A design and what happens go in, a course of it comes out."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.design import Control, Design, Schedule
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.factors import Slopes
from mitten.core.physics.balance.load import load_of
from mitten.core.physics.balance.state import Inside, State
from mitten.core.physics.balance.storage import network_of
from mitten.core.physics.constants import ZERO_C_K
from mitten.core.physics.radiation.sources import together
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.sensors import sensor_of
from mitten.core.physics.reading.traced import Course
from mitten.core.physics.situation import Situation
from mitten.core.physics.solids.network import SolidNetwork
from mitten.core.physics.solving import solve_climate
from mitten.core.physics.transient.basis import basis_of, parts_of_air, responses, room_gain_w_k
from mitten.core.physics.transient.box import TransientBox, air_capacity_j_k
from mitten.core.physics.transient.channels import Channel, channels_of, heating_of
from mitten.core.physics.transient.drive import Drive, Happening, Trace
from mitten.core.physics.transient.regulation import DAY_MIN, Clock, Thermostat

REPEATS_K = 0.1
MOST_DAYS = 8


@dataclass(frozen=True, eq=False)
class Moving:
    """A design ready to be taken through time in one season: its box, and the steady day and night it was made from."""

    design: Design
    catalogue: Catalogue
    box: TransientBox
    day: Climate
    night: Climate
    running: State

    @property
    def channels(self) -> tuple[Channel, ...]:
        """Its sources."""
        return self.box.channels

    @cached_property
    def clock(self) -> Clock:
        """When it is day in it."""
        return clock_of(self.design, self.design.day_hours_in(self.day.situation.summer))

    def go(self, happening: Happening, start: Array, minutes: int, begins_min: float = 0.0) -> Course:
        """Take it from a place (K,) through so many minutes."""
        return self.course(Drive(self.box, happening, start, begins_min).run(minutes))

    def course(self, trace: Trace) -> Course:
        """A trace of it, to be read."""
        return Course(self.design, self.catalogue, self.box, trace, self.running, self.day.situation)

    def repeating_day(self, happening: Happening) -> Course:
        """The day that repeats itself, from the moment when the lamps come on; found by going on day after day."""
        begins_min = happening.clock.day_from_min
        start = self.at_rest(self.night)
        for _ in range(MOST_DAYS):
            course = self.go(happening, start, int(DAY_MIN), begins_min)
            ends = course.trace.places[-1]
            moved_k = np.abs(self.box.basis.of_patches @ (ends - start)[self.box.place.solids]).max()
            start = ends
            if moved_k < REPEATS_K:
                break
        return course

    def thermostats(self, summer: float) -> tuple[Thermostat, ...]:
        """Its thermostats with the setpoints of a season."""
        return tuple(
            thermostat_of(control, summer) for control in self.design.controls if control.is_thermostat
        )  # fmt: skip

    def at_rest(self, climate: Climate) -> Array:
        """The place (K,) of a steady climate."""
        place, found = self.box.place, np.zeros(self.box.place.count)
        inside = with_inside(climate, self.box.network, self.channels).inside
        if inside is None:
            raise ValueError("a steady state has its insides")
        found[place.solids] = self.box.basis.amplitudes(inside.nodes_c + ZERO_C_K * self.box.network.even)
        found[place.air] = climate.state.air_c.ravel() + ZERO_C_K
        found[place.powers] = [climate.state.sources.watts_of(channel.name) for channel in self.channels]
        found[place.shells] = found[place.powers][list(self.box.in_domes)]
        found[place.probes] = self._read(found)
        return found

    def at_room(self, room_c: float) -> Array:
        """Everything at the room's temperature and nothing on."""
        place, found = self.box.place, np.zeros(self.box.place.count)
        found[place.solids] = self.box.basis.amplitudes((room_c + ZERO_C_K) * self.box.network.even)
        found[place.air] = room_c + ZERO_C_K
        found[place.probes] = room_c
        return found

    def _read(self, at: Array) -> Array:
        """What the probes (probes,) read at rest at a place."""
        box, place = self.box, self.box.place
        readings = []
        for sensor in box.sensors:
            weights = box.basis.patterns.T @ sensor.solids
            zero = ZERO_C_K * float(sensor.solids @ box.network.even + sensor.air.sum())
            warm = weights @ at[place.solids] + sensor.air @ at[place.air] + sensor.own_k_w @ at[place.powers]
            readings.append(float(warm) - zero + sensor.rest_k)
        return np.array(readings)


def clock_of(design: Design, day_hours: float) -> Clock:
    """When it is day in a design whose day has so many hours: the middle of it stays where it is."""
    schedule = design.schedule or Schedule()
    after = tuple((name, 60.0 * hours) for name, hours in sorted(schedule.after_dark_h.items()))
    begins_min = 60.0 * (schedule.middle_h - day_hours / 2) % DAY_MIN
    return Clock(begins_min, 60.0 * day_hours, schedule.ramp_min, after)


def thermostat_of(control: Control, summer: float) -> Thermostat:
    """A thermostat as time needs it, with the setpoints of a season."""
    return Thermostat(
        name=control.name,
        kind="on-off" if control.kind == "on-off" else "proportional",
        day_c=control.setpoint_c(True, summer),
        night_c=control.setpoint_c(False, summer),
        band_k=control.band_k,
        cut_out_c=control.cut_out_c,
    )


def make_ready(
    design: Design, catalogue: Catalogue, day: Situation, night: Situation, start: tuple[Climate, Climate] | None = None
) -> Moving:
    """A design made ready for time between two situations, whose climates are found where they are not given.

    Raises:
        NotSettledError, NotRegulatedError: as ``solve_climate``.
    """
    climates = start or (solve_climate(design, catalogue, day), solve_climate(design, catalogue, night))
    prepared = climates[0].state.prepared
    network = network_of(prepared, design, catalogue)
    channels = channels_of(design, catalogue)
    surroundings = climates[0].state.surroundings
    heat = [heating_of(channel.sources_at(1.0), prepared, network, surroundings) for channel in channels]
    parts = parts_of_air(prepared)
    heat_w = np.column_stack(
        [room_gain_w_k(network), *(one.solids for one in heat), np.zeros((network.nodes, parts.shape[1]))]
    )
    air_w = np.column_stack([np.zeros(prepared.zones.count), *(one.air for one in heat), parts])
    by_day, by_night = (_slopes(climate.state) for climate in climates)
    air_j_k = air_capacity_j_k(prepared, surroundings)
    at_rest = [_nodes_of(climate, network, channels)[:, None] for climate in climates]
    basis = basis_of(prepared, network, [*at_rest, responses(network, by_day, by_night, air_j_k, heat_w, air_w)])
    names = tuple(channel.name for channel in channels)
    running = _everything_on(climates[0], network, channels)
    sensors = [
        sensor_of(design, running, control, catalogue, names) for control in design.controls if control.is_thermostat
    ]
    box = TransientBox(prepared, network, basis, surroundings, channels, sensors)
    return Moving(design, catalogue, box, *climates, running)


def _slopes(state: State) -> Slopes:
    return Slopes.of(state.prepared, state.coefficients, state.surface_c + ZERO_C_K)


def _nodes_of(climate: Climate, network: SolidNetwork, channels: Sequence[Channel]) -> Array:
    inside = with_inside(climate, network, channels).inside
    return np.zeros(0) if inside is None else inside.nodes_c


def with_inside(climate: Climate, network: SolidNetwork, channels: Sequence[Channel]) -> State:
    """The state of a steady climate with the insides of its solids."""
    state = climate.state
    heat_w = np.zeros(network.nodes)
    for channel in channels:
        power_w = state.sources.watts_of(channel.name)
        if power_w > 0:
            heat_w += power_w * heating_of(channel.sources_at(1.0), state.prepared, network, state.surroundings).solids
    outside_c = state.surroundings.outside_k - ZERO_C_K
    nodes_c = np.concatenate([state.surface_c, network.inside_at_rest(state.surface_c, outside_c, heat_w)])
    return replace(state, inside=Inside(network, nodes_c))


def _everything_on(climate: Climate, network: SolidNetwork, channels: Sequence[Channel]) -> State:
    """The temperatures of a climate with all sources at full power: there it is read what each does to a probe."""
    state = with_inside(climate, network, channels)
    everything = together(channel.sources_at(1.0) for channel in channels)
    load = load_of(state.prepared, everything, state.surroundings)
    return replace(state, load=load)
