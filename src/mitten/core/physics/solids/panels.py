"""Heat through the faces of the box to the room."""

from mitten.core.catalogue import Catalogue
from mitten.core.design import Enclosure, Panel, Substrate, SubstrateLayer, Underside
from mitten.core.physics.constants import value
from mitten.core.physics.solids.ground import Layer


def insulation_resistance_m2k_w(thickness_mm: float) -> float:
    """Thermal resistance of insulating board on a face."""
    return thickness_mm / 1000 / value("insulation_conductivity")


def panel_resistances_m2k_w(
    enclosure: Enclosure, face: str, catalogue: Catalogue, film_factor: float = 1.0
) -> tuple[float, float]:
    """Resistance of a wall or lid panel, and of what lies outside it: insulation and film; ISO 6946."""
    panel: Panel = getattr(enclosure.panels, face)
    material = catalogue.panels[panel.material]
    against = face in enclosure.against
    film = film_factor * value("outside_film_against" if against else "outside_film_free")
    resistance = panel.thickness_mm / 1000 / material.conductivity_w_mk
    return resistance, insulation_resistance_m2k_w(panel.insulation_mm) + 1.0 / film


def panel_u_w_m2k(enclosure: Enclosure, face: str, catalogue: Catalogue, film_factor: float = 1.0) -> float:
    """``U = 1 / (sum t/k + 1/h_out)`` from the inner surface of a wall or lid panel to the room."""
    return 1.0 / sum(panel_resistances_m2k_w(enclosure, face, catalogue, film_factor))


def shelf_share(underside: Underside) -> float:
    """Rise of what the box stands on, by the rise of the underside (of the board, where there is one)."""
    whole = underside_w_m2k(underside)
    if underside.raised:
        # Through a board the board's lower face is what the shelf sees.
        below = value("underside_raised")
        return value("shelf_share_raised") * whole / below
    shelf = 1.0 / (1.0 / value("underside_flat") - 1.0 / value("shelf_contact"))
    return whole / shelf if whole < shelf else 1.0


def underside_w_m2k(underside: Underside, film_factor: float = 1.0) -> float:
    """From the underside of the floor panel to the room."""
    film = film_factor * value("underside_raised" if underside.raised else "underside_flat")
    if not underside.insulated:
        return film
    board = value("underside_insulated")
    return 1.0 / (1.0 / board + 1.0 / film) if underside.raised else board


def ground_layers(
    enclosure: Enclosure, substrate: Substrate, catalogue: Catalogue, ground_factor: float = 1.0
) -> tuple[tuple[Layer, ...], int]:
    """Insulation, floor panel and substrate, from the bottom up; and the panel's index."""
    panel = enclosure.panels.floor
    under = [Layer(panel.insulation_mm / 1000, value("insulation_conductivity"))] if panel.insulation_mm > 0 else []
    floor = Layer(panel.thickness_mm / 1000, catalogue.panels[panel.material].conductivity_w_mk)
    beds: tuple[Substrate | SubstrateLayer, ...] = (*substrate.layers, substrate)
    ground = [
        Layer(bed.depth_mm / 1000, ground_factor * catalogue.grounds[bed.material].conductivity_w_mk(bed.moisture))
        for bed in beds
    ]
    return (*under, floor, *ground), len(under)
