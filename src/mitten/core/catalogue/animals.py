"""Species with what they want and what harms them."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from mitten.core.catalogue.entry import Entry, Figures, Positive
from mitten.core.design import Animal, Stage

Climbs = Literal["none", "some", "strong"]
Span = tuple[float, float]
Size = Annotated[tuple[Positive, Positive, Positive], Field(description="length, depth, height")]
Celsius = Annotated[float, Field(ge=-20.0, le=100.0)]

CAPITALS = frozenset(
    ["African", "Berber", "California", "Children's", "Chinese", "Greek", "Hermann's", "Indian", "Kenyan", "Sudan"]
)
"""First words of names that keep their capital within a sentence."""


class Targets(Figures):
    """Every target as (low, high), and the danger temperatures as one number each."""

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
    danger_body_c: Celsius
    danger_contact_c: Celsius
    danger_air_c: Celsius

    @model_validator(mode="after")
    def _low_before_high(self) -> "Targets":
        for key, value in self:
            if isinstance(value, tuple) and value[0] > value[1]:
                raise ValueError(f"{key}: the low end {value[0]:g} is above the high end {value[1]:g}.")
        return self


class StageTargets(Figures):
    """What a life stage wants other than the adult; what is left out is the same."""

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
        return self.targets.model_copy(update=_given(young))


def _given(targets: Figures) -> dict[str, object]:
    return {key: value for key, value in targets if value is not None}


def targets_of(animal: Animal, species: Species) -> Targets:
    """The species' targets at the animal's stage, with the keeper's own figures in their place."""
    own = {key: value for key, value in animal.targets.model_dump().items() if value is not None}
    return species.targets_at(animal.stage).model_copy(update=own)
