"""Conduction in layered slabs: resistances in series, exact waves, and an independent finite-difference solution."""

import numpy as np
import pytest
from scipy.sparse import lil_matrix
from scipy.sparse.linalg import spsolve

from mitten.core.design import Enclosure, Face, Underside
from mitten.core.physics.solids.ground import (
    Layer,
    admittance_w_m2k,
    below_surface_k,
    conductance_matrix,
    surface_response_k,
    wave_numbers,
)
from mitten.core.physics.solids.panels import outside_films_w_m2k, panel_u_w_m2k, shelf_share, underside_w_m2k
from tests.catalogue import CATALOGUE
from tests.designs import panels

LAYERS = (Layer(0.010, 0.07), Layer(0.040, 0.30))
BELOW = 4.0


def test_a_level_temperature_meets_the_layers_in_series() -> None:
    expected = 1 / (1 / BELOW + 0.010 / 0.07 + 0.040 / 0.30)
    assert admittance_w_m2k(np.zeros((1, 1)), LAYERS, BELOW)[0, 0] == pytest.approx(expected)
    matrix = conductance_matrix((8, 5), (0.8, 0.5), LAYERS, BELOW)
    assert (matrix @ np.ones(40)).sum() == pytest.approx(expected * 0.4)


def test_a_fine_wave_sees_a_deep_slab_as_endless() -> None:
    """A wave of wave number kappa in an endless solid draws k kappa."""
    assert admittance_w_m2k(np.array([[400.0]]), LAYERS, BELOW)[0, 0] == pytest.approx(0.30 * 400.0)


def test_conduction_between_patches_is_mutual_and_passes_no_heat_back() -> None:
    matrix = conductance_matrix((8, 5), (0.8, 0.5), LAYERS, BELOW)
    assert np.allclose(matrix, matrix.T)
    assert np.linalg.eigvalsh(matrix).min() > 0


def test_the_base_follows_from_the_surface_by_the_resistances() -> None:
    surface = np.full((4, 6), 10.0)
    flux = 10.0 * admittance_w_m2k(np.zeros((1, 1)), LAYERS, BELOW)[0, 0]
    assert np.allclose(below_surface_k(surface, (0.6, 0.4), LAYERS, BELOW, 0.040), 10.0 - flux * 0.040 / 0.30)
    assert np.allclose(below_surface_k(surface, (0.6, 0.4), LAYERS, BELOW, 0.020), 10.0 - flux * 0.020 / 0.30)


def test_spreading_under_a_spot_agrees_with_finite_differences() -> None:
    """A strip, warm in its middle: an independent two-dimensional grid of 60 x 40 cells."""
    columns, rows, length, depth, k, film = 60, 40, 0.6, 0.04, 0.3, 10.0
    dx, dz = length / columns, depth / rows
    xs = (np.arange(columns) + 0.5) * dx
    flux = 300.0 * np.exp(-(((xs - 0.3) / 0.06) ** 2))
    matrix, right = lil_matrix((columns * rows, columns * rows)), np.zeros(columns * rows)
    for j in range(rows):
        for i in range(columns):
            here = j * columns + i
            for there, conductance, inside in (
                (here + 1, k * dz / dx, i + 1 < columns), (here - 1, k * dz / dx, i > 0),
                (here + columns, k * dx / dz, j + 1 < rows), (here - columns, k * dx / dz, j > 0),
            ):  # fmt: skip
                if inside:
                    matrix[here, here] += conductance
                    matrix[here, there] -= conductance
            if j == rows - 1:
                matrix[here, here] += dx / (1 / film + dz / 2 / k)
                right[here] += flux[i] * dx * (1 / film) / (1 / film + dz / 2 / k)
            if j == 0:
                matrix[here, here] += dx / (1 / BELOW + dz / 2 / k)
    top = spsolve(matrix.tocsr(), right)[-columns:]
    surface = (top * k / (dz / 2) + flux) / (k / (dz / 2) + film)
    found = surface_response_k(np.tile(flux, (20, 1)), (length, 0.3), (Layer(depth, k),), BELOW, film)
    assert np.abs(found[10] - surface).max() < 0.01 * surface.max()


def test_an_even_flux_on_a_slab_that_loses_nothing_has_no_answer_and_is_left_out() -> None:
    slab, sizes_m = (Layer(0.02, 0.5),), (0.2, 0.1)
    even = surface_response_k(np.full((4, 6), 50.0), sizes_m, slab, 0.0, 0.0)
    assert even == pytest.approx(0.0)
    uneven = 50.0 * np.cos(np.pi * (np.arange(6) + 0.5) / 6) * np.ones((4, 1))
    nearly, none = (surface_response_k(uneven, sizes_m, slab, 0.0, film) for film in (1e-9, 0.0))
    assert none == pytest.approx(nearly, rel=1e-6)
    assert none.max() > 10.0


def test_wave_numbers_start_level() -> None:
    kappa = wave_numbers((3, 2), (0.3, 0.2))
    assert kappa[0, 0] == 0.0
    assert kappa[0, 1] == pytest.approx(np.pi / 0.3)


def test_a_composite_panel_loses_by_its_resistances() -> None:
    box = Enclosure.model_validate_json(
        '{"length_m": 1, "depth_m": 0.5, "height_m": 0.5, "against": ["back"], "panels": '
        '{"left": {"material": "melamine", "thickness_mm": 16, "insulation_mm": 20}}}'
    )
    films = outside_films_w_m2k(box, {"right": 2.0})

    def u_of(face: Face) -> float:
        panel = box.panels.of(face)
        return panel_u_w_m2k(panel, CATALOGUE.panels[panel.material], films[face])

    assert u_of("left") == pytest.approx(1 / (0.016 / 0.13 + 0.020 / 0.034 + 1 / 8.0))
    assert u_of("front") == pytest.approx(1 / (0.004 / 1.0 + 1 / 8.0))
    assert u_of("back") == pytest.approx(1 / (0.004 / 1.0 + 1 / 3.0))
    assert u_of("right") == pytest.approx(1 / (0.004 / 1.0 + 1 / 2.0)), "as it is given"
    assert set(panels("melamine", 16.0)) == {"floor", "top", "left", "right", "back", "front"}


def test_undersides_lose_less_the_better_they_are_insulated() -> None:
    kinds = [Underside(raised=True), Underside(), Underside(insulated=True), Underside(raised=True, insulated=True)]
    losses = [underside_w_m2k(kind) for kind in kinds]
    assert losses == sorted(losses, reverse=True)
    assert losses[:3] == [5.0, 1.5, 0.8]


def test_a_shelf_rises_by_what_passes_into_it() -> None:
    """Flat: 25 W/m2K of contact in line with what leaves the shelf makes 1.5; on feet: three tenths of the underside's rise."""
    assert shelf_share(Underside()) == pytest.approx(1.5 * (1 / 1.5 - 1 / 25))
    assert shelf_share(Underside(insulated=True)) == pytest.approx(0.8 * (1 / 1.5 - 1 / 25))
    assert shelf_share(Underside(raised=True)) == pytest.approx(0.3)
    assert shelf_share(Underside(raised=True, insulated=True)) == pytest.approx(0.3 * (1 / (1 / 0.8 + 1 / 5)) / 5)
