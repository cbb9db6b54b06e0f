"""Patches cover what they should, and sites cover the ground they stand on."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from mitten.core.design import Enclosure, Site, Substrate
from mitten.core.physics.shape.geometry import SUBDIVISION, Interior, build_interior
from mitten.core.physics.shape.view_factors import unshadowed

BOX = Enclosure(length_m=1.2, depth_m=0.6, height_m=0.6)
GROUND = Substrate(depth_mm=40.0)


def site(**changes: object) -> Site:
    return Site.model_validate(
        {"name": "A", "role": "basking", "material": "slate", "x_m": 0.9, "y_m": 0.3, "length_m": 0.3, "depth_m": 0.2}
        | changes
    )


def interior(*sites: Site) -> Interior:
    return build_interior(BOX, GROUND, sites)


def test_the_faces_have_their_areas_above_the_substrate() -> None:
    inside = interior()
    areas = {s.name: float(inside.areas_m2[inside.span(i)].sum()) for i, s in enumerate(inside.surfaces)}
    assert np.isclose(areas["floor"], 1.2 * 0.6)
    assert np.isclose(areas["left"], 0.6 * 0.56)
    assert np.isclose(areas["front"], 1.2 * 0.56)


def test_the_floor_has_at_least_12_by_6_patches_even_in_a_small_box() -> None:
    small = build_interior(Enclosure(length_m=0.3, depth_m=0.2, height_m=0.2), Substrate(depth_mm=10.0), [])
    assert small.surfaces[0].counts >= (12, 6)


def test_a_standing_site_covers_exactly_its_outline_of_the_ground() -> None:
    inside = interior(site())
    floor = inside.span(0)
    assert np.isclose((inside.areas_m2 - inside.exposed_m2)[floor].sum(), 0.3 * 0.2)


@settings(max_examples=30)
@given(x_m=st.floats(0.15, 1.05), y_m=st.floats(0.1, 0.5), other_m=st.floats(0.15, 1.05))
def test_sites_that_overlap_cover_what_they_share_once(x_m: float, y_m: float, other_m: float) -> None:
    inside = interior(site(x_m=x_m, y_m=y_m), site(name="B", x_m=other_m), site(name="C", x_m=0.4, y_m=0.2))
    floor, fine = inside.surfaces[0], 20
    points = floor.centres(fine)
    under = np.zeros(len(points), dtype=bool)
    for block in inside.blocks:
        under |= np.all((points[:, :2] > block.low[:2]) & (points[:, :2] < block.high[:2]), axis=1)
    counted = under.reshape(floor.patches, -1).mean(axis=1) * inside.areas_m2[inside.span(0)]
    covered = (inside.areas_m2 - inside.exposed_m2)[inside.span(0)]
    patch_m2 = inside.areas_m2[0]
    assert np.abs(covered - counted).max() < 6 / fine * patch_m2
    assert np.all(covered[counted == 0.0] < 2 / fine * patch_m2)


def test_the_underside_of_a_standing_site_is_covered_and_that_of_a_ledge_is_not() -> None:
    standing, ledge = interior(site()), interior(site(z_m=0.2))
    for inside, exposed in ((standing, 0.0), (ledge, 0.06)):
        under = next(i for i, s in inside.of_site(0) if s.kind == "site-bottom")
        assert np.isclose(inside.exposed_m2[inside.span(under)].sum(), exposed)


def test_sub_points_lie_in_their_patches_row_by_row() -> None:
    inside = interior()
    floor = inside.surfaces[0]
    points = floor.centres(SUBDIVISION)
    owners = np.repeat(np.arange(floor.patches), SUBDIVISION**2)
    assert np.array_equal(floor.patch_at(points), owners)
    assert np.allclose(points.reshape(floor.patches, -1, 3).mean(axis=1), floor.centres())


def test_a_ledge_shades_the_ground_under_it_from_a_lamp_above() -> None:
    inside = interior(site(z_m=0.2))
    points = np.array([[0.9, 0.3, 0.04], [0.3, 0.3, 0.04]])
    assert list(unshadowed(inside.blocks, points, np.array([0.9, 0.3, 0.55]))) == [False, True]
