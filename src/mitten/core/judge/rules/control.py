"""Rules about control: sources that need a thermostat, thermostats that cannot do their work or must not be used."""

from collections.abc import Iterator

from mitten.core.design import Control, Heater
from mitten.core.judge.finding import Case, Finding, Rule


def _needs_a_thermostat(case: Case) -> Iterator[Finding]:
    """Contact and lightless sources; only a warning where full power in the hottest room harms nothing."""
    hottest_c, condition = case.worst(lambda climate: max(climate.base_c, climate.basking.surface_c))
    harms = hottest_c > case.targets.danger_contact_c
    for heater in case.design.heaters:
        kind, control = case.catalogue.sources[heater.kind], case.design.control_of(heater)
        if kind.light or heater.watts == 0 or (control is not None and control.is_thermostat):
            continue
        yield Finding(
            "needs-a-thermostat",
            "stop" if harms else "warn",
            f"'{heater.name}' has no thermostat",
            f"A {kind.label} gives its full power whatever the room does; the hottest surface or base is "
            f"{hottest_c:.0f} °C on a {condition.label.lower()}.",
            f"{hottest_c:.0f} °C, limit {case.targets.danger_contact_c:g}",
            "Put it on a thermostat, its probe where the animal meets the heat.",
        )


def _cannot_be_dimmed(case: Case) -> Iterator[Finding]:
    for heater in case.design.heaters:
        kind, control = case.catalogue.sources[heater.kind], case.design.control_of(heater)
        switched = control is not None and control.kind != "timer"
        if not kind.dims and (switched or heater.dim < 1.0):
            yield Finding(
                "cannot-be-dimmed",
                "stop",
                f"'{heater.name}' cannot be dimmed or switched by a thermostat",
                kind.service_note or f"A {kind.label} is made for full power.",
                f"{heater.watts:g} W",
                "Run it on a timer at full power, and hold the temperature by its height and wattage.",
            )


def _over_its_load(case: Case) -> Iterator[Finding]:
    for control in case.design.controls:
        load_w = sum(heater.watts for heater in case.design.heaters_of(control))
        if control.max_watts is not None and load_w > control.max_watts:
            yield Finding(
                "control-overload",
                "stop",
                f"'{control.name}' switches {load_w:g} W, made for {control.max_watts:g} W",
                "A thermostat beyond its rating overheats, or its contacts weld and stay on.",
                f"{load_w:g} W, limit {control.max_watts:g} W",
                "Use a thermostat rated for the load, or one for each heater.",
            )


def _cannot_hold(case: Case) -> Iterator[Finding]:
    for condition, climate in case.climates.items():
        for name, held in climate.controls.items():
            if held.word == "cannot reach":
                yield Finding(
                    "cannot-reach",
                    "warn",
                    f"'{name}' cannot reach {held.setpoint_c:g} °C on a {condition.label.lower()}",
                    f"At full power its probe reads {held.probe_c:.1f} °C with the room at {condition.room_c:g} °C.",
                    f"{held.probe_c:.1f} °C, set to {held.setpoint_c:g}",
                    "Take more watts or insulation, or set it to what can be reached.",
                )


def _lamp_switched(case: Case) -> Iterator[Finding]:
    for control in case.design.controls:
        heaters = case.design.heaters_of(control)
        if _switches_a_lamp(case, control, heaters):
            yield Finding(
                "lamp-on-an-on-off-thermostat",
                "warn",
                f"'{control.name}' switches a lamp on and off",
                "The light goes with it, and filaments wear out by being switched.",
                f"{sum(heater.watts for heater in heaters):g} W",
                "Use a dimming thermostat for lamps.",
            )


def _switches_a_lamp(case: Case, control: Control, heaters: tuple[Heater, ...]) -> bool:
    return control.kind in ("on-off", "pulse") and any(case.catalogue.sources[h.kind].light for h in heaters)


RULES: tuple[Rule, ...] = (
    _needs_a_thermostat,
    _cannot_be_dimmed,
    _over_its_load,
    _cannot_hold,
    _lamp_switched,
)
