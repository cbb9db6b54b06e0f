"""Fields as a template shows them: what stands in each, its unit, and what is wrong with it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import groupby

from mitten.core.design.editing import Data
from mitten.core.design.units import LENGTH, Units
from mitten.web.edits.fields import EditError, Option, Spec, shown_value

CM = 100.0
LONG_OPTION = 26


@dataclass(frozen=True)
class Slide:
    """A slider beside a number: in whole centimetres above ``ground_m``, with the field's own units in a centimetre."""

    low: int
    high: int
    value: float
    shown_per_cm: float
    axis: str
    ground_m: float


@dataclass(frozen=True)
class Field:
    """One field of a form."""

    key: str
    label: str
    kind: str
    value: str
    unit: str = ""
    options: Sequence[Option] = ()
    fault: str = ""
    rare: bool = False
    placeholder: str = ""
    slide: Slide | None = None

    @property
    def wide(self) -> bool:
        """Whether what is chosen is a sentence rather than a word."""
        chosen = next((option.label for option in self.options if option.value == self.value), "")
        return len(chosen) > LONG_OPTION

    @property
    def groups(self) -> Iterator[tuple[str, list[Option]]]:
        """Options by their group, in order; those without a group under an empty word."""
        for group, options in groupby(self.options, lambda option: option.group):
            yield group, list(options)


def fields_of(data: Data, specs: Sequence[Spec], units: Units, error: EditError | None = None) -> list[Field]:
    """The fields of a form with what is in force, or with what was typed and refused, and its fault."""
    return [_field(data, spec, units, error) for spec in specs]


def _field(data: Data, spec: Spec, units: Units, error: EditError | None) -> Field:
    value = shown_value(data, spec, units)
    typed = error.typed.get(spec.key, value) if error else value
    fault = error.sentences.get(spec.key, "") if error else ""
    number = spec.kind in ("number", "slider")
    return Field(
        key=spec.key,
        label=units.say(spec.label),
        kind="choice" if spec.options else "slider" if spec.kind == "slider" else spec.kind,
        value=typed,
        unit=units.unit_of(spec.quantity) if number and not spec.options else "",
        options=_with_typed([replace(one, label=units.say(one.label)) for one in spec.options], typed),
        fault=fault,
        rare=spec.rare and not fault,
        placeholder=units.say(spec.placeholder),
        slide=_slide(data, spec, units) if spec.kind == "slider" else None,
    )


def _with_typed(options: Sequence[Option], value: str) -> Sequence[Option]:
    """A choice's options, with what was typed among them even if it is none of them."""
    if not options or value in {option.value for option in options}:
        return options
    return [Option(value, value), *options]


def _slide(data: Data, spec: Spec, units: Units) -> Slide:
    low, high = (round((end - spec.ground_m) * CM) for end in spec.limits or (0.0, 0.0))
    at = data
    for step in spec.key.split("."):
        at = at[step]
    value = float(at) - spec.ground_m  # type: ignore[arg-type]
    axis = spec.key.rpartition(".")[2]
    return Slide(low, high, round(value * CM, 1), units.convert(LENGTH, 1 / CM), axis, spec.ground_m)
