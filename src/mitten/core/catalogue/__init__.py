"""Species, materials, meshes, lamps and fixtures: data, and the loader that checks it."""

from mitten.core.catalogue.animals import Climbs, Species, Targets, targets_of
from mitten.core.catalogue.catalogue import Catalogue, check_names, load_catalogue, read_checked_design
from mitten.core.catalogue.gear import Family, FixtureType, SourceKind, UvKind
from mitten.core.catalogue.materials import Ground, MeshType, PanelMaterial, SiteMaterial

__all__ = [
    "Catalogue",
    "Climbs",
    "Family",
    "FixtureType",
    "Ground",
    "MeshType",
    "PanelMaterial",
    "SiteMaterial",
    "SourceKind",
    "Species",
    "Targets",
    "UvKind",
    "check_names",
    "load_catalogue",
    "read_checked_design",
    "targets_of",
]
