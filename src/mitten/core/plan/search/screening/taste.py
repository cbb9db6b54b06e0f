"""What an experienced keeper would shake the head at, though it reaches the temperatures."""

from collections.abc import Sequence

import numpy as np

from mitten.core.catalogue import Catalogue, SourceKind
from mitten.core.design import Heater
from mitten.core.judge import Assessment
from mitten.core.physics.arrays import Array
from mitten.core.plan.search.screening.days import Main
from mitten.core.plan.search.screening.extras import NO_MAT, Mat, Night
from mitten.core.plan.search.screening.layouts import Layout
from mitten.core.plan.search.wants.figures import COOL_AIR, LEAST_RISE_K, SURFACE
from mitten.core.plan.search.wants.wishes import Wishes

A_WRONG_MAT = 0.2
"""What is taken off for warmth from below where the animal seeks it from above."""

DARK_HEAT = 0.12
DARK_EMITTER = 0.5
"""Taken off where an animal that basks by day has no lamp to bask under, and where a ceramic emitter is all it has."""

WHEN_STUCK = 0.1
"""Taken off where a thermostat that sticks makes something dangerous."""

IDLE = 0.4
USED_AT_LEAST = 0.4
"""Taken off for the share of a source's power under this that even the coldest time leaves idle."""

LEAST_DUTY, NEEDLESS = 0.07, 0.5
"""A source that gives less than this of its power at the coldest time is none that anybody needs."""


def misgivings(wishes: Wishes, layout: Layout, main: Main, nights: Sequence[Night], mats: Sequence[Mat]) -> Array:
    """What is taken off (watts, nights, mats) for a main source with night sources and mats, idle days apart."""
    kind = layout.source
    stuck_c = max(wishes.by_day_c) + main.full[:, SURFACE]
    of_main = in_the_dark(wishes, kind) + WHEN_STUCK * (main.held & (stuck_c > wishes.targets.danger_contact_c))
    from_below = np.array([main.contact or mat != NO_MAT for mat in mats])
    of_nights = np.array([_of_night(wishes, night) for night in nights])
    return np.asarray(of_main[:, None, None] + of_nights[:, None] + A_WRONG_MAT * (from_below & wishes.from_above))


def _of_night(wishes: Wishes, night: Night) -> float:
    """For a source of the night or the air that is far stronger than what is missing."""
    if night.layout is None:
        return 0.0
    missing_k = max(wishes.night_missing_k(), (wishes.warm_aim_c - wishes.by_day_c[0]) * night.all_day)
    return float(idling(np.array(missing_k / max(night.rises[COOL_AIR], LEAST_RISE_K))))


def _is_below(heater: Heater, catalogue: Catalogue) -> bool:
    """Whether a heater warms what lies on it: a mat that is not on a wall."""
    kind = catalogue.sources[heater.kind]
    return kind.family == "contact" and kind.place_of(heater) != "wall"


def idling(shares: Array) -> Array:
    """What is taken off for the shares (...) of its power that a source gives at the coldest time."""
    return np.asarray(IDLE * np.maximum(USED_AT_LEAST - shares, 0.0) + NEEDLESS * (shares < LEAST_DUTY))


def in_the_dark(wishes: Wishes, kind: SourceKind) -> float:
    """What is taken off for warmth without light for an animal that basks by day."""
    if kind.light or not wishes.basks_by_day:
        return 0.0
    return DARK_EMITTER if kind.family == "lamp" and kind.emitter_k is None else DARK_HEAT


def misgivings_about(assessment: Assessment, main_kind: str) -> float:
    """The same of a whole design: for its main source and for what idles on the coldest day and night."""
    wishes, sources = Wishes.of(assessment.design, assessment.catalogue), assessment.catalogue.sources
    from_below = any(_is_below(heater, assessment.catalogue) for heater in assessment.design.heaters)
    idle = sum(float(idling(np.array(duty))) for duty in coldest_duties(assessment).values())
    return idle + in_the_dark(wishes, sources[main_kind]) + A_WRONG_MAT * (from_below and wishes.from_above)


def coldest_duties(assessment: Assessment) -> dict[str, float]:
    """What each thermostat gives of its power on the coldest day or night, whichever is more. One that rests then is
    needed at no time, though it may have something to do on a summer day, when others are set lower.
    """
    most: dict[str, float] = {}
    for name in ("winter-day", "winter-night"):
        for control, held in assessment.climate(name).controls.items():
            most[control] = max(most.get(control, 0.0), held.duty)
    return most
