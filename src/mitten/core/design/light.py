"""Lamps that are not there for their heat: plain lights and ultraviolet lamps. Their watts warm all the same."""

from datetime import date
from typing import Annotated

from pydantic import Field

from mitten.core.design.base import (
    HEIGHT_LIMIT_M,
    LAMP_ABOVE_LID_LIMIT_M,
    LENGTH_LIMIT_M,
    CatalogueKey,
    Name,
    Noun,
    PositionM,
)
from mitten.core.design.heater import OnWhen

HangingM = Annotated[float, Field(ge=0.0, le=HEIGHT_LIMIT_M + LAMP_ABOVE_LID_LIMIT_M)]


class Light(Noun):
    """A plain light, such as a row of LEDs, on by day."""

    name: Name
    watts: Annotated[float, Field(ge=0.0, le=300.0)]
    x_m: PositionM
    y_m: PositionM
    z_m: HangingM
    above_mesh: bool = False


class UvbLamp(Noun):
    """An ultraviolet lamp: a tube along x of ``length_m``, or without a length a compact lamp.

    ``uvi_at_30cm`` is read when it was new, with nothing between, straight in front of its middle.
    """

    name: Name
    lamp: CatalogueKey = "uvb-tube"
    watts: Annotated[float, Field(ge=0.0, le=300.0)]
    uvi_at_30cm: Annotated[float, Field(ge=0.0, le=50.0)] | None = None
    beam_half_angle_deg: Annotated[float, Field(ge=3.0, le=80.0)] | None = None
    x_m: PositionM
    y_m: PositionM
    z_m: HangingM
    length_m: Annotated[float, Field(gt=0.0, le=LENGTH_LIMIT_M)] | None = None
    above_mesh: bool = False
    on: OnWhen = "day"
    installed: Annotated[date, Field(strict=False)] | None = None
