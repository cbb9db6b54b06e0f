"""The assessment: every seasonal condition solved, every target judged, every danger found."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from types import MappingProxyType

from mitten.core.catalogue import Catalogue, Species, Targets, targets_of
from mitten.core.design import Design
from mitten.core.design.amounts import celsius, kelvin
from mitten.core.judge.conditions import (
    Condition,
    climate_like,
    humidities,
    read_condition,
    seasonal,
    solve_condition,
    usual,
)
from mitten.core.judge.finding import Case, Finding
from mitten.core.judge.safety import find_dangers
from mitten.core.judge.targets import BODY, TargetVerdict, Unit, judge_in, judge_targets
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.climate import Climate

Climates = Mapping[Condition, Climate]


@dataclass(frozen=True, eq=False)
class Assessment:
    """A design with its climates, verdicts and findings, its parts and its animal as the catalogue has them;
    ``unsolved`` says which conditions have none, and why.

    ``climates`` are those of the seasons' extremes, ``usual`` those of a usual day and night.
    """

    design: Design
    catalogue: Catalogue
    targets: Targets
    climates: Climates
    verdicts: tuple[TargetVerdict, ...]
    findings: tuple[Finding, ...]
    unsolved: Mapping[Condition, str] = field(default_factory=dict)
    usual: Climates = field(default_factory=dict)
    alone: Condition | None = None
    """The one condition that is judged, where it is not the seasons."""

    today: date | None = None
    """The day for which UV lamps have aged; they are new where none is given."""

    @property
    def species(self) -> Species:
        """The animal's species."""
        return self.catalogue.species[self.design.animal.species]

    @property
    def missed(self) -> tuple[TargetVerdict, ...]:
        """Targets that are missed."""
        return tuple(verdict for verdict in self.verdicts if verdict.status == "misses")

    @property
    def stops(self) -> tuple[Finding, ...]:
        """Findings that forbid the design."""
        return tuple(finding for finding in self.findings if finding.severity == "stop")

    @property
    def troubled(self) -> frozenset[str]:
        """Names of parts that do not fit where they are."""
        return frozenset(name for finding in self.findings for name in finding.parts)

    @property
    def passes(self) -> bool:
        """No target missed, nothing forbidden, and every condition worked out."""
        return not self.missed and not self.stops and not self.unsolved

    @property
    def headline(self) -> str:
        """The verdict in a sentence or two; what is dangerous comes first."""
        if self.stops:
            return f"Dangerous. {self.stops[0].title}."
        if self.unsolved:
            return f"{_list_words([condition.label for condition in self.unsolved])} could not be worked out."
        if self.missed:
            return " ".join(_missed_sentence(verdict) for verdict in self.missed[:2])
        if self.alone is not None:
            return _borne_sentence(self.verdicts, self.alone)
        return _near_sentence(self.verdicts)

    @property
    def usually_off(self) -> tuple[TargetVerdict, ...]:
        """Targets that are outside what is wanted even on a usual day."""
        return tuple(verdict for verdict in self.verdicts if verdict.is_usually_off)

    @property
    def room_rh_words(self) -> str:
        """What the room's humidity was taken for where the keeper did not say."""
        room = self.design.room
        seasons = zip(("winter", "summer"), (room.winter, room.summer), humidities(room), strict=True)
        assumed = [f"{share:.0%} in {name}" for name, season, share in seasons if season.rh is None]
        return f"The room's humidity is assumed: {' and '.join(assumed)}." if assumed else ""

    @property
    def solved(self) -> Climates:
        """Every climate that was worked out: those of the extremes and the usual ones."""
        return {**self.climates, **self.usual}

    @property
    def wrong(self) -> tuple[TargetVerdict, ...]:
        """Targets to be mended: those that are missed, then those that even a usual day does not meet."""
        return (*self.missed, *(verdict for verdict in self.usually_off if verdict not in self.missed))

    def to_show(self) -> "Assessment":
        """The same with climates for pictures alone."""
        climates, usual = (
            {condition: climate.to_show() for condition, climate in known.items()}
            for known in (self.climates, self.usual)
        )
        return replace(self, climates=climates, usual=usual)

    def climate(self, name: str) -> Climate:
        """The climate of the condition of that name, or the nearest to it that could be worked out."""
        return climate_like(self.solved, name)

    def missed_in(self, name: str) -> Iterator[TargetVerdict]:
        """Targets missed that are worst in the condition of that name."""
        return (verdict for verdict in self.missed if verdict.condition.name == name)


