"""A strip of glass under fibre over a mat, and layers in time: by finite elements, and by our waves and chains."""

import numpy as np
from scipy.sparse import csc_array, diags_array
from scipy.sparse.linalg import splu
from skfem import (
    Basis,
    BilinearForm,
    ElementLineP2,
    ElementQuad2,
    FacetBasis,
    LinearForm,
    MeshLine,
    MeshQuad,
    condense,
    solve,
)
from skfem.helpers import dot, grad

from mitten.core.physics.solids.ground import BuriedSource, Layer, admittance_w_m2k, below_surface_k, spread
from mitten.core.physics.solids.network import NetworkBuilder, add_chain, cells_of

GLASS, FIBRE = Layer(0.004, 1.0), Layer(0.03, 0.09)
BELOW, FILM = 5.0, 10.0
CELLS = 120


def finite_elements(length: float, mat: tuple[float, float], flux: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Places, surface and base of a strip: glass under fibre, a mat under the glass; scikit-fem, quadratic elements."""
    xs = np.linspace(0.0, length, CELLS + 1)
    zs = np.concatenate([np.linspace(0.0, 0.004, 5), np.linspace(0.004, 0.034, 25)[1:]])
    mesh = MeshQuad.init_tensor(xs, zs)
    basis = Basis(mesh, ElementQuad2())
    k = np.where(mesh.p[1, mesh.t].mean(axis=0) < 0.004, GLASS.conductivity_w_mk, FIBRE.conductivity_w_mk)

    @BilinearForm
    def conduction(u, v, w):  # type: ignore[no-untyped-def]
        return w["k"] * dot(grad(u), grad(v))

    @BilinearForm
    def losing(u, v, w):  # type: ignore[no-untyped-def]
        return w["h"] * u * v

    @LinearForm
    def heating(v, w):  # type: ignore[no-untyped-def]
        return flux * ((w.x[0] > mat[0]) & (w.x[0] < mat[1])) * v

    top = FacetBasis(mesh, ElementQuad2(), facets=mesh.facets_satisfying(lambda x: x[1] > 0.034 - 1e-9))
    bottom = FacetBasis(mesh, ElementQuad2(), facets=mesh.facets_satisfying(lambda x: x[1] < 1e-9))
    matrix = conduction.assemble(basis, k=np.repeat(k[:, None], basis.X.shape[1], axis=1))
    matrix = matrix + losing.assemble(top, h=FILM) + losing.assemble(bottom, h=BELOW)
    rises = solve(*condense(matrix, heating.assemble(bottom), D=np.array([], dtype=int)))
    middles = (xs[1:] + xs[:-1]) / 2
    probes = [basis.probes(np.array([middles, np.full_like(middles, z)])) @ rises for z in (0.034 - 1e-9, 0.004)]
    return middles, probes[0], probes[1]


def waves(xs: np.ndarray, length: float, mat: tuple[float, float], flux: float) -> tuple[np.ndarray, np.ndarray]:
    """Surface and base at the same places by cosine waves; the strip is the same along y."""
    pattern = np.tile(np.where((xs > mat[0]) & (xs < mat[1]), flux, 0.0), (2, 1))
    sizes, layers = (length, 0.4), (GLASS, FIBRE)
    source = BuriedSource((), layers, BELOW)

    def top(kappa: np.ndarray) -> np.ndarray:
        return np.asarray(source.share_into_top(kappa) / (FILM + admittance_w_m2k(kappa, layers, BELOW)))

    surface = spread(pattern, sizes, top)
    base = below_surface_k(surface, sizes, layers, BELOW, FIBRE.thickness_m)
    base = base + spread(pattern, sizes, lambda kappa: source.rise_above_k(kappa, GLASS.thickness_m))
    return surface[0], base[0]


SAND_MOVING, BOARD_MOVING = Layer(0.06, 0.3, 1.3e6), Layer(0.016, 0.13, 1.1e6)
FLUX, HOUR_S, STEPS = 100.0, 3600.0, 720


def chain_in_time() -> np.ndarray:
    """Rises at the nodes of a square metre of sand on board, heated from above for an hour, a film below; our chain."""
    builder = NetworkBuilder(1)
    add_chain(builder, np.array([0]), np.ones(1), [SAND_MOVING, BOARD_MOVING], BELOW, 0)
    known = builder.build()
    gain = np.zeros(known.conductance_w_k.shape[0])
    gain[0] = FLUX
    return _stepped(csc_array(known.conductance_w_k), csc_array(diags_array(known.capacity_j_k)), gain)


def chain_depths_m() -> np.ndarray:
    """Where its nodes lie, from the heated surface on."""
    cells = [*cells_of(SAND_MOVING), *cells_of(BOARD_MOVING)]
    return np.concatenate([[0.0], np.cumsum([cell.thickness_m for cell in cells])])


def elements_in_time() -> np.ndarray:
    """The same at the same depths by quadratic elements of a millimetre."""
    sand_m, whole_m = SAND_MOVING.thickness_m, SAND_MOVING.thickness_m + BOARD_MOVING.thickness_m
    mesh = MeshLine(np.unique(np.concatenate([np.arange(0.0, whole_m, 0.001), [sand_m, whole_m]])))
    basis, middles = Basis(mesh, ElementLineP2()), mesh.p[0, mesh.t].mean(axis=0)
    layers = [SAND_MOVING if middle < sand_m else BOARD_MOVING for middle in middles]
    k, c = (np.array([getattr(one, name) for one in layers]) for name in ("conductivity_w_mk", "heat_capacity_j_m3k"))

    @BilinearForm
    def conduction(u, v, w):  # type: ignore[no-untyped-def]
        return w["k"] * dot(grad(u), grad(v))

    @BilinearForm
    def storing(u, v, w):  # type: ignore[no-untyped-def]
        return w["c"] * u * v

    quadrature = basis.X.shape[1]
    matrix = csc_array(conduction.assemble(basis, k=np.repeat(k[:, None], quadrature, axis=1)))
    stored = csc_array(storing.assemble(basis, c=np.repeat(c[:, None], quadrature, axis=1)))
    ends = [int(np.abs(basis.doflocs[0] - at).argmin()) for at in (0.0, whole_m)]
    losing = matrix.tolil()
    losing[ends[1], ends[1]] += BELOW
    gain = np.zeros(basis.N)
    gain[ends[0]] = FLUX
    rises = _stepped(csc_array(losing), stored, gain)
    return np.asarray(basis.probes(np.array([np.minimum(chain_depths_m(), whole_m - 1e-12)])) @ rises)


def _stepped(matrix: csc_array, stored: csc_array, gain: np.ndarray) -> np.ndarray:
    """From nothing through an hour in Crank and Nicolson's steps."""
    step_s, rises = HOUR_S / STEPS, np.zeros(len(gain))
    factors, back = splu(csc_array(stored / step_s + matrix / 2)), stored / step_s - matrix / 2
    for _ in range(STEPS):
        rises = factors.solve(back @ rises + gain)
    return rises
