"""Twelve months of a box: when the lamps are on, how warm it is by day and night, night heat, and energy."""

from collections.abc import Callable, Iterator, Sequence

from markupsafe import Markup

from mitten.core.design.units import METRIC, TEMPERATURE, Units
from mitten.core.design.year import MONTH_NAMES
from mitten.core.plan.year import MonthFigures
from mitten.draw.svg import element, group, line, rect, text

WIDTH, LEFT, RIGHT = 780.0, 136.0, 8.0
HEAD, DAY_TOP, DAY_HIGH = 16.0, 24.0, 74.0
WARM_TOP, WARM_HIGH = 120.0, 150.0
NIGHT_TOP, STRIP = 290.0, 16.0
REST_TOP = 312.0
ENERGY_TOP, ENERGY_HIGH = 342.0, 62.0
HEIGHT = 424.0
STEP = (WIDTH - LEFT - RIGHT) / 12
HOURS = (0, 6, 12, 18, 24)
LETTER_DOWN = 4.0
EVERY_K = 5

Axis = Callable[[float], float]


def month_chart(months: Sequence[MonthFigures], wanted: tuple[float, float], units: Units = METRIC) -> Markup:
    """The chart; ``wanted`` is the span in °C of the basking surface, None where it is judged by something else.
    ``months`` may be fewer than twelve while they are worked out.
    """
    names = [text(_middle(n), HEAD - 3, name[:3], "tick", "middle") for n, name in enumerate(MONTH_NAMES)]
    return element(
        "svg", *names, *_days(months), *_warmth(months, wanted, units), *_strips(months), *_energy(months),
        viewBox=f"0 0 {WIDTH:g} {HEIGHT:g}", class_="month-chart", role="img",
        aria_label="Twelve months: hours of light, temperatures, night heat and energy; the table below has them",
    )  # fmt: skip


def _middle(number: int) -> float:
    return LEFT + (number + 0.5) * STEP


def _name(y: float, words: str) -> Markup:
    return text(0, y, words, "stripe-label")


def _days(months: Sequence[MonthFigures]) -> Iterator[Markup]:
    """When the lamps are on, from midnight down to midnight."""
    yield _name(DAY_TOP + DAY_HIGH / 2 + LETTER_DOWN, "Lamps on")
    for hour in HOURS:
        y = DAY_TOP + DAY_HIGH * hour / 24
        yield line(LEFT, y, WIDTH - RIGHT, y, "grid")
        yield text(LEFT - 6, y + LETTER_DOWN, f"{hour}:00", "tick", "end")
    for number, one in enumerate(months):
        begins, lasts = one.lights_on_min / 1440, one.month.day_hours / 24
        first = min(lasts, 1 - begins)
        for share, length in ((begins, first), (0.0, lasts - first)):
            if length > 0:
                yield rect(_middle(number) - 10, DAY_TOP + DAY_HIGH * share, 20, DAY_HIGH * length, "lamps-on")


def _warmth(months: Sequence[MonthFigures], wanted: tuple[float, float], units: Units) -> Iterator[Markup]:
    """The basking place and the night, and the room around them."""
    figures = [c for one in months for c in (one.basking_c, one.cool_c, one.night_c, one.month.room_day_c,
               one.month.room_night_c) if c is not None]  # fmt: skip
    low, high = min([*figures, wanted[0]]) - 2, max([*figures, wanted[1]]) + 2

    def y(celsius: float) -> float:
        return WARM_TOP + WARM_HIGH * (high - celsius) / (high - low)

    yield rect(LEFT, y(wanted[1]), WIDTH - RIGHT - LEFT, y(wanted[0]) - y(wanted[1]), "stripe hot")
    middle = (y(wanted[0]) + y(wanted[1])) / 2
    yield _name(middle - 2, "Basking place")
    yield _name(middle + 11, "and what it wants")
    yield from _degrees(low, high, y, units)
    yield text(LEFT - 6, WARM_TOP - 6, units.unit_of(TEMPERATURE), "tick", "end")
    nights = [y(one.night_c) for one in months]
    yield _name(sum(nights) / len(nights) + LETTER_DOWN, "Night, in the room")
    for number, one in enumerate(months):
        x, room = _middle(number), sorted((one.month.room_day_c, one.month.room_night_c))
        yield rect(x - 10, y(room[1]), 20, max(y(room[0]) - y(room[1]), 2), "month-room")
        yield from _mark(x, y(one.night_c), "mark-night", units.degrees(one.night_c, 0), below=True)
        if one.basking_c is not None:
            yield from _mark(x, y(one.basking_c), "mark-basking", units.degrees(one.basking_c, 0), below=False)


def _degrees(low: float, high: float, y: Axis, units: Units) -> Iterator[Markup]:
    first = int(low // EVERY_K + 1) * EVERY_K
    for celsius in range(first, int(high) + 1, EVERY_K):
        yield line(LEFT, y(celsius), WIDTH - RIGHT, y(celsius), "grid")
        yield text(LEFT - 6, y(celsius) + LETTER_DOWN, units.degrees(celsius, 0), "tick", "end")


def _mark(x: float, y: float, class_: str, words: str, *, below: bool) -> Iterator[Markup]:
    yield element("circle", cx=x, cy=y, r=4.5, class_=class_)
    yield text(x + 8, y + (11 if below else -4), words, "tick")


def _strips(months: Sequence[MonthFigures]) -> Iterator[Markup]:
    """Where night heat is needed, and where the cool rest is."""
    yield _name(NIGHT_TOP + 12, "Night heat")
    yield _name(REST_TOP + 12, "Cool rest")
    for number, one in enumerate(months):
        x = LEFT + number * STEP
        tone = "needed" if one.night_heat else "wished" if one.night_heat_wished else "none"
        yield rect(x + 1, NIGHT_TOP, STEP - 2, STRIP, f"night-heat {tone}")
        if tone != "none":
            yield text(x + STEP / 2, NIGHT_TOP + 12, "needed" if tone == "needed" else "better", "tick", "middle")
        yield rect(x + 1, REST_TOP, STEP - 2, STRIP, "night-heat none")
        if one.month.resting > 0:
            yield rect(x + 1, REST_TOP, (STEP - 2) * one.month.resting, STRIP, "cool-rest")


def _energy(months: Sequence[MonthFigures]) -> Iterator[Markup]:
    yield _name(ENERGY_TOP + ENERGY_HIGH / 2, "kWh a month")
    most = max([one.kwh for one in months] + [1.0])
    foot = ENERGY_TOP + ENERGY_HIGH
    for number, one in enumerate(months):
        high = (ENERGY_HIGH - 12) * one.kwh / most
        yield group(
            rect(_middle(number) - 12, foot - high, 24, high, "energy"),
            text(_middle(number), foot - high - 3, f"{one.kwh:.0f}" if one.kwh >= 1 else f"{one.kwh:.1f}", "tick",
                 "middle"),
        )  # fmt: skip
    yield line(LEFT, foot, WIDTH - RIGHT, foot, "ruler")
