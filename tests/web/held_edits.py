"""What every form does with what may be typed into it, as lines that can be kept and compared."""

from collections.abc import Callable, Iterator, Mapping
from functools import partial
from typing import Any, Literal

from mitten.core.design import Design, MittenError
from mitten.core.design.editing import data_of
from mitten.core.design.units import METRIC, US, Units
from mitten.core.plan.changing.change import MOISTURES, ChangeKind
from mitten.web.edits import (
    LED,
    NEW_VENT,
    SHEET_FORM_NAMES,
    EditError,
    PartRef,
    add_layer,
    add_part,
    align_part,
    apply_fix,
    apply_preset,
    copy_part,
    edit_part,
    edit_sheet,
    move_part,
    parts_of,
    remove_layer,
    remove_part,
    summary_of,
)
from mitten.web.edits.fields import Spec, limits_sentence, shown_value
from mitten.web.edits.part_specs import ROLE_WORDS, part_specs
from mitten.web.edits.refs import part_data
from mitten.web.edits.sheet_specs import SHEET_FORMS
from tests.catalogue import CATALOGUE

TYPED: Mapping[str, tuple[str, ...]] = {
    "text": ("Another", ""), "time": ("7:30", "8pm", "25:00", ""), "month-day": ("3 March", "31 feb", ""),
    "date": ("2026-03-01", "soon", ""), "whole": ("3", "2.5", "-1", ""),
}  # fmt: skip
"""What is typed into fields of each kind; into those of numbers also what their limits are."""

OPTIONS = 9
"""Of longer menus so many, evenly."""

BETWEEN = 0.37
BEYOND = 1.3
PLACES: tuple[Mapping[Literal["x_m", "y_m", "z_m"], float], ...] = (
    {"x_m": 0.2},
    {"x_m": 0.55, "y_m": 0.2},
    {"z_m": 0.31},
    {"x_m": -0.3},
    {"x_m": 9.0, "y_m": 9.0, "z_m": 9.0},
)
FIXES: tuple[tuple[ChangeKind, float], ...] = (
    ("height", 0.35), ("watts", 60.0), ("setpoint", 29.0), ("room", 22.0), ("vents", 2.0), ("misting", 150.0),
    ("moisture", float(len(MOISTURES) - 1)), ("dish", 0.3), ("uv-height", 0.4), ("insulation", 30.0), ("length", 1.5),
    ("place", 0.4), ("hide", 0.3), ("night-source", 60.0), ("day-length", 11.0), ("along", 0.4), ("probe", 0.0),
    ("probe", -1.0), ("thermostat", 29.0), ("day-lamp", 50.0), ("cover", 0.5), ("new-dish", 0.3), ("uv-along", 0.4),
    ("uv-side", 0.35), ("uv-new", 0.4), ("mesh", 1.0),
)  # fmt: skip
NAMES_OF_FIXES = (
    "", "winter-day", "Main lamp", "UV tube", "Thermostat", "Thermostat:day", "Thermostat:summer.night",
    "Thermostat:winter.day", "Ledge", "water", "uvb-tube", "Nothing",
)  # fmt: skip
PRESETS = ("tub-80", "tank-120", "melamine-120", "mesh-cage-60", "panels:plywood", "nothing")

Edit = Callable[[Design], Design | tuple[Design, PartRef]]


