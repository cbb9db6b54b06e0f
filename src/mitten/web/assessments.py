"""Assessments of the latest designs, with their intervals and fixes."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from datetime import UTC, datetime
from threading import Lock
from time import monotonic
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.judge import Assessment, Climates, Condition, assess, assess_in, solve_condition
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.uncertainty import intervals
from mitten.core.plan import Fix, Mending, OvertakenError, hide_fixes
from mitten.web.kept import LatestCache
from mitten.web.views.verdict import Fixes, IntervalsByCondition

KEPT_ASSESSMENTS = 80
KEPT_BYTES = 80 * 2**20
"""Of matrices that kept assessments are begun from again: of one enclosure whose lamps were moved they are the same."""

KEPT_LET_GO = 4
KEPT_EXPLORED = 6
A_WHILE_S = 1.2
"""So long fixes are looked for before those that are found are shown."""

Known = TypeVar("Known")


class Assessments:
    """Assessments of the latest designs with one catalogue. A design is a value, so that its assessment can be kept."""

    def __init__(self, catalogue: Catalogue) -> None:
        self.catalogue = catalogue
        self._kept: LatestCache[Design, Assessment] = LatestCache(KEPT_ASSESSMENTS, KEPT_BYTES, _matrices_of)
        self._sure: LatestCache[Design, IntervalsByCondition] = LatestCache(KEPT_ASSESSMENTS)
        self._fixes: LatestCache[Design, Fixes] = LatestCache(KEPT_ASSESSMENTS)
        self._mending: LatestCache[Design, Mending] = LatestCache(1)
        self._explored: LatestCache[tuple[Design, Condition], Assessment] = LatestCache(KEPT_EXPLORED)
        self._let_go: LatestCache[Design, Climates] = LatestCache(KEPT_LET_GO)
        self._lock = Lock()
        self._working: dict[Design, Lock] = {}
        self.on_the_way = OnTheWay(catalogue)

    def of(self, design: Design, before: Design | None = None) -> Assessment:
        """The assessment of a design; ``before`` is the design it was edited from.

        Raises:
            UnsolvedError: no condition has an answer.
        """
        with self._one_at_a_time(design):
            one_before = None if before is None else self._kept.get(before)
            near = {} if one_before is None else one_before.climates
            kept, known = self._kept.get(design), self._let_go.get(design) or {}
            return kept or self._kept.put(design, assess(design, self.catalogue, near, datetime.now(UTC).date(), known))

    def known(self, design: Design) -> Assessment | None:
        """The assessment of a design, if it was made already."""
        return self._kept.get(design)

    def climate(self, design: Design, condition: Condition) -> Climate:
        """The climate of a design in any condition.

        Raises:
            UnsolvedError: the condition has no answer.
        """
        explored = self._explored.get((design, condition))
        if explored is not None:
            return explored.climates[condition]
        assessment = self.of(design)
        return assessment.solved.get(condition) or solve_condition(design, self.catalogue, condition)

    def in_condition(self, design: Design, condition: Condition) -> Assessment:
        """A design judged in one condition that no season brings: a failure, or a room of the keeper's choice.

        Raises:
            UnsolvedError: the condition has no answer.
        """
        known = self._explored.get((design, condition))
        if known is not None:
            return known
        found = assess_in(self.of(design), condition, self.climate(design, condition).to_keep())
        return self._explored.put((design, condition), found)

    def near(self, design: Design, before: Design, condition: Condition) -> Climate:
        """The climate of a design in one condition, begun from that of the design it was edited from.

        It is kept for the whole assessment, which is commonly asked for at the same time and waits for it.
        """
        kept = self.of(before).solved
        start = next((climate for at, climate in kept.items() if at.name == condition.name), None)
        with self._one_at_a_time(design):
            climate = solve_condition(design, self.catalogue, condition, start)
            self._let_go.put(design, {condition: climate})
        return climate

    def sure_of(self, design: Design, compute: bool = True) -> IntervalsByCondition | None:
        """The 90 % intervals of the targets' figures, each in its worst condition; None if not known and not wanted."""

        return self._known_or_new(self._sure, design, (lambda: _intervals_of(self.of(design))) if compute else None)

    def sure_in(self, design: Design, condition: Condition) -> IntervalsByCondition:
        """The same in one condition alone."""
        return _intervals_of(self.in_condition(design, condition))

    def fixes_of(self, design: Design, compute: bool = True, wanted: Callable[[], bool] = lambda: True) -> Fixes | None:
        """What would mend each wrong target, as far as it is known; ``compute`` has more looked for, for a while.

        None if nothing is known yet, or it is not wanted any more.
        """
        known = self._fixes.get(design)
        if not compute or (known is not None and known.is_whole):
            return known
        try:
            return self._fixes.put(design, self._more_fixes(design, {} if known is None else known.of, wanted))
        except OvertakenError:
            return None

    def _more_fixes(self, design: Design, known: Mapping[str, Sequence[Fix]], wanted: Callable[[], bool]) -> Fixes:
        """Those of some more targets: what was found is shown before the next ones are looked for."""
        until, assessment, found = monotonic() + A_WHILE_S, self.of(design), dict(known)
        mending = self._mending.get(design) or self._mending.put(design, Mending(assessment))
        mending.wanted = wanted
        for verdict in assessment.wrong:
            if verdict.key in found:
                continue
            found[verdict.key] = mending.fixes_for(verdict)
            if monotonic() > until:
                return Fixes(found, is_whole=False)
        self._mending.clear()
        return Fixes({**found, **hide_fixes(assessment, wanted)})

    @contextmanager
    def _one_at_a_time(self, design: Design) -> Iterator[None]:
        """Two requests for the same design make one assessment."""
        with self._lock:
            lock = self._working.setdefault(design, Lock())
        try:
            with lock:
                yield
        finally:
            with self._lock:
                self._working.pop(design, None)

    @staticmethod
    def _known_or_new(
        kept: LatestCache[Design, Known], design: Design, work: Callable[[], Known] | None
    ) -> Known | None:
        known = kept.get(design)
        return known if known is not None or work is None else kept.put(design, work())


def _matrices_of(assessment: Assessment) -> Iterator[NDArray[np.floating]]:
    """The large matrices that an assessment's climates hold."""
    prepared = {id(climate.state.prepared): climate.state.prepared for climate in assessment.solved.values()}
    for one in prepared.values():
        yield from one.matrices


def _intervals_of(assessment: Assessment) -> IntervalsByCondition:
    """The intervals of an assessment's figures by condition."""
    paths: dict[Condition, set[str]] = {}
    for verdict in assessment.verdicts:
        paths.setdefault(verdict.condition, set()).add(verdict.path)
    return {at.name: intervals(assessment.solved[at], wanted) for at, wanted in paths.items()}


FINENESS_ON_THE_WAY = 0.5
"""Patches along an edge, beside the full grid's, while something is being dragged."""


class OnTheWay:
    """The latest coarse climate by time of day, which the next one is begun from."""

    def __init__(self, catalogue: Catalogue) -> None:
        self._catalogue = catalogue
        self._latest: dict[bool, Climate] = {}

    def solve(self, design: Design, condition: Condition) -> Climate:
        """The coarse climate of a design."""
        before = self._latest.get(condition.day)
        near = before if before is not None and before.design.enclosure == design.enclosure else None
        climate = solve_condition(design, self._catalogue, condition, near, FINENESS_ON_THE_WAY)
        self._latest[condition.day] = climate
        return climate
