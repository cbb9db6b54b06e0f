"""How everything is plugged in: outlet, timer, thermostat, sources and the probe's lead, with ratings and loads."""

from collections.abc import Iterator
from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.design import Control, Design, Light, UvbLamp
from mitten.draw.svg import element, group, line, rect, text

WIDTH, ROW, TOP = 620.0, 46.0, 26.0
OUTLET_X, TIMER_X, CONTROL_X, SOURCE_X = 8.0, 96.0, 206.0, 400.0
OUTLET_W, TIMER_W, CONTROL_W, SOURCE_W = 56.0, 76.0, 160.0, 212.0
BOX_H = 34.0


@dataclass(frozen=True)
class WiringLine:
    """One line from the outlet: through a timer where it follows the day, through a control where it has one."""

    sources: tuple[tuple[str, float], ...]
    timed: bool
    control: Control | None
    probe: str = ""

    @property
    def load_w(self) -> float:
        """All that it carries."""
        return sum(watts for _, watts in self.sources)


def wiring_lines(design: Design, probes: dict[str, str]) -> Iterator[WiringLine]:
    """Every line: those of controls first, then what has none; ``probes`` are words by control."""
    for control in design.controls:
        heaters = design.heaters_of(control)
        sources = tuple((heater.name, heater.watts) for heater in heaters)
        if heaters:
            yield WiringLine(sources, design.goes_by_the_clock(control), control, probes.get(control.name, ""))
    for heater in design.heaters:
        if design.control_of(heater) is None:
            yield WiringLine(((heater.name, heater.watts),), heater.on != "always", None)
    yield from _lights(design)


def _lights(design: Design) -> Iterator[WiringLine]:
    """What is lit by day on one timer, and what always is by itself."""
    by_day: list[Light | UvbLamp] = [*design.lights, *(lamp for lamp in design.uvb if lamp.on != "always")]
    always: list[Light | UvbLamp] = [lamp for lamp in design.uvb if lamp.on == "always"]
    for lamps, timed in ((by_day, True), (always, False)):
        if lamps:
            yield WiringLine(tuple((lamp.name, lamp.watts) for lamp in lamps), timed, None)


def wiring(design: Design, probes: dict[str, str]) -> Markup:
    """The line drawing, and the same in words for those who do not see it."""
    lines = list(wiring_lines(design, probes))
    drawn, y, said = [], TOP, []
    for one in lines:
        drawn.append(_line(one, y))
        said.append(_words(one))
        y += max(len(one.sources), 2 if one.probe else 1) * ROW + 8
    total = sum(one.load_w for one in lines)
    drawn.append(text(OUTLET_X, 14, f"All lines together: {total:g} W", "tick"))
    return element(
        "svg", *drawn, viewBox=f"0 0 {WIDTH:g} {y:g}", class_="wiring", role="img",
        aria_label="Wiring. " + " ".join(said),
    )  # fmt: skip


def _line(one: WiringLine, y: float) -> Markup:
    middle = y + BOX_H / 2
    parts = [_box(OUTLET_X, y, OUTLET_W, "outlet", ""), line(OUTLET_X + OUTLET_W, middle, SOURCE_X, middle, "wire")]
    if one.timed:
        parts.append(_box(TIMER_X, y, TIMER_W, "timer", ""))
    if one.control is not None:
        rating = f"at most {one.control.max_watts:g} W" if one.control.max_watts else "rating unknown"
        parts.append(_box(CONTROL_X, y, CONTROL_W, f"{one.control.name}", f"{one.control.kind}, {rating}"))
    for number, (name, watts) in enumerate(one.sources):
        at = y + number * ROW
        if number:
            parts.append(line(SOURCE_X - 14, middle, SOURCE_X - 14, at + BOX_H / 2, "wire"))
            parts.append(line(SOURCE_X - 14, at + BOX_H / 2, SOURCE_X, at + BOX_H / 2, "wire"))
        parts.append(_box(SOURCE_X, at, SOURCE_W, name, f"{watts:g} W"))
    if one.probe:
        low = y + ROW + BOX_H / 2
        parts.append(line(CONTROL_X + 16, y + BOX_H, CONTROL_X + 16, low, "lead"))
        parts.append(group(element("circle", cx=CONTROL_X + 16, cy=low, r=3.5, class_="probe-end")))
        parts.append(text(CONTROL_X + 26, low + 4, f"probe {one.probe}", "tick"))
    return group(*parts)


def _box(x: float, y: float, width: float, words: str, under: str) -> Markup:
    middle = y + (BOX_H / 2 + 4 if not under else BOX_H / 2 - 2)
    lines = [rect(x, y, width, BOX_H, "wired"), text(x + 8, middle, words, "wired-name")]
    if under:
        lines.append(text(x + 8, y + BOX_H - 6, under, "tick"))
    return group(*lines)


def _words(one: WiringLine) -> str:
    way = ["an outlet", *(["a timer"] if one.timed else [])]
    if one.control is not None:
        way.append(f"'{one.control.name}'")
    ends = ", ".join(f"'{name}' {watts:g} W" for name, watts in one.sources)
    probe = f" Its probe is {one.probe}." if one.probe else ""
    return f"From {' through '.join(way)} to {ends}.{probe}"
