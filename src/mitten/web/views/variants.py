"""The Variants page: states of an enclosure side by side, with what differs marked."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.design import BadDesignError, Design, MittenError
from mitten.core.design.units import Units
from mitten.core.judge import Assessment, TargetVerdict, read_condition
from mitten.draw import heat_sheet
from mitten.store import Shelved
from mitten.web.assessments import Assessments
from mitten.web.at import MAIN_CONDITION
from mitten.web.edits import summary_of
from mitten.web.views.verdict import SHAPES, figure, power_rows, shown_unit, tone

NOW = "As it is now"
NO_CHANGE = "Changed"


@dataclass(frozen=True)
class Candidate:
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
    word: str
    shape: str
    differs: bool


@dataclass(frozen=True)
class CompareRow:
    """One line of the comparison over all states; ``differs`` where they are not all alike."""

    label: str
    unit: str
    cells: Sequence[Cell]

    @property
    def differs(self) -> bool:
        """Whether any state is different from the first."""
        return any(cell.differs for cell in self.cells)


@dataclass(frozen=True)
class CompareView:
    """The Variants page."""

    shelved: Shelved
    candidates: Sequence[tuple[Candidate, bool]]
    columns: Sequence[Column]
    rows: Sequence[CompareRow]
    condition: str
    materials: bool

    @property
    def path(self) -> str:
        """Address of the enclosure."""
        return f"/enclosures/{self.shelved.id}"


def compare_view(
    shelved: Shelved, candidates: Sequence[Candidate], chosen: Sequence[Candidate], assessments: Assessments,
    condition: str, units: Units, materials: bool,
) -> CompareView:  # fmt: skip
    """Chosen states side by side under one condition; those that cannot be computed are left out."""
    solved = [(one, assessment) for one in chosen if (assessment := _assessed(one.design, assessments)) is not None]
    condition = _known(shelved.design, condition)
    return CompareView(
        shelved=shelved,
        candidates=[(one, one in chosen) for one in candidates],
        columns=[
            _column(one, assessment, solved[0][0].design, assessments, condition, units) for one, assessment in solved
        ],
        rows=_rows([assessment for _, assessment in solved], units),
        condition=condition,
        materials=materials,
    )


def _assessed(design: Design, assessments: Assessments) -> Assessment | None:
    try:
        return assessments.of(design)
    except MittenError:
        return None


def _known(design: Design, condition: str) -> str:
    try:
        return read_condition(design, condition).name
    except BadDesignError:
        return MAIN_CONDITION


def _column(
    one: Candidate, assessment: Assessment, first: Design, assessments: Assessments, condition: str, units: Units
) -> Column:
    climate = assessments.climate(one.design, read_condition(one.design, _known(one.design, condition)))
    words = summary_of(first, one.design)
    return Column(
        one.name, one.number, heat_sheet(climate, assessment.targets, units, movable=False),
        units.say(assessment.headline), tone(assessment), "" if words == NO_CHANGE else units.say(words),
    )  # fmt: skip


def _rows(assessments: Sequence[Assessment], units: Units) -> list[CompareRow]:
    """Targets in their worst condition, dangers, and power."""
    if not assessments:
        return []
    rows = [_target_row([one.verdicts[n] for one in assessments], units) for n in range(len(assessments[0].verdicts))]
    stops = [str(len(one.stops)) for one in assessments]
    dangers = [str(len(one.findings)) for one in assessments]
    rows += [_plain_row("Dangers that forbid it", stops), _plain_row("Findings in all", dangers)]
    powers = [power_rows(one) for one in assessments]
    rows += [_plain_row(powers[0][n][0], [power[n][1] for power in powers]) for n in range(len(powers[0]))]
    return rows


def _target_row(verdicts: Sequence[TargetVerdict], units: Units) -> CompareRow:
    figures = [figure(verdict, units, verdict.value) for verdict in verdicts]
    cells = [
        Cell(words, verdict.word, SHAPES[verdict.word], words != figures[0])
        for words, verdict in zip(figures, verdicts, strict=True)
    ]
    return CompareRow(verdicts[0].label, shown_unit(verdicts[0], units), cells)


def _plain_row(label: str, figures: Sequence[str]) -> CompareRow:
    return CompareRow(label, "", [Cell(words, "", "", words != figures[0]) for words in figures])
