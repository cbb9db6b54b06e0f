"""The year against hand sums: months, energy, what the lamp has to give, night heat, and what changes when."""

from dataclasses import replace
from datetime import date

import pytest

from mitten.core.design import Design
from mitten.core.judge.resting import CAUTIONS
from mitten.core.plan.year import LampYear, MonthFigures, basking_lamps, changes_of, figures_of, lamp_year, months_of
from mitten.core.plan.year.lamps import LampNeed, _with_watts, lamp_need, powers_to_try_w
from mitten.core.plan.year.months import day_hours_on, summer_by_date
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.designs import Data, box_data, lamp, ledge_data, read
from tests.held import changed

COLD, WARM = {"day_c": 18.0, "night_c": 14.0}, {"day_c": 26.0, "night_c": 22.0}


def in_seasons(data: Data, **schedule: object) -> Design:
    data["room"] = {"winter": COLD, "summer": WARM}
    if schedule:
        data["schedule"] = {"day_start": "08:00", "day_hours": 12.0, **schedule}
    return read(data)


def test_months_swing_from_winter_to_summer_and_back() -> None:
    months = months_of(in_seasons(box_data()), CATALOGUE)
    assert [month.number for month in months] == list(range(1, 13))
    assert (months[0].room_day_c, months[0].room_night_c, months[0].summer) == (18.0, 14.0, 0.0)
    assert (months[6].room_day_c, months[6].summer) == (26.0, 1.0)
    assert months[2].alike == months[10].alike
    assert replace(months[2], resting=0.5).alike == replace(months[10], resting=1.0).alike != months[2].alike
    assert {month.day_hours for month in months} == {12.0}
    assert sum(month.days for month in months) == 365


def test_own_months_and_the_south_are_followed() -> None:
    data = box_data()
    data["room"] = {"winter": COLD, "summer": WARM, "latitude": -34.0}
    assert months_of(read(data), CATALOGUE)[6].summer == 0.0
    own = [{"day_c": 20.0 + n % 2, "night_c": 16.0} for n in range(12)]
    data["room"]["months"] = own
    assert [month.room_day_c for month in months_of(read(data), CATALOGUE)] == [20.0, 21.0] * 6


@pytest.mark.parametrize(("latitude", "june", "december"), [(50.0, 1.0, 0.0), (None, 1.0, 0.0), (-34.0, 0.0, 1.0)])
def test_the_sun_is_highest_in_june_and_in_the_south_in_december(
    latitude: float | None, june: float, december: float
) -> None:
    data = box_data()
    data["room"] |= {} if latitude is None else {"latitude": latitude}
    design = read(data)
    assert summer_by_date(design, date(2027, 6, 21)) == pytest.approx(june, abs=0.001)
    assert summer_by_date(design, date(2028, 12, 21)) == pytest.approx(december, abs=0.001)
    assert summer_by_date(design, date(2027, 3, 22)) == pytest.approx(0.5, abs=0.02)
    held = read(
        {**data, "schedule": {"day_hours": 12.0, "day_length": "seasons", "winter_hours": 9, "summer_hours": 15}}
    )
    assert day_hours_on(held, date(2027, 6, 21)) == pytest.approx(9 + 6 * june, abs=0.01)


def test_days_grow_around_their_middle_and_rest_is_counted_by_its_days() -> None:
    rest = {"starts": "12-01", "weeks": 4, "day_c": 15, "night_c": 10, "ramp_weeks": 0}
    months = months_of(
        in_seasons(box_data(), day_length="seasons", winter_hours=9, summer_hours=15, cooling=rest), CATALOGUE
    )
    assert months[11].day_hours == pytest.approx(9.0, abs=0.05)
    assert months[5].day_hours == pytest.approx(15.0, abs=0.05)
    assert [round(month.resting, 3) for month in months] == [0.0] * 11 + [round(28 / 31, 3)]


def test_the_energy_of_what_no_thermostat_holds_is_that_of_the_clock() -> None:
    design = in_seasons(ledge_data(watts=60.0))
    january = figures_of(design, CATALOGUE, months_of(design, CATALOGUE)[0])
    assert january.kwh_day == pytest.approx(0.72)
    assert january.kwh == pytest.approx(31 * 0.72)
    assert (january.lights_on_min, january.lights_off_min) == (480.0, 1200.0)


@pytest.mark.slow
def test_a_thermostat_takes_more_in_winter_and_the_sum_is_of_computed_days() -> None:
    coast = demo_designs()[5]
    months = months_of(coast, CATALOGUE)
    january, july = (figures_of(coast, CATALOGUE, months[n]) for n in (0, 6))
    assert january.kwh_day > 1.3 * july.kwh_day
    assert january.night_c > january.unheated_night_c + 1.0, "its panel heats the night"
    assert not january.night_heat
    assert january.night_heat_wished
    assert (
        changed("months-of-coast", [january, july, changes_of(coast, CATALOGUE, [january] * 6 + [july] * 6, None)])
        == []
    )


