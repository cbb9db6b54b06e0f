"""Rules about the box as a home: its size, cover, what can be got to, humidity, and the school that is followed."""

from collections.abc import Iterator

from mitten.core.catalogue import Species
from mitten.core.design import Enclosure, Stage
from mitten.core.design.amounts import celsius, length
from mitten.core.judge.cover import NO_COVER, Cover, cover_by_temperature
from mitten.core.judge.finding import Case, Finding, by_day, rule
from mitten.core.judge.reach import out_of_reach
from mitten.core.judge.resting import CAUTIONS, what_is_odd_of_a_rest, why_no_rest
from mitten.core.physics.reading.hides import is_hide

MUCH_TOO_BIG = 6.0
"""A hatchling's box of more than so many times the least volume is big."""

FEW_HIDES = 2
STILL_PER_H = 1.0
DAMPER_RH = 0.03
"""A box is damp by itself where it holds so much more than the room."""

SMALLER_BY_M = 0.01
A_STEP_M = 0.03
"""Any animal gets up a slab so high."""

HARDLY_RAISED_M = 0.005
"""A hide drawn flat on the ground is one whose roof was not given a height."""

HARDLY_LOWER_M = 0.005
"""A roof that is lower by less is as high, as far as anyone measures."""

STOOD_ON = ("basking", "perch")


def short_sides(species: Species, stage: Stage, box: Enclosure) -> list[str]:
    """Sides of a box that are shorter than an animal needs at its age, in words: ``45 of 60 cm high``."""
    have = {"long": box.length_m, "deep": box.depth_m, "high": box.height_m}
    wanted = dict(zip(have, species.least_box_at(stage), strict=True))
    return [
        f"{length((have[side], wanted[side]), 'of')} {side}"
        for side in have
        if have[side] < wanted[side] - SMALLER_BY_M
    ]


@rule(
    "box-too-small",
    chapter="The box as a home",
    catches="A box too small for the species and stage.",
    shown_by="size, least size",
)
def _too_small(case: Case) -> Iterator[Finding]:
    words = ", ".join(short_sides(case.species, case.design.animal.stage, case.design.enclosure))
    if words:
        yield Finding(
            rule="box-too-small",
            severity="warn",
            title=f"The box is too small for {case.inmate}",
            reason=f"It is {words}. A small box has no room for a slope of temperature.",
            number=words,
            remedy="Plan a larger box; check the least size for the species.",
        )


@rule(
    "box-too-big-and-bare",
    chapter="The box as a home",
    catches="A box too big and bare for a hatchling.",
    shown_by="times the least size",
)
def _too_big_and_bare(case: Case) -> Iterator[Finding]:
    if case.design.animal.stage != "hatchling":
        return
    box, least = case.design.enclosure, case.species.least_box_at("hatchling")
    times = box.length_m * box.depth_m * box.height_m / (least[0] * least[1] * least[2])
    hides = sum(site.role.endswith("hide") for site in case.design.sites)
    hides_words = f"{hides or 'no'} hide{'' if hides == 1 else 's'}"
    if times > MUCH_TOO_BIG and hides < FEW_HIDES:
        yield Finding(
            rule="box-too-big-and-bare",
            severity="warn",
            title="The box is big and bare for a hatchling",
            reason=f"It is {times:.0f} times the least size with {hides_words}: a young animal does not find food "
            "and warmth, and hides in one corner.",
            number=f"{times:.0f} times the least size, {hides_words}",
            remedy="Fill it with cover, or divide it until the animal has grown.",
        )


