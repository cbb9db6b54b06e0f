"""The keeper's units: what is typed freely into a design's own numbers, and those into what is shown.

Designs hold metres, millimetres where the key says so, degrees Celsius and fractions. A keeper reads and types °C and
cm, or °F and inches, and may always add another unit: ``4 ft``, ``48in``, ``88F``, ``1,2 m``, ``3 1/2 in``.
"""

import re
import unicodedata
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Literal

from mitten.core.design.amounts import FIRST, LAST, plain
from mitten.core.design.faults import MittenError

if TYPE_CHECKING:
    from pint import UnitRegistry

System = Literal["metric", "us"]


class BadQuantityError(MittenError):
    """Something typed that is no such quantity; its text says so."""


@dataclass(frozen=True)
class Shown:
    """How a quantity is shown: stored number times ``factor`` plus ``offset``, its unit and most decimals."""

    unit: str
    factor: float = 1.0
    offset: float = 0.0
    decimals: int = 1


@dataclass(frozen=True)
class Quantity:
    """A kind of number: the unit it is stored in, as Pint writes it, and how each system shows it."""

    stored: str
    metric: Shown
    us: Shown

    def shown_in(self, system: System) -> Shown:
        """How a system shows it."""
        return self.metric if system == "metric" else self.us


def _same(stored: str, unit: str, factor: float = 1.0, decimals: int = 2) -> Quantity:
    """A quantity that both systems show alike."""
    shown = Shown(unit, factor, decimals=decimals)
    return Quantity(stored, shown, shown)


LENGTH = Quantity("metre", Shown("cm", 100.0), Shown("in", 1 / 0.0254))
THICKNESS = Quantity("millimetre", Shown("mm"), Shown("in", 1 / 25.4, decimals=2))
TEMPERATURE = Quantity("degC", Shown("°C"), Shown("°F", 1.8, 32.0))
TEMPERATURE_STEP = Quantity("delta_degC", Shown("K"), Shown("°F", 1.8))
AREA = Quantity("centimetre**2", Shown("cm²"), Shown("in²", 1 / 6.4516))
ALTITUDE = Quantity("metre", Shown("m", decimals=0), Shown("ft", 1 / 0.3048, decimals=0))
SHARE = _same("dimensionless", "%", 100.0, decimals=1)
WATTS = _same("watt", "W")
ANGLE = _same("degree", "°")
IRRADIANCE = _same("watt/metre**2", "W/m²", decimals=0)
MILLILITRES = Quantity("millilitre", Shown("ml"), Shown("fl oz", 1 / 29.5735296, decimals=1))
LITRES_A_SECOND = Quantity("litre/second", Shown("l/s", decimals=2), Shown("cfm", 2.11888))
LITRES = Quantity("litre", Shown("l"), Shown("qt", 1.056688))
MASS = Quantity("gram", Shown("g", decimals=2), Shown("oz", 1 / 28.349523, decimals=2))
HOURS = _same("hour", "h")
MINUTES = _same("minute", "min")
DEGREES_NORTH = _same("degree", "°")
PLAIN = _same("dimensionless", "", decimals=4)

NUMBER = r"[-+−]?(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:[.,]\d+)?|[.,]\d+)"
_PART = re.compile(rf"\s*({NUMBER})\s*([^\d\s.,+−-][^\d]*)?")
WORDS = {
    "'": "foot", "′": "foot", "feet": "foot", "ft": "foot", '"': "inch", "″": "inch", "in": "inch", "inches": "inch",
    "c": "degC", "°c": "degC", "f": "degF", "°f": "degF", "degrees": "degree", "°": "degree", "%": "percent",
    "m2": "metre**2", "cm2": "centimetre**2", "cm²": "centimetre**2", "in²": "inch**2", "in2": "inch**2",
    "mm²": "millimetre**2", "w/m²": "watt/metre**2", "w/m2": "watt/metre**2", "w": "watt", "kw": "kilowatt",
    "l/s": "litre/second", "ml": "millilitre", "fl oz": "fluid_ounce", "floz": "fluid_ounce", "cfm": "foot**3/minute",
    "oz": "ounce", "g": "gram", "qt": "quart", "l": "litre", "h": "hour", "min": "minute",
}  # fmt: skip
"""Units as keepers write them, in lower case, and as Pint does; any other word is given to Pint as it is."""

