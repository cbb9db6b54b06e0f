"""The UV index: readings at a known distance, how it falls, mesh, shadows and age."""

from dataclasses import replace
from datetime import date
from typing import Any

import numpy as np
import pytest

from mitten.core.design import Design
from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.radiation.sources import sources_of
from mitten.core.physics.radiation.ultraviolet import READ_AT_M, UvSource, uv_sources, zone_of
from mitten.core.physics.situation import Situation
from mitten.core.physics.solving import solve_climate
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, climate_of, ledge_data, read, tank_data


def with_uv(design: Data, **changes: Any) -> Data:
    lamp = {"name": "UV", "watts": 24.0, "uvi_at_30cm": 4.0, "x_m": 0.6, "y_m": 0.3, "z_m": 0.56, "length_m": 0.5}
    return {**design, "uvb": [{**lamp, **changes}]}


def uvi_below(design: Data, below_m: float, on: date | None = None) -> float:
    known = read(design)
    prepared = prepare(known, CATALOGUE)
    lamp = known.uvb[0]
    point = np.array([lamp.x_m, lamp.y_m, lamp.z_m - below_m])
    return sum(float(s.uvi(prepared.interior, prepared.window, point[None, :])[0]) for s in sources_by(known, True, on))


def sources_by(design: Design, day: bool, on: date | None = None) -> list[UvSource]:
    """What gives ultraviolet by day or night."""
    return list(uv_sources(design, sources_of(design, {}, day, CATALOGUE), CATALOGUE, on))


@pytest.mark.parametrize("lamp", [{}, {"lamp": "uvb-compact", "length_m": None}])
def test_at_30_cm_a_new_lamp_reads_what_was_read(lamp: Data) -> None:
    design = with_uv(box_data(), **lamp)
    design["uvb"][0] = {key: value for key, value in design["uvb"][0].items() if value is not None}
    assert uvi_below(design, READ_AT_M) == pytest.approx(4.0)


def test_a_compact_lamp_falls_with_the_square_and_a_tube_more_slowly() -> None:
    compact = with_uv(box_data(), lamp="uvb-compact")
    del compact["uvb"][0]["length_m"]
    assert uvi_below(compact, 0.15) / uvi_below(compact, 0.30) == pytest.approx(4.0, rel=0.04), "but for its face"
    assert uvi_below(with_uv(box_data()), 0.15) / uvi_below(with_uv(box_data()), 0.30) < 3.2


def test_a_tube_matches_the_closed_form_of_a_lambertian_line() -> None:
    """E(h) is proportional to the integral of h^2 / (h^2 + s^2)^2 along the tube: cos cos / r^2."""

    def line(h: float, half: float = 0.25) -> float:
        return float(0.5 * (half / (h**2 + half**2) + np.arctan(half / h) / h))

    found = uvi_below(with_uv(box_data()), 0.2) / uvi_below(with_uv(box_data()), 0.4)
    assert found == pytest.approx(line(0.2) / line(0.4), rel=0.01)


def test_a_mesh_takes_its_wires_share_straight_below_a_compact_lamp() -> None:
    above = with_uv(tank_data(), lamp="uvb-compact", x_m=0.45, y_m=0.2, z_m=0.5, above_mesh=True)
    del above["uvb"][0]["length_m"]
    assert uvi_below(above, READ_AT_M) == pytest.approx(4.0 * 0.62)


def test_a_ledge_shades_what_is_under_it_and_night_has_none() -> None:
    design = with_uv(ledge_data(), x_m=0.94, length_m=0.05)
    known = read(design)
    prepared = prepare(known, CATALOGUE)
    (source,) = sources_by(known, True)
    assert source.uvi(prepared.interior, prepared.window, np.array([[0.94, 0.3, 0.1]]))[0] == 0.0
    assert sources_by(known, False) == []


def test_lamps_lose_ultraviolet_with_the_years_though_they_stay_bright() -> None:
    design = with_uv(box_data(), installed="2025-01-01")
    assert uvi_below(design, READ_AT_M, date(2025, 1, 1)) == pytest.approx(4.0)
    assert uvi_below(design, READ_AT_M, date(2026, 1, 1)) == pytest.approx(4.0 * 0.7, rel=0.01)
    assert uvi_below(design, READ_AT_M, date(2024, 1, 1)) == pytest.approx(4.0)


def test_a_mercury_lamp_with_its_reading_gives_ultraviolet_at_the_site() -> None:
    design = ledge_data(kind="mercury-vapour", watts=100.0, lamp={"uvi_at_30cm": 5.0}, z_m=0.5)
    assert climate_of(design).sites["Ledge"].uvi > 3


def mercury(**changes: Any) -> Data:
    lamp = {"kind": "mercury-vapour", "watts": 100.0, "lamp": {"uvi_at_30cm": 5.0}, "z_m": 0.5}
    return ledge_data(**{**lamp, **changes})


def test_what_is_off_gives_no_ultraviolet() -> None:
    """Dead, dimmed out, switched off by its thermostat, of no watts, or not its time of day."""
    day = Situation(21.0)
    assert solve_climate(read(mercury()), CATALOGUE, day).sites["Ledge"].uvi > 3
    dead = solve_climate(read(mercury()), CATALOGUE, replace(day, dead=frozenset({"Lamp"})))
    assert dead.sites["Ledge"].uvi == dead.sites["Ledge"].uvi_most == 0.0
    assert solve_climate(read(mercury(dim=0.0)), CATALOGUE, day).sites["Ledge"].uvi == 0.0
    assert solve_climate(read(mercury(watts=0.0)), CATALOGUE, day).sites["Ledge"].uvi == 0.0
    assert solve_climate(read(mercury()), CATALOGUE, replace(day, day=False)).sites["Ledge"].uvi == 0.0
    idle = mercury(control="Stat")
    probe = {"x_m": 0.2, "y_m": 0.3, "z_m": 0.1}
    idle["controls"] = [{"name": "Stat", "kind": "pulse", "day_c": 5.0, "probe": probe}]
    assert solve_climate(read(idle), CATALOGUE, day).sites["Ledge"].uvi == 0.0


def test_half_of_the_power_gives_half_of_the_ultraviolet() -> None:
    full, half = (climate_of(mercury(dim=dim)).sites["Ledge"].uvi for dim in (1.0, 0.5))
    assert half == pytest.approx(full / 2, rel=0.02)


def test_a_dead_tube_gives_neither_light_nor_heat() -> None:
    design = read(with_uv(ledge_data()))
    dead = solve_climate(design, CATALOGUE, Situation(21.0, dead=frozenset({"UV"})))
    assert dead.sites["Ledge"].uvi == 0.0
    assert dead.energy.in_w == pytest.approx(75.0)


def test_a_tubes_own_watts_warm_the_enclosure() -> None:
    lit = climate_of(with_uv(box_data()))
    assert lit.energy.in_w == pytest.approx(75 + 24)
    assert lit.air.mean_c > climate_of(box_data()).air.mean_c + 1
    light = {**box_data(), "lights": [{"name": "L", "watts": 20.0, "x_m": 0.6, "y_m": 0.3, "z_m": 0.55}]}
    assert climate_of(light).energy.in_w == pytest.approx(95)


@pytest.mark.parametrize(("uvi", "zone"), [(0.0, 1), (0.8, 2), (2.0, 3), (3.0, 4), (9.0, 4)])
def test_zones_run_from_shade_to_open_sun(uvi: float, zone: int) -> None:
    assert zone_of(uvi) == zone
