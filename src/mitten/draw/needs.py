"""What an animal wants and what harms it, on one line of temperature; and its size at every stage of life."""

from collections.abc import Callable, Iterator

from markupsafe import Markup

from mitten.core.catalogue import Species, Targets
from mitten.core.design import Stage
from mitten.core.design.units import LENGTH, MASS, METRIC, TEMPERATURE, Units
from mitten.core.physics.reading.body import Body, body_of
from mitten.draw.animal import animal_outline
from mitten.draw.svg import element, group, line, rect, text
from mitten.draw.wash import colour_of

WIDTH = 400.0
LEFT, RIGHT = 150.0, 12.0
FIGURE_AT = 138.0
"""Figures stand in a column beside the names, clear of the lines of danger."""

ROW = 24.0
TOP = 40.0
BANDS = {
    "Basking surface": "basking_surface_c", "Basking body": "basking_operative_c", "Basking air": "basking_air_c",
    "Warm side air": "warm_air_c", "Cool side air": "cool_air_c", "Night air": "night_c",
}  # fmt: skip
DANGERS = {"air": "danger_air_c", "body": "danger_body_c", "surface": "danger_contact_c"}
STAGES: tuple[Stage, ...] = ("hatchling", "juvenile", "adult")
SIZES_HEIGHT = 118.0
BESIDE_C = 4.0
LETTER = 5.9
DANGER_ROWS = (31.0, 20.5, 10.0)
"""Heights of the words of dangers, the usual one first."""

Axis = Callable[[float], float]


def needs(targets: Targets, units: Units = METRIC) -> Markup:
    """Every band of temperature that is wanted, in the wider one that is borne, and the lines of danger."""
    ends = [end for key in BANDS.values() for end in targets.bears(key)]
    dangers = [getattr(targets, key) for key in DANGERS.values()]
    low, high = min(ends) - BESIDE_C, max(*ends, *dangers) + BESIDE_C
    bottom = TOP + ROW * len(BANDS)

    def x(celsius: float) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * float((celsius - low) / (high - low))

    rows = [_row(name, targets, key, x, TOP + ROW * n, units) for n, (name, key) in enumerate(BANDS.items())]
    described = "; ".join(
        f"{name} {units.show(TEMPERATURE, getattr(targets, key)[0])} to "
        f"{units.show(TEMPERATURE, getattr(targets, key)[1])}" for name, key in BANDS.items()
    )  # fmt: skip
    return element(
        "svg", *rows, *_danger_lines(targets, x, bottom, units),
        line(LEFT, bottom + 4, WIDTH - RIGHT, bottom + 4, "ruler"),
        viewBox=f"0 0 {WIDTH:g} {bottom + 12:g}", class_="needs", role="img",
        aria_label=f"What it wants, in {units.unit_of(TEMPERATURE)}: {described}",
    )  # fmt: skip


def _row(name: str, targets: Targets, key: str, x: Axis, y: float, units: Units) -> Markup:
    span, (least, most) = targets.wants(key), targets.bears(key)
    left, right = x(span[0]), x(span[1])
    words = f"{units.show(TEMPERATURE, span[0])}–{units.show(TEMPERATURE, span[1])}°"
    return group(
        text(0, y + 15, name, "needs-name"),
        rect(x(least), y + 8, x(most) - x(least), ROW - 16, "bar-borne"),
        rect(left, y + 4, right - left, ROW - 8, "needs-band", fill=colour_of((span[0] + span[1]) / 2)),
        text(FIGURE_AT, y + 16, words, "needs-figure", "end"),
    )


def _danger_lines(targets: Targets, x: Axis, bottom: float, units: Units) -> Iterator[Markup]:
    """Each with its words over it; words that would meet those before them stand further up."""
    ends = dict.fromkeys(DANGER_ROWS, -LETTER)
    for name, key in sorted(DANGERS.items(), key=lambda item: float(getattr(targets, item[1]))):
        at = x(getattr(targets, key))
        words = f"{name} {units.show(TEMPERATURE, getattr(targets, key))}°"
        half = len(words) * LETTER / 2
        row = next((one for one in DANGER_ROWS if ends[one] + LETTER <= at - half), DANGER_ROWS[-1])
        ends[row] = at + half
        yield line(at, DANGER_ROWS[0] + 3, at, bottom + 4, "danger-line")
        yield text(at, row, words, "danger-words", "middle")


def sizes(species: Species, shown: Stage, units: Units = METRIC) -> Markup:
    """The animal at its three stages of life, to one scale, with a ruler."""
    bodies = {stage: body_of(species, stage) for stage in STAGES}
    long_m = [_drawn_m(body) for body in bodies.values()]
    per_m = min((WIDTH - 76) / sum(long_m), (SIZES_HEIGHT - 50) / max(_wide_m(body) for body in bodies.values()))
    parts, left, middle = [], 20.0, 46.0
    for stage, body in bodies.items():
        half = body.half_axes_m[0] * per_m
        width = _drawn_m(body) * per_m
        outline = animal_outline(body, left + half, middle, per_m)
        words = f"{units.say_with_unit(LENGTH, body.length_m)}, {units.say_with_unit(MASS, body.mass_g)}"
        class_ = "size-words shown" if stage == shown else "size-words"
        parts.append(group(outline, class_="size" if stage == shown else "size other"))
        place = 16 + 128 * STAGES.index(stage)
        parts += [text(place, SIZES_HEIGHT - 20, stage, class_), text(place, SIZES_HEIGHT - 6, words, class_)]
        left += width + 20
    return element(
        "svg", *parts, viewBox=f"0 0 {WIDTH:g} {SIZES_HEIGHT:g}", class_="sizes", role="img",
        aria_label=f"{species.label}: "
        + ", ".join(f"{stage} {units.say_with_unit(LENGTH, body.length_m)}" for stage, body in bodies.items()),
    )  # fmt: skip


def _drawn_m(body: Body) -> float:
    around_m: float = 2 * body.half_axes_m[0]
    return around_m if body.group == "snake" else max(body.length_m, around_m)


def _wide_m(body: Body) -> float:
    return 2 * (body.half_axes_m[0] if body.group == "snake" else body.half_axes_m[1])
