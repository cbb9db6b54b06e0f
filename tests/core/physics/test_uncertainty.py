"""Intervals: the parameters that matter, and first order against solutions from scratch."""

from dataclasses import replace

import numpy as np
import pytest

from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.balance.steady import solve_steady
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.constants import CONSTANTS
from mitten.core.physics.radiation.sources import sources_of
from mitten.core.physics.situation import Situation, running_sources
from mitten.core.physics.solving import tweak
from mitten.core.physics.tweaks import NOMINAL, Tweaks
from mitten.core.physics.uncertainty import PRIORS, figures_of, interval_of, intervals, parameters_of
from tests.catalogue import CATALOGUE
from tests.designs import Data, climate_of, ledge_data, mat_data, read, tank_data


@pytest.mark.parametrize("key", PRIORS)
def test_moving_a_parameter_agrees_with_a_solution_from_scratch(key: str) -> None:
    tweaks = PRIORS[key].moved(PRIORS[key].sigma)
    design = read(tank_data())
    nominal = climate_of(tank_data())
    quick = tweak(nominal, tweaks)
    sources = sources_of(design, running_sources(design, Situation(21.0), {}), True, CATALOGUE, tweaks)
    room = Surroundings(21.0 + tweaks.room_k, 0.0, 0.5 + tweaks.room_rh)
    exact = solve_steady(prepare(design, CATALOGUE, tweaks=tweaks), sources, room).state
    moved = np.abs(exact.surface_c - nominal.state.surface_c).max()
    assert np.abs(quick.state.surface_c - exact.surface_c).max() < 0.1 * moved + 0.05


def test_no_tweak_moves_nothing() -> None:
    climate = climate_of(ledge_data())
    assert np.abs(tweak(climate, NOMINAL).state.surface_c - climate.state.surface_c).max() < 0.02


def test_every_headline_figure_lies_in_its_interval_and_the_spot_is_less_sure_than_the_air() -> None:
    climate = climate_of(ledge_data())
    sure = intervals(climate)
    figures = {path: figure(climate) for path, figure in figures_of(climate).items()}
    assert set(sure) == set(figures)
    for path, (low, high) in sure.items():
        assert low <= figures[path] <= high, path
    width = {path: high - low for path, (low, high) in sure.items()}
    assert width["basking.surface_c"] > 2 * width["air.cool_c"] > 2
    assert width["air.rh_mean"] > 0.03


def test_a_thermostat_makes_what_its_probe_reads_sure_and_its_duty_unsure() -> None:
    climate = climate_of(mat_data(25.0, {"reads": "base"}, 35.0))
    sure = intervals(climate)
    low, high = sure["controls.Thermostat.probe_c"]
    assert (high - low) / 2 == pytest.approx(1.645 * np.hypot(0.5, 0.5), abs=0.35), "its own error and its probe's"
    low, high = sure["controls.Thermostat.duty"]
    assert high - low > 0.1


def test_a_probe_that_cannot_be_brought_to_its_setpoint_is_unsure() -> None:
    climate = climate_of(mat_data(50.0, {"reads": "surface"}, 40.0))
    low, high = intervals(climate)["controls.Thermostat.probe_c"]
    assert high - low > 1.0


def test_the_uv_index_is_as_unsure_as_its_lamp() -> None:
    tube = {"name": "UV", "watts": 14.0, "uvi_at_30cm": 5.0, "x_m": 0.9, "y_m": 0.4, "z_m": 0.57, "length_m": 0.4}
    climate = climate_of({**ledge_data(), "uvb": [tube]})
    low, high = intervals(climate)["sites.Ledge.uvi"]
    assert (high - low) / 2 == pytest.approx(1.645 * 0.15 * climate.sites["Ledge"].uvi, rel=0.05)


def test_only_parameters_that_matter_are_moved() -> None:
    lamp = {parameter.key for parameter in parameters_of(climate_of(tank_data()))}
    mat = {parameter.key for parameter in parameters_of(climate_of(mat_data()))}
    assert {"mesh", "beam", "output:Lamp"} <= lamp
    assert "output:Mat" in mat
    assert not {"mesh", "beam"} & mat


def test_a_room_one_kelvin_warmer_warms_everything_by_about_one() -> None:
    climate = climate_of(ledge_data())
    warmer = tweak(climate, Tweaks(room_k=1.0))
    assert np.ptp(warmer.state.air_c - climate.state.air_c) < 0.3
    assert (warmer.state.air_c - climate.state.air_c).mean() == pytest.approx(1.0, abs=0.1)


def test_a_thermostat_and_its_probe_make_what_they_hold_unsure() -> None:
    """Half a kelvin each, and a centimetre of the probe's place: 1.16 K and more at 90 %."""
    climate = climate_of(mat_data(25.0, {"reads": "base"}, 35.0))
    keys = {parameter.key for parameter in parameters_of(climate)}
    assert "thermostat:Thermostat" in keys
    low, high = intervals(climate, ["base.max_c"])["base.max_c"]
    assert 2.2 < high - low < 5.0


