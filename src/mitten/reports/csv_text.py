"""The one writer of CSV: RFC 4180, and no name is a formula where a spreadsheet opens it."""

import csv
from collections.abc import Iterable
from io import StringIO

FORMULA_SIGNS = ("=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠")  # full-width signs begin one too
"""What a spreadsheet takes for the beginning of a formula."""


def csv_of(rows: Iterable[Iterable[str | float]]) -> str:
    """Rows as text; what would be taken for a formula is shown with an apostrophe before it."""
    out = StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerows([_safe(cell) for cell in row] for row in rows)
    return out.getvalue()


def _safe(cell: str | float) -> str | float:
    if not isinstance(cell, str) or not cell.lstrip(" ").startswith(FORMULA_SIGNS) or _is_number(cell):
        return cell
    return f"'{cell}"


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return text.isascii() and text == text.strip()
