"""The search: screened combinations, the best of them on the full model, and the best of those as plans."""

from collections import Counter, deque
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, wait
from dataclasses import dataclass, field, replace
from itertools import islice

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.plan.search.crew import ALONE, Crew
from mitten.core.plan.search.screening.layouts import Layout
from mitten.core.plan.search.screening.screen import (
    Candidate,
    Screened,
    a_few_of,
    begin_screening,
    candidates,
    layouts_for,
)
from mitten.core.plan.search.solving.plan import A_MISS, Plan, get_ready, work_out
from mitten.core.plan.search.wants.brief import APPROACHES, ApproachName, Brief, work_of
from mitten.core.plan.search.wants.furnish import Furnished, furnish

A_KIND = 2
"""How often a kind of main source is looked at in an approach in one arrangement before it is given up there."""

LOOKED_AT, LOOKED_AT_WITH_ENOUGH = 9, 5
FIRST_LOOKS = (2, 5)
LOOKS_ELSEWHERE = 2
"""Combinations that are solved on the full model at most: in all; once some single sources are known, and before other
arrangements are tried, fewer where none of them works; in each of those.
"""

LARGE_M3, SLOWER = (0.5, 1.2), (0.8, 0.65)
"""In boxes beyond these volumes, which take longer each, that share of the looks and arrangements is enough."""

MANY_LAYOUTS = 24
"""Of more than so many, in other arrangements every other one is tried."""

ARRANGEMENTS = 4
"""Arrangements of the basking place and changes of the box that are tried at most."""

GOOD_ENOUGH = 0.6
"""A plan with such a score is not bettered by looking in other arrangements."""

UNPROMISING = 0.4
"""Where the best in an enclosure as it is promises less, its changes are screened before anything is looked at."""

FUTILE = 0.0
"""Below this not even a few of them are worth a look, once there are some to show."""

HOPELESS = -0.05
"""Below this the screening's word is enough, as long as there is anything better."""

ENOUGH = 3
"""Plans of so many kinds are enough, unless something promises as much as the best."""

PROMISING = 4
"""Kinds that are tried in other arrangements."""

FAR_BEHIND = 0.25
HARDLY_WORSE = 0.1
"""The screening is not surer than this: what it thinks so much worse than a plan of its kind may still be better."""

SCREENING = 0.25
"""The share of a search that screening is."""


Looking = tuple[Candidate, Future[Plan | None]]
"""A combination that is being looked at."""


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


def search(brief: Brief, wanted: Callable[[], bool] = lambda: True, crew: Crew = ALONE) -> Iterator[Progress]:
    """Look for plans; what is yielded is the same object, further each time. ``wanted`` is asked between steps."""
    return _Search(brief, wanted, crew).run()


def find_plans(brief: Brief, crew: Crew = ALONE) -> Progress:
    """The whole search at once."""
    return deque(search(brief, crew=crew), maxlen=1).pop()


