"""Rules about control: sources that need a thermostat, thermostats that cannot do their work or must not be used."""

from collections.abc import Iterator

from mitten.core.design import Control, Heater, Site
from mitten.core.design.amounts import capital, celsius, kelvin, length
from mitten.core.judge.finding import Case, Finding, by_day, rule
from mitten.core.judge.reach import footings
from mitten.core.physics.reading.probes import beam_error_k
from mitten.core.physics.reading.spot import LOW_AIR_M

BEAM_ERROR_K = 1.0
ON_IT_M = 0.02
STEADY_DUTY = 0.98

FAR_SHARE = 0.5
"""A probe farther from its source than this share of the length is at the other end."""

HIGH_SHARE, HIGH_OVER_M = 0.7, 0.15
"""A probe above this share of the height, and so far above all that the animal stands on, is high."""

HARDLY_K = 0.5
"""Short of a setpoint by this is on it: no thermostat is finer."""


@rule(
    "needs-a-thermostat",
    chapter="Warmth from below",
    catches="A contact or lightless source without a thermostat.",
    shown_by="hottest, limit",
)
def _needs_a_thermostat(case: Case) -> Iterator[Finding]:
    """Contact and lightless sources; only a warning where full power in the hottest room harms nothing."""
    hottest_c, condition = case.worst(lambda climate: max(climate.base_c, climate.basking.surface_c))
    harms = hottest_c > case.targets.danger_contact_c
    for heater in case.design.heaters:
        kind, control = case.catalogue.sources[heater.kind], case.design.control_of(heater)
        if kind.light or heater.watts == 0 or (control is not None and control.is_thermostat):
            continue
        yield Finding(
            rule="needs-a-thermostat",
            severity="stop" if harms else "warn",
            title=f"'{heater.name}' has no thermostat",
            reason=f"{capital(kind.with_article)} gives {_its_power(heater)} whatever the room does; "
            f"the hottest surface or base is {celsius(hottest_c, 0)} {condition.when}.",
            number=f"{celsius(hottest_c, 0)}, limit {celsius(case.targets.danger_contact_c)}",
            remedy="Put it on a thermostat, its probe where the animal meets the heat.",
        )


def _its_power(heater: Heater) -> str:
    return "its full power" if heater.dim == 1.0 else f"the {heater.dim:.0%} that it is dimmed to"


@rule("cannot-be-dimmed", chapter="Control", catches="A mercury lamp on a thermostat or dimmer.", shown_by="watts")
def _cannot_be_dimmed(case: Case) -> Iterator[Finding]:
    for heater in case.design.heaters:
        kind, control = case.catalogue.sources[heater.kind], case.design.control_of(heater)
        switched = control is not None and control.kind != "timer"
        if not kind.dims and (switched or heater.dim < 1.0):
            yield Finding(
                rule="cannot-be-dimmed",
                severity="stop",
                title=f"'{heater.name}' cannot be dimmed or switched by a thermostat",
                reason=kind.service_note or f"{capital(kind.with_article)} is made for full power.",
                number=f"{heater.watts:g} W",
                remedy="Run it on a timer at full power, and hold the temperature by its height and wattage.",
            )


@rule("control-overload", chapter="Control", catches="A load above the thermostat's rating.", shown_by="load, rating")
def _over_its_load(case: Case) -> Iterator[Finding]:
    for control in case.design.controls:
        load_w = sum(heater.watts for heater in case.design.heaters_of(control))
        if control.max_watts is not None and load_w > control.max_watts:
            yield Finding(
                rule="control-overload",
                severity="stop",
                title=f"'{control.name}' switches {load_w:g} W, made for {control.max_watts:g} W",
                reason="A thermostat beyond its rating overheats, or its contacts weld and stay on.",
                number=f"{load_w:g} W, limit {control.max_watts:g} W",
                remedy="Use a thermostat rated for the load, or one for each heat source.",
            )


