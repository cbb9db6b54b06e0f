"""The body of an animal that stays on its basking place through time: what it comes to in every minute.

All that changes quickly is followed in every minute - what each source gives, the surfaces, the air - and what changes
slowly, the films and what evaporates, between moments at which a whole state is worked out.
"""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.load import load_of
from mitten.core.physics.balance.state import State
from mitten.core.physics.constants import SIGMA_W_M2K4, ZERO_C_K
from mitten.core.physics.radiation.exchange import emissive_power_w_m2
from mitten.core.physics.reading.body import Exposures, body_of, follow
from mitten.core.physics.reading.fields import SurfaceField, floor_field, patch_weights, site_field
from mitten.core.physics.reading.lying import Lying, belly_w_m2k, on_surface, under_cover_m2k_w
from mitten.core.physics.reading.sensors import only
from mitten.core.physics.reading.spot import LEAST_FREE_M2, LOW_AIR_M, Indices, SpotMaker
from mitten.core.physics.reading.traced import Course

LEVELS = 8
"""What a source that is dimmed sends is worked out at so many levels of its power."""

ALIKE_M = 0.02
"""Places nearer to one another than this are one."""


@dataclass(frozen=True, eq=False)
class Staying:
    """A body that stays: what it comes to (T,) in °C if it is given time, and its time constant (T,) in s."""

    operative_c: Array
    constant_s: Array

    def body_c(self, begins_c: float | None = None) -> Array:
        """The body (T,), a minute a row, that begins at a temperature; at what it comes to there where none is said."""
        follows = 1.0 - np.exp(-60.0 / self.constant_s)
        found, now_c = np.empty(len(follows)), float(self.operative_c[0]) if begins_c is None else begins_c
        for row, (share, ends_c) in enumerate(zip(follows, self.operative_c, strict=True)):
            now_c += share * (ends_c - now_c)
            found[row] = now_c
        return found


def stay(course: Course) -> Staying:
    """A body on the basking place of a course, where in each minute it gets hottest of the places at which it lies."""
    reader = _Reader(course)
    found = [reader.at(lying) for lying in reader.places]
    operative = np.array([one for one, _ in found])
    best = operative.argmax(axis=0)
    rows = np.arange(operative.shape[1])
    return Staying(operative[best, rows], np.array([constant for _, constant in found])[best, rows])


@dataclass(frozen=True, eq=False)
class _Beam:
    """What one watt of a source at a level of its power brings to a place, in W/m2: to a back, and into the surface."""

    short: float
    long: float
    absorbed: float


