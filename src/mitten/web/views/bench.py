"""The bench: the frame around every sheet of an enclosure, and the Heat sheet itself."""

import re
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass
from functools import cache
from itertools import groupby
from pathlib import Path

from markupsafe import Markup

from mitten.core.catalogue import Catalogue
from mitten.core.design import Design
from mitten.core.design.editing import data_of
from mitten.core.design.units import TEMPERATURE, Units
from mitten.core.judge import NAMED, Assessment, Condition, seasonal, usual
from mitten.core.judge.days import SEASONS
from mitten.core.judge.targets import harms_somewhere
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.climate import Climate
from mitten.draw import box_drawing, heat_sheet, legend, needs
from mitten.draw.standalone import standalone
from mitten.store import Shelved
from mitten.web.assessments import Assessments
from mitten.web.at import MAIN_CONDITION, At
from mitten.web.edits import EditError, PartRef, find_part, parts_of
from mitten.web.edits.fields import Option
from mitten.web.edits.sheet_specs import SHEET_FORMS
from mitten.web.views.animal import AnimalSheet, animal_sheet
from mitten.web.views.box import BoxSheet, box_sheet
from mitten.web.views.checklist import Checklist, checklist_view
from mitten.web.views.control import ControlSheet, control_sheet
from mitten.web.views.fields import Field, fields_of
from mitten.web.views.parts import FURNITURE, Chip, PartPanel, addable, chips, panel_of, step_words
from mitten.web.views.place import PlaceView, place_view
from mitten.web.views.steps import Step, steps_of
from mitten.web.views.twin import drawing_table
from mitten.web.views.verdict import Margin, margin
from mitten.web.views.year import YearSheet, year_sheet

SHEET_WORDS = {
    "heat": "Heat",
    "animal": "Animal",
    "box": "Box & room",
    "control": "Control",
    "check": "Check",
    "day": "Day",
    "year": "Year",
}
IN_TIME = ("control", "check", "day", "year")
"""Sheets whose insides take longer, and are asked for by themselves."""

ROOM_SLIDE_C = (0.0, 40.0)
STYLES = Path(__file__).parents[1] / "static" / "drawing.css"


@cache
def drawing_styles() -> str:
    """The styles of drawings, for those that are saved as files."""
    return STYLES.read_text(encoding="utf-8")


@dataclass(frozen=True)
class Tab:
    """One condition above the sheet."""

    name: str
    label: str
    room: str
    shown: bool
    missed: int

    @property
    def season(self) -> str:
        """Winter, summer, or usual."""
        return self.label.partition(" ")[0]

    @property
    def time(self) -> str:
        """Day or night."""
        return self.label.partition(" ")[2]


@dataclass(frozen=True)
class FailureEntry:
    """One entry of the failures menu: a condition in which something has failed."""

    name: str
    label: str
    shown: bool


