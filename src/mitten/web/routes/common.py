"""What routes share: the desk with the shelf, the pages and the latest assessments on it."""

from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field
from threading import Lock
from typing import Annotated, TypeVar

from fastapi import Depends, Path, Request

from mitten.core.design import Design
from mitten.core.judge import Assessment, assess
from mitten.core.physics.uncertainty import intervals
from mitten.core.plan import fixes_for
from mitten.store import Shelf
from mitten.web.pages import Pages
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

    def of(self, design: Design, before: Design | None = None) -> Assessment:
        """The assessment of a design; ``before`` is the design it was edited from.

        Raises:
            NotSettledError: a condition has no steady state.
        """
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


class Latest:
    """The number of the latest edit of each page, so that one that was overtaken on the way can be told."""

    def __init__(self) -> None:
        self._numbers: OrderedDict[str, int] = OrderedDict()

    def overtaken(self, edit: str | None) -> bool:
        """Whether a later edit of the same page was taken already; ``edit`` is its page and number, if it says them."""
        page, _, number = (edit or "").partition(" ")
        if not number.isdecimal():
            return False
        before = self._numbers.get(page, 0)
        self._numbers[page] = max(int(number), before)
        self._numbers.move_to_end(page)
        while len(self._numbers) > KEPT_ASSESSMENTS:
            self._numbers.popitem(last=False)
        return int(number) < before


@dataclass(frozen=True)
class Desk:
    """What a route works with."""

    shelf: Shelf
    pages: Pages = field(default_factory=Pages)
    assessments: Assessments = field(default_factory=Assessments)
    editing: Lock = field(default_factory=Lock)
    """Held while a design is read, changed and stored, so that of two quick edits none undoes the other."""

    latest: Latest = field(default_factory=Latest)


def desk_of(request: Request) -> Desk:
    """The application's desk."""
    desk: Desk = request.app.state.desk
    return desk


TheDesk = Annotated[Desk, Depends(desk_of)]
EnclosureId = Annotated[int, Path(ge=1, le=2**53)]
