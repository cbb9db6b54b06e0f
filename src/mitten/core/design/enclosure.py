"""The box: inside size, faces, lid, vents and what it stands on."""

from math import pi
from typing import Annotated, Literal, Self, TypeGuard

from pydantic import Field, model_validator

from mitten.core.design.base import (
    DEPTH_LIMIT_M,
    HEIGHT_LIMIT_M,
    LENGTH_LIMIT_M,
    SMALLEST_BOX_M,
    CatalogueKey,
    Noun,
    PositionM,
    ThicknessMm,
)

Face = Literal["floor", "top", "left", "right", "front", "back"]
FACES: tuple[Face, ...] = ("floor", "top", "left", "right", "front", "back")


def is_face(name: str) -> TypeGuard[Face]:
    """Whether something is the name of a face."""
    return name in FACES


class Panel(Noun):
    """One face: its material (a key of the catalogue), thickness, and insulation on its outside."""

    material: CatalogueKey = "glass"
    thickness_mm: ThicknessMm = 4.0
    insulation_mm: Annotated[float, Field(ge=0.0, le=200.0)] = 0.0


class Panels(Noun):
    """The six faces; a face left out is 4 mm glass."""

    floor: Panel = Panel()
    top: Panel = Panel()
    left: Panel = Panel()
    right: Panel = Panel()
    front: Panel = Panel()
    back: Panel = Panel()

    def of(self, face: Face) -> Panel:
        """The panel of a face."""
        panel: Panel = getattr(self, face)
        return panel


class LidMesh(Noun):
    """A mesh area in the top, given by its centre; the whole top if only ``mesh`` is given."""

    mesh: CatalogueKey
    x_m: PositionM | None = None
    y_m: PositionM | None = None
    length_m: Annotated[float, Field(gt=0.0)] | None = None
    depth_m: Annotated[float, Field(gt=0.0)] | None = None

    @model_validator(mode="after")
    def _all_or_nothing(self) -> Self:
        given = [value is not None for value in (self.x_m, self.y_m, self.length_m, self.depth_m)]
        if any(given) and not all(given):
            raise ValueError("give the middle of the mesh and its size together, or neither for the whole top.")
        return self


class Vent(Noun):
    """An opening in a face: its free area, or a number of round holes and their diameter."""

    face: Face
    area_cm2: Annotated[float, Field(gt=0.0, le=5000.0)] | None = None
    holes: Annotated[int, Field(gt=0, le=2000)] | None = None
    hole_mm: Annotated[float, Field(gt=0.0, le=150.0)] | None = None
    z_m: PositionM | None = None

    @model_validator(mode="after")
    def _one_way_of_giving_the_area(self) -> Self:
        by_area = self.area_cm2 is not None
        by_holes = self.holes is not None and self.hole_mm is not None
        if by_area == by_holes or (by_area and (self.holes is not None or self.hole_mm is not None)):
            raise ValueError("give either the free area, or the number of round holes and how wide each is.")
        if self.face not in ("top", "floor") and self.z_m is None:
            raise ValueError("a vent in a wall needs the height of its middle.")
        return self

    @property
    def area_m2(self) -> float:
        """Free area in m2."""
        if self.area_cm2 is not None:
            return self.area_cm2 / 1e4
        # One of the two ways of giving the area is there: the validator saw to it.
        return (self.holes or 0) * pi / 4 * ((self.hole_mm or 0.0) / 1000) ** 2


class Underside(Noun):
    """What is under the box: feet that leave an air gap, an insulating board, or neither."""

    raised: bool = False
    insulated: bool = False


class Enclosure(Noun):
    """Inside sizes in metres and everything the air and the warmth can leave by."""

    length_m: Annotated[float, Field(ge=SMALLEST_BOX_M, le=LENGTH_LIMIT_M)]
    depth_m: Annotated[float, Field(ge=SMALLEST_BOX_M, le=DEPTH_LIMIT_M)]
    height_m: Annotated[float, Field(ge=SMALLEST_BOX_M, le=HEIGHT_LIMIT_M)]
    panels: Panels = Panels()
    lid_mesh: LidMesh | None = None
    open_top: bool = False
    vents: Annotated[tuple[Vent, ...], Field(max_length=20, strict=False)] = ()
    door_gap_mm: Annotated[float, Field(ge=0.0, le=30.0)] = 0.0
    fan_l_s: Annotated[float, Field(ge=0.0, le=50.0)] = 0.0
    underside: Underside = Underside()
    against: Annotated[tuple[Face, ...], Field(max_length=6, strict=False)] = ()

    @model_validator(mode="after")
    def _one_kind_of_lid(self) -> Self:
        if self.open_top and self.lid_mesh is not None:
            raise ValueError("the top is either open or has a mesh, not both.")
        return self
