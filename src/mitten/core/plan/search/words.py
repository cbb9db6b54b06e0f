"""Plans in sentences, from their numbers."""

from collections.abc import Iterator, Sequence

from mitten.core.catalogue import Catalogue
from mitten.core.design.amounts import celsius, millilitres
from mitten.core.judge import TargetVerdict, figure_words, wants_words
from mitten.core.plan.search.screening.extras import SAME
from mitten.core.plan.search.screening.screen import Candidate
from mitten.core.plan.search.search import Progress, class_of
from mitten.core.plan.search.solving.plan import Plan
from mitten.core.plan.search.wants.furnish import DAMP, WET

MOST_REJECTED = 3

LEAST_CHANCE, MOST_CHANCE = 0.01, 0.99
"""Chances beyond these are not told apart: before anything is measured nobody is surer."""


def chance_words(chance: float) -> str:
    """A chance in whole per cent; what is too small or too large to be counted is said so."""
    if chance > MOST_CHANCE:
        return f"over {MOST_CHANCE:.0%}"
    return f"{chance:.0%}" if chance >= LEAST_CHANCE else f"under {LEAST_CHANCE:.0%}"


def source_words(candidate: Candidate, catalogue: Catalogue) -> str:
    """The main source: ``2 x 35 W halogen flood, 30 cm over the basking place``."""
    many = f"{candidate.layout.count} × " if candidate.layout.count > 1 else ""
    sources, mat = catalogue.sources, candidate.mat
    words = f"{many}{candidate.watts:g} W {sources[candidate.kind].label}, {candidate.layout.where}"
    if mat.layout is None:
        return words
    return f"{words}, with a {mat.watts:g} W {sources[mat.layout.kind].label} {mat.layout.where}"


def asked_of_the_box(plan: Plan) -> list[str]:
    """What a plan asks to be changed of the box, as instructions: to hold the warmth, and water."""
    ground = plan.design.substrate
    misting = ground.misting_ml_day - plan.candidate.furnished.design.substrate.misting_ml_day
    words = [f"mist {millilitres(ground.misting_ml_day)} a day"] if misting > 0 else []
    before, after = (one.enclosure.underside.raised for one in (plan.candidate.furnished.design, plan.design))
    feet = ["stand the box on feet, with a gap of air under the mat"] if after and not before else []
    is_wetter = ground.moisture == "wet" != plan.candidate.furnished.design.substrate.moisture
    changes = [one for one in plan.candidate.furnished.changes if not (is_wetter and one == DAMP)]
    return [*changes, *feet, *([WET] if is_wetter else []), *words]


def night_words(plan: Plan) -> str:
    """What heats by night."""
    night = plan.candidate.night
    if night == SAME:
        return "the same source, on the night's setpoint"
    if night.layout is not None:
        return f"{night.label}, which holds the air by day too" if night.all_day else night.label
    if plan.candidate.mat.layout is not None or plan.candidate.layout.family == "contact":
        return "the mat alone"
    held = next(verdict for verdict in plan.assessment.verdicts if verdict.key == "night_c")
    by_room = {"meets": ": the room is warm enough", "near": ": what the room brings can be borne"}
    return f"nothing{by_room.get(held.status, '')}"


def explanation(plan: Plan, progress: Progress) -> list[str]:
    """Why this plan: what decides it, what it is weakest at, and what was rejected nearby."""
    return [*_decides(plan), *_weakest(plan), *_what_is_against_others(plan, progress)]


def _nearest_calls(plan: Plan) -> list[TargetVerdict]:
    """Targets by how near they are to an end of what is borne, as a share of its width, the nearest first."""
    apart = {"humidity", "day_hours", "uvi"}
    verdicts = [verdict for verdict in plan.assessment.verdicts if verdict.known and verdict.key not in apart]
    return sorted(verdicts, key=_room_left)


def _room_left(verdict: TargetVerdict) -> float:
    """How far the worst figure is inside what is borne, as a share of its width; negative outside."""
    least, most = verdict.bearable
    if verdict.can_leave:
        most = verdict.danger
    return min(verdict.value - least, most - verdict.value) / max(most - least, 1e-6)


def _decides(plan: Plan) -> Iterator[str]:
    nearest = _nearest_calls(plan)[0]
    yield (
        f"Closest call: {nearest.label[:1].lower()}{nearest.label[1:]} {figure_words(nearest)} on a "
        f"{nearest.condition.within}, {wants_words(nearest)}."
    )
    off = plan.assessment.usually_off
    if off:
        said = [f"{one.label[:1].lower()}{one.label[1:]} {figure_words(one, one.usual)}" for one in off]
        yield f"On a usual day outside what is wanted: {', '.join(said)}."


