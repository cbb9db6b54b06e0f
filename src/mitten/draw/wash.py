"""The temperature wash: paper to brick, its luminance falling steadily from 16 °C to 56 °C."""

from functools import cache

import numpy as np
import numpy.typing as npt
from markupsafe import Markup

from mitten.core.design.amounts import celsius
from mitten.core.design.units import METRIC, TEMPERATURE, Units
from mitten.draw.svg import element

COLDEST_C, HOTTEST_C = 16.0, 56.0
STEP_C = 2.0
STEP_F = 4.0
GAMMA = 2.2
PAPER_TO_BRICK = (
    "#EEF1F0", "#DCE4E0", "#D8DEC5", "#E3D6A0", "#E5B86C", "#D58A46", "#B25A34", "#7C2E26", "#4A1A1C",
)  # fmt: skip


def colour_of(temperature_c: float) -> str:
    """Colour of a temperature, mixed from the named ones as light mixes, so that luminance never rises."""
    light = _light_of_stops()
    place = (temperature_c - COLDEST_C) / (HOTTEST_C - COLDEST_C) * (len(light) - 1)
    place = float(np.clip(place, 0.0, len(light) - 1))
    low = min(int(place), len(light) - 2)
    mixed = light[low] + (light[low + 1] - light[low]) * (place - low)
    red, green, blue = (mixed ** (1 / GAMMA) * 255).round().astype(int)
    return f"#{red:02X}{green:02X}{blue:02X}"


@cache
def _light_of_stops() -> npt.NDArray[np.float64]:
    """The named colours (9, 3) as amounts of light."""
    codes = [[int(colour[i : i + 2], 16) for i in (1, 3, 5)] for colour in PAPER_TO_BRICK]
    return (np.array(codes) / 255.0) ** GAMMA


def band_levels(lowest_c: float, highest_c: float, units: Units = METRIC) -> list[float]:
    """Edges in °C of the bands that cover a span of temperatures: 2 °C or 4 °F wide."""
    shown = TEMPERATURE.shown_in(units.system)
    step = STEP_C if units.system == "metric" else STEP_F
    lowest, highest = units.convert(TEMPERATURE, lowest_c), units.convert(TEMPERATURE, highest_c)
    first = np.floor(lowest / step) * step
    last = max(np.ceil(highest / step) * step, first + step)
    return [float(level - shown.offset) / shown.factor for level in np.arange(first, last + step / 2, step)]


def legend(units: Units = METRIC) -> Markup:
    """A strip of the wash with its temperatures."""
    width, height = 200.0, 10.0
    steps = 40
    cells = [
        element(
            "rect", x=i * width / steps, y=0, width=width / steps + 0.3, height=height,
            fill=colour_of(COLDEST_C + (i + 0.5) * (HOTTEST_C - COLDEST_C) / steps),
        )
        for i in range(steps)
    ]  # fmt: skip
    marks = [
        element("text", f"{units.degrees(c, 0)}°", x=(c - COLDEST_C) / (HOTTEST_C - COLDEST_C) * width, y=23,
                text_anchor="middle", class_="tick")
        for c in (16, 26, 36, 46, 56)
    ]  # fmt: skip
    return element(
        "svg", *cells, *marks, viewBox="-10 0 220 26", class_="legend", role="img",
        aria_label=units.say(f"Colours from {celsius(16)}, pale, to {celsius(56)}, dark"),
    )  # fmt: skip
