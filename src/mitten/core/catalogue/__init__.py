"""Species, materials, meshes, lamps and fixtures: data, and the loader that checks it."""

from mitten.core.catalogue.animals import Climbs, Species, Targets, targets_of
from mitten.core.catalogue.catalogue import Catalogue, check_names, load_catalogue, read_checked_design
from mitten.core.catalogue.gear import FixtureType, LampKind
from mitten.core.catalogue.materials import Ground, MeshType, PanelMaterial, SiteMaterial

__all__ = [
    "Catalogue",
    "Climbs",
    "FixtureType",
    "Ground",
    "LampKind",
    "MeshType",
    "PanelMaterial",
    "SiteMaterial",
    "Species",
    "Targets",
    "check_names",
    "load_catalogue",
    "read_checked_design",
    "targets_of",
]
