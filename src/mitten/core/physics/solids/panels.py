"""Heat through the faces of the box to what is outside."""

from collections.abc import Mapping, Sequence

from mitten.core.catalogue import Ground, PanelMaterial
from mitten.core.design import FACES, Enclosure, Face, Panel, Substrate, SubstrateLayer, Underside
from mitten.core.physics.constants import value
from mitten.core.physics.solids.ground import Layer


def insulation_layer(thickness_mm: float) -> Layer:
    """Insulating board on the outside of a face."""
    return Layer(thickness_mm / 1000, value("insulation_conductivity"), value("insulation_heat_capacity"))


def panel_layer(panel: Panel, material: PanelMaterial) -> Layer:
    """The sheet of a face, without its insulation."""
    return Layer(panel.thickness_mm / 1000, material.conductivity_w_mk, material.heat_capacity_mj_m3k * 1e6)


def outside_films_w_m2k(enclosure: Enclosure, given: Mapping[Face, float], factor: float = 1.0) -> dict[Face, float]:
    """From the outermost surface of each face to what is outside, convection and longwave together: as given, or as the
    enclosure's place makes it (ISO 6946). That of the floor includes a board under it.
    """
    found: dict[Face, float] = {}
    for face in FACES:
        if face == "floor":
            found[face] = underside_w_m2k(enclosure.underside, factor, given.get(face))
            continue
        usual = value("outside_film_against" if face in enclosure.against else "outside_film_free")
        found[face] = factor * given.get(face, usual)
    return found


def panel_resistances_m2k_w(panel: Panel, material: PanelMaterial, film_w_m2k: float) -> tuple[float, float]:
    """Resistance of a wall or lid panel, and of what lies outside it: insulation and film; ISO 6946."""
    board = insulation_layer(panel.insulation_mm)
    return panel_layer(panel, material).resistance_m2k_w, board.resistance_m2k_w + 1.0 / film_w_m2k


def panel_u_w_m2k(panel: Panel, material: PanelMaterial, film_w_m2k: float) -> float:
    """``U = 1 / (sum t/k + 1/h_out)`` from the inner surface of a wall or lid panel to what is outside."""
    return 1.0 / sum(panel_resistances_m2k_w(panel, material, film_w_m2k))


def shelf_share(underside: Underside) -> float:
    """Rise of what the box stands on, by the rise of the underside (of the board, where there is one)."""
    whole = underside_w_m2k(underside)
    if underside.raised:
        # Through a board the board's lower face is what the shelf sees.
        below = value("underside_raised")
        return value("shelf_share_raised") * whole / below
    shelf = 1.0 / (1.0 / value("underside_flat") - 1.0 / value("shelf_contact"))
    return whole / shelf if whole < shelf else 1.0


def underside_w_m2k(underside: Underside, film_factor: float = 1.0, given_w_m2k: float | None = None) -> float:
    """From the underside of the floor panel to what is below, which a board under it is part of; ``given_w_m2k`` is the
    film under the box where it is not what its place makes it.
    """
    usual = value("underside_raised" if underside.raised else "underside_flat")
    film = film_factor * (usual if given_w_m2k is None else given_w_m2k)
    if not underside.insulated:
        return film
    board = value("underside_insulated")
    in_series = underside.raised or given_w_m2k is not None
    return 1.0 / (1.0 / board + 1.0 / film) if in_series else board


def ground_layers(
    floor: Panel, substrate: Substrate, material: PanelMaterial, beds: Sequence[Ground], ground_factor: float = 1.0
) -> tuple[tuple[Layer, ...], int]:
    """Insulation, floor panel and substrate, from the bottom up; and the panel's index. ``beds`` are what the layers of
    the substrate are, its uppermost last.
    """
    under = [insulation_layer(floor.insulation_mm)] if floor.insulation_mm > 0 else []
    parts: tuple[Substrate | SubstrateLayer, ...] = (*substrate.layers, substrate)
    ground = [
        Layer(
            part.depth_mm / 1000,
            ground_factor * bed.conductivity_w_mk(part.moisture),
            bed.heat_capacity_j_m3k(part.moisture),
        )
        for part, bed in zip(parts, beds, strict=True)
    ]
    return (*under, panel_layer(floor, material), *ground), len(under)
