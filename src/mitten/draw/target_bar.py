"""A target as a bar: the wanted range, and the computed figure on it."""

from collections.abc import Callable, Iterator

from markupsafe import Markup

from mitten.core.design.units import METRIC, Units
from mitten.core.judge import TargetVerdict, figure_words
from mitten.core.judge.targets import Unit
from mitten.draw.svg import element, line, rect

WIDTH, HEIGHT = 110.0, 18.0
BESIDE: dict[Unit, float] = {"°C": 7.0, "%": 30.0, "UVI": 2.0, "W/m²": 150.0, "h": 3.0}
"""How much is drawn to either side of the wanted range."""


def target_bar(verdict: TargetVerdict, units: Units = METRIC, interval: tuple[float, float] | None = None) -> Markup:
    """The range as a band, the figure as a dot with its interval as a whisker; a figure off the bar sits at its end
    as an arrow.
    """
    low, high = verdict.low - BESIDE[verdict.unit], verdict.high + BESIDE[verdict.unit]

    def x(value: float) -> float:
        return 4 + (WIDTH - 8) * (value - low) / (high - low)

    middle = HEIGHT / 2
    at = x(min(max(verdict.value, low), high))
    beyond = not low <= verdict.value <= high
    if beyond:
        tip = 4 if verdict.value > high else -4
        mark = element("path", d=f"M{at - tip:.1f} {middle - 5}L{at + tip:.1f} {middle}L{at - tip:.1f} {middle + 5}Z",
                       class_=f"mark {verdict.word}")  # fmt: skip
    else:
        mark = element("circle", cx=at, cy=middle, r=4, class_=f"mark {verdict.word}")
    return element(
        "svg",
        line(4, middle, WIDTH - 4, middle, "bar-axis"),
        rect(x(verdict.low), middle - 6, x(verdict.high) - x(verdict.low), 12, "bar-band"),
        *_whisker(x, low, high, middle, interval),
        mark,
        viewBox=f"0 0 {WIDTH:g} {HEIGHT:g}",
        class_="target-bar",
        role="img",
        aria_label=units.say(_described(verdict, interval)),
    )


def _whisker(
    x: Callable[[float], float], low: float, high: float, middle: float, interval: tuple[float, float] | None
) -> Iterator[Markup]:
    """The 90 % interval, cut where the bar ends."""
    if interval is None:
        return
    ends = [x(min(max(end, low), high)) for end in interval]
    yield line(ends[0], middle, ends[1], middle, "whisker")
    for end, value in zip(ends, interval, strict=True):
        if low <= value <= high:
            yield line(end, middle - 4, end, middle + 4, "whisker")


def _described(verdict: TargetVerdict, interval: tuple[float, float] | None) -> str:
    words = f"wanted {verdict.low:g} to {verdict.high:g} {verdict.unit}, computed {figure_words(verdict)}"
    if interval is None:
        return words
    unit = " °C" if verdict.unit == "°C" else ""
    return f"{words}, nine times in ten between {interval[0]:.1f} and {interval[1]:.1f}{unit}"
