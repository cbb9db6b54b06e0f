"""What routes share: the desk with the shelf, the pages and the latest assessments on it."""

from collections import OrderedDict
from dataclasses import dataclass, field
from threading import Lock
from typing import Annotated, overload

from fastapi import Depends, Path, Request

from mitten.core.design import Design
from mitten.core.judge import Assessment, assess
from mitten.core.physics.uncertainty import intervals
from mitten.store import Shelf
from mitten.web.pages import Pages
from mitten.web.views.verdict import Sure

KEPT_ASSESSMENTS = 80


class Assessments:
    """Assessments of the latest designs. A design is a value, so that its assessment can be kept."""

    def __init__(self) -> None:
        self._kept: OrderedDict[Design, Assessment] = OrderedDict()
        self._sure: OrderedDict[Design, Sure] = OrderedDict()
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

    @overload
    def sure_of(self, design: Design) -> Sure: ...
    @overload
    def sure_of(self, design: Design, compute: bool) -> Sure | None: ...
    def sure_of(self, design: Design, compute: bool = True) -> Sure | None:
        """The 90 % intervals of a design's figures in every season; None if not known yet and not to be computed."""
        with self._lock:
            kept = self._sure.get(design)
        if kept is not None or not compute:
            return kept
        sure = {condition.name: intervals(climate) for condition, climate in self.of(design).climates.items()}
        with self._lock:
            self._sure[design] = sure
            while len(self._sure) > KEPT_ASSESSMENTS:
                self._sure.popitem(last=False)
        return sure


@dataclass(frozen=True)
class Desk:
    """What a route works with."""

    shelf: Shelf
    pages: Pages = field(default_factory=Pages)
    assessments: Assessments = field(default_factory=Assessments)
    editing: Lock = field(default_factory=Lock)
    """Held while a design is read, changed and stored, so that of two quick edits none undoes the other."""


def desk_of(request: Request) -> Desk:
    """The application's desk."""
    desk: Desk = request.app.state.desk
    return desk


TheDesk = Annotated[Desk, Depends(desk_of)]
EnclosureId = Annotated[int, Path(ge=1, le=2**53)]