DIFFERENCES = {"degC": "delta_degC", "degF": "delta_degF", "k": "kelvin"}


@dataclass(frozen=True)
class Units:
    """One of the two systems of units."""

    system: System = "metric"

    def unit_of(self, quantity: Quantity) -> str:
        """The unit that a quantity is shown in."""
        return quantity.shown_in(self.system).unit

    def convert(self, quantity: Quantity, stored: float) -> float:
        """A stored number in the unit that it is shown in."""
        shown = quantity.shown_in(self.system)
        return stored * shown.factor + shown.offset

    def show(self, quantity: Quantity, stored: float) -> str:
        """A stored number as it is shown, without its unit and without needless decimals."""
        text = f"{self.convert(quantity, stored):.{quantity.shown_in(self.system).decimals}f}"
        return _trim(text)

    def say_with_unit(self, quantity: Quantity, stored: float) -> str:
        """A stored number as it is shown, with its unit."""
        unit = self.unit_of(quantity)
        return f"{self.show(quantity, stored)}{'' if unit in ('', '%', '°') else ' '}{unit}"

    def degrees(self, celsius: float, decimals: int = 1) -> str:
        """A temperature with a fixed number of decimals, without its unit; never a negative nothing.

        With decimals it is made from what is shown in °C, so that sentences and figures say the same.
        """
        shown = self.convert(TEMPERATURE, round(celsius, decimals) if decimals else celsius)
        return f"{round(shown, decimals) + 0.0:.{decimals}f}"

    def say_degrees(self, celsius: float, decimals: int = 1) -> str:
        """The same with its unit."""
        return f"{self.degrees(celsius, decimals)} {self.unit_of(TEMPERATURE)}"

    def read(self, quantity: Quantity, typed: str) -> float:
        """What was typed, as the number that is stored; without a unit it is in the one that is shown.

        Raises:
            BadQuantityError: with a sentence that says what it is not.
        """
        text = _plainly(typed)
        if not text:
            raise BadQuantityError("Enter a number.")
        parts = list(_PART.finditer(text))
        if not parts or "".join(part.group(0) for part in parts) != text:
            raise BadQuantityError(f"'{_short(text)}' is not a number.")
        if len(parts) == 1 and not parts[0].group(2):
            return self._of_shown(quantity, _number(parts[0].group(1)))
        if not all(part.group(2) for part in parts):
            raise BadQuantityError(f"'{_short(text)}' is not a number.")
        return _tidy(sum(self._with_unit(quantity, text, part.group(1), part.group(2)) for part in parts))

    def _of_shown(self, quantity: Quantity, number: float) -> float:
        shown = quantity.shown_in(self.system)
        return _tidy((number - shown.offset) / shown.factor)

    def _with_unit(self, quantity: Quantity, text: str, number: str, unit: str) -> float:
        word = unit.strip().rstrip(".")
        if word == self.unit_of(quantity) or (word in ("°", "deg") and quantity in (TEMPERATURE, TEMPERATURE_STEP)):
            return self._of_shown(quantity, _number(number))
        return _tidy(_convert(_number(number), word, quantity, text))

    def say(self, sentence: str) -> str:
        """A sentence with its amounts, and nothing but them, in the keeper's units; without their marks."""
        return plain(sentence if self.system == "metric" else _AMOUNT.sub(self._say_amount, sentence))

    def _say_amount(self, match: "re.Match[str]") -> str:
        quantity = _AMOUNT_QUANTITIES[match.group(2)]
        shown = quantity.shown_in(self.system)

        def again(number: "re.Match[str]") -> str:
            decimals = max(shown.decimals if quantity is not TEMPERATURE else 0, _decimals_of(number.group(0)))
            return _trim(f"{float(number.group(0)) * shown.factor + shown.offset:.{decimals}f}")

        return f"{_PLAIN_NUMBER.sub(again, match.group(1))} {shown.unit}"


