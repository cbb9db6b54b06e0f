"""The search: screened combinations, the best of them on the full model, and the best of those as plans."""

from collections import Counter, deque
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from mitten.core.catalogue import load_catalogue
from mitten.core.design import BadDesignError, Design
from mitten.core.judge import Assessment, assess
from mitten.core.physics.control import NotRegulatedError
from mitten.core.physics.geometry import Array
from mitten.core.physics.steady import NotSettledError
from mitten.core.plan.cost import kwh_a_year
from mitten.core.plan.search.brief import APPROACHES, ApproachName, Brief, work_of
from mitten.core.plan.search.build import built
from mitten.core.plan.search.chance import LEFT_OUT, chance_of_all
from mitten.core.plan.search.furnish import furnished
from mitten.core.plan.search.responses import RISING, at_power, figures_of
from mitten.core.plan.search.screen import Candidate, Screened, candidates, screened
from mitten.core.plan.search.spending import A_HOLE, A_KWH, A_PART, A_UNIT_OF_PRICE, purchase_price

A_KIND = 3
"""How often a kind of main source is looked at in an approach before it is given up."""

LOOKED_AT = 7
LOOKED_AT_FIRST = 3
"""Combinations that are solved on the full model at most."""

SURE_ENOUGH = 0.8
"""A plan so sure is not bettered by looking in other places for the basking place."""

HOPELESS = -0.05
"""Below this the screening's word is enough, as long as there is anything better."""

LEAST_ERROR, MOST_ERROR = 0.7, 1.4
"""What the full model may correct the screening by."""

A_STOP = 1.0
A_MISS = 0.15
A_WARNING = 0.02
WHEN_STUCK = 0.1
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
        """Labels of the targets missed, but for humidity, which water and vents decide."""
        return [verdict.label for verdict in self.assessment.missed if verdict.key not in LEFT_OUT]

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
        kinds = load_catalogue().sources
        return sum(kinds[one.kind].family != "contact" and not one.above_mesh for one in self.design.heaters)

    @property
    def score(self) -> float:
        """What plans are ordered by: the chance, less what they cost, risk, and ask."""
        dangers = A_STOP * len(self.assessment.stops) + A_MISS * len(self.missed)
        warned = A_WARNING * sum(finding.severity == "warn" for finding in self.assessment.findings)
        warned += A_BURN * any(finding.rule == "hot-to-touch" for finding in self.assessment.findings)
        stuck = warned if self.harmless_when_stuck else warned + WHEN_STUCK
        effort = A_PART * self.parts + A_HOLE * self.holes
        return self.chance - dangers - stuck - effort - A_KWH * self.kwh_year - A_UNIT_OF_PRICE * self.price


@dataclass
class Progress:
    """How far a search has come; ``plans`` are the best so far, best first."""

    combinations: int = 0
    looked_at: int = 0
    share: float = 0.0
    step: str = ""
    plans: list[Plan] = field(default_factory=list)
    rejected: list[Plan] = field(default_factory=list)
    """Near ones that do not work, with the reasons in their assessments."""

    @property
    def best_by_approach(self) -> dict[ApproachName, Plan]:
        """The best plan of each approach that has one."""
        found: dict[ApproachName, Plan] = {}
        for approach in APPROACHES:
            of_it = [plan for plan in self.plans if plan.approach == approach]
            if of_it:
                found[approach] = of_it[0]
        return found


def search(brief: Brief, wanted: Callable[[], bool] = lambda: True) -> Iterator[Progress]:
    """Look for plans; what is yielded is the same object, further each time. ``wanted`` is asked between steps."""
    progress = Progress(step="Trying what each source does in the box")
    boxes: list[Screened] = []
    for one in furnished(brief.design):
        if not wanted():
            return
        if boxes and progress.plans and progress.plans[0].chance >= SURE_ENOUGH:
            break
        boxes.append(screened(brief, one))
        progress.combinations += boxes[-1].combinations
        progress.share = min(progress.share + 0.08, 0.24)
        yield progress
        if len(boxes) == 1:
            yield from _look(brief, boxes, progress, wanted, LOOKED_AT_FIRST)
    yield from _look(brief, boxes, progress, wanted, LOOKED_AT)
    progress.share, progress.step = 1.0, "Done"
    yield progress


def find_plans(brief: Brief) -> Progress:
    """The whole search at once."""
    return deque(search(brief), maxlen=1).pop()


