"""The common base of catalogue entries."""

from collections.abc import Mapping
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

STARTING_POINT = "starting point to verify"


class Figures(BaseModel):
    """Frozen figures within an entry."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Entry(Figures):
    """A frozen entry of a TOML table; ``label`` is what the keeper reads.

    ``origin`` says where its figures come from, ``notes`` the keeper's own source by the path of a figure.
    """

    label: Annotated[str, Field(min_length=1, max_length=80)]
    origin: Annotated[str, Field(max_length=200)] = STARTING_POINT
    notes: Mapping[str, Annotated[str, Field(max_length=200)]] = Field(default_factory=dict)

    def __hash__(self) -> int:
        # By hand, because notes are a mapping; equal entries have the same, and entries of a table differ in it.
        return hash((type(self), self.label, self.origin))

    def origin_of(self, path: str) -> str:
        """Where one figure comes from."""
        return self.notes.get(path, self.origin)


Share = Annotated[float, Field(ge=0.0, le=1.0)]
Positive = Annotated[float, Field(gt=0.0)]
