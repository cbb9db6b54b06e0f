"""Rules about gear: ratings, sockets, reach, light at night, sources that keepers should not use."""

from collections.abc import Iterator
from functools import partial
from math import inf

from mitten.core.catalogue import Catalogue
from mitten.core.design import Fixture, Heater
from mitten.core.judge.finding import Case, Finding, Rule
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


def fixture_rating_w(fixture: Fixture, catalogue: Catalogue) -> float:
    """Highest wattage a fixture may hold: its label, or what such fixtures usually bear."""
    return fixture.max_watts or catalogue.fixtures[fixture.kind].usual_max_watts


def in_fixtures(case: Case) -> Iterator[Heater]:
    """The heaters that screw into a socket."""
    return (heater for heater in case.design.heaters if case.catalogue.sources[heater.kind].needs_fixture)


def _over_rating(case: Case) -> Iterator[Finding]:
    for heater in in_fixtures(case):
        rating = fixture_rating_w(heater.fixture, case.catalogue)
        if heater.watts > rating:
            yield Finding(
                "fixture-rating",
                "stop",
                f"{heater.watts:g} W in a fixture for {rating:g} W",
                f"'{heater.name}' is stronger than its fixture may hold: the fixture and its wiring overheat.",
                f"{heater.watts:g} W, limit {rating:g} W",
                f"Fit a lamp of at most {rating:g} W, or a fixture rated for {heater.watts:g} W.",
            )


def _unread_rating(case: Case) -> Iterator[Finding]:
    for heater in in_fixtures(case):
        if heater.fixture.max_watts is None:
            usual = case.catalogue.fixtures[heater.fixture.kind].usual_max_watts
            yield Finding(
                "fixture-rating-unknown",
                "note",
                f"Read the rating on the fixture of '{heater.name}'",
                f"No rating is given; {usual:g} W, usual for such a fixture, is assumed.",
                f"{usual:g} W assumed",
                "Enter what its label says.",
            )


def _plastic_socket(case: Case) -> Iterator[Finding]:
    for heater in in_fixtures(case):
        if heater.fixture.socket == "plastic":
            yield Finding(
                "socket-material",
                "stop",
                f"Plastic socket on '{heater.name}'",
                "A heat source softens and chars a plastic socket; it can set fire to what is near.",
                f"{heater.watts:g} W",
                "Use a fixture with a ceramic socket.",
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


def _within_reach(case: Case) -> Iterator[Finding]:
    limit_c = case.targets.danger_contact_c
    for heater, gap_m, footing in _in_reach(case):
        if case.catalogue.sources[heater.kind].family == "lamp" and not is_guarded(heater.fixture, case.catalogue):
            reach_m = stretch_m(case.species, case.design.animal.stage)
            climbs = reach_m == inf
            reach = "climbs to it" if climbs else f"reaches {reach_m * 100:.0f} cm"
            yield Finding(
                "climber-under-open-lamp" if climbs else "within-reach",
                "stop",
                f"The animal can reach '{heater.name}'",
                f"It has no guard and is {gap_m * 100:.0f} cm from {footing}; the animal {reach}. It burns on touch.",
                f"{gap_m * 100:.0f} cm",
                "Put a guard around it, or hang it outside above a mesh.",
            )
            continue
        part = _hottest_part(case, heater)
        if part is not None and part.celsius > limit_c:
            yield Finding(
                "hot-to-touch",
                "warn",
                f"The {part.what} of '{heater.name}' gets {part.celsius:.0f} °C and is within reach",
                f"It is {gap_m * 100:.0f} cm from {footing}; above {limit_c:g} °C it burns what holds on to it.",
                f"{part.celsius:.0f} °C, limit {limit_c:g} °C",
                REMEDIES[part.what],
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
        "hot-mesh-over-climber",
        "stop" if mesh_c > limit_c + MESH_BURNS_K else "warn",
        f"The mesh under the lamp gets {mesh_c:.0f} °C, and the animal climbs to it",
        f"It hangs on the wires by its feet; above {limit_c:g} °C they burn, and the lamp burns its belly "
        f"({condition.within}).",
        f"{mesh_c:.0f} °C, limit {limit_c:g} °C",
        "Raise the lamp over the mesh, take a weaker one, or keep the animal off by a guard under the mesh.",
    )


def _unvented_dome(case: Case) -> Iterator[Finding]:
    for heater in in_fixtures(case):
        kind, fixture = case.catalogue.sources[heater.kind], case.catalogue.fixtures[heater.fixture.kind]
        hot = kind.arc_share > 0 or kind.radiating_area_m2 is not None
        if hot and fixture.encloses and not fixture.vented:
            yield Finding(
                "unvented-dome",
                "stop",
                f"'{heater.name}' is in a dome without vents",
                f"A {kind.label} heats its fixture more than other lamps do; without vents socket and lead bake.",
                f"{heater.watts:g} W in a dome for usually {fixture.usual_max_watts:g} W",
                "Use a large vented dome or an open wire fixture with a ceramic socket.",
            )


def _light_at_night(case: Case) -> Iterator[Finding]:
    for lamp in case.design.uvb:
        if lamp.on in ("night", "always"):
            yield Finding(
                "light-at-night",
                "warn",
                f"'{lamp.name}' shines at night",
                "Light at night breaks the animal's rest, whatever its colour.",
                f"{lamp.watts:g} W of light at night",
                "Let it run by day alone.",
            )
    for heater in case.design.heaters:
        if case.catalogue.sources[heater.kind].light and heater.on in ("night", "always"):
            yield Finding(
                "light-at-night",
                "warn",
                f"'{heater.name}' shines at night",
                "Light at night breaks the animal's rest, whatever its colour.",
                f"{heater.watts:g} W of light at night",
                "Switch it off at night; if the night is too cold, use a source without light.",
            )


def _coloured(case: Case) -> Iterator[Finding]:
    for heater in case.design.heaters:
        kind = case.catalogue.sources[heater.kind]
        if kind.coloured:
            yield Finding(
                "coloured-lamp",
                "warn",
                f"'{heater.name}' is a coloured lamp",
                kind.service_note,
                f"{heater.watts:g} W",
                "Replace it by a clear lamp for the day and a ceramic emitter for the night.",
            )


def _site_c(climate: Climate, name: str) -> float:
    return climate.site_surfaces_c[name]


def _hot_rock(case: Case) -> Iterator[Finding]:
    for heater in case.design.heaters:
        kind = case.catalogue.sources[heater.kind]
        if kind.family == "rock":
            surface_c, condition = case.worst(partial(_site_c, name=heater.site or ""))
            yield Finding(
                "hot-rock",
                "warn",
                f"'{heater.name}' is a hot rock",
                f"{kind.service_note} It gets {surface_c:.0f} °C {condition.when}.",
                f"{surface_c:.0f} °C",
                "Replace it by a lamp over a plain slab, or a mat under one with a thermostat.",
            )


RULES: tuple[Rule, ...] = (
    _over_rating,
    _plastic_socket,
    _unvented_dome,
    _within_reach,
    _hot_mesh,
    _light_at_night,
    _coloured,
    _hot_rock,
    _unread_rating,
)
