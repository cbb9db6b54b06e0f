"""What changed, in words; what there is at a point; and what a form really changed."""

import pytest

from mitten.core.design import Design
from mitten.core.design.amounts import plain
from mitten.core.design.units import METRIC, US
from mitten.core.judge import read_condition, solve_condition
from mitten.demo import demo_designs
from mitten.web.edits import PartRef, add_part, apply_preset, edit_part, edit_sheet, remove_part, summary_of
from mitten.web.edits.kept import really_typed
from mitten.web.views.readout import readout_of
from tests.catalogue import CATALOGUE

QUARRY, CANYON, ATTIC, TUB, TABLE, COAST = demo_designs()
LAMP = PartRef("heaters", "Main lamp")


def edited(ref: PartRef, **typed: str) -> Design:
    return edit_part(QUARRY, CATALOGUE, ref, typed, METRIC)[0]


@pytest.mark.parametrize(
    ("after", "words"),
    [
        (edited(LAMP, watts="75"), "Main lamp: power 50 W to 75 W"),
        (
            edited(LAMP, x_m="90", on="always"),
            "Main lamp: from left 94 to 90 cm; Main lamp: runs by day to day and night",
        ),
        (edited(LAMP, name="Sun"), "Main lamp is now called Sun"),
        (edited(PartRef("sites", "Ledge"), material="slate"), "Ledge: made of hardwood to slate"),
        (edited(PartRef("vents", "Vent 1"), area_cm2="60"), "Vent 1: free area 40 to 60 cm²"),
        (add_part(QUARRY, CATALOGUE, "plant")[0], "Plant added"),
        (remove_part(QUARRY, CATALOGUE, LAMP), "Main lamp removed"),
        (edit_sheet(QUARRY, CATALOGUE, "name", {"name": "Rock"}, METRIC), "name Quarry ledge to Rock"),
        (edit_sheet(QUARRY, CATALOGUE, "lid", {"lid": "open"}, METRIC), "lid solid to open, no lid"),
        (edit_sheet(QUARRY, CATALOGUE, "against", {"against.back": "yes"}, METRIC), "back against a wall"),
        (
            edit_sheet(QUARRY, CATALOGUE, "targets", {"uvi.high": "6"}, METRIC),
            "UV index the species' own to 3–6",
        ),
        (
            edit_sheet(QUARRY, CATALOGUE, "room", {"room.winter.day_c": "66 F"}, METRIC),
            "winter day 21 to 18.9 °C",
        ),
        (QUARRY, "Changed"),
    ],
)
def test_a_change_is_said_in_the_words_of_its_field(after: Design, words: str) -> None:
    assert plain(summary_of(QUARRY, after, CATALOGUE)) == words


def test_many_changes_are_counted() -> None:
    assert "more changes" in summary_of(QUARRY, apply_preset(QUARRY, CATALOGUE, "tank-90"), CATALOGUE)


def test_a_renamed_site_and_control_keep_their_heaters() -> None:
    rock = add_part(QUARRY, CATALOGUE, "hot-rock")[0]
    renamed, ref = edit_part(rock, CATALOGUE, PartRef("sites", "Ledge"), {"name": "Slab"}, METRIC)
    assert ref.name == "Slab"
    assert renamed.heaters[-1].site == "Slab"
    held, _ = edit_part(COAST, CATALOGUE, PartRef("controls", "Pulse"), {"name": "Guardian"}, METRIC)
    assert held.heaters[0].control == "Guardian"


def test_the_readout_says_surface_air_and_what_shines() -> None:
    climate = solve_condition(QUARRY, CATALOGUE, read_condition(QUARRY, "winter-day"))
    on_ledge = readout_of(climate, METRIC, 0.94, 0.3, None)
    assert on_ledge.startswith(f"Ledge {climate.sites['Ledge'].surface_c:.1f} °C · air ")
    assert on_ledge.endswith(" W/m²")
    assert readout_of(climate, METRIC, 0.5, 0.1, None).startswith("ground ")
    assert readout_of(climate, METRIC, 0.5, None, 0.4).startswith("air ")
    assert readout_of(climate, METRIC, 0.5, None, 0.02).startswith("4 cm down in the ground ")
    assert readout_of(climate, METRIC, 0.94, None, 0.19).startswith("Ledge ")
    assert "°F" in readout_of(climate, US, 9.0, None, 9.0)


def test_only_what_was_changed_is_kept_of_a_form_that_came_too_late() -> None:
    typed = {"watts": "50", "z_m": "40", "x_m": "94", "form": "x"}
    assert really_typed(QUARRY, str(LAMP), typed, METRIC, CATALOGUE) == {"z_m": "40"}
    assert really_typed(QUARRY, "room", {"room.winter.day_c": "21", "room.summer.day_c": "30"}, METRIC, CATALOGUE) == {
        "room.summer.day_c": "30"
    }
    assert really_typed(QUARRY, "heaters:Gone", typed, METRIC, CATALOGUE) == {}
