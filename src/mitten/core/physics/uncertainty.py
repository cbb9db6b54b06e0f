"""How sure each figure is: the model's uncertain parameters moved one at a time, and what that does added up.

First order: each parameter is moved by one standard deviation and the solution follows with the factors it already
has. The squares of the changes add up; 90 % of a normal distribution lie within 1.645 of their root. A parameter that
does not do the same both ways - a narrower beam heats its spot more than a wider one cools it - is moved both ways, so
that intervals may be lopsided. Nothing is colder than the unheated room may be.
"""

from collections.abc import Callable, Collection, Iterator, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

import numpy as np

from mitten.core.design import Site
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.hides import is_hide
from mitten.core.physics.reading.probes import probe_c
from mitten.core.physics.solving import Effects, effects_of, tweak
from mitten.core.physics.tweaks import Tweaks

NINETY_PERCENT = 1.645
Interval = tuple[float, float]
Figure = Callable[[Climate], float]


@dataclass(frozen=True)
class Prior:
    """What is known of an uncertain parameter before anything was measured: ``moved`` gives the tweaks that move it by
    so much, ``sigma`` is one standard deviation of that, and ``unit`` says what it is counted in.
    """

    label: str
    sigma: float
    unit: Literal["%", "times", "K", "points"]
    moved: Callable[[float], Tweaks]
    matters: Callable[[Climate], bool] = lambda _: True
    both_ways: bool = False
    """Whether it has to be moved both ways, because it does not do the same."""

    @property
    def words(self) -> str:
        """One standard deviation as it is written."""
        return {
            "%": f"{self.sigma * 100:g} %",
            "times": f"times or over {1 + self.sigma:g}",
            "K": f"{self.sigma:g} K",
            "points": f"{self.sigma * 100:g} points",
        }[self.unit]


@dataclass(frozen=True)
class Parameter:
    """An uncertain parameter of one climate: its key, and how ``tweaks`` moves it by one standard deviation.

    ``downwards`` moves it as far the other way, for one that does not do the same both ways.
    """

    key: str
    tweaks: Tweaks
    downwards: Tweaks | None = None


def shines_through(climate: Climate) -> bool:
    """Whether a lamp shines through the lid."""
    return any(lamp.beam.above_mesh for lamp in climate.state.lamps)


def has_lamps(climate: Climate) -> bool:
    """Whether anything radiates."""
    return bool(climate.state.lamps)


def has_uv(climate: Climate) -> bool:
    """Whether anything gives ultraviolet there."""
    return climate.basking.uvi > 0


PRIORS: Mapping[str, Prior] = {
    "beam": Prior("beam width", 0.25, "%", lambda by: Tweaks(beam=1.0 + by), has_lamps, both_ways=True),
    "mesh": Prior("open share of the mesh", 0.1, "%", lambda by: Tweaks(mesh=1.0 + by), shines_through),
    "outside_film": Prior("film outside the box", 0.25, "%", lambda by: Tweaks(outside_film=1.0 + by)),
    "ventilation": Prior("air exchange", 0.5, "times", lambda by: Tweaks(ventilation=1.0 + by)),
    "ground": Prior("conductivity of the ground", 0.3, "%", lambda by: Tweaks(ground=1.0 + by)),
    "absorptance": Prior(
        "absorptance of ground and furniture", 0.1, "%", lambda by: Tweaks(absorptance=1.0 + by), has_lamps
    ),
    "ultraviolet": Prior(
        "output of UV lamps beside their reading", 0.15, "%", lambda by: Tweaks(ultraviolet=1.0 + by), has_uv
    ),
    "skin": Prior("what the animal's back takes of a beam", 0.17, "%", lambda by: Tweaks(skin=1.0 + by), has_lamps),
    "belly": Prior("how well its belly touches what it lies on", 0.5, "times", lambda by: Tweaks(belly=1.0 + by)),
    "room": Prior("room temperature", 1.0, "K", lambda by: Tweaks(room_k=by)),
    "room_rh": Prior("room humidity", 0.05, "points", lambda by: Tweaks(room_rh=by)),
}
"""Those that every design has alike."""


