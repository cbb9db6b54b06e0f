"""The Animal sheet."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.catalogue import STARTING_POINT, Species
from mitten.core.design import Design, Stage
from mitten.core.design.editing import data_of
from mitten.core.design.units import HOURS, LENGTH, MASS, Units
from mitten.core.judge import Assessment
from mitten.draw import needs, sizes
from mitten.web.edits import EditError
from mitten.web.edits.sheet_specs import SHEET_FORMS
from mitten.web.edits.target_specs import BEARABLE, DANGERS, RANGES, target_quantity
from mitten.web.views.fields import Field, fields_of

ACTIVE_WORDS = {"day": "active by day", "dusk": "active at dusk", "night": "active at night"}
CLIMBS_WORDS = {"none": "does not climb", "some": "climbs a little", "strong": "climbs everywhere"}
GIVES_UP = {
    "any": "Any kind of source that reaches the targets.",
    "sunlit": "Heat and light come together, nearest to the sun. It gives up warmth by night, and lamps wear out.",
    "lightless": "Warmth by day and night from one source. It gives up near-infrared and the pattern of a sun: "
    "bright light has to come from elsewhere.",
    "ground": "Warmth from below, cheap and dark. It gives up warm air and anything to bask under; the base under the "
    "ground gets hotter than its top.",
    "one-lamp": "One lamp gives heat, light and perhaps UV. It gives up everything at once when it fails, and cannot "
    "be set for each alone.",
}


@dataclass(frozen=True)
class TargetField:
    """One target: what is wanted and borne as it is in force or was typed, the species' own, and what is wrong."""

    key: str
    label: str
    ends: Sequence[Field]
    bears: Sequence[Field]
    unit: str
    usual: str
    own: bool
    origin: str


@dataclass(frozen=True)
class AnimalSheet:
    """Everything the Animal sheet shows beside the frame."""

    name: Sequence[Field]
    choice: Sequence[Field]
    day: Sequence[Field]
    after_dark: Sequence[Field]
    latin: str
    habits: str
    gives_up: str
    targets: Sequence[TargetField]
    dangers: Sequence[TargetField]
    needs: Markup
    sizes: Markup
    species_key: str


def animal_sheet(design: Design, assessment: Assessment, units: Units, error: EditError | None) -> AnimalSheet:
    """The Animal sheet of a design, with an edit that was refused beside its fields."""
    data, species, stage = data_of(design), assessment.species, design.animal.stage

    def form(name: str) -> list[Field]:
        wrong = error if error and error.form == name else None
        return fields_of(data, list(SHEET_FORMS[name](design, assessment.catalogue)), units, wrong)

    wrong = error if error and error.form == "targets" else None
    return AnimalSheet(
        name=form("name"),
        choice=form("animal"),
        day=form("day"),
        after_dark=_after_dark(design, units, error if error and error.form == "day" else None),
        latin=species.latin,
        habits=_habits(species, stage, units),
        gives_up=GIVES_UP[design.approach],
        targets=[_target(key, label, assessment, units, wrong) for key, label in RANGES.items()],
        dangers=[_target(key, label, assessment, units, wrong) for key, label in DANGERS.items()],
        needs=needs(assessment.targets, units),
        sizes=sizes(species, stage, units),
        species_key=design.animal.species,
    )


def _habits(species: Species, stage: Stage, units: Units) -> str:
    box = " × ".join(units.show(LENGTH, side) for side in species.least_box_at(stage))
    ways = [
        ACTIVE_WORDS[species.active],
        "basks" if species.basks else "seldom basks",
        *(["burrows"] if species.burrows else []),
        CLIMBS_WORDS[species.climbs],
    ]
    long, heavy = species.body_length_m(stage), species.mass_g.at(stage)
    body = f"{units.say_with_unit(LENGTH, long)} long, {units.say_with_unit(MASS, heavy)}"
    return f"{', '.join(ways)[:1].upper()}{', '.join(ways)[1:]}. {body}. Least box {box} {units.unit_of(LENGTH)}."


def _after_dark(design: Design, units: Units, error: EditError | None) -> list[Field]:
    """Hours that each source runs on after dark."""
    hours = design.schedule.after_dark_h if design.schedule else {}
    found = []
    for part in design.powered:
        key = f"after:{part.name}"
        value = units.show(HOURS, hours.get(part.name, 0.0))
        typed, fault = (error.typed.get(key, value), error.sentences.get(key, "")) if error else (value, "")
        found.append(Field(key, f"{part.name} runs on for", "number", typed, "h", fault=fault))
    return found


def _target(key: str, label: str, assessment: Assessment, units: Units, error: EditError | None) -> TargetField:
    species, animal, targets = assessment.species, assessment.design.animal, assessment.targets
    usual = species.targets_at(animal.stage)
    if key not in RANGES:
        ends = [_end(key, label, getattr(targets, key), units, error)]
        words = units.show(target_quantity(key), getattr(usual, key))
        return _target_field(key, label, ends, (), words, assessment, units)
    wants = _both_ends(key, label, targets.wants(key), units, error)
    bears = _both_ends(f"{BEARABLE}{key}", f"{label}, bearable", targets.bears(key), units, error)
    words = f"{_span(key, usual.wants(key), units)} ({_span(key, usual.bears(key), units)})"
    return _target_field(key, label, wants, bears, words, assessment, units)


def _target_field(
    key: str, label: str, wants: Sequence[Field], bears: Sequence[Field], words: str, assessment: Assessment,
    units: Units,
) -> TargetField:  # fmt: skip
    own_targets = assessment.design.animal.targets
    own = getattr(own_targets, key) is not None or getattr(own_targets.bearable, key, None) is not None
    origin = "your own" if own else assessment.species.origin_of(f"targets.{key}")
    unit = units.unit_of(target_quantity(key))
    return TargetField(key, label, wants, bears, unit, words, own, origin or STARTING_POINT)


def _span(key: str, span: tuple[float, float], units: Units) -> str:
    return "–".join(units.show(target_quantity(key), end) for end in span)


def _both_ends(
    key: str, label: str, span: tuple[float, float], units: Units, error: EditError | None
) -> list[Field]:  # fmt: skip
    ends = zip(("low", "high"), span, strict=True)
    return [_end(f"{key}.{end}", f"{label}, {end} end", value, units, error) for end, value in ends]


def _end(key: str, label: str, value: float, units: Units, error: EditError | None) -> Field:
    """One end of a range as it is in force, or as it was typed and refused."""
    quantity = target_quantity(key.removeprefix(BEARABLE).partition(".")[0])
    shown = units.show(quantity, value)
    typed, fault = (error.typed.get(key, shown), error.sentences.get(key, "")) if error else (shown, "")
    return Field(key, label, "number", typed, fault=fault)
