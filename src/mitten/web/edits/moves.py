"""Moving parts of a stored design, by pointer, arrow keys or alignment."""

from typing import Any

from mitten.core.catalogue import Catalogue
from mitten.core.catalogue.moving import Coordinates, put_part
from mitten.core.design import Design
from mitten.core.design.editing import data_of
from mitten.core.design.units import METRIC
from mitten.web.edits.fields import EditError, read_edited
from mitten.web.edits.refs import PartRef, part_data, path_of


def move_part(design: Design, catalogue: Catalogue, ref: PartRef, to: Coordinates) -> Design:
    """The design with a part at a place, as near to it as it can be; axes left out stay.

    Raises:
        EditError: the part is not there, or does not fit there.
    """
    data = data_of(design)
    try:
        ref = _carrier(design, catalogue, ref)
        part, prefix = part_data(data, ref), path_of(data, ref)
    except KeyError:
        raise EditError("add", {"": f"There is no '{ref.name}' any more."}, {}) from None
    if ref.collection == "controls" and "probe" not in part:
        raise EditError(str(ref), {"": f"'{ref.name}' has no probe that could be moved."}, {})
    put_part(data, catalogue, ref.collection, part, to)
    return read_edited(str(ref), data, {}, METRIC, catalogue, prefix, design)


def _carrier(design: Design, catalogue: Catalogue, ref: PartRef) -> PartRef:
    """What moves when a part is dragged: a hot rock and a mat under a slab move with their site."""
    if ref.collection == "heaters":
        heater = design.heater(ref.name)
        kind = catalogue.sources[heater.kind]
        if heater.site is not None and (kind.family == "rock" or kind.place_of(heater) == "hide-roof"):
            return PartRef("sites", heater.site)
    return ref


def align_part(design: Design, catalogue: Catalogue, ref: PartRef) -> Design:
    """A part straight over the basking site; without one, over the warm end's first site.

    Raises:
        EditError: there is no site to align it to, or it does not fit there.
    """
    site = design.basking_site or next(iter(design.sites), None)
    if site is None:
        raise EditError("add", {"": "There is no basking place to put it over: add one first."}, {})
    to: dict[Any, float] = {"x_m": site.x_m, "y_m": site.y_m}
    return move_part(design, catalogue, ref, to)
