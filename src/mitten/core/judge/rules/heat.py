"""Rules about temperatures: no slope, materials, air and surfaces that are too hot, the base under the substrate."""

from collections.abc import Iterator

from mitten.core.catalogue import Targets
from mitten.core.design.amounts import celsius, kelvin, length, litres
from mitten.core.judge.finding import Case, Finding, by_day, rule
from mitten.core.judge.materials import hottest_materials
from mitten.core.judge.reach import Footing, footings
from mitten.core.physics.reading.body import minutes_between
from mitten.core.physics.reading.climate import Climate

MIDDLE_THIRD = (1 / 3, 2 / 3)
A_SLOPE_K = 4.0
"""With the air so much warmer at one end the animal can choose, wherever the heat hangs."""

TOO_NEAR_M = 0.15
"""Nearer than this nothing that an animal lies on should be to a lamp; a starting point to verify."""

BURNS_BEYOND_K = 10.0
"""A place so much beyond what the body bears is no place to leave in time; a starting point to verify."""

HALF_THE_ANIMAL = 0.5
BEAM_W_M2 = 60.0


def _minutes(minutes: float) -> str:
    """Whole minutes in words, never none."""
    whole = max(round(minutes), 1)
    return "a minute" if whole == 1 else f"{whole} minutes"


@rule(
    "no-retreat-from-heat",
    chapter="Heat",
    catches="Air too hot everywhere: nowhere to go.",
    shown_by="coolest air, limit",
)
def _no_retreat_from_heat(case: Case) -> Iterator[Finding]:
    limit_c = case.targets.danger_air_c
    condition, climate = max(case.climates.items(), key=lambda item: item[1].air.cool_c)
    coolest_c = min(climate.air.cool_c, climate.air.middle_c, climate.air.warm_c)
    if coolest_c > limit_c:
        yield Finding(
            rule="no-retreat-from-heat",
            severity="stop",
            title=f"No place is cool enough {condition.when}",
            reason=f"The coolest air is {celsius(coolest_c, 1)} with the room at {celsius(condition.room_c)}; air "
            f"above {celsius(limit_c)} that the animal cannot leave kills it.",
            number=f"{celsius(coolest_c, 1)}, limit {celsius(limit_c)}",
            remedy="Keep the lamp off on such days, cool the room, or use a weaker lamp and more ventilation.",
        )


@rule(
    "burning-surface",
    chapter="Heat",
    catches="A surface that burns what lies on it.",
    shown_by="hottest surface, limit",
)
def _burning_surface(case: Case) -> Iterator[Finding]:
    limit_c = case.targets.danger_contact_c
    hottest = [(hottest_surface(climate), condition) for condition, climate in case.climates.items()]
    (surface_c, where), condition = max(hottest, key=lambda item: item[0][0])
    if surface_c > limit_c:
        yield Finding(
            rule="burning-surface",
            severity="stop",
            title=f"{where} reaches {celsius(surface_c, 0)} {condition.when}",
            reason=f"Lying on a surface above {celsius(limit_c)} burns the animal before it notices.",
            number=f"{celsius(surface_c, 1)}, limit {celsius(limit_c)}",
            remedy="Use a weaker lamp, hang it higher, or lower the place under it.",
        )


def hottest_surface(climate: Climate) -> tuple[float, str]:
    """The hottest spot that the animal can lie on, in °C, and where it is."""
    spots = [(climate.floor.hottest()[0], "The ground")]
    spots += [(field.hottest()[0], f"'{name}'") for name, field in climate.site_fields.items()]
    return max(spots)


@rule(
    "base-too-hot",
    chapter="Warmth from below",
    catches="A base under the ground that burns what digs to it.",
    shown_by="base, limit",
)
def _base_too_hot(case: Case) -> Iterator[Finding]:
    limit_c = case.targets.danger_contact_c
    base_c, condition = case.worst(lambda climate: climate.base_c)
    # On a bare floor the base is the ground itself, which is judged as a surface.
    if base_c > limit_c and case.design.substrate.depth_m > 0:
        whose = "burrows down to it" if case.species.burrows else "meets it when it pushes the ground aside"
        surface_c = case.climates[condition].floor.hottest()[0]
        yield Finding(
            rule="base-too-hot",
            severity="stop",
            title=f"Under the ground it is {celsius(base_c, 0)} {condition.when}",
            reason=f"The surface above is {celsius(surface_c, 0)}, but the animal {whose}; above {celsius(limit_c)} it "
            "is burned.",
            number=f"{celsius(base_c, 1)}, limit {celsius(limit_c)}",
            remedy=_cooler_below(case, limit_c),
        )


