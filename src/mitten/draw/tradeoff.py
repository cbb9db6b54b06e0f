"""The trade-off between plans: how likely all holds, against what a year takes."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from markupsafe import Markup

from mitten.draw.svg import element, group, line, text

SIZE = (420.0, 250.0)
LEFT, RIGHT, TOP, BOTTOM = 52.0, 16.0, 14.0, 40.0
RADIUS = 10.0
CHANCES = (0.0, 0.25, 0.5, 0.75, 1.0)
STEPS_KWH = (50, 100, 200, 250, 500, 1000, 2000)
MOST_STEPS = 5
APART = 2 * RADIUS + 2


@dataclass(frozen=True)
class TradeoffPoint:
    """A plan as a point: its number in the list, energy of a year and chance."""

    number: int
    kwh_year: float
    chance: float
    words: str


def tradeoff(points: Sequence[TradeoffPoint]) -> Markup:
    """Chance of meeting all (upwards) against kWh a year (to the right), each point with its number."""
    most = max((point.kwh_year for point in points), default=0.0)
    step = next((step for step in STEPS_KWH if most * 1.1 <= step * MOST_STEPS), STEPS_KWH[-1])
    end_kwh = step * max(1, -(-int(most * 1.1) // step))
    width, height = SIZE[0] - LEFT - RIGHT, SIZE[1] - TOP - BOTTOM

    def at(point: TradeoffPoint) -> tuple[float, float]:
        return LEFT + width * point.kwh_year / end_kwh, TOP + height * (1.0 - point.chance)

    marks = _apart([(point, *at(point)) for point in points])
    said = "; ".join(f"{point.number}: {point.words}" for point in points)
    return element(
        "svg",
        *_scales(step, end_kwh, width, height),
        *(_mark(point, x, y) for point, x, y in marks),
        viewBox=f"0 0 {SIZE[0]:g} {SIZE[1]:g}", class_="tradeoff", role="img",
        aria_label=f"Chance that all targets hold, against energy of a year. {said}",
    )  # fmt: skip


def _scales(step: int, end_kwh: float, width: float, height: float) -> Iterator[Markup]:
    for chance in CHANCES:
        y = TOP + height * (1.0 - chance)
        yield line(LEFT, y, LEFT + width, y, "grid")
        yield text(LEFT - 6, y + 4, f"{chance:.0%}", "tick", "end")
    for kwh in range(0, int(end_kwh) + 1, step):
        x = LEFT + width * kwh / end_kwh
        yield line(x, TOP + height, x, TOP + height + 4, "grid")
        yield text(x, TOP + height + 16, f"{kwh:,}", "tick", "middle")
    yield text(LEFT + width / 2, SIZE[1] - 6, "kWh a year", "tick", "middle")


def _apart(marks: list[tuple[TradeoffPoint, float, float]]) -> list[tuple[TradeoffPoint, float, float]]:
    """Marks that would lie on one another are moved aside."""
    placed: list[tuple[TradeoffPoint, float, float]] = []
    for point, x, y in marks:
        aside = x
        while any(abs(aside - other_x) < APART and abs(y - other_y) < APART for _, other_x, other_y in placed):
            aside += APART
        placed.append((point, min(aside, SIZE[0] - RADIUS), y))
    return placed


def _mark(point: TradeoffPoint, x: float, y: float) -> Markup:
    return group(
        element("circle", cx=x, cy=y, r=RADIUS, class_="plan-point"),
        text(x, y + 4, str(point.number), "plan-number", "middle"),
        class_="plan-mark",
    )
