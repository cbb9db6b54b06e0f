"""Species with what they want and what harms them."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import inf
from typing import Annotated, Literal

from pydantic import Field, model_validator

from mitten.core.catalogue.entry import Celsius, Entry, Figures, Share, SizeM, UvIndex, odd, with_article
from mitten.core.design import Animal, OwnRanges, Stage
from mitten.core.design.amounts import celsius

Climbs = Literal["none", "some", "strong"]
Span = tuple[float, float]
Size = Annotated[tuple[SizeM, SizeM, SizeM], Field(description="length, depth, height")]
BodyM = Annotated[float, Field(ge=0.001, le=12.0)]
BodyG = Annotated[float, Field(ge=0.05, le=1e6)]
Weeks = Annotated[int, Field(ge=1, le=30)]
ARID_AT_MOST = 0.55
"""An animal that wants no more humidity than this is one of dry land."""

Degrees = tuple[Celsius, Celsius]
Shares = tuple[Share, Share]
UvIndexes = tuple[UvIndex, UvIndex]
Irradiances = tuple[Annotated[float, Field(ge=0.0, le=2000.0)], Annotated[float, Field(ge=0.0, le=2000.0)]]
Hours = tuple[Annotated[float, Field(ge=0.0, le=24.0)], Annotated[float, Field(ge=0.0, le=24.0)]]

CAPITALS = frozenset(
    ["African", "Berber", "California", "Children's", "Chinese", "Greek", "Hermann's", "Indian", "Kenyan", "Sudan"]
)
"""First words of names that keep their capital within a sentence."""


class Ranges(Figures):
    """Targets as (low, high); what is left out is not said here."""

    basking_surface_c: Degrees | None = None
    basking_operative_c: Degrees | None = None
    basking_air_c: Degrees | None = None
    warm_air_c: Degrees | None = None
    cool_air_c: Degrees | None = None
    night_c: Degrees | None = None
    humidity: Shares | None = None
    uvi: UvIndexes | None = None
    irradiance_w_m2: Irradiances | None = None
    day_hours: Hours | None = None

    @model_validator(mode="after")
    def _ends_in_order(self) -> "Ranges":
        _refuse_swapped_ends(self)
        return self


RANGES = tuple(Ranges.model_fields)
"""Keys of the targets that are ranges."""

DANGER_OF = {
    "basking_surface_c": "danger_contact_c", "basking_operative_c": "danger_body_c", "basking_air_c": "danger_air_c",
    "warm_air_c": "danger_air_c", "cool_air_c": "danger_air_c", "night_c": "danger_air_c",
}  # fmt: skip
"""What each target must stay below."""

BORNE_BESIDE: dict[str, Span] = {
    "basking_surface_c": (3.0, 4.0), "basking_operative_c": (2.0, 3.0), "basking_air_c": (3.0, 3.0),
    "warm_air_c": (3.0, 3.0), "cool_air_c": (3.0, 3.0), "night_c": (3.0, 3.0), "humidity": (0.1, 0.15),
    "uvi": (1.0, 1.0), "irradiance_w_m2": (60.0, 100.0), "day_hours": (1.0, 1.0),
}  # fmt: skip
"""How far below and above what is wanted an animal bears it for some days, where its entry does not say; starting
points to verify.
"""

LEAST_OF_ALL: dict[str, float] = {"humidity": 0.0, "uvi": 0.0, "irradiance_w_m2": 0.0, "day_hours": 0.0}
MOST_OF_ALL: dict[str, float] = {"humidity": 1.0, "day_hours": 24.0}


def _figure_words(key: str, *numbers: float) -> str:
    """Figures of a target with their unit."""
    if key.endswith("_c"):
        return celsius(numbers)
    return " to ".join(f"{number:.0%}" if key == "humidity" else f"{number:g}" for number in numbers)


def _refuse_what_disagrees(targets: "Targets", at: str = "") -> None:
    """What is dangerous is above what is borne, and that holds what is wanted."""
    for key in RANGES:
        wanted, span, danger = targets.wants(key), getattr(targets.bearable, key), targets.danger_of(key)
        agreeing = key, f"bearable.{key}", DANGER_OF.get(key, key)
        others = (*(f"{at}{one}" for one in agreeing), *(f"targets.{one}" for one in agreeing))
        for path, most in ((key, wanted[1]), (f"bearable.{key}", wanted[1] if span is None else span[1])):
            if most >= danger:
                said = f"{_figure_words(key, most)} is not below what is dangerous, {_figure_words(key, danger)}."
                raise odd(f"{at}{path}", said, others)
        if span is not None and not span[0] <= wanted[0] <= wanted[1] <= span[1]:
            raise odd(f"{at}bearable.{key}", f"{_figure_words(key, *span)} does not hold all that is wanted.", others)


def _refuse_swapped_ends(ranges: "Ranges | Targets", at: str = "") -> None:
    for key in RANGES:
        span: Span | None = getattr(ranges, key)
        if span is not None and span[0] > span[1]:
            said = f"The low end, {_figure_words(key, span[0])}, is above the high end, {_figure_words(key, span[1])}."
            raise odd(f"{at}{key}", said)


class Targets(Figures):
    """Every target as (low, high), wanted and bearable, and the danger temperatures as one number each.

    Wanted is the range to live in; bearable what it stands for days at a season's extreme, with the rest right.
    """

    basking_surface_c: Degrees
    basking_operative_c: Degrees
    basking_air_c: Degrees
    warm_air_c: Degrees
    cool_air_c: Degrees
    night_c: Degrees
    humidity: Shares
    uvi: UvIndexes
    irradiance_w_m2: Irradiances
    day_hours: Hours
    bearable: Ranges = Ranges()
    danger_body_c: Celsius
    danger_contact_c: Celsius
    danger_air_c: Celsius

    def wants(self, key: str) -> Span:
        """What is wanted of a target."""
        span: Span = getattr(self, key)
        return span

    def bears(self, key: str) -> Span:
        """What is borne of a target: always what is wanted, and beyond that never what is dangerous."""
        wanted, given = self.wants(key), getattr(self.bearable, key)
        below, above = BORNE_BESIDE[key]
        low, high = given or (wanted[0] - below, wanted[1] + above)
        low = max(low, LEAST_OF_ALL.get(key, low))
        high = min(high, MOST_OF_ALL.get(key, high), self.danger_of(key))
        return min(low, wanted[0]), max(high, wanted[1])

    def danger_of(self, key: str) -> float:
        """The temperature that a target must stay below; none for what is no temperature."""
        danger: float = getattr(self, DANGER_OF[key]) if key in DANGER_OF else inf
        return danger

    @property
    def is_arid(self) -> bool:
        """Whether it wants dry air: nights are damper in the wild too, and it is the day that counts."""
        return self.humidity[1] <= ARID_AT_MOST

    @model_validator(mode="after")
    def _ends_in_order(self) -> "Targets":
        _refuse_swapped_ends(self)
        return self

    @model_validator(mode="after")
    def _danger_above_bearable_above_wanted(self) -> "Targets":
        _refuse_what_disagrees(self)
        return self


class StageTargets(Ranges):
    """What a life stage wants other than the adult; what is left out is the same."""

    bearable: Ranges = Ranges()
    danger_body_c: Celsius | None = None
    danger_contact_c: Celsius | None = None
    danger_air_c: Celsius | None = None


class Stages(Figures):
    """The young ones' targets."""

    hatchling: StageTargets = StageTargets()
    juvenile: StageTargets = StageTargets()


