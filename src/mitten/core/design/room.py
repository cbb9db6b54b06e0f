"""The room around the enclosure: the coldest and the warmest it is expected to be."""

from typing import Annotated

from pydantic import Field

from mitten.core.design.base import Fraction, Noun, RoomC

USUAL_ROOM_RH = 0.5


class RoomSeason(Noun):
    """Room air by day and by night, and its relative humidity; half is taken where none is given."""

    day_c: RoomC
    night_c: RoomC
    rh: Fraction | None = None


class Room(Noun):
    """Winter and summer, and the altitude, which thins the air."""

    winter: RoomSeason
    summer: RoomSeason
    altitude_m: Annotated[float, Field(ge=-400.0, le=5000.0)] = 0.0
