"""The checklist of an enclosure, as the margin shows it."""

from collections.abc import Sequence
from dataclasses import dataclass

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.judge.checklist import CheckItem, checklist_of


@dataclass(frozen=True)
class Checklist:
    """Items with whether they were seen to."""

    items: Sequence[tuple[CheckItem, bool]]

    @property
    def left(self) -> int:
        """How many are open."""
        return sum(not done for _, done in self.items)


def checklist_view(design: Design, catalogue: Catalogue, ticks: Sequence[str]) -> Checklist:
    """The items that matter for a design, with the keeper's ticks."""
    return Checklist([(item, item.key in ticks) for item in checklist_of(design, catalogue)])
