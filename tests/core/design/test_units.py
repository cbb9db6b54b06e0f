"""What keepers type, into a design's numbers, and those into what is shown."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mitten.core.design.amounts import (
    amount,
    around_amount,
    celsius,
    centimetres,
    kelvin,
    length,
    litres,
    litres_a_second,
    millilitres,
    millimetres,
    plain,
    with_marks,
)
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
def test_what_is_shown_is_read_back_within_what_is_shown(stored: float, units: Units) -> None:
    shown = units.show(TEMPERATURE, stored)
    assert units.read(TEMPERATURE, shown) == pytest.approx(stored, abs=0.06)


@pytest.mark.parametrize(
    ("sentence", "metric", "us"),
    [
        (f"{kelvin(2.0, 1)} too hot", "2.0 K too hot", "3.6 °F too hot"),
        (length((1.2, 0.6, 0.6), "×"), "120 × 60 × 60 cm", "47.2 × 23.6 × 23.6 in"),
        (f"wanted are {celsius((21, 26))}", "wanted are 21 to 26 °C", "wanted are 70 to 79 °F"),
        (f"from {centimetres((44, 48.5))}", "from 44 to 48.5 cm", "from 17.3 to 19.1 in"),
        (f"{millimetres(5)} of glass", "5 mm of glass", "0.2 in of glass"),
        (f"{celsius(59.0, 1)}, limit {celsius(45)}", "59.0 °C, limit 45 °C", "138.2 °F, limit 113 °F"),
        (f"{length((0.45, 0.6), 'of')} high", "45 of 60 cm high", "17.7 of 23.6 in high"),
        (f"{litres(2.5, 1)} a week", "2.5 l a week", "2.6 qt a week"),
        (f"{litres_a_second(1.0, 1)} and {millilitres(100)}", "1.0 l/s and 100 ml", "2.1 cfm and 3.4 fl oz"),
        (f"between {celsius((20.5, 31.25), 1, 'and')}", "between 20.5 and 31.2 °C", "between 68.9 and 88.2 °F"),
        (f"at {celsius(-5)}", "at -5 °C", "at 23 °F"),
        (amount("3–6", ""), "3–6", "3–6"),
        (amount("44 to 48.5", "cm"), "44 to 48.5 cm", "17.3 to 19.1 in"),
        (amount("30", "cm²"), "30 cm²", "30 cm²"),
        (with_marks("tub {80 × 40 × 20 cm}, holed"), "tub 80 × 40 × 20 cm, holed", "tub 31.5 × 15.7 × 7.9 in, holed"),
    ],
)
def test_amounts_in_a_sentence_are_said_in_the_keepers_units(sentence: str, metric: str, us: str) -> None:
    assert METRIC.say(sentence) == plain(sentence) == metric
    assert US.say(sentence) == us


@pytest.mark.parametrize("name", ["Ledge 30 cm", "Rex's 5 l dish", "25 °C lamp", "at 12 cm", "3 K"])
def test_what_a_keeper_calls_a_thing_is_never_converted(name: str) -> None:
    """Neither in quotation marks nor without, whatever it looks like."""
    assert (
        US.say(f"{name} stands at {celsius(30)}, '{name}' beside it") == f"{name} stands at 86 °F, '{name}' beside it"
    )


def test_what_stands_around_an_amount_is_found() -> None:
    assert around_amount(with_marks("glass tank {60 × 45 × 45 cm}, mesh lid")) == ("glass tank ", ", mesh lid")
    assert around_amount("plain") == ("plain", "")


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
