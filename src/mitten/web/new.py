"""A new enclosure: an empty glass box of the least size for its animal, in a usual room."""

from mitten.core.catalogue import Catalogue
from mitten.core.design import Animal, Design, Enclosure, Room, RoomSeason, Substrate, Vent

USUAL_WINTER = RoomSeason(day_c=20.0, night_c=17.0)
USUAL_SUMMER = RoomSeason(day_c=25.0, night_c=22.0)
USUAL_VENTS = (Vent(face="left", area_cm2=30.0, z_m=0.1), Vent(face="right", area_cm2=30.0, z_m=0.25))


def new_design(species: str, catalogue: Catalogue) -> Design:
    """An empty enclosure for a species of the catalogue."""
    known = catalogue.species[species]
    length_m, depth_m, height_m = known.least_box_m
    return Design(
        format="mitten-design/1",
        name=f"New, {known.in_a_sentence}"[:80],
        animal=Animal(species=species),
        room=Room(winter=USUAL_WINTER, summer=USUAL_SUMMER),
        enclosure=Enclosure(length_m=length_m, depth_m=depth_m, height_m=height_m, vents=USUAL_VENTS, door_gap_mm=1.0),
        substrate=Substrate(),
    )
