"""View factors against closed forms, and the rules that every set of them obeys."""

import numpy as np
import pytest

from mitten.core.design import Enclosure, Site, Substrate
from mitten.core.physics.shape.geometry import Interior, Surface, build_interior
from mitten.core.physics.shape.view_factors import view_factors

SITES = (
    Site(name="L", role="basking", material="slate", x_m=0.9, y_m=0.3, length_m=0.3, depth_m=0.2, z_m=0.2),
    Site(name="H", role="cool-hide", material="cork", x_m=0.2, y_m=0.3, length_m=0.2, depth_m=0.2, thickness_mm=60.0),
)


def cube() -> Interior:
    """A unit cube of air over 1 mm of ground."""
    return build_interior(Enclosure(length_m=1.0, depth_m=1.0, height_m=1.001), Substrate(depth_mm=1.0), [])


def furnished() -> Interior:
    return build_interior(Enclosure(length_m=1.2, depth_m=0.6, height_m=0.6), Substrate(), SITES)


def between(inside: Interior, view: np.ndarray, here: str, there: str) -> float:
    """View factor from one whole face to another."""
    a, b = inside.span(inside.index_of(here)), inside.span(inside.index_of(there))
    areas = inside.radiating_m2[a]
    return float(areas @ view[a, b].sum(axis=1) / areas.sum())


@pytest.mark.parametrize(("there", "exact"), [("top", 0.1998), ("left", 0.2000), ("front", 0.2000)])
def test_unit_squares_match_the_closed_forms_within_one_percent(there: str, exact: float) -> None:
    inside = cube()
    assert between(inside, view_factors(inside), "floor", there) == pytest.approx(exact, rel=0.01)


@pytest.mark.slow
@pytest.mark.filterwarnings("ignore")
def test_every_pair_of_faces_agrees_with_a_general_library_within_one_percent() -> None:
    """PyViewFactor, by contour integrals: all thirty pairs of an empty 120x60x56 cm inside."""
    import pyviewfactor
    import pyvista

    inside = build_interior(Enclosure(length_m=1.2, depth_m=0.6, height_m=0.6), Substrate(depth_mm=40.0), [])
    view = view_factors(inside)
    corners = {
        surface.name: pyvista.PolyData(face_corners(surface), faces=[4, 0, 1, 2, 3]) for surface in inside.surfaces
    }
    for here in corners:
        for there in corners:
            if here != there:
                exact = pyviewfactor.compute_viewfactor(corners[there], corners[here])
                assert between(inside, view, here, there) == pytest.approx(exact, rel=0.01), (here, there)


def face_corners(surface: Surface) -> np.ndarray:
    """Corners (4, 3) in the order in which the normal looks into the inside."""
    first, second = surface.in_plane
    points = np.tile(np.array(surface.origin), (4, 1))
    points[[1, 2], first] += surface.sizes[0]
    points[[2, 3], second] += surface.sizes[1]
    normal = np.cross(points[1] - points[0], points[2] - points[1])
    return points if normal[surface.axis] * surface.facing > 0 else points[::-1].copy()


def test_rows_sum_to_one_and_exchange_is_reciprocal_around_sites() -> None:
    inside = furnished()
    view, areas = view_factors(inside), inside.radiating_m2
    assert np.allclose(view.sum(axis=1)[areas > 0], 1.0, atol=1e-12)
    exchange = areas[:, None] * view
    assert np.allclose(exchange, exchange.T, atol=1e-12)


def test_covered_patches_exchange_nothing() -> None:
    inside = furnished()
    view = view_factors(inside)
    covered = inside.radiating_m2 == 0
    assert covered.any()
    assert not view[covered].any()
    assert not view[:, covered].any()


def test_flat_patches_of_one_face_do_not_see_each_other() -> None:
    inside = furnished()
    floor = inside.span(0)
    # What closing leaves in the last digits stands on the diagonal.
    assert np.abs(view_factors(inside)[floor, floor]).max() < 1e-3


def test_a_mirrored_box_has_mirrored_view_factors() -> None:
    inside = cube()
    view = view_factors(inside)
    floor, top = inside.surfaces[0], inside.surfaces[1]
    block = view[inside.span(0), inside.span(1)]
    turned = block.reshape(*floor.counts[::-1], *top.counts[::-1])[:, ::-1, :, ::-1]
    assert np.allclose(turned.reshape(block.shape), block, atol=1e-12)