@dataclass(frozen=True)
class BenchView:
    """Everything the page of an enclosure shows."""

    shelved: Shelved
    at: At
    shown: Condition
    notice: str
    steps: Sequence[Step]
    tabs: Sequence[Tab]
    failures: Sequence[FailureEntry]
    room: Sequence[Field]
    room_slide: tuple[float, float, float]
    room_shown: str
    drawing: Markup
    legend: Markup
    hatched: bool
    chips: Sequence[Chip]
    part: PartPanel | None
    addable: Sequence[tuple[str, Sequence[Option]]]
    regulates: bool
    step_words: str
    place: PlaceView | None
    animal: AnimalSheet | None
    box: BoxSheet | None
    control: ControlSheet | None
    year: YearSheet | None
    margin: Margin
    checklist: Checklist
    table: Sequence[tuple[str, str]]

    @property
    def path(self) -> str:
        """Address of the enclosure."""
        return f"/enclosures/{self.shelved.id}"

    @property
    def sheet_words(self) -> str:
        """The sheet as it is called."""
        return SHEET_WORDS[self.at.sheet]

    @property
    def title(self) -> str:
        """Title of the page: enclosure and sheet."""
        return f"{self.shelved.design.name} · {self.sheet_words} · Mitten"

    @property
    def query(self) -> str:
        """What the address carries on: sheet, condition and part."""
        return self.at.query()

    @property
    def seasons(self) -> list[tuple[str, str, bool]]:
        """The seasons of the sheets in time: label, end of the address, and whether it is shown."""
        return [
            (season.capitalize(), self.at.query(condition=f"{season}-day"), season == self.at.season)
            for season in SEASONS
        ]

    @property
    def back(self) -> str:
        """The same as ``query``, back from a condition that is looked at to those that are judged."""
        return self.at.query(condition=back_from(self.at.condition))

    @property
    def failure_words(self) -> str:
        """What has failed in the condition that is shown."""
        return next((failure.label for failure in self.failures if failure.shown), "")

    @property
    def tabs_by_season(self) -> list[tuple[str, list[Tab]]]:
        """The conditions above the sheet by season: day and night of each."""
        return [(season, list(tabs)) for season, tabs in groupby(self.tabs, lambda tab: tab.season)]

    @property
    def is_explicit_room(self) -> bool:
        """Whether the room is set by the slider."""
        return self.shown.name.startswith("room=")

    @property
    def file_name(self) -> str:
        """The enclosure's name as a file's."""
        return re.sub(r"[^a-z0-9]+", "-", self.shelved.design.name.lower()).strip("-") or "enclosure"

    @property
    def standalone_drawing(self) -> str:
        """The drawing of the sheet, to be saved."""
        return standalone(self.drawing, drawing_styles())


def bench_view(
    shelved: Shelved, assessments: Assessments, ticks: Sequence[str], at: At, units: Units,
    catalogue: Catalogue, error: EditError | None = None,
) -> BenchView:  # fmt: skip
    """The page of an enclosure: a sheet under one condition, with an edit that was refused beside its field."""
    design, shown = shelved.design, at.condition_of(shelved.design)
    assessment = assessments.of(design)
    climate, untold = _shown_climate(design, assessments, shown)
    ref = _shown_part(design, at, error)
    at = At(at.sheet, shown.name, str(ref) if ref else "")
    panel = panel_of(design, climate, ref, units, _for(error, str(ref))) if ref else None
    return BenchView(
        shelved=shelved,
        at=at,
        shown=shown,
        notice=_notice(error) or untold,
        steps=steps_of(design, assessment, at),
        tabs=[_tab(condition, shown, assessment, units) for condition in (*seasonal(design), *usual(design))],
        failures=_failures(design, shown),
        room=fields_of(data_of(design), list(SHEET_FORMS["room"](design, catalogue)), units, _for(error, "room")),
        room_slide=(*ROOM_SLIDE_C, shown.room_c),
        room_shown=f"{units.degrees(shown.room_c)} {units.unit_of(TEMPERATURE)}",
        drawing=_drawing(design, climate, assessment, at, units, error),
        legend=legend(units),
        hatched=harms_somewhere(climate, assessment.targets),
        chips=chips(design, climate, ref, at.sheet, units),
        part=panel,
        addable=_by_group(addable(at.sheet, catalogue)),
        regulates=bool(ref and ref.name in climate.controls and ref.collection == "controls"),
        step_words=step_words(units),
        place=place_view(climate, units) if at.sheet == "heat" else None,
        animal=animal_sheet(design, assessment, units, error) if at.sheet == "animal" else None,
        box=box_sheet(design, catalogue, units, error) if at.sheet == "box" else None,
        control=control_sheet(design, catalogue, units, assessment.findings) if at.sheet == "control" else None,
        year=_year(design, catalogue, at, units, error),
        margin=_margin(design, shown, assessments, units),
        checklist=checklist_view(design, catalogue, ticks),
        table=drawing_table(design, climate, at.sheet, units),
    )


