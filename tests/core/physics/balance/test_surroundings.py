"""What is outside each face: one box beside another, a lid under a warm shelf, and what a face gives to it."""

import numpy as np
import pytest

from mitten.core.design import FACES, Face
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.outside import FaceSurroundings
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.situation import Situation
from mitten.core.physics.solving import solve_climate
from mitten.core.physics.tweaks import Tweaks
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, data, ledge_data, panels, read, tank_data

WARM = FaceSurroundings(35.0)


def beside(design: Data, faces: dict[Face, FaceSurroundings], room_c: float = 20.0) -> Climate:
    return solve_climate(read(design), CATALOGUE, Situation(room_c, faces=tuple(faces.items())))


def closed_box() -> Data:
    """A board box with no opening and nothing in it."""
    box = {"length_m": 0.9, "depth_m": 0.45, "height_m": 0.45, "panels": panels("melamine", 16.0, front="melamine")}
    return data(box, [])


def test_a_box_beside_one_held_at_35_degrees_is_warmed_through_that_face_alone() -> None:
    climate = beside(closed_box(), {"right": WARM})
    heat = climate.face_heat_w
    assert heat["right"] < -1.0
    assert all(heat[face] > 0 for face in FACES if face != "right")
    assert sum(heat.values()) == pytest.approx(0.0, abs=2e-3 * abs(heat["right"]))
    interior, surface_c = climate.state.prepared.interior, climate.state.surface_c
    walls = {face: surface_c[interior.span(interior.index_of(face))].mean() for face in ("left", "right")}
    assert walls["right"] > walls["left"] + 3.0
    assert 20.0 < climate.air.mean_c < 35.0
    assert climate.warm_is_right


def test_that_wall_stands_between_the_two_by_its_resistances() -> None:
    """What passes through the wall is what it gives up to the inside: U (35 - T) on its area, patch by patch."""
    climate = beside(closed_box(), {"right": WARM})
    interior = climate.state.prepared.interior
    span = interior.span(interior.index_of("right"))
    u = 1 / (0.016 / 0.13 + 1 / 8.0)
    through_w = float((u * interior.areas_m2[span] * (climate.state.surface_c[span] - 35.0)).sum())
    assert climate.face_heat_w["right"] == pytest.approx(through_w)


def test_two_boxes_alike_side_by_side_give_one_another_nothing() -> None:
    """Each is the other's surroundings: in turn, until neither moves."""
    alone = paired = beside(box_data(watts=20.0), {})
    for _ in range(8):
        interior = paired.state.prepared.interior
        wall_c = float(paired.state.surface_c[interior.span(interior.index_of("left"))].mean())
        paired = beside(box_data(watts=20.0), {"left": FaceSurroundings(wall_c)})
    assert abs(paired.face_heat_w["left"]) < 0.02 * alone.face_heat_w["left"]
    assert paired.air.mean_c > alone.air.mean_c


@pytest.mark.parametrize("design", [closed_box(), tank_data(), ledge_data()], ids=["boards", "mesh", "ledge"])
def test_faces_that_look_at_the_rooms_own_temperature_change_nothing(design: Data) -> None:
    alone = beside(design, {})
    same = beside(design, {face: FaceSurroundings(20.0) for face in FACES})
    np.testing.assert_allclose(same.state.surface_c, alone.state.surface_c, atol=1e-9)


def test_everything_outside_warmer_by_a_degree_warms_a_shut_box_by_one() -> None:
    climate = beside(closed_box(), {face: FaceSurroundings(21.0) for face in FACES})
    assert climate.air.mean_c == pytest.approx(21.0, abs=0.02)


@pytest.mark.parametrize("face", FACES)
def test_each_face_by_itself_is_felt(face: Face) -> None:
    climate = beside(closed_box(), {face: WARM})
    assert climate.air.mean_c > 20.3
    assert climate.face_heat_w[face] == min(climate.face_heat_w.values()) < 0


def test_a_film_of_its_own_takes_the_place_of_the_boxes() -> None:
    loose, tight = (beside(closed_box(), {"back": FaceSurroundings(35.0, film_w_m2k=film)}) for film in (2.0, 20.0))
    assert tight.face_heat_w["back"] < 1.3 * loose.face_heat_w["back"] < 0
    below = beside(closed_box(), {"floor": FaceSurroundings(35.0, film_w_m2k=20.0)})
    assert below.face_heat_w["floor"] < beside(closed_box(), {"floor": WARM}).face_heat_w["floor"]


def test_air_and_what_is_opposite_share_a_film_and_the_mesh_sees_the_latter() -> None:
    sky = FaceSurroundings(20.0, radiant_c=45.0)
    assert sky.together_c == pytest.approx(0.64 * 45.0 + 0.36 * 20.0)
    under = beside(tank_data(), {"top": sky})
    alone = beside(tank_data(), {})
    assert under.face_heat_w["top"] < alone.face_heat_w["top"] - 10.0
    assert under.air.cool_c > alone.air.cool_c + 0.5


def test_what_leaves_by_all_faces_and_with_the_air_is_what_the_sources_give() -> None:
    climate = beside(ledge_data(), {"left": WARM, "top": FaceSurroundings(15.0)})
    energy, faces = climate.energy, sum(climate.face_heat_w.values())
    other = energy.with_air_w + energy.as_vapour_w + energy.as_shortwave_w + energy.past_the_lid_w
    assert faces + other == pytest.approx(energy.in_w, abs=2e-3 * energy.in_w)
    assert energy.from_warmer_faces_w == pytest.approx(-climate.face_heat_w["left"])


def test_a_room_that_is_even_knows_it() -> None:
    assert Surroundings(20.0).is_even
    assert Surroundings(20.0, faces={"top": FaceSurroundings(20.0)}).is_even
    assert not Surroundings(20.0, faces={"top": FaceSurroundings(20.0, radiant_c=25.0)}).is_even
    np.testing.assert_allclose(Surroundings(20.0, faces={"floor": WARM}).outside_k, [308.15, *[293.15] * 5])


def test_a_warmer_room_moves_the_room_and_not_the_box_beside_it() -> None:
    """The room's uncertainty is the room's own."""
    situation = Situation(20.0, faces=(("right", WARM),))
    climate = solve_climate(read(closed_box()), CATALOGUE, situation, tweaks=Tweaks(room_k=1.0))
    assert climate.state.surroundings.of("left").air_c == 21.0
    assert climate.state.surroundings.of("right").air_c == 35.0
