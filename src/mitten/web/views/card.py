"""The card of an enclosure on the shelf: its small drawing and its state."""

from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.design.units import Units
from mitten.core.judge import Assessment
from mitten.draw import thumbnail
from mitten.web.views.verdict import tone

THUMBNAIL_CONDITION = "winter-day"
WORDS = {"stop": "■ dangerous", "misses": "◆ misses", "near": "▲ near", "meets": "● meets"}


@dataclass(frozen=True)
class Card:
    """What is worked out of an enclosure: its drawing and its state."""

    drawing: Markup
    state: str
    tone: str
    status: str


def card_of(assessment: Assessment, units: Units) -> Card:
    """The card of an assessment."""
    climate = assessment.climate(THUMBNAIL_CONDITION)
    word = WORDS[tone(assessment)]
    return Card(thumbnail(climate, units), units.say(assessment.headline), tone(assessment), word)
