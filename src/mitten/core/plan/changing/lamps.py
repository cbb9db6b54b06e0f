"""What may be done about what heats: hung elsewhere, another power, one more, and what regulates it."""

from collections.abc import Iterator

from mitten.core.catalogue import Catalogue, SourceKind, targets_of, with_article
from mitten.core.design import Control, Design, Heater, Probe, UvbLamp
from mitten.core.design.amounts import celsius, centimetres
from mitten.core.judge import Condition, fixture_rating_w
from mitten.core.plan.changing.added import DAY_LAMP, NIGHT_SOURCE, is_without_heat, place_for_thermostat
from mitten.core.plan.changing.change import A_PURCHASE, A_SMALL_ONE, Change, ChangeKind
from mitten.core.plan.changing.making import SHADED
from mitten.core.plan.probe_places import ProbePlace, place_of, probe_places
from mitten.core.plan.usual import meant_warm_right, usual_fixture

HEIGHTS_CM = (-12, -8, -5, -3, 3, 5, 8, 12)
A_LONG_WAY_CM = 12
"""To move it farther asks no more."""

ALONG_CM = (5, 10, 20)
HARDLY_MOVED_M = 0.02
"""What is moved by less stays where it is."""

SETPOINTS_K = (-4, -3, -2, -1, 1, 2, 3, 4)
SIZES_AWAY = 3
SHARES_OF_WANTED = (1.0, 0.67, 0.33, 0.0)
"""Where in the air that is wanted at the basking place a new thermostat is set, the warmest first: it spares most."""


def of_heaters(design: Design, catalogue: Catalogue, condition: Condition, target: str) -> Iterator[Change]:
    """Lamps nearer, farther, aside, and the next sizes of all that runs then."""
    for heater in running(design, condition):
        if catalogue.sources[heater.kind].family == "lamp":
            yield from heights("height", heater)
            yield from _along(design, heater, target)
        yield from _of_watts(heater, catalogue)


def running(design: Design, condition: Condition) -> list[Heater]:
    """What may heat in a condition."""
    times = ("day", "always") if condition.day else ("night", "always")
    return [heater for heater in design.heaters if heater.on in times]


def heights(kind: ChangeKind, part: Heater | UvbLamp, steps_cm: tuple[float, ...] = HEIGHTS_CM) -> Iterator[Change]:
    """A lamp raised and lowered, in steps."""
    for step in steps_cm:
        words = f"{'Raise' if step > 0 else 'Lower'} {part.name} {centimetres(abs(step))}"
        effort = min(abs(step), A_LONG_WAY_CM) / 5 + abs(step) / 1000
        yield Change(kind, part.name, round(part.z_m + step / 100, 4), words, effort, step / 100)


def _along(design: Design, heater: Heater, target: str) -> Iterator[Change]:
    """Over the basking place, where a lamp hangs beside it; away from the cool end, where that is wrong."""
    site = design.basking_site
    if site is not None and abs(site.x_m - heater.x_m) > HARDLY_MOVED_M:
        step_m = site.x_m - heater.x_m
        yield Change("along", heater.name, site.x_m, f"Move {heater.name} over '{site.name}'", A_SMALL_ONE, step_m)
    away = 1 if meant_warm_right(design) else -1
    for step in ALONG_CM if target == "cool_air_c" else ():
        x_m, effort = round(heater.x_m + away * step / 100, 4), A_SMALL_ONE + step / 20
        words = f"Move {heater.name} {centimetres(step)} away from the cool end"
        yield Change("along", heater.name, x_m, words, effort, away * step / 100)


def _of_watts(heater: Heater, catalogue: Catalogue) -> Iterator[Change]:
    """The next sizes sold, up and down, that the fixture may hold."""
    kind = catalogue.sources[heater.kind]
    most = fixture_rating_w(heater.fixture, catalogue) if kind.needs_fixture else max(kind.watts_sold)
    stronger = [watts for watts in kind.watts_sold if heater.watts < watts <= most][:SIZES_AWAY]
    weaker = [watts for watts in reversed(kind.watts_sold) if watts < heater.watts][:SIZES_AWAY]
    for away, watts in (*enumerate(stronger, 1), *enumerate(weaker, 1)):
        words = f"{heater.name}: {heater.watts:g} W to {watts:g} W"
        yield Change("watts", heater.name, watts, words, A_SMALL_ONE + away, watts - heater.watts)


