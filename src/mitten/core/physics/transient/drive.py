"""A box driven through time: steps, switching within them, and coefficients renewed as it warms."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from mitten.core.physics.arrays import Array, Single
from mitten.core.physics.constants import ZERO_C_K
from mitten.core.physics.kernels.distance import most_apart
from mitten.core.physics.transient.box import Frozen, TransientBox
from mitten.core.physics.transient.regulation import (
    DAY_MIN,
    LEAST_SWITCH_S,
    Clock,
    Contact,
    Thermostat,
    contacts,
)

STEP_S = 60.0
LEAST_STEP_S = 3.75
MOVED_SURFACE_K, MOVED_AIR_K, MOVED_ROOM_K = 0.6, 0.4, 1.0
"""Coefficients are renewed when something has moved by so much since the last time."""

OLD_S, SETTLING_K = 3600.0, 0.1
"""Old ones are renewed for less, so that what comes to rest does so where the steady state does."""

LONG_STEP_K = 1.5
"""A step in which the air moves by more is taken in halves."""

JUST_AFTER_MIN = 1e-6
"""What the clock says holds from here on: at the very minute of a change it is read this much later."""

RESET_S = 900.0
"""A proportional thermostat moves its band so that its setpoint is held in the end, in about this time."""

MOST_KEPT = 100
"""Of coefficients at the same powers so many are kept, those that served last: a thermostat that switches comes by the
same places again.
"""


@dataclass(frozen=True)
class Happening:
    """What goes on around and with a box: its clock, the room's temperature by the minute, its thermostats, sources
    that give nothing, and whether there is power at all.
    """

    clock: Clock
    room_c: Callable[[float], float]
    thermostats: tuple[Thermostat, ...]
    dead: frozenset[str] = frozenset()
    has_power: bool = True


@dataclass(frozen=True, eq=False)
class Trace:
    """What was gone through, a row a minute: places (T, K), what was fed to each channel in W (T, channels), what each
    thermostat gave of its power and was set to (T, thermostats), and the humidity ratio of the air (T, m).

    ``fed_j`` (channels,) is the energy fed in all, ``fed_so_far_j`` (T,) that of all channels by each row,
    ``switchings`` how often each thermostat closed.
    """

    minutes: Array
    places: Array
    fed_w: Array
    duties: Array
    setpoints_c: Array
    ratio: Array
    entering_m3_s: Array
    room_c: Array
    fed_j: Array
    fed_so_far_j: Array
    switchings: Mapping[str, int]
    closings: Mapping[str, tuple[float, ...]]
    renewals: int


class _Here:
    """Where a run is: its place (K,), and what of it tells whether coefficients serve, worked out when it is asked."""

    def __init__(self, box: TransientBox, at: Array, room_k: float) -> None:
        self.box, self.at, self.room_k = box, at, room_k
        self.air_k = at[box.place.air]
        self._patches_k: Single | None = None

    def is_near(self, frozen: Frozen, within_k: tuple[float, float, float]) -> bool:
        """Whether neither a surface nor the air nor the room has moved by more since coefficients were worked out; the
        quickest to tell comes first.
        """
        surface_k, air_k, room_k = within_k
        if abs(self.room_k - frozen.room_k) > room_k or most_apart(self.air_k, frozen.at[self.box.place.air]) > air_k:
            return False
        if self._patches_k is None:
            self._patches_k = self.box.basis.single @ self.at[self.box.place.solids].astype(np.float32)
        return most_apart(self._patches_k, frozen.patches_k) <= surface_k


_Row = tuple[float, Array, Array, Array, Array, Array, float, float, float]


class Drive:
    """One run of a box."""

    def __init__(self, box: TransientBox, happening: Happening, start: Array, begins_min: float = 0.0) -> None:
        self.box, self.happening, self.at = box, happening, start.copy()
        self.minute = begins_min
        self._numbers = {thermostat.name: number for number, thermostat in enumerate(happening.thermostats)}
        self._led = [
            (number, self._numbers[channel.control])
            for number, channel in enumerate(box.channels)
            if channel.control is not None
        ]
        # Those that lead by a band; the others switch, or nobody leads.
        self._leading = [
            number
            for number, one in enumerate(happening.thermostats)
            if not one.switches and not one.stuck and happening.has_power
        ]
        self._own = [
            np.array([float(channel.control == thermostat.name) for channel in box.channels])
            for thermostat in happening.thermostats
        ]
        self._contacts: dict[str, Contact] = contacts(happening.thermostats)
        self._follows = np.array([channel.lag_s > 0 for channel in box.channels], dtype=bool)
        full_w = np.array([channel.full_w for channel in box.channels], dtype=float)
        self._quarters_w = np.divide(4.0, full_w, out=np.zeros_like(full_w), where=full_w > 0)
        self._cut_off: set[str] = set()
        self._frozen: dict[bytes, list[tuple[float, Frozen]]] = {}
        self._latest_here: _Here | None = None
        self._latest: tuple[Array, bytes, Frozen] | None = None
        self._latest_allowed: tuple[float, Array] = (np.nan, full_w)
        self._last_lit_s = np.full(len(box.channels), -1e9)
        self._went_out_s = np.full(len(box.channels), -1e9)
        self._trims_k = dict.fromkeys(self._numbers, 0.0)
        self.renewals = 0
        self.fed_j = np.zeros(len(box.channels))
        self.closings: dict[str, list[float]] = {thermostat.name: [] for thermostat in happening.thermostats}

    def run(self, minutes: int) -> Trace:
        """Go on for so many minutes."""
        rows: list[_Row] = [self._row()]
        for _ in range(minutes):
            self._one_minute()
            rows.append(self._row())
        minute, places, fed_w, duties, setpoints_c, ratio, entering_m3_s, room_c, so_far_j = (
            np.array(part) for part in zip(*rows, strict=True)
        )
        closings = {name: tuple(times) for name, times in self.closings.items()}
        return Trace(
            minutes=minute, places=places, fed_w=fed_w, duties=duties, setpoints_c=setpoints_c, ratio=ratio,
            entering_m3_s=entering_m3_s, room_c=room_c, fed_j=self.fed_j, fed_so_far_j=so_far_j,
            switchings={name: len(times) for name, times in closings.items()}, closings=closings,
            renewals=self.renewals,
        )  # fmt: skip

    def _row(self) -> _Row:
        is_day = self._is_day
        set_c = [one.setpoint_c(is_day) for one in self.happening.thermostats]
        duties = [self._duty(one) for one in self.happening.thermostats]
        fed = self._fed_w(self._allowed(), duties)
        frozen = self._frozen_for(fed)
        return (
            self.minute, self.at.copy(), fed, np.array(duties), np.array(set_c, dtype=float),
            frozen.moisture.ratio.ravel(), frozen.entering_m3_s, self.happening.room_c(self.minute),
            float(self.fed_j.sum()),
        )  # fmt: skip

    def _one_minute(self) -> None:
        """To the next minute, stopping where the clock changes something."""
        ends = self.minute + 1.0
        for edge in self.happening.clock.edges_min:
            until = (edge - self.minute) % DAY_MIN
            if JUST_AFTER_MIN < until < ends - self.minute - JUST_AFTER_MIN:
                self._advance(until * STEP_S)
        self._advance((ends - self.minute) * STEP_S)
        self.minute = round(ends, 9)

    def _advance(self, seconds: float) -> None:
        """Go on for so long; halves where it moves far, and to the moment where a thermostat switches."""
        left_s = seconds
        while left_s > 1e-6:
            left_s -= self._step(left_s)

    def _step(self, seconds: float) -> float:
        """One step of at most that length; returns how long it was."""
        allowed, before = self._allowed(), self.at
        duties = [self._duty(one) for one in self.happening.thermostats]
        while True:
            after, given, is_past = self._attempt(seconds, allowed, duties)
            if seconds > 2 * LEAST_STEP_S and (is_past or self._is_long(before, after)):
                seconds /= 2
                continue
            crossing = self._crossing(before, after, seconds)
            if crossing is not None and crossing < seconds:
                seconds = max(crossing, LEAST_STEP_S / 4)
                after, given, _ = self._attempt(seconds, allowed, duties)
            break
        self.at = after
        self.minute += seconds / STEP_S
        self._note_feed(allowed, given, seconds)
        self._trim(given, seconds)
        self._switch()
        self._cut()
        return seconds

    def _attempt(
        self, seconds: float, allowed: Array, duties: Sequence[float]
    ) -> tuple[Array, list[float], bool]:  # fmt: skip
        """Where a step leads, what the thermostats give in it, and whether one went through the whole of its band.

        Proportional thermostats begin as they are: at an end of their power they keep it through the step, within their
        band they lead in the step itself, and are held at the end by which they would leave it.
        """
        held = {number: duties[number] for number in self._leading if duties[number] in (0.0, 1.0)}
        begun_at_an_end = set(held)
        after, given = self._with_bands(seconds, allowed, duties, held)
        leaving = {
            number: min(max(duty, 0.0), 1.0)
            for number, duty in enumerate(given)
            if number not in held and not -1e-9 <= duty <= 1.0 + 1e-9
        }
        if leaving:
            held |= leaving
            after, given = self._with_bands(seconds, allowed, duties, held)
        is_past = any(abs(self._share_asked(number, after) - held[number]) >= 1.0 for number in begun_at_an_end)
        return after, given, is_past

    def _share_asked(self, number: int, after: Array) -> float:
        """What share (0-1) of its power a proportional thermostat asks for at a place."""
        thermostat = self.happening.thermostats[number]
        set_c = thermostat.setpoint_c(self._is_day)
        if set_c is None:
            return 0.0
        over_k = float(after[self.box.place.probes.start + number]) - set_c - self._trims_k[thermostat.name]
        return min(max(0.5 - over_k / thermostat.band_k, 0.0), 1.0)

    def _with_bands(
        self, seconds: float, allowed: Array, duties: Sequence[float], held: Mapping[int, float]
    ) -> tuple[Array, list[float]]:
        box, thermostats = self.box, self.happening.thermostats
        is_day = self._is_day
        given, regime = list(duties), {}
        for number in self._leading:
            thermostat = thermostats[number]
            set_c = thermostat.setpoint_c(is_day)
            if set_c is None:
                continue
            if number in held:
                given[number] = held[number]
            else:
                regime[number] = allowed * self._own[number] / thermostat.band_k
                given[number] = 0.5 + (set_c + self._trims_k[thermostat.name]) / thermostat.band_k
        fed = self._fed_w(allowed, given)
        frozen = self._frozen_for(fed if given == duties else self._fed_w(allowed, duties))
        room_k = self.happening.room_c(self.minute + seconds / STEP_S / 2) + ZERO_C_K - frozen.room_k
        gain = frozen.gain + frozen.of_room * room_k + frozen.of_feed @ fed
        after = box.system(frozen, regime).step(round(seconds, 6), self.at, gain)
        for number in regime:
            thermostat = thermostats[number]
            middle_c = (thermostat.setpoint_c(is_day) or 0.0) + self._trims_k[thermostat.name]
            reading = float(after[box.place.probes.start + number])
            given[number] = 0.5 + (middle_c - reading) / thermostat.band_k
        return after, given

    @property
    def _is_day(self) -> bool:
        return self.happening.clock.is_day(self.minute + JUST_AFTER_MIN)

    def _duty(self, thermostat: Thermostat) -> float:
        """What a thermostat gives of its power now."""
        set_c = thermostat.setpoint_c(self._is_day)
        if thermostat.stuck == "off":
            return 0.0
        if set_c is None:
            return 1.0 if thermostat.stuck == "on" else 0.0
        if thermostat.switches:
            return float(self._contacts[thermostat.name].is_closed)
        over_k = self._reading_c(thermostat) - set_c - self._trims_k[thermostat.name]
        return min(max(0.5 - over_k / thermostat.band_k, 0.0), 1.0)

    def _reading_c(self, thermostat: Thermostat) -> float:
        return float(self.at[self.box.place.probes.start + self._numbers[thermostat.name]])

    def _crossing(self, before: Array, after: Array, seconds: float) -> float | None:
        """After how many seconds the first on-off thermostat comes to the end of its band; None if none does."""
        found: list[float] = []
        is_day = self._is_day
        for number, thermostat in enumerate(self.happening.thermostats):
            set_c = thermostat.setpoint_c(is_day)
            if not thermostat.switches or thermostat.stuck == "off" or set_c is None:
                continue
            probe = self.box.place.probes.start + number
            closed = self._contacts[thermostat.name].is_closed
            edge_c = set_c + (0.5 if closed else -0.5) * thermostat.band_k
            begins, ends = float(before[probe]), float(after[probe])
            is_past = ends >= edge_c if closed else ends <= edge_c
            if is_past and abs(ends - begins) > 1e-12:
                share = (edge_c - begins) / (ends - begins)
                wait_s = LEAST_SWITCH_S - (self.minute * STEP_S - self._contacts[thermostat.name].since_s)
                found.append(max(share * seconds, wait_s, 0.0))
        return min(found, default=None)

    def _trim(self, duties: Sequence[float], seconds: float) -> None:
        """Move the bands of proportional thermostats that are within them."""
        is_day = self._is_day
        for number in self._leading:
            thermostat, duty = self.happening.thermostats[number], duties[number]
            set_c = thermostat.setpoint_c(is_day)
            if set_c is not None and 0.0 < duty < 1.0:
                deviation_k, half_k = set_c - self._reading_c(thermostat), thermostat.band_k / 2
                moved_k = self._trims_k[thermostat.name] + deviation_k * seconds / RESET_S
                self._trims_k[thermostat.name] = min(max(moved_k, -half_k), half_k)

    def _cut(self) -> None:
        """Open the cut-outs whose own probes are too warm, and close those that have cooled."""
        for thermostat in self.happening.thermostats:
            if thermostat.guard_probe is None or thermostat.cut_out_c is None:
                continue
            over_k = float(self.at[self.box.place.probes.start + thermostat.guard_probe]) - thermostat.cut_out_c
            is_open = over_k > (-0.5 if thermostat.name in self._cut_off else 0.5) * thermostat.band_k
            if is_open != (thermostat.name in self._cut_off):
                self._cut_off ^= {thermostat.name}
                self._latest_allowed = (np.nan, self._latest_allowed[1])

    def _switch(self) -> None:
        """Switch the on-off thermostats that have come to the end of their band."""
        is_day, now_s = self._is_day, self.minute * STEP_S
        for thermostat in self.happening.thermostats:
            set_c, contact = thermostat.setpoint_c(is_day), self._contacts[thermostat.name]
            if not thermostat.switches or set_c is None or now_s - contact.since_s < LEAST_SWITCH_S - 1e-6:
                continue
            reading = self._reading_c(thermostat)
            half = thermostat.band_k / 2
            if contact.is_closed and reading >= set_c + half - 1e-3:
                contact.is_closed, contact.since_s = False, now_s
            elif not contact.is_closed and reading <= set_c - half + 1e-3:
                contact.is_closed, contact.since_s = True, now_s
                self.closings[thermostat.name].append(self.minute)

    def _allowed(self) -> Array:
        """Watts that clock, mains and what is broken let each channel (channels,) have now."""
        if self._latest_allowed[0] != self.minute:
            self._latest_allowed = self.minute, self._allowed_at_once()
        return self._latest_allowed[1]

    def _allowed_at_once(self) -> Array:
        happening, now_s = self.happening, self.minute * STEP_S
        found = np.zeros(len(self.box.channels))
        for number, channel in enumerate(self.box.channels):
            if not happening.has_power or channel.name in happening.dead or channel.control in self._cut_off:
                continue
            if now_s - self._went_out_s[number] < channel.restrike_s:
                continue
            share = happening.clock.allows(channel.name, channel.on, channel.ramps, self.minute + JUST_AFTER_MIN)
            found[number] = share * channel.full_w
        return found

    def _fed_w(self, allowed: Array, duties: Sequence[float]) -> Array:
        """Watts fed to each channel (channels,)."""
        fed = allowed.copy()
        for channel, thermostat in self._led:
            fed[channel] *= duties[thermostat]
        return fed

    def _note_feed(self, allowed: Array, duties: Sequence[float], seconds: float) -> None:
        fed = self._fed_w(allowed, duties)
        self.fed_j += fed * seconds
        now_s = self.minute * STEP_S
        for number, channel in enumerate(self.box.channels):
            if channel.restrike_s > 0:
                was_lit = self._last_lit_s[number] > now_s - seconds - 1.0
                if fed[number] > 0:
                    self._last_lit_s[number] = now_s
                elif was_lit:
                    self._went_out_s[number] = now_s - seconds

    def _frozen_for(self, fed: Array) -> Frozen:
        """Coefficients at this place and these powers; those that are near enough serve again."""
        box, now_s = self.box, self.minute * STEP_S
        asked = fed.tobytes()
        if self._latest is not None and self._latest[0] is self.at and self._latest[1] == asked:
            return self._latest[2]
        powers = np.where(self._follows, self.at[box.place.powers], fed)
        key = np.rint(powers * self._quarters_w).astype(np.int64).tobytes()
        frozen = self._kept_for(key, now_s)
        if frozen is None:
            kept = self._frozen[key]
            here = self._to_freeze_at(kept)
            here[box.place.powers] = powers
            frozen = box.freeze(here, self.happening.room_c(self.minute))
            self.renewals += 1
            del kept[: len(kept) + 1 - MOST_KEPT]
            kept.append((now_s, frozen))
        self._latest = self.at, asked, frozen
        return frozen

    def _to_freeze_at(self, kept: Sequence[tuple[float, Frozen]]) -> Array:
        """This place; half-way from the last one where that is near and merely old: air that comes to rest would
        otherwise swing for ever between two places, each of which leads to the other.
        """
        if kept and self._here.is_near(kept[-1][1], _moved_k()):
            return np.asarray((self.at + kept[-1][1].at) / 2)
        return self.at.copy()

    def _kept_for(self, key: bytes, now_s: float) -> Frozen | None:
        """Coefficients of before that serve here."""
        kept = self._frozen.setdefault(key, [])
        for place in range(len(kept) - 1, -1, -1):
            since_s, frozen = kept[place]
            if self._serves(frozen, now_s - since_s):
                kept.append(kept.pop(place))
                return frozen
        return None

    def _serves(self, frozen: Frozen, age_s: float) -> bool:
        """Whether coefficients are near enough, and nearer when they are old."""
        is_old = age_s >= OLD_S and not self._is_switching
        return self._here.is_near(frozen, (SETTLING_K, SETTLING_K, SETTLING_K) if is_old else _moved_k())

    @property
    def _here(self) -> _Here:
        if self._latest_here is None or self._latest_here.at is not self.at:
            self._latest_here = _Here(self.box, self.at, self.happening.room_c(self.minute) + ZERO_C_K)
        return self._latest_here

    @property
    def _is_switching(self) -> bool:
        """Whether a thermostat has switched lately: what comes and goes does not come to rest."""
        now_s = self.minute * STEP_S
        return any(now_s - contact.since_s < OLD_S for contact in self._contacts.values())

    def _is_long(self, before: Array, after: Array) -> bool:
        air = self.box.place.air
        return most_apart(after[air], before[air]) > LONG_STEP_K


def _moved_k() -> tuple[float, float, float]:
    return MOVED_SURFACE_K, MOVED_AIR_K, MOVED_ROOM_K
