"""One combination on the full model: its whole design, what that does, and how good it is beside others."""

from dataclasses import dataclass, replace

from mitten.core.catalogue import Catalogue
from mitten.core.design import BadDesignError, Design
from mitten.core.judge import Assessment, assess
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.plan.cost import kwh_a_year
from mitten.core.plan.search.screening.responses import figures_of
from mitten.core.plan.search.screening.screen import A_WANTED_K, A_WANTED_UVI, Candidate
from mitten.core.plan.search.screening.spending import A_HOLE, A_KWH, A_PART, A_UNIT_OF_PRICE, purchase_price
from mitten.core.plan.search.screening.taste import WHEN_STUCK, misgivings_about
from mitten.core.plan.search.solving.build import build
from mitten.core.plan.search.solving.chance import chance_of_all
from mitten.core.plan.search.solving.finish import finish, idles, night_by_need
from mitten.core.plan.search.wants.brief import ApproachName, Brief
from mitten.core.plan.search.wants.figures import RISING

A_STOP = 1.0
A_MISS = 0.15
A_WARNING = 0.02
A_BURN = 0.1
A_CHANGE = 0.02
"""For each change of the box that it asks for."""


@dataclass(frozen=True, eq=False)
class Plan:
    """A whole design that was found, with what the full model says of it."""

    design: Design
    candidate: Candidate
    assessment: Assessment
    """With climates for pictures: plans are sent from one process to another, many are kept, and what solved them is
    large.
    """

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
        """Nothing forbidden, nothing missed in any season, and every season worked out."""
        return self.assessment.passes

    @property
    def missed(self) -> list[str]:
        """Labels of the targets that are missed in some season."""
        return [verdict.label for verdict in self.assessment.missed]

    @property
    def is_far_off(self) -> bool:
        """Whether it misses so much that another of its kind is not worth a look."""
        return len(self.missed) > 3 or len(self.assessment.stops) > 1

    @property
    def harmless_when_stuck(self) -> bool:
        """Whether a thermostat that sticks at full power makes nothing dangerous."""
        return not any(finding.rule == "too-strong-when-stuck" for finding in self.assessment.findings)

    @property
    def parts(self) -> int:
        """How many things are bought: sources, lights and controls."""
        return len(self.design.powered) + len(self.design.controls)

    @property
    def holes(self) -> int:
        """How many sources are screwed to something or led through a wall."""
        kinds = self.assessment.catalogue.sources
        return sum(kinds[one.kind].family != "contact" and not one.above_mesh for one in self.design.heaters)

    @property
    def unmet(self) -> float:
        """What is taken off for what a usual day lacks of what is wanted."""
        usual = self.assessment.usually_off
        kelvin = sum(abs(one.usual_outside) for one in usual if one.unit == "°C")
        return A_WANTED_K * kelvin + A_WANTED_UVI * sum(abs(one.usual_outside) for one in usual if one.unit == "UVI")

    @property
    def score(self) -> float:
        """What plans are ordered by: the chance, less what they lack, cost, risk, and ask."""
        dangers = A_STOP * len(self.assessment.stops) + A_MISS * len(self.missed)
        warned = A_WARNING * sum(finding.severity == "warn" for finding in self.assessment.findings)
        warned += A_BURN * any(finding.rule == "hot-to-touch" for finding in self.assessment.findings)
        warned += misgivings_about(self.assessment, self.candidate.kind)
        warned += self.unmet + (0.0 if self.harmless_when_stuck else WHEN_STUCK)
        effort = A_PART * self.parts + A_HOLE * self.holes + A_CHANGE * len(self.candidate.furnished.changes)
        return self.chance - dangers - warned - effort - A_KWH * self.kwh_year - A_UNIT_OF_PRICE * self.price


def work_out(brief: Brief, candidate: Candidate) -> Plan | None:
    """A combination on the full model; None where it cannot be built, has no rest, or a part has nothing to do."""
    try:
        found = _assess_whole(brief, candidate)
        if idles(found):
            return None
        night = night_by_need(candidate.night, found)
        if night != candidate.night:
            smaller = replace(candidate, night=night)
            again = _assess_whole(brief, smaller)
            if again.passes >= found.passes:
                candidate, found = smaller, again
        chance = chance_of_all(found) if found.passes else 0.0
    except (BadDesignError, UnsolvedError):
        return None
    winter = found.climate("winter-day")
    rises = figures_of(winter)
    rises[RISING] -= winter.room_c
    price, kwh_year = purchase_price(found.design, brief), kwh_a_year(found)
    return Plan(found.design, candidate, found.to_show(), chance, price, kwh_year, rises)


def _assess_whole(brief: Brief, candidate: Candidate) -> Assessment:
    """Begun from nothing, as it is when the plan is taken up: the same figures to the last digit."""
    return finish(assess(build(candidate, _name(candidate), brief.catalogue), brief.catalogue))


def _name(candidate: Candidate) -> str:
    return f"{candidate.approach.replace('-', ' ').capitalize()} plan"


def get_ready(design: Design, catalogue: Catalogue) -> None:
    """Work out what every full solution in an enclosure needs."""
    prepare(design, catalogue)