METRIC, US = Units("metric"), Units("us")

_PLAIN_NUMBER = re.compile(r"(?<![\d.])-?\d+(?:\.\d+)?")
_AMOUNT = re.compile(f"{FIRST}([^{FIRST}{LAST}]*) (°C|K|cm|mm|ml|l/s|l|g){LAST}")
_AMOUNT_QUANTITIES = {
    "°C": TEMPERATURE, "K": TEMPERATURE_STEP, "cm": Quantity("centimetre", Shown("cm"), Shown("in", 1 / 2.54)),
    "mm": THICKNESS, "ml": MILLILITRES, "l/s": LITRES_A_SECOND, "l": LITRES, "g": MASS,
}  # fmt: skip
"""In sentences lengths are in cm already, where designs hold metres."""


def _decimals_of(number: str) -> int:
    return len(number.partition(".")[2])


def _trim(text: str) -> str:
    text = text.rstrip("0").rstrip(".") if "." in text else text
    return "0" if text == "-0" else text


def _tidy(number: float) -> float:
    """Without the last bits of a conversion, which no keeper means."""
    return round(number, 9)


def _short(text: str) -> str:
    return text if len(text) <= 30 else text[:29] + "…"


def _plainly(typed: str) -> str:
    """What was typed with plain digits, fractions and signs, however it was written.

    Raises:
        BadQuantityError: nobody types so much for a number.
    """
    text = typed.strip()
    if len(text) > MOST_TYPED:
        raise BadQuantityError(f"'{_short(text)}' is too long for a number.")
    return "".join(_plain(sign) for sign in text).replace("''", '"').strip()


def _plain(sign: str) -> str:
    """One sign as it is read: ``½`` as `` 1/2``, ``℃`` as ``°C``, wide digits as digits; squares stay."""
    if sign in _FRACTIONS or sign in _POWERS:
        return _FRACTIONS.get(sign, sign)
    return unicodedata.normalize("NFKC", sign)


MOST_TYPED = 60
"""Letters of a number with its unit, at most."""

_FRACTIONS = {sign: f" {top}/{bottom}" for sign, top, bottom in zip("½⅓⅔¼¾⅛⅜⅝⅞", "112131357", "233448888", strict=True)}
_POWERS = "²³"
MOST_OF_ANYTHING = 1e9
_UNIT_WORD = re.compile(r"[A-Za-zµμ°%'\"′″²³/ ]{1,24}\d?")


def _number(text: str) -> float:
    total = 0.0
    text = text.replace(",", ".").replace("−", "-")
    sign = -1.0 if text.startswith("-") else 1.0
    for piece in text.lstrip("+-").split():
        top, _, bottom = piece.partition("/")
        if bottom and float(bottom) == 0:
            raise BadQuantityError(f"'{text}' is not a number.")
        total += float(top) / (float(bottom) if bottom else 1.0)
    if total > MOST_OF_ANYTHING:
        raise BadQuantityError(f"'{_short(text)}' is far too large.")
    return sign * total


def _convert(number: float, word: str, quantity: Quantity, text: str) -> float:
    """A number in a unit that was typed, in the unit that is stored."""
    if not _UNIT_WORD.fullmatch(word):
        raise BadQuantityError(f"'{_short(text)}' is not a number with a unit that fits here.")
    # Pint takes a second to load: only what is typed with a unit needs it.
    from pint import PintError

    unit = WORDS.get(word.lower(), word)
    if quantity is TEMPERATURE_STEP:
        unit = DIFFERENCES.get(unit, unit)
    try:
        found = _registry().Quantity(number, unit).to(quantity.stored)
    except (PintError, ArithmeticError, AttributeError, ValueError, TypeError, SyntaxError):
        raise BadQuantityError(f"'{_short(text)}' is not a number with a unit that fits here.") from None
    return float(found.magnitude)


@cache
def _registry() -> "UnitRegistry[float]":
    from pint import UnitRegistry

    return UnitRegistry()