@pytest.mark.slow
def test_the_power_that_a_lamp_needs_puts_the_basking_place_where_it_is_wanted() -> None:
    design = in_seasons(ledge_data(watts=75.0))
    month = months_of(design, CATALOGUE)[3]
    need = lamp_need(design, CATALOGUE, month)
    assert need is not None
    assert need.best_w is not None
    hung = basking_lamps(design, CATALOGUE)[0]
    assert powers_to_try_w(hung, CATALOGUE)[0] <= need.best_w <= powers_to_try_w(hung, CATALOGUE)[-1]
    there = design.model_copy(update={"heaters": (hung.model_copy(update={"watts": need.best_w}),)})
    figures = figures_of(there, CATALOGUE, month)
    targets = CATALOGUE.species[design.animal.species].targets_at(design.animal.stage)
    assert figures.basking_c == pytest.approx(sum(targets.basking_surface_c) / 2, abs=0.5)
    colder = lamp_need(design, CATALOGUE, months_of(design, CATALOGUE)[0])
    assert colder is not None
    assert colder.best_w is not None
    assert colder.best_w > need.best_w
    assert changed("lamps-of-months", [need, colder, powers_to_try_w(hung, CATALOGUE), figures]) == []


def need(low: float, high: float) -> LampNeed:
    return LampNeed((low + high) / 2, (low, high))


def test_one_lamp_that_does_for_all_stays_and_else_the_months_have_theirs() -> None:
    design = in_seasons(ledge_data(watts=75.0))
    alike = lamp_year(design, CATALOGUE, [need(60, 120)] * 12)
    assert alike is not None
    assert alike.for_all_w == 75.0
    split = lamp_year(design, CATALOGUE, [need(90, 160)] * 3 + [need(30, 60)] * 6 + [need(90, 160)] * 3)
    assert split is not None
    assert split.for_all_w is None
    assert len(split.spans) == 2
    assert changed("lamps-of-a-year", [alike, split]) == []
    assert [number for number, _ in split.spans] == [4, 10]
    hopeless = lamp_year(design, CATALOGUE, [need(60, 120)] * 11 + [LampNeed(None, None)])
    assert hopeless is not None
    assert hopeless.by_month[11] is None
    assert lamp_year(design, CATALOGUE, [None] * 12) is None


def year_of(design: Design, **by_month: object) -> list[MonthFigures]:
    """Twelve months of one that was worked out; ``by_month`` are functions of the month's number."""
    months = months_of(design, CATALOGUE)
    first = figures_of(design, CATALOGUE, months[0])
    made = []
    for month in months:
        changes = {key: value(month.number) for key, value in by_month.items()}  # type: ignore[operator]
        made.append(replace(first, month=month, **changes))
    return made


@pytest.mark.slow
def test_changes_are_on_the_days_on_which_something_is_to_be_done() -> None:
    design = in_seasons(ledge_data(watts=75.0))
    months = year_of(
        design, unheated_night_c=lambda n: 10.0 if n in (1, 2, 12) else 20.0, borne_night_c=lambda _n: 15.0,
        lights_on_min=lambda n: 480.0 if n < 7 else 450.0,
    )  # fmt: skip
    lamps = LampYear("halogen-flood", 75.0, (90.0,) * 6 + (50.0,) * 6, None, (1.0,) * 12)
    found = [(one.day, one.kind) for one in changes_of(design, CATALOGUE, months, lamps)]
    assert found == [
        (date(2027, 1, 1), "timer"), (date(2027, 1, 1), "lamp"), (date(2027, 3, 1), "night-heat"),
        (date(2027, 7, 1), "timer"), (date(2027, 7, 1), "lamp"), (date(2027, 12, 1), "night-heat"),
    ]  # fmt: skip
    words = {one.kind: one.words for one in changes_of(design, CATALOGUE, months, lamps)}
    assert "this box has none" in words["night-heat"]
    assert words["lamp"] == f"Change to a 50 W {CATALOGUE.sources['halogen-flood'].label}"
    assert changes_of(design, CATALOGUE, year_of(design), None) == []


def test_without_a_thermostat_the_cool_rest_is_hours_by_the_timer_fewer_from_step_to_step() -> None:
    rest = {"starts": "11-15", "weeks": 8, "day_c": 20, "night_c": 12, "ramp_weeks": 2}
    design = in_seasons(ledge_data(watts=75.0), cooling=rest)
    words = [one.words for one in changes_of(design, CATALOGUE, year_of(design), None) if one.kind == "cooling"]
    assert [said.rpartition(": ")[2] for said in words] == [
        "heat for 4 hours a day, by the timer", "heat for 8 hours a day, by the timer", "set everything as this month's figures say",
        "heat for 8 hours a day, by the timer", "heat for 4 hours a day, by the timer", f"all heat off. {CAUTIONS}",
    ]  # fmt: skip


