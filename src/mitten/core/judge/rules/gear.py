"""Rules about gear: ratings, sockets, reach, light at night, sources that keepers should not use."""

from collections.abc import Iterator
from functools import partial
from math import inf

from mitten.core.catalogue import Catalogue
from mitten.core.design import Fixture, Heater
from mitten.core.design.amounts import capital, celsius, length, millilitres
from mitten.core.judge.finding import Case, Finding, rule
from mitten.core.judge.reach import footings, stretch_m
from mitten.core.physics.radiation.sources import PANEL_THICKNESS_M, is_guarded
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.touch import HotPart, hot_parts

MESH_HOT_K = 8.0
MESH_BURNS_K = 40.0
"""Thin wires hold little heat: so much beyond what burns on a slab they hurt, or burn at once; starting points to
verify."""

REMEDIES = {
    "guard": "Hang it higher, out of reach, or take a weaker lamp.",
    "dome": "Hang it outside above a mesh, higher, or behind a guard, or take a weaker lamp.",
    "panel": "Take a larger panel or a weaker one, hold it back by its thermostat, or move what leads up to it.",
}
"""What to do about an outside that burns, by what it is."""

SAFE_GAP_M = 0.05
"""Kept clear beyond the reach: heat burns before it is touched."""


HOURS_ON_END_W = 1440.0
"""80 % of 15 A at 120 V; a starting point, local codes decide."""


def fixture_rating_w(fixture: Fixture, catalogue: Catalogue) -> float:
    """Highest wattage a fixture may hold: its label, or what such fixtures usually bear."""
    return fixture.max_watts or catalogue.fixtures[fixture.kind].usual_max_watts


def in_fixtures(case: Case) -> Iterator[Heater]:
    """The heaters that screw into a socket."""
    return (heater for heater in case.design.heaters if case.catalogue.sources[heater.kind].needs_fixture)


@rule(
    "fixture-rating", chapter="Gear", catches="A lamp stronger than its fixture is rated for.", shown_by="watts, rating"
)
def _over_rating(case: Case) -> Iterator[Finding]:
    for heater in in_fixtures(case):
        rating = fixture_rating_w(heater.fixture, case.catalogue)
        if heater.watts > rating:
            yield Finding(
                rule="fixture-rating",
                severity="stop",
                title=f"{heater.watts:g} W in a fixture for {rating:g} W",
                reason=f"'{heater.name}' is stronger than its fixture may hold: the fixture and its wiring overheat.",
                number=f"{heater.watts:g} W, limit {rating:g} W",
                remedy=f"Fit a lamp of at most {rating:g} W, or a fixture rated for {heater.watts:g} W.",
            )


@rule("socket-material", chapter="Gear", catches="A plastic socket on a heat source.", shown_by="watts")
def _plastic_socket(case: Case) -> Iterator[Finding]:
    for heater in in_fixtures(case):
        if heater.fixture.socket == "plastic":
            yield Finding(
                rule="socket-material",
                severity="stop",
                title=f"Plastic socket on '{heater.name}'",
                reason="A heat source softens and chars a plastic socket; it can set fire to what is near.",
                number=f"{heater.watts:g} W",
                remedy="Use a fixture with a ceramic socket.",
            )


def _in_reach(case: Case) -> Iterator[tuple[Heater, float, str]]:
    """Hanging heaters inside that the animal gets to, with the gap and what it stands on."""
    reach = stretch_m(case.species, case.design.animal.stage)
    for heater in case.design.heaters:
        kind = case.catalogue.sources[heater.kind]
        if heater.above_mesh or kind.family not in ("lamp", "panel"):
            continue
        height_m = heater.z_m if kind.family == "lamp" else case.design.enclosure.height_m - PANEL_THICKNESS_M
        standing = footings(case.design, case.species)
        nearest = min(standing, key=lambda one, at=(heater.x_m, heater.y_m, height_m): one.distance_m(*at))  # type: ignore[misc]
        gap_m = nearest.distance_m(heater.x_m, heater.y_m, height_m)
        if gap_m < reach + SAFE_GAP_M:
            yield heater, gap_m, nearest.name


@rule("unvented-dome", chapter="Gear", catches="A ceramic or mercury lamp in a dome without vents.", shown_by="watts")
def _unvented_dome(case: Case) -> Iterator[Finding]:
    for heater in in_fixtures(case):
        kind, fixture = case.catalogue.sources[heater.kind], case.catalogue.fixtures[heater.fixture.kind]
        hot = kind.arc_share > 0 or kind.radiating_area_m2 is not None
        if hot and fixture.encloses and not fixture.vented:
            yield Finding(
                rule="unvented-dome",
                severity="stop",
                title=f"'{heater.name}' is in a dome without vents",
                reason=f"{capital(kind.with_article)} heats its fixture more than other lamps do; "
                "without vents socket and lead bake.",
                number=f"{heater.watts:g} W in a dome for usually {fixture.usual_max_watts:g} W",
                remedy="Use a large vented dome or an open wire fixture with a ceramic socket.",
            )


