"""What an animal in a box is exposed to through time: what it touches, its body, the air at both ends; and when one of
them is a danger. Check, ``simulate`` and every advice count the same.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from mitten.core.catalogue import Targets, targets_of
from mitten.core.judge.reach import footings
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.staying import Staying, stay
from mitten.core.physics.reading.traced import Course

Flags = NDArray[np.bool_]
UNDER_THE_GROUND = "under the ground"
LASTS_MIN = 30
"""Air that is too dry for less time is no matter."""

HarmKind = Literal["heat", "warm", "cold", "dry", "dark"]


@dataclass(frozen=True)
class Harm:
    """Something that becomes dangerous or more than is tolerated: of heat what is in danger (``body``, ``contact``,
    ``air``), else what it is about, after how many minutes, and the worst figure: °C, or a share of relative humidity.
    ``was_so`` says that it was so at that hour before anything failed.
    """

    kind: HarmKind
    what: str
    after_min: float
    worst: float
    was_so: bool = False


@dataclass(frozen=True)
class Extreme:
    """The highest or lowest that something gets to in °C, where, and after how many minutes."""

    celsius: float
    where: str
    after_min: float


@dataclass(frozen=True, eq=False)
class Exposed:
    """An animal that stays in the box through a course."""

    course: Course

    @cached_property
    def targets(self) -> Targets:
        """What the animal wants, bears and is harmed by."""
        design = self.course.design
        return targets_of(design.animal, self.course.catalogue.species[design.animal.species])

    @cached_property
    def surfaces_c(self) -> dict[str, Array]:
        """The hottest spot (T,) of everything that the animal can stand on, by name."""
        design, species = self.course.design, self.course.catalogue.species[self.course.design.animal.species]
        found = {
            footing.name: self.course.site_c(footing.site.name) if footing.site else self.course.floor_max_c
            for footing in footings(design, species)
        }
        # What is under the ground is reached by digging, as the rule book has it.
        return {**(found or {"the ground": self.course.floor_max_c}), UNDER_THE_GROUND: self.course.base_max_c}

    @cached_property
    def staying(self) -> Staying:
        """The body of an animal that stays on its basking place."""
        return stay(self.course)

    @cached_property
    def body_c(self) -> Array:
        """That body (T,), which begins at what it comes to there."""
        return self.staying.body_c()

    @property
    def contact_c(self) -> Array:
        """The hottest that it can touch (T,)."""
        return np.asarray(np.max(list(self.surfaces_c.values()), axis=0))

    @cached_property
    def minutes_to_danger(self) -> dict[str, float | None]:
        """Minutes until a danger is reached, by what is in danger; None where it never is."""
        return {
            "body": _first(self.body_c, self.targets.danger_body_c),
            "contact": _first(self.contact_c, self.targets.danger_contact_c),
            "air": _first(self.course.cool_c, self.targets.danger_air_c),
        }

    @cached_property
    def harms(self) -> dict[str, tuple[HarmKind, Flags, Array]]:
        """What may harm, by what it is about: the kind, when it does (T,), and the figure (T,), larger for worse."""
        targets, course = self.targets, self.course
        dry = targets.bears("humidity")[0]
        return {
            "body": ("heat", self.body_c >= targets.danger_body_c, self.body_c),
            "contact": ("heat", self.contact_c >= targets.danger_contact_c, self.contact_c),
            "air": ("heat", course.cool_c >= targets.danger_air_c, course.cool_c),
            "cool end": ("warm", course.cool_c > targets.bears("cool_air_c")[1], course.cool_c),
            "warm end": ("cold", course.warm_c < targets.bears("night_c")[0], -course.warm_c),
            "humidity": ("dry", _for_long(course.rh_mean < dry), -course.rh_mean),
        }

    def harms_beyond(self, usual: "Exposed") -> list[Harm]:
        """What harms in this course, beside the repeating day ``usual`` in which nothing has failed: the first minute
        at which it does and did not before; where there is none, the first at which it does.
        """
        rows = (self.course.minutes - usual.course.minutes[0]).astype(int) % (len(usual.course.minutes) - 1)
        found = []
        for what, (kind, flags, figure) in self.harms.items():
            if not flags.any():
                continue
            new = np.flatnonzero(flags & ~usual.harms[what][1][rows])
            first = int(new[0]) if len(new) else int(np.flatnonzero(flags)[0])
            worst = float(figure[flags].max())
            found.append(Harm(kind, what, float(first), -worst if kind in ("cold", "dry") else worst, not len(new)))
        return found

    def highest(self, figures: Mapping[str, Array]) -> Extreme:
        """The highest of several figures (T,)."""
        return _extreme(figures, highest=True)

    def lowest(self, figures: Mapping[str, Array]) -> Extreme:
        """The lowest of several figures (T,)."""
        return _extreme(figures, highest=False)


def _extreme(figures: Mapping[str, Array], *, highest: bool) -> Extreme:
    pick = np.argmax if highest else np.argmin
    rows = {name: int(pick(values)) for name, values in figures.items()}
    best = (max if highest else min)(rows, key=lambda name: float(figures[name][rows[name]]))
    return Extreme(float(figures[best][rows[best]]), best, float(rows[best]))


def _for_long(flags: Flags) -> Flags:
    """Where something holds, if it does for long enough to matter."""
    return flags if int(flags.sum()) >= LASTS_MIN else np.zeros_like(flags)


@lru_cache(8)
def exposed_in(course: Course) -> Exposed:
    """What an animal is exposed to in a course, of the latest courses worked out once."""
    return Exposed(course)


def _first(values: Array, limit_c: float) -> float | None:
    above = np.flatnonzero(values >= limit_c)
    return None if len(above) == 0 else float(above[0])
