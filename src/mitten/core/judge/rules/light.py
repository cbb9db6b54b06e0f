"""Rules about ultraviolet lamps."""

from collections.abc import Iterator

from mitten.core.design import UvbLamp
from mitten.core.judge.finding import Case, Finding, by_day, rule
from mitten.core.judge.reach import footings
from mitten.core.physics.radiation.ultraviolet import left_after

OLD_DAYS = 365
MUCH_TOO_STRONG = 1.5
EXTREME = 7.0
COOL_SHARE = 0.4

SLOPE_K = 0.3
"""Where the ends differ by less, none of them is the wrong one."""


@rule("uv-too-near", chapter="Ultraviolet", catches="A UV lamp too near.", shown_by="UV index, wanted")
@rule("uv-too-far", chapter="Ultraviolet", catches="A UV lamp too far or too weak.", shown_by="UV index, wanted")
@by_day
def _strength(case: Case) -> Iterator[Finding]:
    """Too little at the basking place; too much anywhere that the animal gets to."""
    if not any(climate.basking.uvi_most > 0 for climate in case.days().values()) and not case.design.uvb:
        return
    low, high = case.targets.bears("uvi")
    yield from _too_near(case, high)
    uvi = max(climate.basking.uvi for climate in case.days().values())
    if case.design.uvb and uvi < low - 0.05:
        yield Finding(
            rule="uv-too-far",
            severity="warn",
            title="The UV lamp does too little at the basking place",
            reason="Under its zone the animal cannot make the vitamin D3 that it needs.",
            number=f"UV index {uvi:.1f}, bears {low:g} to {high:g}",
            remedy="Hang it nearer, clear what is between, or use a stronger lamp; measure with a UV index meter.",
        )


def _too_near(case: Case, high: float) -> Iterator[Finding]:
    spots = {
        footing.name: max(
            (climate.site(footing.site.name) if footing.site else climate.ground for climate in case.days().values()),
            key=lambda spot: spot.uvi,
        )
        for footing in footings(case.design, case.species)
    }
    where = max(spots, key=lambda name: spots[name].uvi)
    spot = spots[where]
    if spot.uvi > high + 0.05:
        site = case.design.basking_site
        place = "the basking place" if site and where == f"'{site.name}'" else where
        yield Finding(
            rule="uv-too-near",
            severity="stop" if spot.uvi_most > MUCH_TOO_STRONG * high and spot.uvi_most > EXTREME else "warn",
            title=f"The UV lamp is too near {place}",
            reason="More than the animal's zone harms eyes and skin, and it does not feel it.",
            number=f"UV index {spot.uvi:.1f}, at most {high:g}",
            remedy="Hang it higher, or use a gentler lamp; measure with a UV index meter.",
        )


@rule("uv-at-the-wrong-end", chapter="Ultraviolet", catches="UV at the cool end.", shown_by="where it ends")
@by_day
def _wrong_end(case: Case) -> Iterator[Finding]:
    box, design = case.design.enclosure, case.design
    if not design.heaters or box.height_m > box.length_m:
        return
    day = case.climate_in("winter-day")
    if day.air.warm_c - day.air.cool_c < SLOPE_K:
        return
    right = day.warm_is_right
    for lamp in design.uvb:
        reach_m = lamp.x_m + (lamp.length_m or 0.0) / 2 if right else lamp.x_m - (lamp.length_m or 0.0) / 2
        place = reach_m / box.length_m if right else 1 - reach_m / box.length_m
        if place < 1 - COOL_SHARE:
            yield Finding(
                rule="uv-at-the-wrong-end",
                severity="warn",
                title=f"'{lamp.name}' shines at the cool end",
                reason="Brightness and warmth belong together, and the cool end stays shaded: it seeks the sun "
                "where it is warm.",
                number=f"ends {place:.0%} of the way to the warm end",
                remedy="Hang it beside the heat.",
            )


@rule(
    "uv-through-mesh",
    chapter="Ultraviolet",
    catches="UV through a mesh that nobody allowed for.",
    shown_by="share lost",
)
def _through_mesh(case: Case) -> Iterator[Finding]:
    box = case.design.enclosure
    if box.lid_mesh is None:
        return
    lost = 1.0 - case.catalogue.meshes[box.lid_mesh.mesh].open_share
    for lamp in case.design.uvb:
        if lamp.above_mesh:
            yield Finding(
                rule="uv-through-mesh",
                severity="note",
                title=f"'{lamp.name}' shines through the mesh",
                reason=f"The mesh keeps at least {lost:.0%} of its ultraviolet; the figures here allow for it, its "
                "label does not.",
                number=f"{lost:.0%} lost",
                remedy="Measure under the mesh, or hang the lamp inside behind a guard.",
            )


@rule(
    "uv-lamp-old",
    chapter="Ultraviolet",
    catches="A UV lamp past its life though still bright.",
    shown_by="days, share left",
)
def _old(case: Case) -> Iterator[Finding]:
    for lamp in case.design.uvb:
        days = _age_days(case, lamp)
        if days is not None and days > OLD_DAYS:
            left = left_after(lamp, case.today)
            yield Finding(
                rule="uv-lamp-old",
                severity="warn",
                title=f"'{lamp.name}' is {days / 30.4:.0f} months old",
                reason=f"It still shines as brightly, but about {1 - left:.0%} of its ultraviolet has gone.",
                number=f"{days} days, about {left:.0%} left",
                remedy="Replace it, and write the date on the new one.",
            )


def _age_days(case: Case, lamp: UvbLamp) -> int | None:
    if case.today is None or lamp.installed is None:
        return None
    return (case.today - lamp.installed).days