def _cooler_below(case: Case, limit_c: float) -> str:
    """What makes the bottom of the ground cooler: by what there is to be set."""
    mats = [heater for heater in case.design.heaters if case.catalogue.sources[heater.kind].family == "contact"]
    controls = [control for heater in mats if (control := case.design.control_of(heater)) and control.is_thermostat]
    if not mats:
        return "Take less power, or hang it higher."
    if not controls:
        return (
            f"Put '{mats[0].name}' on a thermostat, its probe on the mat under the ground, set below "
            f"{celsius(limit_c)}; or take a weaker mat."
        )
    control = controls[0]
    if control.probe is not None and control.probe.reads in ("base", "heater"):
        return f"Set '{control.name}' below {celsius(limit_c)}, or take a weaker mat."
    return f"Put the probe of '{control.name}' on the mat under the ground, and set it below {celsius(limit_c)}."


@rule(
    "material-too-hot", chapter="Heat", catches="A material hotter than it is made for.", shown_by="temperature, limit"
)
def _material_too_hot(case: Case) -> Iterator[Finding]:
    for hot in hottest_materials(case.design, case.climates, case.catalogue):
        if hot.temperature_c > hot.service_c:
            yield Finding(
                rule="material-too-hot",
                severity="stop",
                title=f"{hot.what} reaches {celsius(hot.temperature_c, 0)}",
                reason=f"It is {hot.material}, made for at most {celsius(hot.service_c, 0)} ({hot.condition.within}): "
                "it softens, gives off fumes or scorches.",
                number=f"{celsius(hot.temperature_c, 0)}, limit {celsius(hot.service_c, 0)}",
                remedy="Lower the wattage or move the source away from it.",
            )


@rule(
    "lamp-in-the-middle",
    chapter="Heat",
    catches="A lamp in the middle: no slope, no cool end.",
    shown_by="warm end over cool end",
)
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
            if difference_k >= A_SLOPE_K:
                continue
            yield Finding(
                rule="lamp-in-the-middle",
                severity="warn",
                title=f"'{heater.name}' hangs in the middle",
                reason="Both ends are warmed alike, so that the animal has no cool end to go to.",
                number=f"warm end {kelvin(max(difference_k, 0.0), 1)} above the cool end",
                remedy="Move it over one end, with the basking place under it.",
            )


def _largest_slope_k(case: Case) -> float:
    days = [climate.air for condition, climate in case.climates.items() if condition.day]
    return max((air.warm_c - air.cool_c for air in days), default=0.0)


def worst_reached(climate: Climate, targets: Targets) -> tuple[float, str]:
    """How far beyond what harms the worst of a climate is, of what can be touched, a body that stays at the basking
    place and the air that cannot be left; and that in words.
    """
    surface_c, where = max(hottest_surface(climate), (climate.base_c, "Under the ground"))
    body_c, air_c = climate.basking.operative_c, climate.air.cool_c
    return max(
        (surface_c - targets.danger_contact_c,
         f"{where} {celsius(surface_c, 0)}, limit {celsius(targets.danger_contact_c)}"),
        (body_c - targets.danger_body_c,
         f"a body at the basking place {celsius(body_c, 0)}, limit {celsius(targets.danger_body_c)}"),
        (air_c - targets.danger_air_c, f"all air {celsius(air_c, 0)}, limit {celsius(targets.danger_air_c)}"),
    )  # fmt: skip


