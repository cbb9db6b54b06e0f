"""The Check sheet: failures as rows, the worst first, and what would make them harmless."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from mitten.core.catalogue import Catalogue, targets_of
from mitten.core.design import Design
from mitten.core.design.amounts import with_marks
from mitten.core.design.units import LITRES, TEMPERATURE, Units
from mitten.core.judge.outlooks import Outlook
from mitten.core.plan.failsafe import CutOut, Help, Survivable
from mitten.web.pages import segment
from mitten.web.views.day import after_words, clock_words


@dataclass(frozen=True)
class FailureRow:
    """One failure in the table of them."""

    text: str
    label: str
    at: str
    danger: str
    hottest: str
    coldest: str
    refuge: str
    tone: str


@dataclass(frozen=True)
class FailuresView:
    """The failures of a season that are known, the worst first, and the worst of other seasons where that is worse."""

    rows: Sequence[FailureRow]
    worse_elsewhere: str


def failures_view(outlooks: Sequence[Outlook], season: str, units: Units) -> FailuresView:
    """What is known so far."""
    here = sorted((one for one in outlooks if one.season == season), key=lambda one: one.weight)
    others = sorted((one for one in outlooks if one.season != season), key=lambda one: one.weight)
    worse = ""
    if here and others and others[0].weight < here[0].weight:
        row = failure_row(others[0], units)
        worse = f"Worse {_IN[others[0].season]}: {row.label}, {row.danger}." if row.tone != "good" else ""
    return FailuresView([failure_row(one, units) for one in here], worse)


_IN = {"winter": "in winter", "usual": "on a usual day", "summer": "in summer"}


def failure_row(outlook: Outlook, units: Units) -> FailureRow:
    """An outlook in words."""
    minutes = [(what, after) for what, after in outlook.minutes_to_danger if after is not None]
    danger, tone = "no danger from heat in 12 hours", "good"
    if minutes:
        what, after = min(minutes, key=lambda item: item[1])
        soon = f"{after_words(after)} until its" if after >= 1 else "before anything fails its"
        danger, tone = f"{soon} {_WHAT[what]}", "danger"
    elif outlook.hours_to_cold is not None:
        soon = (
            "already colder"
            if outlook.hours_to_cold == 0
            else f"{after_words(60 * outlook.hours_to_cold)} until colder"
        )
        danger, tone = f"{soon} than it bears at night", "attention"
    return FailureRow(
        text=outlook.failure.text,
        label=outlook.failure.label,
        at=clock_words(outlook.begins_min),
        danger=danger,
        hottest=f"{units.say_degrees(outlook.hottest_c)}, {outlook.hottest_where}",
        coldest=units.say_degrees(outlook.coldest_c),
        refuge="yes" if outlook.has_a_cool_place else "none",
        tone=tone,
    )


_WHAT = {"body": "body is in danger", "contact": "skin is in danger", "air": "air is in danger everywhere"}


@dataclass(frozen=True)
class Answer:
    """What would make a failure harmless, in a sentence, and what a form sends to do it: where to, and its fields."""

    words: str
    to: str = ""
    values: Mapping[str, str] | None = None
    button: str = ""


@dataclass(frozen=True)
class HelpRow:
    """Something done in a power cut as a row."""

    words: str
    hours: str
    coldest: str


@dataclass(frozen=True)
class AnswersView:
    """What is known so far."""

    answers: Sequence[Answer]
    helps: Sequence[HelpRow]
    bears: str


_DONE = {
    "": "Nothing",
    "blanket": "A folded blanket round the box and over it",
    "cover": "Vents shut, a cloth over the mesh",
    "bottle": "A bottle of %s in a cloth, at the warm end",
    "everything": "All three, the bottle of %s",
}


def answers_view(
    design: Design, catalogue: Catalogue, found: Sequence[Survivable | CutOut | Help | None], units: Units
) -> AnswersView:
    """What was worked out, in words."""
    least_c = targets_of(design.animal, catalogue.species[design.animal.species]).bears("night_c")[0]
    answers = [answer for one in found for answer in _answers(one, catalogue, units)]
    helps = [_help_row(one, units) for one in found if isinstance(one, Help)]
    return AnswersView(answers, helps, units.say_degrees(least_c))


def _answers(one: Survivable | CutOut | Help | None, catalogue: Catalogue, units: Units) -> Iterator[Answer]:
    if isinstance(one, Survivable):
        yield _of_wattage(one, catalogue)
    elif isinstance(one, CutOut):
        yield _of_cut_out(one, units)


def _of_wattage(one: Survivable, catalogue: Catalogue) -> Answer:
    label = catalogue.sources[one.kind].label
    if one.largest_w is None:
        least_w = one.tried[0][0]
        return Answer(
            f"'{one.heater}' stuck on in summer is dangerous even as the weakest {label} sold, {least_w:g} W: it "
            "needs a cut-out, or has to be further away."
        )
    if one.largest_w >= one.now_w:
        more = "" if one.largest_w == one.now_w else f" up to {one.largest_w:g} W"
        return Answer(f"'{one.heater}' can stick on in summer{more} without danger within 12 hours.")
    after = dict(one.tried)[one.now_w]
    soon = "at once" if after is None or after < 1 else f"after {after_words(after)}"
    return Answer(
        f"'{one.heater}' stuck on in summer is dangerous {soon}. {one.largest_w:g} W is the largest {label} with which "
        "nothing is in danger within 12 hours; whether it still reaches the targets is said beside, once it is there.",
        "fix", {"kind": "watts", "name": one.heater, "value": f"{one.largest_w:g}"}, f"Use {one.largest_w:g} W",
    )  # fmt: skip


def _of_cut_out(one: CutOut, units: Units) -> Answer:
    set_to = units.say_degrees(one.set_c)
    hottest = [units.say_degrees(of.hottest_c) for of in (one.with_it, one.without)]
    dangers = [any(after is not None for _, after in of.minutes_to_danger) for of in (one.with_it, one.without)]
    if dangers[0]:
        comes = f"even so something is in danger (hottest {hottest[0]}): take a weaker source too"
    elif dangers[1]:
        comes = f"nothing is in danger any more (hottest {hottest[0]} instead of {hottest[1]})"
    else:
        comes = f"nothing is in danger (hottest {hottest[0]}), nor is it without one"
    words = (
        f"A second thermostat in line with '{one.control}', its probe beside the other, set to {set_to}: it "
        f"never acts on any day of the year, and where the first sticks on, {comes}."
    )
    return Answer(
        words, f"part/{segment(f'controls:{one.control}')}", {"cut_out_c": units.show(TEMPERATURE, one.set_c)},
        f"Put it in at {set_to}",
    )  # fmt: skip


def _help_row(one: Help, units: Units) -> HelpRow:
    bottle = with_marks(f"{{{one.bottle.litres:g} l}} of hot water at {{{one.bottle.water_c:g} °C}}")
    words = _DONE[one.key] % bottle if "%s" in _DONE[one.key] else _DONE[one.key]
    hours = "longer than 12 h" if one.hours is None else "none" if one.hours == 0 else after_words(60 * one.hours)
    return HelpRow(units.say(words), hours, units.say_degrees(one.coldest_c))


@dataclass(frozen=True)
class BottleView:
    """A bottle as its form has it, in the keeper's units, and what comes of it."""

    litres: str
    water: str
    volume: str
    degree: str
    helps: Sequence[HelpRow]


def bottle_view(litres: str, water: str, found: Sequence[Help], units: Units) -> BottleView:
    """What was typed, and what was worked out for it."""
    rows = [_help_row(one, units) for one in found]
    return BottleView(litres, water, units.unit_of(LITRES), units.unit_of(TEMPERATURE), rows)


def stuck_words(one: Outlook) -> str:
    """How soon a thermostat that sticks on a summer day is dangerous, by the course of it."""
    dangers = [(after, what) for what, after in one.minutes_to_danger if after is not None]
    if not dangers:
        return "Gone through from its hottest hour: no danger to body, skin or air within 12 hours."
    after, what = min(dangers)
    soon = "At once" if after < 1 else f"After {after_words(after)}"
    return f"{soon} its {_WHAT[what]}, from the hottest hour of a summer day."
