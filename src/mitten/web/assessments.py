"""Assessments of the latest designs, with their intervals and fixes."""

from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from threading import Lock
from typing import TypeVar

from mitten.core.design import Design
from mitten.core.judge import Assessment, Condition, assess, solve_condition
from mitten.core.physics.climate import Climate
from mitten.core.physics.prepared import forget_prepared
from mitten.core.physics.uncertainty import intervals
from mitten.core.plan import fixes_for
from mitten.web.views.verdict import Fixes, Sure

KEPT_ASSESSMENTS = 80
Known = TypeVar("Known")


class Assessments:
    """Assessments of the latest designs. A design is a value, so that its assessment can be kept."""

    def __init__(self) -> None:
        self._kept: OrderedDict[Design, Assessment] = OrderedDict()
        self._sure: OrderedDict[Design, Sure] = OrderedDict()
        self._fixes: OrderedDict[Design, Fixes] = OrderedDict()
        self._lock = Lock()
        self._working: dict[Design, Lock] = {}
        self.on_the_way = OnTheWay()

    def forget(self) -> None:
        """Forget everything: the catalogue has changed."""
        with self._lock:
            for kept in (self._kept, self._sure, self._fixes):
                kept.clear()
        forget_prepared()

    def of(self, design: Design, before: Design | None = None) -> Assessment:
        """The assessment of a design; ``before`` is the design it was edited from.

        Raises:
            NotSettledError: a condition has no steady state.
        """
        with self._one_at_a_time(design):
            with self._lock:
                kept = self._kept.get(design)
                near = None if before is None else self._kept.get(before)
            assessment = kept or assess(design, near)
            with self._lock:
                self._kept[design] = assessment
                self._kept.move_to_end(design)
                while len(self._kept) > KEPT_ASSESSMENTS:
                    self._kept.popitem(last=False)
        return assessment

    def known(self, design: Design) -> Assessment | None:
        """The assessment of a design, if it was made already."""
        with self._lock:
            return self._kept.get(design)

    def climate(self, design: Design, condition: Condition) -> Climate:
        """The climate of a design in any condition."""
        assessment = self.of(design)
        return assessment.climates.get(condition) or solve_condition(design, condition)

    def sure_of(self, design: Design, compute: bool = True) -> Sure | None:
        """The 90 % intervals of a design's figures in every season; None if not known yet and not to be computed."""

        def work() -> Sure:
            return {condition.name: intervals(climate) for condition, climate in self.of(design).climates.items()}

        return self._remembered(self._sure, design, work if compute else None)

    def fixes_of(self, design: Design, compute: bool = True) -> Fixes | None:
        """What would mend each missed target; None if not known yet and not to be computed."""

        def work() -> Fixes:
            assessment = self.of(design)
            return {verdict.key: fixes_for(assessment, verdict) for verdict in assessment.missed}

        return self._remembered(self._fixes, design, work if compute else None)

    @contextmanager
    def _one_at_a_time(self, design: Design) -> Iterator[None]:
        """Two requests for the same design make one assessment."""
        with self._lock:
            lock = self._working.setdefault(design, Lock())
        with lock:
            yield
        with self._lock:
            self._working.pop(design, None)

    def _remembered(
        self, kept: OrderedDict[Design, Known], design: Design, work: Callable[[], Known] | None
    ) -> Known | None:
        with self._lock:
            known = kept.get(design)
        if known is None and work is not None:
            known = work()
            with self._lock:
                kept[design] = known
                while len(kept) > KEPT_ASSESSMENTS:
                    kept.popitem(last=False)
        return known


FINENESS_ON_THE_WAY = 0.5
"""Patches along an edge, beside the full grid's, while something is being dragged."""


class OnTheWay:
    """The latest coarse climate by time of day, which the next one is begun from."""

    def __init__(self) -> None:
        self._latest: dict[bool, Climate] = {}

    def solve(self, design: Design, condition: Condition) -> Climate:
        """The coarse climate of a design."""
        before = self._latest.get(condition.day)
        near = before if before is not None and before.design.enclosure == design.enclosure else None
        climate = solve_condition(design, condition, near, FINENESS_ON_THE_WAY)
        self._latest[condition.day] = climate
        return climate
