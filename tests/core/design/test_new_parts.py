"""Controls, lights, areas and layers in the design file: what is refused, and how it is said."""

from contextlib import nullcontext
from typing import Any

import pytest

from mitten.core.design import BadDesignError
from tests.core.design.test_reading import faults_of
from tests.designs import Data, box_data, ledge_data, mat_data, read, tank_data

UV = {"name": "UV", "watts": 24.0, "x_m": 0.6, "y_m": 0.3, "z_m": 0.5}
CONTROL = {"name": "T", "kind": "pulse", "day_c": 27.0, "probe": {"x_m": 0.9, "y_m": 0.3, "z_m": 0.1}}


def controlled(**changes: Any) -> Data:
    design = box_data(control="T")
    design["controls"] = [{**CONTROL, **changes}]
    return design


@pytest.mark.parametrize(("z_m", "fits"), [(0.45, False), (0.451, True), (1.05, True), (1.051, False)])
@pytest.mark.parametrize("part", ["heaters", "uvb"])
def test_above_a_lid_a_lamp_hangs_over_it_and_at_most_sixty_centimetres(part: str, z_m: float, fits: bool) -> None:
    """The tank is 45 cm high."""
    design = tank_data() | {"uvb": [{**UV, "x_m": 0.3, "y_m": 0.2, "length_m": 0.3, "z_m": 0.5, "above_mesh": True}]}
    design[part][0]["z_m"] = z_m
    with nullcontext() if fits else pytest.raises(BadDesignError, match="above the lid hangs higher than 45 cm and at"):
        read(design)


@pytest.mark.parametrize(
    ("design", "expected"),
    [
        (mat_data(place="air"), "heaters[0].place: a heat mat cannot be placed 'air'; it goes 'under-floor' or"),
        (mat_data(length_m=None), "heaters[0]: a heat mat covers an area: give its length and depth."),
        (mat_data(x_m=0.5), "heaters[0].length_m: 'Mat' reaches past the edge of the box."),
        (mat_data(y_m=0.3), "heaters[0].depth_m: 'Mat' reaches past the edge of the box."),
        (mat_data(x_m=0.1), "heaters[0].length_m: 'Mat' reaches past the edge of the box."),
        (mat_data(place="hide-roof"), "heaters[0].site: name the piece of furniture that this heat mat warms."),
        (mat_data(above_mesh=True), "heaters[0].above_mesh: a heat mat does not hang above a mesh."),
        (box_data(control="Nobody"), "heaters[0].control: there is no control 'Nobody'."),
        (ledge_data(kind="hot-rock", site="Nowhere"), "heaters[0].site: there is no furniture called 'Nowhere'."),
        (controlled(probe=None), "controls[0]: a thermostat needs a probe."),
        (controlled(day_c=None), "controls[0]: a thermostat needs a setpoint by day or by night"),
        (controlled(kind="timer"), "controls[0]: a timer follows no probe"),
        (controlled(probe={"x_m": 3.0, "y_m": 0.3, "z_m": 0.1}), "controls[0].probe.x_m: 300 cm is outside the box"),
        (controlled(probe={"x_m": 0.3, "y_m": 0.3, "z_m": 0.01}), "controls[0].probe.z_m: 1 cm is in the ground"),
        (controlled(probe={**CONTROL["probe"], "reads": "hide"}), "controls[0].probe.reads: there is no hide"),  # type: ignore[dict-item]
        ({**box_data(), "controls": [CONTROL]}, "controls[0]: 'T' regulates no heat source"),
        ({**box_data(), "uvb": [{**UV, "lamp": "uvb-tub"}]}, "uvb[0].lamp: the catalogue has no ultraviolet lamp"),
        ({**box_data(), "uvb": [{**UV, "z_m": 0.9}]}, "uvb[0].z_m: 90 cm is outside the box"),
        ({**box_data(), "uvb": [{**UV, "y_m": 0.7}]}, "uvb[0].y_m: 70 cm is outside the box, which is 60 cm deep"),
        ({**box_data(), "uvb": [{**UV, "installed": "soon"}]}, "uvb[0].installed: must be a date such as 2026-03-01"),
        ({**box_data(), "lights": [{**UV, "name": "Lamp"}]}, "heaters: 2 of them are called 'Lamp'"),
        ({**box_data(), "decide_by": "colour"}, "decide_by: must be 'surface' or 'irradiance', not \"colour\"."),
    ],
)  # fmt: skip
def test_a_part_that_cannot_be_is_refused_with_its_path(design: Data, expected: str) -> None:
    without_none = {**design, "heaters": [{k: v for k, v in h.items() if v is not None} for h in design["heaters"]]}
    if design.get("controls"):
        without_none["controls"] = [{k: v for k, v in c.items() if v is not None} for c in design["controls"]]
    found = faults_of(without_none)
    assert found[0].startswith(expected)


def test_layers_add_to_the_depth() -> None:
    design = box_data()
    design["substrate"] = {"depth_mm": 30.0, "layers": [{"material": "gravel", "depth_mm": 20.0}]}
    assert read(design).substrate.depth_m == pytest.approx(0.05)
    design["substrate"]["layers"][0]["material"] = "moon-dust"
    assert "substrate.layers[0].material" in faults_of(design)[0]


def test_a_slab_bedded_in_the_ground_keeps_its_height() -> None:
    design = ledge_data()
    design["sites"][0].update(z_m=0.02, thickness_mm=50.0)
    site = read(design).sites[0]
    assert site.underside_m(0.04) == 0.02
    assert site.top_m(0.04) == pytest.approx(0.07)
    design["sites"][0].update(z_m=0.0, thickness_mm=30.0)
    assert "is buried" in faults_of(design)[0]
