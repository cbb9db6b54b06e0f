"""Where the keeper is in the application."""

from dataclasses import dataclass
from typing import Literal
from urllib.parse import urlencode

from mitten.core.design import BadDesignError, Design
from mitten.core.judge import Condition, read_condition
from mitten.core.judge.days import SEASONS

MAIN_CONDITION = "winter-day"
SheetName = Literal["heat", "animal", "box", "control", "check", "day", "year"]


@dataclass(frozen=True)
class At:
    """Where the keeper is: the sheet, the condition that is shown, and the part in the inspector."""

    sheet: SheetName = "heat"
    condition: str = MAIN_CONDITION
    part: str = ""

    def query(self, **changes: str) -> str:
        """The same as the end of an address, with changes."""
        words = {"sheet": self.sheet, "condition": self.condition, "part": self.part, **changes}
        return "?" + urlencode(words)

    @property
    def season(self) -> str:
        """The season of the condition that is shown; winter for a room of the keeper's own."""
        season = self.condition.partition("-")[0]
        return season if season in SEASONS else SEASONS[0]

    def condition_of(self, design: Design) -> Condition:
        """The condition asked for; the main one, where an old address names none."""
        try:
            return read_condition(design, self.condition)
        except BadDesignError:
            return read_condition(design, MAIN_CONDITION)