def _year(design: Design, catalogue: Catalogue, at: At, units: Units, error: EditError | None) -> YearSheet | None:
    return year_sheet(design, catalogue, units, _for(error, "year")) if at.sheet == "year" else None


def _margin(design: Design, shown: Condition, assessments: Assessments, units: Units) -> Margin:
    """The verdict of the seasons with what is known of it by now, or of the one condition that is looked at."""
    if is_explored(shown):
        with suppress(UnsolvedError):
            return margin(assessments.in_condition(design, shown), units)
    kept = assessments.sure_of(design, compute=False), assessments.fixes_of(design, compute=False)
    return margin(assessments.of(design), units, *kept)


def back_from(condition: str) -> str:
    """The season that a failure was looked at in; the main one for a room of the keeper's own."""
    base = condition.partition("+")[0]
    return base if base in NAMED else MAIN_CONDITION


def is_explored(shown: Condition) -> bool:
    """Whether a condition is none of those that are judged: something has failed, or the room is another."""
    return shown.name not in NAMED


def _notice(error: EditError | None) -> str:
    """What is said of a refused edit over the whole form."""
    return error.sentences.get("", "") if error else ""


def _shown_climate(design: Design, assessments: Assessments, shown: Condition) -> tuple[Climate, str]:
    """The climate of the condition that is shown; where it has none, the nearest that there is, and why."""
    try:
        return assessments.climate(design, shown), ""
    except UnsolvedError as error:
        known = assessments.of(design)
        nearest = known.climate(shown.name)
        return nearest, f"{shown.label} could not be worked out. {error} Another condition is drawn."


def _shown_part(design: Design, at: At, error: EditError | None) -> PartRef | None:
    """The part in the inspector: the one whose edit was refused, else the one asked for, else the sheet's first."""
    refused = find_part(design, error.form) if error else None
    found = refused or (find_part(design, at.part) if at.part else None)
    allowed = [ref for ref in parts_of(design) if at.sheet == "heat" or ref.collection in FURNITURE]
    if found in allowed:
        return found
    return next((ref for ref in allowed if at.sheet == "box" or ref.collection != "vents"), None)


def _drawing(
    design: Design, climate: Climate, assessment: Assessment, at: At, units: Units, error: EditError | None
) -> Markup:
    if at.sheet in IN_TIME:
        return Markup()
    if at.sheet == "animal":
        return needs(assessment.targets, units)
    if at.sheet == "box":
        return box_drawing(design, climate.catalogue, units)
    troubled = error.troubled if error else frozenset[str]()
    return heat_sheet(climate, assessment.targets, units, at.part, troubled | assessment.troubled)


def _by_group(options: Sequence[Option]) -> list[tuple[str, list[Option]]]:
    groups: dict[str, list[Option]] = {}
    for option in options:
        groups.setdefault(option.group, []).append(option)
    return list(groups.items())


def _for(error: EditError | None, form: str) -> EditError | None:
    return error if error is not None and error.form == form else None


def _tab(condition: Condition, shown: Condition, assessment: Assessment, units: Units) -> Tab:
    missed = len(list(assessment.missed_in(condition.name)))
    room = f"{units.show(TEMPERATURE, condition.room_c)}°"
    return Tab(condition.name, condition.label, room, condition == shown, missed)


def _failures(design: Design, shown: Condition) -> list[FailureEntry]:
    """Every thermostat stuck on, and each source and light dead, at the time of the condition that is shown."""
    base = shown.name.partition("+")[0]
    found = []
    if any(control.is_thermostat for control in design.controls):
        found.append((f"{base}+stuck-on", "Every thermostat stuck on"))
    found += [(f"{base}+dead:{part.name}", f"'{part.name}' dead") for part in design.powered]
    return [FailureEntry(name, label, name == shown.name) for name, label in found]
