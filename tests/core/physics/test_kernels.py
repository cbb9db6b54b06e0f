"""Compiled loops against the same said in whole arrays, on figures drawn at random; and that they are kept or not."""

from typing import Any

import numba
import numpy as np
import pytest
from scipy.special import ndtr

from mitten.core.physics.arrays import Array
from mitten.core.physics.kernels import air, lamps, rays, water
from mitten.core.physics.kernels.compiled import compiled
from mitten.core.physics.kernels.distance import most_apart
from mitten.core.physics.shape.geometry import Surface
from mitten.core.plan.search.wants.chances import all_outside, all_within

COLUMNS, LAYERS = 5, 4


@pytest.fixture
def random() -> np.random.Generator:
    return np.random.default_rng(11)


def test_the_largest_difference_is_found_wherever_it_is_up_or_down(random: np.random.Generator) -> None:
    one = random.normal(size=40)
    for place, by in ((0, 7.0), (39, -7.0), (20, -7.5)):
        other = one.copy()
        other[place] += by
        assert most_apart(one, other) == pytest.approx(abs(by))
    assert most_apart(one.astype(np.float32), one.astype(np.float32)) == 0.0


def test_plumes_are_driven_by_what_a_column_gives_more_than_the_others(random: np.random.Generator) -> None:
    heat_w, whole_w = random.uniform(-3, 9, (COLUMNS, LAYERS)), 0.5
    power_w, height_m = air.plume_drives(heat_w, 0.1, whole_w)
    below = np.cumsum(heat_w, axis=1)[:, :-1]
    excess = np.maximum(below - np.maximum(below.mean(axis=0), 0.0), 0.0)
    np.testing.assert_allclose(power_w, excess**3 / (excess**2 + whole_w**2))
    warming, bottoms = np.maximum(heat_w, 0.0), 0.1 * np.arange(LAYERS)
    weight, moment = np.cumsum(warming, axis=1)[:, :-1], np.cumsum(warming * bottoms, axis=1)[:, :-1]
    begins = np.divide(moment, weight, out=np.zeros_like(moment), where=weight > 0)
    np.testing.assert_allclose(height_m, bottoms[1:] - begins)
    cooled, _ = air.plume_drives(-np.ones((COLUMNS, LAYERS)), 0.1, whole_w)
    assert not cooled.any(), "air that is cooled alike does not rise"


def test_air_mixes_by_the_root_of_the_difference_and_upwards_only_where_it_is_warmer_below(
    random: np.random.Generator,
) -> None:
    air_k = random.uniform(290, 310, (COLUMNS, LAYERS))
    across, up = air.mixing(air_k, 2.0, 0.3, 1.5)
    np.testing.assert_allclose(across, 2.0 * np.sqrt(np.abs(np.diff(air_k, axis=0)) / air_k.mean()))
    over = np.maximum(air_k[:, :-1] - air_k[:, 1:], 0.0)
    np.testing.assert_allclose(up, 0.3 + 1.5 * np.sqrt(over / air_k.mean()))


def test_what_leaves_a_zone_comes_to_its_neighbours_or_to_the_room(random: np.random.Generator) -> None:
    net = random.normal(size=(COLUMNS - 1, LAYERS)), random.normal(size=(COLUMNS, LAYERS - 1))
    mixing = random.uniform(size=net[0].shape), random.uniform(size=net[1].shape)
    leaving = random.uniform(size=(COLUMNS, LAYERS))
    matrix = air.transport(*net, *mixing, leaving)
    np.testing.assert_allclose(matrix.sum(axis=0), leaving.ravel(), atol=1e-12)
    assert matrix[LAYERS, 0] == -(max(net[0][0, 0], 0.0) + mixing[0][0, 0]), "to the right"
    assert matrix[0, LAYERS] == -(max(-net[0][0, 0], 0.0) + mixing[0][0, 0]), "and back"
    assert matrix[1, 0] == -(max(net[1][0, 0], 0.0) + mixing[1][0, 0]), "upwards"


def wet_patches(random: np.random.Generator) -> tuple[Array, ...]:
    """What the air lacks, wetness, film and water that is sprayed, of patches that do everything that there is."""
    return random.normal(size=60), random.uniform(size=60), random.uniform(1, 2, 60), random.choice([0.0, 0.1, 2.0], 60)


