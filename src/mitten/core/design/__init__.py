"""The nouns of a design: animal, room, enclosure, substrate, sites, heaters, controls and lights.

A design is a value. An edit makes a new one; nothing here changes in place.
"""

from mitten.core.design.animal import Animal, OwnRanges, Stage, TargetOverrides
from mitten.core.design.base import LAMP_ABOVE_LID_LIMIT_M, LEAST_LAMP_HEIGHT_M
from mitten.core.design.control import Control, ControlKind, Probe, Reads
from mitten.core.design.design import TOUCHING_M, Approach, Design, Meter
from mitten.core.design.enclosure import (
    FACES,
    Enclosure,
    Face,
    LidMesh,
    Panel,
    Panels,
    Underside,
    Vent,
    is_face,
)
from mitten.core.design.faults import BadDesignError, Fault, MittenError
from mitten.core.design.heater import Fixture, Heater, LampOverrides, MountingPlace, OnWhen, SocketMaterial
from mitten.core.design.light import Light, UvbLamp
from mitten.core.design.reading import MAX_FILE_BYTES, TOO_LARGE, design_schema, read_design, write_design
from mitten.core.design.room import MONTHS, USUAL_ROOM_RH, USUAL_SUMMER_RH, USUAL_WINTER_RH, Room, RoomSeason
from mitten.core.design.schedule import Cooling, Schedule
from mitten.core.design.site import Site, SiteRole
from mitten.core.design.substrate import GroundMoisture, Substrate, SubstrateLayer

__all__ = [
    "FACES",
    "LAMP_ABOVE_LID_LIMIT_M",
    "LEAST_LAMP_HEIGHT_M",
    "MAX_FILE_BYTES",
    "MONTHS",
    "TOO_LARGE",
    "TOUCHING_M",
    "USUAL_ROOM_RH",
    "USUAL_SUMMER_RH",
    "USUAL_WINTER_RH",
    "Animal",
    "Approach",
    "BadDesignError",
    "Control",
    "ControlKind",
    "Cooling",
    "Design",
    "Enclosure",
    "Face",
    "Fault",
    "Fixture",
    "GroundMoisture",
    "Heater",
    "LampOverrides",
    "LidMesh",
    "Light",
    "Meter",
    "MittenError",
    "MountingPlace",
    "OnWhen",
    "OwnRanges",
    "Panel",
    "Panels",
    "Probe",
    "Reads",
    "Room",
    "RoomSeason",
    "Schedule",
    "Site",
    "SiteRole",
    "SocketMaterial",
    "Stage",
    "Substrate",
    "SubstrateLayer",
    "TargetOverrides",
    "Underside",
    "UvbLamp",
    "Vent",
    "design_schema",
    "is_face",
    "read_design",
    "write_design",
]
