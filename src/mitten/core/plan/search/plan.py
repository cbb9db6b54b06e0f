"""One combination on the full model: its whole design, what that does, and how good it is beside others."""

from dataclasses import dataclass

from mitten.core.catalogue import load_catalogue
from mitten.core.design import BadDesignError, Design
from mitten.core.judge import Assessment, TargetVerdict, assess
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.prepared import prepare
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.plan.cost import kwh_a_year
from mitten.core.plan.search.brief import ApproachName, Brief
from mitten.core.plan.search.build import DAY_CONTROL, built
from mitten.core.plan.search.chance import chance_of_all
from mitten.core.plan.search.missing import own_misses, room_made
from mitten.core.plan.search.responses import RISING, figures_of
from mitten.core.plan.search.screen import Candidate
from mitten.core.plan.search.spending import A_HOLE, A_KWH, A_PART, A_UNIT_OF_PRICE, purchase_price
from mitten.core.plan.search.wishes import A_WRONG_MAT, IDLE, USED_AT_LEAST, WHEN_STUCK, Wishes

A_STOP = 1.0
A_MISS = 0.15
A_WARNING = 0.02
A_BURN = 0.1


@dataclass(frozen=True, eq=False)
class Plan:
    """A whole design that was found, with what the full model says of it."""

    design: Design
    candidate: Candidate
    assessment: Assessment
    chance: float
    """How likely every target of warmth and light holds in all seasons, before anything is measured."""

    price: float
    kwh_year: float
    rises: Array
    """What it does on a winter day (figures,), to be compared with what the screening thought."""

    @property
    def approach(self) -> ApproachName:
        """The school that it belongs to."""
        return self.candidate.approach

    @property
    def works(self) -> bool:
        """Nothing forbidden, and no target of warmth and light missed."""
        return not self.assessment.stops and not self.missed

    @property
    def missed(self) -> list[str]:
        """Labels of the targets missed by what it does, not by humidity or a room that is too warm."""
        return [verdict.label for verdict in own_misses(self.assessment)]

    @property
    def works_but_for(self) -> list[TargetVerdict]:
        """Targets missed because the room alone is too warm."""
        return list(room_made(self.assessment))

    @property
    def is_far_off(self) -> bool:
        """Whether it misses so much that another of its kind is not worth a look."""
        return len(self.missed) > 3 or len(self.assessment.stops) > 1

    @property
    def harmless_when_stuck(self) -> bool:
        """Whether a thermostat that sticks at full power makes nothing dangerous."""
        return not any(finding.rule == "too-strong-when-stuck" for finding in self.assessment.findings)

    @property
    def _disliked(self) -> float:
        """What is taken off for mats under a basker, and for a source that is far stronger than it need be."""
        kinds = load_catalogue().sources
        from_below = any(kinds[heater.kind].family == "contact" for heater in self.design.heaters)
        main = self.assessment.climate("winter-day").controls.get(DAY_CONTROL)
        idle = max(USED_AT_LEAST - main.duty, 0.0) if main is not None and self.candidate.held else 0.0
        return A_WRONG_MAT * (from_below and Wishes.of(self.design).from_above) + IDLE * idle

    @property
    def parts(self) -> int:
        """How many things are bought: sources, lights and controls."""
        return len(self.design.powered) + len(self.design.controls)

    @property
    def holes(self) -> int:
        """How many sources are screwed to something or led through a wall."""
        kinds = load_catalogue().sources
        return sum(kinds[one.kind].family != "contact" and not one.above_mesh for one in self.design.heaters)

    @property
    def score(self) -> float:
        """What plans are ordered by: the chance, less what they cost, risk, and ask."""
        dangers = A_STOP * len(self.assessment.stops) + A_MISS * len(self.missed)
        warned = A_WARNING * sum(finding.severity == "warn" for finding in self.assessment.findings)
        warned += A_BURN * any(finding.rule == "hot-to-touch" for finding in self.assessment.findings)
        warned += self._disliked + (0.0 if self.harmless_when_stuck else WHEN_STUCK)
        effort = A_PART * self.parts + A_HOLE * self.holes
        return self.chance - dangers - warned - effort - A_KWH * self.kwh_year - A_UNIT_OF_PRICE * self.price


def worked_out(brief: Brief, candidate: Candidate) -> Plan | None:
    """A combination on the full model; None where it cannot be built or has no rest."""
    try:
        design = built(candidate, _name(candidate))
        assessment = assess(design)
    except (BadDesignError, UnsolvedError):
        return None
    works = not assessment.stops and not own_misses(assessment)
    chance = chance_of_all(assessment) if works else 0.0
    winter = assessment.climate("winter-day")
    rises = figures_of(winter)
    rises[RISING] -= winter.room_c
    return Plan(design, candidate, assessment, chance, purchase_price(design, brief), kwh_a_year(assessment), rises)


def _name(candidate: Candidate) -> str:
    return f"{candidate.approach.replace('-', ' ').capitalize()} plan"


def get_ready(design: Design) -> None:
    """Work out what every full solution in an enclosure needs."""
    prepare(design)