def test_wet_patches_give_what_is_sprayed_on_them_and_never_more_than_a_wet_one(random: np.random.Generator) -> None:
    lacking, wetness, film, supplied = wet_patches(random)
    leaves, takes = water.water_exchange(lacking, wetness, film, supplied)
    free = film * np.maximum(lacking, 0.0)
    np.testing.assert_allclose(leaves, wetness * free + np.minimum(supplied, (1 - wetness) * free))
    np.testing.assert_allclose(takes, film * np.maximum(-lacking, 0.0))
    taking, soaked = water.water_doings(lacking, wetness, film, supplied)
    np.testing.assert_array_equal(taking, lacking < 0)
    np.testing.assert_array_equal(
        soaked, (lacking >= 0) & (supplied > 0) & (supplied >= (1 - wetness) * film * lacking)
    )
    assert soaked.any()
    assert not soaked.all()


def test_the_water_of_the_zones_is_linear_in_what_the_patches_do(random: np.random.Generator) -> None:
    lacking, wetness, film, supplied = wet_patches(random)
    shares, between, saturated = random.dirichlet(np.ones(3), 60), random.normal(size=(3, 3)), random.uniform(size=60)
    listed = np.arange(0, 181, 3), np.tile(np.arange(3), 60), shares.ravel()
    takes, soaked = water.water_doings(lacking, wetness, film, supplied)
    matrix, given, uptake = water.water_system(
        takes, soaked, wetness, film, saturated, supplied, *listed, between
    )  # fmt: skip
    free = takes | soaked
    np.testing.assert_allclose(uptake, film * np.where(free, 1.0, wetness))
    np.testing.assert_allclose(matrix, between + shares.T @ (uptake[:, None] * shares))
    np.testing.assert_allclose(given, shares.T @ (uptake * saturated + np.where(free, 0.0, supplied)))


BEAM = (6.0, 0.7, False)


def falling(points: Array, normals: Array, spread: tuple[float, float, bool] = BEAM, face_m: float = 0.0) -> Array:
    """What falls from a lamp at a metre that looks down, whose face is a place of half the weight on either side."""
    middle, axis = np.array([0.0, 0.0, 1.0]), np.array([0.0, 0.0, -1.0])
    sides = middle + np.array([[face_m / 2, 0.0, 0.0], [-face_m / 2, 0.0, 0.0]])
    places = sides, np.array([0.5, 0.5])
    return lamps.falling(points, normals, middle, axis, spread, (0.02, 1.5 * face_m, 5.0 * face_m), places, places)


def test_a_beam_falls_by_its_intensity_the_square_of_the_distance_and_the_cosine(random: np.random.Generator) -> None:
    points = random.uniform(-1, 1, (50, 3)) * [1.0, 1.0, 0.8]
    normals = random.normal(size=(50, 3))
    normals /= np.linalg.norm(normals, axis=1)[:, None]
    reach = [0.0, 0.0, 1.0] - points
    distance = np.linalg.norm(reach, axis=1)
    cos_phi, cos_theta = np.maximum((reach * normals).sum(axis=1), 0.0) / distance, reach[:, 2] / distance
    intensity = 0.7 * 7.0 / (2 * np.pi) * cos_theta**6 + 0.3 / np.pi * cos_theta
    np.testing.assert_allclose(falling(points, normals), intensity * cos_phi / distance**2)
    np.testing.assert_allclose(
        falling(points, normals, (6.0, 0.7, True)), cos_phi / (4 * np.pi * distance**2)
    )  # fmt: skip


def test_a_face_that_is_near_shines_from_its_places_and_nothing_shines_from_nearer_than_its_glass() -> None:
    up, under = np.array([[0.0, 0.0, 1.0]]), np.array([[0.0, 0.0, 0.9]])
    far, near = falling(under, up), falling(under, up, face_m=0.1)
    slant = np.hypot(0.1, 0.05)
    cosine = 0.1 / slant
    assert far[0] == pytest.approx((0.7 * 7 / 2 + 0.3) / np.pi / 0.01)
    assert near[0] == pytest.approx((0.7 * 7 / 2 * cosine**6 + 0.3 * cosine) / np.pi * cosine / slant**2)
    # Nearer than that counts as that far off: half as near again is half the cosine.
    touching, nearer = (falling(np.array([[0.0, 0.0, 1.0 - off_m]]), up)[0] for off_m in (0.02, 0.01))
    assert nearer == pytest.approx((0.7 * 7 / 2 * 0.5**6 + 0.3 * 0.5) / np.pi * 0.5 / 0.02**2)
    assert nearer < touching


