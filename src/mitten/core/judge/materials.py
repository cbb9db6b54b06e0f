"""How hot each thing of the enclosure gets, beside what it is made to bear."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import partial

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.judge.conditions import Condition
from mitten.core.physics.reading.climate import Climate


@dataclass(frozen=True)
class HottestMaterial:
    """A part, its hottest temperature over all conditions, and its limit."""

    what: str
    material: str
    temperature_c: float
    service_c: float
    condition: Condition


def hottest_materials(
    design: Design, climates: Mapping[Condition, Climate], catalogue: Catalogue
) -> Iterator[HottestMaterial]:
    """Faces, substrate, sites and mesh, each in the condition in which it is hottest."""
    for part in (*_faces(design, catalogue), *_ground(design, catalogue), *_sites(design, catalogue)):
        by_condition = {condition: part.temperature_c(climate) for condition, climate in climates.items()}
        hottest = max(by_condition, key=lambda condition: by_condition[condition])
        yield HottestMaterial(part.what, part.material, by_condition[hottest], part.service_c, hottest)


@dataclass(frozen=True)
class _Part:
    """A part, what it is made of and bears, and how its hottest place is read off a climate."""

    what: str
    material: str
    service_c: float
    temperature_c: Callable[[Climate], float]


def _faces(design: Design, catalogue: Catalogue) -> Iterator[_Part]:
    """Walls and top; of a mesh lid the wires too, of an open top nothing."""
    names = {"top": "The top", **{face: f"The {face} panel" for face in ("left", "right", "front", "back")}}
    if design.enclosure.open_top:
        del names["top"]
    for face, name in names.items():
        panel = catalogue.panels[getattr(design.enclosure.panels, face).material]
        hottest = partial(_face_c, face=face) if face != "top" else _ceiling_c
        yield _Part(name, panel.label, panel.service_c, hottest)
    if design.enclosure.lid_mesh is not None:
        mesh = catalogue.meshes[design.enclosure.lid_mesh.mesh]
        yield _Part("The mesh", mesh.label, mesh.service_c, lambda climate: climate.mesh_c)


def _ground(design: Design, catalogue: Catalogue) -> Iterator[_Part]:
    ground = catalogue.grounds[design.substrate.material]
    yield _Part("The ground", ground.label, ground.service_c, lambda climate: climate.floor.hottest()[0])
    floor = catalogue.panels[design.enclosure.panels.floor.material]
    yield _Part("The floor panel", floor.label, floor.service_c, lambda climate: climate.base_c)


def _sites(design: Design, catalogue: Catalogue) -> Iterator[_Part]:
    for site in design.sites:
        stuff = catalogue.site_materials[site.material]
        yield _Part(f"'{site.name}'", stuff.label, stuff.service_c, partial(_site_c, name=site.name))


def _site_c(climate: Climate, name: str) -> float:
    return climate.site_surfaces_c[name]


def _ceiling_c(climate: Climate) -> float:
    return climate.ceiling_c


def _face_c(climate: Climate, face: str) -> float:
    interior = climate.state.prepared.interior
    return float(climate.state.surface_c[interior.span(interior.index_of(face))].max())
