"""Parts where nothing can be are refused, each with a sentence beside its key; what merely touches is let in."""

from typing import Any

import pytest

from mitten.core.catalogue.catalogue import placing_faults
from mitten.core.design import BadDesignError
from mitten.core.design.amounts import plain
from tests.catalogue import CATALOGUE
from tests.designs import Data, ledge_data, mat_data, read

TUBE = {"name": "Tube", "watts": 24.0, "x_m": 0.6, "y_m": 0.5, "z_m": 0.56, "length_m": 0.6}


def with_tube(**changes: Any) -> Data:
    return {**ledge_data(), "uvb": [{**TUBE, **changes}]}


def with_site(**changes: Any) -> Data:
    """The ledge, which is 30 by 26 cm around 94, 30, 16 cm up and 2.5 cm thick, and another slab."""
    slab = {"name": "Slab", "role": "perch", "material": "cork", "length_m": 0.2, "depth_m": 0.2, "thickness_mm": 20.0}
    design = ledge_data()
    design["sites"].append({**slab, "x_m": 0.94, "y_m": 0.3, "z_m": 0.17, **changes})
    return design


def wall_mat(**changes: Any) -> Data:
    """A mat on the right wall of a tank 60 x 40 x 40 cm."""
    return mat_data(place="wall", **{"x_m": 0.58, "y_m": 0.2, "z_m": 0.2, "length_m": 0.2, "depth_m": 0.2, **changes})


def roof_mat(**changes: Any) -> Data:
    mat = {"name": "Mat", "kind": "heat-mat", "watts": 7.0, "place": "hide-roof", "site": "Ledge", "on": "always"}
    place = {"x_m": 0.94, "y_m": 0.3, "length_m": 0.2, "depth_m": 0.2}
    return {**ledge_data(), "heaters": [{**mat, **place, **changes}]}


def on_its_lamp(**fixture: Any) -> Data:
    """A lamp whose probe reads the lamp."""
    design = ledge_data(control="T", fixture=fixture)
    probe = {"x_m": 0.9, "y_m": 0.3, "z_m": 0.4, "reads": "heater"}
    design["controls"] = [{"name": "T", "kind": "dimming", "day_c": 60.0, "probe": probe}]
    return design


@pytest.mark.parametrize(
    ("design", "path", "words"),
    [
        (with_tube(length_m=1.3), "uvb[0].length_m", "the box is 120 cm long"),
        (with_tube(x_m=0.2), "uvb[0].x_m", "reaches past the left or right end"),
        (with_tube(x_m=0.9, y_m=0.3, z_m=0.17), "uvb[0].z_m", "is inside 'Ledge'"),
        (with_site(), "sites[1].x_m", "'Slab' and 'Ledge' are in one another"),
        (with_site(x_m=0.8), "sites[1].x_m", "in one another"),
        (wall_mat(length_m=0.5), "heaters[0].length_m", "the right wall is 40 cm wide"),
        (wall_mat(y_m=0.05), "heaters[0].y_m", "past the edge of the right wall"),
        (wall_mat(depth_m=0.5), "heaters[0].depth_m", "the right wall is 40 cm"),
        (wall_mat(z_m=0.38), "heaters[0].z_m", "past the top or bottom of the right wall"),
        (wall_mat(z_m=0.0), "heaters[0].z_m", "past the top or bottom of the right wall"),
        (roof_mat(x_m=0.3), "heaters[0].x_m", "does not lie under 'Ledge'"),
        (roof_mat(y_m=0.5), "heaters[0].y_m", "does not lie under 'Ledge'"),
        (roof_mat(length_m=0.5), "heaters[0].length_m", "'Ledge' over it is 30 cm"),
        (on_its_lamp(kind="bare-socket"), "controls[0].probe.reads", "cannot lie on the glass of a lamp"),
    ],
)  # fmt: skip
def test_what_cannot_be_there_is_refused_beside_its_key(design: Data, path: str, words: str) -> None:
    with pytest.raises(BadDesignError) as refused:
        read(design)
    faults = {fault.path: fault.sentence for fault in refused.value.faults}
    assert words in plain(faults[path])


@pytest.mark.parametrize(
    "design",
    [
        with_tube(), with_tube(length_m=1.2), with_tube(x_m=0.9, y_m=0.3, z_m=0.3), with_site(x_m=0.69),
        with_site(z_m=0.185), with_site(z_m=0.3), wall_mat(), wall_mat(length_m=0.4, depth_m=0.4), roof_mat(),
        roof_mat(length_m=0.3, depth_m=0.26), on_its_lamp(kind="guarded-socket"), on_its_lamp(kind="dome"),
        on_its_lamp(kind="bare-socket", guard=True),
    ],
)  # fmt: skip
def test_what_touches_or_fits_to_the_millimetre_is_let_in(design: Data) -> None:
    known = read(design)
    assert placing_faults(known, CATALOGUE) == []
