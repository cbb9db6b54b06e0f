"""The model's validations as data: what is checked, what is wanted, and the figure that is reached.

``docs/model.md`` prints them and a test holds them, so that neither can drift from the code.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache

import numpy as np

from mitten.core.design import Enclosure, Probe, Substrate
from mitten.core.physics.air.moisture import pressure_pa, saturation_ratio
from mitten.core.physics.air.zones import plume_flow_m3_s
from mitten.core.physics.radiation.lamps import across_the_beam_w_m2
from mitten.core.physics.radiation.spectrum import Spectrum, bands_of, fraction_below
from mitten.core.physics.reading.body import Body, minutes_between
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.probes import beam_error_k
from mitten.core.physics.shape.geometry import build_interior
from mitten.core.physics.shape.view_factors import view_factors
from tests.designs import board_data, box_data, climate_of, ledge_data, mat_data, panel_data, tank_data


@dataclass(frozen=True)
class Validation:
    """One check: the figure must lie in low..high, and ``docs/model.md`` may differ from it by ``slack``."""

    what: str
    low: float
    high: float
    figure: Callable[[], float]
    unit: str
    slack: float
    decimals: int = 1

    @property
    def wanted(self) -> str:
        """The band in words."""
        return f"{self.low:g} to {self.high:g} {self.unit}".strip()

    def reached(self) -> str:
        """The figure in words."""
        return f"{self.figure():.{self.decimals}f} {self.unit}".strip()


@cache
def _cases() -> dict[str, Climate]:
    reflector = ledge_data(kind="incandescent-reflector", watts=100.0, z_m=0.485)
    return {
        "tank": climate_of(tank_data()),
        "box": climate_of(box_data()),
        "near": climate_of(box_data(watts=60.0, z_m=0.32)),
        "board": climate_of(board_data()),
        "panel": climate_of(panel_data()),
        "reflector": climate_of(reflector),
        "ledge": climate_of(ledge_data(watts=60.0, z_m=0.53)),
        "fine": climate_of(ledge_data(watts=60.0, z_m=0.53), fineness=2.0),
        **{f"mat {depth:g}": climate_of(mat_data(depth)) for depth in (5.0, 25.0, 50.0)},
        "mat probe": climate_of(mat_data(50.0, {"reads": "heater"}, 35.0)),
    }


def _case(name: str, figure: Callable[[Climate], float]) -> Callable[[], float]:
    return lambda: figure(_cases()[name])


def _unit_squares(there: str) -> float:
    inside = build_interior(Enclosure(length_m=1.0, depth_m=1.0, height_m=1.001), Substrate(depth_mm=1.0), [])
    a, b = (inside.span(inside.index_of(face)) for face in ("floor", there))
    areas = inside.radiating_m2[a]
    return float(areas @ view_factors(inside)[a, b].sum(axis=1) / areas.sum())


def _plume() -> float:
    """Flow 0.4 m above 30 W at 296 K over the closed form's."""
    closed = 0.153 * (9.80665 * 30 / (1.2 * 1006 * 296)) ** (1 / 3) * 0.4 ** (5 / 3)
    return float(plume_flow_m3_s(np.array([30.0]), np.array([0.4]), 296.0, 1.2)[0] / closed)


def _probe_error_k() -> float:
    """Reading error of a dark unshaded probe where the beam is 250 W/m2."""
    state = _cases()["box"].state
    heights = np.linspace(0.05, 0.12, 8)
    falling = [
        across_the_beam_w_m2(state.lamps[0], state.prepared.interior, None, np.array([0.95, 0.3, z])) for z in heights
    ]
    errors = [beam_error_k(state, Probe(x_m=0.95, y_m=0.3, z_m=float(z))) for z in heights]
    return float(np.interp(250.0, falling, errors))


def _residual() -> float:
    """Largest energy residual of all cases, in per cent of the input."""
    return max(abs(c.energy.residual_w) / c.energy.in_w for c in _cases().values()) * 100


def _silicon_percent(climate: Climate) -> float:
    spot = climate.sites["Ledge"]
    return spot.arriving.silicon_w_m2 / spot.irradiance_w_m2 * 100


def _warm_up() -> float:
    place = _cases()["ledge"].sites["Ledge"].place
    return minutes_between(Body(60.0, 0.3, 0.025, "lizard"), place, 24.0, 36.0) or np.inf


def validations() -> Iterator[Validation]:
    """Every one of them."""
    yield from _closed_forms()
    yield from _lamps()
    yield from _other_sources()


