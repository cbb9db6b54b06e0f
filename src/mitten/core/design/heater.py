"""Heat sources and the fixtures that hold them."""

from typing import Annotated, Literal

from pydantic import Field

from mitten.core.design.base import (
    HEIGHT_LIMIT_M,
    LAMP_ABOVE_LID_LIMIT_M,
    LENGTH_LIMIT_M,
    CatalogueKey,
    Fraction,
    Name,
    Noun,
    PositionM,
)

SocketMaterial = Literal["ceramic", "plastic"]
OnWhen = Literal["day", "night", "always"]
MountingPlace = Literal["air", "ceiling", "under-floor", "on-floor", "wall", "hide-roof"]


class Fixture(Noun):
    """The holder, a key of the catalogue. What is left out is what such a fixture usually has, by the catalogue."""

    kind: CatalogueKey = "dome"
    max_watts: Annotated[float, Field(gt=0.0, le=1000.0)] | None = None
    socket: SocketMaterial = "ceramic"
    guard: bool | None = None


class LampOverrides(Noun):
    """What is printed on the lamp, where it differs from the usual."""

    beam_half_angle_deg: Annotated[float, Field(ge=3.0, le=80.0)] | None = None
    uvi_at_30cm: Annotated[float, Field(ge=0.0, le=50.0)] | None = None
    """Of a mercury-vapour lamp: its UV index as read 30 cm in front of it."""


class Heater(Noun):
    """A heat source. A lamp hangs at ``x_m``, ``y_m``, ``z_m`` (its emitting face), pointing down.

    ``tilt_deg`` leans the beam towards larger x. ``dim`` is the share of full power it runs at. A panel, mat, tape or
    cable covers ``length_m`` by ``depth_m`` around its centre; on a wall ``length_m`` runs along it, ``depth_m`` up it,
    and the wall is the one nearest to the centre. ``place`` left out is the usual one of its kind; ``site`` names
    the slab that a mat under a hide's roof or a hot rock warms. ``cover_mm`` of plastic or tile lies on it.
    """

    name: Name
    kind: CatalogueKey
    watts: Annotated[float, Field(ge=0.0, le=500.0)]
    lamp: LampOverrides = LampOverrides()
    fixture: Fixture = Fixture()
    x_m: PositionM
    y_m: PositionM
    z_m: Annotated[float, Field(ge=0.0, le=HEIGHT_LIMIT_M + LAMP_ABOVE_LID_LIMIT_M)] = 0.0
    above_mesh: bool = False
    tilt_deg: Annotated[float, Field(ge=-60.0, le=60.0)] = 0.0
    length_m: Annotated[float, Field(gt=0.0, le=LENGTH_LIMIT_M)] | None = None
    depth_m: Annotated[float, Field(gt=0.0, le=LENGTH_LIMIT_M)] | None = None
    place: MountingPlace | None = None
    site: Name | None = None
    cover_mm: Annotated[float, Field(ge=0.0, le=50.0)] = 0.0
    on: OnWhen = "day"
    control: Name | None = None
    dim: Fraction = 1.0
