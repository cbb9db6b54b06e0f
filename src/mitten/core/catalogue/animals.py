"""Species with what they want and what harms them."""

from typing import Annotated, Literal

from pydantic import Field

from mitten.core.catalogue.entry import Entry, Positive
from mitten.core.design import Animal, Stage

Climbs = Literal["none", "some", "strong"]
Span = tuple[float, float]


class Targets(Entry):
    """Every target as (low, high), and the danger temperatures as one number each."""

    label: str = ""
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
    danger_body_c: float
    danger_contact_c: float
    danger_air_c: float


class ByStage(Entry):
    """A figure by life stage."""

    label: str = ""
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
    group: Literal["lizard", "snake", "tortoise", "gecko"]
    active: Literal["day", "dusk", "night"]
    basks: bool
    burrows: bool
    climbs: Climbs
    length_m: ByStage
    mass_g: ByStage
    back_m: ByStage
    least_box_m: Annotated[tuple[float, float, float], Field(description="length, depth, height")]
    targets: Targets
    origin: str

    def body_length_m(self, stage: Stage) -> float:
        """Nose to tail tip at a life stage."""
        return self.length_m.at(stage)


def targets_of(animal: Animal, species: Species) -> Targets:
    """The species' targets with the keeper's own figures in their place."""
    own = {key: value for key, value in animal.targets.model_dump().items() if value is not None}
    return species.targets.model_copy(update=own)