def output_prior(heater: str) -> Prior:
    """What a heater, light or UV lamp gives beside what is printed on it; each one's is its own."""
    return Prior(
        "output of each heater, light and UV lamp", 0.12, "%", lambda by: Tweaks(outputs=((heater, 1.0 + by),))
    )


def thermostat_prior(control: str) -> Prior:
    """How far a thermostat holds from what it is set to."""
    return Prior("what each thermostat holds", 0.5, "K", lambda by: Tweaks(setpoints=((control, by),)))


PROBE_SIGMA_K = 0.5
"""How far a probe reads from the truth."""

PROBE_PLACE_SIGMA_M = 0.01
"""How far a probe lies from where it was meant to, along each axis."""


def parameters_of(climate: Climate) -> Iterator[Parameter]:
    """The parameters that can move a climate."""
    for source in climate.state.sources.all:
        yield _parameter(f"output:{source.name}", output_prior(source.name))
    for name, control in climate.controls.items():
        if control.status == "regulates":
            yield _of_thermostat(climate, name)
    for key, prior in PRIORS.items():
        if prior.matters(climate):
            yield _parameter(key, prior)


def _parameter(key: str, prior: Prior) -> Parameter:
    downwards = prior.moved(-prior.sigma) if prior.both_ways else None
    return Parameter(key, prior.moved(prior.sigma), downwards)


def _of_thermostat(climate: Climate, name: str) -> Parameter:
    """Its own error, its probe's, and where the probe lies: each holds the probe at another temperature, and nothing
    that is measured tells them apart.
    """
    prior = thermostat_prior(name)
    together_k = float(np.hypot(np.hypot(prior.sigma, PROBE_SIGMA_K), _by_its_place_k(climate, name)))
    return Parameter(f"thermostat:{name}", prior.moved(together_k))


def _by_its_place_k(climate: Climate, name: str) -> float:
    """By how much a probe reads otherwise when it lies a centimetre off, all axes together."""
    control = next(one for one in climate.design.controls if one.name == name)
    probe, box = control.probe, climate.design.enclosure
    if probe is None or probe.reads in ("heater", "hide"):
        return 0.0
    here_c = probe_c(climate.design, climate.state, control, climate.catalogue)
    square = 0.0
    lowest_m = climate.design.substrate.depth_m if probe.reads == "air" else 0.0
    for axis, low_m, high_m in (("x_m", 0.0, box.length_m), ("y_m", 0.0, box.depth_m), ("z_m", lowest_m, box.height_m)):
        at_m = getattr(probe, axis)
        step_m = PROBE_PLACE_SIGMA_M if at_m + PROBE_PLACE_SIGMA_M <= high_m else -PROBE_PLACE_SIGMA_M
        moved = probe.model_copy(update={axis: max(at_m + step_m, low_m)})
        there_c = probe_c(climate.design, climate.state, control.model_copy(update={"probe": moved}), climate.catalogue)
        square += (there_c - here_c) ** 2
    return float(np.sqrt(square))


def _of_site(site: Site) -> dict[str, Figure]:
    name = site.name
    found: dict[str, Figure] = {
        f"sites.{name}.surface_c": lambda climate: climate.site_field(name).hottest()[0],
        f"sites.{name}.air_c": lambda climate: climate.site(name).air_c,
        f"sites.{name}.irradiance_w_m2": lambda climate: climate.site(name).irradiance_w_m2,
        f"sites.{name}.operative_c": lambda climate: climate.site(name).operative_c,
        f"sites.{name}.uvi": lambda climate: climate.site(name).uvi,
    }
    if is_hide(site):
        found[f"sites.{name}.hide_air_c"] = lambda climate: climate.hide_air_c(name) or 0.0
    return found


