"""Edits of the Animal and the Box & room sheets."""

from mitten.core.catalogue import Catalogue, Presets, load_presets, targets_of
from mitten.core.catalogue.moving import keep_all_inside
from mitten.core.design import FACES, Design
from mitten.core.design.editing import Data, data_of
from mitten.core.design.units import HOURS, BadQuantityError, Units
from mitten.core.design.year import monthly_rooms
from mitten.web.edits.fields import YES, EditError, Typed, at_path, put_at, read_edited, read_fields
from mitten.web.edits.sheet_specs import (
    SHEET_FORMS,
    USUAL_MESH,
    USUAL_MESH_SHARE,
    cooling_specs,
    month_specs,
    year_specs,
)
from mitten.web.edits.target_specs import BEARABLE, DANGERS, RANGES, target_limits, target_quantity

AFTER_DARK = "after:"
COOLING = "schedule.cooling."
COOLING_STARTS = f"{COOLING}starts"
USUAL_COOLING: Data = {"starts": "11-15", "weeks": 8, "ramp_weeks": 2, "day_c": 15.0, "night_c": 10.0}
"""What a cool rest begins as; starting points to verify for the species."""

OWN_FORMS = ("targets", "months", "against", "year")
SHEET_FORM_NAMES = frozenset({*SHEET_FORMS, *OWN_FORMS})
LAYER_ABOVE_MM = 20.0


def edit_sheet(design: Design, catalogue: Catalogue, form: str, typed: Typed, units: Units) -> Design:
    """The design as one of the sheets' forms says.

    Raises:
        EditError: with a sentence beside each field that is refused.
        KeyError: there is no such form.
    """
    own = {"targets": _targets, "months": _months, "against": _against, "year": _year}
    if form in own:
        return own[form](design, catalogue, typed, units)
    data = data_of(design)
    before = at_path(data, "schedule") or {}
    sentences = read_fields(
        data, [spec for spec in SHEET_FORMS[form](design, catalogue) if spec.key != "lid"], typed, units
    )
    sentences |= {} if form != "day" else _after_dark(data, before, typed, units)
    if sentences:
        raise EditError(form, sentences, typed)
    if data["animal"]["species"] != design.animal.species:
        data["animal"]["targets"] = {}  # They were for another animal.
    if form == "lid":
        _change_lid(design, data, typed.get("lid", ""))
    keep_all_inside(data, catalogue)
    return read_edited(form, data, typed, units, catalogue, before=design)


def _after_dark(data: Data, before: Data, typed: Typed, units: Units) -> dict[str, str]:
    """Hours that sources run on; the schedule is set by its first figure, so that none is guessed."""
    sentences, hours = {}, dict(before.get("after_dark_h", {}))
    for key, text in typed.items():
        if key.startswith(AFTER_DARK):
            try:
                hours[key.removeprefix(AFTER_DARK)] = units.read(HOURS, text or "0")
            except BadQuantityError as error:
                sentences[key] = str(error)
    if at_path(data, "schedule") is not None:
        data["schedule"]["after_dark_h"] = {name: value for name, value in hours.items() if value}
    return sentences


def _change_lid(design: Design, data: Data, wanted: str) -> None:
    """Make the lid of the wanted kind, with a usual mesh where it gets one."""
    box = data["enclosure"]
    mesh = box.get("lid_mesh") or USUAL_MESH.model_dump(exclude_none=True)
    if wanted in ("solid", "open"):
        box.pop("lid_mesh", None)
    elif wanted == "mesh":
        box["lid_mesh"] = {"mesh": mesh["mesh"]}
    elif wanted == "part-mesh":
        length_m, depth_m = design.enclosure.length_m, design.enclosure.depth_m
        usual = {
            "x_m": length_m / 2, "y_m": depth_m / 2,
            "length_m": round(USUAL_MESH_SHARE * length_m, 2), "depth_m": round(USUAL_MESH_SHARE * depth_m, 2),
        }  # fmt: skip
        box["lid_mesh"] = usual | mesh
    box["open_top"] = wanted == "open" if wanted else box.get("open_top", False)
    if not (box.get("lid_mesh") or box["open_top"]):
        _bring_in(data)


def _bring_in(data: Data) -> None:
    """Under a solid lid, what hung above it hangs under it."""
    for key in ("heaters", "lights", "uvb"):
        for part in data.get(key, []):
            if part.get("above_mesh"):
                part |= {"above_mesh": False, "z_m": data["enclosure"]["height_m"] - 0.1}


def _targets(design: Design, catalogue: Catalogue, typed: Typed, units: Units) -> Design:
    """The keeper's own figures; those that are the species' own are left to the species."""
    species = catalogue.species[design.animal.species]
    usual, now = species.targets_at(design.animal.stage), targets_of(design.animal, species)
    data, sentences = data_of(design), dict[str, str]()
    for key in RANGES:
        ends = _range(key, now.wants(key), typed, units, sentences)
        put_at(data, f"animal.targets.{key}", None if tuple(ends) == usual.wants(key) else ends)
        bears = _range(f"{BEARABLE}{key}", now.bears(key), typed, units, sentences)
        if f"{BEARABLE}{key}.low" in typed:
            bears = [min(bears[0], ends[0]), max(bears[1], ends[1])]
            put_at(data, f"animal.targets.{BEARABLE}{key}", None if tuple(bears) == usual.bears(key) else bears)
    for key in DANGERS:
        value = _figure(key, key, getattr(now, key), typed, units, sentences)
        put_at(data, f"animal.targets.{key}", None if value == getattr(usual, key) else value)
    if sentences:
        raise EditError("targets", sentences, typed)
    return read_edited("targets", data, typed, units, catalogue, before=design)


