"""The assessment: every seasonal condition solved, every target judged, every danger found."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from types import MappingProxyType

from mitten.core.catalogue import Species, Targets, load_catalogue, targets_of
from mitten.core.design import Design
from mitten.core.judge.conditions import Condition, climate_like, read_condition, seasonal, solve_condition
from mitten.core.judge.finding import Case, Finding
from mitten.core.judge.safety import find_dangers
from mitten.core.judge.targets import TargetVerdict, Unit, judge_targets
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.climate import Climate

Climates = Mapping[Condition, Climate]


@dataclass(frozen=True, eq=False)
class Assessment:
    """A design with its climates, verdicts and findings; ``unsolved`` says which conditions have none, and why."""

    design: Design
    species: Species
    targets: Targets
    climates: Climates
    verdicts: tuple[TargetVerdict, ...]
    findings: tuple[Finding, ...]
    unsolved: Mapping[Condition, str] = field(default_factory=dict)

    @property
    def missed(self) -> tuple[TargetVerdict, ...]:
        """Targets that are missed."""
        return tuple(verdict for verdict in self.verdicts if verdict.word == "misses")

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
            return f"{_listed([condition.label for condition in self.unsolved])} could not be worked out."
        if self.missed:
            return " ".join(_missed_sentence(verdict) for verdict in self.missed[:2])
        near = [verdict for verdict in self.verdicts if verdict.word == "near"]
        if near:
            return f"Nearly right: {_within_a_sentence(near[0].label)} {figure_words(near[0])} on a {_when(near[0])}."
        return "Every target that is judged is met in all four conditions."

    def climate(self, name: str) -> Climate:
        """The climate of the condition of that name, or the nearest to it that could be worked out."""
        return climate_like(self.climates, name)

    def missed_in(self, name: str) -> Iterator[TargetVerdict]:
        """Targets missed that are worst in the condition of that name."""
        return (verdict for verdict in self.missed if verdict.condition.name == name)


def assess(
    design: Design, near: Assessment | None = None, today: date | None = None, known: Climates = MappingProxyType({})
) -> Assessment:
    """Solve and judge a design in its four seasonal conditions; where one has no answer, the others are judged.

    ``near`` is the assessment of a design in the same enclosure, from which the solutions are begun; ``today`` says how
    old its lamps are; ``known`` holds climates of this design that were solved already.

    Raises:
        UnsolvedError: no condition has an answer.
    """
    catalogue = load_catalogue()
    species = catalogue.species[design.animal.species]
    targets = targets_of(design.animal, species)
    climates, unsolved = _solve_seasons(design, near, known)
    stuck = _stuck_on(design, climates, unsolved)
    findings = find_dangers(Case(design, species, targets, catalogue, climates, stuck, today))
    verdicts = judge_targets(design, climates, targets)
    told = tuple(_untold(condition, why) for condition, why in unsolved.items())
    return Assessment(design, species, targets, climates, verdicts, (*told, *findings), unsolved)


def _solve_seasons(
    design: Design, near: Assessment | None, known: Climates
) -> tuple[dict[Condition, Climate], dict[Condition, str]]:
    """Every season's climate, each begun from the last one with the same time of day, and why those that have none
    have none.
    """
    starts = {} if near is None else {c.day: climate for c, climate in near.climates.items()}
    solved, errors = dict[Condition, Climate](), dict[Condition, UnsolvedError]()
    for condition in seasonal(design):
        try:
            climate = known.get(condition) or solve_condition(design, condition, starts.get(condition.day))
        except UnsolvedError as error:
            errors[condition] = error
            continue
        starts[condition.day] = climate
        solved[condition] = climate
    if not solved:
        raise next(iter(errors.values()))
    kept = {condition: climate.to_keep() for condition, climate in solved.items()}
    return kept, {condition: str(error) for condition, error in errors.items()}


def _stuck_on(design: Design, climates: Climates, unsolved: dict[Condition, str]) -> Climate | None:
    """A summer day with every thermostat stuck at full power, where there is one; why it has no answer is noted."""
    if not any(control.is_thermostat for control in design.controls):
        return None
    condition = read_condition(design, "summer-day+stuck-on")
    try:
        return solve_condition(design, condition, climate_like(climates, "summer-day")).to_keep()
    except UnsolvedError as error:
        unsolved[condition] = str(error)
        return None


def _untold(condition: Condition, why: str) -> Finding:
    return Finding(
        "not-worked-out",
        "warn",
        f"{condition.label} could not be worked out",
        f"{why} What else is said here leaves it out.",
        f"room {condition.room_c:g} °C",
        "Change something a little - a power, a height, a setpoint - or see that no two thermostats work against each "
        "other.",
    )


def _listed(words: Sequence[str]) -> str:
    *first, last = words
    within = [word if n == 0 else word[:1].lower() + word[1:] for n, word in enumerate([*first, last])]
    return within[0] if not first else f"{', '.join(within[:-1])} and {within[-1]}"


def _missed_sentence(verdict: TargetVerdict) -> str:
    too_little = verdict.outside < 0
    if verdict.unit == "°C":
        amount = f"{abs(verdict.outside):.1f} K too {'cold' if too_little else 'hot'}"
    else:
        figure = f"{abs(verdict.outside):{DECIMALS[verdict.unit]}}{UNIT_WORDS[verdict.unit]}"
        amount = f"{figure} too {'low' if too_little else 'high'}"
    if verdict.unit == "h":
        return f"{verdict.label} is {abs(verdict.outside):g} h too {'short' if too_little else 'long'}."
    return f"{verdict.label} is {amount} on a {_when(verdict)}."


DECIMALS: dict[Unit, str] = {"°C": ".1f", "%": ".0f", "UVI": ".1f", "W/m²": ".0f", "h": ".1f"}
UNIT_WORDS: dict[Unit, str] = {"°C": " °C", "%": " %", "UVI": "", "W/m²": " W/m²", "h": " h"}


def figure_words(verdict: TargetVerdict) -> str:
    """A verdict's figure with its unit."""
    return f"{verdict.value:{DECIMALS[verdict.unit]}}{UNIT_WORDS[verdict.unit]}"


def _within_a_sentence(label: str) -> str:
    return label if label.startswith("UV") else label[:1].lower() + label[1:]


def _when(verdict: TargetVerdict) -> str:
    return verdict.condition.label.lower()
