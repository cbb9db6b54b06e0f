"""The room through the year."""

from mitten.core.design import Room, RoomSeason
from mitten.core.design.year import monthly_rooms

WINTER, SUMMER = RoomSeason(day_c=18.0, night_c=14.0), RoomSeason(day_c=26.0, night_c=22.0)


def test_without_months_the_room_swings_between_winter_and_summer() -> None:
    months = monthly_rooms(Room(winter=WINTER, summer=SUMMER))
    assert (months[0].day_c, months[6].day_c) == (18.0, 26.0)
    assert [month.day_c for month in months[:7]] == sorted(month.day_c for month in months[:7])
    assert months[3].night_c == 18.0


def test_south_of_the_equator_july_is_the_coldest() -> None:
    months = monthly_rooms(Room(winter=WINTER, summer=SUMMER, latitude=-30.0))
    assert (months[0].day_c, months[6].day_c) == (26.0, 18.0)


def test_the_keepers_own_months_are_taken_as_they_are() -> None:
    own = tuple(RoomSeason(day_c=20.0 + n, night_c=15.0) for n in range(12))
    assert monthly_rooms(Room(winter=WINTER, summer=SUMMER, months=own)) == own
