"""What was said and reckoned is held: it is compared with what was kept, value by value.

When it is meant to change: `python -m tools.golden`, and say in the commit by how much and why.
"""

import json
import os
from collections.abc import Iterator, Mapping
from dataclasses import fields, is_dataclass
from datetime import date
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import BaseModel

from tests.draw.marks import NUMBER

FOLDER = Path(__file__).parent / "held"
WRITES = "MITTEN_HOLD"
"""With this in the environment, what is found is kept."""

DIGITS = 5
WITHIN, WITHIN_SHARE = 0.02, 0.004
"""Another machine may find a thermostat's rest elsewhere within its reach."""


def plain(value: Any) -> Any:
    """A value as JSON: objects by their fields, the gear of the catalogue by its label, numbers to five digits."""
    if isinstance(value, bool | str | None):
        return value
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, int | float | np.number):
        return float(f"{float(value):.{DIGITS}g}") if np.isfinite(value) else str(value)
    if isinstance(value, BaseModel):
        return getattr(value, "label", None) or plain(value.model_dump(exclude_defaults=True))
    if is_dataclass(value):
        return {field.name: plain(getattr(value, field.name)) for field in fields(value) if field.repr}
    if isinstance(value, Mapping):
        return {str(key): plain(one) for key, one in value.items()}
    if isinstance(value, np.ndarray):
        return plain(value.tolist())
    if isinstance(value, frozenset | set):
        return sorted(plain(one) for one in value)
    return [plain(one) for one in value]


def changed(name: str, value: Any) -> list[str]:
    """Where a value differs from what was kept under a name."""
    found, document = plain(value), FOLDER / f"{name}.json"
    if os.environ.get(WRITES):
        document.write_text(json.dumps(found, ensure_ascii=False, indent=0) + "\n", encoding="utf-8")
    return list(_differences(found, json.loads(document.read_text(encoding="utf-8")), name))


def _differences(now: Any, kept: Any, where: str) -> Iterator[str]:
    if isinstance(now, dict) and isinstance(kept, dict) and now.keys() == kept.keys():
        for key, value in now.items():
            yield from _differences(value, kept[key], f"{where} / {key}")
    elif isinstance(now, list) and isinstance(kept, list) and len(now) == len(kept):
        for number, (one, other) in enumerate(zip(now, kept, strict=True)):
            yield from _differences(one, other, f"{where} / {number}")
    elif not _is_same(now, kept):
        yield f"{where}: {now}, not {kept}"


def _is_same(now: Any, kept: Any) -> bool:
    if isinstance(now, float) and isinstance(kept, float):
        return abs(now - kept) <= max(WITHIN, WITHIN_SHARE * abs(kept))
    if not (isinstance(now, str) and isinstance(kept, str)):
        return bool(now == kept)
    # The same words, but for the last digit of a number.
    numbers = zip(NUMBER.findall(now), NUMBER.findall(kept), strict=False)
    return NUMBER.sub("#", now) == NUMBER.sub("#", kept) and all(
        abs(float(one) - float(other)) <= 1.1 * 10.0 ** -len(other.partition(".")[2]) for one, other in numbers
    )
