"""The room through the year: the keeper's own months, or what winter and summer make of them."""

from math import cos, pi

from mitten.core.design.room import MONTHS, Room, RoomSeason

COLDEST_MONTH = 0
"""January, north of the equator; July south of it."""

MONTH_NAMES = (
    "January", "February", "March", "April", "May", "June",
    "July", "August", "September", "October", "November", "December",
)  # fmt: skip


def monthly_rooms(room: Room) -> tuple[RoomSeason, ...]:
    """Twelve rooms, January first.

    Where the keeper gives none, they swing once a year between winter and summer, as outdoor temperatures do.
    """
    if room.months:
        return room.months
    south = room.latitude is not None and room.latitude < 0
    coldest = COLDEST_MONTH + (MONTHS // 2 if south else 0)
    return tuple(_between(room, (1 - cos(2 * pi * (month - coldest) / MONTHS)) / 2) for month in range(MONTHS))


def _between(room: Room, summer: float) -> RoomSeason:
    """The room at a share of the way from winter to summer."""

    def mix(cold_c: float, warm_c: float) -> float:
        return round(cold_c + summer * (warm_c - cold_c), 1)

    return RoomSeason(
        day_c=mix(room.winter.day_c, room.summer.day_c), night_c=mix(room.winter.night_c, room.summer.night_c)
    )