def assess(
    design: Design, catalogue: Catalogue, near: Climates = MappingProxyType({}), today: date | None = None,
    known: Climates = MappingProxyType({}),
) -> Assessment:  # fmt: skip
    """Solve and judge a design in its four seasonal conditions and on a usual day and night; where one has no answer,
    the others are judged.

    ``near`` are climates of a design in the same enclosure, from which the solutions are begun; ``today`` says how old
    its lamps are; ``known`` holds climates of this design that were solved already.

    Raises:
        UnsolvedError: no condition has an answer.
    """
    species = catalogue.species[design.animal.species]
    targets = targets_of(design.animal, species)
    solved, unsolved = _solve_all(design, catalogue, near, known)
    solved = {condition: on_day(climate, today) for condition, climate in solved.items()}
    climates = {condition: climate for condition, climate in solved.items() if not condition.is_usual}
    usually = {condition: climate for condition, climate in solved.items() if condition.is_usual}
    stuck = _stuck_on(design, catalogue, climates, unsolved)
    findings = find_dangers(Case(design, species, targets, catalogue, climates, stuck, today))
    verdicts = judge_targets(design, catalogue, solved, targets)
    told = tuple(_untold(condition, why) for condition, why in unsolved.items())
    return Assessment(
        design, catalogue, targets, climates, verdicts, (*told, *findings), unsolved, usually, None, today
    )


def assess_in(assessment: Assessment, condition: Condition, climate: Climate) -> Assessment:
    """The same design judged in one condition alone, such as a failure or a room that no season brings."""
    design, targets = assessment.design, assessment.targets
    only = {condition: climate}
    findings = find_dangers(Case(design, assessment.species, targets, assessment.catalogue, only))
    verdicts = judge_in(design, condition, climate, targets)
    return replace(
        assessment, climates=only, usual={}, verdicts=verdicts, findings=findings, unsolved={}, alone=condition
    )


def _solve_all(
    design: Design, catalogue: Catalogue, near: Climates, known: Climates
) -> tuple[dict[Condition, Climate], dict[Condition, str]]:
    """Every season's climate and the usual ones, each begun from the last one with the same time of day, and why those
    that have none have none.
    """
    starts = {condition.day: climate for condition, climate in near.items()}
    solved, errors = dict[Condition, Climate](), dict[Condition, UnsolvedError]()
    for condition in _winter_to_summer(design):
        try:
            climate = known.get(condition) or solve_condition(design, catalogue, condition, starts.get(condition.day))
        except UnsolvedError as error:
            errors[condition] = error
            continue
        starts[condition.day] = climate
        solved[condition] = climate
    _check_any_season(solved, errors)
    kept = {condition: climate.to_keep() for condition, climate in solved.items()}
    return kept, {condition: str(error) for condition, error in errors.items()}


def _check_any_season(solved: Climates, errors: Mapping[Condition, UnsolvedError]) -> None:
    """Without the answer of any season there is nothing to judge."""
    if all(condition.is_usual for condition in solved):
        raise next(error for condition, error in errors.items() if not condition.is_usual)


def on_day(climate: Climate, today: date | None) -> Climate:
    """A climate on a day: its UV lamps have aged, and nothing else of it depends on that."""
    if climate.situation.on_date == today:
        return climate
    return replace(climate, situation=replace(climate.situation, on_date=today))


def _winter_to_summer(design: Design) -> list[Condition]:
    """All that is judged, from the coldest room to the warmest, so that each begins from one that is near."""
    return sorted((*seasonal(design), *usual(design)), key=lambda condition: condition.summer)


def _stuck_on(
    design: Design, catalogue: Catalogue, climates: Climates, unsolved: dict[Condition, str]
) -> dict[Condition, Climate]:
    """A summer day and, where anything runs by night, a summer night with every thermostat stuck at full power, where
    there is one; why one has no answer is noted.
    """
    found = dict[Condition, Climate]()
    held = [heater for heater in design.heaters if (one := design.control_of(heater)) and one.is_thermostat]
    for time in ("day", "night"):
        if not any(heater.on in (time, "always") for heater in held):
            continue
        condition = read_condition(design, f"summer-{time}+stuck-on")
        try:
            begun = climate_like(climates, f"summer-{time}")
            found[condition] = solve_condition(design, catalogue, condition, begun).to_keep()
        except UnsolvedError as error:
            unsolved[condition] = str(error)
    return found


