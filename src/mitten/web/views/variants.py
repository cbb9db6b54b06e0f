"""The Variants page: states of an enclosure side by side, with what differs marked."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.design import BadDesignError, Design, MittenError
from mitten.core.design.units import Units
from mitten.core.judge import Assessment, Condition, TargetVerdict, judge_in, read_condition
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.climate import Climate
from mitten.draw import heat_sheet
from mitten.store import Shelved
from mitten.web.assessments import Assessments
from mitten.web.at import MAIN_CONDITION
from mitten.web.edits import summary_of
from mitten.web.views.verdict import SHAPES, figure, power_rows, shown_unit, tone

NOW = "As it is now"
NO_CHANGE = "Changed"


@dataclass(frozen=True)
class ComparedState:
    """A state that can be laid beside others; without a revision's number it cannot be adopted."""

    name: str
    design: Design
    number: int | None


@dataclass(frozen=True)
class Column:
    """One state: drawing, verdict, and what differs from the first."""

    name: str
    number: int | None
    drawing: Markup
    headline: str
    tone: str
    differs: str


@dataclass(frozen=True)
class Cell:
    """One figure of one state."""

    value: str
    status: str
    shape: str
    differs: bool


@dataclass(frozen=True)
class CompareRow:
    """One line of the comparison over all states; ``differs`` where they are not all alike."""

    label: str
    unit: str
    cells: Sequence[Cell]
    when: str = ""
    """The one condition that all its figures are of."""

    key: str = ""

    @property
    def differs(self) -> bool:
        """Whether any state is different from the first."""
        return any(cell.differs for cell in self.cells)


@dataclass(frozen=True)
class CompareView:
    """The Variants page."""

    shelved: Shelved
    candidates: Sequence[tuple[ComparedState, bool]]
    columns: Sequence[Column]
    rows: Sequence[CompareRow]
    condition: str
    materials: bool

    @property
    def path(self) -> str:
        """Address of the enclosure."""
        return f"/enclosures/{self.shelved.id}"


def compare_view(
    shelved: Shelved, candidates: Sequence[ComparedState], chosen: Sequence[ComparedState], assessments: Assessments,
    condition: str, units: Units, materials: bool,
) -> CompareView:  # fmt: skip
    """Chosen states side by side under one condition; those that cannot be computed are left out."""
    solved = [
        (one, assessment) for one in chosen if (assessment := _assessment_of(one.design, assessments)) is not None
    ]
    condition = _condition_for(shelved.design, condition)
    return CompareView(
        shelved=shelved,
        candidates=[(one, one in chosen) for one in candidates],
        columns=[
            _column(one, assessment, solved[0][0].design, assessments, condition, units) for one, assessment in solved
        ],
        rows=_rows([assessment for _, assessment in solved], assessments, condition, units),
        condition=condition,
        materials=materials,
    )


def _assessment_of(design: Design, assessments: Assessments) -> Assessment | None:
    try:
        return assessments.of(design)
    except MittenError:
        return None


def _condition_for(design: Design, condition: str) -> str:
    """The condition for a design; the same season without the failure of a part that the design does not have."""
    for words in (condition, condition.partition("+")[0]):
        try:
            return read_condition(design, words).name
        except BadDesignError:
            continue
    return MAIN_CONDITION


def _column(
    one: ComparedState, assessment: Assessment, first: Design, assessments: Assessments, condition: str, units: Units
) -> Column:
    name = _condition_for(one.design, condition)
    climate = _climate_in(one.design, assessments, read_condition(one.design, name)) or assessment.climate(name)
    words = summary_of(first, one.design, assessment.catalogue)
    return Column(
        one.name, one.number, heat_sheet(climate, assessment.targets, units, movable=False),
        units.say(assessment.headline), tone(assessment), "" if words == NO_CHANGE else units.say(words),
    )  # fmt: skip


def _rows(found: Sequence[Assessment], assessments: Assessments, name: str, units: Units) -> list[CompareRow]:
    """Targets in the condition asked for, those of the other time of day in its counterpart; dangers and power."""
    if not found:
        return []
    rows = _target_rows(found, assessments, name, units)
    stops = [str(len(one.stops)) for one in found]
    dangers = [str(len(one.findings)) for one in found]
    rows += [_plain_row("Dangers that forbid it, in any season", stops), _plain_row("Findings in all", dangers)]
    powers = [power_rows(one) for one in found]
    rows += [_plain_row(powers[0][n][0], [power[n][1] for power in powers]) for n in range(len(powers[0]))]
    return rows


def _target_rows(found: Sequence[Assessment], assessments: Assessments, name: str, units: Units) -> list[CompareRow]:
    rows: list[CompareRow] = []
    for at in (name, _counterpart(name)):
        judged = [_judged_in(one, assessments, at) for one in found]
        known = {row.key for row in rows}
        for key in judged[0]:
            rows += _target_row(key, judged, units) if key not in known else ()
    return rows


def _counterpart(name: str) -> str:
    """The night of a day and the day of a night, with the same failures."""
    base, plus, failures = name.partition("+")
    head, day = base.removesuffix("day").removesuffix("night"), base.endswith("day")
    return f"{head}{'night' if day else 'day'}{plus}{failures}"


def _judged_in(assessment: Assessment, assessments: Assessments, name: str) -> dict[str, TargetVerdict]:
    """Every target that is judged in one condition, in that condition alone."""
    design = assessment.design
    # A state without the source that has failed in another is judged as it is.
    condition = read_condition(design, _condition_for(design, name))
    climate = _climate_in(design, assessments, condition)
    judged = () if climate is None else judge_in(design, condition, climate, assessment.targets)
    return {one.key: one for one in judged}


def _climate_in(design: Design, assessments: Assessments, condition: Condition) -> Climate | None:
    """The climate of a state in a condition; none where that could not be worked out, which its headline says."""
    try:
        return assessments.climate(design, condition)
    except UnsolvedError:
        return None


def _target_row(key: str, judged: Sequence[Mapping[str, TargetVerdict]], units: Units) -> Iterator[CompareRow]:
    """The row of a target; none where it is not judged in every state, such as one decided by irradiance or in a
    condition that has no answer.
    """
    verdicts = [one[key] for one in judged if key in one]
    if len(verdicts) < len(judged):
        return
    figures = [figure(verdict, units, verdict.value) for verdict in verdicts]
    cells = [
        Cell(words, verdict.status, SHAPES[verdict.status], words != figures[0])
        for words, verdict in zip(figures, verdicts, strict=True)
    ]
    when = verdicts[0].condition.within
    yield CompareRow(verdicts[0].label, shown_unit(verdicts[0], units), cells, units.say(when), key)


def _plain_row(label: str, figures: Sequence[str]) -> CompareRow:
    return CompareRow(label, "", [Cell(words, "", "", words != figures[0]) for words in figures])
