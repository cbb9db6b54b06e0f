"""The Box & room sheet."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.catalogue import Catalogue, load_presets
from mitten.core.design import FACES, Design
from mitten.core.design.editing import data_of
from mitten.core.design.units import Units
from mitten.core.design.year import MONTH_NAMES, monthly_rooms
from mitten.draw import box_drawing, box_words, year_strip
from mitten.web.edits import EditError
from mitten.web.edits.fields import Option
from mitten.web.edits.sheet_specs import SHEET_FORMS, month_specs
from mitten.web.views.fields import Field, fields_of


@dataclass(frozen=True)
class PanelRow:
    """One face: material, thickness, insulation, and whether it stands against something."""

    face: str
    fields: Sequence[Field]
    against: bool


@dataclass(frozen=True)
class BoxSheet:
    """Everything the Box & room sheet shows beside the frame."""

    drawing: Markup
    words: str
    presets: Sequence[tuple[str, Sequence[Option]]]
    size: Sequence[Field]
    lid: Sequence[Field]
    panels: Sequence[PanelRow]
    ground: Sequence[Field]
    layers: Sequence[Sequence[Field]]
    room: Sequence[Field]
    place: Sequence[Field]
    months: Sequence[tuple[str, Sequence[Field]]]
    own_months: bool
    year: Markup


LAYERS = "substrate.layers"


def _under(path: str, fields: list[Field]) -> list[Field]:
    """The fields of one thing in the design, by its path."""
    return [field for field in fields if field.key.startswith(path)]


def box_sheet(design: Design, catalogue: Catalogue, units: Units, error: EditError | None) -> BoxSheet:
    """The Box & room sheet of a design, with an edit that was refused beside its fields."""
    data = data_of(design)

    def form(name: str) -> list[Field]:
        wrong = error if error and error.form == name else None
        return fields_of(data, list(SHEET_FORMS[name](design, catalogue)), units, wrong)

    ground, panels = form("ground"), form("panels")
    return BoxSheet(
        drawing=box_drawing(design, catalogue, units),
        words=box_words(design, catalogue, units),
        presets=_presets(units),
        size=form("box"),
        lid=form("lid"),
        panels=[
            PanelRow(face, _under(f"enclosure.panels.{face}.", panels), face in design.enclosure.against)
            for face in FACES
        ],
        ground=[field for field in ground if not field.key.startswith(LAYERS)],
        layers=[_under(f"{LAYERS}[{n}].", ground) for n in range(len(design.substrate.layers))],
        room=form("room"),
        place=form("place"),
        months=_months(design, units, error if error and error.form == "months" else None),
        own_months=bool(design.room.months),
        year=year_strip(monthly_rooms(design.room), units),
    )


def _presets(units: Units) -> list[tuple[str, list[Option]]]:
    presets = load_presets()
    boxes = [Option(key, units.say(one.label)) for key, one in presets.boxes.items()]
    boards = [Option(key, units.say(f"all of {one.label}")) for key, one in presets.boards.items()]
    return [("Boxes", boxes), ("Boards, for every face but a glass front", boards)]


def _months(design: Design, units: Units, error: EditError | None) -> list[tuple[str, list[Field]]]:
    """A row a month; without the keeper's own, what winter and summer make of them."""
    data = data_of(design)
    data["room"]["months"] = [month.model_dump(exclude_none=True) for month in monthly_rooms(design.room)]
    fields = fields_of(data, list(month_specs()), units, error)
    return [(name, fields[2 * n : 2 * n + 2]) for n, name in enumerate(MONTH_NAMES)]