@rule(
    "too-strong-when-stuck",
    chapter="Heat",
    catches="Power that a thermostat hides until it sticks.",
    shown_by="full power",
)
def _too_strong_when_stuck(case: Case) -> Iterator[Finding]:
    """A thermostat hides too much power until it fails."""
    reached = [(*worst_reached(climate, case.targets), when) for when, climate in case.stuck.items()]
    beyond_k, words, when = max(reached, key=lambda one: one[0], default=(0.0, "", None))
    if beyond_k <= 0 or when is None:
        return
    known_to_stick = any(control.fail == "on" for control in case.design.controls)
    yield Finding(
        rule="too-strong-when-stuck",
        severity="stop" if known_to_stick else "warn",
        title="A thermostat that sticks makes this dangerous",
        # How soon depends on what stores heat: that is gone through in time, not here.
        reason=f"At full power on a summer {'day' if when.day else 'night'}: {words}.",
        number=words,
        remedy="Take less power, so that full power is survivable, or put a second thermostat in line as a cut-out.",
    )


@rule(
    "right-in-summer-only",
    chapter="Heat",
    catches="A lamp right in summer and wrong in winter.",
    shown_by="both surfaces",
)
@by_day
def _right_in_summer_only(case: Case) -> Iterator[Finding]:
    low_c = case.targets.bears("basking_surface_c")[0]
    winter_c, summer_c = (case.climate_in(f"{season}-day").basking.surface_c for season in ("winter", "summer"))
    if case.design.heaters and winter_c < low_c <= summer_c:
        yield Finding(
            rule="right-in-summer-only",
            severity="warn",
            title="It is warm enough in summer and too cold in winter",
            reason=f"The basking place is {celsius(summer_c, 1)} on a summer day and {celsius(winter_c, 1)} on a "
            f"winter day; at least {celsius(low_c)} is needed.",
            number=f"{celsius(winter_c, 1)} in winter, {celsius(summer_c, 1)} in summer",
            remedy="Choose the power for the winter, and hold it back in summer with a dimming thermostat or a weaker "
            "lamp.",
        )


@rule("spot-right-air-cold", chapter="Heat", catches="A warm basking place under cold air.", shown_by="air, wanted air")
def _spot_right_air_cold(case: Case) -> Iterator[Finding]:
    targets = case.targets
    for condition, climate in case.days().items():
        spot_c, air_c = climate.basking.surface_c, climate.basking.air_c
        right = targets.basking_surface_c[0] <= spot_c <= targets.basking_surface_c[1]
        if case.design.heaters and right and air_c < targets.bears("basking_air_c")[0]:
            yield Finding(
                rule="spot-right-air-cold",
                severity="warn",
                title=f"The basking place is warm enough, but the air over it is cold {condition.when}",
                reason=f"The surface is {celsius(spot_c, 1)} and the air {celsius(air_c, 1)}: the animal warms below "
                "and cools above and lies there all day.",
                number=f"air {celsius(air_c, 1)}, bears no less than {celsius(targets.bears('basking_air_c')[0])}",
                remedy="Close part of the ventilation, insulate, or add a source that warms the air.",
            )
            return


@rule("perch-too-near", chapter="Heat", catches="A perch, ledge or hide too near under a lamp.", shown_by="gap")
def _perch_too_near(case: Case) -> Iterator[Finding]:
    """By the height of the animal's back, which is what comes near to the lamp."""
    ground_m, back_m = case.design.substrate.depth_m, case.body.back_m
    for heater in case.design.heaters:
        if case.catalogue.sources[heater.kind].family != "lamp" or heater.watts == 0:
            continue
        for site in case.design.sites:
            gap_m = heater.z_m - site.top_m(ground_m) - back_m
            away_m = Footing(site.name, site.top_m(ground_m), site).away_m(heater.x_m, heater.y_m)
            if away_m <= case.body.half_axes_m[1] and 0 < gap_m < TOO_NEAR_M:
                surface_c, condition = case.worst(lambda climate, name=site.name: climate.site_surfaces_c[name])  # type: ignore[misc]
                yield Finding(
                    rule="perch-too-near",
                    severity="stop" if surface_c > case.targets.danger_contact_c else "warn",
                    title=f"An animal on '{site.name}' has its back {length(gap_m)} under '{heater.name}'",
                    reason=f"So near, its back burns before its belly is warm; the surface gets "
                    f"{celsius(surface_c, 0)} {condition.when}.",
                    number=f"{length(gap_m)}, at least {length(TOO_NEAR_M)}",
                    remedy="Lower what is under it, or hang the lamp higher.",
                )


