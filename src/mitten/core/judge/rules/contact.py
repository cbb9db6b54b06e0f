"""Rules about warmth from below: mats, tapes and cables."""

from collections.abc import Iterator

from mitten.core.design import Heater
from mitten.core.design.amounts import capital, celsius, length, millimetres
from mitten.core.judge.finding import Case, Finding, rule

MOST_OF_THE_FLOOR = 0.5
COOL_AIR_K = 3.0
THICK_M = 0.04


def _mats(case: Case) -> Iterator[tuple[Heater, str]]:
    """Contact sources that run, each with where it lies."""
    for heater in case.design.heaters:
        kind = case.catalogue.sources[heater.kind]
        if kind.family == "contact" and heater.watts > 0:
            yield heater, kind.place_of(heater)


@rule("mat-inside", chapter="Warmth from below", catches="A mat or cable inside the box.", shown_by="watts, depth")
@rule("tape-inside", chapter="Warmth from below", catches="Heat tape inside the box.", shown_by="watts, depth")
def _inside(case: Case) -> Iterator[Finding]:
    for heater, place in _mats(case):
        if place == "on-floor":
            kind = case.catalogue.sources[heater.kind]
            tape = kind.live_terminals
            bare = tape and heater.cover_mm == 0
            yield Finding(
                rule="tape-inside" if tape else "mat-inside",
                severity="stop" if bare else "warn",
                title=f"'{heater.name}' lies {'bare ' if bare else ''}inside the box",
                reason=f"{capital(kind.with_article)} inside gets wet, is dug up and bent"
                + (", and its terminals are live where the animal is." if tape else "."),
                number=f"{heater.watts:g} W under {millimetres(case.design.substrate.depth_mm)} of ground",
                remedy="Lay it under the floor, with a gap of air below the box.",
            )


@rule(
    "mat-over-half-the-floor",
    chapter="Warmth from below",
    catches="A mat under more than half of the floor.",
    shown_by="share of the floor",
)
def _over_half_the_floor(case: Case) -> Iterator[Finding]:
    box = case.design.enclosure
    for heater, place in _mats(case):
        share = (heater.length_m or 0.0) * (heater.depth_m or 0.0) / (box.length_m * box.depth_m)
        if place in ("under-floor", "on-floor") and share > MOST_OF_THE_FLOOR:
            yield Finding(
                rule="mat-over-half-the-floor",
                severity="warn",
                title=f"'{heater.name}' warms {share:.0%} of the floor",
                reason="The animal must be able to lie off the warmth; at least half of the floor stays cool.",
                number=f"{share:.0%} of the floor, at most {MOST_OF_THE_FLOOR:.0%}",
                remedy="Use a smaller mat, or let it reach past the end of the box.",
            )


@rule(
    "mat-without-gap",
    chapter="Warmth from below",
    catches="A box flat on its mat: trapped heat, crushed lead.",
    shown_by="under the box",
)
def _no_gap(case: Case) -> Iterator[Finding]:
    for heater, place in _mats(case):
        if place == "under-floor" and not case.design.enclosure.underside.raised:
            shelf_c, condition = case.worst(lambda climate: climate.shelf_c)
            yield Finding(
                rule="mat-without-gap",
                severity="warn",
                title=f"The box stands flat on '{heater.name}'",
                reason=f"Its heat is trapped and its lead is crushed: what it lies on gets {celsius(shelf_c, 0)} "
                f"{condition.when}.",
                number=f"{celsius(shelf_c, 0)} under the box",
                remedy="Stand the box on feet, so that air passes under it.",
            )


@rule(
    "thick-substrate-over-mat",
    chapter="Warmth from below",
    catches="Deep ground over a mat: only the top reads right.",
    shown_by="base and top",
)
def _thick_substrate(case: Case) -> Iterator[Finding]:
    depth_m = case.design.substrate.depth_m
    for heater, place in _mats(case):
        base_c, condition = case.worst(lambda climate: climate.base_c)
        surface_c = case.climates[condition].floor.hottest()[0]
        if place in ("under-floor", "on-floor") and depth_m > THICK_M and base_c > surface_c + COOL_AIR_K:
            yield Finding(
                rule="thick-substrate-over-mat",
                severity="warn",
                title=f"{length(depth_m)} of ground lie over '{heater.name}'",
                reason=f"A probe on top reads {celsius(surface_c, 0)} while the base below is "
                f"{celsius(base_c, 0)}: what is held above says nothing of what a digging animal meets.",
                number=f"{celsius(base_c, 0)} under {celsius(surface_c, 0)}",
                remedy="Take less ground over the mat"
                + (", and put the probe on the mat itself." if _probe_is_elsewhere(case, heater) else "."),
            )


def _probe_is_elsewhere(case: Case, mat: Heater) -> bool:
    """Whether a mat has a thermostat whose probe is not on it."""
    control = case.design.control_of(mat)
    return control is not None and control.probe is not None and control.probe.reads not in ("base", "heater")


@rule(
    "mat-alone-in-a-cool-box",
    chapter="Warmth from below",
    catches="A mat alone under cold air.",
    shown_by="air, wanted air",
)
def _mat_alone(case: Case) -> Iterator[Finding]:
    mats = [heater.name for heater, _ in _mats(case)]
    if not mats or len(mats) != len(case.design.heaters):
        return
    condition, climate = min(case.climates.items(), key=lambda item: item[1].air.warm_c)
    wanted_c = case.targets.bears("warm_air_c" if condition.day else "night_c")[0]
    if climate.air.warm_c < wanted_c - COOL_AIR_K:
        yield Finding(
            rule="mat-alone-in-a-cool-box",
            severity="warn",
            title=f"A mat alone leaves the air at {celsius(climate.air.warm_c, 0)} {condition.when}",
            reason="Skin cannot carry heat away from a contact patch when the air is cold: the animal stays on it, "
            "cold above and burned below.",
            number=f"{celsius(climate.air.warm_c, 1)}, wants {celsius(wanted_c)}",
            remedy="Warm the air as well: a lightless source above on a thermostat, or insulation.",
        )
