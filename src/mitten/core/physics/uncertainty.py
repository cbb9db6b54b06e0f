"""How sure each figure is: the model's uncertain parameters moved one at a time, and what that does added up.

First order: each parameter is moved by one standard deviation and the solution follows with the factors it already
has. The squares of the changes add up; 90 % of a normal distribution lie within 1.645 of their root.
"""

from collections.abc import Callable, Collection, Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np

from mitten.core.physics.balance.steady import with_factors
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.solving import effects_of, tweaked
from mitten.core.physics.tweaks import Tweaks

NINETY_PERCENT = 1.645
Interval = tuple[float, float]
Figure = Callable[[Climate], float]


@dataclass(frozen=True)
class Parameter:
    """An uncertain parameter: its key and words, one standard deviation, and how ``tweaks`` moves it by that much."""

    key: str
    label: str
    sigma: str
    tweaks: Tweaks
    matters: Callable[[Climate], bool] = lambda _: True


OUTPUT_SIGMA = 0.12
"""Relative standard deviation of what a heater gives beside what is printed on it; each heater's is its own."""


def shines_through(climate: Climate) -> bool:
    """Whether a lamp shines through the lid."""
    return any(lamp.beam.above_mesh for lamp in climate.state.lamps)


def has_uv(climate: Climate) -> bool:
    """Whether anything gives ultraviolet there."""
    return climate.basking.uvi > 0


PARAMETERS: tuple[Parameter, ...] = (
    Parameter("beam", "beam width", "25 %", Tweaks(beam=1.25), lambda climate: bool(climate.state.lamps)),
    Parameter("mesh", "open share of the mesh", "10 %", Tweaks(mesh=1.1), shines_through),
    Parameter("outside_film", "film outside the box", "25 %", Tweaks(outside_film=1.25)),
    Parameter("ventilation", "air exchange", "times or over 1.5", Tweaks(ventilation=1.5)),
    Parameter("ground", "conductivity of the substrate", "30 %", Tweaks(ground=1.3)),
    Parameter(
        "absorptance", "absorptance of ground and sites", "10 %", Tweaks(absorptance=1.1),
        lambda climate: bool(climate.state.lamps),
    ),
    Parameter("ultraviolet", "output of UV lamps beside their reading", "15 %", Tweaks(ultraviolet=1.15), has_uv),
    Parameter("room", "room temperature", "1 K", Tweaks(room_k=1.0)),
    Parameter("room_rh", "room humidity", "5 points", Tweaks(room_rh=0.05)),
)  # fmt: skip
"""Priors. Every heater's output stands beside these."""


def parameters_of(climate: Climate) -> Iterator[Parameter]:
    """The parameters that can move a climate."""
    for source in climate.state.sources.all:
        label = f"output of '{source.name}'"
        yield Parameter(f"output:{source.name}", label, "12 %", Tweaks(outputs=((source.name, 1.0 + OUTPUT_SIGMA),)))
    yield from (parameter for parameter in PARAMETERS if parameter.matters(climate))


def _of_site(name: str) -> dict[str, Figure]:
    return {
        f"sites.{name}.surface_c": lambda climate: climate.site_field(name).hottest()[0],
        f"sites.{name}.air_c": lambda climate: climate.site(name).air_c,
        f"sites.{name}.irradiance_w_m2": lambda climate: climate.site(name).irradiance_w_m2,
        f"sites.{name}.operative_c": lambda climate: climate.site(name).operative_c,
        f"sites.{name}.uvi": lambda climate: climate.site(name).uvi,
    }


def _of_control(name: str) -> dict[str, Figure]:
    return {
        f"controls.{name}.duty": lambda climate: climate.controls[name].duty,
        f"controls.{name}.probe_c": lambda climate: climate.controls[name].probe_c,
    }


FIGURES: Mapping[str, Figure] = {
    "air.warm_c": lambda climate: climate.air.warm_c,
    "air.middle_c": lambda climate: climate.air.middle_c,
    "air.cool_c": lambda climate: climate.air.cool_c,
    "air.top_c": lambda climate: climate.air.top_c,
    "air.mean_c": lambda climate: climate.air.mean_c,
    "air.rh_warm": lambda climate: climate.humidity.warm,
    "air.rh_cool": lambda climate: climate.humidity.cool,
    "air.rh_mean": lambda climate: climate.humidity.mean,
    "floor.max_c": lambda climate: climate.floor.hottest()[0],
    "basking.surface_c": lambda climate: climate.basking.surface_c,
    "basking.air_c": lambda climate: climate.basking.air_c,
    "basking.operative_c": lambda climate: climate.basking.operative_c,
    "basking.uvi": lambda climate: climate.basking.uvi,
    "basking.irradiance_w_m2": lambda climate: climate.basking.irradiance_w_m2,
    "basking.silicon_w_m2": lambda climate: climate.basking.arriving.silicon_w_m2,
    "basking.thermopile_w_m2": lambda climate: climate.basking.arriving.thermopile_w_m2,
    "basking.true_w_m2": lambda climate: climate.basking.irradiance_w_m2,
    "base.max_c": lambda climate: climate.base_c,
    "shelf.max_c": lambda climate: climate.shelf_c,
}
"""Figures that carry an interval in every design, by their path in the published result."""


def figures_of(climate: Climate) -> dict[str, Figure]:
    """Every figure that carries an interval, those of sites and controls too."""
    found = dict(FIGURES)
    for site in climate.design.sites:
        found |= _of_site(site.name)
    for name in climate.controls:
        found |= _of_control(name)
    return found


def headline_figures(climate: Climate) -> dict[str, float]:
    """The figures that carry an interval, by their path in the published result."""
    return {path: figure(climate) for path, figure in figures_of(climate).items()}


def intervals(climate: Climate, paths: Collection[str] | None = None) -> dict[str, Interval]:
    """90 % intervals, (low, high), of the figures with those paths, or of every one; fewer take less time."""
    figures = {path: figure for path, figure in figures_of(climate).items() if paths is None or path in paths}
    nominal = {path: figure(climate) for path, figure in figures.items()}
    begun = replace(climate, state=with_factors(climate.state))
    effects = effects_of(begun)
    squares = dict.fromkeys(nominal, 0.0)
    for parameter in parameters_of(climate):
        moved = tweaked(begun, parameter.tweaks, effects)
        for path, figure in figures.items():
            squares[path] += (figure(moved) - nominal[path]) ** 2
    return {path: _interval(path, figure, squares[path]) for path, figure in nominal.items()}


def _interval(path: str, figure: float, square: float) -> Interval:
    reach = NINETY_PERCENT * float(np.sqrt(square))
    low, high = figure - reach, figure + reach
    if path.endswith(("duty", "rh_warm", "rh_cool", "rh_mean")):
        return max(low, 0.0), min(high, 1.0)
    if path.endswith(("w_m2", "uvi")):
        return max(low, 0.0), high
    return low, high
