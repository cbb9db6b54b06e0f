"""The text on the design file names every key that a file may have."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest

from mitten.core import design
from mitten.core.design.base import Noun

WORDS = (Path(__file__).parents[1] / "docs" / "design-file.md").read_text(encoding="utf-8")


def nouns(above: type[Noun] = Noun) -> Iterator[type[Noun]]:
    """What a design is made of."""
    for noun in above.__subclasses__():
        if noun.__module__.startswith(design.__name__):
            yield noun
            yield from nouns(noun)


@pytest.mark.parametrize("noun", list(nouns()), ids=lambda noun: noun.__name__)
def test_every_key_is_named(noun: type[Noun]) -> None:
    assert [key for key in noun.model_fields if not re.search(rf"\b{key}\b", WORDS)] == []