@rule("body-too-hot", chapter="Heat", catches="A place where the body gets too hot.", shown_by="body, limit")
@by_day
def _burning_body(case: Case) -> Iterator[Finding]:
    """Places that the animal gets to where its body is in danger if it stays, or before it can leave."""
    limit_c = case.targets.danger_body_c
    for footing in footings(case.design, case.species):
        name = footing.site.name if footing.site else None
        spots = {
            condition: climate.site(name) if name else climate.ground for condition, climate in case.days().items()
        }
        condition = max(spots, key=lambda one: spots[one].operative_c)
        spot = spots[condition]
        beyond_k = spot.operative_c - limit_c
        if beyond_k <= 0:
            continue
        minutes = minutes_between(case.body, spot.place, case.targets.basking_operative_c[1], limit_c)
        soon = "" if minutes is None else f", {_minutes(minutes)} after it was warm enough"
        yield Finding(
            rule="body-too-hot",
            severity="stop" if beyond_k > BURNS_BEYOND_K else "warn",
            title=f"An animal on {footing.name} gets {celsius(spot.operative_c, 0)} {condition.when}",
            reason=f"Its body is in danger above {celsius(limit_c)}{soon}; "
            + ("it burns before it has left." if beyond_k > BURNS_BEYOND_K else "it has to leave in time."),
            number=f"body {celsius(spot.operative_c, 1)}, limit {celsius(limit_c)}",
            remedy="Use a weaker lamp, hang it higher, or lower the place under it.",
        )


@rule(
    "patch-smaller-than-animal",
    chapter="Heat",
    catches="A warm patch smaller than the animal.",
    shown_by="patch and animal",
)
@by_day
def _patch_too_small(case: Case) -> Iterator[Finding]:
    """Judged where the basking surface itself is right: else that is the trouble. Its edge may be what is borne."""
    low_c, high_c = case.targets.bears("basking_surface_c")
    climate = case.climate_in("winter-day")
    if not any(case.catalogue.sources[one.kind].family == "lamp" for one in case.design.heaters):
        # A panel or a mat warms a whole place and makes no spot.
        return
    if not case.design.heaters or not low_c <= climate.basking.surface_c <= high_c:
        return
    patch = climate.patch_within((low_c, high_c))
    if patch.covers < HALF_THE_ANIMAL:
        yield Finding(
            rule="patch-smaller-than-animal",
            severity="warn",
            title="The warm patch is smaller than the animal",
            reason=f"Only {patch.covers:.0%} of the animal lies in the warmth at once: one spot is hot while the "
            "rest of the body stays cold.",
            number=f"patch {patch.area_m2 * 1e4:.0f} cm², animal {patch.outline_m2 * 1e4:.0f} cm²",
            remedy="Use a wider beam, hang it higher with more power, or use two weaker lamps side by side.",
        )


@rule(
    "water-under-the-lamp",
    chapter="Heat",
    catches="A water dish in the beam, by accident or on purpose.",
    shown_by="irradiance, litres",
)
@rule("plant-in-the-beam", chapter="Heat", catches="A plant in the beam.", shown_by="irradiance")
@by_day
def _in_the_beam(case: Case) -> Iterator[Finding]:
    """Water and plants under a lamp."""
    climate = case.climate_in("summer-day")
    for site in case.design.sites:
        falls = climate.site(site.name).irradiance_w_m2
        if falls <= BEAM_W_M2 or site.role not in ("water", "plant"):
            continue
        if site.role == "water":
            yield Finding(
                rule="water-under-the-lamp",
                severity="note",
                title=f"'{site.name}' is in the lamp's beam",
                reason=f"It evaporates fast: {litres(climate.humidity.litres_a_week, 1)} a week leave the box. If that "
                "is meant, for humidity, fill it daily.",
                number=f"{falls:.0f} W/m² on the water",
                remedy="Move it to the cool end, unless you want the humidity.",
            )
        else:
            yield Finding(
                rule="plant-in-the-beam",
                severity="warn",
                title=f"'{site.name}' is in the lamp's beam",
                reason=f"Leaves scorch, and dry ones burn: {falls:.0f} W/m² fall on it.",
                number=f"{falls:.0f} W/m²",
                remedy="Move it out of the beam.",
            )
