"""What of a form a keeper has really changed: the rest of it is only what its page had shown."""

from collections.abc import Iterator, Mapping, Sequence

from mitten.core.catalogue import Catalogue, targets_of
from mitten.core.design import Design
from mitten.core.design.editing import Data, data_of
from mitten.core.design.units import HOURS, Units
from mitten.core.design.year import monthly_rooms
from mitten.web.edits.fields import Spec, Typed, shown_value
from mitten.web.edits.part_specs import part_specs
from mitten.web.edits.refs import find_part, part_data
from mitten.web.edits.sheet_specs import SHEET_FORMS, cooling_specs, month_specs, year_specs
from mitten.web.edits.sheets import AFTER_DARK
from mitten.web.edits.target_specs import BEARABLE, DANGERS, RANGES, target_quantity


def really_typed(seen: Design, form: str, typed: Typed, units: Units, catalogue: Catalogue) -> dict[str, str]:
    """The fields of a form that differ from the design that its page had shown; none of a form that is not known."""
    shown = _shown_values(seen, catalogue, form, units)
    return {key: text for key, text in typed.items() if key in shown and text.strip() != shown[key]}


def _shown_values(design: Design, catalogue: Catalogue, form: str, units: Units) -> Mapping[str, str]:
    """What a page shows in every field of a form."""
    if form == "targets":
        return dict(_shown_targets(design, catalogue, units))
    data, specs = _form(design, catalogue, form)
    shown = {spec.key: shown_value(data, spec, units) for spec in specs}
    return shown if form != "day" else shown | dict(_shown_after_dark(design, units))


def _form(design: Design, catalogue: Catalogue, form: str) -> tuple[Data, Sequence[Spec]]:
    data = data_of(design)
    if form == "months":
        data["room"]["months"] = [month.model_dump(exclude_none=True) for month in monthly_rooms(design.room)]
        return data, list(month_specs())
    if form == "year":
        return data, [*year_specs(design, catalogue), *cooling_specs(design, catalogue)]
    if form in SHEET_FORMS:
        return data, list(SHEET_FORMS[form](design, catalogue))
    ref = find_part(design, form)
    return (data, []) if ref is None else (part_data(data, ref), part_specs(design, catalogue, ref))


def _shown_targets(design: Design, catalogue: Catalogue, units: Units) -> Iterator[tuple[str, str]]:
    """Every end of what is wanted and borne, and what is dangerous."""
    targets = targets_of(design.animal, catalogue.species[design.animal.species])
    for key in RANGES:
        for begins, span in (("", targets.wants(key)), (BEARABLE, targets.bears(key))):
            for end, value in zip(("low", "high"), span, strict=True):
                yield f"{begins}{key}.{end}", units.show(target_quantity(key), value)
    for key in DANGERS:
        yield key, units.show(target_quantity(key), getattr(targets, key))


def _shown_after_dark(design: Design, units: Units) -> Iterator[tuple[str, str]]:
    """Hours that each source runs on after dark."""
    hours = design.schedule.after_dark_h if design.schedule else {}
    for part in design.powered:
        yield f"{AFTER_DARK}{part.name}", units.show(HOURS, hours.get(part.name, 0.0))