class ByStage(Figures):
    """A figure by life stage."""

    def at(self, stage: Stage) -> float:
        """The figure at a life stage."""
        figure: float = getattr(self, stage)
        return figure


@dataclass(frozen=True)
class CoolRest:
    """A cool rest that adults of a species may have: the warm end's air in °C by day and by night, and weeks of it."""

    day_c: Span
    night_c: Span
    weeks: tuple[int, int]


class LengthByStage(ByStage):
    """A length by life stage, in metres."""

    hatchling: BodyM
    juvenile: BodyM
    adult: BodyM


class MassByStage(ByStage):
    """A mass by life stage, in grams."""

    hatchling: BodyG
    juvenile: BodyG
    adult: BodyG


class Species(Entry):
    """An animal of the library; every figure is a starting point to verify."""

    latin: str
    group: Literal["lizard", "gecko", "snake", "tortoise", "turtle"]
    active: Literal["day", "dusk", "night"]
    basks: bool
    burrows: bool
    climbs: Climbs
    length_m: LengthByStage
    mass_g: MassByStage
    back_m: LengthByStage
    least_box_m: Size
    least_box_hatchling_m: Size | None = None
    least_box_juvenile_m: Size | None = None
    cool_rest_day_c: Degrees | None = None
    cool_rest_night_c: Degrees | None = None
    cool_rest_weeks: tuple[Weeks, Weeks] | None = None
    """Of the cool rest that adults may have; without all three the species never rests in the cold."""

    targets: Targets
    stages: Stages = Stages()

    @model_validator(mode="after")
    def _young_ones_agree_too(self) -> "Species":
        for stage in ("hatchling", "juvenile"):
            young = self.targets_at(stage)
            _refuse_swapped_ends(young, f"stages.{stage}.")
            _refuse_what_disagrees(young, f"stages.{stage}.")
        return self

    @property
    def cool_rest(self) -> CoolRest | None:
        """The cool rest that adults may have; None where the species never rests in the cold."""
        day_c, night_c, weeks = self.cool_rest_day_c, self.cool_rest_night_c, self.cool_rest_weeks
        return None if day_c is None or night_c is None or weeks is None else CoolRest(day_c, night_c, weeks)

    @model_validator(mode="after")
    def _rest_in_order(self) -> "Species":
        for key in ("cool_rest_day_c", "cool_rest_night_c", "cool_rest_weeks"):
            span = getattr(self, key)
            if span is not None and span[0] > span[1]:
                raise odd(key, f"The low end, {span[0]:g}, is above the high end, {span[1]:g}.")
        return self

    @property
    def in_a_sentence(self) -> str:
        """Its name as it stands within a sentence: ``rosy boa``, ``Kenyan sand boa``."""
        first = self.label.partition(" ")[0]
        return self.label if first in CAPITALS else self.label[:1].lower() + self.label[1:]

    @property
    def with_article(self) -> str:
        """``a rosy boa``, ``an emerald tree monitor``."""
        return with_article(self.in_a_sentence)

    def at_stage(self, stage: Stage) -> str:
        """``an adult rosy boa``, ``a juvenile rosy boa``."""
        return f"{'an' if stage == 'adult' else 'a'} {stage} {self.in_a_sentence}"

    def body_length_m(self, stage: Stage) -> float:
        """Nose to tail tip at a life stage."""
        return self.length_m.at(stage)

    def least_box_at(self, stage: Stage) -> tuple[float, float, float]:
        """Least length, depth and height of a box at a life stage, in metres."""
        young = {"hatchling": self.least_box_hatchling_m, "juvenile": self.least_box_juvenile_m}
        return young.get(stage) or self.least_box_m

    def targets_at(self, stage: Stage) -> Targets:
        """What it wants at a life stage."""
        if stage == "adult":
            return self.targets
        young: StageTargets = getattr(self.stages, stage)
        bearable = self.targets.bearable.model_copy(update=dict(_move_along(self.targets, young)))
        return self.targets.model_copy(update={**_own_figures(young), "bearable": bearable})


def _move_along(adult: Targets, young: StageTargets) -> Iterator[tuple[str, Span]]:
    """What the young bear: their own figure, or as much beside what they want as the adult bears beside it."""
    for key in RANGES:
        own, wanted, grown = getattr(young.bearable, key), getattr(young, key), getattr(adult.bearable, key)
        if own is not None:
            yield key, own
        elif wanted is not None and grown is not None:
            low, high = adult.wants(key)
            yield key, (wanted[0] - (low - grown[0]), wanted[1] + (grown[1] - high))


def _own_figures(targets: Ranges | OwnRanges) -> dict[str, object]:
    return {key: value for key, value in targets if value is not None and key != "bearable"}


def targets_of(animal: Animal, species: Species) -> Targets:
    """The species' targets at the animal's stage, with the keeper's own figures in their place."""
    usual = species.targets_at(animal.stage)
    bearable = usual.bearable.model_copy(update=_own_figures(animal.targets.bearable))
    return usual.model_copy(update={**_own_figures(animal.targets), "bearable": bearable})
