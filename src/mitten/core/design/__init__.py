"""The nouns of a design: animal, room, enclosure, substrate, sites and heaters.

A design is a value. An edit makes a new one; nothing here changes in place.
"""

from mitten.core.design.animal import Animal, Stage, TargetOverrides
from mitten.core.design.base import LAMP_ABOVE_LID_LIMIT_M, LEAST_LAMP_HEIGHT_M
from mitten.core.design.design import Design
from mitten.core.design.enclosure import (
    FACES,
    Enclosure,
    Face,
    LidMesh,
    Panel,
    Panels,
    Underside,
    Vent,
)
from mitten.core.design.faults import BadDesignError, Fault, MittenError
from mitten.core.design.heater import Fixture, FixtureKind, Heater, LampOverrides, OnWhen, SocketMaterial
from mitten.core.design.reading import MAX_FILE_BYTES, TOO_LARGE, design_schema, read_design, write_design
from mitten.core.design.room import Room, RoomSeason
from mitten.core.design.site import Site, SiteRole
from mitten.core.design.substrate import Moisture, Substrate

__all__ = [
    "FACES",
    "LAMP_ABOVE_LID_LIMIT_M",
    "LEAST_LAMP_HEIGHT_M",
    "MAX_FILE_BYTES",
    "TOO_LARGE",
    "Animal",
    "BadDesignError",
    "Design",
    "Enclosure",
    "Face",
    "Fault",
    "Fixture",
    "FixtureKind",
    "Heater",
    "LampOverrides",
    "LidMesh",
    "MittenError",
    "Moisture",
    "OnWhen",
    "Panel",
    "Panels",
    "Room",
    "RoomSeason",
    "Site",
    "SiteRole",
    "SocketMaterial",
    "Stage",
    "Substrate",
    "TargetOverrides",
    "Underside",
    "Vent",
    "design_schema",
    "read_design",
    "write_design",
]
