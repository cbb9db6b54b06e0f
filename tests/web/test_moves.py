"""Moving parts: whole centimetres, inside the box, with what carries them."""

from collections.abc import Callable
from contextlib import suppress
from random import Random

import pytest

from mitten.core.catalogue import Catalogue, overlap, read_checked_design, read_kept_design
from mitten.core.catalogue.moving import Axis
from mitten.core.design import BadDesignError, Design, write_design
from mitten.core.design.units import METRIC, Units
from mitten.core.judge import assess
from mitten.demo import demo_designs
from mitten.web.edits import EditError, PartRef, align_part, copy_part, edit_part, move_part, remove_part
from mitten.web.edits.refs import Collection
from tests.catalogue import CATALOGUE
from tests.random_designs import random_design

QUARRY, CANYON, _, TUB, TABLE, COAST = demo_designs()
AXES: list[Axis] = ["x_m", "y_m", "z_m"]
HANGING: tuple[Collection, ...] = ("sites", "heaters", "uvb", "controls")


def test_a_lamp_snaps_to_whole_centimetres_above_the_ground_and_stays_inside() -> None:
    ref = PartRef("heaters", "Main lamp")
    lamp = move_part(QUARRY, CATALOGUE, ref, {"x_m": 0.6349, "z_m": 0.4071}).heater("Main lamp")
    assert (lamp.x_m, lamp.z_m) == (0.63, 0.41)
    lamp = move_part(QUARRY, CATALOGUE, ref, {"x_m": 7.0, "y_m": -3.0, "z_m": 9.0}).heater("Main lamp")
    assert (lamp.x_m, lamp.y_m, lamp.z_m) == (1.2, 0.0, 0.6)


def test_a_lamp_comes_to_rest_above_the_site_under_it_and_above_the_lid() -> None:
    down = move_part(QUARRY, CATALOGUE, PartRef("heaters", "Main lamp"), {"z_m": 0.0}).heater("Main lamp")
    assert down.z_m == pytest.approx(QUARRY.sites[0].top_m(0.06) + 0.03)
    dome = move_part(CANYON, CATALOGUE, PartRef("heaters", "Dome lamp"), {"z_m": 0.0}).heater("Dome lamp")
    assert dome.above_mesh
    assert dome.z_m == pytest.approx(0.46)


def test_a_site_is_laid_on_the_ground_or_lifted_and_stays_under_the_top() -> None:
    ref = PartRef("sites", "Ledge")
    assert move_part(QUARRY, CATALOGUE, ref, {"z_m": 0.0}).site("Ledge").z_m is None
    high = move_part(QUARRY, CATALOGUE, ref, {"x_m": 1.2, "z_m": 3.0}).site("Ledge")
    assert high.x_m == pytest.approx(1.2 - 0.15)
    assert high.top_m(0.06) < 0.6


def test_probes_tubes_panels_and_vents_are_moved_too() -> None:
    probe = move_part(COAST, CATALOGUE, PartRef("controls", "Pulse"), {"x_m": 0.5, "z_m": 0.0}).controls[0].probe
    assert probe is not None
    assert probe.x_m == 0.5
    assert probe.z_m >= COAST.substrate.depth_m
    tube = move_part(QUARRY, CATALOGUE, PartRef("uvb", "UV tube"), {"x_m": 9.0}).uvb[0]
    assert tube.x_m == pytest.approx(1.2 - 0.225)
    panel = move_part(COAST, CATALOGUE, PartRef("heaters", "Panel"), {"x_m": 0.0}).heater("Panel")
    assert panel.x_m == pytest.approx((panel.length_m or 0.0) / 2)
    vent = move_part(QUARRY, CATALOGUE, PartRef("vents", "Vent 1"), {"x_m": 0.5, "z_m": 0.314}).enclosure.vents[0]
    assert vent.z_m == 0.31


def test_a_mat_under_a_slab_takes_its_slab_along() -> None:
    hide = TUB.site("Warm hide")
    lying = {"place": "hide-roof", "site": hide.name, "x_m": hide.x_m, "length_m": 0.1, "depth_m": 0.1}
    design = TUB.model_copy(update={"heaters": (TUB.heaters[0].model_copy(update=lying),)})
    for ref in (PartRef("heaters", "Mat"), PartRef("sites", hide.name)):
        moved = move_part(design, CATALOGUE, ref, {"x_m": 0.5})
        assert moved.site(hide.name).x_m == moved.heaters[0].x_m == 0.5


def test_copies_stand_beside_and_aligned_ones_over_the_basking_site() -> None:
    copied, ref = copy_part(QUARRY, CATALOGUE, PartRef("heaters", "Main lamp"))
    assert ref == PartRef("heaters", "Main lamp 2")
    assert copied.heater("Main lamp 2").x_m == pytest.approx(0.99)
    moved = move_part(copied, CATALOGUE, ref, {"x_m": 0.3, "y_m": 0.1})
    aligned = align_part(moved, CATALOGUE, ref).heater("Main lamp 2")
    assert (aligned.x_m, aligned.y_m) == (0.94, 0.3)
    twice, vent = copy_part(QUARRY, CATALOGUE, PartRef("vents", "Vent 1"))
    assert len(twice.enclosure.vents) == 3
    assert len(remove_part(twice, CATALOGUE, vent).enclosure.vents) == 2


