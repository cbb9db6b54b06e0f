"""The room around the enclosure: the coldest and the warmest it is expected to be, and where it is."""

from typing import Annotated, Self

from pydantic import Field, model_validator

from mitten.core.design.base import Fraction, Noun, RoomC

USUAL_WINTER_RH, USUAL_SUMMER_RH = 0.40, 0.55
"""A heated home in winter, and an open one in summer, where nothing else is known; starting points to verify."""

USUAL_ROOM_RH = (USUAL_WINTER_RH + USUAL_SUMMER_RH) / 2
MONTHS = 12


class RoomSeason(Noun):
    """Room air by day and by night, and its relative humidity; that of a usual home where none is given."""

    day_c: RoomC
    night_c: RoomC
    rh: Fraction | None = None


class Room(Noun):
    """Winter and summer, each month where they are known, the altitude, which thins the air, and what power costs.

    ``latitude`` is in degrees north; ``tariff_per_kwh`` in ``currency``. Most heating of rooms stops in a power cut,
    that with a pump, a fan or a burner too; ``heated_without_power`` says that this room's does not.
    """

    winter: RoomSeason
    summer: RoomSeason
    months: Annotated[tuple[RoomSeason, ...], Field(strict=False)] = ()
    altitude_m: Annotated[float, Field(ge=-400.0, le=5000.0)] = 0.0
    latitude: Annotated[float, Field(ge=-90.0, le=90.0)] | None = None
    tariff_per_kwh: Annotated[float, Field(ge=0.0, le=100.0)] | None = None
    heated_without_power: bool = False
    currency: Annotated[str, Field(min_length=1, max_length=8)] | None = None

    @model_validator(mode="after")
    def _whole_year(self) -> Self:
        if len(self.months) not in (0, MONTHS):
            raise ValueError(f"months holds {MONTHS} entries, January first, or none; it has {len(self.months)}.")
        return self