def _closed_forms() -> Iterator[Validation]:
    yield Validation(
        "opposed unit squares, view factor 0.1998", 0.1978, 0.2018, lambda: _unit_squares("top"), "", 1e-4, 4
    )
    yield Validation("unit squares sharing an edge, 0.2000", 0.198, 0.202, lambda: _unit_squares("left"), "", 1e-4, 4)
    yield Validation(
        "black-body share below 4000 µm K, 0.4809", 0.4804, 0.4814, lambda: fraction_below(4e-3, 1.0), "", 1e-4, 4
    )
    for name, low, high in (("visible", 0.06, 0.1), ("ir_a", 0.39, 0.47), ("ir_b", 0.34, 0.42), ("ir_c", 0.09, 0.13)):
        share = getattr(bands_of(Spectrum(2950.0)), name)
        yield Validation(f"halogen filament at 2950 K, share {name}", low, high, lambda share=share: share, "", 1e-3, 3)  # type: ignore[misc]
    yield Validation("plume flow over the closed form", 0.999, 1.001, _plume, "", 1e-4, 4)
    saturated = saturation_ratio(np.array([20.0]), pressure_pa(0.0))[0] * 1000
    yield Validation("saturated air at 20 °C, 14.76 g/kg", 14.68, 14.83, lambda: float(saturated), "g/kg", 0.01, 2)
    yield Validation("largest energy residual of all cases", 0.0, 0.1, _residual, "%", 0.1, 3)
    spot = lambda: abs(_cases()["ledge"].sites["Ledge"].surface_c - _cases()["fine"].sites["Ledge"].surface_c)  # noqa: E731
    yield Validation("patches halved: the ledge's spot moves", 0.0, 1.0, spot, "K", 0.2, 2)
    air = lambda: abs(_cases()["ledge"].air.mean_c - _cases()["fine"].air.mean_c)  # noqa: E731
    yield Validation("patches halved: the mean air moves", 0.0, 0.3, air, "K", 0.1, 2)


def _lamps() -> Iterator[Validation]:
    spot = lambda c: c.floor.hottest()[0]  # noqa: E731
    cool = lambda c: float(c.floor.temperature_c[:, : c.floor.temperature_c.shape[1] // 6].mean())  # noqa: E731
    yield Validation("glass tank, mesh, 100 W flood: soil under it", 34, 43, _case("tank", spot), "°C", 0.3)
    yield Validation("the same: cool-end low air", 21, 24, _case("tank", lambda c: c.air.cool_c), "°C", 0.3)
    yield Validation(
        "the same: ventilation", 2, 8, _case("tank", lambda c: c.state.exchange.total_m3_s * 1e3), "l/s", 0.2
    )
    yield Validation("white foam-PVC box, 75 W flood: soil under it", 37, 46, _case("box", spot), "°C", 0.3)
    yield Validation("the same: mean air", 24, 28, _case("box", lambda c: c.air.mean_c), "°C", 0.3)
    yield Validation("the same: cool-end soil", 22, 25, _case("box", cool), "°C", 0.3)
    yield Validation("the same box, 60 W at 28 cm: soil under it", 47, 58, _case("near", spot), "°C", 0.4)
    yield Validation("melamine box, 100 W ceramic: mean air", 29, 41, _case("board", lambda c: c.air.mean_c), "°C", 0.3)
    yield Validation("the same: air at the ceiling", 42, 70, _case("board", lambda c: c.air.top_c), "°C", 0.5)
    yield Validation(
        "100 W reflector at 30 cm: true irradiance", 600, 950,
        _case("reflector", lambda c: c.sites["Ledge"].irradiance_w_m2), "W/m²", 10, 0,
    )  # fmt: skip
    yield Validation("the same: a silicon meter shows, of it", 33, 50, _case("reflector", _silicon_percent), "%", 1, 0)
    yield Validation("a dark probe in 250 W/m² reads high by", 3, 6, _probe_error_k, "K", 0.1)


def _other_sources() -> Iterator[Validation]:
    for depth, surface_c, base_c in ((5, 36, 40), (25, 32, 48), (50, 29, 52)):
        what = f"16 W mat under glass, {depth} mm of dry fibre"
        case = f"mat {depth:g}"
        top = _case(case, lambda c: c.floor.hottest()[0])
        yield Validation(f"{what}: surface", surface_c - 4, surface_c + 4, top, "°C", 0.3)
        yield Validation(f"{what}: base", base_c - 4, base_c + 4, _case(case, lambda c: c.base_c), "°C", 0.4)
    hottest = lambda c: max(float(c.state.surface_c.max()), c.base_c)  # noqa: E731
    yield Validation(
        "the same, probe on the mat at 35 °C: hottest of all", 30, 35.5, _case("mat probe", hottest), "°C", 0.3
    )
    mean = lambda: abs(_cases()["panel"].air.mean_c - _cases()["box"].air.mean_c)  # noqa: E731
    yield Validation("80 W panel beside a 75 W flood: mean air differs", 0, 2, mean, "K", 0.2)
    spot = lambda: _cases()["box"].floor.hottest()[0] - _cases()["panel"].floor.hottest()[0]  # noqa: E731
    yield Validation("the same: the flood's spot is hotter by", 8, 20, spot, "K", 0.4)
    yield Validation("60 g lizard, surface 40 °C: from 24 to 36 °C", 8, 30, _warm_up, "min", 1)
