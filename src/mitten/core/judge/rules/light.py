"""Rules about ultraviolet lamps."""

from collections.abc import Iterator

from mitten.core.design import UvbLamp
from mitten.core.judge.finding import Case, Finding, Rule, by_day
from mitten.core.judge.reach import footings
from mitten.core.physics.radiation.ultraviolet import left_after

OLD_DAYS = 365
MUCH_TOO_STRONG = 1.5
EXTREME = 7.0
COOL_SHARE = 0.4

SLOPE_K = 0.3
"""Where the ends differ by less, none of them is the wrong one."""


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
            "uv-too-far",
            "warn",
            "The UV lamp does too little at the basking place",
            "Under its zone the animal cannot make the vitamin D3 that it needs.",
            f"UV index {uvi:.1f}, bears {low:g} to {high:g}",
            "Hang it nearer, clear what is between, or use a stronger lamp; measure with a UV index meter.",
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
            "uv-too-near",
            "stop" if spot.uvi_most > MUCH_TOO_STRONG * high and spot.uvi_most > EXTREME else "warn",
            f"The UV lamp is too near {place}",
            "More than the animal's zone harms eyes and skin, and it does not feel it.",
            f"UV index {spot.uvi:.1f}, at most {high:g}",
            "Hang it higher, or use a gentler lamp; measure with a UV index meter.",
        )


@by_day
def _wrong_end(case: Case) -> Iterator[Finding]:
    box, design = case.design.enclosure, case.design
    if not design.heaters or box.height_m > box.length_m:
        return
    day = case.named("winter-day")
    if day.air.warm_c - day.air.cool_c < SLOPE_K:
        return
    right = day.warm_is_right
    for lamp in design.uvb:
        reach_m = lamp.x_m + (lamp.length_m or 0.0) / 2 if right else lamp.x_m - (lamp.length_m or 0.0) / 2
        place = reach_m / box.length_m if right else 1 - reach_m / box.length_m
        if place < 1 - COOL_SHARE:
            yield Finding(
                "uv-at-the-wrong-end",
                "warn",
                f"'{lamp.name}' shines at the cool end",
                "Brightness and warmth belong together, and the cool end stays shaded: it seeks the sun where it "
                "is warm.",
                f"ends {place:.0%} of the way to the warm end",
                "Hang it beside the heat.",
            )


def _through_mesh(case: Case) -> Iterator[Finding]:
    box = case.design.enclosure
    if box.lid_mesh is None:
        return
    lost = 1.0 - case.catalogue.meshes[box.lid_mesh.mesh].open_share
    for lamp in case.design.uvb:
        if lamp.above_mesh:
            yield Finding(
                "uv-through-mesh",
                "note",
                f"'{lamp.name}' shines through the mesh",
                f"The mesh keeps at least {lost:.0%} of its ultraviolet; the figures here allow for it, its label "
                "does not.",
                f"{lost:.0%} lost",
                "Measure under the mesh, or hang the lamp inside behind a guard.",
            )


def _old(case: Case) -> Iterator[Finding]:
    for lamp in case.design.uvb:
        days = _age_days(case, lamp)
        if days is not None and days > OLD_DAYS:
            left = left_after(lamp, case.today)
            yield Finding(
                "uv-lamp-old",
                "warn",
                f"'{lamp.name}' is {days / 30.4:.0f} months old",
                f"It still shines as brightly, but about {1 - left:.0%} of its ultraviolet has gone.",
                f"{days} days, about {left:.0%} left",
                "Replace it, and write the date on the new one.",
            )


def _age_days(case: Case, lamp: UvbLamp) -> int | None:
    if case.today is None or lamp.installed is None:
        return None
    return (case.today - lamp.installed).days


RULES: tuple[Rule, ...] = (_strength, _wrong_end, _through_mesh, _old)