def _of_heater(name: str) -> dict[str, Figure]:
    return {f"heaters.{name}.surface_c": lambda climate: climate.heater_surface_c(name)}


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
    "floor.min_c": lambda climate: climate.floor.lowest_c(),
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
    "ventilation_l_s": lambda climate: climate.ventilation_l_s,
    "air_changes_per_hour": lambda climate: climate.air_changes_per_hour,
    "evaporation_l_week": lambda climate: climate.humidity.litres_a_week,
    "condensation_l_week": lambda climate: climate.humidity.condensed_litres_a_week,
}
"""Figures that carry an interval in every design, by their path in the published result."""


def figures_of(climate: Climate) -> dict[str, Figure]:
    """Every figure that carries an interval, those of sites, heaters and controls too."""
    found = dict(FIGURES)
    for site in climate.design.sites:
        found |= _of_site(site)
    for name, heater in climate.heaters.items():
        if heater.hottest is not None:
            found |= _of_heater(name)
    for name in climate.controls:
        found |= _of_control(name)
    return found


def intervals(
    climate: Climate, paths: Collection[str] | None = None, more: Mapping[str, Figure] = MappingProxyType({})
) -> dict[str, Interval]:
    """90 % intervals, (low, high), of the figures with those paths, or of every one, and of ``more``; fewer take less
    time.
    """
    figures = {path: figure for path, figure in figures_of(climate).items() if paths is None or path in paths}
    figures |= more
    nominal = {path: figure(climate) for path, figure in figures.items()}
    begun = climate.to_tweak()
    effects = effects_of(begun)
    squares = {path: [0.0, 0.0] for path in nominal}
    for parameter in parameters_of(climate):
        for moves in _moves_of(parameter, begun, effects, figures, nominal):
            for path, move in moves.items():
                squares[path][move > 0] += move**2
    return {path: interval_of(path, climate, figure, *squares[path]) for path, figure in nominal.items()}


def _moves_of(
    parameter: Parameter, begun: Climate, effects: Effects, figures: Mapping[str, Figure], nominal: Mapping[str, float]
) -> Iterator[dict[str, float]]:
    """By how much a standard deviation moves each figure, up and down: each way taken, or alike both ways.

    Where both move a figure the same way, the longer move counts for that way and none for the other.
    """
    moves = _shifts_of(begun, parameter.tweaks, effects, figures, nominal)
    if parameter.downwards is None:
        yield moves
        yield {path: -move for path, move in moves.items()}
        return
    other = _shifts_of(begun, parameter.downwards, effects, figures, nominal)
    yield {path: max(moves[path], other[path], 0.0) for path in figures}
    yield {path: min(moves[path], other[path], 0.0) for path in figures}


def _shifts_of(
    begun: Climate, tweaks: Tweaks, effects: Effects, figures: Mapping[str, Figure], nominal: Mapping[str, float]
) -> dict[str, float]:
    after = tweak(begun, tweaks, effects)
    return {path: figure(after) - nominal[path] for path, figure in figures.items()}


SHARES = ("duty", "rh_warm", "rh_cool", "rh_mean")
NEVER_NEGATIVE = ("w_m2", "uvi", "l_s", "per_hour", "l_week")


def interval_of(path: str, climate: Climate, figure: float, down: float, up: float) -> Interval:
    """90 % interval of a figure from the summed squares of its changes downwards and upwards, kept to what can be."""
    low, high = figure - NINETY_PERCENT * float(np.sqrt(down)), figure + NINETY_PERCENT * float(np.sqrt(up))
    if path.endswith(SHARES):
        return max(low, 0.0), min(high, 1.0)
    if path.endswith(NEVER_NEGATIVE):
        return max(low, 0.0), high
    if path.startswith("heaters."):
        # What gives off heat is not colder than its room.
        return min(max(low, climate.room_c), figure), high
    return min(max(low, _coldest_c(climate)), figure), high


def _coldest_c(climate: Climate) -> float:
    """The coldest that anything in the box may be: the room at the cold end of what it may be, or, where water
    evaporates, a wet thing in it.
    """
    around_c = climate.room_wet_bulb_c if climate.state.prepared.evaporates else climate.room_c
    return around_c - NINETY_PERCENT * PRIORS["room"].sigma
