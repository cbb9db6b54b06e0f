"""The Start page: five questions, and the enclosure that their answers make."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from mitten.core.catalogue import Catalogue, Species, load_presets
from mitten.core.catalogue.moving import keep_all_inside
from mitten.core.design import Design, Enclosure, Stage
from mitten.core.design.amounts import around_amount
from mitten.core.design.editing import Data, data_of
from mitten.core.design.units import LENGTH, Units
from mitten.core.plan.hard import hard_box, hard_room
from mitten.core.plan.search import Owned
from mitten.core.plan.usual_box import construction, resize, usual_box
from mitten.web.edits.fields import EditError, Option, Spec, Typed, noun_limits, read_edited, read_fields
from mitten.web.edits.sheet_specs import room_specs
from mitten.web.edits.sheets import apply_preset
from mitten.web.new import new_design
from mitten.web.views.fields import Field, fields_of
from mitten.web.views.plans import gear_words
from mitten.web.views.shelf import species_groups

FIRST_SPECIES, LEAST_BOX = "collared-lizard", "least"
STAGES: tuple[Stage, ...] = ("hatchling", "juvenile", "adult")
GEAR = ("any", "owned", "owned-and-one")
FORM = "start"
SIZE = [
    Spec(key, label, "number", LENGTH, limits=noun_limits(Enclosure, key), optional=True, placeholder="as chosen")
    for key, label in (("length_m", "Length inside"), ("depth_m", "Depth inside"), ("height_m", "Height inside"))
]


@dataclass(frozen=True)
class StartView:
    """The page, with what was typed and what is wrong with it."""

    species: Sequence[tuple[str, Sequence[Option]]]
    boxes: Sequence[Option]
    size: Sequence[Field]
    rooms: Sequence[Field]
    typed: Mapping[str, str]
    owned: Sequence[str]
    faults: Sequence[str]
    hard: Mapping[str, Sequence[str]]
    """What makes the answers hard, by the question: ``box`` and ``room``."""


def start_view(
    typed: Typed, owned: Sequence[Owned], units: Units, catalogue: Catalogue, error: EditError | None = None
) -> StartView:
    """The page as it is first seen, or after an answer that could not be taken."""
    answers = {"species": FIRST_SPECIES, "stage": "adult", "box": LEAST_BOX, "gear": "any", **typed}
    design = new_design(FIRST_SPECIES, catalogue)
    rooms = fields_of(data_of(design), _room(design, catalogue), units, error)
    size = fields_of({}, SIZE, units, error)
    said = [gear_words(one, catalogue) for one in owned]
    faults = [sentence for key, sentence in (error.sentences if error else {}).items() if not key]
    return StartView(
        species_groups(catalogue),
        _boxes(answers, units, catalogue),
        size,
        rooms,
        answers,
        said,
        faults,
        hard_choices(typed, units, catalogue),
    )


def hard_choices(typed: Typed, units: Units, catalogue: Catalogue) -> Mapping[str, Sequence[str]]:
    """What makes the answers hard, said beside each; nothing while one of them is none."""
    try:
        design = design_from_answers(typed, units, catalogue)
    except EditError:
        return {"box": [], "room": []}
    found = {"box": hard_box(design, catalogue), "room": hard_room(design, catalogue)}
    return {question: [units.say(one) for one in sentences] for question, sentences in found.items()}


def _boxes(answers: Typed, units: Units, catalogue: Catalogue) -> list[Option]:
    """The least box of the animal at its age as it is usually made, then common ones."""
    species = _species(answers, catalogue)
    box, stage = usual_box(species, _stage(answers)), _stage(answers)
    size = " × ".join(units.show(LENGTH, side) for side in (box.length_m, box.depth_m, box.height_m))
    kind, lid = around_amount(load_presets().boxes[construction(species)].label)
    least = f"least for {'an' if stage == 'adult' else 'a'} {stage}: {kind}{size} {units.unit_of(LENGTH)}{lid}"
    return [Option(LEAST_BOX, least), *(Option(key, units.say(one.label)) for key, one in load_presets().boxes.items())]


def _species(typed: Typed, catalogue: Catalogue) -> Species:
    known = catalogue.species
    return known.get(typed.get("species", ""), known[FIRST_SPECIES])


def _stage(typed: Typed) -> Stage:
    return next((stage for stage in STAGES if stage == typed.get("stage")), "adult")


def _room(design: Design, catalogue: Catalogue) -> list[Spec]:
    """Day and night of winter and summer."""
    return [spec for spec in room_specs(design, catalogue) if not spec.rare][:4]


def design_from_answers(typed: Typed, units: Units, catalogue: Catalogue) -> Design:
    """The enclosure of the answers: the animal, its stage, the box, and the room.

    Raises:
        EditError: a temperature is no temperature, or something does not fit.
    """
    species, box = typed.get("species", ""), typed.get("box", "")
    design = new_design(species if species in catalogue.species else FIRST_SPECIES, catalogue)
    data: Data = data_of(design)
    data["animal"]["stage"] = _stage(typed)
    if box not in load_presets().boxes:
        least = usual_box(catalogue.species[design.animal.species], _stage(typed))
        data["enclosure"] = least.model_dump(mode="json", exclude_none=True)
    size: Data = {}
    sentences = read_fields(data, _room(design, catalogue), typed, units) | read_fields(size, SIZE, typed, units)
    if sentences:
        raise EditError(FORM, sentences, typed)
    read = read_edited(FORM, data, typed, units, catalogue)
    return _of_size(
        apply_preset(read, catalogue, box) if box in load_presets().boxes else read, catalogue, size, typed, units
    )


def _of_size(design: Design, catalogue: Catalogue, size: Data, typed: Typed, units: Units) -> Design:
    """The enclosure in the inside size that was typed; sides that were not stay as they are.

    Raises:
        EditError: it does not fit.
    """
    box = design.enclosure
    sides = [size.get(key) or getattr(box, key) for key in ("length_m", "depth_m", "height_m")]
    data = data_of(design.model_copy(update={"enclosure": resize(box, *sides)}))
    keep_all_inside(data, catalogue)
    return read_edited(FORM, data, typed, units, catalogue)