class _Search:
    """One search, as far as it has come."""

    def __init__(self, brief: Brief, wanted: Callable[[], bool], crew: Crew) -> None:
        self.brief, self.wanted, self.crew = brief, wanted, crew
        self.progress = Progress(step="Trying what each source does in the box")
        self.plans: list[Plan] = []
        """Those that work, best first."""

        self.boxes: list[Screened] = []
        self.patience = _patience(brief)
        self.tried: list[Candidate] = []
        self.unsettled = 0
        self.put_off: list[Layout] = []

    def run(self) -> Iterator[Progress]:
        for furniture in islice(furnish(self.brief.design, self.brief.catalogue), round(ARRANGEMENTS * self.patience)):
            if not self.wanted() or self._is_served():
                break
            yield from self._screen(furniture)
            if len(self.boxes) > 1:
                yield from self._look(min(len(self.tried) + LOOKS_ELSEWHERE, round(LOOKED_AT * self.patience)))
        if self.boxes and not self.plans and self.wanted():
            yield from self._go_back()
        if self.wanted():
            self.progress.share, self.progress.step = 1.0, "Done"
        yield self.progress

    def _is_served(self) -> bool:
        """Whether there is a choice of plans, and a good one among them."""
        return self._has_enough() and self.plans[0].score >= GOOD_ENOUGH

    def _screen(self, furniture: Furnished) -> Iterator[Progress]:
        """Try what each source does in an enclosure; in the first one, look at what promises most as soon as single
        sources are known, for a first plan soon; in others, only kinds that promised something there.
        """
        layouts, first = layouts_for(self.brief, furniture), not self.boxes
        if not first:
            kinds = self._promising()
            layouts = [layout for layout in layouts if layout.kind in kinds][:: 2 if len(layouts) > MANY_LAYOUTS else 1]
        box = begin_screening(self.brief, furniture, self.crew)
        self.boxes.append(box)
        batches = _in_batches(layouts, first)
        for looks, batch in zip(FIRST_LOOKS, batches, strict=False):
            if not self.wanted():
                return
            self._add(box, batch)
            if not first:
                yield self.progress
                continue
            self._warm_up(furniture)
            yield self.progress
            if not self.tried and self._promise() < UNPROMISING:
                self.put_off = batches[-1]
                return
            # Where the best two do not work, its changes are tried before the third.
            yield from self._look(looks if self.plans else FIRST_LOOKS[0])

    def _go_back(self) -> Iterator[Progress]:
        """What was left aside in the first enclosure, where its changes brought no plan."""
        more = LOOKS_ELSEWHERE if self.put_off else 0
        self._add(self.boxes[0], self.put_off)
        yield from self._look(max(ENOUGH, len(self.tried) + more))

    def _add(self, box: Screened, layouts: list[Layout]) -> None:
        """Try what layouts do in an enclosure."""
        before = box.combinations
        box.add(layouts, self.crew)
        self.progress.combinations += box.combinations - before
        self.progress.share = max(self.progress.share, min(0.06 * len(self.boxes), SCREENING))

    def _promise(self) -> float:
        """The best score that the screening gives to anything so far."""
        return max((one.score for box in self.boxes for one in self._best(box)), default=-np.inf)

    def _warm_up(self, furniture: Furnished) -> None:
        """Have other processes get the enclosure ready for the full model while this one chooses."""
        for _ in range(self.crew.hands if self.crew.hands > 1 else 0):
            self.crew.executor.submit(get_ready, furniture.design, self.brief.catalogue)

    def _promising(self) -> set[str]:
        """The few kinds of main source that are best in the first enclosure, and those that found no place in it."""
        best_first = sorted(self._best(self.boxes[0]), key=lambda one: -one.score)
        promising = list(dict.fromkeys(one.kind for one in best_first))[:PROMISING]
        placed = {response.layout.kind for response in self.boxes[0].responses}
        return {*promising, *(self.brief.catalogue.sources.keys() - placed)}

    def _look(self, most: int) -> Iterator[Progress]:
        """Work out the most promising combinations, one of each kind first, learning how far the screening was off."""
        self.progress.step = "Working out the most promising"
        pending: deque[Looking] = deque()
        while True:
            while len(pending) < self.crew.hands and len(self.tried) < most and self.wanted():
                candidate = self._next()
                if candidate is None or self._is_futile(candidate):
                    break
                self.tried.append(candidate)
                pending.append((candidate, self.crew.executor.submit(work_out, self.brief, candidate)))
            if not pending:
                return
            yield from self._until_done(pending[0][1], pending)
            candidate, future = pending.popleft()
            self._take(candidate, future.result())
            self._show(pending)
            yield self.progress

    def _until_done(self, first: Future[Plan | None], pending: Sequence[Looking]) -> Iterator[Progress]:
        """Wait for one of those that are looked at, and show the plans that others bring meanwhile."""
        while not first.done():
            self._show(pending)
            yield self.progress
            wait([future for _, future in pending if not future.done()], return_when=FIRST_COMPLETED)

    def _show(self, pending: Sequence[Looking]) -> None:
        """Show all plans there are, those too whose turn has not come: they are sorted in and learned from in the order
        in which they were asked for, so that the search goes the same way however quick each of them is.
        """
        done = [(one, future.result()) for one, future in pending if future.done()]
        ahead = [replace(plan, candidate=one) for one, plan in done if plan is not None and plan.works]
        self.progress.plans = _best_first([*self.plans, *ahead])

    def _take(self, candidate: Candidate, plan: Plan | None) -> None:
        """Sort in what the full model said of a combination, and learn from it."""
        progress = self.progress
        progress.looked_at += 1
        progress.share = max(progress.share, SCREENING + (1.0 - SCREENING) * progress.looked_at / LOOKED_AT)
        self.unsettled += plan is None
        if plan is None or any(plan.design == one.design for one in (*self.plans, *progress.rejected)):
            return
        # One of another process comes with a copy of its combination.
        plan = replace(plan, candidate=candidate)
        box = next(box for box in self.boxes if box.furnished is candidate.furnished)
        box.learn(candidate, plan.rises)
        if plan.works:
            self.plans = _best_first([*self.plans, plan])
        else:
            progress.rejected = _best_first([*progress.rejected, plan])

    def _next(self) -> Candidate | None:
        """What to look at next: the best of an approach that was not looked at, then the best of a kind that has no
        plan yet, as the screening has it now.
        """
        times = Counter(_class_there(one, self.brief.catalogue) for one in self.tried)
        known = {one.approach for one in self.tried}
        left = [one for one in self._remaining() if times[_class_there(one, self.brief.catalogue)] < A_KIND]
        new = [one for one in left if one.approach not in known and one.score > HOPELESS]
        if not new and self._has_enough():
            left = self._as_good_as_the_best(left)
        return max(
            self._plain_one(left) or new or left,
            key=lambda one: one.score - times[_class_there(one, self.brief.catalogue)] * A_MISS,
            default=None,
        )

    def _plain_one(self, left: Sequence[Candidate]) -> list[Candidate]:
        """What everybody would hang, if the best was looked at and none of these was: it shall be among the plans."""
        if not self.tried or any(one.is_plain for one in self.tried):
            return []
        return [one for one in left if one.is_plain and one.score > HOPELESS]

    def _as_good_as_the_best(self, left: Sequence[Candidate]) -> list[Candidate]:
        """Those that promise nearly as much as the best plan; none when enough was looked at."""
        if len(self.tried) >= round(LOOKED_AT_WITH_ENOUGH * self.patience):
            return []
        return [one for one in left if one.score > self.plans[0].score - FAR_BEHIND]

    def _is_futile(self, candidate: Candidate) -> bool:
        """Whether a combination promises nothing, and enough that do not work were looked at to show the nearest."""
        return candidate.score < FUTILE and len(self.tried) - self.unsettled >= ENOUGH

    def _has_enough(self) -> bool:
        """Whether there are plans of several kinds already."""
        return len({class_of(plan.candidate, self.brief.catalogue) for plan in self.plans}) >= ENOUGH

    def _remaining(self) -> Iterator[Candidate]:
        """The best of every kind that was not looked at, has no plan that is about as good, and was not given up."""
        done = {_mark(one) for one in self.tried}
        given_up = {
            _class_there(plan.candidate, self.brief.catalogue) for plan in self.progress.rejected if plan.is_far_off
        }
        reached: dict[tuple[str, str, str], float] = {}
        for plan in self.plans:
            reached.setdefault(class_of(plan.candidate, self.brief.catalogue), plan.score)
        for box in self.boxes:
            for one in self._best(box):
                class_ = class_of(one, self.brief.catalogue)
                may_be = one.score > reached.get(class_, -np.inf) - HARDLY_WORSE
                if may_be and _class_there(one, self.brief.catalogue) not in given_up and _mark(one) not in done:
                    yield one

    def _best(self, box: Screened) -> Iterator[Candidate]:
        """The best of every kind in an enclosure."""
        for kind in {response.layout.kind: None for response in box.responses}:
            yield from candidates(self.brief, box, kind)


