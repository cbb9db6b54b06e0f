"""What of a form a keeper has really changed: the rest of it is only what its page had shown."""

from collections.abc import Sequence

from mitten.core.design import Design
from mitten.core.design.units import Units
from mitten.web.edits.fields import Data, Spec, Typed, data_of, shown_value
from mitten.web.edits.part_specs import part_specs
from mitten.web.edits.refs import find_part, part_data
from mitten.web.edits.sheet_specs import SHEET_FORMS


def really_typed(seen: Design, form: str, typed: Typed, units: Units) -> dict[str, str]:
    """The fields of a form that differ from the design that its page had shown; none of a form that is not known."""
    data, specs = _form(seen, form)
    shown = {spec.key: shown_value(data, spec, units) for spec in specs}
    return {key: text for key, text in typed.items() if key in shown and text.strip() != shown[key]}


def _form(design: Design, form: str) -> tuple[Data, Sequence[Spec]]:
    data = data_of(design)
    if form in SHEET_FORMS:
        return data, list(SHEET_FORMS[form](design))
    ref = find_part(design, form)
    return (data, []) if ref is None else (part_data(data, ref), part_specs(design, ref))
