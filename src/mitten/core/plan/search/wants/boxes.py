"""Small changes of the box that a keeper makes before buying stronger gear: a board on the mesh, insulation, vents."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from mitten.core.catalogue import Catalogue, read_data, targets_of
from mitten.core.design import BadDesignError, Design
from mitten.core.design.amounts import centimetres
from mitten.core.design.editing import Data, data_of
from mitten.core.plan.changing.making import INSULATION_MM, cover_mesh, scale_vents

SHALLOW_MM = 15.0
LOW_BOX_M = 0.34
LETS_THROUGH_W_MK = 0.25
"""Ground of a conductivity under this keeps the warmth of a mat below it."""

HALF, QUARTER = 0.5, 0.25
MOST_OF_A_MESH = 0.7
OPEN_AT_LEAST_M = 0.22
"""Of a mesh so much is closed at most, and so long a piece stays open for lamps."""

WANTS_DAMP = 0.5
"""An animal that wants at least this humidity wants damp ground, and less of a draught."""

COLD_K = 3.0
"""A room so much colder than the warm side is to be calls for a box that holds its warmth."""


@dataclass(frozen=True)
class BoxChange:
    """A change as an instruction, and the design with it."""

    words: str
    design: Design


def changes_of_box(design: Design, catalogue: Catalogue) -> Mapping[str, BoxChange]:
    """Changes that may help a design, by name: in a cold room what keeps warmth in, in a warm one what lets it out."""
    changes = (_warmer if is_cold(design, catalogue) else _cooler)(design, catalogue)
    return dict(_read_all(changes, catalogue))


def is_cold(design: Design, catalogue: Catalogue) -> bool:
    """Whether the room of a winter day is far colder than the warm side is to be."""
    species = catalogue.species[design.animal.species]
    return design.room.winter.day_c < targets_of(design.animal, species).warm_air_c[0] - COLD_K


def wants_damp(design: Design, catalogue: Catalogue) -> bool:
    """Whether the animal wants humid air."""
    return targets_of(design.animal, catalogue.species[design.animal.species]).humidity[0] >= WANTS_DAMP


def _is_hot(design: Design, catalogue: Catalogue) -> bool:
    """Whether the room alone is warmer on a summer day than the cool side is to be: nothing may hold its warmth."""
    targets = targets_of(design.animal, catalogue.species[design.animal.species])
    return design.room.summer.day_c > targets.cool_air_c[1]


def _warmer(design: Design, catalogue: Catalogue) -> Iterator[tuple[str, str, Data]]:
    """The least change first, then all together."""
    if _wants_a_mat(design, catalogue):
        yield _over_a_mat(design, catalogue)
    mesh = design.enclosure.lid_mesh
    if mesh is not None and mesh.length_m is None:
        yield "cover", COVER, _cover_lid(design, HALF)
        closed = max(min(MOST_OF_A_MESH, 1 - OPEN_AT_LEAST_M / design.enclosure.length_m), HALF)
        words = f"lay a board over {closed:.0%} of the mesh, at the cool end, and {INSULATE}"
        yield "cover and insulate", words, _insulate(_cover_lid(design, closed))
        return
    yield "insulate", INSULATE, _insulate(data_of(design))
    if design.enclosure.vents:
        # Less of a draught still for an animal that wants humid air, which a heated box in a cold room dries.
        words, share = ("three quarters", QUARTER) if wants_damp(design, catalogue) else ("half", HALF)
        still = _insulate(_with_vents(design, share))
        yield "insulate and close", f"{INSULATE}, and close {words} of the vents", still


COVER = "lay a board over half of the mesh, at the cool end"
INSULATE = f"put {centimetres(INSULATION_MM / 10)} of insulation on the outside of back, ends and floor"


def _cover_lid(design: Design, share: float) -> Data:
    data = data_of(design)
    cover_mesh(data, share)
    return data


def _insulate(data: Data) -> Data:
    """Where there is none yet; the front stays free to look in."""
    for face in ("back", "left", "right", "floor"):
        panel = data["enclosure"]["panels"][face]
        panel["insulation_mm"] = panel["insulation_mm"] or INSULATION_MM
    return data


def _wants_a_mat(design: Design, catalogue: Catalogue) -> bool:
    """Whether a box is too low for lamps, so that warmth comes from below, and its ground keeps it there."""
    ground, box = catalogue.grounds[design.substrate.material], design.enclosure
    insulates = (
        ground.conductivity_w_mk(design.substrate.moisture) < LETS_THROUGH_W_MK
        or design.substrate.depth_mm > SHALLOW_MM
    )
    return box.height_m - design.substrate.depth_m < LOW_BOX_M and insulates


def _over_a_mat(design: Design, catalogue: Catalogue) -> tuple[str, str, Data]:
    """Ground that lets the warmth of a mat through: tiles, or a little sandy soil for what digs."""
    digs = catalogue.species[design.animal.species].burrows
    data, key = data_of(design), "soil-sand" if digs else "tile"
    data["substrate"] |= {"material": key, "depth_mm": SHALLOW_MM, "layers": []}
    label = catalogue.grounds[key].label
    return "thin", f"lay only {centimetres(SHALLOW_MM / 10)} of {label} on the floor", data


def _cooler(design: Design, catalogue: Catalogue) -> Iterator[tuple[str, str, Data]]:
    """What lets warmth out, and for an animal that wants humid air what holds the water too."""
    if _wants_a_mat(design, catalogue):
        yield _over_a_mat(design, catalogue)
    mesh = design.enclosure.lid_mesh
    holds_water = wants_damp(design, catalogue) and not _is_hot(design, catalogue)
    if holds_water and mesh is not None and mesh.length_m is None:
        yield "cover", COVER, _cover_lid(design, HALF)
    elif holds_water and design.enclosure.vents:
        yield "close", "close half of the vents", _with_vents(design, HALF)
    if design.enclosure.vents:
        yield "open", "open the vents to twice their size", _with_vents(design, 1 / HALF)


def _with_vents(design: Design, times: float) -> Data:
    data = data_of(design)
    scale_vents(data, times)
    return data


def _read_all(changes: Iterable[tuple[str, str, Data]], catalogue: Catalogue) -> Iterator[tuple[str, BoxChange]]:
    """Those that can be."""
    for name, words, data in changes:
        try:
            yield name, BoxChange(words, read_data(data, catalogue))
        except BadDesignError:
            continue
