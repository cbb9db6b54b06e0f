"""What the model says of a box through time: the figures of a climate, each for every minute of a trace."""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.physics.air.ceiling import jet_rise_k
from mitten.core.physics.air.moisture import relative_humidity
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.coefficients import coefficients_at
from mitten.core.physics.balance.energy import energy_of
from mitten.core.physics.balance.load import load_of
from mitten.core.physics.balance.state import Inside, State
from mitten.core.physics.balance.thermostats import Regulated
from mitten.core.physics.constants import ZERO_C_K
from mitten.core.physics.radiation.lamps import Lamp
from mitten.core.physics.radiation.sources import together
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.fields import SurfaceField, air_at, floor_field, patch_weights, site_field
from mitten.core.physics.reading.sensors import only, spot_weights
from mitten.core.physics.reading.spot import LOW_AIR_M
from mitten.core.physics.situation import Situation
from mitten.core.physics.transient.box import TransientBox, room_at
from mitten.core.physics.transient.drive import Trace

SAMPLED = 9
"""The hottest and the coldest place of a surface are looked for at so many moments, and followed from there."""


SETTLED_SHARE, TOLD_APART_K = 0.05, 0.3

IDLE = 5e-4
"""A source that gives off less than this of its power does not run."""


@dataclass(frozen=True, eq=False)
class Course:
    """A design's trace, to be read; ``running`` is a state of the same box in which everything runs."""

    design: Design
    catalogue: Catalogue
    box: TransientBox
    trace: Trace
    running: State
    situation: Situation

    @property
    def minutes(self) -> Array:
        """Minutes (T,)."""
        return self.trace.minutes

    @cached_property
    def surface_c(self) -> Array:
        """Every patch (T, n)."""
        return np.asarray(self.trace.places[:, self.box.place.solids] @ self.box.basis.of_patches.T - ZERO_C_K)

    @cached_property
    def air_c(self) -> Array:
        """Every zone of the air (T, m)."""
        return np.asarray(self.trace.places[:, self.box.place.air] - ZERO_C_K)

    @property
    def powers_w(self) -> Array:
        """What each channel gives off (T, channels)."""
        return self.trace.places[:, self.box.place.powers]

    @property
    def probes_c(self) -> Array:
        """What each thermostat's probe reads (T, probes)."""
        return self.trace.places[:, self.box.place.probes]

    @property
    def power_w(self) -> Array:
        """All that is drawn (T,)."""
        return np.asarray(self.trace.fed_w.sum(axis=1))

    def row_at(self, minute: float) -> int:
        """The row of the trace nearest to a minute."""
        return int(np.abs(self.minutes - minute).argmin())

    def climate_at(self, row: int) -> Climate:
        """Everything that the model says of one moment."""
        room_c = float(self.trace.room_c[row])
        situation = replace(self.situation, room_c=room_c)
        return Climate(self.design, self.catalogue, situation, self.state_at(row), self._controls_at(row))

    def _controls_at(self, row: int) -> dict[str, Regulated]:
        """What the thermostats do at one moment."""
        thermostats = [control for control in self.design.controls if control.is_thermostat]
        found = {}
        for number, control in enumerate(thermostats):
            set_c = float(self.trace.setpoints_c[row, number])
            # Where it has no setpoint it is off, and says nothing.
            if np.isfinite(set_c):
                reading, duty = float(self.probes_c[row, number]), float(self.trace.duties[row, number])
                found[control.name] = Regulated(duty, reading, set_c, "regulates")
        return found

    def state_at(self, row: int) -> State:
        """The state of one moment."""
        box, place = self.box, self.trace.places[row]
        running = together(
            channel.sources_at(float(min(power_w / channel.full_w, 1.0)))
            for channel, power_w in zip(box.channels, self.powers_w[row], strict=True)
            if power_w > IDLE * channel.full_w
        )
        surroundings = room_at(box.surroundings, float(self.trace.room_c[row]))
        load = load_of(box.prepared, running, surroundings)
        surface_k, air_k = box.surface_k(place), box.air_k(place)
        frozen = coefficients_at(box.prepared, surroundings, load, surface_k, air_k)
        nodes_c = box.basis.patterns @ place[box.place.solids] - ZERO_C_K * box.network.even
        return State(
            box.prepared,
            surroundings,
            load,
            frozen,
            surface_k - ZERO_C_K,
            air_k - ZERO_C_K,
            Inside(box.network, nodes_c),
        )

    @cached_property
    def stored_j(self) -> Array:
        """Heat (T,) that solids, air, emitters and domes hold beyond that of the trace's beginning."""
        box, moved = self.box, self.trace.places - self.trace.places[0]
        even = box.basis.patterns.T @ (box.network.capacity_j_k * box.network.even)
        emitters_s = np.array([channel.lag_s for channel in box.channels])
        solids_and_air = moved[:, box.place.solids] @ even + moved[:, box.place.air] @ box.air_j_k
        return np.asarray(
            solids_and_air + moved[:, box.place.powers] @ emitters_s + moved[:, box.place.shells] @ box.domes_s
        )

    @cached_property
    def heat_out_w(self) -> Array:
        """All that leaves the box (T,), by every way, reckoned from each minute's state on its own."""
        return np.array([energy_of(self.state_at(row)).out_w for row in range(len(self.minutes))])

    @property
    def unaccounted_j(self) -> Array:
        """What was fed in since the beginning less what left and what is stored (T,): nothing, but for the steps."""
        out_w, seconds = self.heat_out_w, np.diff(self.minutes) * 60.0
        left_j = np.concatenate([[0.0], np.cumsum((out_w[1:] + out_w[:-1]) / 2 * seconds)])
        return np.asarray(self.trace.fed_so_far_j - left_j - self.stored_j)

    # The air.

    def air_at(self, x_m: float, z_m: float) -> Array:
        """Air (T,) at a point."""
        return np.asarray(self.air_c @ self._air_weights(x_m, z_m))

    def _air_weights(self, x_m: float, z_m: float) -> Array:
        shape = self.box.prepared.zones.columns, self.box.prepared.zones.layers
        count = shape[0] * shape[1]
        units = (replace(self.running, air_c=one.reshape(shape)) for one in np.eye(count))
        return np.array([float(air_at(unit, x_m, z_m)) for unit in units])

    @cached_property
    def _ends_c(self) -> tuple[Array, Array]:
        """The warm end's and the cool end's air (T,), as ``Climate.air`` has them."""
        at = self._still
        xs_m = at.along_m
        low = np.column_stack([self.air_at(float(x_m), at.low_air_m) for x_m in xs_m])
        left, right = at.means_of_ends(low.T)
        warm, cool = np.maximum(left, right), np.minimum(left, right)
        upwards = at.slopes_upwards
        if upwards > 0:
            high, all_low = self._high_air_c, low.mean(axis=1)
            warm = warm + upwards * (np.maximum(high, all_low) - warm)
            cool = cool + upwards * (np.minimum(high, all_low) - cool)
        return warm, cool

    @property
    def _still(self) -> Climate:
        return Climate(self.design, self.catalogue, self.situation, self.running, {})

    @property
    def _high_air_c(self) -> Array:
        site, box = self.design.basking_site, self.design.enclosure
        if site is not None:
            return self.air_at(site.x_m, site.top_m(self.design.substrate.depth_m) + LOW_AIR_M)
        return np.maximum(*(self.air_at(box.length_m * end, box.height_m * 2 / 3) for end in (1 / 6, 5 / 6)))

    @property
    def warm_c(self) -> Array:
        """Air (T,) at the warm end."""
        return self._ends_c[0]

    @property
    def cool_c(self) -> Array:
        """Air (T,) at the cool end."""
        return self._ends_c[1]

    @property
    def middle_c(self) -> Array:
        """Low air (T,) in the middle."""
        return self.air_at(self.design.enclosure.length_m / 2, self._still.low_air_m)

    @cached_property
    def top_c(self) -> Array:
        """Hottest air (T,) under the top: its zones, and what rises from the lamps that hang inside."""
        zones = self.box.prepared.zones
        found = self.air_c.reshape(len(self.minutes), zones.columns, zones.layers)[:, :, -1].max(axis=1)
        high_m = self.design.enclosure.height_m
        for lamp in self.running.lamps:
            if lamp.hangs_inside and lamp.body_w > 0:
                found = np.maximum(found, self._over(lamp, high_m))
        return np.asarray(found)

    def _over(self, lamp: Lamp, high_m: float) -> Array:
        number = [channel.name for channel in self.box.channels].index(lamp.name)
        share = np.clip(self.powers_w[:, number] / max(lamp.power_w, 1e-9), 0.0, None)
        x_m, _, z_m = lamp.middle
        jet_k = jet_rise_k(lamp.body_into_air_w, high_m - z_m, lamp.beam.face_m, np.array([lamp.beam.face_m]))
        return self.air_at(x_m, high_m) + float(jet_k[0]) * share ** (2 / 3)

    @cached_property
    def rh_mean(self) -> Array:
        """Mean relative humidity (T,), 0-1."""
        pressure = self.box.surroundings.pressure_pa
        return np.asarray(relative_humidity(self.trace.ratio, self.air_c, pressure).mean(axis=1))

    @property
    def warm_up_minutes(self) -> float | None:
        """Minutes until everything that a keeper measures is within 5 % of its change, or within what a thermometer
        tells apart; None where it is not by the end.
        """
        sites = [figure(site.name) for site in self.design.sites for figure in (self.site_c, self.site_air_c)]
        latest = 0
        for values in (self.warm_c, self.middle_c, self.cool_c, self.floor_max_c, *sites):
            within_k = max(SETTLED_SHARE * abs(float(values[-1] - values[0])), TOLD_APART_K)
            far = np.flatnonzero(np.abs(values - values[-1]) > within_k)
            latest = max(latest, int(far[-1]) + 1 if len(far) else 0)
        return None if latest >= len(self.minutes) - 1 else float(latest)

    # Surfaces.

    @property
    def sampled_rows(self) -> tuple[int, ...]:
        """The rows at which a whole state is looked at."""
        return tuple(int(row) for row in np.unique(np.linspace(0, len(self.minutes) - 1, SAMPLED).astype(int)))

    @cached_property
    def samples(self) -> list[State]:
        """The states of those rows."""
        return [self.state_at(row) for row in self.sampled_rows]

    @property
    def seen_c(self) -> Array:
        """What the top looks at (T,) through its openings."""
        known = {room_c: room_at(self.box.surroundings, room_c).of("top").seen_c for room_c in set(self.trace.room_c)}
        return np.array([known[room_c] for room_c in self.trace.room_c])

    def site_c(self, name: str) -> Array:
        """The hottest spot (T,) of a site's top."""
        site = [one.name for one in self.design.sites].index(name)
        interior = self.box.prepared.interior
        index = next(i for i, surface in interior.of_site(site) if surface.kind == "site-top")
        return self._extreme(index, [site_field(state, site) for state in self.samples], hottest=True)

    def site_air_c(self, name: str) -> Array:
        """Air (T,) over a site."""
        site = next(one for one in self.design.sites if one.name == name)
        return self.air_at(site.x_m, site.top_m(self.design.substrate.depth_m) + LOW_AIR_M)

    @cached_property
    def floor_max_c(self) -> Array:
        """The ground's hottest spot (T,)."""
        return self._extreme(0, [floor_field(state) for state in self.samples], hottest=True)

    @cached_property
    def floor_min_c(self) -> Array:
        """The ground's coldest place (T,)."""
        return self._extreme(0, [floor_field(state) for state in self.samples], hottest=False)

    def _extreme(self, index: int, fields: list[SurfaceField], *, hottest: bool) -> Array:
        places = {field.hottest()[1] if hottest else _coldest(field) for field in fields}
        weigh = spot_weights if hottest else patch_weights
        span, surface = self.box.prepared.interior.span(index), self.box.prepared.interior.surfaces[index]
        own = self._own_k_w(index, tuple(places), hottest)
        found = [
            self.surface_c[:, span] @ weigh(surface, *place) + self.powers_w @ own_k_w
            for place, own_k_w in zip(places, own, strict=True)
        ]
        return np.asarray((np.max if hottest else np.min)(found, axis=0))

    def _own_k_w(self, index: int, places: tuple[tuple[float, float], ...], as_spot: bool) -> Array:
        """What each watt of the channels adds within a patch at places: (places, channels)."""
        surface = self.box.prepared.interior.surfaces[index]

        def field_of(state: State) -> SurfaceField:
            return floor_field(state) if surface.site is None else site_field(state, surface.site)

        def read(state: State) -> Array:
            field = field_of(state)
            return np.array([field.spot_at(*place) if as_spot else field.at(*place) for place in places])

        idle, found = read(only(self.running, "")), np.zeros((len(places), len(self.box.channels)))
        for number, channel in enumerate(self.box.channels):
            power_w = self.running.sources.watts_of(channel.name)
            if power_w > 0:
                found[:, number] = (read(only(self.running, channel.name)) - idle) / power_w
        return found

    @cached_property
    def base_max_c(self) -> Array:
        """Hottest place (T,) at the bottom of the substrate."""
        network, depth_m = self.box.network, self.design.substrate.depth_m
        if not network.ground or depth_m <= 0:
            return self.floor_max_c
        border = min(network.ground, key=lambda one: abs(one.depth_m - depth_m))
        # Of the nodes those of this border alone: all of them through a day would be large.
        patterns = self.box.basis.patterns[border.nodes]
        amplitudes = self.trace.places[:, self.box.place.solids] @ patterns.T - ZERO_C_K * network.even[border.nodes]
        return np.asarray((amplitudes @ network.waves).max(axis=1))


def _coldest(field: SurfaceField) -> tuple[float, float]:
    bare = np.where(field.bare, field.temperature_c, np.inf) if field.bare is not None else field.temperature_c
    row, column = np.unravel_index(int(bare.argmin()), bare.shape)
    return float(field.xs_m[column]), float(field.ys_m[row])
