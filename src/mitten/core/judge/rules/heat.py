"""Rules about temperatures: no slope, materials, air and surfaces that are too hot, the base under the substrate."""

from collections.abc import Iterator

from mitten.core.judge.finding import Case, Finding, Rule
from mitten.core.judge.materials import hottest_materials
from mitten.core.physics.climate import Climate

MIDDLE_THIRD = (1 / 3, 2 / 3)


def _lamp_in_the_middle(case: Case) -> Iterator[Finding]:
    box = case.design.enclosure
    if box.height_m > box.length_m:
        return  # In a tall box the slope runs up and down.
    for heater in case.design.heaters:
        place = heater.x_m / box.length_m
        if (
            case.catalogue.sources[heater.kind].family == "lamp"
            and heater.watts > 0
            and MIDDLE_THIRD[0] < place < MIDDLE_THIRD[1]
        ):
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


def _base_too_hot(case: Case) -> Iterator[Finding]:
    limit_c = case.targets.danger_contact_c
    base_c, condition = case.worst(lambda climate: climate.base_c)
    if base_c > limit_c:
        whose = "burrows down to it" if case.species.burrows else "meets it when it pushes the substrate aside"
        surface_c = case.climates[condition].floor.hottest()[0]
        yield Finding(
            "base-too-hot",
            "stop",
            f"Under the substrate it is {base_c:.0f} °C on a {condition.label.lower()}",
            f"The surface above is {surface_c:.0f} °C, but the animal {whose}; above {limit_c:g} °C it is burned.",
            f"{base_c:.1f} °C, limit {limit_c:g}",
            "Put the probe on the mat and set it to the limit at most, or take less substrate.",
        )


RULES: tuple[Rule, ...] = (
    _no_retreat_from_heat,
    _burning_surface,
    _base_too_hot,
    _material_too_hot,
    _lamp_in_the_middle,
)
