"""A single change, small enough to be said in a few words and undone by one step."""

from dataclasses import dataclass
from typing import Literal

from mitten.core.design import GroundMoisture

ChangeKind = Literal[
    "height", "along", "watts", "setpoint", "probe", "thermostat", "day-lamp", "night-source", "room", "vents", "cover",
    "misting", "moisture", "dish", "new-dish", "uv-lamp", "uv-height", "uv-along", "uv-side", "uv-new", "mesh",
    "insulation", "length", "place", "hide", "day-length",
]  # fmt: skip

EACH_ITS_OWN: tuple[ChangeKind, ...] = ("probe", "thermostat", "uv-side", "uv-new", "moisture")
"""Kinds whose figures are places or settings that do not lead from one to the next: what one of them does says nothing
of another.
"""

BOUGHT: tuple[ChangeKind, ...] = ("uv-new", "uv-lamp", "day-lamp")
"""Kinds of which every size costs about the same, so that the one that is right is wanted, not the least that will do.
"""

ONLY_LESS: tuple[ChangeKind, ...] = ("thermostat",)
ONLY_MORE: tuple[ChangeKind, ...] = ("day-lamp", "night-source", "uv-new")
"""Kinds that a figure only falls, or only rises by."""

MOISTURES: tuple[GroundMoisture, ...] = ("dry", "damp", "wet")

A_SMALL_ONE, A_TURN, A_CHORE, A_PURCHASE, A_REBUILDING, A_HOUSE = 1.0, 1.2, 1.8, 2.5, 6.0, 9.0
"""How much kinds of changes ask of a keeper, the least first: the room of a home is the last thing to be changed."""


@dataclass(frozen=True)
class Change:
    """One change, with the part that it is of, or the season and time, and a figure.

    The figure is a height, length or place along the box (m), watts, a temperature (°C), how many times as large
    (vents), the share closed (of a mesh), millilitres a day (misting), or a place: among ``MOISTURES``, among meshes by
    how open they are, among UV lamps by strength, among the places of a probe. ``effort`` orders changes by how much
    they ask.
    """

    kind: ChangeKind
    name: str
    value: float
    words: str
    effort: float
    step: float
    """How much more or less it is than now, in what its kind is counted in: twice the step does about twice as much.
    What changes nothing is no change: it is never 0.
    """

    @property
    def way(self) -> "Way":
        """What is changed, and which way; what leads to no other change of its kind is a way of its own."""
        return self.kind, f"{self.name} {self.value:g}" if self.kind in EACH_ITS_OWN else self.name, self.step > 0


Way = tuple[ChangeKind, str, bool]
