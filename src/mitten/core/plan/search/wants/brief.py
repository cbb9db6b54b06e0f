"""What the keeper asks for, and which kinds of source may answer it."""

from dataclasses import dataclass
from typing import Literal

from mitten.core.catalogue import Catalogue, SourceKind
from mitten.core.design import Approach, Design

ApproachName = Literal["sunlit", "lightless", "ground", "one-lamp"]
APPROACHES: tuple[ApproachName, ...] = ("sunlit", "lightless", "ground", "one-lamp")


@dataclass(frozen=True)
class Owned:
    """Gear on the keeper's shelf: a kind of source or UV lamp of the catalogue, its watts, what the fixture that it is
    in may hold, and the hours that it has burned, where they are known.
    """

    kind: str
    watts: float
    fixture_w: float | None = None
    hours: float | None = None

    @property
    def fits_its_fixture(self) -> bool:
        """Whether its own fixture may hold it."""
        return self.fixture_w is None or self.watts <= self.fixture_w


@dataclass(frozen=True)
class Brief:
    """The animal, box, room and furniture of a design, its parts as the catalogue has them and its own gear left aside,
    and the keeper's wishes.

    ``only_owned`` allows nothing but ``owned`` gear and ``purchases`` more sources; ``avoid`` are kinds that are not
    wanted; ``budget`` is the most that may be spent, in the currency of the prices.
    """

    design: Design
    catalogue: Catalogue
    approach: Approach = "any"
    owned: tuple[Owned, ...] = ()
    only_owned: bool = False
    purchases: int = 0
    avoid: frozenset[str] = frozenset()
    budget: float | None = None

    def allows(self, name: str) -> bool:
        """Whether a kind of source may be in a plan at all; what harms is in none."""
        kind = self.catalogue.sources[name]
        return name not in self.avoid and not kind.coloured and kind.family != "rock" and self._in_the_approach(kind)

    def _in_the_approach(self, kind: SourceKind) -> bool:
        """Whether the kind can be the main source of the approach that is wanted."""
        return self.approach == "any" or approach_of(kind) == self.approach or self.approach == "one-lamp" == _one(kind)

    def owns(self, kind: str, watts: float) -> int:
        """How many of a kind and wattage are on the shelf, in fixtures that may hold them."""
        return sum(one.kind == kind and one.watts == watts and one.fits_its_fixture for one in self.owned)


def approach_of(kind: SourceKind) -> ApproachName:
    """The school that a main source of this kind belongs to, when other sources help it."""
    if kind.family == "contact":
        return "ground"
    return "sunlit" if kind.light else "lightless"


def _one(kind: SourceKind) -> str:
    return "one-lamp" if kind.light else ""


def work_of(name: str, catalogue: Catalogue) -> str:
    """What a kind of source does: filament lamps do the same work, whatever is printed on them."""
    kind = catalogue.sources[name]
    return "filament" if kind.light and kind.dims else name