def test_copies_and_sites_that_are_dragged_onto_one_another_stand_beside() -> None:
    copied, ref = copy_part(COAST, CATALOGUE, PartRef("sites", "Flat stone"))
    assert not overlap(copied.site("Flat stone"), copied.site(ref.name), COAST.substrate.depth_m)
    ledge = QUARRY.basking_site
    hide = next(site for site in QUARRY.sites if site.role == "cool-hide")
    assert ledge is not None
    low = QUARRY.model_copy(
        update={"sites": (ledge.model_copy(update={"z_m": None}), hide.model_copy(update={"z_m": None}))}
    )
    moved = move_part(low, CATALOGUE, PartRef("sites", hide.name), {"x_m": ledge.x_m})
    assert not overlap(moved.site(hide.name), moved.site(ledge.name), QUARRY.substrate.depth_m)
    assert abs(moved.site(hide.name).x_m - ledge.x_m) < 0.4


def overlapping() -> Design:
    """A design as it may have been kept before sites in one another were refused."""
    stone = COAST.site("Flat stone")
    return COAST.model_copy(
        update={"sites": (*COAST.sites, stone.model_copy(update={"name": "Other", "x_m": stone.x_m + 0.05}))}
    )


def test_what_was_kept_with_sites_in_one_another_opens_is_computed_and_can_be_edited() -> None:
    kept = read_kept_design(write_design(overlapping()), CATALOGUE)
    found = assess(kept, CATALOGUE)
    assert {"Flat stone", "Other"} <= found.troubled
    energy = found.climate("winter-day").energy
    assert abs(energy.residual_w) < 1e-3 * energy.in_w
    edited, _ = edit_part(kept, CATALOGUE, PartRef("heaters", "Panel"), {"watts": "60"}, Units())
    assert edited.heater("Panel").watts == 60.0
    with pytest.raises(BadDesignError, match="in one another"):
        read_checked_design(write_design(overlapping()), CATALOGUE)


def test_what_cannot_be_done_is_said() -> None:
    with pytest.raises(EditError, match="no 'Gone' any more"):
        move_part(QUARRY, CATALOGUE, PartRef("heaters", "Gone"), {"x_m": 0.5})
    with pytest.raises(EditError, match="no 'Gone' any more"):
        remove_part(QUARRY, CATALOGUE, PartRef("sites", "Gone"))
    with pytest.raises(EditError, match="A control is made where"):
        copy_part(COAST, CATALOGUE, PartRef("controls", "Pulse"))
    bare: Design = QUARRY.model_copy(update={"sites": ()})
    with pytest.raises(EditError, match="no basking place to put it over"):
        align_part(bare, CATALOGUE, PartRef("heaters", "Main lamp"))


def with_timers(design: Design) -> Design:
    """The same with thermostats that have become timers, which have no probe."""
    controls = tuple(
        control.model_copy(update={"kind": "timer", "probe": None, "day_c": None, "night_c": None})
        for control in design.controls
    )
    return design.model_copy(update={"controls": controls})


def lifted(design: Design, catalogue: Catalogue, ref: PartRef) -> Design:
    return move_part(design, catalogue, ref, {"x_m": 0.31, "y_m": 0.2, "z_m": 0.3})


def parts_of(design: Design) -> list[PartRef]:
    found = [PartRef("vents", f"Vent {number}") for number in range(1, len(design.enclosure.vents) + 1)]
    found += [PartRef("sites", site.name) for site in design.sites]
    found += [PartRef("heaters", heater.name) for heater in design.heaters]
    found += [PartRef("controls", control.name) for control in design.controls]
    found += [PartRef("uvb", lamp.name) for lamp in design.uvb]
    return found + [PartRef("lights", light.name) for light in design.lights]


@pytest.mark.parametrize("design", demo_designs(), ids=lambda design: design.name)
@pytest.mark.parametrize("timed", [False, True])
@pytest.mark.parametrize("moved", [align_part, lifted])
def test_whatever_is_moved_moves_or_says_why_not(design: Design, timed: bool, moved: Callable[..., Design]) -> None:
    known = with_timers(design) if timed else design
    for ref in parts_of(known):
        with suppress(EditError):
            assert moved(known, CATALOGUE, ref).name == design.name


@pytest.mark.parametrize("moved", [align_part, lifted])
def test_a_timer_has_no_probe_to_be_moved(moved: Callable[..., Design]) -> None:
    with pytest.raises(EditError, match="'Pulse' has no probe that could be moved"):
        moved(with_timers(COAST), CATALOGUE, PartRef("controls", "Pulse"))


@pytest.mark.parametrize("seed", range(6))
def test_whatever_place_is_asked_for_a_part_is_put_somewhere_or_refused(seed: int) -> None:
    """A thick slab pulled under the ground once ended in a fault that nobody had written."""
    random = Random(seed)  # noqa: S311
    design = random_design(700 + seed)
    box, asked = design.enclosure, 0
    for _ in range(60):
        refs = [PartRef(kind, part.name) for kind in HANGING for part in getattr(design, kind)]
        edges = (0.0, -0.004, box.height_m, box.length_m, design.substrate.depth_m, random.uniform(-10, 10))
        axes = random.sample(AXES, random.randint(1, 3))
        with suppress(EditError, BadDesignError):
            design = move_part(design, CATALOGUE, random.choice(refs), {axis: random.choice(edges) for axis in axes})
            asked += 1
    assert asked > 20


def test_a_thick_slab_pulled_under_the_ground_lies_in_it() -> None:
    ref = PartRef("sites", TUB.sites[0].name)
    thick = edit_part(TUB, CATALOGUE, ref, {"thickness_mm": "80"}, METRIC)[0]
    ref = PartRef("sites", thick.sites[0].name)
    assert move_part(thick, CATALOGUE, ref, {"z_m": -0.3}).sites[0].z_m in (None, 0.0)
