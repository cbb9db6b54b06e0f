"""The animal's targets against the computed climate, in the condition that is worst for each."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from math import inf
from typing import Literal

from mitten.core.catalogue import Catalogue, Targets
from mitten.core.design import Design
from mitten.core.judge.conditions import Condition
from mitten.core.physics.reading.climate import Climate

Status = Literal["meets", "near", "misses", "unknown"]
Unit = Literal["°C", "%", "UVI", "W/m²", "h"]
Span = tuple[float, float]

SHOWN = 0.05
"""Figures are shown to a tenth: what differs by less than half of one looks the same."""

BODY = "basking_operative_c"
PERCENT = 100.0
Figure = Callable[[Climate], float]


@dataclass(frozen=True)
class TargetVerdict:
    """One target in its worst condition.

    ``outside`` is how far it is outside what is ``wanted`` and ``beyond`` how far outside what is ``bearable``:
    negative below, positive above, 0 within. ``usual`` is the figure on a usual day, or night, and ``usual_outside``
    how far that is outside what is wanted. ``path`` is the figure's place in the published result, where its interval
    stands.
    """

    key: str
    label: str
    unit: Unit
    wanted: Span
    bearable: Span
    value: float
    condition: Condition
    outside: float
    beyond: float
    by_condition: Mapping[str, float]
    path: str
    known: bool = True
    usual: float | None = None
    usual_outside: float = 0.0
    can_leave: bool = False
    """Whether it is above its range and there is a cool side to go to before it does harm."""

    danger: float = inf
    """The temperature above which it harms."""

    @property
    def low(self) -> float:
        """The low end of what is wanted."""
        return self.wanted[0]

    @property
    def high(self) -> float:
        """The high end of what is wanted."""
        return self.wanted[1]

    @property
    def status(self) -> Status:
        """Meets what is wanted, is near it because that can be borne, misses it, or is unknown."""
        if not self.known:
            return "unknown"
        if self.beyond:
            return "misses"
        return "near" if self.outside or self.usual_outside else "meets"

    @property
    def is_usually_off(self) -> bool:
        """Whether even a usual day is outside what is wanted."""
        return self.known and self.usual_outside != 0


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


AIR_AND_BODY = (
    _Judged(BODY, "Basking body", "day", lambda c: c.basking.operative_c, "basking.operative_c"),
    _Judged("basking_air_c", "Basking air", "day", lambda c: c.basking.air_c, "basking.air_c"),
    _Judged("warm_air_c", "Warm side air", "day", lambda c: c.air.warm_c, "air.warm_c"),
    _Judged("cool_air_c", "Cool side air", "day", lambda c: c.air.cool_c, "air.cool_c"),
    _Judged("night_c", "Night air", "night", lambda c: c.air.cool_c, "air.cool_c"),
    _Judged("humidity", "Humidity", "always", lambda c: c.humidity.mean, "air.rh_mean", "%", PERCENT),
    _Judged("uvi", "UV index", "day", lambda c: c.basking.uvi, "basking.uvi", "UVI"),
)  # fmt: skip
BY_SURFACE = _Judged("basking_surface_c", "Basking surface", "day", lambda c: c.basking.surface_c, "basking.surface_c")


def figures_to_judge(design: Design, targets: Targets) -> Iterator[_Judged]:
    """What is judged: the surface, or the irradiance where the keeper decides by it, and the rest."""
    if design.decide_by == "surface":
        yield BY_SURFACE
    else:
        yield _by_irradiance(design)
    for judged in AIR_AND_BODY:
        by_day = judged.key == "humidity" and targets.is_arid
        yield replace(judged, when="day") if by_day else judged


def _by_irradiance(design: Design) -> _Judged:
    meter = design.irradiance_meter
    words = "true" if meter == "true" else f"{meter} meter"

    def figure(climate: Climate) -> float:
        arriving = climate.basking.arriving
        read = {"silicon": arriving.silicon_w_m2, "thermopile": arriving.thermopile_w_m2, "true": arriving.total_w_m2}
        return read[meter]

    return _Judged("irradiance_w_m2", f"Irradiance, {words}", "day", figure, f"basking.{meter}_w_m2", "W/m²")


def judge_targets(
    design: Design, catalogue: Catalogue, climates: Mapping[Condition, Climate], targets: Targets
) -> tuple[TargetVerdict, ...]:
    """Every judged target in the condition that is worst for it, and the day's length.

    Those of the seasons are judged by what is borne, a usual day by what is wanted. Where no day, or no night, could be
    worked out, what is judged by it is left out.
    """
    times = {"always", *("day" if condition.day else "night" for condition in climates)}
    judged_here = (one for one in figures_to_judge(design, targets) if one.when in times)
    climatic = tuple(_verdict(judged, design, climates, targets, catalogue) for judged in judged_here)
    return (*climatic, _day_length(design, next(iter(climates)), targets))


def _day_length(design: Design, condition: Condition, targets: Targets) -> TargetVerdict:
    """The schedule's day against the wanted one; unknown until the keeper has set a schedule."""
    hours, wanted, bears = design.day_hours, targets.day_hours, targets.bears("day_hours")
    return TargetVerdict(
        "day_hours", "Day length", "h", wanted, bears, hours, condition, outside_by(hours, wanted),
        outside_by(hours, bears), {}, "schedule.day_hours", design.schedule is not None,
    )  # fmt: skip


