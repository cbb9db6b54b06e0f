"""Common boxes, tubs and tanks, and boards to build of; all of them are only a beginning and can be edited."""

import json
import tomllib
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict

from mitten.core.design import Enclosure, Panel
from mitten.core.design.amounts import with_marks

Label = Annotated[str, AfterValidator(with_marks)]
"""Its sizes stand in braces."""


class BoxPreset(BaseModel):
    """A whole box."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    label: Label
    enclosure: Enclosure


class BoardPreset(BaseModel):
    """A board for every face."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    label: Label
    panel: Panel


class Presets(BaseModel):
    """Boxes and boards by key."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    boxes: Mapping[str, BoxPreset]
    boards: Mapping[str, BoardPreset]


@cache
def load_presets() -> Presets:
    """The presets that ship with Mitten."""
    text = files("mitten.core.catalogue").joinpath("data", "presets.toml").read_text(encoding="utf-8")
    # By way of JSON, because the nouns take a list for a tuple only there.
    return Presets.model_validate_json(json.dumps(tomllib.loads(text)))
