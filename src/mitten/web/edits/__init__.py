"""Edits of an enclosure: what was typed, dragged or chosen, into a new design or a sentence beside the field."""

from mitten.core.catalogue.moving import Coordinates
from mitten.web.edits.fields import EditError
from mitten.web.edits.moves import align_part, move_part
from mitten.web.edits.parts import LED, NEW_VENT, add_part, apply_fix, copy_part, edit_part, remove_part
from mitten.web.edits.refs import PartRef, find_part, parts_of
from mitten.web.edits.sheets import SHEET_FORM_NAMES, add_layer, apply_preset, edit_sheet, remove_layer
from mitten.web.edits.words import summary_of

__all__ = [
    "LED",
    "NEW_VENT",
    "SHEET_FORM_NAMES",
    "Coordinates",
    "EditError",
    "PartRef",
    "add_layer",
    "add_part",
    "align_part",
    "apply_fix",
    "apply_preset",
    "copy_part",
    "edit_part",
    "edit_sheet",
    "find_part",
    "move_part",
    "parts_of",
    "remove_layer",
    "remove_part",
    "summary_of",
]
