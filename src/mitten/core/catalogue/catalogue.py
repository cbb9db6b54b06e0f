"""The catalogue as one value, loaded from its TOML tables, and the check of a design's names."""

import difflib
import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cache
from importlib.resources import files
from typing import Any

from pydantic import TypeAdapter

from mitten.core.catalogue.animals import Species
from mitten.core.catalogue.entry import Entry
from mitten.core.catalogue.fit import faults_of_heaters
from mitten.core.catalogue.gear import ControlType, FixtureType, SourceKind, UvKind
from mitten.core.catalogue.materials import Ground, MeshType, PanelMaterial, SiteMaterial
from mitten.core.catalogue.placing import faults_of_placing
from mitten.core.design import FACES, BadDesignError, Design, Fault, read_design


@dataclass(frozen=True)
class Catalogue:
    """Every table by name; a design's catalogue names are keys of these."""

    species: Mapping[str, Species]
    panels: Mapping[str, PanelMaterial]
    meshes: Mapping[str, MeshType]
    grounds: Mapping[str, Ground]
    site_materials: Mapping[str, SiteMaterial]
    sources: Mapping[str, SourceKind]
    uvb: Mapping[str, UvKind]
    fixtures: Mapping[str, FixtureType]
    controls: Mapping[str, ControlType]


TABLES: Mapping[str, type[Entry]] = {
    "species": Species,
    "sources": SourceKind,
    "uvb": UvKind,
    "fixtures": FixtureType,
    "controls": ControlType,
    "panels": PanelMaterial,
    "grounds": Ground,
    "site_materials": SiteMaterial,
    "meshes": MeshType,
}
"""Every table, and what its entries are."""

Own = Mapping[str, Mapping[str, Mapping[str, Any]]]
"""The keeper's own entries: table, key, content."""

_in_use: list[Catalogue] = []
"""The catalogue that is in use, once one was loaded: a cache that ``forget_own`` clears."""


def load_catalogue() -> Catalogue:
    """The catalogue in use: the one that ships with Mitten, with the keeper's own entries where they were given.

    Raises:
        pydantic.ValidationError: a TOML table holds something that is no entry.
    """
    if not _in_use:
        _in_use.append(shipped_catalogue())
    return _in_use[0]


@cache
def shipped_catalogue() -> Catalogue:
    """The catalogue that ships with Mitten."""
    return _catalogue({name: _table(name, entry) for name, entry in TABLES.items()})


def use_own(own: Own) -> bool:
    """Put the keeper's own entries over the shipped ones; those of a shipped key take its place.

    Returns:
        Whether the catalogue is another one now.

    Raises:
        pydantic.ValidationError: one of them is no entry.
    """
    shipped = shipped_catalogue()
    tables = {
        name: getattr(shipped, name) | {key: check_entry(name, one) for key, one in own.get(name, {}).items()}
        for name in TABLES
    }
    made = _catalogue(tables)
    if made == load_catalogue():
        return False
    _in_use[:] = [made]
    return True


def with_entry(table: str, key: str, entry: Entry) -> Catalogue:
    """The catalogue in use with one entry more, or another one in its place; to see what would become of designs."""
    now = load_catalogue()
    return replace(now, **{table: {**getattr(now, table), key: entry}})


def use_catalogue(catalogue: Catalogue) -> None:
    """Take a whole catalogue as the one in use: that of another process."""
    _in_use[:] = [catalogue]


def forget_own() -> None:
    """Back to the shipped catalogue alone."""
    _in_use.clear()


def _catalogue(tables: dict[str, Any]) -> Catalogue:
    """Each table was checked against its own kind of entry."""
    return Catalogue(**tables)


def check_entry(table: str, content: Mapping[str, Any]) -> Entry:
    """An entry of a table from its content.

    Raises:
        pydantic.ValidationError: it is none.
    """
    return TABLES[table].model_validate(content)


def _table(name: str, entry: type[Entry]) -> dict[str, Entry]:
    text = files("mitten.core.catalogue").joinpath("data", f"{name}.toml").read_text(encoding="utf-8")
    return TypeAdapter(dict[str, entry]).validate_python(tomllib.loads(text))  # type: ignore[valid-type]


def read_checked_design(content: bytes | str, catalogue: Catalogue, before: Design | None = None) -> Design:
    """Read a design file and check that the catalogue knows every name in it, and that its parts fit.

    Parts that are where nothing can be are not held against an edit of a design, ``before``, in which they were there.

    Raises:
        BadDesignError: with every fault found.
    """
    design = read_kept_design(content, catalogue)
    stood = set() if before is None else {fault.sentence for fault in placing_faults(before, catalogue)}
    faults = [fault for fault in placing_faults(design, catalogue) if fault.sentence not in stood]
    if faults:
        raise BadDesignError(faults)
    return design


def read_kept_design(content: bytes | str, catalogue: Catalogue) -> Design:
    """The same of a design that was kept: parts may be where they were let in before.

    Raises:
        BadDesignError: with every fault found.
    """
    design = read_design(content)
    faults = list(check_names(design, catalogue)) or list(faults_of_heaters(design, catalogue.sources))
    if faults:
        raise BadDesignError(faults)
    return design


def placing_faults(design: Design, catalogue: Catalogue) -> list[Fault]:
    """Parts of a design that are where nothing can be."""
    return list(faults_of_placing(design, catalogue.sources, catalogue.fixtures))


def check_names(design: Design, catalogue: Catalogue) -> Iterator[Fault]:
    """Names that the catalogue does not have, each with the nearest that it has."""
    for path, name, table, what in _names(design, catalogue):
        if name not in table:
            near = difflib.get_close_matches(name, table, n=1, cutoff=0.5)
            known = f"did you mean '{near[0]}'?" if near else "it has: " + ", ".join(sorted(table)) + "."
            yield Fault(path, f"the catalogue has no {what} '{name}'; {known}")


def _names(design: Design, catalogue: Catalogue) -> Iterator[tuple[str, str, Mapping[str, Entry], str]]:
    yield "animal.species", design.animal.species, catalogue.species, "species"
    yield "substrate.material", design.substrate.material, catalogue.grounds, "substrate"
    for index, layer in enumerate(design.substrate.layers):
        yield f"substrate.layers[{index}].material", layer.material, catalogue.grounds, "substrate"
    for face in FACES:
        panel = design.enclosure.panels.of(face)
        yield f"enclosure.panels.{face}.material", panel.material, catalogue.panels, "panel material"
    if design.enclosure.lid_mesh is not None:
        yield "enclosure.lid_mesh.mesh", design.enclosure.lid_mesh.mesh, catalogue.meshes, "mesh"
    for index, site in enumerate(design.sites):
        yield f"sites[{index}].material", site.material, catalogue.site_materials, "furniture material"
    for index, heater in enumerate(design.heaters):
        yield f"heaters[{index}].kind", heater.kind, catalogue.sources, "heat source"
        yield f"heaters[{index}].fixture.kind", heater.fixture.kind, catalogue.fixtures, "fixture"
    for index, lamp in enumerate(design.uvb):
        yield f"uvb[{index}].lamp", lamp.lamp, catalogue.uvb, "ultraviolet lamp"
