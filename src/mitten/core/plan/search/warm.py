"""Imported once by the process that crews are forked from: what is loaded or compiled at the first solve is there in
every one of them.
"""

import gc
import sys
from types import TracebackType

import numpy as np

from mitten.core.catalogue import shipped_catalogue
from mitten.core.design import Animal, Design, Enclosure, Heater, Room, RoomSeason, Site, Substrate
from mitten.core.judge import assess
from mitten.core.physics.threads import use_one_thread
from mitten.core.plan.search import search  # noqa: F401, loaded for those that are forked
from mitten.core.plan.search.wants.figures import FIGURES
from mitten.core.plan.search.wants.wishes import Wishes

ROOM = RoomSeason(day_c=20.0, night_c=17.0)
STONE = Site(
    name="Stone", role="basking", material="slate", x_m=0.4, y_m=0.2, length_m=0.2, depth_m=0.2, thickness_mm=30.0
)  # fmt: skip

BOX = Design(
    format="mitten-design/1",
    name="Warming up",
    animal=Animal(species=next(iter(shipped_catalogue().species))),
    room=Room(winter=ROOM, summer=ROOM),
    enclosure=Enclosure(length_m=0.6, depth_m=0.4, height_m=0.4),
    substrate=Substrate(misting_ml_day=50.0),
    sites=(STONE,),
    heaters=(Heater(name="Lamp", kind="halogen-flood", watts=35.0, x_m=0.4, y_m=0.2, z_m=0.35, on="day"),),
)


def _say(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """What ends the process from which crews are forked, but for the one thing that is no fault: that whoever asked for
    a process had gone before it was answered.
    """
    if kind is not EOFError:
        sys.__excepthook__(kind, error, trace)


sys.excepthook = _say
use_one_thread()
assess(BOX, shipped_catalogue())
wishes, nothing = Wishes.of(BOX, shipped_catalogue()), np.zeros((1, len(FIGURES)))
wishes.day_chance(nothing, ROOM.day_c)
wishes.outside_k(nothing)
# What is here stays: those that are forked need not look through it for what may be freed, which would copy it all.
gc.freeze()
