"""Heat sources and the fixtures that hold them."""

from typing import Annotated, Literal

from pydantic import Field

from mitten.core.design.base import (
    HEIGHT_LIMIT_M,
    LAMP_ABOVE_LID_LIMIT_M,
    CatalogueKey,
    Fraction,
    Name,
    Noun,
    PositionM,
)

FixtureKind = Literal["dome", "wide-dome", "wire-cage", "bare-socket", "guarded-socket"]
SocketMaterial = Literal["ceramic", "plastic"]
OnWhen = Literal["day", "night", "always"]


class Fixture(Noun):
    """The holder. What is left out is what such a fixture usually has, by the catalogue."""

    kind: FixtureKind = "dome"
    max_watts: Annotated[float, Field(gt=0.0, le=1000.0)] | None = None
    socket: SocketMaterial = "ceramic"
    guard: bool | None = None


class LampOverrides(Noun):
    """What is printed on the lamp, where it differs from the usual."""

    beam_half_angle_deg: Annotated[float, Field(ge=3.0, le=80.0)] | None = None


class Heater(Noun):
    """A lamp or emitter at ``x_m``, ``y_m``, ``z_m`` (its emitting face), pointing down.

    ``tilt_deg`` leans the beam towards larger x. ``dim`` is the share of full power it runs at.
    """

    name: Name
    kind: CatalogueKey
    watts: Annotated[float, Field(ge=0.0, le=500.0)]
    lamp: LampOverrides = LampOverrides()
    fixture: Fixture = Fixture()
    x_m: PositionM
    y_m: PositionM
    z_m: Annotated[float, Field(ge=0.0, le=HEIGHT_LIMIT_M + LAMP_ABOVE_LID_LIMIT_M)]
    above_mesh: bool = False
    tilt_deg: Annotated[float, Field(ge=-60.0, le=60.0)] = 0.0
    on: OnWhen = "day"
    dim: Fraction = 1.0