def _look(
    brief: Brief, boxes: Sequence[Screened], progress: Progress, wanted: Callable[[], bool], most: int
) -> Iterator[Progress]:
    """Solve the most promising combinations, one of each kind first, learning how far the screening was off."""
    progress.step = "Working out the most promising"
    seen = {plan.design for plan in (*progress.plans, *progress.rejected)}
    while progress.looked_at < most and wanted():
        candidate = _next(brief, boxes, progress)
        if candidate is None:
            return
        progress.looked_at += 1
        plan = _tried(brief, candidate, _near(candidate, progress))
        progress.share = 0.25 + 0.75 * progress.looked_at / LOOKED_AT
        if plan is not None and plan.design not in seen:
            seen.add(plan.design)
            _learn(boxes, plan)
            (progress.plans if plan.works else progress.rejected).append(plan)
            progress.plans.sort(key=lambda one: -one.score)
            progress.rejected.sort(key=lambda one: -one.score)
        yield progress


def _next(brief: Brief, boxes: Sequence[Screened], progress: Progress) -> Candidate | None:
    """What to look at next: the best of an approach that was not looked at, then the best of a kind that has no plan
    yet, as the screening has it now.
    """
    looked = [plan.candidate for plan in (*progress.plans, *progress.rejected)]
    times = Counter(_class_of(one) for one in looked)
    left = _left(brief, boxes, progress, times)
    known = {one.approach for one in looked}
    first = [one for one in left if one.approach not in known and one.score > HOPELESS]
    return max(first or left, key=lambda one: one.score - times[_class_of(one)] * A_MISS, default=None)


def _left(
    brief: Brief, boxes: Sequence[Screened], progress: Progress, times: Mapping[tuple[str, str], int]
) -> list[Candidate]:
    """The best of every kind that neither has a plan nor was given up or looked at often enough."""
    done = {_mark(plan.candidate) for plan in (*progress.plans, *progress.rejected)}
    closed = {_class_of(plan.candidate) for plan in progress.plans}
    closed |= {_class_of(plan.candidate) for plan in progress.rejected if plan.is_far_off}
    best = (one for box in boxes for one in _best(brief, box) if _mark(one) not in done)
    return [one for one in best if _class_of(one) not in closed and times.get(_class_of(one), 0) < A_KIND]


def _class_of(one: Candidate) -> tuple[str, str]:
    """What a combination is one of: its source's work and its approach."""
    return work_of(one.kind), one.approach


def _best(brief: Brief, box: Screened) -> Iterator[Candidate]:
    """The best of every kind in an enclosure; a kind is screened again when something was learned of it."""
    for kind in {response.layout.kind: None for response in box.responses}:
        if kind not in box.best:
            box.best[kind] = candidates(brief, box, kind)
        yield from box.best[kind]


def _mark(one: Candidate) -> tuple[object, ...]:
    """What tells two combinations apart."""
    return (
        one.kind, one.watts, one.layout.count, one.layout.where, one.held, one.night.label,
        one.ultraviolet.data.get("lamp"), one.ultraviolet.data.get("z_m"), id(one.furnished),
    )  # fmt: skip


def _near(candidate: Candidate, progress: Progress) -> Assessment | None:
    """An assessment in the same furniture, from which solutions are begun."""
    known = (*progress.plans, *progress.rejected)
    return next((plan.assessment for plan in known if plan.candidate.furnished is candidate.furnished), None)


def _tried(brief: Brief, candidate: Candidate, near: Assessment | None) -> Plan | None:
    """A combination on the full model; None where it cannot be built or has no rest."""
    try:
        design = built(candidate, _name(candidate))
        assessment = assess(design, near)
    except (BadDesignError, NotSettledError, NotRegulatedError):
        return None
    works = not assessment.stops and all(verdict.key in LEFT_OUT for verdict in assessment.missed)
    chance = chance_of_all(assessment) if works else 0.0
    return Plan(design, candidate, assessment, chance, purchase_price(design, brief), kwh_a_year(assessment))


def _learn(boxes: Sequence[Screened], plan: Plan) -> None:
    """Note by how much the day's rises differ on the full model from the screened ones, for that kind."""
    winter = plan.assessment.climate("winter-day")
    box = next(box for box in boxes if box.furnished is plan.candidate.furnished)
    response = next(one for one in box.responses if one.layout is plan.candidate.layout)
    power = np.mean([heater.watts for heater in winter.heaters.values()]) / response.watts
    if power <= 0:
        return
    screened_rises: Array = at_power(response, np.array(power), box.enclosed.powers)[RISING]
    real = figures_of(winter)[RISING] - winter.room_c
    box.best.pop(plan.candidate.kind, None)
    box.errors[plan.candidate.kind] = np.clip(real / np.maximum(screened_rises, 1e-3), LEAST_ERROR, MOST_ERROR)


def _name(candidate: Candidate) -> str:
    return f"{candidate.approach.replace('-', ' ').capitalize()} plan"
