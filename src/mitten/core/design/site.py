"""Places where the animal can be: ledges, hides, perches, the water dish."""

from typing import Annotated, Literal

from pydantic import Field

from mitten.core.design.base import HEIGHT_LIMIT_M, CatalogueKey, Name, Noun, PositionM

SiteRole = Literal["basking", "warm-hide", "cool-hide", "humid-hide", "perch", "water", "plant"]


class Site(Noun):
    """A slab lying flat: ``x_m``, ``y_m`` are its centre, ``z_m`` its underside.

    Without ``z_m`` it lies on the ground; with one below the ground it is bedded in it, with 0 it stands on the floor
    panel. Of a hide this is the roof.
    """

    name: Name
    role: SiteRole
    material: CatalogueKey
    dark: bool = False
    x_m: PositionM
    y_m: PositionM
    length_m: Annotated[float, Field(ge=0.02, le=2.0)]
    depth_m: Annotated[float, Field(ge=0.02, le=2.0)]
    z_m: Annotated[float, Field(ge=0.0, le=HEIGHT_LIMIT_M)] | None = None
    thickness_mm: Annotated[float, Field(ge=3.0, le=300.0)] = 20.0

    def underside_m(self, ground_m: float) -> float:
        """Height of the underside above the floor panel; ``ground_m`` is the substrate's depth."""
        return ground_m if self.z_m is None else self.z_m

    def top_m(self, ground_m: float) -> float:
        """Height of the top above the floor panel."""
        return self.underside_m(ground_m) + self.thickness_mm / 1000

    def is_under(self, x_m: float, y_m: float) -> bool:
        """Whether a place seen from above is within its outline."""
        return abs(x_m - self.x_m) <= self.length_m / 2 and abs(y_m - self.y_m) <= self.depth_m / 2
