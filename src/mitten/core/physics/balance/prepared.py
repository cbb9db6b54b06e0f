"""Everything about an enclosure that its lamps and its room do not change."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array

from mitten.core.design import FACES, Face
from mitten.core.physics.air.moisture import Evaporating
from mitten.core.physics.air.ventilation import Openings
from mitten.core.physics.air.zones import Zones, ZoneShares
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.constants import value
from mitten.core.physics.radiation.exchange import RadiationNetwork
from mitten.core.physics.radiation.lamps import MeshWindow
from mitten.core.physics.shape.geometry import Interior
from mitten.core.physics.solids.ground import Layer


@dataclass(frozen=True)
class Bedded:
    """A slab that reaches into the ground: its underside's surface and patches, and how deep it reaches."""

    surface: int
    span: slice
    depth_m: float


@dataclass(frozen=True, eq=False)
class Prepared:
    """Matrices and tables of one enclosure; arrays over patches (n,), zones (m,).

    ``conduction`` (n, n) gives the heat each patch loses through solids, everything outside at 0: panels, ground and
    slabs together. ``zone_shares`` says how much of each patch convects to which zone. ``ground`` are the layers
    under the surface from the bottom up, ``floor_panel`` the index of the floor panel in them, ``slabs`` those of the
    sites, ``top_panel`` the sheet of the top and ``top_board_m2k_w`` the resistance of the board on it. ``films_w_m2k``
    lead from each face to what is outside. ``wall_inward`` is the share of heat given to a wall's outside that comes
    in, ``wetness`` (n,) how freely a patch evaporates beside a water surface, ``misting_kg_s`` the water sprayed on the
    ground.
    """

    interior: Interior
    zones: Zones
    window: MeshWindow | None
    network: RadiationNetwork
    long_loss: Array
    conduction: Array
    openings: Openings
    convecting_m2: Array
    film_tilt: Array
    film_length_m: Array
    zone_shares: ZoneShares
    mesh_share: Array
    ground: tuple[Layer, ...]
    floor_panel: int
    films_w_m2k: Mapping[Face, float]
    shelf_share: float
    wall_inward: Mapping[Face, float]
    bedded: tuple[Bedded, ...]
    slabs: tuple[Layer, ...]
    top_panel: Layer
    top_board_m2k_w: float
    site_names: tuple[str, ...]
    wetness: Array
    misting_kg_s: float

    @property
    def matrices(self) -> tuple[NDArray[np.floating], ...]:
        """Everything in it that is as large as its patches squared."""
        network = self.network
        return network.view, network.short_factors[0], network.long_arriving, self.long_loss, self.conduction

    def without_matrices(self) -> "Prepared":
        """The same for pictures: where everything is, and nothing that is as large as its patches squared."""
        none = np.empty((0, 0))
        network = replace(
            self.network, view=none, short_factors=(none, np.empty(0, dtype=np.int32)), long_arriving=none
        )  # fmt: skip
        return replace(self, network=network, long_loss=none, conduction=none)

    @cached_property
    def sparse_conduction(self) -> csr_array:
        """The same conductances without their many zeros, for products."""
        return csr_array(self.conduction)

    @cached_property
    def nearest(self) -> dict[tuple[float, float, float], int]:
        """Numbers of the patches nearest to points that were asked for: probes are read often."""
        return {}

    @property
    def underside_w_m2k(self) -> float:
        """From the underside of the floor panel to what is below."""
        return self.films_w_m2k["floor"]

    @property
    def outside_top_w_m2k(self) -> float:
        """From the outside of the top's sheet to what is over it: its insulation and its film."""
        return 1.0 / (self.top_board_m2k_w + 1.0 / self.films_w_m2k["top"])

    @cached_property
    def outward_w_k(self) -> Array:
        """Of what each patch (n,) loses through solids, what leaves for the outside: the rest goes to other patches."""
        return np.asarray(self.conduction.sum(axis=1))

    @cached_property
    def outer_face(self) -> NDArray[np.intp]:
        """Number in ``FACES`` of the face by which that leaves (n,)."""
        surfaces = self.interior.surfaces
        return np.repeat([FACES.index(one.outer_face) for one in surfaces], [one.patches for one in surfaces])

    def outside_k(self, surroundings: Surroundings) -> Array:
        """Temperature (n,) in kelvin that each patch loses that heat to."""
        return np.asarray(surroundings.outside_k[self.outer_face])

    def has_matrices_of(self, other: "Prepared") -> bool:
        """Whether factors of the one serve the other: the same solids and surfaces, whatever is sprayed."""
        return self.conduction is other.conduction and self.long_loss is other.long_loss

    @property
    def unknowns(self) -> int:
        """Patches and air zones."""
        return self.interior.patches + self.zones.count

    @cached_property
    def evaporating(self) -> Evaporating:
        """What evaporates, and where to; what is sprayed falls evenly on the ground."""
        ground_m2 = np.zeros(self.interior.patches)
        ground_m2[self.interior.span(0)] = self.interior.exposed_m2[self.interior.span(0)]
        falls_on = ground_m2 / max(float(ground_m2.sum()), 1e-12)
        return Evaporating(self.wetness, self.zone_shares, falls_on, self.misting_kg_s)

    @cached_property
    def least_film_w_m2k(self) -> Array:
        """Thinnest film (n,) of each patch: over water, and over ground that is sprayed, the air is never as still."""
        wet = self.wetness.copy()
        if self.misting_kg_s > 0:
            wet[self.interior.span(0)] = 1.0
        dry = value("film_least")
        return np.asarray(dry + wet * (value("evaporation_film") - dry))

    @cached_property
    def evaporates(self) -> bool:
        """Whether any water can leave a surface."""
        return bool(self.wetness.any()) or self.misting_kg_s > 0