@rule(
    "within-reach",
    chapter="Gear",
    catches="A heat source without a guard that the animal reaches.",
    shown_by="gap, reach",
)
@rule("climber-under-open-lamp", chapter="Gear", catches="A climbing animal under an open lamp.", shown_by="gap")
@rule(
    "hot-to-touch",
    chapter="Gear",
    catches="A guard too small, or a panel, too hot and within reach.",
    shown_by="its outside, limit",
)
def _within_reach(case: Case) -> Iterator[Finding]:
    limit_c = case.targets.danger_contact_c
    for heater, gap_m, footing in _in_reach(case):
        if case.catalogue.sources[heater.kind].family == "lamp" and not is_guarded(heater.fixture, case.catalogue):
            reach_m = stretch_m(case.species, case.design.animal.stage)
            climbs = reach_m == inf
            reach = "climbs to it" if climbs else f"reaches {length(reach_m)}"
            yield Finding(
                rule="climber-under-open-lamp" if climbs else "within-reach",
                severity="stop",
                title=f"The animal can reach '{heater.name}'",
                reason=f"It has no guard and is {length(gap_m)} from {footing}; the animal {reach}. It burns on touch.",
                number=f"{length(gap_m)}",
                remedy="Put a guard around it, or hang it outside above a mesh.",
            )
            continue
        part = _hottest_part(case, heater)
        if part is not None and part.celsius > limit_c:
            yield Finding(
                rule="hot-to-touch",
                severity="warn",
                title=f"The {part.what} of '{heater.name}' gets {celsius(part.celsius, 0)} and is within reach",
                reason=f"It is {length(gap_m)} from {footing}; above {celsius(limit_c)} it burns what holds on to it.",
                number=f"{celsius(part.celsius, 0)}, limit {celsius(limit_c)}",
                remedy=REMEDIES[part.what],
            )


def _hottest_part(case: Case, heater: Heater) -> HotPart | None:
    """What of a heater the animal touches first, in the condition in which it is hottest."""
    parts = [
        part
        for climate in case.climates.values()
        for part in hot_parts(climate.design, climate.state, heater, case.catalogue)
        if part.what in ("guard", "panel", "dome")
    ]
    return max(parts, key=lambda part: part.celsius, default=None)


@rule(
    "hot-mesh-over-climber",
    chapter="Gear",
    catches="Hot wires that a climbing animal hangs on.",
    shown_by="wires, limit",
)
def _hot_mesh(case: Case) -> Iterator[Finding]:
    """Wires under a lamp that a climbing animal hangs on."""
    box, limit_c = case.design.enclosure, case.targets.danger_contact_c
    if box.lid_mesh is None or not any(getattr(part, "above_mesh", False) for part in case.design.powered):
        return
    reach_m = stretch_m(case.species, case.design.animal.stage)
    highest_m = max(one.height_m for one in footings(case.design, case.species))
    mesh_c, condition = case.worst(lambda climate: climate.mesh_c)
    if highest_m + reach_m < box.height_m or mesh_c <= limit_c + MESH_HOT_K:
        return
    yield Finding(
        rule="hot-mesh-over-climber",
        severity="stop" if mesh_c > limit_c + MESH_BURNS_K else "warn",
        title=f"The mesh under the lamp gets {celsius(mesh_c, 0)}, and the animal climbs to it",
        reason=f"It hangs on the wires by its feet; above {celsius(limit_c)} they burn, and the lamp burns its belly "
        f"({condition.within}).",
        number=f"{celsius(mesh_c, 0)}, limit {celsius(limit_c)}",
        remedy="Raise the lamp over the mesh, take a weaker one, or keep the animal off by a guard under the mesh.",
    )


@rule("light-at-night", chapter="Gear", catches="Light at night, whatever its colour.", shown_by="watts of light")
def _light_at_night(case: Case) -> Iterator[Finding]:
    for lamp in case.design.uvb:
        if lamp.on in ("night", "always"):
            yield Finding(
                rule="light-at-night",
                severity="warn",
                title=f"'{lamp.name}' shines at night",
                reason="Light at night breaks the animal's rest, whatever its colour.",
                number=f"{lamp.watts:g} W of light at night",
                remedy="Let it run by day alone.",
            )
    for heater in case.design.heaters:
        if case.catalogue.sources[heater.kind].light and heater.on in ("night", "always"):
            yield Finding(
                rule="light-at-night",
                severity="warn",
                title=f"'{heater.name}' shines at night",
                reason="Light at night breaks the animal's rest, whatever its colour.",
                number=f"{heater.watts:g} W of light at night",
                remedy="Switch it off at night; if the night is too cold, use a source without light.",
            )


