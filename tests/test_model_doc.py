"""docs/model.md says what the code does: its tables are the code's, its figures are reached, no module is left out; and
no document has marks that only pages can read.
"""

import re
from pathlib import Path

import pytest
from tools.model_doc import BLOCKS, DOCUMENT, block_of

import mitten.core.physics as physics
from mitten.core.design.amounts import plain
from tests.validation import Validation, validations

TEXT = DOCUMENT.read_text(encoding="utf-8")
TABLES = sorted(set(BLOCKS) - {"validations"})


@pytest.mark.parametrize("name", TABLES)
def test_every_table_is_the_codes(name: str) -> None:
    assert block_of(TEXT, name) == BLOCKS[name](), "run: make model-doc"


def figure_in_document(what: str) -> float:
    row = next(line for line in block_of(TEXT, "validations").splitlines() if line.startswith(f"| {what} |"))
    return float(row.split("|")[3].split()[0])


@pytest.mark.slow
@pytest.mark.parametrize("validation", list(validations()), ids=lambda validation: validation.what)
def test_every_validation_is_reached_and_printed(validation: Validation) -> None:
    figure = validation.figure()
    assert validation.low <= figure <= validation.high
    assert figure_in_document(validation.what) == pytest.approx(figure, abs=validation.slack + 10**-validation.decimals)


def test_every_module_of_the_physics_is_described() -> None:
    folder = Path(next(iter(physics.__path__)))
    modules = {path.stem for path in folder.rglob("*.py")} - {"__init__", "constants", "arrays"}
    described = set(re.findall(r"`([a-z_]+)`", TEXT))
    assert modules <= described


@pytest.mark.parametrize("path", sorted(DOCUMENT.parent.glob("*.md")), ids=lambda path: path.name)
def test_a_document_has_no_marks_of_amounts_in_it(path: Path) -> None:
    """They are invisible, and for pages that show amounts in the keeper's units."""
    text = path.read_text(encoding="utf-8")
    assert plain(text) == text
