"""The power that the basking lamp needs from month to month: which wattage suits when, and whether one does for all."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from scipy.interpolate import PchipInterpolator

from mitten.core.catalogue import Catalogue, Targets, targets_of
from mitten.core.design import Design, Heater
from mitten.core.judge.conditions import solve_condition
from mitten.core.judge.targets import figures_to_judge
from mitten.core.plan.failsafe import rated_w
from mitten.core.plan.year.months import Month

TRIED_UP_TO = 2.0
"""Wattages beyond so many times the present one are not looked at."""


@dataclass(frozen=True)
class LampNeed:
    """What one month asks of the basking lamp in W: from ``borne`` to ``borne`` the basking place is bearable, at
    ``best`` it is in the middle of what is wanted. None where no power that was tried reaches that far.
    """

    best_w: float | None
    borne_w: tuple[float, float] | None


def basking_lamps(design: Design, catalogue: Catalogue) -> tuple[Heater, ...]:
    """The lamps that make the basking place: the one nearest above it that shines by day, and those of its kind."""
    site = design.basking_site
    lamps = [one for one in design.heaters if one.on == "day" and catalogue.sources[one.kind].family == "lamp"]
    if site is None or not lamps:
        return ()
    nearest = min(lamps, key=lambda one: np.hypot(one.x_m - site.x_m, one.y_m - site.y_m))
    return tuple(one for one in lamps if (one.kind, one.watts) == (nearest.kind, nearest.watts))


def lamp_need(design: Design, catalogue: Catalogue, month: Month) -> LampNeed | None:
    """What a month asks of the basking lamps; None where there are none.

    The basking place is solved at four powers, without what regulates the lamps, and read between them.

    Raises:
        UnsolvedError: the design finds no rest at one of them.
    """
    lamps = basking_lamps(design, catalogue)
    if not lamps:
        return None
    targets = targets_of(design.animal, catalogue.species[design.animal.species])
    judged = next(iter(figures_to_judge(design, targets)))
    tried = powers_to_try_w(lamps[0], catalogue)
    reached = [
        judged.figure(solve_condition(_with_watts(design, lamps, watts), catalogue, month.condition(day=True)))
        for watts in tried
    ]
    return _need(tried, reached, targets, judged.key)


def powers_to_try_w(lamp: Heater, catalogue: Catalogue) -> tuple[float, ...]:
    """Four powers from the least that is sold to twice the present one."""
    sold = [watts for watts in catalogue.sources[lamp.kind].watts_sold if watts <= TRIED_UP_TO * lamp.watts]
    least, most = min([*sold, lamp.watts]), max([*sold, 1.25 * lamp.watts])
    between = np.geomspace(least, most, 4)
    return tuple(float(watts) for watts in between)


def _with_watts(design: Design, lamps: Sequence[Heater], watts: float) -> Design:
    """The design with lamps of another power that nothing regulates."""
    names = {lamp.name for lamp in lamps}
    heaters = tuple(
        one.model_copy(update={"watts": watts, "control": None, "dim": 1.0}) if one.name in names else one
        for one in design.heaters
    )
    used = {one.control for one in heaters}
    controls = tuple(control for control in design.controls if control.name in used)
    return design.model_copy(update={"heaters": heaters, "controls": controls})


def _need(tried: Sequence[float], reached: Sequence[float], targets: Targets, key: str) -> LampNeed:
    """Powers read off where the basking place comes to what is wanted and to what is borne."""
    rising = np.maximum.accumulate(np.asarray(reached)) + 1e-6 * np.arange(len(reached))
    power_at = PchipInterpolator(rising, tried)
    low, high = targets.bears(key)
    middle = sum(targets.wants(key)) / 2
    best = float(power_at(middle)) if rising[0] <= middle <= rising[-1] else None
    if low > rising[-1] or high < rising[0]:
        return LampNeed(best, None)
    return LampNeed(best, (float(power_at(max(low, rising[0]))), float(power_at(min(high, rising[-1])))))


@dataclass(frozen=True)
class LampYear:
    """Through the year: the wattage sold that suits each month (None where none does), one that is borne in all of
    them if there is one, and the share (0-1) of the present lamps' power that each month wants.
    """

    kind: str
    now_w: float
    by_month: tuple[float | None, ...]
    for_all_w: float | None
    shares: tuple[float | None, ...]

    @property
    def spans(self) -> tuple[tuple[int, float | None], ...]:
        """The months (1-12) from which on another wattage suits, with it."""
        cyclic = (*self.by_month[-1:], *self.by_month)
        return tuple((number, after) for number, (before, after) in enumerate(pairwise(cyclic), 1) if before != after)


def lamp_year(design: Design, catalogue: Catalogue, needs: Sequence[LampNeed | None]) -> LampYear | None:
    """What twelve months ask, together; None without basking lamps."""
    lamps, known = basking_lamps(design, catalogue), [need for need in needs if need is not None]
    if not lamps or len(known) < len(needs):
        return None
    lamp = lamps[0]
    # No rating of a fixture or a thermostat is passed in any month.
    most_w = rated_w(
        design, catalogue, lamp, design.heaters_of(control) if (control := design.control_of(lamp)) else lamps
    )
    sold = [watts for watts in catalogue.sources[lamp.kind].watts_sold if watts <= most_w]
    for_all = [watts for watts in sold if all(_bears(need, watts) for need in known)]
    best = [need.best_w for need in known if need.best_w is not None]
    middle_w = sum(best) / len(best) if best else lamp.watts
    return LampYear(
        lamp.kind, lamp.watts, _fewest(known, sold), _best_for_all(for_all, lamp.watts, middle_w),
        tuple(None if need.best_w is None else need.best_w / lamp.watts for need in known),
    )  # fmt: skip


def _best_for_all(for_all: Sequence[float], now_w: float, middle_w: float) -> float | None:
    """The lamp that hangs there, if it does; else the one nearest to what is best on average."""
    return now_w if now_w in for_all else min(for_all, key=lambda watts: abs(watts - middle_w), default=None)


def _bears(need: LampNeed, watts: float) -> bool:
    return need.borne_w is not None and need.borne_w[0] <= watts <= need.borne_w[1]


def _fewest(needs: Sequence[LampNeed], sold: Sequence[float]) -> tuple[float | None, ...]:
    """The wattage for each month, nearest to its best among those that are borne; what is sold and borne in the months
    on both sides stays in, so that lamps are not changed for a month.
    """
    chosen = [_nearest_to_best(need, [watts for watts in sold if _bears(need, watts)]) for need in needs]
    count = len(chosen)
    for place, need in enumerate(needs):
        before, after = chosen[place - 1], chosen[(place + 1) % count]
        if before == after != chosen[place] and before is not None and _bears(need, before):
            chosen[place] = before
    return tuple(chosen)


def _nearest_to_best(need: LampNeed, borne: Sequence[float]) -> float | None:
    best_w = need.best_w
    if best_w is None:
        # The middle of what is wanted is below what the least of them gives.
        return min(borne, default=None)
    return min(borne, key=lambda watts: abs(watts - best_w), default=None)