def judge_in(design: Design, condition: Condition, climate: Climate, targets: Targets) -> tuple[TargetVerdict, ...]:
    """The targets that are judged in one condition, in that condition alone."""
    times = ("always", "day" if condition.day else "night")
    judged = (one for one in figures_to_judge(design, targets) if one.when in times)
    return tuple(_verdict(one, design, {condition: climate}, targets, climate.catalogue) for one in judged)


@dataclass(frozen=True)
class _InOne:
    """A target's figure in one condition, how far it is outside what is wanted, and beyond what is borne."""

    value: float
    outside: float
    beyond: float
    can_leave: bool


def _verdict(
    judged: _Judged, design: Design, climates: Mapping[Condition, Climate], targets: Targets, catalogue: Catalogue
) -> TargetVerdict:
    now = {c: climate for c, climate in climates.items() if judged.when in ("always", "day" if c.day else "night")}
    found = {condition: _in_one(judged, climate, targets) for condition, climate in now.items()}
    wanted, bearable = _scaled(judged, targets.wants(judged.key)), _scaled(judged, targets.bears(judged.key))
    worst = max(found, key=lambda c: (abs(found[c].beyond), abs(found[c].outside), _past(found[c].value, wanted)))
    usual = max((c for c in found if c.is_usual), key=lambda c: abs(found[c].outside), default=None)
    return TargetVerdict(
        key=judged.key,
        label=judged.label,
        unit=judged.unit,
        wanted=wanted,
        bearable=bearable,
        value=found[worst].value,
        condition=worst,
        outside=found[worst].outside,
        beyond=found[worst].beyond,
        by_condition={condition.name: one.value for condition, one in found.items()},
        path=judged.path,
        known=judged.key != "uvi" or _ultraviolet_is_known(design, catalogue),
        usual=None if usual is None else found[usual].value,
        usual_outside=0.0 if usual is None else found[usual].outside,
        can_leave=found[worst].can_leave,
        danger=targets.danger_of(judged.key),
    )


def _scaled(judged: _Judged, span: Span) -> Span:
    return span[0] * judged.scale, span[1] * judged.scale


def _in_one(judged: _Judged, climate: Climate, targets: Targets) -> _InOne:
    value = judged.figure(climate) * judged.scale
    outside = outside_by(value, _scaled(judged, targets.wants(judged.key)))
    beyond = outside_by(value, _scaled(judged, targets.bears(judged.key)))
    leaves = judged.key == BODY and outside > 0 and can_leave(climate, targets)
    return _InOne(value, outside, 0.0 if leaves else beyond, leaves)


def can_leave(climate: Climate, targets: Targets) -> bool:
    """Whether an animal that gets warmer than it wants at the basking place finds a cool side before it is harmed."""
    harmless = climate.basking.operative_c < targets.danger_body_c
    return harmless and climate.air.cool_c <= targets.bears("cool_air_c")[1]


def _ultraviolet_is_known(design: Design, catalogue: Catalogue) -> bool:
    """A mercury-vapour lamp gives ultraviolet; how much, only its reading tells."""
    sources = catalogue.sources
    return all(sources[h.kind].arc_share == 0 or h.lamp.uvi_at_30cm is not None for h in design.heaters)


def harms_somewhere(climate: Climate, targets: Targets) -> bool:
    """Whether any surface, the bottom of the ground or any air is hotter than harms the animal."""
    surfaces = [climate.base_c, climate.floor.hottest()[0], *climate.site_surfaces_c.values()]
    return max(surfaces) > targets.danger_contact_c or float(climate.state.air_c.max()) > targets.danger_air_c


def outside_by(value: float, wanted: Span) -> float:
    """How far a value lies outside a range: negative below, positive above, 0 within or by less than is shown."""
    outside = min(value - wanted[0], 0.0) + max(value - wanted[1], 0.0)
    return outside if abs(outside) >= SHOWN else 0.0


def _past(value: float, wanted: Span) -> float:
    """How far a value lies beyond the nearer end of a range; negative inside it."""
    return max(wanted[0] - value, value - wanted[1])
