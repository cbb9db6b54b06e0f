"""A plan for every home: every species in a box that is usual for it, and a few ordinary homes of each room."""

import pytest

from mitten.core.catalogue import read_checked_design
from mitten.core.design import Animal, Design, Room, RoomSeason, Substrate, write_design
from mitten.core.design.amounts import plain
from mitten.core.judge import assess
from mitten.core.plan.hard import hard_box, hard_room
from mitten.core.plan.search import Brief, Plan, distinct, find_plans, search
from mitten.core.plan.search.solving.finish import idles
from mitten.core.plan.usual_box import usual_box
from tests.briefs import ordinary_briefs
from tests.catalogue import CATALOGUE
from tests.sweeping import sliced, sweep

SPECIES = CATALOGUE.species
USUAL = Room(winter=RoomSeason(day_c=20.0, night_c=17.5), summer=RoomSeason(day_c=25.0, night_c=22.5))
SENSIBLE = (
    "collared-lizard", "gargoyle-gecko", "hermanns-tortoise", "common-chuckwalla", "milksnake", "western-hognose-snake",
    "steppe-tortoise", "veiled-chameleon", "painted-turtle", "berber-skink",
)  # fmt: skip
"""Animals of every kind."""

EVERY = 97
"""Of the ordinary homes so many are left out between two that are looked at; ``bench/briefs.py`` goes through all."""


def home_of(key: str, room: Room = USUAL) -> Design:
    """An adult in its usual box, on topsoil."""
    return Design(
        format="mitten-design/1", name="Home", animal=Animal(species=key), room=room,
        enclosure=usual_box(SPECIES[key], "adult"), substrate=Substrate(),
    )  # fmt: skip


def first_plan(design: Design) -> Plan | None:
    """The first plan that a search comes upon."""
    return next((progress.plans[0] for progress in search(Brief(design, CATALOGUE)) if progress.plans), None)


@pytest.mark.slow
@pytest.mark.parametrize("key", sliced(SENSIBLE, 2))
def test_a_usual_box_under_what_everybody_would_hang_gives_no_alarm(key: str) -> None:
    """There is a plan, and in it nothing to stop and nothing to warn of."""
    plan = first_plan(home_of(key))
    assert plan is not None
    assert plan.assessment.passes
    assert [one.title for one in plan.assessment.findings if one.severity != "note"] == []


@sweep
@pytest.mark.slow
@pytest.mark.parametrize("key", sorted(set(SPECIES) - set(SENSIBLE)))
def test_every_species_has_a_plan_in_its_usual_box_and_a_usual_room(key: str) -> None:
    plan = first_plan(home_of(key))
    assert plan is not None
    assert plan.assessment.passes


@pytest.mark.parametrize("key", sorted(SPECIES))
def test_a_usual_box_is_one_that_no_rule_calls_too_small(key: str) -> None:
    for stage in ("hatchling", "juvenile", "adult"):
        home = home_of(key).model_copy(
            update={
                "animal": Animal(species=key, stage=stage),
                "enclosure": usual_box(SPECIES[key], stage),
            }
        )
        assert hard_box(home, CATALOGUE) == []
        assert hard_room(home, CATALOGUE) == []


def test_what_is_hard_is_said_with_its_figures() -> None:
    hot = home_of("gargoyle-gecko", USUAL.model_copy(update={"summer": RoomSeason(day_c=31.0, night_c=30.0)}))
    said = hard_room(hot, CATALOGUE)
    assert len(said) == 2
    assert "31 °C on a summer day is more than a gargoyle gecko bears (29 °C)" in plain(said[0])
    cold = home_of("green-anole", USUAL.model_copy(update={"winter": RoomSeason(day_c=12.0, night_c=12.0)}))
    assert "lets its warm air out" in hard_room(cold, CATALOGUE)[0]
    small = home_of("collared-lizard").model_copy(update={"enclosure": usual_box(SPECIES["mourning-gecko"], "adult")})
    assert "Too small for an adult collared lizard: 30 of 120 cm long" in plain(hard_box(small, CATALOGUE)[0])


@pytest.mark.slow
@pytest.mark.parametrize("home", list(ordinary_briefs(1, 3))[::EVERY], ids=lambda home: home.name)
def test_an_ordinary_home_gets_plans_and_the_bench_says_the_same_of_them(home: object) -> None:
    design: Design = home.design  # type: ignore[attr-defined]
    progress = find_plans(Brief(design, CATALOGUE))
    for plan in distinct(progress.plans, CATALOGUE)[:2]:
        again = assess(read_checked_design(write_design(plan.design), CATALOGUE), CATALOGUE)
        assert again.passes
        assert again.headline == plan.assessment.headline
        assert [one.value for one in again.verdicts] == [one.value for one in plan.assessment.verdicts]
        assert not idles(again)
        assert [(one.rule, one.number) for one in again.findings] == [
            (one.rule, one.number) for one in plan.assessment.findings
        ]
        assert all(one.night_c is None or one.day_c is None or one.night_c <= one.day_c for one in plan.design.controls)
    if home.room == "usual":  # type: ignore[attr-defined]
        assert progress.plans
