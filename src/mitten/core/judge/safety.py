"""Safety rules: each looks at a design and its climates and says what is dangerous, why, and what to do."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from math import hypot, inf
from typing import Literal

from mitten.core.catalogue import Catalogue, Climbs, Species, Targets
from mitten.core.design import Design, Fixture, Heater
from mitten.core.judge.conditions import Condition
from mitten.core.judge.materials import hottest_materials
from mitten.core.physics.climate import Climate

Severity = Literal["stop", "warn", "note"]
SEVERITIES: tuple[Severity, ...] = ("stop", "warn", "note")

REACH_OF_LENGTH: dict[Climbs, float] = {"none": 0.3, "some": 0.6, "strong": inf}
"""How far above its footing an animal reaches, as a share of its length; starting points to verify."""

SAFE_GAP_M = 0.05
"""Kept clear beyond the reach: heat burns before it is touched."""

MIDDLE_THIRD = (1 / 3, 2 / 3)
UNEVEN_K = 1.0


@dataclass(frozen=True)
class Finding:
    """One danger: ``number`` is the figure that shows it, ``remedy`` what to do about it."""

    rule: str
    severity: Severity
    title: str
    reason: str
    number: str
    remedy: str


@dataclass(frozen=True)
class Case:
    """What the rules look at."""

    design: Design
    species: Species
    targets: Targets
    catalogue: Catalogue
    climates: Mapping[Condition, Climate]


def fixture_rating_w(fixture: Fixture, catalogue: Catalogue) -> float:
    """Highest wattage a fixture may hold: its label, or what such fixtures usually bear."""
    return fixture.max_watts or catalogue.fixtures[fixture.kind].usual_max_watts


def is_guarded(fixture: Fixture, catalogue: Catalogue) -> bool:
    """Whether a guard keeps the animal off the heater."""
    return catalogue.fixtures[fixture.kind].has_guard if fixture.guard is None else fixture.guard


def find_dangers(case: Case) -> tuple[Finding, ...]:
    """Every finding of every rule, the gravest first."""
    found = [finding for rule in RULES for finding in rule(case)]
    return tuple(sorted(found, key=lambda finding: SEVERITIES.index(finding.severity)))


def _over_rating(case: Case) -> Iterator[Finding]:
    for heater in case.design.heaters:
        rating = fixture_rating_w(heater.fixture, case.catalogue)
        if heater.watts > rating:
            yield Finding(
                "fixture-rating",
                "stop",
                f"{heater.watts:g} W in a fixture for {rating:g} W",
                f"'{heater.name}' is stronger than its fixture may hold: the holder and its wiring overheat.",
                f"{heater.watts:g} W, limit {rating:g} W",
                f"Fit a lamp of at most {rating:g} W, or a fixture rated for {heater.watts:g} W.",
            )


def _unread_rating(case: Case) -> Iterator[Finding]:
    for heater in case.design.heaters:
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
    for heater in case.design.heaters:
        if heater.fixture.socket == "plastic":
            yield Finding(
                "socket-material",
                "stop",
                f"Plastic socket on '{heater.name}'",
                "A heat source softens and chars a plastic socket; it can set fire to what is near.",
                f"{heater.watts:g} W",
                "Use a fixture with a ceramic socket.",
            )


def _within_reach(case: Case) -> Iterator[Finding]:
    reach_m = REACH_OF_LENGTH[case.species.climbs] * case.species.body_length_m(case.design.animal.stage)
    for heater in case.design.heaters:
        if heater.above_mesh or is_guarded(heater.fixture, case.catalogue):
            continue
        gap_m, footing = _nearest_footing(case.design, heater)
        if gap_m < reach_m + SAFE_GAP_M:
            reach = "climbs to it" if reach_m == inf else f"reaches {reach_m * 100:.0f} cm"
            yield Finding(
                "within-reach",
                "stop",
                f"The animal can reach '{heater.name}'",
                f"It has no guard and is {gap_m * 100:.0f} cm from {footing}; the animal {reach}. It burns on touch.",
                f"{gap_m * 100:.0f} cm",
                "Put a guard around it, or hang it outside above a mesh.",
            )


def _nearest_footing(design: Design, heater: Heater) -> tuple[float, str]:
    """Distance from a heater to the nearest place the animal can stand on, and what that is."""
    ground_m = design.substrate.depth_m
    nearest = (heater.z_m - ground_m, "the ground")
    for site in design.sites:
        across = max(abs(heater.x_m - site.x_m) - site.length_m / 2, 0.0)
        inward = max(abs(heater.y_m - site.y_m) - site.depth_m / 2, 0.0)
        gap_m = hypot(across, inward, heater.z_m - site.top_m(ground_m))
        nearest = min(nearest, (gap_m, f"'{site.name}'"))
    return nearest


def _light_at_night(case: Case) -> Iterator[Finding]:
    for heater in case.design.heaters:
        if case.catalogue.lamps[heater.kind].light and heater.on in ("night", "always"):
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
        kind = case.catalogue.lamps[heater.kind]
        if kind.coloured:
            yield Finding(
                "coloured-lamp",
                "warn",
                f"'{heater.name}' is a coloured lamp",
                kind.service_note,
                f"{heater.watts:g} W",
                "Replace it by a clear lamp for the day and a ceramic emitter for the night.",
            )


def _lamp_in_the_middle(case: Case) -> Iterator[Finding]:
    box = case.design.enclosure
    if box.height_m > box.length_m:
        return  # In a tall box the slope runs up and down.
    for heater in case.design.heaters:
        place = heater.x_m / box.length_m
        if heater.watts > 0 and MIDDLE_THIRD[0] < place < MIDDLE_THIRD[1]:
            difference_k = _largest_slope_k(case)
            yield Finding(
                "lamp-in-the-middle",
                "warn",
                f"'{heater.name}' hangs in the middle",
                "Both ends are warmed alike, so that the animal has no cool end to go to.",
                f"warm end {max(difference_k, 0.0):.1f} K above the cool end",
                "Move it over one end, with the basking place under it.",
            )


def _largest_slope_k(case: Case) -> float:
    days = [climate.air for condition, climate in case.climates.items() if condition.day]
    return max((air.warm_c - air.cool_c for air in days), default=0.0)


def _material_too_hot(case: Case) -> Iterator[Finding]:
    for hot in hottest_materials(case.design, case.climates, case.catalogue):
        if hot.temperature_c > hot.service_c:
            yield Finding(
                "material-too-hot",
                "stop",
                f"{hot.what} reaches {hot.temperature_c:.0f} °C",
                f"It is {hot.material}, made for at most {hot.service_c:.0f} °C ({hot.condition.label.lower()}): "
                "it softens, gives off fumes or scorches.",
                f"{hot.temperature_c:.0f} °C, limit {hot.service_c:.0f}",
                "Lower the wattage or move the heater away from it.",
            )


def _no_retreat_from_heat(case: Case) -> Iterator[Finding]:
    limit_c = case.targets.danger_air_c
    condition, climate = max(case.climates.items(), key=lambda item: item[1].air.cool_c)
    coolest_c = min(climate.air.cool_c, climate.air.middle_c, climate.air.warm_c)
    if coolest_c > limit_c:
        yield Finding(
            "no-retreat-from-heat",
            "stop",
            f"No place is cool enough on a {condition.label.lower()}",
            f"The coolest air is {coolest_c:.1f} °C with the room at {condition.room_c:g} °C; air above "
            f"{limit_c:g} °C that the animal cannot leave kills it.",
            f"{coolest_c:.1f} °C, limit {limit_c:g}",
            "Keep the lamp off on such days, cool the room, or use a weaker lamp and more ventilation.",
        )


def _burning_surface(case: Case) -> Iterator[Finding]:
    limit_c = case.targets.danger_contact_c
    hottest = [(hottest_surface(climate), condition) for condition, climate in case.climates.items()]
    (surface_c, where), condition = max(hottest, key=lambda item: item[0][0])
    if surface_c > limit_c:
        yield Finding(
            "burning-surface",
            "stop",
            f"{where} reaches {surface_c:.0f} °C on a {condition.label.lower()}",
            f"Lying on a surface above {limit_c:g} °C burns the animal before it notices.",
            f"{surface_c:.1f} °C, limit {limit_c:g}",
            "Use a weaker lamp, hang it higher, or lower the place under it.",
        )


def hottest_surface(climate: Climate) -> tuple[float, str]:
    """The hottest spot that the animal can lie on, in °C, and where it is."""
    spots = [(climate.floor.hottest()[0], "The ground")]
    spots += [(field.hottest()[0], f"'{name}'") for name, field in climate.site_fields.items()]
    return max(spots)


RULES: tuple[Callable[[Case], Iterator[Finding]], ...] = (
    _over_rating,
    _plastic_socket,
    _within_reach,
    _no_retreat_from_heat,
    _burning_surface,
    _material_too_hot,
    _light_at_night,
    _coloured,
    _lamp_in_the_middle,
    _unread_rating,
)