@rule(
    "no-cover-warm", chapter="The box as a home", catches="No hide where it is warm.", shown_by="nearest hide, wanted"
)
@rule(
    "no-cover-cool", chapter="The box as a home", catches="No hide where it is cool.", shown_by="nearest hide, wanted"
)
@by_day
def _cover(case: Case) -> Iterator[Finding]:
    """A hide in every band; for what lives in trees leaves are cover too, which no design file tells."""
    if not case.design.heaters:
        return
    in_trees = case.species.climbs == "strong"
    if in_trees and any(site.role == "plant" for site in case.design.sites):
        # Leaves are cover wherever they reach, which no design file tells.
        return
    for cover in cover_by_temperature(case.climate_in("winter-day"), case.targets):
        if cover.hide is not None:
            continue
        by_choice = in_trees or (case.species.basks and cover.band == "warm")
        yield Finding(
            rule=NO_COVER[cover.band],
            severity="note" if by_choice else "warn",
            title=f"No hide is {cover.band}",
            reason=f"A shy animal must then choose between {'warmth' if cover.band == 'warm' else 'coolness'} and "
            f"safety: {cover.nearest}, wanted are {celsius((cover.low_c, cover.high_c))}.",
            number=f"{cover.nearest}; wants {celsius((cover.low_c, cover.high_c))}",
            remedy=_more_cover(cover, in_trees),
        )


def _more_cover(cover: Cover, in_trees: bool) -> str:
    """A hide, or the one there is moved to where the temperature is right."""
    if cover.nearest_hide is None:
        return f"Put {'leaves to hide in, or a hide,' if in_trees else 'a hide'} at the {cover.band} end."
    too_cold = cover.nearest_c < cover.low_c
    way = "nearer to the heat" if too_cold else "farther from the heat"
    return f"Move '{cover.nearest_hide}' {way}, or put another hide there."


@rule(
    "hide-too-low",
    chapter="The box as a home",
    catches="A hide that is too low for the animal.",
    shown_by="room, the back's height",
)
def _hide_too_low(case: Case) -> Iterator[Finding]:
    ground_m, back_m = case.design.substrate.depth_m, case.body.back_m
    for site in case.design.sites:
        room_m = site.underside_m(ground_m) - ground_m
        if is_hide(site) and HARDLY_RAISED_M < room_m < back_m - HARDLY_LOWER_M:
            yield Finding(
                rule="hide-too-low",
                severity="warn",
                title=f"{case.inmate[0].upper()}{case.inmate[1:]} does not fit under '{site.name}'",
                reason=f"Its roof is {length(room_m)} above the ground; the animal's back is {length(back_m)} high.",
                number=f"{length(room_m)}, needs more than {length(back_m)}",
                remedy="Raise the roof, or take a larger hide.",
                parts=(site.name,),
            )


@rule(
    "out-of-reach", chapter="The box as a home", catches="A place that the animal cannot get up to.", shown_by="height"
)
def _out_of_reach(case: Case) -> Iterator[Finding]:
    ground_m = case.design.substrate.depth_m
    for site in out_of_reach(case.design, case.species):
        height_m = site.top_m(ground_m) - ground_m
        if site.role not in STOOD_ON or height_m <= max(case.body.back_m, A_STEP_M):
            continue  # A hide is gone into, not up; and every animal gets up what is no higher than itself.
        basking = site.role == "basking"
        yield Finding(
            rule="out-of-reach",
            severity="warn" if basking else "note",
            title=f"The animal may not get up to '{site.name}'",
            reason=f"Its top is {length(height_m)} above the ground, and nothing else leads up to it.",
            number=f"{length(height_m)} up",
            remedy="Lower it, or give it a ramp or a step.",
        )


