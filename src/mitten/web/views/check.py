"""The Check sheet: failures as rows, the worst first, and what would make them harmless."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import inf

from mitten.core.catalogue import Catalogue, targets_of
from mitten.core.design import Design
from mitten.core.design.amounts import celsius, with_marks
from mitten.core.design.units import LITRES, TEMPERATURE, Units
from mitten.core.judge.exposed import Harm
from mitten.core.judge.finding import Finding
from mitten.core.judge.outlooks import Outlook
from mitten.core.plan.failsafe import CutOut, Help, Survivable
from mitten.core.plan.offering import STANDING_RULES
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
    """The failures of a season that are known, the worst first, the worst of other seasons where that is worse, and
    what is dangerous before anything fails, with what to do about it.
    """

    rows: Sequence[FailureRow]
    worse_elsewhere: str
    before: str = ""


def failures_view(
    outlooks: Sequence[Outlook], season: str, units: Units, findings: Sequence[Finding] = ()
) -> FailuresView:  # fmt: skip
    """What is known so far; ``findings`` are those of the rule book, for what to do about a danger that stands."""
    here = sorted((one for one in outlooks if one.season == season), key=lambda one: one.weight)
    others = sorted((one for one in outlooks if one.season != season), key=lambda one: one.weight)
    worse = ""
    if here and others and others[0].weight < here[0].weight:
        row = failure_row(others[0], units)
        worse = f"Worse {_IN[others[0].season]}: {row.label}, {row.danger}." if row.tone != "good" else ""
    return FailuresView([failure_row(one, units) for one in here], worse, _standing(outlooks, findings, units))


_IN = {"winter": "in winter", "usual": "on a usual day", "summer": "in summer"}


def _standing(outlooks: Sequence[Outlook], findings: Sequence[Finding], units: Units) -> str:
    """What is dangerous before anything fails, once, with its remedy."""
    found = [(one.season, harm) for one in outlooks for harm in one.standing]
    if not found:
        return ""
    season, harm = max(found, key=lambda item: item[1].worst)
    remedy = next((one.remedy for one in findings if one.rule in STANDING_RULES), "Take less power, or hang it higher.")
    return units.say(
        f"Dangerous before anything fails: {_IN[season]} its {_WHAT[harm.what]}, at {celsius(harm.worst, 0)}. {remedy}"
    )


def failure_row(outlook: Outlook, units: Units) -> FailureRow:
    """An outlook in words: the worst of heat, cold, dry air and darkness, each with its time."""
    new = [harm for harm in outlook.harms if not harm.was_so]
    said = [units.say(_harm_words(harm)) for harm in _one_of_each(new)]
    said += [
        units.say(_still_words(harm)) for harm in _one_of_each(outlook.harms) if harm.was_so and harm.kind == "cold"
    ]
    tone = "danger" if any(harm.kind == "heat" for harm in new) else "attention" if said else "good"
    return FailureRow(
        text=outlook.failure.text,
        label=outlook.failure.label,
        at=clock_words(outlook.begins_min),
        danger="; ".join(said) or "nothing dangerous or beyond what it tolerates in 12 hours",
        hottest=f"{units.say_degrees(outlook.hottest_c)}, {outlook.hottest_where}",
        coldest=units.say_degrees(outlook.coldest_c),
        refuge="yes" if outlook.has_a_cool_place else "none",
        tone=tone,
    )


def _one_of_each(harms: Sequence[Harm]) -> list[Harm]:
    """The soonest of each kind; where something is in danger from heat, that no cool place is left goes without
    saying.
    """
    found = dict[str, Harm]()
    for harm in harms:
        found.setdefault("heat" if harm.kind == "warm" else harm.kind, harm)
    return list(found.values())


def _harm_words(harm: Harm) -> str:
    soon = f"{after_words(harm.after_min)} until" if harm.after_min >= 1 else "at once"
    if harm.kind == "heat":
        return f"{soon} its {_WHAT[harm.what]}"
    if harm.kind == "warm":
        return f"{soon} no place is as cool as it tolerates ({celsius(harm.worst, 0)} at the cool end)"
    if harm.kind == "cold":
        return f"{soon} colder than it tolerates at night, down to {celsius(harm.worst, 0)}"
    if harm.kind == "dry":
        return f"{soon} too dry, down to {harm.worst:.0%}"
    return f"no {harm.what} {'from then on' if harm.after_min < 1 else f'after {after_words(harm.after_min)}'}"


def _still_words(harm: Harm) -> str:
    return f"as cold as before, down to {celsius(harm.worst, 0)}, which is below what it tolerates at night"


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
    first: str = ""
    room: str = ""


_DONE = {
    "": "Nothing",
    "blanket": "A folded blanket round the sides, once no fixture is hot any more, and none over a lamp",
    "cover": "Vents shut; a cloth over the mesh where no lamp stands on it or hangs under it",
    "bottle": "A bottle of %s in a cloth, at the warm end",
    "everything": "All three, the bottle of %s",
}
CUT_FIRST = (
    "First unplug every lamp and heater, or switch its outlet off: power may return while something covers it. Take "
    "every cover off, and open the vents, before you plug anything in again."
)
"""What comes before everything that is laid round or over a box."""


def answers_view(
    design: Design, catalogue: Catalogue, found: Sequence[Survivable | CutOut | Help | None], units: Units
) -> AnswersView:
    """What was worked out, in words."""
    least_c = targets_of(design.animal, catalogue.species[design.animal.species]).bears("night_c")[0]
    answers = [answer for one in found for answer in _answers(one, catalogue, units)]
    helps = [_help_row(one, units) for one in found if isinstance(one, Help)]
    room = "while the room's heating goes on" if design.room.heated_without_power else "the room's heating out too"
    return AnswersView(answers, helps, units.say_degrees(least_c), CUT_FIRST, room)


def _answers(one: Survivable | CutOut | Help | None, catalogue: Catalogue, units: Units) -> Iterator[Answer]:
    if isinstance(one, Survivable):
        yield _of_wattage(one, catalogue)
    elif isinstance(one, CutOut):
        yield _of_cut_out(one, units)


def _of_wattage(one: Survivable, catalogue: Catalogue) -> Answer:
    label, holds = catalogue.sources[one.kind].label, _rests_on(one)
    if one.largest_w is None:
        least_w = one.tried[0][0]
        return Answer(
            f"'{one.heater}' stuck on in summer is dangerous even as the weakest {label} sold, {least_w:g} W: it "
            "needs a cut-out, or has to be further away."
        )
    if one.largest_w >= one.now_w:
        if one.against:
            return Answer(f"'{one.heater}' is not safe as it is, whatever its thermostat does: {one.against}.")
        more = "" if one.largest_w == one.now_w else f", nor would {one.largest_w:g} W"
        return Answer(
            f"'{one.heater}' with its {one.now_w:g} W does no harm when its thermostat sticks on for 12 hours on a "
            f"summer day{more}. {holds}"
        )
    after = dict(one.tried)[one.now_w]
    soon = "at once" if after is None or after < 1 else f"after {after_words(after)}"
    words = (
        f"'{one.heater}' stuck on in summer is dangerous {soon}. {one.largest_w:g} W is the largest {label} with which "
        f"nothing is in danger within 12 hours. {holds}"
    )
    if one.against:
        return Answer(f"{words} It is not offered here, because then: {one.against}.")
    return Answer(
        f"{words} Whether it still reaches the targets is said beside, once it is there.",
        "fix", {"kind": "watts", "name": one.heater, "value": f"{one.largest_w:g}"}, f"Use {one.largest_w:g} W",
    )  # fmt: skip


def _rests_on(one: Survivable) -> str:
    """What a wattage that may stick rests on."""
    rated = f" fixture and thermostat bear {one.rating_w:g} W;" if one.rating_w < inf else ""
    cut_out = "; its cut-out was taken to fail too" if one.relies_on_cut_out else ""
    return f"This holds where it hangs now and in the warmest room given;{rated} no cut-out is counted on{cut_out}."


def _of_cut_out(one: CutOut, units: Units) -> Answer:
    set_to, without = units.say_degrees(one.set_c), dict(one.without.minutes_to_danger)
    hottest = [units.say_degrees(of.hottest_c) for of in (one.with_it, one.without)]
    soonest = min((after for after in without.values() if after is not None), default=None)
    place = f"A second thermostat in line with '{one.control}', its own probe beside the other's, set to {set_to}"
    above = "at least 3 K above every setpoint and its swing, so that it does not act on usual days"
    if soonest is None:
        return Answer(
            f"{place}, {above}: where the first sticks on, nothing is in danger (hottest {hottest[0]}), nor is it "
            "without one."
        )
    too = "at once" if soonest < 1 else f"after {after_words(soonest)}"
    if not one.is_enough:
        return Answer(
            f"{place}, {above}, is not enough: even so something is in danger (hottest {hottest[0]}). Take a weaker "
            f"source; without a cut-out the danger comes {too}."
        )
    words = (
        f"{place}, {above}: where the first sticks on or its probe falls out of the box, nothing is in danger (hottest "
        f"{hottest[0]} instead of {hottest[1]}). Should both fail, the danger comes {too}."
    )
    if one.against:
        return Answer(f"{words} It is not offered here, because then: {one.against}.")
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
