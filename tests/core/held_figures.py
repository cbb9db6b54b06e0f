"""What the core says of many designs, as plain data that can be kept and compared: values, not ranges.

Each function here is one document; they are cheap, so that a fault anywhere in what decides them shows.
"""

from collections.abc import Callable, Iterator
from datetime import date
from functools import cache, partial
from itertools import islice
from typing import Any, get_args

from mitten.core.catalogue import targets_of
from mitten.core.design import BadDesignError, Design
from mitten.core.design.site import SiteRole
from mitten.core.judge import SEASONAL, Condition, read_condition, seasonal, solve_condition
from mitten.core.judge.cover import cover_by_temperature, hide_temperatures
from mitten.core.judge.days import failures_of
from mitten.core.judge.finding import Case
from mitten.core.judge.materials import hottest_materials
from mitten.core.judge.outlooks import everything_that_fails, outlook
from mitten.core.judge.reach import footings, out_of_reach
from mitten.core.judge.safety import find_dangers
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.reading.climate import Climate
from mitten.core.plan.alternatives import over_materials
from mitten.core.plan.changing import candidates as changes_for
from mitten.core.plan.hard import hard_box, hard_room
from mitten.core.plan.mains import connected_w, load_of_control_w, most_connected_w
from mitten.core.plan.probe_places import probe_places, probe_words
from mitten.core.plan.search import ALONE, Brief
from mitten.core.plan.search.screening.extras import helping_layouts, mats_of, nights_of, ultraviolet_in
from mitten.core.plan.search.screening.probing import (
    beside_the_basking_place,
    day_lights,
    in_the_middle,
    in_the_warm_air,
)
from mitten.core.plan.search.screening.screen import Candidate, a_few_of, begin_screening, candidates, layouts_for
from mitten.core.plan.search.solving.build import assemble
from mitten.core.plan.search.wants.boxes import changes_of_box, is_cold
from mitten.core.plan.search.wants.furnish import furnish
from mitten.core.plan.search.wants.wishes import Wishes
from mitten.core.plan.shopping import shopping_list
from mitten.core.plan.usual import lies_at_m, new_heater, new_site, new_tube, new_vent
from mitten.core.plan.year.months import months_of
from mitten.demo import demo_designs
from tests.briefs import ordinary_briefs
from tests.catalogue import CATALOGUE
from tests.held import plain
from tests.random_designs import random_design

TODAY = date(2026, 11, 25)
SEEDS, HOMES_EVERY = range(16), 31
COARSE = 0.5
TOLD = ("uvi", "humidity", "night_c", "cool_air_c", "warm_air_c", "basking_surface_c", "hides")
"""Targets of every kind."""


@cache
def homes() -> tuple[Design, ...]:
    """Boxes of keepers without any heat."""
    return tuple(home.design for home in list(ordinary_briefs(1, 20261128))[::HOMES_EVERY])


@cache
def designs() -> tuple[Design, ...]:
    """The demo designs, and random ones."""
    return (*demo_designs(), *(random_design(seed) for seed in SEEDS))


@cache
def climates_of(design: Design) -> dict[Condition, Climate]:
    """Coarse climates of the four seasons; those that find no rest are left out."""
    found = {}
    for condition in seasonal(design):
        try:
            found[condition] = solve_condition(design, CATALOGUE, condition, None, COARSE)
        except UnsolvedError:
            continue
    return found


def _stuck(design: Design) -> dict[Condition, Climate]:
    if not any(control.is_thermostat for control in design.controls):
        return {}
    condition = read_condition(design, "summer-day+stuck-on")
    return {condition: solve_condition(design, CATALOGUE, condition, None, COARSE)}


def findings() -> Iterator[Any]:
    """What the rule book finds, with its numbers."""
    for design in designs():
        species = CATALOGUE.species[design.animal.species]
        targets = targets_of(design.animal, species)
        case = Case(design, species, targets, CATALOGUE, climates_of(design), _stuck(design), TODAY)
        yield [[one.rule, one.severity, one.title, one.number, list(one.parts)] for one in find_dangers(case)]


def places() -> Iterator[Any]:
    """Materials at their hottest, hides, cover, and where the animal gets to."""
    for design in designs():
        climates, species = climates_of(design), CATALOGUE.species[design.animal.species]
        targets = targets_of(design.animal, species)
        yield {
            "materials": [
                [one.what, one.temperature_c, one.service_c, one.condition.name]
                for one in hottest_materials(design, climates, CATALOGUE)
            ],
            "hides": [hide_temperatures(climate) for climate in climates.values()],
            "cover": [list(cover_by_temperature(climate, targets)) for climate in climates.values()],
            "footings": [[one.name, one.height_m] for one in footings(design, species)],
            "out of reach": [site.name for site in out_of_reach(design, species)],
        }


