"""The parts of a design and of the catalogue that the matrices of its enclosure depend on."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from mitten.core.catalogue import Catalogue, Ground, MeshType, PanelMaterial, SiteMaterial
from mitten.core.design import FACES, Design, Enclosure, Face, Panels, Site, Substrate, Underside

WITHOUT = {"vents": (), "door_gap_mm": 0.0, "fan_l_s": 0.0, "underside": Underside(), "against": ()}
DRY = {"moisture": "dry", "misting_ml_day": 0.0}


@dataclass(frozen=True)
class Materials:
    """What the parts are made of: ``panels`` in the order of ``FACES``, ``layers`` of the substrate from the bottom up,
    its uppermost last, ``sites`` in their order; all empty where only shapes matter.
    """

    panels: tuple[PanelMaterial, ...] = ()
    mesh: MeshType | None = None
    layers: tuple[Ground, ...] = ()
    sites: tuple[SiteMaterial, ...] = ()

    @classmethod
    def of(cls, design: Design, catalogue: Catalogue) -> "Materials":
        """Those of a design."""
        box, ground = design.enclosure, design.substrate
        return cls(
            panels=tuple(catalogue.panels[box.panels.of(face).material] for face in FACES),
            mesh=None if box.lid_mesh is None else catalogue.meshes[box.lid_mesh.mesh],
            layers=tuple(
                catalogue.grounds[name] for name in (*(bed.material for bed in ground.layers), ground.material)
            ),
            sites=tuple(catalogue.site_materials[site.material] for site in design.sites),
        )

    def panel(self, face: Face) -> PanelMaterial:
        """The sheet that a face is made of."""
        return self.panels[FACES.index(face)]

    @property
    def ground(self) -> Ground:
        """The uppermost substrate."""
        return self.layers[-1]


@dataclass(frozen=True)
class Bare:
    """What preparation depends on, and so the key of the cache. ``films`` are (face, W/m2K) pairs of faces that lose
    heat to something else than the enclosure's place has it.
    """

    enclosure: Enclosure
    substrate: Substrate
    sites: tuple[Site, ...]
    materials: Materials
    films: tuple[tuple[Face, float], ...] = ()

    @classmethod
    def of(cls, design: Design, catalogue: Catalogue, films: Mapping[Face, float]) -> "Bare":
        """That of a design."""
        materials = Materials.of(design, catalogue)
        return cls(design.enclosure, design.substrate, design.sites, materials, tuple(sorted(films.items())))

    @property
    def unmisted(self) -> "Bare":
        """The same without what is sprayed, which no matrix depends on."""
        return replace(self, substrate=self.substrate.model_copy(update={"misting_ml_day": 0.0}))

    @property
    def shining(self) -> "Bare":
        """What the exchange of radiation depends on: neither water, air and insulation, nor what is outside."""
        box, ground = self.enclosure, self.substrate
        panels = {face: panel.model_copy(update={"insulation_mm": 0.0}) for face, panel in box.panels}
        bare_box = box.model_copy(update={**WITHOUT, "panels": box.panels.model_copy(update=panels)})
        return replace(self, enclosure=bare_box, substrate=ground.model_copy(update=DRY), films=())

    @property
    def shape(self) -> "Bare":
        """What the patches and their view of one another depend on: sizes and places."""
        box = self.enclosure.model_copy(update={**WITHOUT, "panels": Panels(), "lid_mesh": None, "open_top": False})
        dry = self.substrate.model_copy(update=DRY)
        return replace(self, enclosure=box, substrate=dry, materials=Materials(), films=())
