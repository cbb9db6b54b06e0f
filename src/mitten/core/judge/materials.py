"""How hot each thing of the enclosure gets, beside what it is made to bear."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from mitten.core.catalogue import Catalogue
from mitten.core.design import FACES, Design
from mitten.core.judge.conditions import Condition
from mitten.core.physics.climate import Climate


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
    for face in FACES:
        if face != "floor" and not (face == "top" and design.enclosure.open_top):
            panel = catalogue.panels[design.enclosure.panels.of(face).material]
            name = "The top" if face == "top" else f"The {face} panel"
            yield _hottest(name, panel.label, panel.service_c, {c: _face_c(k, face) for c, k in climates.items()})
    ground = catalogue.grounds[design.substrate.material]
    ground_c = {condition: climate.floor.hottest()[0] for condition, climate in climates.items()}
    yield _hottest("The substrate", ground.label, ground.service_c, ground_c)
    floor = catalogue.panels[design.enclosure.panels.floor.material]
    base_c = {condition: climate.base_c for condition, climate in climates.items()}
    yield _hottest("The floor panel", floor.label, floor.service_c, base_c)
    for site in design.sites:
        stuff = catalogue.site_materials[site.material]
        site_c = {c: climate.site_fields[site.name].hottest()[0] for c, climate in climates.items()}
        yield _hottest(f"'{site.name}'", stuff.label, stuff.service_c, site_c)
    if design.enclosure.lid_mesh is not None:
        mesh = catalogue.meshes[design.enclosure.lid_mesh.mesh]
        mesh_c = {condition: climate.mesh_c for condition, climate in climates.items()}
        yield _hottest("The mesh", mesh.label, mesh.service_c, mesh_c)


def _hottest(what: str, material: str, service_c: float, by_condition: Mapping[Condition, float]) -> HottestMaterial:
    condition = max(by_condition, key=lambda key: by_condition[key])
    return HottestMaterial(what, material, by_condition[condition], service_c, condition)


def _face_c(climate: Climate, face: str) -> float:
    interior = climate.state.prepared.interior
    return float(climate.state.surface_c[interior.span(interior.index_of(face))].max())
