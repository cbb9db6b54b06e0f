"""Parts of a design by what they are and their name, and where they lie in the design's data."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

from mitten.core.design import Design
from mitten.core.design.editing import Data
from mitten.web.edits.fields import at_path, index_of

Collection = Literal["heaters", "controls", "uvb", "lights", "sites", "vents"]
COLLECTIONS: tuple[Collection, ...] = ("heaters", "controls", "uvb", "lights", "sites", "vents")
VENT = "Vent "


@dataclass(frozen=True)
class PartRef:
    """One part: its collection and its name; vents, which have no names, are numbered from 1."""

    collection: Collection
    name: str

    def __str__(self) -> str:
        return f"{self.collection}:{self.name}"


def parts_of(design: Design) -> Iterator[PartRef]:
    """Every part of a design: what heats, what regulates, what shines, where the animal can be, what air goes by."""
    for collection in COLLECTIONS[:-1]:
        for part in getattr(design, collection):
            yield PartRef(collection, part.name)
    for index in range(len(design.enclosure.vents)):
        yield PartRef("vents", f"{VENT}{index + 1}")


def find_part(design: Design, words: str) -> PartRef | None:
    """The part that ``collection:name``, or a name alone, stands for; None where there is none."""
    return next((ref for ref in parts_of(design) if words in (str(ref), ref.name)), None)


def path_of(data: Data, ref: PartRef) -> str:
    """Where a part lies in a design's data.

    Raises:
        KeyError: it is not there.
    """
    if ref.collection == "vents":
        number = ref.name.removeprefix(VENT)
        if not number.isdecimal() or not 0 < int(number) <= len(data["enclosure"].get("vents", [])):
            raise KeyError(ref.name)
        return f"enclosure.vents[{int(number) - 1}]"
    return f"{ref.collection}[{index_of(data.get(ref.collection, []), ref.name)}]"


def part_data(data: Data, ref: PartRef) -> Data:
    """A part's own data, to be changed in place.

    Raises:
        KeyError: it is not there.
    """
    found: Data = at_path(data, path_of(data, ref))
    return found


def noun_of(design: Design, ref: PartRef) -> Any:
    """The part itself.

    Raises:
        KeyError: it is not there.
    """
    if ref.collection == "vents":
        number = ref.name.removeprefix(VENT)
        if number.isdecimal() and 0 < int(number) <= len(design.enclosure.vents):
            return design.enclosure.vents[int(number) - 1]
        raise KeyError(ref.name)
    for part in getattr(design, ref.collection):
        if part.name == ref.name:
            return part
    raise KeyError(ref.name)