def of_setpoints(design: Design, condition: Condition) -> Iterator[Change]:
    """Thermostats set anew: for the whole year, and for the one season alone that is meant."""
    time = "day" if condition.day else "night"
    for control in design.controls:
        setpoint_c = control.setpoint_c(condition.day, condition.summer)
        if not control.is_thermostat or setpoint_c is None:
            continue
        for season in _seasons(control, condition, time):
            setting = f"{season}.{time}" if season else time
            for step in SETPOINTS_K:
                # Thermostats are set in half degrees.
                set_c = round((setpoint_c + step) * 2) / 2
                words = f"Set {control.name} to {celsius(set_c)}{f' in {season}' if season else ''}"
                name, effort = f"{control.name}:{setting}", abs(step) / 4 + 0.2 * bool(season)
                yield Change("setpoint", name, set_c, words, effort, set_c - setpoint_c)


def _seasons(control: Control, condition: Condition, time: str) -> list[str]:
    """Of which seasons a setting may be: that one alone, and nothing for the whole year where both have one."""
    is_split = control.summer is not None and getattr(control.summer, f"{time}_c") is not None
    if condition.is_usual or condition.summer not in (0.0, 1.0):
        # Between the seasons no one setting of two decides.
        return [] if is_split else [""]
    season = "summer" if condition.summer == 1.0 else "winter"
    return [season] if is_split else ["", season]


def of_probes(design: Design, catalogue: Catalogue, condition: Condition) -> Iterator[Change]:
    """Probes shaded where they are, and put to the other places with a name."""
    controls = {heater.control for heater in running(design, condition)}
    for control in design.controls:
        is_set = control.is_thermostat and control.setpoint_c(condition.day, condition.summer) is not None
        if is_set and control.probe is not None and control.name in controls:
            yield from _of_probe(design, catalogue, control, control.probe)


def _of_probe(design: Design, catalogue: Catalogue, control: Control, probe: Probe) -> Iterator[Change]:
    if not probe.shaded and probe.reads in ("air", "surface"):
        yield Change("probe", control.name, SHADED, f"Shade the probe of {control.name}", A_SMALL_ONE, 1.0)
    here = place_of(design, catalogue, control)
    for number, place in enumerate(probe_places(design, catalogue, control)):
        if (here is None or place.key != here.key) and _suits(place, design, catalogue, control):
            words, effort = f"Put the probe of {control.name} {place.words}", A_SMALL_ONE + 0.02 * (number + 1)
            yield Change("probe", control.name, number, words, effort, 1.0)


def _suits(place: ProbePlace, design: Design, catalogue: Catalogue, control: Control) -> bool:
    """Whether a place is one where the probe of what a control regulates belongs: where its warmth is wanted."""
    families = {catalogue.sources[heater.kind].family for heater in design.heaters_of(control)}
    lie = ("mat", "base", "on", "in") if families & {"contact", "rock"} else ("beside", "on", "middle")
    return place.key.partition(":")[0] in lie


def of_thermostats(design: Design, catalogue: Catalogue, condition: Condition) -> Iterator[Change]:
    """One for each lamp by day that may be dimmed and that nothing regulates."""
    low_c, high_c = targets_of(design.animal, catalogue.species[design.animal.species]).basking_air_c
    for heater in running(design, condition) if condition.day else ():
        kind = catalogue.sources[heater.kind]
        if kind.family != "lamp" or not kind.dims or heater.control is not None:
            continue
        place = place_for_thermostat(design, catalogue, heater).words
        for number, share in enumerate(SHARES_OF_WANTED):
            set_c = float(round(low_c + share * (high_c - low_c)))
            words = f"Put {heater.name} on a thermostat set to {celsius(set_c)}, its probe {place}"
            yield Change("thermostat", heater.name, set_c, words, A_PURCHASE + 0.02 * number, 1.0)


def of_the_day(design: Design, catalogue: Catalogue) -> Iterator[Change]:
    """A lamp where nothing heats by day, in the sizes that its fixture bears."""
    if not is_without_heat(design, "day"):
        return
    kind, above = catalogue.sources[DAY_LAMP], design.enclosure.lid_mesh is not None or design.enclosure.open_top
    most_w = usual_fixture(kind, above, catalogue)["max_watts"]
    yield from _additions("day-lamp", DAY_LAMP, kind, [watts for watts in kind.watts_sold if watts <= most_w], "")


def of_the_night(design: Design, catalogue: Catalogue) -> Iterator[Change]:
    """A source without light where nothing heats by night."""
    if is_without_heat(design, "night"):
        kind = catalogue.sources[NIGHT_SOURCE]
        yield from _additions("night-source", NIGHT_SOURCE, kind, kind.watts_sold, " for the night, on a thermostat")


def _additions(
    what: ChangeKind, key: str, kind: SourceKind, sold_w: list[float] | tuple[float, ...], end: str
) -> Iterator[Change]:
    for watts in sold_w:
        words = f"Add {with_article(f'{watts:g} W {kind.label}')}{end}"
        yield Change(what, key, watts, words, A_PURCHASE, watts)