def _range(key: str, now: tuple[float, float], typed: Typed, units: Units, sentences: dict[str, str]) -> list[float]:
    """Both ends of a target; the low end says if they are the wrong way round."""
    target = key.removeprefix(BEARABLE)
    low = _figure(f"{key}.low", target, now[0], typed, units, sentences)
    high = _figure(f"{key}.high", target, now[1], typed, units, sentences)
    if low > high and f"{key}.low" not in sentences:
        sentences[f"{key}.low"] = "The low end is above the high end."
    return [low, high]


def _figure(field: str, key: str, now: float, typed: Typed, units: Units, sentences: dict[str, str]) -> float:
    """One figure of a target as typed; what stands there as it was shown stays as it is."""
    quantity = target_quantity(key)
    text = typed.get(field)
    if text is None or text.strip() == units.show(quantity, now):
        return now
    try:
        value = round(units.read(quantity, text), 6)
    except BadQuantityError as error:
        sentences[field] = str(error)
        return now
    low, high = target_limits(key)
    if not low <= value <= high:
        sentences[field] = f"Between {units.show(quantity, low)} and {units.say_with_unit(quantity, high)}."
    return value


def _months(design: Design, catalogue: Catalogue, typed: Typed, units: Units) -> Design:
    """Every month's room; they begin as what winter and summer make of them, and can be given up again."""
    data = data_of(design)
    if typed.get("forget") == YES:
        data["room"].pop("months", None)
        return read_edited("months", data, typed, units, catalogue, before=design)
    data["room"]["months"] = [month.model_dump(exclude_none=True) for month in monthly_rooms(design.room)]
    sentences = read_fields(data, list(month_specs()), typed, units)
    if sentences:
        raise EditError("months", sentences, typed)
    return read_edited("months", data, typed, units, catalogue, before=design)


def _year(design: Design, catalogue: Catalogue, typed: Typed, units: Units) -> Design:
    """How the day changes through the year, and the cool rest; each begins with usual figures."""
    data = data_of(design)
    schedule = data.setdefault("schedule", {"day_hours": design.day_hours})
    specs = [*year_specs(design, catalogue), *cooling_specs(design, catalogue)]
    sentences = read_fields(data, specs, _with_cooling(schedule, typed), units)
    if sentences:
        raise EditError("year", sentences, typed)
    if schedule.get("day_length") == "seasons":
        shortest, longest = targets_of(design.animal, catalogue.species[design.animal.species]).day_hours
        schedule.setdefault("winter_hours", shortest)
        schedule.setdefault("summer_hours", longest)
    return read_edited("year", data, typed, units, catalogue, before=design)


def _with_cooling(schedule: Data, typed: Typed) -> Typed:
    """Put a usual cool rest where one begins, take it out where its beginning was emptied; and the fields that then
    count.
    """
    begins = typed.get(COOLING_STARTS)
    if begins is None:
        return typed
    if begins.strip():
        schedule["cooling"] = {**USUAL_COOLING, **schedule.get("cooling", {})}
        return {key: text for key, text in typed.items() if text.strip() or not key.startswith(COOLING)}
    schedule.pop("cooling", None)
    return {key: text for key, text in typed.items() if not key.startswith(COOLING)}


def _against(design: Design, catalogue: Catalogue, typed: Typed, units: Units) -> Design:
    """Faces that stand against a wall or shelf."""
    data = data_of(design)
    data["enclosure"]["against"] = [face for face in FACES if typed.get(f"against.{face}") == YES]
    return read_edited("against", data, typed, units, catalogue, before=design)


def add_layer(design: Design, catalogue: Catalogue) -> Design:
    """One more layer of the ground's own material under it."""
    data = data_of(design)
    layers = data["substrate"].get("layers", [])
    data["substrate"]["layers"] = [*layers, {"material": design.substrate.material, "depth_mm": LAYER_ABOVE_MM}]
    keep_all_inside(data, catalogue)
    return read_edited("ground", data, {}, Units(), catalogue, before=design)


def remove_layer(design: Design, catalogue: Catalogue, index: int) -> Design:
    """One layer less; without that layer, nothing changes."""
    data = data_of(design)
    data["substrate"]["layers"] = [layer for i, layer in enumerate(data["substrate"].get("layers", [])) if i != index]
    return read_edited("ground", data, {}, Units(), catalogue, before=design)


def apply_preset(design: Design, catalogue: Catalogue, key: str) -> Design:
    """A common box with everything that makes it, or a board for every face but the glass ones.

    Raises:
        EditError: there is no such preset.
    """
    presets, data = load_presets(), data_of(design)
    if key in presets.boxes:
        box = dict(data["enclosure"])
        against = box.get("against", [])
        data["enclosure"] = presets.boxes[key].enclosure.model_dump(mode="json", exclude_none=True) | {
            "against": against
        }
        if data["enclosure"].get("lid_mesh") is None and not data["enclosure"].get("open_top"):
            _bring_in(data)
    elif key in presets.boards:
        _board_all_faces(data, presets, key)
    else:
        raise EditError("preset", {"": "There is no such box or board."}, {})
    keep_all_inside(data, catalogue)
    return read_edited("preset", data, {}, Units(), catalogue, before=design)


def _board_all_faces(data: Data, presets: Presets, key: str) -> None:
    """Every face of the board; a front that is glass stays so that one can look in."""
    board = presets.boards[key].panel.model_dump(exclude_none=True)
    panels = data["enclosure"]["panels"]
    for face in FACES:
        if face != "front" or panels["front"]["material"] not in ("glass", "acrylic"):
            panels[face] = {**board, "insulation_mm": panels[face].get("insulation_mm", 0.0)}