def _weakest(plan: Plan) -> Iterator[str]:
    if not plan.harmless_when_stuck:
        stuck = next(one for one in plan.assessment.findings if one.rule == "too-strong-when-stuck")
        yield f"Weakest when its thermostat sticks: {stuck.number}. {stuck.remedy}"
    warned = [one for one in plan.assessment.findings if one.severity == "warn" and one.rule != "too-strong-when-stuck"]
    if warned:
        yield f"Mind: {warned[0].title} ({warned[0].number})."
    unknown = [verdict.label for verdict in plan.assessment.verdicts if not verdict.known]
    if unknown:
        yield f"{unknown[0]} is not known: a meter has to tell before an animal moves in."


def _what_is_against_others(plan: Plan, progress: Progress) -> Iterator[str]:
    working = {class_of(one.candidate, plan.assessment.catalogue) for one in progress.plans}
    near = [
        one
        for one in progress.rejected
        if one.approach == plan.approach and class_of(one.candidate, plan.assessment.catalogue) not in working
    ]  # fmt: skip
    for other in near[:MOST_REJECTED]:
        yield f"Not {source_words(other.candidate, plan.assessment.catalogue)}: {why_not(other)}."


def beyond_share(verdict: TargetVerdict) -> float:
    """How far a figure is beyond what is borne, as a share of the width of what is wanted: tells the worst miss."""
    return abs(verdict.beyond) / max(verdict.high - verdict.low, 1e-6)


def why_not(plan: Plan) -> str:
    """The worst reason against a plan, with its number."""
    if plan.assessment.stops:
        stop = plan.assessment.stops[0]
        return f"{stop.title[:1].lower()}{stop.title[1:]} ({stop.number})"
    missed = sorted(plan.assessment.missed, key=beyond_share, reverse=True)
    if not missed:
        return "other plans do more"
    worst = missed[0]
    label = worst.label if worst.label.startswith("UV") else worst.label[:1].lower() + worst.label[1:]
    return f"{label} {figure_words(worst)} {worst.condition.when}, {wants_words(worst)}"


def obstacles(progress: Progress, catalogue: Catalogue) -> list[str]:
    """What stands in the way where nothing works: the room alone first, then the best of what was tried."""
    if not progress.rejected:
        return ["Nothing that is allowed fits this box and lid: allow more above, or take a higher box."]
    best = min(progress.rejected, key=lambda one: (bool(one.assessment.stops), -one.score))
    return [*_room_too_warm(best), f"Nearest: {source_words(best.candidate, catalogue)}; but {why_not(best)}."]


def misses(plan: Plan) -> list[str]:
    """Everything that speaks against a plan that does not work, the worst first."""
    stops = [f"{stop.title} ({stop.number})." for stop in plan.assessment.stops]
    missed = sorted(plan.assessment.missed, key=beyond_share, reverse=True)
    said = [
        f"{verdict.label} {figure_words(verdict)} {verdict.condition.when}: {wants_words(verdict)}."
        for verdict in missed
    ]
    unsolved = [f"{condition.label} could not be worked out." for condition in plan.assessment.unsolved]
    return [*stops, *said, *unsolved]


def _room_too_warm(plan: Plan) -> Iterator[str]:
    room, targets = plan.design.room, plan.assessment.targets
    for room_c, key, when, what in (
        (room.summer.day_c, "cool_air_c", "day", "on its cool side"),
        (room.summer.night_c, "night_c", "night", "by night"),
    ):  # fmt: skip
        most_c = targets.bears(key)[1]
        if room_c > most_c:
            yield (
                f"The room is {celsius(room_c)} on a summer {when} and the animal bears at most {celsius(most_c)} "
                f"{what}: no source cools, the room itself has to be cooler then."
            )


def distinct(plans: Sequence[Plan], catalogue: Catalogue) -> list[Plan]:
    """Plans, best first, without near-copies: of lamps that do the same work, only the best in each approach and
    of each shape.
    """
    found: dict[tuple[object, ...], Plan] = {}
    for plan in sorted(plans, key=lambda one: -one.score):
        found.setdefault(class_of(plan.candidate, catalogue), plan)
    return list(found.values())


def is_simplest(plan: Plan, plans: Sequence[Plan]) -> bool:
    """Whether it has the fewest parts of all that work: what everybody would hang."""
    return min(plans, key=lambda one: (one.parts, -one.score)) is plan
