"""The Start page: five questions, and the enclosure that their answers make."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from mitten.core.catalogue import load_catalogue, load_presets
from mitten.core.design import Design
from mitten.core.design.units import Units
from mitten.core.plan.search import Owned
from mitten.web.edits.fields import Data, EditError, Option, Spec, Typed, data_of, read_edited, read_fields
from mitten.web.edits.sheet_specs import room_specs
from mitten.web.edits.sheets import apply_preset
from mitten.web.new import new_design
from mitten.web.views.fields import Field, fields_of
from mitten.web.views.plans import gear_words
from mitten.web.views.shelf import species_groups

FIRST_SPECIES, FIRST_BOX = "collared-lizard", "tank-90"
STAGES = ("hatchling", "juvenile", "adult")
GEAR = ("any", "owned", "owned-and-one")
FORM = "start"


@dataclass(frozen=True)
class StartView:
    """The page, with what was typed and what is wrong with it."""

    species: Sequence[tuple[str, Sequence[Option]]]
    boxes: Sequence[Option]
    rooms: Sequence[Field]
    typed: Mapping[str, str]
    owned: Sequence[str]
    faults: Sequence[str]


def start_view(typed: Typed, owned: Sequence[Owned], units: Units, error: EditError | None = None) -> StartView:
    """The page as it is first seen, or after an answer that could not be taken."""
    answers = {"species": FIRST_SPECIES, "stage": "adult", "box": FIRST_BOX, "gear": "any", **typed}
    design = new_design(FIRST_SPECIES)
    boxes = [Option(key, box.label) for key, box in load_presets().boxes.items()]
    rooms = fields_of(data_of(design), _room(design), units, error)
    said = [gear_words(one) for one in owned]
    faults = [sentence for key, sentence in (error.sentences if error else {}).items() if not key]
    return StartView(species_groups(), boxes, rooms, answers, said, faults)


def _room(design: Design) -> list[Spec]:
    """Day and night of winter and summer."""
    return [spec for spec in room_specs(design) if not spec.rare][:4]


def started(typed: Typed, units: Units) -> Design:
    """The enclosure of the answers: the animal, its stage, the box, and the room.

    Raises:
        EditError: a temperature is no temperature, or something does not fit.
    """
    species = typed.get("species", "")
    design = new_design(species if species in load_catalogue().species else FIRST_SPECIES)
    box = typed.get("box", "")
    design = apply_preset(design, box if box in load_presets().boxes else FIRST_BOX)
    data: Data = data_of(design)
    sentences = read_fields(data, _room(design), typed, units)
    if sentences:
        raise EditError(FORM, sentences, typed)
    stage = typed.get("stage", "adult")
    data["animal"]["stage"] = stage if stage in STAGES else "adult"
    return read_edited(FORM, data, typed, units)
