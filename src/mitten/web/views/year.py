"""The Year sheet: twelve months, what changes when, and what it takes."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from markupsafe import Markup

from mitten.core.catalogue import Catalogue, targets_of
from mitten.core.design import Design
from mitten.core.design.amounts import plain
from mitten.core.design.editing import data_of
from mitten.core.design.units import TEMPERATURE, Units
from mitten.core.design.year import MONTH_NAMES
from mitten.core.judge.targets import AIR_AND_BODY, BY_SURFACE
from mitten.core.plan.year import CalendarChange, LampYear, MonthFigures, basking_lamps, changes_of, lamp_year
from mitten.draw.months import month_chart
from mitten.web.edits import EditError
from mitten.web.edits.sheet_specs import cooling_specs, year_specs
from mitten.web.views.day import clock_words
from mitten.web.views.fields import Field, fields_of

LABELS = {one.key: one.label for one in (BY_SURFACE, *AIR_AND_BODY)}
LIT = ("uvi", "irradiance_w_m2")


@dataclass(frozen=True)
class YearSheet:
    """What is there at once: how the day changes, and the cool rest."""

    day: Sequence[Field]
    cooling: Sequence[Field]


@dataclass(frozen=True)
class MonthRow:
    """A month in the table."""

    name: str
    room: str
    lamps: str
    basking: str
    cool: str
    night: str
    heat: str
    kwh: str
    cost: str


@dataclass(frozen=True)
class YearView:
    """The months that are known, and once all are, what follows from them."""

    chart: Markup
    rows: Sequence[MonthRow]
    lamps: Sequence[str]
    missed: Sequence[str]
    changes: Sequence[tuple[str, Sequence[tuple[str, str]]]]
    total: str
    kwh: str
    unit: str
    rests: bool


def year_sheet(design: Design, catalogue: Catalogue, units: Units, error: EditError | None) -> YearSheet:
    """The form."""
    data = data_of(design)
    day, cooling = year_specs(design, catalogue), cooling_specs(design, catalogue)
    return YearSheet(fields_of(data, list(day), units, error), fields_of(data, list(cooling), units, error))


def year_changes(design: Design, catalogue: Catalogue, months: Sequence[MonthFigures]) -> list[CalendarChange]:
    """The changes of a whole year."""
    return changes_of(design, catalogue, months, lamp_year(design, catalogue, [one.lamp for one in months]))


def year_view(design: Design, catalogue: Catalogue, months: Sequence[MonthFigures], units: Units) -> YearView:
    """What is known of a year; ``months`` are the first of the twelve."""
    targets = targets_of(design.animal, catalogue.species[design.animal.species])
    whole, kwh = len(months) == len(MONTH_NAMES), sum(one.kwh for one in months)
    lamps = lamp_year(design, catalogue, [one.lamp for one in months]) if whole else None
    return YearView(
        month_chart(months, targets.basking_surface_c, units),
        [_row(design, one, units) for one in months],
        [plain(units.say(words)) for words in _lamp_words(design, catalogue, lamps)] if lamps else [],
        list(_missed_words(months)),
        _by_day(year_changes(design, catalogue, months), units) if whole else [],
        _money(design, kwh),
        f"{kwh:.0f}",
        units.unit_of(TEMPERATURE),
        any(one.is_at_rest for one in months),
    )


def _row(design: Design, one: MonthFigures, units: Units) -> MonthRow:
    month = one.month
    return MonthRow(
        MONTH_NAMES[month.number - 1],
        f"{units.degrees(month.room_day_c)} / {units.degrees(month.room_night_c)}",
        f"{clock_words(one.lights_on_min)} to {clock_words(one.lights_off_min)}",
        "" if one.basking_c is None else units.degrees(one.basking_c),
        units.degrees(one.cool_c), units.degrees(one.night_c), _heat_words(one, units), f"{one.kwh:.1f}",
        _money(design, one.kwh),
    )  # fmt: skip


def _heat_words(one: MonthFigures, units: Units) -> str:
    without = f"{units.degrees(one.unheated_night_c)} without"
    if one.night_heat:
        return f"needed: {without}"
    return f"better: {without}" if one.night_heat_wished else "none"


def _money(design: Design, kwh: float) -> str:
    tariff = design.room.tariff_per_kwh
    return "" if tariff is None else f"{kwh * tariff:.2f} {design.room.currency or ''}".strip()


def _lamp_words(design: Design, catalogue: Catalogue, lamps: LampYear) -> Iterator[str]:
    """What the months ask of the basking lamps."""
    what = f"{lamps.now_w:g} W {catalogue.sources[lamps.kind].label}"
    lamp = basking_lamps(design, catalogue)[0]
    control = design.control_of(lamp)
    known = [share for share in lamps.shares if share is not None]
    if known and control is not None:
        said = [f"{_of_full(share)} in {MONTH_NAMES[lamps.shares.index(share)]}" for share in (max(known), min(known))]
        yield f"For the middle of what is wanted, '{lamp.name}' ({what}) has to give {said[0]} and {said[1]}."
    if lamps.for_all_w is not None:
        same = "The" if lamps.for_all_w == lamps.now_w else "One"
        yield (
            f"{same} {lamps.for_all_w:g} W {catalogue.sources[lamps.kind].label}, undimmed, keeps the basking place "
            "within what it tolerates in every month."
        )
        return
    for power_w, numbers in _runs(lamps.by_month):
        when = _span_words(numbers)
        if power_w is None:
            yield f"{when}: at full power no wattage of this kind that is sold keeps to what is borne."
        else:
            yield f"{when}: {power_w:g} W."


def _of_full(share: float) -> str:
    return f"{share:.0%} of its power" + (", which is more than it has," if share > 1 else "")


def _runs(values: Sequence[float | None]) -> Iterator[tuple[float | None, list[int]]]:
    """Stretches of months (1-12) of the same value, those over the turn of the year as one."""
    runs = [(value, [n for n, _ in found]) for value, found in groupby(enumerate(values, 1), lambda item: item[1])]
    if len(runs) > 1 and runs[0][0] == runs[-1][0]:
        runs = [*runs[1:-1], (runs[-1][0], [*runs[-1][1], *runs[0][1]])]
    yield from runs


def _span_words(numbers: Sequence[int]) -> str:
    first, last = MONTH_NAMES[numbers[0] - 1], MONTH_NAMES[numbers[-1] - 1]
    return first if first == last else f"{first} to {last}"


def _missed_words(months: Sequence[MonthFigures]) -> Iterator[str]:
    """What is outside what is tolerated, and in which months; months of a cool rest by what it rests at."""
    missed = [one.missed for one in months]
    for key in (key for key in LABELS if key not in LIT):
        runs = _runs([1.0 if key in of_month else None for of_month in missed])
        spans = [_span_words(found) for is_missed, found in runs if is_missed]
        if spans:
            yield f"{LABELS[key]}: {', '.join(spans)}"


def _by_day(changes: Sequence[CalendarChange], units: Units) -> list[tuple[str, list[tuple[str, str]]]]:
    def words_of(change: CalendarChange) -> tuple[str, str]:
        return units.say(change.words), units.say(change.why)

    return [
        (f"{day.day} {MONTH_NAMES[day.month - 1]}", [words_of(one) for one in found])
        for day, found in groupby(changes, lambda one: one.day)
    ]