def _best_first(plans: Sequence[Plan]) -> list[Plan]:
    """By score."""
    return sorted(plans, key=lambda one: -one.score)


def _patience(brief: Brief) -> float:
    """Which share of the looks is enough: fewer in large boxes."""
    box = brief.design.enclosure
    volume_m3 = box.length_m * box.depth_m * box.height_m
    return min((share for least, share in zip(LARGE_M3, SLOWER, strict=True) if volume_m3 > least), default=1.0)


def _in_batches(layouts: Sequence[Layout], first: bool) -> list[list[Layout]]:
    """In the first enclosure, a few before all the rest."""
    if not first:
        return [list(layouts)]
    few = a_few_of(layouts)
    return [few, [layout for layout in layouts if not any(layout is one for one in few)]]


def class_of(one: Candidate, catalogue: Catalogue) -> tuple[str, str, str]:
    """What a combination is one of: its source's work, its approach, and its shape."""
    return work_of(one.kind, catalogue), one.approach, one.shape


def _class_there(one: Candidate, catalogue: Catalogue) -> tuple[object, ...]:
    """The same, and the arrangement that it is tried in."""
    return *class_of(one, catalogue), id(one.furnished)


def _mark(one: Candidate) -> tuple[object, ...]:
    """What tells two combinations apart."""
    return (
        one.kind, one.watts, one.layout.count, one.layout.where, one.held, one.night.label, one.night.all_day,
        one.mat.watts, one.ultraviolet.data.get("lamp"), one.ultraviolet.data.get("z_m"), id(one.furnished),
    )  # fmt: skip