def _untold(condition: Condition, why: str) -> Finding:
    return Finding(
        rule="not-worked-out",
        severity="warn",
        title=f"{condition.label} could not be worked out",
        reason=f"{why} What else is said here leaves it out.",
        number=f"room {celsius(condition.room_c)}",
        remedy="Change something a little - a power, a height, a setpoint - or see that no two thermostats work "
        "against each other.",
    )


def _list_words(words: Sequence[str]) -> str:
    *first, last = words
    within = [word if n == 0 else word[:1].lower() + word[1:] for n, word in enumerate([*first, last])]
    return within[0] if not first else f"{', '.join(within[:-1])} and {within[-1]}"


def _missed_sentence(verdict: TargetVerdict) -> str:
    too_little = verdict.beyond < 0
    if verdict.unit == "h":
        return f"{verdict.label} is {abs(verdict.outside):g} h too {'short' if too_little else 'long'}."
    if verdict.unit == "°C":
        amount = f"{kelvin(abs(verdict.outside), 1)} too {'cold' if too_little else 'hot'}"
    else:
        figure = f"{abs(verdict.outside):{DECIMALS[verdict.unit]}}{UNIT_WORDS[verdict.unit]}"
        amount = f"{figure} too {'low' if too_little else 'high'}"
    return f"{verdict.label} is {amount} {verdict.condition.when}."


def _borne_sentence(verdicts: Sequence[TargetVerdict], condition: Condition) -> str:
    """The headline where nothing is missed in the one condition that is judged."""
    near = next((verdict for verdict in verdicts if verdict.status == "near"), None)
    if near is None:
        return f"Every target that is judged is met {condition.when}."
    return f"To be borne {condition.when}: {_within_a_sentence(near.label)} {figure_words(near)}, {wants_words(near)}."


def _near_sentence(verdicts: Sequence[TargetVerdict]) -> str:
    """The headline where nothing is missed: what a usual day lacks, then what has to be borne at the extremes."""
    off = [verdict for verdict in verdicts if verdict.is_usually_off]
    if off:
        first = off[0]
        figure = figure_words(first, first.usual)
        return f"Nearly right: on a usual day {_within_a_sentence(first.label)} is {figure}, {wants_words(first)}."
    near = [verdict for verdict in verdicts if verdict.status == "near"]
    if near:
        first = near[0]
        return (
            f"Right on usual days. To be borne: {_within_a_sentence(first.label)} {figure_words(first)} "
            f"{first.condition.when}, {wants_words(first)}."
        )
    return "Every target that is judged is met, at the extremes of the seasons too."


DECIMALS: dict[Unit, str] = {"°C": ".1f", "%": ".0f", "UVI": ".1f", "W/m²": ".0f", "h": ".1f"}
UNIT_WORDS: dict[Unit, str] = {"°C": " °C", "%": " %", "UVI": "", "W/m²": " W/m²", "h": " h"}


def figure_words(verdict: TargetVerdict, value: float | None = None) -> str:
    """A verdict's figure, or another of its kind, with its unit."""
    figure = verdict.value if value is None else value
    if verdict.unit == "°C":
        return celsius(figure, 1)
    return f"{figure:{DECIMALS[verdict.unit]}}{UNIT_WORDS[verdict.unit]}"


def wants_words(verdict: TargetVerdict) -> str:
    """What is wanted and what is borne, in words: ``wants 21 to 26 °C, bears 18 to 30 °C``."""
    if verdict.key == BODY:
        best, danger = celsius(verdict.high), celsius(verdict.danger)
        return f"to reach {celsius(verdict.low)}, best to {best}; danger from {danger}"
    wanted, bearable = (range_words(ends, verdict.unit) for ends in ((verdict.low, verdict.high), verdict.bearable))
    return f"wants {wanted}, bears {bearable}"


def range_words(ends: tuple[float, float], unit: Unit) -> str:
    """Both ends of a range with their unit."""
    return celsius(ends) if unit == "°C" else f"{ends[0]:g} to {ends[1]:g}{UNIT_WORDS[unit]}"


def _within_a_sentence(label: str) -> str:
    return label if label.startswith("UV") else label[:1].lower() + label[1:]
