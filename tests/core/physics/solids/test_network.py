"""Solids with their insides: condensed they are what the steady model has, and in time they follow closed forms."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.fft import dct
from scipy.optimize import brentq
from scipy.sparse import csc_array, diags_array
from scipy.sparse.linalg import splu
from scipy.special import erfc

from mitten.core.design import FACES, Design
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.balance.storage import network_of
from mitten.core.physics.solids.ground import Layer
from mitten.core.physics.solids.network import NetworkBuilder, SolidNetwork, add_chain, add_ground, cells_of
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import climate_of, ledge_data, mat_data, read, tank_data
from tests.random_designs import random_design
from tests.strip import chain_in_time, elements_in_time

WOOD = Layer(0.1, 0.13, 0.85e6)
BOARD = Layer(0.016, 0.13, 1.1e6)
SAND = Layer(0.06, 0.3, 1.3e6)


def network(design: Design) -> SolidNetwork:
    return network_of(prepare(design, CATALOGUE), design, CATALOGUE)


def run(
    known: SolidNetwork, held: dict[int, float], seconds: float, steps: int, start: float = 0.0, ahead: float = 0.5
) -> Array:
    """Temperatures (n + m,) after a time, what is outside at 0, some nodes held; Crank and Nicolson, or Euler with 1."""
    nodes = known.conductance_w_k.shape[0]
    free = np.setdiff1d(np.arange(nodes), list(held))
    whole, step_s = csc_array(known.conductance_w_k), seconds / steps
    stored = diags_array(known.capacity_j_k[free] / step_s)
    inside = whole[free][:, free]
    factors, back = splu(csc_array(stored + ahead * inside)), stored - (1 - ahead) * inside
    temperature = start * known.even
    for node, kelvin in held.items():
        temperature[node] = kelvin
    gain = -whole[free][:, list(held)] @ np.array(list(held.values())) if held else np.zeros(len(free))
    for _ in range(steps):
        temperature[free] = factors.solve(back @ temperature[free] + gain)
    return temperature


def wall(layers: list[Layer], film_w_m2k: float) -> SolidNetwork:
    """One patch of a square metre with layers behind it."""
    builder = NetworkBuilder(1)
    add_chain(builder, np.array([0]), np.ones(1), layers, film_w_m2k, 0)
    return builder.build()


@pytest.mark.parametrize("design", demo_designs(), ids=lambda design: design.name)
def test_condensed_it_is_the_steady_models_conduction(design: Design) -> None:
    prepared = prepare(design, CATALOGUE)
    condensed = network_of(prepared, design, CATALOGUE).condensed()
    scale = np.abs(prepared.conduction).max()
    assert np.abs(condensed - prepared.conduction).max() < 1e-9 * scale


@pytest.mark.parametrize("seed", range(12))
def test_that_holds_for_designs_of_all_kinds(seed: int) -> None:
    design = random_design(seed)
    prepared = prepare(design, CATALOGUE)
    condensed = network_of(prepared, design, CATALOGUE).condensed()
    assert np.abs(condensed - prepared.conduction).max() < 1e-9 * np.abs(prepared.conduction).max()


def test_what_enters_a_node_and_does_not_go_on_leaves_by_its_face() -> None:
    known = network(read(ledge_data()))
    at_one = known.conductance_w_k @ known.even
    np.testing.assert_allclose(at_one, known.outside_w_k.sum(axis=1), atol=1e-9 * known.conductance_w_k.max())
    assert (abs(known.conductance_w_k - known.conductance_w_k.T)).max() < 1e-9 * known.conductance_w_k.max()
    assert (known.leaving_w(known.even, np.zeros(len(FACES))) > 0).all()
    np.testing.assert_allclose(known.leaving_w(known.even, np.ones(len(FACES))), 0.0, atol=1e-9)


def test_the_solids_at_rest_give_each_face_what_the_steady_state_says() -> None:
    climate = climate_of(ledge_data())
    prepared, surface_k = climate.state.prepared, climate.state.surface_c - 21.0
    known = network_of(prepared, climate.design, CATALOGUE)
    outside_k = np.zeros(len(FACES))
    inside_k = known.inside_at_rest(surface_k, outside_k)
    leaving_w = known.leaving_w(np.concatenate([surface_k, inside_k]), outside_k)
    for index, face in enumerate(FACES):
        assert leaving_w[index] == pytest.approx(climate.face_heat_w[face], rel=1e-6)


def test_a_box_stores_what_its_solids_weigh() -> None:
    """Volumes times heat capacities: 10 mm foam PVC, a glass front, 60 mm of substrate, a slate ledge."""
    design = read(ledge_data())
    prepared, box = prepare(design, CATALOGUE), design.enclosure
    walls = 0.0
    for surface in prepared.interior.surfaces:
        if surface.kind in ("wall", "ceiling"):
            panel = box.panels.of(surface.outer_face)
            made_of = CATALOGUE.panels[panel.material]
            area_m2 = surface.sizes[0] * surface.sizes[1]
            walls += area_m2 * panel.thickness_mm / 1000 * made_of.heat_capacity_mj_m3k * 1e6
    ground = (
        sum(layer.thickness_m * layer.heat_capacity_j_m3k for layer in prepared.ground) * box.length_m * box.depth_m
    )
    ledge = 0.3 * 0.26 * 0.025 * CATALOGUE.site_materials["slate"].heat_capacity_mj_m3k * 1e6
    assert network(design).capacity_j_k.sum() == pytest.approx(walls + ground + ledge, rel=1e-6)


def test_a_dish_stores_the_water_in_it() -> None:
    """The same slab as a dish and as a stone: seven tenths of it are water."""
    data = ledge_data()
    stores = {}
    for role in ("perch", "water"):
        data["sites"][0] = {**data["sites"][0], "role": role, "material": "resin", "thickness_mm": 50.0}
        stores[role] = network(read(data)).capacity_j_k.sum()
    resin = CATALOGUE.site_materials["resin"].heat_capacity_mj_m3k
    assert stores["water"] - stores["perch"] == pytest.approx(0.3 * 0.26 * 0.05 * 0.7 * (4.18 - resin) * 1e6, rel=1e-6)


@pytest.mark.parametrize("minutes", [5, 10, 30, 60])
def test_a_thick_wall_takes_up_heat_like_a_half_space(minutes: int) -> None:
    """``q = k / sqrt(pi a t)`` where the surface is held; Carslaw & Jaeger, Conduction of Heat in Solids."""
    known, seconds = wall([WOOD], 8.0), 60.0 * minutes
    found = run(known, {0: 1.0}, seconds, 400)
    entering = float((known.conductance_w_k[[0]] @ found)[0])
    diffusivity = WOOD.conductivity_w_mk / WOOD.heat_capacity_j_m3k
    assert entering == pytest.approx(WOOD.conductivity_w_mk / np.sqrt(np.pi * diffusivity * seconds), rel=0.02)


def test_its_inside_is_the_error_function() -> None:
    known, seconds = wall([WOOD], 8.0), 1800.0
    found = run(known, {0: 1.0}, seconds, 400)
    depths = np.concatenate([[0.0], np.cumsum([cell.thickness_m for cell in cells_of(WOOD)])])
    diffusivity = WOOD.conductivity_w_mk / WOOD.heat_capacity_j_m3k
    exact = erfc(depths / np.sqrt(4 * diffusivity * seconds))
    np.testing.assert_allclose(found, exact, atol=0.01)


def test_a_board_cools_with_the_time_constant_of_its_first_wave() -> None:
    """Insulated inside, a film outside: ``zeta tan(zeta) = Bi``, ``tau = L^2 / (a zeta^2)``; Incropera et al."""
    film, thickness = 8.0, BOARD.thickness_m
    biot = film * thickness / BOARD.conductivity_w_mk
    zeta = 0.8
    for _ in range(50):
        zeta = np.arctan(biot / zeta)
    diffusivity = BOARD.conductivity_w_mk / BOARD.heat_capacity_j_m3k
    known = wall([BOARD], film)
    early, late = (run(known, {}, seconds, 800, start=1.0)[0] for seconds in (3000.0, 6000.0))
    assert 3000.0 / np.log(early / late) == pytest.approx(thickness**2 / (diffusivity * zeta**2), rel=0.01)


def layered_series(seconds: float, layers: tuple[Layer, Layer], film: float, terms: int = 12) -> float:
    """The inner face of two layers that began at 1 K, insulated inside, a film to 0 outside: the sum of their
    eigenfunctions, the roots found between poles; Ozisik, Heat Conduction, composite media.
    """
    first, second = layers
    root = [np.sqrt(one.heat_capacity_j_m3k / one.conductivity_w_mk) for one in layers]
    effusive = [np.sqrt(one.heat_capacity_j_m3k * one.conductivity_w_mk) for one in layers]

    def angles(beta: Array | float) -> tuple[Array, Array]:
        return np.asarray(beta * root[0] * first.thickness_m), np.asarray(beta * root[1] * second.thickness_m)

    def shape(beta: Array | float) -> tuple[Array, Array]:
        """Amplitudes of cosine and sine in the second layer, for a cosine of 1 in the first one."""
        inner, _ = angles(beta)
        return np.cos(inner), -np.sin(inner) * effusive[0] / effusive[1]

    def outside(beta: Array | float) -> Array:
        """What the film takes beyond what conduction brings; 0 at a root."""
        (_, outer), (cosine, sine) = angles(beta), shape(beta)
        temperature = cosine * np.cos(outer) + sine * np.sin(outer)
        slope = beta * effusive[1] * (-cosine * np.sin(outer) + sine * np.cos(outer))
        return np.asarray(film * temperature + slope)

    grid = np.linspace(1e-6, 0.5, 200_000)
    signs = np.flatnonzero(np.diff(np.sign(outside(grid))))[:terms]
    total = 0.0
    for place in signs:
        beta = brentq(lambda at: float(outside(at)), grid[place], grid[place + 1])
        (inner, outer), (cosine, sine) = angles(beta), shape(beta)
        # Integrals of the eigenfunction and of its square, by the capacity of each layer.
        x, y = np.linspace(0, float(inner), 2001), np.linspace(0, float(outer), 2001)
        one, two = np.cos(x), cosine * np.cos(y) + sine * np.sin(y)
        widths = [effusive[0] / beta, effusive[1] / beta]
        whole = widths[0] * np.trapezoid(one, x) + widths[1] * np.trapezoid(two, y)
        norm = widths[0] * np.trapezoid(one**2, x) + widths[1] * np.trapezoid(two**2, y)
        total += whole / norm * np.exp(-(beta**2) * seconds)
    return float(total)


@pytest.mark.parametrize("minutes", [20, 60, 180])
@pytest.mark.parametrize("layers", [(BOARD, SAND), (SAND, BOARD), (BOARD, Layer(0.02, 0.034, 4e4))])
def test_a_layered_wall_cools_as_its_series_says(layers: tuple[Layer, Layer], minutes: int) -> None:
    known = wall(list(layers), 8.0)
    found = run(known, {}, 60.0 * minutes, 800, start=1.0)[0]
    assert found == pytest.approx(layered_series(60.0 * minutes, layers, 8.0), abs=0.006)


def test_layers_in_time_are_those_of_finite_elements() -> None:
    elements = elements_in_time()
    np.testing.assert_allclose(chain_in_time(), elements, atol=0.01 * elements.max())


def test_a_lump_cools_by_its_capacity_alone() -> None:
    glass = Layer(0.004, 1.0, 2.1e6)
    found = run(wall([glass], 8.0), {}, 1000.0, 400, start=1.0)
    assert found[0] == pytest.approx(np.exp(-8.0 * 1000.0 / (0.004 * 2.1e6)), rel=0.02)


def test_even_ground_is_the_wall_of_its_layers() -> None:
    """Without a pattern in plan the waves say what a chain in depth says, also in time."""
    builder = NetworkBuilder(6)
    add_ground(builder, np.arange(6), (3, 2), (0.3, 0.2), [BOARD, SAND], 1.5, 0)
    ground = builder.build()
    chain = wall([SAND, BOARD], 1.5)
    found, expected = run(ground, {}, 7200.0, 200, start=1.0), run(chain, {}, 7200.0, 200, start=1.0)
    np.testing.assert_allclose(found[:6], expected[0], rtol=1e-9)


def test_a_pattern_in_the_ground_fades_as_quickly_as_its_wave_says() -> None:
    """In plan a cosine wave fades by ``k kappa^2 / (rho c)`` beside what leaves downwards."""
    counts, sizes = (12, 1), (0.24, 0.1)
    builder = NetworkBuilder(12)
    thin = Layer(0.004, 0.3, 1.3e6)
    add_ground(builder, np.arange(12), counts, sizes, [thin], 1e-9, 0)
    known = builder.build()
    wave = np.cos(np.pi * (np.arange(12) + 0.5) / 12)
    stored = diags_array(known.capacity_j_k)
    both = np.concatenate([wave, dct(wave, norm="ortho")])
    fading = splu(csc_array(stored)).solve(known.conductance_w_k @ both)
    kappa = np.pi / 0.24
    np.testing.assert_allclose(
        fading[:12], thin.conductivity_w_mk * kappa**2 / thin.heat_capacity_j_m3k * wave, rtol=1e-3
    )


@settings(max_examples=60, deadline=None)
@given(st.floats(0.001, 0.3), st.floats(0.03, 2.5), st.floats(1e4, 4e6))
def test_cells_are_the_layer_again_and_finest_at_its_borders(thickness: float, k: float, capacity: float) -> None:
    cells = cells_of(Layer(thickness, k, capacity))
    thicknesses = [cell.thickness_m for cell in cells]
    assert sum(thicknesses) == pytest.approx(thickness)
    assert thicknesses == pytest.approx(thicknesses[::-1])
    assert min(thicknesses) == thicknesses[0]
    assert len(cells) == 1 or thicknesses[0] <= np.sqrt(k / capacity * 120.0) * (1 + 1e-9)
    assert len(cells) < 40


@pytest.mark.parametrize("design", [tank_data(), mat_data()], ids=["mesh", "mat"])
def test_a_box_that_is_left_alone_comes_to_the_rooms_temperature_and_never_past_it(design: dict[str, object]) -> None:
    known = network(read(design))
    found = run(known, {}, 4 * 86400.0, 400, start=10.0, ahead=1.0)[: known.patches]
    assert found.max() < 1.0
    assert found.min() > -1e-6
