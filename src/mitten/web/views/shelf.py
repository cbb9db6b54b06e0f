"""The Shelf page."""

from collections.abc import Sequence
from dataclasses import dataclass

from mitten.core.catalogue import Catalogue
from mitten.core.design.units import LENGTH, Units
from mitten.core.plan import OutletLoad, outlet_loads
from mitten.core.plan.mains import HEATED_CONDITIONS, Heat, connected_by_all_w, heat_of_all, most_connected_w
from mitten.store import Shelved
from mitten.web.edits.fields import Option
from mitten.web.edits.sheet_specs import GROUP_WORDS
from mitten.web.views.card import Card

OUTLETS = tuple(f"Outlet {number}" for number in range(1, 9))
USUAL_VOLTS, USUAL_RATED_A = "230", "13"
VOLTS = ("230", "120", "100")
RATED_A = ("10", "13", "15", "16", "20")


@dataclass(frozen=True)
class ShelfEntry:
    """One enclosure; its card is not there yet where it has still to be worked out."""

    id: int
    name: str
    animal: str
    size: str
    outlet: str
    card: Card | None


@dataclass(frozen=True)
class ShelfView:
    """Every enclosure, those taken off, and what hangs on the mains."""

    entries: Sequence[ShelfEntry]
    removed: Sequence[Shelved]
    species: Sequence[tuple[str, Sequence[Option]]]
    day_w: float
    night_w: float
    loads: Sequence[OutletLoad]
    volts: str
    rated_a: str
    outlets: Sequence[str] = OUTLETS
    volts_sold: Sequence[str] = VOLTS
    rated_sold: Sequence[str] = RATED_A


def shelf_view(
    shelved: Sequence[tuple[Shelved, Card | None]], removed: Sequence[Shelved], units: Units,
    mains: tuple[str, str], catalogue: Catalogue,
) -> ShelfView:  # fmt: skip
    """The page of a shelf; ``mains`` are volts and what a circuit is rated for in amperes."""
    designs = [item.design for item, _ in shelved]
    loads = [(item.outlet, most_connected_w(item.design)) for item, _ in shelved]
    return ShelfView(
        entries=[_entry(item, card, units, catalogue) for item, card in shelved],
        removed=removed,
        species=species_groups(catalogue),
        day_w=connected_by_all_w(designs, "day"),
        night_w=connected_by_all_w(designs, "night"),
        loads=outlet_loads(loads, float(mains[0]), float(mains[1])),
        volts=mains[0],
        rated_a=mains[1],
    )


def species_groups(catalogue: Catalogue) -> list[tuple[str, list[Option]]]:
    """The library's species as options, by group."""
    groups: dict[str, list[Option]] = {words: [] for words in GROUP_WORDS.values()}
    for key, species in sorted(catalogue.species.items(), key=lambda item: item[1].label):
        groups[GROUP_WORDS[species.group]].append(Option(key, species.label))
    return list(groups.items())


def _entry(item: Shelved, card: Card | None, units: Units, catalogue: Catalogue) -> ShelfEntry:
    design, box = item.design, item.design.enclosure
    size = " × ".join(units.show(LENGTH, side) for side in (box.length_m, box.depth_m, box.height_m))
    return ShelfEntry(
        id=item.id,
        name=design.name,
        animal=f"{catalogue.species[design.animal.species].label}, {design.animal.stage}",
        size=f"{size} {units.unit_of(LENGTH)}",
        outlet=item.outlet,
        card=card,
    )


@dataclass(frozen=True)
class RoomHeat:
    """Watts that enclosures together give the room by condition, and how many of all are counted by now."""

    watts: Sequence[tuple[str, float]]
    counted: int
    of: int

    @property
    def is_whole(self) -> bool:
        """Whether every enclosure is counted."""
        return self.counted == self.of


def heat_into_the_room(heats: Sequence[Heat], of: int) -> RoomHeat:
    """What all those enclosures give together."""
    words = [name.replace("-", " ") for name in HEATED_CONDITIONS]
    return RoomHeat(list(zip(words, heat_of_all(heats), strict=True)), len(heats), of)
