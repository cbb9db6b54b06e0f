"""The animal and the temperatures it wants."""

from typing import Annotated, Any, Literal, Self

from pydantic import Field, field_validator, model_validator

from mitten.core.design.base import CatalogueKey, Noun

Stage = Literal["hatchling", "juvenile", "adult"]
Range = Annotated[tuple[float, float], Field(strict=False)]


class OwnRanges(Noun):
    """The keeper's own ranges; what is left out comes from the species.

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

    @field_validator("*")
    @classmethod
    def _low_before_high(cls, value: object) -> object:
        if isinstance(value, tuple) and value[0] > value[1]:
            raise ValueError(f"the low end {value[0]:g} is above the high end {value[1]:g}.")
        return value


class TargetOverrides(OwnRanges):
    """The keeper's own figures: what is wanted, what is borne at the season's extremes, what is dangerous."""

    bearable: OwnRanges = OwnRanges()
    danger_body_c: float | None = None
    danger_contact_c: float | None = None
    danger_air_c: float | None = None

    @model_validator(mode="after")
    def _bearable_is_wider(self) -> Self:
        for key, bears in self.bearable:
            wants = getattr(self, key)
            if wants is not None and bears is not None and not bears[0] <= wants[0] <= wants[1] <= bears[1]:
                raise ValueError(
                    f"{key}: what is borne, {bears[0]:g} to {bears[1]:g}, does not hold all that is wanted."
                )
        return self


class Animal(Noun):
    """Species (a key of the catalogue), life stage, and the keeper's own targets."""

    species: CatalogueKey
    stage: Stage = "adult"
    targets: TargetOverrides = TargetOverrides()

    @model_validator(mode="before")
    @classmethod
    def _bearable_beside_targets(cls, data: Any) -> Any:
        """``bearable`` may stand beside ``targets`` as well as in it."""
        if not isinstance(data, dict) or "bearable" not in data:
            return data
        targets = data.get("targets", {})
        rest = {key: value for key, value in data.items() if key != "bearable"}
        return {**rest, "targets": {**targets, "bearable": data["bearable"]}} if isinstance(targets, dict) else data