def gear() -> Iterator[Any]:
    """What is bought, plugged in and added to designs."""
    for design in designs():
        yield {
            "shopping": shopping_list(design, CATALOGUE),
            "connected": [connected_w(design, "day"), connected_w(design, "night"), most_connected_w(design)],
            "loads": [load_of_control_w(design, control) for control in design.controls],
            "heaters": {kind: new_heater(design, CATALOGUE, kind) for kind in CATALOGUE.sources},
            "sites": [new_site(design, CATALOGUE, role) for role in get_args(SiteRole)],
            "tubes": {kind: new_tube(design, CATALOGUE, kind) for kind in CATALOGUE.uvb},
            "vent": new_vent(design),
            "materials": {name: other.enclosure for name, other in over_materials(design, CATALOGUE).items()},
        }


def probes() -> Iterator[Any]:
    """Where probes may lie, and what they are said to read."""
    for design in designs():
        for control in design.controls:
            yield [
                probe_words(design, CATALOGUE, control),
                list(probe_places(design, CATALOGUE, control)),
            ]


def changes() -> Iterator[Any]:
    """Every single change that is tried for a target."""
    for design in designs()[::4]:
        yield {
            f"{target} {name}": [
                [change.kind, change.name, change.value, change.words, change.effort, change.step]
                for change, _ in changes_for(design, CATALOGUE, read_condition(design, name), target)
            ]
            for target in TOLD
            for name in SEASONAL[:3:2]
        }


def wants() -> Iterator[Any]:
    """What animals are wished, how their homes are furnished, and what is tried in them."""
    for design in homes():
        brief = Brief(design, CATALOGUE)
        furnished = list(islice(furnish(design, CATALOGUE), 4))
        first = furnished[0]
        yield {
            "wishes": Wishes.of(design, CATALOGUE),
            "night": Wishes.of(design, CATALOGUE).night_needed_k(),
            "cold": is_cold(design, CATALOGUE),
            "hard": [hard_box(design, CATALOGUE), hard_room(design, CATALOGUE)],
            "box": list(changes_of_box(design, CATALOGUE)),
            "furnished": [[one.changes, [plain(site) for site in one.design.sites]] for one in furnished],
            "layouts": [[one.kind, one.where, one.watts_sold, one.heaters] for one in layouts_for(brief, first)],
            "helping": [[one.kind, one.where, one.watts_sold, one.heaters] for one in helping_layouts(design, brief)],
            "probes": [f(first.design) for f in (beside_the_basking_place, in_the_middle, in_the_warm_air)],
            "lights": day_lights(first.design),
            "months": months_of(design, CATALOGUE)[::3],
            "mat": lies_at_m(first.design),
        }


def screened(number: int) -> Iterator[Any]:
    """What the screening thinks of combinations in a box, and what would hang there."""
    brief = Brief(homes()[number], CATALOGUE)
    furnished = next(furnish(brief.design, CATALOGUE))
    box = begin_screening(brief, furnished)
    box.responses += [one for one in box.helping if one.layout.count == 1][:2]
    known = {response.layout.kind for response in box.responses}
    left = [one for one in a_few_of(layouts_for(brief, furnished)) if one.kind not in known]
    box.add(left[::3], ALONE)
    wishes = Wishes.of(furnished.design, CATALOGUE)
    yield [[one.label, one.watts, one.all_day, one.day_rises] for one in nights_of(box.responses, wishes)]
    yield [[one.watts, one.layout and one.layout.where] for one in mats_of(box.responses)]
    yield [one.data for one in ultraviolet_in(furnished.design, brief)]
    for kind in dict.fromkeys(response.layout.kind for response in box.responses):
        for one in candidates(brief, box, kind):
            yield [
                one.kind, one.watts, one.layout.where, one.held, one.night.label, one.mat.watts, one.approach, one.shape,
                one.chance, one.score, one.rises, _hangs(one),
            ]  # fmt: skip


def _hangs(candidate: Candidate) -> Any:
    try:
        made = assemble(candidate, "made", CATALOGUE)
    except BadDesignError as error:
        return str(error)
    heaters = [[one.name, one.watts, one.on, one.control, one.x_m, one.y_m, one.z_m] for one in made.heaters]
    return heaters, [[one.name, one.kind, one.probe] for one in made.controls]


def _tub() -> Design:
    return next(design for design in demo_designs() if design.name == "Sand tub")


def failures() -> Iterator[Any]:
    """What can fail, and what comes of it in winter at its worst hour."""
    design = _tub()
    yield [[season, one.text, one.label] for season, one in everything_that_fails(design)]
    for failure in failures_of(design, "winter"):
        yield outlook(design, CATALOGUE, "winter", failure.text)


HELD: dict[str, Callable[[], Iterator[Any]]] = {
    **{one.__name__: one for one in (findings, places, gear, probes, changes, wants, failures)},
    **{f"screened-{number}": partial(screened, number) for number in range(6)},
}
