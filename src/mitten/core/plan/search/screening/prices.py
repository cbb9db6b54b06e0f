"""Prices of gear. They are placeholders that the keeper replaces: no shop is behind them."""

import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from mitten.core.catalogue import Catalogue, Entry, shipped_catalogue

Amount = Annotated[float, Field(ge=0.0, le=10_000.0)]


class Price(BaseModel):
    """A placeholder price of a kind of gear, in the keeper's currency, and the hours it usually lasts."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    each: Amount
    per_watt: Amount = 0.0
    life_h: Annotated[float, Field(gt=0.0)] | None = None
    life_years: Annotated[float, Field(gt=0.0)] | None = None


@cache
def placeholder_prices() -> dict[str, Price]:
    """The prices that ship with Mitten, by key of the catalogue."""
    text = files("mitten.core.catalogue").joinpath("data", "prices.toml").read_text(encoding="utf-8")
    return TypeAdapter(dict[str, Price]).validate_python(tomllib.loads(text))


def placeholder_of(key: str, catalogue: Catalogue) -> Price:
    """The placeholder of a kind of gear; of a keeper's own kind, that of the shipped one that is most like it."""
    known = placeholder_prices()
    return known[key] if key in known else known[_most_like(key, catalogue)]


def _most_like(key: str, catalogue: Catalogue) -> str:
    """The shipped kind of the same table that does the same work."""
    own, shipped = catalogue, shipped_catalogue()
    for table, alike in LIKE.items():
        entry = getattr(own, table).get(key)
        if entry is None:
            continue
        kinds: dict[str, Entry] = {
            name: one for name, one in getattr(shipped, table).items() if name in placeholder_prices()
        }
        return max(kinds, key=lambda name: [getattr(kinds[name], word) == getattr(entry, word) for word in alike])
    raise KeyError(key)


LIKE = {
    "sources": ("family", "light", "arc_share"),
    "uvb": ("tube",),
    "fixtures": ("has_guard",),
    "controls": ("kind",),
}
"""By what kinds of a table are alike, what matters most first."""


def price_of(key: str, watts: float, catalogue: Catalogue) -> float:
    """The placeholder price of a kind of gear at so many watts."""
    price = placeholder_of(key, catalogue)
    return price.each + price.per_watt * watts
