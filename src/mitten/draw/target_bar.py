"""A target as a bar: the wanted range, and the computed figure on it."""

from collections.abc import Callable, Iterator

from markupsafe import Markup

from mitten.core.design.amounts import celsius
from mitten.core.design.units import METRIC, Units
from mitten.core.judge import TargetVerdict, figure_words, range_words
from mitten.core.judge.targets import Unit
from mitten.draw.svg import element, line, rect

WIDTH, HEIGHT = 110.0, 18.0
BESIDE: dict[Unit, float] = {"°C": 3.0, "%": 10.0, "UVI": 1.0, "W/m²": 80.0, "h": 1.5}
"""How much is drawn to either side of what is borne."""


def target_bar(verdict: TargetVerdict, units: Units = METRIC, interval: tuple[float, float] | None = None) -> Markup:
    """What is wanted as a band in the paler one of what is borne, and the figure as a dot with its interval as a
    whisker, a usual day's as a tick. A figure off the bar sits at its end as an arrow; a danger that is near is a line.
    """
    low, high = _ends(verdict)

    def x(value: float) -> float:
        return 4 + (WIDTH - 8) * (min(max(value, low), high) - low) / (high - low)

    middle = HEIGHT / 2
    at = x(verdict.value)
    beyond = not low <= verdict.value <= high
    if beyond:
        tip = 4 if verdict.value > high else -4
        mark = element("path", d=f"M{at - tip:.1f} {middle - 5}L{at + tip:.1f} {middle}L{at - tip:.1f} {middle + 5}Z",
                       class_=f"mark {verdict.status}")  # fmt: skip
    else:
        mark = element("circle", cx=at, cy=middle, r=4, class_=f"mark {verdict.status}")
    least, most = borne(verdict)
    return element(
        "svg",
        line(4, middle, WIDTH - 4, middle, "bar-axis"),
        rect(x(least), middle - 6, x(most) - x(least), 12, "bar-borne"),
        rect(x(verdict.low), middle - 6, x(verdict.high) - x(verdict.low), 12, "bar-band"),
        *([line(x(verdict.danger), 1, x(verdict.danger), HEIGHT - 1, "bar-danger")] if verdict.danger <= high else []),
        *([] if verdict.usual is None else [line(x(verdict.usual), 1, x(verdict.usual), middle, "bar-usual")]),
        *_whisker(x, low, high, middle, interval),
        mark,
        viewBox=f"0 0 {WIDTH:g} {HEIGHT:g}",
        class_="target-bar",
        role="img",
        aria_label=units.say(_description(verdict, interval)),
    )


def borne(verdict: TargetVerdict) -> tuple[float, float]:
    """What is borne of a target: of the body, where it can leave, all that is short of its danger."""
    least, most = verdict.bearable
    return (least, verdict.danger) if verdict.can_leave else (least, most)


def _ends(verdict: TargetVerdict) -> tuple[float, float]:
    """What the bar reaches from and to."""
    least, most = borne(verdict)
    beside = BESIDE[verdict.unit]
    low = 0.0 if verdict.unit in ("UVI", "W/m²", "%") and least <= beside else least - beside
    return low, most + beside


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


def _description(verdict: TargetVerdict, interval: tuple[float, float] | None) -> str:
    wanted, bearable = (range_words(ends, verdict.unit) for ends in ((verdict.low, verdict.high), borne(verdict)))
    words = f"wanted {wanted}, borne {bearable}, computed {figure_words(verdict)}"
    if interval is None:
        return words
    between = celsius(interval, 1, "and") if verdict.unit == "°C" else f"{interval[0]:.1f} and {interval[1]:.1f}"
    return f"{words}, nine times in ten between {between}"