@rule(
    "cannot-reach",
    chapter="Control",
    catches="A setpoint that full power does not reach: too little power.",
    shown_by="probe, setpoint",
)
def _cannot_hold(case: Case) -> Iterator[Finding]:
    """One finding a thermostat: where it is shortest of its setpoint, and how often."""
    for control in case.design.controls:
        short = {
            condition: held
            for condition, climate in case.climates.items()
            for held in (climate.controls.get(control.name),)
            if held and held.status == "cannot reach" and held.setpoint_c - held.probe_c > HARDLY_K
        }
        if not short:
            continue
        condition = max(short, key=lambda one: short[one].setpoint_c - short[one].probe_c)
        held, others = short[condition], [one.within for one in short if one != condition]
        yield Finding(
            rule="cannot-reach",
            severity="warn",
            title=f"'{control.name}' cannot reach {celsius(held.setpoint_c)} {condition.when}",
            reason=f"At full power its probe reads {celsius(held.probe_c, 1)} with the room at "
            + celsius(condition.room_c)
            + (f"; nor can it on a {' or '.join(others)}." if others else "."),
            number=f"{celsius(held.probe_c, 1)}, set to {celsius(held.setpoint_c)}",
            remedy="Take more watts or insulation, or set it to what can be reached.",
        )


@rule(
    "lamp-on-an-on-off-thermostat", chapter="Control", catches="A lamp that is switched on and off.", shown_by="watts"
)
def _lamp_switched(case: Case) -> Iterator[Finding]:
    for control in case.design.controls:
        heaters = case.design.heaters_of(control)
        if _switches_a_lamp(case, control, heaters):
            yield Finding(
                rule="lamp-on-an-on-off-thermostat",
                severity="warn",
                title=f"'{control.name}' switches a lamp on and off",
                reason="The light goes with it, and filaments wear out by being switched.",
                number=f"{sum(heater.watts for heater in heaters):g} W",
                remedy="Use a dimming thermostat for lamps.",
            )


def _switches_a_lamp(case: Case, control: Control, heaters: tuple[Heater, ...]) -> bool:
    return control.kind in ("on-off", "pulse") and any(case.catalogue.sources[h.kind].light for h in heaters)


@rule(
    "probe-in-the-beam",
    chapter="Control",
    catches="A probe in the beam, which reads high.",
    shown_by="how much too high it reads",
)
@by_day
def _probe_in_the_beam(case: Case) -> Iterator[Finding]:
    for control in case.design.controls:
        if control.probe is None or control.probe.reads not in ("air", "surface"):
            continue
        errors = {c: beam_error_k(climate.state, control.probe) for c, climate in case.days().items()}
        condition = max(errors, key=lambda one: errors[one])
        if errors[condition] > BEAM_ERROR_K:
            yield Finding(
                rule="probe-in-the-beam",
                severity="warn",
                title=f"The probe of '{control.name}' hangs in the beam",
                reason=f"A dark probe in the beam reads {kelvin(errors[condition], 1)} too high and shuts the heat off "
                "early.",
                number=f"{kelvin(errors[condition], 1)} too high",
                remedy="Shade it, or move it out of the beam and set it anew.",
            )


def _on_site(control: Control, site: Site, ground_m: float) -> bool:
    """Whether a probe lies on a site's top or in it."""
    probe = control.probe
    if probe is None or probe.reads in ("heater", "base", "hide"):
        return False
    over = site.is_under(probe.x_m, probe.y_m)
    return over and site.underside_m(ground_m) - ON_IT_M <= probe.z_m <= site.top_m(ground_m) + ON_IT_M


