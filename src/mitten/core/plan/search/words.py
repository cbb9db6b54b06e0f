"""Plans in sentences, from their numbers."""

from collections.abc import Iterator, Sequence

from mitten.core.catalogue import load_catalogue
from mitten.core.judge import TargetVerdict, figure_words
from mitten.core.judge.assessment import UNIT_WORDS
from mitten.core.plan.search.brief import work_of
from mitten.core.plan.search.changes import BoxChange, smallest_room_change
from mitten.core.plan.search.extras import SAME
from mitten.core.plan.search.missing import LEFT_OUT, own_misses
from mitten.core.plan.search.plan import Plan
from mitten.core.plan.search.screen import Candidate
from mitten.core.plan.search.search import Progress
from mitten.core.plan.search.wishes import HARDLY_ANY_K

MOST_REJECTED = 3


def source_words(candidate: Candidate) -> str:
    """The main source: ``2 x 35 W halogen flood, 30 cm over the basking place``."""
    many = f"{candidate.layout.count} × " if candidate.layout.count > 1 else ""
    sources, mat = load_catalogue().sources, candidate.mat
    words = f"{many}{candidate.watts:g} W {sources[candidate.kind].label}, {candidate.layout.where}"
    if mat.layout is None:
        return words
    return f"{words}, with a {mat.watts:g} W {sources[mat.layout.kind].label} {mat.layout.where}"


def night_words(plan: Plan) -> str:
    """What heats by night."""
    night = plan.candidate.night
    if night == SAME:
        return "the same source, on the night's setpoint"
    if night.layout is not None:
        return f"{night.label}, which holds the air by day too" if night.all_day else night.label
    held = next(verdict for verdict in plan.assessment.verdicts if verdict.key == "night_c")
    return "nothing: the room is warm enough" if held.word == "meets" else "nothing"


def explanation(plan: Plan, progress: Progress) -> list[str]:
    """Why this plan: what decides it, what it is weakest at, and what was rejected nearby."""
    return [*_too_warm_a_room(plan), *_decides(plan), *_weakest(plan), *_rejected(plan, progress)]


def _too_warm_a_room(plan: Plan) -> Iterator[str]:
    """What the room makes too warm, whatever heats the box."""
    found = [
        f"{verdict.label[:1].lower()}{verdict.label[1:]} {figure_words(verdict)} on a "
        f"{verdict.condition.label.lower()} (wants at most {verdict.high:g} °C)"
        for verdict in plan.works_but_for
    ]
    if found:
        yield f"But the room alone is too warm: {', '.join(found)}. No source cools: keep the room cooler on such days."


def _judged(plan: Plan) -> list[TargetVerdict]:
    """Targets by how near they are to an end of their range, as a share of its width, the nearest first."""
    apart = {*LEFT_OUT, "day_hours", "uvi", *(verdict.key for verdict in plan.works_but_for)}
    verdicts = [verdict for verdict in plan.assessment.verdicts if verdict.known and verdict.key not in apart]
    return sorted(verdicts, key=_room_left)


def _room_left(verdict: TargetVerdict) -> float:
    """How far the worst figure is inside its range, as a share of the range's width; negative outside."""
    width = max(verdict.high - verdict.low, 1e-6)
    if verdict.can_leave:
        return 1.0
    return min(verdict.value - verdict.low, verdict.high - verdict.value) / width


def _decides(plan: Plan) -> Iterator[str]:
    nearest = _judged(plan)[0]
    high = nearest.high - nearest.value < nearest.value - nearest.low
    limit = f"{nearest.high if high else nearest.low:g}{UNIT_WORDS[nearest.unit]}"
    yield (
        f"{nearest.label} decides it: {figure_words(nearest)} on a {nearest.condition.label.lower()}, "
        f"{'at most' if high else 'at least'} {limit}."
    )


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
    dry = [verdict for verdict in plan.assessment.missed if verdict.key in LEFT_OUT]
    if dry:
        yield (
            f"{dry[0].label} is {figure_words(dry[0])} on a {dry[0].condition.label.lower()}: water, ground and vents "
            "decide that, and no source does."
        )


def _rejected(plan: Plan, progress: Progress) -> Iterator[str]:
    near = [
        one for one in progress.rejected if one.approach == plan.approach or one.candidate.kind == plan.candidate.kind
    ]
    for other in near[:MOST_REJECTED]:
        yield f"Not {source_words(other.candidate)}: {why_not(other)}."


def why_not(plan: Plan) -> str:
    """The first reason against a plan, with its number."""
    if plan.assessment.stops:
        stop = plan.assessment.stops[0]
        return f"{stop.title[:1].lower()}{stop.title[1:]} ({stop.number})"
    missed = own_misses(plan.assessment)
    if not missed:
        return "other plans do more"
    worst = missed[0]
    wants = f"{worst.low:g} to {worst.high:g}{UNIT_WORDS[worst.unit]}"
    label = worst.label if worst.label.startswith("UV") else worst.label[:1].lower() + worst.label[1:]
    return f"{label} {figure_words(worst)} on a {worst.condition.label.lower()}, wants {wants}"


def obstacles(progress: Progress) -> list[str]:
    """What stands in the way where nothing works: the room alone first, then the best of what was tried."""
    if not progress.rejected:
        return ["Nothing that is allowed fits this box and lid."]
    best = progress.rejected[0]
    nearest = f"Nearest: {source_words(best.candidate)}; but {why_not(best)}."
    change = smallest_room_change(best)
    return [*_room_too_warm(best), nearest, *([change] if change else [])]


def change_words(change: BoxChange) -> str:
    """What a change of the box would do, by the screening."""
    return (
        f"With {change.words}: {source_words(change.candidate)}, about {change.candidate.chance:.0%} sure. Without it: "
        f"{source_words(change.before)}, about {change.before.chance:.0%}."
    )


def _room_too_warm(plan: Plan) -> Iterator[str]:
    room, targets = plan.design.room, plan.assessment.targets
    for room_c, high_c, when, what in (
        (room.summer.day_c, targets.cool_air_c[1], "day", "on its cool side"),
        (room.summer.night_c, targets.night_c[1], "night", "by night"),
    ):  # fmt: skip
        if room_c > high_c - HARDLY_ANY_K:
            cools = "no source cools" if room_c > high_c else "every source warms it a little more"
            yield (
                f"The room is {room_c:g} °C on a summer {when} and the animal wants at most {high_c:g} °C {what}: "
                f"{cools}. Keep the room at {high_c - 1:g} °C or below."
            )


def distinct(plans: Sequence[Plan]) -> list[Plan]:
    """Plans, best first, without near-copies: of lamps that do the same work, only the best in each approach."""
    found: dict[tuple[str, str], Plan] = {}
    for plan in sorted(plans, key=lambda one: -one.score):
        found.setdefault((plan.approach, work_of(plan.candidate.kind)), plan)
    return list(found.values())