@dataclass(frozen=True, eq=False)
class _Reader:
    """Reads places of a course."""

    course: Course

    @cached_property
    def site(self) -> int | None:
        """The number of the basking site; none where the animal lies on the ground."""
        basking = self.course.design.basking_site
        return None if basking is None else [one.name for one in self.course.design.sites].index(basking.name)

    @property
    def running(self) -> State:
        return self.course.running

    def maker(self, state: State) -> SpotMaker:
        """Reads the spots of a state."""
        course = self.course
        species, stage = course.catalogue.species[course.design.animal.species], course.design.animal.stage
        return SpotMaker(course.design, course.situation, state, body_of(species, stage), course.catalogue)

    def field(self, state: State) -> SurfaceField:
        """The basking surface of a state."""
        return floor_field(state) if self.site is None else site_field(state, self.site)

    @cached_property
    def places(self) -> list[Lying]:
        """Where it lies at the moments that are looked at."""
        found = list[Lying]()
        for state in self.course.samples:
            lying = self.maker(state).hottest(self.field(state), self.site).lying
            if all(np.hypot(lying.x_m - one.x_m, lying.y_m - one.y_m) > ALIKE_M for one in found):
                found.append(lying)
        return found

    def at(self, lying: Lying) -> tuple[Array, Array]:
        """What the body comes to at a place, and its time constants."""
        course, maker, field = self.course, self.maker(self.running), self.field(self.running)
        under = maker.under(field, lying)
        backs = self._of_sources(lying)
        long_in = self._longwave_w_m2(under)
        conducted = self._conducted_w_m2(under, long_in, backs[2])
        into_it = under_cover_m2k_w(field, lying)
        box = self.running.prepared.interior.box
        section_m2 = float((box.high[1] - box.low[1]) * (box.high[2] - box.low[2]))
        places = Exposures(
            surface_c=self._bare_c(field, lying) - into_it * conducted,
            air_c=course.air_at(lying.x_m, field.surface.origin[2] + LOW_AIR_M),
            radiant_c=(np.maximum(long_in, 1.0) / SIGMA_W_M2K4) ** 0.25 - ZERO_C_K,
            short_w_m2=backs[0],
            long_w_m2=backs[1],
            beside_c=course.surface_c[:, under].mean(axis=1),
            speed_m_s=course.trace.entering_m3_s / section_m2,
            belly_w_m2k=belly_w_m2k(into_it),
            thinness=self.running.surroundings.thinness,
        )
        return follow(maker.body, places)

    def _of_sources(self, lying: Lying) -> Array:
        """Short, long and absorbed (3, T) at a place, of all that the sources give in each minute."""
        found = np.zeros((3, len(self.course.minutes)))
        for number, channel in enumerate(self.course.box.channels):
            power_w = self.course.powers_w[:, number]
            if channel.full_w <= 0:
                continue
            levels = np.ceil(np.clip(power_w / channel.full_w, 0.0, 1.0) * LEVELS)
            for level in np.unique(levels[levels > 0]):
                beam = self._beam(number, float(level) / LEVELS, lying)
                watts = np.where(levels == level, power_w, 0.0)
                found += np.outer([beam.short, beam.long, beam.absorbed], watts)
        return found

    def _beam(self, number: int, level: float, lying: Lying) -> _Beam:
        sources, running = self.course.box.channels[number].sources_at(level), self.running
        power_w = sum(source.power_w for source in sources.all)
        if power_w <= 0 or not sources.lamps:
            return _Beam(0.0, 0.0, 0.0)
        state = replace(running, load=load_of(running.prepared, sources, running.surroundings))
        maker, field = self.maker(state), self.field(running)
        under = maker.under(field, lying)
        arriving = maker.arriving(field, lying, under)
        optics, absorbed = running.prepared.network.optics, state.absorbed
        taken = (
            optics.short_absorbed[under] * absorbed.short_arriving_w_m2[under]
            + optics.long_own[under] * absorbed.long_arriving_w_m2[under]
        )
        return _Beam(arriving.short_w_m2 / power_w, arriving.long_w_m2 / power_w, float(taken.mean()) / power_w)

    def _longwave_w_m2(self, under: Indices) -> Array:
        """Longwave (T,) that the surfaces and the room send to patches, on their mean."""
        network = self.running.prepared.network
        row = network.long_arriving[under].mean(axis=0)
        sent = emissive_power_w_m2(self.course.surface_c + ZERO_C_K) @ (row * network.optics.long_own)
        room = SIGMA_W_M2K4 * (self.course.seen_c + ZERO_C_K) ** 4
        return np.asarray(sent + room * float(row @ network.optics.long_open))

    def _conducted_w_m2(self, under: Indices, long_in: Array, absorbed: Array) -> Array:
        """What flows into the surface (T,) where nothing lies."""
        network, shares = self.running.prepared.network, self.running.prepared.zone_shares
        surface_c = self.course.surface_c[:, under]
        air_c = np.array([shares.at_patches(row)[under] for row in self.course.air_c])
        film, evaporated = self._slow(under)
        own = network.optics.long_own[under]
        sent = (own * emissive_power_w_m2(surface_c + ZERO_C_K)).mean(axis=1) - float(own.mean()) * long_in
        return np.asarray(absorbed - film * (surface_c - air_c).mean(axis=1) - sent - evaporated)

    def _slow(self, under: Indices) -> tuple[Array, Array]:
        """Film and what evaporates (T,), each the mean over patches, between the moments that are looked at."""
        course = self.course
        area_m2 = np.maximum(self.running.prepared.network.areas_m2[under], LEAST_FREE_M2)
        rows = course.minutes[list(course.sampled_rows)]
        films = [float(state.film_w_m2k[under].mean()) for state in course.samples]
        vapour = [float((state.moisture.latent_w[under] / area_m2).mean()) for state in course.samples]
        return np.interp(course.minutes, rows, films), np.interp(course.minutes, rows, vapour)

    def _bare_c(self, field: SurfaceField, lying: Lying) -> Array:
        """The surface (T,) on the mean over the outline, where nothing lies."""
        course, points = self.course, lying.points()
        points = points[on_surface(field, points)]
        if not len(points):
            points = np.array([[lying.x_m, lying.y_m]])
        index = self.running.prepared.interior.surfaces.index(field.surface)
        span = self.running.prepared.interior.span(index)
        weights = np.mean([patch_weights(field.surface, *point) for point in points], axis=0)

        def read(state: State) -> float:
            return float(self.field(state).spots_at(points[:, 0], points[:, 1]).mean())

        idle_c, own = read(only(self.running, "")), np.zeros(len(course.box.channels))
        for number, channel in enumerate(course.box.channels):
            power_w = self.running.sources.watts_of(channel.name)
            if power_w > 0:
                own[number] = (read(only(self.running, channel.name)) - idle_c) / power_w
        return np.asarray(course.surface_c[:, span] @ weights + course.powers_w @ own)
