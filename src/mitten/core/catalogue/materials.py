"""What panels, ground, sites and meshes are made of."""

from typing import Annotated, Self

from pydantic import Field, model_validator

from mitten.core.catalogue.entry import ConductivityWMK, Emissivity, Entry, HeatCapacityMJM3K, ServiceCelsius, Share
from mitten.core.design import GroundMoisture

WATER_HELD: dict[GroundMoisture, float] = {"dry": 0.0, "damp": 1 / 3, "wet": 1.0}
"""Water in the ground as a share of what wet ground holds; a starting point to verify."""


class PanelMaterial(Entry):
    """A sheet: conduction, storage, and what it does with shortwave and longwave radiation."""

    conductivity_w_mk: ConductivityWMK
    heat_capacity_mj_m3k: HeatCapacityMJM3K
    short_reflectance: Share
    short_transmittance: Share
    emissivity: Emissivity
    service_c: ServiceCelsius
    softens: bool = False
    """Whether it is a plastic, which softens and sags instead of scorching."""

    """Highest temperature it is made to bear for long."""

    @model_validator(mode="after")
    def _shares_fit(self) -> Self:
        if self.short_reflectance + self.short_transmittance > 1:
            raise ValueError("reflectance and transmittance are more than the whole")
        return self


class Ground(Entry):
    """A substrate; conductivity and storage grow as it takes up water."""

    conductivity_dry_w_mk: ConductivityWMK
    conductivity_damp_w_mk: ConductivityWMK
    conductivity_wet_w_mk: ConductivityWMK
    heat_capacity_dry_mj_m3k: HeatCapacityMJM3K
    heat_capacity_wet_mj_m3k: HeatCapacityMJM3K
    short_absorptance: Share
    emissivity: Emissivity
    service_c: ServiceCelsius

    def conductivity_w_mk(self, moisture: GroundMoisture) -> float:
        """Conductivity at that moisture."""
        return {
            "dry": self.conductivity_dry_w_mk,
            "damp": self.conductivity_damp_w_mk,
            "wet": self.conductivity_wet_w_mk,
        }[moisture]

    def heat_capacity_j_m3k(self, moisture: GroundMoisture) -> float:
        """Heat it stores at that moisture; damp ground holds a third of the water of wet ground."""
        dry, wet = self.heat_capacity_dry_mj_m3k, self.heat_capacity_wet_mj_m3k
        return 1e6 * (dry + WATER_HELD[moisture] * (wet - dry))


class SiteMaterial(Entry):
    """What a ledge, perch or hide roof is made of."""

    conductivity_w_mk: ConductivityWMK
    heat_capacity_mj_m3k: HeatCapacityMJM3K
    short_absorptance: Share
    emissivity: Emissivity
    service_c: ServiceCelsius


class MeshType(Entry):
    """A wire mesh: the open share seen straight on, and what the wire does."""

    open_share: Annotated[float, Field(ge=0.01, le=1.0)]
    wire_short_absorptance: Share
    wire_emissivity: Emissivity
    service_c: ServiceCelsius