def test_a_beam_is_taken_both_ways_and_its_interval_is_lopsided() -> None:
    """A narrower beam heats its spot by more than a wider one cools it; the cause alone is not left out."""
    climate = climate_of(ledge_data(watts=75.0))
    surface_c = climate.basking.surface_c
    low, high = intervals(climate, ["basking.surface_c"])["basking.surface_c"]
    assert high - surface_c > 1.2 * (surface_c - low)
    for share in (-0.25, 0.25):
        alone_k = tweak(climate, Tweaks(beam=1.0 + share)).basking.surface_c - surface_c
        assert low <= surface_c + 1.645 * alone_k <= high


def test_nothing_is_colder_than_the_unheated_room_may_be() -> None:
    """A small rise with a large uncertainty would reach below the room; heat does not cool."""
    climate = climate_of(tank_data(), 21.0)
    for path, (low, _) in intervals(climate).items():
        if path.endswith("_c"):
            assert low >= 21.0 - 1.645 - 1e-9, path
    low, high = interval_of("air.cool_c", climate, figure=21.2, down=9.0, up=4.0)
    assert abs(low - (21.0 - 1.645)) < 1e-9
    assert abs(high - (21.2 + 1.645 * 2)) < 1e-9


def test_hides_sources_lowest_floor_air_and_water_have_intervals() -> None:
    design = tank_data()
    design["heaters"][0].update(kind="ceramic-emitter", z_m=0.4, above_mesh=False)
    design["sites"] = [
        {
            "name": "Den",
            "role": "cool-hide",
            "material": "cork",
            "x_m": 0.2,
            "y_m": 0.2,
            "length_m": 0.2,
            "depth_m": 0.2,
            "z_m": 0.1,
        }
    ]
    design["substrate"] = {"material": "soil", "depth_mm": 30.0, "moisture": "damp"}
    sure = intervals(climate_of(design))
    for path in (
        "sites.Den.hide_air_c",
        "heaters.Lamp.surface_c",
        "floor.min_c",
        "ventilation_l_s",
        "evaporation_l_week",
    ):
        low, high = sure[path]
        assert high > low, path
    assert sure["heaters.Lamp.surface_c"][1] - sure["heaters.Lamp.surface_c"][0] > 20


def lit_data() -> Data:
    """The ledge under its lamp, with a plain light of 40 W and a UV tube of 24 W."""
    data = ledge_data()
    data["lights"] = [{"name": "LED bar", "watts": 40.0, "x_m": 0.6, "y_m": 0.3, "z_m": 0.58}]
    tube = {"name": "Tube", "lamp": "uvb-tube", "watts": 24.0, "uvi_at_30cm": 5.0, "length_m": 0.55}
    data["uvb"] = [{**tube, "x_m": 0.6, "y_m": 0.3, "z_m": 0.57}]
    return data


@pytest.mark.parametrize("name", ["Lamp", "LED bar", "Tube"])
def test_what_any_source_gives_moves_the_box_by_its_own_uncertainty(name: str) -> None:
    """Of what a light takes all ends up in the box as well: the air moves as if its watts did."""
    climate = climate_of(lit_data())
    moved = tweak(climate, Tweaks(outputs=((name, 1.5),)))
    more = lit_data()
    part = next(one for key in ("heaters", "lights", "uvb") for one in more[key] if one["name"] == name)
    part["watts"] *= 1.5
    by_k = moved.air.mean_c - climate.air.mean_c
    assert by_k == pytest.approx(climate_of(more).air.mean_c - climate.air.mean_c, rel=0.15)
    assert by_k > 0.3


def test_a_parameter_of_a_part_that_is_not_there_is_refused() -> None:
    climate = climate_of(mat_data(25.0, {"reads": "base"}, 35.0))
    for wrong in (Tweaks(outputs=(("Nobody", 1.5),)), Tweaks(setpoints=(("Nobody", 1.0),))):
        with pytest.raises(KeyError, match="Nobody"):
            tweak(climate, wrong)


@pytest.mark.parametrize(("key", "constant"), [("skin", "skin_short"), ("belly", "skin_contact")])
def test_the_body_is_as_unsure_as_what_is_known_of_skin_and_contact(
    key: str, constant: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    climate = climate_of(ledge_data())
    moved = tweak(climate, PRIORS[key].moved(0.1)).basking.operative_c
    assert abs(moved - climate.basking.operative_c) > 0.02
    known = CONSTANTS[constant]
    monkeypatch.setitem(CONSTANTS, constant, replace(known, value=known.value * 1.1))
    monkeypatch.setitem(CONSTANTS, "skin_long", replace(CONSTANTS["skin_long"], value=CONSTANTS["skin_long"].value))
    assert climate_of(ledge_data()).basking.operative_c == pytest.approx(moved, abs=0.15)


def test_no_sources_interval_reaches_below_the_room() -> None:
    for data, room_c in ((ledge_data(), 21.0), (tank_data(), 30.0), (mat_data(25.0, {"reads": "base"}, 22.0), 21.5)):
        climate = climate_of(data, room_c)
        for path, (low, _) in intervals(climate).items():
            if path.startswith("heaters."):
                assert low >= climate.room_c, path
