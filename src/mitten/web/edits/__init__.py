"""Edits of the Heat page: what was typed, into a new design or a sentence beside the field."""

from mitten.web.edits.control import NEW_CONTROL, edit_control
from mitten.web.edits.forms import ControlForm, EditError, HeaterForm, LightForm, RoomForm
from mitten.web.edits.heater import edit_heater, height_limits_cm
from mitten.web.edits.parts import LED, Collection, add_part, apply_fix, edit_light, edit_room, remove_part
from mitten.web.edits.words import summary_of

__all__ = [
    "LED",
    "NEW_CONTROL",
    "Collection",
    "ControlForm",
    "EditError",
    "HeaterForm",
    "LightForm",
    "RoomForm",
    "add_part",
    "apply_fix",
    "edit_control",
    "edit_heater",
    "edit_light",
    "edit_room",
    "height_limits_cm",
    "remove_part",
    "summary_of",
]
