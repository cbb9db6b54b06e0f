"""Heat through the faces of the box to the room."""

from mitten.core.catalogue import Catalogue
from mitten.core.design import Enclosure, Panel, Substrate, Underside
from mitten.core.physics.constants import value
from mitten.core.physics.ground import Layer


def insulation_resistance_m2k_w(thickness_mm: float) -> float:
    """Thermal resistance of insulating board on a face."""
    return thickness_mm / 1000 / value("insulation_conductivity")


def panel_u_w_m2k(enclosure: Enclosure, face: str, catalogue: Catalogue) -> float:
    """``U = 1 / (sum t/k + 1/h_out)`` from the inner surface of a wall or lid panel to the room; ISO 6946."""
    panel: Panel = getattr(enclosure.panels, face)
    material = catalogue.panels[panel.material]
    against = face in enclosure.against
    film = value("outside_film_against" if against else "outside_film_free")
    resistance = panel.thickness_mm / 1000 / material.conductivity_w_mk
    return 1.0 / (resistance + insulation_resistance_m2k_w(panel.insulation_mm) + 1.0 / film)


def underside_w_m2k(underside: Underside) -> float:
    """From the underside of the floor panel to the room."""
    film = value("underside_raised" if underside.raised else "underside_flat")
    if not underside.insulated:
        return film
    board = value("underside_insulated")
    return 1.0 / (1.0 / board + 1.0 / film) if underside.raised else board


def ground_layers(enclosure: Enclosure, substrate: Substrate, catalogue: Catalogue) -> tuple[Layer, ...]:
    """Insulation, floor panel and substrate, from the bottom up."""
    panel = enclosure.panels.floor
    floor = Layer(panel.thickness_mm / 1000, catalogue.panels[panel.material].conductivity_w_mk)
    ground = catalogue.grounds[substrate.material]
    bed = Layer(substrate.depth_m, ground.conductivity_w_mk(substrate.moisture))
    if panel.insulation_mm > 0:
        return Layer(panel.insulation_mm / 1000, value("insulation_conductivity")), floor, bed
    return floor, bed
