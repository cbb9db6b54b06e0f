"""The assessment: every seasonal condition solved, every target judged, every danger found."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from types import MappingProxyType

from mitten.core.catalogue import Species, Targets, load_catalogue, targets_of
from mitten.core.design import Design
from mitten.core.judge.conditions import Condition, read_condition, seasonal, solve_condition
from mitten.core.judge.finding import Case, Finding
from mitten.core.judge.safety import find_dangers
from mitten.core.judge.targets import TargetVerdict, Unit, judge_targets
from mitten.core.physics.reading.climate import Climate

Climates = Mapping[Condition, Climate]


@dataclass(frozen=True, eq=False)
class Assessment:
    """A design with its climates, verdicts and findings."""

    design: Design
    species: Species
    targets: Targets
    climates: Climates
    verdicts: tuple[TargetVerdict, ...]
    findings: tuple[Finding, ...]

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
        """No target missed and nothing forbidden."""
        return not self.missed and not self.stops

    @property
    def headline(self) -> str:
        """The verdict in a sentence or two; what is dangerous comes first."""
        if self.stops:
            return f"Dangerous. {self.stops[0].title}."
        if self.missed:
            return " ".join(_missed_sentence(verdict) for verdict in self.missed[:2])
        near = [verdict for verdict in self.verdicts if verdict.word == "near"]
        if near:
            return f"Nearly right: {_within_a_sentence(near[0].label)} {figure_words(near[0])} on a {_when(near[0])}."
        return "Every target that is judged is met in all four conditions."

    def climate(self, name: str) -> Climate:
        """The climate of the condition of that name.

        Raises:
            KeyError: the condition was not solved.
        """
        for condition, climate in self.climates.items():
            if condition.name == name:
                return climate
        raise KeyError(name)

    def missed_in(self, name: str) -> Iterator[TargetVerdict]:
        """Targets missed that are worst in the condition of that name."""
        return (verdict for verdict in self.missed if verdict.condition.name == name)


def assess(
    design: Design, near: Assessment | None = None, today: date | None = None, known: Climates = MappingProxyType({})
) -> Assessment:
    """Solve and judge a design in its four seasonal conditions.

    ``near`` is the assessment of a design in the same enclosure, from which the solutions are begun; ``today`` says how
    old its lamps are; ``known`` holds climates of this design that were solved already.

    Raises:
        NotSettledError: a condition has no steady state.
    """
    catalogue = load_catalogue()
    species = catalogue.species[design.animal.species]
    targets = targets_of(design.animal, species)
    climates = _solve_seasons(design, near, known)
    stuck = _stuck_on(design, climates)
    findings = find_dangers(Case(design, species, targets, catalogue, climates, stuck, today))
    return Assessment(design, species, targets, climates, judge_targets(design, climates, targets), findings)


def _solve_seasons(design: Design, near: Assessment | None, known: Climates) -> dict[Condition, Climate]:
    """Every season's climate, each begun from the last one with the same time of day."""
    starts = {} if near is None else {c.day: climate for c, climate in near.climates.items()}
    solved = {}
    for condition in seasonal(design):
        climate = known.get(condition) or solve_condition(design, condition, starts.get(condition.day))
        starts[condition.day] = climate
        solved[condition] = climate
    return {condition: climate.to_keep() for condition, climate in solved.items()}


def _stuck_on(design: Design, climates: Climates) -> Climate | None:
    """A summer day with every thermostat stuck at full power, where there is one."""
    if not any(control.is_thermostat for control in design.controls):
        return None
    near = next(climate for condition, climate in climates.items() if condition.name == "summer-day")
    return solve_condition(design, read_condition(design, "summer-day+stuck-on"), near).to_keep()


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
