"""What keepers type, into a design's numbers, and those into what is shown."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mitten.core.design.units import (
    AREA,
    LENGTH,
    METRIC,
    SHARE,
    TEMPERATURE,
    TEMPERATURE_STEP,
    THICKNESS,
    US,
    WATTS,
    BadQuantityError,
    Quantity,
    Units,
)


@pytest.mark.parametrize(
    ("quantity", "typed", "stored"),
    [
        (LENGTH, "90", 0.9),
        (LENGTH, "1,2 m", 1.2),
        (LENGTH, "4 ft", 1.2192),
        (LENGTH, "48in", 1.2192),
        (LENGTH, "4' 6\"", 1.3716),
        (LENGTH, "3 1/2 in", 0.0889),
        (LENGTH, "1/2 m", 0.5),
        (LENGTH, "900 mm", 0.9),
        (TEMPERATURE, "31,5", 31.5),
        (TEMPERATURE, "88F", 31.1111),
        (TEMPERATURE, "88 °F", 31.1111),
        (TEMPERATURE, "−3 C", -3.0),
        (TEMPERATURE, "300 kelvin", 26.85),
        (TEMPERATURE_STEP, "2 K", 2.0),
        (TEMPERATURE_STEP, "3.6 F", 2.0),
        (THICKNESS, "1/2 in", 12.7),
        (AREA, "6 in²", 38.7096),
        (SHARE, "40", 0.4),
        (SHARE, "40 %", 0.4),
    ],
)
def test_what_a_metric_keeper_types(quantity: Quantity, typed: str, stored: float) -> None:
    assert METRIC.read(quantity, typed) == pytest.approx(stored, abs=1e-4)


def test_a_number_alone_is_in_the_units_that_are_shown() -> None:
    assert US.read(LENGTH, "36") == pytest.approx(0.9144)
    assert US.read(TEMPERATURE, "88") == pytest.approx(31.1111, abs=1e-4)
    assert US.read(LENGTH, "90 cm") == pytest.approx(0.9)


@pytest.mark.parametrize(
    "typed",
    [
        "",
        "warm",
        "4 kg",
        "4 5 6",
        "12 cm 4",
        "1/0",
        "nan",
        "--3",
        "1e400",
        "4 ft of",
        "25:",
        "5 to 6",
        "5 m**99999999",
        "x" * 40_000,
        "9" * 50,
        "(((((",
        "\x00",
        "a page of prose " * 100,
    ],
)
def test_nonsense_is_refused_in_a_sentence(typed: str) -> None:
    with pytest.raises(BadQuantityError) as refused:
        METRIC.read(LENGTH, typed)
    assert str(refused.value).endswith(".")


@given(st.floats(-40, 120), st.sampled_from([METRIC, US]))
def test_what_is_shown_is_read_back_within_what_is_shown(celsius: float, units: Units) -> None:
    shown = units.show(TEMPERATURE, celsius)
    assert units.read(TEMPERATURE, shown) == pytest.approx(celsius, abs=0.06)


@pytest.mark.parametrize(
    ("sentence", "said"),
    [
        ("Basking surface is 2.0 K too hot on a winter day.", "Basking surface is 3.6 °F too hot on a winter day."),
        ("120 × 60 × 60 cm", "47.2 × 23.6 × 23.6 in"),
        ("wanted are 21 to 26 °C", "wanted are 70 to 79 °F"),
        ("above ground 44 to 48.5 cm", "above ground 17.3 to 19.1 in"),
        ("5 mm of glass", "0.2 in of glass"),
        ("400 W/m² on 30 cm² at 50 W", "400 W/m² on 30 cm² at 50 W"),
        ("59.0 °C, limit 45 °C", "138.2 °F, limit 113 °F"),
    ],
)
def test_sentences_are_said_in_the_keepers_units(sentence: str, said: str) -> None:
    assert US.say(sentence) == said
    assert METRIC.say(sentence) == sentence


def test_figures_never_say_minus_nothing() -> None:
    assert METRIC.degrees(-0.01) == "0.0"
    assert METRIC.show(LENGTH, -0.00001) == "0"
    assert METRIC.say_with_unit(LENGTH, 0.32) == "32 cm"
    assert US.say_with_unit(SHARE, 0.4) == "40%"


@pytest.mark.parametrize(
    ("quantity", "typed", "stored"),
    [
        (TEMPERATURE, "25 ℃", 25.0), (TEMPERATURE, "77℉", 25.0), (TEMPERATURE, "25 °", 25.0), (TEMPERATURE, "25 deg", 25.0),
        (WATTS, "12½", 12.5), (WATTS, "２５", 25.0), (LENGTH, "5''", 0.127), (LENGTH, "3⅛ in", 3.125 * 0.0254),
    ],
)  # fmt: skip
def test_numbers_are_understood_however_they_are_written(quantity: Quantity, typed: str, stored: float) -> None:
    assert METRIC.read(quantity, typed) == pytest.approx(stored)
