"""What an animal in a box is exposed to through time: what it touches, its body, the air at both ends; and when one of
them is a danger. Check, ``simulate`` and every advice count the same.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from mitten.core.catalogue import Targets, targets_of
from mitten.core.judge.reach import footings
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.staying import Staying, stay
from mitten.core.physics.reading.traced import Course

UNDER_THE_GROUND = "under the ground"


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


def _first(values: Array, limit_c: float) -> float | None:
    above = np.flatnonzero(values >= limit_c)
    return None if len(above) == 0 else float(above[0])
