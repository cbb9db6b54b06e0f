"""Species, materials, meshes, lamps and fixtures: data, and the loader that checks it."""

from mitten.core.catalogue.animals import Climbs, Species, Targets, targets_of
from mitten.core.catalogue.carried import (
    Arrived,
    content_of,
    file_schema,
    read_carrying,
    read_library,
    write_carrying,
    write_library,
)
from mitten.core.catalogue.catalogue import (
    TABLES,
    Catalogue,
    Own,
    check_entry,
    check_names,
    read_checked_design,
    read_data,
    read_kept_design,
    shipped_catalogue,
)
from mitten.core.catalogue.entry import STARTING_POINT, Entry, with_article
from mitten.core.catalogue.gear import ControlType, Family, FixtureType, SourceKind, UvKind
from mitten.core.catalogue.materials import Ground, MeshType, PanelMaterial, SiteMaterial
from mitten.core.catalogue.placing import nearest_wall, overlap
from mitten.core.catalogue.presets import Presets, load_presets

__all__ = [
    "STARTING_POINT",
    "TABLES",
    "Arrived",
    "Catalogue",
    "Climbs",
    "ControlType",
    "Entry",
    "Family",
    "FixtureType",
    "Ground",
    "MeshType",
    "Own",
    "PanelMaterial",
    "Presets",
    "SiteMaterial",
    "SourceKind",
    "Species",
    "Targets",
    "UvKind",
    "check_entry",
    "check_names",
    "content_of",
    "file_schema",
    "load_presets",
    "nearest_wall",
    "overlap",
    "read_carrying",
    "read_checked_design",
    "read_data",
    "read_kept_design",
    "read_library",
    "shipped_catalogue",
    "targets_of",
    "with_article",
    "write_carrying",
    "write_library",
]
