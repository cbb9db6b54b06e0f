"""What lies on the floor panel."""

from typing import Annotated, Literal

from pydantic import Field

from mitten.core.design.base import CatalogueKey, Noun

Moisture = Literal["dry", "damp", "wet"]


class Substrate(Noun):
    """Material (a key of the catalogue), depth and moisture."""

    material: CatalogueKey = "soil"
    depth_mm: Annotated[float, Field(ge=1.0, le=500.0)] = 40.0
    moisture: Moisture = "dry"

    @property
    def depth_m(self) -> float:
        """Depth in metres: the height of the ground above the floor panel."""
        return self.depth_mm / 1000
