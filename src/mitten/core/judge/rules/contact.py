"""Rules about warmth from below: mats, tapes and cables."""

from collections.abc import Iterator

from mitten.core.design import Heater
from mitten.core.judge.finding import Case, Finding, Rule

MOST_OF_THE_FLOOR = 0.5
COOL_AIR_K = 3.0
THICK_M = 0.04


def _mats(case: Case) -> Iterator[tuple[Heater, str]]:
    """Contact sources that run, each with where it lies."""
    for heater in case.design.heaters:
        kind = case.catalogue.sources[heater.kind]
        if kind.family == "contact" and heater.watts > 0:
            yield heater, kind.place_of(heater)


def _inside(case: Case) -> Iterator[Finding]:
    for heater, place in _mats(case):
        if place == "on-floor":
            kind = case.catalogue.sources[heater.kind]
            tape = heater.kind == "heat-tape"
            bare = tape and heater.cover_mm == 0
            yield Finding(
                "tape-inside" if tape else "mat-inside",
                "stop" if bare else "warn",
                f"'{heater.name}' lies {'bare ' if bare else ''}inside the box",
                f"A {kind.label} inside gets wet, is dug up and bent"
                + (", and its terminals are live where the animal is." if tape else "."),
                f"{heater.watts:g} W under {case.design.substrate.depth_mm:g} mm of ground",
                "Lay it under the floor, with a gap of air below the box.",
            )


def _over_half_the_floor(case: Case) -> Iterator[Finding]:
    box = case.design.enclosure
    for heater, place in _mats(case):
        share = (heater.length_m or 0.0) * (heater.depth_m or 0.0) / (box.length_m * box.depth_m)
        if place in ("under-floor", "on-floor") and share > MOST_OF_THE_FLOOR:
            yield Finding(
                "mat-over-half-the-floor",
                "warn",
                f"'{heater.name}' warms {share:.0%} of the floor",
                "The animal must be able to lie off the warmth; at least half of the floor stays cool.",
                f"{share:.0%} of the floor, at most {MOST_OF_THE_FLOOR:.0%}",
                "Use a smaller mat, or let it reach past the end of the box.",
            )


def _no_gap(case: Case) -> Iterator[Finding]:
    for heater, place in _mats(case):
        if place == "under-floor" and not case.design.enclosure.underside.raised:
            shelf_c, condition = case.worst(lambda climate: climate.shelf_c)
            yield Finding(
                "mat-without-gap",
                "warn",
                f"The box stands flat on '{heater.name}'",
                f"Its heat is trapped and its lead is crushed: what it lies on gets {shelf_c:.0f} °C {condition.when}.",
                f"{shelf_c:.0f} °C under the box",
                "Stand the box on feet, so that air passes under it.",
            )


def _thick_substrate(case: Case) -> Iterator[Finding]:
    depth_m = case.design.substrate.depth_m
    for heater, place in _mats(case):
        base_c, condition = case.worst(lambda climate: climate.base_c)
        surface_c = case.climates[condition].floor.hottest()[0]
        if place in ("under-floor", "on-floor") and depth_m > THICK_M and base_c > surface_c + COOL_AIR_K:
            yield Finding(
                "thick-substrate-over-mat",
                "warn",
                f"{depth_m * 100:.0f} cm of ground lie over '{heater.name}'",
                f"A probe on top reads {surface_c:.0f} °C while the base below is {base_c:.0f} °C: what is held above "
                "says nothing of what a digging animal meets.",
                f"{base_c:.0f} °C under {surface_c:.0f} °C",
                "Take less ground over the mat"
                + (", and put the probe on the mat itself." if _probe_is_elsewhere(case, heater) else "."),
            )


def _probe_is_elsewhere(case: Case, mat: Heater) -> bool:
    """Whether a mat has a thermostat whose probe is not on it."""
    control = case.design.control_of(mat)
    return control is not None and control.probe is not None and control.probe.reads not in ("base", "heater")


def _mat_alone(case: Case) -> Iterator[Finding]:
    mats = [heater.name for heater, _ in _mats(case)]
    if not mats or len(mats) != len(case.design.heaters):
        return
    condition, climate = min(case.climates.items(), key=lambda item: item[1].air.warm_c)
    wanted_c = case.targets.bears("warm_air_c" if condition.day else "night_c")[0]
    if climate.air.warm_c < wanted_c - COOL_AIR_K:
        yield Finding(
            "mat-alone-in-a-cool-box",
            "warn",
            f"A mat alone leaves the air at {climate.air.warm_c:.0f} °C {condition.when}",
            "Skin cannot carry heat away from a contact patch when the air is cold: the animal stays on it, cold above "
            "and burned below.",
            f"{climate.air.warm_c:.1f} °C, wants {wanted_c:g} °C",
            "Warm the air as well: a lightless source above on a thermostat, or insulation.",
        )


RULES: tuple[Rule, ...] = (_inside, _over_half_the_floor, _no_gap, _thick_substrate, _mat_alone)
