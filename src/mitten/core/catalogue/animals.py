"""Species with what they want and what harms them."""

from collections.abc import Iterator
from math import inf
from typing import Annotated, Literal

from pydantic import Field, model_validator

from mitten.core.catalogue.entry import Entry, Figures, Positive
from mitten.core.design import Animal, OwnRanges, Stage

Climbs = Literal["none", "some", "strong"]
Span = tuple[float, float]
Size = Annotated[tuple[Positive, Positive, Positive], Field(description="length, depth, height")]
ARID_AT_MOST = 0.55
"""An animal that wants no more humidity than this is one of dry land."""

Celsius = Annotated[float, Field(ge=-20.0, le=100.0)]

CAPITALS = frozenset(
    ["African", "Berber", "California", "Children's", "Chinese", "Greek", "Hermann's", "Indian", "Kenyan", "Sudan"]
)
"""First words of names that keep their capital within a sentence."""

VOWELS = "aeiou"


class Ranges(Figures):
    """Targets as (low, high); what is left out is not said here."""

    basking_surface_c: Span | None = None
    basking_operative_c: Span | None = None
    basking_air_c: Span | None = None
    warm_air_c: Span | None = None
    cool_air_c: Span | None = None
    night_c: Span | None = None
    humidity: Span | None = None
    uvi: Span | None = None
    irradiance_w_m2: Span | None = None
    day_hours: Span | None = None


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


class Targets(Figures):
    """Every target as (low, high), wanted and bearable, and the danger temperatures as one number each.

    Wanted is the range to live in; bearable what it stands for days at a season's extreme, with the rest right.
    """

    basking_surface_c: Span
    basking_operative_c: Span
    basking_air_c: Span
    warm_air_c: Span
    cool_air_c: Span
    night_c: Span
    humidity: Span
    uvi: Span
    irradiance_w_m2: Span
    day_hours: Span
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
    def _low_before_high(self) -> "Targets":
        for key, value in (*self, *((f"bearable.{key}", span) for key, span in self.bearable)):
            if isinstance(value, tuple) and value[0] > value[1]:
                raise ValueError(f"{key}: the low end {value[0]:g} is above the high end {value[1]:g}.")
        return self

    @model_validator(mode="after")
    def _danger_above_bearable_above_wanted(self) -> "Targets":
        for key, span in self.bearable:
            wanted = self.wants(key)
            if span is None:
                continue
            if not span[0] <= wanted[0] <= wanted[1] <= span[1]:
                raise ValueError(f"bearable.{key}: {span[0]:g} to {span[1]:g} does not hold all that is wanted.")
            if span[1] >= self.danger_of(key):
                raise ValueError(f"bearable.{key}: {span[1]:g} is not below what is dangerous.")
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

    hatchling: Positive
    juvenile: Positive
    adult: Positive

    def at(self, stage: Stage) -> float:
        """The figure at a life stage."""
        figure: float = getattr(self, stage)
        return figure


class Species(Entry):
    """An animal of the library; every figure is a starting point to verify."""

    latin: str
    group: Literal["lizard", "gecko", "snake", "tortoise", "turtle"]
    active: Literal["day", "dusk", "night"]
    basks: bool
    burrows: bool
    climbs: Climbs
    length_m: ByStage
    mass_g: ByStage
    back_m: ByStage
    least_box_m: Size
    least_box_hatchling_m: Size | None = None
    least_box_juvenile_m: Size | None = None
    targets: Targets
    stages: Stages = Stages()

    @property
    def in_a_sentence(self) -> str:
        """Its name as it stands within a sentence: ``rosy boa``, ``Kenyan sand boa``."""
        first = self.label.partition(" ")[0]
        return self.label if first in CAPITALS else self.label[:1].lower() + self.label[1:]

    @property
    def with_article(self) -> str:
        """``a rosy boa``, ``an emerald tree monitor``."""
        name = self.in_a_sentence
        return f"{'an' if name[0].lower() in VOWELS else 'a'} {name}"

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
        bearable = self.targets.bearable.model_copy(update=dict(_moved_along(self.targets, young)))
        return self.targets.model_copy(update={**_given(young), "bearable": bearable})


def _moved_along(adult: Targets, young: StageTargets) -> Iterator[tuple[str, Span]]:
    """What the young bear: their own figure, or as much beside what they want as the adult bears beside it."""
    for key in RANGES:
        own, wanted, grown = getattr(young.bearable, key), getattr(young, key), getattr(adult.bearable, key)
        if own is not None:
            yield key, own
        elif wanted is not None and grown is not None:
            low, high = adult.wants(key)
            yield key, (wanted[0] - (low - grown[0]), wanted[1] + (grown[1] - high))


def _given(targets: Ranges | OwnRanges) -> dict[str, object]:
    return {key: value for key, value in targets if value is not None and key != "bearable"}


def targets_of(animal: Animal, species: Species) -> Targets:
    """The species' targets at the animal's stage, with the keeper's own figures in their place."""
    usual = species.targets_at(animal.stage)
    bearable = usual.bearable.model_copy(update=_given(animal.targets.bearable))
    return usual.model_copy(update={**_given(animal.targets), "bearable": bearable})