@rule(
    "too-still-and-damp",
    chapter="The box as a home",
    catches="Air too still and damp.",
    shown_by="humidity, air changes",
)
@rule("too-dry", chapter="The box as a home", catches="Air too dry, and no humid hide.", shown_by="humidity, wanted")
def _humidity(case: Case) -> Iterator[Finding]:
    """By what is borne: of an animal of dry land by day alone, for every night is damper."""
    low, high = case.targets.bears("humidity")
    judged = case.days() if case.targets.is_arid else case.climates
    if not judged:
        return
    wettest = max(judged.items(), key=lambda item: item[1].humidity.mean)
    driest = min(judged.items(), key=lambda item: item[1].humidity.mean)
    air_per_h = min(climate.air_changes_per_hour for climate in judged.values())
    damper = wettest[1].humidity.mean > wettest[0].rh + DAMPER_RH
    if air_per_h < STILL_PER_H and wettest[1].humidity.mean > high and damper:
        yield Finding(
            rule="too-still-and-damp",
            severity="warn",
            title=f"The air is still and damp {wettest[0].when}",
            reason=f"It is changed {air_per_h:.1f} times an hour and holds {wettest[1].humidity.mean:.0%}; still, "
            "damp air breeds mould and sick lungs.",
            number=f"{wettest[1].humidity.mean:.0%}, bears at most {high:.0%}; {air_per_h:.1f} air changes an hour",
            remedy="Open a vent low and one high, mist less, or use a small fan.",
        )
    hide = any(site.role == "humid-hide" for site in case.design.sites)
    if driest[1].humidity.mean < low and not hide:
        yield Finding(
            rule="too-dry",
            severity="warn",
            title=f"The air is too dry {driest[0].when}",
            reason=f"It holds {driest[1].humidity.mean:.0%}; in dry air the skin is shed in pieces, and no hide is "
            "humid.",
            number=f"{driest[1].humidity.mean:.0%}, bears no less than {low:.0%}",
            remedy="Add a humid hide, mist more, keep part of the ground damp, or close some of the mesh.",
        )


@rule(
    "not-the-approach",
    chapter="The box as a home",
    catches="Heat that is not of the approach that was chosen.",
    shown_by="what departs",
)
def _approach(case: Case) -> Iterator[Finding]:
    design, sources = case.design, case.catalogue.sources
    families = {sources[heater.kind].family for heater in design.heaters}
    shining = [heater for heater in design.heaters if sources[heater.kind].light]
    departs = {
        "sunlit": ("no lamp gives heat and light together", bool(design.heaters) and not shining),
        "lightless": (f"'{shining[0].name}' gives light" if shining else "", bool(shining)),
        "ground": ("nothing warms from below", bool(design.heaters) and "contact" not in families),
        "one-lamp": (f"{len(design.heaters)} sources give heat", len(design.heaters) > 1),
    }
    words, leaves = departs.get(design.approach, ("", False))
    if leaves:
        yield Finding(
            rule="not-the-approach",
            severity="note",
            title=f"This is not the approach '{design.approach.replace('-', ' ')}'",
            reason=f"You chose it on the Animal sheet, but {words}.",
            number=words,
            remedy="Change the heat, or the approach.",
        )


@rule("no-water", chapter="The box as a home", catches="Nothing to drink.", shown_by="dishes, misting")
def _no_water(case: Case) -> Iterator[Finding]:
    if any(site.role == "water" for site in case.design.sites) or case.design.substrate.misting_ml_day > 0:
        return
    yield Finding(
        rule="no-water",
        severity="note",
        title="There is nothing to drink",
        reason="Most reptiles drink from a dish or from drops; in warm air they dry out within days.",
        number="no dish, no misting",
        remedy="Add a water dish at the cool end, and change its water daily.",
    )


@rule(
    "cool-rest", chapter="The box as a home", catches="A cool rest that the species does not stand.",
    shown_by="temperatures, weeks",
)  # fmt: skip
def _cool_rest(case: Case) -> Iterator[Finding]:
    cooling = case.design.schedule.cooling if case.design.schedule else None
    if cooling is None:
        return
    refused = why_no_rest(case.species, case.design.animal.stage, cooling)
    odd = what_is_odd_of_a_rest(case.species, cooling)
    if refused or odd:
        yield Finding(
            rule="cool-rest",
            severity="stop" if refused else "warn",
            title="The cool rest that is planned would harm it"
            if refused
            else "The cool rest that is planned is unusual",
            reason=f"{refused or odd} {CAUTIONS}.",
            number=f"{celsius(cooling.day_c)} by day, {celsius(cooling.night_c)} by night, {cooling.weeks} weeks",
            remedy="Take the cool rest out of the year."
            if refused
            else "Plan it as is usual for the species, or leave it out.",
        )
