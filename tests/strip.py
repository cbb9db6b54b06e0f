"""A strip of glass under fibre with a mat under the glass, solved twice: by finite elements and by our waves."""

import numpy as np
from skfem import Basis, BilinearForm, ElementQuad2, FacetBasis, LinearForm, MeshQuad, condense, solve
from skfem.helpers import dot, grad

from mitten.core.physics.solids.ground import BuriedSource, Layer, admittance_w_m2k, below_surface_k, spread

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
