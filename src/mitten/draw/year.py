"""The room through the year: a bar a month, from the night's temperature to the day's."""

from collections.abc import Sequence

from markupsafe import Markup

from mitten.core.design import RoomSeason
from mitten.core.design.units import METRIC, TEMPERATURE, Units
from mitten.core.design.year import MONTH_NAMES
from mitten.draw.svg import element, group, line, rect, text
from mitten.draw.wash import colour_of

WIDTH, HEIGHT = 400.0, 108.0
LEFT, RIGHT, TOP, BOTTOM = 30.0, 6.0, 14.0, 20.0
LEAST_SPAN_C = 6.0
LEAST_BAR = 3.0


def year_strip(months: Sequence[RoomSeason], units: Units = METRIC) -> Markup:
    """Twelve bars; the top of each is the day, its foot the night."""
    lowest, highest = min(month.night_c for month in months), max(month.day_c for month in months)
    lowest, highest = min(lowest, *(m.day_c for m in months)), max(highest, *(m.night_c for m in months))
    highest = max(highest, lowest + LEAST_SPAN_C)
    step = (WIDTH - LEFT - RIGHT) / len(months)

    def y(celsius: float) -> float:
        return TOP + (HEIGHT - TOP - BOTTOM) * (highest - celsius) / (highest - lowest)

    bars = []
    for number, month in enumerate(months):
        x, upper = LEFT + number * step, max(month.day_c, month.night_c)
        high = max(abs(y(month.night_c) - y(month.day_c)), LEAST_BAR)
        bars.append(
            group(
                rect(x + 4, y(upper), step - 8, high, "month", fill=colour_of((month.day_c + month.night_c) / 2)),
                text(x + step / 2, y(upper) - 3, units.degrees(month.day_c, 0), "tick", "middle"),
                text(x + step / 2, HEIGHT - 4, MONTH_NAMES[number][0], "tick", "middle"),
            )
        )
    described = ", ".join(
        f"{name} {units.degrees(m.day_c)} by day and {units.degrees(m.night_c)} by night"
        for name, m in zip(MONTH_NAMES, months, strict=True)
    )
    return element(
        "svg", line(LEFT, HEIGHT - BOTTOM + 2, WIDTH - RIGHT, HEIGHT - BOTTOM + 2, "ruler"), *bars,
        text(LEFT - 4, TOP + 4, units.unit_of(TEMPERATURE), "tick", "end"),
        viewBox=f"0 0 {WIDTH:g} {HEIGHT:g}", class_="year-strip", role="img",
        aria_label=f"Room, month by month: {described}",
    )  # fmt: skip
