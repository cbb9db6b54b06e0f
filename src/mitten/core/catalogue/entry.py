"""The common base of catalogue entries."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field


class Entry(BaseModel):
    """A frozen entry of a TOML table; ``label`` is what the keeper reads."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    label: str


Share = Annotated[float, Field(ge=0.0, le=1.0)]
Positive = Annotated[float, Field(gt=0.0)]
