"""The animal's targets against the computed climate, in the condition that is worst for each."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from mitten.core.catalogue import Targets, load_catalogue
from mitten.core.design import Design
from mitten.core.judge.conditions import Condition
from mitten.core.physics.reading.climate import Climate

Word = Literal["meets", "near", "misses", "unknown"]
Unit = Literal["°C", "%", "UVI", "W/m²", "h"]
Span = tuple[float, float]

NEAR: dict[Unit, float] = {"°C": 1.0, "%": 5.0, "UVI": 0.5, "W/m²": 20.0, "h": 0.5}
"""A figure outside its range by no more than this is near: of temperatures, the room alone is not known better."""

SHOWN = 0.05
"""Figures are shown to a tenth: what differs by less than half of one looks the same."""

PERCENT = 100.0
Figure = Callable[[Climate], float]


@dataclass(frozen=True)
class TargetVerdict:
    """One target in its worst condition. ``outside`` is negative below the range, positive above, 0 within.

    ``path`` is the figure's place in the published result, where its interval stands.
    """

    key: str
    label: str
    unit: Unit
    low: float
    high: float
    value: float
    condition: Condition
    outside: float
    by_condition: Mapping[str, float]
    path: str
    known: bool = True

    @property
    def can_leave(self) -> bool:
        """Whether it is above its range and does no harm, because the animal can go where it is cooler."""
        return self.outside == 0 and self.value - self.high >= SHOWN

    @property
    def word(self) -> Word:
        """Meets, near, misses, or unknown."""
        if not self.known:
            return "unknown"
        if self.outside == 0:
            return "meets"
        return "near" if abs(self.outside) <= NEAR[self.unit] else "misses"


@dataclass(frozen=True)
class _Judged:
    """A target: its key among the species', when it is judged, its figure, and the figure's path."""

    key: str
    label: str
    when: Literal["day", "night", "always"]
    figure: Figure
    path: str
    unit: Unit = "°C"
    scale: float = 1.0
    may_leave: bool = False
    """Whether too much of it does no harm as long as there is a cool side to go to."""


AIR_AND_BODY = (
    _Judged(
        "basking_operative_c", "Basking body", "day", lambda c: c.basking.operative_c, "basking.operative_c",
        may_leave=True,
    ),
    _Judged("basking_air_c", "Basking air", "day", lambda c: c.basking.air_c, "basking.air_c"),
    _Judged("warm_air_c", "Warm side air", "day", lambda c: c.air.warm_c, "air.warm_c"),
    _Judged("cool_air_c", "Cool side air", "day", lambda c: c.air.cool_c, "air.cool_c"),
    _Judged("night_c", "Night air", "night", lambda c: c.air.cool_c, "air.cool_c"),
    _Judged("humidity", "Humidity", "always", lambda c: c.humidity.mean, "air.rh_mean", "%", PERCENT),
    _Judged("uvi", "UV index", "day", lambda c: c.basking.uvi, "basking.uvi", "UVI"),
)  # fmt: skip
BY_SURFACE = _Judged("basking_surface_c", "Basking surface", "day", lambda c: c.basking.surface_c, "basking.surface_c")


def judged_for(design: Design) -> Iterator[_Judged]:
    """What is judged: the surface, or the irradiance where the keeper decides by it, and the rest."""
    if design.decide_by == "surface":
        yield BY_SURFACE
    else:
        yield _by_irradiance(design)
    yield from AIR_AND_BODY


def _by_irradiance(design: Design) -> _Judged:
    meter = design.irradiance_meter
    words = "true" if meter == "true" else f"{meter} meter"

    def figure(climate: Climate) -> float:
        arriving = climate.basking.arriving
        read = {"silicon": arriving.silicon_w_m2, "thermopile": arriving.thermopile_w_m2, "true": arriving.total_w_m2}
        return read[meter]

    return _Judged("irradiance_w_m2", f"Irradiance, {words}", "day", figure, f"basking.{meter}_w_m2", "W/m²")


def judge_targets(design: Design, climates: Mapping[Condition, Climate], targets: Targets) -> tuple[TargetVerdict, ...]:
    """Every judged target in the condition that is worst for it, and the day's length."""
    climatic = tuple(_verdict(judged, design, climates, targets) for judged in judged_for(design))
    return (*climatic, _day_length(design, next(iter(climates)), targets))


def _day_length(design: Design, condition: Condition, targets: Targets) -> TargetVerdict:
    """The schedule's day against the wanted one; unknown until the keeper has set a schedule."""
    low, high = targets.day_hours
    outside = outside_by(design.day_hours, targets.day_hours)
    known = design.schedule is not None
    return TargetVerdict(
        "day_hours", "Day length", "h", low, high, design.day_hours, condition, outside, {}, "schedule.day_hours", known
    )


def judge_in(design: Design, condition: Condition, climate: Climate, targets: Targets) -> tuple[TargetVerdict, ...]:
    """The targets that are judged in one condition, in that condition alone."""
    times = ("always", "day" if condition.day else "night")
    judged = (one for one in judged_for(design) if one.when in times)
    return tuple(_verdict(one, design, {condition: climate}, targets) for one in judged)


def _verdict(judged: _Judged, design: Design, climates: Mapping[Condition, Climate], targets: Targets) -> TargetVerdict:
    low, high = (end * judged.scale for end in getattr(targets, judged.key))
    now = {c: climate for c, climate in climates.items() if judged.when in ("always", "day" if c.day else "night")}
    values = {condition: judged.figure(climate) * judged.scale for condition, climate in now.items()}
    outsides = {c: _outside(judged, values[c], (low, high), climate, targets) for c, climate in now.items()}
    worst = max(values, key=lambda c: (abs(outsides[c]), _beyond(values[c], (low, high))))
    return TargetVerdict(
        key=judged.key,
        label=judged.label,
        unit=judged.unit,
        low=low,
        high=high,
        value=values[worst],
        condition=worst,
        outside=outsides[worst],
        by_condition={condition.name: value for condition, value in values.items()},
        path=judged.path,
        known=judged.key != "uvi" or _ultraviolet_is_known(design),
    )


def _outside(judged: _Judged, value: float, wanted: Span, climate: Climate, targets: Targets) -> float:
    outside = outside_by(value, wanted)
    return 0.0 if judged.may_leave and outside > 0 and _can_leave(climate, targets) else outside


def _can_leave(climate: Climate, targets: Targets) -> bool:
    """Whether an animal that gets warmer than it wants at the basking place finds a cool side in time."""
    harmless = climate.basking.operative_c <= targets.danger_body_c
    return harmless and climate.air.cool_c <= targets.cool_air_c[1] + NEAR["°C"]


def _ultraviolet_is_known(design: Design) -> bool:
    """A mercury-vapour lamp gives ultraviolet; how much, only its reading tells."""
    sources = load_catalogue().sources
    return all(sources[h.kind].arc_share == 0 or h.lamp.uvi_at_30cm is not None for h in design.heaters)


def outside_by(value: float, wanted: Span) -> float:
    """How far a value lies outside a range: negative below, positive above, 0 within or by less than is shown."""
    outside = min(value - wanted[0], 0.0) + max(value - wanted[1], 0.0)
    return outside if abs(outside) >= SHOWN else 0.0


def _beyond(value: float, wanted: Span) -> float:
    """How far a value lies beyond the nearer end of a range; negative inside it."""
    return max(wanted[0] - value, value - wanted[1])
