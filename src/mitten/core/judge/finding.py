"""A danger that was found, and what the rules that find them look at."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from functools import wraps
from types import ModuleType
from typing import Literal

from mitten.core.catalogue import Catalogue, Species, Targets
from mitten.core.design import Design
from mitten.core.judge.conditions import Condition, climate_like
from mitten.core.physics.reading.body import Body, body_of
from mitten.core.physics.reading.climate import Climate

Severity = Literal["stop", "warn", "note"]
SEVERITIES: tuple[Severity, ...] = ("stop", "warn", "note")


@dataclass(frozen=True)
class Finding:
    """One danger: ``number`` is the figure that shows it, ``remedy`` what to do about it."""

    rule: str
    severity: Severity
    title: str
    reason: str
    number: str
    remedy: str
    parts: tuple[str, ...] = ()
    """Names of parts that do not fit where they are, to be marked on the drawing."""


@dataclass(frozen=True)
class Case:
    """What the rules look at."""

    design: Design
    species: Species
    targets: Targets
    catalogue: Catalogue
    climates: Mapping[Condition, Climate]
    stuck: Mapping[Condition, Climate] = field(default_factory=dict)
    """A summer day and night with every thermostat stuck at full power; none where there is no thermostat."""

    today: date | None = None
    """The day for which lamps have aged; unknown where none is given."""

    @property
    def body(self) -> Body:
        """The animal's body."""
        return body_of(self.species, self.design.animal.stage)

    @property
    def inmate(self) -> str:
        """Who lives there: ``an adult rosy boa``."""
        return self.species.at_stage(self.design.animal.stage)

    def days(self) -> Mapping[Condition, Climate]:
        """The climates by day."""
        return {condition: climate for condition, climate in self.climates.items() if condition.day}

    def climate_in(self, name: str) -> Climate:
        """The climate of one of the seasonal conditions, or the nearest to it that could be worked out."""
        return climate_like(self.climates, name)

    def worst(self, figure: Callable[[Climate], float]) -> tuple[float, Condition]:
        """The highest that a figure gets, and in which condition."""
        values = {condition: figure(climate) for condition, climate in self.climates.items()}
        condition = max(values, key=lambda item: values[item])
        return values[condition], condition


Chapter = Literal["Heat", "Gear", "Warmth from below", "Control", "Ultraviolet", "Fit", "The box as a home"]
Finds = Callable[[Case], Iterator[Finding]]


@dataclass(frozen=True)
class RuleEntry:
    """A rule in the rule book: its name, what it catches, and the figure that shows it."""

    name: str
    chapter: Chapter
    catches: str
    shown_by: str


@dataclass(frozen=True)
class Rule:
    """What looks for dangers, and the rules under whose names it finds them."""

    entries: tuple[RuleEntry, ...]
    find: Finds


def rule(name: str, *, chapter: Chapter, catches: str, shown_by: str) -> Callable[[Finds | Rule], Rule]:
    """Register what finds a danger as a rule of the book; as several, once for each name that it finds under."""
    entry = RuleEntry(name, chapter, catches, shown_by)

    def registered(finds: Finds | Rule) -> Rule:
        if isinstance(finds, Rule):
            return Rule((entry, *finds.entries), finds.find)
        return Rule((entry,), finds)

    return registered


def rules_of(room: ModuleType) -> tuple[Rule, ...]:
    """Every rule that is registered in a module, in the order in which it stands there."""
    return tuple(one for one in vars(room).values() if isinstance(one, Rule))


def by_day(finds: Finds) -> Finds:
    """Something about days: it finds nothing where only nights are looked at."""

    @wraps(finds)
    def judged(case: Case) -> Iterator[Finding]:
        if case.days():
            yield from finds(case)

    return judged
