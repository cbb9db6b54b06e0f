"""What changed between two designs, in words for the history: the words of the fields themselves."""

from collections.abc import Iterator
from typing import Any

from mitten.core.catalogue import Catalogue
from mitten.core.design import FACES, Design
from mitten.core.design.amounts import amount
from mitten.core.design.editing import Data, data_of
from mitten.core.design.units import METRIC
from mitten.web.edits.fields import Spec, at_path, shown_value
from mitten.web.edits.part_specs import part_specs
from mitten.web.edits.refs import PartRef, part_data, parts_of
from mitten.web.edits.sheet_specs import LID_WORDS, SHEET_FORMS, lid_kind, month_specs
from mitten.web.edits.target_specs import BEARABLE, DANGERS, RANGES, target_quantity

MANY = 6
"""Changes beyond so many are counted, not told."""


def summary_of(before: Design, after: Design, catalogue: Catalogue) -> str:
    """What changed, all in one line."""
    said = list(_changes(before, after, catalogue))
    if len(said) > MANY:
        return "; ".join([*said[:MANY], f"and {len(said) - MANY} more changes"])
    return "; ".join(said) or "Changed"


def _changes(before: Design, after: Design, catalogue: Catalogue) -> Iterator[str]:
    old, new = data_of(before), data_of(after)
    yield from _parts(before, after, old, new, catalogue)
    yield from _sheets(before, after, old, new, catalogue)
    yield from _targets(old, new)
    yield from _against(before, after)


def _parts(before: Design, after: Design, old: Data, new: Data, catalogue: Catalogue) -> Iterator[str]:
    was, now = list(parts_of(before)), list(parts_of(after))
    renamed = _new_names(was, now)
    yield from (f"{ref.name} is now called {name}" for ref, name in renamed.items())
    for ref in now:
        if ref in was:
            fields = part_specs(after, catalogue, ref)
            yield from (f"{ref.name}: {words}" for words in _fields(part_data(old, ref), part_data(new, ref), fields))
        elif ref.name not in renamed.values():
            yield f"{ref.name} added"
    yield from (f"{ref.name} removed" for ref in was if ref not in now and ref not in renamed)


def _new_names(was: list[PartRef], now: list[PartRef]) -> dict[PartRef, str]:
    """One part gone and one come in the same collection, as many as before: it has another name."""
    gone, come = [ref for ref in was if ref not in now], [ref for ref in now if ref not in was]
    if len(gone) == len(come) == 1 and gone[0].collection == come[0].collection:
        return {gone[0]: come[0].name}
    return {}


def _sheets(before: Design, after: Design, old: Data, new: Data, catalogue: Catalogue) -> Iterator[str]:
    for form in SHEET_FORMS.values():
        yield from _fields(old, new, [spec for spec in form(after, catalogue) if spec.key != "lid"])
    if lid_kind(before) != lid_kind(after):
        yield f"lid {LID_WORDS[lid_kind(before)]} to {LID_WORDS[lid_kind(after)]}"
    if len(before.substrate.layers) != len(after.substrate.layers):
        yield f"{len(before.substrate.layers)} to {len(after.substrate.layers)} layers under the ground"
    if after.room.months and before.room.months:
        yield from _fields(old, new, list(month_specs()))
    elif before.room.months != after.room.months:
        yield "every month's room set" if after.room.months else "months given up"


def _fields(old: Data, new: Data, specs: list[Spec]) -> Iterator[str]:
    """Fields that differ, each by its label."""
    for spec in specs:
        if at_path(old, spec.key) != at_path(new, spec.key):
            was, now = (shown_value(data, spec, METRIC) for data in (old, new))
            if was != now:
                label = spec.label if spec.label.startswith("UV") else spec.label[:1].lower() + spec.label[1:]
                label = label.removesuffix(", is")
                yield f"{label} {_from_to(spec, was, now)}"


def _from_to(spec: Spec, was: str, now: str) -> str:
    """Two values of a field, with the unit once where both are numbers."""
    labels = {option.value: option.label for option in spec.options if option.value}
    if labels:
        return f"{labels.get(was, was) or 'nothing'} to {labels.get(now, now) or 'nothing'}"
    unit = METRIC.unit_of(spec.quantity) if spec.kind in ("number", "slider") else ""
    empty = spec.placeholder or "nothing"
    if not was:
        return f"{empty} to {amount(now, unit)}"
    return amount(f"{was} to {now}", unit) if now else f"{amount(was, unit)} to {empty}"


def _targets(old: Data, new: Data) -> Iterator[str]:
    bears = {f"{BEARABLE}{key}": f"{label}, bearable," for key, label in RANGES.items()}
    for key, label in {**RANGES, **bears, **DANGERS}.items():
        was, now = (at_path(data, f"animal.targets.{key}") for data in (old, new))
        if was != now:
            yield f"{label} {_target(key, was)} to {_target(key, now)}"


def _target(key: str, value: Any) -> str:
    if value is None:
        return "the species' own"
    quantity = target_quantity(key.removeprefix(BEARABLE))
    ends = value if isinstance(value, list) else [value]
    return amount("–".join(METRIC.show(quantity, end) for end in ends), METRIC.unit_of(quantity))


def _against(before: Design, after: Design) -> Iterator[str]:
    for face in FACES:
        if (face in before.enclosure.against) != (face in after.enclosure.against):
            yield f"{face} {'against a wall' if face in after.enclosure.against else 'stands free'}"
