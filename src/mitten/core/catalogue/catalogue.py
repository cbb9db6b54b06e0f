"""The catalogue, one value that is loaded from its TOML tables and given where it is needed; checks of designs."""

import difflib
import json
import pickle
import tomllib
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cache, cached_property
from importlib.resources import files
from typing import Any
from weakref import WeakValueDictionary

from pydantic import TypeAdapter

from mitten.core.catalogue.animals import Species
from mitten.core.catalogue.entry import Entry
from mitten.core.catalogue.fit import faults_of_heaters
from mitten.core.catalogue.gear import ControlType, FixtureType, SourceKind, UvKind
from mitten.core.catalogue.materials import Ground, MeshType, PanelMaterial, SiteMaterial
from mitten.core.catalogue.placing import faults_of_placing
from mitten.core.design import FACES, BadDesignError, Design, Fault, read_design
from mitten.core.design.editing import Data

Own = Mapping[str, Mapping[str, Mapping[str, Any]]]
"""The keeper's own entries: table, key, content."""


@dataclass(frozen=True, eq=False)
class Catalogue:
    """Every table by name; a design's catalogue names are keys of these.

    A value that is never changed: of another library another one is made, so that the object itself says what
    something was worked out with. To another process it is sent once, and is one object there as well.
    """

    species: Mapping[str, Species]
    panels: Mapping[str, PanelMaterial]
    meshes: Mapping[str, MeshType]
    grounds: Mapping[str, Ground]
    site_materials: Mapping[str, SiteMaterial]
    sources: Mapping[str, SourceKind]
    uvb: Mapping[str, UvKind]
    fixtures: Mapping[str, FixtureType]
    controls: Mapping[str, ControlType]

    def table(self, name: str) -> Mapping[str, Entry]:
        """The table of that name.

        Raises:
            AttributeError: there is none.
        """
        found: Mapping[str, Entry] = getattr(self, name)
        return found

    def with_entry(self, table: str, key: str, entry: Entry) -> "Catalogue":
        """The same with one entry more, or another one in its place; to see what would become of designs."""
        changed: dict[str, Any] = {table: {**self.table(table), key: entry}}
        return replace(self, **changed)

    def with_own(self, own: Own) -> "Catalogue":
        """The same with the keeper's own entries over its own; those of a key that it has take its place.

        Raises:
            pydantic.ValidationError: one of them is no entry.
        """
        tables: dict[str, Any] = {
            name: {**self.table(name), **{key: check_entry(name, one) for key, one in own[name].items()}}
            for name in own
        }
        return replace(self, **tables)

    @cached_property
    def _pickled(self) -> bytes:
        content = pickle.dumps({name: dict(self.table(name)) for name in TABLES})
        _SENT[content] = self
        return content

    def __reduce__(self) -> tuple[Callable[[bytes], "Catalogue"], tuple[bytes]]:
        return _unpickle, (self._pickled,)


_SENT: WeakValueDictionary[bytes, Catalogue] = WeakValueDictionary()
"""Catalogues that were sent to other processes or came from them, by what was sent."""


def _unpickle(content: bytes) -> Catalogue:
    known = _SENT.get(content)
    if known is None:
        known = _SENT[content] = _catalogue(pickle.loads(content))  # noqa: S301, from our own processes
        known.__dict__["_pickled"] = content
    return known


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


@cache
def shipped_catalogue() -> Catalogue:
    """The catalogue that ships with Mitten."""
    return _catalogue({name: _table(name, entry) for name, entry in TABLES.items()})


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


def read_data(data: Data, catalogue: Catalogue, before: Design | None = None) -> Design:
    """Read a design's data that was changed, as ``read_checked_design``.

    Raises:
        BadDesignError: with every fault found.
    """
    return read_checked_design(json.dumps(data), catalogue, before)


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
    for path, name, table_name, what in names_in(design):
        table = catalogue.table(table_name)
        if name not in table:
            near = difflib.get_close_matches(name, table, n=1, cutoff=0.5)
            known = f"did you mean '{near[0]}'?" if near else "it has: " + ", ".join(sorted(table)) + "."
            yield Fault(path, f"the catalogue has no {what} '{name}'; {known}")


def names_in(design: Design) -> Iterator[tuple[str, str, str, str]]:
    """Every name of an entry that a design has: its path, the key, the table, and what it is in words."""
    yield "animal.species", design.animal.species, "species", "species"
    yield "substrate.material", design.substrate.material, "grounds", "substrate"
    for index, layer in enumerate(design.substrate.layers):
        yield f"substrate.layers[{index}].material", layer.material, "grounds", "substrate"
    for face in FACES:
        panel = design.enclosure.panels.of(face)
        yield f"enclosure.panels.{face}.material", panel.material, "panels", "panel material"
    if design.enclosure.lid_mesh is not None:
        yield "enclosure.lid_mesh.mesh", design.enclosure.lid_mesh.mesh, "meshes", "mesh"
    for index, site in enumerate(design.sites):
        yield f"sites[{index}].material", site.material, "site_materials", "furniture material"
    for index, heater in enumerate(design.heaters):
        yield f"heaters[{index}].kind", heater.kind, "sources", "heat source"
        yield f"heaters[{index}].fixture.kind", heater.fixture.kind, "fixtures", "fixture"
    for index, lamp in enumerate(design.uvb):
        yield f"uvb[{index}].lamp", lamp.lamp, "uvb", "ultraviolet lamp"
