"""The animal and the temperatures it wants."""

from typing import Annotated, Literal

from pydantic import Field, field_validator

from mitten.core.design.base import CatalogueKey, Noun

Stage = Literal["hatchling", "juvenile", "adult"]
Range = Annotated[tuple[float, float], Field(strict=False)]


class TargetOverrides(Noun):
    """The keeper's own figures; what is left out comes from the species.

    Temperatures in degrees Celsius, humidity as a fraction, each range as (low, high).
    """

    basking_surface_c: Range | None = None
    basking_operative_c: Range | None = None
    basking_air_c: Range | None = None
    warm_air_c: Range | None = None
    cool_air_c: Range | None = None
    night_c: Range | None = None
    humidity: Range | None = None
    uvi: Range | None = None
    irradiance_w_m2: Range | None = None
    day_hours: Range | None = None
    danger_body_c: float | None = None
    danger_contact_c: float | None = None
    danger_air_c: float | None = None

    @field_validator("*")
    @classmethod
    def _low_before_high(cls, value: object) -> object:
        if isinstance(value, tuple) and value[0] > value[1]:
            raise ValueError(f"the low end {value[0]:g} is above the high end {value[1]:g}.")
        return value


class Animal(Noun):
    """Species (a key of the catalogue), life stage, and the keeper's own targets."""

    species: CatalogueKey
    stage: Stage = "adult"
    targets: TargetOverrides = TargetOverrides()
