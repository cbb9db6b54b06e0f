"""docs/glossary.md: the terms of the pages and of the code, each once."""

import re
from pathlib import Path

from tools.glossary_doc import CODE, DOCUMENT, document

from mitten.web.views.glossary import CHAPTERS

SOURCES = "\n".join(path.read_text(encoding="utf-8") for path in (Path(__file__).parents[1] / "src").rglob("*.py"))


def test_the_glossary_is_the_codes() -> None:
    assert DOCUMENT.read_text(encoding="utf-8") == document(), "run: make glossary-doc"


def test_each_term_is_there_once() -> None:
    names = [term.name.lower() for chapter in CHAPTERS for term in chapter.terms]
    assert len(names) == len(set(names))


def test_the_code_uses_every_noun_that_it_explains() -> None:
    unused = [noun for noun in CODE if not re.search(rf"\b{noun.replace(' ', '[ _]')}", SOURCES, re.IGNORECASE)]
    assert unused == []
