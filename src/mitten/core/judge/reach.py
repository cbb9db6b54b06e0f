"""What the animal can get to: from the ground over the sites, by its body's length and how it climbs."""

from dataclasses import dataclass
from math import hypot, inf

from mitten.core.catalogue import Climbs, Species
from mitten.core.design import Design, Site, Stage

STRETCH_OF_LENGTH: dict[Climbs, float] = {"none": 0.3, "some": 0.6, "strong": inf}
"""How far above its footing an animal reaches, as a share of its length; starting points to verify."""

STEP_OF_LENGTH: dict[Climbs, float] = {"none": 0.2, "some": 0.8, "strong": inf}
"""How high it gets from one footing to the next, likewise; what climbs a little goes up rough sides."""

GAP_OF_LENGTH = 0.5
"""How wide a gap between two sites it crosses."""


@dataclass(frozen=True)
class Footing:
    """Something that the animal can stand on: the ground, or a site's top."""

    name: str
    height_m: float
    site: Site | None = None

    def distance_m(self, x_m: float, y_m: float, z_m: float) -> float:
        """Straight distance to a point; from the ground, the height."""
        if self.site is None:
            return z_m - self.height_m
        across = max(abs(x_m - self.site.x_m) - self.site.length_m / 2, 0.0)
        inward = max(abs(y_m - self.site.y_m) - self.site.depth_m / 2, 0.0)
        return hypot(across, inward, z_m - self.height_m)

    def away_m(self, x_m: float, y_m: float) -> float:
        """Level distance to a place; none from the ground."""
        return 0.0 if self.site is None else self.distance_m(x_m, y_m, self.height_m)


def stretch_m(species: Species, stage: Stage) -> float:
    """How far above its footing the animal reaches, at least to its back; without end where it climbs everything."""
    return max(STRETCH_OF_LENGTH[species.climbs] * species.body_length_m(stage), species.back_m.at(stage))


def footings(design: Design, species: Species) -> list[Footing]:
    """The ground, and every site that can be got to from it, step by step."""
    ground_m = design.substrate.depth_m
    body_m = species.body_length_m(design.animal.stage)
    step_m, gap_m = STEP_OF_LENGTH[species.climbs] * body_m, GAP_OF_LENGTH * body_m
    found = [Footing("the ground", ground_m)]
    left = [Footing(f"'{site.name}'", site.top_m(ground_m), site) for site in design.sites]
    while True:
        near = [one for one in left if any(_gets_from(there, one, step_m, gap_m) for there in found)]
        if not near:
            return found
        found += near
        left = [one for one in left if one not in near]


def _gets_from(there: Footing, here: Footing, step_m: float, gap_m: float) -> bool:
    if here.height_m - there.height_m > step_m:
        return False
    if there.site is None or here.site is None:
        return True
    across = abs(there.site.x_m - here.site.x_m) - (there.site.length_m + here.site.length_m) / 2
    inward = abs(there.site.y_m - here.site.y_m) - (there.site.depth_m + here.site.depth_m) / 2
    return hypot(max(across, 0.0), max(inward, 0.0)) <= gap_m


def out_of_reach(design: Design, species: Species) -> list[Site]:
    """Sites that the animal cannot get to."""
    reached = {footing.site for footing in footings(design, species)}
    return [site for site in design.sites if site not in reached]
