"""What each layout does to an enclosure on its own, from which combinations are screened.

The model is nearly linear in the sources: films grow and radiation grows with temperature, so a rise goes with a power
of the watts a little below one. That power is read off the model.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.catalogue.fit import faults_of_heaters
from mitten.core.design import BadDesignError, Design, Heater, Light, UvbLamp
from mitten.core.judge import read_condition, solve_condition
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.balance.steady import UnsolvedError
from mitten.core.physics.radiation.sources import sources_of
from mitten.core.physics.radiation.ultraviolet import uv_sources
from mitten.core.physics.reading.body import body_of
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.lying import Lying
from mitten.core.plan.search.crew import Crew
from mitten.core.plan.search.screening.heated import Heated, heated_in
from mitten.core.plan.search.screening.layouts import Layout
from mitten.core.plan.search.screening.probing import day_lights
from mitten.core.plan.search.wants.figures import LEAST_RISE_K, RISING, UVI
from mitten.core.plan.usual import lies_at_m, warm_x_m

COARSE = 0.5

NEARLY_K = 0.1
"""What a source does is known well enough when nothing moves by more in a round."""

HALF = 0.5
KEPT_BEGINNINGS = 4
USUAL_POWER = 0.9
POWERS = (0.6, 1.1)


@dataclass(frozen=True, eq=False)
class Response:
    """Rises (figures,) over the room that a layout makes at ``watts`` each, and its UV index; ``powers`` (figures but
    the index,) say how rises grow with watts.
    """

    layout: Layout
    watts: float
    rises: Array
    powers: Array
    heated: Heated | None = None
    """What it brings near its limit at ``watts``, where that was looked at."""


class Enclosed:
    """One furnished enclosure, and the responses of layouts in it."""

    def __init__(self, design: Design, catalogue: Catalogue) -> None:
        self.design, self.catalogue = design, catalogue
        rooms = design.room.winter.day_c, design.room.summer.day_c
        self.room_c = round(sum(rooms) / 2, 1)
        self._condition = read_condition(design, f"room={self.room_c:g},day")
        self._last = _climate_unheated(design, catalogue, self.room_c)
        self.powers = np.full(UVI, USUAL_POWER)
        self._learned = False
        self._lit = False
        """Whether a plain light is on too: with sources that give none, by its few watts."""

    def respond(self, layout: Layout, closely: bool = False) -> Response:
        """What a layout does at a middling power; ``closely``, with what it brings near its limit.

        Raises:
            BadDesignError: it does not fit the enclosure.
        """
        watts = layout.watts_sold[len(layout.watts_sold) // 2]
        self._lit = not layout.source.light
        rises = self._rises(with_watts(layout, watts))
        heated = heated_in(self._last, self._condition) if closely and self._last is not None else None
        if not self._learned:
            self._learn_powers(layout, watts, rises)
        return Response(layout, watts, rises, self.powers, heated)

    def rises_of_lamp(self, lamp: dict[str, Any]) -> Array:
        """Rises (figures,) that a UV lamp makes by its heat, and its index."""
        self._lit = False
        return self._rises((), (UvbLamp(**{**lamp, "name": "UV lamp"}),))

    def _rises(self, heaters: Sequence[dict[str, Any]], uvb: tuple[UvbLamp, ...] = ()) -> Array:
        parts = tuple(Heater(**{**heater, "name": f"h{i}", "on": "day"}) for i, heater in enumerate(heaters))
        lights = tuple(Light(**one) for one in (day_lights(self.design) if self._lit else ()))
        bare = raise_box(self.design) if any(part.place == "under-floor" for part in parts) else self.design
        design = bare.model_copy(update={"heaters": parts, "lights": lights, "uvb": uvb})
        faults = list(faults_of_heaters(design, self.catalogue.sources))
        if faults:
            raise BadDesignError(faults)
        climate = solve_condition(design, self.catalogue, self._condition, self._last, COARSE, NEARLY_K)
        self._last = climate
        found = figures_of(climate)
        found[RISING] -= self.room_c
        return found

    def _learn_powers(self, layout: Layout, watts: float, rises: Array) -> None:
        self._learned = True
        half = self._rises(with_watts(layout, watts * HALF))
        clear = (rises[RISING] > LEAST_RISE_K) & (half[RISING] > LEAST_RISE_K)
        ratio = np.divide(rises[RISING], half[RISING], out=np.ones(UVI), where=clear)
        self.powers = np.where(clear, np.clip(np.log2(np.maximum(ratio, 1e-6)), *POWERS), USUAL_POWER)


def raise_box(design: Design) -> Design:
    """The box on feet: under one that stands flat a mat's heat is trapped and its lead crushed."""
    underside = design.enclosure.underside.model_copy(update={"raised": True})
    return design.model_copy(update={"enclosure": design.enclosure.model_copy(update={"underside": underside})})


