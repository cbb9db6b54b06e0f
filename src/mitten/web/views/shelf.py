"""The Shelf page."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.judge import Assessment
from mitten.draw import thumbnail
from mitten.store import Shelved
from mitten.web.views.verdict import tone, watts

THUMBNAIL_CONDITION = "winter-day"


@dataclass(frozen=True)
class ShelfEntry:
    """One enclosure."""

    id: int
    name: str
    animal: str
    size: str
    drawing: Markup
    state: str
    tone: str
    word: str


@dataclass(frozen=True)
class ShelfView:
    """Every enclosure, and the room's sum."""

    entries: Sequence[ShelfEntry]
    day_w: float
    night_w: float


WORDS = {"stop": "■ dangerous", "misses": "◆ misses", "near": "▲ near", "meets": "● meets"}


def shelf_view(shelved: Sequence[tuple[Shelved, Assessment]]) -> ShelfView:
    """The page of a shelf."""
    return ShelfView(
        entries=[_entry(item, assessment) for item, assessment in shelved],
        day_w=sum(watts(item.design, "day") for item, _ in shelved),
        night_w=sum(watts(item.design, "night") for item, _ in shelved),
    )


def _entry(item: Shelved, assessment: Assessment) -> ShelfEntry:
    box = item.design.enclosure
    return ShelfEntry(
        id=item.id,
        name=item.design.name,
        animal=f"{assessment.species.label}, {item.design.animal.stage}",
        size=f"{box.length_m * 100:g} × {box.depth_m * 100:g} × {box.height_m * 100:g} cm",
        drawing=thumbnail(assessment.climate(THUMBNAIL_CONDITION)),
        state=assessment.headline,
        tone=tone(assessment),
        word=WORDS[tone(assessment)],
    )
