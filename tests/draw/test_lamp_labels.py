"""Words beside lamps on the section: they keep apart, and lamps of a kind that hang side by side share theirs."""

import re
from typing import Any

import pytest

from mitten.core.catalogue import targets_of
from mitten.core.physics.situation import Situation
from mitten.core.physics.solving import solve_climate
from mitten.draw import heat_sheet
from mitten.draw.marks import Marks
from mitten.draw.scale import scale_of
from mitten.draw.section import _site_words, label_ys
from mitten.draw.sources import LETTER, LampLabels, probe_words
from tests.catalogue import CATALOGUE
from tests.designs import climate_of, lamp, ledge_data, read
from tests.random_designs import random_design

Box = tuple[float, float]
MAIN = {"x_m": 0.94, "y_m": 0.3, "z_m": 0.5}


def with_lamps(*lamps: dict[str, Any]) -> dict[str, Any]:
    heaters = [lamp(**{**MAIN, **one, "name": f"Lamp {number}"}) for number, one in enumerate(lamps)]
    return {**ledge_data(), "heaters": heaters}


def labels_of(*lamps: dict[str, Any]) -> list[str]:
    design = read(with_lamps(*lamps))
    labels = LampLabels(design, CATALOGUE, scale_of(design))
    return [str(labels.label(heater, f"{heater.watts:g} W lamp")) for heater in design.heaters]


def place_of(label: str) -> tuple[float, float, str]:
    found = re.search(r'x="([-\d.]+)" y="([-\d.]+)".*?>([^<]+)</text>', label)
    assert found is not None, label
    return float(found[1]), float(found[2]), found[3]


def test_two_alike_side_by_side_share_their_words() -> None:
    first, second = labels_of({"x_m": 0.87, "watts": 25.0}, {"x_m": 1.01, "watts": 25.0})
    assert place_of(first)[2] == "2 × 25 W lamp"
    assert second == ""


@pytest.mark.parametrize("apart_m", [0.0, 0.06, 0.14])
def test_words_of_different_lamps_do_not_lie_over_one_another(apart_m: float) -> None:
    one, other = (place_of(label) for label in labels_of({"watts": 25.0}, {"watts": 60.0, "x_m": 0.94 - apart_m}))
    assert one[:2] != other[:2]
    assert one[2] != other[2]


@pytest.mark.parametrize("ordered", [1, -1])
@pytest.mark.parametrize("count", [3, 4, 5])
def test_words_of_lamps_in_a_row_stand_each_by_itself_and_on_the_sheet(count: int, ordered: int) -> None:
    kinds = ("ceramic-emitter", "halogen-flood", "halogen-spot", "ceramic-emitter", "halogen-flood")
    row = [{"x_m": 1.1 - 0.2 * n, "watts": 60.0 + n, "kind": kinds[n]} for n in range(count)]
    design = read(with_lamps(*row[::ordered]))
    scale = scale_of(design)
    labels = LampLabels(design, CATALOGUE, scale)
    boxes = []
    for heater in design.heaters:
        label = str(labels.label(heater, f"{heater.watts:g} W ceramic emitter, off"))
        x, y, words = place_of(label)
        wide = LETTER * len(words)
        boxes.append((x - wide if "end" in label else x, y))
    assert all(x > 0 and x + LETTER * 25 < scale.end for x, _ in boxes)
    for n, (x, y) in enumerate(boxes):
        assert not any(abs(x - at) < LETTER * 24 and abs(y - high) < 12 for at, high in boxes[:n])


def test_words_under_a_lamp_at_the_edge_are_drawn_in_on_the_sheet() -> None:
    design = read(with_lamps({}))
    labels, end = LampLabels(design, CATALOGUE, scale_of(design)), scale_of(design).end
    assert labels._within(end - 20.0, 100.0) == pytest.approx(end - 103.0)
    assert labels._within(-50.0, 100.0) == pytest.approx(3.0)
    assert labels._within(60.0, 100.0) == pytest.approx(60.0)


def test_lamps_at_both_ends_keep_their_own_words() -> None:
    both = labels_of({"x_m": 0.25, "watts": 40.0}, {"x_m": 0.95, "watts": 40.0})
    assert [place_of(label)[2] for label in both] == ["40 W lamp", "40 W lamp"]


def test_the_sheet_says_each_pair_once() -> None:
    data = with_lamps({"x_m": 0.87, "watts": 25.0}, {"x_m": 1.01, "watts": 25.0})
    climate = climate_of(data)
    animal = climate.design.animal
    drawn = str(heat_sheet(climate, targets_of(animal, CATALOGUE.species[animal.species])))
    assert drawn.count("2 × 25 W") == 1


def test_words_of_sites_that_would_meet_stand_over_one_another() -> None:
    data = ledge_data()
    hides = [
        {"name": f"Hide {number}", "role": "warm-hide", "material": "cork", "x_m": x_m, "y_m": 0.3, "length_m": 0.15,
         "depth_m": 0.2, "z_m": 0.1, "thickness_mm": 15.0}
        for number, x_m in enumerate((0.20, 0.36))
    ]  # fmt: skip
    climate = climate_of({**data, "sites": [*data["sites"], *hides]})
    ys = label_ys(climate, scale_of(climate.design), Marks())
    assert abs(ys["Hide 0"] - ys["Hide 1"]) >= 18.0
    assert len(ys) == 3


@pytest.mark.parametrize(("beside_m", "moves"), [(0.04, True), (0.3, False)])
def test_words_of_a_site_stand_over_those_of_a_probe_that_they_would_meet(beside_m: float, moves: bool) -> None:
    data = ledge_data(control="T")
    site = data["sites"][0]
    probe = {"x_m": site["x_m"] - beside_m, "y_m": 0.3, "z_m": site["z_m"] + 0.02}
    held = {**data, "controls": [{"name": "T", "kind": "dimming", "day_c": 30.0, "probe": probe}]}
    climate, alone = climate_of(held), climate_of(ledge_data())
    scale = scale_of(climate.design)
    y, before = (label_ys(one, scale, Marks())[site["name"]] for one in (climate, alone))
    ((_, words_y, words),) = probe_words(climate, scale, Marks())
    assert words.startswith("probe ")
    assert (y < before) == moves
    assert not moves or y <= words_y - 18.0


@pytest.mark.parametrize("seed", range(8))
def test_words_of_sites_and_probes_meet_in_no_box(seed: int) -> None:
    """In the larger type of small sheets: letters 8 wide, and 14 from one line to the next."""
    climate = solve_climate(random_design(seed), CATALOGUE, Situation(21.0), fineness=0.5)
    scale = scale_of(climate.design)
    ys = label_ys(climate, scale, Marks())
    places = [(end - 8.0 * len(words), end, y) for end, y, words in probe_words(climate, scale, Marks())]
    for site in climate.design.sites:
        half, middle = 4.0 * len(_site_words(climate, site, Marks())), scale.x(site.x_m)
        left, right, y = middle - half, middle + half, ys[site.name]
        assert not any(left < end and right > begin and abs(y - at) < 14.0 for begin, end, at in places), site.name
        places.append((left, right, y))