def typed_into(spec: Spec, units: Units) -> Iterator[str]:
    """What may be typed into a field or chosen in it."""
    if spec.options and spec.kind not in ("number", "slider"):
        every = max(len(spec.options) // OPTIONS, 1)
        yield from (option.value for option in spec.options[::every])
        return
    if spec.kind in TYPED:
        yield from TYPED[spec.kind]
        return
    low, high = spec.limits or (0.0, 20.0)
    between = low + BETWEEN * (high - low)
    yield from (units.show(spec.quantity, one) for one in (low, between, high, high * BEYOND + 1.0))
    yield from ("many", "", "12,5")


def done(design: Design, edit: Edit) -> str:
    """What an edit did, or why it was refused."""
    try:
        made = edit(design)
        return summary_of(design, made if isinstance(made, Design) else made[0], CATALOGUE)
    except EditError as refused:
        blocked = f" ({', '.join(sorted(refused.troubled))})" if refused.troubled else ""
        return " ".join(f"! {key}: {words}" for key, words in refused.sentences.items()) + blocked
    except (MittenError, KeyError, ValueError) as error:
        return f"!! {type(error).__name__}"


def fields_of(design: Design, units: Units) -> Iterator[tuple[str, str]]:
    """Every field of every form as it is shown."""
    data = data_of(design)
    for form, specs in SHEET_FORMS.items():
        for spec in specs(design, CATALOGUE):
            yield f"{form} {spec.key}", _as_shown(spec, data, units)
    for ref in parts_of(design):
        for spec in part_specs(design, CATALOGUE, ref):
            yield f"{ref} {spec.key}", _as_shown(spec, part_data(data, ref), units)


def _as_shown(spec: Spec, data: dict[str, object], units: Units) -> str:
    every = max(len(spec.options) // OPTIONS, 1)
    options = "|".join(f"{one.value}{'' if one.allowed else '-'} {one.label}" for one in spec.options[::every])
    limits = limits_sentence(spec, units) if spec.limits else ""
    shown = [spec.label, spec.kind, shown_value(data, spec, units), limits, spec.placeholder, options]
    return "; ".join([*shown, *(["rare"] if spec.rare else []), *(["may be empty"] if spec.optional else [])])


def edits_of_parts(design: Design, units: Units) -> Iterator[tuple[str, str]]:
    """Every field of every part with what may be typed into it."""
    for ref in parts_of(design):
        for spec in part_specs(design, CATALOGUE, ref):
            for text in typed_into(spec, units):
                edit = partial(edit_part, catalogue=CATALOGUE, ref=ref, typed={spec.key: text}, units=units)
                yield f"{ref} {spec.key}={text}", done(design, edit)


def edits_of_sheets(design: Design, units: Units) -> Iterator[tuple[str, str]]:
    """Every field of the sheets' forms."""
    for form in SHEET_FORM_NAMES:
        for spec in SHEET_FORMS[form](design, CATALOGUE) if form in SHEET_FORMS else ():
            for text in typed_into(spec, units):
                edit = partial(edit_sheet, catalogue=CATALOGUE, form=form, typed={spec.key: text}, units=units)
                yield f"{form} {spec.key}={text}", done(design, edit)


def acts_on(design: Design) -> Iterator[tuple[str, str]]:
    """What is added, copied, moved, put right, taken out."""
    known: Mapping[str, Any] = {"catalogue": CATALOGUE}
    for what in (*CATALOGUE.sources, *CATALOGUE.uvb, *ROLE_WORDS, LED, NEW_VENT, "nothing"):
        yield f"add {what}", done(design, partial(add_part, what=what, **known))
    for ref in parts_of(design):
        for act in (copy_part, remove_part, align_part):
            yield f"{act.__name__} {ref}", done(design, partial(act, ref=ref, **known))
        for to in PLACES:
            yield f"move {ref} {to}", done(design, partial(move_part, ref=ref, to=to, **known))
    yield "add layer", done(design, partial(add_layer, **known))
    yield "take layer out", done(design, partial(remove_layer, index=0, **known))
    for key in PRESETS:
        yield f"preset {key}", done(design, partial(apply_preset, key=key, **known))
    for kind, value in FIXES:
        for name in NAMES_OF_FIXES:
            edit = partial(apply_fix, kind=kind, name=name, value=value, **known)
            yield f"fix {kind} {name} {value:g}", done(design, edit)


def held_of(design: Design, units: Units) -> dict[str, dict[str, str]]:
    """All of it; in the other units only what is shown and typed."""
    found = {"fields": dict(fields_of(design, units)), "parts": dict(edits_of_parts(design, units))}
    if units is not US:
        found |= {"sheets": dict(edits_of_sheets(design, units)), "acts": dict(acts_on(design))}
    return found


HELD = [("Quarry ledge", METRIC), ("Glass canyon", METRIC), ("Attic terrarium", METRIC), ("Sand tub", METRIC),
        ("Olive table", METRIC), ("Coast box", METRIC), ("Coast box", US)]  # fmt: skip
