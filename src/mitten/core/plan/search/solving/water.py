"""Water for an animal that wants humid air: the least misting that does, by the coarse grid."""

from bisect import bisect_left
from collections.abc import Iterator
from typing import Any

from mitten.core.catalogue import Catalogue, read_data
from mitten.core.design import Design
from mitten.core.design.editing import data_of
from mitten.core.judge import Condition, read_condition, solve_condition
from mitten.core.physics.reading.climate import Climate
from mitten.core.plan.search.screening.responses import COARSE
from mitten.core.plan.search.wants.wishes import Wishes

MISTING_ML_DAY = (50.0, 100.0, 150.0, 250.0, 400.0, 650.0, 1000.0, 1600.0, 2500.0)
MOST_MISTING_ML_M2_DAY = 250.0
"""Nobody sprays more than this on each square metre inside: the ground would stand in water, and all of it cools."""

INSIDE_RH = 0.03
"""How far inside what is wanted humidity is brought: the coarse grid is not surer."""


WINTER = ["winter-day", "winter-night"]


def water(design: Design, catalogue: Catalogue) -> Design:
    """A design with the least water that brings a usual day's humidity to what is wanted, as far as the dampest night
    bears it, and the heat keeps up with what evaporates; with less water where it is too damp.
    """
    air = _Air(design, catalogue)
    if air.is_too_damp(design):
        return _first_dry_enough(design, air)
    if air.is_damp_enough(design):
        return design
    wetter = list(_wetter(design, catalogue))
    usually = bisect_left(wetter, True, key=air.is_usually_damp_enough)
    enough = next((level for level in range(usually, len(wetter)) if air.is_borne(wetter[level])), len(wetter))
    if enough and not air.is_warm_enough(wetter[min(enough, len(wetter) - 1)]):
        enough = bisect_left(wetter, True, hi=enough, key=air.is_borne)
    not_too_damp = (one for one in reversed(wetter[: enough + 1]) if not air.is_too_damp(one))
    return next(not_too_damp, design)


def dry_if_too_damp(design: Design, catalogue: Catalogue) -> Design:
    """A design with less water where it is too damp."""
    air = _Air(design, catalogue)
    return _first_dry_enough(design, air) if air.is_too_damp(design) else design


def _first_dry_enough(design: Design, air: "_Air") -> Design:
    return next((one for one in _drier(design, air.catalogue) if not air.is_too_damp(one)), design)


def _wetter(design: Design, catalogue: Catalogue) -> Iterator[Design]:
    """More and more misting, and then ground that is wet in part besides."""
    levels = _levels(design)
    yield from (_with_ground(design, catalogue, misting_ml_day=one) for one in levels)
    if design.substrate.moisture == "damp":
        most = levels[-1] if levels else design.substrate.misting_ml_day
        yield _with_ground(design, catalogue, misting_ml_day=most, moisture="wet")


def _levels(design: Design) -> list[float]:
    """Millilitres a day that are more than is sprayed, and no flood."""
    box = design.enclosure
    sides_m2 = 2 * (box.length_m + box.depth_m) * box.height_m
    most = MOST_MISTING_ML_M2_DAY * (box.length_m * box.depth_m + sides_m2)
    return [one for one in MISTING_ML_DAY if design.substrate.misting_ml_day < one <= most]


class _Air:
    """The air of a design with more or less water in it, by the coarse grid."""

    def __init__(self, design: Design, catalogue: Catalogue) -> None:
        self.catalogue, self.targets = catalogue, Wishes.of(design, catalogue).targets
        self._last: dict[Condition, Climate] = {}

    def is_damp_enough(self, design: Design) -> bool:
        """Whether a usual day has what is wanted, and the driest of what is judged what is borne."""
        return self.is_usually_damp_enough(design) and self.is_borne(design)

    def is_usually_damp_enough(self, design: Design) -> bool:
        """Whether a usual day has what is wanted."""
        return self._humidity(design, "usual-day") >= self.targets.humidity[0] + INSIDE_RH

    def is_borne(self, design: Design) -> bool:
        """Whether the driest of what is judged is damp enough to be borne."""
        low, judged = self.targets.bears("humidity")[0], ["winter-day"] if self.targets.is_arid else WINTER
        return all(self._humidity(design, name) >= low + INSIDE_RH for name in judged)

    def is_too_damp(self, design: Design) -> bool:
        """Whether it is more than is borne in the dampest of what is judged."""
        dampest = "summer-day" if self.targets.is_arid else "summer-night"
        return self._humidity(design, dampest) > self.targets.bears("humidity")[1] - INSIDE_RH

    def is_warm_enough(self, design: Design) -> bool:
        """Whether every thermostat reaches its setting of a winter night."""
        controls = self._climate(design, "winter-night").controls
        return all(held.status != "cannot reach" for held in controls.values())

    def _humidity(self, design: Design, name: str) -> float:
        """Relative humidity (0-1)."""
        return self._climate(design, name).humidity.mean

    def _climate(self, design: Design, name: str) -> Climate:
        """The climate of a condition, begun from what is known of it."""
        condition = read_condition(design, name)
        self._last[condition] = solve_condition(design, self.catalogue, condition, self._last.get(condition), COARSE)
        return self._last[condition]


def _drier(design: Design, catalogue: Catalogue) -> Iterator[Design]:
    less = [one for one in (0.0, *MISTING_ML_DAY) if one < design.substrate.misting_ml_day]
    yield from (_with_ground(design, catalogue, misting_ml_day=one) for one in reversed(less))
    if design.substrate.moisture != "dry":
        yield _with_ground(design, catalogue, misting_ml_day=0.0, moisture="dry")


def _with_ground(design: Design, catalogue: Catalogue, **changes: Any) -> Design:
    data = data_of(design)
    data["substrate"] |= changes
    return read_data(data, catalogue)
