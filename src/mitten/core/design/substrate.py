"""What lies on the floor panel."""

from typing import Annotated, Literal

from pydantic import Field

from mitten.core.design.base import CatalogueKey, Noun

GroundMoisture = Literal["dry", "damp", "wet"]


class SubstrateLayer(Noun):
    """A further layer under the one that the animal lies on."""

    material: CatalogueKey
    depth_mm: Annotated[float, Field(ge=1.0, le=500.0)]
    moisture: GroundMoisture = "dry"


class Substrate(Noun):
    """Material (a key of the catalogue), depth and moisture of the top, and ``layers`` under it from the bottom up.

    ``misting_ml_day`` is the water sprayed on it a day.
    """

    material: CatalogueKey = "soil"
    depth_mm: Annotated[float, Field(ge=1.0, le=500.0)] = 40.0
    moisture: GroundMoisture = "dry"
    layers: Annotated[tuple[SubstrateLayer, ...], Field(max_length=6, strict=False)] = ()
    misting_ml_day: Annotated[float, Field(ge=0.0, le=5000.0)] = 0.0

    @property
    def depth_m(self) -> float:
        """Depth of all layers in metres: the height of the ground above the floor panel."""
        return (self.depth_mm + sum(layer.depth_mm for layer in self.layers)) / 1000
