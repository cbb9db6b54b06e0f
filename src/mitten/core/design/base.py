"""The common base of the nouns, and the number ranges they share."""

from typing import Annotated, Any

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field


class Noun(BaseModel):
    """A frozen value that refuses keys it does not know and numbers that are not numbers.

    Numbers are strict: text in the place of a number is a mistake to report, not to guess at.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, strict=True)


LENGTH_LIMIT_M = 4.0
DEPTH_LIMIT_M = 2.5
HEIGHT_LIMIT_M = 2.5
LAMP_ABOVE_LID_LIMIT_M = 0.6
LEAST_LAMP_HEIGHT_M = 0.03
SMALLEST_BOX_M = 0.15


def _printable(name: Any) -> Any:
    """A name without characters that cannot be shown, which would spoil a drawing or an address."""
    return "".join(sign for sign in name if sign.isprintable()) if isinstance(name, str) else name


Name = Annotated[str, BeforeValidator(_printable), Field(min_length=1, max_length=80)]
CatalogueKey = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$")]
Fraction = Annotated[float, Field(ge=0.0, le=1.0)]
ThicknessMm = Annotated[float, Field(ge=0.5, le=100.0)]
RoomC = Annotated[float, Field(ge=-10.0, le=50.0)]
PositionM = Annotated[float, Field(ge=0.0, le=LENGTH_LIMIT_M)]
"""A coordinate; that it lies inside the box is checked where the box is known."""
