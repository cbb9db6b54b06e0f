"""What the model makes of single parts before anything is solved, and of heaters and thermostats afterwards, held."""

from collections.abc import Callable, Iterator
from typing import Any

import numpy as np

from mitten.core.design import Design
from mitten.core.judge import assess
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.bare import Bare
from mitten.core.physics.balance.contact import contact_load
from mitten.core.physics.balance.optics import optics_of
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.preparing import prepare
from mitten.core.physics.radiation.lamps import unit_deposit
from mitten.core.physics.radiation.sources import sources_of
from mitten.core.physics.situation import Situation, running_sources
from mitten.core.physics.transient.channels import channels_of
from mitten.core.physics.tweaks import NOMINAL, Tweaks
from mitten.core.plan.fixes import wrong_in
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE
from tests.core.held_figures import COARSE, climates_of, designs
from tests.designs import Data, ledge_data, mat_data, read

DARK = Tweaks(absorptance=1.25)
DAY = Situation(22.0, True)


def _ledge(**heater: Any) -> Data:
    return {**ledge_data(), "heaters": [{"name": "H", "x_m": 0.94, "y_m": 0.3, "site": "Ledge", **heater}]}


def _bedded() -> Data:
    """A slab that lies in the ground over a mat."""
    data = mat_data(depth_mm=60.0)
    slab = {
        "name": "Slab",
        "role": "basking",
        "material": "slate",
        "length_m": 0.2,
        "depth_m": 0.2,
        "thickness_mm": 30.0,
    }
    mat = data["heaters"][0]
    return {**data, "sites": [{**slab, "x_m": mat["x_m"], "y_m": mat["y_m"], "z_m": 0.04}]}


SCENES = (
    mat_data(), mat_data(place="on-floor", cover_mm=5.0), mat_data(place="wall", x_m=0.6, z_m=0.2, length_m=0.2, depth_m=0.2),
    mat_data(kind="heat-tape", length_m=0.5, depth_m=0.1, x_m=0.3), mat_data(kind="heat-cable", place="on-floor"),
    _ledge(kind="heat-mat", watts=7.0, length_m=0.2, depth_m=0.2, place="hide-roof"), _ledge(kind="hot-rock", watts=10.0),
    ledge_data(kind="ceramic-emitter", watts=100.0, fixture={"kind": "dome", "max_watts": 150.0}), _bedded(),
)  # fmt: skip
"""Every way of heating by touch, a dome, and a slab in the ground."""


def _all() -> Iterator[Design]:
    yield from designs()
    yield from map(read, SCENES)


def _by_surface(prepared: Prepared, values: Array) -> dict[str, Any]:
    """Sum and most over the patches of each surface that has any."""
    found = {}
    for number, surface in enumerate(prepared.interior.surfaces):
        own = values[prepared.interior.span(number)]
        if own.any():
            found[surface.name] = [float(own.sum()), float(own.max())]
    return found


def channels() -> Iterator[Any]:
    """How each source follows what it is fed."""
    for design in _all():
        yield [
            [one.name, one.full_w, one.lag_s, one.restrike_s, one.control, one.on, one.ramps, one.through_shell,
             one.shell_lag_s if one.through_shell else 0.0]
            for one in channels_of(design, CATALOGUE)
        ]  # fmt: skip


def heated() -> Iterator[Any]:
    """Where the watts of each source go: through what it touches, and by its beam."""
    for design in _all():
        prepared = prepare(design, CATALOGUE, COARSE)
        sources = sources_of(design, running_sources(design, DAY, {}), True, CATALOGUE)
        touching = [(one.name, contact_load(one, prepared)) for one in sources.contacts]
        yield [
            *([name, _by_surface(prepared, load.patch_w), load.lost_w, load.face] for name, load in touching),
            *(_landed(prepared, lamp.beam) for lamp in sources.lamps),
        ]


def _landed(prepared: Prepared, beam: Any) -> list[Any]:
    one = unit_deposit(beam, prepared.interior, prepared.window)
    return [one.entering_w, one.missed_w, float(one.mesh_w.sum()), float(one.irradiance_w_m2.max()), one.remainder]


def optics() -> Iterator[Any]:
    """What surfaces do with radiation, as they are and darker."""
    for design in _all():
        prepared, bare = prepare(design, CATALOGUE, COARSE), Bare.of(design, CATALOGUE, {})
        firsts = list(prepared.interior.starts[:-1])
        for tweaks in (NOMINAL, DARK):
            shares = optics_of(bare, prepared.interior, prepared.mesh_share, tweaks)
            yield [
                np.asarray(share)[firsts].tolist()
                for share in (shares.short_absorbed, shares.long_own, shares.long_open)
            ]


def hottest() -> Iterator[Any]:
    """What is hot to the touch, and what thermostats do about it."""
    for design in _all():
        for condition, climate in climates_of(design).items():
            yield [
                condition.name,
                [[name, one.duty, one.hottest] for name, one in climate.heaters.items()],
                [[name, one.duty, one.status] for name, one in climate.controls.items()],
            ]


def where_wrong() -> Iterator[Any]:
    """In which condition each target that is off is mended."""
    for design in demo_designs():
        assessment = assess(design, CATALOGUE)
        yield {one.key: wrong_in(assessment, one).name for one in (*assessment.missed, *assessment.usually_off)}


HELD_PARTS: dict[str, Callable[[], Iterator[Any]]] = {
    one.__name__: one for one in (channels, heated, optics, hottest, where_wrong)
}