def test_lamps_of_the_basking_place_are_those_nearest_to_it_and_of_their_kind() -> None:
    data = ledge_data(watts=75.0)
    near = data["heaters"][0]
    data["heaters"] = [
        {**near, "name": "Far", "watts": 50.0, "x_m": 0.3}, near, {**near, "name": "Twin", "x_m": 0.7},
        {**near, "name": "Other", "kind": "halogen-spot", "x_m": 0.5}, {**near, "name": "Night", "on": "night"},
    ]  # fmt: skip
    assert [one.name for one in basking_lamps(read(data), CATALOGUE)] == ["Lamp", "Twin"]
    assert basking_lamps(read({**data, "sites": []}), CATALOGUE) == ()


def test_a_power_is_tried_undimmed_and_without_what_regulates_it() -> None:
    data = ledge_data(watts=75.0)
    control = {"kind": "pulse", "day_c": 35.0, "probe": {"x_m": 0.9, "y_m": 0.3, "z_m": 0.2}}
    data["heaters"] = [
        {**data["heaters"][0], "control": "Pulse", "dim": 0.5}, lamp(name="Other", x_m=0.3, control="Held"),
    ]  # fmt: skip
    data["controls"] = [{**control, "name": "Pulse"}, {**control, "name": "Held"}]
    tried = _with_watts(read(data), basking_lamps(read(data), CATALOGUE)[:1], 50.0)
    assert [(one.watts, one.dim, one.control) for one in tried.heaters] == [(50.0, 1.0, None), (75.0, 1.0, "Held")]
    assert [one.name for one in tried.controls] == ["Held"]


def test_a_lamp_that_is_not_borne_is_not_kept_in_for_a_month() -> None:
    """In April the lamp of the months around it burns; where it is only too much of a good thing, it stays in."""
    usual, burns, best_is_less = need(90, 160), need(30, 60), LampNeed(60.0, (30, 160))
    design = in_seasons(ledge_data(watts=75.0))
    for april, stays in ((burns, False), (best_is_less, True)):
        found = lamp_year(design, CATALOGUE, [usual] * 3 + [april] + [usual] * 8)
        assert found is not None
        assert (found.by_month[3] == found.by_month[2]) is stays


@pytest.mark.parametrize(
    ("installed", "comes"), [("2028-02-29", (2, 28)), ("2026-05-31", (5, 28)), ("2026-09-10", (9, 10))]
)
def test_a_lamp_that_was_put_in_on_any_day_is_measured_on_a_day_that_every_year_has(
    installed: str, comes: tuple[int, int]
) -> None:
    tube = {"name": "UV", "watts": 14.0, "uvi_at_30cm": 5.0, "x_m": 0.9, "y_m": 0.4, "z_m": 0.57, "length_m": 0.4}
    design = in_seasons({**ledge_data(watts=75.0), "uvb": [{**tube, "installed": installed}]})
    (change,) = [one for one in changes_of(design, CATALOGUE, year_of(design), None) if one.kind == "uv-lamp"]
    assert (change.day.month, change.day.day) == comes


@pytest.mark.parametrize(("on", "has_some"), [("day", False), ("night", True), ("always", True)])
def test_night_heat_that_the_box_has_is_not_called_missing(on: str, has_some: bool) -> None:
    data = ledge_data(watts=75.0)
    data["heaters"].append({**data["heaters"][0], "name": "Second", "x_m": 0.4, "on": on})
    months = year_of(
        in_seasons(data), unheated_night_c=lambda n: 10.0 if n == 1 else 20.0, borne_night_c=lambda _n: 15.0
    )
    needed = [one.words for one in changes_of(in_seasons(data), CATALOGUE, months, None) if one.kind == "night-heat"]
    assert next("none" not in words for words in needed if "is needed from now on" in words[:40]) is has_some


@pytest.mark.slow
def test_the_cool_rest_says_what_to_set_and_when_the_room_is_too_warm_for_it() -> None:
    rest = {"starts": "11-15", "weeks": 8, "day_c": 20, "night_c": 12, "ramp_weeks": 2}
    coast = demo_designs()[5]
    schedule = coast.schedule.model_dump() if coast.schedule else {}
    design = read({**coast.model_dump(mode="json", exclude_none=True), "schedule": {**schedule, "cooling": rest}})
    months = months_of(design, CATALOGUE)
    december = figures_of(design, CATALOGUE, months[11])
    assert december.rest is not None
    assert december.rest.without_night_c > 12 + 1
    assert december.resting_kwh_day < december.kwh_day / 2
    assert not december.night_heat
    year = [december.as_of(month) for month in months]
    steps = [one for one in changes_of(design, CATALOGUE, year, None) if one.kind == "cooling"]
    assert [(one.day.month, one.day.day) for one in steps] == [(1, 24), (1, 31), (2, 7), (11, 15), (11, 22), (11, 29)]
    assert steps[2].words == "The cool rest ends: set everything as this month's figures say"
    assert "needs a cooler room" in steps[5].why
    assert "veterinarian" in steps[5].words
    assert changed("a-cool-rest", [december, changes_of(design, CATALOGUE, year, None)]) == []
