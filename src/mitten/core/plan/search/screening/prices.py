"""Prices of gear. They are placeholders that the keeper replaces: no shop is behind them."""

import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

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


def price_of(key: str, watts: float) -> float:
    """The placeholder price of a kind of gear at so many watts."""
    price = placeholder_prices()[key]
    return price.each + price.per_watt * watts
