"""The keeper's shelf of gear, kept with the settings."""

import re
from collections.abc import Sequence
from dataclasses import asdict, astuple

from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError

from mitten.core.catalogue import Catalogue
from mitten.core.design import MittenError
from mitten.core.plan.search import Owned
from mitten.store import Settings

NAME = "owned-gear"
MOST_OWNED = 60
MOST_WATTS, MOST_HOURS = 1000.0, 100_000.0
FULL = f"{MOST_OWNED} pieces are as many as can be kept here: remove one first."
LISTED = 4
EXAMPLE = "75 W halogen flood"
A_NUMBER = r"(?<![\w.,])(\d+(?:[.,]\d+)?)"
SOME_WATTS, SOME_NUMBER = re.compile(rf"{A_NUMBER}\s*(?:w|watts?)\b", re.IGNORECASE), re.compile(rf"{A_NUMBER}\b")
"""Where it says nothing of watts, a number that is no part of a name such as T5 is taken for them."""


class NotOwnedError(MittenError):
    """What was typed is no gear; the sentence says why."""


class _Gear(BaseModel):
    model_config = ConfigDict(extra="forbid")

    kind: str
    watts: float
    fixture_w: float | None = None
    hours: float | None = None


_MANY = TypeAdapter(list[_Gear])


def owned_gear(settings: Settings, catalogue: Catalogue) -> tuple[Owned, ...]:
    """What the keeper owns, of kinds that the library still has."""
    try:
        gear = _MANY.validate_json(settings.get(NAME, "[]"))
    except ValidationError:
        return ()
    return tuple(Owned(**one.model_dump()) for one in gear if known_kind(one.kind, catalogue))


def read_owned(catalogue: Catalogue, gear: str, fixture: str = "", hours: str = "") -> Owned:
    """A piece of gear as it was typed, ``75 W halogen flood`` or ``halogen-flood:75``, with its fixture's rating and
    the hours it has burned; what is left empty is not known.

    Raises:
        NotOwnedError: with a sentence that says what is not understood.
    """
    kind, watts = _kind_and_watts(gear.strip(), catalogue)
    return Owned(kind, watts, _figure(fixture, MOST_WATTS), _figure(hours, MOST_HOURS))


def _kind_and_watts(typed: str, catalogue: Catalogue) -> tuple[str, float]:
    key, _, text = typed.partition(":")
    if known_kind(key, catalogue) and (amount := _amount(text, MOST_WATTS)) is not None:
        return key, amount
    number = SOME_WATTS.search(typed) or SOME_NUMBER.search(typed)
    watts = _amount(number.group(1), MOST_WATTS) if number else None
    if number is None or watts is None:
        raise NotOwnedError(f"Say how many watts it has, such as '{EXAMPLE}'.")
    words = _words_of(typed[: number.start()] + typed[number.end() :])
    return _kind_called(words, typed, catalogue), watts


def _kind_called(words: Sequence[str], typed: str, catalogue: Catalogue) -> str:
    """The one kind whose name has all the words, or is just that."""
    fitting = _kinds_with(words, catalogue) if words else {}
    exact = [key for key, label in fitting.items() if _words_of(label) == words]
    chosen = exact or list(fitting)
    if len(chosen) == 1:
        return chosen[0]
    if not fitting:
        raise NotOwnedError(f"The library has nothing that is called '{typed}'. Write it as '{EXAMPLE}'.")
    more = ", ..." if len(fitting) > LISTED else ""
    raise NotOwnedError(f"'{typed}' may be {len(fitting)} things: {', '.join(list(fitting.values())[:LISTED])}{more}.")


def _words_of(text: str) -> list[str]:
    """Words in lower case, without the commas between them."""
    return text.lower().replace(",", " ").split()


def _kinds_with(words: Sequence[str], catalogue: Catalogue) -> dict[str, str]:
    """Keys and names of the kinds whose name has all the words."""
    labels = {key: kind.label.lower() for table in (catalogue.sources, catalogue.uvb) for key, kind in table.items()}
    return {key: label for key, label in labels.items() if all(word in label for word in words)}


def _figure(typed: str, most: float) -> float | None:
    """A figure that may be left empty."""
    amount = _amount(typed, most)
    if typed.strip() and amount is None:
        raise NotOwnedError(
            f"'{typed}' is no number above nothing: give watts and hours as numbers, or leave them empty."
        )
    return amount


def _amount(text: str, most: float) -> float | None:
    """A number above nothing and not above the most; None for anything else."""
    try:
        amount = float(text.strip().replace(",", "."))
    except ValueError:
        return None
    return amount if 0.0 < amount <= most else None


def known_kind(kind: str, catalogue: Catalogue) -> bool:
    """Whether the library has a source or UV lamp of that key."""
    return kind in catalogue.sources or kind in catalogue.uvb


def add_gear(settings: Settings, gear: Owned, catalogue: Catalogue) -> None:
    """One more piece on the shelf.

    Raises:
        NotOwnedError: there are as many as can be kept; nothing was stored.
    """
    owned = owned_gear(settings, catalogue)
    if len(owned) >= MOST_OWNED:
        raise NotOwnedError(FULL)
    _keep(settings, (*owned, gear))


def gear_key(gear: Owned) -> str:
    """What tells a piece from others; two that are alike are alike in everything."""
    return ":".join(str(figure) for figure in astuple(gear))


def remove_gear(settings: Settings, key: str, catalogue: Catalogue) -> None:
    """One piece of that key less; without one, nothing changes."""
    gear = list(owned_gear(settings, catalogue))
    found = next((one for one in gear if gear_key(one) == key), None)
    if found is not None:
        gear.remove(found)
        _keep(settings, tuple(gear))


def _keep(settings: Settings, gear: tuple[Owned, ...]) -> None:
    content = [_Gear(**asdict(one)) for one in gear]
    settings.put(NAME, _MANY.dump_json(content).decode())