@rule(
    "probe-on-the-basking-place", chapter="Control", catches="A probe where the animal basks.", shown_by="surface there"
)
@rule("probe-in-water", chapter="Control", catches="A probe in the water.", shown_by="temperature there")
def _probe_where_it_must_not_be(case: Case) -> Iterator[Finding]:
    ground_m = case.design.substrate.depth_m
    for control in case.design.controls:
        for site in case.design.sites:
            if not _on_site(control, site, ground_m):
                continue
            surface_c, _ = case.worst(lambda climate, name=site.name: climate.site_surfaces_c[name])  # type: ignore[misc]
            if site.role == "basking":
                yield Finding(
                    rule="probe-on-the-basking-place",
                    severity="warn",
                    title=f"The probe of '{control.name}' lies where the animal basks",
                    reason="When the animal lies on it, it reads the animal, and the heat runs wild or goes out; "
                    f"'{site.name}' is {celsius(surface_c, 0)}.",
                    number=f"{celsius(surface_c, 0)} under the probe",
                    remedy="Fix it beside the basking place, shaded, and set it to what is right there.",
                )
            elif site.role == "water":
                yield Finding(
                    rule="probe-in-water",
                    severity="stop",
                    title=f"The probe of '{control.name}' is in the water",
                    reason="Water stays cool, so that the heat runs at full power; and water and leads do not go "
                    "together.",
                    number=f"{celsius(surface_c, 0)} in the water",
                    remedy="Fix it in the air or on the ground, away from the water.",
                )


@rule(
    "only-light-switched",
    chapter="Control",
    catches="A thermostat that switches the only light through the day.",
    shown_by="share lit",
)
@by_day
def _only_light_switched(case: Case) -> Iterator[Finding]:
    """An on-off or pulse thermostat that works the only light there is."""
    for control in case.design.controls:
        if control.kind not in ("on-off", "pulse") or not _has_the_only_light(case, control):
            continue
        lit = min(
            (day.controls[control.name].duty for day in case.days().values() if control.name in day.controls),
            default=1.0,
        )
        if lit < STEADY_DUTY:
            yield Finding(
                rule="only-light-switched",
                severity="warn",
                title=f"'{control.name}' switches the only light off and on through the day",
                reason=f"It runs {lit:.0%} of the time on the mildest day; the animal's day flickers with it.",
                number=f"{lit:.0%} of the day lit",
                remedy="Add a plain light for the day, or use a dimming thermostat.",
            )


def _has_the_only_light(case: Case, control: Control) -> bool:
    """Whether all that shines by day hangs on one control."""
    design = case.design
    shining = [h for h in design.heaters if case.catalogue.sources[h.kind].light and h.on in ("day", "always")]
    regulated = design.heaters_of(control)
    return bool(shining) and not (design.lights or design.uvb) and all(heater in regulated for heater in shining)


@rule(
    "probe-at-the-cool-end", chapter="Control", catches="A probe at the other end than its source.", shown_by="distance"
)
@by_day
def _probe_at_the_cool_end(case: Case) -> Iterator[Finding]:
    """A probe of a heater of the warm end that lies in the other: it never feels what it regulates."""
    box, day = case.design.enclosure, case.climate_in("winter-day")
    if box.height_m > box.length_m:
        return
    for control in case.design.controls:
        probe, heaters = control.probe, case.design.heaters_of(control)
        if probe is None or probe.reads not in ("air", "surface") or not heaters:
            continue
        away_m = min(abs(heater.x_m - probe.x_m) - (heater.length_m or 0.0) / 2 for heater in heaters)
        if away_m > FAR_SHARE * box.length_m:
            there_c = day.air_at(probe.x_m, max(probe.z_m, day.low_air_m))
            yield Finding(
                rule="probe-at-the-cool-end",
                severity="warn",
                title=f"The probe of '{control.name}' lies far from what it regulates",
                reason=f"It is {length(away_m)} from the nearest source, in air of {celsius(there_c, 1)}: the warm end "
                "overheats before it feels anything.",
                number=f"{length(away_m)} away in a box of {length(box.length_m)}",
                remedy="Fix it beside the basking place, out of the beam, and set it anew.",
            )


@rule("no-light-by-day", chapter="Control", catches="A day animal without any light.", shown_by="watts of light")
def _no_light(case: Case) -> Iterator[Finding]:
    """A day animal without anything that shines by day."""
    design, sources = case.design, case.catalogue.sources
    shining = [heater for heater in design.heaters if sources[heater.kind].light and heater.on in ("day", "always")]
    if case.species.active != "day" or shining or design.lights or design.uvb or not design.heaters:
        return
    yield Finding(
        rule="no-light-by-day",
        severity="warn",
        title="Nothing gives light by day",
        reason=f"{case.species.label} is active by day, and nothing in the box shines: what comes in from the room "
        "is dusk to it.",
        number="0 W of light",
        remedy="Add a plain light or a UV lamp over the warm end, on by day.",
    )


