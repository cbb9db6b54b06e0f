"""What each layout does to an enclosure on its own, from which combinations are screened.

The model is nearly linear in the sources: films grow and radiation grows with temperature, so a rise goes with a power
of the watts a little below one. That power is read off the model.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from mitten.core.catalogue import load_catalogue
from mitten.core.catalogue.fit import faults_of_heaters
from mitten.core.design import BadDesignError, Design, Heater, Light, UvbLamp
from mitten.core.judge import read_condition, solve_condition
from mitten.core.physics.climate import Climate
from mitten.core.physics.geometry import Array
from mitten.core.physics.readings import surface_at
from mitten.core.plan.search.layouts import Layout
from mitten.core.plan.search.probing import beside_the_basking_place, day_lights

COARSE = 0.5
FIGURES = ("surface", "operative", "basking_air", "warm_air", "cool_air", "probe", "uvi")
SURFACE, OPERATIVE, BASKING_AIR, WARM_AIR, COOL_AIR, PROBE, UVI = range(len(FIGURES))
RISING = slice(0, UVI)
"""Figures that are the room's temperature and a rise."""

HALF = 0.5
LEAST_RISE_K = 0.05
USUAL_POWER = 0.9
POWERS = (0.6, 1.1)


@dataclass(frozen=True, eq=False)
class Response:
    """Rises (figures,) over the room that a layout makes at ``watts`` each, and its UV index."""

    layout: Layout
    watts: float
    rises: Array


class Enclosed:
    """One furnished enclosure, and the responses of layouts in it."""

    def __init__(self, design: Design) -> None:
        self.design = design
        rooms = design.room.winter.day_c, design.room.summer.day_c
        self.room_c = round(sum(rooms) / 2, 1)
        self._last: Climate | None = None
        self.powers = np.full(UVI, USUAL_POWER)
        self._lit = False
        """Whether a plain light is on too: with sources that give none, by its few watts."""

    def respond(self, layout: Layout) -> Response:
        """What a layout does at a middling power.

        Raises:
            BadDesignError: it does not fit the enclosure.
        """
        watts = layout.watts_sold[len(layout.watts_sold) // 2]
        self._lit = not load_catalogue().sources[layout.kind].light
        rises = self._rises(with_watts(layout, watts))
        if self._last is not None and np.all(self.powers == USUAL_POWER):
            self._learn_powers(layout, watts, rises)
        return Response(layout, watts, rises)

    def of_parts(self, heaters: Sequence[dict[str, Any]] = (), uvb: Sequence[dict[str, Any]] = ()) -> Array:
        """Rises (figures,) of any parts together."""
        return self._rises(heaters, uvb)

    def _rises(self, heaters: Sequence[dict[str, Any]], uvb: Sequence[dict[str, Any]] = ()) -> Array:
        parts = {
            "heaters": tuple(Heater(**{**heater, "name": f"h{i}", "on": "day"}) for i, heater in enumerate(heaters)),
            "uvb": tuple(UvbLamp(**{**lamp, "name": f"u{i}"}) for i, lamp in enumerate(uvb)),
        }
        lights = tuple(Light(**one) for one in (day_lights(self.design) if self._lit and heaters else ()))
        design = self.design.model_copy(update={**parts, "lights": lights})
        faults = list(faults_of_heaters(design, load_catalogue().sources))
        if faults:
            raise BadDesignError(faults)
        climate = solve_condition(design, read_condition(design, f"room={self.room_c:g},day"), self._last, COARSE)
        self._last = climate
        found = figures_of(climate)
        found[RISING] -= self.room_c
        return found

    def _learn_powers(self, layout: Layout, watts: float, rises: Array) -> None:
        half = self._rises(with_watts(layout, watts * HALF))
        clear = (rises[RISING] > LEAST_RISE_K) & (half[RISING] > LEAST_RISE_K)
        ratio = np.divide(rises[RISING], half[RISING], out=np.ones(UVI), where=clear)
        self.powers = np.where(clear, np.clip(np.log2(np.maximum(ratio, 1e-6)), *POWERS), USUAL_POWER)


def figures_of(climate: Climate) -> Array:
    """The screened figures (figures,) of a climate, as they are."""
    at, air, place = climate.basking, climate.air, beside_the_basking_place(climate.design)
    probe_c = surface_at(climate.design, climate.state, place["x_m"], place["y_m"], place["z_m"])
    return np.array([at.surface_c, at.operative_c, at.air_c, air.warm_c, air.cool_c, probe_c, at.uvi])


def with_watts(layout: Layout, watts: float) -> list[dict[str, Any]]:
    """A layout's heaters at so many watts each."""
    return [{**heater, "watts": watts} for heater in layout.heaters]


def at_power(response: Response, factor: Array, powers: Array) -> Array:
    """Rises (..., figures) at other powers, as factors (...) of that of the response."""
    scaled = np.asarray(factor)[..., None]
    rising = response.rises[RISING] * scaled**powers
    return np.concatenate([rising, response.rises[UVI:] * scaled], axis=-1)
