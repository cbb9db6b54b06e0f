"""A target as a bar: the wanted range, and the computed figure on it."""

from markupsafe import Markup

from mitten.core.judge import TargetVerdict
from mitten.draw.svg import element, line, rect

WIDTH, HEIGHT = 110.0, 18.0
BESIDE_K = 7.0
"""Kelvin drawn to either side of the wanted range."""


def target_bar(verdict: TargetVerdict) -> Markup:
    """The range as a band, the figure as a dot; a figure off the bar sits at its end as an arrow."""
    low, high = verdict.low - BESIDE_K, verdict.high + BESIDE_K

    def x(value: float) -> float:
        return 4 + (WIDTH - 8) * (value - low) / (high - low)

    middle = HEIGHT / 2
    at = x(min(max(verdict.value_c, low), high))
    beyond = not low <= verdict.value_c <= high
    if beyond:
        tip = 4 if verdict.value_c > high else -4
        mark = element("path", d=f"M{at - tip:.1f} {middle - 5}L{at + tip:.1f} {middle}L{at - tip:.1f} {middle + 5}Z",
                       class_=f"mark {verdict.word}")  # fmt: skip
    else:
        mark = element("circle", cx=at, cy=middle, r=4, class_=f"mark {verdict.word}")
    return element(
        "svg",
        line(4, middle, WIDTH - 4, middle, "bar-axis"),
        rect(x(verdict.low), middle - 6, x(verdict.high) - x(verdict.low), 12, "bar-band"),
        mark,
        viewBox=f"0 0 {WIDTH:g} {HEIGHT:g}",
        class_="target-bar",
        role="img",
        aria_label=f"wanted {verdict.low:g} to {verdict.high:g} °C, computed {verdict.value_c:.1f} °C",
    )
