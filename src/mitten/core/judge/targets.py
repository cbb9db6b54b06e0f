"""The animal's targets against the computed climate, in the condition that is worst for each."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Literal

from mitten.core.catalogue import Targets
from mitten.core.judge.conditions import Condition
from mitten.core.physics.climate import Climate

Word = Literal["meets", "near", "misses"]

NEAR_K = 1.0
"""A figure outside its range by no more than this is near: the room alone is not known better."""

Figure = Callable[[Climate], float]


@dataclass(frozen=True)
class TargetVerdict:
    """One target in its worst condition. ``outside_k`` is negative below the range, positive above, 0 within."""

    key: str
    label: str
    low: float
    high: float
    value_c: float
    condition: Condition
    outside_k: float
    by_condition: Mapping[str, float]

    @property
    def word(self) -> Word:
        """Meets, near or misses."""
        if self.outside_k == 0:
            return "meets"
        return "near" if abs(self.outside_k) <= NEAR_K else "misses"


@dataclass(frozen=True)
class _Judged:
    key: str
    label: str
    by_day: bool
    figure: Figure


def basking_surface_c(climate: Climate) -> float:
    """The hottest spot of the basking site; without one, of the ground."""
    site = climate.design.basking_site
    return climate.sites[site.name].surface_c if site else climate.floor.hottest()[0]


JUDGED = (
    _Judged("basking_surface_c", "Basking surface", True, basking_surface_c),
    _Judged("warm_air_c", "Warm side air", True, lambda climate: climate.air.warm_c),
    _Judged("cool_air_c", "Cool side air", True, lambda climate: climate.air.cool_c),
    _Judged("night_c", "Night air", False, lambda climate: climate.air.cool_c),
)
"""Targets judged, the day ones in the two days and the night one in the two nights."""

NOT_JUDGED = ("basking body temperature", "basking air", "humidity", "UV index", "irradiance", "day length")
"""Targets of the species that this version does not judge yet, in words."""


def judge_targets(climates: Mapping[Condition, Climate], targets: Targets) -> tuple[TargetVerdict, ...]:
    """Every judged target in the condition that is worst for it."""
    return tuple(_verdict(judged, climates, getattr(targets, judged.key)) for judged in JUDGED)


def _verdict(judged: _Judged, climates: Mapping[Condition, Climate], wanted: tuple[float, float]) -> TargetVerdict:
    values = {c: judged.figure(climate) for c, climate in climates.items() if c.day == judged.by_day}
    worst = _worst(values.items(), wanted)
    return TargetVerdict(
        key=judged.key,
        label=judged.label,
        low=wanted[0],
        high=wanted[1],
        value_c=values[worst],
        condition=worst,
        outside_k=outside_k(values[worst], wanted),
        by_condition={condition.name: value for condition, value in values.items()},
    )


def outside_k(value: float, wanted: tuple[float, float]) -> float:
    """How far a value lies outside a range: negative below, positive above, 0 within."""
    return min(value - wanted[0], 0.0) + max(value - wanted[1], 0.0)


def _worst(values: Iterable[tuple[Condition, float]], wanted: tuple[float, float]) -> Condition:
    """The condition farthest outside the range, or least far inside."""
    return max(values, key=lambda item: max(wanted[0] - item[1], item[1] - wanted[1]))[0]
