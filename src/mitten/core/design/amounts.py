"""Amounts within sentences: written in °C, cm and so on, and marked as what they are, so that whoever shows the
sentence shows them in the keeper's units. Nothing else in a sentence is ever converted, whatever it looks like.
"""

import re
from collections.abc import Callable

FIRST, LAST = "\u2063", "\u2064"
"""Marks around an amount, which no screen shows and no keeper types."""

_BRACES = re.compile(r"\{([^{}]+)\}")


def mark_amount(text: str) -> str:
    """An amount with its unit, as part of a sentence."""
    return f"{FIRST}{text}{LAST}"


def with_marks(text: str) -> str:
    """A text of a table, whose amounts stand in braces: ``glass tank {60 × 45 × 45 cm}``."""
    return _BRACES.sub(lambda found: mark_amount(found[1]), text)


def around_amount(text: str) -> tuple[str, str]:
    """What stands before and after the one amount of a text."""
    before, _, rest = text.partition(FIRST)
    return before, rest.partition(LAST)[2]


def plain(text: str) -> str:
    """A sentence as it is printed in °C and cm, without marks."""
    return text.replace(FIRST, "").replace(LAST, "")


def capital(words: str) -> str:
    """Words as they begin a sentence."""
    return words[:1].upper() + words[1:]


Numbers = float | tuple[float, ...]


def _of(unit: str) -> Callable[..., str]:
    def amount(numbers: Numbers, decimals: int | None = None, joined: str = "to") -> str:
        many = numbers if isinstance(numbers, tuple) else (numbers,)
        return mark_amount(f" {joined} ".join(_written(one, decimals) for one in many) + f" {unit}")

    amount.__doc__ = f"One or more numbers of {unit}, a word between them; without needless decimals, or with so many."
    return amount


def _written(number: float, decimals: int | None) -> str:
    return f"{number:g}" if decimals is None else f"{number:.{decimals}f}"


celsius = _of("°C")
kelvin = _of("K")
centimetres = _of("cm")
millimetres = _of("mm")
millilitres = _of("ml")
litres = _of("l")
litres_a_second = _of("l/s")


MARKED = frozenset({"°C", "K", "cm", "mm", "ml", "l", "l/s", "g"})


def amount(numbers: str, unit: str) -> str:
    """Numbers that are written already, with their unit; marked where another system of units writes them otherwise."""
    written = f"{numbers} {unit}".rstrip()
    return mark_amount(written) if unit in MARKED else written


def length(metres: Numbers, joined: str = "to") -> str:
    """One or more lengths in metres, written in whole centimetres, a word between them."""
    many = metres if isinstance(metres, tuple) else (metres,)
    return centimetres(tuple(one * 100 for one in many), 0, joined)


def exact_length(metres: float) -> str:
    """A length in metres, written in centimetres to the millimetre: what does not fit may lack no more."""
    return centimetres(round(metres * 100, 1))