@lru_cache(maxsize=KEPT_BEGINNINGS)
def _climate_unheated(design: Design, catalogue: Catalogue, room_c: float) -> Climate | None:
    """The enclosure with nothing that heats: what every kind of source is begun from; None where it has no rest."""
    try:
        return solve_condition(design, catalogue, read_condition(design, f"room={room_c:g},day"), None, COARSE)
    except UnsolvedError:
        return None


def respond_to(
    design: Design, catalogue: Catalogue, layouts: Sequence[Layout], closely: bool = False
) -> list[Response | None]:
    """What layouts of one kind do in a furnished enclosure, ``closely`` with what they bring near its limit; None for
    each that does not fit after all, or has no rest.
    """
    enclosed = Enclosed(design, catalogue)
    found: list[Response | None] = []
    for layout in layouts:
        try:
            found.append(enclosed.respond(layout, closely))
        except (BadDesignError, UnsolvedError):
            found.append(None)
    return found


def responses_of(
    design: Design, catalogue: Catalogue, layouts: Sequence[Layout], crew: Crew, closely: bool = False
) -> list[Response]:
    """The same of layouts of any kinds, worked out by a crew; without those that do not fit.

    Kind by kind, so that what one does never depends on which others are tried.
    """
    by_kind: dict[str, list[Layout]] = {}
    for layout in layouts:
        by_kind.setdefault(layout.kind, []).append(layout)
    futures = [crew.executor.submit(respond_to, design, catalogue, of_kind, closely) for of_kind in by_kind.values()]
    # Those of another process come with copies of their layouts.
    return [
        replace(response, layout=layout)
        for of_kind, future in zip(by_kind.values(), futures, strict=True)
        for layout, response in zip(of_kind, future.result(), strict=True)
        if response is not None
    ]


@dataclass(frozen=True)
class UvIndex:
    """UV index of a lamp: over the animal on the basking place, and on one right under the lamp on the ground."""

    basking: float
    under: float


def uvi_of(design: Design, catalogue: Catalogue, lamp: dict[str, Any]) -> UvIndex:
    """UV index that a UV lamp makes over an animal's outline in the middle of the basking place, and under itself."""
    design = design.model_copy(update={"uvb": (UvbLamp(**{**lamp, "name": "UV lamp"}),)})
    site, ground_m = design.basking_site, design.substrate.depth_m
    x_m, y_m = (warm_x_m(design), design.enclosure.depth_m / 2) if site is None else (site.x_m, site.y_m)
    return UvIndex(
        _uvi_at(design, catalogue, x_m, y_m, lies_at_m(design)),
        _uvi_at(design, catalogue, lamp["x_m"], lamp["y_m"], ground_m),
    )


def _uvi_at(design: Design, catalogue: Catalogue, x_m: float, y_m: float, height_m: float) -> float:
    """Mean over an animal's outline that lies at a height."""
    prepared = prepare(design, catalogue, COARSE)
    body = body_of(catalogue.species[design.animal.species], design.animal.stage)
    points = Lying(x_m, y_m, *body.half_axes_m).points()
    backs = np.column_stack([points, np.full(len(points), height_m + body.back_m)])
    running = sources_of(design, {}, True, catalogue)
    sources = uv_sources(design, running, catalogue)
    return float(sum(source.uvi(prepared.interior, prepared.window, backs).mean() for source in sources))


def figures_of(climate: Climate) -> Array:
    """The screened figures (figures,) of a climate, as they are."""
    at, air = climate.basking, climate.air
    # What is under the ground is worked out only where something heats it.
    base_c = climate.base_c if climate.state.contacts else climate.room_c
    return np.array([at.surface_c, at.operative_c, at.air_c, air.warm_c, air.cool_c, base_c, at.uvi])


def with_watts(layout: Layout, watts: float) -> list[dict[str, Any]]:
    """A layout's heaters at so many watts each."""
    return [{**heater, "watts": watts} for heater in layout.heaters]


def at_power(response: Response, factor: Array) -> Array:
    """Rises (..., figures) at other powers, as factors (...) of that of the response."""
    scaled = np.asarray(factor)[..., None]
    rising = response.rises[RISING] * scaled**response.powers
    return np.concatenate([rising, response.rises[UVI:] * scaled], axis=-1)