@rule("coloured-lamp", chapter="Gear", catches="A red, blue or black lamp.", shown_by="watts")
def _coloured(case: Case) -> Iterator[Finding]:
    for heater in case.design.heaters:
        kind = case.catalogue.sources[heater.kind]
        if kind.coloured:
            yield Finding(
                rule="coloured-lamp",
                severity="warn",
                title=f"'{heater.name}' is a coloured lamp",
                reason=kind.service_note,
                number=f"{heater.watts:g} W",
                remedy="Replace it by a clear lamp for the day and a ceramic emitter for the night.",
            )


def _site_c(climate: Climate, name: str) -> float:
    return climate.site_surfaces_c[name]


@rule("hot-rock", chapter="Gear", catches="A hot rock.", shown_by="its surface")
def _hot_rock(case: Case) -> Iterator[Finding]:
    for heater in case.design.heaters:
        kind = case.catalogue.sources[heater.kind]
        if kind.family == "rock":
            surface_c, condition = case.worst(partial(_site_c, name=heater.site or ""))
            yield Finding(
                rule="hot-rock",
                severity="warn",
                title=f"'{heater.name}' is a hot rock",
                reason=f"{kind.service_note} It gets {celsius(surface_c, 0)} {condition.when}.",
                number=f"{celsius(surface_c, 0)}",
                remedy="Replace it by a lamp over a plain slab, or a mat under one with a thermostat.",
            )


@rule("fixture-rating-unknown", chapter="Gear", catches="A fixture whose label was not read.", shown_by="watts assumed")
def _unread_rating(case: Case) -> Iterator[Finding]:
    for heater in in_fixtures(case):
        if heater.fixture.max_watts is None:
            usual = case.catalogue.fixtures[heater.fixture.kind].usual_max_watts
            yield Finding(
                rule="fixture-rating-unknown",
                severity="note",
                title=f"Read the rating on the fixture of '{heater.name}'",
                reason=f"No rating is given; {usual:g} W, usual for such a fixture, is assumed.",
                number=f"{usual:g} W assumed",
                remedy="Enter what its label says.",
            )


@rule("lamp-over-water", chapter="Gear", catches="An open lamp over open water.", shown_by="height over the water")
def _over_water(case: Case) -> Iterator[Finding]:
    """A hot bulb that is splashed bursts, and what falls into water takes the mains with it."""
    ground_m = case.design.substrate.depth_m
    for heater in in_fixtures(case):
        guarded = is_guarded(heater.fixture, case.catalogue)
        if heater.watts == 0 or heater.above_mesh or guarded:
            continue
        for site in case.design.sites:
            over = site.role == "water" and site.is_under(heater.x_m, heater.y_m)
            if over and heater.z_m > site.top_m(ground_m):
                yield Finding(
                    rule="lamp-over-water",
                    severity="stop",
                    title=f"'{heater.name}' hangs without a guard over the water of '{site.name}'",
                    reason="A splash bursts a hot bulb, and a lamp that comes loose falls into the water with the "
                    "mains on it.",
                    number=f"{length(heater.z_m - site.top_m(ground_m))} over the water",
                    remedy="Move the water out from under it, or put a guard round it.",
                    parts=(heater.name, site.name),
                )


@rule("misting-on-a-hot-lamp", chapter="Gear", catches="Misting with a hot lamp inside.", shown_by="amount, watts")
def _misted(case: Case) -> Iterator[Finding]:
    misted_ml = case.design.substrate.misting_ml_day
    inside = [one for one in in_fixtures(case) if not one.above_mesh and one.watts > 0]
    if misted_ml <= 0 or not inside:
        return
    heater = max(inside, key=lambda one: one.watts)
    yield Finding(
        rule="misting-on-a-hot-lamp",
        severity="note",
        title=f"Mist may reach '{heater.name}' while it is hot",
        reason="Cold water on a hot bulb or emitter cracks it, and water in a socket is a way for the current.",
        number=f"{millilitres(misted_ml)} a day, {heater.watts:g} W inside",
        remedy="Mist by hand with the lamps off and cool, away from every socket, or water the ground and set misting "
        "to none; a lamp above a mesh is out of it as well where nothing drips.",
    )


@rule("outlet-load", chapter="Gear", catches="More than one outlet bears for hours.", shown_by="watts, limit")
def _outlet_load(case: Case) -> Iterator[Finding]:
    """By what a usual circuit bears for hours on end; the shelf counts all enclosures by its own mains."""
    loads = {
        time: sum(one.watts for one in case.design.powered if getattr(one, "on", "day") in (time, "always"))
        for time in ("day", "night")
    }
    time = max(loads, key=lambda one: loads[one])
    if loads[time] > HOURS_ON_END_W:
        yield Finding(
            rule="outlet-load",
            severity="warn",
            title=f"{loads[time]:g} W run at once by {time}",
            reason=f"A usual circuit of 15 A at 120 V bears {HOURS_ON_END_W:g} W for hours on end, and a household "
            "socket strip less.",
            number=f"{loads[time]:g} W, limit {HOURS_ON_END_W:g} W",
            remedy=f"Take less power, or spread it: no circuit should carry more than {HOURS_ON_END_W:g} W; ask an "
            "electrician.",
        )
