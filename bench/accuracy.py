"""Beside general-purpose libraries on the same problem: view factors and the conduction grid, time and difference."""

from collections.abc import Iterator

import numpy as np
import pyviewfactor
import pyvista
from tests.core.physics.shape.test_view_factors import between, face_corners
from tests.strip import CELLS, chain_in_time, elements_in_time, finite_elements, waves

from bench.timing import medians_s
from mitten.core.design import Enclosure, Substrate
from mitten.core.physics.shape.geometry import Interior, build_interior
from mitten.core.physics.shape.view_factors import view_factors

ROUNDS = 5


def run() -> Iterator[str]:
    """One line a problem."""
    yield "Accuracy and time beside general-purpose libraries (wanted: view factors within 1 %, conduction within 2 %)"
    yield _view_factors()
    yield _conduction()
    yield _in_time()


def _view_factors() -> str:
    inside = build_interior(Enclosure(length_m=1.2, depth_m=0.6, height_m=0.6), Substrate(depth_mm=40.0), [])
    ours, theirs = view_factors(inside), _by_contours(inside)
    gap = max(abs(between(inside, ours, here, there) / exact - 1) for (here, there), exact in theirs.items())
    mine_s, pairs_s = medians_s((lambda: view_factors(inside), lambda: _by_contours(inside)), ROUNDS)
    pairs = inside.patches * (inside.patches - 1)
    a_pair = pairs_s / len(theirs)
    return (
        f"  view factors, {len(theirs)} pairs of faces: differ by at most {gap:.1e}; all {pairs} pairs of patches in "
        f"{mine_s * 1e3:.0f} ms = {mine_s / pairs * 1e6:.2f} µs a pair, PyViewFactor {a_pair * 1e6:.0f} µs: "
        f"ratio {a_pair / (mine_s / pairs):.0f} x faster"
    )


def _by_contours(inside: Interior) -> dict[tuple[str, str], float]:
    faces = {s.name: pyvista.PolyData(face_corners(s), faces=[4, 0, 1, 2, 3]) for s in inside.surfaces}
    return {
        (here, there): pyviewfactor.compute_viewfactor(faces[there], faces[here])
        for here in faces
        for there in faces
        if here != there
    }


def _conduction() -> str:
    strip = 0.6, (0.28, 0.56), 204.0
    xs, surface, base = finite_elements(*strip)
    ours = waves(xs, *strip)
    gap = max(
        float(np.abs(mine - theirs).max() / theirs.max()) for mine, theirs in zip(ours, (surface, base), strict=True)
    )
    mine_s, theirs_s = medians_s((lambda: waves(xs, *strip), lambda: finite_elements(*strip)), ROUNDS)
    return (
        f"  conduction over a mat, {CELLS} cells along: differ by at most {gap:.1%}; {mine_s * 1e3:.2f} ms, "
        f"scikit-fem {theirs_s * 1e3:.0f} ms: ratio {theirs_s / mine_s:.0f} x faster"
    )


def _in_time() -> str:
    """A floor of board under sand, from whose underside a mat heats, an hour after it was switched on."""
    gap = np.abs(chain_in_time() - elements_in_time()).max()
    rise = elements_in_time().max()
    mine_s, theirs_s = medians_s((chain_in_time, elements_in_time), ROUNDS)
    return (
        f"  layers in time, an hour: differ by at most {gap / rise:.1%} of the highest rise; {mine_s * 1e3:.1f} ms, "
        f"scikit-fem {theirs_s * 1e3:.0f} ms: ratio {theirs_s / mine_s:.0f} x"
    )