def test_rays_pass_through_a_block_or_miss_it_and_leave_the_box_by_a_face() -> None:
    low, high = np.array([0.4, 0.4, 0.4]), np.array([0.6, 0.6, 0.6])
    starts = np.array([[0.0, 0.5, 0.5], [0.0, 0.9, 0.5], [0.5, 0.5, 0.0], [0.4, 0.4, 0.0]])
    directions = np.array([[1.0, 0.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 2.0], [0.0, 0.0, 1.0]])
    near, far = rays.span_in_block(low, high, starts, directions)
    np.testing.assert_allclose(near[[0, 2]], [0.4, 0.2])
    np.testing.assert_allclose(far[[0, 2]], [0.6, 0.3])
    assert near[1] >= far[1], "it passes beside"
    assert near[3] == pytest.approx(0.4), "along an edge it is in the block"
    distance, axes, facing = rays.exit_of_box(np.zeros(3), np.ones(3), starts, directions)
    np.testing.assert_allclose(distance, [1.0, 1.0, 0.5, 1.0])
    assert (list(axes), list(facing)) == ([0, 0, 2, 2], [-1, -1, -1, -1])
    back, axes, facing = rays.exit_of_box(np.zeros(3), np.ones(3), starts[:1] + 0.5, -directions[:1])
    assert (float(back[0]), int(axes[0]), int(facing[0])) == (0.5, 0, 1)
    seen = rays.seen_past(low[None, :], high[None, :], starts, np.array([1.0, 0.5, 0.5]), 1e-6)
    assert list(seen) == [False, True, True, True]


def test_rays_land_on_the_patch_that_a_surface_finds_there(random: np.random.Generator) -> None:
    wall = Surface("right", "wall", 0, -1, (1.0, 0.2, 0.1), (0.6, 0.4), (5, 3))
    points = np.column_stack([np.ones(80), random.uniform(0, 1, 80), random.uniform(0, 0.7, 80)])
    axes, facing = random.choice([0, 1], 80), random.choice([-1, 1], 80)
    hits = np.full(80, -7)
    rays.land_on(hits, points, axes, facing, (0, -1), (1, 2), (0.2, 0.1), wall.patch_sizes, wall.counts, 40)
    on_it = (axes == 0) & (facing == -1)
    np.testing.assert_array_equal(hits[on_it], 40 + wall.patch_at(points[on_it]))
    assert (hits[~on_it] == -7).all()


def test_rays_are_counted_where_they_hit_and_what_they_would_have_hit() -> None:
    senders, hits, behind = np.array([0, 0, 1, 2]), np.array([1, 2, 2, 0]), np.array([1, 1, 2, 0])
    visible, through = rays.count_hits(senders, hits, behind, np.array([True, True, True, False]), 3)
    np.testing.assert_array_equal(visible, [[0, 1, 1], [0, 0, 1], [0, 0, 0]])
    np.testing.assert_array_equal(through, [[0, 2, 0], [0, 0, 1], [0, 0, 0]])


def test_chances_are_those_of_normal_errors_one_after_the_other(random: np.random.Generator) -> None:
    rises = random.uniform(0, 25, (30, 7))
    figures, lows, highs = np.array([1, 4]), np.array([24.0, 20.0]), random.uniform(30, 45, (30, 2))
    found = all_within(rises, figures, lows, highs, 20.0, 1.0, 0.12)
    here, sigma = 20.0 + rises[:, figures], np.hypot(1.0, 0.12 * rises[:, figures])
    np.testing.assert_allclose(found, np.prod(ndtr((highs - here) / sigma) - ndtr((lows - here) / sigma), axis=1))
    off = all_outside(rises, figures, lows, highs[0], 20.0)
    np.testing.assert_allclose(off, (np.maximum(lows - here, 0) + np.maximum(here - highs[0], 0)).sum(axis=1))


def test_where_no_folder_can_be_written_to_a_loop_is_compiled_all_the_same(monkeypatch: pytest.MonkeyPatch) -> None:
    real: Any = numba.njit

    def without_a_folder(cache: bool = False, **options: object) -> Any:
        if cache:
            raise RuntimeError("cannot cache function: no locator available")
        return real(**options)

    monkeypatch.setattr(numba, "njit", without_a_folder)

    def twice(number: float) -> float:
        return 2.0 * number

    assert compiled(twice)(4.0) == 8.0