@rule(
    "one-control-two-ends",
    chapter="Control",
    catches="One thermostat on sources at both ends.",
    shown_by="how far apart they are",
)
def _two_ends(case: Case) -> Iterator[Finding]:
    box = case.design.enclosure
    for control in case.design.controls:
        heaters = [one for one in case.design.heaters_of(control) if one.watts > 0]
        if not control.is_thermostat or len(heaters) < 2:
            continue
        apart_m = max(one.x_m for one in heaters) - min(one.x_m for one in heaters)
        if apart_m > FAR_SHARE * box.length_m:
            yield Finding(
                rule="one-control-two-ends",
                severity="warn",
                title=f"'{control.name}' holds sources at both ends",
                reason="It has one probe: the end without it gets as much heat as the other asks for, too much or too "
                "little.",
                number=f"{length(apart_m)} apart in a box of {length(box.length_m)}",
                remedy="Give each end a thermostat of its own, or move the sources to one end.",
            )


@rule(
    "no-day-setting", chapter="Control", catches="A day source on a thermostat without a day setting.", shown_by="watts"
)
def _no_day_setting(case: Case) -> Iterator[Finding]:
    for control in case.design.controls:
        by_day = [one for one in case.design.heaters_of(control) if one.on == "day" and one.watts > 0]
        if control.is_thermostat and by_day and control.day_c is None:
            yield Finding(
                rule="no-day-setting",
                severity="warn",
                title=f"'{control.name}' has no setting by day, so '{by_day[0].name}' never comes on",
                reason="It runs by day alone, and by day its thermostat is set to nothing.",
                number=f"{sum(one.watts for one in by_day):g} W that never run",
                remedy="Give the thermostat a setting by day.",
            )


@rule(
    "heat-at-the-wrong-time",
    chapter="Control",
    catches="Timers reversed: the day's lamp on by night.",
    shown_by="watts",
)
def _wrong_time(case: Case) -> Iterator[Finding]:
    """An animal of the day whose shining heat comes on by night alone."""
    shining = [one for one in case.design.heaters if case.catalogue.sources[one.kind].light and one.watts > 0]
    if case.species.active != "day" or not shining or any(one.on != "night" for one in shining):
        return
    yield Finding(
        rule="heat-at-the-wrong-time",
        severity="warn",
        title=f"'{shining[0].name}' shines by night and is off by day",
        reason=f"{case.species.label} basks by day: then there is nothing to bask under, and its night is lit.",
        number=f"{sum(one.watts for one in shining):g} W by night, none by day",
        remedy="Turn the timer round: let it run by day.",
    )


@rule("probe-high", chapter="Control", catches="A probe high under the top.", shown_by="height, the animal's air")
@by_day
def _probe_high(case: Case) -> Iterator[Finding]:
    """A probe in the warm air that gathers under the top, and not where the animal is."""
    box, day = case.design.enclosure, case.climate_in("winter-day")
    lived_in_m = max((one.height_m for one in footings(case.design, case.species)), default=0.0) + case.body.back_m
    for control in case.design.controls:
        probe = control.probe
        if probe is None or probe.reads != "air" or not case.design.heaters_of(control):
            continue
        if probe.z_m > box.height_m * HIGH_SHARE and probe.z_m - lived_in_m > HIGH_OVER_M:
            there_c, low_c = day.air_at(probe.x_m, probe.z_m), day.air_at(probe.x_m, lived_in_m + LOW_AIR_M)
            yield Finding(
                rule="probe-high",
                severity="warn",
                title=f"The probe of '{control.name}' hangs high under the top",
                reason=f"It reads {celsius(there_c, 1)} there, and where the animal is it is {celsius(low_c, 1)}: the "
                "air that gathers under the top shuts the heat off, or lets it run, for a place where nothing lives.",
                number=f"{length(probe.z_m)} up in a box of {length(box.height_m)}",
                remedy="Hang it beside the basking place at the height of the animal, shaded, and set it anew.",
            )
